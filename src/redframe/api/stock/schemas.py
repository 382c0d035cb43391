"""Lots, what is done with them, and what is lacking."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from redframe.api.base import Name, Note, Output, Why, Word
from redframe.core.inputs import Input, IsoDate, printable
from redframe.core.stock.balance import LotState, OptionStock
from redframe.core.treatments.oxalic import StrengthBasis
from redframe.store.stock import Lot

Amount = Annotated[float, Field(gt=0, le=1_000_000, allow_inf_nan=False)]
Line = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120), AfterValidator(printable)]


class LotFields(Input):
    """A lot as its pack and its receipt say; quantities in `unit`, the one in which its options are dosed."""

    product: Name
    option_ids: Annotated[list[Annotated[str, Field(max_length=40), AfterValidator(printable)]], Field(max_length=12)]
    unit: Annotated[str, Field(min_length=1, max_length=20), AfterValidator(printable)]
    quantity: Amount
    strength: Word = ""
    lot: Word = ""
    expires_on: IsoDate | None = None
    bought_on: IsoDate | None = None
    supplier: Line = ""
    receipt: Line = ""
    note: Note = ""


class LotInput(LotFields):
    id: UUID


class LotAmendment(LotFields):
    reason: Why


class LotChangeInput(Input):
    """Part of a lot disposed of, lost or found again, in its unit."""

    id: UUID
    kind: Literal["disposed", "lost", "found"]
    quantity: Amount
    done_on: IsoDate
    how: Annotated[str, StringConstraints(strip_whitespace=True, max_length=400), AfterValidator(printable)] = ""


class MixingInput(Input):
    """A solution made of a lot of crystals; `id` is of the bottle."""

    id: UUID
    target_ml: Annotated[float, Field(allow_inf_nan=False)]
    strength: Annotated[float, Field(allow_inf_nan=False)]
    basis: StrengthBasis
    sugar_per_water: Annotated[float, Field(allow_inf_nan=False)] = 1.0
    mixed_on: IsoDate


class LotView(Output):
    """A lot; what was placed of it and what is left in its unit."""

    lot: Lot
    placed: float
    left: float
    state: LotState


class PlaceName(Output):
    id: UUID
    name: str


class StockView(Output):
    today: date
    lots: list[LotView]
    needs: list[OptionStock]
    apiaries: list[PlaceName]
