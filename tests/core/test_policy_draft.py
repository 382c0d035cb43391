"""A policy as people write it: dates of the year, own levels, scoops and rules, each refused at its own field."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

from pydantic import ValidationError

from redframe.core.errors import InvalidInput
from redframe.core.inputs import read
from redframe.core.policy.draft import CalendarDates, CountedScoop
from redframe.core.policy.schemes import PHASES, SCHEMES, Levels, own_levels, phase_threshold, scheme_of
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.season.calendar import Calendar
from redframe.core.treatments.catalogue import default_catalogue

NORTH = CalendarDates(dormant="11-01", build_up="03-01", peak="05-15", decline="07-25", winter_bees="08-25")
SOUTH = CalendarDates(dormant="05-01", build_up="09-01", peak="11-15", decline="01-25", winter_bees="02-25")
THREE = {"watch": 1.0, "act": 2.0, "urgent": 4.0}


class Years(unittest.TestCase):
    def refused(self, act: Callable[[], object]) -> str:
        """The field at which something is refused."""
        with self.assertRaises(InvalidInput) as caught:
            act()
        return caught.exception.field

    def test_half_a_year_apart_the_phases_are_the_same(self) -> None:
        """The southern year is the northern one six months later: phase by phase on the same day of the other half."""
        north, south = NORTH.read(), SOUTH.read()
        same = 0
        for number in range(365):
            day = date(2031, 1, 1) + timedelta(days=number)
            same += north.phase(day) == south.phase(day + timedelta(days=184))
        self.assertGreater(same, 350, "but for the unequal lengths of the months")

    def test_a_year_may_lack_phases(self) -> None:
        """Where it never gets cold there is no dormant time; one phase alone lasts all year."""
        tropical = CalendarDates(build_up="02-01", peak="05-01", decline="09-01").read()
        phases = {tropical.phase(date(2031, 1, 1) + timedelta(days=number)) for number in range(365)}
        self.assertNotIn("dormant", phases)
        alone = CalendarDates(peak="05-01").read()
        self.assertEqual({alone.phase(date(2031, month, 1)) for month in range(1, 13)}, {"peak"})

    def test_what_is_no_year(self) -> None:
        """Each day that does not exist at its own field; an order that is none at the calendar."""
        for changes, field in (
            ({"peak": "02-30"}, "calendar.peak"),
            ({"peak": "13-01"}, "calendar.peak"),
            ({"peak": "5-15"}, "calendar.peak"),
            ({"dormant": "11-31"}, "calendar.dormant"),
            ({"winter_bees": "00-10"}, "calendar.winter_bees"),
            ({"winter_bees": "August"}, "calendar.winter_bees"),
            ({"lead_days": 121}, "calendar.lead_days"),
            ({"lead_days": -1}, "calendar.lead_days"),
            ({"peak": "07-25"}, "calendar"),
            ({"peak": "08-01"}, "calendar"),
            ({"dormant": "04-01"}, "calendar"),
            ({"dormant": None, "build_up": None, "peak": None, "decline": None}, "calendar"),
        ):
            draft = NORTH.model_copy(update=changes)
            with self.subTest(changes=changes):
                self.assertEqual(self.refused(draft.read), field)

    def test_a_leap_day_is_a_day_of_the_year(self) -> None:
        """29 February may begin a phase, and does so on 1 March of other years or the day itself in leap ones."""
        year = CalendarDates(build_up="02-29", peak="05-15", decline="07-25", dormant="11-01").read()
        self.assertEqual(year.phase(date(2032, 2, 28)), "dormant")
        self.assertEqual(year.phase(date(2032, 2, 29)), "build_up")
        self.assertEqual(year.phase(date(2031, 2, 28)), "dormant")
        self.assertEqual(year.phase(date(2031, 3, 1)), "build_up")

    def test_strange_fields_are_refused(self) -> None:
        """A misspelt phase is no default."""
        self.assertEqual(self.refused(lambda: read(CalendarDates, {"peek": "05-15"})), "peek")
        self.assertEqual(self.refused(lambda: Calendar.parse({"peek": "05-15", "peak": "05-15"})), "calendar.peek")
        with self.assertRaises(InvalidInput):
            Calendar.parse("spring")

    def test_dates_are_kept_as_they_were_written(self) -> None:
        """What goes in comes out, with the usual lead where none was given."""
        self.assertEqual(CalendarDates.model_validate(NORTH.model_dump()), NORTH)
        self.assertEqual(NORTH.lead_days, 42)


class Levels_(unittest.TestCase):
    def own(self, scheme: str, given: object) -> Any:
        """The levels of a scheme with others in their place."""
        return own_levels(scheme_of(scheme), given)

    def test_a_phase_that_is_not_named_keeps_its_default(self) -> None:
        """One phase replaced, four left as they are; nothing given, nothing changed."""
        found = self.own("season_phase", {"peak": {"watch": 1, "act": 5, "urgent": 9}})
        for phase in PHASES:
            expected = Levels(1, 5, 9) if phase == "peak" else SCHEMES["season_phase"].levels[phase]
            self.assertEqual(found[phase], expected)
        for nothing in (None, {}):
            self.assertEqual(self.own("season_phase", nothing), SCHEMES["season_phase"].levels)

    def test_what_is_no_level(self) -> None:
        """Named to the figure: a phase that there is not, one of the three missing, no number, nought, falling, huge."""
        for given, field in (
            ([], "levels"),
            ("2", "levels"),
            ({"noon": THREE}, "levels.noon"),
            ({"peak": 2}, "levels.peak"),
            ({"peak": {"watch": 1, "act": 2}}, "levels.peak"),
            ({"peak": {**THREE, "extra": 1}}, "levels.peak"),
            ({"peak": {**THREE, "act": "2"}}, "levels.peak.act"),
            ({"peak": {**THREE, "act": True}}, "levels.peak.act"),
            ({"peak": {**THREE, "urgent": float("nan")}}, "levels.peak.urgent"),
            ({"peak": {**THREE, "urgent": float("inf")}}, "levels.peak.urgent"),
            ({"peak": {**THREE, "watch": 0}}, "levels.peak.watch"),
            ({"peak": {**THREE, "watch": -1}}, "levels.peak.watch"),
            ({"peak": {**THREE, "act": 0.5}}, "levels.peak.act"),
            ({"peak": {**THREE, "urgent": 1.5}}, "levels.peak.urgent"),
            ({"peak": {**THREE, "urgent": 1001}}, "levels.peak.urgent"),
            ({"decline": THREE, "peak": {**THREE, "act": 0}}, "levels.peak.act"),
        ):
            with self.subTest(given=given), self.assertRaises(InvalidInput) as caught:
                self.own("flat_2", given)
            self.assertEqual(caught.exception.field, field)

    def test_equal_levels_are_sound(self) -> None:
        """Watch, act and urgent may be one figure."""
        self.assertEqual(self.own("flat_2", {"peak": {"watch": 2, "act": 2, "urgent": 2}})["peak"], Levels(2, 2, 2))

    def test_where_any_mite_is_too_many_there_is_no_figure(self) -> None:
        """Its levels cannot be set, whatever is given; nothing given is fine."""
        self.assertFalse(SCHEMES["any_mite"].has_levels)
        with self.assertRaises(InvalidInput):
            self.own("any_mite", {"peak": THREE})
        self.assertEqual(self.own("any_mite", {}), SCHEMES["any_mite"].levels)

    def test_every_scheme_is_sound(self) -> None:
        """Levels rise, every phase has them, flat ones are flat, and each says where it comes from and what it does."""
        flat = {"flat_2", "flat_3", "any_mite", "observe"}
        for name, scheme in SCHEMES.items():
            with self.subTest(scheme=name):
                self.assertEqual(set(scheme.levels), set(PHASES))
                for level in scheme.levels.values():
                    self.assertLessEqual(level.watch, level.act)
                    self.assertLessEqual(level.act, level.urgent)
                self.assertEqual(scheme.is_flat, name in flat)
                self.assertTrue(scheme.source and scheme.says and scheme.name)
                self.assertEqual(scheme.treats, scheme.answer != "flag")
        with self.assertRaises(InvalidInput) as caught:
            scheme_of("moon")
        self.assertEqual(caught.exception.field, "scheme")

    def test_the_threshold_of_a_day(self) -> None:
        """The phase decides: two mites in June, two before winter bees, three in spring's decline are each a scheme's."""
        calendar = NORTH.read()
        for day, phase, act in (
            (date(2031, 4, 1), "build_up", 1), (date(2031, 6, 1), "peak", 2), (date(2031, 8, 2), "pre_winter", 2),
            (date(2031, 10, 20), "decline", 3), (date(2031, 12, 24), "dormant", 1),
        ):  # fmt: skip
            found = phase_threshold(day, calendar, "season_phase")
            with self.subTest(day=day):
                self.assertEqual((found.phase, found.act), (phase, act))
                self.assertEqual(phase_threshold(day, calendar, "flat_3").act, 3)


class Rules(unittest.TestCase):
    def check(self, **given: Any) -> str:
        """The field at which rules are refused."""
        with self.assertRaises(InvalidInput) as caught:
            TreatmentRules.model_validate(given).check(default_catalogue())
        return caught.exception.field

    def test_what_the_catalogue_lacks(self) -> None:
        """Each option by its place in the list; each day by its name."""
        self.assertEqual(self.check(authorised=["OX_TRICKLE", "SMOKE"]), "treatment_rules.authorised[1]")
        self.assertEqual(self.check(prescription_needed=["SMOKE"]), "treatment_rules.prescription_needed[0]")
        for day in ("honey_off", "cold", "feed_start_by", "supers_on"):
            self.assertEqual(self.check(**{day: "02-30"}), f"treatment_rules.{day}")

    def test_the_rules_of_nobody_offer_everything(self) -> None:
        """No list: every option; an empty list: none; a list: those on it."""
        every = TreatmentRules()
        some = TreatmentRules(authorised=["OX_TRICKLE"])
        none = TreatmentRules(authorised=[])
        for option in default_catalogue().options:
            self.assertTrue(every.offers(option.id))
            self.assertEqual(some.offers(option.id), option.id == "OX_TRICKLE")
            self.assertFalse(none.offers(option.id))
        every.check(default_catalogue())

    def test_limits(self) -> None:
        """Opening temperatures, groups and approaches that there are not."""
        for given in (
            {"open_from_c": 9.9}, {"open_from_c": 25.1}, {"open_from_c": float("nan")}, {"approach": "by moon"},
            {"resistance": ["garlic"]}, {"excluded_groups": ["garlic"]}, {"prescriber": "x" * 121}, {"prescriber": "\u0000"},
            {"authorised": ["x" * 41]}, {"authorised": ["OX_TRICKLE"] * 101}, {"qeen": True},
        ):  # fmt: skip
            with self.subTest(given=given), self.assertRaises((ValidationError, InvalidInput)):
                TreatmentRules.model_validate(given)

    def test_scoops_have_bees(self) -> None:
        """5 to 1000 ml and 1 to 5000 whole bees; what lies outside is no scoop."""
        CountedScoop(ml=120, bees=300)
        for given in ({"ml": 4, "bees": 300}, {"ml": 1001, "bees": 300}, {"ml": 120, "bees": 0}, {"ml": 120, "bees": 5001}, {"ml": 120, "bees": 1.5}):  # fmt: skip
            with self.subTest(given=given), self.assertRaises(ValidationError):
                CountedScoop.model_validate(given)

    def test_a_scheme_can_be_changed_in_one_place(self) -> None:
        """Its properties follow from its data: another answer treats or does not, other levels are flat or are not."""
        scheme = SCHEMES["season_phase"]
        self.assertFalse(replace(scheme, answer="flag").treats)
        self.assertTrue(replace(scheme, levels=dict.fromkeys(PHASES, Levels(1, 2, 3))).is_flat)
