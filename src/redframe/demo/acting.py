"""Acts of the demo that are recorded by somebody at a moment of the past."""

from __future__ import annotations

from collections.abc import Awaitable, Callable
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any
from uuid import UUID

from redframe.core.cases.evidence import StepEvidence
from redframe.core.cases.states import CaseAct
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.stand_ins.weather import StandInWeather
from redframe.store.database import Connection, Identity, begin_work
from redframe.work.cases import read, record
from redframe.work.cases.record import WantedStep
from redframe.work.unit_of_work import UnitOfWork


@dataclass
class People:
    """Those who record the cases, one transaction an act."""

    connection: Connection
    inspector: Identity
    mentor: Identity
    weather: StandInWeather = field(default_factory=StandInWeather)

    async def act(
        self, who: Identity, at: datetime, act: Callable[[UnitOfWork], Awaitable[Any]], reason: str = ""
    ) -> Any:
        """Record something as somebody at a moment of the past."""
        async with self.connection.transaction():
            await begin_work(self.connection, who, DEMO_TODAY, reason)
            return await act(UnitOfWork.at(self.connection, who, at, self.weather))

    async def step(self, who: Identity, at: datetime, case: UUID, act: CaseAct, **evidence: Any) -> None:
        """Record a step of a case."""

        async def taken(unit: UnitOfWork) -> None:
            row = (await read.case_view(unit, case)).line.case
            wanted = WantedStep(made_id("step", case, act), act, row.version, at, StepEvidence.model_validate(evidence))
            await record.record_step(unit, case, wanted)

        await self.act(who, at, taken)
