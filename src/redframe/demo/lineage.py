"""A split, a merger and a renumbering at the teaching apiary, so that there is a lineage to read."""

from __future__ import annotations

from datetime import UTC, date, datetime, time

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.sampling.jar import JarSample
from redframe.demo.scenario import DEMO_TODAY, MERGED, made_id
from redframe.store.database import Connection, Identity
from redframe.work.colonies import lineage as colonies_lineage
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.queens import QueenRecord
from redframe.work.places.read import apiary_view
from redframe.work.sampling import record as sampling_record
from redframe.work.unit_of_work import UnitOfWork, WeatherService


async def record_lineage(connection: Connection, who: Identity, weather: WeatherService) -> None:
    """A split, a merger and a renumbering at the teaching apiary."""

    def on(day: date) -> UnitOfWork:
        return UnitOfWork.at(connection, who, datetime.combine(day, time(13), tzinfo=UTC), weather)

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
    _, merged, merged_on = MERGED
    weaker = living[merged]
    merger = colonies_lineage.Merger(
        living["D7"].id, merged_on, queen="of_other", combs="store", note="Weak, old queen removed."
    )
    await colonies_lineage.merge(on(merged_on), weaker.id, weaker.version, merger)
    counted_on = datetime.combine(date(2031, 7, 24), time(11), tzinfo=UTC)
    jar = JarSample(counted_on, (1, 0), "mass_dry", mass_g=38.0, brood_state="open_and_capped", queen_safe="yes")
    count_id, colony_id = made_id("count", "D10", counted_on), made_id("corrane", "Dunnock Mill", "D10")
    count = sampling_record.NewCount(count_id, colony_id, counted_on, jar, "open_and_capped")
    await sampling_record.record_count(on(counted_on.date()), count)
