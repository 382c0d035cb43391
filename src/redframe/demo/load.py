"""Loading the demo scenario into an empty database, through the same use cases that the application uses."""

from __future__ import annotations

import asyncio
from contextlib import AsyncExitStack
from datetime import UTC, date, datetime, time, timedelta
from uuid import UUID

import numpy as np
import psycopg
from psycopg import AsyncConnection

from redframe.demo.lineage import record_lineage
from redframe.demo.lives import Keeping
from redframe.demo.pests import pests_of_ellery
from redframe.demo.scenario import (
    ACCOUNTS,
    ASSOCIATIONS,
    CORRANE,
    DEMO_TODAY,
    ELLERY,
    FIRST_DAY,
    PASSWORD,
    RANDOM_STATE,
    ApiaryPlan,
    AssociationPlan,
    made_id,
)  # fmt: skip
from redframe.demo.stock import days_of_stock, record_stock
from redframe.demo.suspect_case import suspect_cases
from redframe.stand_ins.weather import StandInWeather
from redframe.store import installation
from redframe.store.campaigns import CountWeekDetails
from redframe.store.database import Connection, Identity, begin_work
from redframe.store.places import ApiaryDetails
from redframe.store.roles import application_url
from redframe.work.campaigns import record as campaigns_record
from redframe.work.members.passwords import Argon2Hasher
from redframe.work.places import record as places_record
from redframe.work.policy import record as policy_record
from redframe.work.unit_of_work import UnitOfWork

__all__ = ["ACCOUNTS", "DEMO_TODAY", "PASSWORD", "load_when_empty"]


WORKERS = 3
ANALYSED_EVERY_DAYS = 60
OWN_POLICY = (
    "Skerrow Bank",
    date(2031, 4, 20),
    policy_record.ApiaryPolicyDraft(scheme=None, scope="single_colony", calendar=None, levels=None),
    "The keeper treats single colonies here",
)
"""One apiary that does otherwise than its association."""


def load_when_empty(owner_url: str, *, fast_passwords: bool = False) -> bool:
    """Live through the scenario unless it is there; whether it was loaded now.

    People are added by the owner; everything else is recorded by them through the use cases. Refuses (ValueError) a
    database that holds an association of its own.
    """
    if not is_wanted(owner_url):
        return False
    with psycopg.connect(owner_url, autocommit=True) as owner:
        with owner.transaction():
            _insert_people(owner, fast_passwords)
        asyncio.run(_live(owner_url, owner))
        asyncio.run(_count_weeks(owner_url))
        asyncio.run(suspect_cases(owner_url, _mentor(CORRANE)))
        asyncio.run(pests_of_ellery(owner_url, _mentor(ELLERY)))
        installation.mark_demo_loaded(owner)
        installation.analyse(owner, vacuum=True)
    return True


def is_wanted(owner_url: str) -> bool:
    """Whether the scenario is not there yet; what a killed start left half done is cleared. Refuses (ValueError) a
    database that holds an association of its own."""
    with psycopg.connect(owner_url, autocommit=True) as owner:
        if installation.demo_is_loaded(owner):
            return False
        if installation.holds_other_association(owner, [made_id(plan.key) for plan in ASSOCIATIONS]):
            raise ValueError("this database holds an association of its own: the demo is not loaded into it")
        installation.clear_demo(owner)
    return True


def finish_restored(owner_url: str, *, fast_passwords: bool) -> None:
    """Bring what was restored to where a load that was lived through ends: passwords under a salt of this installation,
    the mark of a load that came to its end, tables known to the planner."""
    with psycopg.connect(owner_url, autocommit=True) as owner:
        for account in ACCOUNTS:
            installation.replace_password(owner, account.email, Argon2Hasher(fast=fast_passwords).hash(PASSWORD))
        installation.mark_demo_loaded(owner)
        installation.analyse(owner, vacuum=True)


def _insert_people(owner: installation.Owner, fast: bool) -> None:
    password = Argon2Hasher(fast=fast).hash(PASSWORD)
    for number, plan in enumerate(ASSOCIATIONS):
        association_id = made_id(plan.key)
        begun = datetime(2029, 1, 1 + number, tzinfo=UTC)
        installation.insert_association(owner, association_id, plan.name, plan.timezone, begun)
        installation.insert_first_policy(
            owner,
            association_id,
            scheme=plan.scheme,
            scope=plan.scope,
            calendar=plan.calendar,
            rules=plan.rules,
            region={"law": plan.key, "shb_established": plan.beetles_established},
        )
        installation.mark_begun(owner, association_id)
        for name, registration in plan.keepers:
            installation.insert_keeper(owner, made_id(plan.key, "keeper", name), association_id, name, registration)
    for account in ACCOUNTS:
        person_id = made_id("person", account.email)
        installation.insert_person(owner, person_id, account.email, account.name, password)
        for key in filter(None, (account.association, account.also_in)):
            keeper = made_id(key, "keeper", account.keeper) if account.keeper else None
            membership = made_id("membership", account.email, key)
            installation.insert_membership(owner, membership, person_id, made_id(key), account.role, keeper)


WEEKS = (
    ("Spring count week", date(2031, 5, 19), date(2031, 5, 26)),
    ("Midsummer count week", date(2031, 7, 25), date(2031, 8, 3)),
)
PROTOCOL = (
    "Wash 300 bees of a brood frame, two shakes at least; count shake by shake. Eight colonies an apiary are enough."
)


async def _count_weeks(owner_url: str) -> None:
    """One count week in spring and one that is on now."""
    who = _mentor(CORRANE)
    connection = await AsyncConnection.connect(application_url(owner_url), autocommit=True)
    async with connection:
        for name, first, last in WEEKS:
            async with connection.transaction():
                await begin_work(connection, who, DEMO_TODAY)
                opened = datetime.combine(first - timedelta(days=10), time(9), tzinfo=UTC)
                unit = UnitOfWork.at(connection, who, opened, StandInWeather())
                week = CountWeekDetails(name, first, last, "wash", half_width=0.4, protocol=PROTOCOL)
                await campaigns_record.open_week(unit, made_id("count week", first), week, keepers=None)


def _mentor(plan: AssociationPlan) -> Identity:
    email = "mentor@ellery.example" if plan.key == "ellery" else "mentor@corrane.example"
    membership = made_id("membership", email, plan.key)
    return Identity(made_id("person", email), membership, made_id(plan.key), "mentor", None, plan.timezone)


async def _live(owner_url: str, owner: installation.Owner) -> None:
    """Live through the days one after the other, so that numbers are given in the order of time, a few apiaries of a
    day side by side, each in a transaction of its own; the planner hears of the growing tables now and then."""
    plans = [
        (plan, apiary, seed)
        for plan in ASSOCIATIONS
        for apiary, seed in zip(
            plan.apiaries, np.random.SeedSequence(RANDOM_STATE + len(plan.key)).spawn(len(plan.apiaries)), strict=True
        )
    ]
    async with AsyncExitStack() as opened:
        connections = [
            await opened.enter_async_context(await AsyncConnection.connect(application_url(owner_url), autocommit=True))
            for _ in range(WORKERS)
        ]
        # Its day begins before they live: whoever came first would keep the others waiting for it.
        for one in ASSOCIATIONS:
            await begin_work(connections[0], _mentor(one), DEMO_TODAY)
        keepings = []
        for plan, apiary, seed in plans:
            async with connections[0].transaction():
                keepings.append(await _settle(connections[0], plan, apiary, np.random.default_rng(seed)))
                await keepings[-1].begin()
        for number in range((DEMO_TODAY - FIRST_DAY).days + 1):
            day = FIRST_DAY + timedelta(days=number)
            await _stock_of(connections[0], day)
            todo = list(reversed(keepings))
            await asyncio.gather(*(_worker(connection, todo, number, day) for connection in connections))
            if number % ANALYSED_EVERY_DAYS == 0:
                await asyncio.to_thread(installation.analyse, owner)


async def _worker(connection: Connection, todo: list[Keeping], number: int, day: date) -> None:
    """Take one apiary after the other through a day."""
    while todo:
        keeping = todo.pop()
        keeping.connection = connection
        async with connection.transaction():
            await begin_work(connection, keeping.who, DEMO_TODAY)
            await keeping.live(number, day)
            if (keeping.plan.name, day) == OWN_POLICY[:2]:
                await policy_record.set_apiary_policy(
                    keeping.unit_of_work(day), keeping.apiary_id, OWN_POLICY[2], 0, OWN_POLICY[3]
                )
            if keeping.plan.name == "Dunnock Mill" and day == DEMO_TODAY:
                await record_lineage(connection, keeping.who, keeping.weather)


async def _stock_of(connection: Connection, day: date) -> None:
    for plan in ASSOCIATIONS:
        if day in days_of_stock(plan.key):
            async with connection.transaction():
                await begin_work(connection, _mentor(plan), DEMO_TODAY)
                now = datetime.combine(day, time(9), tzinfo=UTC)
                await record_stock(UnitOfWork.at(connection, _mentor(plan), now, StandInWeather()), plan.key)


async def _settle(
    connection: Connection, plan: AssociationPlan, apiary: ApiaryPlan, generator: np.random.Generator
) -> Keeping:
    who = _mentor(plan)
    await begin_work(connection, who, DEMO_TODAY)
    weather = StandInWeather()
    apiary_id: UUID = made_id(plan.key, "apiary", apiary.name)
    await places_record.add_apiary(
        UnitOfWork.at(connection, who, datetime.combine(FIRST_DAY, time(9), tzinfo=UTC), weather),
        apiary_id,
        made_id(plan.key, "keeper", apiary.keeper),
        ApiaryDetails(
            name=apiary.name,
            latitude=apiary.latitude,
            longitude=apiary.longitude,
            elevation_m=apiary.elevation_m,
            access_note=apiary.access,
            forage_note=apiary.forage,
        ),
    )
    return Keeping(connection, who, weather, plan, apiary, apiary_id, generator)
