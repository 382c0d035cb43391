"""What became of the ways of handling that an association chose, with intervals."""

from __future__ import annotations

from dataclasses import dataclass

from redframe.core.disease.conditions import conditions
from redframe.core.handling.options import HandledCondition, handled_conditions
from redframe.core.handling.outcome import Compared, Ended, compare
from redframe.store import handling as store
from redframe.work.handling.choose import condition_names
from redframe.work.handling.follow import HandlingView, followed
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class OptionCompared:
    """An option by name with what became of it."""

    name: str
    compared: Compared


@dataclass(frozen=True, slots=True)
class ConditionCompared:
    """The options that were chosen for a condition."""

    condition: HandledCondition
    name: str
    options: list[OptionCompared]


async def outcomes(unit: UnitOfWork) -> list[ConditionCompared]:
    """What became of every way that was chosen, by condition; those still open count by their last look."""
    views = await followed(unit, await store.handlings_of_region(unit.connection), condition_names())
    found = []
    for condition, handled in handled_conditions().items():
        own = [_ended(one) for one in views if one.handling.condition == condition]
        if own:
            found.append(
                ConditionCompared(
                    condition, conditions()[condition].name,
                    [OptionCompared(handled.options[one.option].name, one) for one in compare(own)],
                )
            )  # fmt: skip
    return found


def _ended(view: HandlingView) -> Ended:
    last = next((one for one in reversed(view.looks) if one.outcome is not None), None)
    on = view.handling.looked_on or (last.on if last is not None else None)
    days = (on - view.handling.chosen_on).days if on is not None else None
    return Ended(view.handling.option, view.outcome, days)
