"""Options, courses, steps and verdicts."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from redframe.api.base import Note, Output, SpanOf, Why, Word
from redframe.api.sampling.schemas import Count, CountMeaning, CountTrend, PooledFall
from redframe.core.inputs import Input, IsoDate, printable
from redframe.core.policy.schemes import SchemeId
from redframe.core.registers.treated_for import TreatedFor
from redframe.core.sampling.method import Scale
from redframe.core.season.calendar import TreatmentSeason
from redframe.core.status.advice import ColonyAdvice
from redframe.core.status.status import Level
from redframe.core.treatments.catalogue import Figure, FigureValue, SupersRule
from redframe.core.treatments.check_counts import CourseVerdict
from redframe.core.treatments.course import StepKind
from redframe.core.treatments.days import Group, OptionDay
from redframe.core.treatments.earlier import EndKnown, KnownFrom
from redframe.core.treatments.lateness import LateCost
from redframe.core.treatments.mix import Proposed
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.plan_steps import PlanStep
from redframe.core.treatments.progress import ActOutcome, MovedWhy, StepState
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.round import TakeAlong
from redframe.core.treatments.states import CourseOutcome, CourseState
from redframe.core.treatments.step_facts import Asked, QueenSeen, StepFacts
from redframe.core.treatments.together import OptionTogether
from redframe.store.colonies import ColonyEvent, ColonyOverview
from redframe.store.earlier_treatments import Earlier
from redframe.store.hives import HiveBox
from redframe.store.holds import Hold
from redframe.store.places import Apiary
from redframe.store.undo import Change
from redframe.store.visits import Visit
from redframe.work.colonies.brood import BroodView
from redframe.work.colonies.queens import QueenView
from redframe.work.places.read import PhaseBand
from redframe.work.sampling.strips import StripCount


class OptionsInput(Input):
    apiary_id: UUID
    colony_ids: Annotated[list[UUID], Field(min_length=1, max_length=100)]
    start_on: IsoDate | None = None


class WasGivenInput(Input):
    """What somebody says of a treatment that was given before it was known here; `dose_quantity` of each dose."""

    option_id: Annotated[str, Field(max_length=40), AfterValidator(printable)]
    doses_on: Annotated[list[IsoDate], Field(min_length=1, max_length=20)]
    end: EndKnown
    ended_on: IsoDate | None = None
    dose_quantity: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] | None = None
    outcome: CourseOutcome | None = None
    given_by: Annotated[str, Field(max_length=120), AfterValidator(printable)] = ""
    known_from: KnownFrom
    note: Note = ""


class EarlierOfColony(Input):
    id: UUID
    colony_id: UUID


class EarlierInput(WasGivenInput):
    """The same treatment of several colonies of an apiary; `id` is of the entry, each course has its own."""

    id: UUID
    apiary_id: UUID
    colonies: Annotated[list[EarlierOfColony], Field(min_length=1, max_length=100)]


class EarlierCheck(WasGivenInput):
    apiary_id: UUID
    colony_ids: Annotated[list[UUID], Field(min_length=1, max_length=100)]


class EarlierAmendment(WasGivenInput):
    reason: Why


class WithdrawInput(Input):
    why: Why


class TreatmentsKnownInput(Input):
    """All treatments of these colonies since a day are on record."""

    id: UUID
    apiary_id: UUID
    colony_ids: Annotated[list[UUID], Field(min_length=1, max_length=100)]
    known_since: IsoDate
    known_from: KnownFrom


class ExpectedInput(Input):
    apiary_id: UUID
    colony_ids: Annotated[list[UUID], Field(min_length=1, max_length=100)]
    start_on: IsoDate


class DoseView(Output):
    quantity: float
    unit: str
    capped: bool
    small: bool
    applications: int
    course_total: float
    converted: bool


class ByLabel(Output):
    """A figure that the label of the product in use says otherwise, with the default that it replaces."""

    figure: Figure
    label: FigureValue
    default: FigureValue


class OptionView(Output):
    """What the catalogue says of an option: editable defaults, each to be checked against the label."""

    id: str
    name: str
    short_name: str
    kind: str
    active: str
    form: str
    dose_unit: str
    ends_at_placing: bool
    chemical: bool
    needs_respirator: bool
    applications: int
    interval_choices: list[int]
    mixing: Literal["oxalic_solution"] | None
    visits: int
    queen_loss_pct: SpanOf
    queen_loss_risk: str
    evidence: str
    supers: SupersRule
    feeding_during: bool
    honey_rule: str
    hive_setup: str
    ppe: list[str]
    hazards_people: str
    hazards_bees: str
    disposal: str
    resistance_note: str
    interim_ask: str
    efficacy_note: str
    region_notes: str
    check_label: str
    product: str
    by_label: list[ByLabel]


class SuitabilityView(Output):
    """One option for one colony. Percentages of all mites killed; `expected_after` in mites per 100 bees; `holding` the
    rules that hold a plan back unless somebody sets them aside; `needs_known_since`: so far back the rules ask for
    earlier treatments, where the record does not reach."""

    option_id: str
    verdict: Literal["allowed", "allowed_with_cautions", "not_now", "never_here"]
    from_day: date | None
    weather_known: bool
    reasons: list[Reason]
    holding: list[str]
    efficacy: SpanOf | None
    expected_after: SpanOf | None
    in_time: bool | None
    dose: DoseView | None
    ends_on: date
    honey_clear: date | None
    honey_days: int
    supporting: bool
    needs_known_since: date | None


class OpenCourse(Output):
    id: UUID
    name: str
    state: CourseState
    start_on: date


class ColonyOptions(Output):
    colony_id: UUID
    label: str
    strength: float | None
    strength_unit: str | None
    per_100: float | None
    level: Level
    treatments_known_since: date
    open_courses: list[OpenCourse]
    options: list[SuitabilityView]
    proposed: Proposed


class ForecastDay(Output):
    day: date
    tmax_c: float
    tmin_c: float
    rain_mm: float


class OptionDaysView(Output):
    """An option over the days of the forecast; `efficacy` in per cent of all mites, as the colonies are now."""

    option_id: str
    group: Group
    efficacy: SpanOf | None
    days: list[OptionDay]


class ApiaryOptions(Output):
    apiary: Apiary
    start_on: date
    season: TreatmentSeason
    winter_bee_date: date | None
    forecast: list[ForecastDay]
    catalogue: list[OptionView]
    colonies: list[ColonyOptions]
    together: list[OptionTogether]
    days: list[OptionDaysView]


class OverrideInput(Input):
    rule: Annotated[str, Field(max_length=8), AfterValidator(printable)]
    authorised_by: Annotated[str, Field(max_length=120), AfterValidator(printable)] = ""
    reason: Annotated[str, Field(min_length=1, max_length=400), AfterValidator(printable)]


class WantedCourse(Input):
    id: UUID
    colony_id: UUID
    overrides: Annotated[list[OverrideInput], Field(max_length=20)] = []


class PlanInput(Input):
    id: UUID
    apiary_id: UUID
    option_id: Annotated[str, Field(max_length=40), AfterValidator(printable)]
    start_on: IsoDate
    interval_override: Annotated[int, Field(ge=1, le=60)] | None = None
    order: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200), AfterValidator(printable)] = ""
    courses: Annotated[list[WantedCourse], Field(min_length=1, max_length=100)]


class PlannedRow(Output):
    colony_id: UUID
    label: str
    course_id: UUID | None
    held_by: list[Reason]


Said = Annotated[str, StringConstraints(strip_whitespace=True, max_length=400), AfterValidator(printable)]


class StepFactsInput(Input):
    """What a step asks for besides its day and its dose; what it does not ask for is left out."""

    applied_by: Annotated[str, StringConstraints(strip_whitespace=True, max_length=120), AfterValidator(printable)] = ""
    temperature_c: Annotated[float, Field(allow_inf_nan=False)] | None = None
    queen_seen: QueenSeen | None = None
    left_pct: Annotated[float, Field(allow_inf_nan=False)] | None = None
    taken_out: Annotated[float, Field(allow_inf_nan=False)] | None = None
    disposed: Said = ""
    adverse: Said = ""


class ActInput(Input):
    id: UUID
    step: Annotated[str, Field(max_length=40), AfterValidator(printable)]
    outcome: ActOutcome = "done"
    done_on: IsoDate
    quantity: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] | None = None
    lot: Word = ""
    count_id: UUID | None = None
    supers_on: bool | None = None
    note: Note = ""
    override: OverrideInput | None = None
    lot_id: UUID | None = None
    facts: StepFactsInput = StepFactsInput()


class ActAmendment(Input):
    done_on: IsoDate
    quantity: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] | None = None
    lot: Word = ""
    count_id: UUID | None = None
    supers_on: bool | None = None
    note: Note = ""
    lot_id: UUID | None = None
    facts: StepFactsInput = StepFactsInput()
    reason: Why


class AbandonInput(Input):
    why: Annotated[str, Field(max_length=400), AfterValidator(printable)]
    removed_on: IsoDate | None = None


class Act(Output):
    id: UUID
    step: str
    outcome: ActOutcome
    done_on: date
    quantity: float | None
    quantity_unit: str | None
    lot: str
    lot_id: UUID | None
    facts: StepFacts
    count_id: UUID | None
    supers_on: bool | None
    note: str
    override_by: str
    override_why: str
    by_name: str
    created_at: datetime
    version: int
    may_undo: bool


class StepView(Output):
    name: str
    kind: StepKind
    state: StepState
    earliest: date
    ideal: date
    latest: date
    first_ideal: date
    hard_stop: bool
    after: str | None
    moved_days: int
    moved_why: MovedWhy | None
    weather: list[Reason]
    next_usable: date | None
    is_ready: bool
    is_before_placing: bool
    may_be_skipped: bool
    by_acts: bool
    act: Act | None
    asks: list[Asked]
    findings: list[Reason]


class CourseView(Output):
    id: UUID
    apiary_id: UUID
    apiary: str
    colony_id: UUID
    label: str
    plan_id: UUID
    option: OptionView
    policy_version: int
    start_on: date
    interval_override: int | None
    state: CourseState
    is_open: bool
    dose_quantity: float | None
    dose_unit: str
    broodless: bool
    placed_on: date | None
    ended_on: date | None
    honey_clear_on: date | None
    overrides: list[Override]
    reasons: list[Reason]
    verdict: CourseVerdict | None
    abandoned_why: str
    by_name: str
    created_at: datetime
    version: int
    earlier: Earlier | None
    treated_for: TreatedFor | None
    warnings: list[Reason]
    late: list[LateCost]
    steps: list[StepView]
    next_step: str | None


class PlanView(Output):
    today: date
    courses: list[CourseView]
    steps: dict[UUID, list[PlanStep]]


class RoundStopView(Output):
    course: CourseView
    steps: list[str]
    is_due: bool
    waits_for_weather: bool
    is_suspect: bool


class RoundLot(Output):
    id: UUID
    product: str
    lot: str
    expires_on: date | None


class TreatmentRoundView(Output):
    today: date
    apiary: Apiary
    stops: list[RoundStopView]
    take: TakeAlong
    lots: list[RoundLot]
    done: list[CourseView]


class ColonyView(Output):
    today: date
    colony: ColonyOverview
    apiary: Apiary
    hive: list[HiveBox]
    queens: list[QueenView]
    events: list[ColonyEvent]
    visits: list[Visit]
    counts: list[Count]
    axis: Scale
    points: list[StripCount]
    courses: list[CourseView]
    latest: CountMeaning | None
    trend: CountTrend | None
    boards: PooledFall | None
    phases: list[PhaseBand]
    first: date
    last: date
    draft: UUID | None
    hold: Hold | None
    undoable: Change | None
    advice: ColonyAdvice
    brood: BroodView | None
    scheme: SchemeId
