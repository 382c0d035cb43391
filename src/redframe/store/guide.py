"""What a new association has done of its beginning."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from redframe.store.database import Connection, one, run

FittingStep = Literal["season", "scoop", "people"]


@dataclass(frozen=True, slots=True)
class GuideFacts:
    """Which parts of the beginning are done."""

    season: bool
    scoop: bool
    people: bool
    apiary: bool
    colonies: bool


async def guide_facts(connection: Connection) -> GuideFacts:
    """Which parts are done, of the association of the person."""
    return await one(connection, GuideFacts, "guide_facts")


async def say_fits(connection: Connection, step: FittingStep) -> None:
    """Somebody said that a part fits as it is."""
    await run(connection, "say_fits", step=step)
