"""The open calculators of counts: rates, thresholds, samples, forecasts and efficacy."""

from __future__ import annotations

from math import isfinite
from typing import Annotated, Any

from pydantic import Field, PlainValidator, WithJsonSchema

from redframe.core.calculators.calculator import Calculator, NotNegative, Positive, plain
from redframe.core.errors import InvalidInput
from redframe.core.forecast.request import ForecastInput, forecast
from redframe.core.inputs import Bees, Input, IsoDate, Mites, Moment
from redframe.core.policy.schemes import SCHEMES, phase_threshold, scheme_of
from redframe.core.sampling.board import board_fall
from redframe.core.sampling.plan import detection_sample
from redframe.core.sampling.rates import p_over, rate_interval
from redframe.core.sampling.shakes import removal
from redframe.core.sampling.trend import growth
from redframe.core.season.given import GivenCalendar
from redframe.core.treatments.verification import henderson_tilton

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


def _henderson_tilton(given: HendersonTiltonInput) -> dict[str, Any]:
    percent = henderson_tilton(given.treated_pre, given.treated_post, given.control_pre, given.control_post)
    if not isfinite(percent):
        raise InvalidInput("treated_pre", "these rates are too far apart to compare", code="out_of_range")
    return {"efficacy_percent": percent}


def _growth(given: GrowthInput) -> dict[str, Any]:
    found = growth(given.mites_1, given.bees_1, given.date_1, given.mites_2, given.bees_2, given.date_2)
    return plain(found)


COUNTING: tuple[Calculator[Any], ...] = (
    Calculator(
        "rate_interval",
        "Mites per 100 bees with the exact (Clopper-Pearson) interval, bees counted.",
        RateIntervalInput,
        lambda given: plain(rate_interval(given.mites, given.bees, given.confidence)),
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
        lambda given: plain(removal(given.shakes)),
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
        lambda given: plain(phase_threshold(given.date, given.calendar, given.school)),
        {"date": "2031-08-02", "calendar": NORTH, "school": "season_phase"},
        "thresholds",
    ),
    Calculator(
        "board_fall",
        "Mites a day on an insert board, with the exact 95 % interval, from the elapsed hours.",
        BoardFallInput,
        lambda given: plain(board_fall(given.mites, given.placed, given.removed)),
        {"mites": 37, "placed": "2031-07-28T10:00:00-01:00", "removed": "2031-07-31T10:00:00-01:00"},
        "counting",
    ),
    Calculator(
        "detection_sample",
        "How many colonies of an apiary to count so that one of those over the threshold is found.",
        DetectionSampleInput,
        lambda given: plain(detection_sample(given.colonies, given.over, given.confidence, given.sensitivity)),
        {"colonies": 24, "over": 3, "confidence": 0.95, "sensitivity": 0.85},
        "counting",
    ),
    Calculator(
        "forecast",
        "Mites per 100 bees day by day after the last count, with bands, and when a threshold is crossed.",
        ForecastInput,
        lambda given: plain(forecast(given)),
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
)
