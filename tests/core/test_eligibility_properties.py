"""The engine of eligibility as a whole: more against a treatment never makes it fitter, and days are what they say."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import Any, get_args

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redframe.core.season.calendar import TreatmentSeason
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.eligibility import Choice, choose
from redframe.core.treatments.situation import Situation
from redframe.core.treatments.weather import next_usable, usable

TODAY = date(2031, 8, 2)
WORSE = ("allowed", "allowed_with_cautions", "not_now", "never_here")
CATALOGUE = default_catalogue()


@st.composite
def situations(draw: st.DrawFn) -> dict[str, Any]:
    """Any colony on any day of the year, known well or hardly, with weather that may be anything."""
    days = draw(st.integers(1, 12))
    lows = draw(st.lists(st.floats(-5, 18), min_size=days, max_size=days))
    highs = [low + draw(st.floats(1, 18)) for low in lows]
    strength = draw(st.none() | st.fixed_dictionaries({"value": st.floats(0.5, 30), "unit": st.sampled_from(["frames", "seams"])}))  # fmt: skip
    colony = {
        "strength": strength, "brood_boxes": draw(st.integers(1, 4)),
        "capped_worker_brood": draw(st.sampled_from(["yes", "no", "unknown"])),
        "queen": draw(st.sampled_from(["mated", "virgin", "caged", "queenless", "unknown"])),
        "supers_on": draw(st.sampled_from([True, False, None])), "fed": draw(st.sampled_from([True, False, None])),
        "infestation_pct": draw(st.none() | st.floats(0, 30)), "counted_on": str(TODAY - timedelta(days=draw(st.integers(0, 60)))),
        "brood_seen_on": str(TODAY - timedelta(days=draw(st.integers(0, 40)))),
    }  # fmt: skip
    return {
        "today": str(TODAY), "season_phase": draw(st.sampled_from(get_args(TreatmentSeason))), "colony": colony,
        "forecast": {"start": str(TODAY), "tmax": highs, "tmin": lows, "rain_mm": draw(st.lists(st.floats(0, 20), min_size=days, max_size=days))},
        "policy": {"winter_bee_date": str(TODAY + timedelta(days=draw(st.integers(-60, 200)))), "respirator_ok": draw(st.booleans()), "threshold_pct": 2.0},
    }  # fmt: skip


def weigh(given_situation: dict[str, Any], **changes: Any) -> Choice:
    """The options for a situation with changes to its colony or policy."""
    answer = {**given_situation, "colony": dict(given_situation["colony"]), "policy": dict(given_situation["policy"])}
    for name, value in changes.items():
        part, _, inner = name.partition("_")
        answer[part][inner] = value
    return choose(CATALOGUE, Situation.model_validate(answer))


patient = settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow])


class Engine(unittest.TestCase):
    @patient
    @given(situations())
    def test_what_is_against_it_never_makes_it_fitter(self, answer: dict[str, Any]) -> None:
        """A notifiable hold, a course under way, supers on, an excluded group: no option is better off."""
        before = weigh(answer)
        hold = [{"kind": "notifiable", "name": "suspected foulbrood", "until": None}]
        under_way = [{"option": "THY_GEL", "start": str(TODAY - timedelta(days=3))}]
        for change in ({"colony_holds": hold}, {"colony_last_treatments": under_way}, {"policy_excluded_groups": ["ACID-F", "THYM"]}, {"policy_approach": "treatment_free"}):  # fmt: skip
            after = weigh(answer, **change)
            for name, option in before.options.items():
                self.assertGreaterEqual(WORSE.index(after.options[name].verdict), WORSE.index(option.verdict), (change, name))  # fmt: skip

    @patient
    @given(situations())
    def test_verdicts_follow_their_reasons(self, answer: dict[str, Any]) -> None:
        """The worst reason decides; "not now" alone gives a day; what is allowed has nothing that holds it back; the
        ranking is of what is allowed and of nothing else, each once."""
        found = weigh(answer)
        for option in found.options.values():
            levels = {reason.level for reason in option.reasons}
            worst = "never_here" if "never_here" in levels else "not_now" if "not_now" in levels else "allowed_with_cautions" if levels else "allowed"  # fmt: skip
            self.assertEqual(option.verdict, worst)
            self.assertEqual(len(option.rules), len(set(option.rules)), "a rule fires once")
            if option.verdict.startswith("allowed"):
                self.assertEqual(option.holding, [])
            if option.from_day is not None:
                self.assertEqual(option.verdict, "not_now")
                self.assertGreaterEqual(option.from_day, TODAY)
        allowed = {name for name, option in found.options.items() if option.verdict.startswith("allowed") and not option.supporting}  # fmt: skip
        self.assertEqual(sorted(found.ranking), sorted(allowed))

    @patient
    @given(situations())
    def test_doses_and_what_is_left_are_possible(self, answer: dict[str, Any]) -> None:
        """No dose is nothing or less; what is left lies between nothing and what was there; a course ends after it began."""
        there = answer["colony"]["infestation_pct"]
        for option in weigh(answer).options.values():
            self.assertGreaterEqual(option.ends_on, TODAY)
            if option.dose is not None:
                self.assertGreater(option.dose.quantity, 0)
                self.assertAlmostEqual(option.dose.course_total, option.dose.quantity * option.dose.applications)
            if option.expected_after is not None and there is not None:
                low, high = option.expected_after
                self.assertTrue(-1e-9 <= low <= high <= there + 1e-9)

    @patient
    @given(situations())
    def test_the_next_usable_day_is_usable_and_the_first(self, answer: dict[str, Any]) -> None:
        """Looked for day by day, it is the same day; none is given where none is."""
        facts = Situation.model_validate(answer).forecast
        assert facts is not None
        forecast = facts.as_forecast()
        for option in CATALOGUE.options:
            days = [
                forecast.day(index) for index in range(len(forecast)) if usable(option, forecast, forecast.day(index))
            ]
            self.assertEqual(next_usable(option, forecast, TODAY), days[0] if days else None)
