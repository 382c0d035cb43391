"""Which way to handle a condition fits a colony as it was found, and why. A choice is the person's; what is barred is
barred by law or by what is open."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from redframe.core.handling.options import HandledCondition, HandlingId, handled_conditions
from redframe.core.season.calendar import Phase

WayFit = Literal["fits", "possible", "unlikely", "barred"]
ORDER: tuple[WayFit, ...] = ("fits", "possible", "unlikely", "barred")
LIGHT, HEAVY = 0.10, 0.30
"""Shares of brood that is sick: below the first a case is light, above the second combs are melted."""
FEW_CELLS = 30
STRONG_FRAMES, UNITE_FRAMES = 8.0, 4.0
"""Frames of bees of a strong colony, and from which uniting is worth it."""
GROWING: frozenset[Phase] = frozenset({"build_up", "peak"})


@dataclass(frozen=True, slots=True)
class HandlingFacts:
    """A colony as it was found: sick cells and their share of the brood on the combs looked at (None: not known),
    frames of bees, the phase, whether foulbrood is open in it or was not looked for, whether it had the condition in an
    earlier season, and whether another colony of the apiary is strong."""

    cells: int | None
    share: float | None
    frames_of_bees: float | None
    phase: Phase
    foulbrood_open: bool
    foulbrood_looked_for: bool
    had_before: bool
    strong_neighbour: bool


@dataclass(frozen=True, slots=True)
class OptionJudged:
    """How an option stands, and the reasons in words."""

    option: HandlingId
    fit: WayFit
    reasons: tuple[str, ...]


def options_for(condition: HandledCondition, facts: HandlingFacts) -> list[OptionJudged]:
    """The options of a condition, those that fit first, else in the order of the data."""
    found = [_judged(condition, option, facts) for option in handled_conditions()[condition].options]
    return sorted(found, key=lambda one: ORDER.index(one.fit))


def _judged(condition: HandledCondition, option: HandlingId, facts: HandlingFacts) -> OptionJudged:
    if handled_conditions()[condition].options[option].by_order:
        return OptionJudged(option, "barred", ("only by order of the authority", *_severity(facts)))
    if facts.foulbrood_open:
        return OptionJudged(option, "barred", ("foulbrood is not excluded in this colony",))
    fit, reasons = _RULES[option](facts)
    return OptionJudged(option, fit, tuple(reasons))


def _severity(facts: HandlingFacts) -> Sequence[str]:
    if facts.share is None:
        return ()
    word = "light" if facts.share < LIGHT else "medium" if facts.share <= 0.5 else "heavy"
    return (f"{word}: {facts.share:.0%} of the brood on the combs looked at is sick".replace("%", " %"),)


def _is_strong(facts: HandlingFacts) -> bool:
    return facts.frames_of_bees is not None and facts.frames_of_bees >= STRONG_FRAMES


Ruled = tuple[WayFit, Sequence[str]]


def _clean_above_excluder(facts: HandlingFacts) -> Ruled:
    if not facts.foulbrood_looked_for:
        return "barred", ("foulbrood was not looked for on all brood combs: look first",)
    if not facts.strong_neighbour:
        return "unlikely", ("no other colony of this apiary is known to have eight frames of bees",)
    if facts.share is not None and facts.share > HEAVY:
        return "possible", ("more than 30 % of the brood is sick: the worst combs are better melted",)
    return "fits", ("another colony of this apiary is strong", "foulbrood was looked for and not seen")


def _melt_and_requeen(facts: HandlingFacts) -> Ruled:
    reasons = []
    if facts.share is not None and facts.share > HEAVY:
        reasons.append("more than 30 % of the brood is sick")
    if facts.had_before:
        reasons.append("it had this in an earlier season")
    return ("fits", reasons) if reasons else ("possible", ("for a heavy case, or one that comes back",))


def _wait_for_flow(facts: HandlingFacts) -> Ruled:
    if facts.share is not None and facts.share >= LIGHT:
        return "unlikely", ("one cell in ten or more is sick",)
    if facts.phase not in GROWING:
        return "possible", ("light, but no flow is ahead",)
    if facts.share is None:
        return "possible", ("how much brood is sick was not counted",)
    return "fits", ("fewer than one cell in ten is sick", "the season is ahead")


def _watch_and_wait(facts: HandlingFacts) -> Ruled:
    if facts.had_before:
        return "possible", ("it had this in an earlier season",)
    if facts.share is not None and facts.share > LIGHT:
        return "unlikely", ("more than one cell in ten is sick",)
    if facts.cells is not None and facts.cells < FEW_CELLS and _is_strong(facts):
        return "fits", ("fewer than 30 cells in a strong colony",)
    return "possible", ("for few cells in a strong colony",)


def _requeen(facts: HandlingFacts) -> Ruled:
    reasons = []
    if facts.had_before:
        reasons.append("it had this in an earlier season")
    if facts.share is not None and facts.share > LIGHT:
        reasons.append("more than one cell in ten is sick")
    if facts.frames_of_bees is not None and facts.frames_of_bees <= UNITE_FRAMES:
        reasons.append("the colony is weak")
    return ("fits", reasons) if reasons else ("possible", ("for one that comes back, or is weak",))


def _break_in_brood(facts: HandlingFacts) -> Ruled:
    if facts.phase not in GROWING:
        return "unlikely", ("late in the season the break costs winter bees",)
    return "possible", ("where labour allows it",)


def _unite_with_strong(facts: HandlingFacts) -> Ruled:
    if not facts.foulbrood_looked_for:
        return "barred", ("foulbrood was not looked for on all brood combs: look first",)
    if facts.frames_of_bees is not None and facts.frames_of_bees > UNITE_FRAMES:
        return "fits", ("more than four frames of bees",)
    return "unlikely", ("too few bees to be worth it",)


def _brood_then_queen(facts: HandlingFacts) -> Ruled:
    if facts.phase not in GROWING:
        return "unlikely", ("too late to raise or mate a queen safely",)
    return "possible", ("while queens mate",)


def _shake_out(facts: HandlingFacts) -> Ruled:
    if not facts.foulbrood_looked_for:
        return "barred", ("foulbrood was not looked for on all brood combs: look first",)
    if facts.frames_of_bees is not None and facts.frames_of_bees <= UNITE_FRAMES:
        return "possible", ("few old bees; count their mites first",)
    return "unlikely", ("that many bees are worth more united",)


_RULES = {
    "clean_above_excluder": _clean_above_excluder,
    "melt_and_requeen": _melt_and_requeen,
    "wait_for_flow": _wait_for_flow,
    "watch_and_wait": _watch_and_wait,
    "requeen": _requeen,
    "break_in_brood": _break_in_brood,
    "unite_with_strong": _unite_with_strong,
    "brood_then_queen": _brood_then_queen,
    "shake_out": _shake_out,
}
