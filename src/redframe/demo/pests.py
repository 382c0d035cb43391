"""Pests of the demo: wasps and robbing in the autumn of Corrane, a beetle outbreak at Port Ellery where beetles are
established, moth in store, guards on and off."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Any
from uuid import UUID

from psycopg import AsyncConnection

from redframe.core.pests.entrance import Device
from redframe.core.pests.pests import PestId
from redframe.core.pests.scoring import Counted
from redframe.demo.acting import People
from redframe.demo.scenario import CORRANE, ELLERY, made_id
from redframe.store.database import Identity
from redframe.store.roles import application_url
from redframe.work.pests import record
from redframe.work.pests.record import WantedCheck, WantedEntrance, WantedTrap

WASPS, ROBBED, ROBBER = ("Cairn Yard", "C2"), ("Orrin Quay", "Q3"), ("Orrin Quay", "Q1")
GUARDED = ("Mell Fold", "M1")
OUTBREAK = ("Banksia Flat", "B2")


async def pests_of_corrane(people: People) -> None:
    """Wasps that went with a narrow entrance, a colony that was robbed, moth in store, a guard for the winter, ants
    that wait for another look."""
    wasps = made_id(CORRANE.key, *WASPS)
    await _check(people, wasps, "wasps", date(2030, 9, 4), counted=Counted(hovering=14), done="entrance to one bee")
    await _entrance(people, wasps, date(2030, 9, 4), 8, "reducer", "wasps")
    await _check(people, wasps, "wasps", date(2030, 9, 7), counted=Counted(hovering=5), done="kept narrow")
    await _entrance(people, wasps, date(2030, 9, 12), 50, "reducer", "fewer wasps")
    await _check(people, wasps, "wasps", date(2030, 9, 12), counted=Counted(hovering=0))
    robbed = made_id(CORRANE.key, *ROBBED)
    await _check(
        people, robbed, "robbing", date(2030, 9, 20), score=3, done="closed up, screen on",
        robbers=[made_id(CORRANE.key, *ROBBER)],
    )  # fmt: skip
    await _check(people, robbed, "robbing", date(2030, 9, 22), score=0)
    guarded = made_id(CORRANE.key, *GUARDED)
    await _entrance(people, guarded, date(2030, 10, 20), None, "guard", "before the first frost")
    await _entrance(people, guarded, date(2031, 3, 25), None, "open", "pollen comes in")
    await _check(people, guarded, "ants", date(2031, 7, 24), score=2, done="nest brushed away, stand in oil")
    await _stored(
        people, made_id(CORRANE.key, "apiary", "Orrin Quay"), date(2031, 7, 5), 2, "two combs into the freezer"
    )


async def pests_of_ellery(owner_url: str, mentor: Identity) -> None:
    """Beetles that got out of hand in a warm March, and what trays and tight boxes did."""
    connection = await AsyncConnection.connect(application_url(owner_url), autocommit=True)
    async with connection:
        people = People(connection, mentor, mentor)
        colony = made_id(ELLERY.key, *OUTBREAK)
        await _check(people, colony, "beetle", date(2031, 2, 20), counted=Counted(adults=9), done="two bar traps")
        trap = made_id("trap", *OUTBREAK)
        wanted = WantedTrap(trap, colony, "bar_trap", "outer bars of the top box", 2, date(2031, 2, 20))
        await people.act(mentor, _noon(date(2031, 2, 20)), lambda unit: record.set_trap(unit, wanted))
        await _check(
            people,
            colony,
            "beetle",
            date(2031, 3, 6),
            counted=Counted(adults=44),
            done="four traps and a tray, soil limed",
        )
        for on, caught in ((date(2031, 3, 6), 52), (date(2031, 3, 13), 31), (date(2031, 3, 27), 20)):
            await _emptied(people, trap, on, caught)
        await _check(people, colony, "beetle", date(2031, 3, 13), counted=Counted(adults=17), done="boxes tightened")
        await _check(people, colony, "beetle", date(2031, 3, 27), counted=Counted(adults=4))


async def _emptied(people: People, trap: UUID, on: date, caught: int) -> None:
    reading = made_id("trap reading", trap, on)
    await people.act(people.mentor, _noon(on), lambda unit: record.empty_trap(unit, trap, reading, on, caught))


async def _check(
    people: People,
    colony: UUID,
    pest: PestId,
    on: date,
    *,
    score: int | None = None,
    counted: Counted | None = None,
    **said: Any,
) -> None:
    wanted = WantedCheck(
        id=made_id("pest check", colony, pest, on), apiary_id=None, colony_id=colony, pest=pest, seen_on=on,
        score=score, counted=counted or Counted(), done=said.get("done", ""), note="",
        robbers=said.get("robbers", []), robbers_seen=True,
    )  # fmt: skip
    await people.act(people.mentor, _noon(on), lambda unit: record.record_check(unit, wanted))


async def _stored(people: People, apiary: UUID, on: date, score: int, done: str) -> None:
    wanted = WantedCheck(
        made_id("pest check", apiary, "moth", on), apiary, None, "moth", on, score, Counted(), done, "", [], True
    )
    await people.act(people.mentor, _noon(on), lambda unit: record.record_check(unit, wanted))


async def _entrance(people: People, colony: UUID, on: date, width: int | None, device: Device, why: str) -> None:
    wanted = WantedEntrance(made_id("entrance", colony, on), colony, on, width, device, False, why)
    await people.act(people.mentor, _noon(on), lambda unit: record.set_entrance(unit, wanted))


def _noon(on: date) -> datetime:
    return datetime(on.year, on.month, on.day, 12, tzinfo=UTC)
