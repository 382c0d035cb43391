"""What was counted, and how likely a colony with a given infestation would have shown it.

A jar counts mites on bees; a board counts mites that fell, which is far less sure of the load: by how much is common to
all boards of a colony, so that each member carries one error for all of them (docs/methods/forecast.md, "Boards").
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import lru_cache

import numpy as np
import numpy.typing as npt
from scipy import special

from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.conversion import CV_ADULTS, LOG_SD_K, FallFactors
from redframe.core.sampling.rates import PRIOR_SHAPE
from redframe.core.sampling.reading import RECOVERY_PRIOR, Recovery, mean_recovery
from redframe.core.sampling.trend import PATCHINESS_SIZE

Values = npt.NDArray[np.float64]

PROPOSAL_SPREAD = 0.45
LEAST_MEAN = 1e-12


@dataclass(frozen=True, slots=True)
class CountSeen:
    """A count of mites on bees: the day, the mites, the bees in the jar, the share of mites that reach the count."""

    taken_on: date
    mites: int
    bees: BeesInSample
    recovery: Recovery = "wash_shakes"

    @property
    def exposure(self) -> float:
        """Mites expected in the jar for one mite a bee."""
        return self.bees.mean * mean_recovery(self.recovery)

    def exposures(self, members: int, generator: np.random.Generator) -> Values:
        """Mites expected in the jar for one mite a bee, bees and share found drawn for each member."""
        bees = self.bees.quantiles(generator.random(members))
        prior = RECOVERY_PRIOR[self.recovery]
        return np.asarray(bees if prior is None else bees * generator.beta(*prior, members))

    @property
    def overdispersion(self) -> float:
        """Squared coefficient of variation beyond chance: mites in patches, the bees, the share found."""
        return 1 / PATCHINESS_SIZE + self.bees.cv**2 + _recovery_cv2(self.recovery)


@dataclass(frozen=True, slots=True)
class FallSeen:
    """A natural fall: the day on which the board was read, the mites counted, the days in times the share of
    it that was counted, the coefficient of variation of that share, and what a fall means in that part of the year."""

    taken_on: date
    mites: int
    board_days: float
    board_cv: float
    factors: FallFactors

    @property
    def exposure(self) -> float:
        """Mites expected on the board for one mite a bee, in the middle."""
        a, b = self.factors.phi
        on_bees = a / (a + b)
        return self.board_days * self.factors.adults / (self.factors.bias * on_bees * self.factors.k)

    @property
    def spread(self) -> float:
        """Standard deviation of the logarithm of the rate behind a fall that is known exactly."""
        return fall_spread(self.factors)

    @property
    def overdispersion(self) -> float:
        """Squared coefficient of variation beyond chance: patches, squares left out, and what a fall stands for."""
        return 1 / PATCHINESS_SIZE + self.board_cv**2 + self.spread**2


Seen = CountSeen | FallSeen


def _recovery_cv2(recovery: Recovery) -> float:
    prior = RECOVERY_PRIOR[recovery]
    return 0.0 if prior is None else prior[1] / (prior[0] * (prior[0] + prior[1] + 1))


def log_prior(log_rates: Values, first: Seen) -> Values:
    """Log density, but for a constant, of the log rate (mites per bee) on the day of the first count before anything is
    counted: Jeffreys' prior of that count.

    What a count tells of a log rate is one over its squared coefficient of variation. While few mites are expected that
    is their number, and the prior is a single count's, theta^-1/2; the more there are, the more what no number of mites
    takes away decides, and the log rate is held evenly likely.
    """
    return np.asarray(-0.5 * np.log(1 / (first.exposure * np.exp(log_rates)) + first.overdispersion))


def fall_spread(factors: FallFactors) -> float:
    """How far the logarithm of the rate behind a known daily fall strays: mites a fallen mite stands for, adult bees,
    and the share on bees, together."""
    a, b = factors.phi
    return math.sqrt(
        LOG_SD_K**2 + math.log1p(CV_ADULTS**2) + float(special.polygamma(1, a) - special.polygamma(1, a + b))
    )


def fall_errors(seen: Sequence[Seen], members: int, generator: np.random.Generator) -> Values:
    """One standard normal error a member, for all boards of its colony; nothing is drawn where there is no board."""
    any_fell = any(isinstance(one, FallSeen) for one in seen)
    return generator.standard_normal(members) if any_fell else np.zeros(members)


def proposed_rates(first: Seen, members: int, generator: np.random.Generator, fall_error: Values) -> Values:
    """Rates (mites per bee) on the day of the first count that members are to have: the count's own gamma, blurred; of
    a board moved by each member's error, so that its likelihood does not undo what is proposed."""
    blurred = np.exp(generator.normal(0, PROPOSAL_SPREAD, members) - _strays(first, fall_error))
    wanted = generator.gamma(first.mites + PRIOR_SHAPE, size=members) / first.exposure * blurred
    return np.asarray(np.maximum(wanted, 1e-12))


def _strays(first: Seen, fall_error: Values) -> Values | float:
    return first.spread * fall_error if isinstance(first, FallSeen) else 0.0


@lru_cache(maxsize=1)
def _nodes() -> tuple[Values, Values]:
    return np.polynomial.hermite.hermgauss(32)


def log_proposal(log_wanted: Values, first: Seen, fall_error: Values) -> Values:
    """Log density of the proposed log rate given the member's error: a log-gamma blurred by a normal, by Gauss-Hermite
    quadrature."""
    shape, exposure = first.mites + PRIOR_SHAPE, first.exposure
    nodes, weights = _nodes()
    central = log_wanted + _strays(first, fall_error) + np.log(exposure)
    log_gamma = central[:, None] - np.sqrt(2.0) * PROPOSAL_SPREAD * nodes
    log_density = shape * log_gamma
    log_density -= np.exp(log_gamma)
    most = log_density.max(axis=1)
    log_density -= most[:, None]
    mean = np.exp(log_density, out=log_density) @ (weights / np.sqrt(np.pi))
    return np.asarray(most + np.log(mean) - special.gammaln(shape))


def log_likelihood(seen: Seen, rates: Values, generator: np.random.Generator, fall_error: Values) -> Values:
    """Log chance of a count in each member (`rates` in mites per 100 bees): negative binomial of size 6 around the
    mites in the jar that are found, or around those that fall where the member's own error is `fall_error` standard
    deviations."""
    if isinstance(seen, FallSeen):
        mean = seen.exposure * rates / 100 * np.exp(seen.spread * fall_error)
        return _negative_binomial(seen.mites, mean, 1 / (1 / PATCHINESS_SIZE + seen.board_cv**2))
    return _negative_binomial(seen.mites, seen.exposures(len(rates), generator) * rates / 100, PATCHINESS_SIZE)


def _negative_binomial(mites: int, mean: Values, size: float) -> Values:
    mean = np.maximum(mean, LEAST_MEAN)
    choose = special.gammaln(mites + size) - special.gammaln(size) - special.gammaln(mites + 1)
    return np.asarray(choose + size * np.log(size / (size + mean)) + mites * np.log(mean / (size + mean)))
