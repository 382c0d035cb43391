"""Where each comb and box of a dead colony goes: what is open to each, what was decided, and that it was done."""

from __future__ import annotations

from collections.abc import Sequence, Set
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.cases.states import CaseState
from redframe.core.colonies.frame_places import Away
from redframe.core.colonies.hive_state import WantedBox
from redframe.core.deadouts.fates import FateId, FateJudged, HeldWhy, ItemFacts, ItemKind, fates_for
from redframe.core.errors import InvalidInput, Refused
from redframe.store import cases, colonies, frames, hives, holds
from redframe.store import deadouts as store
from redframe.store.cases import CaseRow
from redframe.store.deadouts import Exclusion, Fate
from redframe.store.frames import Frame
from redframe.work.colonies.changes import not_in_future
from redframe.work.colonies.frames import take_out
from redframe.work.colonies.hive_state import state_of_hive
from redframe.work.colonies.hives import HiveChange, amend_hive
from redframe.work.deadouts.facts import BoxThen, CombThen
from redframe.work.deadouts.read import DeadOutView, view_of
from redframe.work.roles import may, require
from redframe.work.unit_of_work import UnitOfWork

GOES_TO: dict[FateId, Away] = {
    "freeze": "freezer",
    "melt": "melted",
    "burn": "burned",
    "extract": "store",
    "vapour": "store",
}
"""Where a comb is when its fate was carried out."""
ORDERED: frozenset[CaseState] = frozenset(
    {"order_issued", "order_done", "reinspect_due", "reinspected_clear", "reinspected_positive"}
)
"""States of a case in which an order says what is burned."""
STAY_WITH_HIVE = frozenset({"hold", "laboratory"})
"""Fates that nobody carries out here."""


@dataclass(frozen=True, slots=True)
class ItemView:
    """A comb of a dead colony, or a box (`frame_id` None): its place when the hive was opened, the ways that are open
    to it, and what was decided ("hold" where nothing was)."""

    kind: ItemKind
    box_id: UUID
    frame_id: UUID | None
    box: int
    slot: int | None
    comb_year: int | None
    is_there: bool
    ways: Sequence[FateJudged]
    fate: FateId
    decided_on: date | None
    done_on: date | None
    reason: str
    by_name: str


@dataclass(frozen=True, slots=True)
class FatesView:
    """All items of a dead colony; `held`: why nothing leaves yet (None: released); `exclusion`: by what and whom; who
    asks may exclude by examination, or by laboratory."""

    colony_id: UUID
    deadout_id: UUID
    label: str
    today: date
    held: HeldWhy | None
    exclusion: Exclusion | None
    case_number: str | None
    may_exclude: bool
    may_exclude_by_laboratory: bool
    medicines_declared: bool
    items: Sequence[ItemView]


async def fates_view(unit: UnitOfWork, colony_id: UUID) -> FatesView:
    """Where the combs and boxes of a dead colony go. Raises NotFound where it was not opened."""
    await colonies.colony(unit.connection, colony_id)
    examined = await store.deadout_of_colony(unit.connection, colony_id)
    if examined is None:
        raise Refused("fate_first", "begin its examination first: that says what is left of it")
    view = await view_of(unit, await store.deadout(unit.connection, examined))
    exclusion = await store.exclusion(unit.connection, colony_id)
    case = await _open_case(unit, colony_id)
    held = await _held(unit, view, exclusion, case)
    decided = {(one.box_id, one.frame_id): one for one in await store.fates(unit.connection, colony_id)}
    there = {
        one.id for one in await store.frames_by_id(unit.connection, [comb.frame_id for comb in view.place.combs])
        if one.box_id is not None
    }  # fmt: skip
    hive = view.place.hive_id
    stands = {one.id for one in await hives.boxes_of_hive(unit.connection, hive)} if hive is not None else set[UUID]()
    position = {one.box_id: one.position for one in view.place.boxes}
    facts = _Facts(view, held, by_order=case is not None and case.state in ORDERED)
    items = [
        _item(facts.of_comb(comb), position[comb.box_id], comb, comb.frame_id in there, decided)
        for comb in view.place.combs
        if comb.box_id in position
    ]
    items += [
        _box_item(facts.of_box(), box, box.box_id in stands, decided) for box in view.place.boxes if box.frames > 0
    ]
    return FatesView(
        colony_id=colony_id, deadout_id=view.id, label=view.place.label, today=unit.today, held=held,
        exclusion=exclusion, case_number=case.number if case is not None else None,
        may_exclude=may(unit.who, "exclude_foulbrood"),
        may_exclude_by_laboratory=may(unit.who, "release_combs"), medicines_declared=facts.declared, items=items,
    )  # fmt: skip


async def _open_case(unit: UnitOfWork, colony_id: UUID) -> CaseRow | None:
    for disease in ("afb", "efb"):
        found = await cases.open_case_of(unit.connection, colony_id, disease)
        if found is not None:
            return await cases.case(unit.connection, found)
    return None


async def _held(
    unit: UnitOfWork, view: DeadOutView, exclusion: Exclusion | None, case: CaseRow | None
) -> HeldWhy | None:  # fmt: skip
    """Why nothing leaves: its own case and the standstill of its apiary first, then what the examination leaves
    open."""
    if case is not None:
        return "case"
    for held in await holds.held_back(unit.connection, [view.colony_id], unit.today):
        if held.standstill is not None:
            return "standstill"
        if held.hold_kind is not None:
            return "hold"
    if exclusion is None:
        flags = view.reading.flags
        return "suspect" if view.reading.suspects_foulbrood else "trace" if "LAB_SAMPLE" in flags else "uncleared"
    residue = next((one.record.residue_result for one in view.steps if one.step == "record"), None)
    return "poison" if "POISON_SAMPLE" in view.reading.flags and residue is None else None


class _Facts:
    """What all items of a hive share."""

    def __init__(self, view: DeadOutView, held: HeldWhy | None, *, by_order: bool) -> None:
        self._view, self._held, self._by_order = view, held, by_order
        steps = {one.step: one.record for one in view.steps}
        record = steps.get("record")
        self.declared = bool(record is not None and record.medicines_declared)
        self._medicine_open = bool(record is not None and record.medicines_open)
        self._brood = {
            (comb.box_id, comb.slot) for comb in (steps["combs"].combs if "combs" in steps else []) if comb.had_brood
        }
        self._supers = {one.box_id for one in view.place.boxes if one.purpose == "super"}

    def _signs(self, comb: CombThen | None) -> set[str]:
        """The signs on a comb, or on any of them."""
        combs = next((one.record.combs for one in self._view.steps if one.step == "combs"), [])
        return {
            sign.sign
            for one in combs
            if comb is None or (one.box_id, one.slot) == (comb.box_id, comb.slot)
            for sign in one.signs
            if sign.is_there
        }

    @property
    def _cause(self) -> str:
        return self._view.reading.leader

    def of_comb(self, comb: CombThen) -> ItemFacts:
        """A comb; one in a super, or in the brood nest without any brood, is honey comb."""
        signs = self._signs(comb)
        honey = comb.box_id in self._supers and (comb.box_id, comb.slot) not in self._brood
        age = self._view.today.year - comb.comb_year if comb.comb_year is not None else None
        mould = next(
            (int(one.value) if isinstance(one.value, float) else 1
             for step in self._view.steps for one in step.record.signs if one.sign == "d_mould" and one.is_there), 0,
        )  # fmt: skip
        return ItemFacts(
            "honey_comb" if honey else "brood_comb", self._cause, self._held, age,
            streaks="d_dysentery_in" in signs, slime="d_shb_larvae_slime" in signs, moth="d_moth_webbing" in signs,
            mould=mould, medicine_open=self._medicine_open, declared=self.declared, by_order=self._by_order,
        )  # fmt: skip

    def of_box(self) -> ItemFacts:
        """A box."""
        slime = "d_shb_larvae_slime" in self._signs(None)
        return ItemFacts("box", self._cause, self._held, slime=slime, by_order=self._by_order)


def _item(
    facts: ItemFacts, position: int, comb: CombThen, is_there: bool, decided: dict[tuple[UUID, UUID | None], Fate]
) -> ItemView:  # fmt: skip
    known = decided.get((comb.box_id, comb.frame_id))
    return ItemView(
        facts.kind, comb.box_id, comb.frame_id, position, comb.slot, comb.comb_year, is_there, fates_for(facts),
        *_decided(known),
    )  # fmt: skip


def _box_item(
    facts: ItemFacts, box: BoxThen, is_there: bool, decided: dict[tuple[UUID, UUID | None], Fate]
) -> ItemView:  # fmt: skip
    known = decided.get((box.box_id, None))
    return ItemView(
        "box", box.box_id, None, box.position, None, None, is_there, fates_for(facts), *_decided(known)
    )  # fmt: skip


def _decided(known: Fate | None) -> tuple[FateId, date | None, date | None, str, str]:
    if known is None:
        return "hold", None, None, "", ""
    return known.fate, known.decided_on, known.done_on, known.reason, known.by_name


@dataclass(frozen=True, slots=True)
class Item:
    """A comb, or a box (`frame_id` None)."""

    box_id: UUID
    frame_id: UUID | None


async def decide_fates(
    unit: UnitOfWork, colony_id: UUID, items: Sequence[Item], fate: FateId, reason: str
) -> FatesView:
    """Decide where some combs or boxes go. One that is not the usual way asks for a reason.

    Raises InvalidInput naming `items` for one that is not of this colony or was carried out, Refused for a way that is
    barred.
    """
    require(unit.who, "record")
    view = await fates_view(unit, colony_id)
    known = {(one.box_id, one.frame_id): one for one in view.items}
    for number, item in enumerate(items):
        one = known.get((item.box_id, item.frame_id))
        if one is None:
            raise InvalidInput(f"items[{number}]", "is not of this colony", code="unknown")
        if one.done_on is not None:
            raise InvalidInput(f"items[{number}]", "was carried out already", code="taken")
        way = next((each for each in one.ways if each.fate == fate), None)
        if way is None or way.ruling == "barred":
            raise Refused("fate_barred", _barred(one, way), field="fate")
        if way.ruling == "open" and fate != "hold" and not reason.strip():
            raise InvalidInput("reason", "say why: it is not the usual way", code="missing")
    pairs = [(one.box_id, one.frame_id) for one in items]
    await store.decide_fates(unit.connection, colony_id, pairs, fate, unit.today, reason.strip())
    return await fates_view(unit, colony_id)


def _barred(item: ItemView, way: FateJudged | None) -> str:
    what = f"box {item.box}" if item.slot is None else f"comb {item.slot} of box {item.box}"
    if way is None:
        return f"{what} does not go this way after such a death"
    return f"{what}: not this way"


async def carry_out(unit: UnitOfWork, colony_id: UUID, fate: FateId, on: date) -> FatesView:
    """Say that all items that were to go one way went it: combs leave the hive for where they are now, boxes are taken
    off. Raises Refused where they are held again, InvalidInput for a day to come or where nothing waits for it."""
    require(unit.who, "record")
    not_in_future(unit, "on", on)
    view = await fates_view(unit, colony_id)
    waiting = [one for one in view.items if one.fate == fate and one.done_on is None and fate not in STAY_WITH_HIVE]
    if not waiting:
        raise InvalidInput("fate", "nothing waits for this", code="missing")
    for one in waiting:
        way = next((each for each in one.ways if each.fate == fate), None)
        if way is None or way.ruling == "barred":
            raise Refused("fate_barred", _barred(one, way), field="fate")
    if any(one.decided_on is not None and on < one.decided_on for one in waiting):
        raise InvalidInput("on", "lies before the day on which it was decided", code="out_of_range")
    decided = {(one.box_id, one.frame_id): one for one in await store.fates(unit.connection, colony_id)}
    combs = [one.frame_id for one in waiting if one.frame_id is not None and one.is_there]
    await _take_combs(unit, combs, GOES_TO.get(fate, "store"), on, fate)
    if fate == "burn":
        await _burn_boxes(unit, colony_id, {one.box_id for one in waiting if one.frame_id is None}, on)
    await store.fates_done(unit.connection, [decided[one.box_id, one.frame_id].id for one in waiting], on)
    return await fates_view(unit, colony_id)


async def _take_combs(
    unit: UnitOfWork, frame_ids: Sequence[UUID], to: Away, on: date, fate: FateId
) -> None:  # fmt: skip
    taken: list[Frame] = await store.frames_by_id(unit.connection, frame_ids)
    by_hive: dict[UUID, list[Frame]] = {}
    for box_id in {frame.box_id for frame in taken if frame.box_id is not None}:
        hive_id = await frames.hive_of_box(unit.connection, box_id)
        if hive_id is not None:
            by_hive.setdefault(hive_id, []).extend(one for one in taken if one.box_id == box_id)
    for hive_id, own in by_hive.items():
        await take_out(unit, await state_of_hive(unit, hive_id), own, to, on, f"dead colony: {fate}")


async def _burn_boxes(unit: UnitOfWork, colony_id: UUID, burned: Set[UUID], on: date) -> None:
    """Boxes that were burned no longer stand."""
    colony = await colonies.colony(unit.connection, colony_id)
    if not burned or colony.hive_id is None:
        return
    hive = await hives.hive(unit.connection, colony.hive_id)
    left = [
        WantedBox(one.purpose, one.frame_format, one.frames, one.id)
        for one in await hives.boxes_of_hive(unit.connection, hive.id)
        if one.id not in burned
    ]
    await amend_hive(unit, colony_id, hive.version, HiveChange(hive.hive_type, left, on), in_course=True)
