"""The entrance: how wide it stands, what that is good for, and what warns against it.

The trade-off of defence against air and traffic is a table (docs/methods/pests.md).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.errors import InvalidInput

Device = Literal["open", "reducer", "guard", "screen", "mesh_box", "shut"]
"""What stands before the entrance: nothing, a reducer, a guard against mice, a robbing screen, an open mesh box against
hornets; shut: of a dead or moved hive."""
Grade = Literal["poor", "fair", "good", "very_good", "best"]
EntranceWarning = Literal[
    "narrow_and_hot", "narrow_and_strong", "narrow_too_long", "mesh_shut_too", "course_wants_open", "guard_in_season",
    "no_guard_before_frost", "shut_with_bees",
]  # fmt: skip

NARROW_MM, NARROW_DAYS, HOT_C, STRONG_FRAMES = 20, 3, 28.0, 8.0
FULL_MM = 420
WANTS_OPEN = "formic acid"
"""What is given with the entrance open over its full width."""


@dataclass(frozen=True, slots=True)
class Width:
    """A class of widths (in mm at 10 mm height): how it stands against robbers and wasps, for air, how many bees a
    minute go through (None: no limit), and what it is used for."""

    least_mm: int
    most_mm: int
    defence: Grade
    air: Grade
    bees_a_minute: int | None
    use: str


WIDTHS: tuple[Width, ...] = (
    Width(151, FULL_MM, "poor", "best", None, "flow, heat"),
    Width(51, 150, "fair", "good", 100, "build-up"),
    Width(21, 50, "good", "fair", 40, "weak, or autumn"),
    Width(9, 20, "very_good", "poor", 12, "siege, for one to three days"),
    Width(1, 8, "best", "poor", 6, "a weak nucleus, robbing now; mesh on top"),
)
"""From full width to a single bee."""


@dataclass(frozen=True, slots=True)
class EntranceNow:
    """An entrance on a day: its width (None: not known), what stands before it, whether the mesh floor is shut too,
    since when; the frames of bees behind it, the hottest day that is forecast, the active ingredients in the hive, and
    whether a frost is near (None: no forecast)."""

    width_mm: int | None
    device: Device
    mesh_shut: bool
    since: date
    frames: float | None
    hottest_c: float | None
    actives: Sequence[str]
    frost_near: bool | None
    growing: bool
    is_living: bool = True


def width_class(width_mm: int) -> Width:
    """The class of a width. Raises InvalidInput("width_mm")."""
    for one in WIDTHS:
        if one.least_mm <= width_mm <= one.most_mm:
            return one
    raise InvalidInput("width_mm", f"must lie between 1 and {FULL_MM} mm", code="out_of_range")


def warnings(now: EntranceNow, today: date) -> list[EntranceWarning]:
    """What speaks against the entrance as it stands."""
    found: list[EntranceWarning] = []
    if now.device == "shut":
        return ["shut_with_bees"] if now.is_living else []
    narrow = now.width_mm is not None and now.width_mm <= NARROW_MM
    if narrow and now.hottest_c is not None and now.hottest_c > HOT_C:
        found.append("narrow_and_hot")
    if narrow and now.frames is not None and now.frames > STRONG_FRAMES:
        found.append("narrow_and_strong")
    if narrow and today - now.since > timedelta(days=NARROW_DAYS):
        found.append("narrow_too_long")
    if narrow and now.mesh_shut:
        found.append("mesh_shut_too")
    held_back = now.device in ("reducer", "screen", "guard") or (now.width_mm is not None and now.width_mm <= 150)
    if held_back and any(one.startswith(WANTS_OPEN) for one in now.actives):
        found.append("course_wants_open")
    if now.device == "guard" and now.growing:
        found.append("guard_in_season")
    if now.device != "guard" and now.frost_near:
        found.append("no_guard_before_frost")
    return found
