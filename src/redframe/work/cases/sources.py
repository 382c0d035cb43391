"""Sources that the open cases of a disease have in common."""

from __future__ import annotations

import asyncio
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.cases.states import CaseDisease
from redframe.core.tracing.movements import Movement, Stay, band_of
from redframe.core.tracing.sources import CommonSource, common_sources
from redframe.core.tracing.traces import Reached, trace
from redframe.core.tracing.windows import window
from redframe.store import cases as store
from redframe.store import tracing
from redframe.store.cases import CaseRow
from redframe.store.database import together
from redframe.work.cases.trace_names import Names, stays_of
from redframe.work.cases.traces import Leg, for_inspectors, legs_of
from redframe.work.unit_of_work import UnitOfWork

MOST_TRACED = 24
"""The newest so many open cases of a disease are traced."""
MOST_SHOWN = 40


@dataclass(frozen=True, slots=True)
class SourceOfCase:
    """The riskiest way from a common source to a case."""

    case_id: UUID
    number: str
    label: str
    risk: float
    on: date
    path: list[Leg]


@dataclass(frozen=True, slots=True)
class Source:
    """A colony, a comb or a place elsewhere from which several cases of a disease may have come."""

    disease: CaseDisease
    colony_id: UUID | None
    place: str
    apiary: str
    band: str
    cases: list[SourceOfCase]


async def sources_in_common(unit: UnitOfWork) -> list[Source]:
    """What the open cases of each disease have in common, the most cases first. Raises NotAllowed for who is no
    inspector or administrator."""
    for_inspectors(unit)
    rows = [
        one for one in await store.cases(unit.connection, apiary_id=None, closed=False) if one.state != "not_supported"
    ]
    of_disease: dict[CaseDisease, list[CaseRow]] = {}
    for row in rows:
        of_disease.setdefault(row.disease, []).append(row)
    several = {disease: found[:MOST_TRACED] for disease, found in of_disease.items() if len(found) > 1}
    if not several:
        return []
    back_to = min(window(one.disease, one.found_on, None).back_to for found in several.values() for one in found)
    async with together(unit.connection) as begin:
        of_log = begin(tracing.movements(unit.connection, back_to, unit.today))
        of_stays = begin(tracing.stays(unit.connection))
        of_elsewhere = begin(tracing.places_elsewhere(unit.connection, back_to))
    log, there = of_log.result(), of_stays.result()
    names = Names(there, of_elsewhere.result())
    return await asyncio.to_thread(_found, several, log, stays_of(there), names)


def _found(
    several: Mapping[CaseDisease, Sequence[CaseRow]], log: Sequence[Movement], stood: Sequence[Stay], names: Names
) -> list[Source]:
    found = []
    for disease, rows in several.items():
        traced = {str(row.id): _back(row, log, stood) for row in rows}
        by_id = {str(row.id): row for row in rows}
        common = common_sources(traced, {str(row.id): str(row.colony_id) for row in rows})
        found += [_source(disease, one, by_id, names) for one in common[:MOST_SHOWN]]
    return found


def _back(row: CaseRow, log: Sequence[Movement], stood: Sequence[Stay]) -> list[Reached]:
    days = window(row.disease, row.found_on, None)
    return trace(
        log, stood, str(row.colony_id), row.disease, since=days.back_to, until=row.found_on, direction="backward"
    )


def _source(disease: CaseDisease, common: CommonSource, rows: Mapping[str, CaseRow], names: Names) -> Source:
    on = min(path.on for path in common.paths.values())
    ways = sorted(common.paths.items(), key=lambda item: (-item[1].risk, rows[item[0]].number))
    cases = [
        SourceOfCase(rows[case].id, rows[case].number, rows[case].label, path.risk, path.on, legs_of(path, names))
        for case, path in ways
    ]
    colony = UUID(common.place) if common.place in names.rows else None
    return Source(
        disease, colony, names.of(common.place, on), names.apiary(common.place, on), band_of(ways[0][1].risk), cases
    )
