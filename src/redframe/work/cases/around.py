"""The apiaries around a case, and what their inspection found."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.cases.around import AroundLook, AroundOutcome, AroundState, check_look, state_of
from redframe.core.cases.law import law_packs
from redframe.core.errors import InvalidInput, Refused
from redframe.store import cases as store
from redframe.store.cases import ApiaryAround, AroundVisitRow
from redframe.store.errors import NotAllowed
from redframe.work.cases.read import known_of
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class ApiaryInspected:
    """An apiary around with its visits, oldest first, and how it stands."""

    apiary: ApiaryAround
    visits: list[AroundVisitRow]
    state: AroundState


@dataclass(frozen=True, slots=True)
class Unregistered:
    """A place with colonies that nobody registered, in words."""

    place: str
    visits: list[AroundVisitRow]
    state: AroundState


@dataclass(frozen=True, slots=True)
class Around:
    """Apiaries within the inner and the outer radius, in kilometres, the nearest first; places that are not registered;
    of how many an end is on record; whether this person may record a visit."""

    today: date
    inner_km: float
    outer_km: float
    apiaries: list[ApiaryInspected]
    unregistered: list[Unregistered]
    ended: int
    is_open: bool


@dataclass(frozen=True, slots=True)
class NewAroundVisit:
    """A visit to an apiary around, or to a place in words."""

    id: UUID
    apiary_id: UUID | None
    place: str
    visited_on: date
    outcome: AroundOutcome
    letter_sent: bool
    note: str


async def around_case(unit: UnitOfWork, case_id: UUID) -> Around:
    """The apiaries around a case. Raises NotFound, NotAllowed for a role to which places are coarse."""
    if unit.who.role not in ("inspector", "administrator"):
        raise NotAllowed("exact places around a case are the inspector's")
    row = await store.case(unit.connection, case_id)
    law = law_packs()[row.law].diseases[row.disease]
    found = await store.apiaries_around(unit.connection, row.apiary_id, law.outer_km)
    by_apiary: dict[UUID, list[AroundVisitRow]] = defaultdict(list)
    by_place: dict[str, list[AroundVisitRow]] = defaultdict(list)
    for visit in await store.around_visits(unit.connection, case_id):
        if visit.apiary_id is not None:
            by_apiary[visit.apiary_id].append(visit)
        else:
            by_place[visit.place].append(visit)
    apiaries = [ApiaryInspected(one, by_apiary[one.id], _state(by_apiary[one.id])) for one in found]
    others = [Unregistered(place, visits, _state(visits)) for place, visits in by_place.items()]
    states = [*(one.state for one in apiaries), *(one.state for one in others)]
    return Around(
        unit.today, law.inner_km, law.outer_km, apiaries, others, sum(one != "to_see" for one in states),
        row.radius == "open" and unit.who.role == "inspector",
    )  # fmt: skip


async def record_around_visit(unit: UnitOfWork, case_id: UUID, new: NewAroundVisit) -> Around:
    """Record a visit around a case, once, while its inspection is open.

    Raises Refused where it is not, InvalidInput naming the field, NotFound, NotAllowed for who is no inspector.
    """
    require(unit.who, "record")
    if unit.who.role != "inspector":
        raise NotAllowed("the inspection around a case is the inspector's")
    row = await store.case(unit.connection, case_id)
    if (new.apiary_id is None) == (new.place.strip() == ""):
        raise InvalidInput("place", "say one apiary, or a place in words", code="missing")
    if await unit.accept(new.id, "around_visit", to_json((case_id, new))):
        if row.radius != "open":
            raise Refused("case_order", "the inspection around this case is not open", field="outcome")
        confirmed = (await known_of(unit, row)).last("accept_confirmed")
        look = AroundLook(new.visited_on, new.outcome, new.letter_sent)
        check_look(look, unit.day_of(confirmed.at) if confirmed is not None else row.found_on, unit.today)
        await store.add_around_visit(
            unit.connection, id=new.id, case_id=case_id, apiary_id=new.apiary_id, place=new.place.strip(),
            visited_on=new.visited_on, outcome=new.outcome, letter_sent=new.letter_sent, note=new.note,
        )  # fmt: skip
    return await around_case(unit, case_id)


def _state(visits: list[AroundVisitRow]) -> AroundState:
    return state_of([AroundLook(one.visited_on, one.outcome, one.letter_sent) for one in visits])
