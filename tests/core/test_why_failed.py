"""Why a course failed: each cause by its own evidence, in the order in which they are excluded; what works here."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta
from math import exp
from typing import Any
from uuid import UUID, uuid4

import numpy as np

from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.check_counts import CourseVerdict, Neighbours, VerdictSide
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.what_works import Checked, CountPair, OptionEfficacy, what_works
from redframe.core.treatments.why_failed import CourseFacts, GivenDose, WhyFailed, why_failed

CATALOGUE = default_catalogue()
START = date(2031, 8, 1)


def side(mites: int, median: float, on: date) -> VerdictSide:
    """One of the two counts."""
    return VerdictSide(UUID(int=1), on, mites, 300.0, median, median / 2, median * 2)


VERDICT = CourseVerdict(
    word="failed", why_not=None, target_pct=90, p_target=0.0, p_half=0.05, median_pct=15.0, low_pct=-40.0, high_pct=48.0,
    controls=(), residual_p_act=1.0, act_per_100=4.0, projected=False, pre_mites_needed=None, earliest=START,
    pre=side(15, 5.0, START - timedelta(days=2)), post=side(13, 4.3, START + timedelta(days=59)), policy_version=1,
)  # fmt: skip


def failed(option: str = "AMZ_STRIP", **more: Any) -> WhyFailed:
    """A course of strips that did nothing, with some of its facts otherwise."""
    chosen = CATALOGUE.option(option)
    facts = CourseFacts(
        option=chosen, verdict=VERDICT, start=START, end=START + timedelta(days=49),
        doses=[GivenDose(START + timedelta(days=7 * number), 2.0, 2.0, True) for number in range(chosen.applications)],
        findings=(), capped_seen_on=None, capped_seen=None, broodless=False, outside=(), weather_days=14,
        winter_bee_date=date(2031, 9, 20), urgent_near=0, low_between=None, falls_kill=None, same_group_uses=0,
        others_failed=0, others_failed_apiaries=0, others_worked=0,
    )  # fmt: skip
    return why_failed(replace(facts, **more))


def weights(found: WhyFailed) -> dict[str, str]:
    """Each cause with how it stands."""
    return {one.code: one.weight for one in found.causes}


def evidence(found: WhyFailed, cause: str) -> tuple[set[str], set[str]]:
    """What speaks for a cause and against it."""
    (one,) = [each for each in found.causes if each.code == cause]
    return {each.code for each in one.speaks_for}, {each.code for each in one.against}


class Causes(unittest.TestCase):
    def test_every_cause_is_there_once_the_likeliest_first(self) -> None:
        """Seven causes, whatever the facts; what is likely before what is possible, unknown and unlikely."""
        order = ["likely", "possible", "not_known", "unlikely"]
        for found in (
            failed(),
            failed(outside=[START]),
            failed("FA_STRIP2"),
            failed("OX_TRICKLE", capped_seen=True, capped_seen_on=START),
        ):
            ranks = [order.index(one.weight) for one in found.causes]
            self.assertEqual((len(found.causes), len(weights(found))), (7, 7))
            self.assertEqual(ranks, sorted(ranks))

    def test_noise(self) -> None:
        """An interval that reaches the target and few mites before: count again."""
        few = replace(VERDICT, high_pct=93.0, pre=side(4, 1.3, START))
        found = failed(verdict=few)
        self.assertEqual((weights(found)["noise"], found.next_step), ("likely", "count_again"))
        self.assertEqual(evidence(failed(), "noise"), (set(), {"many_mites_before"}))

    def test_dose(self) -> None:
        """Less than planned, a dose left out, a gap, out early, out of date: each by itself, together likely."""
        strips = "FA_STRIP11"
        day = timedelta(days=1)
        cases: list[tuple[dict[str, Any], str]] = [
            ({"doses": [GivenDose(START, 1.0, 2.0, True)]}, "dose_less"),
            ({"option": strips, "doses": [GivenDose(START, 1.0, 1.0, True)]}, "doses_missing_of"),
            (
                {
                    "option": strips,
                    "doses": [GivenDose(START, 1.0, 1.0, True), GivenDose(START + 15 * day, 1.0, 1.0, True)],
                },
                "gap_too_long",
            ),
            ({"end": START + 41 * day}, "out_before_time"),
            ({"doses": [GivenDose(START, 2.0, 2.0, False)]}, "lot_out_of_date"),
            ({"findings": [Reason("S7", "caution", "L", {}, "lost_too_slowly")]}, "lost_wrong_rate"),
            ({"findings": [Reason("S8", "caution", "L", {}, "not_all_out")]}, "fewer_came_out"),
        ]
        for change, code in cases:
            with self.subTest(code=code):
                self.assertIn(code, evidence(failed(**change), "under_dosing")[0])
        self.assertEqual(weights(failed())["under_dosing"], "unlikely")
        self.assertEqual(weights(failed(doses=[GivenDose(START, 2.0, 2.0, None)]))["under_dosing"], "not_known")
        both = failed(doses=[GivenDose(START, 1.0, 2.0, False)])
        self.assertEqual((weights(both)["under_dosing"], both.next_step), ("likely", "give_it_right"))

    def test_temperature(self) -> None:
        """A quarter of the days outside is likely; none, unlikely; no weather, not known."""
        self.assertEqual(weights(failed("FA_STRIP2", outside=[START] * 4))["temperature"], "likely")
        self.assertEqual(weights(failed("FA_STRIP2", outside=[START]))["temperature"], "possible")
        self.assertEqual(weights(failed("FA_STRIP2"))["temperature"], "unlikely")
        self.assertEqual(weights(failed("FA_STRIP2", weather_days=0))["temperature"], "not_known")

    def test_brood(self) -> None:
        """A trickle on capped brood: likely; what reaches into cells, or none seen: unlikely; not looked: not known."""
        seen = {"capped_seen": True, "capped_seen_on": START}
        self.assertEqual(weights(failed("OX_TRICKLE", **seen))["brood_present"], "likely")
        self.assertEqual(weights(failed("AMZ_STRIP", **seen))["brood_present"], "possible")
        self.assertEqual(weights(failed("FA_STRIP2", **seen))["brood_present"], "unlikely")
        self.assertEqual(weights(failed("OX_TRICKLE", broodless=True))["brood_present"], "unlikely")
        self.assertEqual(weights(failed("OX_TRICKLE"))["brood_present"], "not_known")

    def test_reinvasion_by_its_timing(self) -> None:
        """A low count in between settles it, and rules resistance out; without a drop it is not likely."""
        rose = failed(low_between=0.5, urgent_near=2, same_group_uses=3)
        self.assertEqual((weights(rose)["reinvasion"], rose.next_step), ("likely", "treat_and_guard"))
        self.assertEqual(weights(rose)["resistance"], "unlikely")
        self.assertEqual(weights(failed())["reinvasion"], "unlikely")
        near = replace(VERDICT, neighbours=Neighbours(2.0, 5.0))
        self.assertIn("neighbours_rose", evidence(failed(verdict=near), "reinvasion")[0])

    def test_resistance_is_the_last(self) -> None:
        """Only of a group that can be resisted, without an early drop, with others excluded, and alike elsewhere."""
        alike: dict[str, Any] = {"same_group_uses": 2, "others_failed": 4, "others_failed_apiaries": 3}
        suspected = failed(**alike)
        self.assertEqual((weights(suspected)["resistance"], suspected.next_step), ("likely", "another_group"))
        self.assertEqual(suspected.causes[0].code, "resistance")
        self.assertEqual(weights(failed("FA_STRIP2", **alike))["resistance"], "unlikely")
        self.assertEqual(weights(failed(**alike, falls_kill=True))["resistance"], "unlikely")
        self.assertEqual(weights(failed(**alike, others_worked=9))["resistance"], "possible")
        self.assertEqual(weights(failed(**alike, outside=[START] * 7))["resistance"], "possible")
        self.assertEqual(weights(failed())["resistance"], "possible")


class WhatWorks(unittest.TestCase):
    def checked(self, apiary: UUID, before: int, after: int, outcome: Any = "worked", option: str = "AMZ_STRIP", change: float = 1.0) -> Checked:  # fmt: skip
        """A course with so many mites in 300 bees before and after."""
        return Checked(apiary, option, outcome, CountPair(before, 300, after, 300, change))

    def only(self, courses: list[Checked]) -> OptionEfficacy:
        """The one option that these are of."""
        (found,) = what_works(CATALOGUE.options, courses)
        return found

    def test_one_course_is_its_two_counts(self) -> None:
        """The share by half counts, and the interval of the log ratio of two counts (24 before, 3 after)."""
        found = self.only([self.checked(uuid4(), 24, 3)])
        left, se = 3.5 / 24.5, (1 / 3.5 + 1 / 24.5) ** 0.5
        for value, expected in (
            (found.pct, 100 * (1 - left)), (found.low_pct, 100 * (1 - left * exp(1.959964 * se))),
            (found.high_pct, 100 * (1 - left * exp(-1.959964 * se))),
        ):  # fmt: skip
            self.assertAlmostEqual(value or 0, expected, places=6)

    def test_neighbours_that_rose_make_it_more(self) -> None:
        """Treated 24 to 12 while untreated doubled: three quarters killed, not half (Henderson and Tilton 1955)."""
        apiary = uuid4()
        plain = self.only([self.checked(apiary, 2400, 1200)])
        corrected = self.only([self.checked(apiary, 2400, 1200, change=2.0)])
        self.assertAlmostEqual(plain.pct or 0, 50, delta=0.1)
        self.assertAlmostEqual(corrected.pct or 0, 75, delta=0.1)

    def test_counts_of_ends(self) -> None:
        """Every course is counted, also those without both counts; none is counted twice."""
        here, there = uuid4(), uuid4()
        found = self.only(
            [self.checked(here, 30, 3), self.checked(here, 30, 20, "failed"), self.checked(there, 30, 9, "partly"),
             Checked(there, "AMZ_STRIP", None, None)]
        )  # fmt: skip
        self.assertEqual(
            (found.courses, found.apiaries, found.worked, found.partly, found.failed, found.cannot_tell),
            (4, 2, 1, 1, 1, 1),
        )
        self.assertEqual(sum(one.courses for one in found.by_apiary), 3)

    def test_only_what_is_known(self) -> None:
        """Without counts, or without a mite before, there is no figure, not nought."""
        for course in (Checked(uuid4(), "AMZ_STRIP", None, None), self.checked(uuid4(), 0, 0)):
            found = self.only([course])
            self.assertEqual((found.pct, found.by_apiary), (None, []))
        self.assertEqual(what_works(CATALOGUE.options, []), [])

    def test_few_counts_are_drawn_to_the_others(self) -> None:
        """Between its own and the mean; the one that is known worst the most; alike apiaries all to the mean."""
        sure, unsure = uuid4(), uuid4()
        rest = [self.checked(uuid4(), 200, after) for after in (10, 20, 60, 6)]
        found = self.only([*rest, self.checked(sure, 400, 200), self.checked(unsure, 8, 4)])
        by = {one.apiary_id: one for one in found.by_apiary}
        assert found.pct is not None
        self.assertLess(by[sure].own_pct, by[sure].shrunk_pct)
        self.assertLess(by[sure].shrunk_pct - by[sure].own_pct, by[unsure].shrunk_pct - by[unsure].own_pct)
        self.assertLess(by[unsure].shrunk_pct, found.pct)
        same = self.only([self.checked(uuid4(), 100, 10) for _ in range(5)])
        self.assertTrue(all(abs(one.shrunk_pct - (same.pct or 0)) < 1e-6 for one in same.by_apiary))

    def test_what_tells_nothing_is_no_result(self) -> None:
        """Two apiaries of which one killed nearly all and one nothing: a figure in the export, none to be shown; five
        that agree tell, as does a single course of many mites, and none where nothing was counted."""
        cases = [
            ([self.checked(uuid4(), 40, 2), self.checked(uuid4(), 40, 60)], False),
            ([self.checked(uuid4(), 40, after) for after in (3, 4, 5, 4, 3)], True),
            ([self.checked(uuid4(), 400, 40)], True),
            ([self.checked(uuid4(), 2, 1)], False),
            ([self.checked(uuid4(), 0, 0)], False),
        ]
        for courses, tells in cases:
            self.assertIs(self.only(courses).tells, tells)

    def test_resistance_needs_failures_in_several_apiaries(self) -> None:
        """Three failed in two apiaries, more than worked, of a group that can be resisted."""
        here, there = uuid4(), uuid4()
        bad = [self.checked(one, 30, 25, "failed") for one in (here, here, there)]
        cases = [
            (bad, "suspected"), (bad[:2], "none"), ([bad[0], bad[1], bad[0]], "none"),
            ([*bad, *[self.checked(there, 30, 1) for _ in range(3)]], "none"),
            ([replace(one, option_id="FA_STRIP2") for one in bad], "none"),
        ]  # fmt: skip
        for courses, expected in cases:
            self.assertEqual(self.only(courses).resistance, expected)

    def test_simulated_the_interval_holds_the_truth(self) -> None:
        """Apiaries that differ, washes of few mites: the figure does not lean, and its 95 % interval holds the median
        apiary about as often as it should."""
        draw = np.random.default_rng(11)
        held, figures = 0, []
        for _ in range(300):
            courses = []
            for _ in range(10):
                apiary, left = uuid4(), 0.12 * exp(draw.normal(0, 0.4))
                for _ in range(6):
                    load = draw.gamma(2.0, 4.0)
                    courses.append(self.checked(apiary, int(draw.poisson(load)), int(draw.poisson(load * left))))
            found = self.only(courses)
            assert found.low_pct is not None and found.high_pct is not None and found.pct is not None
            held += found.low_pct <= 88 <= found.high_pct
            figures.append(found.pct)
        self.assertGreater(held / 300, 0.88)
        self.assertLess(held / 300, 0.995)
        self.assertAlmostEqual(float(np.median(figures)), 88, delta=1.5)
