"""What goes over the wire. Inputs refuse unknown fields; outputs are read from the records of the work layer."""

from __future__ import annotations

import re
from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import AfterValidator, AwareDatetime, BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints

from redframe.core.colonies.queens import MarkColour
from redframe.core.inputs import Input, IsoDate
from redframe.core.sampling.wash import BroodState, PlaceOfBees, QueenSafe
from redframe.core.thresholds.calendar import Phase
from redframe.core.thresholds.schools import SchoolId
from redframe.core.thresholds.standing import Level

_UNPRINTABLE = re.compile("[\x00-\x08\x0b-\x1f\x7f\ud800-\udfff]")


def _printable(text: str) -> str:
    if any(
        (ord(sign) < 32 and sign not in "\n\t") or 0xD800 <= ord(sign) <= 0xDFFF or ord(sign) == 127 for sign in text
    ):
        raise ValueError("contains signs that cannot be printed")
    return text


Name = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120), AfterValidator(_printable)
]
Word = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), AfterValidator(_printable)]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), AfterValidator(_printable)]
Label = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=24), AfterValidator(_printable)
]
Why = Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=400), AfterValidator(_printable)]
BeesKnown = Literal["counted", "photo", "volume_level", "volume_heaped", "mass_dry", "mass_wet", "not_recorded"]
Frames = Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)]


class Output(BaseModel):
    """Base of what goes out."""

    model_config = ConfigDict(from_attributes=True)


class Span(Output):
    """A range, low to high."""

    low: float
    high: float


def _as_span(value: object) -> object:
    return {"low": value[0], "high": value[1]} if isinstance(value, (tuple, list)) else value


SpanOf = Annotated[Span, BeforeValidator(_as_span)]


# People


class SignInInput(Input):
    email: Annotated[str, Field(min_length=3, max_length=254), AfterValidator(_printable)]
    password: Annotated[str, Field(min_length=1, max_length=200)]


class PersonInput(Input):
    name: Name
    temperature: Literal["celsius", "fahrenheit"]
    mass: Literal["kg", "lb"]
    volume: Literal["ml", "cup", "fl_oz"]
    theme: Literal["system", "light", "dark"]


class PasswordInput(Input):
    present: Annotated[str, Field(min_length=1, max_length=200)]
    new: Annotated[str, Field(min_length=1, max_length=200)]


class SwitchInput(Input):
    membership_id: UUID


class PlaceOfWork(Output):
    membership_id: UUID
    association_name: str
    role: str


class Person(Output):
    id: UUID
    email: str
    name: str
    temperature: str
    mass: str
    volume: str
    theme: str
    association_id: UUID
    association: str
    timezone: str


class SessionView(Output):
    """Who is signed in; `person` is null when nobody is. `today` is the day at the association's place."""

    person: Person | None
    role: str | None
    may: list[str]
    places_of_work: list[PlaceOfWork]
    csrf_token: str | None
    today: date
    demo: bool


# Places


class KeeperInput(Input):
    id: UUID
    name: Name
    phone: Annotated[str, Field(max_length=40), AfterValidator(_printable)] = ""
    registration: Annotated[str, Field(max_length=40), AfterValidator(_printable)] = ""


class Keeper(Output):
    id: UUID
    name: str
    phone: str
    registration: str
    version: int


class ApiaryFields(Input):
    name: Name
    latitude: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
    longitude: Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]
    elevation_m: Annotated[int, Field(ge=-430, le=6000)] = 0
    access_note: Note = ""
    forage_note: Note = ""


class ApiaryInput(ApiaryFields):
    id: UUID
    keeper_id: UUID


class Apiary(Output):
    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
    access_note: str
    forage_note: str
    version: int


class ApiaryRow(Output):
    """An apiary in the list: how many of its living colonies stand where, the worst of them, and the age of that
    knowledge; `highest` in mites per 100 bees."""

    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
    colonies: int
    urgent: int
    act: int
    watch: int
    clear: int
    unknown: int
    oldest_count_on: date | None
    newest_count_on: date | None
    in_course: int
    highest: float | None
    worst: Level | None


class PlacesView(Output):
    today: date
    apiaries: list[ApiaryRow]
    keepers: list[Keeper]


class PhaseBand(Output):
    first: date
    last: date
    phase: Phase
    watch: float
    act: float
    urgent: float


class ColonyRow(Output):
    """A colony with its queen, strength, latest count and standing; rates in mites per 100 bees."""

    id: UUID
    apiary_id: UUID
    label: str
    state: str
    state_since: date
    hive_id: UUID | None
    note: str
    version: int
    queen_year: int | None
    mark_seen: MarkColour | None
    queen_status: str | None
    queen_since: date | None
    laying_since: date | None
    release_on: date | None
    queen_version: int
    strength_on: date | None
    strength: float | None
    strength_unit: str | None
    level: Level
    level_reason: str
    level_since: date | None
    phase: Phase | None
    act_per_100: float | None
    overdue_from: date | None
    count_id: UUID | None
    counted_on: date | None
    mites: int | None
    bees_mean: float | None
    median: float | None
    low: float | None
    high: float | None
    recount_on: date | None


class HiveBox(Output):
    id: UUID
    hive_type: str
    position: int | None
    purpose: str | None
    frame_format: str | None
    frames: int | None
    labels: list[str] | None


class StripCount(Output):
    colony_id: UUID
    id: UUID
    taken_on: date
    mites: int | None
    bees_mean: float | None
    median: float | None
    low: float | None
    high: float | None


class StripVisit(Output):
    colony_id: UUID
    visited_on: date


class StripCourse(Output):
    id: UUID
    colony_id: UUID
    option_id: str
    state: str
    start_on: date
    placed_on: date | None
    ended_on: date | None
    honey_clear_on: date | None
    occupies_from: date
    occupies_to: date
    placings: list[date]


class ApiaryView(Output):
    today: date
    apiary: Apiary
    worst: Level | None
    school: SchoolId
    scope: str
    colonies: list[ColonyRow]
    hives: list[HiveBox]
    counts: list[StripCount]
    visits: list[StripVisit]
    courses: list[StripCourse]
    phases: list[PhaseBand]
    first: date
    last: date


# Colonies


class BoxInput(Input):
    purpose: Literal["brood", "super"]
    frame_format: Literal["A_deep", "A_medium", "A_shallow", "A_jumbo", "B_deep", "B_shallow", "B_extra_deep"]
    frames: Annotated[int, Field(ge=1, le=20)]


class FrameFormat(Output):
    id: str
    name: str
    width_mm: int
    height_mm: int


QueenStatus = Literal["mated", "virgin", "caged", "queenless", "unknown"]


class NewQueen(Input):
    year: Annotated[int, Field(ge=1950, le=2200)] | None = None
    mark_seen: MarkColour | None = None
    status: QueenStatus = "mated"
    since: IsoDate
    laying_since: IsoDate | None = None
    release_on: IsoDate | None = None


class QueenInput(NewQueen):
    """`new` puts another queen in office; otherwise the present one, at `version`, is amended."""

    new: bool
    version: Annotated[int, Field(ge=0, le=1_000_000)] = 0


class ColonyInput(Input):
    """A colony in a hive of its own (`boxes` from the floor up) or sharing `hive_id`."""

    id: UUID
    apiary_id: UUID
    label: Label
    since: IsoDate
    note: Note = ""
    hive_id: UUID | None = None
    hive_type: Word = "stacked boxes"
    boxes: Annotated[list[BoxInput], Field(max_length=12)] = []
    queen: NewQueen | None = None
    split_from: UUID | None = None


class ColonyAmendment(Input):
    label: Label
    state: Literal["alive", "queenless", "dead", "gone"]
    state_since: IsoDate
    note: Note = ""


class MergeInput(Input):
    into: UUID
    on: IsoDate
    note: Note = ""


class Queen(Output):
    id: UUID
    year: int | None
    mark_seen: MarkColour | None
    status: str
    since: date
    until: date | None
    laying_since: date | None
    release_on: date | None
    version: int


class QueenView(Output):
    queen: Queen
    mark_expected: MarkColour | None
    mark_differs: str | None


class ColonyEvent(Output):
    id: UUID
    colony_id: UUID
    kind: str
    happened_on: date
    other_colony_id: UUID | None
    other_label: str | None
    own_label: str
    former: str
    present: str
    note: str
    by_name: str


class VisitInput(Input):
    """What a visit found of the colony as a whole; what was not looked at is left out."""

    id: UUID
    colony_id: UUID
    visited_on: IsoDate
    strength: Frames | None = None
    strength_unit: Literal["frames", "seams"] | None = None
    capped_brood: Literal["yes", "no", "unknown"] = "unknown"
    eggs_seen: bool | None = None
    queen_seen: bool | None = None
    supers_on: bool | None = None
    fed: bool | None = None
    note: Note = ""


class Visit(Output):
    id: UUID
    colony_id: UUID
    visited_on: date
    strength: float | None
    strength_unit: str | None
    capped_brood: str
    eggs_seen: bool | None
    queen_seen: bool | None
    supers_on: bool | None
    fed: bool | None
    note: str
    by_name: str
    version: int


# Sampling


class JarInput(Input):
    """How the bees of a jar were measured: counted or by photo (`bees`), a scoop (`volume_ml`), a scale (`mass_g`)."""

    bees_known_by: BeesKnown
    bees: Annotated[int, Field(ge=1, le=5000)] | None = None
    volume_ml: Annotated[float, Field(ge=5, le=1000, allow_inf_nan=False)] | None = None
    mass_g: Annotated[float, Field(ge=1, le=500, allow_inf_nan=False)] | None = None
    place_of_bees: PlaceOfBees = "brood_frame"


class CountFields(JarInput):
    colony_id: UUID
    taken_at: AwareDatetime
    shakes: Annotated[list[Annotated[int, Field(strict=True, ge=0, le=30_000)]], Field(min_length=1, max_length=8)]
    brood_state: BroodState = "not_seen"
    queen_safe: QueenSafe = "not_looked"
    note: Note = ""


class CountInput(CountFields):
    id: UUID


class CountAmendment(CountFields):
    """The whole count as it should read, and why."""

    reason: Why


class RulerInput(JarInput):
    mites_from: Annotated[int, Field(ge=0, le=30_000)] = 0
    mites_to: Annotated[int, Field(ge=0, le=30_000)] = 30


class RulerMark(Output):
    mites: int
    median: float
    low: float
    high: float
    p_act: float
    level: Level
    advice: Literal["treat", "second_sample", "come_back"]


class Ruler(Output):
    """What each number of mites in a jar would mean, after one shake and after more; rates per 100 bees."""

    phase: Phase
    school: SchoolId
    watch: float
    act: float
    urgent: float
    bees_mean: float
    bees_low: float
    bees_high: float
    incomplete_share: float
    one_shake: list[RulerMark]
    more_shakes: list[RulerMark]


class JarRuler(Output):
    """The ruler; null where the bees are not known."""

    ruler: Ruler | None


class Count(Output):
    id: UUID
    colony_id: UUID
    taken_at: datetime
    taken_on: date
    shakes: list[int]
    bees_known_by: str
    bees: int | None
    volume_ml: float | None
    mass_g: float | None
    place_of_bees: str
    brood_state: str
    queen_safe: str
    note: str
    by_name: str
    version: int
    mites: int | None
    bees_mean: float | None
    as_counted: float | None
    median: float | None
    low: float | None
    high: float | None


class Reading(Output):
    mites: int
    bees_mean: float
    bees_cv: float
    recovery: str
    as_counted: float
    median: float
    low: float
    high: float


class Removal(Output):
    total_counted: int
    estimate: int
    remaining: int
    release_per_shake: float | None
    depleting: bool | None
    share_left: float | None
    shake_again: bool


class Finding(Output):
    code: str
    level: Literal["refused", "warning", "note"]
    field: str
    message: str


class SchoolView(Output):
    school: SchoolId
    name: str
    level: Level
    act_per_100: float


class Judgement(Output):
    level: Level
    phase: Phase
    school: SchoolId
    watch: float
    act: float
    urgent: float
    p_watch: float
    p_act: float
    p_urgent: float
    advice: Literal["treat", "second_sample", "come_back"]
    come_back_on: date | None
    others: list[SchoolView]


class Growth(Output):
    days: int
    rate_per_day: float
    low_per_day: float
    high_per_day: float
    doubling_days: float | None
    p_rose: float
    p_rose_cautious: float
    words: str


class CountMeaning(Output):
    count: Count
    reading: Reading | None
    removal: Removal | None
    shake_again: bool
    findings: list[Finding]
    judgement: Judgement | None
    trend: Growth | None
    trend_since: date | None
    policy_version: int


class TrailEntry(Output):
    seq: int
    act: str
    at: datetime
    by_name: str
    reason: str
    former: dict[str, Any] | None
    present: dict[str, Any]


# Treatments


class OptionsInput(Input):
    apiary_id: UUID
    colony_ids: Annotated[list[UUID], Field(min_length=1, max_length=100)]
    start_on: IsoDate | None = None


class Reason(Output):
    rule: str
    level: Literal["caution", "not_now", "never_here"]
    source: str
    compared: dict[str, Any]
    text: str
    until: date | None


class DoseView(Output):
    quantity: float
    unit: str
    capped: bool
    small: bool
    applications: int
    course_total: float
    converted: bool


class OptionView(Output):
    """What the catalogue says of an option: editable defaults, each to be checked against the label."""

    id: str
    name: str
    kind: str
    active: str
    form: str
    applications: int
    visits: int
    queen_loss_pct: SpanOf
    queen_loss_risk: str
    evidence: str
    supers: str
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


class SuitabilityView(Output):
    """One option for one colony. Percentages of all mites killed; `expected_after` in mites per 100 bees."""

    option_id: str
    verdict: Literal["allowed", "allowed_with_cautions", "not_now", "never_here"]
    from_day: date | None
    weather_known: bool
    reasons: list[Reason]
    efficacy: SpanOf | None
    expected_after: SpanOf | None
    in_time: bool | None
    dose: DoseView | None
    ends_on: date
    honey_clear: date | None
    supporting: bool


class ColonyOptions(Output):
    colony_id: UUID
    label: str
    strength: float | None
    strength_unit: str | None
    median: float | None
    level: Level
    options: list[SuitabilityView]
    ranking: list[str]


class ForecastDay(Output):
    day: date
    tmax_c: float
    tmin_c: float
    rain_mm: float


class ApiaryOptions(Output):
    apiary: Apiary
    start_on: date
    season: str
    winter_bee_date: date | None
    forecast: list[ForecastDay]
    catalogue: list[OptionView]
    colonies: list[ColonyOptions]


class OverrideInput(Input):
    rule: Annotated[str, Field(max_length=8), AfterValidator(_printable)]
    authorised_by: Annotated[str, Field(max_length=120), AfterValidator(_printable)] = ""
    reason: Annotated[str, Field(min_length=1, max_length=400), AfterValidator(_printable)]


class WantedCourse(Input):
    id: UUID
    colony_id: UUID
    overrides: Annotated[list[OverrideInput], Field(max_length=20)] = []


class PlanInput(Input):
    id: UUID
    apiary_id: UUID
    option_id: Annotated[str, Field(max_length=40), AfterValidator(_printable)]
    start_on: IsoDate
    interval_override: Annotated[int, Field(ge=1, le=60)] | None = None
    courses: Annotated[list[WantedCourse], Field(min_length=1, max_length=100)]


class PlannedRow(Output):
    colony_id: UUID
    label: str
    course_id: UUID | None
    held_by: list[Reason]


class ActInput(Input):
    id: UUID
    step: Annotated[str, Field(max_length=40), AfterValidator(_printable)]
    outcome: Literal["done", "skipped"] = "done"
    done_on: IsoDate
    quantity: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] | None = None
    lot: Word = ""
    count_id: UUID | None = None
    note: Note = ""
    override: OverrideInput | None = None


class ActAmendment(Input):
    done_on: IsoDate
    quantity: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] | None = None
    lot: Word = ""
    count_id: UUID | None = None
    note: Note = ""
    reason: Why


class AbandonInput(Input):
    why: Annotated[str, Field(max_length=400), AfterValidator(_printable)]
    removed_on: IsoDate | None = None


class Act(Output):
    id: UUID
    step: str
    outcome: str
    done_on: date
    quantity: float | None
    quantity_unit: str | None
    lot: str
    count_id: UUID | None
    note: str
    override_by: str
    override_why: str
    by_name: str
    made_at: datetime
    version: int


class StepView(Output):
    name: str
    kind: str
    state: Literal["pending", "ready", "overdue", "waiting_for_weather", "done", "done_late", "skipped", "cancelled"]
    earliest: date
    ideal: date
    latest: date
    first_ideal: date
    hard_stop: bool
    after: str | None
    moved_days: int
    moved_why: str
    late_cost: str
    weather: list[Reason]
    next_usable: date | None
    act: Act | None


class Side(Output):
    count_id: UUID
    taken_on: date
    mites: int
    bees: float | None
    median: float | None
    low: float | None
    high: float | None


class VerdictView(Output):
    """Did it work: the word, the share killed in percent with its interval, and the chance of still being over."""

    word: Literal["worked", "partly", "failed", "cannot_tell_yet"]
    why_not: str | None
    target_pct: float
    p_target: float | None
    p_half: float | None
    median_pct: float | None
    low_pct: float | None
    high_pct: float | None
    controls: list[str]
    residual_p_act: float | None
    act_per_100: float
    projected: bool
    pre_mites_needed: int | None
    pre: Side | None
    post: Side | None
    policy_version: int


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
    state: str
    dose_quantity: float
    dose_unit: str
    broodless: bool
    placed_on: date | None
    ended_on: date | None
    honey_clear_on: date | None
    overrides: list[dict[str, Any]]
    reasons: list[Reason]
    verdict: VerdictView | None
    abandoned_why: str
    by_name: str
    made_at: datetime
    version: int
    steps: list[StepView]
    next_step: str | None


class PlanView(Output):
    today: date
    courses: list[CourseView]


class ColonyView(Output):
    today: date
    colony: ColonyRow
    apiary: Apiary
    hive: list[HiveBox]
    queens: list[QueenView]
    events: list[ColonyEvent]
    visits: list[Visit]
    counts: list[Count]
    courses: list[CourseView]
    latest: CountMeaning | None
    phases: list[PhaseBand]
    first: date
    last: date
    school: SchoolId


# Planning


class TreatLine(Output):
    apiary_id: UUID
    apiary: str
    keeper: str
    colonies: int
    labels: list[str]
    ids: list[UUID]
    urgent: int
    highest: float
    act_per_100: float
    oldest_count_on: date
    overdue_from: date | None


class StepLine(Output):
    plan_id: UUID
    course_id: UUID
    apiary_id: UUID
    apiary: str
    keeper: str
    option_id: str
    option_name: str
    step: str
    kind: str
    colonies: int
    labels: list[str]
    earliest: date
    ideal: date
    latest: date
    first_ideal: date
    hard_stop: bool
    urgency: Literal["overdue", "due", "soon", "waiting_for_weather"]
    weather: str
    next_usable: date | None
    late_cost: str


class CountLine(Output):
    apiary_id: UUID
    apiary: str
    keeper: str
    colonies: int
    labels: list[str]
    ids: list[UUID]
    never: int
    too_old: int
    due_on: date | None
    oldest_count_on: date | None


class WorklistView(Output):
    today: date
    phase: Phase
    act_per_100: float
    treat: list[TreatLine]
    steps: list[StepLine]
    counts: list[CountLine]
    more: bool


# Thresholds


class LevelsView(Output):
    watch: float
    act: float
    urgent: float


class School(Output):
    id: SchoolId
    name: str
    says: str
    unit: str
    levels: dict[Phase, LevelsView]


class PolicyInput(Input):
    school: Annotated[str, Field(max_length=40), AfterValidator(_printable)]
    threshold_basis: Literal["corrected", "as_counted"] = "corrected"
    scope: Literal["whole_apiary", "single_colony"] = "whole_apiary"
    calendar: dict[str, str | int | None]
    authorised: list[Word] | None = None
    honey_off: Word | None = None
    cold: Word | None = None
    respirator_ok: bool = False


class PolicyView(Output):
    version: int
    school: SchoolId
    threshold_basis: str
    scope: str
    calendar: dict[str, Any]
    treatment_rules: dict[str, Any]
    schools: list[School]


# Calculators


class CalculatorView(Output):
    name: str
    sentence: str
    method_note: str
    inputs: dict[str, Any]
    example: dict[str, Any]
