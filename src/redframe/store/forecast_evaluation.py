"""How earlier forecasts did: the counts that they are set against, and what these say together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import date
from typing import Literal
from uuid import UUID

from redframe.core.forecast import evaluation as core
from redframe.store.association_forecast import CountToForecast, CourseToForecast
from redframe.store.database import Connection, many, run

Between = Literal["untreated", "treated"]


@dataclass(frozen=True, slots=True)
class ForecastEvaluation(core.ForecastEvaluation):
    """What was found on a day over the counts since another, of colonies that were treated meanwhile or not."""

    between: Between
    looked_on: date
    since: date


async def counts_to_evaluate(connection: Connection, since: date, most: int, seed: int) -> list[CountToForecast]:
    """Jars and clean boards of at most so many colonies, drawn by the number of the lot, oldest first."""
    return await many(connection, CountToForecast, "counts_to_evaluate", since=since, most=most, seed=seed)


async def courses_to_evaluate(connection: Connection, colony_ids: Sequence[UUID]) -> list[CourseToForecast]:
    """Courses of these colonies that were placed."""
    return await many(connection, CourseToForecast, "courses_to_evaluate", colony_ids=list(colony_ids))


async def replace_evaluation(connection: Connection, found: Sequence[ForecastEvaluation], looked_on: date) -> None:
    """Lay what was found on a day in place of what was found before it."""
    for one in found:
        await run(connection, "replace_evaluation", **asdict(one))
    await run(connection, "lift_hindsight", looked_on=looked_on)


async def evaluation(connection: Connection) -> list[ForecastEvaluation]:
    """How forecasts did in colonies left alone, then in colonies treated meanwhile; none where too few were counted."""
    return await many(connection, ForecastEvaluation, "evaluation")
