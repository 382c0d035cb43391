"""The keeper's sheet on paper: every finding in words, what to do by when, frames by their numbers, one page."""

from __future__ import annotations

import random
import re
import unittest
from dataclasses import replace
from datetime import date
from typing import Any
from unittest import mock
from uuid import uuid4

from reportlab.graphics.shapes import Circle, Drawing
from reportlab.platypus import Paragraph

from redframe.core.colonies.hive_state import frame_number
from redframe.core.disease.signs import signs
from redframe.core.visits.finding import Said, VisitFinding
from redframe.core.visits.place import ColonyThen, CourseThen
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.demo.scenario import made_id
from redframe.outlets import visit_sheet
from redframe.store.holds import Hold
from redframe.work.visits import read as visits_read
from redframe.work.visits.read import VisitView
from tests.support import at_work, demo_template, new_database, owner_rows


class Sheet(unittest.TestCase):
    view: VisitView

    @classmethod
    def setUpClass(cls) -> None:
        url = new_database(demo_template())
        query = "SELECT id FROM visit WHERE colony_id = %s AND closed_at IS NOT NULL ORDER BY visited_on DESC LIMIT 1"
        visit = owner_rows(url, query, made_id("corrane", "Skerrow Bank", "S2"))[0][0]
        cls.view = at_work(url, lambda unit: visits_read.visit_view(unit, visit))

    def printed(self, view: VisitView) -> str:
        """The running text of the sheet, which is one page."""
        seen: list[str] = []

        def paragraph(text: str, *style: Any) -> Paragraph:
            seen.append(text)
            return Paragraph(text, *style)

        with mock.patch.object(visit_sheet, "Paragraph", paragraph):
            document = visit_sheet.visit_sheet(view)
        self.assertEqual(len(re.findall(rb"/Type\s*/Page\b", document)), 1)
        return "\n".join(seen)

    def found(self, *findings: VisitFinding, **after: Any) -> VisitView:
        """The visit with other findings, and other answers for the colony."""
        assessment = replace(self.view.assessment, findings=findings)
        visit = replace(self.view.visit, after=After.model_validate(after))
        return replace(self.view, assessment=assessment, visit=visit, hold=None)

    def test_findings_are_said_the_pressing_ones_first(self) -> None:
        """In words with their reasons, metric, days written out; what is to be acted on stands among the tasks again."""
        text = self.printed(self.found(
            VisitFinding("stores_good", "note", because=(Said("stores_seen", {"kg": 14.2, "low": 9.2, "high": 19.2, "by": "hefting"}),)),
            VisitFinding("capped_only", "act", {"since": date(2031, 7, 11)}, (Said("sealed_brood_age"),)),
            VisitFinding("stores_short", "watch", {"short": 3.5}),
            next_visit="2031-08-09", next_why="to see eggs",
        ))  # fmt: skip
        act, watch, note = (text.index(words) for words in ("No laying for at least 9 days, since 11 July 2031", "3.5 kg short of a winter's stores.", "Stores are enough for now."))  # fmt: skip
        self.assertLess(act, watch)
        self.assertLess(watch, note)
        self.assertIn("Because: 14.2 kg (9.2 kg to 19.2 kg) by hefting.", text)
        self.assertIn("[ ] No laying for at least 9 days", text)
        self.assertNotIn("[ ] Stores", text)
        self.assertIn("[ ] Next visit by 9 August 2031 (to see eggs).", text)
        self.assertNotRegex(text, r"\d{4}-\d\d-\d\d|stores_|capped_only")

    def test_there_is_always_a_day_to_come_back(self) -> None:
        """Nobody set one: the suggestion with its reason in words."""
        text = self.printed(self.found())
        suggested = self.view.assessment.suggested
        self.assertRegex(text, rf"\[ \] Next visit by {suggested.on.day} \w+ {suggested.on.year} \(\w")
        self.assertNotIn(f"({suggested.why})", text.replace("(winter)", ""))

    def test_a_hold_comes_first(self) -> None:
        """Of all that is to be done."""
        held = Hold(uuid4(), self.view.colony.id, "notifiable", date(2031, 7, 30), "waits for the laboratory", "Idris Calloway")  # fmt: skip
        view = replace(self.found(VisitFinding("stores_nil", "act")), hold=held)
        tasks = [line for line in self.printed(view).splitlines() if line.startswith("[ ] ")]
        self.assertEqual(tasks[0], "[ ] On hold: waits for the laboratory. No comb leaves this hive.")
        self.assertEqual(tasks[1], "[ ] Hardly any food: feed today.")
        self.assertTrue(tasks[2].startswith("[ ] Next visit by "))

    def test_what_people_wrote_is_text(self) -> None:
        """Labels, keepers, decisions and notes may hold anything, and none of it is markup."""
        odd = '<b>K&1</b> & "co" <para>'
        view = self.found(decided=odd, note=odd, next_why=odd, next_visit="2031-08-09")
        place = replace(view.place, label=odd, apiary=odd, keeper=odd)
        text = self.printed(replace(view, place=place))
        self.assertGreaterEqual(text.count("&lt;b&gt;K&amp;1&lt;/b&gt;"), 5)
        self.assertNotIn("<para>", text)

    def test_signs_are_counted_by_frame(self) -> None:
        """Each by its name and on how many frames, one or several."""
        one = next(record for record in self.view.records)
        marked = [
            replace(one, slot=slot, record=FrameRecord.model_validate({"signs": [{"sign": sign, "extent": "few"} for sign in found]}))
            for slot, found in ((3, ["cap_sunken"]), (4, ["cap_sunken", "mummy_white"]))
        ]  # fmt: skip
        text = self.printed(replace(self.view, records=marked))
        self.assertIn(f"{signs()['cap_sunken'].name} on 2 frames", text)
        self.assertIn(f"{signs()['mummy_white'].name} on 1 frame", text)

    def test_weather_and_who_came(self) -> None:
        """The air with its unit, wind and rain in words; without a name it was the association."""
        visit = replace(self.view.visit, by_name="", before=Before(air_temp_c=18.5, wind="still", rain="dry"))
        self.assertIn("by the association; 18.5 °C, still, dry.", self.printed(replace(self.view, visit=visit)))

    def test_without_frames_there_is_no_plan(self) -> None:
        """A visit that looked at the colony as a whole: no plan, no legend, still a page."""
        text = self.printed(replace(self.view, records=[]))
        self.assertNotIn("Solid: sealed brood", text)
        self.assertIn("Findings and next steps", text)

    def test_it_begins_with_what_was_known(self) -> None:
        """The level of the day with its figure, and each course with its dates; a record of before has no such line."""
        course = CourseThen("Formic acid strips", date(2031, 7, 15), None, date(2031, 8, 5))
        known = ColonyThen("act", date(2031, 7, 18), "mites_per_100", 2.54, 1.2, 4.4, [course])
        self.assertEqual(
            visit_sheet.known_lines(known, date(2031, 7, 20)),
            [
                "Level on 20 July 2031: act; 2.5 (1.2 to 4.4) mites per 100 bees, counted 18 July 2031.",
                "Formic acid strips, placed 15 July 2031, under way; honey clear 5 August 2031.",
            ],
        )
        never = ColonyThen("unknown", None, None, None, None, None, [])
        lines = visit_sheet.known_lines(never, date(2031, 7, 20))
        self.assertEqual(lines, ["Level on 20 July 2031: not known; never counted."])
        text = self.printed(replace(self.view, place=replace(self.view.place, known=known)))
        self.assertLess(text.index("Level on "), text.index("Findings and next steps"))
        self.assertNotIn("Level on", self.printed(replace(self.view, place=replace(self.view.place, known=None))))

    def test_patterns_stay_inside_their_cover(self) -> None:
        """Every dot and line of every cover lies within it, whatever its size; sealed brood alone has none."""
        chance = random.Random(3)
        for cover in visit_sheet.FILL:
            for _ in range(30):
                left, bottom, wide, tall = (chance.uniform(1, 60) for _ in range(4))
                drawing = Drawing(200, 200)
                visit_sheet._pattern(drawing, cover, left, bottom, wide, tall)
                for shape in drawing.contents:
                    dot = isinstance(shape, Circle)
                    ends = [(shape.cx, shape.cy)] if dot else [(shape.x1, shape.y1), (shape.x2, shape.y2)]
                    for x, y in ends:
                        self.assertTrue(left - 1e-6 <= x <= left + wide + 1e-6, cover)
                        self.assertTrue(bottom - 1e-6 <= y <= bottom + tall + 1e-6, cover)
                if cover == "capped":
                    self.assertEqual(drawing.contents, [])
                elif wide > 20 and tall > 20:
                    self.assertGreater(len(drawing.contents), 3)

    def test_frames_are_called_as_their_keeper_calls_them(self) -> None:
        """From the right the last slot is frame 1; numbers go both ways without a gap."""
        for frames in (1, 5, 10):
            left = [frame_number(slot, frames, "left") for slot in range(1, frames + 1)]
            right = [frame_number(slot, frames, "right") for slot in range(1, frames + 1)]
            self.assertEqual(left, list(range(1, frames + 1)))
            self.assertEqual(right, left[::-1])
        hive = self.view.place.hive
        assert hive is not None
        turned = replace(self.view.place, hive=replace(hive, hive=replace(hive.hive, numbered_from="right")))
        drawn: list[str] = []
        with mock.patch.object(visit_sheet, "_word", lambda _, left, bottom, word, *colour: drawn.append(word)):
            self.printed(replace(self.view, place=turned))
        numbers = [int(one) for one in drawn if one.isdigit()]
        self.assertEqual(numbers[:10], list(range(10, 0, -1)))
