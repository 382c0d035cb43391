"""Jobs when something gives way: a killed worker, one that still lives, a mail service, the computation itself."""

from __future__ import annotations

import unittest
from datetime import date, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import mock
from uuid import UUID, uuid4

import psycopg

from redframe.api.settings import Settings
from redframe.jobs import worker
from redframe.stand_ins.weather import StandInWeather
from redframe.store import association_forecast as forecasts
from redframe.store.campaigns import CountWeekDetails
from redframe.store.database import Database, Identity
from redframe.store.roles import application_url
from redframe.work.campaigns import record as campaigns_record
from redframe.work.forecast import association as forecast_association
from redframe.work.unit_of_work import Services
from tests.support import FixedClock, aside, at_work, demo_template, identity, new_database, owner_rows

TODAY = date(2031, 8, 2)


async def _forecast(services: Services, who: Identity, run_id: UUID) -> None:
    """In place of the computation, which is not the matter here."""
    async with services.unit_of_work(who) as unit:
        await forecasts.begin_run(unit.connection, run_id, 0)
        await forecasts.end_run(unit.connection, run_id, "done")


class Jobs(unittest.TestCase):
    def setUp(self) -> None:
        self.url = new_database(demo_template())
        self.settings = Settings(application_url(self.url), Path(), demo_today=TODAY)

    def change(self, query: str, *parameters: Any) -> None:
        """As the owner of the database, past its rules."""
        with psycopg.connect(self.url) as connection:
            connection.execute(query, parameters)

    def asked(self) -> None:
        """The forecasts of the smaller association are asked for."""
        owner = identity("administrator", association="ellery")
        run = at_work(self.url, lambda unit: forecast_association.ask(unit, uuid4(), by_night=True), owner)
        assert run is not None
        self.run_id = run.id

    def work_off(self, forecast: Any = _forecast) -> None:
        """A worker starts and does what it may."""
        with mock.patch.object(forecast_association, "_forecast", forecast):
            aside(worker.run(self.settings, wait=False))

    def in_hand(self, silent: timedelta | None) -> None:
        """A worker took the job and was last heard of so long ago; or nobody knows which it was."""
        self.change("UPDATE procrastinate_jobs SET status = 'doing'")
        if silent is not None:
            self.change("INSERT INTO procrastinate_workers (last_heartbeat) VALUES (now() - %s)", silent)
            self.change("UPDATE procrastinate_jobs SET worker_id = (SELECT max(id) FROM procrastinate_workers)")

    def state(self) -> tuple[Any, ...]:
        """How the run stands, and its job on the queue."""
        run = owner_rows(self.url, "SELECT state FROM forecast_run WHERE id = %s", self.run_id)[0][0]
        jobs = owner_rows(
            self.url, "SELECT status::text FROM procrastinate_jobs WHERE args->>'run_id' = %s", str(self.run_id)
        )
        return (run, *(row[0] for row in jobs))

    def test_a_job_left_by_a_killed_worker_is_taken_up(self) -> None:
        """Its worker has not been heard of for longer than a minute, or is not known at all."""
        for silent in (timedelta(seconds=61), None):
            with self.subTest(silent=silent):
                self.asked()
                self.in_hand(silent)
                self.work_off()
                self.assertEqual(self.state(), ("done",))

    def test_a_job_in_hand_is_left_to_its_worker(self) -> None:
        """A second worker that starts meanwhile does not compute it too."""
        self.asked()
        self.in_hand(timedelta(0))
        self.work_off()
        self.assertEqual(self.state(), ("waiting", "doing"))

    def test_a_run_that_fails_says_so(self) -> None:
        """In its own words, and the next one is asked for as ever."""
        self.asked()
        self.work_off(mock.AsyncMock(side_effect=ArithmeticError("no member fits")))
        self.assertEqual(self.state(), ("failed",))
        failed = owner_rows(self.url, "SELECT note FROM forecast_run WHERE id = %s", self.run_id)
        self.assertEqual(failed, [("no member fits",)])
        first = self.run_id
        self.asked()
        self.assertNotEqual(self.run_id, first)
        self.work_off()
        self.assertEqual(self.state(), ("done",))

    def test_a_run_that_was_given_up_is_not_waited_for(self) -> None:
        """Where the queue has tried often enough, the run says that it failed, and can be asked for again at once."""
        for again in (self.work_off, lambda: None):
            with self.subTest(worker=again == self.work_off):
                self.asked()
                given_up = self.run_id
                self.change("UPDATE procrastinate_jobs SET status = 'failed' WHERE args->>'run_id' = %s", str(given_up))
                again()
                self.asked()
                self.assertNotEqual(self.run_id, given_up)
                said = owner_rows(self.url, "SELECT state, note FROM forecast_run WHERE id = %s", given_up)
                self.assertEqual(said, [("failed", "its computation was given up")])
                self.work_off()
                self.assertEqual(self.state(), ("done",))

    def test_a_run_whose_job_waits_is_left_alone(self) -> None:
        """Whoever asks meanwhile gets the run that is waiting, or in hand."""
        self.asked()
        first = self.run_id
        for silent in (None, timedelta(0)):
            self.asked()
            self.assertEqual(self.run_id, first)
            self.in_hand(silent)

    def test_no_letter_goes_twice_though_the_mail_gives_way(self) -> None:
        """It breaks at the second letter; tried again, everybody has one."""
        week = uuid4()
        details = CountWeekDetails("Late week", date(2031, 8, 4), date(2031, 8, 11), "wash", 0.4, "Two shakes.")
        at_work(self.url, lambda unit: campaigns_record.open_week(unit, week, details, None))
        expected = at_work(self.url, lambda unit: campaigns_record.ask_reminders(unit, week))
        post = BrokenPost(2)

        async def tried() -> None:
            database = Database(self.settings.database_url, 3)
            await database.open()
            try:
                services = Services(database, StandInWeather(), FixedClock(TODAY))
                await campaigns_record.send_reminders(services, post, identity("administrator"), week)
            finally:
                await database.close()

        with self.assertRaises(OSError):
            aside(tried())
        self.assertEqual(len(post.sent), 1)
        aside(tried())
        self.assertEqual(len(post.sent), expected)
        self.assertEqual(len(set(post.sent)), expected)
        aside(tried())
        self.assertEqual(len(post.sent), expected, "and nobody again on the same day")


class BrokenPost:
    """A mail service that gives way at one letter, once."""

    def __init__(self, breaks_at: int) -> None:
        self.sent: list[str] = []
        self.breaks_at = breaks_at

    def send(self, to: str, subject: str, text: str, at: datetime) -> None:
        """Take a letter, or fail."""
        if len(self.sent) + 1 == self.breaks_at:
            self.breaks_at = 0
            raise OSError("the mail service does not answer")
        self.sent.append(to)
