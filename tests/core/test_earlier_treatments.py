"""Treatments entered after they were given: what cannot have been, what speaks against them, how far back rules look."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from redframe.core.errors import InvalidInput
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.earlier import EndKnown, Given, check_given, looks_back_to, warnings
from redframe.core.treatments.eligibility import choose
from redframe.core.treatments.situation import (
    ColonyFacts,
    ForecastFacts,
    PastTreatment,
    PolicyFacts,
    Situation,
)

TODAY = date(2031, 8, 2)
OPTIONS = default_catalogue()


def given(option: str, *doses: date, end: EndKnown = "known", ended_on: date | None = None) -> Given:
    """A treatment of an option with its doses."""
    return Given(OPTIONS.option(option), list(doses), end, ended_on)


def said(what: Given, *others: PastTreatment, season: str = "post_harvest") -> dict[str, str]:
    """The rules that speak against it, with their sentences."""
    found = warnings(what, others, OPTIONS, PolicyFacts(), season)  # type: ignore[arg-type]
    return {one.rule: one.code for one in found}


class CannotHaveBeen(unittest.TestCase):
    def refused(self, what: Given, first_on: date | None = None, last_on: date | None = None) -> str:
        """The field of the error."""
        with self.assertRaises(InvalidInput) as caught:
            check_given(what, today=TODAY, first_on=first_on, last_on=last_on)
        return caught.exception.field

    def test_ahead_before_its_colony_and_out_of_order(self) -> None:
        day = date(2031, 7, 1)
        self.assertEqual(self.refused(given("FA_STRIP2", TODAY + timedelta(days=1), end="still_in")), "doses_on[0]")
        self.assertEqual(
            self.refused(given("FA_STRIP2", day, end="not_known"), first_on=day + timedelta(days=1)), "doses_on[0]"
        )
        self.assertEqual(
            self.refused(given("FA_STRIP2", day, end="not_known"), last_on=day - timedelta(days=1)), "doses_on[0]"
        )
        self.assertEqual(self.refused(given("THY_GEL", day, day, end="not_known")), "doses_on[1]")
        self.assertEqual(self.refused(given("THY_GEL", date(1999, 7, 1), end="not_known")), "doses_on[0]")
        three = [day + timedelta(days=14 * number) for number in range(3)]
        self.assertEqual(self.refused(given("THY_GEL", *three[:2], three[2] - timedelta(days=1), end="not_known")), "doses_on[2]")  # fmt: skip

    def test_its_end(self) -> None:
        day = date(2031, 7, 1)
        self.assertEqual(self.refused(given("AMZ_STRIP", day)), "ended_on")
        self.assertEqual(self.refused(given("AMZ_STRIP", day, ended_on=day - timedelta(days=1))), "ended_on")
        self.assertEqual(self.refused(given("AMZ_STRIP", day, ended_on=TODAY + timedelta(days=1))), "ended_on")
        self.assertEqual(self.refused(given("AMZ_STRIP", day, end="still_in", ended_on=day)), "ended_on")
        self.assertEqual(self.refused(given("OX_TRICKLE", day, end="still_in")), "end")
        self.assertEqual(self.refused(given("AMZ_STRIP", day, end="still_in"), last_on=day), "end")

    def test_what_can_have_been(self) -> None:
        for what in (
            given("AMZ_STRIP", date(2031, 7, 1), end="still_in"),
            given("AMZ_STRIP", date(2031, 7, 1), ended_on=TODAY),
            given("OX_TRICKLE", TODAY, ended_on=TODAY),
            given("THY_GEL", date(2030, 8, 20), date(2030, 9, 3), end="not_known"),
        ):
            check_given(what, today=TODAY, first_on=date(2030, 8, 20), last_on=None)


class WhenItWasOver(unittest.TestCase):
    def test_an_unknown_end_is_the_latest_that_it_can_be(self) -> None:
        """The careful reading: gaps and honey count from the last day of the course, and never from a day ahead."""
        self.assertEqual(given("AMZ_STRIP", date(2031, 3, 1), end="not_known").over_on(TODAY), date(2031, 4, 26))
        self.assertEqual(given("AMZ_STRIP", date(2031, 7, 1), end="not_known").over_on(TODAY), TODAY)
        self.assertIsNone(given("AMZ_STRIP", date(2031, 3, 1), end="still_in").over_on(TODAY))

    def test_rules_that_look_back_see_it(self) -> None:
        """Amitraz out on an unknown day of April bars amitraz for its gap, and thymol not at all."""
        over = given("AMZ_STRIP", date(2031, 3, 1), end="not_known").over_on(TODAY)
        colony = ColonyFacts(
            last_treatments=[PastTreatment(option="AMZ_STRIP", start=date(2031, 3, 1), end=over, outcome="failed")]
        )
        mild = ForecastFacts(start=TODAY, tmax=[21.0] * 14, tmin=[12.0] * 14, rain_mm=[0.0] * 14)
        options = choose(
            OPTIONS, Situation(today=TODAY, season_phase="post_harvest", colony=colony, forecast=mild)
        ).options
        self.assertIn("T11", options["AMZ_STRIP"].rules)
        self.assertFalse({"T07", "T08", "T09", "T10", "T11"} & set(options["THY_GEL"].rules))


class SpeaksAgainst(unittest.TestCase):
    def test_days_of_doses_and_end(self) -> None:
        start = date(2030, 8, 20)
        early = given("AMZ_STRIP", start, ended_on=start + timedelta(days=20))
        late = given("AMZ_STRIP", start, ended_on=start + timedelta(days=90))
        ideal = given("AMZ_STRIP", start, ended_on=start + timedelta(days=49))
        self.assertEqual([said(one) for one in (early, late, ideal)], [{"E2": "out_too_early"}, {"E3": "out_too_late"}, {}])  # fmt: skip
        apart = given("THY_GEL", start, start + timedelta(days=30), ended_on=start + timedelta(days=51))
        self.assertEqual(said(apart), {"E1": "dose_off_its_days"})
        self.assertEqual(said(given("THY_GEL", start, end="not_known")), {"E4": "doses_missing"})
        self.assertEqual(said(given("THY_GEL", start, end="still_in")), {})

    def test_what_went_before_and_the_season(self) -> None:
        start = date(2031, 3, 10)
        before = PastTreatment(option="AMZ_STRIP", start=date(2030, 12, 1), end=date(2031, 1, 20), outcome="failed")
        found = said(given("AMZ_STRIP", start, end="not_known"), before, season="winter_cluster")
        self.assertEqual(found, {"T08": "too_soon", "T11": "group_failed", "T70": "wrong_season"})

    def test_what_came_after_it(self) -> None:
        """A formic course of July makes that of August, planned without it, one too soon."""
        planned = PastTreatment(option="FA_STRIP2", start=date(2031, 8, 1), end=None)
        self.assertEqual(
            said(given("FA_STRIP2", date(2031, 7, 10), ended_on=date(2031, 7, 17)), planned), {"E5": "later_too_soon"}
        )
        self.assertEqual(said(given("FA_STRIP2", date(2031, 5, 10), ended_on=date(2031, 5, 17)), planned), {})


class HowFarBack(unittest.TestCase):
    def test_no_treatment_before_that_day_changes_an_answer(self) -> None:
        """By trial: whatever was given and over before the day, the rules that look back say the same."""
        for option in OPTIONS.options:
            day = looks_back_to(option, TODAY, "01-01")
            if day is None:
                self.assertFalse(option.chemical)
                continue
            for other in OPTIONS.options:
                was = PastTreatment(
                    option=other.id, start=day - timedelta(days=3), end=day - timedelta(days=2), outcome="worked"
                )
                colony = ColonyFacts(last_treatments=[was])
                situation = Situation(today=TODAY, season_phase="post_harvest", colony=colony)
                rules = set(choose(OPTIONS, situation).options[option.id].rules)
                self.assertFalse({"T07", "T08", "T09"} & rules, (option.id, other.id))

    def test_it_begins_where_the_treatment_year_does(self) -> None:
        formic, amitraz = OPTIONS.option("FA_STRIP2"), OPTIONS.option("AMZ_STRIP")
        self.assertEqual(looks_back_to(formic, TODAY, "01-01"), date(2031, 1, 1))
        self.assertEqual(looks_back_to(formic, TODAY, "07-15"), date(2031, 7, 3))
        self.assertEqual(looks_back_to(amitraz, TODAY, "01-01"), date(2030, 1, 1))
