"""The forecast from counts against the reference's bands and quadrature, and decisions worked by hand."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from functools import cache
from typing import Any

import numpy as np
from scipy import stats

from redframe.core.calculators import calculator
from redframe.core.errors import InvalidInput
from redframe.core.forecast.advice import last_start, outcome, start_window
from redframe.core.forecast.effects import effects
from redframe.core.forecast.ensemble import Fitted, fit
from redframe.core.forecast.projection import bands, crossing, danger_from, lived_until, project
from redframe.core.forecast.seen import CountSeen, FallSeen, Seen
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.conversion import FACTORS
from tests.core.test_forecast_model import (
    AMITRAZ,
    FORMIC,
    NORTH,
    OXALIC,
    START,
    THYMOL,
    WARM,
    treat,
)


def seen(on: date, mites: int, bees: float = 300.0, cv: float = 0.12) -> CountSeen:
    return CountSeen(on, mites, BeesInSample(bees, cv))


ONE = (seen(date(2025, 6, 20), 4),)
TWO = (*ONE, seen(date(2025, 7, 14), 11, 310))


@cache
def fitted(counts: tuple[Seen, ...], state: int = 1) -> Fitted:
    return fit(counts, NORTH, (), np.random.default_rng(state))


class FromCounts(unittest.TestCase):
    def test_the_reference_example(self) -> None:
        """One wash of 4 in 300, then a second of 11 in 310: medians and 80 % bands of the reference, itself one run of
        an ensemble: to a tenth of the median, a fifth of the band's ends."""
        expected: dict[tuple[CountSeen, ...], dict[int, tuple[float, float, float]]] = {
            ONE: {0: (1.69, 0.71, 3.90), 14: (2.29, 0.98, 5.24), 42: (4.38, 1.80, 10.3)},
            TWO: {0: (3.39, 2.03, 5.78), 42: (10.6, 5.7, 20.4)},
        }
        for counts, days in expected.items():
            result = bands(project(fitted(counts), 42))
            for ahead, (median, low, high) in days.items():
                with self.subTest(counts=len(counts), ahead=ahead):
                    self.assertAlmostEqual(result[ahead].median / median, 1.0, delta=0.1)
                    self.assertAlmostEqual(result[ahead].low80 / low, 1.0, delta=0.2)
                    self.assertAlmostEqual(result[ahead].high80 / high, 1.0, delta=0.2)
        run = project(fitted(ONE), 90)
        two, three = crossing(run, 2.0), crossing(run, 3.0)
        self.assertEqual(two.date10, date(2025, 6, 20))
        assert two.date50 and two.date90 and three.date50
        self.assertLessEqual(abs((two.date50 - date(2025, 6, 28)).days), 4)
        self.assertLessEqual(abs((two.date90 - date(2025, 8, 6)).days), 5)
        self.assertLessEqual(abs((three.date50 - date(2025, 7, 17)).days), 4)
        self.assertGreater(two.share, 0.98)

    def test_a_future_can_go_on_from_a_later_day(self) -> None:
        """Lived through to a day and on from there is the same as lived through at once, treatment and all."""
        start = fitted(ONE)
        events = effects("FA_STRIP2", start.on + timedelta(days=12))
        whole = project(start, 40, events)
        later = lived_until(start, start.on + timedelta(days=11), events)
        np.testing.assert_allclose(project(later, 29, events).rates, whole.rates[11:])
        self.assertEqual(lived_until(start, start.on - timedelta(days=3)).on, start.on)

    def test_on_the_day_of_a_single_count_it_is_the_posterior(self) -> None:
        """What the members say of the day of one count is Bayes' rule by quadrature: negative binomial of size 6, bees
        lognormal, recovery Beta(47.5, 2.5), and Jeffreys' prior sqrt(1/(1/285 theta + 1/6 + 0.12^2 + 0.033^2))."""
        for mites in (4, 20):
            log_rate = np.linspace(np.log(1e-5), np.log(2.0), 1500)
            bees = BeesInSample(300.0, 0.12).quantiles((np.arange(60) + 0.5) / 60)
            found = stats.beta(47.5, 2.5).ppf((np.arange(60) + 0.5) / 60)
            mean = np.exp(log_rate)[:, None] * np.outer(bees, found).ravel()
            beyond = 1 / 6 + 0.12**2 + stats.beta(47.5, 2.5).var() / 0.95**2
            prior = (1 / (285 * np.exp(log_rate)) + beyond) ** -0.5
            density = prior * stats.nbinom.pmf(mites, 6, 6 / (6 + mean)).mean(axis=1)
            reached = np.cumsum(density) / density.sum()
            rates = bands(project(fitted((seen(date(2025, 6, 20), mites),)), 1))[0]
            for level, value in ((0.1, rates.low80), (0.5, rates.median), (0.9, rates.high80)):
                exact = 100 * float(np.exp(np.interp(level, reached, log_rate)))
                # Arrivals put a floor under the lowest loads, which the quadrature does not know of.
                self.assertAlmostEqual(value / exact, 1.0, delta=0.1, msg=f"{mites} at {level}")

    def test_on_the_day_of_a_board_it_is_the_wide_posterior(self) -> None:
        """Bayes' rule by quadrature for 24 mites in 3 days at peak: negative binomial of size 6 around a fall whose
        meaning strays by the logarithms of K (sd 0.6), of the bees (CV 25 %) and of the share on bees, Beta(20, 25)."""
        day, factors = date(2025, 6, 20), FACTORS["peak"]
        log_rate = np.linspace(np.log(1e-6), np.log(1.0), 1500)
        levels = (np.arange(80) + 0.5) / 80
        share = np.log(stats.beta(20, 25).ppf(levels) * (45 / 20))
        error = (stats.norm(0, np.sqrt(0.36 + np.log(1.0625))).ppf(levels)[:, None] + share).ravel()
        per_mite = 3 * 25_000 / (1.2 * 30 * 20 / 45)
        mean = per_mite * np.exp(log_rate)[:, None] * np.exp(error)
        beyond = 1 / 6 + 0.36 + np.log(1.0625) + stats.beta(20, 25).expect(lambda b: (np.log(b) - np.log(20 / 45)) ** 2)
        prior = (1 / (per_mite * np.exp(log_rate)) + beyond) ** -0.5
        density = prior * stats.nbinom.pmf(24, 6, 6 / (6 + mean)).mean(axis=1)
        reached = np.cumsum(density) / density.sum()
        rates = bands(project(fitted((FallSeen(day, 24, 3.0, 0.0, factors),)), 1))[0]
        for level, value in ((0.1, rates.low80), (0.5, rates.median), (0.9, rates.high80)):
            exact = 100 * float(np.exp(np.interp(level, reached, log_rate)))
            self.assertAlmostEqual(value / exact, 1.0, delta=0.12, msg=str(level))

    def test_many_boards_share_one_error(self) -> None:
        """Three boards say little more than one, a wash says much: widths of the 80 % band in logarithms."""
        day, factors = date(2025, 6, 20), FACTORS["peak"]
        boards = [FallSeen(day + timedelta(days=3 * at), 24, 3.0, 0.0, factors) for at in range(3)]
        last = boards[-1].taken_on

        def width(*counts: Seen) -> float:
            band = bands(project(fitted(counts), (last - counts[-1].taken_on).days))[-1]
            return float(np.log(band.high80 / band.low80))

        self.assertGreater(width(*boards), 0.85 * width(boards[0]))
        self.assertLess(width(*boards, seen(last, 4)), 0.8 * width(*boards))

    def test_bands_stand_still(self) -> None:
        """Another random state moves the median by less than 5 %, the 80 % band by less than 10 %."""
        first, other = (bands(project(fitted(ONE, state), 42)) for state in (1, 2))
        for ahead in (0, 21, 42):
            self.assertAlmostEqual(first[ahead].median / other[ahead].median, 1.0, delta=0.05)
            self.assertAlmostEqual(first[ahead].high80 / other[ahead].high80, 1.0, delta=0.10)
        self.assertGreater(fitted(ONE).effective, 3000)

    def test_counts_that_no_colony_explains(self) -> None:
        """Nothing, then four hundred a week later: more members are tried, and the answer says that they disagree."""
        odd = fit([seen(date(2025, 6, 20), 0), seen(date(2025, 6, 27), 400)], NORTH, (), np.random.default_rng(1), 500)
        self.assertTrue(odd.disagree)
        self.assertEqual(odd.drawn, 8000)
        self.assertTrue(np.isfinite(odd.rates).all())

    def test_a_treatment_between_counts_is_not_read_as_a_fall(self) -> None:
        """The same two counts, once with its treatment: the untreated course is worse than without knowing."""
        counts = [seen(date(2025, 7, 1), 15), seen(date(2025, 8, 1), 5)]
        known = (treat(date(2025, 7, 3), FORMIC),)
        result = fit(counts, NORTH, known, np.random.default_rng(1))
        self.assertFalse(result.disagree)
        unknown = fit(counts, NORTH, (), np.random.default_rng(1))
        self.assertGreater(result.effective / result.drawn, 3 * unknown.effective / unknown.drawn)

    def test_a_colony_in_danger(self) -> None:
        """Forty in three hundred in August: in danger within weeks; four in June not within the month."""
        self.assertIsNotNone(danger_from(project(fitted((seen(date(2025, 8, 1), 40),)), 45)))
        self.assertIsNone(danger_from(project(fitted(ONE), 30)))


class Advice(unittest.TestCase):
    def test_scenarios_side_by_side(self) -> None:
        """Medians of the reference on 25 August and 15 September; nothing kept the winter bees' load under 2."""
        days = (date(2025, 8, 25), date(2025, 9, 15))
        expected = {
            "nothing": ((), (10.8, 18.3)),
            "formic now": ((treat(date(2025, 7, 15), FORMIC),), (2.7, 4.5)),
            "formic later": ((treat(date(2025, 8, 10), FORMIC),), (2.4, 4.1)),
            "thymol": ((treat(date(2025, 7, 20), THYMOL),), (2.8, 4.6)),
            "oxalic once": ((treat(date(2025, 7, 15), OXALIC),), (6.2, 10.4)),
        }
        alone = project(fitted(TWO), 70)
        runs = {name: project(fitted(TWO), 70, events) for name, (events, _) in expected.items()}
        found = {name: outcome(run, alone, days, 2.0, alone.first) for name, run in runs.items()}
        for name, (_, medians) in expected.items():
            for result, median in zip(found[name].at, medians, strict=True):
                self.assertAlmostEqual(result.median / median, 1.0, delta=0.08, msg=name)
            self.assertLess(found[name].p_below or 0.0, 0.25)
        self.assertEqual(found["nothing"].killed, 0.0)
        self.assertGreater(found["formic now"].killed, found["oxalic once"].killed)

    def test_how_late_a_treatment_makes_sense(self) -> None:
        """From 1 in 300 on 10 June with the winter level 3: formic to about 9 August, amitraz to about 12 July; from the
        two washes no single treatment is enough, and the best chance is given instead of a date."""
        june = fit([seen(date(2025, 6, 10), 1)], NORTH, (), np.random.default_rng(1), 1500)

        def window(ensemble: Fitted, agent: tuple[float, float, int], level: float) -> Any:
            return start_window(
                ensemble, (), treat(START, agent), NORTH, not_before=ensemble.on, winter_level=level, urgent_level=5.0
            )

        formic, amitraz = window(june, FORMIC, 3.0), window(june, AMITRAZ, 3.0)
        self.assertLessEqual(abs((formic.latest - date(2025, 8, 9)).days), 4)
        self.assertLessEqual(abs((amitraz.latest - date(2025, 7, 12)).days), 3)
        self.assertGreater(amitraz.p_latest, 0.85)
        hopeless = window(fitted(TWO), FORMIC, 2.0)
        self.assertIsNone(hopeless.latest)
        self.assertLess(hopeless.p_latest, 0.3)
        self.assertIsNone(
            start_window(june, (), treat(START, FORMIC), WARM, not_before=june.on, winter_level=3, urgent_level=5)
        )

        def last(ensemble: Fitted, level: float, *agents: tuple[float, float, int]) -> Any:
            kinds = [treat(START, agent) for agent in agents]
            return last_start(ensemble, (), kinds, NORTH, not_before=ensemble.on, winter_level=level, urgent_level=5.0)

        found = last(june, 3.0, AMITRAZ, FORMIC)
        self.assertEqual(found.which, 1)
        self.assertLessEqual(abs((found.on - formic.latest).days), 3)
        self.assertLessEqual(abs((last(june, 3.0, AMITRAZ).on - amitraz.latest).days), 3)
        none = last(fitted(TWO), 2.0, THYMOL, FORMIC)
        self.assertEqual((none.enough, none.which, none.on), (False, 1, date(2025, 8, 11)))


class Calculator(unittest.TestCase):
    BODY: dict[str, Any] = {
        "counts": [{"date": "2025-06-20", "mites": 4, "bees": 300}],
        "calendar": {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25"},
        "events": [],
        "horizon_days": 30,
        "threshold_per_100": 2.0,
        "random_state": 7,
    }

    def test_the_answer(self) -> None:
        """The same state, the same answer; a day more than the horizon; bands one inside the other; null for never."""
        answer = calculator("forecast")(self.BODY)
        self.assertEqual(answer, calculator("forecast")(self.BODY))
        self.assertEqual(
            [day["date"] for day in answer["days"]], [date(2025, 6, 20) + timedelta(days=n) for n in range(31)]
        )
        for day in answer["days"]:
            ends = [day[end] for end in ("low95", "low80", "low50", "median", "high50", "high80", "high95")]
            self.assertEqual(ends, sorted(ends))
        never = calculator("forecast")({**self.BODY, "threshold_per_100": 900.0})["crossing"]
        self.assertEqual(never, {"date10": None, "date50": None, "date90": None, "share": 0.0})

    def test_methods_widen(self) -> None:
        """The same mites in a rolled sample stand for more than in a wash, and for less exactly known a load."""

        def first(method: str, bees_from: str = "volume") -> Any:
            count = {**self.BODY["counts"][0], "method": method, "bees_from": bees_from}
            return calculator("forecast")({**self.BODY, "counts": [count]})["days"][0]

        wash, sugar, co2 = first("wash"), first("sugar"), first("co2")
        self.assertLess(wash["median"], sugar["median"])
        self.assertLess(sugar["median"], co2["median"])

    def test_bad_fields_are_named(self) -> None:
        """The first bad field in the order of the contract, by its path."""
        for part, field in (
            ({"counts": []}, "counts"),
            ({"counts": [{"date": "2025-06-20", "mites": 4.5, "bees": 300}]}, "counts[0].mites"),
            ({"counts": [{"date": "2025-06-31", "mites": 4, "bees": 300}]}, "counts[0].date"),
            ({"counts": [{"date": "2025-06-20", "mites": 4, "bees": 300, "method": "board"}]}, "counts[0].method"),
            ({"calendar": {"peak": "02-30"}}, "calendar.peak"),
            ({"events": [{"type": "frost"}]}, "events[0].type"),
            ({"events": [{"type": "treat", "start": "2025-07-01", "days": 3, "kp": 1.5, "kc": 0}]}, "events[0].kp"),
            ({"horizon_days": 121}, "horizon_days"),
            ({"threshold_per_100": 0}, "threshold_per_100"),
            ({"random_state": 1.5}, "random_state"),
            ({"horizon": 30}, "horizon"),
            ({"counts": [{"date": f"20{y}-06-20", "mites": 4, "bees": 300} for y in (25, 29)]}, "counts"),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as caught:
                calculator("forecast")({**self.BODY, **part})
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
