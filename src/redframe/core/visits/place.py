"""Where a visit was made: what a closed visit keeps of its day, so that it reads the same when the hive has changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.colonies.hive_state import HangingFrame, HiveState
from redframe.core.disease.evidence import Context
from redframe.core.disease.region import DiseaseRegion
from redframe.core.disease.settings import Season
from redframe.core.sampling.method import Scale
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level
from redframe.core.treatments.catalogue import SupersRule


@dataclass(frozen=True, slots=True)
class CourseThen:
    """A course that was under way on the day, or from which honey was not clear yet; `ended_on` None: under way. With
    what its option says of supers and feed, as far as the record keeps it."""

    name: str
    placed_on: date
    ended_on: date | None
    honey_clear_on: date | None
    supers: SupersRule = "yes"
    feeding_during: bool = True


@dataclass(frozen=True, slots=True)
class CoursePlanned:
    """A course that was planned on the day, to be placed soon, with what its option says of supers and feed."""

    name: str
    start_on: date
    supers: SupersRule
    feeding_during: bool


@dataclass(frozen=True, slots=True)
class ColonyThen:
    """What was known of the colony's mites on the day: its level, the figure of its latest count in the unit of its
    scale with the 95 % interval (None: never counted), its courses, and those planned for the days after."""

    level: Level
    counted_on: date | None
    scale: Scale | None
    rate: float | None
    low: float | None
    high: float | None
    courses: Sequence[CourseThen]
    planned: Sequence[CoursePlanned] = ()


@dataclass(frozen=True, slots=True)
class DiseaseThen:
    """What bore on the chance of disease on the day: the season there, the region as the association had it, what the
    record says of late, and the version of the settings that the signs were weighed with."""

    season: Season
    region: DiseaseRegion
    lately: Sequence[str] = ()
    version: int = 1

    def context(self) -> Context:
        """The same as the signs are weighed in."""
        here = self.region
        return Context(
            self.season, here.afb_level, here.efb_level, here.shb_established, here.tropilaelaps_present,
            flags=frozenset(self.lately), factors=here.factors(),
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class VisitPlace:
    """Label, apiary and keeper of the colony on the day of a visit; its hive as it stood then (None: not known), and
    the frames that hung in it; the year of the queen that headed it (None: not known), the phase of the season there,
    the daily maximum from which the association opened its hives, what was `known` of its mites, the stores that a
    colony was to winter on, and what bore on the chance of `disease` there (each None: a record from before it was
    kept).
    """

    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    hive: HiveState | None
    frames: Sequence[HangingFrame]
    queen_year: int | None
    phase: Phase
    open_from_c: float
    known: ColonyThen | None = None
    winter_target_kg: float = 20.0
    disease: DiseaseThen | None = None
