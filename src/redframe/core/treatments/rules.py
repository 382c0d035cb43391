"""The rules of suitability, T01 to T79 of docs/methods/eligibility.md: each looks at one question.

Pure and without a clock. Each says what it looks at, so that of many colonies those that agree in it are asked
once (`many.py`).
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from redframe.core.said import Params
from redframe.core.season.calendar import month_day_index, year_around
from redframe.core.treatments.catalogue import BlockRule, Catalogue, Option
from redframe.core.treatments.course import clearance
from redframe.core.treatments.dose import DoseResult
from redframe.core.treatments.reasons import DISEASE_HOLD, Figure, Reason, ReasonCode, ReasonLevel
from redframe.core.treatments.set_up import supers_and_feed
from redframe.core.treatments.situation import EVENTS, PastTreatment, Situation
from redframe.core.treatments.weather import WeatherHere
from redframe.core.visits.summary import BroodSeen

VIRGIN_WAIT_DAYS = 18
MATED_AFTER_DAYS = {"queen_removed": 34, "swarm_left": 28}
"""Days until a queen that was raised has mated: late emergence and VIRGIN_WAIT_DAYS."""
BROODLESS_AFTER_DAYS = 22
CAPPED_AFTER_EGGS_DAYS = 5
CAPPED_AFTER_LAYING_DAYS = 8
BROOD_SIGHTING_DAYS = 7
WINTER_BROOD_SIGHTING_DAYS = 28
NO_RECENT_COUNT_DAYS = 28
SLOW_DAYS = 14
LONG_COURSE_DAYS = 20
BROOD_LOST = ("BROOD_OUT", "SHAKEN", "QUEEN_CAGE")
"""What costs a colony brood is not done to one below its threshold either."""


Past = list[tuple[Option, PastTreatment]]


@dataclass(frozen=True, slots=True)
class Case:
    """One option in a situation, with what several rules ask of it."""

    option: Option
    catalogue: Catalogue
    situation: Situation
    weather: WeatherHere
    dose: DoseResult | None
    ideal_end: date
    """When a course placed today would best end."""
    past: Past
    """Earlier treatments, oldest first."""

    @property
    def today(self) -> date:
        return self.situation.today

    @property
    def in_cluster(self) -> bool:
        return self.situation.season_phase == "winter_cluster"

    @property
    def frames(self) -> float | None:
        strength = self.situation.colony.strength
        return strength.value if strength else None

    @property
    def brood(self) -> BroodSeen:
        return self.situation.colony.capped_worker_brood


def past_of(catalogue: Catalogue, situation: Situation) -> Past:
    """Earlier treatments, oldest first. Raises InvalidInput for an option that the catalogue lacks."""
    found = [
        (catalogue.option(past.option, f"colony.last_treatments[{index}].option"), past)
        for index, past in enumerate(situation.colony.last_treatments)
    ]
    return sorted(found, key=lambda item: item[1].start)


Ask = Callable[[Case], Iterator[Reason]]
Facts = tuple[Hashable, ...]
LooksAt = Callable[[Situation], Facts]


@dataclass(frozen=True, slots=True)
class Rule:
    """A rule with all that it looks at of a situation: facts of the colony and the day, the policy, the weather; and
    the options that it can say something of."""

    ask: Ask
    looks_at: LooksAt
    policy: bool
    weather: bool
    concerns: Callable[[Option], bool]


RULES: list[Rule] = []


def _every(_: Option) -> bool:
    return True


def _rule(
    looks_at: Callable[[Situation], Facts], *, policy: bool = False, weather: bool = False,
    concerns: Callable[[Option], bool] = _every,
) -> Callable[[Ask], Ask]:  # fmt: skip
    def add(ask: Ask) -> Ask:
        RULES.append(Rule(ask, looks_at, policy, weather, concerns))
        return ask

    return add


def _nothing(_: Situation) -> Facts:
    return ()


def _day(now: Situation) -> Facts:
    return (now.today,)


def _held(now: Situation) -> Facts:
    return tuple(now.colony.holds)


def _treated(now: Situation) -> Facts:
    return (now.today, *now.colony.last_treatments)


def _reared(now: Situation) -> Facts:
    colony = now.colony
    return (
        now.today, now.season_phase, colony.capped_worker_brood, colony.eggs_seen_on, colony.brood_seen_on,
        colony.brood_event, colony.brood_by_calendar, colony.queen, colony.laying_since,
    )  # fmt: skip


def _headed(now: Situation) -> Facts:
    colony = now.colony
    return now.today, colony.queen, colony.queen_since, colony.laying_since, colony.release_on, colony.brood_event


def _sized(now: Situation) -> Facts:
    return now.colony.strength, now.colony.brood_boxes


def _in_use(now: Situation) -> Facts:
    colony = now.colony
    return now.today, colony.supers_on, colony.supers_off_by, colony.fed, colony.fed_until


def _seasonal(now: Situation) -> Facts:
    return now.today, now.season_phase


def _infested(now: Situation) -> Facts:
    return now.today, now.season_phase, now.colony.infestation_pct, now.colony.counted_on


@_rule(_nothing, policy=True)
def _authorised(case: Case) -> Iterator[Reason]:
    option, policy = case.option, case.situation.policy
    listed = policy.authorised is not None and option.id in policy.authorised
    in_series = option.opened_by == "vapour_series"
    opened = policy.vapour_series if in_series else option.default_enabled or listed
    if option.chemical and ((policy.authorised is not None and not listed) or not opened):
        compared: dict[str, Figure] = {"authorised": listed, "enabled": opened}
        yield Reason("T01", "never_here", "L", compared, "not_authorised", {"option": option.name})
    if option.moa_group in policy.excluded_groups:
        compared = {"group": option.moa_group, "excluded": ", ".join(policy.excluded_groups)}
        yield Reason("T02", "never_here", "P", compared, "group_excluded", {"group": option.moa_group})
    if option.id in policy.prescription_needed and not policy.prescriber_recorded:
        compared = {"prescriber": None, "limit": "recorded"}
        yield Reason("T03", "not_now", "L", compared, "needs_prescription")
    if option.needs_respirator and not policy.respirator_ok:
        compared = {"respirator": False, "limit": True}
        yield Reason("T04", "not_now", "L", compared, "needs_respirator")


@_rule(_held)
def _holds(case: Case) -> Iterator[Reason]:
    for hold in case.situation.colony.holds:
        if hold.kind == "notifiable":
            compared: dict[str, Figure] = {"hold": hold.name, "until": hold.until}
            if hold.until is None:
                yield Reason(DISEASE_HOLD, "not_now", "L", compared, "on_hold", {"hold": hold.name})
            else:
                params: Params = {"hold": hold.name, "until": hold.until}
                yield Reason(DISEASE_HOLD, "not_now", "L", compared, "on_hold_until", params, hold.until)
            break
    for hold in case.situation.colony.holds:
        if hold.kind == "other":
            yield Reason("T06", "caution", "E", {"hold": hold.name}, "other_disease", {"hold": hold.name})
            break


@_rule(_treated, policy=True)
def _earlier_uses(case: Case) -> Iterator[Reason]:
    option, today = case.option, case.today
    turn = month_day_index(case.situation.policy.treatment_year_start, "policy.treatment_year_start")
    own = [past.start for used, past in case.past if used.id == option.id]
    repeats = _is_repeat(case, today, own)
    compared: dict[str, Figure]
    params: Params
    if own:
        this_year, next_year = year_around(today, turn)
        uses = sum(this_year <= start <= today and not _is_repeat(case, start, own) for start in own)
        if uses >= option.max_uses_per_year and not repeats:
            compared = {"uses_this_year": uses, "limit": option.max_uses_per_year}
            params = {"uses": option.max_uses_per_year}
            yield Reason("T07", "not_now", "L", compared, "uses_reached", params, next_year)
    gaps = [
        (end + timedelta(days=days), end, days)
        for used, past in case.past
        if (days := _gap_after(option, used)) is not None and (end := _ended(used, past)) is not None
    ]
    if gaps and today < max(gaps)[0]:
        free, end, days = max(gaps)
        since = max(0, (today - end).days)
        compared = {"days_since_last": since, "limit": days}
        if repeats:
            yield Reason("T08", "caution", "L", compared, "second_dose", {"days": since})
        else:
            params = {"days": since, "gap": days}
            yield Reason("T08", "not_now", "L", compared, "too_soon", params, free)
    for used, past in case.past if option.chemical else ():
        if used.chemical and ((end := _ended(used, past)) is None or end > today):
            out = end or past.due_out
            compared = {"under_way": used.id, "due_out": out}
            yield Reason("T09", "not_now", "L", compared, "still_under_way", {"option": used.name}, out)
            break


def _ended(used: Option, past: PastTreatment) -> date | None:
    """The day on which nothing of it was in the hive any more: what does not stay ends as it is done. None: unknown."""
    return past.start if past.end is None and used.stay_days[1] == 0 else past.end


def _gap_after(option: Option, used: Option) -> int | None:
    """Days that must pass between the end of `used` and the next placing of `option`; None where it does not matter."""
    own = used.moa_group == option.moa_group if option.gap_counts_group else used.id == option.id
    found = [option.retreat_days] if own else []
    found += [gap.days for gap in option.gap_after if used.id in gap.options or used.moa_group in gap.groups]
    return max(found, default=None)


def _is_repeat(case: Case, day: date, starts: Sequence[date]) -> bool:
    """Whether a dose on a day is the second of a pair that the association allows; `starts` of all of this option."""
    option = case.option
    if option.repeat_days is None or not case.situation.policy.trickle_repeat:
        return False
    before = [start for start in starts if start < day]
    low, high = option.repeat_days
    return bool(before) and low <= (day - max(before)).days <= high


def _rotates(option: Option) -> bool:
    return option.rotation == "hard"


@_rule(_treated, policy=True, concerns=_rotates)
def _rotation(case: Case) -> Iterator[Reason]:
    option, policy = case.option, case.situation.policy
    # An acid between two courses of strips does not make their group forgotten.
    hard = [(used, past) for used, past in case.past if used.rotation == "hard"]
    if _rotates(option) and hard:
        used, past = hard[-1]
        if used.moa_group == option.moa_group:
            compared: dict[str, Figure] = {
                "group": option.moa_group,
                "last_group": used.moa_group,
                "outcome": past.outcome,
            }
            if past.outcome in ("partly", "failed"):
                yield Reason("T11", "not_now", "E", compared, "group_failed")
            else:
                level: ReasonLevel = "not_now" if policy.strict_rotation else "caution"
                yield Reason("T10", level, "P", compared, "same_group")


@_rule(_nothing, policy=True)
def _resistance(case: Case) -> Iterator[Reason]:
    option, resistant = case.option, case.situation.policy.resistance
    if option.moa_group in resistant:
        compared: dict[str, Figure] = {"group": option.moa_group, "resistant": ", ".join(resistant)}
        yield Reason("T12", "never_here", "E", compared, "resistance_known", {"group": option.moa_group})


def _asks_for_brood(option: Option) -> bool:
    return option.brood_requirement != "any" or option.brood_caution


@_rule(_reared, policy=True, concerns=_asks_for_brood)
def _brood(case: Case) -> Iterator[Reason]:
    option, colony, today = case.option, case.situation.colony, case.today
    works_partly = case.situation.policy.allow_oxalic_with_brood and option.moa_group == "ACID-O"
    if option.brood_requirement == "broodless":
        eggs_age = (today - colony.eggs_seen_on).days if colony.eggs_seen_on else None
        laid_for = (today - colony.laying_since).days if colony.laying_since else None
        seen_age = (today - colony.brood_seen_on).days if colony.brood_seen_on else None
        if case.brood == "yes" and not works_partly:
            event = colony.brood_event
            until = event.date + timedelta(days=BROODLESS_AFTER_DAYS) if event else None
            compared: dict[str, Figure] = {"capped_worker_brood": "yes", "limit": "no"}
            yield Reason("T20", "not_now", "E", compared, "capped_brood", until=until)
        old = seen_age is None or seen_age > BROOD_SIGHTING_DAYS
        stale_no = case.brood == "no" and old and not case.in_cluster and colony.queen != "caged"
        eggs_turned = case.brood == "no" and (
            (eggs_age is not None and eggs_age >= CAPPED_AFTER_EGGS_DAYS)
            or (laid_for is not None and laid_for >= CAPPED_AFTER_LAYING_DAYS)
        )
        if (case.brood == "unknown" or stale_no or eggs_turned) and not works_partly:
            compared = {
                "capped_worker_brood": case.brood,
                "days_since_seen": seen_age,
                "limit": BROOD_SIGHTING_DAYS,
            }
            yield Reason("T21", "not_now", "E", compared, "brood_unknown")
        old_in_cluster = seen_age is None or seen_age > WINTER_BROOD_SIGHTING_DAYS
        if case.in_cluster and case.brood == "no" and old_in_cluster:
            compared = {"days_since_seen": seen_age, "limit": WINTER_BROOD_SIGHTING_DAYS}
            if seen_age is None:
                yield Reason("T22", "caution", "E", compared, "brood_sighting_undated")
            else:
                yield Reason("T22", "caution", "E", compared, "brood_sighting_old", {"days": seen_age})
    if option.brood_requirement == "broodless" and case.brood == "no" and colony.brood_by_calendar:
        since: dict[str, Figure] = {"capped_worker_brood": "no", "by_calendar_since": colony.brood_seen_on}
        yield Reason("T21", "caution", "E", since, "broodless_by_calendar")
    if case.brood != "no" and (option.brood_caution or (works_partly and option.brood_requirement == "broodless")):
        low, high = option.efficacy_pct_with_brood or (0, 0)
        compared = {"capped_worker_brood": case.brood, "efficacy_low_pct": low, "efficacy_high_pct": high}
        yield Reason("T23", "caution", "E", compared, "works_partly", {"low": low, "high": high})
    if option.brood_requirement == "needs_brood" and case.brood == "no":
        compared = {"capped_worker_brood": "no", "limit": "yes"}
        yield Reason("T24", "not_now", "E", compared, "needs_brood")
    if option.brood_requirement == "broodless" and case.brood == "no":
        capped = None
        if colony.eggs_seen_on is not None:
            capped = colony.eggs_seen_on + timedelta(days=CAPPED_AFTER_EGGS_DAYS)
        elif colony.laying_since is not None:
            capped = colony.laying_since + timedelta(days=CAPPED_AFTER_LAYING_DAYS)
        if capped is not None and 0 < (capped - today).days <= 3:
            compared = {"capped_brood_possible": capped, "limit": today + timedelta(days=3)}
            yield Reason("T25", "caution", "E", compared, "do_before", {"day": capped})


@_rule(_headed)
def _queen(case: Case) -> Iterator[Reason]:
    option, colony = case.option, case.situation.colony
    wait = colony.queen_since + timedelta(days=VIRGIN_WAIT_DAYS) if colony.queen_since else None
    states: dict[str, tuple[str, BlockRule, date | None, ReasonCode]] = {
        "virgin": ("T30", option.queen.virgin, wait, "queen_virgin"),
        "caged": ("T31", option.queen.caged, colony.release_on, "queen_caged"),
        "queenless": ("T32", option.queen.queenless, None, "queenless"),
        "unknown": ("T33", option.queen.unknown, None, "queen_unknown"),
    }
    if colony.queen in states:
        rule, verdict, until, code = states[colony.queen]
        if verdict != "ok":
            level: ReasonLevel = "not_now" if verdict == "block" else "caution"
            queen: dict[str, Figure] = {"queen": colony.queen, "since": colony.queen_since}
            yield Reason(rule, level, "E", queen, code, until=until)
    yield from _raising(case)
    if colony.queen == "mated" and colony.laying_since is not None:
        laying = (case.today - colony.laying_since).days
        if 0 <= laying < option.queen.new_within_days:
            compared: dict[str, Figure] = {"days_laying": laying, "limit": option.queen.new_within_days}
            yield Reason("T34", "caution", "E", compared, "queen_new", {"days": laying})


def _raising(case: Case) -> Iterator[Reason]:
    """A colony that has lost its queen may have cells, or a virgin that is not mated yet."""
    colony = case.situation.colony
    event = colony.brood_event
    if case.option.moa_group != "ACID-F" or colony.queen not in ("queenless", "unknown"):
        return
    if event is None or colony.laying_since is not None:
        return
    wait = MATED_AFTER_DAYS.get(EVENTS.get(event.type, event.type))
    if wait is not None and (case.today - event.date).days < wait:
        mated = event.date + timedelta(days=wait)
        compared: dict[str, Figure] = {"queen": colony.queen, "since": event.date}
        yield Reason("T30", "not_now", "E", compared, "queen_raised", until=mated)


@_rule(_sized)
def _strength(case: Case) -> Iterator[Reason]:
    option, colony, frames = case.option, case.situation.colony, case.frames
    need = option.strength.min_frames
    if frames is None:
        yield Reason("T41", "not_now", "L", {"frames": None, "limit": need}, "strength_unknown")
    elif frames < need:
        weak: Params = {"frames": frames, "need": need}
        yield Reason("T40", "not_now", "L", {"frames": frames, "limit": need}, "too_weak", weak)
    small = option.strength.small_dose_below_frames
    if frames is not None and small is not None and need <= frames < small:
        compared: dict[str, Figure] = {"frames": frames, "limit": small}
        if case.dose is None:
            yield Reason("T42", "caution", "L", compared, "small_dose")
        else:
            yield Reason("T42", "caution", "L", compared, "small_dose_of", _dose(case.dose))
    if colony.brood_boxes > option.strength.max_brood_boxes:
        compared = {"brood_boxes": colony.brood_boxes, "limit": option.strength.max_brood_boxes}
        boxes: Params = {"boxes": colony.brood_boxes, "checked": option.strength.max_brood_boxes}
        yield Reason("T43", "caution", "L", compared, "many_brood_boxes", boxes)
    if case.dose is not None and case.dose.capped:
        compared = {"dose": case.dose.quantity, "unit": case.dose.unit}
        yield Reason("T44", "caution", "L", compared, "maximum_dose", _dose(case.dose))


@_rule(_in_use, policy=True)
def _honey_and_feed(case: Case) -> Iterator[Reason]:
    option, colony, policy = case.option, case.situation.colony, case.situation.policy
    yield from supers_and_feed(
        option, colony.supers_on, colony.fed, supers_off_by=colony.supers_off_by, fed_until=colony.fed_until
    )
    if not option.feeding_during:
        feed_by = policy.feed_start_by
        if feed_by is not None and case.ideal_end > feed_by:
            late: Params = {"feed_by": feed_by, "ends": case.ideal_end}
            yield Reason("T53", "caution", "E", {"ends": case.ideal_end, "limit": feed_by}, "feed_late", late)
    planned = policy.planned_supers_on
    if option.supers == "no" and planned is not None and planned >= case.today:
        clear = clearance(case.ideal_end, option.withdrawal_days)
        if clear > planned:
            last = planned - (clear - case.today)
            days: Params = {"planned": planned, "clear": clear, "last": last}
            yield Reason("T54", "not_now", "L", {"clear": clear, "limit": planned}, "supers_planned", days)


@_rule(_day, weather=True)
def _weather(case: Case) -> Iterator[Reason]:
    for found in case.weather.on(case.option, case.today):
        until = case.weather.next_usable(case.option, case.today) if found.level == "not_now" else None
        yield replace(found, until=until)


@_rule(_seasonal, policy=True)
def _season(case: Case) -> Iterator[Reason]:
    option, policy, today = case.option, case.situation.policy, case.today
    season = case.situation.season_phase
    if season not in option.phases:
        compared: dict[str, Figure] = {"season": season, "limit": ", ".join(option.phases)}
        yield Reason("T70", "not_now", "L/E", compared, "wrong_season")
    winter_bees = policy.winter_bee_date
    effect = today + timedelta(days=option.effect_days)
    if winter_bees is not None and effect > winter_bees and not case.in_cluster:
        yield Reason("T71", "caution", "E", {"takes_effect": effect, "limit": winter_bees}, "winter_bees_reared")
    cold = policy.cold_date
    if cold is not None and option.total_days_ideal > LONG_COURSE_DAYS and case.ideal_end > cold:
        yield Reason("T72", "caution", "E", {"ends": case.ideal_end, "limit": cold}, "into_the_cold")
    rebuilt = today + timedelta(days=option.rebuild_days)
    if winter_bees is not None and option.rebuild_days and rebuilt > winter_bees:
        yield Reason("T73", "not_now", "E", {"rebuilt": rebuilt, "limit": winter_bees}, "too_late_to_rebuild")


@_rule(_infested, policy=True)
def _infestation(case: Case) -> Iterator[Reason]:
    option, colony, policy = case.option, case.situation.colony, case.situation.policy
    rate, threshold = colony.infestation_pct, policy.threshold_pct
    if rate is not None and rate >= 2 * threshold > 0 and option.effect_days > SLOW_DAYS:
        compared: dict[str, Figure] = {"mites_per_100": rate, "limit": 2 * threshold}
        yield Reason("T74", "caution", "E", compared, "too_slow", {"rate": rate})
    if option.evidence == "weak":
        yield Reason("T75", "caution", "E", {"evidence": "weak"}, "weak_evidence")
    if policy.approach == "counting_first" and not case.in_cluster:
        age = (case.today - colony.counted_on).days if colony.counted_on else None
        if option.chemical and (age is None or age > NO_RECENT_COUNT_DAYS):
            compared = {"days_since_count": age, "limit": NO_RECENT_COUNT_DAYS}
            yield Reason("T76", "caution", "P", compared, "no_recent_count")
        elif (
            (option.chemical or option.id in BROOD_LOST)
            and rate is not None
            and age is not None
            and age <= NO_RECENT_COUNT_DAYS
            and rate < threshold
            and not (policy.whole_apiary and policy.apiary_over)
        ):
            compared = {"mites_per_100": rate, "limit": threshold}
            yield Reason("T77", "caution", "P", compared, "below_threshold", {"threshold": threshold})
    if option.chemical and policy.approach == "treatment_free":
        yield Reason("T79", "never_here", "P", {"approach": policy.approach}, "treatment_free")


def _dose(found: DoseResult) -> Params:
    return {"dose": found.quantity, "unit": found.unit}
