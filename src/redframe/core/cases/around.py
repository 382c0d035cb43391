"""The inspection of the apiaries around a confirmed case: how each ends, and how far it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.errors import InvalidInput

AroundOutcome = Literal["clear", "suspect", "refused", "no_colonies", "not_found"]
AroundState = Literal["clear", "suspect", "refused", "no_colonies", "not_found", "to_see"]
TRIES = 2
"""So many visits and a letter before an apiary counts as not found."""


@dataclass(frozen=True, slots=True)
class AroundLook:
    """A visit to an apiary around: when, what came of it, whether a letter was left or sent."""

    visited_on: date
    outcome: AroundOutcome
    letter_sent: bool


def state_of(looks: Sequence[AroundLook]) -> AroundState:
    """How an apiary around stands by its visits, oldest first. The last that met somebody or colonies counts; one that
    was not found is to be seen again until two visits and a letter are on record."""
    met = [one for one in looks if one.outcome != "not_found"]
    if met and met[-1] is looks[-1]:
        return met[-1].outcome
    tries = sum(one.outcome == "not_found" for one in looks)
    if tries >= TRIES and any(one.letter_sent for one in looks):
        return "not_found"
    return met[-1].outcome if met else "to_see"


def check_look(look: AroundLook, confirmed_on: date, today: date) -> None:
    """Raise InvalidInput naming the field: no visit before the case was confirmed, none in the future."""
    if look.visited_on > today:
        raise InvalidInput("visited_on", "lies in the future", code="out_of_range")
    if look.visited_on < confirmed_on:
        raise InvalidInput("visited_on", "lies before the case was confirmed", code="out_of_range")
