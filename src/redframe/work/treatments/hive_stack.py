"""The stack of boxes that a colony lives in, as the acts of a course find and change it."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import date
from uuid import UUID

from redframe.core.colonies.hive_state import Floor, HiveState, PlacedBox, WantedBox
from redframe.core.errors import InvalidInput, Refused
from redframe.store import colonies
from redframe.work.colonies.hive_state import state_of_hive
from redframe.work.colonies.hives import HiveChange, amend_hive
from redframe.work.unit_of_work import UnitOfWork

USUAL_HIVE = "stacked boxes"


async def hive_of_colony(unit: UnitOfWork, colony_id: UUID) -> HiveState | None:
    """The hive of a colony as it stands; None where none is on record."""
    colony = await colonies.colony(unit.connection, colony_id)
    return await state_of_hive(unit, colony.hive_id) if colony.hive_id is not None else None


async def hive_alone(unit: UnitOfWork, colony_id: UUID) -> HiveState | None:
    """The hive of a colony, whose boxes are its own. Raises Refused where another lives in it."""
    state = await hive_of_colony(unit, colony_id)
    other = next((one.label for one in state.colonies if one.id != colony_id), None) if state is not None else None
    if other is not None:
        raise Refused("shared_hive", f"{other} lives in this hive too: give one of them a hive of its own first")
    return state


def own_slots(state: HiveState | None, colony_id: UUID) -> dict[UUID, list[int]]:
    """The slots of each box that are the colony's own: another may live on the other side of a divider."""
    if state is None:
        return {}
    return {
        box.id: [slot for slot in range(1, box.frames + 1) if state.owner(slot) == colony_id] for box in state.boxes
    }


def stays(box: PlacedBox) -> WantedBox:
    """A box that stays where it stands."""
    return WantedBox(box.purpose, box.frame_format, box.frames, box.id)


def without(boxes: Sequence[PlacedBox], going: Collection[UUID | None]) -> list[WantedBox]:
    """The boxes that stay when some go."""
    return [stays(box) for box in boxes if box.id not in going]


def on_the_nest(placed: Sequence[WantedBox], new: Sequence[WantedBox]) -> list[WantedBox]:
    """New boxes on top of the brood boxes, below what else stands there."""
    nest = max((at for at, box in enumerate(placed, start=1) if box.purpose == "brood"), default=len(placed))
    return [*placed[:nest], *new, *placed[nest:]]


async def change_boxes(
    unit: UnitOfWork,
    colony_id: UUID,
    state: HiveState | None,
    on: date,
    boxes: Sequence[WantedBox],
    floor: Floor | None = None,
) -> None:
    """Change the boxes of a colony's hive on a day. Raises InvalidInput naming `done_on`, Conflict."""
    wanted = HiveChange(state.hive.hive_type if state is not None else USUAL_HIVE, boxes, on, floor)
    try:
        await amend_hive(unit, colony_id, state.hive.version if state is not None else 0, wanted, in_course=True)
    except InvalidInput as error:
        field = "done_on" if error.field == "on" else error.field
        raise InvalidInput(field, error.message, code=error.code) from error
