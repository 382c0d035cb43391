"""What every change of a colony shares: its day, its label, its line in the lineage, and the holds that stand against
it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from uuid import UUID, uuid4

from redframe.core.colonies.holds import HeldAct, check
from redframe.core.colonies.lineage import EventKind
from redframe.core.errors import InvalidInput
from redframe.core.names import look_of
from redframe.store import colonies, holds
from redframe.work.roles import may
from redframe.work.unit_of_work import UnitOfWork


def not_in_future(unit: UnitOfWork, field: str, day: date) -> None:
    """Raise InvalidInput for a day that has not come yet."""
    if day > unit.today:
        raise InvalidInput(field, "lies in the future", code="out_of_range")


async def label_is_free(unit: UnitOfWork, apiary_id: UUID, label: str, own: UUID | None) -> None:
    """Raise InvalidInput("label") where another living colony of the apiary has a label that looks like this one."""
    found = await colonies.labels_of_apiary(unit.connection, apiary_id)
    for one in found:
        if one.id != own and look_of(one.label) == look_of(label):
            raise InvalidInput("label", f"another living colony here is {one.label}", code="taken")


async def release(unit: UnitOfWork, act: HeldAct, colony_ids: Sequence[UUID], why: str) -> str:
    """The hold that was set aside for an act ("" where none stands against it).

    Raises Refused where one does and nobody who may release it says why.
    """
    held = await holds.held_back(unit.connection, colony_ids, unit.today)
    reason = check(act, held, may_release=may(unit.who, "release_combs"), why=why)
    return f"hold_{reason}" if reason is not None else ""


async def add_event(
    unit: UnitOfWork,
    colony_id: UUID,
    kind: EventKind,
    on: date,
    *,
    other: UUID | None = None,
    previous: str = "",
    current: str = "",
    previous_apiary: UUID | None = None,
    rule: str = "",
    why: str = "",
    note: str = "",
) -> None:
    """Add a line to the lineage of a colony; `rule` is the hold that was set aside for it, `why` the reason."""
    await colonies.add_event(
        unit.connection,
        id=uuid4(),
        colony_id=colony_id,
        kind=kind,
        happened_on=on,
        other_colony_id=other,
        previous=previous,
        current=current,
        previous_apiary=previous_apiary,
        rule=rule,
        override_why=why if rule else "",
        note=note,
    )
