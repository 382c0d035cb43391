"""Brood disease that is handled in the demo: chalkbrood combs cleaned above an excluder, one that waiting made worse,
sacbrood that was watched until it was gone."""

from __future__ import annotations

from datetime import UTC, date, datetime
from uuid import UUID

from redframe.core.handling.options import HandledCondition, HandlingId
from redframe.core.visits.record import After, FrameRecord
from redframe.demo.acting import People
from redframe.demo.scenario import CORRANE, made_id
from redframe.store import handling as store
from redframe.store import visits
from redframe.work.colonies import frames
from redframe.work.handling import choose
from redframe.work.handling.choose import WantedHandling
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits import record as visits_record
from redframe.work.visits.record import FrameEntry

CHALK, HOST = ("Whin Moor", "W5"), ("Whin Moor", "W3")
WORSE, SAC = ("Cairn Yard", "C2"), ("Plover Hay", "P2")
HUNG_ON, LOOKED_ON = date(2031, 7, 15), date(2031, 7, 31)


async def handled_brood(people: People) -> None:
    """Record what was chosen, ended, and looked at again."""
    await _tried(people, WORSE, date(2031, 6, 13), "chalkbrood", "wait_for_flow", "light, the lime is about to flow")
    await _given_up(people, WORSE, date(2031, 7, 4), "more mummies than before; waiting does not help here")
    await _tried(people, WORSE, date(2031, 7, 4), "chalkbrood", "melt_and_requeen", "a young queen is at hand")
    await _tried(people, SAC, date(2031, 6, 18), "sacbrood", "watch_and_wait", "few cells in a strong colony")
    await _given_up(people, SAC, date(2031, 7, 30), "no sick cell on all its brood")
    await _tried(people, CHALK, date(2031, 6, 23), "chalkbrood", "wait_for_flow", "the keeper wants to see the flow")
    await _given_up(people, CHALK, date(2031, 7, 14), "less, but the combs stay full of mummies")
    combs = await _sick_combs(people, CHALK, date(2031, 7, 14))
    await _tried(
        people,
        CHALK,
        date(2031, 7, 14),
        "chalkbrood",
        "clean_above_excluder",
        "W3 is strong",
        combs,
    )
    await _hung_into_host(people, combs)


async def _tried(
    people: People,
    hive: tuple[str, str],
    on: date,
    condition: HandledCondition,
    option: HandlingId,
    reason: str,
    combs: list[UUID] | None = None,
) -> None:
    visit = await _visit_of(people, hive, on)
    wanted = WantedHandling(made_id("handling", *hive, on, option), visit, condition, option, reason, combs or [])
    await people.act(people.mentor, _evening(on), lambda unit: choose.choose(unit, wanted))


async def _given_up(people: People, hive: tuple[str, str], on: date, why: str) -> None:
    async def end(unit: UnitOfWork) -> None:
        found = await store.handlings_of_colony(unit.connection, made_id(CORRANE.key, *hive))
        open_one = next(one for one in found if one.state == "open")
        await choose.end(unit, open_one.id, open_one.version, why, by_mistake=False)

    await people.act(people.mentor, _evening(on), end, reason=why)


async def _visit_of(people: People, hive: tuple[str, str], on: date) -> UUID:
    """The visit of a colony on a day."""
    colony = made_id(CORRANE.key, *hive)

    async def seen(unit: UnitOfWork) -> UUID:
        past = await visits.visits_to_compare(unit.connection, colony, colony, on)
        return next(one.id for one in past if one.visited_on == on)

    return UUID(str(await people.act(people.mentor, _evening(on), seen)))


async def _sick_combs(people: People, hive: tuple[str, str], on: date) -> list[UUID]:
    visit = await _visit_of(people, hive, on)
    choice = await people.act(people.mentor, _evening(on), lambda unit: choose.choice_at(unit, visit, "chalkbrood"))
    return [one.frame_id for one in choice.combs]


async def _hung_into_host(people: People, combs: list[UUID]) -> None:
    """Each comb changes places with one of the host's upper box; the host is looked at two weeks later."""
    host = made_id(CORRANE.key, *HOST)

    async def hung(unit: UnitOfWork) -> None:
        visit = made_id("visit", host, HUNG_ON)
        place = (await visits_record.open_visit(unit, visit, host, _evening(HUNG_ON))).place
        await visits_record.drop_visit(unit, visit)
        assert place.hive is not None
        top = [one for one in place.frames if one.box_id == place.hive.boxes[-1].id]
        for comb, there in zip(combs, top[3:], strict=False):
            move = frames.WantedMove(
                made_id("move", comb), comb, None, there.box_id, there.slot, None, HUNG_ON, None, "",
                "above the excluder", swap=True,
            )  # fmt: skip
            await frames.move_frame(unit, move)

    await people.act(people.mentor, _evening(HUNG_ON), hung)
    await people.act(people.mentor, _evening(LOOKED_ON), lambda unit: _look_at(unit, host, combs))


async def _look_at(unit: UnitOfWork, host: UUID, combs: list[UUID]) -> None:
    visit = made_id("visit", host, LOOKED_ON, "combs")
    view = await visits_record.open_visit(unit, visit, host, _evening(LOOKED_ON))
    entries = []
    for mummies, comb in zip((3, 0), combs, strict=False):
        hangs = next(one for one in view.place.frames if one.id == comb)
        signs = [{"sign": "mummy_white", "number": mummies}] if mummies else []
        seen = FrameRecord.model_validate({"a": {"capped": 2}, "signs": signs})
        entries.append(FrameEntry(hangs.box_id, hangs.slot, 0, seen))
    await visits_record.save_frames(unit, visit, entries)
    await visits_record.save_part(unit, visit, "after", 0, After.model_validate({"frames_of_bees": 13}))
    await visits_record.close_visit(unit, visit)


def _evening(on: date) -> datetime:
    return datetime(on.year, on.month, on.day, 21, tzinfo=UTC)
