"""Forecasts of a whole association: seconds and memory, against computing one colony after the other."""

from __future__ import annotations

import os
import resource
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import date, timedelta

import numpy as np

from redframe.core.forecast.ensemble import fit
from redframe.core.forecast.many import outlooks
from redframe.core.forecast.projection import bands, project
from redframe.core.forecast.seen import CountSeen
from redframe.core.forecast.side_by_side import MEMBERS, Record, prepare
from redframe.core.sampling.bees import BeesInSample
from redframe.core.season.calendar import Calendar

TODAY = date(2031, 8, 2)
HORIZON_DAYS = 120
CALENDAR = Calendar.parse(
    {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25"}
)


def records(colonies: int) -> list[Record]:
    """Colonies counted four times, three weeks apart, the last time in the last three weeks."""
    draw = np.random.default_rng(5)
    made = []
    for _ in range(colonies):
        last = int(draw.integers(0, 20))
        counts = tuple(
            CountSeen(TODAY - timedelta(days=last + 21 * back), int(draw.poisson(4)), BeesInSample(300.0, 0.12))
            for back in (3, 2, 1, 0)
        )
        made.append(Record(counts, (), 2.0))
    return made


def measure_association(colonies: int = 10_000, alone: int = 6) -> list[tuple[str, float, str]]:
    """Name, figure and unit of each measure."""
    made = records(colonies)
    cores = os.cpu_count() or 1
    began = time.perf_counter()
    ensemble = prepare(made, CALENDAR, np.random.default_rng(1))
    size = -(-colonies // cores)
    with ThreadPoolExecutor(cores) as pool:
        jobs = [
            pool.submit(outlooks, ensemble, made[at : at + size], TODAY, HORIZON_DAYS, np.random.default_rng(at))
            for at in range(0, colonies, size)
        ]
        found = sum(len(job.result()) for job in jobs)
    together = time.perf_counter() - began
    peak_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    began = time.perf_counter()
    for number in range(alone):
        one = fit(made[number].counts, CALENDAR, (), np.random.default_rng(number), MEMBERS)
        bands(project(one, (TODAY - one.on).days + HORIZON_DAYS))
    each = (time.perf_counter() - began) / alone
    return [
        (f"{found} colonies x {MEMBERS} members x {HORIZON_DAYS} days, {cores} cores", together, "s"),
        ("peak memory of the process", peak_mb, "MB"),
        ("one colony after the other would take", each * colonies, "s"),
        ("times as fast", each * colonies / together, "x"),
    ]


if __name__ == "__main__":
    for name, figure, unit in measure_association():
        print(f"{name}: {figure:.1f} {unit}")
