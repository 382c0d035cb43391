"""The ways to handle a condition that a visit found, and the choice of one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID

from redframe.core.disease.conditions import conditions
from redframe.core.errors import InvalidInput, Refused
from redframe.core.handling.choice import STRONG_FRAMES, HandlingFacts, OptionJudged, options_for
from redframe.core.handling.options import HandledCondition, HandlingId, HandlingWay, handled_conditions
from redframe.core.handling.outcome import SignOnComb, cells_on
from redframe.store import colonies, holds, visits
from redframe.store import handling as store
from redframe.store.database import together
from redframe.store.errors import Conflict
from redframe.store.handling import NewHandling
from redframe.store.visits import VisitFrame
from redframe.work.handling.follow import HandlingView, followed
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits.read import VisitView, view_of

SUSPICIONS = frozenset({"AFB_SUSPECT", "EFB_SUSPECT"})


@dataclass(frozen=True, slots=True)
class OptionShown:
    """An option with how it stands for this colony."""

    id: HandlingId
    option: HandlingWay
    judged: OptionJudged


@dataclass(frozen=True, slots=True)
class CombSick:
    """A comb with a sign of the condition: where it hung, its cells."""

    frame_id: UUID
    box_id: UUID
    slot: int
    cells: float


@dataclass(frozen=True, slots=True)
class HandlingChoice:
    """The options of a condition side by side, the combs concerned, and what was chosen for the colony before."""

    visit_id: UUID
    colony_id: UUID
    condition: HandledCondition
    name: str
    options: list[OptionShown]
    combs: list[CombSick]
    handlings: list[HandlingView]


@dataclass(frozen=True, slots=True)
class WantedHandling:
    """An option chosen at a visit, why, and the combs that are followed."""

    id: UUID
    visit_id: UUID
    condition: HandledCondition
    option: HandlingId
    reason: str
    combs: list[UUID]


async def choice_at(unit: UnitOfWork, visit_id: UUID, condition: HandledCondition) -> HandlingChoice:
    """The options for a condition at a visit. Raises NotFound."""
    view = await view_of(unit, await visits.visit(unit.connection, visit_id))
    facts = await _facts(unit, view, condition)
    handled = handled_conditions()[condition]
    before = await store.handlings_of_colony(unit.connection, view.visit.colony_id)
    own = [one for one in before if one.condition == condition]
    return HandlingChoice(
        visit_id, view.visit.colony_id, condition, conditions()[condition].name,
        [OptionShown(one.option, handled.options[one.option], one) for one in options_for(condition, facts)],
        _sick_combs(view.records, handled.signs), await followed(unit, own, condition_names()),
    )  # fmt: skip


async def choose(unit: UnitOfWork, wanted: WantedHandling) -> None:
    """Record a choice, once, with what the visit found as its beginning.

    Raises InvalidInput for an option of another condition, combs without a sign or none where combs are followed;
    Refused for one that is barred; Conflict where another is open for the condition, or the visit is not closed.
    """
    require(unit.who, "record")
    handled = handled_conditions()[wanted.condition]
    if wanted.option not in handled.options:
        raise InvalidInput("option", "is no way of handling this", code="unknown")
    visit = await visits.visit(unit.connection, wanted.visit_id)
    if visit.state != "closed":
        raise Conflict("close the visit first: what it found is how this begins", "option")
    view = await view_of(unit, visit)
    if not await unit.accept(wanted.id, "handling", to_json(wanted)):
        return
    stands = {one.option: one for one in options_for(wanted.condition, await _facts(unit, view, wanted.condition))}
    chosen = stands[wanted.option]
    if chosen.fit == "barred":
        raise Refused("handling_barred", "; ".join(chosen.reasons), field="option")
    sick = {one.frame_id: one for one in _sick_combs(view.records, handled.signs)}
    if handled.options[wanted.option].combs:
        if not wanted.combs:
            raise InvalidInput("combs", "choose the combs that are followed", code="missing")
        if not sick.keys() >= set(wanted.combs):
            raise InvalidInput("combs", "one of these combs has no such sign at this visit", code="unknown")
    elif wanted.combs:
        raise InvalidInput("combs", "this way follows the colony, no combs", code="inconsistent")
    open_ones = await store.handlings_of_colony(unit.connection, view.visit.colony_id)
    if any(one.state == "open" and one.condition == wanted.condition for one in open_ones):
        raise Conflict("another way is being tried for this: end it first", "option")
    every = [cells_on(_signs(one), handled.signs) for one in view.records]
    cells = [sick[one].cells for one in wanted.combs] if wanted.combs else [one for one in every if one > 0]
    on = view.visit.visited_on
    first, last = (on + timedelta(days=days) for days in handled.recheck_days)
    await store.add_handling(
        unit.connection, wanted.id,
        NewHandling(
            view.visit.colony_id, wanted.visit_id, wanted.condition, wanted.option, wanted.reason.strip(), on, first,
            last, sum(cells), len(cells), list(wanted.combs),
        ),
    )  # fmt: skip


def condition_names() -> dict[str, str]:
    """The names of the conditions that are handled."""
    return {one: conditions()[one].name for one in handled_conditions()}


async def _facts(unit: UnitOfWork, view: VisitView, condition: HandledCondition) -> HandlingFacts:
    signs = handled_conditions()[condition].signs
    colony, on = view.visit.colony_id, view.visit.visited_on
    async with together(unit.connection) as begin:
        of_about = begin(store.about(unit.connection, colony, view.place.apiary_id, on, signs, STRONG_FRAMES))
        of_held = begin(holds.held_back(unit.connection, [colony], unit.today))
    about, reading = of_about.result(), view.assessment.disease
    looked = next((one for one in view.assessment.not_seen if one.group == "foulbrood"), None)
    return HandlingFacts(
        cells=reading.sick.cells if reading is not None and reading.sick is not None else None,
        share=reading.sick_share if reading is not None else None,
        frames_of_bees=view.assessment.estimates.frames_of_bees,
        phase=view.place.phase,
        foulbrood_open=any(
            one.hold_kind == "notifiable" or one.case_number or one.standstill or one.suspicious
            for one in of_held.result()
        )
        or (reading is not None and bool(SUSPICIONS & set(reading.flags))),
        foulbrood_looked_for=looked is not None and looked.combs_read is not None
        and looked.combs_read >= (looked.brood_combs or 0),
        had_before=about.had_before,
        strong_neighbour=about.strong_neighbour,
    )  # fmt: skip


def _sick_combs(records: Sequence[VisitFrame], signs: Sequence[str]) -> list[CombSick]:
    found = []
    for one in records:
        cells = cells_on(_signs(one), signs)
        if cells > 0 and one.frame_id is not None:
            found.append(CombSick(one.frame_id, one.box_id, one.slot, cells))
    return found


def _signs(frame: VisitFrame) -> list[SignOnComb]:
    return [SignOnComb(one.sign, one.extent, one.number) for one in frame.record.signs]


async def _open(unit: UnitOfWork, handling_id: UUID) -> store.Handling:
    found = await store.handling(unit.connection, handling_id)
    if found.state != "open":
        raise Conflict("it was ended before")
    return found


async def end(unit: UnitOfWork, handling_id: UUID, version: int, why: str, *, by_mistake: bool) -> None:
    """End a handling with the outcome that its last look says; `by_mistake`: it was never so and counts nowhere.

    Raises NotFound, Conflict when it was ended or changed meanwhile.
    """
    require(unit.who, "record")
    found = await _open(unit, handling_id)
    (view,) = await followed(unit, [found], condition_names())
    telling = [one for one in view.looks if one.outcome is not None]
    last = telling[-1] if telling and not by_mistake else None
    await store.end_handling(
        unit.connection, handling_id, version, state="withdrawn" if by_mistake else "ended", ended_on=unit.today,
        outcome=last.outcome if last else None, looked_on=last.on if last else None, why=why.strip(),
    )  # fmt: skip


async def handlings_of(unit: UnitOfWork, colony_id: UUID) -> list[HandlingView]:
    """The handlings of a colony with what became of them, newest first. Raises NotFound."""
    await colonies.colony(unit.connection, colony_id)
    return await followed(unit, await store.handlings_of_colony(unit.connection, colony_id), condition_names())
