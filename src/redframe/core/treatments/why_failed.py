"""Why a course did not do what it should: each cause with what speaks for it and against it, in the order in which they
are excluded, and the test that would tell.

Noise first, then what the record itself shows (dose, temperature, brood, window), then arrival of mites by its timing,
and resistance last of all: only where there was no early drop. Resistance is a suspicion, never a finding. See
docs/methods/verification.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

from redframe.core.said import Params, nothing
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.check_counts import CourseVerdict
from redframe.core.treatments.reasons import Reason

CauseCode = Literal[
    "noise", "under_dosing", "temperature", "brood_present", "window_missed", "reinvasion", "resistance"
]  # fmt: skip
Weight = Literal["likely", "possible", "unlikely", "not_known"]
"""How the evidence stands: more for than against, some of it, against; or the record says nothing of it."""
EvidenceCode = Literal[
    "interval_over_target", "few_mites_before", "many_mites_before",
    "dose_less", "dose_as_planned", "doses_missing_of", "gap_too_long", "out_before_time", "lot_out_of_date",
    "lost_wrong_rate", "fewer_came_out", "lot_not_known",
    "weather_outside", "weather_inside", "weather_not_known",
    "brood_seen_before", "reaches_cells", "no_brood_then", "brood_not_looked_at",
    "started_late", "started_in_time", "load_high",
    "urgent_near", "nobody_urgent_near", "counted_late", "low_between", "neighbours_rose",
    "early_drop", "no_early_drop", "same_group_before", "others_failed_alike", "others_worked", "other_group",
]  # fmt: skip
NextStep = Literal["count_again", "give_it_right", "another_group", "treat_and_guard"]

FEW_MITES = 9
"""Fewer before cannot show a kill of nine in ten, whatever is found afterwards (`verification.py`)."""
HIGH_TIMES = 2.0
"""A load of twice the act level is high."""
LATE_COUNT_DAYS = 14
"""A count so long after the end has had time for others' mites."""
EARLY_DROP_PCT = 50.0
DOSE_SHORT = 0.9
WEIGHTS: tuple[Weight, ...] = ("likely", "possible", "not_known", "unlikely")


@dataclass(frozen=True, slots=True)
class Evidence:
    """A piece of evidence: what the record says."""

    code: EvidenceCode
    params: Params = field(default_factory=nothing)


@dataclass(frozen=True, slots=True)
class Cause:
    """A cause with how it stands, what speaks for it and what against it."""

    code: CauseCode
    weight: Weight
    speaks_for: Sequence[Evidence]
    against: Sequence[Evidence]


@dataclass(frozen=True, slots=True)
class WhyFailed:
    """The causes, the likeliest first, and what to do next."""

    causes: Sequence[Cause]
    next_step: NextStep


@dataclass(frozen=True, slots=True)
class GivenDose:
    """A dose as it was given: how much against how much was planned; `good`: the lot was in date (None: not known)."""

    on: date
    quantity: float | None
    planned: float | None
    good: bool | None


@dataclass(frozen=True, slots=True)
class CourseFacts:
    """What the record says of a course and of what was around it.

    `capped_seen_on`: the last visit before the first dose that looked for capped brood, and what it saw. `outside`:
    days of the course on which the daily maximum lay outside the limits, of `weather_days` that are known.
    `urgent_near`: apiaries within reach that hold urgent colonies. `low_between`: a count after the end that was lower
    than the check count. `falls_kill`: what boards under the course said (None: no board). `same_group_uses`: earlier
    courses of the group in this colony; `others_failed`, `others_worked`: courses of the group elsewhere in the
    association in these seasons, in so many apiaries.
    """

    option: Option
    verdict: CourseVerdict
    start: date
    end: date
    doses: Sequence[GivenDose]
    findings: Sequence[Reason]
    capped_seen_on: date | None
    capped_seen: bool | None
    broodless: bool
    outside: Sequence[date]
    weather_days: int
    winter_bee_date: date | None
    urgent_near: int
    low_between: float | None
    falls_kill: bool | None
    same_group_uses: int
    others_failed: int
    others_failed_apiaries: int
    others_worked: int


def why_failed(facts: CourseFacts) -> WhyFailed:
    """Every cause weighed, the likeliest first; what is alike stands in the order in which they are excluded."""
    causes = [
        _noise(facts), _dosing(facts), _temperature(facts), _brood(facts), _window(facts), _reinvasion(facts),
    ]  # fmt: skip
    causes.append(_resistance(facts, causes))
    ranked = sorted(causes, key=lambda one: WEIGHTS.index(one.weight))
    return WhyFailed(ranked, _next(ranked))


def _weigh(code: CauseCode, speaks_for: list[Evidence], against: list[Evidence], *, sure: bool = False) -> Cause:
    """`sure`: one piece for it is enough to call it likely."""
    if not speaks_for and not against:
        return Cause(code, "not_known", (), ())
    if not speaks_for:
        return Cause(code, "unlikely", (), against)
    return Cause(code, "likely" if sure or len(speaks_for) > len(against) + 1 else "possible", speaks_for, against)


def _noise(facts: CourseFacts) -> Cause:
    verdict = facts.verdict
    speaks_for: list[Evidence] = []
    against: list[Evidence] = []
    if verdict.high_pct is not None and verdict.low_pct is not None:
        said: Params = {
            "low": max(0.0, verdict.low_pct),
            "high": max(0.0, verdict.high_pct),
            "target": verdict.target_pct,
        }
        if verdict.high_pct >= verdict.target_pct:
            speaks_for.append(Evidence("interval_over_target", said))
    if verdict.pre is not None:
        mites: Params = {"mites": verdict.pre.mites}
        if verdict.pre.mites < FEW_MITES:
            speaks_for.append(Evidence("few_mites_before", mites))
        elif not speaks_for:
            against.append(Evidence("many_mites_before", mites))
    return _weigh("noise", speaks_for, against)


def _dosing(facts: CourseFacts) -> Cause:
    option = facts.option
    speaks_for: list[Evidence] = []
    against: list[Evidence] = []
    short = [
        one for one in facts.doses
        if one.quantity is not None and one.planned is not None and one.quantity < DOSE_SHORT * one.planned
    ]  # fmt: skip
    if short and short[0].quantity is not None and short[0].planned is not None:
        said: Params = {"quantity": short[0].quantity, "planned": short[0].planned, "unit": option.dose_unit}
        speaks_for.append(Evidence("dose_less", said))
    if len(facts.doses) < option.applications:
        speaks_for.append(Evidence("doses_missing_of", {"given": len(facts.doses), "all": option.applications}))
    if option.interval_days is not None:
        gaps = [(after.on - before.on).days for before, after in zip(facts.doses, facts.doses[1:], strict=False)]
        longest = max(gaps, default=0)
        if longest > option.interval_days[2]:
            speaks_for.append(Evidence("gap_too_long", {"days": longest, "most": option.interval_days[2]}))
    stayed = (facts.end - facts.doses[-1].on).days if facts.doses else 0
    if facts.doses and stayed < option.stay_days[0]:
        speaks_for.append(Evidence("out_before_time", {"days": stayed, "least": option.stay_days[0]}))
    if any(one.good is False for one in facts.doses):
        speaks_for.append(Evidence("lot_out_of_date"))
    if any(one.code in ("lost_too_fast", "lost_too_slowly") for one in facts.findings):
        speaks_for.append(Evidence("lost_wrong_rate"))
    if any(one.code == "not_all_out" for one in facts.findings):
        speaks_for.append(Evidence("fewer_came_out"))
    if facts.doses and not short and all(one.quantity is not None for one in facts.doses):
        against.append(Evidence("dose_as_planned", {"doses": len(facts.doses)}))
    if option.chemical and any(one.good is None for one in facts.doses) and not speaks_for:
        return Cause("under_dosing", "not_known", [Evidence("lot_not_known")], against)
    return _weigh("under_dosing", speaks_for, against, sure=len(speaks_for) > 1)


def _temperature(facts: CourseFacts) -> Cause:
    rule = facts.option.temperature
    if rule.min_daily_max_c is None and rule.max_daily_max_c is None:
        return Cause("temperature", "unlikely", (), [Evidence("weather_inside", {"days": facts.weather_days})])
    if facts.weather_days == 0:
        return Cause("temperature", "not_known", (), [Evidence("weather_not_known")])
    if facts.outside:
        said: Params = {"days": len(facts.outside), "of": facts.weather_days, "first": facts.outside[0]}
        share = len(facts.outside) / facts.weather_days
        return _weigh("temperature", [Evidence("weather_outside", said)], [], sure=share >= 0.25)
    return _weigh("temperature", [], [Evidence("weather_inside", {"days": facts.weather_days})])


def _brood(facts: CourseFacts) -> Cause:
    if facts.option.kills_in_capped_cells == "yes":
        return _weigh("brood_present", [], [Evidence("reaches_cells")])
    if facts.broodless and facts.capped_seen is not True:
        return _weigh("brood_present", [], [Evidence("no_brood_then")])
    if facts.capped_seen is True and facts.capped_seen_on is not None:
        needs_none = facts.option.brood_requirement == "broodless" or facts.option.ends_at_placing
        return _weigh(
            "brood_present", [Evidence("brood_seen_before", {"on": facts.capped_seen_on})], [], sure=needs_none
        )
    return Cause("brood_present", "not_known", (), [Evidence("brood_not_looked_at")])


def _window(facts: CourseFacts) -> Cause:
    speaks_for: list[Evidence] = []
    against: list[Evidence] = []
    if facts.winter_bee_date is not None:
        late = (facts.start - facts.winter_bee_date).days + facts.option.effect_days
        said: Params = {"on": facts.start, "limit": facts.winter_bee_date}
        (speaks_for if late > 0 else against).append(Evidence("started_late" if late > 0 else "started_in_time", said))
    pre = facts.verdict.pre
    if pre is not None and pre.median is not None and pre.median >= HIGH_TIMES * facts.verdict.act_per_100 > 0:
        speaks_for.append(Evidence("load_high", {"rate": pre.median, "level": facts.verdict.act_per_100}))
    return _weigh("window_missed", speaks_for, against)


def _reinvasion(facts: CourseFacts) -> Cause:
    verdict, post = facts.verdict, facts.verdict.post
    speaks_for: list[Evidence] = []
    against: list[Evidence] = []
    if facts.low_between is not None:
        speaks_for.append(Evidence("low_between", {"rate": facts.low_between}))
    if facts.urgent_near:
        speaks_for.append(Evidence("urgent_near", {"apiaries": facts.urgent_near}))
    else:
        against.append(Evidence("nobody_urgent_near"))
    if post is not None and (post.taken_on - facts.end).days > LATE_COUNT_DAYS:
        speaks_for.append(Evidence("counted_late", {"days": (post.taken_on - facts.end).days}))
    if verdict.neighbours is not None and verdict.neighbours.after > 1.5 * verdict.neighbours.before:
        speaks_for.append(
            Evidence("neighbours_rose", {"before": verdict.neighbours.before, "after": verdict.neighbours.after})
        )
    if not _dropped(facts) and facts.low_between is None:
        against.append(Evidence("no_early_drop"))
    return _weigh("reinvasion", speaks_for, against, sure=facts.low_between is not None)


def _dropped(facts: CourseFacts) -> bool:
    """Whether mites fell while it was at work: by boards, by a low count in between, or by the share killed."""
    if facts.falls_kill is not None:
        return facts.falls_kill
    if facts.low_between is not None:
        return True
    return (facts.verdict.median_pct or 0.0) >= EARLY_DROP_PCT


def _resistance(facts: CourseFacts, others: Sequence[Cause]) -> Cause:
    """Only of a group that can be resisted, with the right dose and no early drop."""
    if facts.option.rotation != "hard":
        return _weigh("resistance", [], [Evidence("other_group")])
    speaks_for: list[Evidence] = []
    against: list[Evidence] = []
    if facts.same_group_uses:
        speaks_for.append(Evidence("same_group_before", {"times": facts.same_group_uses}))
    if facts.others_failed:
        said: Params = {"courses": facts.others_failed, "apiaries": facts.others_failed_apiaries}
        speaks_for.append(Evidence("others_failed_alike", said))
    if facts.others_worked:
        against.append(Evidence("others_worked", {"courses": facts.others_worked}))
    if _dropped(facts):
        return Cause("resistance", "unlikely", speaks_for, [*against, Evidence("early_drop")])
    speaks_for.append(Evidence("no_early_drop"))
    excluded = all(one.weight != "likely" for one in others)
    alike = facts.others_failed_apiaries > 1 or (facts.same_group_uses > 0 and facts.others_failed > 0)
    if excluded and alike and facts.others_worked <= facts.others_failed:
        return Cause("resistance", "likely", speaks_for, against)
    return Cause("resistance", "possible", speaks_for, against)


def _next(ranked: Sequence[Cause]) -> NextStep:
    likely = [one.code for one in ranked if one.weight == "likely"] or [
        one.code for one in ranked if one.weight == "possible"
    ]
    # Where nothing speaks for any cause, another kind tells whether it was the product.
    first = likely[0] if likely else "resistance"
    if first == "noise":
        return "count_again"
    if first == "resistance":
        return "another_group"
    return "treat_and_guard" if first == "reinvasion" else "give_it_right"
