"""Seasons, schools and levels."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput
from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import SCHEMES, phase_threshold
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.method import Use
from redframe.core.sampling.reading import read_jar
from redframe.core.season.calendar import Calendar
from redframe.core.status.apiary import worst
from redframe.core.status.judgement import judge_reading, scheme_views
from redframe.core.status.status import Sample, judge, recount_on, statuses

NORTH_DAYS = {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25"}
SOUTH_DAYS = {"dormant": "05-01", "build_up": "08-30", "peak": "11-15", "decline": "01-25", "winter_bees": "02-24"}
WARM_DAYS = {"dormant": None, "build_up": "02-01", "peak": "04-15", "decline": "09-15", "winter_bees": None}
NORTH, SOUTH, WARM = (Calendar.parse(days) for days in (NORTH_DAYS, SOUTH_DAYS, WARM_DAYS))
SEASON = Policy(NORTH, SCHEMES["season_phase"].levels)
FLAT_2 = Policy(NORTH, SCHEMES["flat_2"].levels, "flat_2")


class Phases(unittest.TestCase):
    def test_resolved_examples(self) -> None:
        """The five resolved examples of the reference, both hemispheres and the place without a winter."""
        for calendar, day, scheme, phase, levels in (
            (NORTH, "2025-08-01", "season_phase", "pre_winter", (1, 2, 4)),
            (SOUTH, "2026-01-10", "season_phase", "peak", (1, 2, 4)),
            (SOUTH, "2026-03-10", "season_phase", "decline", (1.5, 3, 5)),
            (WARM, "2025-12-20", "season_phase", "decline", (1.5, 3, 5)),
            (NORTH, "2025-02-28", "fall_phase", "dormant", (0.25, 0.5, 2)),
        ):
            with self.subTest(day=day):
                found = phase_threshold(date.fromisoformat(day), calendar, scheme)
                self.assertEqual(found.phase, phase)
                self.assertEqual((found.watch, found.act, found.urgent), levels)

    def test_pre_winter_ends_the_day_before_winter_bees(self) -> None:
        """The 42 days before 25 August, that day itself excluded; the lead counts 29 February."""
        self.assertEqual(NORTH.phase(date(2031, 7, 13)), "peak")
        self.assertEqual(NORTH.phase(date(2031, 7, 14)), "pre_winter")
        self.assertEqual(NORTH.phase(date(2031, 8, 24)), "pre_winter")
        self.assertEqual(NORTH.phase(date(2031, 8, 25)), "decline")
        self.assertEqual(SOUTH.phase(date(2026, 1, 13)), "pre_winter")

    @given(st.dates(date(2020, 1, 1), date(2040, 12, 31)))
    def test_opposite_calendars_are_never_both_in_winter(self, day: date) -> None:
        """North and south turned by half a year are not dormant on the same day."""
        self.assertFalse(NORTH.base_phase(day) == "dormant" and SOUTH.base_phase(day) == "dormant")

    def test_bad_calendars_are_named(self) -> None:
        """A day that does not exist, none, two equal, out of order, a lead too long, a school that is none."""
        for field, days in (
            ("calendar.dormant", {**NORTH_DAYS, "dormant": "02-30"}),
            ("calendar.winter_bees", {**NORTH_DAYS, "winter_bees": "8-25"}),
            ("calendar", {}),
            ("calendar", {**NORTH_DAYS, "peak": "03-01"}),
            ("calendar", {**NORTH_DAYS, "peak": "09-01", "decline": "04-01"}),
            ("calendar.lead_days", {**NORTH_DAYS, "lead_days": 121}),
            ("calendar.lead_days", {**NORTH_DAYS, "lead_days": True}),
        ):
            with self.subTest(field=field, days=days), self.assertRaises(InvalidInput) as refused:
                Calendar.parse(days)
            self.assertEqual(refused.exception.field, field)
        with self.assertRaises(InvalidInput) as refused:
            phase_threshold(date(2031, 8, 2), NORTH, "by_the_moon")
        self.assertEqual(refused.exception.field, "scheme")

    def test_seasons_of_the_treatment_catalogue(self) -> None:
        """The year of the north in the catalogue's words, by the common calendar of the references."""
        for day, season in (
            ("2031-12-10", "winter_cluster"), ("2031-03-20", "spring_build"), ("2031-04-20", "swarm"),
            ("2031-06-20", "flow"), ("2031-08-02", "post_harvest"), ("2031-09-14", "post_harvest"), ("2031-09-20", "autumn"),
        ):  # fmt: skip
            with self.subTest(day=day):
                self.assertEqual(NORTH.treatment_season(date.fromisoformat(day)), season)

    def test_winter_bee_date_rolls_at_the_dormant_phase(self) -> None:
        """It stays in the past through autumn and turns to next year's on 1 November."""
        self.assertEqual(NORTH.winter_bee_date(date(2031, 10, 31)), date(2031, 8, 25))
        self.assertEqual(NORTH.winter_bee_date(date(2031, 11, 1)), date(2032, 8, 25))
        self.assertEqual(NORTH.winter_bee_date(date(2032, 2, 1)), date(2032, 8, 25))


class Standings(unittest.TestCase):
    def sample(self, day: date, mites: int, bees: float = 300, **flags: bool) -> Sample:
        """A counted sample as a level sees it, with known bees."""
        reading = read_jar(mites, BeesInSample(bees, 0.0), "all")
        flags.setdefault("can_clear", bees >= 100)
        return Sample(day, reading.median, reading.upper80, **flags)

    def test_six_in_three_hundred(self) -> None:
        """6 in 300 counted bees: act under flat 2, watch under flat 3."""
        sample = self.sample(date(2031, 7, 1), 6)
        self.assertEqual(judge(sample, SCHEMES["flat_2"].levels["peak"]), "act")
        self.assertEqual(judge(sample, SCHEMES["flat_3"].levels["peak"]), "watch")

    def test_nothing_in_forty_bees_is_not_clear(self) -> None:
        """Zero in a small sample cannot show clear; zero in three hundred can."""
        self.assertEqual(judge(self.sample(date(2031, 7, 1), 0, 40), FLAT_2.levels["peak"]), "watch")
        self.assertEqual(judge(self.sample(date(2031, 7, 1), 0, 300), FLAT_2.levels["peak"]), "clear")

    def levels(self, path: list, day: date) -> str:  # type: ignore[type-arg]
        """The level in force on a day."""
        return str([step for step in path if step.since <= day][-1].level)

    def test_an_old_count_is_unknown_not_clear(self) -> None:
        """Clear for 21 days, unknown on the 22nd."""
        counted = date(2031, 6, 1)
        path = statuses([self.sample(counted, 0)], FLAT_2)
        self.assertEqual(self.levels(path, counted + timedelta(days=21)), "clear")
        self.assertEqual(self.levels(path, counted + timedelta(days=22)), "unknown")

    def test_an_unanswered_act_stays_and_grows_overdue(self) -> None:
        """Over and untreated is never forgotten; once treated it becomes unknown like any old count."""
        counted = date(2031, 6, 1)
        path = statuses([self.sample(counted, 9)], FLAT_2)
        late = [step for step in path if step.since <= counted + timedelta(days=60)][-1]
        self.assertEqual((late.level, late.reason), ("act", "overdue"))
        self.assertEqual(late.overdue_from, counted + timedelta(days=22))
        treated = statuses([self.sample(counted, 9)], FLAT_2, treated_since=[counted + timedelta(days=9)])
        self.assertEqual(self.levels(treated, counted + timedelta(days=60)), "unknown")

    def test_up_at_once_down_one_step_a_count(self) -> None:
        """From urgent a clear count leads to act; only a verifying count leads all the way down."""
        first = self.sample(date(2031, 6, 1), 20)
        low = self.sample(date(2031, 6, 15), 0)
        self.assertEqual(statuses([low, self.sample(date(2031, 6, 20), 20)], FLAT_2)[0].level, "urgent")
        self.assertEqual(statuses([first, low], FLAT_2)[0].level, "act")
        check = self.sample(date(2031, 6, 15), 0, verifies=True)
        self.assertEqual(statuses([first, check], FLAT_2)[0].level, "clear")

    def test_bees_of_a_honey_frame_may_raise_but_not_lower(self) -> None:
        """A low count of super bees leaves a held act alone; a high one counts."""
        first = self.sample(date(2031, 6, 1), 9)
        low = self.sample(date(2031, 6, 10), 0, can_lower=False, can_clear=False)
        self.assertEqual(statuses([first, low], FLAT_2)[0].level, "act")
        high = self.sample(date(2031, 6, 10), 25, can_lower=False, can_clear=False)
        self.assertEqual(statuses([first, high], FLAT_2)[0].level, "urgent")

    def test_a_phase_that_lowers_the_threshold_judges_again(self) -> None:
        """8 in 300 in the last days of decline is watch; the dormant phase's lower level makes it act at once."""
        sample = self.sample(date(2031, 10, 20), 6)
        path = statuses([sample], SEASON)
        self.assertEqual(self.levels(path, date(2031, 10, 31)), "watch")
        on_first = [step for step in path if step.since <= date(2031, 11, 1)][-1]
        self.assertEqual((on_first.level, on_first.reason), ("act", "threshold_changed"))

    def test_a_phase_that_raises_it_clears_nobody(self) -> None:
        """Act before winter bees stays act in decline, where the level is higher."""
        path = statuses([self.sample(date(2031, 8, 20), 7)], SEASON)
        self.assertEqual(self.levels(path, date(2031, 8, 27)), "act")

    def test_day_to_count_again(self) -> None:
        """The reference's examples: 21 days at the most, 7 at the least, growth between."""
        for mites, policy, counted, days in (
            (2, FLAT_2, date(2031, 6, 1), 21),
            (3, FLAT_2, date(2031, 6, 1), 9),
            (0, FLAT_2, date(2031, 6, 1), 21),
            (5, FLAT_2, date(2031, 6, 1), 7),
        ):
            with self.subTest(mites=mites):
                self.assertEqual(recount_on(self.sample(counted, mites), policy), counted + timedelta(days=days))

    def test_day_to_count_again_while_dormant(self) -> None:
        """A winter count is good until the first day whose phase would make its level unknown, not for 21 days from
        its own day because a busier phase follows within the 90."""
        sample = self.sample(date(2031, 11, 20), 0)
        day = recount_on(sample, SEASON)
        self.assertEqual(self.levels(statuses([sample], SEASON), day), "clear")
        self.assertGreater(day, date(2031, 11, 20) + timedelta(days=80))

    def test_day_to_count_again_across_a_change_of_phase(self) -> None:
        """Known and under its level up to the day; by the day after, either the upper point has passed the level of
        that day or the count tells nothing more."""
        for month in range(1, 13):
            for mites in (0, 1, 2):
                sample = self.sample(date(2031, month, 12), mites)
                day = recount_on(sample, SEASON)
                with self.subTest(month=month, mites=mites):
                    self.assertGreaterEqual((day - sample.taken_on).days, 7)
                    path = statuses([sample], SEASON)
                    if path[0].level == "clear" and (day - sample.taken_on).days > 7:
                        self.assertNotIn(self.levels(path, day), ("unknown", "urgent"))

    def test_worst_first(self) -> None:
        """Unknown stands before watch and clear, never below them."""
        self.assertEqual(worst(["clear", "unknown", "watch"]), "unknown")
        self.assertEqual(worst(["clear", "act", "unknown"]), "act")
        self.assertIsNone(worst([]))


class Judgements(unittest.TestCase):
    def test_advice_follows_the_chance(self) -> None:
        """Act with 80 %, a second sample between 20 and 80 %, otherwise a day to come back."""
        day = date(2031, 6, 10)
        advice = {}
        for mites in (1, 5, 9):
            reading = read_jar(mites, BeesInSample(300, 0.0), "all")
            advice[mites] = judge_reading(reading, day, FLAT_2, use=Use())
        self.assertEqual([advice[m].advice for m in (1, 5, 9)], ["come_back", "second_sample", "treat"])
        self.assertIsNotNone(advice[1].come_back_on)
        self.assertIsNone(advice[9].come_back_on)

    def test_every_school_of_the_scale_is_heard(self) -> None:
        """All others that judge a jar, and the one to which any mite is one too many; not those of a board."""
        reading = read_jar(9, BeesInSample(300, 0.0), "all")
        views = scheme_views(reading, date(2031, 6, 10), FLAT_2, Use(), {})
        self.assertEqual({view.scheme for view in views}, {"flat_3", "season_phase", "observe", "any_mite"})
