"""What comes of many colonies at once: bands, when a level is crossed, from when a colony is in danger.

Colonies are lived through side by side (`side_by_side`); bands are quantiles under each colony's weights.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
import numpy.typing as npt

from redframe.core.forecast.model import State
from redframe.core.forecast.projection import DANGER_ADULTS, DANGER_PER_100
from redframe.core.forecast.side_by_side import Ensemble, Record, SideBySide, in_turn

BAND_EVERY_DAYS = 3
LOOK_AHEAD_DAYS = 21


@dataclass(frozen=True, slots=True)
class Outlook:
    """What comes of one colony. `days` with `low80`, `median`, `high80` from `first` on, every third day (mites per 100
    bees); the days by which 10, 50 and 90 % of the members are over the level (None: not within the days looked at);
    the chance to be over it three weeks from `today`; from when it is in danger; how many members carry the weight.
    """

    first: date
    median: tuple[float, ...]
    low80: tuple[float, ...]
    high80: tuple[float, ...]
    date10: date | None
    date50: date | None
    date90: date | None
    p_over_ahead: float
    danger_from: date | None
    effective: float
    disagree: bool


def outlooks(
    ensemble: Ensemble,
    records: Sequence[Record],
    today: date,
    horizon_days: int,
    generator: np.random.Generator,
) -> list[Outlook]:
    """The outlook of each record from `today` for so many days."""
    found: dict[int, Outlook] = {}
    for numbers in in_turn(records):
        some = _Ahead(ensemble, [records[number] for number in numbers], today, horizon_days, generator)
        found.update(zip(numbers, some.run(), strict=True))
    return [found[number] for number in range(len(records))]


class _Ahead(SideBySide):
    """A few colonies looked at from `today` on."""

    def __init__(
        self, ensemble: Ensemble, records: Sequence[Record], today: date, horizon: int, generator: np.random.Generator
    ) -> None:
        super().__init__(ensemble, records, today + timedelta(days=horizon), generator)
        self.today = today
        self.first_over = np.full(self.shape, horizon + 1, dtype=np.int16)
        self.levels = np.array([[record.level] for record in records], dtype=np.float32)
        self.bands: list[npt.NDArray[np.float64]] = []
        self.ahead = np.zeros(len(records))
        self.danger = np.full(len(records), -1)

    def run(self) -> list[Outlook]:
        """What comes of each."""
        self.live()
        return [self._outlook(number) for number in range(len(self.records))]

    def look(self, day: date, part: State) -> None:
        """Bands, crossings and danger, from today on."""
        if day < self.today:
            return
        number = (day - self.today).days
        rates = self.model.per_100(part)
        over = rates >= self.levels
        np.minimum(self.first_over, np.where(over, number, self.first_over), out=self.first_over, casting="unsafe")
        if number == LOOK_AHEAD_DAYS:
            self.ahead = (self.weights * over).sum(axis=1)
        if number % BAND_EVERY_DAYS == 0:
            self.bands.append(weighted_quantiles(rates, self.weights, (0.1, 0.5, 0.9)))
            lost = (rates >= DANGER_PER_100) | (part.adults < DANGER_ADULTS)
            now = (self.weights * lost).sum(axis=1) >= 0.5
            self.danger = np.where((self.danger < 0) & now, number, self.danger)

    def _outlook(self, number: int) -> Outlook:
        bands = np.stack([day[number] for day in self.bands])
        order = np.argsort(self.first_over[number], kind="stable")
        reached = np.cumsum(self.weights[number][order])

        def by(share: float) -> date | None:
            at = min(int(np.searchsorted(reached, share - 1e-9)), len(order) - 1)
            days = int(self.first_over[number][order[at]])
            return None if days > (self.last - self.today).days else self.today + timedelta(days=days)

        danger = int(self.danger[number])
        low80, median, high80 = (tuple(round(float(one), 3) for one in bands[:, part]) for part in range(3))
        return Outlook(
            first=self.today, median=median, low80=low80, high80=high80, date10=by(0.1), date50=by(0.5), date90=by(0.9),
            p_over_ahead=float(self.ahead[number]),
            danger_from=None if danger < 0 else self.today + timedelta(days=danger),
            effective=float(self.effective[number]), disagree=bool(self.disagree[number]),
        )  # fmt: skip


def weighted_quantiles(
    values: npt.NDArray[np.floating], weights: npt.NDArray[np.float64], levels: Sequence[float]
) -> npt.NDArray[np.float64]:
    """Quantiles of each row of `values` (rows, members) under its weights, shape (rows, levels): the least value whose
    running weight reaches the level."""
    order = np.argsort(values, axis=1)
    running = np.cumsum(np.take_along_axis(weights, order, axis=1), axis=1)
    at = np.stack([(running < level - 1e-12).sum(axis=1) for level in levels], axis=1)
    chosen = np.take_along_axis(order, np.minimum(at, values.shape[1] - 1), axis=1)
    return np.asarray(np.take_along_axis(values, chosen, axis=1), dtype=np.float64)
