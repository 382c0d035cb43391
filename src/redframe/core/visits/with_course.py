"""What a visit finds of supers and feed, against the courses of the colony on that day."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from redframe.core.said import Params
from redframe.core.visits.finding import VisitFinding
from redframe.core.visits.place import CoursePlanned, CourseThen
from redframe.core.visits.record import After


@dataclass(frozen=True, slots=True)
class CoursesThen:
    """A colony's courses on the day of a visit: those in the hive, or not clear of honey yet, and those planned."""

    given: tuple[CourseThen, ...] = ()
    planned: tuple[CoursePlanned, ...] = ()


def with_courses(after: After, courses: CoursesThen, *, supers_stand: bool) -> Iterator[VisitFinding]:
    """Supers or feed that a course does not bear. `supers_stand`: the boxes of the day say so where nobody answered."""
    supers_on = after.supers_on if after.supers_on is not None else supers_stand
    for given in courses.given:
        if given.ended_on is not None:
            continue
        said: Params = {"option": given.name}
        if supers_on and given.supers == "no":
            yield VisitFinding("supers_with_course", "act", said)
        if supers_on and given.supers == "label":
            yield VisitFinding("supers_with_course_by_label", "watch", said)
        if after.fed and not given.feeding_during:
            yield VisitFinding("feed_with_course", "act", said)
    for planned in courses.planned:
        said = {"option": planned.name, "start": planned.start_on}
        if supers_on and planned.supers == "no":
            yield VisitFinding("supers_before_course", "watch", said)
        if after.fed and not planned.feeding_during:
            yield VisitFinding("feed_before_course", "watch", said)
    if after.feeder == "untouched":
        yield VisitFinding("feed_untouched", "act")
