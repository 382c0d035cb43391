"""A day's steps of courses at one apiary, hive by hive: which of them the day asks for, and what to take along.

A step counts for the day when it may be done and those before it are done or asked for on the same day too: on the day
of a first dose that is the product at hand, the supers off and the dose itself. See docs/methods/courses.md.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.stock.balance import Available, Need, Shelf
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.course import StepKind
from redframe.core.treatments.hive_work import hive_work
from redframe.core.treatments.progress import DOABLE, StepProgress, blocking

ROUND_KINDS: frozenset[StepKind] = frozenset(
    {"prepare", "close_supers_feeder", "place", "interim_check", "remove", "end", "dispose"}
)
"""Steps that are done at the hives; counts have their own bench, and a result is accepted at the desk."""
BEHIND = frozenset({"done", "done_late", "skipped", "cancelled"})


def steps_of_day(option: Option, steps: Sequence[StepProgress], today: date) -> list[StepProgress]:
    """The steps of one course that may be done on a day, one after the other; a placing that the weather forbids, and
    what follows it, is not among them, nor an end that is the last placing."""
    done = {step.name for step in steps if step.state in BEHIND}
    found: list[StepProgress] = []
    for step in steps:
        may = step.after is None or step.after in done or any(one.name == step.after for one in found)
        if step.kind not in ROUND_KINDS or step.state in BEHIND or not may or step.earliest > today:
            continue
        if step.kind == "end" and option.ends_at_placing:
            continue
        if blocking(step.weather) is not None:
            continue
        found.append(step)
    return found


def waits_for_weather(steps: Sequence[StepProgress]) -> bool:
    """Whether only the weather holds a placing back."""
    return any(blocking(step.weather) is not None and step.state in DOABLE for step in steps)


def is_due(steps: Sequence[StepProgress], today: date) -> bool:
    """Whether one of the steps has reached its best day."""
    return any(step.ideal <= today for step in steps)


@dataclass(frozen=True, slots=True)
class AtHive:
    """The steps of the day at one hive: `need` is the dose to place, `inside` the one that is in the hive now, in the
    unit of the option's dose (None: not known)."""

    option: Option
    steps: Sequence[StepProgress]
    inside: float | None
    need: Need


@dataclass(frozen=True, slots=True)
class FromLot:
    """So much of a lot, in the lot's unit."""

    lot_id: UUID
    quantity: float
    unit: str


@dataclass(frozen=True, slots=True)
class Carried:
    """So much of an option to take along for so many hives, from which lots, and what the stock lacks of it."""

    option_id: str
    name: str
    quantity: float
    unit: str
    hives: int
    lots: Sequence[FromLot]
    lacking: float


@dataclass(frozen=True, slots=True)
class Out:
    """So much of an option that comes out of so many hives (quantity None: how much is not known)."""

    name: str
    quantity: float | None
    unit: str
    hives: int


@dataclass(frozen=True, slots=True)
class WorkKit:
    """What the work at so many hives needs of each thing, for an option without a product."""

    name: str
    hives: int
    things: Sequence[str]


@dataclass(frozen=True, slots=True)
class TakeAlong:
    """What a day's steps need: doses, kit, what comes out of the hives and is carried off, what to wear."""

    doses: Sequence[Carried]
    kit: Sequence[WorkKit]
    out: Sequence[Out]
    wear: Sequence[str]


def take_along(hives: Sequence[AtHive], lots: Sequence[Available]) -> TakeAlong:
    """What to take along for the steps of a day; the lot that expires first is used first."""
    shelf = Shelf(lots)
    doses: dict[str, list[AtHive]] = defaultdict(list)
    out: dict[str, list[AtHive]] = defaultdict(list)
    worked: Counter[str] = Counter()
    wear: dict[str, None] = {}
    for one in hives:
        placing = [step for step in one.steps if step.kind == "place"]
        removing = [step for step in one.steps if step.kind == "remove"]
        if placing and one.option.chemical:
            doses[one.option.id].append(one)
        if placing and hive_work(one.option.id) is not None:
            worked[one.option.id] += 1
        # A dose after the first one takes the place of what is in the hive.
        comes_out = bool(removing) or any(step.name != "place_1" for step in placing)
        if comes_out and one.option.chemical and one.option.removal_required:
            out[one.option.id].append(one)
        if placing or removing:
            wear.update(dict.fromkeys(one.option.ppe))
    names = {one.option.id: one.option.name for one in hives}
    kit = [WorkKit(names[one], number, work.kit) for one, number in worked.items() if (work := hive_work(one))]
    return TakeAlong([_carried(group, shelf) for group in doses.values()], kit,
                     [_out(group) for group in out.values()], list(wear))  # fmt: skip


def _carried(hives: Sequence[AtHive], shelf: Shelf) -> Carried:
    option = hives[0].option
    used: dict[UUID, FromLot] = {}
    lacking = 0.0
    for hive in hives:
        taken, rest = shelf.take(option, hive.need)
        lacking += rest
        for lot, quantity in taken:
            before = used[lot.id].quantity if lot.id in used else 0.0
            used[lot.id] = FromLot(lot.id, before + quantity, lot.unit)
    wanted = sum(hive.need.quantity for hive in hives)
    return Carried(option.id, option.name, wanted, option.dose_unit, len(hives), list(used.values()), lacking)


def _out(hives: Sequence[AtHive]) -> Out:
    option = hives[0].option
    inside = [hive.inside for hive in hives]
    known = [one for one in inside if one is not None]
    return Out(option.name, sum(known) if len(known) == len(inside) else None, option.dose_unit, len(hives))
