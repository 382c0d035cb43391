"""The policy in force, and laying the standings of a colony anew after anything that bears on them."""

from __future__ import annotations

import asyncio
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field, fields, replace
from datetime import date, datetime, timedelta
from functools import lru_cache
from json import dumps, loads
from typing import Any, cast, get_args
from uuid import UUID
from zoneinfo import ZoneInfo

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesKnownBy, Scoop, bees_in_sample, calibrated_scoop
from redframe.core.sampling.jar import reading_of
from redframe.core.sampling.method import JAR_METHODS, JarMethod, Scale, TreatmentSpan
from redframe.core.sampling.reading import AnyReading, CellReading, FallReading, Reading, ThresholdBasis
from redframe.core.thresholds.apiary import Scope
from redframe.core.thresholds.calendar import Calendar, Phase, month_day_index
from redframe.core.thresholds.samples import Counted, judged_samples, prompted_on
from redframe.core.thresholds.schools import SCHOOLS, Levels, SchoolId, own_levels, school_of
from redframe.core.thresholds.standing import Level, Policy, recount_on, standings
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import places, sampling, treatments
from redframe.store import thresholds as store
from redframe.store.errors import Conflict
from redframe.store.sampling import Count, Outlook
from redframe.store.thresholds import ApiaryPolicy
from redframe.store.treatments import Course
from redframe.work.desk import Work
from redframe.work.roles import require
from redframe.work.samples import sample_of

FEW_COLONIES = 20
HISTORY_DAYS = 400
"""How far back a standing looks: past a winter, so that a held level is never forgotten by a season."""

BESIDE: dict[Scale, SchoolId] = {"mites_per_100": "season_phase", "mites_per_day": "fall_phase"}
"""The school whose levels stand beside a count of a scale that the school in force does not judge."""


@dataclass(frozen=True, slots=True)
class PolicyInForce:
    """The policy as the core takes it, beside what it was read from. `own` are the association's own levels by school;
    `apart`: this apiary does otherwise than its association."""

    version: int
    school: SchoolId
    basis: ThresholdBasis
    scope: Scope
    policy: Policy
    calendar: Calendar
    raw_calendar: dict[str, Any]
    raw_levels: dict[str, Any]
    own: Mapping[SchoolId, Mapping[Phase, Levels]]
    treatment_rules: dict[str, Any]
    raw_scoops: list[dict[str, Any]]
    scoop: Scoop
    apart: bool = False

    @property
    def honey_off(self) -> int | None:
        """Day (leap-year index) on which honey comes off, where the association gives one."""
        day = self.treatment_rules.get("honey_off")
        return month_day_index(day, "honey_off") if day else None

    def levels_on(self, school: SchoolId) -> Mapping[Phase, Levels]:
        """The levels of a school as the association has them."""
        return self.policy.levels if school == self.school else self.own.get(school, SCHOOLS[school].levels)

    def beside(self, scale: Scale) -> Policy:
        """The policy for a scale: the one in force where it judges that scale, else with the levels of the school that
        stands beside it. Forecasts and proofs, which speak of rates, are always set against one."""
        if self.policy.scale == scale or scale not in BESIDE:
            return self.policy
        return replace(self.policy, school=BESIDE[scale], levels=self.levels_on(BESIDE[scale]))


@lru_cache(maxsize=256)
def _read(
    version: int, school: str, basis: str, scope: str, calendar: str, levels: str, stale: tuple[int, int], rules: str,
    scoops: str, here: str, apart: bool,
) -> PolicyInForce:  # fmt: skip
    found = school_of(school)
    raw, raw_levels = loads(calendar), loads(levels)
    read = Calendar.parse(raw)
    own = {school_of(one).id: own_levels(school_of(one), given, f"levels.{one}") for one, given in raw_levels.items()}
    laid = own_levels(replace(found, levels=own.get(found.id, found.levels)), loads(here), "levels")
    return PolicyInForce(
        version, found.id, cast(ThresholdBasis, basis), cast(Scope, scope), Policy(read, laid, found.id, *stale), read,
        raw, raw_levels, own, loads(rules), loads(scoops), _scoop(loads(scoops)), apart,
    )  # fmt: skip


def _scoop(scoops: Sequence[Mapping[str, Any]]) -> Scoop:
    return calibrated_scoop([(float(one["ml"]), int(one["bees"])) for one in scoops])


def _text(value: object) -> str:
    return dumps(value, sort_keys=True)


def _in_force(row: store.Policy, here: ApiaryPolicy | None) -> PolicyInForce:
    apart = here is not None and any(part is not None for part in (here.school, here.scope, here.calendar, here.levels))
    return _read(
        row.version,
        (here and here.school) or row.school,
        row.threshold_basis,
        (here and here.scope) or row.scope,
        _text((here and here.calendar) or row.calendar),
        _text(row.levels),
        (row.stale_after_days, row.stale_after_days_dormant),
        _text(row.treatment_rules),
        _text(row.scoops),
        _text(here.levels if here else None),
        apart,
    )


async def policy_in_force(work: Work, apiary_id: UUID | None = None) -> PolicyInForce:
    """The policy that the association judges and treats by now; that of one apiary where one is named."""
    row = await store.policy_in_force(work.connection)
    return _in_force(row, await store.apiary_policy(work.connection, apiary_id) if apiary_id else None)


async def policies_of(
    work: Work, colony_ids: Sequence[UUID], row: store.Policy | None = None
) -> dict[UUID, PolicyInForce]:
    """The policy that judges each of these colonies: that of its apiary, else that of the association (`row`, the one
    in force when None)."""
    row = row or await store.policy_in_force(work.connection)
    apart = {one.apiary_id: one for one in await store.apiary_policies(work.connection)}
    places_of = await store.apiaries_of(work.connection, colony_ids) if apart else {}
    house = _in_force(row, None)
    laid = {apiary: _in_force(row, one) for apiary, one in apart.items()}
    return {colony: laid.get(places_of.get(colony, colony), house) for colony in colony_ids}


@dataclass(frozen=True, slots=True)
class PolicyDraft:
    """A policy as somebody writes it, before it has a version."""

    school: str
    threshold_basis: ThresholdBasis
    scope: str
    calendar: dict[str, Any]
    levels: dict[str, Any]
    stale_after_days: int
    stale_after_days_dormant: int
    treatment_rules: dict[str, Any]
    scoops: list[dict[str, Any]] = field(default_factory=list)

    def as_policy(self, version: int) -> PolicyInForce:
        """The policy as the core takes it.

        Raises InvalidInput for a calendar that does not exist, a school or an option unknown, levels out of order.
        """
        Calendar.parse(self.calendar)
        school_of(self.school)
        for school in self.levels:
            if school not in SCHOOLS:
                raise InvalidInput(f"levels.{school}", "is not a school of thresholds", allowed=", ".join(SCHOOLS))
        for index, option in enumerate(self.treatment_rules.get("authorised") or []):
            default_catalogue().option(option, f"authorised[{index}]")
        for day in ("honey_off", "cold"):
            if self.treatment_rules.get(day):
                month_day_index(self.treatment_rules[day], day)
        return _in_force(self.as_row(version), None)

    def as_row(self, version: int) -> store.Policy:
        """The draft as if it were on record."""
        nobody = UUID(int=0)
        return store.Policy(association_id=nobody, version=version, made_at=datetime.min, **vars_of(self))


def vars_of(draft: PolicyDraft) -> dict[str, Any]:
    """The fields of a draft, as they are."""
    return {field.name: getattr(draft, field.name) for field in fields(draft)}


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
    now = [_level_on(one, work.today) for one in await _outlooks(work, await policies_of(work, ids))]
    drafted = await policies_of(work, ids, draft.as_row(policy.version))
    read_again = _reads_otherwise(policy, present)
    then = [_level_on(one, work.today) for one in await _outlooks(work, drafted, read_again=read_again)]
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
    await store.add_policy(work.connection, **vars_of(draft))
    policy = await policy_in_force(work)
    await sampling.lock_association(work.connection)
    ids = [colony.id for colony in await sampling.counted_colonies(work.connection)]
    await _lay(work, ids, read_again=_reads_otherwise(policy, present))
    return policy


@dataclass(frozen=True, slots=True)
class ApiaryPolicyDraft:
    """What an apiary is to do otherwise than its association; None: as the association."""

    school: str | None
    scope: str | None
    calendar: dict[str, Any] | None
    levels: dict[str, Any] | None


@dataclass(frozen=True, slots=True)
class ApiaryPolicyView:
    """What judges at an apiary, what it does otherwise (None: nothing, ever), and what its association does."""

    apiary: places.Apiary
    policy: PolicyInForce
    house: PolicyInForce
    apart: ApiaryPolicy | None


async def apiary_policy(work: Work, apiary_id: UUID) -> ApiaryPolicyView:
    """The policy of an apiary beside that of its association. Raises NotFound."""
    apiary = await places.apiary(work.connection, apiary_id)
    apart = await store.apiary_policy(work.connection, apiary_id)
    return ApiaryPolicyView(apiary, await policy_in_force(work, apiary_id), await policy_in_force(work), apart)


async def set_apiary_policy(
    work: Work, apiary_id: UUID, draft: ApiaryPolicyDraft, seen_version: int, reason: str
) -> ApiaryPolicyView:
    """Let an apiary do otherwise than its association, or as it again, and judge its colonies anew.

    Raises NotFound, InvalidInput as `PolicyDraft.as_policy`, Conflict when it was changed meanwhile.
    """
    require(work.who, "set_apiary_policy")
    await places.apiary(work.connection, apiary_id)
    row, apart = await store.policy_in_force(work.connection), await store.apiary_policy(work.connection, apiary_id)
    if (apart.version if apart else 0) != seen_version:
        raise Conflict("the policy of this apiary was changed by somebody else meanwhile")
    own = {name: getattr(draft, name) for name in ("school", "scope", "calendar", "levels")}
    _in_force(row, ApiaryPolicy(apiary_id, seen_version + 1, datetime.min, "", reason, **own))
    await store.add_apiary_policy(work.connection, apiary_id, reason=reason, **own)
    ids = [colony.id for colony in await sampling.counted_colonies(work.connection, apiary_id)]
    await lay_standings(work, ids)
    return await apiary_policy(work, apiary_id)


async def lay_standings(work: Work, colony_ids: Sequence[UUID]) -> None:
    """Lay standings and outlooks of colonies anew from their counts and courses.

    The policy is read once they are held: one that came into force while this waited is the one that judges.
    """
    await sampling.lock_colonies(work.connection, colony_ids)
    await _lay(work, colony_ids, read_again=False)


async def _lay(work: Work, colony_ids: Sequence[UUID], *, read_again: bool) -> None:
    policies = await policies_of(work, colony_ids)
    outlooks = await _outlooks(work, policies, read_again=read_again, keep_readings=True)
    version = next(iter(policies.values())).version if policies else 0
    await sampling.lay_outlooks(work.connection, outlooks, version)


async def _outlooks(
    work: Work, policies: Mapping[UUID, PolicyInForce], *, read_again: bool = False, keep_readings: bool = False
) -> list[Outlook]:
    """What follows from the counts and courses of these colonies, each under its policy, in their order."""
    colony_ids = list(policies)
    since = work.today - timedelta(days=HISTORY_DAYS)
    counts = await sampling.counts_of_colonies(work.connection, colony_ids, since)
    if read_again:
        counts = await asyncio.to_thread(lambda: [_read_again(one, policies[one.colony_id]) for one in counts])
        if keep_readings:
            found = [(one.id, one.colony_id, reading) for one in counts if (reading := reading_on_record(one))]
            await sampling.lay_readings(work.connection, found)
    courses = await treatments.courses_of_colonies(work.connection, colony_ids)
    acts = await treatments.acts_of_courses(work.connection, [course.id for course in courses])
    verifying = {act.count_id for act in acts if act.step == "verify" and act.count_id is not None}
    own_courses: dict[UUID, list[Course]] = defaultdict(list)
    for course in courses:
        own_courses[course.colony_id].append(course)
    own_counts: dict[UUID, list[Count]] = defaultdict(list)
    # They come newest first; of two taken at one moment the one told last counts as the later.
    for count in reversed(counts):
        own_counts[count.colony_id].append(count)
    zone = work.zone

    def judge() -> list[Outlook]:
        return [
            _outlook(
                one, [counted(each, zone, each.id in verifying) for each in own_counts[one]], own_courses[one], policy
            )
            for one, policy in policies.items()
        ]

    # A whole association takes seconds: other people's requests go on meanwhile.
    return await asyncio.to_thread(judge) if len(colony_ids) > FEW_COLONIES else judge()


def counted(count: Count, zone: ZoneInfo, verifies: bool = False) -> Counted:
    """A count on record as the core judges it."""
    return Counted(count.id, count.taken_on, sample_of(count, zone), reading_on_record(count), verifies)


def spans_of(courses: Sequence[Course]) -> list[TreatmentSpan]:
    """When treatments were in a colony."""
    return [TreatmentSpan(course.placed_on, course.ended_on) for course in courses if course.placed_on is not None]


def _outlook(colony_id: UUID, counts: Sequence[Counted], courses: Sequence[Course], in_force: PolicyInForce) -> Outlook:
    policy, spans = in_force.policy, spans_of(courses)
    judged = judged_samples(counts, policy, spans)
    if not judged:
        return Outlook(colony_id, [], in_force.school, None, None, None, None)
    treated = [one.ended_on for one in courses if one.ended_on is not None and one.state != "abandoned"]
    last = judged[-1]
    due = recount_on(last.sample, policy)
    asked = prompted_on(counts, policy, spans)
    return Outlook(
        colony_id,
        standings([one.sample for one in judged], policy, treated),
        in_force.school,
        last.counted.id,
        last.counted.taken_on,
        last.reading,
        min(due, asked) if asked is not None else due,
    )


def _reads_otherwise(one: PolicyInForce, other: PolicyInForce) -> bool:
    """Whether counts read otherwise under two policies."""
    return one.basis != other.basis or one.scoop != other.scoop


def _read_again(count: Count, policy: PolicyInForce) -> Count:
    if count.method not in JAR_METHODS or count.bees_mean is None:
        return count
    known_by = cast(BeesKnownBy, count.bees_known_by)
    bees = bees_in_sample(known_by, bees=count.bees, volume_ml=count.volume_ml, mass_g=count.mass_g, scoop=policy.scoop)
    if bees is None:
        return count
    return replace(count, **asdict(reading_of(cast(JarMethod, count.method), count.shakes or [], bees, policy.basis)))


def reading_on_record(count: Count) -> AnyReading | None:
    """The reading that is kept beside a count."""
    if count.scale is None:
        return None
    kind: type[Reading] | type[FallReading] | type[CellReading] = {
        "mites_per_100": Reading, "mites_per_day": FallReading, "percent_of_cells": CellReading
    }[count.scale]  # fmt: skip
    return kind(**{field.name: getattr(count, field.name) for field in fields(kind)})


def school_list(policy: PolicyInForce) -> list[dict[str, Any]]:
    """The schools that an association can follow, with their levels by phase as it has them, their defaults beside."""
    return [
        {
            "id": school.id,
            "name": school.name,
            "says": school.says,
            "unit": school.unit,
            "source": school.source,
            "treats": school.treats,
            "levels": {phase: asdict(level) for phase, level in policy.levels_on(school.id).items()},
            "defaults": {phase: asdict(level) for phase, level in school.levels.items()},
        }
        for school in SCHOOLS.values()
    ]
