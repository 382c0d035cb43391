"""From records of the work layer to what goes over the wire, where the shapes differ."""

from __future__ import annotations

from typing import Any

from redframe.api import schemas
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.eligibility import Suitability
from redframe.work.colonies import ColonyView
from redframe.work.eligibility import ApiaryChoice
from redframe.work.places import ApiaryView, PlacesView
from redframe.work.planning import Worklist
from redframe.work.thresholds import PolicyInForce, school_views
from redframe.work.treatments import CourseView, PlannedRow


def places(view: PlacesView, today: Any) -> schemas.PlacesView:
    """The list of apiaries."""
    rows = [schemas.ApiaryRow.model_validate({**_fields(row), "worst": worst}) for row, worst in view.apiaries]
    keepers = [schemas.Keeper.model_validate(keeper) for keeper in view.keepers]
    return schemas.PlacesView(today=today, apiaries=rows, keepers=keepers)


def apiary(view: ApiaryView, today: Any) -> schemas.ApiaryView:
    """An apiary with its strips."""
    fields = {name: getattr(view, name) for name in view.__dataclass_fields__ if name != "policy"}
    return schemas.ApiaryView.model_validate(
        {**fields, "today": today, "school": view.policy.school, "scope": view.policy.scope}
    )


def colony(view: ColonyView, today: Any) -> schemas.ColonyView:
    """A colony with all its records."""
    fields = {name: getattr(view, name) for name in view.__dataclass_fields__ if name != "policy"}
    courses = [course_view(item) for item in view.courses]
    return schemas.ColonyView.model_validate(
        {**fields, "courses": courses, "today": today, "school": view.policy.school}
    )


def course_view(view: CourseView) -> schemas.CourseView:
    """A course with its steps as they stand today."""
    course = view.course
    steps = [
        {
            **{name: getattr(item, name) for name in item.__dataclass_fields__ if name != "step"},
            **{name: getattr(item.step, name) for name in ("name", "kind", "first_ideal", "hard_stop", "after")},
        }
        for item in view.steps
    ]
    return schemas.CourseView.model_validate(
        {
            **_fields(course),
            "option": view.option,
            "reasons": course.suitability.get("reasons", []),
            "steps": steps,
            "next_step": view.next_step,
        }
    )


def options(found: ApiaryChoice) -> schemas.ApiaryOptions:
    """The options for colonies of an apiary, with the forecast behind them."""
    forecast = found.forecast
    days = [
        schemas.ForecastDay(
            day=forecast.day(i), tmax_c=forecast.tmax[i], tmin_c=forecast.tmin[i], rain_mm=forecast.rain_mm[i]
        )
        for i in range(len(forecast))
    ]
    rows = [
        schemas.ColonyOptions(
            colony_id=item.colony.id,
            label=item.colony.label,
            strength=item.colony.strength,
            strength_unit=item.colony.strength_unit,
            median=item.colony.median,
            level=item.colony.level,
            options=[suitability(one) for one in item.choice.options.values()],
            ranking=item.choice.ranking,
        )
        for item in found.colonies
    ]
    situation = found.colonies[0].situation
    return schemas.ApiaryOptions(
        apiary=schemas.Apiary.model_validate(found.apiary),
        start_on=found.day,
        season=situation.season_phase,
        winter_bee_date=situation.policy.winter_bee_date,
        forecast=days,
        catalogue=[schemas.OptionView.model_validate(option) for option in default_catalogue().options],
        colonies=rows,
    )


def suitability(item: Suitability) -> schemas.SuitabilityView:
    """One option for one colony."""
    fields = {name: getattr(item, name) for name in item.__dataclass_fields__ if name != "option"}
    return schemas.SuitabilityView.model_validate(
        {**fields, "option_id": item.option.id, "supporting": item.supporting}
    )


def planned(row: PlannedRow) -> schemas.PlannedRow:
    """What became of one colony of a plan."""
    return schemas.PlannedRow.model_validate(row)


def worklist(found: Worklist) -> schemas.WorklistView:
    """The day's work."""
    lines = [
        {**_fields(line.due), **{name: getattr(line, name) for name in line.__dataclass_fields__ if name != "due"}}
        for line in found.steps
    ]
    fields = {name: getattr(found, name) for name in found.__dataclass_fields__ if name != "steps"}
    return schemas.WorklistView.model_validate({**fields, "steps": lines})


def policy(found: PolicyInForce) -> schemas.PolicyView:
    """The policy in force and the schools to choose from."""
    return schemas.PolicyView.model_validate(
        {
            "version": found.version,
            "school": found.school,
            "threshold_basis": found.basis,
            "scope": found.scope,
            "calendar": found.raw_calendar,
            "treatment_rules": found.treatment_rules,
            "schools": school_views(),
        }
    )


def _fields(row: Any) -> dict[str, Any]:
    return {name: getattr(row, name) for name in row.__dataclass_fields__}
