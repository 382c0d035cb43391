"""Colonies with their hives, queens, frames, holds and lineage."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated
from uuid import UUID

from fastapi import Path, Response

from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.colonies.schemas import (
    BroodEventInput,
    ColonyAmendment,
    ColonyInput,
    HarvestBarred,
    HarvestedRow,
    HarvestInput,
    HiveInput,
    HoldInput,
    LiftInput,
    MergeInput,
    MoveFrameInput,
    MoveInput,
    QueenAmendment,
    QueenInput,
    WithdrawBroodEvent,
    WithdrawHarvest,
)
from redframe.api.kept import OfColony
from redframe.api.treatments.schemas import ColonyView
from redframe.api.views import colony as colony_out
from redframe.core.treatments.overrides import Override
from redframe.store.brood import NewBroodEvent
from redframe.store.colonies import ColonyOverview
from redframe.store.frames import Frame, FrameMove
from redframe.store.harvests import Harvest
from redframe.store.hives import FrameFormat
from redframe.work.colonies import brood, frames, harvests, hives, holds, lineage, queens, read, record, undo
from redframe.work.colonies.queens import QueenView
from redframe.work.unit_of_work import UnitOfWork

ChangeId = Annotated[str, Path(pattern=r"^\d{1,20}$")]

router = topic("colonies")


@router.get("/frame-formats")
async def list_frame_formats(who: Who, services: TheServices) -> list[FrameFormat]:
    """The frame formats that a box may have."""
    async with services.unit_of_work(who) as unit:
        return await read.frame_formats(unit)


@router.post("/colonies", status_code=201)
async def add_colony(given: ColonyInput, who: Who, services: TheServices) -> ColonyOverview:
    """Add a colony, in a hive of its own or sharing one, possibly split from another."""
    async with services.unit_of_work(who) as unit:
        return await record.add_colony(unit, given.as_new())


@router.get("/colonies/{colony_id}", response_model=ColonyView)
async def read_colony(colony_id: UUID, asked: OfColony) -> Response:
    """A colony with its queen, lineage and every record in time order."""

    async def make(unit: UnitOfWork) -> ColonyView:
        return colony_out(await read.colony_view(unit, colony_id), unit.today)

    return await asked.answer(make)


@router.put("/colonies/{colony_id}")
async def amend_colony(
    colony_id: UUID, given: ColonyAmendment, version: Version, who: Who, services: TheServices
) -> ColonyOverview:
    """Renumber a colony or change its state; the history stays with it."""
    async with services.unit_of_work(who) as unit:
        return await record.amend_colony(
            unit, colony_id, version, label=given.label, state=given.state, state_since=given.state_since,
            note=given.note,
        )  # fmt: skip


@router.post("/colonies/{colony_id}/merge")
async def merge_colony(
    colony_id: UUID, given: MergeInput, version: Version, who: Who, services: TheServices
) -> ColonyOverview:
    """Merge a colony into another."""
    async with services.unit_of_work(who) as unit:
        return await lineage.merge(unit, colony_id, version, given.as_merger())


@router.put("/colonies/{colony_id}/place")
async def move_colony(
    colony_id: UUID, given: MoveInput, version: Version, who: Who, services: TheServices
) -> ColonyOverview:
    """Move a colony to another apiary or into another hive; its history goes with it."""
    async with services.unit_of_work(who) as unit:
        return await lineage.move(unit, colony_id, version, given.as_place())


@router.put("/colonies/{colony_id}/hive")
async def amend_hive(
    colony_id: UUID, given: HiveInput, version: Version, who: Who, services: TheServices
) -> ColonyOverview:
    """Record the boxes of a colony's hive as they stand from a day on; `If-Match` is the hive's version, or "0"."""
    async with services.unit_of_work(who, given.override_why) as unit:
        return await hives.amend_hive(unit, colony_id, version, given.as_change())


@router.post("/colonies/{colony_id}/queens", status_code=201)
async def add_queen(colony_id: UUID, given: QueenInput, who: Who, services: TheServices) -> Sequence[QueenView]:
    """Give a colony another queen; the queens of the colony, the latest first."""
    async with services.unit_of_work(who) as unit:
        return await queens.add_queen(unit, given.id, colony_id, given.as_record(), given.override_why)


@router.put("/colonies/{colony_id}/queen")
async def amend_queen(
    colony_id: UUID, given: QueenAmendment, version: Version, who: Who, services: TheServices
) -> Sequence[QueenView]:
    """Amend the current queen (`If-Match` is her version); the queens of the colony, the latest first."""
    async with services.unit_of_work(who) as unit:
        return await queens.amend_queen(unit, colony_id, version, given.as_record())


@router.post("/frame-moves", status_code=201)
async def move_frame(given: MoveFrameInput, who: Who, services: TheServices) -> list[Frame]:
    """Move a frame, or bring a new one in; the frames that moved, where they are now."""
    async with services.unit_of_work(who) as unit:
        return await frames.move_frame(unit, given.as_move())


@router.get("/colonies/{colony_id}/frame-moves")
async def list_frame_moves(colony_id: UUID, who: Who, services: TheServices) -> list[FrameMove]:
    """Frames that came to a colony and left it, newest first."""
    async with services.unit_of_work(who) as unit:
        return await frames.moves_of_colony(unit, colony_id)


@router.get("/apiaries/{apiary_id}/frames-in-store")
async def list_frames_in_store(apiary_id: UUID, who: Who, services: TheServices) -> list[Frame]:
    """Frames of an apiary in store or in the freezer."""
    async with services.unit_of_work(who) as unit:
        return await frames.frames_in_store(unit, apiary_id)


@router.post("/colonies/{colony_id}/hold", status_code=204)
async def hold_colony(colony_id: UUID, given: HoldInput, who: Who, services: TheServices) -> None:
    """Put a colony on hold."""
    async with services.unit_of_work(who) as unit:
        await holds.hold_colony(unit, colony_id, given.id, kind=given.kind, since=given.since, why=given.why)


@router.post("/colonies/{colony_id}/hold/lift", status_code=204)
async def lift_hold(colony_id: UUID, given: LiftInput, who: Who, services: TheServices) -> None:
    """Lift the hold of a colony."""
    async with services.unit_of_work(who) as unit:
        await holds.lift_hold(unit, colony_id, given.why)


@router.post("/colonies/{colony_id}/brood-events", status_code=204)
async def add_brood_event(colony_id: UUID, given: BroodEventInput, who: Who, services: TheServices) -> None:
    """Record what stopped the laying of a colony: its brood calendar counts from that day."""
    event = NewBroodEvent(colony_id, given.kind, given.happened_on, given.release_on)
    async with services.unit_of_work(who) as unit:
        await brood.add_brood_event(unit, given.id, event)


@router.post("/brood-events/{event_id}/withdraw", status_code=204)
async def withdraw_brood_event(event_id: UUID, given: WithdrawBroodEvent, who: Who, services: TheServices) -> None:
    """Say that it was not so; what was said stays on record."""
    async with services.unit_of_work(who, given.why) as unit:
        await brood.withdraw_brood_event(unit, event_id, given.why)


@router.post("/harvests", status_code=201)
async def record_harvest(given: HarvestInput, who: Who, services: TheServices) -> list[HarvestedRow]:
    """Record honey taken from colonies; one whose honey is not clear is left out and said."""
    override = Override("C04", given.override.authorised_by, given.override.reason) if given.override else None
    of = harvests.HarvestOf(given.harvested_on, given.honey_for, given.batch, given.note, override)
    taken = [harvests.Taken(one.id, one.colony_id, one.honey_kg) for one in given.rows]
    async with services.unit_of_work(who) as unit:
        rows = await harvests.record_harvest(unit, of, taken)
        return [
            HarvestedRow(
                colony_id=row.colony_id,
                label=row.label,
                held=row.held,
                barred=row.barred and HarvestBarred(option=row.barred.option.name, until=row.barred.until),
            )
            for row in rows
        ]


@router.get("/colonies/{colony_id}/harvests")
async def list_harvests(colony_id: UUID, who: Who, services: TheServices) -> list[Harvest]:
    """The honey taken from a colony, newest first."""
    async with services.unit_of_work(who) as unit:
        return await harvests.harvests_of(unit, colony_id)


@router.post("/harvests/{harvest_id}/withdraw", status_code=204)
async def withdraw_harvest(harvest_id: UUID, given: WithdrawHarvest, who: Who, services: TheServices) -> None:
    """Say that it was not so; what was said stays on record."""
    async with services.unit_of_work(who, given.why) as unit:
        await harvests.withdraw_harvest(unit, harvest_id, given.why)


@router.delete("/colonies/{colony_id}/changes/{change}", status_code=204)
async def undo_change(colony_id: UUID, change: ChangeId, who: Who, services: TheServices) -> None:
    """Undo what the same person changed of a colony a short while ago: a hold, a queen, its lineage, boxes, a frame."""
    async with services.unit_of_work(who) as unit:
        await undo.undo_change(unit, colony_id, change)
