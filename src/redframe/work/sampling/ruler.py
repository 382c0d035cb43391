"""What each number of mites would mean, before it is counted."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import cast
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import SchemeId
from redframe.core.sampling.bees import BeesKnownBy, bees_in_sample
from redframe.core.sampling.jar import FEWEST_BEES
from redframe.core.sampling.method import JarMethod, Method, Scale, Use
from redframe.core.sampling.reading import (
    INCOMPLETE_SHARE,
    FallReading,
    Reading,
    read_fall,
    read_jar,
    recovery_of,
)
from redframe.core.season.calendar import Phase
from redframe.core.status.judgement import Advice, judge_reading
from redframe.core.status.status import Level
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.unit_of_work import UnitOfWork

RULER_MOST_MITES = 60


@dataclass(frozen=True, slots=True)
class RulerMark:
    """What so many mites would mean: reading, level and chance of being at or over the act level."""

    mites: int
    median: float
    low: float
    high: float
    p_act: float
    level: Level
    advice: Advice


@dataclass(frozen=True, slots=True)
class Ruler:
    """The ruler of a jar or a board: what each number of mites would mean; of a wash after one shake, and after more.

    It is computed when the jar is set up, so that the figure moves with every tap without asking the server.
    `in_force`: the levels are those that judge here; else those of the scheme that stands policy this scale.
    """

    scale: Scale
    phase: Phase
    scheme: SchemeId
    in_force: bool
    watch: float
    act: float
    urgent: float
    exposure: float
    exposure_low: float
    exposure_high: float
    incomplete_share: float
    one_shake: list[RulerMark]
    more_shakes: list[RulerMark]


@dataclass(frozen=True, slots=True)
class Measure:
    """What a ruler is asked for: a jar by its bees, or a board by the days that it has lain times the share counted."""

    method: Method
    known_by: BeesKnownBy | None = None
    bees: int | None = None
    volume_ml: float | None = None
    mass_g: float | None = None
    place_of_bees: str = "brood_frame"
    board_days: float | None = None


async def ruler(unit: UnitOfWork, apiary_id: UUID, measure: Measure, mites_from: int, mites_to: int) -> Ruler | None:
    """The ruler for `mites_from` to `mites_to` mites; None where there is nothing to set them against."""
    if not 0 <= mites_from <= mites_to <= 30_000:
        raise InvalidInput("mites_to", "must not be less than mites_from", code="out_of_range")
    if mites_to - mites_from > RULER_MOST_MITES:
        raise InvalidInput("mites_to", f"at most {RULER_MOST_MITES} marks at a time", code="out_of_range")
    if measure.method in ("drone_brood", "look"):
        raise InvalidInput("method", "has no ruler", code="refused")
    in_force = await policy_in_force(unit, apiary_id)
    every = range(mites_from, mites_to + 1)
    if measure.method in ("board", "board_after_treatment"):
        if measure.board_days is None:
            raise InvalidInput("board_days", "say how long the board was in", code="missing")
        days = measure.board_days
        return _ruler(in_force, "mites_per_day", unit.today, (days, days, days), Use(),
                      [read_fall(mites, days) for mites in every], [])  # fmt: skip
    known_by = measure.known_by or "not_recorded"
    bees = bees_in_sample(
        known_by, bees=measure.bees, volume_ml=measure.volume_ml, mass_g=measure.mass_g, scoop=in_force.scoop
    )
    if bees is None:
        return None
    method = cast(JarMethod, measure.method)
    good = bees.mean >= FEWEST_BEES and measure.place_of_bees in ("brood_frame", "other_brood_box")

    def readings(shakes: int) -> list[Reading]:
        return [read_jar(mites, bees, recovery_of(method, shakes, None, in_force.basis)) for mites in every]

    more = readings(2) if method == "wash" else []
    exposure = (bees.mean, *bees.interval())
    return _ruler(in_force, "mites_per_100", unit.today, exposure, Use(can_clear=good), readings(1), more)


def _ruler(
    in_force: PolicyInForce, scale: Scale, today: date, exposure: tuple[float, float, float], use: Use,
    one: Sequence[Reading | FallReading], more: Sequence[Reading | FallReading],
) -> Ruler:  # fmt: skip
    policy = in_force.for_scale(scale)
    phase = policy.calendar.phase(today)
    levels = policy.levels[phase]
    return Ruler(
        scale=scale, phase=phase, scheme=policy.scheme, in_force=in_force.policy.scale in (scale, None),
        watch=levels.watch, act=levels.act, urgent=levels.urgent, exposure=exposure[0], exposure_low=exposure[1],
        exposure_high=exposure[2], incomplete_share=INCOMPLETE_SHARE,
        one_shake=[_mark(reading, in_force, policy, today, use) for reading in one],
        more_shakes=[_mark(reading, in_force, policy, today, use) for reading in more],
    )  # fmt: skip


def _mark(reading: Reading | FallReading, in_force: PolicyInForce, policy: Policy, today: date, use: Use) -> RulerMark:
    judging = in_force.policy if in_force.policy.scale is None else policy
    judged = judge_reading(reading, today, judging, use=use)
    assert judged is not None
    return RulerMark(
        reading.mites, reading.median, reading.low, reading.high, reading.p_over(policy.levels[judged.phase].act),
        judged.level, judged.advice,
    )  # fmt: skip
