"""The beginning of an association, part by part, until all of it is done."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Literal, get_args

from redframe.store import guide as store
from redframe.store.guide import FittingStep
from redframe.work.roles import may, require
from redframe.work.unit_of_work import UnitOfWork

GuideStepName = Literal["season", "scoop", "people", "apiary", "colonies"]


@dataclass(frozen=True, slots=True)
class GuideStep:
    """A part of the beginning; `may_fit`: it can be said that it fits as it is."""

    step: GuideStepName
    done: bool
    may_fit: bool


@dataclass(frozen=True, slots=True)
class Guide:
    """The parts in their order; none for whoever does not keep the association, or once all is done."""

    steps: Sequence[GuideStep]


async def guide(unit: UnitOfWork) -> Guide:
    """What is left to do of the beginning."""
    if not may(unit.who, "keep_members"):
        return Guide(())
    facts = asdict(await store.guide_facts(unit.connection))
    if all(facts.values()):
        return Guide(())
    names: tuple[GuideStepName, ...] = get_args(GuideStepName)
    return Guide([GuideStep(name, facts[name], name in get_args(FittingStep)) for name in names])


async def say_fits(unit: UnitOfWork, step: FittingStep) -> Guide:
    """A part fits as it is: it is done."""
    require(unit.who, "keep_members")
    await store.say_fits(unit.connection, step)
    return await guide(unit)
