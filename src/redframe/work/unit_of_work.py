"""What a use case works with: the database, the weather service, and the clock, all passed in."""

from __future__ import annotations

import hashlib
import json
from collections.abc import AsyncIterator, Mapping
from contextlib import asynccontextmanager
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Protocol
from uuid import UUID
from zoneinfo import ZoneInfo

from redframe.core.treatments.weather import Forecast
from redframe.store import records
from redframe.store.database import Connection, Database, Identity


class WeatherService(Protocol):
    """What a weather service gives: daily forecasts for a place."""

    def forecast(self, latitude: float, longitude: float, start: date) -> Forecast:
        """Daily maxima and minima (°C) and rain (mm) from `start` on."""


class Clock(Protocol):
    """The one place that knows the time."""

    def now(self) -> datetime:
        """Now, with an offset."""


@dataclass(frozen=True, slots=True)
class Services:
    """Everything outside the core that use cases need."""

    database: Database
    weather: WeatherService
    clock: Clock

    @asynccontextmanager
    async def unit_of_work(self, who: Identity, reason: str = "", wide: bool = False) -> AsyncIterator[UnitOfWork]:
        """One transaction of one person; `wide`: it looks at a whole association."""
        now = self.clock.now()
        today = now.astimezone(ZoneInfo(who.timezone)).date()
        async with self.database.as_person(who, today, reason, wide) as connection:
            yield UnitOfWork(connection, who, now, today, self.weather)


@dataclass(frozen=True, slots=True)
class UnitOfWork:
    """One transaction of one person at one moment; `today` is the day of the association's place."""

    connection: Connection
    who: Identity
    now: datetime
    today: date
    weather: WeatherService

    @classmethod
    def at(cls, connection: Connection, who: Identity, now: datetime, weather: WeatherService) -> UnitOfWork:
        """A transaction of a person at a moment."""
        return cls(connection, who, now, now.astimezone(ZoneInfo(who.timezone)).date(), weather)

    def day_of(self, moment: datetime) -> date:
        """The day on which a moment falls at the association's place."""
        return moment.astimezone(self.zone).date()

    @property
    def zone(self) -> ZoneInfo:
        """The time zone of the association's place."""
        return ZoneInfo(self.who.timezone)

    async def accept(self, write_id: UUID, kind: str, content: dict[str, Any]) -> bool:
        """Accept a device's write once; False when the same write is already kept.

        Raises Conflict when the id was used before for other content.
        """
        return bool(await self.accept_all(kind, {write_id: content}))

    async def accept_all(self, kind: str, contents: Mapping[UUID, dict[str, Any]]) -> set[UUID]:
        """Accept a device's writes once; the ids of those that are new.

        Raises Conflict when an id was used before for other content.
        """
        return await records.accept_writes(
            self.connection, kind, {write_id: _digest(content) for write_id, content in contents.items()}
        )


def _digest(content: dict[str, Any]) -> bytes:
    return hashlib.sha256(json.dumps(content, sort_keys=True, default=str).encode()).digest()
