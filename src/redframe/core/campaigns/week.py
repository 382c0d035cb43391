"""A count week's counts together: coverage, shares, apiaries, cells. Nothing here names a place.

Pure: takes the records of the week, answers with lines; docs/methods/count-week.md.
"""

from __future__ import annotations

import statistics
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from redframe.core.campaigns.cells import FEW_COLONIES, Cell, Placed, near, shown_cells
from redframe.core.campaigns.records import WeekApiary, WeekCount, WeekKeeper, WeekLevels
from redframe.core.campaigns.results import FEWEST_TO_RANK, LOW_COVERAGE, Share, percentile, quarter, share_over
from redframe.core.policy.schemes import SCHEMES, SchemeId
from redframe.core.sampling.apiary_estimate import ColonyCount, apiary_estimate
from redframe.core.sampling.method import JarMethod
from redframe.core.status.status import Level

ELSEWHERE = "elsewhere"


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


def near_urgent(
    placed: Sequence[Placed], rates: Mapping[UUID, Sequence[tuple[date, float]]], levels: WeekLevels
) -> set[UUID]:
    """The apiaries within two cells of a published cell that is urgent."""
    in_cell: dict[Cell, list[tuple[date, float]]] = defaultdict(list)
    for apiary, cell in shown_cells(placed).items():
        if cell is not None:
            in_cell[cell] += rates.get(apiary, ())
    urgent = [cell for cell, counted in in_cell.items() if _cell_level(counted, levels) == "urgent"]
    return {one.apiary_id for one in placed if any(near(one.single, cell) for cell in urgent)}


def quartiles(rates: Sequence[float]) -> tuple[float, float] | None:
    """The rates between which the middle half lies; None for fewer than two."""
    if len(rates) < 2:
        return None
    low, _, high = statistics.quantiles(rates, n=4, method="inclusive")
    return low, high


def coverage(keepers: Sequence[WeekKeeper], apiaries: Sequence[WeekApiary], counts: Sequence[WeekCount]) -> Coverage:
    """How much of what could be counted was."""
    counted = {one.apiary_id for one in counts}
    reporting = {one.keeper_id for one in apiaries if one.id in counted}
    return Coverage(
        keepers=len(keepers), keepers_reporting=len(reporting), apiaries=len(apiaries), apiaries_counted=len(counted),
        colonies=sum(one.colonies for one in apiaries), colonies_counted=len(counts),
        with_bees=sum(1 for one in counts if one.median is not None),
        low=len(reporting) < LOW_COVERAGE * len(keepers),
    )  # fmt: skip


def _per_apiary(counts: Sequence[WeekCount]) -> float:
    return len(counts) / max(1, len({one.apiary_id for one in counts}))


def scheme_share(scheme: SchemeId, rated: Sequence[WeekCount], levels: WeekLevels) -> SchemeShare:
    """The share of colonies over the act level of a scheme."""
    by_phase, phase = levels.of_scheme[scheme], levels.calendar.phase
    over = sum(1 for one in rated if (one.median or 0.0) >= by_phase[phase(one.taken_on)].act)
    return SchemeShare(scheme, SCHEMES[scheme].name, share_over(over, len(rated), _per_apiary(rated)))


def methods(counts: Sequence[WeekCount]) -> list[MethodTally]:
    """Colonies by method, those that were used."""
    found = []
    for method in ("wash", "sugar", "co2"):
        own = [one for one in counts if one.method == method]
        rates = [one.median for one in own if one.median is not None]
        if own:
            found.append(MethodTally(own[0].method, len(own), statistics.median(rates) if rates else None))
    return found


def apiary_lines(
    apiaries: Sequence[WeekApiary], keepers: Sequence[WeekKeeper], counts: Sequence[WeekCount],
    cells: Mapping[UUID, Cell | None], endangered: set[UUID], levels: WeekLevels,
) -> list[ApiaryLine]:  # fmt: skip
    """Each apiary in the week, the highest mean first, those without a rate last."""
    names = {keeper.id: keeper.name for keeper in keepers}
    known = [one for one in counts if one.recovery is not None]
    whole = apiary_estimate([ColonyCount(*one.exposed) for one in known], sum(one.colonies for one in apiaries))
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
                sum(levels.is_over(one) for one in own),
                sum(one.treated for one in own),
                apiary.id in endangered,
            )
        )
    return sorted(lines, key=lambda line: (line.rate is None, -(line.rate or 0.0), line.name))


def cell_lines(
    apiaries: Sequence[WeekApiary],
    counts: Sequence[WeekCount],
    cells: Mapping[UUID, Cell | None],
    levels: WeekLevels,
) -> list[CellLine]:
    """Each cell that is shown, and what lies elsewhere."""
    groups: dict[Cell | None, list[WeekApiary]] = defaultdict(list)
    for apiary in apiaries:
        groups[cells.get(apiary.id)].append(apiary)
    lines = []
    for cell, members in groups.items():
        ids = {one.id for one in members}
        own = [one for one in counts if one.apiary_id in ids and one.median is not None]
        over = sum(levels.is_over(one) for one in own)
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
                _cell_level([(one.taken_on, one.median or 0.0) for one in own], levels),
                len(own) < FEW_COLONIES,
            )
        )
    return sorted(lines, key=lambda line: line.id)


def _cell_level(counts: Sequence[tuple[date, float]], levels: WeekLevels) -> Level | None:
    """The colour of a cell: urgent, act or watch once a quarter of its colonies are at it; None without a count."""
    if not counts:
        return None
    tally: Counter[Level] = Counter()
    for day, rate in counts:
        then = levels.on(day)
        marks: tuple[tuple[Level, float], ...] = (
            ("urgent", then.urgent),
            ("act", then.act),
            ("watch", then.watch),
        )
        tally[next((level for level, least in marks if rate >= least), "clear")] += 1
    reached = 0
    for level in ("urgent", "act", "watch"):
        reached += tally[level]
        if reached >= len(counts) / 4:
            return level
    return "clear"


def keeper_lines(
    keepers: Sequence[WeekKeeper], apiaries: Sequence[WeekApiary], counts: Sequence[WeekCount]
) -> list[KeeperLine]:
    """Each keeper who was invited, with how much they counted."""
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
