"""The disease examination of a visit: how combs and bees were looked at, what was seen, and what was not.

"Not seen" is a record of what was done: it reaches as far as the bees were off the combs, cells opened, the scale read.
What nobody looked at is not examined, and says nothing. See docs/methods/brood-diagnosis.md.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, model_validator

from redframe.core.disease.findings import COUNTED, NOT_ENTERED
from redframe.core.disease.groups import GroupId, groups
from redframe.core.disease.settings import Effort, brood_settings
from redframe.core.disease.signs import Extent, signs
from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input, IsoDate, printable

BeesOff = Literal["on", "moved", "shaken"]
"""Bees on the combs, mostly moved to one side, or shaken or brushed clear."""
EFFORTS: Mapping[BeesOff, Effort] = {"on": "glance", "moved": "standard", "shaken": "thorough"}
CELLS_TO_OPEN = 10
"""So many cells are opened before their contents count as not seen."""
BEES_TO_LOOK_AT = 100
"""So many bees are looked at one by one before it is more than a glance."""
NEEDS_SCALE_READ = ("scale_stuck", "scale_loose")
Combs = Annotated[int, Field(strict=True, ge=0, le=60)]
Cells = Annotated[int, Field(strict=True, ge=0, le=2000)]
Lot = Annotated[str, Field(max_length=60), AfterValidator(printable)]


class SignFound(Input):
    """A sign of the colony, of its bees or of a comb that is not named: seen to an extent or in number, or doubtful.

    `of`: among how many bees, where they were counted.
    """

    sign: Annotated[str, Field(max_length=40)]
    seen: Literal["seen", "cannot_tell"] = "seen"
    extent: Extent | None = None
    number: Annotated[float, Field(allow_inf_nan=False, ge=0, le=100_000)] | None = None
    of: Annotated[int, Field(strict=True, ge=1, le=100_000)] | None = None

    @model_validator(mode="after")
    def _known(self) -> SignFound:
        if self.sign not in signs() or self.sign in (NOT_ENTERED, COUNTED):
            raise InvalidInput("sign", f"{self.sign} is not a sign", code="unknown")
        if self.of is not None and (self.number is None or self.number > self.of):
            raise InvalidInput("number", "say how many of these bees had it", code="out_of_range")
        return self


class FieldKit(Input):
    """A field kit: for which disease, from which lot, and the line that it showed. Out of date it tells nothing."""

    tests_for: Literal["afb", "efb"]
    lot: Lot = ""
    use_by: IsoDate | None = None
    result: Literal["positive", "negative", "invalid"]


class Examination(Input):
    """How a colony was examined for disease.

    `brood_combs`: how many it has, `combs_read` of them on both sides with the bees `bees_off`; `scale_read`: lower
    cell walls against the light; `thread_mm`: the longest thread drawn by a match, from `thread_cells` cells;
    `bees_looked_at`: bees looked at one by one; `not_seen`: groups looked for and not seen; `lately`: what happened of
    late that bears on it.
    """

    brood_combs: Combs | None = None
    combs_read: Combs | None = None
    bees_off: BeesOff | None = None
    scale_read: bool = False
    smelled: bool = False
    cells_opened: Cells | None = None
    thread_mm: Annotated[int, Field(strict=True, ge=0, le=300)] | None = None
    thread_cells: Annotated[int, Field(strict=True, ge=1, le=200)] | None = None
    bees_looked_at: Annotated[int, Field(strict=True, ge=1, le=100_000)] | None = None
    not_seen: Annotated[list[GroupId], Field(max_length=20)] = []
    signs: Annotated[list[SignFound], Field(max_length=60)] = []
    kits: Annotated[list[FieldKit], Field(max_length=6)] = []
    lately: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=20)] = []

    @model_validator(mode="after")
    def _sound(self) -> Examination:
        if self.combs_read is not None and self.brood_combs is not None and self.combs_read > self.brood_combs:
            raise InvalidInput(
                "combs_read", f"there are {self.brood_combs} brood combs", code="out_of_range",
                allowed=f"0 to {self.brood_combs}",
            )  # fmt: skip
        for name in self.not_seen:
            if groups()[name].looked_at == "combs" and (self.bees_off is None or not self.combs_read):
                raise InvalidInput(
                    "combs_read", "say how many brood combs were read, and whether bees were off", code="missing"
                )
            if groups()[name].looked_at == "bees" and self.bees_looked_at is None:
                raise InvalidInput("bees_looked_at", "say how many bees were looked at", code="missing")
        if (self.thread_mm is None) != (self.thread_cells is None):
            field = "thread_cells" if self.thread_cells is None else "thread_mm"
            raise InvalidInput(field, "a match: how long the thread was, and of how many cells", code="missing")
        named = [one.sign for one in self.signs]
        twice = next((one for one in named if named.count(one) > 1), None)
        if twice is not None:
            raise InvalidInput("signs", f"{signs()[twice].name} stands twice", code="refused")
        unknown = next((one for one in self.lately if one not in brood_settings().context), None)
        if unknown is not None:
            raise InvalidInput("lately", f"{unknown} is not one of them", code="unknown")
        return self

    @property
    def effort(self) -> Effort | None:
        """How well brood combs were looked at; None where they were not. Thorough takes all of them, shaken clear."""
        if self.bees_off is None or not self.combs_read:
            return None
        if self.bees_off == "shaken" and not self.all_shaken:
            return "standard"
        return EFFORTS[self.bees_off]

    @property
    def all_shaken(self) -> bool:
        """Whether bees were shaken off every brood comb and both sides were read."""
        return self.bees_off == "shaken" and bool(self.combs_read) and self.combs_read == self.brood_combs

    def effort_of(self, name: GroupId) -> Effort | None:
        """How well a group was looked for; a few bees are a glance at a colony. None where it was not."""
        if groups()[name].looked_at == "combs":
            return self.effort
        if self.bees_looked_at is None:
            return None
        return "standard" if self.bees_looked_at >= BEES_TO_LOOK_AT else "glance"

    def absences(self) -> Iterator[tuple[str, Effort]]:
        """The signs that were looked for and not seen, with the effort; those that were seen or doubtful are not among
        them."""
        named = {one.sign for one in self.signs}
        for name in self.not_seen:
            group = groups()[name]
            effort = self.effort_of(name)
            for sign in group.signs:
                if sign not in named and effort is not None and self._covers(sign):
                    yield sign, effort

    def _covers(self, sign: str) -> bool:
        """Whether what was done can show a sign: a look with the bees on shows no larva, and no one sees what is under
        a capping that nobody opened."""
        if sign in NEEDS_SCALE_READ:
            return self.scale_read and self.bees_off != "on"
        shown = {
            "L": bool(self.combs_read),
            "S": bool(self.combs_read) and self.bees_off in ("moved", "shaken"),
            "U": (self.cells_opened or 0) >= CELLS_TO_OPEN,
            "T": self.smelled,
            "A": self.bees_looked_at is not None,
        }
        return any(shown.get(how, False) for how in signs()[sign].examined)
