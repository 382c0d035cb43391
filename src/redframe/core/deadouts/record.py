"""What is written down at a dead colony, step by step of the walk.

What was not looked at is left out, never a no. What follows from another entry (where the food was, mites washed from
so many bees) is not entered a second time.
"""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, StringConstraints, model_validator

from redframe.core.deadouts.signs import DeadStep, dead_signs
from redframe.core.deadouts.timeline import DroneBrood, EmergencyCells, Youngest
from redframe.core.disease.settings import Effort
from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input, IsoDate, Text

FOLLOWS = frozenset({"d_stores_none", "d_stores_far", "d_stores_contact", "d_wash_high"})
"""Findings that follow from what else is recorded."""
COMB_SIGNS = frozenset({
    "d_guanine", "d_scale_stuck", "d_dysentery_in", "d_moth_webbing", "d_shb_larvae_slime", "d_mouse",
    "d_brood_perforated", "d_sunken_greasy", "d_emerging_dead", "d_larva_dead_open", "d_bullet",
})  # fmt: skip
"""Findings that are recorded on a comb; for a hive whose combs nobody knows, with their step."""
READ_WITH_COMB = frozenset({"d_guanine", "d_scale_stuck", "d_dysentery_in", "d_moth_webbing", "d_shb_larvae_slime"})
"""Whoever reads a comb in side light has looked for these on it."""
StoresPlace = Literal["none", "far", "touching"]
BeesLook = Literal["soft", "dry"]
ResidueResult = Literal["found", "not_found"]
HowSure = Literal["opened", "ear", "breath", "tap"]
Count = Annotated[int, Field(strict=True, ge=0, le=100_000)]
Grade = Literal["absent", "few", "some", "many"]


class DeadSeen(Input):
    """A sign with what was seen of it: an extent, or a number on its own scale."""

    sign: Annotated[str, StringConstraints(max_length=40)]
    value: Grade | Annotated[float, Field(allow_inf_nan=False, ge=0, le=100_000)]
    effort: Effort = "standard"

    @property
    def is_there(self) -> bool:
        """Whether it was seen."""
        return self.value not in ("absent", 0)


class CombLooked(Input):
    """A comb that was read in side light on both faces, and what was seen on it."""

    box_id: UUID
    slot: Annotated[int, Field(strict=True, ge=1, le=40)]
    had_brood: bool = False
    signs: Annotated[list[DeadSeen], Field(max_length=12)] = []


class DeadStepRecord(Input):
    """One step of the walk. `is_done`: it was gone through, whatever was found. `medicines_declared`: the keeper says
    which medicines were given in the last season, `medicines_open` that a residue period was still running."""

    is_done: bool = False
    signs: Annotated[list[DeadSeen], Field(max_length=20)] = []
    note: Text = ""
    is_shut: bool | None = None
    sure_by: Annotated[list[HowSure], Field(max_length=4)] = []
    no_flight_since: IsoDate | None = None
    robbing_seen_on: IsoDate | None = None
    bees_look: BeesLook | None = None
    seams: Annotated[float, Field(allow_inf_nan=False, ge=0, le=60)] | None = None
    box: Annotated[int, Field(strict=True, ge=1, le=12)] | None = None
    bees_left: Count | None = None
    stores_place: StoresPlace | None = None
    youngest: Youngest | None = None
    drone_brood: DroneBrood | None = None
    queen_cells: EmergencyCells | None = None
    combs: Annotated[list[CombLooked], Field(max_length=120)] = []
    cocoons: bool | None = None
    cells_opened: Count | None = None
    wash_bees: Count | None = None
    wash_mites: Count | None = None
    alive_on: IsoDate | None = None
    sensor_warm_on: IsoDate | None = None
    sensor_cold_on: IsoDate | None = None
    medicines_declared: bool | None = None
    medicines_open: bool | None = None
    medicines: Text = ""
    residue_result: ResidueResult | None = None

    @model_validator(mode="after")
    def _fits(self) -> DeadStepRecord:
        names = [one.sign for one in self.signs]
        if len(set(names)) < len(names):
            raise InvalidInput("signs", "a sign stands twice", code="refused")
        keys = [(one.box_id, one.slot) for one in self.combs]
        if len(set(keys)) < len(keys):
            raise InvalidInput("combs", "a comb stands twice", code="refused")
        if self.wash_mites is not None and not self.wash_bees:
            raise InvalidInput("wash_bees", "count the bees that were washed", code="missing")
        if self.wash_bees and self.wash_mites is None:
            raise InvalidInput("wash_mites", "count the mites", code="missing")
        return self

    @property
    def is_empty(self) -> bool:
        """Whether nothing is recorded."""
        return self == DeadStepRecord()


def check_step(step: DeadStep, record: DeadStepRecord) -> None:
    """What a step may hold. Raises InvalidInput naming the field."""
    for number, one in enumerate(record.signs):
        sign = dead_signs().get(one.sign)
        if sign is None or one.sign in FOLLOWS or sign.step != step:
            raise InvalidInput(f"signs[{number}].sign", "is not looked for at this step", code="unknown")
    seen = {one.sign for one in record.signs if one.is_there}
    if {"d_bees_gone", "d_cluster_large"} <= seen or {"d_cluster_fist", "d_cluster_large"} <= seen:
        raise InvalidInput("signs", "the cluster cannot be small and large: say which", code="inconsistent")
    if record.combs and step != "combs":
        raise InvalidInput("combs", "combs are read at their own step", code="refused")
    for at, comb in enumerate(record.combs):
        for number, one in enumerate(comb.signs):
            if one.sign not in COMB_SIGNS:
                raise InvalidInput(f"combs[{at}].signs[{number}].sign", "is not seen on a comb", code="unknown")
    plenty = any(one.sign == "d_stores_plenty" and one.is_there for one in record.signs)
    if record.stores_place == "none" and plenty:
        raise InvalidInput("stores_place", "no food anywhere, and kilograms of it: say which", code="inconsistent")
