"""The open calculators of disease: what the findings of a colony fit."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from redframe.core.calculators.calculator import Calculator
from redframe.core.deadouts.assessment import DeadAssessment, assess_dead
from redframe.core.deadouts.signs import read_dead
from redframe.core.disease.brood_assessment import BroodAssessment, assess_brood
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import SignSeen, read_findings
from redframe.core.disease.settings import Effort, Level, Season
from redframe.core.inputs import Input, Number

Id = Annotated[str, StringConstraints(max_length=40)]


class SignInput(Input):
    """A sign: an extent, or a number for one that is measured; none where it was not examined."""

    sign: Id
    examined: bool
    value: Literal["absent", "few", "some", "many"] | Number | None = None
    effort: Effort = "standard"


class ContextInput(Input):
    """Season and place, and what happened of late."""

    season: Season
    afb_level: Level = "occasional"
    efb_level: Level = "occasional"
    shb_established: bool = False
    tropilaelaps_present: bool = False
    all_brood_frames_shaken: bool = False
    flags: Annotated[list[Id], Field(max_length=40)] = []


class BroodDiagnosisInput(Input):
    """The signs of a living colony, and where and when they were looked for."""

    signs: Annotated[list[SignInput], Field(max_length=200)]
    context: ContextInput


class DeadoutDiagnosisInput(Input):
    """The signs of a dead colony, and where and when they were looked for."""

    signs: Annotated[list[SignInput], Field(max_length=200)]
    context: ContextInput


def _seen(given: BroodDiagnosisInput | DeadoutDiagnosisInput) -> list[SignSeen]:
    return [SignSeen(one.sign, one.examined, one.value, one.effort) for one in given.signs]


def _context(given: ContextInput) -> Context:
    return Context(**{**given.model_dump(), "flags": frozenset(given.flags)})


def _brood_diagnosis(given: BroodDiagnosisInput) -> dict[str, Any]:
    return _said(assess_brood(read_findings(_seen(given)), _context(given.context)), [])


def _deadout_diagnosis(given: DeadoutDiagnosisInput) -> dict[str, Any]:
    found = assess_dead(read_dead(_seen(given)), _context(given.context))
    return {**_said(found, found.secondary), "settled": found.is_settled, "chain": list(found.chain)}


def _said(found: BroodAssessment | DeadAssessment, secondary: Sequence[str]) -> dict[str, Any]:
    return {
        "ranking": [
            {"id": one.id, "probability": one.probability, "pinned_by": list(one.pinned_by)} for one in found.ranking
        ],
        "best_set": list(found.best_set),
        "secondary": list(secondary),
        "unexplained": list(found.unexplained),
        "flags": list(found.flags),
        "next_tests": [
            {"id": one.id, "gain_bits": one.gain_bits, "cost_minutes": one.minutes, "forced_by": one.forced_by}
            for one in found.next_tests
        ],
        "terms": [
            {"id": one.condition, "sign": one.sign, "weight": one.weight, "log_odds": one.log_odds}
            for one in found.terms
        ],
        "matrix_version": found.settings_version,
    }


DIAGNOSING: tuple[Calculator[Any], ...] = (
    Calculator(
        "brood_diagnosis",
        "What the signs of a living colony fit, what must be done at once, and what to look at next.",
        BroodDiagnosisInput,
        _brood_diagnosis,
        {
            "signs": [
                {"sign": "cap_sunken", "examined": True, "value": "few"},
                {"sign": "cap_perforated", "examined": True, "value": "some"},
                {"sign": "pattern_spotty", "examined": True, "value": 30},
                {"sign": "ropy_thread", "examined": False},
            ],
            "context": {"season": "late_summer"},
        },
        "brood-diagnosis",
    ),
    Calculator(
        "deadout_diagnosis",
        "What the findings of a dead colony fit, what must be done at once, and what to look at next.",
        DeadoutDiagnosisInput,
        _deadout_diagnosis,
        {
            "signs": [
                {"sign": "d_bees_gone", "examined": True, "value": "some"},
                {"sign": "d_stores_plenty", "examined": True, "value": 9},
                {"sign": "d_brood_perforated", "examined": True, "value": "few"},
                {"sign": "d_scale_stuck", "examined": True, "value": "absent"},
                {"sign": "d_wash_high", "examined": False},
            ],
            "context": {"season": "winter"},
        },
        "dead-outs",
    ),
)
