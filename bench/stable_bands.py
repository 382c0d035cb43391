"""How many members the bands of one colony need to be stable, and what they cost: the ends of the 80 % band six weeks
ahead under other random states, and the time of a forecast of sixty days."""

from __future__ import annotations

import time
from datetime import date, timedelta

import numpy as np

from redframe.core.forecast.ensemble import fit
from redframe.core.forecast.projection import bands, project
from redframe.core.forecast.seen import CountSeen, FallSeen, Seen
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.conversion import FACTORS
from redframe.core.season.calendar import Calendar

NORTH = Calendar.parse(
    {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25"}
)
FIRST = date(2031, 6, 20)
STATES = 8
AHEAD_DAYS, HORIZON_DAYS = 42, 60


def _jar(days: int, mites: int) -> Seen:
    return CountSeen(FIRST + timedelta(days=days), mites, BeesInSample(300.0, 0.12))


RECORDS: dict[str, tuple[Seen, ...]] = {
    "one wash": (_jar(0, 4),),
    "three washes": (_jar(0, 2), _jar(21, 4), _jar(42, 9)),
    "one board": (FallSeen(FIRST, 24, 3.0, 0.0, FACTORS["peak"]),),
}


def measure_stable_bands() -> list[tuple[str, str]]:
    """A row for each record and number of members."""
    found = []
    for name, counts in RECORDS.items():
        for members in (500, 1000, 2000, 4000, 8000):
            ends, took = [], []
            for state in range(STATES):
                began = time.perf_counter()
                answer = bands(project(fit(counts, NORTH, (), np.random.default_rng(state), members), HORIZON_DAYS))
                took.append(time.perf_counter() - began)
                ends.append(np.log([answer[AHEAD_DAYS].low80, answer[AHEAD_DAYS].median, answer[AHEAD_DAYS].high80]))
            low, middle, high = (100 * np.std(np.array(ends), axis=0)).tolist()
            found.append(
                (
                    f"{name}, {members} members: how far low 80, median, high 80 move; a forecast takes",
                    f"{low:.1f} / {middle:.1f} / {high:.1f} %; {1000 * float(np.median(took)):.0f} ms",
                )
            )
    return found


if __name__ == "__main__":
    for what, measured in measure_stable_bands():
        print(f"{what}: {measured}")
