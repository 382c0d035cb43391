"""Falls after a dose against the reference's shares by day, against conservation, and its verdicts by simulation."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta
from functools import cache

import numpy as np

from redframe.core.forecast.effects import effects
from redframe.core.forecast.ensemble import Fitted, fit
from redframe.core.forecast.events import Event
from redframe.core.forecast.fall_curve import ExpectedFalls, FallenOn, expected_falls, fall_days, read_falls
from redframe.core.forecast.model import Model
from redframe.core.forecast.season import season_of
from redframe.core.forecast.seen import CountSeen
from redframe.core.sampling.bees import BeesInSample
from tests.core.test_forecast_model import NORTH, figures

DECLINE = date(2025, 7, 26)
CHRISTMAS = date(2025, 12, 5)


def alone(day: date, mites: float) -> Fitted:
    """One colony with every figure at its default and so many mites, in the evening before a day."""
    p = figures(mort_brood=0.0, mort_nobrood=0.0)
    model = Model(season_of(NORTH), p)
    state = model.spun_up(day)
    state.put_mites(np.array([mites]), p)
    return Fitted(model, state, np.array([1.0]), day - timedelta(days=1), 1.0, 1, False)


def share_by_day(option: str, start: date) -> dict[int, float]:
    """Share of all that a course kills that is killed by the end of a day, of one colony with default figures."""
    events = effects(option, start)
    fitted = alone(start - timedelta(days=30), 1000)
    found = expected_falls(fitted, (), events, NORTH, start, start + timedelta(days=60), np.random.default_rng(1))
    dead = (found.working - found.natural)[:, 0]
    total = dead.sum()
    return {day: float(dead[:day].sum() / total) for day in (3, 7, 14, 21, 28, 35)}


class ShareByDay(unittest.TestCase):
    def test_strips_with_brood_and_without(self) -> None:
        """A slow kill on bees: with brood mites come out of their cells for weeks, without it most are gone in one."""
        for start, expected in (
            (DECLINE, {3: 0.15, 7: 0.30, 14: 0.54, 21: 0.72, 28: 0.85, 35: 0.94}),
            (CHRISTMAS, {3: 0.41, 7: 0.71, 14: 0.92, 21: 0.98}),
        ):
            found = share_by_day("AMZ_STRIP", start)
            for day, share in expected.items():
                self.assertAlmostEqual(found[day], share, delta=0.035, msg=f"{start} day {day}")

    def test_one_dose_of_oxalic_without_brood(self) -> None:
        """All of it within three days."""
        self.assertGreater(share_by_day("OX_TRICKLE", CHRISTMAS)[3], 0.99)

    def test_the_dead_in_cells_fall_when_these_open(self) -> None:
        """Formic acid kills under cappings too: nothing that it killed is lost between the day and the board, and some
        of it falls after the course."""
        start, fitted = DECLINE, alone(DECLINE - timedelta(days=30), 1000)
        end = start + timedelta(days=60)
        in_cells: list[Event] = [replace(one, kp=0.0) for one in effects("FA_STRIP2", start)]  # type: ignore[type-var]
        found = expected_falls(fitted, (), in_cells, NORTH, start, end, np.random.default_rng(1))
        dead = (found.working - found.natural)[:, 0]
        self.assertGreater(dead[14:28].sum(), 0.15 * dead.sum())
        self.assertEqual(dead[28:].sum(), 0.0)


@cache
def members(mites: int) -> Fitted:
    count = CountSeen(DECLINE - timedelta(days=2), mites, BeesInSample(300.0, 0.12))
    return fit([count], NORTH, (), np.random.default_rng(3), 1000)


@cache
def expected(mites: int) -> ExpectedFalls:
    course = effects("AMZ_STRIP", DECLINE)
    last = DECLINE + timedelta(days=56)
    return expected_falls(members(mites), (), course, NORTH, DECLINE, last, np.random.default_rng(4))


def boards(found: ExpectedFalls, what: np.ndarray, member: int, draw: np.random.Generator) -> list[FallenOn]:
    """Three boards of a member, as it would shed them."""
    read = []
    for first, days in ((0, 2), (3, 3), (9, 3)):
        board = FallenOn(DECLINE + timedelta(days=first), DECLINE + timedelta(days=first + days), 0, float(days))
        mean = found.over(what, board)[member] * days
        read.append(replace(board, mites=int(draw.poisson(draw.gamma(6.0, mean / 6.0)))))
    return read


class Verdicts(unittest.TestCase):
    def test_a_loaded_colony_shows_whether_it_is_killed(self) -> None:
        """Of colonies at 6 in 100 two thirds are judged rightly, and of the others few wrongly: two hundred of each."""
        found, draw = expected(18), np.random.default_rng(5)
        answer: dict[str, list[str]] = {"working": [], "idle": []}
        for member in range(0, 1000, 5):
            for name in answer:
                readout = read_falls(found, boards(found, getattr(found, name), member, draw), DECLINE)
                assert readout is not None
                answer[name].append(readout.verdict)
        self.assertGreater(sum(one in ("killing", "over") for one in answer["working"]), 130)
        self.assertLess(answer["working"].count("not_killing"), 12)
        self.assertGreater(answer["idle"].count("not_killing"), 110)
        self.assertLess(sum(one in ("killing", "over") for one in answer["idle"]), 20)

    def test_nothing_on_the_board(self) -> None:
        """Under a loaded colony it is evidence of failure; where there was next to nothing it says nothing."""
        nothing = [FallenOn(DECLINE + timedelta(days=1), DECLINE + timedelta(days=4), 0, 3.0)]
        loaded, light = (read_falls(expected(mites), nothing, DECLINE) for mites in (18, 0))
        assert loaded and light
        self.assertEqual(loaded.verdict, "not_killing")
        self.assertEqual(light.verdict, "cannot_tell")

    def test_over_and_going_on(self) -> None:
        """A last board at the natural fall ends it; one well above what should still fall after three weeks does not."""
        found = expected(18)
        early = FallenOn(DECLINE + timedelta(days=1), DECLINE + timedelta(days=4), 0, 3.0)
        early = replace(early, mites=round(3 * float(np.median(found.over(found.working, early)))))
        late = FallenOn(DECLINE + timedelta(days=38), DECLINE + timedelta(days=41), 0, 3.0)
        many = round(3 * 2 * float(np.quantile(found.over(found.working, late), 0.9)))
        for mites, verdict in ((0, "over"), (many, "goes_on")):
            readout = read_falls(found, [early, replace(late, mites=mites)], DECLINE)
            assert readout is not None
            self.assertEqual(readout.verdict, verdict)

    def test_the_bands_are_in_order(self) -> None:
        """The middle within the 80 %, and what falls naturally falls while strips hang."""
        days = fall_days(expected(18))
        self.assertTrue(all(day.low80 <= day.median <= day.high80 for day in days))
        self.assertLess(days[40].natural90, days[1].natural90)
        self.assertLess(days[35].median, 0.3 * days[2].median)
