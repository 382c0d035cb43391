"""The states of a course with their properties, once: rules ask for a property, never for a list of states.

The lookup table `course_state` of the database holds which are open; a test holds the two together.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

CourseState = Literal[
    "planned", "under_way", "awaiting_verification", "awaiting_outcome", "verified_worked", "verified_partly",
    "verified_failed", "verified_cannot_tell", "abandoned", "given_earlier", "withdrawn",
]  # fmt: skip
CourseOutcome = Literal["worked", "partly", "failed"]
VerdictWord = Literal["worked", "partly", "failed", "cannot_tell_yet"]


@dataclass(frozen=True, slots=True)
class CourseStateProperties:
    """`is_open`: steps can be recorded, and the colony is answered for. `places_wait`: a dose may still be placed, so
    that the weather bears on it. `is_abandoned`: it was broken off. `has_steps`: it was carried out here. `outcome`:
    what its check count said of it."""

    is_open: bool
    places_wait: bool = False
    is_abandoned: bool = False
    has_steps: bool = True
    outcome: CourseOutcome | None = None


COURSE_STATES: Mapping[CourseState, CourseStateProperties] = {
    "planned": CourseStateProperties(is_open=True, places_wait=True),
    "under_way": CourseStateProperties(is_open=True, places_wait=True),
    "awaiting_verification": CourseStateProperties(is_open=True),
    "awaiting_outcome": CourseStateProperties(is_open=True),
    "verified_worked": CourseStateProperties(is_open=False, outcome="worked"),
    "verified_partly": CourseStateProperties(is_open=False, outcome="partly"),
    "verified_failed": CourseStateProperties(is_open=False, outcome="failed"),
    "verified_cannot_tell": CourseStateProperties(is_open=False),
    "abandoned": CourseStateProperties(is_open=False, is_abandoned=True),
    # It was given before anybody planned it here, and is out of the hive.
    "given_earlier": CourseStateProperties(is_open=False, has_steps=False),
    # Somebody had said so, and was wrong: nothing was given.
    "withdrawn": CourseStateProperties(is_open=False, is_abandoned=True, has_steps=False),
}
CLOSED_BY_VERDICT: Mapping[VerdictWord, CourseState] = {
    "worked": "verified_worked",
    "partly": "verified_partly",
    "failed": "verified_failed",
    "cannot_tell_yet": "verified_cannot_tell",
}
"""The state in which a verdict closes a course."""


def is_open(state: CourseState) -> bool:
    """Whether steps of a course in this state can still be recorded."""
    return COURSE_STATES[state].is_open


def is_abandoned(state: CourseState) -> bool:
    """Whether a course in this state was broken off."""
    return COURSE_STATES[state].is_abandoned


def outcome_of(state: CourseState) -> CourseOutcome | None:
    """What the check count of a course in this state said, None where it said nothing or is still to come."""
    return COURSE_STATES[state].outcome
