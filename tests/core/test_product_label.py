"""Labels of products: what they say replaces the catalogue, what cannot be is refused, and everything follows from it."""

from __future__ import annotations

import unittest
from datetime import date
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import plan_course
from redframe.core.treatments.dose import dose
from redframe.core.treatments.eligibility import suit
from redframe.core.treatments.product_label import ProductLabel, catalogue_with, figures, option_with
from redframe.core.treatments.situation import ColonyFacts, ForecastFacts, Situation, StrengthFacts

DEFAULT = default_catalogue()
TODAY = date(2031, 8, 2)


def label(option: str, **said: Any) -> ProductLabel:
    """A label that says some figures."""
    return ProductLabel(option=option, **said)


class Replaces(unittest.TestCase):
    def test_course_dose_honey_and_weather_follow_the_label(self) -> None:
        """Amitraz by a label of ten weeks, 21 days to clear honey, three strips at most: each figure where it is used."""
        found = option_with("AMZ_STRIP", label("AMZ_STRIP", stay_days=[56, 70, 70], withdrawal_days=21, dose_max_per_colony=3))  # fmt: skip
        course = plan_course(found, date(2031, 8, 20))
        self.assertEqual(course.ending.window.ideal, date(2031, 10, 29))
        self.assertEqual(course.honey_clear, date(2031, 11, 19))
        self.assertEqual(found.total_days_ideal, 70)
        self.assertEqual(dose(found, frames=25, brood_boxes=3).quantity, 3)
        hot = ForecastFacts(start=TODAY, tmax=[27.0] * 14, tmin=[15.0] * 14, rain_mm=[0.0] * 14)
        colony = ColonyFacts(strength=StrengthFacts(value=9, unit="frames"))
        now = Situation(today=TODAY, season_phase="post_harvest", colony=colony, forecast=hot)
        for limit, hold in ((None, False), (25.0, True)):
            meant = catalogue_with([label("FA_STRIP2", max_daily_max_c=limit)])
            self.assertEqual("T60" in suit(meant.option("FA_STRIP2"), meant, now).rules, hold)

    def test_both_are_shown(self) -> None:
        found = option_with("THY_TAB", label("THY_TAB", product="white pack", withdrawal_days=0, supers="label", applications=4))  # fmt: skip
        self.assertEqual(found.product, "white pack")
        self.assertEqual({one.figure: (one.label, one.default) for one in found.by_label}, {"withdrawal_days": (0, 30), "supers": ("label", "no")})  # fmt: skip

    @given(st.sampled_from(DEFAULT.ids))
    @settings(max_examples=22, deadline=None, derandomize=True)
    def test_a_label_that_says_the_defaults_changes_nothing(self, option_id: str) -> None:
        option = DEFAULT.option(option_id)
        same = {name: value for name, value in figures(option).items() if value is not None}
        meant = option_with(option_id, ProductLabel.model_validate({"option": option_id, **same}))
        self.assertEqual(meant.by_label, ())
        self.assertEqual(meant.model_copy(update={"product": ""}), option)

    def test_others_stay_as_they_are(self) -> None:
        meant = catalogue_with([label("THY_GEL", withdrawal_days=14)])
        for option in DEFAULT.options:
            self.assertEqual(meant.option(option.id) == option, option.id != "THY_GEL")


class Refused(unittest.TestCase):
    def field(self, *labels: ProductLabel) -> str:
        """The field of the error."""
        with self.assertRaises(InvalidInput) as refused:
            TreatmentRules(product_labels=list(labels)).check(DEFAULT)
        return refused.exception.field

    def test_what_no_label_can_say(self) -> None:
        at = "treatment_rules.product_labels[0]"
        self.assertEqual(self.field(label("MAGIC")), f"{at}.option")
        self.assertEqual(self.field(label("AMZ_STRIP", stay_days=[49, 42, 56])), f"{at}.stay_days")
        self.assertEqual(self.field(label("FA_STRIP2", max_daily_max_c=9)), f"{at}.max_daily_max_c")
        self.assertEqual(self.field(label("FA_EVAP", dose_amount=100)), f"{at}.dose_amount")
        self.assertEqual(self.field(label("FA_STRIP2", applications=2)), f"{at}.interval_days")
        self.assertEqual(self.field(label("THY_GEL", interval_days=[0, 7, 9])), f"{at}.interval_days")
        self.assertEqual(self.field(label("THY_GEL"), label("THY_GEL")), "treatment_rules.product_labels[1].option")
        with self.assertRaises(ValueError):
            label("THY_GEL", withdrawal_days=-1)
        with self.assertRaises(ValueError):
            label("THY_GEL", stay_days=[1, 2])

    def test_the_year_of_treatments(self) -> None:
        with self.assertRaises(InvalidInput) as refused:
            TreatmentRules(treatment_year="02-31").check(DEFAULT)
        self.assertEqual(refused.exception.field, "treatment_rules.treatment_year")
