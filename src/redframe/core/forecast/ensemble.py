"""An ensemble of colonies that agrees with what was counted.

Members differ in every parameter and in their load; each is weighted by how well it explains the counts, with the
bees in the jar, the mites missed and the patchiness of mites between combs all uncertain (docs/methods/forecast.md,
"Starting from counts"). Randomness comes from a generator that the caller gives.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

import numpy as np
import numpy.typing as npt

from redframe.core.errors import InvalidInput
from redframe.core.forecast.events import Event, on_day
from redframe.core.forecast.model import Model, State
from redframe.core.forecast.parameters import draw_parameters
from redframe.core.forecast.season import season_of
from redframe.core.forecast.seen import Seen, fall_errors, log_likelihood, log_prior, log_proposal, proposed_rates
from redframe.core.season.calendar import Calendar

Values = npt.NDArray[np.float64]

MEMBERS = 4000
MOST_MEMBERS = 16_000
ENOUGH_EFFECTIVE = 200.0
DAYS_BEFORE = 45
"""Members start so long before the first count: by then how the mites were split at the start no longer matters."""
PILOT_MITES = 100.0


@dataclass(frozen=True, slots=True)
class Fitted:
    """Members that agree with the counts, on the evening of the last of them, all of the same weight.

    `effective` is the effective number of members before they were drawn again, `drawn` how many were tried;
    `disagree` says that no member explains the counts well, so that their weights had to be flattened.
    """

    model: Model
    state: State
    rates: Values
    on: date
    effective: float
    drawn: int
    disagree: bool

    def take(self, chosen: npt.NDArray[np.intp]) -> Fitted:
        """Only these members."""
        model = Model(self.model.season, self.model.parameters.take(chosen))
        return replace(self, model=model, state=self.state.take(chosen), rates=self.rates[chosen])


def fit(
    counts: Sequence[Seen],
    calendar: Calendar,
    events: Sequence[Event],
    generator: np.random.Generator,
    members: int = MEMBERS,
) -> Fitted:
    """Members that agree with the counts of one colony; four times as many are tried while too few carry the weight.

    Raises InvalidInput("counts") without a count.
    """
    if not counts:
        raise InvalidInput("counts", "a forecast starts from a count", code="missing")
    ordered = sorted(counts, key=lambda count: count.taken_on)
    drawn = members
    while True:
        model, state, rates, log_weights = _weighed(ordered, calendar, events, generator, drawn)
        effective = effective_members(log_weights)
        if effective >= ENOUGH_EFFECTIVE or drawn * 4 > MOST_MEMBERS:
            break
        drawn *= 4
    disagree = effective < ENOUGH_EFFECTIVE
    if disagree:
        log_weights = tempered(log_weights)
    chosen = _systematic(log_weights, members, generator)
    return Fitted(model, state, rates, ordered[-1].taken_on, effective, drawn, disagree).take(chosen)


def _weighed(
    counts: Sequence[Seen],
    calendar: Calendar,
    events: Sequence[Event],
    generator: np.random.Generator,
    members: int,
) -> tuple[Model, State, Values, Values]:
    """Members run to the last count, their rates on its day and their log weights."""
    first, last = counts[0].taken_on, counts[-1].taken_on
    start = first - timedelta(days=DAYS_BEFORE)
    model = Model(season_of(calendar), draw_parameters(members, generator))
    clean = model.spun_up(start)
    arrived, pilot = clean.copy(), clean.copy()
    pilot.put_mites(np.full(members, PILOT_MITES), model.parameters)
    for number in range(DAYS_BEFORE + 1):
        day = start + timedelta(days=number)
        of_day = on_day(events, day)
        model.step(arrived, day, of_day)
        model.step(pilot, day, of_day)
    fall_error = fall_errors(counts, members, generator)
    wanted = proposed_rates(counts[0], members, generator, fall_error)
    log_wanted = np.log(wanted)
    from_outside = model.per_100(arrived) / 100
    started = PILOT_MITES * (wanted - from_outside) / np.maximum(model.per_100(pilot) / 100 - from_outside, 1e-12)
    state = clean
    state.put_mites(np.maximum(started, 0.0), model.parameters)
    # A member to which more mites came than it is to have cannot have begun with fewer than none.
    log_weights = np.where(
        started >= 0, log_prior(log_wanted, counts[0]) - log_proposal(log_wanted, counts[0], fall_error), -np.inf
    )
    rates: Values = np.zeros(members)
    for number in range((last - start).days + 1):
        day = start + timedelta(days=number)
        model.step(state, day, on_day(events, day))
        counted = [count for count in counts if count.taken_on == day]
        if counted:
            rates = np.asarray(model.per_100(state), dtype=np.float64)
        for count in counted:
            log_weights = log_weights + log_likelihood(count, rates, generator, fall_error)
    return model, state, rates, log_weights


def weights_of(log_weights: Values) -> Values:
    """Weights that add up to one."""
    weights = np.exp(log_weights - log_weights.max())
    return np.asarray(weights / weights.sum())


def effective_members(log_weights: Values) -> float:
    """Effective number of members under these weights."""
    return float(1.0 / np.sum(weights_of(log_weights) ** 2))


def tempered(log_weights: Values, enough: float = ENOUGH_EFFECTIVE) -> Values:
    """Log weights flattened until enough members carry them."""
    possible = np.isfinite(log_weights)
    kept = log_weights[possible]
    power = 0.0
    if len(kept) > enough:
        from scipy.optimize import brentq

        power = brentq(lambda share: effective_members(share * kept) - enough, 0.0, 1.0, xtol=1e-4)
    flattened = np.full_like(log_weights, -np.inf)
    flattened[possible] = power * kept
    return flattened


def _systematic(log_weights: Values, members: int, generator: np.random.Generator) -> npt.NDArray[np.intp]:
    """Numbers of members drawn in proportion to their weights, evenly spaced along the running sum."""
    points = (np.arange(members) + generator.random()) / members
    chosen = np.searchsorted(np.cumsum(weights_of(log_weights)), points)
    return np.asarray(np.minimum(chosen, len(log_weights) - 1), dtype=np.intp)
