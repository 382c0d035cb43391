"""Keepers and apiaries, and what an apiary's screen shows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date, timedelta
from uuid import UUID

from redframe.core.policy.schemes import SCHEMES
from redframe.core.sampling.apiary_estimate import ApiaryEstimate, ColonyCount, apiary_estimate
from redframe.core.sampling.method import Scale
from redframe.core.sampling.reading import mean_recovery
from redframe.core.season.calendar import Phase
from redframe.core.status.advice import ApiaryAdvice, apiary_advice
from redframe.core.status.apiary import ApiaryStatus, apiary_status
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import colonies, hives, sampling, treatments, visits
from redframe.store import places as store
from redframe.store.colonies import ColonyOverview
from redframe.store.database import together
from redframe.store.hives import HiveBox
from redframe.store.places import (
    Apiary,
    ApiaryOrder,
    ApiaryOverview,
    ApiaryPlace,
    Fit,
    Keeper,
    Totals,
    UrgentNeighbour,
)
from redframe.store.treatments import StripCourse
from redframe.store.visits import StripVisit
from redframe.work.forecast.outlook import ColonyOutlook, outlooks_of
from redframe.work.pages import place, place_after
from redframe.work.planning.apiaries import ApiaryDue, apiary_due, judge_what_turned
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.sampling.strips import StripCount, axis_of, spans_by_colony, strip_counts
from redframe.work.unit_of_work import UnitOfWork

STRIP_BACK_DAYS = 150
STRIP_AHEAD_DAYS = 75
NEAR_KM = 3.0
PAGE = 40
EVERY = Fit()


@dataclass(frozen=True, slots=True)
class ListedApiary:
    """An apiary in the list; `old`: the oldest of its colonies' latest counts is too old to say how they stand now;
    `work`: what is due there, if anything is."""

    overview: ApiaryOverview
    old: bool
    work: ApiaryDue | None


@dataclass(frozen=True, slots=True)
class PlacesView:
    """A page of the apiaries; `next`: where the next one begins, None where this is the last."""

    apiaries: Sequence[ListedApiary]
    totals: Totals
    next: str | None


@dataclass(frozen=True, slots=True)
class ApiaryPlaces:
    """Every apiary that fits, where it stands, by name."""

    today: date
    places: Sequence[ApiaryPlace]


@dataclass(frozen=True, slots=True)
class PhaseBand:
    """A run of one season phase with the levels of the scheme in force; figures in its unit."""

    first: date
    last: date
    phase: Phase
    watch: float
    act: float
    urgent: float


@dataclass(frozen=True, slots=True)
class DrawnCourse(StripCourse):
    """A course on a season strip, with the short name of its option."""

    short_name: str


@dataclass(frozen=True, slots=True)
class ApiaryView:
    """An apiary with its colonies and everything that their season strips draw."""

    apiary: Apiary
    status: ApiaryStatus
    advice: ApiaryAdvice
    urgent_near: Sequence[UrgentNeighbour]
    estimate: ApiaryEstimate | None
    p_mean_act: float | None
    expected_over: float | None
    colonies: Sequence[ColonyOverview]
    hives: Sequence[HiveBox]
    axis: Scale
    counts: Sequence[StripCount]
    visits: Sequence[StripVisit]
    queens_seen_today: Sequence[UUID]
    courses: Sequence[DrawnCourse]
    phases: Sequence[PhaseBand]
    forecasts: Sequence[ColonyOutlook]
    first: date
    last: date
    policy: PolicyInForce


async def places_view(
    unit: UnitOfWork, sort: ApiaryOrder = "by", fit: Fit = EVERY, after: str | None = None, most: int = PAGE
) -> PlacesView:
    """Apiaries that the person may see, with how they stand. Raises InvalidInput for an `after` that no page gave."""
    policy = await policy_in_force(unit)
    await judge_what_turned(unit, policy)
    found = await store.apiaries_page(unit.connection, unit.today, sort, _small(fit), place_after(after), most + 1)
    longest = _longest(policy, unit.today)
    listed = [
        ListedApiary(
            one,
            one.oldest_count_on is not None and (unit.today - one.oldest_count_on).days > longest,
            apiary_due(one.id, one.name, one.keeper, one.due, unit.today) if one.due else None,
        )
        for one in found[:most]
    ]
    following = place(found[most - 1].key, found[most - 1].id) if len(found) > most else None
    return PlacesView(listed, await store.totals(unit.connection), following)


async def places_on_map(unit: UnitOfWork, fit: Fit = EVERY) -> ApiaryPlaces:
    """Every apiary that fits and that the person may see, where it stands."""
    longest = _longest(await policy_in_force(unit), unit.today)
    return ApiaryPlaces(unit.today, await store.apiary_places(unit.connection, _small(fit), unit.today, longest))


def _longest(policy: PolicyInForce, today: date) -> int:
    """Days after which a count says no more how a colony stands."""
    return policy.policy.stale_after(policy.calendar.phase(today))


async def keepers(unit: UnitOfWork) -> list[Keeper]:
    """The keepers whom the person may see, by name."""
    return await store.keepers(unit.connection)


def _small(fit: Fit) -> Fit:
    return replace(fit, find=fit.find.strip().lower())


async def apiary_view(unit: UnitOfWork, apiary_id: UUID) -> ApiaryView:
    """One apiary with its strips from STRIP_BACK_DAYS back to STRIP_AHEAD_DAYS ahead. Raises NotFound."""
    apiary = await store.apiary(unit.connection, apiary_id)
    policy = await policy_in_force(unit, apiary_id)
    first, last = unit.today - timedelta(days=STRIP_BACK_DAYS), unit.today + timedelta(days=STRIP_AHEAD_DAYS)
    found = await colonies.colonies_of_apiary(unit.connection, apiary_id, unit.today)
    living = [colony for colony in found if colony.is_living]
    estimate = estimate_of(living)
    act = policy.for_scale("mites_per_100").levels[policy.calendar.phase(unit.today)].act
    async with together(unit.connection) as begin:
        counts = begin(sampling.counts_of_colonies(unit.connection, [colony.id for colony in found], first))
        of_strips = begin(treatments.strip_courses(unit.connection, apiary_id, first))
        urgent_near = begin(store.urgent_neighbours(unit.connection, apiary_id, NEAR_KM))
        boxes = begin(hives.hives_of_apiary(unit.connection, apiary_id))
        seen = begin(visits.strip_visits(unit.connection, apiary_id, first))
        queens_seen = begin(visits.queens_seen(unit.connection, apiary_id, unit.today))
        forecasts = begin(outlooks_of(unit, [colony.id for colony in living]))
    courses = of_strips.result()
    placed = [(course.colony_id, course.placed_on, course.ended_on) for course in courses]
    status = apiary_status_of(living, policy, unit.today, estimate)
    return ApiaryView(
        apiary=apiary,
        status=status,
        advice=apiary_advice(
            status,
            {colony.id: colony.level for colony in living},
            {course.colony_id for course in courses if course.is_open},
            {colony.id: colony.recount_on for colony in living},
            SCHEMES[policy.scheme].answer,
        ),
        urgent_near=urgent_near.result(),
        estimate=estimate,
        p_mean_act=estimate.p_mean_over(act) if estimate else None,
        expected_over=estimate.expected_over(act) if estimate else None,
        colonies=found,
        hives=boxes.result(),
        axis=axis_of(policy),
        counts=strip_counts(counts.result(), spans_by_colony(placed), policy, unit.zone),
        visits=seen.result(),
        queens_seen_today=queens_seen.result(),
        courses=[DrawnCourse(**asdict(one), short_name=_short_name(one.option_id)) for one in courses],
        phases=phase_bands(policy, first, last),
        forecasts=list(forecasts.result().values()),
        first=first,
        last=last,
        policy=policy,
    )


def estimate_of(living: Sequence[ColonyOverview]) -> ApiaryEstimate | None:
    """The apiary's infestation from the jars of its living colonies that still tell; None where there is none.

    Colonies chosen on purpose are left out, as they were counted because they differ from the others; where every
    colony was counted nothing was chosen, and all of them enter.
    """
    telling = [(colony, count) for colony in living if (count := _telling(colony)) is not None]
    drawn = telling if len(telling) == len(living) else [one for one in telling if not one[0].targeted]
    return apiary_estimate([count for _, count in drawn], len(living))


def _telling(colony: ColonyOverview) -> ColonyCount | None:
    if colony.level == "unknown" or colony.recovery is None or colony.bees_mean is None:
        return None
    return ColonyCount(colony.mites or 0, colony.bees_mean * mean_recovery(colony.recovery))


def apiary_status_of(
    living: Sequence[ColonyOverview], policy: PolicyInForce, today: date, estimate: ApiaryEstimate | None
) -> ApiaryStatus:
    """How an apiary stands under its policy."""
    levels = policy.policy.levels[policy.calendar.phase(today)] if policy.policy.scale == "mites_per_100" else None
    now = {colony.id: colony.level for colony in living}
    return apiary_status(policy.scope, now, levels, estimate, treats=SCHEMES[policy.scheme].treats)


def _short_name(option_id: str) -> str:
    return default_catalogue().option(option_id).short_name


def phase_bands(policy: PolicyInForce, first: date, last: date) -> list[PhaseBand]:
    """The season phases between two days with their levels."""
    return [
        PhaseBand(start, end, phase, level.watch, level.act, level.urgent)
        for start, end, phase in policy.calendar.phase_spans(first, last)
        for level in [policy.policy.levels[phase]]
    ]
