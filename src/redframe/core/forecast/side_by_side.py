"""Colonies side by side: one ensemble for all of them, weighted again for each.

Members share their parameters across the colonies, so that a day is one step of arrays of shape (colonies, members) in
single precision, and nothing is drawn again: each colony keeps its own weights. The model, the start from counts and
the weights are those of `ensemble` (docs/methods/forecast.md, "A whole association").
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, fields, replace
from datetime import date, timedelta

import numpy as np
import numpy.typing as npt

from redframe.core.forecast.ensemble import DAYS_BEFORE, PILOT_MITES, effective_members, tempered, weights_of
from redframe.core.forecast.events import DayOfEvents, Killing, Treat
from redframe.core.forecast.model import ARRAYS, Model, State
from redframe.core.forecast.parameters import Parameters, draw_parameters
from redframe.core.forecast.season import season_of
from redframe.core.forecast.seen import Seen, fall_errors, log_likelihood, log_prior, log_proposal, proposed_rates
from redframe.core.season.calendar import Calendar

MEMBERS = 500
COLONIES_AT_ONCE = 128
ENOUGH_EFFECTIVE = 25.0

Singles = npt.NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Record:
    """What is known of one colony: its counts in order of the day, the treatments that bore or bear on it, and the
    level (mites per 100 bees) that it is set against."""

    counts: tuple[Seen, ...]
    treatments: tuple[Treat, ...]
    level: float

    @property
    def start(self) -> date:
        """The day on which its members begin."""
        return self.counts[0].taken_on - timedelta(days=DAYS_BEFORE)


@dataclass(frozen=True, slots=True)
class Ensemble:
    """Members of one place, and their colonies without mites on each day on which a record starts."""

    model: Model
    clean: dict[date, State]
    pilots: dict[tuple[date, tuple[Treat, ...]], tuple[Singles, Singles]]


def _singles(parameters: Parameters) -> Parameters:
    return replace(
        parameters, **{one.name: getattr(parameters, one.name).astype(np.float32) for one in fields(parameters)}
    )


def prepare(
    records: Sequence[Record], calendar: Calendar, generator: np.random.Generator, members: int = MEMBERS
) -> Ensemble:
    """Draw the members, and run what all records share: colonies without mites up to each start, and the rates on the
    day of the first count that nothing but arrivals, and a hundred mites at the start, would have led to."""
    model = Model(season_of(calendar), _singles(draw_parameters(members, generator)))
    starts = sorted({record.start for record in records})
    clean: dict[date, State] = {}
    state = model.spun_up(starts[0])
    day = starts[0]
    for start in starts:
        while day < start:
            model.step(state, day, alone=True)
            day += timedelta(days=1)
        clean[start] = state.copy()
    pilots = {}
    for key in {(record.start, _early(record)) for record in records}:
        pilots[key] = _pilot(model, clean[key[0]], *key)
    return Ensemble(model, clean, pilots)


def _early(record: Record) -> tuple[Treat, ...]:
    """Treatments that bear on the days before the first count."""
    first = record.counts[0].taken_on
    return tuple(
        one for one in record.treatments
        if one.start <= first and one.start + timedelta(days=one.days) > record.start
    )  # fmt: skip


def _pilot(model: Model, clean: State, start: date, treatments: tuple[Treat, ...]) -> tuple[Singles, Singles]:
    arrived, pilot = clean.copy(), clean.copy()
    pilot.put_mites(np.full(pilot.adults.shape, PILOT_MITES, np.float32), model.parameters)
    for number in range(DAYS_BEFORE + 1):
        day = start + timedelta(days=number)
        events = DayOfEvents([Killing(one.kp, one.kc) for one in treatments if _works(one, day)])
        model.step(arrived, day, events)
        model.step(pilot, day, events)
    return model.per_100(arrived).astype(np.float32), model.per_100(pilot).astype(np.float32)


def _works(treat: Treat, day: date) -> bool:
    return 0 <= (day - treat.start).days < treat.days


def in_turn(records: Sequence[Record]) -> Iterator[list[int]]:
    """Numbers of the records that are lived through together, in the order in which they start."""
    order = sorted(range(len(records)), key=lambda number: records[number].start)
    for begin in range(0, len(order), COLONIES_AT_ONCE):
        yield order[begin : begin + COLONIES_AT_ONCE]


class SideBySide:
    """A few colonies, in the order in which they start; what is looked at each day is for those who build on it."""

    def __init__(
        self, ensemble: Ensemble, records: Sequence[Record], last: date, generator: np.random.Generator
    ) -> None:
        self.ensemble, self.model, self.records, self.last = ensemble, ensemble.model, records, last
        self.generator = generator
        members = len(self.model.parameters.cap_max)
        self.shape = (len(records), members)
        self.state = State.without_mites(self.shape, dtype=np.float32)
        self.log_weights = np.zeros(self.shape)
        self.weights = np.full(self.shape, 1 / members)
        self.effective = np.full(len(records), float(members))
        self.disagree = np.zeros(len(records), dtype=bool)
        self.counted: dict[date, list[tuple[int, Seen]]] = defaultdict(list)
        for number, record in enumerate(records):
            for count in record.counts:
                self.counted[count.taken_on].append((number, count))
        self.fall_error = fall_errors([one for record in records for one in record.counts], members, generator)

    def look(self, day: date, part: State) -> None:
        """Look at the colonies that have begun, in the evening of a day."""
        raise NotImplementedError

    def live(self) -> None:
        """Day by day from the first start to the last day."""
        day, active = self.records[0].start, 0
        self.state.turn = self.ensemble.clean[day].turn
        while day <= self.last:
            while active < len(self.records) and self.records[active].start == day:
                self._begin(active)
                active += 1
            part = self._part(active)
            self.model.step(part, day, self._events(day, active))
            self.state.turn = part.turn
            self._weigh(day, active, part)
            self.look(day, part)
            day += timedelta(days=1)

    def _part(self, active: int) -> State:
        """The colonies that have begun: views, changed in place."""
        parts = {name: getattr(self.state, name)[..., :active, :] for name in ARRAYS}
        return State(**parts, turn=self.state.turn)

    def _begin(self, number: int) -> None:
        record = self.records[number]
        clean = self.ensemble.clean[record.start]
        first = record.counts[0]
        arrived, pilot = self.ensemble.pilots[record.start, _early(record)]
        rates = proposed_rates(first, len(arrived), self.generator, self.fall_error)
        outside = arrived / 100
        started = PILOT_MITES * (rates - outside) / np.maximum(pilot / 100 - outside, 1e-12)
        prior = log_prior(np.log(rates), first) - log_proposal(np.log(rates), first, self.fall_error)
        self.log_weights[number] = np.where(started >= 0, prior, -np.inf)
        begun = clean.copy()
        begun.put_mites(np.maximum(started, 0).astype(np.float32), self.model.parameters)
        for name in ARRAYS:
            getattr(self.state, name)[..., number, :] = getattr(begun, name)

    def _events(self, day: date, active: int) -> DayOfEvents:
        on_bees, in_cells = np.zeros((active, 1), np.float32), np.zeros((active, 1), np.float32)
        any_works = False
        for number in range(active):
            for treat in self.records[number].treatments:
                if _works(treat, day):
                    on_bees[number] = 1 - (1 - on_bees[number]) * (1 - treat.kp)
                    in_cells[number] = 1 - (1 - in_cells[number]) * (1 - treat.kc)
                    any_works = True
        return DayOfEvents([Killing(on_bees, in_cells)]) if any_works else DayOfEvents()

    def _weigh(self, day: date, active: int, part: State) -> None:
        counted = [one for one in self.counted.get(day, ()) if one[0] < active]
        if not counted:
            return
        rates = self.model.per_100(part, [number for number, _ in counted]).astype(np.float64)
        for (number, count), own in zip(counted, rates, strict=True):
            self.log_weights[number] += log_likelihood(count, own, self.generator, self.fall_error)
            if count is self.records[number].counts[-1]:
                self._settle(number)

    def _settle(self, number: int) -> None:
        log_weights = self.log_weights[number]
        self.effective[number] = effective_members(log_weights)
        if self.effective[number] < ENOUGH_EFFECTIVE:
            self.disagree[number] = True
            log_weights = tempered(log_weights, ENOUGH_EFFECTIVE)
        self.weights[number] = weights_of(log_weights)
