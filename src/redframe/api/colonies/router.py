"""Colonies, queens, lineage and visits."""

from __future__ import annotations

from uuid import UUID

from fastapi import APIRouter

from redframe.api import views as present
from redframe.api.access import TheDesk, Version, Who
from redframe.api.colonies.schemas import (
    ColonyAmendment,
    ColonyInput,
    FrameFormat,
    HiveInput,
    MergeInput,
    MoveInput,
    QueenInput,
    QueenView,
    Visit,
    VisitInput,
)
from redframe.api.places.schemas import ColonyRow
from redframe.api.treatments.schemas import ColonyView
from redframe.core.errors import InvalidInput
from redframe.work.colonies import hives as colonies_hives
from redframe.work.colonies import lineage as colonies_lineage
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record

router = APIRouter(tags=["colonies"])


@router.get("/frame-formats")
async def frame_formats(who: Who, desk: TheDesk) -> list[FrameFormat]:
    """The frame formats that a box may have."""
    async with desk.work(who) as work:
        return [FrameFormat.model_validate(one) for one in await colonies_read.frame_formats(work)]


@router.post("/colonies", status_code=201)
async def add_colony(given: ColonyInput, who: Who, desk: TheDesk) -> ColonyRow:
    """Add a colony, in a hive of its own or sharing one, possibly split from another."""
    async with desk.work(who) as work:
        added = await colonies_record.add_colony(
            work,
            given.id,
            apiary_id=given.apiary_id,
            label=given.label,
            since=given.since,
            note=given.note,
            hive_id=given.hive_id,
            hive_type=given.hive_type,
            boxes=[box.model_dump() for box in given.boxes],
            queen=given.queen.model_dump() if given.queen else None,
            split_from=given.split_from,
        )
        return ColonyRow.model_validate(added)


@router.get("/colonies/{colony_id}")
async def one_colony(colony_id: UUID, who: Who, desk: TheDesk) -> ColonyView:
    """A colony with its queen, lineage and every record in time order."""
    async with desk.work(who) as work:
        return present.colony(await colonies_read.colony_view(work, colony_id), work.today)


@router.put("/colonies/{colony_id}")
async def amend_colony(colony_id: UUID, given: ColonyAmendment, version: Version, who: Who, desk: TheDesk) -> ColonyRow:
    """Renumber a colony or change its state; the history stays with it."""
    async with desk.work(who) as work:
        amended = await colonies_record.amend_colony(work, colony_id, version, **given.model_dump())
        return ColonyRow.model_validate(amended)


@router.post("/colonies/{colony_id}/merge")
async def merge_colony(colony_id: UUID, given: MergeInput, version: Version, who: Who, desk: TheDesk) -> ColonyRow:
    """Merge a colony into another."""
    async with desk.work(who) as work:
        merged = await colonies_lineage.merge(work, colony_id, version, given.into, given.on, given.note)
        return ColonyRow.model_validate(merged)


@router.put("/colonies/{colony_id}/place")
async def move_colony(colony_id: UUID, given: MoveInput, version: Version, who: Who, desk: TheDesk) -> ColonyRow:
    """Move a colony to another apiary or into another hive; its history goes with it."""
    async with desk.work(who) as work:
        fields = given.model_dump()
        return ColonyRow.model_validate(await colonies_lineage.move(work, colony_id, version, **fields))


@router.put("/colonies/{colony_id}/hive")
async def amend_hive(colony_id: UUID, given: HiveInput, version: Version, who: Who, desk: TheDesk) -> ColonyRow:
    """Record the boxes of a colony's hive as they stand from a day on; `If-Match` is the hive's version, or "0"."""
    async with desk.work(who) as work:
        fields = given.model_dump(exclude={"divider"})
        divider = colonies_hives.Divider(given.divider.after, given.divider.side) if given.divider is not None else None
        amended = await colonies_hives.amend_hive(work, colony_id, version, divider=divider, **fields)
        return ColonyRow.model_validate(amended)


@router.put("/colonies/{colony_id}/queen")
async def set_queen(colony_id: UUID, given: QueenInput, who: Who, desk: TheDesk) -> list[QueenView]:
    """Put a new queen in office, or amend the present one."""
    async with desk.work(who) as work:
        queens = await colonies_record.set_queen(work, colony_id, **given.model_dump())
        return [QueenView.model_validate(one) for one in queens]


@router.post("/visits", status_code=201)
async def record_visit(given: VisitInput, who: Who, desk: TheDesk) -> Visit:
    """Record what a visit found of the colony as a whole."""
    if (given.strength is None) != (given.strength_unit is None):
        raise InvalidInput("strength_unit", "strength needs its unit: frames or seams of bees", code="missing")
    async with desk.work(who) as work:
        fields = given.model_dump(exclude={"id", "colony_id", "visited_on"})
        found = await colonies_record.record_visit(
            work, given.id, colony_id=given.colony_id, visited_on=given.visited_on, **fields
        )
        return Visit.model_validate(found)
