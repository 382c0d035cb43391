"""What stops the laying, through the use cases: said, by a course, by a split; seen where a treatment is chosen."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput
from redframe.core.visits.record import After
from redframe.store.brood import NewBroodEvent
from redframe.store.errors import Conflict, NotFound
from redframe.work.colonies import brood as colonies_brood
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.treatments import options as treatments_options
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.record import NewAct
from tests.support import at_work, identity, visited
from tests.work.test_treatments import SHORE, TODAY, Courses, later


class Brood(Courses):
    """A sound colony with capped brood and a laying queen, for each test."""

    def say(self, kind: str, on: date, release: date | None = None, day: date = TODAY, event: UUID | None = None, **who: Any) -> UUID:  # fmt: skip
        """Say what stopped the laying."""
        number = event or uuid4()
        new = NewBroodEvent(self.colony, kind, on, release)  # type: ignore[arg-type]
        at_work(self.url, lambda unit: colonies_brood.add_brood_event(unit, number, new), day=day, **who)
        return number

    def calendar(self, day: date = TODAY) -> Any:
        """The calendar as the colony's page shows it."""
        return at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony), day=day).brood

    def trickle(self, on: date, day: date = TODAY) -> list[tuple[str, str, date | None]]:
        """What the brood says of a trickle placed on a day."""
        found = at_work(self.url, lambda unit: treatments_options.options_for(unit, SHORE, [self.colony], on), day=day)
        reasons = found.colonies[0].choice.options["OX_TRICKLE"].reasons
        return [(one.rule, one.level, one.until) for one in reasons if one.rule in ("T20", "T21")]

    def test_said_seen_and_withdrawn(self) -> None:
        """Caged today: the trickle is held until day 22, then asked to look first; it was not so: as before."""
        self.assertIsNone(self.calendar())
        before = self.trickle(later(22))
        event = self.say("queen_caged", TODAY, later(24))
        self.say("queen_caged", TODAY, later(24), event=event)
        found = self.calendar()
        self.assertEqual((found.event_id, found.state.opens, found.state.closes), (event, later(22), later(31)))
        self.assertEqual(self.trickle(TODAY), [("T20", "not_now", later(22))])
        self.assertEqual(self.trickle(later(22)), [("T21", "caution", None)])
        at_work(
            self.url,
            lambda unit: colonies_brood.withdraw_brood_event(unit, event, "another hive"),
            reason="another hive",
        )
        self.assertIsNone(self.calendar())
        self.assertEqual(self.trickle(later(22)), before)
        with self.assertRaises(Conflict):
            at_work(self.url, lambda unit: colonies_brood.withdraw_brood_event(unit, event, "again"), reason="again")

    def test_a_visit_moves_it(self) -> None:
        """Capped brood seen when there should be none: refuted, on the page and where a treatment is chosen."""
        self.say("swarm_left", TODAY)
        visited(self.url, self.colony, later(23), After(capped_brood=True, eggs_seen=False))
        self.assertEqual(self.calendar(later(23)).state.window, "withdrawn")
        self.assertEqual(self.trickle(later(23), later(23)), [("T20", "not_now", None)])

    def test_a_caging_course_is_a_stop_by_itself(self) -> None:
        """From the day she was caged, with the day she is to be freed; the queen's record follows, and back again."""
        rows = self.plan("QUEEN_CAGE", self.colony, overrides=self.everything())
        assert rows.course_id is not None
        caged = self.step_done(rows.course_id, "place_1", TODAY, 1.0)
        found = self.calendar()
        self.assertEqual((found.event_id, found.state.stop.source), (None, "course"))
        self.assertEqual((found.state.stop.on, found.state.stop.release_on), (TODAY, later(24)))
        self.assertEqual(self.queen(), ("caged", later(24)))
        at_work(self.url, lambda unit: treatments_record.undo_act(unit, rows.course_id, caged), reason="undone")  # type: ignore[arg-type]
        self.assertEqual((self.queen(), self.calendar()), (("mated", None), None))
        self.step_done(rows.course_id, "place_1", TODAY, 1.0)
        self.step_done(rows.course_id, "remove", later(25))
        self.assertEqual(self.queen(later(26)), ("mated", None))
        found = self.calendar(later(26))
        self.assertEqual((found.state.stop.release_on, found.state.closes), (later(25), later(32)))

    def test_a_split_without_a_queen_is_one(self) -> None:
        """The new colony raises a queen: its calendar counts from the split; the old one has none."""
        number = uuid4()
        new = colonies_record.NewColony(
            id=number,
            apiary_id=SHORE,
            label=str(number)[:8],
            since=TODAY,
            note="",
            hive_id=None,
            hive_type="nucleus",
            boxes=[],
            queen=None,
            split_from=self.colony,
        )
        at_work(self.url, lambda unit: colonies_record.add_colony(unit, new))
        self.assertIsNone(self.calendar())
        self.colony = number
        self.assertEqual(
            (self.calendar().state.stop.kind, self.calendar().state.stop.source), ("queen_removed", "split")
        )

    def test_what_cannot_have_been(self) -> None:
        """At its field; another keeper's colony is nowhere."""
        cases = [
            (("queen_caged", later(1)), "happened_on"), (("queen_caged", TODAY - timedelta(days=121)), "happened_on"),
            (("queen_caged", TODAY, TODAY - timedelta(days=1)), "release_on"), (("swarm_left", TODAY, later(3)), "release_on"),
        ]  # fmt: skip
        for given, field in cases:
            with self.subTest(given=given), self.assertRaises(InvalidInput) as caught:
                self.say(*given)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(NotFound):
            self.say("swarm_left", TODAY, who=identity("keeper", keeper="Tobias Quill"))

    def everything(self) -> list[Any]:
        """Every rule set aside by somebody named."""
        return [treatments_record.Override(f"T{number:02}", "Idris Calloway", "for the test") for number in range(100)]

    def step_done(self, course: UUID, step: str, day: date, quantity: float | None = None) -> UUID:
        """Record a step of a course on the day after."""
        new = NewAct(
            uuid4(), step, "done", day, quantity, "", None, "", treatments_record.Override("T60", "Idris", "warm")
        )
        at_work(self.url, lambda unit: treatments_record.record_act(unit, course, new), day=max(day, TODAY))
        return new.id

    def queen(self, day: date = TODAY) -> tuple[str, date | None]:
        """State of the present queen, and when she is to be freed."""
        view = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony), day=day)
        return view.queens[0].queen.status, view.queens[0].queen.release_on
