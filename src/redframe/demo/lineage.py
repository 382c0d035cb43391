"""A split, a merger and a renumbering at the teaching apiary, so that a lineage has something to tell."""

from __future__ import annotations

from datetime import UTC, date, datetime, time

from redframe.core.colonies.hive_state import WantedBox
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.store.database import Connection, Identity
from redframe.work.colonies import lineage as colonies_lineage
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.queens import QueenRecord
from redframe.work.places.read import apiary_view
from redframe.work.unit_of_work import UnitOfWork, WeatherService


async def record_lineage(connection: Connection, who: Identity, weather: WeatherService) -> None:
    """A split, a merger and a renumbering at the teaching apiary."""

    def on(day: date) -> UnitOfWork:
        return UnitOfWork(connection, who, datetime.combine(day, time(10), tzinfo=UTC), weather)

    apiary_id = made_id("corrane", "apiary", "Dunnock Mill")
    view = await apiary_view(on(DEMO_TODAY), apiary_id)
    living = {one.label: one for one in view.colonies if one.is_living}
    split_on = date(2031, 5, 24)
    await colonies_record.add_colony(
        on(split_on),
        colonies_record.NewColony(
            id=made_id("corrane", "Dunnock Mill", "D10"),
            apiary_id=apiary_id,
            label="D10",
            since=split_on,
            note="Nucleus with two frames of brood.",
            hive_type="nucleus",
            boxes=[WantedBox("brood", "A_deep", 5)],
            queen=QueenRecord(2031, "white", "mated", date(2031, 6, 6), date(2031, 6, 20), None),
            split_from=living["D1"].id,
        ),
    )
    last = living[max(living, key=lambda label: int(label[1:]))]
    await colonies_record.amend_colony(
        on(date(2031, 6, 1)),
        last.id,
        last.version,
        label="D12",
        state="alive",
        state_since=last.state_since,
        note="Stand moved to the new row.",
    )
    if "D8" in living and "D7" in living and living["D8"].id != last.id:
        weaker = living["D8"]
        merger = colonies_lineage.Merger(
            living["D7"].id, date(2031, 6, 14), queen="of_other", combs="store", note="Weak, old queen removed."
        )
        await colonies_lineage.merge(on(date(2031, 6, 14)), weaker.id, weaker.version, merger)
