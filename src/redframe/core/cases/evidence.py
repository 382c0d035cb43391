"""What a step of a case shows for itself."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from redframe.core.cases.law import OrderOption
from redframe.core.cases.states import EvidenceField
from redframe.core.inputs import Input, IsoDate

Covers = Literal["colony", "apiary", "keeper"]
ReceiptCondition = Literal["sealed", "broken"]
Disinfected = Literal["boxes_scorched", "floor_and_roof_scorched", "tools_flamed", "clothes_washed", "ground_dug_over"]
Line = Annotated[str, Field(max_length=120)]
Words = Annotated[str, Field(max_length=2000)]
Number = Annotated[int, Field(strict=True, ge=0, le=2000)]


class StepEvidence(Input):
    """A reference is the number of a receipt, an order or a document; `ordered_by` is the officer who decided; `covers`
    says how far a standstill reaches; numbers count hives, combs and colonies, the pit is in centimetres."""

    reference: Line = ""
    ordered_by: Line = ""
    text: Words = ""
    covers: Covers | None = None
    until: IsoDate | None = None
    option: OrderOption | None = None
    deadline: IsoDate | None = None
    witness: Line = ""
    hives: Number | None = None
    frames: Number | None = None
    pit_depth_cm: Annotated[float, Field(allow_inf_nan=False, ge=0, le=300)] | None = None
    disinfected: Annotated[list[Disinfected], Field(max_length=5)] = []
    brood_frames: Number | None = None
    all_brood_frames: Annotated[bool, Field(strict=True)] | None = None
    rope_negative: Annotated[bool, Field(strict=True)] | None = None
    scales_negative: Annotated[bool, Field(strict=True)] | None = None
    colonies_examined: Number | None = None
    hold_stays: Annotated[bool, Field(strict=True)] | None = None
    receipt_condition: ReceiptCondition | None = None
    lessons: Words = ""
    cost: Line = ""

    def has(self, field: EvidenceField) -> bool:
        """Whether something is said in a field."""
        if field == "samples":
            return True
        value = getattr(self, field)
        return value not in (None, [], "") and (not isinstance(value, str) or bool(value.strip()))
