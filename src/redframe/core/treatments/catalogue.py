"""The treatment catalogue: editable defaults by active ingredient and form, each "check your label".

Loaded once from catalogue.yaml and validated; a fault names the file, the entry and the field.
"""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from typing import Annotated, Any, Literal

import yaml
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from redframe.core.errors import InvalidInput
from redframe.core.season.calendar import TreatmentSeason

CATALOGUE_FILE = Path(__file__).with_name("catalogue.yaml")

Triple = tuple[int, int, int]
Span = tuple[float, float]
BlockRule = Literal["ok", "caution", "block"]
Group = Literal["ACID-F", "ACID-O", "THYM", "AMI", "PYR", "HOP", "BIO"]
QueenLossRisk = Literal["low", "medium", "high"]
SupersRule = Literal["yes", "no", "label"]
"""Whether honey supers may be on: yes, no, or as the label says."""


Figure = Literal[
    "min_daily_max_c", "max_daily_max_c", "dose_amount", "dose_max_per_colony", "applications", "interval_days",
    "stay_days", "max_uses_per_year", "retreat_days", "withdrawal_days", "min_frames", "supers", "feeding_during",
]  # fmt: skip
"""What the label of a product may say otherwise."""
FigureValue = bool | float | str | list[int] | None


class Entry(BaseModel):
    """Part of the catalogue; unknown fields are a fault of the file."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class Temperature(Entry):
    """Daily maxima (°C) that the option needs. `all`: every sensitive day within the limits; `share`: at least 7 of
    the first 10 days at or above the minimum and none of the first 3 above the maximum."""

    rule: Literal["all", "share"]
    min_daily_max_c: float | None
    max_daily_max_c: float | None
    sensitive_days: int
    min_share: float
    margin_c: float
    later_hot_spell_c: float | None
    which_days: str
    note: str


class Strength(Entry):
    """Frames of bees that the option needs; below `small_dose_below_frames` the small dose applies."""

    min_frames: float
    small_dose_below_frames: float | None
    max_brood_boxes: int


class QueenRules(Entry):
    """What each state of the queen does to the option."""

    virgin: BlockRule
    caged: BlockRule
    queenless: BlockRule
    unknown: BlockRule
    new_within_days: int


class Dose(Entry):
    """Dose by its basis, in `unit`, with the caps per box and per colony."""

    basis: Literal[
        "per_colony", "per_frame", "per_seam", "per_box", "per_box_table", "per_n_frames", "per_n_frames_box"
    ]
    unit: str
    amount: Any
    per: float | None
    small_amount: float | None
    max_per_box: float | None
    max_per_colony: float | None
    text: str


class Verify(Entry):
    """When and how to check the course: days after its end, `[earliest, ideal, latest]`."""

    method: str
    days: Triple
    from_: Annotated[Literal["end"], Field(alias="from")]


class Verification(Entry):
    """What a course must have killed at the least (percent of all mites; None: the low end of its range), and how many
    days after its end a wash can tell at the earliest (None: as `verify` says)."""

    target_pct_with_brood: float | None
    target_pct_broodless: float | None
    earliest_days_with_brood: int | None
    earliest_days_broodless: int | None


class Kill(Entry):
    """Shares of the mites on bees and in cells killed a day, for so many days from each placing, `every_days` apart.

    A dose that `stays` cannot be taken out again: it works on when its course is ended.
    """

    kind: Literal["kill"]
    on_bees: float
    in_cells: float
    days: int
    placings: int
    every_days: int
    stays: bool


class DroneCut(Entry):
    """Drone brood taken out: the share of its mites, every so many days, so many times."""

    kind: Literal["drone_cut"]
    share: float
    every_days: int
    times: int


class LayingBreak(Entry):
    """No eggs for so many days."""

    kind: Literal["laying_break"]
    days: int


class BroodOut(Entry):
    """All brood taken out on the day."""

    kind: Literal["brood_out"]


Effect = Annotated[Kill | DroneCut | LayingBreak | BroodOut, Field(discriminator="kind")]


class Lasts(Entry):
    """A dose that is used up over its stay, so that the share left tells how fast: `per_day` what it should lose a day,
    least and most, in the unit of the dose (None: nothing is known of it)."""

    per_day: Span | None


class Gap(Entry):
    """Days that must pass after the last use of other options, by group or by name."""

    groups: list[Group]
    options: list[str]
    days: int


class ByLabel(Entry):
    """A figure that the label of a product says otherwise, with the default that it replaces."""

    figure: Figure
    label: FigureValue
    default: FigureValue


class Option(Entry):
    """One treatment by active ingredient and form."""

    id: str
    name: str
    kind: Literal["chemical", "biotechnical"]
    active: str
    form: str
    moa_group: Group
    rotation: Literal["hard", "soft", "none"]
    kills_in_capped_cells: Literal["yes", "no", "partly"]
    efficacy_pct_with_brood: Span | None
    efficacy_pct_broodless: Span | None
    efficacy_note: str
    effect_days: int
    evidence: Literal["strong", "moderate", "weak"]
    temperature: Temperature
    strength: Strength
    brood_requirement: Literal["any", "broodless", "needs_brood"]
    brood_caution: bool
    queen: QueenRules
    supers: SupersRule
    feeding_during: bool
    queen_loss_risk: QueenLossRisk
    queen_loss_pct: Span
    dose: Dose
    applications: int
    interval_days: Triple | None
    stay_days: Triple
    total_days_ideal: int
    removal_required: bool
    max_uses_per_year: int
    retreat_days: int
    withdrawal_days: int
    honey_rule: str
    opens_hive: bool
    hive_setup: str
    ppe: list[str]
    hazards_people: str
    hazards_bees: str
    disposal: str
    resistance_note: str
    interim_check: Triple | None
    interim_ask: str
    lasts: Lasts | None = None
    verify: Verify
    short_name: str
    verification: Verification
    effect: Effect | None
    exact_interval: bool
    interval_choices: list[int]
    gap_counts_group: bool
    gap_after: list[Gap]
    repeat_days: tuple[int, int] | None
    opened_by: Literal["vapour_series"] | None
    mixing: Literal["oxalic_solution"] | None
    needs_respirator: bool
    phases: list[TreatmentSeason]
    rebuild_days: int
    region_notes: str
    default_enabled: bool
    check_label: str
    product: str = ""
    by_label: tuple[ByLabel, ...] = ()
    """The product in use, and what its label says otherwise than the catalogue (`product_label.py`)."""

    @property
    def chemical(self) -> bool:
        """Whether something is put into the hive that a label governs."""
        return self.kind == "chemical"

    @property
    def ends_at_placing(self) -> bool:
        """Whether nothing stays in the hive after the last placing: the course ends with it."""
        return not self.removal_required and self.stay_days == (0, 0, 0)

    @property
    def dose_unit(self) -> str:
        """The unit of a dose."""
        return self.dose.unit

    @property
    def visits(self) -> int:
        """Times the colony is opened for it: placings, and the removal where one is needed."""
        return self.applications + (1 if self.removal_required else 0)

    def efficacy(self, broodless: bool) -> Span | None:
        """Percent of all mites killed by the whole course, low and high; the broodless range only when brood is
        known to be absent."""
        if broodless and self.efficacy_pct_broodless is not None:
            return self.efficacy_pct_broodless
        return self.efficacy_pct_with_brood


class Catalogue(Entry):
    """All options, in the order of the file."""

    format: Literal["red-frame-treatment-catalogue"]
    version: int
    status: str
    conventions: dict[str, str]
    moa_groups: dict[str, str]
    options: list[Option]

    def option(self, option_id: str, field: str = "option") -> Option:
        """Look an option up; raises InvalidInput."""
        for option in self.options:
            if option.id == option_id:
                return option
        raise InvalidInput(field, "is not an option of the catalogue", code="unknown", allowed=", ".join(self.ids))

    @property
    def ids(self) -> list[str]:
        """The ids of all options."""
        return [option.id for option in self.options]


@lru_cache(maxsize=1)
def default_catalogue() -> Catalogue:
    """The catalogue that ships with the application. Raises ValueError naming file, entry and field."""
    data = yaml.safe_load(CATALOGUE_FILE.read_text(encoding="utf-8"))
    try:
        catalogue = Catalogue.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = list(first["loc"])
        if len(where) > 1 and where[0] == "options" and isinstance(where[1], int):
            where[1] = data["options"][where[1]].get("id", where[1])
        raise ValueError(f"{CATALOGUE_FILE.name}: {'.'.join(map(str, where))}: {first['msg']}") from error
    if len(set(catalogue.ids)) != len(catalogue.ids):
        raise ValueError(f"{CATALOGUE_FILE.name}: two options share an id")
    return catalogue
