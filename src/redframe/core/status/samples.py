"""Which of a colony's counts a level is judged by, in what form, under the scheme in force.

A scheme judges counts of its own scale; two jars of one colony within three days are one sample; where one mite is too
many, every count speaks. A natural fall never judges a scheme of rates, but may ask for a jar.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import NamedTuple
from uuid import UUID

from redframe.core.policy.policy import Policy
from redframe.core.sampling.board import BoardSample, after_treatment, board_use
from redframe.core.sampling.conversion import chance_over
from redframe.core.sampling.count import NO_USE, AnySample
from redframe.core.sampling.jar import POOR_PLACES, JarSample, jar_use
from redframe.core.sampling.method import TreatmentSpan, Use
from redframe.core.sampling.reading import AnyReading, FallReading, Reading
from redframe.core.sampling.sequential import TOGETHER_WITHIN_DAYS, together
from redframe.core.status.status import Sample

PROMPT_FROM = 0.5


@dataclass(frozen=True, slots=True)
class Counted:
    """A count of a colony on record: what was taken, what it says, and whether it verifies a completed treatment."""

    id: UUID
    taken_on: date
    sample: AnySample
    reading: AnyReading | None
    verifies: bool = False


@dataclass(frozen=True, slots=True)
class Judged:
    """A count as the level sees it. `reading` is that of both jars where it is the `second` of a pair."""

    counted: Counted
    sample: Sample
    reading: AnyReading
    second: bool = False


def use_of(counted: Counted, policy: Policy, spans: Sequence[TreatmentSpan]) -> Use:
    """What a count may do to a level, by its own faults."""
    sample, reading = counted.sample, counted.reading
    if isinstance(sample, JarSample) and isinstance(reading, Reading):
        return jar_use(reading.bees_mean, sample.place_of_bees, sample.method, sample.rested_s, sample.wet)
    if isinstance(sample, BoardSample):
        dormant = policy.calendar.phase(counted.taken_on) == "dormant"
        return board_use(sample, treated=after_treatment(sample, spans), dormant=dormant)
    return NO_USE


def judged_samples(counts: Sequence[Counted], policy: Policy, spans: Sequence[TreatmentSpan] = ()) -> list[Judged]:
    """The counts that judge a colony, in their order; `counts` in the order in which they were taken."""
    if policy.scheme == "any_mite":
        return [_any(one, one.reading) for one in counts if one.reading is not None]
    found: list[Judged] = []
    for one in counts:
        use = use_of(one, policy, spans)
        if one.reading is None or one.reading.scale != policy.scale or not use.enters:
            continue
        pair = _pair(found[-1] if found else None, one, spans)
        if pair is not None:
            found[-1] = pair
        else:
            found.append(Judged(one, _sample(one, one.reading, use), one.reading))
    return found


def _any(one: Counted, reading: AnyReading) -> Judged:
    found = reading.mites > 0
    return Judged(
        one, Sample(one.taken_on, reading.median, reading.upper80, can_clear=False, found_mites=found), reading
    )


def _sample(one: Counted, reading: AnyReading, use: Use) -> Sample:
    return Sample(
        one.taken_on, reading.median, reading.upper80, can_clear=use.can_clear, can_lower=use.can_lower,
        verifies=one.verifies, found_mites=reading.mites > 0,
    )  # fmt: skip


class JarTaken(NamedTuple):
    """What decides of a jar whether it and another are a pair, and what they may do to a level."""

    taken_on: date
    method: str
    place_of_bees: str
    rested_s: int | None
    wet: str
    verifies: bool


def is_pair(first: JarTaken, second: JarTaken, spans: Sequence[TreatmentSpan]) -> bool:
    """Whether two jars of a colony, one judged after the other, are one sample: one method, from where nurses are,
    within three days, nothing placed between them, and neither the check of a treatment alone."""
    return (
        (second.taken_on - first.taken_on).days <= TOGETHER_WITHIN_DAYS
        and first.method == second.method
        and first.place_of_bees == second.place_of_bees
        and second.place_of_bees not in POOR_PLACES
        and first.verifies == second.verifies
        and not any(first.taken_on <= span.start <= second.taken_on for span in spans)
    )


def use_of_jars(bees: float, jars: Sequence[JarTaken]) -> Use:
    """What jars taken together may do: the bees of all of them count."""
    uses = [jar_use(bees, jar.place_of_bees, jar.method, jar.rested_s, jar.wet) for jar in jars]
    return Use(True, all(use.can_lower for use in uses), all(use.can_clear for use in uses))


def _jar(one: Counted) -> JarTaken | None:
    jar = one.sample
    if not isinstance(jar, JarSample) or not isinstance(one.reading, Reading):
        return None
    return JarTaken(one.taken_on, jar.method, jar.place_of_bees, jar.rested_s, jar.wet, one.verifies)


def _pair(before: Judged | None, one: Counted, spans: Sequence[TreatmentSpan]) -> Judged | None:
    """Both jars as one, where they are a pair and the first is not already the second of another."""
    if before is None or before.second:
        return None
    first, second = _jar(before.counted), _jar(one)
    if first is None or second is None or not is_pair(first, second, spans):
        return None
    assert isinstance(before.reading, Reading) and isinstance(one.reading, Reading)
    both = together(before.reading, one.reading)
    return Judged(one, _sample(one, both, use_of_jars(both.bees_mean, (first, second))), both, second=True)


def prompt_of(reading: AnyReading | None, taken_on: date, policy: Policy) -> float | None:
    """Chance that the rate behind a natural fall is at or over the act level of a scheme of rates; None for any other
    count or scheme."""
    if policy.scale != "mites_per_100" or not isinstance(reading, FallReading):
        return None
    act = policy.levels[policy.calendar.phase(taken_on)].act
    return chance_over(reading.mites, reading.board_days, policy.calendar.base_phase(taken_on), act)


def prompted_on(counts: Sequence[Counted], policy: Policy, spans: Sequence[TreatmentSpan] = ()) -> date | None:
    """The day of a natural fall, newer than every jar, that makes a jar worth taking at once."""
    asked = None
    for one in counts:
        if isinstance(one.reading, Reading):
            asked = None
        chance = prompt_of(one.reading, one.taken_on, policy)
        if chance is not None and chance >= PROMPT_FROM and use_of(one, policy, spans).enters:
            asked = one.taken_on
    return asked
