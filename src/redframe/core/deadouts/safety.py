"""Safety rules of a dead colony: what was found sets them, no score lowers them. They add, never remove.

Rule by rule as docs/methods/dead-outs.md lists them.
"""

from __future__ import annotations

from collections.abc import Iterator

from redframe.core.deadouts.weighing import FOULBROOD, DeadWeighing
from redframe.core.disease.evidence import Weighed, speaks_for
from redframe.core.disease.safety import STOP, Rule

RECORD = frozenset({
    "r_mites_high_or_late", "r_autumn_crash", "r_small_going_in", "r_queen_problem", "r_stores_low", "r_spray",
    "r_foul_contact",
})  # fmt: skip
"""Findings that come from the record of a colony, not from what is left of it."""
TRACED = frozenset({"trace_contact_afb", "trace_contact_efb"})
REMAINS = ("d_larva_dead_open", "d_brood_perforated", "d_sunken_greasy", "d_emerging_dead")
PILES = ("d_floor_many", "d_outside_pile")
RAISES = frozenset({"D1", "D2", "D3", "D5", "D9"})
"""Rules that raise a suspect case."""
NONE_MAY_LEAD = frozenset({"D1"})
"""Where one of these is met, "undetermined" does not lead."""


def rules_met(weighing: DeadWeighing, weighed: Weighed) -> list[Rule]:
    """The rules that are met, in their order."""
    found = [*_foulbrood(weighing, weighed)]
    if _is_open(weighing):
        found.append(Rule("D6", ("HOLD_COMB",)))
    if any("HOLD_COMB" in one.flags for one in found) or _was_robbed(weighing):
        found.append(Rule("D7", ("CLOSE_HIVE",)))
    return [*found, *_others(weighing)]


def _suspect(rule: str) -> Rule:
    return Rule(rule, ("AFB_SUSPECT", *STOP, "CLOSE_HIVE"), (FOULBROOD,))


def _foulbrood(seen: DeadWeighing, weighed: Weighed) -> Iterator[Rule]:
    there = seen.is_present
    if there("d_ropy") or there("d_scale_stuck") or there("d_lab_foul_pos"):
        yield _suspect("D1")
    if there("d_sunken_greasy"):
        yield _suspect("D2")
    if there("d_smell_foul") and (there("d_brood_perforated") or there("d_larva_dead_open")):
        yield _suspect("D3")
    if there("r_foul_contact") or TRACED & seen.context.flags:
        yield Rule("D4", ("HOLD_COMB", "LAB_SAMPLE"))
    for cause, least in seen.settings.suspect_from.items():
        if weighed.chances[cause] >= least and speaks_for(seen, cause, besides=RECORD):
            yield Rule("D5", ("AFB_SUSPECT", *STOP), (cause,))


def _is_open(seen: DeadWeighing) -> bool:
    """Whether scale was not yet looked for on every comb, or remains were not drawn out."""
    scale = seen.findings.get("d_scale_stuck")
    if scale is None or (not scale.present and scale.effort == "glance"):
        return True
    return any(seen.is_present(one) for one in REMAINS) and "d_ropy" not in seen.findings


def _was_robbed(seen: DeadWeighing) -> bool:
    return seen.is_present("d_rob_ragged") or seen.is_present("d_wax_bits_floor")


def _others(seen: DeadWeighing) -> Iterator[Rule]:
    there = seen.is_present
    heap = any(there(one) and seen.findings[one].extent != "few" for one in PILES)
    poison = any(there(one) for one in ("d_tongues_out", "d_multi_same_day", "d_pollen_loads_dead", "r_spray"))
    if heap and (poison or "recent_spray" in seen.context.flags):
        yield Rule("D8", ("POISON_SAMPLE",), ("pesticide",))
    if there("d_shb_larvae_slime") and not seen.context.shb_established:
        yield Rule("D9", ("SHB_REPORT", "STANDSTILL", "NOTIFY"), ("small_hive_beetle",))
    if there("d_wash_high") or there("d_mites_floor") or there("d_guanine"):
        yield Rule("D10", ("MITE_ACTION",))
