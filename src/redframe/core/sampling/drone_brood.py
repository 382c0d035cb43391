"""Drone brood opened: percent of the cells infested, on its own scale (docs/methods/counting.md, "Drone brood")."""

from __future__ import annotations

from dataclasses import dataclass

from redframe.core.errors import InvalidInput
from redframe.core.said import Params
from redframe.core.sampling.method import CountFinding
from redframe.core.sampling.reading import CellReading, read_cells

FEW_CELLS, ENOUGH_CELLS = 50, 100
FEW_PATCHES = 2
MOST_CELLS = 5000
MOST_MITES_A_CELL = 20


@dataclass(frozen=True, slots=True)
class DroneSample:
    """Capped drone pupae opened, those infested, the mites in them (None: not counted), the patches they came from."""

    opened: int
    infested: int
    mites: int | None = None
    patches: int | None = None


@dataclass(frozen=True, slots=True)
class DroneResult:
    """Percent infested with its interval, and findings."""

    reading: CellReading
    findings: tuple[CountFinding, ...]


def read_drone_brood(drone: DroneSample) -> DroneResult:
    """Check what was opened and read it. Raises InvalidInput naming `cells_opened`, `cells_infested`, `mites_in_cells`
    or `patches`."""
    if not 1 <= drone.opened <= MOST_CELLS:
        raise InvalidInput("cells_opened", "open one cell at least", code="out_of_range", allowed=f"1 to {MOST_CELLS}")
    if not 0 <= drone.infested <= drone.opened:
        raise InvalidInput("cells_infested", "must not be more than were opened", code="out_of_range",
                           allowed=f"0 to {drone.opened}")  # fmt: skip
    if drone.mites is not None and not drone.infested <= drone.mites <= MOST_MITES_A_CELL * drone.infested:
        raise InvalidInput("mites_in_cells", "each infested cell holds 1 to 20 mites", code="out_of_range",
                           allowed=f"{drone.infested} to {MOST_MITES_A_CELL * drone.infested}")  # fmt: skip
    if drone.patches is not None and not 1 <= drone.patches <= 50:
        raise InvalidInput("patches", "must be 1 to 50", code="out_of_range", allowed="1 to 50")
    found: list[CountFinding] = []
    if drone.opened < FEW_CELLS:
        enough: Params = {"few": FEW_CELLS, "enough": ENOUGH_CELLS}
        found.append(CountFinding("FEW_CELLS", "warning", "cells_opened", enough))
    if drone.patches is not None and drone.patches < FEW_PATCHES:
        found.append(CountFinding("ONE_PATCH", "warning", "patches"))
    found.append(CountFinding("OWN_SCALE", "note", "cells_infested"))
    return DroneResult(read_cells(drone.opened, drone.infested), tuple(found))
