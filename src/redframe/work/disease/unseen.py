"""What the examinations at an apiary say of each notifiable disease being there unseen."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.disease.evidence import Context
from redframe.core.disease.unseen import ColonyLooked, Looked, Unseen, unseen_at
from redframe.core.inputs import read
from redframe.core.visits.disease_reading import MASKS
from redframe.core.visits.evidence import season_of, season_of_phase
from redframe.core.visits.examination import Examination
from redframe.store import colonies, disease, places
from redframe.store.database import together
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork

BACK = timedelta(days=3 * 366)
"""Examinations that are older take nothing off any more: time has given all of it back."""


@dataclass(frozen=True, slots=True)
class UnseenHere:
    """The notifiable diseases at an apiary, and how many colonies live there."""

    today: date
    apiary: str
    colonies: int
    diseases: list[Unseen]


async def unseen_here(unit: UnitOfWork, apiary_id: UUID) -> UnseenHere:
    """The chance of each notifiable disease being at an apiary unseen. Raises NotFound."""
    apiary = await places.apiary(unit.connection, apiary_id)
    there = await colonies.colonies_of_apiary(unit.connection, apiary_id, unit.today)
    living = [one for one in there if one.is_living]
    ids = [one.id for one in living]
    async with together(unit.connection) as begin:
        of_colonies = begin(disease.examinations_of_colonies(unit.connection, ids, unit.today - BACK))
        of_suspects = begin(disease.suspicious_colonies(unit.connection, ids))
        of_policy = begin(policy_in_force(unit, apiary_id))
    policy, suspects = of_policy.result(), set(of_suspects.result())
    looked: dict[UUID, list[Looked]] = defaultdict(list)
    for row in of_colonies.result():
        examined = read(Examination, row.examination)
        if MASKS in examined.lately:
            continue
        season = row.season or (season_of_phase(row.phase) if row.phase is not None else "summer")
        looked[row.colony_id].append(Looked(row.visited_on, season, dict(examined.absences()), examined.all_shaken))
    region, now = policy.region, policy.calendar.treatment_season(unit.today, policy.honey_off)
    context = Context(
        season_of(now), region.afb_level, region.efb_level, region.shb_established, region.tropilaelaps_present
    )
    found = [ColonyLooked(one.label, looked[one.id], one.id in suspects) for one in living]
    return UnseenHere(unit.today, apiary.name, len(living), unseen_at(found, context, unit.today))
