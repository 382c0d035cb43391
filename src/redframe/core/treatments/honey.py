"""Whether honey supers may go on a hive, and honey be taken for people: not while a treatment bars it, nor before its
withdrawal is over (C04). See docs/methods/courses.md."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.treatments.catalogue import Option

HoneyFor = Literal["people", "bees"]
MOST_KG = 200.0
"""More than any colony gives at one harvest."""


@dataclass(frozen=True, slots=True)
class InHive:
    """A treatment of a colony: in the hive from a day on, out of it on another (None: it is in still), with the day
    from which its honey is clear."""

    option: Option
    placed_on: date
    ended_on: date | None
    honey_clear_on: date | None


@dataclass(frozen=True, slots=True)
class HoneyBarred:
    """What bars honey, and the day from which it no longer does; None: not known before it is out."""

    option: Option
    until: date | None


def honey_barred(treatments: Sequence[InHive], on: date) -> HoneyBarred | None:
    """What bars honey supers on a day, the one that lasts longest; None where nothing does.

    An option that bears supers bars none; where the label decides they may stay during the course, and its withdrawal
    counts afterwards.
    """
    in_hive = (one for one in _inside(treatments, on) if one.option.supers == "no")
    return _longest([*(HoneyBarred(one.option, None) for one in in_hive), *_not_clear(treatments, on)])


def harvest_barred(treatments: Sequence[InHive], on: date) -> HoneyBarred | None:
    """What bars taking honey for people on a day, the one that lasts longest; None where nothing does.

    Nothing is taken while a treatment is in the hive, also where its label lets the supers stay on.
    """
    return _longest([*(HoneyBarred(one.option, None) for one in _inside(treatments, on)), *_not_clear(treatments, on)])


def check_harvest(honey_kg: float | None, harvested_on: date, *, today: date) -> None:
    """Raise InvalidInput naming `honey_kg` or `harvested_on` for what cannot be."""
    if honey_kg is not None and not 0 < honey_kg <= MOST_KG:
        raise InvalidInput("honey_kg", f"must be more than 0 and at most {MOST_KG:g} kg", code="out_of_range")
    if harvested_on > today:
        raise InvalidInput("harvested_on", "lies in the future", code="out_of_range")


def _inside(treatments: Sequence[InHive], on: date) -> list[InHive]:
    chemical = (one for one in treatments if one.option.chemical and one.placed_on <= on)
    return [one for one in chemical if one.ended_on is None or one.ended_on > on]


def _not_clear(treatments: Sequence[InHive], on: date) -> list[HoneyBarred]:
    inside = _inside(treatments, on)
    return [
        HoneyBarred(one.option, one.honey_clear_on)
        for one in treatments
        if one.option.chemical and one.placed_on <= on and one not in inside
        and one.honey_clear_on is not None and one.honey_clear_on > on
    ]  # fmt: skip


def _longest(barred: Sequence[HoneyBarred]) -> HoneyBarred | None:
    return max(barred, key=lambda one: one.until or date.max, default=None)
