"""The open calculators: the application's own rules for a spreadsheet, a script or another association's tool.

Each is a name, a sentence, an input model, a function and an example from the Isle of Corrane. Names and shapes are
fixed by contract; the functions call the core and add nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, is_dataclass
from datetime import date
from math import isfinite
from typing import Annotated, Any, Generic, TypeVar

from pydantic import BaseModel, Field, PlainValidator, WithJsonSchema

from redframe.core.colonies.brood_calendar import Event, brood_calendar
from redframe.core.errors import InvalidInput
from redframe.core.forecast.request import ForecastInput, forecast
from redframe.core.inputs import Bees, Input, IsoDate, Mites, Moment, Number, Whole, read
from redframe.core.policy.schemes import SCHEMES, phase_threshold, scheme_of
from redframe.core.sampling.board import board_fall
from redframe.core.sampling.plan import detection_sample
from redframe.core.sampling.rates import p_over, rate_interval
from redframe.core.sampling.shakes import removal
from redframe.core.sampling.trend import growth
from redframe.core.season.given import GivenCalendar
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import clearance, plan_course
from redframe.core.treatments.dose import dose
from redframe.core.treatments.eligibility import Choice, Suitability, choose
from redframe.core.treatments.oxalic import StrengthBasis, oxalic_batch, oxalic_solution
from redframe.core.treatments.situation import Situation
from redframe.core.treatments.verification import henderson_tilton

Positive = Annotated[float, Field(strict=True, allow_inf_nan=False, gt=0, le=1e9)]
NotNegative = Annotated[float, Field(strict=True, allow_inf_nan=False, ge=0, le=1e9)]

NORTH = {
    "dormant": "11-01",
    "build_up": "03-01",
    "peak": "05-15",
    "decline": "07-25",
    "winter_bees": "08-25",
    "lead_days": 42,
}


class RateIntervalInput(Input):
    """Mites found on a known number of bees."""

    mites: Mites
    bees: Bees
    confidence: Annotated[float, Field(strict=True, allow_inf_nan=False, gt=0.5, lt=1)] = 0.95


class POverInput(Input):
    """Mites found on a known number of bees, and a threshold in mites per 100 bees."""

    mites: Mites
    bees: Bees
    threshold_per_100: Positive


class RemovalInput(Input):
    """Mites brought down by each shake of one jar, in order."""

    shakes: Annotated[list[Annotated[int, Field(strict=True, ge=0, le=100_000)]], Field(min_length=2, max_length=8)]


class GrowthInput(Input):
    """Two counts of one colony."""

    mites_1: Mites
    bees_1: Bees
    date_1: IsoDate
    mites_2: Mites
    bees_2: Bees
    date_2: IsoDate


def _school(value: object) -> str:
    return scheme_of(value if isinstance(value, str) else "").id


class PhaseThresholdInput(Input):
    """A day, the calendar of a place, and a school of thresholds."""

    date: IsoDate
    calendar: GivenCalendar
    school: Annotated[str, PlainValidator(_school), WithJsonSchema({"type": "string", "enum": list(SCHEMES)})]


class BoardFallInput(Input):
    """Mites on a board, and the moments between which it was in, with their offsets."""

    mites: Mites
    placed: Moment
    removed: Moment


class DetectionSampleInput(Input):
    """Colonies of an apiary, how many are over, the confidence wanted, and how sure one count shows it."""

    colonies: Annotated[int, Field(strict=True, ge=1, le=100_000)]
    over: Annotated[int, Field(strict=True, ge=1, le=100_000)]
    confidence: Annotated[float, Field(strict=True, allow_inf_nan=False, gt=0, lt=1)]
    sensitivity: Annotated[float, Field(strict=True, allow_inf_nan=False, gt=0, le=1)] = 1.0


class HendersonTiltonInput(Input):
    """Mean rates of treated and untreated colonies before and after, on one scale."""

    treated_pre: Positive
    treated_post: NotNegative
    control_pre: Positive
    control_post: Positive


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


I = TypeVar("I", bound=BaseModel)  # noqa: E741


@dataclass(frozen=True, slots=True)
class Calculator(Generic[I]):
    """One open calculation."""

    name: str
    sentence: str
    inputs: type[I]
    compute: Callable[[I], dict[str, Any]]
    example: dict[str, Any]
    method_note: str

    def __call__(self, data: Mapping[str, Any]) -> dict[str, Any]:
        """Read the input, compute, return plain values. Raises InvalidInput for the first bad field."""
        return self.compute(read(self.inputs, data))


def _henderson_tilton(given: HendersonTiltonInput) -> dict[str, Any]:
    percent = henderson_tilton(given.treated_pre, given.treated_post, given.control_pre, given.control_post)
    if not isfinite(percent):
        raise InvalidInput("treated_pre", "these rates are too far apart to compare", code="out_of_range")
    return {"efficacy_percent": percent}


def _plain(result: Any) -> dict[str, Any]:
    assert is_dataclass(result) and not isinstance(result, type)
    return asdict(result)


def _growth(given: GrowthInput) -> dict[str, Any]:
    found = growth(given.mites_1, given.bees_1, given.date_1, given.mites_2, given.bees_2, given.date_2)
    return _plain(found)


def _brood_calendar(given: BroodCalendarInput) -> dict[str, Any]:
    found = _plain(brood_calendar(given.event, given.date, given.release))
    result = {name: value for name, value in found.items() if value not in (None, "")}
    return {**result, "expectations": {name: list(days) for name, days in found["expectations"].items()}}


def _dose(given: DoseInput) -> dict[str, Any]:
    option = default_catalogue().option(given.option)
    result = _plain(dose(option, frames=given.frames, seams=given.seams, brood_boxes=given.brood_boxes))
    return {**result, "text": option.dose.text, "check_label": option.check_label}


def _course(given: CourseInput) -> dict[str, Any]:
    option = default_catalogue().option(given.option)
    planned = plan_course(option, given.start, given.actuals, given.interval_override)
    steps: dict[str, list[date] | date] = {step.name: step.window.as_list() for step in planned.steps}
    if planned.honey_clear is not None:
        steps["honey_clear"] = planned.honey_clear
    return {"steps": steps, "check_label": option.check_label}


def suitability_as_plain(item: Suitability) -> dict[str, Any]:
    """One judged option as plain values, in the shape of the `eligibility` calculator."""
    return {
        "name": item.option.name,
        "verdict": item.verdict,
        "from": item.from_day,
        "weather_known": item.weather_known,
        "rules": item.rules,
        "reasons": [asdict(reason) for reason in item.reasons],
        "eff": list(item.efficacy) if item.efficacy else None,
        "expected_after": list(item.expected_after) if item.expected_after else None,
        "in_time": item.in_time,
        "visits": item.option.visits,
        "queen_loss_pct": list(item.option.queen_loss_pct),
        "dose": asdict(item.dose) if item.dose else None,
        "ends_on": item.ends_on,
        "honey_clear": item.honey_clear,
        "check_label": item.option.check_label,
    }


def choice_as_plain(choice: Choice) -> dict[str, Any]:
    """All options, the ranking and the supporting measures as plain values."""
    options = {name: suitability_as_plain(item) for name, item in choice.options.items()}
    return {"options": options, "ranking": choice.ranking, "supporting": choice.supporting}


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

CALCULATORS: dict[str, Calculator[Any]] = {
    item.name: item
    for item in (
        Calculator(
            "rate_interval",
            "Mites per 100 bees with the exact (Clopper-Pearson) interval, bees counted.",
            RateIntervalInput,
            lambda given: _plain(rate_interval(given.mites, given.bees, given.confidence)),
            {"mites": 6, "bees": 300},
            "counting",
        ),
        Calculator(
            "p_over",
            "Probability that the true rate is at or over a threshold, bees counted and every mite found.",
            POverInput,
            lambda given: {"p_over": p_over(given.mites, given.bees, given.threshold_per_100)},
            {"mites": 6, "bees": 300, "threshold_per_100": 2},
            "counting",
        ),
        Calculator(
            "removal",
            "Whether repeated shakes have emptied a jar of its mites, and whether to shake again.",
            RemovalInput,
            lambda given: _plain(removal(given.shakes)),
            {"shakes": [13, 4, 1]},
            "counting",
        ),
        Calculator(
            "growth",
            "Growth between two counts of one colony, with its interval and the chance that it rose.",
            GrowthInput,
            _growth,
            {
                "mites_1": 3,
                "bees_1": 300,
                "date_1": "2031-06-21",
                "mites_2": 9,
                "bees_2": 290,
                "date_2": "2031-07-26",
            },
            "counting",
        ),
        Calculator(
            "phase_threshold",
            "Season phase of a day and the watch, act and urgent levels of a school in it.",
            PhaseThresholdInput,
            lambda given: _plain(phase_threshold(given.date, given.calendar, given.school)),
            {"date": "2031-08-02", "calendar": NORTH, "school": "season_phase"},
            "thresholds",
        ),
        Calculator(
            "board_fall",
            "Mites a day on an insert board, with the exact 95 % interval, from the elapsed hours.",
            BoardFallInput,
            lambda given: _plain(board_fall(given.mites, given.placed, given.removed)),
            {"mites": 37, "placed": "2031-07-28T10:00:00-01:00", "removed": "2031-07-31T10:00:00-01:00"},
            "counting",
        ),
        Calculator(
            "detection_sample",
            "How many colonies of an apiary to count so that one of those over the threshold is found.",
            DetectionSampleInput,
            lambda given: _plain(detection_sample(given.colonies, given.over, given.confidence, given.sensitivity)),
            {"colonies": 24, "over": 3, "confidence": 0.95, "sensitivity": 0.85},
            "counting",
        ),
        Calculator(
            "forecast",
            "Mites per 100 bees day by day after the last count, with bands, and when a threshold is crossed.",
            ForecastInput,
            lambda given: _plain(forecast(given)),
            {
                "counts": [
                    {"date": "2031-06-20", "mites": 4, "bees": 300},
                    {"date": "2031-07-14", "mites": 11, "bees": 310},
                ],
                "calendar": NORTH,
                "events": [{"type": "treat", "start": "2031-07-20", "days": 14, "kp": 0.15, "kc": 0.065}],
                "horizon_days": 42,
                "threshold_per_100": 2.0,
                "random_state": 1,
            },
            "forecast",
        ),
        Calculator(
            "henderson_tilton",
            "Efficacy of a treatment in percent, corrected by untreated control colonies.",
            HendersonTiltonInput,
            _henderson_tilton,
            {"treated_pre": 8.0, "treated_post": 1.0, "control_pre": 6.0, "control_post": 9.0},
            "verification",
        ),
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
            lambda given: _plain(oxalic_solution(given.target_ml, given.strength, given.basis, given.sugar_per_water)),
            {"target_ml": 500, "strength": 4.5, "basis": "dihydrate_wv"},
            "oxalic",
        ),
        Calculator(
            "oxalic_batch",
            "Millilitres of oxalic solution for each colony by its seams of bees, and the batch to mix.",
            OxalicBatchInput,
            lambda given: _plain(oxalic_batch(given.seams, given.waste_pct)),
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
            lambda given: choice_as_plain(choose(default_catalogue(), given)),
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
}


def calculator(name: str) -> Calculator[Any]:
    """Look a calculator up; raises InvalidInput("name")."""
    found = CALCULATORS.get(name)
    if found is None:
        raise InvalidInput("name", "is not a calculator", code="unknown", allowed=", ".join(CALCULATORS))
    return found
