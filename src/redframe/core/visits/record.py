"""What is written down at a visit: before opening, side by side of each frame, and after the last frame.

Covers are tenths of a side. What was not looked at is left out (None), never a zero: an empty comb is a record, a comb
that stayed in the box is not.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from redframe.core.disease.signs import Extent, signs
from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input, IsoDate, Number, Text
from redframe.core.visits.examination import Examination

Tenths = Annotated[int, Field(strict=True, ge=0, le=10)]
CombState = Literal["new", "drawn", "old", "damaged", "foundation", "mould"]
CellContent = Literal["cup", "egg", "larva", "capped", "emerged", "torn"]
Amount = Literal["none", "few", "some", "many"]
StoresBy = Literal["frames", "hefting", "weighing"]
StoresKind = Literal["set_hard", "fermenting", "syrup"]
"""What part of the stores is, where it is not plain honey: crystallised, fermenting, made of what was fed."""
Feed = Literal["none", "syrup_1_1", "syrup_2_1", "fondant", "pollen", "other"]
Feeder = Literal["put_on", "refilled", "taken", "untouched", "removed"]
"""What was done with the feeder or found of it: put on, filled again, emptied by the bees, left as it was given, taken
off."""
FEED_IN_FEEDER: dict[Feeder, bool] = {
    "put_on": True, "refilled": True, "taken": False, "untouched": True, "removed": False,
}  # fmt: skip


class CombSide(Input):
    """One side of a comb in tenths; `bees` up to 15, for bees two deep. `eggs_seen` without a cover says only that."""

    capped: Tenths = 0
    open: Tenths = 0
    eggs: Tenths = 0
    drone: Tenths = 0
    honey: Tenths = 0
    nectar: Tenths = 0
    pollen: Tenths = 0
    eggs_seen: bool = False
    bees: Annotated[int, Field(strict=True, ge=0, le=15)] | None = None

    @model_validator(mode="after")
    def _fits(self) -> CombSide:
        covered = self.brood + self.honey + self.nectar + self.pollen
        if covered > 10:
            raise InvalidInput("cover", f"adds up to {covered} tenths: a side has 10", code="over_full", allowed="10")
        return self

    @property
    def brood(self) -> int:
        """Tenths under brood of any age and sex."""
        return self.capped + self.open + self.eggs + self.drone

    @property
    def has_eggs(self) -> bool:
        """Eggs measured or only seen."""
        return self.eggs_seen or self.eggs > 0


class QueenCells(Input):
    """Queen cells or cups of one content in one place of the comb."""

    content: CellContent
    place: Literal["edge", "face"] = "edge"
    number: Annotated[int, Field(strict=True, ge=1, le=200)] = 1


class SignSeen(Input):
    """A sign of the vocabulary with how much of it: an extent, or a number on the sign's own scale."""

    sign: str
    extent: Extent | None = None
    number: Annotated[float, Field(allow_inf_nan=False, ge=0, le=100_000)] | None = None
    side: Literal["a", "b"] | None = None

    @model_validator(mode="after")
    def _known(self) -> SignSeen:
        found = signs().get(self.sign)
        if found is None or not found.on_frame:
            raise InvalidInput("sign", f"{self.sign} is not a sign of the comb", code="unknown")
        return self


class FrameRecord(Input):
    """What was seen of one frame; side a looks at slot 1, side b away from it."""

    a: CombSide | None = None
    b: CombSide | None = None
    comb: Annotated[list[CombState], Field(max_length=6)] = []
    cells: Annotated[list[QueenCells], Field(max_length=24)] = []
    queen: bool = False
    signs: Annotated[list[SignSeen], Field(max_length=40)] = []
    note: Text = ""

    @property
    def sides(self) -> tuple[CombSide, ...]:
        """The sides that were looked at."""
        if self.a is None:
            return () if self.b is None else (self.b,)
        return (self.a,) if self.b is None else (self.a, self.b)

    @property
    def tenths_of_brood(self) -> int:
        """Both sides together, 0 to 20."""
        return sum(side.brood for side in self.sides)


class Before(Input):
    """Before the hive is opened: the weather, the entrance, the floor."""

    purpose: Literal["routine", "follow_up", "trace", "radius", "complaint", "pre_movement", "teaching"] = "routine"
    air_temp_c: Annotated[Number, Field(ge=-40, le=55)] | None = None
    wind: Literal["still", "breezy", "windy"] | None = None
    rain: Literal["dry", "damp", "raining"] | None = None
    cloud_eighths: Annotated[int, Field(strict=True, ge=0, le=8)] | None = None
    traffic: Literal["none", "light", "normal", "heavy", "fighting"] | None = None
    pollen_in: Literal["none", "few", "many"] | None = None
    dead_bees: Amount | None = None
    wax_bits: Literal["none", "few", "many"] | None = None
    mummies: Literal["none", "white", "black", "both"] | None = None
    soiling: Annotated[int, Field(strict=True, ge=0, le=3)] | None = None
    bees_under: bool | None = None
    board_mites: Annotated[int, Field(strict=True, ge=0, le=100_000)] | None = None
    board_days: Annotated[Number, Field(gt=0, le=60)] | None = None
    board_cleaned: Literal["yes", "no", "not_looked"] | None = None
    board_seams: Annotated[int, Field(strict=True, ge=0, le=40)] | None = None
    emergency: bool = False
    note: Text = ""

    @model_validator(mode="after")
    def _board(self) -> Before:
        if self.board_mites is not None and self.board_days is None:
            raise InvalidInput("board_days", "say how many days the board was in", code="missing")
        return self


class After(Input):
    """After the last frame: the colony as a whole, what was done, and when to come back.

    What is given here is of the whole hive: it is never overruled by the combs that were looked at. `stores_are` is
    said of a part of the stores. `queen` is what was seen of her anywhere; `queen_caged` asks for `queen_released`
    before the visit can be closed. `examination`: how it was examined for disease (None: it was not).
    """

    seams_of_bees: Annotated[Number, Field(ge=0, le=60)] | None = None
    frames_of_bees: Annotated[Number, Field(ge=0, le=60)] | None = None
    frames_of_brood: Annotated[Number, Field(ge=0, le=60)] | None = None
    eggs_seen: bool | None = None
    open_brood: bool | None = None
    capped_brood: bool | None = None
    queen: Literal["seen", "eggs_only", "neither", "not_looked"] | None = None
    two_queens: bool = False
    queen_caged: bool = False
    queen_released: bool = False
    stores_kg: Annotated[Number, Field(ge=0, le=200)] | None = None
    stores_by: StoresBy | None = None
    stores_are: Annotated[list[StoresKind], Field(max_length=3)] = []
    temper: Annotated[int, Field(strict=True, ge=1, le=10)] | None = None
    pattern_empty_pct: Annotated[Number, Field(ge=0, le=100)] | None = None
    beetles: Annotated[int, Field(strict=True, ge=0, le=100_000)] | None = None
    moth: Amount | None = None
    wasps: Amount | None = None
    traps: Annotated[int, Field(strict=True, ge=0, le=50)] | None = None
    feed: Feed | None = None
    feed_amount: Annotated[Number, Field(gt=0, le=100)] | None = None
    feeder: Feeder | None = None
    drone_combs_cut: Annotated[int, Field(strict=True, ge=0, le=20)] | None = None
    queen_cells_removed: Annotated[int, Field(strict=True, ge=0, le=200)] | None = None
    sugar_dusted: bool = False
    supers_on: bool | None = None
    tool_hygiene: Literal["new_gloves", "washed", "flamed", "none"] | None = None
    limited_by: Literal["cold", "rain", "robbing", "temper", "keeper", "time"] | None = None
    next_visit: IsoDate | None = None
    next_why: Text = ""
    decided: Text = ""
    note: Text = ""
    examination: Examination | None = None

    @model_validator(mode="after")
    def _sound(self) -> After:
        if self.stores_kg is not None and self.stores_by is None:
            raise InvalidInput("stores_by", "say how the stores were judged", code="missing")
        if self.feed_amount is not None and self.feed in (None, "none"):
            raise InvalidInput("feed", "say what was fed", code="missing")
        if self.queen_released and not self.queen_caged:
            raise InvalidInput("queen_released", "she was not caged", code="refused")
        if self.feeder in ("taken", "untouched", "removed") and self.feed not in (None, "none"):
            raise InvalidInput("feeder", "say that it was put on or filled, or leave out what was fed", code="refused")
        return self

    @property
    def fed(self) -> bool | None:
        """Whether there is feed in the hive when it is closed; None where nobody says."""
        if self.feeder is not None:
            return FEED_IN_FEEDER[self.feeder]
        return None if self.feed is None else self.feed != "none"
