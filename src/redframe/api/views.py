"""From records of the work layer to what goes over the wire, where the shapes differ."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from redframe.api.forecast.association_schemas import AssociationForecast
from redframe.api.forecast.schemas import ForecastView
from redframe.api.places.schemas import ApiaryRow, ApiaryView, PlacesView
from redframe.api.planning.schemas import WorkLinesView, WorklistView
from redframe.api.policy.schemas import ApiaryPolicyView, PolicyPreview, PolicyView
from redframe.api.treatments.schemas import (
    ApiaryOptions,
    ColonyOptions,
    ColonyView,
    CourseView,
    ForecastDay,
    OpenCourse,
    OptionDaysView,
    OptionView,
    PlannedRow,
    SuitabilityView,
    TreatmentRoundView,
)
from redframe.core.forecast.effects import modelled, span_days
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.days import OptionDays
from redframe.core.treatments.eligibility import Suitability
from redframe.core.treatments.hive_work import hive_work
from redframe.core.treatments.product_label import figures
from redframe.work.colonies import read as colonies_read
from redframe.work.forecast.association import AssociationForecast as AllForecasts
from redframe.work.forecast.read import ColonyForecast
from redframe.work.places import read as places_read
from redframe.work.planning.read import WorkLines, Worklist, WorkOfKind
from redframe.work.policy import record as policy_record
from redframe.work.policy.read import PolicyInForce, scheme_choices
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import read as treatments_read
from redframe.work.treatments.options import ApiaryChoice, ColonyChoice
from redframe.work.treatments.round import TreatmentRound


def places(view: places_read.PlacesView, today: date) -> PlacesView:
    """A page of the apiaries."""
    rows = [
        ApiaryRow.model_validate({**_fields(one.overview), "old": one.old, "work": one.work}) for one in view.apiaries
    ]
    totals = view.totals
    return PlacesView(
        today=today, apiaries=rows, next=view.next, total_apiaries=totals.apiaries, total_colonies=totals.colonies,
        total_keepers=totals.keepers,
    )  # fmt: skip


def association_forecast(view: AllForecasts) -> AssociationForecast:
    """A page of all colonies with their forecasts."""
    listed = [{**_fields(one), "forecast": ahead} for one, ahead in view.colonies]
    return AssociationForecast.model_validate({**_fields(view), "colonies": listed})


def apiary(view: places_read.ApiaryView, today: date) -> ApiaryView:
    """An apiary with its strips."""
    fields = {name: getattr(view, name) for name in view.__dataclass_fields__ if name != "policy"}
    policy = view.policy
    of_policy = {"scheme": policy.scheme, "scope": policy.scope, "has_own_policy": policy.has_own}
    return ApiaryView.model_validate({**fields, "today": today, **of_policy})


def colony(view: colonies_read.ColonyView, today: date) -> ColonyView:
    """A colony with all its records."""
    fields = {name: getattr(view, name) for name in view.__dataclass_fields__ if name != "policy"}
    courses = [course_view(item) for item in view.courses]
    return ColonyView.model_validate({**fields, "courses": courses, "today": today, "scheme": view.policy.scheme})


def course_view(view: treatments_read.CourseView) -> CourseView:
    """A course with its steps as they stand today."""
    course = view.course
    work = hive_work(course.option_id)
    by_acts = {act.step for act in work.acts} if work is not None else set()
    steps = [
        {**_fields(item.step), "by_acts": item.step.name in by_acts, "act": item.act, "asks": item.asks,
         "findings": item.findings}
        for item in view.steps
    ]  # fmt: skip
    return CourseView.model_validate(
        {
            **_fields(course),
            "option": view.option,
            "is_open": view.is_open,
            "steps": steps,
            "next_step": view.next_step,
            "warnings": view.warnings,
            "late": view.late,
        }
    )


def treatment_round(found: TreatmentRound, today: date) -> TreatmentRoundView:
    """The treatments of a day at one apiary."""
    stops = [{**_fields(stop), "course": course_view(stop.course)} for stop in found.stops]
    return TreatmentRoundView.model_validate(
        {
            "today": today,
            "apiary": found.apiary,
            "stops": stops,
            "take": found.take,
            "lots": found.lots,
            "done": [course_view(one) for one in found.done],
        }
    )


def options(found: ApiaryChoice, by_day: list[OptionDays]) -> ApiaryOptions:
    """The options for colonies of an apiary, with the forecast behind them."""
    forecast = found.forecast
    days = [
        ForecastDay(day=forecast.day(i), tmax_c=forecast.tmax[i], tmin_c=forecast.tmin[i], rain_mm=forecast.rain_mm[i])
        for i in range(len(forecast))
    ]
    rows = [
        ColonyOptions(
            colony_id=item.colony.id,
            label=item.colony.label,
            strength=item.colony.strength,
            strength_unit=item.colony.strength_unit,
            per_100=item.situation.colony.infestation_pct,
            level=item.colony.level,
            treatments_known_since=item.known_since,
            open_courses=[
                OpenCourse(
                    id=course.id,
                    name=default_catalogue().option(course.option_id).name,
                    state=course.state,
                    start_on=course.placed_on or course.start_on,
                )
                for course in item.open_courses
            ],
            options=[suitability(one, item) for one in item.choice.options.values()],
            proposed=proposed,
        )
        for item, proposed in zip(found.colonies, found.mix, strict=True)
    ]
    situation = found.colonies[0].situation
    return ApiaryOptions(
        apiary=found.apiary,
        start_on=found.day,
        season=situation.season_phase,
        winter_bee_date=situation.policy.winter_bee_date,
        forecast=days,
        catalogue=[OptionView.model_validate(option) for option in found.policy.treatment_rules.catalogue.options],
        colonies=rows,
        together=found.together,
        days=[OptionDaysView.model_validate(one) for one in by_day],
    )


def suitability(item: Suitability, of: ColonyChoice) -> SuitabilityView:
    """One option for one colony."""
    fields = {name: getattr(item, name) for name in item.__dataclass_fields__ if name not in ("option", "placed_on")}
    return SuitabilityView.model_validate(
        {
            **fields,
            "option_id": item.option.id,
            "supporting": item.supporting,
            "honey_days": item.honey_days,
            "holding": [reason.rule for reason in item.holding],
            "needs_known_since": of.needs_known_since(item.option),
        }
    )


def planned(row: treatments_plan.PlannedRow) -> PlannedRow:
    """What became of one colony of a plan."""
    return PlannedRow.model_validate(row)


def worklist(found: Worklist) -> WorklistView:
    """The day's work."""
    return WorklistView.model_validate({**_top_fields(found), "steps": _steps(found)})


def work_of_kind(found: WorkOfKind) -> WorkLinesView:
    """What is due of a kind."""
    return WorkLinesView.model_validate({**_top_fields(found), "steps": _steps(found)})


def _steps(found: WorkLines) -> list[dict[str, Any]]:
    return [
        {**_fields(line.due), **{name: getattr(line, name) for name in line.__dataclass_fields__ if name != "due"}}
        for line in found.steps
    ]


def _top_fields(found: WorkLines) -> dict[str, Any]:
    return {name: getattr(found, name) for name in found.__dataclass_fields__ if name != "steps"}


def forecast(found: ColonyForecast) -> ForecastView:
    """The forecast of a colony, and the options that it knows an effect of."""
    catalogue = default_catalogue()
    return ForecastView.model_validate(
        {
            **_fields(found),
            "colony_id": found.colony.id,
            "label": found.colony.label,
            "apiary_id": found.colony.apiary_id,
            "counts": [{**_fields(one.count), **_fields(one)} for one in found.counts],
            "courses": [{**_fields(one), "name": catalogue.option(one.option_id).name} for one in found.courses],
            "options": [{"id": one, "name": catalogue.option(one).name, "days": span_days(one)} for one in modelled()],
        }
    )


def policy(found: PolicyInForce, today: date) -> PolicyView:
    """The policy in force, the schemes to choose from, and its levels through the coming year."""
    return PolicyView.model_validate(
        {
            "version": found.version,
            "scheme": found.scheme,
            "threshold_basis": found.basis,
            "scope": found.scope,
            "calendar": found.dates,
            "treatment_rules": found.treatment_rules,
            "disease_region": found.region,
            "scoops": found.scoops,
            "scoop": found.scoop,
            "own_levels": found.own_levels,
            "stale_after_days": found.policy.stale_after_days,
            "stale_after_days_dormant": found.policy.stale_after_days_dormant,
            "schemes": scheme_choices(found),
            "catalogue": [
                {**one.model_dump(), "dose_unit": one.dose_unit, "figures": figures(one)}
                for one in default_catalogue().options
            ],
            **_year(found, today),
        }
    )


def policy_preview(found: policy_record.PolicyPreview, today: date) -> PolicyPreview:
    """What a draft of a policy would do, and its levels through the coming year."""
    return PolicyPreview.model_validate({**_fields(found), "scoop": found.policy.scoop, **_year(found.policy, today)})


def apiary_policy(found: policy_record.ApiaryPolicyView, today: date) -> ApiaryPolicyView:
    """The policy of an apiary and that of its association."""
    own = found.own
    names = ("scheme", "scope", "calendar", "levels")
    return ApiaryPolicyView.model_validate(
        {
            "apiary_id": found.apiary.id,
            "apiary": found.apiary.name,
            "version": own.version if own else 0,
            "created_at": own.created_at if own else None,
            "by_name": own.by_name if own else "",
            "reason": own.reason if own else "",
            "own": {name: getattr(own, name) if own else None for name in names},
            "scheme": found.policy.scheme,
            "scope": found.policy.scope,
            "calendar": found.policy.dates,
            "association_scheme": found.association.scheme,
            "association_scope": found.association.scope,
            "association_calendar": found.association.dates,
            "schemes": scheme_choices(found.association),
            **_year(found.policy, today),
        }
    )


def _year(found: PolicyInForce, today: date) -> dict[str, Any]:
    last = today + timedelta(days=364)
    return {"first": today, "last": last, "phases": places_read.phase_bands(found, today, last)}


def _fields(row: Any) -> dict[str, Any]:
    return {name: getattr(row, name) for name in row.__dataclass_fields__}
