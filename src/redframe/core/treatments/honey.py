"""Whether honey supers may go on a hive: not while what bars them is in it, nor before its withdrawal is over (C04)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.treatments.catalogue import Option


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
    """What keeps supers off, and the day from which they may go on; None: not known before it is out."""

    option: Option
    until: date | None


def honey_barred(treatments: Sequence[InHive], on: date) -> HoneyBarred | None:
    """What bars honey supers on a day, the one that lasts longest; None where nothing does.

    An option that bears supers bars none; where the label decides they may stay during the course, and its withdrawal
    counts afterwards.
    """
    barred: list[HoneyBarred] = []
    for one in treatments:
        if not one.option.chemical or one.placed_on > on:
            continue
        if one.ended_on is None or one.ended_on > on:
            if one.option.supers == "no":
                barred.append(HoneyBarred(one.option, None))
        elif one.honey_clear_on is not None and one.honey_clear_on > on:
            barred.append(HoneyBarred(one.option, one.honey_clear_on))
    return max(barred, key=lambda one: one.until or date.max, default=None)
