"""The dose of one placing for one colony, with its caps. Every figure is a default: check your label."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

from redframe.core.errors import InvalidInput
from redframe.core.treatments.catalogue import Option

MOST_FRAMES = 60.0


@dataclass(frozen=True, slots=True)
class DoseResult:
    """Quantity of one placing in `unit`, whether a cap cut it, placings, and the quantity of the whole course.

    `converted` says that seams were taken from frames of bees or the other way round (1 to 1).
    """

    quantity: float
    unit: str
    capped: bool
    small: bool
    applications: int
    course_total: float
    converted: bool


def dose(
    option: Option, *, frames: float | None = None, seams: float | None = None, brood_boxes: int = 1
) -> DoseResult:
    """Dose of `option` for a colony of so many frames or seams of bees in `brood_boxes` brood boxes.

    Raises InvalidInput for `frames` or `seams` out of 0 to 60, and for neither given where the dose needs one.
    """
    for field, value in (("frames", frames), ("seams", seams)):
        if value is not None and not 0 < value <= MOST_FRAMES:
            raise InvalidInput(field, f"must be more than 0 and at most {MOST_FRAMES:.0f}", code="out_of_range")
    if not 1 <= brood_boxes <= 6:
        raise InvalidInput("brood_boxes", "must be 1 to 6", code="out_of_range", allowed="1 to 6")
    rule = option.dose
    basis = rule.basis
    own, other = (seams, frames) if basis == "per_seam" else (frames, seams)
    converted = own is None and other is not None
    strength = own if own is not None else other
    depends = basis in ("per_frame", "per_seam", "per_n_frames", "per_n_frames_box") or rule.small_amount is not None
    if strength is None and depends:
        raise InvalidInput("seams" if basis == "per_seam" else "frames", "is needed for this dose", code="missing")

    threshold = option.strength.small_dose_below_frames
    small = bool(
        rule.small_amount is not None and threshold is not None and strength is not None and strength < threshold
    )
    if basis == "per_box_table":
        wanted = float(rule.amount[min(brood_boxes, len(rule.amount)) - 1])
    elif basis == "per_box":
        wanted = float(rule.amount) * brood_boxes
    elif basis == "per_colony":
        wanted = float(rule.small_amount) if small and rule.small_amount is not None else float(rule.amount)
    elif basis in ("per_frame", "per_seam"):
        wanted = float(rule.amount) * (strength or 0.0)
    else:
        wanted = float(rule.amount) * ceil((strength or 0.0) / (rule.per or 1.0) - 1e-9)
    limits = [wanted]
    if rule.max_per_box is not None and basis != "per_colony":
        limits.append(rule.max_per_box * brood_boxes)
    if rule.max_per_colony is not None:
        limits.append(rule.max_per_colony)
    quantity = min(limits)
    return DoseResult(
        quantity=quantity,
        unit=rule.unit,
        capped=quantity < wanted,
        small=small,
        applications=option.applications,
        course_total=quantity * option.applications,
        converted=converted and depends,
    )
