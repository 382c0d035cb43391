"""What the findings of a dead colony fit: against the model written out by hand, by its rules, and by what must hold."""

from __future__ import annotations

import csv
import unittest
from importlib.resources import files
from itertools import combinations
from math import exp, log
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.deadouts.assessment import DeadAssessment, assess_dead
from redframe.core.deadouts.causes import UNDETERMINED, causes
from redframe.core.deadouts.safety import RAISES
from redframe.core.deadouts.settings import dead_matrix, dead_settings
from redframe.core.deadouts.signs import dead_signs, read_dead
from redframe.core.deadouts.weighing import DeadWeighing
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import SignSeen
from redframe.core.errors import InvalidInput

WINTER = Context("winter")
SEASONS = ("winter", "early_spring", "spring", "summer", "late_summer", "autumn")
EXTENTS = ("absent", "few", "some", "many")


def found(context: Context = WINTER, /, **values: Any) -> DeadAssessment:
    """The assessment of signs by their values."""
    return assess_dead(read_dead([SignSeen(sign, True, value) for sign, value in values.items()]), context)


def chance(assessment: DeadAssessment, cause: str) -> float:
    """The chance of a cause."""
    return next(one.probability for one in assessment.ranking if one.id == cause)


any_finding = st.dictionaries(
    st.sampled_from(sorted(dead_signs())), st.sampled_from(EXTENTS), max_size=10
)  # fmt: skip


def by_hand(values: dict[str, str], season: str) -> dict[str, float]:
    """The chance of each cause by the model as it is written down, in plain loops over sets of up to three."""
    text = files("redframe.core.deadouts").joinpath("dead_matrix.csv").read_text("utf-8")
    rows = {row["sign"]: row for row in csv.DictReader(text.splitlines())}
    names = [name for name in next(iter(rows.values())) if name in causes()]
    usual = dead_settings().usual
    odds = {}
    for name in names:
        prior = usual[name] * dead_settings().seasons.get(season, {}).get(name, 1.0)  # type: ignore[call-overload]
        if name == "small_hive_beetle":
            prior *= 0.05
        odds[name] = log(prior / (1 - prior))
    no_brood = values.get("d_no_brood_ever", "absent") != "absent"
    wet = any(values.get(one, "absent") != "absent" for one in ("d_wet_cluster", "d_lid_drip"))
    kept = {}
    for sign, value in values.items():
        if sign == "d_mould" and not wet:
            continue
        gated = rows[sign]["gate"] in ("brood", "caps") and sign not in ("d_scale_stuck", "d_guanine")
        if value == "absent" and no_brood and gated:
            continue
        kept[sign] = value
    scale = values.get("d_scale_stuck", "absent") != "absent"

    def cell(sign: str, name: str) -> float:
        if name == "foulbrood" and kept[sign] == "absent" and scale and sign in ("d_ropy", "d_larva_dead_open"):
            return float(rows[sign]["baseline"])
        return float(rows[sign][name])

    def terms(group: tuple[str, ...], *, present: bool) -> float:
        by_group: dict[str, list[tuple[float, bool]]] = {}
        for sign, value in kept.items():
            base = float(rows[sign]["baseline"])
            miss, down = 1 - base, 1.0
            for name in group:
                here = cell(sign, name)
                if here >= base:
                    miss *= 1 - (here - base) / (1 - base)
                else:
                    down *= here / base
            seen = min(max((1 - miss) * down, 1e-9), 1 - 1e-9)
            weight = {"few": 0.6, "some": 1.0, "many": 1.3}.get(value, 0.7)
            if value != "absent" and rows[sign]["extent_sensitive"] == "0":
                weight = 1.0
            plain = log(seen / base) if value != "absent" else log((1 - seen) / (1 - base))
            by_group.setdefault(rows[sign]["group"], []).append((plain * weight, value != "absent"))
        total = 0.0
        for members in by_group.values():
            for place, (term, is_present) in enumerate(sorted(members, key=lambda one: -abs(one[0]))):
                factor = (1, 0.6, 0.4, 0.3, 0.25)[min(place, 4)]
                total += term * factor if is_present == present else 0.0
        return total

    def score(group: tuple[str, ...]) -> float:
        if not group:
            return log(0.15)
        floors = {"foulbrood", "small_hive_beetle"}
        cleared = values.get("d_lab_foul_pos") == "absent"
        against = terms(group, present=False)
        for name in group:
            if name in floors:
                rest = tuple(one for one in group if one != name)
                floor = 0.01 if name == "foulbrood" and cleared else 0.15
                against = max(against, terms(rest, present=False) + log(floor))
        return sum(odds[one] for one in group) + terms(group, present=True) + against

    alone = {name: score((name,)) for name in names}
    held = set(sorted(names, key=lambda one: (-alone[one], names.index(one)))[:12]) | {"foulbrood", "small_hive_beetle"}
    for sign, value in kept.items():
        if value != "absent":
            held.add(max(names, key=lambda one: float(rows[sign][one])))
    order = [name for name in names if name in held]
    sets = [group for size in range(4) for group in combinations(order, size)]
    weights = {group: exp(score(group)) for group in sets}
    total = sum(weights.values())
    chances = {name: sum(weights[group] for group in sets if name in group) / total for name in order}
    left_out = {name: 1 / (1 + exp(-alone[name])) for name in names if name not in held}
    return {**chances, **left_out, UNDETERMINED: weights[()] / total}


class Model(unittest.TestCase):
    def test_as_written_down(self) -> None:
        """Every chance of a dozen made-up hives agrees with the model in plain loops."""
        for season, values in (
            ("winter", {}),
            ("winter", {"d_bees_gone": "some", "d_stores_plenty": "some", "d_brood_perforated": "few", "d_guanine": "many"}),
            ("summer", {"d_floor_many": "many", "d_tongues_out": "some", "d_multi_same_day": "some", "d_scale_stuck": "absent"}),
            ("autumn", {"d_rob_ragged": "many", "d_wax_bits_floor": "some", "d_mites_floor": "absent", "d_guanine": "absent"}),
            ("early_spring", {"d_no_brood_ever": "some", "d_queen_absent": "some", "d_brood_perforated": "absent", "d_ropy": "absent"}),
            ("spring", {"d_scale_stuck": "some", "d_ropy": "absent", "d_larva_dead_open": "absent", "d_wash_high": "many"}),
            ("winter", {"d_mould": "many", "d_wet_cluster": "some", "d_lid_drip": "many", "d_cluster_large": "some"}),
            ("winter", {"d_mould": "many", "d_cluster_fist": "some", "d_stores_far": "some", "d_heads_in_cells": "few"}),
            ("late_summer", {"d_shb_larvae_slime": "some", "d_moth_webbing": "many", "d_wasps_seen": "many"}),
            ("winter", {"d_lab_foul_pos": "absent", "d_sunken_greasy": "some", "d_smell_foul": "absent"}),
            ("winter", {"d_bullet": "some", "d_eggs_multiple": "some", "d_qcells_old": "some", "d_drone_winter": "some"}),
        ):  # fmt: skip
            mine = by_hand(values, season)
            answer = found(Context(season), **values)  # type: ignore[arg-type]
            with self.subTest(season=season, values=values):
                for one in answer.ranking:
                    self.assertAlmostEqual(one.probability, mine[one.id], places=9)

    def test_the_files_fit_each_other(self) -> None:
        """A row for every sign, words and a prior for every cause, and every finding is told by a test."""
        self.assertEqual({one.id for one in dead_matrix().signs}, set(dead_signs()))
        self.assertEqual(set(dead_matrix().conditions), set(causes()))
        self.assertEqual(set(dead_matrix().conditions), set(dead_settings().usual))
        told = {sign for test in dead_settings().tests.values() for sign in test.tells}
        self.assertLessEqual(told, set(dead_signs()))
        self.assertEqual(len({one.order for one in causes().values()}), len(causes()))


class Properties(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(any_finding, st.sampled_from(SEASONS), st.randoms())
    def test_order_and_what_was_not_examined_change_nothing(
        self, values: dict[str, str], season: Any, dice: Any
    ) -> None:
        """Nor does anything but the findings."""
        seen = [SignSeen(sign, True, value) for sign, value in values.items()]  # type: ignore[arg-type]
        unseen = [SignSeen(sign, False, None) for sign in dead_signs() if sign not in values]
        mixed = [*seen, *unseen]
        dice.shuffle(mixed)
        self.assertEqual(assess_dead(read_dead(seen), Context(season)), assess_dead(read_dead(mixed), Context(season)))

    @settings(max_examples=60, deadline=None)
    @given(any_finding, st.sampled_from(SEASONS))
    def test_a_thread_or_a_scale_always_stops(self, values: dict[str, str], season: Any) -> None:
        """Whatever else was found, and "undetermined" never leads then."""
        for proof in ({"d_ropy": 25.0}, {"d_scale_stuck": "few"}, {"d_lab_foul_pos": "some"}):
            answer = found(Context(season), **{**values, **proof})
            self.assertIn("AFB_SUSPECT", answer.flags)
            self.assertIn("CLOSE_HIVE", answer.flags)
            self.assertNotEqual(answer.ranking[0].id, UNDETERMINED)

    @settings(max_examples=60, deadline=None)
    @given(any_finding, st.sampled_from(SEASONS))
    def test_chains_are_in_time_order(self, values: dict[str, str], season: Any) -> None:
        """Each cause once, the earlier before the later, every one with a finding of its own; chances are chances."""
        answer = found(Context(season), **values)
        order = [causes()[one].order for one in answer.chain]
        self.assertEqual(order, sorted(set(order)))
        own = {one.id for one in answer.ranking if one.has_own}
        self.assertLessEqual(set(answer.chain), own)
        self.assertFalse(set(answer.chain) & set(answer.secondary))
        self.assertTrue(all(0 <= one.probability <= 1 for one in answer.ranking))
        self.assertEqual(len(answer.ranking), len(causes()) + 1)

    def test_absences_leave_foulbrood_its_floor(self) -> None:
        """All looked for and not seen at an ordinary examination: exactly 0.15 of its odds."""
        nothing = {sign: "absent" for sign in dead_signs() if sign != "d_lab_foul_pos"}
        seen = [SignSeen(sign, True, value) for sign, value in nothing.items()]  # type: ignore[arg-type]
        weighing = DeadWeighing(dead_matrix(), dead_settings(), read_dead(seen), WINTER)
        self.assertAlmostEqual(weighing.left_of("foulbrood"), 0.15)

    def test_mould_alone_ranks_nothing(self) -> None:
        """A wet heap after death is usual; with drops under the lid it tells."""
        self.assertEqual(found(d_mould="many").ranking, found().ranking)
        wet = found(d_mould="many", d_lid_drip="many", d_wet_cluster="many")
        self.assertGreater(chance(wet, "moisture"), chance(found(d_lid_drip="many", d_wet_cluster="many"), "moisture"))

    def test_it_cannot_be_told_without_findings_of_its_own(self) -> None:
        """The commonest cause of a winter is a base rate, not an answer."""
        answer = found()
        self.assertFalse(answer.is_settled)
        self.assertEqual((answer.ranking[0].id, list(answer.chain)), (UNDETERMINED, []))
        self.assertTrue(found(d_guanine="many", d_wash_high=12.0).is_settled)

    def test_robbing_comes_after_what_killed(self) -> None:
        """Torn cappings after mites; where mites were looked for and not found, it is the cause."""
        robbed = {"d_rob_ragged": "many", "d_wax_bits_floor": "some"}
        after = found(**robbed, d_guanine="many", d_wash_high=12.0)
        self.assertEqual((list(after.chain), list(after.secondary)), (["varroa_virus"], ["robbing"]))
        alone = found(
            Context("late_summer"), **robbed, d_guanine="absent", d_mites_floor="absent", d_stores_none="some"
        )
        self.assertEqual((alone.ranking[0].id, list(alone.secondary)), ("robbing", []))

    def test_what_the_record_says_is_not_counted_twice(self) -> None:
        """A spray on record replaces the flag of a spray."""
        recent = Context("spring", flags=frozenset({"recent_spray"}))
        plain = found(Context("spring"), r_spray="some")
        self.assertEqual(chance(found(recent, r_spray="some"), "pesticide"), chance(plain, "pesticide"))
        self.assertGreater(chance(found(recent), "pesticide"), chance(found(Context("spring")), "pesticide"))


class Rules(unittest.TestCase):
    def rules(self, context: Context = WINTER, /, **values: Any) -> set[str]:
        """The rules that are met."""
        return {rule.id for rule in found(context, **values).rules}

    def test_each_rule_is_met_by_what_it_says(self) -> None:
        """And not by the same without its last piece."""
        traced = Context("winter", flags=frozenset({"trace_contact_efb"}))
        cleared = {"d_scale_stuck": "absent"}
        for rule, context, values, without in (
            ("D1", WINTER, {"d_ropy": 10.0}, {"d_ropy": 9.0}),
            ("D2", WINTER, {"d_sunken_greasy": "few", "d_wash_high": 12.0}, {"d_wash_high": 12.0}),
            ("D3", WINTER, {"d_smell_foul": 1, "d_brood_perforated": "few"}, {"d_smell_foul": 1, "d_brood_perforated": "absent"}),
            ("D4", traced, {}, None),
            ("D4", WINTER, {"r_foul_contact": "some"}, {"r_foul_contact": "absent"}),
            ("D6", WINTER, {}, cleared),
            ("D6", WINTER, {**cleared, "d_emerging_dead": "few"}, {**cleared, "d_emerging_dead": "few", "d_ropy": 0.0}),
            ("D7", WINTER, {**cleared, "d_wax_bits_floor": 1}, cleared),
            ("D8", WINTER, {"d_floor_many": 4000.0, "d_tongues_out": "few"}, {"d_floor_many": 200.0, "d_tongues_out": "few"}),
            ("D8", WINTER, {"d_outside_pile": "many", "r_spray": "some"}, {"d_outside_pile": "many"}),
            ("D9", WINTER, {"d_shb_larvae_slime": "some"}, {"d_shb_larvae_slime": "absent"}),
            ("D10", WINTER, {"d_mites_floor": 30.0}, {"d_mites_floor": 0.0}),
        ):  # fmt: skip
            with self.subTest(rule=rule, values=values):
                self.assertIn(rule, self.rules(context, **values))
                if without is not None:
                    self.assertNotIn(rule, self.rules(context, **without))
        self.assertNotIn("D9", self.rules(Context("winter", shb_established=True), d_shb_larvae_slime="some"))

    def test_a_glance_at_the_combs_clears_nothing(self) -> None:
        """Scale must be looked for in earnest on every comb."""
        glanced = assess_dead(read_dead([SignSeen("d_scale_stuck", True, "absent", "glance")]), WINTER)
        self.assertIn("D6", {rule.id for rule in glanced.rules})

    def test_contact_alone_raises_no_case(self) -> None:
        """A record item holds the combs; only what is seen in the hive suspects."""
        context = Context("summer", afb_level="common", flags=frozenset({"trace_contact_afb", "second_hand_comb"}))
        self.assertFalse(RAISES & self.rules(context, r_foul_contact="some"))
        self.assertTrue(RAISES & self.rules(context, r_foul_contact="some", d_larva_dead_open="many"))

    def test_what_tells_next(self) -> None:
        """Scale first while it was not looked for, the laboratory first under suspicion, a match where remains are."""
        self.assertEqual((found().next_tests[0].id, found().next_tests[0].forced_by), ("scale", "D6"))
        suspect = found(d_sunken_greasy="some", d_scale_stuck="absent")
        self.assertEqual([one.id for one in suspect.next_tests[:2]], ["lab_foul", "rope"])
        self.assertNotIn("scale", {one.id for one in suspect.next_tests})
        self.assertNotIn("rope", {one.id for one in found(d_no_brood_ever="some", d_scale_stuck="absent").next_tests})


class Reading(unittest.TestCase):
    def test_numbers_by_their_scale(self) -> None:
        """Dead bees, mites on the floor, mites washed, threads, kilograms."""
        for sign, value, extent in (
            ("d_floor_many", 299, "few"), ("d_floor_many", 300, "some"), ("d_floor_many", 3001, "many"),
            ("d_mites_floor", 0, None), ("d_mites_floor", 19, "few"), ("d_mites_floor", 20, "some"),
            ("d_mites_floor", 201, "many"), ("d_wash_high", 2.9, None), ("d_wash_high", 3, "some"),
            ("d_wash_high", 8, "many"), ("d_ropy", 9.9, None), ("d_ropy", 10, "some"), ("d_stores_plenty", 4.9, None),
            ("d_stores_plenty", 5, "some"), ("d_guanine", 11, "some"), ("d_dysentery_in", 3, "many"),
        ):  # fmt: skip
            with self.subTest(sign=sign, value=value):
                finding = read_dead([SignSeen(sign, True, float(value))])[sign]
                self.assertEqual(finding.extent, extent)

    def test_what_cannot_be(self) -> None:
        """No sign of a living colony, none twice, no value where nobody looked, nothing below nought."""
        for seen in (
            [SignSeen("cap_sunken", True, "few")],
            [SignSeen("d_ropy", True, 0.0), SignSeen("d_ropy", True, 1.0)],
            [SignSeen("d_ropy", False, 0.0)],
            [SignSeen("d_ropy", True, None)],
            [SignSeen("d_ropy", True, -1.0)],
        ):
            with self.subTest(seen=seen), self.assertRaises(InvalidInput):
                read_dead(seen)
        with self.assertRaises(InvalidInput):
            found(Context("winter", flags=frozenset({"sorcery"})))
