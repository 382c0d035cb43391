"""The open calculators of treatments: what suits, doses, mixing, dates and weather."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any

from pydantic import Field

from redframe.core.calculators.calculator import Calculator, plain
from redframe.core.colonies.brood_calendar import Event, brood_calendar
from redframe.core.inputs import Input, IsoDate, Number, Whole
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import clearance, plan_course
from redframe.core.treatments.dose import dose
from redframe.core.treatments.eligibility import choose
from redframe.core.treatments.oxalic import StrengthBasis, oxalic_batch, oxalic_from_recipe, oxalic_solution
from redframe.core.treatments.plain import choice_as_plain
from redframe.core.treatments.shopping import shopping
from redframe.core.treatments.situation import ForecastFacts, Situation
from redframe.core.treatments.weather import hot_hours, window


class DoseInput(Input):
    """An option of the catalogue and the strength of the colony."""

    option: str
    frames: Annotated[float, Field(strict=True, allow_inf_nan=False, gt=0, le=60)] | None = None
    seams: Annotated[float, Field(strict=True, allow_inf_nan=False, gt=0, le=60)] | None = None
    brood_boxes: Annotated[int, Field(strict=True, ge=1, le=6)] = 1


class OxalicSolutionInput(Input):
    """Millilitres of finished solution wanted, and the strength with its basis."""

    target_ml: Number
    strength: Number
    basis: StrengthBasis
    sugar_per_water: Number = 1.0


class OxalicBatchInput(Input):
    """Seams of bees of each colony to be trickled."""

    seams: list[Number]
    waste_pct: Number = 10.0


class OxalicFromRecipeInput(Input):
    """A recipe that somebody was given: crystals, sugar and water."""

    dihydrate_g: Number
    sugar_g: Number
    water_ml: Number


class ShoppingInput(Input):
    """Frames of bees and brood boxes of each colony, and the units in a pack."""

    option: str
    frames: list[Number]
    brood_boxes: list[Annotated[int, Field(strict=True)]] | None = None
    pack_size: Number
    spare_pct: Number = 0.0


class WindowInput(Input):
    """An option and the forecast of a place."""

    option: str
    forecast: ForecastFacts


class HourlyInput(Input):
    """Extremes of a day and the limit of an option, in °C."""

    tmin: Number
    tmax: Number
    limit: Number


class ClearanceInput(Input):
    """Day of removal and the withdrawal period of the label."""

    removed: IsoDate
    withdrawal_days: Annotated[int, Field(strict=True, ge=0, le=1000)]


class CourseInput(Input):
    """An option, its first day, and what has been done so far (step name to day)."""

    option: str
    start: IsoDate
    actuals: dict[str, IsoDate] = {}
    interval_override: Whole | None = None


class BroodCalendarInput(Input):
    """Something seen or done in a colony, its day, and for a caged queen the day on which she is set free."""

    event: Event
    date: IsoDate
    release: IsoDate | None = None


def _brood_calendar(given: BroodCalendarInput) -> dict[str, Any]:
    found = plain(brood_calendar(given.event, given.date, given.release))
    result = {name: value for name, value in found.items() if value not in (None, "")}
    return {**result, "expectations": {name: list(days) for name, days in found["expectations"].items()}}


def _dose(given: DoseInput) -> dict[str, Any]:
    option = default_catalogue().option(given.option)
    result = plain(dose(option, frames=given.frames, seams=given.seams, brood_boxes=given.brood_boxes))
    return {**result, "text": option.dose.text, "check_label": option.check_label}


def _window(given: WindowInput) -> dict[str, Any]:
    days = window(default_catalogue().option(given.option), given.forecast.as_forecast())
    usable = [one.date for one in days if one.result in ("ok", "caution")]
    clear = [one.date for one in days if one.result == "ok"]
    return {
        "days": [plain(one) for one in days],
        "first_usable": min(usable, default=None),
        "first_clear": min(clear, default=None),
    }


def _shopping(given: ShoppingInput) -> dict[str, Any]:
    option = default_catalogue().option(given.option)
    found = plain(shopping(option, given.frames, given.pack_size, given.brood_boxes, given.spare_pct))
    note = "use before expiry; do not share opened packs across owners unless the record says so"
    return {**found, "notes": [note], "check_label": option.check_label}


def _course(given: CourseInput) -> dict[str, Any]:
    option = default_catalogue().option(given.option)
    planned = plan_course(option, given.start, given.actuals, given.interval_override)
    steps: dict[str, list[date] | date] = {step.name: step.window.as_list() for step in planned.steps}
    if planned.honey_clear is not None:
        steps["honey_clear"] = planned.honey_clear
    return {"steps": steps, "check_label": option.check_label}


def _unsaid(given: Situation) -> list[str]:
    """What was left out and changes no verdict, but should be known by whoever reads it."""
    notes = []
    if "last_treatments" not in given.colony.model_fields_set:
        notes.append("earlier treatments not recorded")
    if given.policy.authorised is None:
        notes.append("what is authorised here has not been entered: check before you choose")
    return notes


_COLONY = {
    "strength": {"value": 9, "unit": "frames"},
    "brood_boxes": 1,
    "capped_worker_brood": "yes",
    "queen": "mated",
    "supers_on": False,
    "fed": False,
    "infestation_pct": 4.2,
    "counted_on": "2031-07-30",
}


_FORECAST = {
    "start": "2031-08-02",
    "tmax": [28, 31, 30.2, 29.4, 28.7, 27.5, 26, 25, 26, 27],
    "tmin": [15, 15, 15, 15, 15, 15, 15, 15, 15, 15],
    "rain_mm": [0, 0, 0, 0, 0, 0, 7, 1, 3, 0],
}


TREATING: tuple[Calculator[Any], ...] = (
    Calculator(
        "dose",
        "Dose of one placing of an option for one colony, and of the whole course.",
        DoseInput,
        _dose,
        {"option": "OX_TRICKLE", "seams": 8},
        "courses",
    ),
    Calculator(
        "oxalic_solution",
        "What to weigh out for an oxalic acid trickling solution of a stated strength and basis.",
        OxalicSolutionInput,
        lambda given: plain(oxalic_solution(given.target_ml, given.strength, given.basis, given.sugar_per_water)),
        {"target_ml": 500, "strength": 4.5, "basis": "dihydrate_wv"},
        "oxalic",
    ),
    Calculator(
        "oxalic_from_recipe",
        "How much a recipe makes and how strong it is, in both bases.",
        OxalicFromRecipeInput,
        lambda given: plain(oxalic_from_recipe(given.dihydrate_g, given.sugar_g, given.water_ml)),
        {"dihydrate_g": 75, "sugar_g": 1000, "water_ml": 1000},
        "oxalic",
    ),
    Calculator(
        "shopping",
        "Units of a product for the colonies of a plan, packs to buy, and what is left over.",
        ShoppingInput,
        _shopping,
        {"option": "AMZ_STRIP", "frames": [7, 10, 16, 4], "brood_boxes": [1, 1, 2, 1], "pack_size": 10},
        "courses",
    ),
    Calculator(
        "window",
        "On which days of a forecast an option may be placed, and which rules speak.",
        WindowInput,
        _window,
        {"option": "FA_STRIP2", "forecast": _FORECAST},
        "eligibility",
    ),
    Calculator(
        "hourly",
        "Hours of a day above the limit of an option and near it.",
        HourlyInput,
        lambda given: plain(hot_hours(given.tmin, given.tmax, given.limit)),
        {"tmin": 17, "tmax": 31, "limit": 29.5},
        "eligibility",
    ),
    Calculator(
        "oxalic_batch",
        "Millilitres of oxalic solution for each colony by its seams of bees, and the batch to mix.",
        OxalicBatchInput,
        lambda given: plain(oxalic_batch(given.seams, given.waste_pct)),
        {"seams": [6, 8, 11, 5], "waste_pct": 10},
        "oxalic",
    ),
    Calculator(
        "clearance",
        "Day from which honey is clear after a treatment was removed.",
        ClearanceInput,
        lambda given: {"clear_on": clearance(given.removed, given.withdrawal_days)},
        {"removed": "2031-10-05", "withdrawal_days": 14},
        "courses",
    ),
    Calculator(
        "eligibility",
        "Which treatments suit a colony today, with every rule that speaks and the order they are shown in.",
        Situation,
        lambda given: {**choice_as_plain(choose(default_catalogue(), given)), "notes": _unsaid(given)},
        {
            "today": "2031-08-02",
            "season_phase": "post_harvest",
            "colony": _COLONY,
            "forecast": _FORECAST,
            "policy": {"winter_bee_date": "2031-08-25"},
        },
        "eligibility",
    ),
    Calculator(
        "course",
        "The dated steps of a treatment course, moving with what has been done.",
        CourseInput,
        _course,
        {"option": "FA_STRIP11", "start": "2031-08-04", "actuals": {"place_1": "2031-08-05"}},
        "courses",
    ),
    Calculator(
        "brood_calendar",
        "What brood and queens will do after an event, early, typical and late, and when no brood is capped.",
        BroodCalendarInput,
        _brood_calendar,
        {"event": "queen_removed", "date": "2031-06-14"},
        "brood-calendar",
    ),
)
