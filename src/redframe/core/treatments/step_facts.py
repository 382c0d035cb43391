"""What is asked at a step of a course besides its day and its dose, and what the answers say.

Which step asks what follows from the facts of the option: what stays in the hive comes out again and is counted, what
gives off vapour loses weight, and what is left over is disposed of.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from datetime import date
from typing import Literal

from redframe.core.errors import InvalidInput, Refused
from redframe.core.said import Params
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.course import StepKind
from redframe.core.treatments.reasons import Reason

QueenSeen = Literal["queen", "eggs", "neither"]
Asked = Literal["applied_by", "temperature_c", "queen_seen", "left_pct", "taken_out", "disposed", "adverse"]
COUNTED_UNITS = ("strip", "tablet")
"""What can be counted out of the hive again."""
LOWEST_C, HIGHEST_C = -30.0, 50.0
MOST_TAKEN_OUT = 100.0
SAME = 1e-6


@dataclass(frozen=True, slots=True)
class StepFacts:
    """What was found and done at a step; empty where nothing was said.

    `applied_by`: who applied it, where that is not who recorded it. `temperature_c`: air temperature. `queen_seen`: the
    queen, or her eggs. `left_pct`: share of the dose that is still there. `taken_out`: how much came out, in the unit
    of the dose. `disposed`: how and where the remains went. `adverse`: what bees or people suffered, and to whom it was
    reported.
    """

    applied_by: str
    temperature_c: float | None
    queen_seen: QueenSeen | None
    left_pct: float | None
    taken_out: float | None
    disposed: str
    adverse: str


NOTHING = StepFacts("", None, None, None, None, "", "")


def asked_at(option: Option, kind: StepKind, placing: int | None) -> tuple[Asked, ...]:
    """What a step of an option asks for; nothing at a step that is done at the desk."""
    if kind == "place":
        left: tuple[Asked, ...] = ("left_pct",) if option.lasts is not None and (placing or 1) > 1 else ()
        return ("temperature_c", "queen_seen", *left, "applied_by", "adverse")
    if kind == "interim_check":
        left = ("left_pct",) if option.lasts is not None else ()
        return ("temperature_c", "queen_seen", *left, "adverse")
    if kind == "remove":
        out: tuple[Asked, ...] = ("taken_out",) if option.dose_unit in COUNTED_UNITS and option.chemical else ()
        left = ("left_pct",) if option.lasts is not None else ()
        return (*out, *left, "queen_seen", "adverse")
    if kind == "dispose":
        return ("disposed",)
    return ("adverse",) if kind == "end" else ()


def check_facts(option: Option, kind: StepKind, placing: int | None, facts: StepFacts) -> StepFacts:
    """The facts that the step asks for, if they can be so. Raises InvalidInput naming the field."""
    asked = asked_at(option, kind, placing)
    left_out = {one.name: getattr(NOTHING, one.name) for one in fields(StepFacts) if one.name not in asked}
    kept = replace(facts, **left_out)
    if kept.temperature_c is not None and not LOWEST_C <= kept.temperature_c <= HIGHEST_C:
        text = f"must be {LOWEST_C:g} to {HIGHEST_C:g} °C"
        raise InvalidInput("temperature_c", text, code="out_of_range")
    if kept.left_pct is not None and not 0 <= kept.left_pct <= 100:
        raise InvalidInput("left_pct", "must be 0 to 100 %", code="out_of_range", allowed="0 to 100")
    if kept.taken_out is not None and not 0 <= kept.taken_out <= MOST_TAKEN_OUT:
        raise InvalidInput("taken_out", f"must be 0 to {MOST_TAKEN_OUT:g}", code="out_of_range")
    return kept


def check_dose(option: Option, planned: float | None, quantity: float, note: str, *, is_set_aside: bool) -> None:
    """What speaks against a dose: more than the most for a colony (somebody named may take it on), and one that differs
    from the planned dose without a word why.

    Raises Refused("T44") naming `quantity`, InvalidInput naming `note`.
    """
    most = option.dose.max_per_colony
    if most is not None and quantity > most + SAME and not is_set_aside:
        text = f"at most {most:g} {option.dose_unit} for a colony, by label"
        raise Refused("T44", text, field="quantity", can_override=True)
    if planned is not None and abs(quantity - planned) > SAME and not note.strip():
        more = "more" if quantity > planned else "less"
        raise InvalidInput("note", f"say why {more} than the {planned:g} planned", code="missing")


def check_taken_out(placed: float | None, facts: StepFacts, note: str) -> None:
    """As many out as went in, or a word on where the others are. Raises InvalidInput naming `note`."""
    if placed is None or facts.taken_out is None or abs(facts.taken_out - placed) <= SAME or note.strip():
        return
    raise InvalidInput("note", f"{placed:g} were placed: say where the difference is", code="missing")


@dataclass(frozen=True, slots=True)
class Placed:
    """A dose in the hive, from a day on."""

    on: date
    quantity: float | None


def lost_per_day(option: Option, placed: Placed | None, left_pct: float | None, on: date) -> float | None:
    """How much of a dose is lost a day, in its unit, from the share that is left on a day; None where nothing tells."""
    if option.lasts is None or placed is None or placed.quantity is None or left_pct is None:
        return None
    days = (on - placed.on).days
    return placed.quantity * (1 - left_pct / 100) / days if days > 0 else None


def findings_of(option: Option, facts: StepFacts, on: date, placings: Sequence[Placed]) -> list[Reason]:
    """What the answers of a step say: lost too fast or too slowly by the option's facts, or fewer out than in.

    `placings`: the doses before this step, oldest first.
    """
    found: list[Reason] = []
    rate = lost_per_day(option, placings[-1] if placings else None, facts.left_pct, on)
    if rate is not None and option.lasts is not None and option.lasts.per_day is not None:
        low, high = option.lasts.per_day
        if not low <= rate <= high:
            code: Literal["lost_too_fast", "lost_too_slowly"] = "lost_too_fast" if rate > high else "lost_too_slowly"
            said: Params = {"rate": round(rate, 1), "unit": option.dose_unit, "low": low, "high": high}
            found.append(Reason("S7", "caution", "L", {"rate": round(rate, 1), "limit": high if rate > high else low},
                                code, said))  # fmt: skip
    amounts = [one.quantity for one in placings]
    # What is exchanged comes out each time: the last dose is the one that is counted out.
    inside = amounts[-1] if amounts else None
    if facts.taken_out is not None and inside is not None and facts.taken_out < inside - SAME:
        missing = inside - facts.taken_out
        lost: Params = {"missing": missing, "unit": option.dose_unit}
        found.append(Reason("S8", "caution", "L", {"taken_out": facts.taken_out, "limit": inside}, "not_all_out", lost))
    return found
