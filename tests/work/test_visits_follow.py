"""What a visit leads to: the round, what lists and options read of it, the trends, the sheet, and the demo's combs."""

from __future__ import annotations

import re
import unittest
import zlib
from datetime import timedelta
from uuid import UUID, uuid4

from redframe.core.visits.record import After, FrameRecord
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.outlets.visit_sheet import visit_sheet
from redframe.work.colonies import holds as colonies_holds
from redframe.work.colonies import read as colonies_read
from redframe.work.treatments.options import options_for
from redframe.work.visits import read as visits_read
from redframe.work.visits import record as visits_record
from redframe.work.visits.read import VisitView
from redframe.work.visits.record import FrameEntry
from tests.support import FixedClock, at_work, demo_template, new_database, owner_rows

NOW = FixedClock().now()
RISE = made_id("corrane", "apiary", "Saltby Rise")


class Following(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def open(self, place: str, label: str) -> VisitView:
        colony = made_id("corrane", place, label)
        return at_work(self.url, lambda unit: visits_record.open_visit(unit, uuid4(), colony, NOW))

    def round(self, apiary: UUID) -> list[str]:
        return [stop.label for stop in at_work(self.url, lambda unit: visits_read.round_of(unit, apiary))]

    def test_suspects_come_last_in_the_round(self) -> None:
        """The colony with unexplained signs is opened last; one put on hold joins it; lifted, it goes back."""
        self.assertEqual(self.round(RISE)[-1], "R2")
        held = made_id("corrane", "Saltby Rise", "R1")
        at_work(
            self.url,
            lambda unit: colonies_holds.hold_colony(
                unit, held, uuid4(), kind="other", since=DEMO_TODAY, why="beside a suspect"
            ),
        )
        self.assertEqual(set(self.round(RISE)[-2:]), {"R1", "R2"})
        self.assertEqual(len(self.round(RISE)), len(set(self.round(RISE))))

    def test_what_was_seen_is_what_options_read(self) -> None:
        """Strength, brood and supers of a closed visit are those of the choice of a treatment; a draft's are not."""
        view = self.open("Cairn Yard", "C1")
        colony = view.colony.id
        box = next(one for one in view.place.hive.boxes if one.frames)
        side = {"honey": 6, "bees": 10}
        entries = [FrameEntry(box.id, slot, 0, FrameRecord.model_validate({"a": side, "b": side})) for slot in range(1, box.frames + 1)]  # fmt: skip

        def strength() -> tuple[float | None, str | None]:
            overview = at_work(self.url, lambda unit: colonies_read.colony_view(unit, colony)).colony
            return overview.strength, overview.strength_unit

        before = strength()
        at_work(self.url, lambda unit: visits_record.save_frames(unit, view.visit.id, entries))
        at_work(self.url, lambda unit: visits_record.save_part(unit, view.visit.id, "after", 0, After(supers_on=True)))
        self.assertEqual(strength(), before, "a draft is not read")
        at_work(self.url, lambda unit: visits_record.close_visit(unit, view.visit.id))
        self.assertEqual(strength(), (float(box.frames), "frames"))
        seen = at_work(self.url, lambda unit: colonies_read.colony_view(unit, colony)).visits[0]
        self.assertEqual((seen.capped_brood, seen.eggs_seen, seen.supers_on), ("no", False, True))
        judged = (
            at_work(self.url, lambda unit: options_for(unit, view.place.apiary_id, [colony]))
            .colonies[0]
            .situation.colony
        )
        self.assertEqual((judged.supers_on, judged.capped_worker_brood), (True, "no"))

    def test_trends_are_set_against_the_apiary(self) -> None:
        """Now, then, and the median of the other colonies: the same figures as their latest visits give by hand."""
        view = self.open("Dunnock Mill", "D1")
        trend = next(one for one in view.assessment.trends if one.name == "frames_of_bees")
        rows = owner_rows(
            self.url,
            "SELECT DISTINCT ON (v.colony_id) v.frames_of_bees FROM visit v JOIN colony c ON c.id = v.colony_id "
            "WHERE c.apiary_id = %s AND c.id <> %s AND c.state IN ('alive', 'queenless') AND v.state = 'closed' "
            "AND v.visited_on >= %s ORDER BY v.colony_id, v.visited_on DESC, v.created_at DESC",
            view.place.apiary_id, view.colony.id, DEMO_TODAY - timedelta(days=30),
        )  # fmt: skip
        known = sorted(row[0] for row in rows if row[0] is not None)
        middle = len(known) // 2
        by_hand = known[middle] if len(known) % 2 else (known[middle - 1] + known[middle]) / 2
        self.assertGreater(len(known), 3)
        self.assertAlmostEqual(trend.apiary_median or 0, by_hand)
        self.assertEqual(trend.colonies, len(known))
        at_work(self.url, lambda unit: visits_record.drop_visit(unit, view.visit.id))

    def test_the_sheet_says_what_the_screen_says(self) -> None:
        """One page with the plan, every finding, the tasks and the next date; days are written as people write them."""
        visit = owner_rows(
            self.url, "SELECT id FROM visit WHERE colony_id = %s AND closed_at IS NOT NULL ORDER BY visited_on DESC LIMIT 1",
            made_id("corrane", "Skerrow Bank", "S2"),
        )[0][0]  # fmt: skip
        view = at_work(self.url, lambda unit: visits_read.visit_view(unit, visit))
        sheet = visit_sheet(view)
        self.assertEqual(len(re.findall(rb"/Type\s*/Page\b", sheet)), 1)
        drawn = b"".join(_streams(sheet))
        self.assertGreater(drawn.count(b" re"), 100, "the plan is drawn")

    def test_the_demos_combs_are_sound(self) -> None:
        """Every recorded frame reads, brood is of all ages, and the suspect colony alone is held back."""
        rows = owner_rows(self.url, "SELECT record FROM visit_frame LIMIT 3000")
        self.assertGreater(len(rows), 1000)
        for (record,) in rows:
            FrameRecord.model_validate(record)
        suspects = owner_rows(self.url, "SELECT DISTINCT c.label FROM visit v JOIN colony c ON c.id = v.colony_id WHERE v.suspicious <> '{}'")  # fmt: skip
        self.assertEqual(suspects, [("R2",)])


def _streams(document: bytes) -> list[bytes]:
    """The drawing streams of a PDF, unpacked where they are packed."""
    import base64

    found = []
    for packed in re.findall(rb"stream\r?\n(.*?)endstream", document, re.DOTALL):
        text = packed.strip()
        try:
            found.append(zlib.decompress(base64.a85decode(text.removesuffix(b"~>")) if text.endswith(b"~>") else text))
        except (zlib.error, ValueError):
            found.append(text)
    return found


if __name__ == "__main__":
    unittest.main()
