"""Where the combs and boxes of a dead colony may go: hold until foulbrood is excluded, then by the cause of the death.

Local law comes first; the schools differ about the honey, so its ways stand side by side. See
docs/methods/dead-outs.md."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

ItemKind = Literal["honey_comb", "brood_comb", "box"]
FateId = Literal[
    "hold", "laboratory", "freeze", "extract", "vapour", "melt", "burn", "scorch", "scorch_and_soda", "dry", "air"
]  # fmt: skip
Ruling = Literal["usual", "open", "barred"]
FateCode = Literal[
    "held_uncleared", "held_suspect", "held_trace", "held_poison", "held_case", "held_hold",
    "held_standstill", "cause_unknown", "same_apiary_only",
    "declare_medicines", "medicine_open", "soiled", "slime", "mouldy", "old_comb", "wax_and_fire", "acid_care",
    "by_order", "food_law", "ferments",
]  # fmt: skip
HeldWhy = Literal["uncleared", "suspect", "trace", "poison", "case", "hold", "standstill"]
Group = Literal["plain", "gut", "wet", "poison", "slime", "moth", "unknown", "foulbrood"]

OLD_COMB_YEARS = 3
GROUPS: Mapping[str, Group] = {
    "varroa_virus": "plain", "queen_failure": "plain", "laying_workers": "plain", "starvation": "plain",
    "isolation_starvation": "plain", "dwindled_small": "plain", "absconding": "plain", "wasps_hornets": "plain",
    "predators": "plain", "accident": "plain", "robbing": "plain", "dysentery_nosema": "gut", "moisture": "wet",
    "pesticide": "poison", "small_hive_beetle": "slime", "foulbrood": "foulbrood", "undetermined": "unknown",
}  # fmt: skip
"""What a cause does to comb and box."""
_FIRE: tuple[FateId, ...] = ("scorch", "burn")
WAYS: Mapping[Group, Mapping[ItemKind, tuple[FateId, ...]]] = {
    "plain": {
        "honey_comb": ("freeze", "extract", "melt", "burn"), "brood_comb": ("freeze", "melt", "burn"), "box": _FIRE,
    },
    "gut": {
        "honey_comb": ("melt", "burn"), "brood_comb": ("melt", "vapour", "burn"), "box": ("scorch_and_soda", "burn"),
    },
    "wet": {"honey_comb": ("freeze", "melt", "burn"), "brood_comb": ("freeze", "melt", "burn"), "box": ("dry", "burn")},
    "poison": {"honey_comb": ("melt", "burn"), "brood_comb": ("melt", "burn"), "box": ("air", "burn")},
    "slime": {"honey_comb": ("freeze", "burn"), "brood_comb": ("burn", "freeze"), "box": _FIRE},
    "moth": {"honey_comb": ("freeze", "melt"), "brood_comb": ("melt", "freeze"), "box": _FIRE},
    "unknown": {
        "honey_comb": ("melt", "freeze", "burn"), "brood_comb": ("melt", "freeze", "burn"), "box": _FIRE,
    },
    "foulbrood": {"honey_comb": ("burn",), "brood_comb": ("burn",), "box": ("burn", "scorch")},
}  # fmt: skip
"""What is usual first; the others are ways that other schools take."""


@dataclass(frozen=True, slots=True)
class ItemFacts:
    """A comb or box of a dead colony. `cause`: what its death is put down to; `held`: why nothing leaves yet (None:
    released); `comb_age`: years; `medicine_open`: a residue period was open, or nobody declared the medicines of the
    last season (`declared` False); `mould`: 0 to 2."""

    kind: ItemKind
    cause: str
    held: HeldWhy | None
    comb_age: int | None = None
    streaks: bool = False
    slime: bool = False
    moth: bool = False
    mould: int = 0
    medicine_open: bool = False
    declared: bool = False
    by_order: bool = False


@dataclass(frozen=True, slots=True)
class FateJudged:
    """A way for an item: the usual one, open to choose, or barred, and why or with what care."""

    fate: FateId
    ruling: Ruling
    reasons: Sequence[FateCode]


def group_of(facts: ItemFacts) -> Group:
    """What the death and the state of the hive did to its comb: slime and moth come before the cause."""
    if facts.slime:
        return "slime"
    if facts.moth and GROUPS[facts.cause] in ("plain", "unknown"):
        return "moth"
    return GROUPS[facts.cause]


def fates_for(facts: ItemFacts) -> list[FateJudged]:
    """Every way for an item, the usual one first. While it is held nothing but holding, or the laboratory, is open;
    burning is where an order says so."""
    ways = WAYS[group_of(facts)][facts.kind]
    if facts.held is None:
        return [FateJudged("hold", "open", ()), *_released(facts, ways)]
    why: FateCode = HELD[facts.held]
    kept: list[FateJudged] = [FateJudged("hold", "usual", (why,)), FateJudged("laboratory", "open", (why,))]
    for fate in ways:
        ordered = fate in ("burn", "scorch") and facts.by_order
        kept.append(FateJudged(fate, "open", ("by_order",)) if ordered else FateJudged(fate, "barred", (why,)))
    return kept


HELD: Mapping[HeldWhy, FateCode] = {
    "uncleared": "held_uncleared", "suspect": "held_suspect", "trace": "held_trace", "poison": "held_poison",
    "case": "held_case", "hold": "held_hold", "standstill": "held_standstill",
}  # fmt: skip


def _released(facts: ItemFacts, ways: Sequence[FateId]) -> Iterator[FateJudged]:
    judged = [_judged(facts, fate) for fate in ways]
    # The usual way is the first that nothing bars; where comb is old it is melted.
    first = next((one for one in judged if one.ruling != "barred" and "old_comb" not in one.reasons), None)
    for one in judged:
        yield FateJudged(one.fate, "usual", one.reasons) if one is first else one


def _judged(facts: ItemFacts, fate: FateId) -> FateJudged:
    bars = list(_bars(facts, fate))
    return FateJudged(fate, "barred", bars) if bars else FateJudged(fate, "open", list(_cares(facts, fate)))


def _bars(facts: ItemFacts, fate: FateId) -> Iterator[FateCode]:
    if fate == "extract":
        if facts.medicine_open:
            yield "medicine_open"
        elif not facts.declared:
            yield "declare_medicines"
        if facts.streaks:
            yield "soiled"
        if facts.slime:
            yield "slime"
        if facts.mould:
            yield "mouldy"
    if fate == "freeze" and facts.kind == "honey_comb" and facts.mould > 1:
        yield "ferments"


def _cares(facts: ItemFacts, fate: FateId) -> Iterator[FateCode]:
    if fate == "freeze":
        yield "same_apiary_only"
        if facts.kind == "brood_comb" and facts.comb_age is not None and facts.comb_age > OLD_COMB_YEARS:
            yield "old_comb"
        if facts.cause == "undetermined":
            yield "cause_unknown"
    if fate == "extract":
        yield "food_law"
    if fate == "vapour":
        yield "acid_care"
    if fate in ("burn", "scorch", "scorch_and_soda"):
        yield "wax_and_fire"
