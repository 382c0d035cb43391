"""The reading of dead colonies: its computing time, and how it does on hives that its matrix did not make.

Hives are made by a generator of its own: what each cause leaves by the words of docs/methods/dead-outs.md, a second
cause in one of five, robbing afterwards in one of four, one finding in ten not looked at, one in fifty recorded by
mistake. It shows how the parts work together; of what colonies die in the field it cannot show."""

from __future__ import annotations

import random
import time
from collections.abc import Mapping

from redframe.core.deadouts.assessment import DeadAssessment, assess_dead
from redframe.core.deadouts.signs import dead_signs, read_dead
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import SignSeen

HIVES = 1000
SECOND, ROBBED, MISSED, MISTAKEN = 1 / 5, 1 / 4, 0.1, 0.02
LEFT_BY: Mapping[str, Mapping[str, float]] = {
    "varroa_virus": {"d_bees_gone": 0.6, "d_cluster_fist": 0.4, "d_stores_plenty": 0.7, "d_mites_floor": 0.7,
                     "d_wash_high": 0.85, "d_guanine": 0.7, "d_dwv": 0.5, "d_brood_perforated": 0.7,
                     "d_emerging_dead": 0.5, "r_mites_high_or_late": 0.8},
    "queen_failure": {"d_queen_absent": 0.8, "d_bullet": 0.6, "d_drone_winter": 0.6, "d_qcells_old": 0.5,
                      "d_cluster_fist": 0.5, "d_stores_plenty": 0.6, "r_queen_problem": 0.6},
    "starvation": {"d_stores_none": 0.97, "d_heads_in_cells": 0.9, "d_cluster_large": 0.6, "d_floor_many": 0.7,
                   "r_stores_low": 0.7},
    "isolation_starvation": {"d_stores_far": 0.95, "d_heads_in_cells": 0.85, "d_cluster_fist": 0.7,
                             "d_cold_spell": 0.85, "r_small_going_in": 0.5},
    "dwindled_small": {"d_cluster_fist": 0.9, "d_stores_contact": 0.7, "r_small_going_in": 0.9, "d_cold_spell": 0.6},
    "moisture": {"d_wet_cluster": 0.9, "d_lid_drip": 0.8, "d_mould": 0.8, "d_cluster_large": 0.6},
    "dysentery_nosema": {"d_dysentery_in": 0.9, "d_dysentery_front": 0.7, "d_nosema_micro": 0.8},
    "pesticide": {"d_outside_pile": 0.8, "d_floor_many": 0.8, "d_tongues_out": 0.7, "d_multi_same_day": 0.7,
                  "r_spray": 0.5},
    "foulbrood": {"d_scale_stuck": 0.7, "d_sunken_greasy": 0.6, "d_ropy": 0.5, "d_smell_foul": 0.4,
                  "d_brood_perforated": 0.5},
    "wasps_hornets": {"d_wasps_seen": 0.85, "d_hornet_hawking_rec": 0.6, "d_rob_ragged": 0.4},
    "predators": {"d_mouse": 0.8, "d_woodpecker": 0.2},
}  # fmt: skip
"""How often each cause leaves what whoever looks for it finds."""
PROOF = ("d_scale_stuck", "d_ropy", "d_sunken_greasy")
EVERY = sorted({sign for left in LEFT_BY.values() for sign in left} | {"d_rob_ragged", "d_wax_bits_floor"})


def measure_deadouts() -> list[tuple[str, str]]:
    """The lines of the report."""
    dice = random.Random(7)
    first = three = settled = wrong = proofs = missed = robbed_first = robbed = 0
    spent = 0.0
    for _ in range(HIVES):
        causes = [dice.choice(list(LEFT_BY))]
        if dice.random() < SECOND:
            causes.append(dice.choice([one for one in LEFT_BY if one not in causes]))
        was_robbed = dice.random() < ROBBED
        seen = _seen(dice, causes, was_robbed=was_robbed)
        begun = time.process_time()
        found = assess_dead(read_dead(seen), Context("winter"))
        spent += time.process_time() - begun
        ranked = [one.id for one in found.ranking]
        first += ranked[0] in causes
        three += all(one in ranked[:3] for one in causes)
        settled += found.is_settled
        wrong += found.is_settled and _leader(found) not in causes
        if was_robbed:
            robbed += 1
            robbed_first += ranked[0] == "robbing"
        if any(one.sign in PROOF and one.value == "some" for one in seen):
            proofs += 1
            missed += "AFB_SUSPECT" not in found.flags
    return [
        ("reading of a dead colony", f"{1000 * spent / HIVES:.1f} ms computing time (target 30)"),
        (
            f"{HIVES} made-up hives, a second cause in one of five",
            f"a cause that was there is first in {100 * first / HIVES:.0f} %, all are among the first three in "
            f"{100 * three / HIVES:.0f} %; settled in {100 * settled / HIVES:.0f} %, of these on a cause that was not "
            f"there in {100 * wrong / max(1, settled):.1f} %",
        ),
        ("robbed after another cause", f"robbing is put first in {robbed_first} of {robbed}"),
        ("a scale, a thread or greasy caps that were not flagged", f"{missed} of {proofs}"),
    ]


def _seen(dice: random.Random, causes: list[str], *, was_robbed: bool) -> list[SignSeen]:
    seen = []
    for sign in EVERY:
        if dice.random() < MISSED:
            continue
        there = any(dice.random() < LEFT_BY[cause].get(sign, 0.0) for cause in causes)
        if was_robbed and sign in ("d_rob_ragged", "d_wax_bits_floor"):
            there = there or dice.random() < 0.8
        if dice.random() < MISTAKEN and sign not in PROOF:
            there = not there
        seen.append(SignSeen(sign, True, "some" if there else "absent"))
    stores = [
        one for one in seen if one.sign in ("d_stores_none", "d_stores_far", "d_stores_contact") and one.value == "some"
    ]
    drop = {one.sign for one in stores[1:]}
    return [one for one in seen if one.sign not in drop]


def _leader(found: DeadAssessment) -> str:
    own = [one for one in found.ranking if one.has_own and one.id not in found.secondary]
    return max(own, key=lambda one: one.probability).id


assert set(EVERY) <= set(dead_signs())

if __name__ == "__main__":
    for name, figure in measure_deadouts():
        print(f"{name}: {figure}")
