"""Acts of an association at random, as far as they are allowed: for tests that look at everything after each."""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from contextlib import suppress
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput, Refused
from redframe.core.visits.record import After
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.store.errors import StoreError
from redframe.work.colonies import holds, lineage, read, record, undo
from redframe.work.colonies.lineage import WantedPlace
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import abandon as treatments_abandon
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.plan import WantedCourse
from redframe.work.visits import record as visits_record
from tests.support import at_work, identity, owner_rows, washed

CORRANE = made_id("corrane")


class ChanceActs:
    """Somebody who does what comes to mind in the demo's association, at all apiaries or at a few; `day`: the day on
    which it is done."""

    def __init__(self, url: str, seed: int, apiaries: Sequence[UUID] = ()) -> None:
        self.url = url
        self.apiaries = list(apiaries)
        self.day: date = DEMO_TODAY
        self.draw = random.Random(seed)
        self.visits: list[UUID] = []
        self.counts: list[UUID] = []
        self.courses: list[UUID] = []

    def at(self, act: Any, who: Any = None) -> Any:
        """Do it."""
        return at_work(self.url, act, who, day=self.day, reason="by chance")

    def one(self, *, living: bool = True) -> tuple[UUID, UUID, str, int]:
        """Some colony of the association: itself, its apiary, its label, its version."""
        found = owner_rows(
            self.url, "SELECT id, apiary_id, label, version FROM colony WHERE association_id = %s AND is_living = %s "
            "AND (%s OR apiary_id = ANY(%s)) ORDER BY id", CORRANE, living, not self.apiaries, self.apiaries,
        )  # fmt: skip
        return self.draw.choice(found)  # type: ignore[return-value]

    def act(self, *, days_turn: bool = True) -> str:
        """Do something, as far as it is allowed; what was done."""
        acts: list[Callable[[], Any]] = [
            self.count, self.undo_count, self.visit, self.open, self.drop, self.plan, self.step, self.abandon,
            self.renumber, self.die, self.live, self.move, self.merge, self.split, self.undo_change, self.hold,
            *([self.turn] if days_turn else []),
        ]  # fmt: skip
        chosen = self.draw.choice(acts)
        with suppress(StoreError, InvalidInput, Refused):
            chosen()
        return chosen.__name__

    def count(self) -> None:
        """A wash."""
        new = washed(
            self.one()[0], (self.draw.choice((0, 2, 5, 14)),), self.day - timedelta(days=self.draw.choice((0, 9)))
        )
        self.counts.append(new.id)
        self.at(lambda unit: sampling_record.record_count(unit, new))

    def undo_count(self) -> None:
        """Take one of them back."""
        if self.counts:
            given = self.draw.choice(self.counts)
            self.at(lambda unit: sampling_record.undo_count(unit, given))

    def visit(self) -> None:
        """A visit of the colony as a whole."""
        colony, on = self.one()[0], self.day - timedelta(days=self.draw.choice((0, 4, 30)))
        after = After(next_visit=on + timedelta(days=self.draw.choice((2, 6, 40))))
        self.at(lambda unit: visits_record.record_visit(unit, uuid4(), colony_id=colony, visited_on=on, after=after))

    def open(self) -> None:
        """Open a visit."""
        colony, visit = self.one()[0], uuid4()
        self.visits.append(visit)
        now = datetime.combine(self.day, time(9), UTC)
        self.at(lambda unit: visits_record.open_visit(unit, visit, colony, now))

    def drop(self) -> None:
        """Drop or close one."""
        if self.visits:
            act = self.draw.choice((visits_record.drop_visit, visits_record.close_visit))
            visit = self.visits.pop()
            self.at(lambda unit: act(unit, visit))

    def plan(self) -> None:
        """Plan a course."""
        colony, apiary = self.one()[:2]
        course = uuid4()
        self.courses.append(course)
        self.at(lambda unit: treatments_plan.plan_courses(
            unit, plan_id=uuid4(), apiary_id=apiary, option_id=self.draw.choice(("FA_STRIP2", "OX_TRICKLE")),
            start_on=self.day, interval_override=None, wanted=[WantedCourse(course, colony, [])]))  # fmt: skip

    def step(self) -> None:
        """Record the next steps of one."""
        if self.courses:
            course = self.draw.choice(self.courses)
            name = owner_rows(
                self.url, "SELECT name FROM course_step WHERE course_id = %s AND NOT done ORDER BY ideal", course
            )
            for (step,) in name[:3]:
                act = treatments_record.NewAct(uuid4(), step, "done", self.day, None, "", None, "", None)
                self.at(lambda unit, act=act: treatments_record.record_act(unit, course, act))

    def abandon(self) -> None:
        """Abandon one."""
        if self.courses:
            course = self.draw.choice(self.courses)
            self.at(lambda unit: treatments_abandon.abandon(unit, course, "rain", self.day))

    def amend(self, colony: UUID, label: str, version: int, state: Any) -> None:
        """Give a colony a label and a state."""
        self.at(lambda unit: record.amend_colony(
            unit, colony, version, label=label, state=state, state_since=self.day, note=""))  # fmt: skip

    def renumber(self) -> None:
        """Give a colony another label."""
        colony, _, _, version = self.one()
        self.amend(colony, f"N{self.draw.randrange(10_000)}", version, "alive")

    def die(self) -> None:
        """Lose a colony, or its queen."""
        colony, _, label, version = self.one()
        self.amend(colony, label, version, self.draw.choice(("dead", "queenless", "gone")))

    def live(self) -> None:
        """A colony that was given up lives."""
        colony, _, label, version = self.one(living=False)
        self.amend(colony, label, version, "alive")

    def move(self) -> None:
        """Move a colony."""
        colony, _, label, version = self.one()
        place = WantedPlace(self.one()[1], f"{label}x"[:24], self.day)
        self.at(lambda unit: lineage.move(unit, colony, version, place))

    def merge(self) -> None:
        """Merge two."""
        (colony, _, _, version), other = self.one(), self.one()[0]
        merger = lineage.Merger(other, self.day, "of_other", "store", override_why="for the test")
        self.at(lambda unit: lineage.merge(unit, colony, version, merger), identity("inspector"))

    def split(self) -> None:
        """Split one."""
        parent, apiary = self.one()[:2]
        new = record.NewColony(uuid4(), apiary, f"S{self.draw.randrange(10_000)}", self.day, split_from=parent)
        self.at(lambda unit: record.add_colony(unit, new))

    def hold(self) -> None:
        """Put one on hold."""
        colony = self.one()[0]
        self.at(lambda unit: holds.hold_colony(unit, colony, uuid4(), kind="other", since=self.day, why="by chance"))

    def undo_change(self) -> None:
        """Undo what can be undone."""
        for colony, *_ in [self.one() for _ in range(6)]:
            view: read.ColonyView = self.at(lambda unit, colony=colony: read.colony_view(unit, colony))
            if view.undoable is not None:
                change = view.undoable.change
                self.at(lambda unit, colony=colony, change=change: undo.undo_change(unit, colony, change))

    def turn(self) -> None:
        """Let days go by."""
        self.day += timedelta(days=self.draw.choice((1, 1, 20)))
