"""The calendar of a place against the plain calendar: spans, turns of the year, seasons in both hemispheres."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from itertools import pairwise
from typing import get_args

from hypothesis import assume, given
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput
from redframe.core.season.calendar import (
    BASE_PHASES,
    Calendar,
    TreatmentSeason,
    day_index,
    latest_day,
    month_day_index,
    next_day,
)

DAYS = st.dates(date(2024, 1, 1), date(2036, 12, 31))
LEAP_DAYS = [date(2000, 1, 1) + timedelta(days=index) for index in range(366)]


@st.composite
def calendars(draw: st.DrawFn) -> Calendar:
    """Any calendar that a place may have: one to four phases in their order round the year, winter bees or none."""
    phases = draw(st.lists(st.sampled_from(BASE_PHASES), min_size=1, unique=True).map(lambda some: sorted(some, key=BASE_PHASES.index)))  # fmt: skip
    starts = sorted(draw(st.lists(st.integers(0, 365), min_size=len(phases), max_size=len(phases), unique=True)))
    turn = draw(st.integers(0, len(phases) - 1))
    days = starts[turn:] + starts[:turn]
    text = {phase: LEAP_DAYS[day].strftime("%m-%d") for phase, day in zip(phases, days, strict=True)}
    winter = draw(st.none() | st.integers(0, 365).map(lambda day: LEAP_DAYS[day].strftime("%m-%d")))
    return Calendar.parse({**text, "winter_bees": winter, "lead_days": draw(st.integers(0, 120))})


class Phases(unittest.TestCase):
    @given(calendars(), DAYS, st.integers(0, 500))
    def test_spans_are_the_days_one_by_one(self, calendar: Calendar, first: date, length: int) -> None:
        """Runs of a phase cover the days without gap or overlap, neighbours differ, and each day has its phase."""
        last = first + timedelta(days=length)
        spans = calendar.phase_spans(first, last)
        self.assertEqual((spans[0][0], spans[-1][1]), (first, last))
        for (_, end, phase), (start, _, following) in pairwise(spans):
            self.assertEqual(start, end + timedelta(days=1))
            self.assertNotEqual(phase, following)
        for start, end, phase in spans:
            days = [start + timedelta(days=index) for index in range((end - start).days + 1)]
            self.assertEqual({calendar.phase(day) for day in days}, {phase})

    @given(calendars(), DAYS)
    def test_the_same_day_of_every_year_has_the_same_phase(self, calendar: Calendar, day: date) -> None:
        """The year of a place comes round: nothing drifts with leap years."""
        assume((day.month, day.day) != (2, 29))
        self.assertEqual(calendar.phase(day), calendar.phase(day.replace(year=day.year + 1)))

    @given(calendars(), DAYS)
    def test_before_winter_bees_lasts_its_lead_and_no_longer(self, calendar: Calendar, day: date) -> None:
        """In a leap year, just `lead_days` days of the year are pre-winter; without winter bees, none."""
        year = [calendar.phase(one.replace(year=2032)) for one in LEAP_DAYS]
        expected = calendar.lead_days if calendar.winter_bees is not None else 0
        self.assertEqual(year.count("pre_winter"), expected)
        if calendar.phase(day) != "pre_winter":
            self.assertEqual(calendar.phase(day), calendar.base_phase(day))

    @given(calendars(), DAYS, st.none() | st.integers(0, 365))
    def test_every_day_has_a_season_of_the_catalogue(
        self, calendar: Calendar, day: date, honey_off: int | None
    ) -> None:
        """Whatever phases a place has, the catalogue's seasons cover its year; dormant is the winter cluster."""
        season = calendar.treatment_season(day, honey_off)
        self.assertIn(season, get_args(TreatmentSeason))
        self.assertEqual(season == "winter_cluster", calendar.base_phase(day) == "dormant")

    def test_a_place_without_a_flow_date_takes_honey_off_before_winter_bees(self) -> None:
        """Peak from 15 May, winter bees on 25 August, lead 42: honey off on 14 July; with a date given, on that."""
        place = Calendar.parse({"build_up": "03-01", "peak": "05-15", "decline": "07-25", "dormant": "11-01", "winter_bees": "08-25"})  # fmt: skip
        self.assertEqual(place.treatment_season(date(2031, 7, 13)), "flow")
        self.assertEqual(place.treatment_season(date(2031, 7, 14)), "post_harvest")
        given_day = month_day_index("08-05")
        self.assertEqual(place.treatment_season(date(2031, 8, 4), given_day), "flow")
        self.assertEqual(place.treatment_season(date(2031, 8, 5), given_day), "post_harvest")


class Days(unittest.TestCase):
    def test_the_leap_year_index(self) -> None:
        """1 March is day 60 in every year; 29 February has a day of its own."""
        self.assertEqual([day_index(date(year, 3, 1)) for year in (2031, 2032)], [60, 60])
        self.assertEqual(day_index(date(2032, 2, 29)), 59)
        self.assertEqual([day_index(day) for day in LEAP_DAYS], list(range(366)))

    @given(DAYS, st.integers(0, 365))
    def test_next_and_latest_hold_the_day_between_them(self, today: date, index: int) -> None:
        """Brute force over two years finds the same days; 29 February falls back to the 28th."""

        def has(day: date) -> bool:
            return day_index(day) == index or (
                index == 59 and (day.month, day.day) == (2, 28) and (day + timedelta(days=1)).day == 1
            )

        ahead = next(day for day in (today + timedelta(days=n) for n in range(800)) if has(day))
        back = next(day for day in (today - timedelta(days=n) for n in range(800)) if has(day))
        self.assertEqual((next_day(today, index), latest_day(today, index)), (ahead, back))

    @given(calendars(), DAYS)
    def test_the_winter_bee_date_is_the_running_seasons(self, calendar: Calendar, today: date) -> None:
        """One a season, at most a year ahead; it never jumps back from one day to the next."""
        found = calendar.winter_bee_date(today)
        if calendar.winter_bees is None:
            self.assertIsNone(found)
            return
        assert found is not None
        self.assertLessEqual(abs((found - today).days), 366)
        following = calendar.winter_bee_date(today + timedelta(days=1))
        assert following is not None
        self.assertGreaterEqual(following, found)

    def test_days_that_are_none(self) -> None:
        """Named at the field that was asked for."""
        for value in ("13-01", "02-30", "1-1", "", "first of May"):
            with self.subTest(value=value), self.assertRaises(InvalidInput) as refused:
                month_day_index(value, "honey_off")
            self.assertEqual(refused.exception.field, "honey_off")
        with self.assertRaises(InvalidInput) as stranger:
            Calendar.parse({"peak": "05-15", "flow": "06-01"})
        self.assertEqual(stranger.exception.field, "calendar.flow")
