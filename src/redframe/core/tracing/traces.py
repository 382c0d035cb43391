"""Traces through a log of movements that respect time: what may have reached whom, and from whom it may have come.

A path counts only if each movement comes no earlier than the one before it. Where the day is not known, or two fall on
one day, it is only possible. The risk of a path is the product of its movements'. For each colony the paths are kept of
which none is earlier, riskier, shorter and surer than the other.
"""

from __future__ import annotations

import heapq
from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from itertools import count
from typing import Literal

from redframe.core.cases.states import CaseDisease
from redframe.core.tracing.movements import Movement, Stay, risk_of

Direction = Literal["forward", "backward"]
MOST_STEPS = 8
LEAST_RISK = 0.001
"""A path below this is no contact that anybody follows up."""


@dataclass(frozen=True, slots=True)
class Path:
    """A way to a colony: its movements in the order of time, the day from which it may have been there (forward) or up
    to which it may have left (backward), its risk, and whether the days leave no doubt of the order."""

    movements: tuple[Movement, ...]
    on: date
    risk: float
    is_certain: bool


@dataclass(frozen=True, slots=True)
class Reached:
    """A colony that a trace reaches, with its paths, the riskiest first."""

    colony: str
    paths: tuple[Path, ...]

    @property
    def best(self) -> Path:
        """The riskiest path."""
        return self.paths[0]


@dataclass(frozen=True, slots=True)
class _Edge:
    """A movement along the direction of the trace; days as numbers that grow along it."""

    first: int
    last: int
    target: str
    risk: float
    movement: Movement


@dataclass(frozen=True, slots=True)
class _Label:
    """How a colony was reached: from which day it may have been, by which day it surely was."""

    colony: str
    at: int
    surely: int
    risk: float
    steps: int
    certain: bool
    before: _Label | None
    by: Movement | None

    def covers(self, other: _Label) -> bool:
        """Whether this way is as early, as risky, as short and as sure as the other."""
        return (
            self.at <= other.at
            and self.risk >= other.risk
            and self.steps <= other.steps
            and self.certain >= other.certain
            and self.surely <= other.surely
        )


def trace(
    movements: Sequence[Movement],
    stays: Sequence[Stay],
    start: str,
    disease: CaseDisease,
    *,
    since: date,
    until: date,
    direction: Direction,
) -> list[Reached]:
    """The colonies that a trace from one reaches between two days, the riskiest first, then by name."""
    sign = 1 if direction == "forward" else -1
    begin, end = (since, until) if sign > 0 else (until, since)
    opening, closing = sign * begin.toordinal(), sign * end.toordinal()
    leaving = _Leaving(movements, disease, sign, opening, closing)
    neighbours = _Neighbours(stays, disease, sign, since, until)
    found: dict[str, list[_Label]] = defaultdict(list)
    ahead: list[tuple[int, float, int, _Label]] = []
    order = count()
    first = _Label(start, opening, opening - 1, 1.0, 0, True, None, None)
    heapq.heappush(ahead, (first.at, -first.risk, next(order), first))
    while ahead:
        label = heapq.heappop(ahead)[3]
        if any(one.covers(label) for one in found[label.colony]):
            continue
        found[label.colony] = [one for one in found[label.colony] if not label.covers(one)] + [label]
        if label.steps == MOST_STEPS:
            continue
        for edge in (*leaving.of(label), *neighbours.of(label)):
            further = _along(label, edge)
            if further.risk >= LEAST_RISK and not _was_there(label, edge.target):
                heapq.heappush(ahead, (further.at, -further.risk, next(order), further))
    reached = [
        Reached(colony, tuple(sorted((_path(one, sign) for one in labels), key=lambda path: (-path.risk, path.on))))
        for colony, labels in found.items()
        if colony != start
    ]
    return sorted(reached, key=lambda one: (-one.best.risk, one.colony))


class _Leaving:
    """What leaves each colony along the trace within its days; made of the log as colonies are reached."""

    def __init__(
        self, movements: Iterable[Movement], disease: CaseDisease, sign: int, opening: int, closing: int
    ) -> None:
        self._disease, self._sign, self._opening, self._closing = disease, sign, opening, closing
        self._log: dict[str, list[Movement]] = defaultdict(list)
        for one in movements:
            self._log[one.origin if sign > 0 else one.target].append(one)
        self._edges: dict[str, tuple[list[int], list[_Edge]]] = {}

    def of(self, label: _Label) -> Sequence[_Edge]:
        """What may have left after the colony was reached."""
        if label.colony not in self._edges:
            found = sorted(self._made(self._log.get(label.colony, ())), key=lambda edge: edge.last)
            self._edges[label.colony] = [edge.last for edge in found], found
        days, edges = self._edges[label.colony]
        return edges[bisect_left(days, label.at) :]

    def _made(self, log: Iterable[Movement]) -> Iterator[_Edge]:
        for one in log:
            first, last = sorted((self._sign * one.earliest.toordinal(), self._sign * one.latest.toordinal()))
            if last >= self._opening and first <= self._closing:
                target = one.target if self._sign > 0 else one.origin
                yield _Edge(first, min(last, self._closing), target, risk_of(one, self._disease), one)


def _along(label: _Label, edge: _Edge) -> _Label:
    certain = label.certain and label.surely < edge.first
    return _Label(
        edge.target, max(label.at, edge.first), edge.last, label.risk * edge.risk, label.steps + 1, certain, label,
        edge.movement,
    )  # fmt: skip


def _was_there(label: _Label, colony: str) -> bool:
    """Whether the way has been at a colony already: it does not go in a circle."""
    one: _Label | None = label
    while one is not None:
        if one.colony == colony:
            return True
        one = one.before
    return False


def _path(label: _Label, sign: int) -> Path:
    taken: list[Movement] = []
    one: _Label | None = label
    while one is not None and one.by is not None:
        taken.append(one.by)
        one = one.before
    # Going back in time the last movement comes first.
    return Path(
        tuple(taken if sign < 0 else reversed(taken)), date.fromordinal(sign * label.at), label.risk, label.certain
    )


class _Neighbours:
    """Colonies that stood at the same apiary at the same time: contacts made by rule, looked up as they are needed."""

    def __init__(self, stays: Sequence[Stay], disease: CaseDisease, sign: int, since: date, until: date) -> None:
        self._disease, self._sign, self._since, self._until = disease, sign, since, until
        self._of_colony: dict[str, list[Stay]] = defaultdict(list)
        self._of_apiary: dict[str, list[Stay]] = defaultdict(list)
        for stay in stays:
            self._of_colony[stay.colony].append(stay)
            self._of_apiary[stay.apiary].append(stay)

    def of(self, label: _Label) -> list[_Edge]:
        """Contacts of a colony after it was reached."""
        found = []
        for own in self._of_colony.get(label.colony, ()):
            for other in self._of_apiary[own.apiary]:
                if other.colony == label.colony:
                    continue
                edge = self._contact(own, other)
                if edge is not None and edge.last >= label.at:
                    found.append(edge)
        return found

    def _contact(self, own: Stay, other: Stay) -> _Edge | None:
        since = max(own.since, other.since, self._since)
        until = min(one for one in (own.until, other.until, self._until) if one is not None)
        if until < since:
            return None
        first, last = sorted((self._sign * since.toordinal(), self._sign * until.toordinal()))
        origin, target = (own, other) if self._sign > 0 else (other, own)
        contact = Movement(
            f"{own.apiary}:{origin.colony}:{target.colony}", since, until, origin.colony, target.colony, "same_apiary",
            "inferred",
        )  # fmt: skip
        return _Edge(first, last, other.colony, risk_of(contact, self._disease), contact)
