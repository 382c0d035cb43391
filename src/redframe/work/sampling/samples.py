"""Between the record of a count and the sample that the core reads, both ways."""

from __future__ import annotations

from datetime import date, datetime
from functools import partial
from typing import cast
from zoneinfo import ZoneInfo

from redframe.core.sampling.bees import BeesKnownBy
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.count import AnySample, LookSample
from redframe.core.sampling.drone_brood import DroneSample
from redframe.core.sampling.jar import BroodState, JarSample, PlaceOfBees
from redframe.core.sampling.method import Answer, BoardMethod, JarMethod, Method
from redframe.store.sampling import Count, CountDetails


def sample_of(count: Count, zone: ZoneInfo) -> AnySample:
    """What was taken, from its record; moments in the time zone of the place."""
    if count.shakes is not None:
        return JarSample(
            taken_at=count.taken_at.astimezone(zone),
            shakes=tuple(count.shakes),
            known_by=cast(BeesKnownBy, count.bees_known_by),
            bees=count.bees,
            volume_ml=count.volume_ml,
            mass_g=count.mass_g,
            place_of_bees=cast(PlaceOfBees, count.place_of_bees),
            brood_state=cast(BroodState, count.brood_state),
            queen_safe=cast(Answer, count.queen_safe),
            method=cast(JarMethod, count.method),
            rested_s=count.rested_s,
            wet=cast(Answer, count.wet or "not_looked"),
        )
    if count.squares is not None and count.placed_at is not None:
        return BoardSample(
            placed_at=count.placed_at.astimezone(zone),
            removed_at=count.taken_at.astimezone(zone),
            squares=tuple(count.squares),
            squares_in_all=count.squares_in_all or 1,
            cleaned=cast(Answer, count.cleaned),
            greased=cast(Answer, count.greased),
            ants=cast(Answer, count.ants),
            method=cast(BoardMethod, count.method),
        )
    if count.cells_opened is not None:
        return DroneSample(count.cells_opened, count.cells_infested or 0, count.mites_in_cells, count.patches)
    return LookSample(bool(count.mites_seen))


def method_of(sample: AnySample) -> Method:
    """The method of a sample."""
    if isinstance(sample, (JarSample, BoardSample)):
        return sample.method
    return "drone_brood" if isinstance(sample, DroneSample) else "look"


def details_of(
    sample: AnySample, *, taken_at: datetime, taken_on: date, brood_state: str, targeted: bool, note: str
) -> CountDetails:
    """A sample with its day as a count is kept; what does not belong to its method is None."""
    taken = partial(
        CountDetails, method=method_of(sample), taken_at=taken_at, taken_on=taken_on, brood_state=brood_state,
        targeted=targeted, note=note,
    )  # fmt: skip
    match sample:
        case JarSample():
            sugar = sample.method == "sugar"
            return taken(
                shakes=list(sample.shakes), bees_known_by=sample.known_by, bees=sample.bees, volume_ml=sample.volume_ml,
                mass_g=sample.mass_g, place_of_bees=sample.place_of_bees, queen_safe=sample.queen_safe,
                rested_s=sample.rested_s if sugar else None, wet=sample.wet if sugar else None,
            )  # fmt: skip
        case BoardSample():
            return taken(
                placed_at=sample.placed_at, squares=list(sample.squares), squares_in_all=sample.squares_in_all,
                cleaned=sample.cleaned, greased=sample.greased, ants=sample.ants,
            )  # fmt: skip
        case DroneSample():
            return taken(
                cells_opened=sample.opened, cells_infested=sample.infested, mites_in_cells=sample.mites,
                patches=sample.patches,
            )  # fmt: skip
        case LookSample():
            return taken(mites_seen=sample.mites_seen)
