"""The policy in force, and laying the standings of a colony anew after anything that bears on them."""

from __future__ import annotations

import asyncio
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import asdict, dataclass, fields, replace
from datetime import date, timedelta
from functools import lru_cache
from json import dumps, loads
from typing import Any, cast, get_args
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import Reading, ThresholdBasis
from redframe.core.sampling.wash import POOR_PLACES, reading_of
from redframe.core.thresholds.calendar import Calendar, month_day_index
from redframe.core.thresholds.schools import SCHOOLS, WASH_SCHOOLS, SchoolId, school_of
from redframe.core.thresholds.standing import Level, Policy, Sample, recount_on, standings
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import sampling, treatments
from redframe.store import thresholds as store
from redframe.store.errors import Conflict
from redframe.store.sampling import Count, Outlook
from redframe.work.desk import Work
from redframe.work.roles import require

FEW_COLONIES = 20
HISTORY_DAYS = 400
"""How far back a standing looks: past a winter, so that a held level is never forgotten by a season."""


@dataclass(frozen=True, slots=True)
class PolicyInForce:
    """The association's policy as the core takes it, beside what it was read from."""

    version: int
    school: SchoolId
    basis: ThresholdBasis
    scope: str
    policy: Policy
    calendar: Calendar
    raw_calendar: dict[str, Any]
    treatment_rules: dict[str, Any]

    @property
    def honey_off(self) -> int | None:
        """Day (leap-year index) on which honey comes off, where the association gives one."""
        day = self.treatment_rules.get("honey_off")
        return month_day_index(day, "honey_off") if day else None


@lru_cache(maxsize=256)
def _read(version: int, school: str, basis: str, scope: str, calendar: str, rules: str) -> PolicyInForce:
    found = school_of(school)
    raw = loads(calendar)
    read = Calendar.parse(raw)
    return PolicyInForce(
        version, found.id, cast(ThresholdBasis, basis), scope, Policy(read, found.levels), read, raw, loads(rules)
    )


async def policy_in_force(work: Work) -> PolicyInForce:
    """The policy that the association judges and treats by now."""
    row = await store.policy_in_force(work.connection)
    return _read(
        row.version,
        row.school,
        row.threshold_basis,
        row.scope,
        dumps(row.calendar, sort_keys=True),
        dumps(row.treatment_rules, sort_keys=True),
    )


@dataclass(frozen=True, slots=True)
class PolicyDraft:
    """A policy as somebody writes it, before it has a version."""

    school: str
    threshold_basis: ThresholdBasis
    scope: str
    calendar: dict[str, Any]
    treatment_rules: dict[str, Any]

    def as_policy(self, version: int) -> PolicyInForce:
        """The policy as the core takes it.

        Raises InvalidInput for a calendar that does not exist, a school that judges no wash, or an option unknown to
        the catalogue.
        """
        Calendar.parse(self.calendar)
        if self.school not in WASH_SCHOOLS:
            raise InvalidInput("school", "is not a school that judges a wash", allowed=", ".join(WASH_SCHOOLS))
        for index, option in enumerate(self.treatment_rules.get("authorised") or []):
            default_catalogue().option(option, f"authorised[{index}]")
        for field in ("honey_off", "cold"):
            if self.treatment_rules.get(field):
                month_day_index(self.treatment_rules[field], field)
        return _read(
            version,
            self.school,
            self.threshold_basis,
            self.scope,
            dumps(self.calendar, sort_keys=True),
            dumps(self.treatment_rules, sort_keys=True),
        )


@dataclass(frozen=True, slots=True)
class PolicyPreview:
    """What a draft would do: who stands where today, before and after."""

    policy: PolicyInForce
    before: dict[Level, int]
    after: dict[Level, int]
    changed: int


async def preview_policy(work: Work, draft: PolicyDraft) -> PolicyPreview:
    """Judge every living colony that was counted by a draft and compare with today; nothing is written."""
    require(work.who, "set_policy")
    present = await policy_in_force(work)
    policy = draft.as_policy(present.version + 1)
    ids = [colony.id for colony in await sampling.counted_colonies(work.connection) if colony.lives]
    now = [_level_on(one, work.today) for one in await _outlooks(work, ids, present, read_again=False)]
    then = [
        _level_on(one, work.today)
        for one in await _outlooks(work, ids, policy, read_again=policy.basis != present.basis)
    ]
    changed = sum(1 for a, b in zip(now, then, strict=True) if a != b)
    return PolicyPreview(policy, _tally(now), _tally(then), changed)


def _level_on(outlook: Outlook, day: date) -> Level:
    steps = [step for step in outlook.standings if step.since <= day]
    return steps[-1].level if steps else "unknown"


def _tally(levels: Sequence[Level]) -> dict[Level, int]:
    return {level: levels.count(level) for level in get_args(Level)}


async def set_policy(work: Work, draft: PolicyDraft, seen_version: int) -> PolicyInForce:
    """Put a new version of the policy in force and judge every counted colony by it.

    Raises InvalidInput as `PolicyDraft.as_policy`, Conflict when another version came into force meanwhile.
    """
    require(work.who, "set_policy")
    present = await policy_in_force(work)
    if present.version != seen_version:
        raise Conflict("the policy was changed by somebody else meanwhile")
    draft.as_policy(present.version + 1)
    await store.add_policy(
        work.connection,
        school=draft.school,
        threshold_basis=draft.threshold_basis,
        scope=draft.scope,
        calendar=draft.calendar,
        treatment_rules=draft.treatment_rules,
    )
    policy = await policy_in_force(work)
    await sampling.lock_association(work.connection)
    ids = [colony.id for colony in await sampling.counted_colonies(work.connection)]
    await _lay(work, ids, policy, read_again=policy.basis != present.basis)
    return policy


async def lay_standings(work: Work, colony_ids: Sequence[UUID]) -> None:
    """Lay standings and outlooks of colonies anew from their counts and courses.

    The policy is read once they are held: one that came into force while this waited is the one that judges.
    """
    await sampling.lock_colonies(work.connection, colony_ids)
    await _lay(work, colony_ids, await policy_in_force(work), read_again=False)


async def _lay(work: Work, colony_ids: Sequence[UUID], policy: PolicyInForce, *, read_again: bool) -> None:
    outlooks = await _outlooks(work, colony_ids, policy, read_again=read_again, keep_readings=True)
    await sampling.lay_outlooks(work.connection, outlooks, policy.version)


async def _outlooks(
    work: Work, colony_ids: Sequence[UUID], policy: PolicyInForce, *, read_again: bool, keep_readings: bool = False
) -> list[Outlook]:
    """What follows from the counts and courses of these colonies under a policy, in their order."""
    since = work.today - timedelta(days=HISTORY_DAYS)
    counts = await sampling.counts_of_colonies(work.connection, colony_ids, since)
    if read_again:
        counts = await asyncio.to_thread(lambda: [_read_again(count, policy.basis) for count in counts])
        if keep_readings:
            readings = [(count.id, count.colony_id, _as_reading(count)) for count in counts if count.median is not None]
            await sampling.lay_readings(work.connection, readings)
    courses = await treatments.courses_of_colonies(work.connection, colony_ids)
    acts = await treatments.acts_of_courses(work.connection, [course.id for course in courses])
    verifying = {act.count_id for act in acts if act.step == "verify" and act.count_id is not None}
    treated: dict[UUID, list[date]] = defaultdict(list)
    for course in courses:
        if course.ended_on is not None and course.state != "abandoned":
            treated[course.colony_id].append(course.ended_on)
    valid: dict[UUID, list[Count]] = defaultdict(list)
    # They come newest first; of two taken at one moment the one told last counts as the later.
    for count in reversed(counts):
        if count.median is not None:
            valid[count.colony_id].append(count)

    def judge() -> list[Outlook]:
        return [_outlook(one, valid[one], treated[one], verifying, policy.policy) for one in colony_ids]

    # A whole association takes seconds: other people's requests go on meanwhile.
    return await asyncio.to_thread(judge) if len(colony_ids) > FEW_COLONIES else judge()


def _outlook(
    colony_id: UUID, counts: Sequence[Count], treated: Sequence[date], verifying: set[UUID], policy: Policy
) -> Outlook:
    if not counts:
        return Outlook(colony_id, [], None, None)
    samples = [
        Sample(
            taken_on=count.taken_on,
            median=count.median or 0.0,
            upper80=count.upper80 or 0.0,
            can_clear=(count.bees_mean or 0.0) >= 100 and count.place_of_bees not in (*POOR_PLACES, "unknown"),
            can_lower=count.place_of_bees not in POOR_PLACES,
            verifies=count.id in verifying,
        )
        for count in counts
    ]
    return Outlook(colony_id, standings(samples, policy, treated), counts[-1], recount_on(samples[-1], policy))


def _read_again(count: Count, basis: ThresholdBasis) -> Count:
    if count.bees_mean is None or count.bees_cv is None:
        return count
    reading = reading_of(count.shakes, BeesInSample(count.bees_mean, count.bees_cv), basis)
    return replace(count, **asdict(reading))


def _as_reading(count: Count) -> Reading:
    return Reading(**{field.name: getattr(count, field.name) for field in fields(Reading)})


def school_views() -> list[dict[str, Any]]:
    """The schools that an association can follow, with their levels by phase."""
    return [
        {
            "id": school,
            "name": SCHOOLS[school].name,
            "says": SCHOOLS[school].says,
            "unit": SCHOOLS[school].unit,
            "levels": {
                phase: {"watch": level.watch, "act": level.act, "urgent": level.urgent}
                for phase, level in SCHOOLS[school].levels.items()
            },
        }
        for school in WASH_SCHOOLS
    ]
