"""The work at the hive in courses without a product: act by act, in order, and how things stand after each.

An act is done when somebody has done it and says so at once; stopped midway, the record says how far it came and where
bees, queen and combs are. A step of the course is done with the last of its acts. See docs/methods/hive-work.md.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from functools import cache
from pathlib import Path
from typing import Literal

import yaml
from pydantic import TypeAdapter

from redframe.core.errors import InvalidInput, Refused

HIVE_WORK_FILE = Path(__file__).with_name("hive_work.yaml")

Writes = Literal[
    "nothing", "queen_held", "queen_free", "queen_out", "queen_in", "queen_accepted", "comb_in", "comb_out",
    "combs_out", "box_under", "box_above", "boxes_off", "excluder_out", "floor", "feed",
]  # fmt: skip
"""What an act changes in the record of the hive. `box_under`: a new box with an excluder under it, below all others;
`box_above`: one above an excluder, on the brood boxes; `boxes_off`: the brood boxes that stood before it."""
ActState = Literal["done", "ready", "waiting", "passed"]
"""`waiting`: another act comes first; `passed`: its step was recorded without it."""


@dataclass(frozen=True, slots=True)
class HiveAct:
    """One act at the hive, of a `step` of the course. `then`: how things stand after it (`then_if_not`: where what it
    asks for was not so). `decides`: with it the step has had its effect, whatever is left to do; `optional`: it may be
    left out."""

    id: str
    step: str
    writes: Writes
    title: str
    how: str
    then: str
    then_if_not: str = ""
    decides: bool = False
    optional: bool = False


@dataclass(frozen=True, slots=True)
class HiveWork:
    """The acts of an option in their order, and what to take along."""

    kit: tuple[str, ...]
    acts: tuple[HiveAct, ...]

    def act(self, name: str) -> HiveAct:
        """Look an act up. Raises InvalidInput("act")."""
        for act in self.acts:
            if act.id == name:
                return act
        raise InvalidInput("act", "is not an act of this course", allowed=", ".join(one.id for one in self.acts))


@cache
def _all() -> Mapping[str, HiveWork]:
    data = yaml.safe_load(HIVE_WORK_FILE.read_text(encoding="utf-8"))
    return TypeAdapter(dict[str, HiveWork]).validate_python(data)


def hive_work(option_id: str) -> HiveWork | None:
    """The work at the hive of an option; None for one that has none."""
    return _all().get(option_id)


@dataclass(frozen=True, slots=True)
class ActNow:
    """An act and whether it can be done now."""

    act: HiveAct
    state: ActState


def acts_now(work: HiveWork, done: Collection[str], recorded: Collection[str]) -> list[ActNow]:
    """Each act as it stands: `done` are acts, `recorded` are steps of the course.

    A step that was recorded without any of its acts was done by somebody who did not say how: its acts are passed.
    """
    begun = {act.step for act in work.acts if act.id in done}
    open_before = False
    found = []
    for act in work.acts:
        state: ActState
        if act.id in done:
            state = "done"
        elif act.step in recorded and act.step not in begun:
            state = "passed"
        else:
            state = "waiting" if open_before else "ready"
            open_before = open_before or not act.optional
        found.append(ActNow(act, state))
    return found


def check_act(work: HiveWork, name: str, done: Mapping[str, date], recorded: Collection[str], on: date) -> HiveAct:
    """The act, where it may be done now.

    Raises Refused("order") where another comes first or its step was recorded without it, InvalidInput naming `act`,
    or `done_on` for a day before the act that comes before it.
    """
    act = work.act(name)
    state = next(one.state for one in acts_now(work, done, recorded) if one.act is act)
    if state == "waiting":
        first = next(one.act for one in acts_now(work, done, recorded) if one.state == "ready" and not one.act.optional)
        raise Refused("order", f"first: {first.title}", field="act")
    if state == "passed":
        raise Refused("order", "its step is recorded already, without the hive", field="act")
    before = max((done[one.id] for one in work.acts[: work.acts.index(act)] if one.id in done), default=None)
    if before is not None and on < before:
        raise InvalidInput("done_on", f"is before the act that comes before it ({before})", code="out_of_range")
    return act


def where_things_stand(work: HiveWork, done: Collection[str], not_so: Collection[str] = ()) -> str | None:
    """How things stand after what was done; None where nothing was. `not_so`: acts that found it otherwise."""
    last = next((act for act in reversed(work.acts) if act.id in done), None)
    if last is None:
        return None
    return last.then_if_not if last.id in not_so else last.then


def steps_finished(work: HiveWork, done: Collection[str]) -> list[str]:
    """The steps of the course of which every act is done that may not be left out."""
    steps = dict.fromkeys(act.step for act in work.acts)
    return [one for one in steps if all(act.id in done or act.optional for act in work.acts if act.step == one)]


def steps_decided(work: HiveWork, done: Collection[str]) -> list[str]:
    """The steps of the course that have had their effect, finished or not."""
    finished = steps_finished(work, done)
    decided = [act.step for act in work.acts if act.decides and act.id in done]
    return list(dict.fromkeys([*finished, *decided]))


def edge_of_nest(own: Sequence[int], brood: Collection[int]) -> int | None:
    """The slot at the edge of the brood nest, of a colony's own slots in a box: next to the outermost comb with brood,
    away from a wall where it can be. Where no brood is known, the last but one; None for a box without slots."""
    if not own:
        return None
    nest = [slot for slot in own if slot in brood]
    if not nest:
        return own[-2] if len(own) > 1 else own[0]
    for edge in (max(nest) + 1, min(nest) - 1):
        if edge in own and edge not in (own[0], own[-1]):
            return edge
    return next((edge for edge in (max(nest) + 1, min(nest) - 1) if edge in own), max(nest))
