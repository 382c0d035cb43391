"""A closed visit, its sheet and a course read the same for ever, whatever becomes of hive, colony, apiary and policy."""

from __future__ import annotations

import random
import unittest
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.treatments.overrides import Override
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.demo.scenario import made_id
from redframe.outlets.visit_sheet import visit_sheet
from redframe.store.database import Identity
from redframe.store.places import ApiaryDetails
from redframe.work.colonies import frames as colonies_frames
from redframe.work.colonies import hives as colonies_hives
from redframe.work.colonies import holds as colonies_holds
from redframe.work.colonies import lineage as colonies_lineage
from redframe.work.colonies import queens as colonies_queens
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.hives import HiveChange
from redframe.work.colonies.queens import QueenRecord
from redframe.work.colonies.record import NewColony
from redframe.work.places import record as places_record
from redframe.work.policy import record as policy_record
from redframe.work.policy.record import ApiaryPolicyDraft
from redframe.work.sampling import record as sampling_record
from redframe.work.to_json import to_json
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import read as treatments_read
from redframe.work.treatments.plan import WantedCourse
from redframe.work.visits import read as visits_read
from redframe.work.visits import record as visits_record
from redframe.work.visits.read import VisitView
from redframe.work.visits.record import FrameEntry
from tests.support import at_work, demo_template, identity, new_database, owner_rows, visited, washed

TODAY = date(2031, 8, 2)
VISITED = date(2031, 7, 20)
OPENED = datetime(2031, 7, 20, 10, tzinfo=UTC)
HAY = made_id("corrane", "apiary", "Plover Hay")
BANK = made_id("corrane", "apiary", "Skerrow Bank")
QUEEN = QueenRecord(2029, "green", "mated", date(2031, 5, 1), date(2031, 5, 1), None)
TWO = [WantedBox("brood", "A_deep", 10), WantedBox("super", "A_medium", 9)]
NUCLEUS = [WantedBox("brood", "A_deep", 5)]
NEST = {"capped": 3, "open": 2, "eggs": 1, "honey": 2, "bees": 8}


class Stays(unittest.TestCase):
    """A visit of 20 July with frames, signs, a queen and answers; then a summer of changes."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def do(self, act: Callable[..., Any], who: Identity | None = None, day: date = TODAY, reason: str = "") -> Any:
        """Carry an act out."""
        return at_work(self.url, act, who, day=day, **({"reason": reason} if reason else {}))

    def setUp(self) -> None:
        self.colony, self.visit = uuid4(), uuid4()
        new = NewColony(id=self.colony, apiary_id=HAY, label=str(self.colony)[:8], since=date(2031, 5, 1), boxes=TWO, queen=QUEEN)  # fmt: skip
        self.do(lambda unit: colonies_record.add_colony(unit, new))
        self.do(lambda unit: visits_record.open_visit(unit, self.visit, self.colony, OPENED), day=VISITED)
        box = self.boxes()[0]
        entries = [
            FrameEntry(box, slot, 0, FrameRecord.model_validate({"a": NEST, "b": NEST})) for slot in range(1, 10)
        ]
        entries.append(FrameEntry(box, 10, 0, FrameRecord.model_validate({"a": {"honey": 9}, "signs": [{"sign": "cap_sunken", "extent": "few"}], "queen": True})))  # fmt: skip
        self.do(lambda unit: visits_record.save_frames(unit, self.visit, entries), day=VISITED)
        self.do(lambda unit: visits_record.save_part(unit, self.visit, "before", 0, Before(air_temp_c=21.0, board_mites=6, board_days=2.0)), day=VISITED)  # fmt: skip
        self.do(lambda unit: visits_record.save_part(unit, self.visit, "after", 0, After(temper=8, stores_kg=9, stores_by="hefting", note="calm")), day=VISITED)  # fmt: skip
        self.do(lambda unit: visits_record.close_visit(unit, self.visit), day=VISITED)
        self.before = self.seen()
        self.sheet = self.said()

    def boxes(self) -> list[UUID]:
        """The boxes with frames that stand on the colony's hive, from the floor up."""
        rows = owner_rows(
            self.url,
            "SELECT b.id FROM hive_box b JOIN colony c ON c.hive_id = b.hive_id WHERE c.id = %s AND b.until IS NULL AND b.frames > 0 "
            "ORDER BY b.position",
            self.colony,
        )  # fmt: skip
        return [row[0] for row in rows]

    def view(self) -> VisitView:
        """The visit as its page shows it."""
        found: VisitView = self.do(lambda unit: visits_read.visit_view(unit, self.visit))
        return found

    def seen(self) -> Any:
        """Everything of the visit that is its own: what is compared with it may grow, the visit may not."""
        view = self.view()
        assessed = replace(view.assessment, trends=[replace(one, apiary_median=None, colonies=0) for one in view.assessment.trends])  # fmt: skip
        return to_json([view.visit, view.place, view.records, assessed])

    def said(self) -> bytes:
        """The keeper's sheet, without what a PDF says of the moment in which it was made."""
        sheet = visit_sheet(self.view())
        return b"\n".join(line for line in sheet.splitlines() if not line.startswith((b"/ID", b"[<", b"  /CreationDate", b"/CreationDate", b"/ModDate")) and b"Date" not in line)  # fmt: skip

    def same(self, act: str) -> None:
        """The visit reads as it did."""
        with self.subTest(after=act):
            self.assertEqual(self.seen(), self.before)

    def overview(self) -> Any:
        """The colony as it stands."""
        return self.do(lambda unit: colonies_read.colony_view(unit, self.colony)).colony

    def acts(self) -> dict[str, Callable[[], None]]:
        """What can become of a colony after a visit."""
        return {
            "a nucleus box in place of the hive": self.rehive,
            "another label": self.renumber,
            "another name of the apiary": self.rename_apiary,
            "a move to another apiary": self.move,
            "another queen": self.requeen,
            "a split": self.split,
            "a hold": self.hold,
            "a comb taken out": self.comb_out,
            "a count": self.count,
            "another policy": self.follow_another,
            "a later visit": self.visit_again,
            "a course": self.treat,
        }

    def rehive(self) -> None:
        version = owner_rows(self.url, "SELECT version FROM hive WHERE id = (SELECT hive_id FROM colony WHERE id = %s)", self.colony)[0][0]  # fmt: skip
        self.do(
            lambda unit: colonies_hives.amend_hive(unit, self.colony, version, HiveChange("nucleus", NUCLEUS, TODAY))
        )

    def renumber(self) -> None:
        one = self.overview()
        self.do(lambda unit: colonies_record.amend_colony(unit, self.colony, one.version, label=f"n{one.label[:6]}", state=one.state, state_since=one.state_since, note="renamed"))  # fmt: skip

    def rename_apiary(self) -> None:
        apiary = self.overview().apiary_id
        version, latitude, longitude = owner_rows(self.url, "SELECT version, latitude, longitude FROM apiary WHERE id = %s", apiary)[0]  # fmt: skip
        self.do(lambda unit: places_record.amend_apiary(unit, apiary, version, ApiaryDetails(f"Place {version}", latitude, longitude)))  # fmt: skip

    def move(self) -> None:
        one = self.overview()
        to = BANK if one.apiary_id == HAY else HAY
        wanted = colonies_lineage.WantedPlace(to, one.label, TODAY, override_why="laboratory: negative")
        self.do(lambda unit: colonies_lineage.move(unit, self.colony, one.version, wanted), identity("inspector"))

    def requeen(self) -> None:
        queen = QueenRecord(2031, "white", "mated", TODAY, None, None)
        self.do(lambda unit: colonies_queens.add_queen(unit, uuid4(), self.colony, queen, "laboratory: negative"), identity("inspector"))  # fmt: skip

    def split(self) -> None:
        number = uuid4()
        new = NewColony(id=number, apiary_id=self.overview().apiary_id, label=str(number)[:8], since=TODAY, boxes=NUCLEUS, split_from=self.colony, override_why="laboratory: negative")  # fmt: skip
        self.do(lambda unit: colonies_record.add_colony(unit, new), identity("inspector"))

    def hold(self) -> None:
        open_hold = owner_rows(
            self.url, "SELECT 1 FROM colony_hold WHERE colony_id = %s AND until IS NULL", self.colony
        )
        if not open_hold:
            self.do(lambda unit: colonies_holds.hold_colony(unit, self.colony, uuid4(), kind="other", since=TODAY, why="waits for the laboratory"))  # fmt: skip

    def comb_out(self) -> None:
        found = owner_rows(self.url, "SELECT id FROM frame WHERE box_id = ANY(%s) LIMIT 1", self.boxes())
        if found:
            wanted = colonies_frames.WantedMove(uuid4(), found[0][0], None, None, None, "freezer", TODAY, None, "", "")
            self.do(lambda unit: colonies_frames.move_frame(unit, wanted))

    def count(self) -> None:
        self.do(lambda unit: sampling_record.record_count(unit, washed(self.colony, (9, 1), TODAY)))

    def follow_another(self) -> None:
        apiary = self.overview().apiary_id
        version = owner_rows(self.url, "SELECT coalesce(max(version), 0) FROM apiary_policy WHERE apiary_id = %s", apiary)[0][0]  # fmt: skip
        self.do(
            lambda unit: policy_record.set_apiary_policy(unit, apiary, ApiaryPolicyDraft("flat_3"), version, "tried")
        )

    def visit_again(self) -> None:
        visited(self.url, self.colony, TODAY, After(frames_of_bees=4.0, temper=3, queen="neither", eggs_seen=False, note="cross"))  # fmt: skip

    def treat(self) -> None:
        self.plan()

    def plan(self) -> UUID | None:
        """A course of gel, whatever stands against it."""
        apiary = self.overview().apiary_id

        def act(overrides: list[Override]) -> Callable[..., Any]:
            wanted = [WantedCourse(uuid4(), self.colony, overrides)]
            return lambda unit: treatments_plan.plan_courses(unit, plan_id=uuid4(), apiary_id=apiary, option_id="THY_GEL", start_on=TODAY, interval_override=None, wanted=wanted)  # fmt: skip

        rules = [one.rule for one in self.do(act([]), identity("inspector"))[0].held_by]
        row = self.do(act([Override(rule, "Idris Calloway", "to be tried") for rule in rules]), identity("inspector"))[
            0
        ]
        course: UUID | None = row.course_id
        return course

    def test_each_change_leaves_the_visit_as_it_was(self) -> None:
        """One after the other: frames, brood, stores, signs, label, apiary, keeper and figures are those of its day."""
        view = self.view()
        self.assertEqual((view.place.apiary, len(view.records)), ("Plover Hay", 10))
        self.assertIn("cap_sunken", view.assessment.suspicious)
        self.assertEqual(view.assessment.estimates.frames_of_brood, 9)
        for name, act in self.acts().items():
            act()
            self.same(name)
        self.assertEqual(self.said(), self.sheet, "the keeper's sheet too")

    def test_in_any_order(self) -> None:
        """The same changes in orders drawn by chance."""
        for seed in range(3):
            chance = random.Random(seed)
            names = list(self.acts())
            chance.shuffle(names)
            for name in names:
                self.acts()[name]()
            self.same(f"order {seed}: {', '.join(names)}")
            self.setUp()

    def test_an_amendment_is_of_its_day_too(self) -> None:
        """Amended after the hive was changed, the visit is judged by the boxes of its day; the version before is kept."""
        self.rehive()
        self.renumber()
        box = self.view().place.hive
        assert box is not None
        first = next(one for one in box.boxes if one.frames).id
        entry = FrameEntry(first, 9, 1, FrameRecord.model_validate({"a": {"honey": 9}, "b": {"honey": 9}}))
        self.do(lambda unit: visits_record.save_frames(unit, self.visit, [entry]), reason="one comb was food")
        view = self.view()
        self.assertEqual((len(view.records), view.assessment.estimates.frames_of_brood), (10, 8))
        self.assertEqual(view.place.label, str(self.colony)[:8])
        history = owner_rows(
            self.url, "SELECT count(*) FROM audit WHERE record_id = %s AND act = 'amended'", self.visit
        )
        kept = owner_rows(self.url, "SELECT count(*) FROM audit WHERE act = 'amended' AND reason = 'one comb was food'")
        self.assertGreater(history[0][0] + kept[0][0], 0)

    def test_the_list_says_what_the_page_says(self) -> None:
        """The colony's list of visits and the visit's own page: one strength, one brood, one store, one day."""
        for _, act in list(self.acts().items())[:6]:
            act()
        listed = next(one for one in self.do(lambda unit: colonies_read.colony_view(unit, self.colony)).visits if one.id == self.visit)  # fmt: skip
        estimates = self.view().assessment.estimates
        self.assertEqual((listed.visited_on, listed.note), (VISITED, "calm"))
        self.assertIsNone(estimates.frames_of_bees, "of nineteen combs nine were seen under bees: a part is no whole")
        self.assertEqual((listed.strength, listed.strength_unit), (None, None))
        self.assertEqual((listed.capped_brood, listed.eggs_seen, listed.queen_seen), ("yes", True, True))

    def test_a_course_keeps_what_it_was_chosen_by(self) -> None:
        """How the option was judged, the dose and the policy's version are those of the day of the plan."""
        visited(self.url, self.colony, TODAY, After(frames_of_bees=9.0, capped_brood=True, eggs_seen=True, supers_on=False, feed="none"))  # fmt: skip
        course = self.plan()
        assert course is not None

        def kept() -> Any:
            found = self.do(lambda unit: treatments_read.course_view(unit, course)).course
            return to_json([found.reasons, found.overrides, found.policy_version, found.dose_quantity, found.dose_unit, found.start_on])  # fmt: skip

        before = kept()
        for name in ("another label", "another queen", "a later visit", "another policy", "a count"):
            self.acts()[name]()
            with self.subTest(after=name):
                self.assertEqual(kept(), before)

    def test_a_board_read_at_the_visit_is_a_count_of_its_day(self) -> None:
        """Six mites in two days stand on the timeline on 20 July, once, and stay there."""
        rows = "SELECT taken_on, method, squares FROM mite_count WHERE colony_id = %s AND method = 'board'"
        self.assertEqual(owner_rows(self.url, rows, self.colony), [(VISITED, "board", [6])])
        self.rehive()
        self.move()
        self.assertEqual(owner_rows(self.url, rows, self.colony), [(VISITED, "board", [6])])
        self.assertLess(VISITED + timedelta(days=7), TODAY)


class KnownOnTheDay(unittest.TestCase):
    def test_nothing_that_came_later(self) -> None:
        """A visit entered for a day gone by begins with the count and the level of that day, and with the course that
        was under way then; what was counted and placed since is not known on it, now or when it is read again."""
        url = new_database(demo_template())
        colony = made_id("corrane", "Kettle Wood", "K3")
        counts = owner_rows(
            url, "SELECT taken_on FROM mite_count WHERE colony_id = %s AND method = 'wash' ORDER BY taken_on", colony
        )
        placed = owner_rows(url, "SELECT placed_on FROM course WHERE colony_id = %s AND state = 'under_way'", colony)[
            0
        ][0]
        for day in (counts[-1][0] - timedelta(days=1), TODAY):
            with self.subTest(day=day):
                visit = uuid4()
                visited(url, colony, day, After(temper=7), visit)
                known = at_work(url, lambda unit, one=visit: visits_read.visit_view(unit, one)).place.known  # type: ignore[misc]
                assert known is not None and known.counted_on is not None
                self.assertLessEqual(known.counted_on, day)
                self.assertEqual(known.counted_on, max(one for (one,) in counts if one <= day))
                self.assertEqual(
                    [one.placed_on for one in known.courses if one.ended_on is None], [placed] if placed <= day else []
                )
        at_work(url, lambda unit: sampling_record.record_count(unit, washed(colony, (0, 0), TODAY)))
        again = at_work(url, lambda unit: visits_read.visit_view(unit, visit)).place.known
        self.assertEqual(again, known)
