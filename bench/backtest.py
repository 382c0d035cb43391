"""How honest the forecast is: bands and chances against colonies that other rules made, and against plain alternatives."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from tests.support import at_work, demo_template, new_database

from bench.colonies import live
from redframe.core.forecast.ensemble import fit
from redframe.core.forecast.projection import project
from redframe.core.forecast.seen import CountSeen
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import read_jar
from redframe.core.season.calendar import Calendar
from redframe.demo.population import Life
from redframe.demo.scenario import DEMO_TODAY, FIRST_DAY
from redframe.work.forecast.evaluation import evaluations, later_counts

Line = tuple[str, str]

NORTH = Calendar.parse(
    {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25"}
)
MEMBERS = 1000
COLONIES = 1000
DEMO_COLONIES = 600
AHEAD = (0, 14, 28, 42)
THRESHOLD = 2.0
WEEKS_3 = 21
ONE_RATE = 0.021
BETWEEN = {"untreated": "left alone meanwhile", "treated": "treated meanwhile"}


@dataclass(frozen=True, slots=True)
class History:
    """Washes of one colony, and its true rate on any later day (mites per 100 bees)."""

    washes: list[tuple[date, int]]
    truth: Callable[[date], float]


def simulated(generator: np.random.Generator) -> list[History]:
    """One to three washes, three weeks apart, of colonies of the generator."""
    season = live(COLONIES, generator)
    found = []
    for colony in range(COLONIES):
        last = date(2025, 6, 1) + timedelta(days=int(generator.integers(0, 60)))
        days = [last - timedelta(days=21 * n) for n in range(int(generator.integers(1, 4)))][::-1]
        washes = [(day, int(season.wash(day, np.array([colony]), generator)[0])) for day in days]
        found.append(History(washes, lambda day, colony=colony: float(season.at(day)[colony])))  # type: ignore[misc]
    return found


def demo_histories(generator: np.random.Generator) -> list[History]:
    """The same of colonies that live by the demo's own model."""
    found = []
    for _ in range(DEMO_COLONIES):
        life = Life(NORTH, generator, float(np.exp(generator.normal(3.6, 0.6))), float(generator.normal(1.0, 0.12)))
        last = date(2025, 6, 1) + timedelta(days=int(generator.integers(0, 60)))
        days = {last - timedelta(days=21 * n) for n in range(int(generator.integers(1, 4)))}
        washes, truth = [], {}
        for number in range(230):
            day = date(2025, 3, 1) + timedelta(days=number)
            life.step(day)
            truth[day] = life.per_100(day)
            if day in days:
                washes.append((day, sum(life.wash(day))))
        found.append(History(washes, truth.__getitem__))
    return found


def score(name: str, histories: list[History], generator: np.random.Generator) -> list[Line]:
    """Coverage, bias and Brier scores over histories."""
    inside = {(ahead, band): [] for ahead in AHEAD for band in (50, 80, 95)}  # type: ignore[var-annotated]
    error = {ahead: [] for ahead in AHEAD}  # type: ignore[var-annotated]
    brier = {who: [] for who in ("forecast", "last count stays", "one rate", "base rate")}  # type: ignore[var-annotated]
    outcomes = []
    for history in histories:
        counts = [CountSeen(day, mites, BeesInSample(300, 0.12)) for day, mites in history.washes]
        fitted = fit(counts, NORTH, (), generator, MEMBERS)
        run = project(fitted, max(AHEAD))
        for ahead in AHEAD:
            truth = history.truth(fitted.on + timedelta(days=ahead))
            for band, low, high in ((50, 0.25, 0.75), (80, 0.1, 0.9), (95, 0.025, 0.975)):
                ends = np.quantile(run.rates[ahead], (low, high))
                inside[ahead, band].append(bool(ends[0] <= truth <= ends[1]))
            error[ahead].append(np.log(np.median(run.rates[ahead]) / max(truth, 1e-6)))
        over = history.truth(fitted.on + timedelta(days=WEEKS_3)) >= THRESHOLD
        outcomes.append(over)
        reading = read_jar(counts[-1].mites, counts[-1].bees, "wash_shakes")
        brier["forecast"].append((float((run.rates[WEEKS_3] >= THRESHOLD).mean()) - over) ** 2)
        brier["last count stays"].append((reading.p_over(THRESHOLD) - over) ** 2)
        brier["one rate"].append((reading.p_over(THRESHOLD * float(np.exp(-ONE_RATE * WEEKS_3))) - over) ** 2)
    base = float(np.mean(outcomes))
    lines = [
        (
            f"{name}: {ahead} days ahead, coverage of the 50 / 80 / 95 % bands; median log error",
            " / ".join(f"{100 * np.mean(inside[ahead, band]):.0f} %" for band in (50, 80, 95))
            + f"; {np.median(error[ahead]):+.2f}",
        )
        for ahead in AHEAD
    ]
    lines.append(
        (
            f"{name}: Brier score of over {THRESHOLD:.0f} per 100 in three weeks: forecast / last count stays / one rate / base rate",
            " / ".join(f"{np.mean(brier[who]):.3f}" for who in ("forecast", "last count stays", "one rate"))
            + f" / {base * (1 - base):.3f}",
        )
    )
    return lines


def own_history(generator: np.random.Generator) -> list[Line]:
    """The demo's own record: each later count of two seasons against what the counts before it predicted."""
    later = at_work(new_database(demo_template()), lambda unit: later_counts(unit, FIRST_DAY))
    lines = []
    for found in evaluations(later, FIRST_DAY, DEMO_TODAY, generator):
        name = f"the demo's own record, {found.counts} later counts of colonies {BETWEEN[found.between]}"
        held = " / ".join(f"{100 * share:.0f} %" for share in (found.held50, found.held80, found.held95))
        lines.append(
            (f"{name}: inside the 50 / 80 / 95 % bands; over the middle", f"{held}; {100 * found.above:.0f} %")
        )
        base = found.happened * (1 - found.happened)
        scores = (found.brier, found.brier_stays, found.brier_one_rate, base)
        lines.append(
            (
                f"{name}: Brier score of reading over the act level: forecast / last count stays / one rate / base rate",
                " / ".join(f"{score:.3f}" for score in scores),
            )
        )
    return lines


def measure_forecast() -> list[Line]:
    """The back-test on both kinds of colonies, and on the demo's own record."""
    generator = np.random.default_rng(20310802)
    return [
        *own_history(generator),
        *score(f"{COLONIES} colonies of another generator", simulated(generator), generator),
        *score(f"{DEMO_COLONIES} colonies of the demo's model", demo_histories(generator), generator),
    ]
