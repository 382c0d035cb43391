"""The assessment of brood: its computing time, and how it does on examinations that its matrix did not make.

Colonies are made by a generator of its own: other rates of detection, a second condition in one of six, records that
miss what was there and records of what was not. It shows how the parts work together; what bees do in the field it
cannot show.
"""

from __future__ import annotations

import random
import statistics
import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import get_args

from redframe.core.disease.brood_assessment import HEALTHY, BroodAssessment, assess_brood
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import SignSeen, Value, read_findings
from redframe.core.disease.groups import groups
from redframe.core.disease.settings import Season, brood_settings
from redframe.core.disease.signs import Extent
from redframe.core.visits.disease_reading import read_disease
from redframe.core.visits.examination import Examination

EXAMINATIONS, SEQUENCES = 2000, 150
SECOND, MISSED, MISTAKEN = 1 / 6, 0.1, 0.004
SURE = 0.9
TELLS_BITS = 0.02
"""A test that would tell less is left out."""
SHOWN_BY: Mapping[str, Mapping[str, float]] = {
    "afb": {"cap_sunken": 0.8, "cap_greasy": 0.5, "cap_perforated": 0.6, "larva_brown_capped": 0.75, "ropy_thread": 0.7,
            "scale_stuck": 0.45, "pupa_tongue": 0.1, "smell_foul": 0.3, "pattern_spotty": 0.6},
    "efb": {"larva_twisted": 0.75, "larva_discoloured": 0.85, "larva_melted": 0.6, "larva_tracheae": 0.4,
            "smell_sour": 0.35, "pattern_spotty": 0.6, "scale_loose": 0.3},
    "chalkbrood": {"mummy_white": 0.9, "mummy_black": 0.5, "mummies_entrance": 0.5, "pattern_spotty": 0.3},
    "sacbrood": {"larva_sac": 0.8, "larva_slipper": 0.7, "cap_perforated": 0.4, "larva_discoloured": 0.4},
    "varroa_pms": {"mite_count_high": 0.9, "dwv": 0.6, "mites_in_brood": 0.6, "cap_perforated": 0.5,
                   "pattern_spotty": 0.6, "emerging_dead": 0.35, "pupa_chewed": 0.5, "larva_melted": 0.15},
    "bald_brood": {"cap_bald_lines": 0.9, "moth_tunnels": 0.3},
    "chilled_brood": {"dead_all_ages_edge": 0.85, "larva_discoloured": 0.3},
    "starved_brood": {"larva_dry": 0.8, "brood_ejected": 0.3, "low_pollen": 0.6},
    "drone_layer": {"drone_compact": 0.85, "cap_bullet": 0.9},
    "laying_workers": {"drone_scattered": 0.85, "eggs_multiple": 0.85, "eggs_walls": 0.7, "queen_not_seen": 1.0,
                       "cap_bullet": 0.8, "no_open_brood": 0.8},
    "cbpv": {"trembling": 0.8, "shiny_black": 0.7, "crawlers": 0.6, "dead_pile": 0.6},
    "starvation": {"stores_nil": 0.95, "bees_lethargic": 0.6, "heads_in_cells": 0.4},
    "small_hive_beetle": {"shb_adults": 0.95, "shb_larvae": 0.4},
}  # fmt: skip
"""How often each condition shows a sign to whoever looks for it, from the words of docs/methods/brood-diagnosis.md and
from practice: not from the matrix, which is asked about them."""
PROOF = ("ropy_thread", "scale_stuck", "pupa_tongue")
AT_FIRST = frozenset(
    ("cap_perforated", "cap_sunken", "pattern_spotty", "mummy_white", "cap_bald_lines", "cap_bullet", "dead_pile", "dwv",
     "brood_ejected", "shb_adults", "stores_nil", "mummies_entrance", "crawlers", "moth_tunnels")
)  # fmt: skip
"""What a look with the bees on the combs may show, before anybody does a test."""
SEASONS: tuple[Season, ...] = ("early_spring", "spring", "summer", "late_summer", "autumn")
EVERY = sorted({sign for shown in SHOWN_BY.values() for sign in shown})


@dataclass(frozen=True)
class Made:
    """A colony that was made up: what it has, the season, and each sign as a careful person would record it."""

    has: Sequence[str]
    season: Season
    signs: Mapping[str, bool]
    extents: Mapping[str, Extent] = field(default_factory=dict)

    def seen(self, signs: Sequence[str]) -> list[SignSeen]:
        """These signs as they are entered."""
        return [SignSeen(one, True, self._value(one)) for one in signs]

    def _value(self, sign: str) -> Value:
        if sign == "ropy_thread":
            return 24.0 if self.signs[sign] else 0.0
        return self.extents.get(sign, "some") if self.signs[sign] else "absent"


def made(chance: random.Random) -> Made:
    """A colony with one condition, or two."""
    has = [chance.choice(list(SHOWN_BY))]
    if chance.random() < SECOND:
        has.append(chance.choice([one for one in SHOWN_BY if one not in has]))
    there = {one: any(chance.random() < SHOWN_BY[condition].get(one, 0) for condition in has) for one in EVERY}
    recorded = {
        one: (is_there and (one in PROOF or chance.random() > MISSED)) or (not is_there and chance.random() < MISTAKEN)
        for one, is_there in there.items()
    }
    if not recorded["larva_brown_capped"] and not there["ropy_thread"]:
        recorded["ropy_thread"] = False
    extents: dict[str, Extent] = {one: chance.choice(get_args(Extent)) for one in EVERY}
    return Made(has, chance.choice(SEASONS), recorded, extents)


def assessed(colony: Made, signs: Sequence[str]) -> BroodAssessment:
    """What these of its signs fit."""
    return assess_brood(read_findings(colony.seen(signs)), Context(colony.season))


def shown(found: BroodAssessment) -> list[str]:
    """The conditions in the order of the screen: what a rule names, then by chance; nothing of which nothing speaks."""
    ranked = [one for one in found.ranking if one.id != HEALTHY and not one.nothing_seen]
    return [one.id for one in sorted(ranked, key=lambda one: not one.pinned_by)]


def quality() -> dict[str, float]:
    """Shares of 2,000 examinations in which everything was looked for, of those that recorded a sign of each condition
    that was there: what nobody recorded nobody can find."""
    chance = random.Random(20310802)
    usable = first = best = three = flagged = proven = 0
    for _ in range(EXAMINATIONS):
        colony = made(chance)
        found = assessed(colony, EVERY)
        if all(any(colony.signs[sign] for sign in SHOWN_BY[one]) for one in colony.has):
            usable += 1
            ranked = shown(found)
            first += ranked[:1] != [] and ranked[0] in colony.has
            best += set(colony.has) <= set(found.best_set)
            three += set(colony.has) <= set(ranked[:3])
        if any(colony.signs[one] for one in PROOF):
            proven += 1
            flagged += "AFB_SUSPECT" in found.flags
    return {
        "first": first / usable, "best": best / usable, "three": three / usable, "usable": usable, "missed": proven - flagged, "proven": proven,
    }  # fmt: skip


def settled(found: BroodAssessment) -> bool:
    """Whether nothing more need be asked: a condition is sure, or a suspicion stops the examination."""
    leader = max(one.probability for one in found.ranking)
    return leader >= SURE or "AFB_SUSPECT" in found.flags or "EFB_SUSPECT" in found.flags


def tests_needed(colony: Made, order: Sequence[str] | None) -> tuple[int, bool]:
    """Tests until it is settled, and whether a condition that is there then leads: in a fixed order to its end, or each
    time the one that would tell most, until none tells anything."""
    known = [one for one in EVERY if one in AT_FIRST]
    done: list[str] = []
    tests = brood_settings().tests
    while True:
        found = assessed(colony, known)
        leads = bool({*shown(found)[:1]} & set(colony.has))
        if settled(found):
            return len(done), leads
        telling = [one.id for one in found.next_tests if one.forced_by or one.gain_bits + one.safe_bits >= TELLS_BITS]
        wanted = order if order is not None else telling
        following = next((one for one in wanted if one not in done and set(tests[one].tells) & set(EVERY)), None)
        if following is None:
            return len(done), leads
        done.append(following)
        known += [one for one in tests[following].tells if one in EVERY and one not in known]


def sequences() -> Iterator[tuple[tuple[int, bool], tuple[int, bool]]]:
    """Tests by what tells most and by a checklist from top to bottom, for the same colonies."""
    chance = random.Random(7)
    checklist = list(brood_settings().tests)
    for _ in range(SEQUENCES):
        colony = made(chance)
        yield tests_needed(colony, None), tests_needed(colony, checklist)


def milliseconds() -> float:
    """Computing time of the reading of a full examination with two signs."""
    full = Examination.model_validate(
        {"brood_combs": 6, "combs_read": 6, "bees_off": "shaken", "scale_read": True, "smelled": True,
         "cells_opened": 10, "bees_looked_at": 100, "not_seen": list(groups())}
    )  # fmt: skip
    seen: dict[str, Value] = {"cap_sunken": "few", "cap_perforated": "some"}
    absent = [SignSeen(sign, True, "absent", effort) for sign, effort in full.absences() if sign not in seen]
    findings = read_findings([*absent, *(SignSeen(sign, True, value) for sign, value in seen.items())])
    times = []
    for _ in range(25):
        began = time.process_time()
        read_disease(findings, Context("late_summer"), on=date(2031, 8, 2))
        times.append(1000 * (time.process_time() - began))
    return statistics.median(times)


def measure_disease() -> list[tuple[str, str]]:
    """Computing time, and how the assessment does on made-up examinations."""
    said = quality()
    by_telling, by_list = zip(*sequences(), strict=True)
    few, many = (sum(tests for tests, _ in one) / SEQUENCES for one in (by_telling, by_list))
    right = [sum(leads for _, leads in one) / SEQUENCES for one in (by_telling, by_list)]
    return [
        ("reading of a full examination, computing time", f"{milliseconds():.1f} ms (target 30)"),
        (f"{said['usable']:.0f} made-up examinations with a sign of what is there: it is first; all is in the first three; "
         "all is in the best set", f"{said['first']:.0%}; {said['three']:.0%}; {said['best']:.0%}"),
        ("American foulbrood with a thread, a scale or a tongue that was not flagged",
         f"{said['missed']:.0f} of {said['proven']:.0f} (target 0)"),
        ("tests until it is settled, by what tells most against a checklist",
         f"{few:.1f} / {many:.1f} = {few / many:.2f} (target 0.5); what is there leads in {right[0]:.0%} / {right[1]:.0%}"),
    ]  # fmt: skip


if __name__ == "__main__":
    for what, figure in measure_disease():
        print(f"{what}: {figure}")
