"""What the last examination of a contact says of it, and in which order apiaries are visited.

Clean before doubtful, doubtful before sick: docs/methods/tracing.md.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from itertools import groupby
from math import asin, cos, radians, sin, sqrt
from typing import Literal

from redframe.core.tracing.movements import Band

ContactStatus = Literal["suspect", "clear", "unknown"]
StopClass = Literal["clear", "unknown", "low", "medium", "high", "suspect"]
STOP_ORDER: Sequence[StopClass] = ("clear", "unknown", "low", "medium", "high", "suspect")
EARTH_RADIUS_M = 6_371_008.8


@dataclass(frozen=True, slots=True)
class Examined:
    """The last examination of a colony: how many of its brood combs were read, whether a sign was seen."""

    on: date
    combs_read: int
    brood_combs: int
    is_clean: bool

    @property
    def is_full(self) -> bool:
        """All its brood combs were read."""
        return 0 < self.brood_combs <= self.combs_read


@dataclass(frozen=True, slots=True)
class Stop:
    """An apiary of a round: the class of its worst contact, where it is, metres from the stop before it."""

    apiary: str
    kind: StopClass
    latitude: float
    longitude: float
    metres: float = 0.0


def status_of(examined: Examined | None, contact_on: date, is_suspect: bool) -> ContactStatus:
    """A contact is clear only after all its brood was seen without a sign on a later day than the contact's."""
    if is_suspect or (examined is not None and not examined.is_clean):
        return "suspect"
    if examined is not None and examined.is_full and examined.on > contact_on:
        return "clear"
    return "unknown"


def stop_class(contacts: Iterable[tuple[ContactStatus, Band]]) -> StopClass:
    """The class of an apiary by the worst of its contacts; one that was not examined counts by its band."""
    return max(
        (status if status != "unknown" else band for status, band in contacts),
        key=STOP_ORDER.index,
        default="unknown",
    )


def distance_m(a: tuple[float, float], b: tuple[float, float]) -> float:
    """Metres between two places (latitude and longitude in degrees) on the sphere, by the haversine."""
    (lat_a, lon_a), (lat_b, lon_b) = ((radians(x), radians(y)) for x, y in (a, b))
    half = sin((lat_b - lat_a) / 2) ** 2 + cos(lat_a) * cos(lat_b) * sin((lon_b - lon_a) / 2) ** 2
    return 2 * EARTH_RADIUS_M * asin(min(1.0, sqrt(half)))


def visit_round(stops: Sequence[Stop], start: tuple[float, float] | None) -> list[Stop]:
    """The stops class by class, cleanest first; within a class always the nearest next, by name where two are as
    near."""
    ahead = sorted(stops, key=lambda one: STOP_ORDER.index(one.kind))
    taken: list[Stop] = []
    here = start
    for _, of_class in groupby(ahead, key=lambda one: one.kind):
        left = sorted(of_class, key=lambda one: one.apiary)
        while left:
            far = {one.apiary: 0.0 if here is None else distance_m(here, (one.latitude, one.longitude)) for one in left}
            next_stop = min(left, key=lambda one: (far[one.apiary], one.apiary))
            left.remove(next_stop)
            taken.append(
                Stop(
                    next_stop.apiary, next_stop.kind, next_stop.latitude, next_stop.longitude, far[next_stop.apiary]
                )
            )  # fmt: skip
            here = next_stop.latitude, next_stop.longitude
    return taken


@dataclass(frozen=True, slots=True)
class ListChange:
    """A colony that a list has gained, lost, or holds in another band since it was kept."""

    colony: str
    before: Band | None
    now: Band | None


def changes_since(before: Mapping[str, Band], now: Mapping[str, Band]) -> list[ListChange]:
    """What differs between a list that was kept and the list of now, by colony."""
    return [
        ListChange(colony, before.get(colony), now.get(colony))
        for colony in dict.fromkeys((*now, *before))
        if before.get(colony) != now.get(colony)
    ]
