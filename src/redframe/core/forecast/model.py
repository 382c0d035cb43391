"""Bees, brood and mites of colonies, day by day.

Arrays hold one value an ensemble member, shape (..., members): a leading axis of colonies may share the parameters of
the members. Mites in cells are booked at capping as the mites that will leave (docs/methods/forecast.md, "The day").
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
import numpy.typing as npt

from redframe.core.forecast.events import QUIET, DayOfEvents
from redframe.core.forecast.parameters import Parameters
from redframe.core.forecast.season import Season, day_of_year

Values = npt.NDArray[np.float64]

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


@dataclass(slots=True)
class State:
    """Colonies at the end of a day.

    `adults` bees, `on_bees` mites; `worker_cells`, `worker_mites` (12, ...) and `drone_cells`, `drone_mites`
    (14, ...) are rings of daily cohorts whose oldest stands at `turn` modulo their length; `lag` is the slow mean of
    infested cells.
    """

    adults: Values
    on_bees: Values
    worker_cells: Values
    worker_mites: Values
    drone_cells: Values
    drone_mites: Values
    lag: Values
    turn: int = 0

    @classmethod
    def without_mites(cls, shape: tuple[int, ...], adults: float = SPIN_UP_ADULTS) -> State:
        """Bees only, no brood."""
        workers, drones = (WORKER_CAPPED_DAYS, *shape), (DRONE_CAPPED_DAYS, *shape)
        return cls(
            np.full(shape, adults), np.zeros(shape), np.zeros(workers), np.zeros(workers), np.zeros(drones),
            np.zeros(drones), np.zeros(shape),
        )  # fmt: skip

    def copy(self) -> State:
        """The same, to be changed apart."""
        return State(
            self.adults.copy(), self.on_bees.copy(), self.worker_cells.copy(), self.worker_mites.copy(),
            self.drone_cells.copy(), self.drone_mites.copy(), self.lag.copy(), self.turn,
        )  # fmt: skip

    def take(self, chosen: npt.NDArray[np.intp]) -> State:
        """The members with these numbers (along the last axis)."""
        return State(
            self.adults[..., chosen], self.on_bees[..., chosen], self.worker_cells[..., chosen],
            self.worker_mites[..., chosen], self.drone_cells[..., chosen], self.drone_mites[..., chosen],
            self.lag[..., chosen], self.turn,
        )  # fmt: skip

    @property
    def capped_workers(self) -> Values:
        """Capped worker cells."""
        return np.asarray(self.worker_cells.sum(axis=0))

    def mites_in_cells(self, parameters: Parameters) -> Values:
        """Living foundresses under cappings, from the mites that will leave."""
        workers = self.worker_mites.sum(axis=0) / (parameters.mother_surv + parameters.off_worker)
        drones = self.drone_mites.sum(axis=0) / (parameters.mother_surv + parameters.off_drone)
        return np.asarray(workers + drones)

    def put_mites(self, mites: Values, parameters: Parameters) -> None:
        """Lay so many mites into a colony without any: up to 60 % under cappings, spread over the worker brood."""
        capped = self.capped_workers
        share = START_IN_CELLS * np.minimum(1.0, capped / NURSES_FROM)
        in_cells = share * mites * (parameters.mother_surv + parameters.off_worker)
        self.on_bees = self.on_bees + (1 - share) * mites
        self.worker_mites = self.worker_mites + in_cells * self.worker_cells / np.maximum(capped, 1.0)


class Model:
    """The model of one place: its season, and the parameters of the members."""

    def __init__(self, season: Season, parameters: Parameters) -> None:
        self.season = season
        self.parameters = parameters
        self._shift = np.rint(parameters.season_shift).astype(np.intp)
        self._summer_death = 1.0 / parameters.bee_life
        self._winter_death = 1.0 / parameters.bee_life_w
        self._worker_entry = parameters.inv_scale * parameters.inv_worker
        self._drone_entry = parameters.inv_scale * parameters.inv_drone
        self._worker_half = 1.0 / parameters.half_multi
        self._drone_half = 0.5 / parameters.half_multi

    def spun_up(self, day: date) -> State:
        """Colonies without mites on the morning of a day, after a year of their own."""
        state = State.without_mites(self.parameters.cap_max.shape)
        for number in range(SPIN_UP_DAYS, 0, -1):
            self.step(state, day - timedelta(days=number), alone=True)
        return state

    def step(self, state: State, day: date, events: DayOfEvents = QUIET, *, alone: bool = False) -> None:
        """One day: cells open, what was done is done, mites arrive and die, mites enter cells. Changes the state.

        A colony that stands `alone` has no mites and none reaches it: only its bees and its brood go on.
        """
        p, season = self.parameters, self.season
        at = (day_of_year(day) - self._shift) % len(season.brood)
        worker_slot, drone_slot = state.turn % WORKER_CAPPED_DAYS, state.turn % DRONE_CAPPED_DAYS
        if alone:
            death = self._death(season.winter[at])
            state.adults = state.adults * (1 - death) + EMERGING_SHARE * state.worker_cells[worker_slot]
        else:
            self._open(state, worker_slot, drone_slot, season.winter[at])
            self._do(state, events)
            arriving = np.where(season.dormant[at], 0.0, np.where(season.decline[at], p.late_reinv, p.reinv))
            with_brood = state.capped_workers > BROODLESS_BELOW
            deaths = np.where(with_brood, p.mort_brood, p.mort_nobrood)
            state.on_bees = (state.on_bees + arriving + events.arriving) * (1 - deaths)
        laid = p.cap_max * (season.brood[at] + p.late_share * season.brood_late[at])
        laid = laid * np.minimum(1.0, state.adults / WEAK_BELOW)
        workers = laid if events.worker_capping else np.zeros_like(laid)
        drones = laid * p.drone_share * season.drones[at] if events.drone_capping else np.zeros_like(laid)
        state.worker_cells[worker_slot], state.drone_cells[drone_slot] = workers, drones
        if not alone:
            self._enter(state, worker_slot, drone_slot, workers, drones)
        state.turn += 1

    def _death(self, winter: Values) -> Values:
        """Share of the adults that die on a day, by the share of them that are long-lived."""
        return np.asarray(self._summer_death + (self._winter_death - self._summer_death) * winter)

    def _open(self, state: State, worker_slot: int, drone_slot: int, winter: Values) -> None:
        p = self.parameters
        bees, mites = state.worker_cells[worker_slot].copy(), state.worker_mites[worker_slot].copy()
        leaving = mites + state.drone_mites[drone_slot]
        for ring, slot in (
            (state.worker_cells, worker_slot), (state.worker_mites, worker_slot),
            (state.drone_cells, drone_slot), (state.drone_mites, drone_slot),
        ):  # fmt: skip
            ring[slot] = 0.0
        infested = np.where(bees < 1, 0.0, -np.expm1(-mites / (MITES_LEAVING_A_CELL * np.maximum(bees, 1.0))))
        state.lag = LAG_KEPT * state.lag + (1 - LAG_KEPT) * infested
        death = self._death(winter) * (1 + p.harm * state.lag)
        state.adults = state.adults * (1 - np.minimum(1.0, death)) + EMERGING_SHARE * bees * (
            1 - INFESTED_LOSS * infested
        )
        state.on_bees = state.on_bees + p.emerge_surv * leaving

    def _do(self, state: State, events: DayOfEvents) -> None:
        if events is QUIET:
            return
        for treat in events.treatments:
            strength = self.parameters.treat_strength
            state.on_bees = state.on_bees * (1 - treat.kp) ** strength
            if treat.kc > 0:
                kept = (1 - treat.kc) ** strength
                state.worker_mites = state.worker_mites * kept
                state.drone_mites = state.drone_mites * kept
        state.adults = state.adults * (1 - events.bees_leaving)
        state.on_bees = state.on_bees * (1 - events.bees_leaving)
        for ring in (state.worker_cells, state.worker_mites, state.drone_cells, state.drone_mites):
            ring *= 1 - events.brood_leaving
        state.drone_cells *= 1 - events.drones_cut
        state.drone_mites *= 1 - events.drones_cut

    def _enter(self, state: State, worker_slot: int, drone_slot: int, workers: Values, drones: Values) -> None:
        p = self.parameters
        grams = p.bee_g * np.maximum(state.adults, 300.0)
        to_workers, to_drones = self._worker_entry * workers / grams, self._drone_entry * drones / grams
        rate = to_workers + to_drones
        enter = state.on_bees * -np.expm1(-rate)
        a_rate = enter / np.maximum(rate, 1e-300)
        in_workers, in_drones = a_rate * to_workers, a_rate * to_drones
        crowd_workers, crowd_drones = in_workers / np.maximum(workers, 1.0), in_drones / np.maximum(drones, 1.0)
        state.worker_mites[worker_slot] = in_workers * (
            p.mother_surv + p.off_worker / (1 + crowd_workers * self._worker_half)
        )
        state.drone_mites[drone_slot] = in_drones * (
            p.mother_surv + p.off_drone / (1 + crowd_drones * self._drone_half)
        )
        state.on_bees = state.on_bees - enter

    def per_100(self, state: State) -> Values:
        """Mites per 100 bees as a wash of nurse bees with every mite found would read them."""
        bias = np.where(state.capped_workers > NURSES_FROM, self.parameters.nurse_bias, 1.0)
        return np.asarray(100.0 * bias * state.on_bees / np.maximum(state.adults, 1.0))
