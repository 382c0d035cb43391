"""What a reading means under a scheme: the level, how sure that is, what to do, and what the other schemes say."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import SCHEMES, Levels, SchemeId
from redframe.core.sampling.method import TreatmentSpan, Use
from redframe.core.sampling.reading import AnyReading, CellReading
from redframe.core.sampling.sequential import chance_of_flip
from redframe.core.season.calendar import Phase
from redframe.core.status.samples import Counted, judged_samples, use_of
from redframe.core.status.status import Level, Sample, judge, recount_on

Advice = Literal["treat", "second_sample", "come_back", "notify", "flag_lead", "endangers_neighbours"]
SURE, UNSURE = 0.8, 0.2
SECOND_SAMPLE_WITHIN_DAYS = 3
LATEST_START_NEAR_DAYS = 7


@dataclass(frozen=True, slots=True)
class SchemeView:
    """How one scheme sees the colony; `act_at` in the scheme's own unit, `on` the day of the count that it judges."""

    scheme: SchemeId
    name: str
    unit: str
    level: Level
    act_at: float
    on: date


@dataclass(frozen=True, slots=True)
class Judgement:
    """A reading judged on its day, in the unit of the scheme. Chances are P(true value >= level); one that is to be
    answered has no `come_back_on`. `flips`: the chance that a second sample of the same size would turn the verdict."""

    level: Level
    phase: Phase
    scheme: SchemeId
    watch: float
    act: float
    urgent: float
    p_watch: float
    p_act: float
    p_urgent: float
    advice: Advice
    come_back_on: date | None
    flips: float | None


def judge_reading(
    reading: AnyReading,
    taken_on: date,
    policy: Policy,
    *,
    use: Use,
    second: bool = False,
    latest_start: date | None = None,
) -> Judgement | None:
    """Judge a reading under the scheme in force; None where the scheme does not judge counts of this kind.

    Act now when at or over with 80 %, when it is a `second` sample, or when the latest sensible start of a treatment
    (`latest_start`) is less than a week away; a second sample between 20 and 80 %; otherwise come back on the day that
    growth allows. A programme that observes never hears "treat"; where one mite is too many, one mite is reported.
    """
    phase = policy.calendar.phase(taken_on)
    levels = policy.levels[phase]
    if policy.scheme == "any_mite":
        return _any_mite(reading, taken_on, policy, phase)
    if reading.scale != policy.scale or isinstance(reading, CellReading) or not use.enters:
        return None
    sample = _sample(reading, taken_on, use)
    level = judge(sample, levels)
    p_act = reading.p_over(levels.act)
    pressing = latest_start is not None and (latest_start - taken_on).days < LATEST_START_NEAR_DAYS
    over = level == "urgent" or (level == "act" and (p_act >= SURE or second or pressing))
    if over:
        advice: Advice = "treat"
    elif p_act >= UNSURE and not second:
        advice = "second_sample"
    else:
        advice = "come_back"
    if not SCHEMES[policy.scheme].treats:
        advice = _observed(level, advice)
    unsettled = UNSURE <= p_act < SURE and not second
    return Judgement(
        level=level,
        phase=phase,
        scheme=policy.scheme,
        watch=levels.watch,
        act=levels.act,
        urgent=levels.urgent,
        p_watch=reading.p_over(levels.watch),
        p_act=p_act,
        p_urgent=reading.p_over(levels.urgent),
        advice=advice,
        come_back_on=recount_on(sample, policy) if advice in ("come_back", "flag_lead") else None,
        flips=chance_of_flip(reading, levels.act) if unsettled else None,
    )


def _observed(level: Level, advice: Advice) -> Advice:
    if level == "urgent":
        return "endangers_neighbours"
    if level == "act":
        return "flag_lead"
    return "come_back" if advice == "treat" else advice


def _any_mite(reading: AnyReading, taken_on: date, policy: Policy, phase: Phase) -> Judgement:
    found = reading.mites > 0
    sample = Sample(taken_on, reading.median, reading.upper80, can_clear=False, found_mites=found)
    sure = 1.0 if found else 0.0
    return Judgement(
        level=judge(sample, policy.levels[phase], "any_mite"), phase=phase, scheme="any_mite", watch=0, act=0, urgent=0,
        p_watch=sure, p_act=sure, p_urgent=sure, advice="notify" if found else "come_back",
        come_back_on=None if found else recount_on(sample, policy), flips=None,
    )  # fmt: skip


def _sample(reading: AnyReading, taken_on: date, use: Use) -> Sample:
    return Sample(taken_on, reading.median, reading.upper80, can_clear=use.can_clear, can_lower=use.can_lower,
                  found_mites=reading.mites > 0)  # fmt: skip


def scheme_views(
    reading: AnyReading, taken_on: date, policy: Policy, use: Use, own: Mapping[SchemeId, Mapping[Phase, Levels]]
) -> Sequence[SchemeView]:
    """How every scheme but the one in force sees the same count; those that judge another scale are left out. `own` are
    levels that the association has set for a scheme, in place of its defaults."""
    phase = policy.calendar.phase(taken_on)
    views = []
    for scheme in SCHEMES.values():
        if scheme.id == policy.scheme:
            continue
        levels = own.get(scheme.id, scheme.levels)[phase]
        if scheme.scale is None or (scheme.scale == reading.scale and use.enters):
            level = judge(_sample(reading, taken_on, use), levels, scheme.id)
            views.append(SchemeView(scheme.id, scheme.name, scheme.unit, level, levels.act, taken_on))
    return views


def views_of_other_scale(
    counts: Sequence[Counted], on: date, policy: Policy, policy_for_scale: Policy, spans: Sequence[TreatmentSpan],
    own: Mapping[SchemeId, Mapping[Phase, Levels]],
) -> Sequence[SchemeView]:  # fmt: skip
    """How the schemes of another scale see the colony on a day: by its latest count of that scale, as long as `policy`
    holds a count for knowledge. `policy_for_scale` has a scheme of that scale; `counts` as they were taken."""
    judged = judged_samples([one for one in counts if one.taken_on <= on], policy_for_scale, spans)
    if not judged or (on - judged[-1].counted.taken_on).days > policy.stale_after(policy.calendar.phase(on)):
        return []
    latest = judged[-1].counted
    views = scheme_views(judged[-1].reading, latest.taken_on, policy, use_of(latest, policy_for_scale, spans), own)
    return [one for one in views if SCHEMES[one.scheme].scale == policy_for_scale.scale]
