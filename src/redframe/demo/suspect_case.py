"""The demo's suspect cases: one of foulbrood waits for the laboratory today, one near it was reported, one of last
year came to nothing.

The first is raised by what a visit at Saltby Rise found; the steps after it are recorded by those whose they are.
"""

from __future__ import annotations

from datetime import UTC, date, datetime
from uuid import UUID

from psycopg import AsyncConnection

from redframe.core.cases.laboratory import Parcel
from redframe.core.cases.samples import sample_code
from redframe.core.visits.record import After, FrameRecord
from redframe.demo.acting import People
from redframe.demo.dead_colonies import dead_colonies
from redframe.demo.handled_brood import handled_brood
from redframe.demo.outside_movements import SECOND_COLONY, outside_movements
from redframe.demo.pests import pests_of_corrane
from redframe.demo.scenario import CORRANE, made_id
from redframe.demo.sick_brood import SUSPECT_COLONY
from redframe.stand_ins.laboratory import StandInLaboratory
from redframe.store.database import Identity
from redframe.store.roles import application_url
from redframe.work.cases import read, record, samples
from redframe.work.cases.record import NewCase
from redframe.work.cases.samples import CODES, NewCustody, NewSample
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits import record as visits_record
from redframe.work.visits.record import FrameEntry

OFFICER = {"ordered_by": "Case officer, Bee Health Office"}
LOOKED_AGAIN = datetime(2031, 7, 29, 9, tzinfo=UTC)
SENT = datetime(2031, 7, 29, 11, tzinfo=UTC)
RECEIVED = datetime(2031, 7, 31, 8, tzinfo=UTC)
ANSWERED = datetime(2031, 8, 2, 6, tzinfo=UTC)
"""By then the laboratory has its result, which nobody has asked for yet."""


async def suspect_cases(owner_url: str, mentor: Identity) -> None:
    """Record the cases, what came and went before them, and how other brood disease was handled."""
    person = made_id("person", "inspector@corrane.example")
    membership = made_id("membership", "inspector@corrane.example", CORRANE.key)
    inspector = Identity(person, membership, mentor.association_id, "inspector", None, mentor.timezone)
    connection = await AsyncConnection.connect(application_url(owner_url), autocommit=True)
    async with connection:
        people = People(connection, inspector, mentor)
        await _laid_to_rest(people)
        await _waiting(people)
        await _second(people)
        await outside_movements(people)
        await handled_brood(people)
        await dead_colonies(people)
        await pests_of_corrane(people)


async def _laid_to_rest(people: People) -> None:
    found = date(2030, 6, 14)
    case, colony = made_id("case", found), made_id(CORRANE.key, "Orrin Quay", "Q2")
    new = NewCase(case, colony, "efb", found, "yellow twisted larvae on two combs, few")
    await people.act(people.mentor, datetime(2030, 6, 14, 15, tzinfo=UTC), lambda unit: record.raise_case(unit, new))
    await people.step(
        people.inspector, datetime(2030, 6, 15, 14, tzinfo=UTC), case, "not_supported", all_brood_frames=True,
        brood_frames=7, rope_negative=True, scales_negative=True,
        text="Two larvae of sacbrood, else clean; kit negative.",
    )  # fmt: skip
    await people.step(
        people.inspector, datetime(2030, 6, 15, 15, tzinfo=UTC), case, "close", text="Looked at again in July: clean.",
        lessons="Draw one larva out before the apiary stands still.",
    )  # fmt: skip


async def _waiting(people: People) -> None:
    apiary, label = SUSPECT_COLONY
    colony = made_id(CORRANE.key, apiary, label)
    lines = await people.act(
        people.mentor, datetime(2031, 7, 27, 8, tzinfo=UTC),
        lambda unit: read.case_list(unit, apiary_id=made_id(CORRANE.key, "apiary", apiary)),
    )  # fmt: skip
    case = lines[0].case.id
    await people.step(
        people.mentor, datetime(2031, 7, 27, 8, tzinfo=UTC), case, "report", reference="BHO 2031/114",
        text="By telephone to the Bee Health Office; no match was at hand at the visit.",
    )  # fmt: skip
    await people.act(people.inspector, LOOKED_AGAIN, lambda unit: _look_again(unit, colony))
    await people.step(
        people.inspector, SENT, case, "hold_official", reference="BHO 2031/114-1", covers="apiary", **OFFICER
    )  # fmt: skip
    number = _answered_with_found()
    taken = NewSample(number, colony, "comb", "comb 5, lower edge", SENT, "Idris Calloway", "S 40118")
    await people.act(people.inspector, SENT, lambda unit: samples.take_sample(unit, case, taken))
    handed = NewCustody(
        made_id("handed", number), "handed_over", SENT, "Idris Calloway", "Island parcel boat", "S 40118", 8.0
    )
    await people.act(people.inspector, SENT, lambda unit: samples.hand_on(unit, number, handed))
    await people.step(people.inspector, SENT, case, "sample", text="One piece of comb.")
    laboratory = StandInLaboratory()
    await people.act(people.inspector, RECEIVED, lambda unit: samples.ask_laboratory(unit, laboratory, case))


async def _second(people: People) -> None:
    """The mentor suspects another colony of the same apiary."""
    found = datetime(2031, 7, 30, 14, tzinfo=UTC)
    case = made_id("case", *SECOND_COLONY)
    new = NewCase(case, made_id(CORRANE.key, *SECOND_COLONY), "afb", found.date(), "sunken caps on one comb")
    await people.act(people.mentor, found, lambda unit: record.raise_case(unit, new))
    await people.step(
        people.mentor, found, case, "report", reference="BHO 2031/117", text="With the first, by telephone."
    )  # fmt: skip


async def _look_again(unit: UnitOfWork, colony: UUID) -> None:
    """The inspector draws a match through a cell: a thread."""
    visit = made_id("visit", colony, LOOKED_AGAIN.date())
    view = await visits_record.open_visit(unit, visit, colony, LOOKED_AGAIN)
    frame = view.place.frames[4]
    assert frame.box_id is not None and frame.slot is not None
    seen = FrameRecord.model_validate(
        {
            "a": {"capped": 5},
            "b": {"capped": 4},
            "signs": [
                {"sign": "cap_sunken", "extent": "some", "side": "a"},
                {"sign": "ropy_thread", "number": 22, "side": "a"},
            ],
        }
    )
    await visits_record.save_frames(unit, visit, [FrameEntry(frame.box_id, frame.slot, 0, seen)])
    after = After.model_validate(
        {
            "frames_of_bees": 6,
            "examination": {"brood_combs": 4, "combs_read": 4, "bees_off": "shaken", "cells_opened": 10},
        }
    )
    await visits_record.save_part(unit, visit, "after", 0, after)
    await visits_record.close_visit(unit, visit)


def _answered_with_found() -> UUID:
    """The id of a sample whose code the stand-in answers in time, and with what it is sent for."""
    laboratory = StandInLaboratory()
    for number in range(1000):
        found = made_id("case sample", number)
        parcel = Parcel(sample_code(found.int % CODES), "comb", "afb", SENT, "S 40118")
        documents = laboratory.documents(parcel, ANSWERED)
        if len(documents) == 2 and documents[1].result == "found" and documents[0].seal_whole:
            return found
    raise LookupError("the stand-in answers no sample in time")
