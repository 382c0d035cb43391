"""Levels of many colonies at once: the rules of `samples` and `status`, over arrays.

A change of policy asks for the level of every colony that was ever counted. Day by day and colony by colony that takes
minutes for ten thousand; here one step takes a day of all of them. `judged_samples` and `statuses` say the same of a
single colony and are what this is tested against.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import PHASES
from redframe.core.sampling.board import BoardSample, after_treatment, board_use
from redframe.core.sampling.count import NO_USE
from redframe.core.sampling.jar import jar_use
from redframe.core.sampling.method import Scale, TreatmentSpan, Use
from redframe.core.sampling.reading import Reading, Recovery
from redframe.core.sampling.sequential import TOGETHER_WITHIN_DAYS, JarFigures, together
from redframe.core.status.samples import JarTaken, is_pair, use_of_jars
from redframe.core.status.status import ORDER, Level, Sample

Numbers = npt.NDArray[np.int64]
Figures = npt.NDArray[np.float64]
Flags = npt.NDArray[np.bool_]

LEVELS: tuple[Level, ...] = (*ORDER, "unknown")
"""Levels by the numbers that stand for them here, the lowest first."""
WATCH, ACT, URGENT, UNKNOWN = 1, 2, 3, 4


class BriefCount(NamedTuple):
    """What a level takes of a count that has a reading: of which colony (counted up from 0) it is, how it was taken,
    and what it says. Bees and their recovery go with a jar, `board` with a board where boards judge."""

    colony: int
    id: str
    taken_on: date
    method: str
    scale: Scale
    mites: int
    median: float
    upper80: float
    bees_mean: float | None
    bees_cv: float | None
    recovery: Recovery | None
    place_of_bees: str | None
    rested_s: int | None
    wet: str | None
    verifies: bool
    board: BoardSample | None = None


Samples = npt.NDArray[np.void]
"""Samples that judge colonies, those of one after those of another, in their order; records of SAMPLE, shape (n,)."""

SAMPLE = np.dtype(
    [("colony", "i8"), ("day", "i8"), ("median", "f8"), ("upper80", "f8")]
    + [(flag, "?") for flag in ("can_clear", "can_lower", "verifies", "found_mites", "answered", "second")]
)
"""`day` is that of `date.toordinal`; `answered`: a treatment ended on that day or later; `second`: of a pair."""


class SampleGatherer:
    """Takes counts in the order of their colonies and of their moments, piece by piece, and keeps the samples that
    judge (`judged_samples` for many). `spans` are treatments and `treated` the ends of completed ones, by colony."""

    def __init__(
        self, policy: Policy, spans: Mapping[int, Sequence[TreatmentSpan]], treated: Mapping[int, Sequence[date]]
    ) -> None:
        self._policy = policy
        self._spans = spans
        self._last_end = {colony: max(ends) for colony, ends in treated.items() if ends}
        self._rows: list[tuple[float, ...]] = []
        self.count_ids: list[str] = []
        """The counts that the samples come from."""
        self._before: BriefCount | None = None
        self.pairs: dict[str, Reading] = {}
        """What two jars taken together say, by the second of them."""
        self.boards_since_jar: set[int] = set()
        """Colonies with a board newer than their last jar."""

    def add(self, counts: Iterable[BriefCount]) -> None:
        """Take more counts."""
        any_mite, scale = self._policy.scheme == "any_mite", self._policy.scale
        for one in counts:
            if one.scale == "mites_per_day":
                self.boards_since_jar.add(one.colony)
            elif one.scale == "mites_per_100":
                self.boards_since_jar.discard(one.colony)
            if any_mite:
                self._keep(one._replace(verifies=False), Use(enters=True, can_lower=True, can_clear=False))
            elif one.scale == scale and (use := self._use(one)).enters and not self._paired(one):
                self._keep(one, use)

    def _use(self, one: BriefCount) -> Use:
        if one.bees_mean is not None:
            return jar_use(one.bees_mean, one.place_of_bees or "", one.method, one.rested_s, one.wet or "not_looked")
        if one.board is not None:
            dormant = self._policy.calendar.phase(one.taken_on) == "dormant"
            treated = after_treatment(one.board, self._spans.get(one.colony, ()))
            return board_use(one.board, treated=treated, dormant=dormant)
        return NO_USE

    def _paired(self, one: BriefCount) -> bool:
        first = self._before
        if first is None or first.colony != one.colony or first.bees_mean is None or one.bees_mean is None:
            return False
        if (one.taken_on - first.taken_on).days > TOGETHER_WITHIN_DAYS:
            return False
        jars = _jar(first), _jar(one)
        if not is_pair(*jars, self._spans.get(one.colony, ())):
            return False
        both = together(_reading(first), _reading(one))
        self._rows.pop()
        self.count_ids.pop()
        self.pairs[one.id] = both
        one = one._replace(mites=both.mites, median=both.median, upper80=both.upper80)
        self._keep(one, use_of_jars(both.bees_mean, jars), second=True)
        return True

    def _keep(self, one: BriefCount, use: Use, *, second: bool = False) -> None:
        end = self._last_end.get(one.colony)
        answered = end is not None and end >= one.taken_on
        flags = use.can_clear, use.can_lower, one.verifies, one.mites > 0, answered, second
        self._rows.append((one.colony, one.taken_on.toordinal(), one.median, one.upper80, *flags))
        self.count_ids.append(one.id)
        self._before = None if second else one

    def samples(self) -> Samples:
        """What was kept."""
        return np.array(self._rows, SAMPLE)


def _jar(one: BriefCount) -> JarTaken:
    return JarTaken(
        one.taken_on, one.method, one.place_of_bees or "", one.rested_s, one.wet or "not_looked", one.verifies
    )


def _reading(one: BriefCount) -> JarFigures:
    assert one.bees_mean is not None and one.bees_cv is not None and one.recovery is not None
    return JarFigures(one.mites, one.bees_mean, one.bees_cv, one.recovery)


def is_last(samples: Samples) -> Flags:
    """Whether a sample is the last of its colony, shape (n,)."""
    return np.append(samples["colony"][1:] != samples["colony"][:-1], True)[: len(samples)]


def sample_at(samples: Samples, index: int) -> Sample:
    """One of them as the rules of a single colony take it."""
    row = samples[index]
    flags = {name: bool(row[name]) for name in ("can_clear", "can_lower", "verifies", "found_mites")}
    return Sample(date.fromordinal(int(row["day"])), float(row["median"]), float(row["upper80"]), **flags)


def levels_on(samples: Samples, policy: Policy, colonies: int, day: date) -> Numbers:
    """The level of each of so many colonies on a day, shape (colonies,); unknown before its last sample."""
    last, on = is_last(samples), day.toordinal()
    levels = _walk(samples, policy, colonies, np.where(last, on, _next_day(samples)), np.ones(len(last), np.bool_))
    levels[samples["colony"][last & (samples["day"] > on)]] = UNKNOWN
    return levels


def held_before_last(samples: Samples, policy: Policy, colonies: int) -> Numbers:
    """The level that each of so many colonies had come to when its last sample was taken, shape (colonies,)."""
    return _walk(samples, policy, colonies, _next_day(samples), ~is_last(samples))


def _next_day(samples: Samples) -> Numbers:
    return np.append(samples["day"][1:], 0)[: len(samples)]


def _walk(samples: Samples, policy: Policy, colonies: int, until: Numbers, taken: Flags) -> Numbers:
    """The level of each colony after those of its samples that are `taken`, each until a day."""
    held = np.full(colonies, UNKNOWN)
    if not taken.any():
        return held
    colony = samples["colony"]
    starts = np.flatnonzero(np.append(True, colony[1:] != colony[:-1]))
    turn = np.arange(len(samples)) - np.repeat(starts, np.diff(np.append(starts, len(samples))))
    year = _Year(policy, int(samples["day"].min()), int(max(samples["day"].max(), until[taken].max())))
    for number in range(int(turn[taken].max()) + 1):
        chosen = taken & (turn == number)
        these = colony[chosen]
        held[these] = _after(samples[chosen], held[these], until[chosen], year)
    return held


class _Year:
    """The policy day by day: phase, levels and days until a count is too old, from a first day to a last."""

    def __init__(self, policy: Policy, first: int, last: int) -> None:
        days = [date.fromordinal(day) for day in range(first, last + 1)]
        self.first = first
        self.any_mite = policy.scheme == "any_mite"
        self.phase = np.array([PHASES.index(policy.calendar.phase(day)) for day in days])
        levels = [policy.levels[phase] for phase in PHASES]
        self.watch = np.array([each.watch for each in levels])
        self.act = np.array([each.act for each in levels])
        self.urgent = np.array([each.urgent for each in levels])
        self.stale = np.array([policy.stale_after(phase) for phase in PHASES])

    def phase_on(self, day: Numbers) -> Numbers:
        """The phase of each day."""
        found: Numbers = self.phase[day - self.first]
        return found

    def judge(self, samples: Samples, phase: Numbers) -> Numbers:
        """What each sample shows by itself in a phase (`status.judge`)."""
        if self.any_mite:
            return np.where(samples["found_mites"], URGENT, WATCH).astype(np.int64)
        watched = (
            (samples["median"] >= self.watch[phase]) | (samples["upper80"] >= self.act[phase]) | ~samples["can_clear"]
        )
        level: Numbers = watched.astype(np.int64)
        level[samples["median"] >= self.act[phase]] = ACT
        level[samples["median"] >= self.urgent[phase]] = URGENT
        return level


def _after(samples: Samples, held: Numbers, until: Numbers, year: _Year) -> Numbers:
    """The level of each sample's colony on the day `until`, where it was `held` before (`status.statuses`)."""
    phase = year.phase_on(samples["day"])
    shown = year.judge(samples, phase)
    lower = (held != UNKNOWN) & (shown < held)
    level = np.where(lower & ~samples["verifies"], np.maximum(shown, held - 1), shown)
    level = np.where(lower & ~samples["can_lower"], held, level)
    goes_on = until > samples["day"]
    age = 0
    while goes_on.any():
        age += 1
        now = year.phase_on(np.minimum(samples["day"] + age, until))
        old = goes_on & (age > year.stale[now])
        level[old & ((level < ACT) | samples["answered"])] = UNKNOWN
        goes_on &= ~old
        turned = goes_on & (now != phase)
        if turned.any():
            level = np.where(turned, np.maximum(level, year.judge(samples, now)), level)
            phase = np.where(turned, now, phase)
        goes_on &= samples["day"] + age < until
    return level
