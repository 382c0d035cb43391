"""What bears on the condition of colonies and their hives, from all records: one source for whoever asks what is so."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import timedelta
from uuid import UUID

from redframe.core.colonies.condition import Closing, Recorded, Seen, SuperBox
from redframe.store import hive_work, hives, treatments, visits
from redframe.store.database import together
from redframe.work.unit_of_work import UnitOfWork

SEEN_BACK_DAYS = 180


async def recorded_of(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> Mapping[UUID, Recorded]:
    """The dated records that say what is so of each of these colonies."""
    since = unit.today - timedelta(days=SEEN_BACK_DAYS)
    async with together(unit.connection) as begin:
        of_visits = begin(visits.visits_of_colonies(unit.connection, colony_ids, since))
        of_boxes = begin(hives.super_boxes(unit.connection, colony_ids, since))
        of_closings = begin(treatments.closings(unit.connection, colony_ids, since))
        of_feeds = begin(hive_work.fed_in_courses(unit.connection, colony_ids, since))
    seen: dict[UUID, list[Seen]] = defaultdict(list)
    for visit in of_visits.result():
        made = visit.closed_at if visit.closed_at and unit.day_of(visit.closed_at) == visit.visited_on else None
        found = Seen(visit.visited_on, visit.capped_brood, visit.eggs_seen, visit.supers_on, visit.fed, made)
        seen[visit.colony_id].append(found)
    boxes: dict[UUID, list[SuperBox]] = defaultdict(list)
    for box in of_boxes.result():
        boxes[box.colony_id].append(SuperBox(box.since, box.until))
    closings: dict[UUID, list[Closing]] = defaultdict(list)
    for act in of_closings.result():
        # What an option bars from the hive was taken off with it; of what it bears nothing is said.
        fed = None if act.option.feeding_during else False
        supers_on = None if act.option.supers == "yes" else bool(act.supers_on)
        closings[act.colony_id].append(Closing(act.done_on, supers_on, fed))
    for fed_on in of_feeds.result():
        closings[fed_on.colony_id].append(Closing(fed_on.done_on, None, True))
    return {one: Recorded(seen[one], boxes[one], closings[one]) for one in colony_ids}
