"""What an option does in the model: every entry of the catalogue, cut short, and from which counts a forecast starts."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime, timedelta

import numpy as np
from numpy.random import default_rng

from redframe.core.forecast.effects import effects, kill_of, modelled, reaches_brood, span_days
from redframe.core.forecast.ensemble import fit
from redframe.core.forecast.events import DroneCut, LayingBreak, Split, Treat
from redframe.core.forecast.projection import Projection, project
from redframe.core.forecast.seen import CountSeen, FallSeen, Seen
from redframe.core.forecast.starting import (
    BACK_DAYS,
    MOST_FALLS,
    MOST_JARS,
    OLDEST_START_DAYS,
    fall_seen,
    start_from,
    why_not,
)
from redframe.core.sampling.bees import BeesInSample, bees_in_sample
from redframe.core.sampling.board import BoardSample, reading_of_board
from redframe.core.sampling.conversion import FACTORS
from redframe.core.sampling.method import Answer, TreatmentSpan
from redframe.core.season.calendar import Calendar
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import plan_course
from redframe.core.treatments.verification import earliest_post

START = date(2031, 8, 2)
TODAY = date(2031, 8, 2)
REACH_BROOD = {"FA_STRIP2", "FA_STRIP11", "FA_PAD", "FA_EVAP", "THY_GEL", "THY_TAB", "OX_EXT", "AMZ_STRIP",
               "FLUV_STRIP", "FLUM_STRIP", "HOP_STRIP"}  # fmt: skip
"""Acids that pass cappings, and what hangs as long as a brood cycle; a dose of three days reaches mites on bees alone."""


def last_day(option: str, last: date | None = None) -> date:
    """The last day on which a course does something."""
    ends = []
    for one in effects(option, START, last):
        match one:
            case Treat() | LayingBreak():
                ends.append(one.start + timedelta(days=one.days - 1))
            case DroneCut() | Split():
                ends.append(one.date)
    return max(ends)


class Options(unittest.TestCase):
    def test_every_option_is_modelled_or_says_nothing(self) -> None:
        """What has an effect has events from its first day on, within its span; what has none has no event."""
        for option in default_catalogue().options:
            with self.subTest(option=option.id):
                events = effects(option.id, START)
                self.assertEqual(bool(events), option.id in modelled())
                if not events:
                    continue
                first = events[0]
                self.assertEqual(first.start if isinstance(first, Treat | LayingBreak) else first.date, START)  # type: ignore[union-attr]
                self.assertEqual((last_day(option.id) - START).days + 1, span_days(option.id))

    def test_a_wash_on_the_earliest_day_tells_the_truth(self) -> None:
        """With brood, from the day on which a wash may verify a course it tells within 6 points what became of all
        mites; after one dose that leaves those in cells, a wash on day 3 would not."""
        calendar = Calendar.parse({"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25"})
        for counted in (date(2031, 6, 15), date(2031, 8, 1)):
            colony = fit([CountSeen(counted, 12, BeesInSample(300, 0.12))], calendar, (), default_rng(1), 400)
            untreated = project(colony, 70)
            for option in default_catalogue().options:
                if kill_of(option.id) is None:
                    continue
                start = counted + timedelta(days=1)
                treated = project(colony, 70, effects(option.id, start))
                end = plan_course(option, start).ending.window.ideal

                def gone(day: date, treated: Projection = treated) -> tuple[float, float]:
                    at = (day - counted).days
                    left = treated.rates[at] / untreated.rates[at], treated.mites[at] / untreated.mites[at]
                    return 100 * float(1 - np.median(left[0])), 100 * float(1 - np.median(left[1]))

                with self.subTest(option=option.id, counted=counted):
                    by_wash, of_all = gone(earliest_post(option, end, broodless=False))
                    self.assertAlmostEqual(by_wash, of_all, delta=6)
                    if option.id == "OX_VAP1":
                        by_wash, of_all = gone(end + timedelta(days=3))
                        self.assertGreater(by_wash, of_all + 20)

    def test_which_reach_the_brood(self) -> None:
        """Mites under cappings are reached by acids that pass them, or by what outlasts them."""
        found = {one for one in modelled() if (kill := kill_of(one)) is not None and reaches_brood(kill)}
        self.assertEqual(found, REACH_BROOD)

    def test_daily_shares_are_chances(self) -> None:
        """No option kills less than nothing or more than everything on a day, nor cuts more drone brood than there is."""
        for option in modelled():
            for one in effects(option, START):
                with self.subTest(option=option):
                    if isinstance(one, Treat):
                        self.assertTrue(0 < one.kp < 1 and 0 <= one.kc < 1 and one.days > 0)
                    elif isinstance(one, DroneCut):
                        self.assertTrue(0 < one.share <= 1)

    def test_three_days_of_a_trickle_kill_what_is_published(self) -> None:
        """0.632 a day for three days leaves 5 in 100 of the mites on bees: 95 % in a colony without brood."""
        [dose] = effects("OX_TRICKLE", START)
        assert isinstance(dose, Treat)
        self.assertAlmostEqual(1 - (1 - dose.kp) ** dose.days, 0.95, places=2)

    def test_placings_stand_as_far_apart_as_the_catalogue_says(self) -> None:
        """Strips after ten days, pads and doses of vapour after five, drone combs after twenty."""
        for option, apart, number in (("FA_STRIP11", 10, 2), ("FA_PAD", 5, 3), ("OX_VAPN", 5, 4)):
            with self.subTest(option=option):
                starts = [one.start for one in effects(option, START) if isinstance(one, Treat)]
                self.assertEqual(starts, [START + timedelta(days=apart * index) for index in range(number)])
        cuts = [one.date for one in effects("DRONE_TRAP", START) if isinstance(one, DroneCut)]
        self.assertEqual(cuts, [START + timedelta(days=20 * index) for index in range(3)])


class CutShort(unittest.TestCase):
    def test_what_is_taken_out_ends_that_day(self) -> None:
        """Strips removed on the fourth day killed for four days; the second strip of two was never placed."""
        [strip] = effects("AMZ_STRIP", START, START + timedelta(days=3))
        self.assertEqual(strip.days, 4)  # type: ignore[union-attr]
        self.assertEqual(len(effects("FA_STRIP11", START, START + timedelta(days=9))), 1)
        self.assertEqual(len(effects("FA_STRIP11", START, START + timedelta(days=10))), 2)

    def test_what_stays_on_the_bees_goes_on(self) -> None:
        """A trickled dose works its three days though the course was ended on the first; doses to come do not."""
        [dose] = effects("OX_TRICKLE", START, START)
        self.assertEqual(dose.days, 3)  # type: ignore[union-attr]
        self.assertEqual(len(effects("OX_VAPN", START, START + timedelta(days=6))), 2)

    def test_no_course_does_more_when_it_is_cut_short(self) -> None:
        """For every option and every day of its span: no more days of killing than in the whole course."""
        for option in modelled():
            kill = kill_of(option)
            if kill is None:
                continue
            whole = sum(one.days for one in effects(option, START) if isinstance(one, Treat))
            before = 0
            for number in range(span_days(option)):
                days = sum(
                    one.days for one in effects(option, START, START + timedelta(days=number)) if isinstance(one, Treat)
                )
                with self.subTest(option=option, day=number):
                    self.assertLessEqual(before, days)
                    self.assertLessEqual(days, whole)
                before = days
            self.assertEqual(before, whole, "to its last day it is the whole course")

    def test_a_queen_let_go_lays_again(self) -> None:
        """The break ends with the day on which she was let go; before it began there is none."""
        [free] = effects("QUEEN_CAGE", START, START + timedelta(days=9))
        self.assertEqual(free.days, 10)  # type: ignore[union-attr]
        [never] = effects("QUEEN_CAGE", START, START - timedelta(days=2))
        self.assertEqual(never.days, 0)  # type: ignore[union-attr]


def jar(days_ago: int, mites: int = 3) -> CountSeen:
    """A wash of 300 bees so many days ago."""
    bees = bees_in_sample("counted", bees=300, volume_ml=None, mass_g=None)
    assert bees is not None
    return CountSeen(TODAY - timedelta(days=days_ago), mites, bees)


def fall(days_ago: int) -> FallSeen:
    """A board of three days, read so many days ago."""
    return FallSeen(TODAY - timedelta(days=days_ago), 12, 3.0, 0.2, FACTORS["peak"])


class Starting(unittest.TestCase):
    def test_the_latest_of_each_kind_in_their_order(self) -> None:
        """Five jars and three boards at most, the newest, whatever order they were given in."""
        jars, falls = [jar(10 * number) for number in range(8)], [fall(10 * number + 5) for number in range(6)]
        mixed: list[Seen] = [*falls[::-1], *jars]
        found = start_from(mixed)
        self.assertEqual(len(found), MOST_JARS + MOST_FALLS)
        self.assertEqual([one.taken_on for one in found], sorted(one.taken_on for one in found))
        self.assertEqual(
            {one.taken_on for one in found}, {one.taken_on for one in [*jars[:MOST_JARS], *falls[:MOST_FALLS]]}
        )

    def test_why_none_can_start(self) -> None:
        """No count, or none young enough; on the last day that is young enough it starts."""
        self.assertIn(str(BACK_DAYS), why_not([], TODAY))
        self.assertIn(str(OLDEST_START_DAYS), why_not([jar(OLDEST_START_DAYS + 1)], TODAY))
        self.assertEqual(why_not([jar(OLDEST_START_DAYS)], TODAY), "")
        self.assertEqual(why_not([jar(140), jar(2)], TODAY), "")

    def test_which_boards_a_forecast_takes(self) -> None:
        """A clean board of three days is taken; one that was dirty, in too long or under a treatment is not."""
        calendar = Calendar.parse({"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25", "lead_days": 42})  # fmt: skip
        placed = datetime(2031, 6, 10, 9, tzinfo=UTC)

        def board(days: int = 3, cleaned: Answer = "yes") -> BoardSample:
            return BoardSample(placed, placed + timedelta(days=days), (12,), cleaned=cleaned)

        def taken(sample: BoardSample, *treatments: TreatmentSpan) -> FallSeen | None:
            return fall_seen(sample, reading_of_board(sample), calendar, treatments)

        usual = taken(board())
        assert usual is not None
        self.assertEqual((usual.taken_on, usual.mites, usual.factors), (date(2031, 6, 13), 12, FACTORS["peak"]))
        self.assertAlmostEqual(usual.board_days, 3.0)
        self.assertIsNone(taken(board(cleaned="no")))
        self.assertIsNone(taken(board(days=9)))
        self.assertIsNone(taken(board(), TreatmentSpan(date(2031, 5, 1), date(2031, 6, 1))))
        self.assertIsNotNone(taken(board(), TreatmentSpan(date(2031, 4, 1), date(2031, 5, 1))))
        self.assertEqual(usual.board_cv, 0, "the whole board was counted")
