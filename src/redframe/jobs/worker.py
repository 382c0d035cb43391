"""The worker: takes jobs off the queue in the database, one process next to the web server.

Jobs name an association and a run, nothing else; the worker acts for that association under row-level security, like
everybody. A job that a killed worker left is taken up again when the next one starts.
"""

from __future__ import annotations

import asyncio
import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID, uuid4

import procrastinate
from psycopg import Error as PsycopgError

from redframe.api.settings import Settings
from redframe.stand_ins.mail import StandInMail
from redframe.stand_ins.weather import StandInWeather
from redframe.store.database import Database, Identity
from redframe.work.campaigns import record as campaigns_record
from redframe.work.campaigns.record import MailService
from redframe.work.forecast import association as association_runs
from redframe.work.forecast import evaluation as forecast_evaluation
from redframe.work.unit_of_work import Services

QUEUE = "redframe"
STALLED_SECONDS = 30
LOOK_FOR_STALLED_S = 15
itself = Identity.itself
PATIENT = procrastinate.RetryStrategy(max_attempts=10, wait=5, linear_wait=5)
"""A database that is away comes back within minutes."""


def tasks(services: Services, mail: MailService, url: str, *, by_night: bool = False) -> procrastinate.App:
    """The queue with its tasks, working at this desk; `by_night` it asks for some of them itself."""
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=url, min_size=1, max_size=3))

    @app.task(name=association_runs.TASK, queue=QUEUE, retry=PATIENT)
    async def forecast_association(association_id: str, run_id: str, timezone: str) -> None:
        await association_runs.forecast_association(services, itself(UUID(association_id), timezone), UUID(run_id))

    @app.task(name=association_runs.EVALUATE, queue=QUEUE)
    async def evaluate_forecasts(association_id: str, run_id: str, timezone: str) -> None:
        await forecast_evaluation.evaluate_forecasts(services, itself(UUID(association_id), timezone), UUID(run_id))

    @app.task(name=campaigns_record.REMIND, queue=QUEUE, retry=procrastinate.RetryStrategy(max_attempts=3, wait=30))
    async def remind_keepers(association_id: str, week_id: str, timezone: str) -> None:
        await campaigns_record.send_reminders(services, mail, itself(UUID(association_id), timezone), UUID(week_id))

    @app.task(name="forecast_everybody", queue=QUEUE, queueing_lock="forecast_everybody")
    async def forecast_everybody(timestamp: int) -> None:
        for association_id, timezone in await association_runs.associations_at_night(services):
            async with services.unit_of_work(itself(association_id, timezone), wide=True) as unit:
                await association_runs.ask(unit, uuid4(), by_night=True)

    @app.task(name="forecast_newcomers", queue=QUEUE)
    async def forecast_newcomers() -> None:
        for association_id, timezone in await association_runs.associations_at_night(services):
            async with services.unit_of_work(itself(association_id, timezone), wide=True) as unit:
                await association_runs.ask_first(unit, uuid4())

    if by_night:
        app.periodic(cron="23 3 * * *")(forecast_everybody)
    return app


@dataclass(frozen=True, slots=True)
class Desk:
    """The open queue of an installation, and what its jobs work with."""

    app: procrastinate.App
    services: Services

    async def take_up_stalled(self) -> None:
        """Put jobs back on the queue whose worker is gone, and end what was waited for of those that were given up."""
        for job in await self.app.job_manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_SECONDS):
            await self.app.job_manager.retry_job(job)
        await association_runs.end_given_up(self.services)


@asynccontextmanager
async def at_desk(settings: Settings, *, by_night: bool = False) -> AsyncIterator[Desk]:
    """The open desk of an installation."""
    database = Database(settings.database_url, 3)
    await database.open()
    services = Services(database, StandInWeather(), settings.clock)
    app = tasks(services, StandInMail(settings.mail), settings.database_url, by_night=by_night)
    try:
        async with app.open_async():
            yield Desk(app, services)
    finally:
        await database.close()


async def _look_for_stalled(desk: Desk) -> None:
    """A worker that was killed left its job a moment ago: it is known for gone only when it has been silent."""
    while True:
        await asyncio.sleep(LOOK_FOR_STALLED_S)
        try:
            await desk.take_up_stalled()
        except (PsycopgError, procrastinate.exceptions.ProcrastinateException):
            # The database is away, and comes back: it is looked at again then.
            logging.getLogger(__name__).warning("what was left by a worker could not be looked for", exc_info=True)


async def run(settings: Settings, *, wait: bool = True) -> None:
    """Do jobs until the process ends, beginning with associations that were never forecast; without `wait`, until there
    is none left."""
    async with at_desk(settings, by_night=wait) as desk:
        await desk.take_up_stalled()
        if wait:
            await desk.app.tasks["forecast_newcomers"].defer_async()
        looking = asyncio.create_task(_look_for_stalled(desk))
        try:
            await desk.app.run_worker_async(
                queues=[QUEUE], wait=wait, concurrency=1, install_signal_handlers=wait, listen_notify=wait,
                delete_jobs="successful", shutdown_graceful_timeout=timedelta(seconds=5).total_seconds(),
            )  # fmt: skip
        finally:
            looking.cancel()


def main() -> None:
    """A worker of its own, with settings from the environment."""
    logging.basicConfig(level=logging.WARNING)
    asyncio.run(run(Settings.from_environment()))
