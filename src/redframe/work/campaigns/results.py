"""What the counts of a week say together: coverage, shares, apiaries, cells and change. Nothing here names a place."""

from __future__ import annotations

import statistics
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.campaigns.cells import CELL_DEGREES, FEWEST_APIARIES, FEWEST_KEEPERS, Cell, Placed, shown_cells
from redframe.core.campaigns.records import WeekCount, WeekLevels
from redframe.core.campaigns.results import Bar, Change, Recovery, distribution, local_recovery, paired_change
from redframe.core.campaigns.week import (
    ELSEWHERE,
    ApiaryLine,
    CellLine,
    Coverage,
    KeeperLine,
    MethodTally,
    SchemeShare,
    apiary_lines,
    cell_lines,
    coverage,
    keeper_lines,
    methods,
    near_urgent,
    quartiles,
    scheme_share,
)
from redframe.core.policy.schemes import SCHEMES, SchemeId
from redframe.core.sampling.reading import mean_recovery
from redframe.core.season.calendar import Phase
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import campaigns as store
from redframe.store.campaigns import CountWeek, WeekTreatment
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.unit_of_work import UnitOfWork

RATE_SCHEMES: tuple[SchemeId, ...] = tuple(name for name, one in SCHEMES.items() if one.scale == "mites_per_100")
TREATED_BEFORE = timedelta(days=56)
"""Treatments are rated from so long before the week on: the longest course, and its check count."""


@dataclass(frozen=True, slots=True)
class TreatmentTally:
    """Courses of an option placed since some weeks before the week, and what counts have said of them."""

    name: str
    placed: WeekTreatment


@dataclass(frozen=True, slots=True)
class Results:
    """What the week says, with the treatments placed since `treated_since`; `spans_phases`: it lies in more than one
    phase, so that its counts do not compare well."""

    coverage: Coverage
    phases: Sequence[Phase]
    spans_phases: bool
    median: float | None
    quartiles: tuple[float, float] | None
    distribution: Sequence[Bar]
    shares: Sequence[SchemeShare]
    methods: Sequence[MethodTally]
    recovery: Recovery | None
    treatments: Sequence[TreatmentTally]
    treated_since: date
    change: Change | None
    change_since: str
    apiaries: Sequence[ApiaryLine]
    cells: Sequence[CellLine]
    elsewhere: CellLine | None
    keepers: Sequence[KeeperLine]
    counts: Sequence[WeekCount]

    @property
    def published_elsewhere(self) -> CellLine | None:
        """What lies elsewhere, where enough stand there too: the one apiary of a far corner is nobody's to publish."""
        rest = self.elsewhere
        enough = rest is not None and rest.apiaries >= FEWEST_APIARIES and rest.keepers >= FEWEST_KEEPERS
        return rest if enough else None


def week_levels(policy: PolicyInForce) -> WeekLevels:
    """What an association's counts of a week are judged by."""
    return WeekLevels(policy.calendar, policy.for_scale("mites_per_100").levels, policy.levels_of)


async def results(unit: UnitOfWork, week: CountWeek) -> Results:
    """What the counts of a week say together."""
    levels = week_levels(await policy_in_force(unit))
    counts = await store.week_counts(unit.connection, week.id, week.first_on, week.last_on)
    apiaries = await store.week_apiaries(unit.connection, week.id)
    keepers = await store.week_keepers(unit.connection, week.id)
    placed = [Placed.at(one.id, one.keeper_id, one.latitude, one.longitude) for one in apiaries]
    cells = shown_cells(placed)
    rated = [one for one in counts if one.median is not None]
    rates = sorted(one.median for one in rated if one.median is not None)
    phases = sorted({levels.calendar.phase(one.taken_on) for one in rated})
    change, since = await _change(unit, week, rated)
    treated_since = week.first_on - TREATED_BEFORE
    placed_courses = await store.week_treatments(unit.connection, week.id, treated_since, week.last_on)
    pairs = await store.wash_and_sugar(unit.connection, week.first_on, week.last_on)
    rates_of: dict[UUID, list[tuple[date, float]]] = defaultdict(list)
    for one in rated:
        rates_of[one.apiary_id].append((one.taken_on, one.median or 0.0))
    endangered = near_urgent(placed, rates_of, levels)
    lines = apiary_lines(apiaries, keepers, counts, cells, endangered, levels)
    map_lines = cell_lines(apiaries, counts, cells, levels)
    return Results(
        coverage=coverage(keepers, apiaries, counts),
        phases=phases,
        spans_phases=len(phases) > 1,
        median=statistics.median(rates) if rates else None,
        quartiles=quartiles(rates),
        distribution=distribution(
            [one.median or 0.0 for one in rated if one.mites], sum(1 for one in rated if one.mites == 0)
        ),
        shares=[scheme_share(scheme, rated, levels) for scheme in RATE_SCHEMES],
        methods=methods(counts),
        recovery=local_recovery([
            ((one.washed, one.wash_bees * mean_recovery(one.wash_recovery)), (one.rolled, one.sugar_bees))
            for one in pairs
        ]) if pairs else None,
        treatments=[TreatmentTally(default_catalogue().option(one.option_id).name, one) for one in placed_courses],
        treated_since=treated_since,
        change=change,
        change_since=since,
        apiaries=lines,
        cells=[line for line in map_lines if line.id != ELSEWHERE],
        elsewhere=next((line for line in map_lines if line.id == ELSEWHERE), None),
        keepers=keeper_lines(keepers, apiaries, counts),
        counts=counts,
    )  # fmt: skip


async def own_near_urgent(unit: UnitOfWork, week_id: UUID) -> set[UUID]:
    """The apiaries near an urgent cell, for a keeper who sees the own ones only: rated from cells, not from places."""
    rows = await store.week_coarsely(unit.connection, week_id)
    placed = [
        Placed(
            one.apiary_id, one.keeper_id, Cell(CELL_DEGREES, one.single_row, one.single_column),
            Cell(2 * CELL_DEGREES, one.double_row, one.double_column),
        )
        for one in rows
    ]  # fmt: skip
    rates = {one.apiary_id: list(zip(one.days, one.rates, strict=True)) for one in rows}
    return near_urgent(placed, rates, week_levels(await policy_in_force(unit)))


async def _change(unit: UnitOfWork, week: CountWeek, rated: Sequence[WeekCount]) -> tuple[Change | None, str]:
    """Against the week before, in the colonies that were counted in both and not treated."""
    before = next((one for one in await store.count_weeks(unit.connection) if one.last_on < week.first_on), None)
    if before is None:
        return None, ""
    earlier = {
        one.colony_id: one
        for one in await store.week_counts(unit.connection, week.id, before.first_on, before.last_on)
        if one.recovery is not None
    }
    both = [(earlier[one.colony_id], one) for one in rated if one.colony_id in earlier and not one.treated]
    days = statistics.fmean((b.taken_on - a.taken_on).days for a, b in both) if both else 0.0
    return paired_change([a.exposed for a, _ in both], [b.exposed for _, b in both], days), before.name
