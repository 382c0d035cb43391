"""Pests: every score has its act and its day, counts say a score, the entrance is warned of, traps read by the day."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput
from redframe.core.pests.answer import PestPlace, answer
from redframe.core.pests.entrance import WIDTHS, EntranceNow, warnings, width_class
from redframe.core.pests.pests import PESTS, PestId, pests
from redframe.core.pests.scoring import Counted, check_score, per_trap_day, score_of
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.next_visit import NextVisit, next_visit
from redframe.core.visits.pests_seen import pests_seen
from redframe.core.visits.record import Before, FrameRecord

TODAY = date(2031, 8, 2)
SOUND = PestPlace(shb_established=True, disease_open=False, frames=9.0, before=None)


class Scores(unittest.TestCase):
    def test_each_pest_is_whole(self) -> None:
        """Scores from 1 on without a gap, each with acts and a span of days; a pest that asks does so before its end."""
        self.assertEqual(set(pests()), set(PESTS))
        for name, pest in pests().items():
            with self.subTest(pest=name):
                self.assertEqual(sorted(pest.scores), list(range(1, len(pest.scores) + 1)))
                self.assertIn(pest.asks_from, pest.scores)
                for score in pest.scores.values():
                    self.assertTrue(score.act and score.says and 0 <= score.days[0] <= score.days[1])

    def test_a_worse_score_is_looked_at_no_later(self) -> None:
        """The days shorten as it gets worse."""
        for name, pest in pests().items():
            days = [score.days[1] for _, score in sorted(pest.scores.items())]
            self.assertEqual(days, sorted(days, reverse=True), name)

    def test_counts_say_a_score(self) -> None:
        """Forty beetles are a score of three; larvae and slime weigh more than any number."""
        for pest, counted, score in (
            ("beetle", {"adults": 0}, 0), ("beetle", {"adults": 5}, 1), ("beetle", {"adults": 6}, 2),
            ("beetle", {"adults": 20}, 2), ("beetle", {"adults": 21}, 3), ("beetle", {"adults": 40}, 3),
            ("beetle", {"adults": 2, "eggs": True}, 3), ("beetle", {"adults": 0, "larvae": True}, 4),
            ("beetle", {"slime": True}, 5), ("beetle", {}, None),
            ("wasps", {"hovering": 2}, 1), ("wasps", {"hovering": 3}, 2), ("wasps", {"hovering": 0, "going_in": 2}, 2),
            ("wasps", {"hovering": 11}, 3), ("wasps", {"going_in": 3}, 3), ("wasps", {"stopped": True}, 4),
            ("wasps", {"hovering": 0}, 0), ("moth", {"combs": 0}, 0), ("moth", {"combs": 1}, 1),
            ("moth", {"combs": 3}, 3), ("moth", {"abandoned": True}, 4), ("ants", {"adults": 9}, None),
        ):  # fmt: skip
            with self.subTest(pest=pest, counted=counted):
                self.assertEqual(score_of(pest, Counted(**counted)), score)  # type: ignore[arg-type]

    def test_no_score_beyond_its_scale(self) -> None:
        """Ants end at three."""
        check_score("ants", 3)
        with self.assertRaises(InvalidInput):
            check_score("ants", 4)


class Answers(unittest.TestCase):
    @given(st.sampled_from(PESTS), st.data())
    def test_a_score_that_asks_never_passes_in_silence(self, pest: PestId, data: Any) -> None:
        """It has an act and a day, from that day on; none seen has neither."""
        score = data.draw(st.sampled_from([0, *pests()[pest].scores]))
        told = answer(pest, score, TODAY, SOUND)
        self.assertEqual(told.asks, score >= pests()[pest].asks_from)
        if told.asks:
            self.assertTrue(told.acts and told.look_from and told.look_by)
            assert told.look_from is not None and told.look_by is not None
            self.assertTrue(TODAY <= told.look_from <= told.look_by)
        if score == 0:
            self.assertEqual((list(told.acts), told.look_by), ([], None))

    def test_what_bears_on_it_here(self) -> None:
        """A first beetle is reported; nothing is moved or united while disease is open; a weak colony is looked at first."""
        for pest, score, place, caution in (
            ("beetle", 1, {"shb_established": False}, "report_first"),
            ("robbing", 4, {"disease_open": True}, "not_moved"),
            ("wasps", 3, {"disease_open": True}, "not_united"),
            ("wasps", 2, {"frames": 3.0}, "weak_first"),
            ("moth", 1, {}, "strong_tolerate"),
            ("robbing", 2, {}, "disease_check"),
            ("robbing", 3, {}, "trace_robbers"),
            ("ants", 1, {"before": 3}, "score_fell"),
        ):  # fmt: skip
            here = PestPlace(**{"shb_established": True, "disease_open": False, "frames": 9.0, "before": None, **place})  # type: ignore[arg-type]
            with self.subTest(pest=pest, score=score):
                self.assertIn(caution, answer(pest, score, TODAY, here).cautions)  # type: ignore[arg-type]
        self.assertTrue(answer("beetle", 1, TODAY, PestPlace(False, False, 9.0, None)).asks)
        self.assertNotIn("not_moved", answer("robbing", 4, TODAY, SOUND).cautions)

    def test_a_robbed_colony_is_examined_within_a_week(self) -> None:
        """From fighting on; scouts ask for none."""
        self.assertEqual(answer("robbing", 2, TODAY, SOUND).disease_check_by, TODAY + timedelta(days=7))
        self.assertIsNone(answer("robbing", 1, TODAY, SOUND).disease_check_by)


class Entrances(unittest.TestCase):
    def now(self, **changes: Any) -> EntranceNow:
        """An entrance of 100 mm in fair weather."""
        usual = {
            "width_mm": 100, "device": "reducer", "mesh_shut": False, "since": TODAY, "frames": 6.0, "hottest_c": 24.0,
            "actives": [], "frost_near": False, "growing": False,
        }  # fmt: skip
        return EntranceNow(**{**usual, **changes})

    def test_every_width_has_its_class(self) -> None:
        """From one millimetre to the full width, without a gap."""
        classes = [width_class(width) for width in range(1, 421)]
        self.assertEqual(set(classes), set(WIDTHS))
        for width in (0, 421):
            with self.assertRaises(InvalidInput):
                width_class(width)

    def test_what_warns(self) -> None:
        """Each warning by what it says, and not a step before it."""
        for warning, changes, without in (
            ("narrow_and_hot", {"width_mm": 20, "hottest_c": 28.1}, {"width_mm": 20, "hottest_c": 28.0}),
            ("narrow_and_strong", {"width_mm": 10, "frames": 8.5}, {"width_mm": 10, "frames": 8.0}),
            ("narrow_too_long", {"width_mm": 10, "since": TODAY - timedelta(days=4)}, {"width_mm": 10, "since": TODAY - timedelta(days=3)}),
            ("mesh_shut_too", {"width_mm": 8, "mesh_shut": True}, {"width_mm": 40, "mesh_shut": True}),
            ("course_wants_open", {"actives": ["formic acid 60 % w/w"]}, {"actives": ["thymol"]}),
            ("course_wants_open", {"device": "guard", "width_mm": None, "actives": ["formic acid"]}, {"device": "open", "width_mm": None, "actives": ["formic acid"]}),
            ("guard_in_season", {"device": "guard", "growing": True}, {"device": "guard"}),
            ("no_guard_before_frost", {"frost_near": True}, {"frost_near": True, "device": "guard"}),
            ("shut_with_bees", {"device": "shut", "width_mm": None}, {"device": "shut", "width_mm": None, "is_living": False}),
        ):  # fmt: skip
            with self.subTest(warning=warning):
                self.assertIn(warning, warnings(self.now(**changes), TODAY))
                self.assertNotIn(warning, warnings(self.now(**without), TODAY))


class Traps(unittest.TestCase):
    def test_a_trap_and_a_day(self) -> None:
        """Twenty-one in three traps over seven days: one a trap and day."""
        self.assertEqual(per_trap_day(21, 3, 7), 1.0)
        for traps, days in ((0, 7), (1, 0.5)):
            with self.assertRaises(InvalidInput):
                per_trap_day(1, traps, days)


def combs(*signs: dict[str, Any]) -> list[SeenFrame]:
    """Combs of a box, each with one sign."""
    return [
        SeenFrame(1, slot, "A_deep", FrameRecord.model_validate({"signs": [one]})) for slot, one in enumerate(signs, 1)
    ]


class AtAVisit(unittest.TestCase):
    def seen(self, *signs: dict[str, Any], **before: Any) -> dict[str, float]:
        """The scores that ask for an act."""
        found = pests_seen(combs(*signs), Before.model_validate(before), None)
        self.assertTrue(all(one.params["acts"] for one in found))
        return {str(one.params["pest"]): float(str(one.params["score"])) for one in found}

    def test_neither_beetles_nor_torn_cappings_pass_in_silence(self) -> None:
        """Counted over all combs; torn cappings with fighting weigh more; a single moth larva asks for nothing."""
        self.assertEqual(self.seen({"sign": "shb_adults", "number": 22}, {"sign": "shb_adults", "number": 18}), {"Small hive beetle": 3})  # fmt: skip
        self.assertEqual(self.seen({"sign": "shb_adults", "number": 3}), {})
        self.assertEqual(self.seen({"sign": "rob_ragged", "number": 2}), {"Robbing": 2})
        self.assertEqual(self.seen({"sign": "rob_ragged", "number": 2}, traffic="fighting"), {"Robbing": 3})
        self.assertEqual(self.seen({"sign": "moth_tunnels", "number": 1}), {})
        moth = {"sign": "moth_tunnels", "number": 30}
        self.assertEqual(self.seen(moth, moth), {"Wax moth": 3})
        self.assertEqual(self.seen(traffic="normal"), {})

    def test_the_day_to_come_back_follows(self) -> None:
        """Sooner than the season asks; what asks for nothing moves nothing."""
        found = pests_seen(combs({"sign": "shb_slime"}), Before(), None)
        self.assertEqual(next_visit(TODAY, "decline", found), NextVisit(TODAY + timedelta(days=2), "pest"))
        self.assertEqual(next_visit(TODAY, "decline", []).why, "after_harvest")
