"""What every change of a colony shares: its day, its label, its line in the lineage, and the holds that stand against
it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date
from uuid import UUID, uuid4

from redframe.core.colonies.holds import IF_IT_HAPPENED, HeldAct, HeldBack, check, standstill_text
from redframe.core.colonies.lineage import EventKind
from redframe.core.errors import InvalidInput, Refused
from redframe.core.names import look_of
from redframe.store import cases, colonies, holds
from redframe.work.roles import may
from redframe.work.unit_of_work import UnitOfWork

HAPPENED: Mapping[HeldAct, str] = {
    "comb_out": "a comb was hung elsewhere",
    "merge": "a colony was merged",
    "receive_merger": "a colony received another",
    "split": "a colony was split",
    "move": "a colony was moved away",
    "rehouse": "a colony was put into another hive",
    "house": "a colony was put into a hive that stands still",
    "requeen": "a colony got another queen",
    "boxes": "boxes came onto a hive or were taken off",
    "treat": "a colony was treated",
    "honey": "honey was taken for people",
    "honey_for_bees": "honey was taken for bees",
}
"""What a case notes where it was done under its standstill."""


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


async def release(
    unit: UnitOfWork, act: HeldAct, colony_ids: Sequence[UUID], why: str, *, on: date | None = None
) -> str:
    """The hold that was set aside for an act of a day, today if none is said ("" where none stands against it). What
    happened under a standstill is noted in its case.

    Raises Refused where a hold stands against it and nobody who may set it aside says why.
    """
    held = await _held_on(unit, colony_ids, on or unit.today)
    reason = check(act, held, may_release=may(unit.who, "release_combs"), why=why)
    if reason is None:
        return ""
    await _note_anyway(
        unit, {one.standstill_case for one in held if one.standstill_case is not None}, HAPPENED[act], why
    )
    return f"hold_{reason}"


async def _held_on(unit: UnitOfWork, colony_ids: Sequence[UUID], on: date) -> list[HeldBack]:
    """What holds these colonies back today, and the standstill that they lay under on the day of the act."""
    now = await holds.held_back(unit.connection, colony_ids, unit.today)
    if on == unit.today:
        return now
    then = {one.colony_id: one for one in await holds.held_back(unit.connection, colony_ids, on)}
    return [
        one if one.standstill is not None else replace(
            one, standstill=then[one.colony_id].standstill, standstill_case=then[one.colony_id].standstill_case
        )
        for one in now
    ]  # fmt: skip


async def come_in(unit: UnitOfWork, apiary_ids: Sequence[UUID], why: str, *, on: date | None = None) -> str:
    """The standstill under which bees, combs or hives come to these apiaries ("" where none holds).

    Raises Refused where one does and nobody says why it happened.
    """
    days = {unit.today, on or unit.today}
    found = [one for day in days for one in await holds.standstills(unit.connection, apiary_ids, day)]
    if not found:
        return ""
    if not why.strip():
        text = f"{found[0].apiary}: {standstill_text(found[0].kind, found[0].number)}: {IF_IT_HAPPENED}"
        raise Refused("hold_standstill", text, field="override_why", can_override=True)
    await _note_anyway(unit, {one.number for one in found}, "bees, combs or hives came in", why)
    return "hold_standstill"


async def note_anyway(unit: UnitOfWork, act: HeldAct, held: Sequence[HeldBack], why: str) -> None:
    """Note in the cases under whose standstill these colonies lie that an act was done all the same."""
    await _note_anyway(
        unit, {one.standstill_case for one in held if one.standstill_case is not None}, HAPPENED[act], why
    )


async def note_movement(unit: UnitOfWork, held: Sequence[HeldBack], kind: str, why: str) -> None:
    """Note in the cases under whose standstill these colonies lie that something came or went, as it was told later."""
    numbers = {one.standstill_case for one in held if one.standstill_case is not None}
    await _note_anyway(unit, numbers, f"recorded that something came or went ({kind.replace('_', ' ')})", why)


async def _note_anyway(unit: UnitOfWork, numbers: set[str], what: str, why: str) -> None:
    for number in sorted(numbers):
        said = {"text": f"{what}: {why.strip()}" if why.strip() else what}
        await cases.add_anyway(unit.connection, number, said, unit.now, unit.today)


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
