"""What works here: verified courses of an association taken together, by option and apiary."""

from __future__ import annotations

import asyncio
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.season.calendar import TreatmentSeason
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.states import outcome_of
from redframe.core.treatments.what_works import Checked, CountPair, OptionEfficacy, what_works
from redframe.store import places
from redframe.store import treatments as store
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork

YEARS_BACK = 5


@dataclass(frozen=True, slots=True)
class WhatWorks:
    """Options with what was verified of them since a day; `apiaries`: names of those that they were given in."""

    since: date
    season: TreatmentSeason | None
    options: Sequence[OptionEfficacy]
    apiaries: Mapping[UUID, str]


async def what_works_here(
    unit: UnitOfWork, since: date | None = None, season: TreatmentSeason | None = None
) -> WhatWorks:  # fmt: skip
    """Courses placed since a day (five years where none is named), of one season of treating or of all."""
    begin = since or unit.today.replace(year=unit.today.year - YEARS_BACK, day=1)
    policy = await policy_in_force(unit)
    found = [
        Checked(one.apiary_id, one.option_id, outcome_of(one.state), _counts(one))
        for one in await store.verified_courses(unit.connection, begin)
        if season is None or policy.calendar.treatment_season(one.placed_on, policy.honey_off) == season
    ]
    names = {one.id: one.name for one in await places.apiary_names(unit.connection)}
    options = await asyncio.to_thread(what_works, default_catalogue().options, found)
    given_in = {one.apiary_id for one in found}
    return WhatWorks(begin, season, options, {key: name for key, name in names.items() if key in given_in})


def _counts(course: store.CheckedCourse) -> CountPair | None:
    """Its counts, where they can be compared: one that was too old, too early or too late cannot."""
    before, after = course.mites_before, course.mites_after
    if course.why_not not in (None, "not_sure") or before is None or after is None:
        return None
    if not course.bees_before or not course.bees_after:
        return None
    change = 1.0
    if course.neighbours_before and course.neighbours_after:
        change = course.neighbours_after / course.neighbours_before
    return CountPair(before, course.bees_before, after, course.bees_after, change)
