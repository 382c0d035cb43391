"""The visit as a whole, without a database: what is said together, what is left unsaid, and what a row keeps of it."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from redframe.core.colonies.hive_state import PlacedBox
from redframe.core.disease.evidence import Context
from redframe.core.disease.signs import signs
from redframe.core.policy.schemes import PHASES
from redframe.core.season.calendar import Phase
from redframe.core.visits.assessment import Assessment, VisitFacts, assess
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.finding import Said, VisitFinding
from redframe.core.visits.past import Neighbour, PastVisit
from redframe.core.visits.place import CoursePlanned, CourseThen
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.core.visits.summary import VisitSummary, summarise
from redframe.core.visits.with_course import CoursesThen

ON = date(2031, 6, 14)
FORMIC = CourseThen("Formic strips", date(2031, 6, 2), None, None, "label", False)
AMITRAZ = CourseThen("Amitraz strips", date(2031, 6, 2), None, None, "no", True)
THYMOL_SOON = CoursePlanned("Thymol trays", date(2031, 6, 20), "no", False)
BOTH_COURSES = CoursesThen((FORMIC, AMITRAZ), (THYMOL_SOON,))
BROOD_BOX = PlacedBox(UUID(int=1), 1, "brood", "A_deep", 10, date(2031, 4, 1))
SUPER = PlacedBox(UUID(int=2), 2, "super", "A_shallow", 10, date(2031, 5, 20))
NEST = {"capped": 3, "open": 2, "eggs": 1, "honey": 2, "bees": 8}
"""A side of a healthy brood comb: ages 12 : 6 : 3 at an even pace would be 3.4 : 1.7 : 0.9 tenths."""


def frames(count: int, side: dict[str, Any], *, first: int = 1, box: int = 1, **rest: Any) -> list[SeenFrame]:
    """So many frames alike, both sides."""
    record = FrameRecord.model_validate({"a": side, "b": side, **rest})
    return [SeenFrame(box, first + number, "A_deep", record) for number in range(count)]


def past(days_ago: int, *, bees: float | None = None, seams: float | None = None, **rest: Any) -> PastVisit:
    """An earlier visit of the colony."""
    fields: dict[str, Any] = {"frames_of_brood": None, "stores_kg": None, "capped_cells": None, "temper": None, "pattern_empty_pct": None}  # fmt: skip
    return PastVisit(id=UUID(int=50 + days_ago), visited_on=ON - timedelta(days=days_ago), frames=0, frames_of_bees=bees, seams_of_bees=seams, **{**fields, **rest})  # fmt: skip


def neighbour(number: int, **rest: Any) -> Neighbour:
    """Another colony of the apiary."""
    fields: dict[str, Any] = {"frames_of_bees": None, "seams_of_bees": None, "frames_of_brood": None, "capped_cells": None, "stores_kg": None}  # fmt: skip
    return Neighbour(colony_id=UUID(int=200 + number), visited_on=ON, **{**fields, **rest})


def facts(now: Sequence[SeenFrame] = (), after: dict[str, Any] | None = None, **rest: Any) -> VisitFacts:
    """A visit in June to a colony in one brood box, of which nothing else is known."""
    settings: dict[str, Any] = {
        "on": ON, "phase": "peak", "before": Before(air_temp_c=20.0), "boxes": [BROOD_BOX], "numbered_from": "left", "then": (),
        "compared_with": None, "past": (), "near": (), "left_on": (), "queen_year": None, "open_from_c": 15.0,
        "courses": CoursesThen(), "winter_target_kg": 20.0, "disease": Context("summer"), "level": "unknown",
        "counted_on": None,
    }  # fmt: skip
    return VisitFacts(now=now, after=After.model_validate(after or {}), **{**settings, **rest})


def by_code(found: Assessment) -> dict[str, VisitFinding]:
    """Findings by their codes; no code is said twice."""
    codes = [one.code for one in found.findings]
    assert len(codes) == len(set(codes)), codes
    return {one.code: one for one in found.findings}


class Together(unittest.TestCase):
    def test_a_healthy_colony_says_little(self) -> None:
        """Eggs seen, food enough: two notes, nothing to watch, the usual day to come back."""
        found = assess(facts(frames(10, NEST)))
        self.assertEqual({one.level for one in found.findings}, {"note"})
        self.assertEqual(set(by_code(found)), {"eggs", "stores_good"})
        self.assertEqual(found.suggested.on, ON + timedelta(days=14))
        self.assertEqual(found.suspicious, [])

    def test_nothing_recorded_claims_nothing(self) -> None:
        """An open visit without an entry: no figure, no trend, only that eggs were not looked for."""
        found = assess(facts())
        self.assertEqual(set(by_code(found)), {"not_looked"})
        figures = found.estimates
        for name in ("adults", "frames_of_bees", "frames_of_brood", "capped", "stores_kg", "balance", "emerging_a_day"):
            with self.subTest(figure=name):
                self.assertIsNone(getattr(figures, name))
        self.assertEqual([one.now for one in found.trends], [None] * len(found.trends))
        self.assertEqual(found.worth, [])

    def test_drones_in_worker_cells_settle_what_missing_brood_only_suggests(self) -> None:
        """Laying workers beside "no laying for 21 days" would be two stories: the settled one is said alone."""
        signed = frames(10, {"drone": 3, "bees": 6}, signs=[{"sign": "drone_scattered"}])
        found = by_code(assess(facts(signed)))
        self.assertIn("laying_workers", found)
        for code in ("no_brood", "capped_only", "not_looked"):
            self.assertNotIn(code, found)
        without = by_code(assess(facts(frames(10, {"drone": 3, "bees": 6}))))
        self.assertIn("no_brood", without)

    def test_a_suspicion_comes_first_and_shortens_the_wait(self) -> None:
        """The sign is named, the act is the authority's, and nothing else takes its place at the head of the list."""
        signed = frames(10, NEST, signs=[{"sign": "cap_sunken"}])
        found = assess(facts(signed, {"pattern_empty_pct": 45}))
        self.assertEqual(found.findings[0].code, "suspicious")
        self.assertEqual(found.findings[0].params, {"signs": [signs()["cap_sunken"].name]})
        self.assertEqual(found.suspicious, ["cap_sunken"])
        self.assertEqual((found.suggested.on - ON).days, 7)

    def test_a_part_of_the_nest_is_not_the_nest(self) -> None:
        """Three combs without eggs out of ten: none found *so far*; all ten without: no laying."""
        few = by_code(assess(facts(frames(3, {"honey": 8, "bees": 4}))))
        self.assertIn("no_eggs_yet", few)
        self.assertNotIn("no_brood", few)
        whole = by_code(assess(facts(frames(10, {"honey": 8, "bees": 4}))))
        self.assertIn("no_brood", whole)

    def test_supers_are_no_nest(self) -> None:
        """Combs of a super do not count towards the nest that was looked through, nor their lack of eggs."""
        boxes = [BROOD_BOX, SUPER]
        looked_into_the_super = frames(10, {"honey": 9, "bees": 5}, box=2)
        found = assess(facts(looked_into_the_super, boxes=boxes))
        self.assertEqual((found.estimates.nest.seen, found.estimates.nest.hanging), (0, 10))
        self.assertEqual((found.estimates.hive.seen, found.estimates.hive.hanging), (10, 20))
        self.assertNotIn("no_brood", by_code(found))

    def test_the_day_to_come_back_is_the_soonest_asked_for(self) -> None:
        """Every finding that has a day of its own brings the visit forward, never back; a new queen is waited for."""
        for now, after, phase, days in (
            ((), {}, "dormant", 42),
            ((), {}, "pre_winter", 35),
            ((), {}, "decline", 28),
            ((), {}, "peak", 14),
            ((), {}, "build_up", 10),
            (frames(10, {"capped": 3, "honey": 4}), {}, "decline", 4),
            (frames(10, {"open": 3, "honey": 4}), {}, "decline", 7),
            (frames(10, NEST), {"stores_kg": 0.4, "stores_by": "hefting"}, "decline", 3),
            (frames(10, NEST), {"frames_of_bees": 4}, "decline", 14),
            (frames(10, NEST, cells=[{"content": "larva", "place": "edge", "number": 8}]), {}, "peak", 7),
        ):
            with self.subTest(phase=phase, after=after, frames=len(now)):
                found = assess(facts(now, after, phase=phase))
                self.assertEqual((found.suggested.on - ON).days, days, [one.code for one in found.findings])


class Weak(unittest.TestCase):
    """A colony weak for the season, by phase, strength and queen."""

    def weak(self, bees: float, phase: Phase, now: Sequence[SeenFrame] | None = None) -> VisitFinding | None:
        shown = frames(10, {"eggs": 1, "open": 2, "capped": 3, "honey": 3}) if now is None else now
        found = by_code(assess(facts(shown, {"frames_of_bees": bees}, phase=phase)))
        return next((one for code, one in found.items() if code.startswith("weak_")), None)

    def test_from_which_strength_by_season(self) -> None:
        """Four frames in build-up, six from the peak on; in cluster nobody is called weak by frames."""
        for phase, most in (("build_up", 4.0), ("peak", 6.0), ("decline", 6.0), ("pre_winter", 6.0)):
            with self.subTest(phase=phase):
                self.assertIsNotNone(self.weak(most, phase))  # type: ignore[arg-type]
                self.assertIsNone(self.weak(most + 0.5, phase))  # type: ignore[arg-type]
        for bees in (0.5, 2, 5):
            self.assertIsNone(self.weak(bees, "dormant"))

    def test_what_is_advised(self) -> None:
        """By phase, bees and whether a queen lays."""
        queenless = frames(10, {"honey": 4})
        for bees, phase, now, code in (
            (0.5, "peak", None, "weak_dying"),
            (0.5, "decline", None, "weak_dying"),
            (4, "decline", None, "weak_before_winter"),
            (4, "pre_winter", queenless, "weak_before_winter"),
            (5, "peak", None, "weak_at_peak"),
            (3.5, "build_up", None, "weak_keep"),
            (2, "build_up", None, "weak_nucleus"),
            (3, "build_up", queenless, "weak_unite"),
            (5, "peak", queenless, "weak_unite"),
        ):
            with self.subTest(bees=bees, phase=phase, queen=now is None):
                found = self.weak(bees, phase, now)  # type: ignore[arg-type]
                assert found is not None
                self.assertEqual(found.code, code)
                self.assertIn(Said("bees", {"bees": bees, "unit": "frames"}), found.because)

    def test_a_sick_one_is_examined_not_united(self) -> None:
        """Weak with an unexplained sign: whatever the season, uniting is not offered."""
        sick = frames(10, NEST, signs=[{"sign": "cap_sunken"}])
        for phase in PHASES:
            found = self.weak(2, phase, sick)
            if phase == "dormant":
                self.assertIsNone(found)
                continue
            assert found is not None
            self.assertEqual((found.code, found.level), ("weak_suspect", "act"))

    def test_seams_speak_where_frames_do_not(self) -> None:
        """Five seams at the peak are weak, in seams; stated frames go before."""
        found = by_code(assess(facts(frames(10, {"eggs": 1, "honey": 4}), {"seams_of_bees": 5})))
        self.assertIn(Said("bees", {"bees": 5, "unit": "seams"}), found["weak_at_peak"].because)
        both = by_code(assess(facts(frames(10, {"eggs": 1, "honey": 4}), {"seams_of_bees": 5, "frames_of_bees": 9})))
        self.assertFalse([code for code in both if code.startswith("weak")])


class BeesLost(unittest.TestCase):
    """Bees gone without a record of where."""

    def lost(self, now: float, then: float, days: int = 21, **rest: Any) -> VisitFinding | None:
        settings = {"past": [past(days, bees=then)], **rest}
        return by_code(assess(facts(frames(10, NEST), {"frames_of_bees": now}, **settings))).get("bees_lost")

    def test_half_gone_is_said_with_the_figures(self) -> None:
        """From 18 to 4 in three weeks: how much, in how long, and what to look for."""
        found = self.lost(4, 18)
        assert found is not None
        self.assertEqual(found.level, "act")
        self.assertEqual(found.params, {"then": 18, "now": 4, "unit": "frames", "days": 21})

    def test_what_is_not_a_loss(self) -> None:
        """Fewer than four frames, less than half, longer than six weeks ago, a split between, in cluster, the first visit."""
        between = [ON - timedelta(days=10)]
        for name, found in (
            ("three frames", self.lost(3, 6)),
            ("a third", self.lost(8, 12)),
            ("seven weeks", self.lost(4, 18, days=49)),
            ("a split", self.lost(4, 18, left_on=between)),
            ("in cluster", self.lost(4, 18, phase="dormant")),
            ("the first visit", self.lost(4, 18, past=[])),
            ("before unknown", self.lost(4, 18, past=[past(21)])),
            ("another unit", self.lost(4, 18, past=[past(21, seams=18)])),
        ):
            with self.subTest(case=name):
                self.assertIsNone(found)

    def test_where_the_lines_lie(self) -> None:
        """Exactly four frames and exactly half are a loss; the split on the day of the visit before explains it."""
        self.assertIsNotNone(self.lost(4, 8))
        self.assertIsNone(self.lost(4.5, 8))
        self.assertIsNotNone(self.lost(4, 18, days=42))
        self.assertIsNone(self.lost(4, 18, left_on=[ON - timedelta(days=21)]))
        self.assertIsNotNone(self.lost(4, 18, left_on=[ON - timedelta(days=22)]))

    def test_a_swarm_explains_it(self) -> None:
        """Swarm cells at this visit: the swarm is what is said, not a riddle beside it."""
        swarmed = frames(10, {"capped": 3, "honey": 3}, cells=[{"content": "capped", "place": "edge", "number": 9}])
        found = by_code(assess(facts(swarmed, {"frames_of_bees": 4}, past=[past(14, bees=16)])))
        self.assertIn("swarm", found)
        self.assertNotIn("bees_lost", found)

    def test_seams_are_compared_with_seams(self) -> None:
        """Sixteen seams, then seven."""
        found = by_code(assess(facts((), {"seams_of_bees": 7}, past=[past(20, seams=16)])))
        self.assertEqual(found["bees_lost"].params["unit"], "seams")


class Stores(unittest.TestCase):
    def code(self, kg: float, phase: Phase) -> str:
        """What is said of hefted stores."""
        found = by_code(assess(facts((), {"stores_kg": kg, "stores_by": "hefting"}, phase=phase)))
        [code] = [one for one in found if one.startswith("stores")]
        return code

    def test_by_season_and_weight(self) -> None:
        """Toward winter the twenty kg of the policy are wanted, else five; under one kg it is always today."""
        for phase in PHASES:
            toward = phase in ("decline", "pre_winter")
            for kg, wanted in (
                (0.0, "stores_nil"), (0.9, "stores_nil"), (1.0, "stores_short" if toward else "stores_low"),
                (4.9, "stores_short" if toward else "stores_low"), (5.0, "stores_short" if toward else "stores_good"),
                (19.9, "stores_short" if toward else "stores_good"), (20.0, "stores_good"), (25.0, "stores_good"),
            ):  # fmt: skip
                with self.subTest(phase=phase, kg=kg):
                    self.assertEqual(self.code(kg, phase), wanted)

    def test_what_part_of_the_stores_is(self) -> None:
        """Each kind that was seen is said, the most pressing first; none where nothing was said of it."""
        found = assess(facts((), {"stores_are": ["syrup", "set_hard", "fermenting"]}, phase="peak")).findings
        said = [(one.code, one.level) for one in found if one.code.startswith("stores_")]
        self.assertEqual(said, [("stores_fermenting", "act"), ("stores_set_hard", "watch"), ("stores_syrup", "note")])
        self.assertEqual([one for one in assess(facts((), {}, phase="peak")).findings if "stores" in one.code], [])

    def test_hefted_food_stands_against_one_thin_comb(self) -> None:
        """One comb seen empty beside twenty kg by hefting: the kg are the figure, and food is enough."""
        found = assess(facts(frames(1, {"bees": 3}), {"stores_kg": 20, "stores_by": "hefting"}))
        assert found.estimates.stores_kg is not None
        self.assertEqual((found.estimates.stores_kg.value, found.estimates.stores_by), (20, "hefting"))
        self.assertIn("stores_good", by_code(found))

    def test_combs_that_may_be_full_are_not_counted_as_empty(self) -> None:
        """Eight of ten seen with little food: heft it before feeding; all ten with as little: feed."""
        most = by_code(assess(facts(frames(8, {"bees": 5, "eggs": 1}))))
        self.assertIn("stores_unsure", most)
        self.assertIn(Said("combs_unseen", {"unseen": 2, "hanging": 10}), most["stores_unsure"].because)
        whole = by_code(assess(facts(frames(10, {"bees": 5, "eggs": 1}))))
        self.assertIn("stores_nil", whole)


class Queen(unittest.TestCase):
    def worth(self, **rest: Any) -> dict[str, str]:
        """Verdicts by criterion."""
        return {one.name: one.verdict for one in assess(facts(**rest)).worth}

    def test_her_laying_is_judged_against_three_colonies_at_least(self) -> None:
        """Two neighbours are no median; three are; half of it at two visits replaces her, once is watched."""
        combs = frames(10, {"capped": 2, "eggs": 1, "honey": 3})
        sealed = assess(facts(combs)).estimates.capped
        assert sealed is not None
        near = [neighbour(number, capped_cells=2 * sealed.value) for number in range(3)]
        self.assertNotIn("laying", self.worth(now=combs, near=near[:2]))
        self.assertEqual(self.worth(now=combs, near=near)["laying"], "watch")
        low = [past(14, capped_cells=sealed.value)]
        self.assertEqual(self.worth(now=combs, near=near, past=low)["laying"], "replace")
        good = [past(14, capped_cells=2 * sealed.value)]
        self.assertEqual(self.worth(now=combs, near=near, past=good)["laying"], "watch")

    def test_her_age_in_seasons(self) -> None:
        """The year that she was born in is her first season; the fourth replaces her; an unknown year judges nothing."""
        for year, verdict in ((2031, "keep"), (2030, "keep"), (2029, "watch"), (2028, "replace")):
            self.assertEqual(self.worth(queen_year=year)["age"], verdict)
        self.assertNotIn("age", self.worth())

    def test_temper_over_three_visits(self) -> None:
        """One bad day is watched; two in a row replace her; today comes before the visits before."""
        self.assertEqual(self.worth(after={"temper": 9})["temper"], "keep")
        self.assertEqual(self.worth(after={"temper": 3})["temper"], "watch")
        self.assertEqual(self.worth(after={"temper": 3}, past=[past(14, temper=4)])["temper"], "replace")
        self.assertEqual(
            self.worth(after={"temper": 9}, past=[past(14, temper=3), past(28, temper=3)])["temper"], "watch"
        )
        self.assertEqual(self.worth(past=[past(14, temper=9), past(28, temper=8)])["temper"], "keep")

    def test_a_poor_pattern_beside_a_sickness_is_not_her_fault(self) -> None:
        """Two shotgun patterns replace her, unless a sign of disease stands unexplained."""
        before = [past(14, pattern_empty_pct=30.0)]
        self.assertEqual(self.worth(after={"pattern_empty_pct": 30}, past=before)["pattern"], "replace")
        sick = frames(10, NEST, signs=[{"sign": "cap_sunken"}])
        self.assertEqual(self.worth(now=sick, after={"pattern_empty_pct": 30}, past=before)["pattern"], "watch")


class Trends(unittest.TestCase):
    def test_each_unit_with_its_own(self) -> None:
        """Seven seams then nine are a trend of seams; frames are compared with frames; medians say of how many."""
        near = [neighbour(1, frames_of_bees=10), neighbour(2, frames_of_bees=14), neighbour(3, seams_of_bees=8)]
        found = assess(facts((), {"seams_of_bees": 9}, compared_with=past(14, seams=7), near=near))
        by_name = {one.name: one for one in found.trends}
        seams = by_name["seams_of_bees"]
        self.assertEqual((seams.then, seams.now, seams.apiary_median, seams.colonies), (7, 9, 8, 1))
        frames_of_bees = by_name["frames_of_bees"]
        self.assertEqual((frames_of_bees.now, frames_of_bees.apiary_median, frames_of_bees.colonies), (None, 12, 2))

    def test_a_unit_that_nobody_used_is_left_out(self) -> None:
        """No seams now or then: no line of seams, whatever the neighbours say."""
        found = assess(facts((), {"frames_of_bees": 9}, near=[neighbour(1, seams_of_bees=8)]))
        self.assertNotIn("seams_of_bees", [one.name for one in found.trends])


class Row(unittest.TestCase):
    def row(self, now: Sequence[SeenFrame] = (), after: dict[str, Any] | None = None, *, supers: bool = False) -> VisitSummary:  # fmt: skip
        """The row that lists keep of a visit."""
        given = facts(now, after)
        return summarise(now, given.after, assess(given).estimates, assess(given).suspicious, supers_stand=supers)

    def test_not_looked_at_is_not_none(self) -> None:
        """An empty visit: nothing is "no", nothing is zero."""
        row = self.row()
        self.assertEqual(row.capped_brood, "unknown")
        for name in ("strength", "eggs_seen", "queen_seen", "supers_on", "fed", "stores_kg", "capped_cells", "temper"):
            with self.subTest(name=name):
                self.assertIsNone(getattr(row, name))

    def test_no_bees_are_a_finding(self) -> None:
        """A hive found empty has a strength of nought, in the unit that was used; it is not "not looked at"."""
        self.assertEqual((self.row((), {"frames_of_bees": 0}).strength, self.row((), {"frames_of_bees": 0}).strength_unit), (0, "frames"))  # fmt: skip
        self.assertEqual((self.row((), {"seams_of_bees": 0}).strength, self.row((), {"seams_of_bees": 0}).strength_unit), (0, "seams"))  # fmt: skip

    def test_sealed_brood_by_what_was_seen(self) -> None:
        """Seen on one comb is yes; none on three of ten is unknown; none on all ten, or said so, is no."""
        sealed, none = {"capped": 2}, {"honey": 4}
        self.assertEqual(self.row(frames(1, sealed)).capped_brood, "yes")
        self.assertEqual(self.row(frames(3, none)).capped_brood, "unknown")
        self.assertEqual(self.row(frames(10, none)).capped_brood, "no")
        self.assertEqual(self.row((), {"capped_brood": False}).capped_brood, "no")
        self.assertEqual(self.row(frames(1, sealed), {"capped_brood": False}).capped_brood, "yes", "seen is seen")

    def test_answers_go_before_what_stands(self) -> None:
        """Supers stand on the hive, unless somebody said that none are on; fed is asked, not guessed."""
        self.assertTrue(self.row(supers=True).supers_on)
        self.assertIs(self.row((), {"supers_on": False}, supers=True).supers_on, False)
        self.assertIs(self.row((), {"feed": "none"}).fed, False)
        self.assertIs(self.row((), {"feed": "fondant"}).fed, True)

    def test_the_queen(self) -> None:
        """Seen on a comb, said to be seen, only her eggs, or neither: each as it was found."""
        self.assertIs(self.row(frames(1, NEST, queen=True)).queen_seen, True)
        self.assertIs(self.row((), {"queen": "seen"}).queen_seen, True)
        eggs = self.row((), {"queen": "eggs_only"})
        self.assertEqual((eggs.queen_seen, eggs.eggs_seen), (False, True))
        self.assertIs(self.row((), {"queen": "neither"}).queen_seen, False)

    def test_a_record_is_a_function_of_its_facts(self) -> None:
        """The same facts say the same, twice; other neighbours change the trends and no figure of the hive itself."""
        given = facts(frames(10, NEST), {"temper": 8}, past=[past(14, bees=12)], compared_with=past(14, bees=12))
        self.assertEqual(assess(given), assess(given))
        other = assess(replace(given, near=[neighbour(number, frames_of_bees=5) for number in range(4)]))
        self.assertEqual(other.estimates, assess(given).estimates)
        self.assertNotEqual(other.trends, assess(given).trends)


class Combs(unittest.TestCase):
    def test_a_comb_to_renew_is_called_by_its_hives_numbers(self) -> None:
        """Slot 3 of ten is frame 3 from the left and frame 8 from the right; sound combs are not named."""
        combs = [*frames(2, NEST), *frames(1, {"honey": 3}, comb=["mould"])]
        combs[2] = replace(combs[2], slot=3)
        for side, place in (("left", "1/3"), ("right", "1/8")):
            found = by_code(assess(facts(combs, numbered_from=side)))["renew_comb"]
            with self.subTest(side=side):
                self.assertEqual(found.params, {"combs": 1, "places": [place]})
        self.assertNotIn("renew_comb", by_code(assess(facts(frames(10, NEST)))))
