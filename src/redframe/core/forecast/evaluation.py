"""How earlier forecasts did: each later count compared with what the counts before it would have predicted of it.

Nobody knows the truth of a colony, so it is the count that is predicted: mites in a jar of so many bees, with all that
makes a count stray from the truth. A count is a whole number; where it stands among what was predicted is therefore a
short span of chance rather than a point, and a band holds as much of that span as lies inside it (Czado, Gneiting and
Held 2009). It is compared with two plain alternatives: the last count stays, and it grows at one rate
(docs/methods/forecast.md, "How earlier forecasts did").
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy import special

from redframe.core.forecast.model import State
from redframe.core.forecast.seen import CountSeen, Seen
from redframe.core.forecast.side_by_side import Ensemble, Record, SideBySide, in_turn, prepare
from redframe.core.forecast.starting import BACK_DAYS, start_from
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.rates import PRIOR_SHAPE
from redframe.core.sampling.trend import PATCHINESS_SIZE
from redframe.core.season.calendar import Calendar

LEAST_AHEAD_DAYS, MOST_AHEAD_DAYS = 7, 60
"""Counts nearer than a week say little of a forecast, farther ones lie beyond what it looks at."""
FEWEST_COUNTS = 50
"""Fewer later counts than these are not summed up."""
ONE_RATE = 0.021
"""Growth a day of the plain alternative: that of the season's build-up and peak."""

Values = npt.NDArray[np.float64]
BandsWere = Literal["right", "too_narrow", "too_wide"]
MiddleWas = Literal["right", "too_high", "too_low"]
OFF_MIDDLE = 0.35
"""At most this share of the counts on one side of the middle: the middle of what was predicted is off."""


@dataclass(frozen=True, slots=True)
class Later:
    """A count, and what was on record of its colony before it: counts, treatments, and the level (mites per 100 bees)
    over which it may read, with its bees and the usual share found."""

    count: CountSeen
    record: Record


@dataclass(frozen=True, slots=True)
class Predicted:
    """A count and what was predicted of it.

    `below` and `upto` are the chances of fewer mites than were counted, and of as many or fewer. `over` says whether
    the count read at or over the level; the chances that it would are the forecast's (`p_over`), and those of the
    last count staying (`p_stays`) or growing at one rate (`p_one_rate`).
    """

    days: int
    below: float
    upto: float
    over: bool
    p_over: float
    p_stays: float
    p_one_rate: float


@dataclass(frozen=True, slots=True)
class ForecastEvaluation:
    """How forecasts did over `counts` later counts, `days` after what they knew in the middle.

    `held50`, `held80`, `held95` are the shares of later counts inside these bands, `above` the share over the middle;
    `happened` is the share that read over the level, and the Brier scores are the mean squared misses of the chances
    given for it: nought is perfect, `happened * (1 - happened)` is what always naming that share would score.
    """

    counts: int
    days: float
    held50: float
    held80: float
    held95: float
    above: float
    happened: float
    brier: float
    brier_stays: float
    brier_one_rate: float

    @property
    def bands(self) -> BandsWere:
        """Whether the 80 % band held as many counts as it should, to within twice the error of so many counts."""
        off, error = self.held80 - 0.8, math.sqrt(0.8 * 0.2 / self.counts)
        return "right" if abs(off) <= 2 * error else "too_narrow" if off < 0 else "too_wide"

    @property
    def middle(self) -> MiddleWas:
        """Whether counts lay on both sides of what was predicted, or nearly all under it (too high) or over it."""
        return "too_high" if self.above <= OFF_MIDDLE else "too_low" if self.above >= 1 - OFF_MIDDLE else "right"

    @property
    def beats_plain(self) -> bool:
        """Whether its chances of reading over missed by less than those of both plain alternatives."""
        return self.brier < min(self.brier_stays, self.brier_one_rate)


@dataclass(frozen=True, slots=True)
class NextCount:
    """Mites that a careful wash on a day would find in about so many bees: the middle, and the ends of the central
    80 %."""

    on: date
    bees: float
    middle: int
    low80: int
    high80: int


def next_count(day: date, bees: BeesInSample, rates: Values, generator: np.random.Generator) -> NextCount:
    """What a wash of these bees would find where the members have these rates (mites per 100 bees)."""
    mean = CountSeen(day, 0, bees).exposures(len(rates), generator) * rates / 100
    mites = generator.poisson(mean * generator.gamma(PATCHINESS_SIZE, 1 / PATCHINESS_SIZE, len(rates)))
    middle, low, high = (int(one) for one in np.quantile(mites, (0.5, 0.1, 0.9), method="inverted_cdf"))
    return NextCount(day, bees.mean, middle, low, high)


def known_before(recorded: Sequence[Seen], count: CountSeen) -> tuple[Seen, ...]:
    """What a forecast of a count would have started from: the counts before it, as `start_from` takes them; none where
    the last of them, or the last jar, lies too near or too far, for then the count is not set against a forecast."""
    since = count.taken_on - timedelta(days=BACK_DAYS)
    before = start_from([one for one in recorded if since < one.taken_on < count.taken_on])
    jars = [one for one in before if isinstance(one, CountSeen)]
    if not jars or not before:
        return ()
    nearest, jar = (count.taken_on - before[-1].taken_on).days, (count.taken_on - jars[-1].taken_on).days
    return before if nearest >= LEAST_AHEAD_DAYS and jar <= MOST_AHEAD_DAYS else ()


def predict(later: Sequence[Later], calendar: Calendar, generator: np.random.Generator) -> list[Predicted]:
    """Set counts of one place against the forecasts from those before them, and against the alternatives."""
    records = [one.record for one in later]
    if not records:
        return []
    ensemble = prepare(records, calendar, generator)
    found: dict[int, Predicted] = {}
    for numbers in in_turn(records):
        some = _Before(ensemble, [later[number] for number in numbers], generator)
        found.update(zip(numbers, some.run(), strict=True))
    return [found[number] for number in range(len(records))]


class _Before(SideBySide):
    """A few colonies lived through to the day of the count that is predicted."""

    def __init__(self, ensemble: Ensemble, later: Sequence[Later], generator: np.random.Generator) -> None:
        super().__init__(ensemble, [one.record for one in later], max(one.count.taken_on for one in later), generator)
        self.later = later
        self.predicted: dict[int, Predicted] = {}

    def run(self) -> list[Predicted]:
        """What was predicted of each."""
        self.live()
        return [self.predicted[number] for number in range(len(self.later))]

    def look(self, day: date, part: State) -> None:
        """The rates of the members on the day of each count."""
        numbers = [number for number, one in enumerate(self.later) if one.count.taken_on == day]
        if numbers:
            rates = self.model.per_100(part, numbers).astype(np.float64)
            for number, own in zip(numbers, rates, strict=True):
                self.predicted[number] = self._set_against(self.later[number], own, self.weights[number])

    def _set_against(self, later: Later, rates: Values, weights: Values) -> Predicted:
        count, before, members = later.count, later.record.counts, len(rates)
        last = next(one for one in reversed(before) if isinstance(one, CountSeen))
        over_from = math.ceil(later.record.level / 100 * count.exposure - 1e-9)
        jars, alike = count.exposures(members, self.generator) / 100, np.full(members, 1 / members)
        mean, stays = jars * rates, jars * _left_possible(last, members, self.generator)
        grown = stays * math.exp(ONE_RATE * (count.taken_on - last.taken_on).days)
        return Predicted(
            days=(count.taken_on - before[-1].taken_on).days,
            below=_chance_upto(count.mites - 1, mean, weights),
            upto=_chance_upto(count.mites, mean, weights),
            over=count.mites >= over_from,
            p_over=1 - _chance_upto(over_from - 1, mean, weights),
            p_stays=1 - _chance_upto(over_from - 1, stays, alike),
            p_one_rate=1 - _chance_upto(over_from - 1, grown, alike),
        )


def _left_possible(last: CountSeen, members: int, generator: np.random.Generator) -> Values:
    """Rates (mites per 100 bees) that one count leaves possible, patches of mites with it."""
    patch = generator.gamma(PATCHINESS_SIZE, 1 / PATCHINESS_SIZE, members)
    exposure = last.exposures(members, generator) * patch
    return np.asarray(100 * generator.gamma(last.mites + PRIOR_SHAPE, size=members) / exposure)


def _chance_upto(mites: int, mean: Values, weights: Values) -> float:
    """Chance of so many mites or fewer: negative binomial of size 6 around the mean of each member."""
    if mites < 0:
        return 0.0
    share = PATCHINESS_SIZE / (PATCHINESS_SIZE + mean)
    return min(1.0, float(weights @ special.betainc(PATCHINESS_SIZE, mites + 1, share)))


def _inside(one: Predicted, low: float, high: float) -> float:
    """How much of the span of chance in which a count stands lies between two levels of chance."""
    within = min(one.upto, high) - max(one.below, low)
    wide = one.upto - one.below
    return max(0.0, within) / wide if wide > 0 else float(low <= one.upto <= high)


def sum_up(predicted: Sequence[Predicted]) -> ForecastEvaluation | None:
    """What so many counts say together; None for fewer than fifty."""
    if len(predicted) < FEWEST_COUNTS:
        return None

    def mean(values: Sequence[float]) -> float:
        return float(np.mean(values))

    return ForecastEvaluation(
        counts=len(predicted),
        days=float(np.median([one.days for one in predicted])),
        held50=mean([_inside(one, 0.25, 0.75) for one in predicted]),
        held80=mean([_inside(one, 0.10, 0.90) for one in predicted]),
        held95=mean([_inside(one, 0.025, 0.975) for one in predicted]),
        above=mean([_inside(one, 0.5, 1.0) for one in predicted]),
        happened=mean([one.over for one in predicted]),
        brier=mean([(one.p_over - one.over) ** 2 for one in predicted]),
        brier_stays=mean([(one.p_stays - one.over) ** 2 for one in predicted]),
        brier_one_rate=mean([(one.p_one_rate - one.over) ** 2 for one in predicted]),
    )
