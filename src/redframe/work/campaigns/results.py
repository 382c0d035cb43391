"""What the counts of a week say together: coverage, shares, apiaries, cells and change. Nothing here names a place."""

from __future__ import annotations

import statistics
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from uuid import UUID

from redframe.core.campaigns.cells import (
    CELL_DEGREES,
    FEW_COLONIES,
    FEWEST_APIARIES,
    FEWEST_KEEPERS,
    Cell,
    Placed,
    near,
    shown_cells,
)
from redframe.core.campaigns.results import (
    FEWEST_TO_RANK,
    LOW_COVERAGE,
    Bar,
    Change,
    Recovery,
    Share,
    distribution,
    local_recovery,
    paired_change,
    percentile,
    quarter,
    share_over,
)
from redframe.core.policy.schemes import SCHEMES, SchemeId
from redframe.core.sampling.apiary_estimate import ColonyCount, apiary_estimate
from redframe.core.sampling.method import JarMethod
from redframe.core.sampling.reading import mean_recovery
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import campaigns as store
from redframe.store.campaigns import CountWeek, WeekApiary, WeekCount, WeekKeeper, WeekTreatment
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.unit_of_work import UnitOfWork

RATE_SCHEMES: tuple[SchemeId, ...] = tuple(name for name, one in SCHEMES.items() if one.scale == "mites_per_100")
ELSEWHERE = "elsewhere"
TREATED_BEFORE = timedelta(days=56)
"""Treatments are rated from so long before the week on: the longest course, and its proof."""


@dataclass(frozen=True, slots=True)
class Coverage:
    """How much of what could be counted was; `low`: under 40 % of the keepers, whose own choice it then was."""

    keepers: int
    keepers_reporting: int
    apiaries: int
    apiaries_counted: int
    colonies: int
    colonies_counted: int
    with_bees: int
    low: bool


@dataclass(frozen=True, slots=True)
class ApiaryLine:
    """An apiary in the week: the mean of its colonies' rates per 100 bees, drawn to the association's, with its 95 %
    interval; its percentile and quarter (None with fewer than three colonies), how many are over, and its cell (None:
    elsewhere). `near_urgent`: within two cells of an urgent one, from where mites may come."""

    apiary_id: UUID
    name: str
    keeper: str
    cell: str | None
    colonies: int
    counted: int
    rate: float | None
    low: float | None
    high: float | None
    percentile: float | None
    quarter: int | None
    over: int
    treated: int
    near_urgent: bool


@dataclass(frozen=True, slots=True)
class CellLine:
    """A cell of the map: its corners, what was counted in it, and the share of colonies over. `level` None: none."""

    id: str
    south: float
    west: float
    north: float
    east: float
    apiaries: int
    keepers: int
    colonies: int
    counted: int
    over: int
    share: Share | None
    median: float | None
    first_on: date | None
    last_on: date | None
    level: Level | None
    few: bool


@dataclass(frozen=True, slots=True)
class SchemeShare:
    """The share of colonies over the act level of one scheme: schemes are never merged in one share."""

    scheme: SchemeId
    name: str
    share: Share | None


@dataclass(frozen=True, slots=True)
class MethodTally:
    """Colonies counted by one method, and their median rate."""

    method: JarMethod
    colonies: int
    median: float | None


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


@dataclass(frozen=True, slots=True)
class KeeperLine:
    """Somebody invited: how many apiaries and colonies, how many counted, and when reminded last."""

    keeper_id: UUID
    name: str
    apiaries: int
    colonies: int
    counted: int
    reminders: int
    reminded_at: datetime | None
    has_address: bool


async def results(unit: UnitOfWork, week: CountWeek) -> Results:
    """What the counts of a week say together."""
    policy = await policy_in_force(unit)
    counts = await store.week_counts(unit.connection, week.id, week.first_on, week.last_on)
    apiaries = await store.week_apiaries(unit.connection, week.id)
    keepers = await store.week_keepers(unit.connection, week.id)
    placed = [Placed.at(one.id, one.keeper_id, one.latitude, one.longitude) for one in apiaries]
    cells = shown_cells(placed)
    rated = [one for one in counts if one.median is not None]
    rates = sorted(one.median for one in rated if one.median is not None)
    phases = sorted({policy.calendar.phase(one.taken_on) for one in rated})
    change, since = await _change(unit, week, rated)
    treated_since = week.first_on - TREATED_BEFORE
    placed_courses = await store.week_treatments(unit.connection, week.id, treated_since, week.last_on)
    pairs = await store.wash_and_sugar(unit.connection, week.first_on, week.last_on)
    rates_of: dict[UUID, list[tuple[date, float]]] = defaultdict(list)
    for one in rated:
        rates_of[one.apiary_id].append((one.taken_on, one.median or 0.0))
    endangered = near_urgent(placed, rates_of, policy)
    lines = _apiary_lines(apiaries, keepers, counts, cells, endangered, policy)
    map_lines = _cell_lines(apiaries, counts, cells, policy)
    return Results(
        coverage=_coverage(keepers, apiaries, counts),
        phases=phases,
        spans_phases=len(phases) > 1,
        median=statistics.median(rates) if rates else None,
        quartiles=_quartiles(rates),
        distribution=distribution(
            [one.median or 0.0 for one in rated if one.mites], sum(1 for one in rated if one.mites == 0)
        ),
        shares=[_scheme_share(scheme, rated, policy) for scheme in RATE_SCHEMES],
        methods=_methods(counts),
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
        keepers=_keeper_lines(keepers, apiaries, counts),
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
    return near_urgent(placed, rates, await policy_in_force(unit))


def near_urgent(
    placed: Sequence[Placed], rates: Mapping[UUID, Sequence[tuple[date, float]]], policy: PolicyInForce
) -> set[UUID]:
    """The apiaries within two cells of a published cell that is urgent."""
    in_cell: dict[Cell, list[tuple[date, float]]] = defaultdict(list)
    for apiary, cell in shown_cells(placed).items():
        if cell is not None:
            in_cell[cell] += rates.get(apiary, ())
    urgent = [cell for cell, counted in in_cell.items() if _cell_level(counted, policy) == "urgent"]
    return {one.apiary_id for one in placed if any(near(one.single, cell) for cell in urgent)}


def _quartiles(rates: Sequence[float]) -> tuple[float, float] | None:
    if len(rates) < 2:
        return None
    low, _, high = statistics.quantiles(rates, n=4, method="inclusive")
    return low, high


def _coverage(keepers: Sequence[WeekKeeper], apiaries: Sequence[WeekApiary], counts: Sequence[WeekCount]) -> Coverage:
    counted = {one.apiary_id for one in counts}
    reporting = {one.keeper_id for one in apiaries if one.id in counted}
    return Coverage(
        keepers=len(keepers), keepers_reporting=len(reporting), apiaries=len(apiaries), apiaries_counted=len(counted),
        colonies=sum(one.colonies for one in apiaries), colonies_counted=len(counts),
        with_bees=sum(1 for one in counts if one.median is not None),
        low=len(reporting) < LOW_COVERAGE * len(keepers),
    )  # fmt: skip


def _act(policy: PolicyInForce, scheme: SchemeId, day: date) -> float:
    return policy.levels_on(scheme)[policy.calendar.phase(day)].act


def _over(one: WeekCount, policy: PolicyInForce) -> bool:
    level = policy.for_scale("mites_per_100").levels[policy.calendar.phase(one.taken_on)].act
    return one.median is not None and one.median >= level


def _per_apiary(counts: Sequence[WeekCount]) -> float:
    return len(counts) / max(1, len({one.apiary_id for one in counts}))


def _scheme_share(scheme: SchemeId, rated: Sequence[WeekCount], policy: PolicyInForce) -> SchemeShare:
    over = sum(1 for one in rated if (one.median or 0.0) >= _act(policy, scheme, one.taken_on))
    return SchemeShare(scheme, SCHEMES[scheme].name, share_over(over, len(rated), _per_apiary(rated)))


def _methods(counts: Sequence[WeekCount]) -> list[MethodTally]:
    found = []
    for method in ("wash", "sugar", "co2"):
        own = [one for one in counts if one.method == method]
        rates = [one.median for one in own if one.median is not None]
        if own:
            found.append(MethodTally(own[0].method, len(own), statistics.median(rates) if rates else None))
    return found


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
    return paired_change([_exposed(a) for a, _ in both], [_exposed(b) for _, b in both], days), before.name


def _exposed(one: WeekCount) -> tuple[int, float]:
    assert one.mites is not None and one.bees_mean is not None and one.recovery is not None
    return one.mites, one.bees_mean * mean_recovery(one.recovery)


def _apiary_lines(
    apiaries: Sequence[WeekApiary], keepers: Sequence[WeekKeeper], counts: Sequence[WeekCount],
    cells: Mapping[UUID, Cell | None], endangered: set[UUID], policy: PolicyInForce,
) -> list[ApiaryLine]:  # fmt: skip
    names = {keeper.id: keeper.name for keeper in keepers}
    known = [one for one in counts if one.recovery is not None]
    whole = apiary_estimate([ColonyCount(*_exposed(one)) for one in known], sum(one.colonies for one in apiaries))
    numbers: dict[UUID, list[int]] = defaultdict(list)
    for number, one in enumerate(known):
        numbers[one.apiary_id].append(number)
    spreads = {apiary: whole.mean_of(own) for apiary, own in numbers.items()} if whole else {}
    rates = {apiary: mean for apiary, (mean, _, _) in spreads.items()}
    own_counts: dict[UUID, list[WeekCount]] = defaultdict(list)
    for one in counts:
        own_counts[one.apiary_id].append(one)
    lines = []
    for apiary in apiaries:
        own = own_counts[apiary.id]
        rate, low, high = spreads.get(apiary.id, (None, None, None))
        place = percentile(list(rates.values()), rate) if rate is not None and len(own) >= FEWEST_TO_RANK else None
        cell = cells.get(apiary.id)
        lines.append(
            ApiaryLine(
                apiary.id,
                apiary.name,
                names.get(apiary.keeper_id, ""),
                cell.id if cell else None,
                apiary.colonies,
                len(own),
                rate,
                low,
                high,
                place,
                None if place is None else quarter(place),
                sum(_over(one, policy) for one in own),
                sum(one.treated for one in own),
                apiary.id in endangered,
            )
        )
    return sorted(lines, key=lambda line: (line.rate is None, -(line.rate or 0.0), line.name))


def _cell_lines(
    apiaries: Sequence[WeekApiary],
    counts: Sequence[WeekCount],
    cells: Mapping[UUID, Cell | None],
    policy: PolicyInForce,
) -> list[CellLine]:
    groups: dict[Cell | None, list[WeekApiary]] = defaultdict(list)
    for apiary in apiaries:
        groups[cells.get(apiary.id)].append(apiary)
    lines = []
    for cell, members in groups.items():
        ids = {one.id for one in members}
        own = [one for one in counts if one.apiary_id in ids and one.median is not None]
        over = sum(_over(one, policy) for one in own)
        share = share_over(over, len(own), _per_apiary(own))
        (south, west), (north, east) = cell.corners if cell else ((0.0, 0.0), (0.0, 0.0))
        lines.append(
            CellLine(
                cell.id if cell else ELSEWHERE,
                south,
                west,
                north,
                east,
                len(members),
                len({one.keeper_id for one in members}),
                sum(one.colonies for one in members),
                len(own),
                over,
                share,
                statistics.median(one.median or 0.0 for one in own) if own else None,
                min((one.taken_on for one in own), default=None),
                max((one.taken_on for one in own), default=None),
                _cell_level([(one.taken_on, one.median or 0.0) for one in own], policy),
                len(own) < FEW_COLONIES,
            )
        )
    return sorted(lines, key=lambda line: line.id)


def _cell_level(counts: Sequence[tuple[date, float]], policy: PolicyInForce) -> Level | None:
    """The colour of a cell: urgent, act or watch once a quarter of its colonies are at it; None without a count."""
    if not counts:
        return None
    tally: Counter[Level] = Counter()
    for day, rate in counts:
        levels = policy.for_scale("mites_per_100").levels[policy.calendar.phase(day)]
        marks: tuple[tuple[Level, float], ...] = (
            ("urgent", levels.urgent),
            ("act", levels.act),
            ("watch", levels.watch),
        )
        tally[next((level for level, least in marks if rate >= least), "clear")] += 1
    reached = 0
    for level in ("urgent", "act", "watch"):
        reached += tally[level]
        if reached >= len(counts) / 4:
            return level
    return "clear"


def _keeper_lines(
    keepers: Sequence[WeekKeeper], apiaries: Sequence[WeekApiary], counts: Sequence[WeekCount]
) -> list[KeeperLine]:
    counted = Counter(one.apiary_id for one in counts)
    lines = []
    for keeper in keepers:
        own = [one for one in apiaries if one.keeper_id == keeper.id]
        lines.append(
            KeeperLine(
                keeper.id,
                keeper.name,
                len(own),
                sum(one.colonies for one in own),
                sum(counted[one.id] for one in own),
                keeper.reminders,
                keeper.reminded_at,
                keeper.email is not None,
            )
        )
    return lines
