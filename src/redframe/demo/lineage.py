"""A split, a merger and a renumbering at the teaching apiary, so that a lineage has something to tell."""

from __future__ import annotations

from datetime import UTC, date, datetime, time

from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.store.database import Connection, Identity
from redframe.work.colonies import lineage as colonies_lineage
from redframe.work.colonies import record as colonies_record
from redframe.work.places.read import apiary_view
from redframe.work.unit_of_work import WeatherService, Work


async def lay_lineage(connection: Connection, who: Identity, weather: WeatherService) -> None:
    """A split, a merger and a renumbering at the teaching apiary."""

    def work(day: date) -> Work:
        return Work(connection, who, datetime.combine(day, time(10), tzinfo=UTC), weather)

    apiary_id = made_id("corrane", "apiary", "Dunnock Mill")
    view = await apiary_view(work(DEMO_TODAY), apiary_id)
    living = {one.label: one for one in view.colonies if one.state == "alive"}
    split_on = date(2031, 5, 24)
    await colonies_record.add_colony(
        work(split_on),
        made_id("corrane", "Dunnock Mill", "D10"),
        apiary_id=apiary_id,
        label="D10",
        since=split_on,
        note="Nucleus with two frames of brood.",
        hive_id=None,
        hive_type="nucleus",
        boxes=[{"purpose": "brood", "frame_format": "A_deep", "frames": 5}],
        queen={
            "year": 2031,
            "mark_seen": "white",
            "status": "mated",
            "since": date(2031, 6, 6),
            "laying_since": date(2031, 6, 20),
            "release_on": None,
        },
        split_from=living["D1"].id,
    )
    last = living[max(living, key=lambda label: int(label[1:]))]
    await colonies_record.amend_colony(
        work(date(2031, 6, 1)),
        last.id,
        last.version,
        label="D12",
        state="alive",
        state_since=last.state_since,
        note="Stand moved to the new row.",
    )
    if "D8" in living and "D7" in living and living["D8"].id != last.id:
        weaker = living["D8"]
        await colonies_lineage.merge(
            work(date(2031, 6, 14)),
            weaker.id,
            weaker.version,
            living["D7"].id,
            date(2031, 6, 14),
            "Weak, old queen removed.",
        )
