"""Safety rules of the living colony: what was found sets them, no score lowers them. They add, never remove.

Rule by rule as docs/methods/brood-diagnosis.md lists them.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from redframe.core.disease.brood_weighing import BroodWeighing
from redframe.core.disease.evidence import Weighed, speaks_for
from redframe.core.disease.findings import NOT_ENTERED

Flag = Literal[
    "AFB_SUSPECT", "EFB_SUSPECT", "EXOTIC_MITE", "SHB_REPORT", "STANDSTILL", "NOTIFY", "LAB_SAMPLE", "HOLD_COMB",
    "DO_NOT_UNITE", "EFB_CHECK", "MASKED_EXAM", "ROPE_TEST_NOW", "PPE_STONE", "POISON_SAMPLE", "FEED_NOW",
    "MITE_ACTION", "ROBBING_CONTROL", "CLOSE_HIVE",
]  # fmt: skip
STOP: tuple[Flag, ...] = ("STANDSTILL", "NOTIFY", "LAB_SAMPLE", "HOLD_COMB", "DO_NOT_UNITE")
"""What stops with a suspicion."""
SUSPECT: Mapping[str, Flag] = {"afb": "AFB_SUSPECT", "efb": "EFB_SUSPECT"}
SUSPICIONS: frozenset[Flag] = frozenset({"AFB_SUSPECT", "EFB_SUSPECT", "EXOTIC_MITE", "SHB_REPORT"})
RAISES = frozenset({"R1", "R2", "R3", "R3a", "R3c", "R4", "R5", "R6", "R7", "R8", "R9", "R10", "R19"})
"""Rules that raise a suspect case."""
NONE_MAY_LEAD = frozenset({"R1", "R2", "R3", "R3a", "R3c", "R4", "R5", "R6", "R7", "R8"})
"""Where one of these is met, neither a healthy colony nor benign cappings lead."""
ABNORMAL_CAPPING = ("cap_sunken", "cap_greasy", "cap_perforated")
DEAD_BROOD = (
    "larva_discoloured", "larva_twisted", "larva_melted", "larva_tracheae", "larva_brown_capped", "larva_sac",
    "larva_slipper", "dead_all_ages_edge", "pupa_chewed", "pupa_tongue", "scale_stuck", "scale_loose", "mummy_white",
    "mummy_black", "mummy_stone", "brood_ejected", "emerging_dead",
)  # fmt: skip
SURE_FROM = 0.3
"""Below this chance of every condition dead brood goes to the laboratory."""


@dataclass(frozen=True, slots=True)
class Rule:
    """A rule that is met: what it sets, and the conditions that it pins above the ranking."""

    id: str
    flags: tuple[Flag, ...]
    pins: tuple[str, ...] = ()


def rules_met(weighing: BroodWeighing, weighed: Weighed) -> list[Rule]:
    """The rules that are met, in their order."""
    return [*_foulbrood(weighing), *_exotic(weighing), *_traced(weighing), *_others(weighing, weighed)]


def _suspect(rule: str, condition: str) -> Rule:
    return Rule(rule, (SUSPECT[condition], *STOP), (condition,))


def rope_was_done(weighing: BroodWeighing) -> bool:
    """Whether remains were drawn out with a match, whatever came of it."""
    return "ropy_thread" in weighing.findings or NOT_ENTERED in weighing.findings


def _foulbrood(seen: BroodWeighing) -> Iterator[Rule]:
    there = seen.is_present
    roped, brown = rope_was_done(seen), there("larva_brown_capped")
    sunken_or_torn = there("cap_sunken") or there("cap_perforated")
    if there("ropy_thread") or there(NOT_ENTERED):
        yield _suspect("R1", "afb")
    if there("scale_stuck"):
        yield _suspect("R2", "afb")
    if there("cap_greasy") and sunken_or_torn and brown:
        yield _suspect("R3", "afb")
    if brown and not roped:
        yield _suspect("R3a", "afb")
    if brown and seen.is_absent("ropy_thread"):
        yield Rule("R3b", ("LAB_SAMPLE",), ("afb",))
    if there("cap_sunken") and there("cap_greasy") and not roped:
        yield _suspect("R3c", "afb")
    if there("pupa_tongue"):
        yield _suspect("R4", "afb")
    for condition in ("afb", "efb"):
        if there(f"lfd_{condition}_pos") or there(f"lab_{condition}_pos"):
            yield _suspect("R5", condition)
    if there("smell_foul") and any(there(one) for one in DEAD_BROOD):
        yield _suspect("R6", "afb")
    sick = [one for one in ("larva_twisted", "larva_melted", "larva_tracheae") if there(one)]
    telling = there("larva_twisted") or there("larva_tracheae")
    if telling and (there("larva_discoloured") or len(sick) > 1):
        yield _suspect("R7", "efb")
    elif sick:
        yield Rule("R7b", ("EFB_CHECK",), ("efb",))


def _exotic(seen: BroodWeighing) -> Iterator[Rule]:
    if seen.is_present("mite_exotic"):
        yield Rule("R8", ("EXOTIC_MITE", "STANDSTILL", "NOTIFY", "LAB_SAMPLE"), ("tropilaelaps",))
    beetle = any(seen.is_present(one) for one in ("shb_adults", "shb_larvae", "shb_slime"))
    if beetle and not seen.context.shb_established:
        yield Rule("R9", ("SHB_REPORT", "STANDSTILL", "NOTIFY"), ("small_hive_beetle",))


def _traced(seen: BroodWeighing) -> Iterator[Rule]:
    abnormal = any(seen.is_present(one) for one in (*ABNORMAL_CAPPING, *DEAD_BROOD))
    for condition in ("afb", "efb"):
        if abnormal and f"trace_contact_{condition}" in seen.context.flags:
            yield _suspect("R10", condition)
    if "antibiotic_recent" in seen.context.flags:
        yield Rule("R11", ("MASKED_EXAM",))


def _others(seen: BroodWeighing, weighed: Weighed) -> Iterator[Rule]:
    there = seen.is_present
    brown = seen.findings.get("larva_brown_capped")
    opened = brown is not None and not brown.present and brown.effort != "glance"
    unknown = there("larva_brown_capped") or (there("cap_sunken") and not opened)
    if unknown and not rope_was_done(seen):
        yield Rule("R12", ("ROPE_TEST_NOW",))
    if there("mummy_stone"):
        yield Rule("R13", ("PPE_STONE", "LAB_SAMPLE"), ("stonebrood",))
    poison = there("tongue_out") or there("multi_colony_sudden") or "recent_spray" in seen.context.flags
    if there("dead_pile") and poison:
        yield Rule("R14", ("POISON_SAMPLE",), ("pesticide",))
    if there("bees_lethargic") or there("heads_in_cells") or there("stores_nil"):
        yield Rule("R15", ("FEED_NOW",), ("starvation",))
    if there("mite_count_high") or there("dwv"):
        yield Rule("R16", ("MITE_ACTION",), ("varroa_pms",))
    if there("rob_fighting"):
        yield Rule("R17", ("ROBBING_CONTROL",), ("robbing",))
    if any(there(one) for one in DEAD_BROOD) and max(weighed.chances.values()) < SURE_FROM:
        yield Rule("R18", ("LAB_SAMPLE",))
    for condition, least in seen.settings.suspect_from.items():
        if weighed.chances[condition] >= least and speaks_for(seen, condition):
            yield _suspect("R19", condition)
