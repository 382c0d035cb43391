"""Which colonies of an apiary to count, and how many: for the mean of the apiary, or to find one that is over."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from math import exp
from uuid import UUID

import numpy as np

from redframe.core.policy.schemes import SCHEMES
from redframe.core.sampling.apiary_estimate import USUAL_KAPPA
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.plan import (
    NEAR_SENSITIVITY,
    Candidate,
    Chosen,
    choose,
    detection_sample,
    over_to_find,
    precision_sample,
    rate_cv,
)
from redframe.core.sampling.reading import read_fall, read_jar
from redframe.core.season.growth import GROWTH_PER_DAY
from redframe.store import colonies, places
from redframe.store import sampling as store
from redframe.store.colonies import ColonyOverview
from redframe.work.places.read import estimate_of
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.unit_of_work import UnitOfWork

USUAL_MEAN_PER_100 = 2.0
USUAL_BEES = 300.0
FIND_WITH = 0.95


@dataclass(frozen=True, slots=True)
class SamplingPlan:
    """How many colonies to count for the wanted half-width of the mean (`for_mean`) and to find one that is over
    (`to_find`; None: not even all are enough), and which: `chosen` are at least as many as wanted."""

    apiary_id: UUID
    apiary: str
    today: date
    colonies: int
    half_width: float
    cv: float
    for_mean: int
    over: int
    to_find: int | None
    found_with: float
    sensitivity: float
    chosen: Sequence[Chosen]


async def sampling_plan(unit: UnitOfWork, apiary_id: UUID, half_width: float, *, find: bool) -> SamplingPlan:
    """The plan for an apiary: enough for its mean, or (`find`) to find a colony that is over. Drawn at random with the
    day as its seed, so that the same day shows the same plan.

    Raises NotFound, InvalidInput("half_width").
    """
    apiary = await places.apiary(unit.connection, apiary_id)
    policy = await policy_in_force(unit, apiary_id)
    found = await colonies.colonies_of_apiary(unit.connection, apiary_id, unit.today)
    living = [colony for colony in found if colony.is_living]
    signs = set(await store.colonies_with_mite_signs(unit.connection, apiary_id, unit.today))
    estimate = estimate_of(living)
    fitted = estimate is not None and estimate.kappa_fitted
    kappa = estimate.kappa if estimate is not None and fitted else USUAL_KAPPA
    mean = estimate.mean if estimate is not None and estimate.mean > 0 else USUAL_MEAN_PER_100
    cv = rate_cv(kappa, mean, USUAL_BEES)
    for_mean = precision_sample(len(living), half_width, cv) if living else 0
    over = over_to_find(len(living))
    to_find = detection_sample(len(living), over, FIND_WITH, NEAR_SENSITIVITY) if living else None
    wanted = for_mean if not find or to_find is None else to_find.sample or len(living)
    candidates = [_candidate(colony, policy, unit.today, colony.id in signs) for colony in living]
    draw = np.random.default_rng([apiary_id.int % 2**63, unit.today.toordinal()])
    return SamplingPlan(
        apiary_id=apiary_id,
        apiary=apiary.name,
        today=unit.today,
        colonies=len(living),
        half_width=half_width,
        cv=cv,
        for_mean=for_mean,
        over=over,
        to_find=to_find.sample if to_find else None,
        found_with=to_find.achieved if to_find else 0.0,
        sensitivity=NEAR_SENSITIVITY,
        chosen=choose(candidates, wanted, "find" if find else "mean", draw),
    )


def _candidate(colony: ColonyOverview, policy: PolicyInForce, today: date, signs: bool) -> Candidate:
    return Candidate(
        colony_id=colony.id,
        p_act=_p_act_now(colony, policy, today),
        over=colony.level in ("act", "urgent"),
        signs=signs,
        strength=colony.strength,
        counted_on=colony.counted_on,
    )


def _p_act_now(colony: ColonyOverview, policy: PolicyInForce, today: date) -> float | None:
    """Chance that a colony is at or over its act level today, its last count grown as the season does; None where
    nothing is known."""
    if colony.counted_on is None or colony.mites is None or SCHEMES[policy.scheme].scale is None:
        return None
    phase = policy.calendar.phase(today)
    act = policy.policy.levels[phase].act * exp(-GROWTH_PER_DAY[phase] * (today - colony.counted_on).days)
    if colony.recovery is not None and colony.bees_mean is not None:
        return read_jar(colony.mites, BeesInSample(colony.bees_mean, 0.0), colony.recovery).p_over(act)
    if colony.median is None or colony.median <= 0:
        return None
    return read_fall(colony.mites, max(0.1, (colony.mites + 1 / 6) / colony.median)).p_over(act)
