"""What a reading means under a school: the level, how sure that is, what to do, and what the other schools say."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.sampling.reading import Reading
from redframe.core.thresholds.calendar import Calendar, Phase
from redframe.core.thresholds.schools import SCHOOLS, WASH_SCHOOLS, SchoolId
from redframe.core.thresholds.standing import Level, Policy, Sample, judge, recount_on

Advice = Literal["treat", "second_sample", "come_back"]
SURE, UNSURE = 0.8, 0.2


@dataclass(frozen=True, slots=True)
class SchoolView:
    """How one school sees the same count."""

    school: SchoolId
    name: str
    level: Level
    act_per_100: float


@dataclass(frozen=True, slots=True)
class Judgement:
    """A reading judged on its day. Chances are P(true rate >= level); an urgent one has no `come_back_on`."""

    level: Level
    phase: Phase
    school: SchoolId
    watch: float
    act: float
    urgent: float
    p_watch: float
    p_act: float
    p_urgent: float
    advice: Advice
    come_back_on: date | None
    others: Sequence[SchoolView]


def judge_reading(
    reading: Reading, taken_on: date, policy: Policy, school: SchoolId, *, can_clear: bool = True
) -> Judgement:
    """Judge a reading under the school in force: act now when at or over with 80 %, a second sample between 20 and
    80 %, otherwise come back on the day that growth allows."""
    sample = Sample(taken_on, reading.median, reading.upper80, can_clear=can_clear)
    phase = policy.calendar.phase(taken_on)
    levels = policy.levels[phase]
    level = judge(sample, levels)
    p_act = reading.p_over(levels.act)
    if level == "urgent" or (level == "act" and p_act >= SURE):
        advice: Advice = "treat"
    elif p_act >= UNSURE:
        advice = "second_sample"
    else:
        advice = "come_back"
    return Judgement(
        level=level,
        phase=phase,
        school=school,
        watch=levels.watch,
        act=levels.act,
        urgent=levels.urgent,
        p_watch=reading.p_over(levels.watch),
        p_act=p_act,
        p_urgent=reading.p_over(levels.urgent),
        advice=advice,
        come_back_on=recount_on(sample, policy) if advice == "come_back" else None,
        others=[_view(other, sample, policy.calendar) for other in WASH_SCHOOLS if other != school],
    )


def _view(school: SchoolId, sample: Sample, calendar: Calendar) -> SchoolView:
    found = SCHOOLS[school]
    levels = found.levels[calendar.phase(sample.taken_on)]
    return SchoolView(school, found.name, judge(sample, levels), levels.act)
