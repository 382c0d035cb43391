"""The policy in force, and laying the standings of a colony anew after anything that bears on them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from functools import lru_cache
from json import dumps, loads
from typing import Any, cast
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import ThresholdBasis
from redframe.core.sampling.wash import POOR_PLACES, reading_of
from redframe.core.thresholds.calendar import Calendar, month_day_index
from redframe.core.thresholds.schools import SCHOOLS, WASH_SCHOOLS, SchoolId, school_of
from redframe.core.thresholds.standing import Policy, Sample, recount_on, standings
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import sampling, treatments
from redframe.store import thresholds as store
from redframe.work.desk import Work
from redframe.work.roles import require

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


async def set_policy(
    work: Work,
    *,
    school: str,
    threshold_basis: str,
    scope: str,
    calendar: dict[str, Any],
    treatment_rules: dict[str, Any],
) -> PolicyInForce:
    """Put a new version of the policy in force and judge every colony by it.

    Raises InvalidInput for a calendar that does not exist, a school that judges no wash, or an option unknown to the
    catalogue.
    """
    require(work.who, "set_policy")
    Calendar.parse(calendar)
    if school not in WASH_SCHOOLS:
        raise InvalidInput("school", "is not a school that judges a wash", allowed=", ".join(WASH_SCHOOLS))
    for index, option in enumerate(treatment_rules.get("authorised") or []):
        default_catalogue().option(option, f"treatment_rules.authorised[{index}]")
    for field in ("honey_off", "cold"):
        if treatment_rules.get(field):
            month_day_index(treatment_rules[field], f"treatment_rules.{field}")
    await store.add_policy(
        work.connection,
        school=school,
        threshold_basis=threshold_basis,
        scope=scope,
        calendar=calendar,
        treatment_rules=treatment_rules,
    )
    policy = await policy_in_force(work)
    for colony_id in await sampling.counted_colonies(work.connection):
        await lay_standings(work, colony_id, policy, read_again=True)
    return policy


async def lay_standings(work: Work, colony_id: UUID, policy: PolicyInForce, *, read_again: bool = False) -> None:
    """Lay readings (when asked), standings and outlook of a colony anew from its counts and courses."""
    connection = work.connection
    await sampling.lock_colony(connection, colony_id)
    since = work.today - timedelta(days=HISTORY_DAYS)
    counts = await sampling.counts_of_colonies(connection, [colony_id], since)
    if read_again:
        for count in counts:
            if count.bees_mean is not None and count.bees_cv is not None:
                reading = reading_of(count.shakes, BeesInSample(count.bees_mean, count.bees_cv), policy.basis)
                await sampling.lay_reading(connection, count.id, colony_id, reading)
        counts = await sampling.counts_of_colonies(connection, [colony_id], since)
    courses = await treatments.courses_of_colonies(connection, [colony_id])
    acts = await treatments.acts_of_courses(connection, [course.id for course in courses])
    verifying = {act.count_id for act in acts if act.step == "verify" and act.count_id is not None}
    valid = sorted((count for count in counts if count.median is not None), key=lambda count: count.taken_at)
    samples = [
        Sample(
            taken_on=count.taken_on,
            median=count.median or 0.0,
            upper80=count.upper80 or 0.0,
            can_clear=(count.bees_mean or 0.0) >= 100 and count.place_of_bees not in (*POOR_PLACES, "unknown"),
            can_lower=count.place_of_bees not in POOR_PLACES,
            verifies=count.id in verifying,
        )
        for count in valid
    ]
    treated = [course.ended_on for course in courses if course.ended_on is not None and course.state != "abandoned"]
    path = standings(samples, policy.policy, treated)
    latest = valid[-1] if valid else None
    recount = recount_on(samples[-1], policy.policy) if samples else None
    await sampling.lay_outlook(connection, colony_id, path, latest, recount, policy.version)


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
