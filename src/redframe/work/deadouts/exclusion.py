"""That foulbrood was excluded for a colony that died: by a complete examination, or by a laboratory."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.colonies.states import is_lost
from redframe.core.errors import InvalidInput, Refused
from redframe.store import cases, colonies
from redframe.store import deadouts as store
from redframe.store.deadouts import FoundBy, NewExclusion
from redframe.store.errors import Conflict, NotFound
from redframe.work.colonies.changes import not_in_future
from redframe.work.deadouts.read import DeadOutView, view_of
from redframe.work.roles import may, require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class WantedExclusion:
    """Foulbrood is excluded: by what, on which day, under which reference of a laboratory, and why."""

    id: UUID
    found_by: FoundBy
    excluded_on: date
    reference: str
    why: str


async def exclude_foulbrood(unit: UnitOfWork, colony_id: UUID, wanted: WantedExclusion) -> None:
    """Record once that foulbrood is excluded: what the colony left may go on as its cause allows.

    By examination a mentor or an inspector may, where a closed one read every comb and suspects nothing; under a
    suspicion, or after contact with a case, only an inspector or an administrator, on the word of a laboratory. While a
    case of the colony is open nobody does: the case ends it. Raises Refused, InvalidInput naming the field, Conflict.
    """
    require(unit.who, "exclude_foulbrood")
    colony = await colonies.colony_for_update(unit.connection, colony_id)
    if not await unit.accept(wanted.id, "foulbrood_exclusion", {"colony": str(colony_id), **to_json(wanted)}):
        return
    not_in_future(unit, "excluded_on", wanted.excluded_on)
    if not is_lost(colony.state):
        raise Conflict("this colony did not die: it is examined like any other")
    if wanted.excluded_on < colony.state_since:
        raise InvalidInput("excluded_on", f"it died on {colony.state_since}", code="out_of_range")
    if await store.exclusion(unit.connection, colony_id) is not None:
        raise Conflict("foulbrood is excluded for it already")
    for disease in ("afb", "efb"):
        if await cases.open_case_of(unit.connection, colony_id, disease) is not None:
            raise Refused("exclude_case", "its suspect case is open: the case ends it", field="found_by")
    examined = await store.deadout_of_colony(unit.connection, colony_id)
    view = await view_of(unit, await store.deadout(unit.connection, examined)) if examined is not None else None
    if wanted.found_by == "laboratory":
        _check_laboratory(unit, wanted)
    else:
        _check_examination(view)
    new = NewExclusion(
        colony_id, examined if view is not None and view.state == "closed" else None, wanted.found_by,
        wanted.excluded_on, wanted.reference.strip(), wanted.why.strip(),
    )  # fmt: skip
    await store.add_exclusion(unit.connection, wanted.id, new)


def _check_laboratory(unit: UnitOfWork, wanted: WantedExclusion) -> None:
    if not may(unit.who, "release_combs"):
        raise Refused("exclude_laboratory", "an inspector records what the laboratory wrote", field="found_by")
    if not wanted.reference.strip():
        raise InvalidInput("reference", "give the number of the laboratory's report", code="missing")


def _check_examination(view: DeadOutView | None) -> None:
    if view is None or view.state != "closed":
        raise Refused("exclude_first", "examine it first, and close the examination", field="found_by")
    if view.reading.suspects_foulbrood:
        raise Refused("exclude_suspect", "foulbrood is suspected: only the laboratory excludes it", field="found_by")
    if "LAB_SAMPLE" in view.reading.flags:
        raise Refused("exclude_trace", "it was in contact with a case: the laboratory excludes it", field="found_by")
    if not view.is_complete:
        text = (
            f"scale was looked for on {view.combs.read} of {view.combs.of} combs: read every one in side light, and"
            " draw a match through remains"
        )
        raise Refused("exclude_incomplete", text, field="found_by")


async def withdraw_exclusion(unit: UnitOfWork, colony_id: UUID, why: str) -> None:
    """Withdraw an exclusion: everything that is left is held again. Raises NotFound where there is none."""
    require(unit.who, "exclude_foulbrood")
    if not await store.withdraw_exclusion(unit.connection, colony_id, unit.today, why.strip()):
        raise NotFound("exclusion")
