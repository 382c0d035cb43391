"""What to buy for the colonies of a plan: units of the product, packs, and what is left over."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from redframe.core.errors import InvalidInput
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.dose import dose

MOST_COLONIES = 10_000


@dataclass(frozen=True, slots=True)
class Shopping:
    """Quantity of the whole course for each colony, and in all in whole units of the option's dose; packs to buy of
    the size asked for, and what is left over."""

    per_colony: list[float]
    units: int
    packs: int
    left_over: float
    unit: str


def shopping(
    option: Option,
    frames: Sequence[float],
    pack_size: float,
    brood_boxes: Sequence[int] | None = None,
    spare_pct: float = 0.0,
) -> Shopping:
    """What colonies of so many frames of bees need (a seam counts as a frame), in one brood box each or in several.

    Raises InvalidInput, `frames[2]` and `brood_boxes[2]` for the third colony.
    """
    if not 1 <= len(frames) <= MOST_COLONIES:
        raise InvalidInput("frames", f"give the frames of 1 to {MOST_COLONIES} colonies", code="missing")
    boxes = [1] * len(frames) if brood_boxes is None else list(brood_boxes)
    if len(boxes) != len(frames):
        raise InvalidInput("brood_boxes", f"must be of {len(frames)} colonies, as frames is")
    if not 0 < pack_size <= 100_000:
        raise InvalidInput("pack_size", "must be more than 0 and at most 100000", code="out_of_range")
    if not 0 <= spare_pct <= 100:
        raise InvalidInput("spare_pct", "must be 0 to 100 %", code="out_of_range", allowed="0 to 100")
    wanted = []
    for index, (strength, many) in enumerate(zip(frames, boxes, strict=True)):
        try:
            wanted.append(dose(option, frames=strength, brood_boxes=many).course_total)
        except InvalidInput as error:
            field = "frames" if error.field == "seams" else error.field
            raise InvalidInput(f"{field}[{index}]", error.message, code=error.code, allowed=error.allowed) from error
    units = ceil(sum(wanted) * (1 + spare_pct / 100) - 1e-9)
    packs = ceil(units / pack_size - 1e-9)
    return Shopping(wanted, units, packs, packs * pack_size - units, option.dose.unit)
