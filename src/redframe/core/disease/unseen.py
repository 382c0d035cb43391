"""The chance that a notifiable disease is at an apiary unseen, by what examinations found nothing of.

Each colony by itself: it begins at the share of colonies that have the disease, each examination that looked for it and
saw nothing takes of its odds what such a look takes (the same weights and floors as in the assessment of a visit), and
between examinations the chance goes back toward that share as new colonies fall ill. A way of stating freedom from
disease from repeated examinations (Martin, Cameron and Greiner 2007, Preventive Veterinary Medicine 79: 71-97). See
docs/methods/brood-diagnosis.md, "Unseen".
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from math import prod
from statistics import fmean

from redframe.core.disease.brood_weighing import BroodWeighing
from redframe.core.disease.conditions import conditions
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import Finding
from redframe.core.disease.matrix import brood_matrix
from redframe.core.disease.settings import Effort, Season, Settings, brood_settings

YEAR_DAYS = 365.25
BROOD_SEASONS: tuple[Season, ...] = ("early_spring", "spring", "summer", "late_summer", "autumn")
"""Seasons in which brood can be examined: the share of colonies that have a disease is taken over all of them."""
OWN_SIGNS: Mapping[str, frozenset[str]] = {
    "afb": frozenset({"cap_sunken", "larva_brown_capped", "scale_stuck"}),
    "efb": frozenset({"larva_twisted", "larva_melted", "larva_discoloured"}),
    "tropilaelaps": frozenset({"mite_exotic"}),
    "small_hive_beetle": frozenset({"shb_adults", "shb_larvae"}),
}
"""Whoever looked for one of these has looked for the disease; other signs that were not seen take of its chance too."""


@dataclass(frozen=True, slots=True)
class Looked:
    """An examination: its day, the signs that were looked for and not seen with their effort, and whether bees were
    shaken off all brood combs."""

    on: date
    season: Season
    absent: Mapping[str, Effort]
    all_shaken: bool


@dataclass(frozen=True, slots=True)
class ColonyLooked:
    """A colony with its examinations, oldest first, and whether a sign that is not explained was seen at its last
    visit."""

    label: str
    looked: Sequence[Looked] = ()
    is_suspicious: bool = False


@dataclass(frozen=True, slots=True)
class UnseenColony:
    """A colony: the chance that it has the disease unseen, and its last examination that looked for it."""

    label: str
    chance: float
    looked_on: date | None
    all_shaken: bool


@dataclass(frozen=True, slots=True)
class Unseen:
    """A disease at an apiary: the chance that any colony has it unseen, the same before anybody looked, how many
    colonies were looked at, and when last. `share`: the share of colonies in the region that have it, which all of it
    rests on; `suspicious`: colonies of which a sign stands unexplained, for which no chance is given."""

    id: str
    name: str
    chance: float
    before: float
    share: float
    examined: int
    last_on: date | None
    colonies: Sequence[UnseenColony]
    suspicious: Sequence[str]


def unseen_at(found: Sequence[ColonyLooked], region: Context, today: date) -> list[Unseen]:
    """The notifiable diseases at an apiary, those first that are likelier. `region`: what its association says of the
    region; its season is not used."""
    settings = brood_settings()
    nothing = BroodWeighing(brood_matrix(), settings, {}, region)
    names = [one for one in brood_matrix().conditions if one in nothing.notifiable]
    left = _Left(names, region, settings)
    said = [_unseen(name, found, region, today, settings, left) for name in names]
    return sorted(said, key=lambda one: (-one.chance, one.id))


class _Left:
    """What examinations leave of the odds of each disease; those that agree in what they saw are weighed once."""

    def __init__(self, names: Sequence[str], region: Context, settings: Settings) -> None:
        self._names, self._region, self._settings = names, region, settings
        self._known: dict[object, Mapping[str, float]] = {}

    def of(self, one: Looked) -> Mapping[str, float]:
        """By disease."""
        key = (one.season, frozenset(one.absent.items()), one.all_shaken)
        if key not in self._known:
            findings = {sign: Finding(sign, None, effort) for sign, effort in one.absent.items()}
            here = replace(self._region, season=one.season, all_brood_frames_shaken=one.all_shaken)
            weighing = BroodWeighing(brood_matrix(), self._settings, findings, here)
            self._known[key] = {name: weighing.left_of(name) for name in self._names}
        return self._known[key]


def _unseen(
    condition: str, found: Sequence[ColonyLooked], region: Context, today: date, settings: Settings, left: _Left
) -> Unseen:
    share = _share(condition, region, settings)
    known = [one for one in found if not one.is_suspicious]
    colonies = [_colony(condition, one, share, today, left) for one in known]
    return Unseen(
        condition,
        conditions()[condition].name,
        chance=1 - prod(1 - one.chance for one in colonies),
        before=1 - (1 - share) ** len(known),
        share=share,
        examined=sum(one.looked_on is not None for one in colonies),
        last_on=max((one.looked_on for one in colonies if one.looked_on is not None), default=None),
        colonies=sorted(colonies, key=lambda one: -one.chance),
        suspicious=[one.label for one in found if one.is_suspicious],
    )


def _share(condition: str, region: Context, settings: Settings) -> float:
    """The share of colonies that have it, over the seasons with brood."""
    matrix = brood_matrix()
    return fmean(
        BroodWeighing(matrix, settings, {}, replace(region, season=season)).priors[condition]
        for season in BROOD_SEASONS
    )


def _colony(condition: str, colony: ColonyLooked, share: float, today: date, left: _Left) -> UnseenColony:
    chance, since, last = share, date.min, None
    for one in colony.looked:
        if one.on > today:
            continue
        chance = _drifted(chance, share, (one.on - since).days)
        odds = left.of(one)[condition] * chance / (1 - chance)
        chance, since = odds / (1 + odds), one.on
        last = one if OWN_SIGNS[condition] & one.absent.keys() else last
    return UnseenColony(
        colony.label, _drifted(chance, share, (today - since).days), last.on if last is not None else None,
        last.all_shaken if last is not None else False,
    )  # fmt: skip


def _drifted(chance: float, share: float, days: int) -> float:
    """The chance so many days on: of the colonies that are free each year as many fall ill as have it at any time, and
    no colony is likelier to be ill than one that nobody looked at."""
    ill = 1 - pow(1 - share, days / YEAR_DAYS)
    return min(share, float(chance + (1 - chance) * ill))
