"""What is known of a dead colony besides what is found in its hive: its place that day, its record, what bears on
disease there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from uuid import UUID

from redframe.core.colonies.hive_state import PlacedBox
from redframe.core.deadouts.read_back import CountOnRecord, DeadRecord, TreatmentOnRecord
from redframe.core.deadouts.timeline import Bound
from redframe.core.disease.evidence import Context
from redframe.core.disease.region import DiseaseRegion
from redframe.core.disease.settings import Season
from redframe.core.disease.signs import signs
from redframe.core.season.calendar import latest_day
from redframe.core.treatments.states import is_abandoned
from redframe.core.visits.evidence import season_of
from redframe.store import colonies, frames, hives, places, sampling, treatments
from redframe.store import deadouts as store
from redframe.store.colonies import ColonyOverview
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits.read import place_on

YEAR = timedelta(days=365)
OF_WINTER = timedelta(days=270)
"""So long after its winter bees were begun a death has to do with them and with that autumn."""
BEFORE_WINTER_BEES = timedelta(days=120)
"""A treatment that ended so long before them was for another season."""
QUEEN_SIGNS = (
    "cap_bullet", "drone_compact", "drone_scattered", "eggs_multiple", "eggs_walls", "qc_emergency", "qc_supersedure",
    "qc_emerged", "no_eggs",
)  # fmt: skip
"""Signs at a visit that speak of trouble with the queen."""


@dataclass(frozen=True, slots=True)
class CombThen:
    """A comb as it hung when the hive was opened."""

    frame_id: UUID
    box_id: UUID
    slot: int
    comb_year: int | None


@dataclass(frozen=True, slots=True)
class BoxThen:
    """A box as it stood when the hive was opened."""

    box_id: UUID
    position: int
    purpose: str
    frames: int


@dataclass(frozen=True, slots=True)
class DeadPlace:
    """The label, apiary and keeper of a colony when it died, the boxes and combs that it left, the season of its death
    and what bears on disease there, and the last days on which it surely lived by the record."""

    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    hive_id: UUID | None
    boxes: Sequence[BoxThen]
    combs: Sequence[CombThen]
    season: Season
    region: DiseaseRegion
    alive: Sequence[Bound] = field(default_factory=tuple)

    @property
    def context(self) -> Context:
        """What bears on the causes there."""
        here = self.region
        return Context(
            self.season, here.afb_level, here.efb_level, here.shb_established, here.tropilaelaps_present
        )  # fmt: skip


async def place_of(unit: UnitOfWork, colony: ColonyOverview, on: date) -> DeadPlace:
    """Where a colony was when it was found dead, and what it left."""
    events = await colonies.events_of_colony(unit.connection, colony.id)
    place = await place_on(unit, colony, on, events, set())
    policy = await policy_in_force(unit, place.apiary_id)
    boxes_then = await _own_boxes(unit, colony)
    boxes = [BoxThen(one.id, one.position, one.purpose, one.frames) for one in boxes_then]
    hung = await frames.frames_of_boxes(unit.connection, [one.box_id for one in boxes])
    combs = [
        CombThen(one.id, one.box_id, one.slot, one.comb_year)
        for one in hung
        if one.box_id is not None and one.slot is not None and one.kind in ("comb", "drone_comb")
    ]
    season = season_of(policy.calendar.treatment_season(on, policy.honey_off))
    alive = await _alive(unit, colony.id, on)
    return DeadPlace(
        place.label, place.apiary_id, place.apiary, place.keeper, colony.hive_id, boxes, combs, season, policy.region,
        alive,
    )  # fmt: skip


async def _own_boxes(unit: UnitOfWork, colony: ColonyOverview) -> list[PlacedBox]:
    """The boxes that a colony left; none where another lives in the same hive: they are its boxes now."""
    if colony.hive_id is None:
        return []
    lives = await hives.colonies_of_hive(unit.connection, colony.hive_id)
    if lives and all(one.id != colony.id for one in lives):
        return []
    return await hives.boxes_of_hive(unit.connection, colony.hive_id)


async def _alive(unit: UnitOfWork, colony_id: UUID, on: date) -> list[Bound]:
    """The last visit, the last count of its bees."""
    found = []
    last = await store.record_of(unit.connection, colony_id, on, None, [])
    if last.last_visit_on is not None:
        found.append(Bound("visit_alive", last.last_visit_on))
    counts = await sampling.counts_of_colonies(unit.connection, [colony_id], on - YEAR)
    counted = next((one.taken_on for one in counts if one.taken_on <= on and one.scale == "mites_per_100"), None)
    if counted is not None:
        found.append(Bound("count_alive", counted))
    return found


async def record_of(unit: UnitOfWork, colony: ColonyOverview, on: date) -> DeadRecord:
    """What the record of a colony holds of the year before it was found dead."""
    apiary = await places.apiary(unit.connection, colony.apiary_id)
    policy = await policy_in_force(unit, apiary.id)
    index = policy.calendar.winter_bees
    begun = latest_day(on, index) if index is not None else None
    if begun is not None and on - begun > OF_WINTER:
        begun = None
    row = await store.record_of(unit.connection, colony.id, on, begun, QUEEN_SIGNS)
    counted = None
    if row.counted_on is not None and row.rate is not None and row.scale is not None:
        counted = CountOnRecord(row.counted_on, row.rate, row.scale, row.act_at, row.level)
    return DeadRecord(
        died_by=on, winter_bees=begun, count=counted, treatment=await _treatment(unit, colony.id, on, begun),
        stores_kg=row.stores_kg, stores_on=row.stores_on,
        stores_target_kg=policy.treatment_rules.winter_target_kg, frames_summer=row.frames_summer,
        frames_autumn=row.frames_autumn, frames_on=row.frames_on, queen_year=row.queen_year,
        queen_signs=[signs()[one].name for one in row.queen_signs if one in signs()],
        eggs_looked_on=row.eggs_looked_on, last_visit_on=row.last_visit_on, neighbours=row.neighbours,
        neighbours_lost=row.neighbours_lost, spray_on=row.spray_on, foul_contact=row.foul_contact,
    )  # fmt: skip


async def _treatment(unit: UnitOfWork, colony_id: UUID, on: date, begun: date | None) -> TreatmentOnRecord | None:
    """The course that was to lower the mites before the winter bees: the last that ended by then, else the first after
    it; a dose on the cluster later in winter makes none late. Without such a day, the last of the year."""
    courses = [
        (one.ended_on or one.placed_on, one)
        for one in await treatments.courses_of_colonies(unit.connection, [colony_id])
        if one.placed_on is not None and on - YEAR < one.placed_on <= on and not is_abandoned(one.state)
    ]
    ended = [(day, one) for day, one in courses if day is not None]
    if begun is not None:
        before = [(day, one) for day, one in ended if begun - BEFORE_WINTER_BEES <= day <= begun]
        after = [(day, one) for day, one in ended if day > begun]
        ended = before or ([min(after, key=lambda each: each[0])] if after else [])
    if not ended:
        return None
    day, last = max(ended, key=lambda each: each[0])
    return TreatmentOnRecord(last.option.name, day, last.outcome)
