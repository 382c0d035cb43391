"""What works here: verified efficacy by option, taken together over courses and apiaries with its interval.

Courses of one apiary are alike (one keeper, one lot, one week), so apiaries are what is compared: in each, the mites
before and after are added up over its courses, for a single course of few mites says little and leans towards no
effect. Its value is the log of the share that was left, drawn towards the others by as much as apiaries agree. See
docs/methods/verification.md.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log, sqrt
from typing import Literal
from uuid import UUID

from scipy import special

from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.states import CourseOutcome

Suspicion = Literal["none", "suspected"]
Z95 = 1.959964
HALF = 0.5
"""Added to each sum of mites: a share left of nought is never shown as such."""
TELLS_BELOW_POINTS = 60.0
"""An interval as wide as this says nothing: neither a figure within it nor its middle is shown as a result."""
FEWEST_FAILED, FEWEST_APIARIES = 3, 2
"""So many failed courses in so many apiaries, more than worked, make a suspicion of resistance."""


@dataclass(frozen=True, slots=True)
class CountPair:
    """The counts before and after a course: mites and bees of each; `untreated_change`: how many times more mites
    untreated neighbours had after than before (1 where none were counted)."""

    mites_before: int
    bees_before: float
    mites_after: int
    bees_after: float
    untreated_change: float


@dataclass(frozen=True, slots=True)
class Checked:
    """One course that was checked: what it was called (None: cannot tell), and its counts (None: not both)."""

    apiary_id: UUID
    option_id: str
    outcome: CourseOutcome | None
    counts: CountPair | None


@dataclass(frozen=True, slots=True)
class ApiaryEfficacy:
    """An apiary's own figure, and the same drawn towards the others, in percent with the 95 % interval."""

    apiary_id: UUID
    courses: int
    own_pct: float
    shrunk_pct: float
    low_pct: float
    high_pct: float


@dataclass(frozen=True, slots=True)
class OptionEfficacy:
    """An option over all apiaries: how many courses and how they ended; the share killed in percent with its 95 %
    interval of the mean apiary (None with no figure), and whether it `tells` anything; each apiary's own; whether
    resistance is suspected."""

    option_id: str
    group: str
    courses: int
    apiaries: int
    worked: int
    partly: int
    failed: int
    cannot_tell: int
    pct: float | None
    low_pct: float | None
    high_pct: float | None
    tells: bool
    by_apiary: Sequence[ApiaryEfficacy]
    resistance: Suspicion


@dataclass(frozen=True, slots=True)
class _Value:
    """A log share left with its variance."""

    mean: float
    variance: float


def what_works(options: Sequence[Option], courses: Sequence[Checked]) -> list[OptionEfficacy]:
    """Every option that was verified, those with the most courses first."""
    by_option: dict[str, list[Checked]] = defaultdict(list)
    for course in courses:
        by_option[course.option_id].append(course)
    found = [_of_option(option, by_option[option.id]) for option in options if option.id in by_option]
    return sorted(found, key=lambda one: (-one.courses, one.option_id))


def _of_option(option: Option, courses: Sequence[Checked]) -> OptionEfficacy:
    ends = [one.outcome for one in courses]
    pairs: dict[UUID, list[CountPair]] = defaultdict(list)
    for one in courses:
        if one.counts is not None:
            pairs[one.apiary_id].append(one.counts)
    own = _by_apiary({apiary: each for apiary, each in pairs.items() if any(one.mites_before for one in each)})
    mean, spread = _over_apiaries(list(own.values()))
    failed_in = {one.apiary_id for one in courses if one.outcome == "failed"}
    failed, worked = ends.count("failed"), ends.count("worked")
    suspected = (
        option.rotation == "hard" and failed >= FEWEST_FAILED and len(failed_in) >= FEWEST_APIARIES and failed > worked
    )
    low, high = (
        (_killed(mean.mean + Z95 * sqrt(mean.variance)), _killed(mean.mean - Z95 * sqrt(mean.variance)))
        if mean is not None
        else (None, None)
    )
    return OptionEfficacy(
        option_id=option.id,
        group=option.moa_group,
        courses=len(courses),
        apiaries=len({one.apiary_id for one in courses}),
        worked=worked,
        partly=ends.count("partly"),
        failed=failed,
        cannot_tell=ends.count(None),
        pct=None if mean is None else _killed(mean.mean),
        low_pct=low,
        high_pct=high,
        tells=low is not None and high is not None and high - max(0.0, low) < TELLS_BELOW_POINTS,
        by_apiary=[] if mean is None else _shrunk(own, mean, spread, {key: len(pairs[key]) for key in own}),
        resistance="suspected" if suspected else "none",
    )


def _by_apiary(pairs: dict[UUID, list[CountPair]]) -> dict[UUID, _Value]:
    """The log share left in each apiary, from its sums.

    Its variance is that of two counts, times how much more its courses differ than counts would (never less than they
    would). How many mites the second count should have is taken from all apiaries together: by its own, an apiary that
    happened to be left with few would weigh less.
    """
    sums = {apiary: _sums(each) for apiary, each in pairs.items()}
    expected = sum(one.before / one.exposed_before * one.exposed_after for one in sums.values())
    overall = sum(one.after for one in sums.values()) / expected if expected else 0.0
    found = {}
    for apiary, each in pairs.items():
        one = sums[apiary]
        left = log((one.after + HALF) / one.exposed_after) - log((one.before + HALF) / one.exposed_before)
        should = overall * one.before / one.exposed_before * one.exposed_after
        counts = 1 / (should + HALF) + 1 / (one.before + HALF)
        found[apiary] = _Value(left, _dispersion(each, exp(left)) * counts)
    return found


@dataclass(frozen=True, slots=True)
class _Sums:
    """Mites of an apiary before and after, in so many bees; those after as many as untreated ones would have had."""

    before: int
    after: int
    exposed_before: float
    exposed_after: float


def _sums(pairs: Sequence[CountPair]) -> _Sums:
    return _Sums(
        sum(one.mites_before for one in pairs),
        sum(one.mites_after for one in pairs),
        sum(one.bees_before for one in pairs),
        sum(one.bees_after * one.untreated_change for one in pairs),
    )


def _dispersion(pairs: Sequence[CountPair], left: float) -> float:
    """Pearson's chi-squared over its degrees of freedom: of the mites of a course, how many should be in the count
    after, were the share left the same in all."""
    found = []
    for one in pairs:
        total = one.mites_before + one.mites_after
        after = left * one.bees_after * one.untreated_change
        share = after / (after + one.bees_before)
        if total and 0 < share < 1:
            expected = total * share
            found.append((one.mites_after - expected) ** 2 / (expected * (1 - share)))
    return max(1.0, sum(found) / (len(found) - 1)) if len(found) > 1 else 1.0


def _over_apiaries(values: Sequence[_Value]) -> tuple[_Value | None, float]:
    """The mean apiary, and the variance between apiaries (DerSimonian and Laird 1986).

    The variance of the mean follows how much the apiaries really differ (Hartung and Knapp 2001), and its interval the
    t distribution: a few apiaries say little of others. What is kept is scaled so that 1.96 of it make that interval.
    """
    if not values:
        return None, 0.0
    weights = [1 / one.variance for one in values]
    total = sum(weights)
    fixed = sum(weight * one.mean for weight, one in zip(weights, values, strict=True)) / total
    q = sum(weight * (one.mean - fixed) ** 2 for weight, one in zip(weights, values, strict=True))
    scale = total - sum(weight**2 for weight in weights) / total
    between = max(0.0, (q - (len(values) - 1)) / scale) if scale > 0 else 0.0
    weights = [1 / (one.variance + between) for one in values]
    total = sum(weights)
    mean = sum(weight * one.mean for weight, one in zip(weights, values, strict=True)) / total
    if len(values) == 1:
        return _Value(mean, 1 / total), between
    differ = sum(weight * (one.mean - mean) ** 2 for weight, one in zip(weights, values, strict=True))
    variance = max(1 / total, differ / ((len(values) - 1) * total))
    wider = float(special.stdtrit(len(values) - 1, 0.975)) / Z95
    return _Value(mean, variance * wider**2), between


def _shrunk(
    own: dict[UUID, _Value], mean: _Value, between: float, courses: dict[UUID, int]
) -> list[ApiaryEfficacy]:  # fmt: skip
    """Each apiary drawn towards the mean by its own doubt against how much apiaries differ."""
    found = []
    for apiary, value in own.items():
        trust = between / (between + value.variance)
        shrunk = mean.mean + trust * (value.mean - mean.mean)
        se = sqrt(trust * value.variance + (1 - trust) ** 2 * mean.variance)
        found.append(
            ApiaryEfficacy(
                apiary, courses[apiary], _killed(value.mean), _killed(shrunk), _killed(shrunk + Z95 * se),
                _killed(shrunk - Z95 * se),
            )
        )  # fmt: skip
    return sorted(found, key=lambda one: (one.shrunk_pct, str(one.apiary_id)))


def _killed(log_left: float) -> float:
    return 100 * (1 - exp(log_left))
