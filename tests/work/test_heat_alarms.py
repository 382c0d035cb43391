"""Heat over a dose that is in the hive: said on Today while the dose is sensitive, and of nobody else's hives."""

from __future__ import annotations

from uuid import UUID

from redframe.core.treatments.overrides import Override
from redframe.demo.scenario import made_id
from redframe.work.planning.alarms import HeatAlarm, heat_alarms
from redframe.work.planning.read import worklist
from redframe.work.treatments.abandon import abandon
from tests.support import at_work, identity
from tests.work.test_treatments import TODAY, Courses, later

HOLLIN = made_id("corrane", "apiary", "Hollin Croft")
THERMOMETER = Override("T60", "Bettrys Lund", "own thermometer")


class Alarms(Courses):
    def alarms(self, days: int = 0) -> dict[UUID, HeatAlarm]:
        """The alarms of a day from today, by course."""
        found = at_work(self.url, heat_alarms, day=later(days))
        return {one.course_id: one for one in found}

    def placed(self, option: str = "FA_STRIP2") -> UUID:
        """A dose inland, placed today though the forecast is too hot."""
        self.colony = self.sound(HOLLIN)
        course = self.planned(
            option, apiary=HOLLIN, overrides=[Override(rule, "the vet", "a trial") for rule in ("T60", "T63", "T65")]
        )
        self.ready(course)
        self.act(course, "place_1", quantity=2 if option == "FA_STRIP2" else 1, override=THERMOMETER)
        return course

    def test_in_its_sensitive_days(self) -> None:
        """On the day of the dose and the two after it; it stands on Today, and is over with the sensitive days."""
        course = self.placed()
        alarm = self.alarms()[course]
        self.assertEqual((alarm.apiary, alarm.placed_on, alarm.reason.code), ("Hollin Croft", TODAY, "hot_in_course"))
        self.assertIn(course, {one.course_id for one in at_work(self.url, worklist).alarms})
        self.assertIn(course, self.alarms(2))
        self.assertNotIn(course, self.alarms(3))

    def test_taken_out(self) -> None:
        """Out of the hive there is nothing to be alarmed about."""
        course = self.placed()
        at_work(self.url, lambda unit: abandon(unit, course, "taken out for the heat", TODAY))
        self.assertNotIn(course, self.alarms())

    def test_whose(self) -> None:
        """A keeper hears of own hives only."""
        course = self.placed()
        other = at_work(self.url, heat_alarms, identity("keeper", keeper="Orla Fenwick"))
        self.assertNotIn(course, [one.course_id for one in other])
