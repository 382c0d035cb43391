"""Bees, brood and mites of colonies, day by day.

Arrays hold one value an ensemble member, shape (..., members): a leading axis of colonies may share the parameters of
the members. Mites in cells are booked at capping as the mites that will leave (docs/methods/forecast.md, "The day").
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields
from datetime import date, timedelta
from typing import Any

import numpy as np
import numpy.typing as npt

from redframe.core.forecast.events import QUIET, DayOfEvents
from redframe.core.forecast.parameters import Parameters
from redframe.core.forecast.season import Season, day_of_year

Values = npt.NDArray[np.floating[Any]]
"""Double precision for one colony; single for a whole association, where it is exact enough and twice as fast."""

WORKER_CAPPED_DAYS = 12
DRONE_CAPPED_DAYS = 14
SPIN_UP_DAYS = 365
SPIN_UP_ADULTS = 10_000.0
EMERGING_SHARE = 0.93
INFESTED_LOSS = 0.3
LAG_KEPT = 0.96
WEAK_BELOW = 6_000.0
BROODLESS_BELOW = 200.0
NURSES_FROM = 500.0
START_IN_CELLS = 0.60
MITES_LEAVING_A_CELL = 2.0
FEWEST_NURSES = 300.0
LEAST_RATE = 1e-30


def _one_minus_exp(exponent: Values) -> Values:
    """1 - e^x. In single precision by the plain exponential, which is several times faster and exact enough there."""
    if exponent.dtype == np.float32:
        return np.asarray(1 - np.exp(exponent))
    return np.asarray(-np.expm1(exponent))


@dataclass(slots=True)
class State:
    """Colonies at the end of a day.

    `adults` bees, `on_bees` mites; `worker_cells`, `worker_mites` (12, ...) and `drone_cells`, `drone_mites`
    (14, ...) are rings of daily cohorts whose oldest stands at `turn` modulo their length; `capped` is the sum of the
    worker cells; `lag` is the slow mean of infested cells.
    """

    adults: Values
    on_bees: Values
    worker_cells: Values
    worker_mites: Values
    drone_cells: Values
    drone_mites: Values
    lag: Values
    capped: Values
    turn: int = 0

    @classmethod
    def without_mites(
        cls, shape: tuple[int, ...], adults: float = SPIN_UP_ADULTS, dtype: npt.DTypeLike = np.float64
    ) -> State:
        """Bees only, no brood."""
        workers, drones = (WORKER_CAPPED_DAYS, *shape), (DRONE_CAPPED_DAYS, *shape)
        return cls(
            np.full(shape, adults, dtype), np.zeros(shape, dtype), np.zeros(workers, dtype), np.zeros(workers, dtype),
            np.zeros(drones, dtype), np.zeros(drones, dtype), np.zeros(shape, dtype), np.zeros(shape, dtype),
        )  # fmt: skip

    def _each(self, change: Callable[[Values], Values]) -> State:
        return State(**{name: change(getattr(self, name)) for name in ARRAYS}, turn=self.turn)

    def copy(self) -> State:
        """The same, to be changed apart."""
        return self._each(lambda values: values.copy())

    def take(self, chosen: npt.NDArray[np.intp]) -> State:
        """The members with these numbers (along the last axis)."""
        return self._each(lambda values: values[..., chosen])

    def mites_in_cells(self, parameters: Parameters) -> Values:
        """Living foundresses under cappings, from the mites that will leave."""
        workers = self.worker_mites.sum(axis=0) / (parameters.mother_surv + parameters.off_worker)
        drones = self.drone_mites.sum(axis=0) / (parameters.mother_surv + parameters.off_drone)
        return np.asarray(workers + drones)

    def put_mites(self, mites: Values, parameters: Parameters) -> None:
        """Lay so many mites into a colony without any: up to 60 % under cappings, spread over the worker brood."""
        # The cells are summed: `capped` is kept by adding and taking away, and near none it strays from them.
        capped = self.worker_cells.sum(axis=0)
        share = START_IN_CELLS * np.minimum(1.0, capped / NURSES_FROM)
        in_cells = share * mites * (parameters.mother_surv + parameters.off_worker)
        self.on_bees = self.on_bees + (1 - share) * mites
        self.worker_mites = self.worker_mites + in_cells * self.worker_cells / np.where(capped > 0, capped, 1.0)


ARRAYS = tuple(one.name for one in fields(State) if one.name != "turn")
"""The arrays of a state."""


def _book(entering: Values, cells: Values, half: Values, offspring: Values, mothers: Values, into: Values) -> None:
    """Book mites that enter cells as those that will leave them; the more share a cell, the less each yields."""
    crowd = np.maximum(cells, 1.0)
    np.divide(entering, crowd, out=crowd)
    crowd *= half
    crowd += 1
    np.divide(offspring, crowd, out=crowd)
    crowd += mothers
    np.multiply(entering, crowd, out=into)


class Model:
    """The model of one place: its season, and the parameters of the members."""

    def __init__(self, season: Season, parameters: Parameters) -> None:
        self.season = season
        self.parameters = parameters
        dtype = parameters.cap_max.dtype
        self._brood, self._brood_late, self._drones, self._winter = (
            one.astype(dtype) for one in (season.brood, season.brood_late, season.drones, season.winter)
        )
        self._shift = np.rint(parameters.season_shift).astype(np.intp)
        self._summer_death = 1.0 / parameters.bee_life
        self._winter_death = 1.0 / parameters.bee_life_w
        self._worker_entry = parameters.inv_scale * parameters.inv_worker / parameters.bee_g
        self._drone_entry = parameters.inv_scale * parameters.inv_drone / parameters.bee_g
        self._worker_half = 1.0 / parameters.half_multi
        self._drone_half = 0.5 / parameters.half_multi
        self._living_brood, self._living_nobrood = 1 - parameters.mort_brood, 1 - parameters.mort_nobrood

    def spun_up(self, day: date) -> State:
        """Colonies without mites on the morning of a day, after a year of their own."""
        state = State.without_mites(self.parameters.cap_max.shape, dtype=self.parameters.cap_max.dtype)
        for number in range(SPIN_UP_DAYS, 0, -1):
            self.step(state, day - timedelta(days=number), alone=True)
        return state

    def step(self, state: State, day: date, events: DayOfEvents = QUIET, *, alone: bool = False) -> Values | float:
        """One day: cells open, what was done is done, mites arrive and die, mites enter cells. Changes the state, and
        returns the mites on bees that treatments killed.

        A colony that stands `alone` has no mites and none reaches it: only its bees and its brood go on.
        """
        killed: Values | float = 0.0
        p, season = self.parameters, self.season
        at = (day_of_year(day) - self._shift) % len(season.brood)
        worker_slot, drone_slot = state.turn % WORKER_CAPPED_DAYS, state.turn % DRONE_CAPPED_DAYS
        opening = state.worker_cells[worker_slot]
        death = self._summer_death + (self._winter_death - self._summer_death) * self._winter[at]
        if alone:
            state.adults *= 1 - death
            state.adults += EMERGING_SHARE * opening
            state.capped -= opening
        else:
            self._open(state, worker_slot, drone_slot, death)
            killed = self._do(state, events)
            arriving = np.where(season.dormant[at], 0.0, np.where(season.decline[at], p.late_reinv, p.reinv))
            state.on_bees += (arriving + events.arriving).astype(state.on_bees.dtype)
            state.on_bees *= np.where(state.capped > BROODLESS_BELOW, self._living_brood, self._living_nobrood)
        shape = self._brood[at] + p.late_share * self._brood_late[at]
        cells_laid = np.minimum(state.adults, WEAK_BELOW)
        cells_laid *= p.cap_max * shape / WEAK_BELOW
        drones_a_worker = p.drone_share * self._drones[at]
        workers = cells_laid if events.worker_capping else np.zeros_like(cells_laid)
        drones = cells_laid * drones_a_worker if events.drone_capping else np.zeros_like(cells_laid)
        if not alone:
            to_workers = self._worker_entry * events.worker_capping
            to_drones = self._drone_entry * drones_a_worker * events.drone_capping
            into_workers, into_drones = self._entering(state, cells_laid, to_workers, to_drones)
            _book(
                into_workers, workers, self._worker_half, p.off_worker, p.mother_surv, state.worker_mites[worker_slot]
            )
            _book(into_drones, drones, self._drone_half, p.off_drone, p.mother_surv, state.drone_mites[drone_slot])
        state.worker_cells[worker_slot], state.drone_cells[drone_slot] = workers, drones
        state.capped += workers
        state.turn += 1
        return killed

    def _open(self, state: State, worker_slot: int, drone_slot: int, death: Values) -> None:
        p = self.parameters
        bees, mites = state.worker_cells[worker_slot], state.worker_mites[worker_slot]
        emerging = mites + state.drone_mites[drone_slot]
        emerging *= p.emerge_surv
        state.on_bees += emerging
        infested = mites / np.maximum(bees, 1.0)
        infested *= -1 / MITES_LEAVING_A_CELL
        infested = _one_minus_exp(infested)
        infested *= bees >= 1
        state.lag *= LAG_KEPT
        state.lag += (1 - LAG_KEPT) * infested
        dying = p.harm * state.lag
        dying += 1
        dying *= death
        np.minimum(dying, 1.0, out=dying)
        dying *= state.adults
        state.adults -= dying
        infested *= -INFESTED_LOSS * EMERGING_SHARE
        infested += EMERGING_SHARE
        infested *= bees
        state.adults += infested
        state.capped -= bees
        # What opened is gone before anything is done to the brood that is left.
        for ring, slot in (
            (state.worker_cells, worker_slot), (state.worker_mites, worker_slot),
            (state.drone_cells, drone_slot), (state.drone_mites, drone_slot),
        ):  # fmt: skip
            ring[slot] = 0.0

    def _do(self, state: State, events: DayOfEvents) -> Values | float:
        if events is QUIET:
            return 0.0
        living = state.on_bees.copy() if events.treatments else state.on_bees
        for treat in events.treatments:
            strength = self.parameters.treat_strength
            state.on_bees *= (1 - treat.kp) ** strength
            if np.any(treat.kc):
                kept = (1 - treat.kc) ** strength
                state.worker_mites *= kept
                state.drone_mites *= kept
        killed = living - state.on_bees if events.treatments else 0.0
        if events.bees_leaving:
            state.adults *= 1 - events.bees_leaving
            state.on_bees *= 1 - events.bees_leaving
        if events.brood_leaving:
            for ring in (state.worker_cells, state.worker_mites, state.drone_cells, state.drone_mites):
                ring *= 1 - events.brood_leaving
            state.capped = state.worker_cells.sum(axis=0)
        if events.drones_cut:
            state.drone_cells *= 1 - events.drones_cut
            state.drone_mites *= 1 - events.drones_cut
        return killed

    def _entering(
        self, state: State, cells_laid: Values, to_workers: Values, to_drones: Values
    ) -> tuple[Values, Values]:
        """Mites that leave the bees for worker and for drone cells; `to_*` are their pulls for a cell laid a gram."""
        pull = to_workers + to_drones
        rate = cells_laid * -pull
        rate /= np.maximum(state.adults, FEWEST_NURSES)
        entering = _one_minus_exp(rate)
        entering *= state.on_bees
        state.on_bees -= entering
        share = to_workers / np.maximum(pull, LEAST_RATE)
        return entering * share, entering * (1 - share)

    def per_100(self, state: State, colonies: Sequence[int] | slice = slice(None)) -> Values:
        """Mites per 100 bees as a wash of nurse bees with every mite found would read them; of all colonies, or of some
        along the first axis."""
        bias = np.where(state.capped[colonies] > NURSES_FROM, self.parameters.nurse_bias, 1.0)
        return np.asarray(100.0 * bias * state.on_bees[colonies] / np.maximum(state.adults[colonies], 1.0))
