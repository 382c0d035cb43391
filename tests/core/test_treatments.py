"""Catalogue, eligibility, courses, doses, oxalic solution and verification, against the worked tables."""

from __future__ import annotations

import unittest
from datetime import date
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.calculators import CALCULATORS, calculator
from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesInSample
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import plan_course, undisturbed
from redframe.core.treatments.dose import dose
from redframe.core.treatments.oxalic import oxalic_batch, oxalic_solution
from redframe.core.treatments.product_label import ProductLabel, labelled
from redframe.core.treatments.situation import ForecastFacts
from redframe.core.treatments.verification import Pool, efficacy, henderson_tilton, judge, pre_mites_needed
from redframe.core.treatments.weather import window

CATALOGUE = default_catalogue()
FORECAST: dict[str, Any] = {
    "start": "2026-08-15",
    "tmax": [28, 31, 30.2, 29.4, 28.7, 27.5, 26, 25, 26, 27, 25.5, 24],
    "tmin": [15] * 12,
    "rain_mm": [0, 0, 0, 0, 0, 0, 7, 1, 3, 0, 0, 0],
}
COLONY: dict[str, Any] = {
    "strength": {"value": 9, "unit": "frames"},
    "capped_worker_brood": "yes",
    "queen": "mated",
    "supers_on": False,
    "fed": False,
    "infestation_pct": 4.2,
    "counted_on": "2026-08-13",
}
SITUATION: dict[str, Any] = {
    "today": "2026-08-15",
    "season_phase": "post_harvest",
    "colony": COLONY,
    "forecast": FORECAST,
    "policy": {"winter_bee_date": "2026-09-10"},
}
# option: verdict, from, rules, expected after, in time, visits (treatments reference, section 2.5)
WORKED = {
    "FA_STRIP2": ("not_now", "2026-08-18", "T60", (0.21, 0.84), True, 1),
    "FA_STRIP11": ("not_now", "2026-08-18", "T60", (0.34, 1.05), True, 2),
    "FA_PAD": ("never_here", None, "T01 T04 T60 T65", (0.42, 1.68), True, 5),
    "FA_EVAP": ("not_now", None, "T04 T60 T65", (0.21, 1.05), True, 2),
    "THY_GEL": ("allowed_with_cautions", None, "T71", (0.29, 1.26), False, 3),
    "THY_TAB": ("not_now", "2026-08-18", "T60 T71", (0.29, 1.47), False, 5),
    "OX_TRICKLE": ("not_now", None, "T20", (1.68, 3.36), True, 1),
    "OX_VAP1": ("not_now", None, "T04 T20", (2.10, 3.36), True, 1),
    "OX_VAPN": ("never_here", None, "T01 T04 T23", (0.84, 2.31), True, 4),
    "OX_EXT": ("allowed_with_cautions", None, "T23 T71", (0.29, 1.68), False, 2),
    "AMZ_STRIP": ("allowed", None, "", (0.04, 0.63), True, 2),
    "FLUV_STRIP": ("allowed_with_cautions", None, "T71", (0.08, 0.84), False, 2),
    "FLUM_STRIP": ("allowed_with_cautions", None, "T71", (0.08, 0.84), False, 2),
    "HOP_STRIP": ("allowed_with_cautions", None, "T23", (1.05, 2.52), True, 2),
    "DRONE_TRAP": ("not_now", None, "T70", (2.10, 3.36), True, 2),
    "QUEEN_CAGE": ("not_now", None, "T73", (2.52, 3.78), True, 2),
    "BROOD_OUT": ("not_now", None, "T73", (0.84, 1.89), True, 1),
    "SHAKEN": ("not_now", None, "T70 T73", (1.05, 2.10), True, 1),
    "COMB_CHANGE": ("not_now", None, "T70 T71 T73", (3.15, 3.99), False, 2),
    "SUGAR_DUST": ("allowed_with_cautions", None, "T71 T75", (3.36, 4.20), False, 3),
    "REQUEEN": ("not_now", None, "T71 T73", (3.78, 4.20), False, 2),
    "MESH_FLOOR": ("allowed_with_cautions", None, "T71 T75", (3.57, 4.20), False, 1),
}


def weigh(**changes: Any) -> dict[str, Any]:
    """The options of the worked example with changes: `colony_x` and `policy_x` reach inside."""
    given: dict[str, Any] = {**SITUATION, "colony": dict(COLONY), "policy": dict(SITUATION["policy"])}
    for name, value in changes.items():
        part, _, inner = name.partition("_")
        if part in ("colony", "policy"):
            given[part][inner] = value
        else:
            given[name] = value
    result: dict[str, Any] = calculator("eligibility")(given)
    return result


class WorkedExample(unittest.TestCase):
    def test_every_row(self) -> None:
        """All 22 options of the worked example: verdict, date, rules, what is left, in time, visits."""
        found = weigh()["options"]
        self.assertEqual(set(found), set(WORKED))
        for option, (verdict, start, rules, after, in_time, visits) in WORKED.items():
            with self.subTest(option=option):
                row = found[option]
                self.assertEqual(row["verdict"], verdict)
                self.assertEqual(str(row["from"]) if row["from"] else None, start)
                self.assertEqual(row["rules"], rules.split())
                self.assertAlmostEqual(row["expected_after"][0], after[0], delta=0.006)
                self.assertAlmostEqual(row["expected_after"][1], after[1], delta=0.006)
                self.assertEqual((row["in_time"], row["visits"]), (in_time, visits))

    def test_the_ranking(self) -> None:
        """The shown order, and the supporting measures apart."""
        found = weigh()
        expected = "AMZ_STRIP HOP_STRIP FLUM_STRIP FLUV_STRIP THY_GEL OX_EXT"
        self.assertEqual(" ".join(found["ranking"]), expected)
        self.assertEqual(set(found["supporting"]), {"SUGAR_DUST", "MESH_FLOOR"})

    def test_the_weather_window(self) -> None:
        """Day by day for formic strips, as in the reference: near the limit, rain, and days that nobody forecast."""
        facts = ForecastFacts.model_validate(FORECAST)
        found = [
            (day.date.day, day.result, list(day.rules))
            for day in window(CATALOGUE.option("FA_STRIP2"), facts.as_forecast())
        ]
        self.assertEqual(
            found,
            [(15, "no", ["T60"]), (16, "no", ["T60"]), (17, "no", ["T60"]), (18, "caution", ["T64"]), (19, "caution", ["T64"]),
             (20, "ok", []), (21, "no", ["T63"]), (22, "ok", []), (23, "caution", ["T63"]), (24, "ok", []),
             (25, "unknown", ["T62"]), (26, "unknown", ["T62"])],
        )  # fmt: skip


class Rules(unittest.TestCase):
    def assertRule(self, option: str, rule: str, level: str, until: str | None = None, **changes: Any) -> None:
        """The option fires the rule at the level, with the date it gives."""
        row = weigh(**changes)["options"][option]
        reasons = {reason["rule"]: reason for reason in row["reasons"]}
        self.assertIn(rule, reasons, f"{option} fires {row['rules']}")
        self.assertEqual(reasons[rule]["level"], level)
        self.assertEqual(str(reasons[rule]["until"]) if reasons[rule]["until"] else None, until)

    def test_each_rule_fires_where_it_should(self) -> None:
        """One case a rule, with the date that it gives."""
        used = {"option": "FA_STRIP2", "start": "2026-07-20", "end": "2026-07-27"}
        for option, rule, level, until, changes in (
            ("AMZ_STRIP", "T01", "never_here", None, {"policy_authorised": ["FA_STRIP2"]}),
            ("AMZ_STRIP", "T02", "never_here", None, {"policy_excluded_groups": ["AMI"]}),
            ("AMZ_STRIP", "T03", "not_now", None, {"policy_prescription_needed": ["AMZ_STRIP"]}),
            ("AMZ_STRIP", "T05", "not_now", "2026-09-01", {"colony_holds": [{"kind": "notifiable", "name": "x", "until": "2026-09-01"}]}),
            ("AMZ_STRIP", "T06", "caution", None, {"colony_holds": [{"kind": "other", "name": "chalk"}]}),
            ("FA_STRIP2", "T07", "not_now", "2027-01-01", {"colony_last_treatments": [used, {**used, "start": "2026-03-01", "end": "2026-03-08"}]}),
            ("FA_STRIP11", "T08", "not_now", "2026-08-26", {"colony_last_treatments": [used]}),
            ("AMZ_STRIP", "T09", "not_now", None, {"colony_last_treatments": [{"option": "THY_GEL", "start": "2026-08-01"}]}),
            ("FLUV_STRIP", "T10", "caution", None, {"colony_last_treatments": [{"option": "FLUM_STRIP", "start": "2025-08-01", "end": "2025-09-20", "outcome": "worked"}]}),
            ("FLUV_STRIP", "T11", "not_now", None, {"colony_last_treatments": [{"option": "FLUM_STRIP", "start": "2025-08-01", "end": "2025-09-20", "outcome": "failed"}]}),
            ("AMZ_STRIP", "T12", "never_here", None, {"policy_resistance": ["AMI"]}),
            ("OX_TRICKLE", "T20", "not_now", "2026-08-30", {"colony_brood_event": {"type": "caging", "date": "2026-08-08"}}),
            ("OX_TRICKLE", "T21", "not_now", None, {"colony_capped_worker_brood": "unknown"}),
            ("OX_TRICKLE", "T22", "caution", None, {"season_phase": "winter_cluster", "colony_capped_worker_brood": "no", "colony_brood_seen_on": "2026-07-10"}),
            ("DRONE_TRAP", "T24", "not_now", None, {"colony_capped_worker_brood": "no", "colony_brood_seen_on": "2026-08-14"}),
            ("OX_TRICKLE", "T25", "caution", None, {"colony_capped_worker_brood": "no", "colony_brood_seen_on": "2026-08-14", "colony_eggs_seen_on": "2026-08-12"}),
            ("FA_STRIP2", "T30", "not_now", "2026-08-28", {"colony_queen": "virgin", "colony_queen_since": "2026-08-10"}),
            ("FA_STRIP2", "T31", "not_now", "2026-08-25", {"colony_queen": "caged", "colony_release_on": "2026-08-25"}),
            ("FA_STRIP2", "T32", "caution", None, {"colony_queen": "queenless"}),
            ("FA_STRIP2", "T33", "caution", None, {"colony_queen": "unknown"}),
            ("FA_STRIP2", "T34", "caution", None, {"colony_laying_since": "2026-08-05"}),
            ("FA_STRIP2", "T40", "not_now", None, {"colony_strength": {"value": 5, "unit": "frames"}}),
            ("FA_STRIP2", "T41", "not_now", None, {"colony_strength": None}),
            ("THY_GEL", "T42", "caution", None, {"colony_strength": {"value": 4, "unit": "frames"}}),
            ("FA_STRIP2", "T43", "caution", None, {"colony_brood_boxes": 3}),
            ("OX_TRICKLE", "T44", "caution", None, {"colony_strength": {"value": 11, "unit": "seams"}}),
            ("AMZ_STRIP", "T50", "not_now", "2026-08-20", {"colony_supers_on": True, "colony_supers_off_by": "2026-08-20"}),
            ("FA_STRIP2", "T51", "caution", None, {"colony_supers_on": True}),
            ("FA_STRIP2", "T52", "not_now", "2026-08-19", {"colony_fed": True, "colony_fed_until": "2026-08-19"}),
            ("THY_GEL", "T53", "caution", None, {"policy_feed_start_by": "2026-09-08"}),
            ("AMZ_STRIP", "T54", "not_now", None, {"policy_planned_supers_on": "2026-09-01"}),
            ("FA_STRIP2", "T62", "not_now", None, {"forecast": None}),
            ("AMZ_STRIP", "T72", "caution", None, {"policy_cold_date": "2026-09-20"}),
            ("AMZ_STRIP", "T74", "caution", None, {"colony_infestation_pct": 8.0}),
            ("AMZ_STRIP", "T76", "caution", None, {"colony_counted_on": "2026-07-01"}),
            ("AMZ_STRIP", "T77", "caution", None, {"colony_infestation_pct": 1.0}),
            ("AMZ_STRIP", "T79", "never_here", None, {"policy_approach": "treatment_free"}),
        ):  # fmt: skip
            with self.subTest(rule=rule):
                self.assertRule(option, rule, level, until, **changes)

    def test_missing_is_unknown_never_no(self) -> None:
        """Supers and feeding that nobody recorded are cautions, not silence."""
        row = weigh(colony_supers_on=None, colony_fed=None)["options"]["FA_EVAP"]
        levels = {reason["rule"]: reason["level"] for reason in row["reasons"]}
        self.assertEqual((levels["T50"], levels["T52"]), ("caution", "caution"))

    def test_the_later_of_the_dates_and_then_the_weather(self) -> None:
        """A virgin queen until 28 August and heat until the 18th: from the 28th, weather not yet known."""
        row = weigh(colony_queen="virgin", colony_queen_since="2026-08-10")["options"]["FA_STRIP2"]
        self.assertEqual((str(row["from"]), row["weather_known"]), ("2026-08-28", False))

    def test_bad_input_is_named(self) -> None:
        """The path is the one that the domain writes."""
        for field, changes in (
            ("forecast.tmin[2]", {"forecast": {**FORECAST, "tmin": [15, 15, 40] + [15] * 9}}),
            ("colony.strength.unit", {"colony_strength": {"value": 9, "unit": "boxes"}}),
            ("colony.strength.value", {"colony_strength": {"value": 61, "unit": "frames"}}),
            ("colony.counted_on", {"colony_counted_on": "2026-08-16"}),
            ("colony.last_treatments[0].start", {"colony_last_treatments": [{"option": "OX_EXT", "start": "2026-09-01"}]}),
            ("colony.last_treatments[0].option", {"colony_last_treatments": [{"option": "NONE", "start": "2026-08-01"}]}),
        ):  # fmt: skip
            with self.subTest(field=field), self.assertRaises(InvalidInput) as refused:
                weigh(**changes)
            self.assertEqual(refused.exception.field, field)


class Courses(unittest.TestCase):
    def test_planned_dates(self) -> None:
        """Ideal dates of the reference's table for courses of several kinds."""
        for option, start, dates in (
            ("FA_STRIP2", "2026-08-22", {"interim_check": "08-25", "end": "08-29", "verify": "09-08"}),
            ("FA_STRIP11", "2026-08-22", {"place_2": "08-29", "end": "09-05", "verify": "09-15"}),
            ("FA_PAD", "2026-08-22", {"place_4": "09-12", "remove": "09-16", "verify": "09-26"}),
            ("THY_GEL", "2026-08-22", {"place_2": "09-05", "remove": "09-26", "verify": "10-06"}),
            ("OX_TRICKLE", "2026-12-18", {"end": "12-18", "verify": "01-08"}),
            ("OX_VAPN", "2026-08-22", {"place_2": "08-27", "place_4": "09-06", "verify": "09-16"}),
            ("AMZ_STRIP", "2026-08-22", {"interim_check": "09-12", "remove": "10-10", "verify": "10-17"}),
            ("DRONE_TRAP", "2026-05-04", {"interim_check": "05-14", "remove": "05-25", "verify": "05-25"}),
            ("QUEEN_CAGE", "2026-06-15", {"interim_check": "06-24", "remove": "07-09", "verify": "07-30"}),
        ):
            course = plan_course(CATALOGUE.option(option), date.fromisoformat(start))
            for step, day in dates.items():
                with self.subTest(option=option, step=step):
                    self.assertEqual(course.step(step).window.ideal.isoformat()[5:], day)

    def test_an_undisturbed_course_ends_as_its_steps_say(self) -> None:
        """Of every option, and of one whose label has more doses and a longer withdrawal."""
        label = ProductLabel(option="OX_VAPN", applications=5, interval_days=[3, 6, 8], withdrawal_days=9)
        for option in [*CATALOGUE.options, labelled(CATALOGUE.option("OX_VAPN"), label)]:
            course = plan_course(option, date(2028, 2, 20))
            found = undisturbed(option, date(2028, 2, 20))
            self.assertEqual(found, (course.ending.window.ideal, course.honey_clear), option.id)

    def test_a_late_placing_moves_everything_behind_it(self) -> None:
        """The slip of the reference: placed three days late, everything three days later."""
        course = plan_course(CATALOGUE.option("FA_STRIP2"), date(2026, 8, 19), {"place_1": date(2026, 8, 22)})
        self.assertEqual([day.day for day in course.step("interim_check").window.as_list()], [24, 25, 26])
        self.assertEqual(course.step("end").window.as_list(), [date(2026, 8, 29), date(2026, 8, 29), date(2026, 9, 1)])
        self.assertEqual(
            course.step("verify").window.as_list(), [date(2026, 9, 5), date(2026, 9, 8), date(2026, 9, 12)]
        )

    @settings(max_examples=40, deadline=None)
    @given(st.sampled_from(CATALOGUE.options), st.dates(date(2026, 1, 1), date(2032, 1, 1)), st.integers(0, 7))
    def test_moving_the_start_moves_the_whole_course(self, option: Any, start: date, late: int) -> None:
        """A course placed `late` days after its start equals the course started that much later, from there on."""
        moved = date.fromordinal(start.toordinal() + late)
        slipped = plan_course(option, start, {"place_1": moved})
        fresh = plan_course(option, moved)
        for step in slipped.steps[slipped.steps.index(slipped.step("place_1")) + 1 :]:
            self.assertEqual(step.window, fresh.step(step.name).window)

    def test_impossible_days_are_named(self) -> None:
        """The second placing not after the first, removal before placing, a step that the course lacks."""
        for field, option, actuals in (
            ("place_2", "FA_STRIP11", {"place_1": date(2026, 8, 22), "place_2": date(2026, 8, 22)}),
            ("remove", "AMZ_STRIP", {"place_1": date(2026, 8, 22), "remove": date(2026, 8, 21)}),
            ("place_3", "FA_STRIP11", {"place_3": date(2026, 9, 22)}),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as refused:
                plan_course(CATALOGUE.option(option), date(2026, 8, 22), actuals)
            self.assertEqual(refused.exception.field, field)

    def test_another_interval_for_this_course_only(self) -> None:
        """Fourteen days between strips, on the day."""
        course = plan_course(CATALOGUE.option("FA_STRIP11"), date(2026, 8, 22), interval_override=14)
        self.assertEqual(set(course.step("place_2").window.as_list()), {date(2026, 9, 5)})


class DosesAndMixing(unittest.TestCase):
    def test_doses_of_the_reference(self) -> None:
        """Seams, frames, boxes, caps and small colonies."""
        for option, strength, quantity, total in (
            ("OX_TRICKLE", {"seams": 5.0}, 25, 25), ("OX_TRICKLE", {"seams": 11.0}, 50, 50),
            ("OX_VAP1", {"brood_boxes": 2}, 4, 4), ("FA_PAD", {"frames": 9.0}, 18, 72),
            ("FA_PAD", {"frames": 18.0, "brood_boxes": 2}, 36, 144), ("AMZ_STRIP", {"frames": 7.0}, 2, 2),
            ("AMZ_STRIP", {"frames": 16.0, "brood_boxes": 2}, 4, 4), ("AMZ_STRIP", {"frames": 4.0}, 1, 1),
            ("OX_EXT", {"frames": 7.0}, 3, 3), ("THY_GEL", {"frames": 9.0}, 50, 100), ("THY_GEL", {"frames": 4.0}, 25, 50),
            ("FA_EVAP", {"brood_boxes": 2}, 200, 200), ("FLUM_STRIP", {"frames": 5.0}, 2, 2),
        ):  # fmt: skip
            with self.subTest(option=option, strength=strength):
                found = dose(CATALOGUE.option(option), **strength)  # type: ignore[arg-type]
                self.assertEqual((found.quantity, found.course_total), (quantity, total))

    def test_oxalic_solutions_of_the_reference(self) -> None:
        """Grams and millilitres to 0.1, both strengths to 0.01."""
        for target, strength, basis, ratio, acid, sugar, water, both in (
            (500, 4.5, "dihydrate_wv", 1.0, 22.5, 300.3, 300.3, (4.5, 3.21)),
            (1000, 3.2, "anhydrous_wv", 1.0, 44.8, 600.7, 600.7, (4.48, 3.2)),
            (1000, 3.5, "dihydrate_wv", 1.0, 35.0, 604.3, 604.3, (3.5, 2.5)),
            (200, 6.2, "dihydrate_wv", 1.0, 12.4, 118.9, 118.9, (6.2, 4.43)),
        ):
            with self.subTest(target=target, strength=strength):
                found = oxalic_solution(target, strength, basis, ratio)  # type: ignore[arg-type]
                self.assertEqual((found.dihydrate_g, found.sugar_g, found.water_ml), (acid, sugar, water))
                self.assertEqual((found.strength_dihydrate_wv, found.strength_anhydrous_wv), both)

    @given(st.floats(10, 50_000), st.floats(1.0, 6.5), st.floats(0, 2))
    def test_the_parts_make_the_whole(self, target: float, strength: float, ratio: float) -> None:
        """Water, sugar and acid add up to the finished volume by the mixing rule, whatever is asked for."""
        found = oxalic_solution(target, strength, "dihydrate_wv", ratio)
        volume = found.water_ml + 0.62 * found.sugar_g + 0.60 * found.dihydrate_g
        self.assertAlmostEqual(volume, target, delta=0.2)

    def test_refusals_of_the_reference(self) -> None:
        """Too strong in either basis, too weak, too little."""
        for field, target, strength, basis in (
            ("strength", 500, 8, "dihydrate_wv"), ("strength", 500, 5, "anhydrous_wv"),
            ("strength", 500, 0.5, "dihydrate_wv"), ("target_ml", 5, 4.5, "dihydrate_wv"),
        ):  # fmt: skip
            with self.subTest(strength=strength, basis=basis), self.assertRaises(InvalidInput) as refused:
                oxalic_solution(target, strength, basis)  # type: ignore[arg-type]
            self.assertEqual(refused.exception.field, field)

    def test_the_batch_of_the_reference(self) -> None:
        """Seams 6, 8, 11, 5 with 10 % to spare: 160 ml."""
        found = oxalic_batch([6, 8, 11, 5], 10)
        self.assertEqual((found.per_colony_ml, found.net_ml, found.batch_ml), ([30, 40, 50, 25], 145, 160))


def pool(mites: int, bees: float) -> Pool:
    """A careful wash of counted bees."""
    return Pool(mites, BeesInSample(bees, 0.0), "all")


class Verification(unittest.TestCase):
    def test_efficacy_of_the_reference(self) -> None:
        """Medians, intervals and chances of the table, within what 200 000 draws can tell."""
        for pre, post, median, low, high, p90, p50 in (
            ((24, 300), (3, 300), 86.9, 63.4, 96.7, 0.328, 0.996),
            ((60, 300), (2, 305), 96.4, 89.1, 99.3, 0.963, 1.0),
            ((15, 310), (0, 300), 98.4, 81.5, 100.0, 0.907, 0.999),
            ((9, 300), (6, 295), 31.6, -86, 76.5, 0.000, 0.275),
        ):
            with self.subTest(pre=pre, post=post):
                found = efficacy(pool(*pre), pool(*post), np.random.default_rng(3))
                self.assertAlmostEqual(found.median_pct, median, delta=0.4)
                self.assertAlmostEqual(found.low_pct, low, delta=2.0)
                self.assertAlmostEqual(found.high_pct, high, delta=0.5)
                self.assertAlmostEqual(found.p_at_least(0.9), p90, delta=0.005)
                self.assertAlmostEqual(found.p_at_least(0.5), p50, delta=0.005)

    def test_henderson_and_tilton(self) -> None:
        """The two examples of the reference, the identity without change in the controls, and zeros."""
        self.assertAlmostEqual(henderson_tilton(8, 1, 6, 9), 91.666, places=2)
        self.assertAlmostEqual(henderson_tilton(5, 4, 5, 5.5), 27.27, places=2)
        self.assertAlmostEqual(henderson_tilton(5, 4, 7, 7), 20.0)
        self.assertEqual(henderson_tilton(5, 0, 7, 7), 100.0)
        for field, rates in (
            ("treated_pre", (0, 1, 1, 1)),
            ("control_pre", (1, 1, 0, 1)),
            ("control_post", (1, 1, 1, 0)),
        ):
            with self.assertRaises(InvalidInput) as refused:
                henderson_tilton(*rates)
            self.assertEqual(refused.exception.field, field)

    def test_controls_correct(self) -> None:
        """Treated 24 to 3 while untreated neighbours went 18 to 27: about 91 %, 71 to 98."""
        found = efficacy(
            pool(24, 300), pool(3, 300), np.random.default_rng(5), controls=([pool(18, 300)], [pool(27, 300)])
        )
        self.assertAlmostEqual(found.median_pct, 91.3, delta=0.4)
        self.assertAlmostEqual(found.low_pct, 71.3, delta=1.2)
        self.assertAlmostEqual(found.p_at_least(0.8), 0.909, delta=0.006)

    def verdict(self, pre: int | None, post: int, option: str = "FA_STRIP2", **changes: Any) -> Any:
        """The verdict on a course from 1 to 8 July, counted before on 29 June and after on 18 July."""
        fields: dict[str, Any] = {
            "start": date(2031, 7, 1), "end": date(2031, 7, 8), "broodless": False, "pre_on": date(2031, 6, 29),
            "post_on": date(2031, 7, 18), "residual_p_act": 0.1, "growth_per_day": 0.021,
            "generator": np.random.default_rng(11),
        }  # fmt: skip
        before = pool(pre, 300) if pre is not None else None
        return judge(CATALOGUE.option(option), pre=before, post=pool(post, 300), **{**fields, **changes})

    def test_the_verdicts_of_the_reference(self) -> None:
        """24 to 3 worked at 70 %, partly at 90 %; 4 to 0 worked at 70 %; 9 to 6 is not yet known; 20 to 18 failed."""
        self.assertEqual(self.verdict(24, 3).word, "worked")
        self.assertEqual(self.verdict(24, 3, "AMZ_STRIP").word, "partly")
        self.assertEqual(self.verdict(60, 2, "AMZ_STRIP").word, "worked")
        self.assertEqual(self.verdict(4, 0).word, "worked")
        self.assertEqual(self.verdict(9, 6).word, "cannot_tell_yet")
        self.assertEqual(self.verdict(40, 36).word, "failed")

    def test_why_it_cannot_be_told(self) -> None:
        """No count before, too old, too early, too late, too few bees: each says so."""
        for why, changes in (
            ("no_pre", {"pre": None}), ("pre_too_old", {"pre_on": date(2031, 6, 10)}),
            ("post_too_early", {"post_on": date(2031, 7, 12)}), ("post_too_late", {"post_on": date(2031, 8, 20)}),
        ):  # fmt: skip
            with self.subTest(why=why):
                pre = changes.pop("pre", 24)
                self.assertEqual(self.verdict(pre, 3, **changes).why_not, why)

    def test_an_older_count_is_projected(self) -> None:
        """Nine days old: grown by the season's rate and called projected; the efficacy rises accordingly."""
        fresh, old = self.verdict(24, 6), self.verdict(24, 6, pre_on=date(2031, 6, 22))
        self.assertTrue(old.projected)
        self.assertGreater(old.efficacy.median_pct, fresh.efficacy.median_pct)

    def test_mites_needed_before(self) -> None:
        """With none left, 9 mites before prove 90 % and 3 prove 70 %."""
        self.assertEqual(pre_mites_needed(0.90), 9)
        self.assertEqual(pre_mites_needed(0.70), 3)


class Calculators(unittest.TestCase):
    def test_every_example_computes(self) -> None:
        """The example of each calculator is accepted by it."""
        for name, item in CALCULATORS.items():
            with self.subTest(calculator=name):
                self.assertTrue(item(item.example))

    def test_wrong_types_name_their_field(self) -> None:
        """2.5 and true are no whole numbers, text no number, an unknown field is refused, missing is missing."""
        for name, data, field in (
            ("rate_interval", {"mites": 2.5, "bees": 300}, "mites"), ("rate_interval", {"mites": True, "bees": 300}, "mites"),
            ("rate_interval", {"mites": 2, "bees": 0}, "bees"), ("rate_interval", {"mites": 2, "bees": 9, "confidence": 1}, "confidence"),
            ("p_over", {"mites": 2, "bees": 300, "threshold_per_100": 0}, "threshold_per_100"),
            ("p_over", {"mites": 2, "bees": 300, "threshold_per_100": 2, "x": 1}, "x"),
            ("growth", {"mites_1": 1, "bees_1": 300, "date_1": "2031-6-1", "mites_2": 1, "bees_2": 300, "date_2": "2031-07-01"}, "date_1"),
            ("removal", {"shakes": [3, 1.5]}, "shakes[1]"), ("removal", {"shakes": [3]}, "shakes"),
            ("clearance", {"removed": "2031-02-30", "withdrawal_days": 14}, "removed"),
            ("oxalic_batch", {"seams": [6, 0]}, "seams[1]"), ("oxalic_solution", {"target_ml": 500, "strength": 4.5}, "basis"),
            ("phase_threshold", {"date": "2031-08-02", "calendar": {}, "scheme": "flat_2"}, "calendar"),
            ("dose", {"option": "NOPE"}, "option"), ("henderson_tilton", {"treated_pre": 1, "treated_post": -1, "control_pre": 1, "control_post": 1}, "treated_post"),
        ):  # fmt: skip
            with self.subTest(calculator=name, field=field), self.assertRaises(InvalidInput) as refused:
                calculator(name)(data)
            self.assertEqual(refused.exception.field, field)
