"""What the signs of a living colony fit: the worked example, rules that no score lowers, and a plain reckoning against it."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from itertools import combinations
from math import exp, log, prod
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.disease.brood_assessment import BroodAssessment, assess_brood
from redframe.core.disease.brood_weighing import BroodWeighing
from redframe.core.disease.conditions import conditions
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import Finding, SignSeen, read_findings
from redframe.core.disease.matrix import brood_matrix, read_matrix
from redframe.core.disease.region import FACTOR, DiseaseRegion, adjustable
from redframe.core.disease.safety import SUSPICIONS
from redframe.core.disease.settings import brood_settings
from redframe.core.disease.signs import signs
from redframe.core.errors import InvalidInput
from redframe.core.inputs import read

MATRIX, SETTINGS = brood_matrix(), brood_settings()
LATE_SUMMER = Context("late_summer")
EXAMPLE: dict[str, Any] = {"cap_sunken": "few", "cap_perforated": "some", "pattern_spotty": "some"}
ENTERED = [one.id for one in MATRIX.signs if one.id != "ropy_short"]
STOPS = {"STANDSTILL", "NOTIFY", "LAB_SAMPLE", "HOLD_COMB", "DO_NOT_UNITE"}


def seen(**found: Any) -> dict[str, Finding]:
    """Findings at standard effort."""
    return read_findings([SignSeen(sign, True, value) for sign, value in found.items()])


def assessed(context: Context = LATE_SUMMER, **found: Any) -> BroodAssessment:
    """What these findings come to."""
    return assess_brood(seen(**found), context)


def chance(of: BroodAssessment, condition: str) -> float:
    """The chance that a condition is there."""
    return next(one.probability for one in of.ranking if one.id == condition)


def plainly(findings: dict[str, Finding], conditions: list[str], context: Context) -> tuple[float, dict[str, float]]:
    """The same by loops over every set of up to three of these conditions, from the formulas alone: the share of none,
    and the chance of each."""
    weighing = BroodWeighing(MATRIX, SETTINGS, findings, context)

    def term(sign: str, group: tuple[str, ...]) -> tuple[float, bool]:
        row = MATRIX.row(sign)
        flat, base = MATRIX.signs[row].baseline, weighing.baseline(sign)
        cells = [float(MATRIX.chances[row, MATRIX.conditions.index(one)]) for one in group]
        raised = 1 - (1 - base) * prod(1 - max(0.0, (cell - flat) / (1 - flat)) for cell in cells)
        p = raised * prod(min(1.0, cell / flat) for cell in cells)
        finding = findings[sign]
        if finding.extent is not None:
            weight = SETTINGS.extent[finding.extent] if MATRIX.signs[row].by_extent else 1.0
            return weight * log(p / base), True
        return SETTINGS.effort[finding.effort] * log((1 - p) / (1 - base)), False

    def halves(group: tuple[str, ...]) -> tuple[float, float]:
        by_cause: dict[str, list[tuple[float, bool]]] = {}
        for sign in findings:
            by_cause.setdefault(MATRIX.signs[MATRIX.row(sign)].group, []).append(term(sign, group))
        found = {True: 0.0, False: 0.0}
        for terms in by_cause.values():
            for turn, (value, present) in enumerate(sorted(terms, key=lambda one: -abs(one[0]))):
                found[present] += value * (1.0, 0.6, 0.4, 0.3, 0.25)[min(turn, 4)]
        return found[True], found[False]

    against: dict[tuple[str, ...], float] = {}
    weights: dict[tuple[str, ...], float] = {}
    for size in range(4):
        for group in combinations(conditions, size):
            for_it, lowered = halves(group)
            for one in group:
                if one in weighing.notifiable:
                    rest = tuple(other for other in group if other != one)
                    lowered = max(lowered, against[rest] + log(0.15))
            against[group] = lowered
            odds = sum(log(weighing.priors[one] / (1 - weighing.priors[one])) for one in group)
            weights[group] = exp(odds + for_it + lowered)
    total = sum(weights.values())
    return weights[()] / total, {
        one: sum(weight for group, weight in weights.items() if one in group) / total for one in conditions
    }


class WorkedExample(unittest.TestCase):
    """Sunken few, perforated some, spotty some, late summer (the reference's own example)."""

    def test_terms_and_ranking(self) -> None:
        """Terms for mites and American foulbrood, and the first four."""
        found = assessed(**EXAMPLE)
        terms = {(one.condition, one.sign): one.log_odds for one in found.terms}
        for condition, sign, expected in (
            ("varroa_pms", "cap_perforated", 2.30), ("varroa_pms", "pattern_spotty", 1.56),
            ("varroa_pms", "cap_sunken", 0.97), ("afb", "cap_perforated", 2.53), ("afb", "pattern_spotty", 1.35),
            ("afb", "cap_sunken", 1.37),
        ):  # fmt: skip
            self.assertAlmostEqual(terms[condition, sign], expected, delta=0.006)
        self.assertEqual(
            [(one.id, round(one.probability, 2)) for one in found.ranking[:4]],
            [("varroa_pms", 0.75), ("benign_cappings", 0.13), ("afb", 0.08), ("sacbrood", 0.06)],
        )
        self.assertEqual(found.flags, ["ROPE_TEST_NOW"])

    def test_tests_by_what_they_tell(self) -> None:
        """R12 puts the match first; by gain ten cells opened, the match, shaken clear, the adults."""
        found = assessed(**EXAMPLE).next_tests
        self.assertEqual((found[0].id, found[0].forced_by), ("matchstick", "R12"))
        self.assertEqual([one.id for one in found[1:4]], ["uncap_10", "shake_clear", "adult_watch"])
        by = {one.id: one for one in found}
        self.assertAlmostEqual(by["uncap_10"].gain_bits, 0.97, delta=0.006)
        self.assertAlmostEqual(by["matchstick"].gain_bits, 0.30, delta=0.006)
        self.assertAlmostEqual(by["matchstick"].safe_bits, 0.26, delta=0.006)

    def test_no_thread(self) -> None:
        """Branch A: foulbrood falls to about 0.02, mites 0.79; gnawed pupae with mites and no brown mass settle it."""
        found = assessed(**EXAMPLE, ropy_thread=0.0)
        self.assertAlmostEqual(chance(found, "varroa_pms"), 0.79, delta=0.006)
        self.assertAlmostEqual(chance(found, "afb"), 0.02, delta=0.01)
        opened = assessed(
            **EXAMPLE, ropy_thread=0.0, larva_brown_capped="absent", pupa_chewed="some", mites_in_brood=12.0
        )
        self.assertGreater(chance(opened, "varroa_pms"), 0.985)
        self.assertEqual(opened.flags, [])

    def test_a_thread(self) -> None:
        """Branch B: 24 mm; the stop set, kit and laboratory alone are left, mites stay a question for later."""
        found = assessed(**EXAMPLE, ropy_thread=24.0)
        self.assertAlmostEqual(chance(found, "afb"), 0.97, delta=0.006)
        self.assertAlmostEqual(chance(found, "varroa_pms"), 0.16, delta=0.006)
        self.assertEqual(found.ranking[0].pinned_by[0], "R1")
        self.assertLessEqual({"AFB_SUSPECT", *STOPS}, set(found.flags))
        self.assertEqual([one.id for one in found.next_tests], ["lfd_afb", "lab_brood"])


VALUES = st.sampled_from(["absent", "few", "some", "many"])
SOME = st.dictionaries(st.sampled_from(ENTERED), VALUES, max_size=12)
SEASONS = st.sampled_from(["winter", "early_spring", "spring", "summer", "late_summer", "autumn"])


class Properties(unittest.TestCase):
    @settings(max_examples=40, deadline=None)
    @given(SOME, SEASONS, st.randoms())
    def test_order_and_what_was_not_examined(self, found: dict[str, Any], season: Any, shuffled: random.Random) -> None:
        """Order of entry and signs nobody looked for change nothing."""
        entered = [SignSeen(sign, True, value) for sign, value in found.items()]
        more = [*entered, *(SignSeen(one, False, None) for one in ENTERED if one not in found)]
        shuffled.shuffle(more)
        one = assess_brood(read_findings(entered), Context(season))
        self.assertEqual(one, assess_brood(read_findings(more), Context(season)))

    @settings(max_examples=40, deadline=None)
    @given(SOME, SEASONS)
    def test_a_rope_is_always_a_suspicion(self, found: dict[str, Any], season: Any) -> None:
        """25 mm added to any findings: suspected, the stop set, and neither healthy nor benign leads."""
        roped = assess_brood(seen(**{**found, "ropy_thread": 25.0}), Context(season))
        self.assertLessEqual({"AFB_SUSPECT", *STOPS}, set(roped.flags))
        self.assertNotIn(roped.ranking[0].id, ("healthy", "benign_cappings"))
        self.assertIn("R1", next(one for one in roped.ranking if one.id == "afb").pinned_by)

    @settings(max_examples=40, deadline=None)
    @given(SOME, SEASONS)
    def test_a_score_adds_no_rule_away(self, found: dict[str, Any], season: Any) -> None:
        """What the findings set stays set whatever absences are added, but for tests that were done by them."""
        looked = {
            one: "absent" for one in ENTERED if one not in found and one not in ("ropy_thread", "larva_brown_capped")
        }
        before, after = (
            assess_brood(seen(**found), Context(season)),
            assess_brood(seen(**found, **looked), Context(season)),
        )
        by_score = {"R18", "R19"}
        self.assertLessEqual({one.id for one in before.rules} - by_score, {one.id for one in after.rules})

    @settings(max_examples=8, deadline=None)
    @given(SOME, SEASONS)
    def test_against_the_formulas_by_loops(self, found: dict[str, Any], season: Any) -> None:
        """Every set of the conditions that are weighed, reckoned one by one, gives the same chances."""
        findings, context = seen(**found), Context(season)
        weighing = BroodWeighing(MATRIX, SETTINGS, findings, context)
        findings = weighing.findings
        special = {"scale_stuck", "pupa_tongue", "mite_count_high"}
        if any(one in findings and findings[one].present for one in special):
            return  # What is neutral with these is tested by itself.
        if any(one in findings and not findings[one].present for one in ("lab_afb_pos", "lab_efb_pos")):
            return
        weighed = weighing.weigh()
        sets = weighing.candidates(weighing.scores(weighing.alone())[1:])
        held = {MATRIX.conditions[column] for group in sets.groups for column in group}
        if len(held) > 17:
            return  # By loops it takes too long.
        none, chances = plainly(findings, [one for one in MATRIX.conditions if one in held], context)
        self.assertAlmostEqual(weighed.none, none, places=9)
        for one, expected in chances.items():
            self.assertAlmostEqual(weighed.chances[one], expected, places=9)


class NothingSeen(unittest.TestCase):
    def test_every_chance_is_its_prior(self) -> None:
        """Without a finding each condition is as likely as before (those weighed together but for sets of four), and none
        takes a place before a healthy colony."""
        found = assessed()
        self.assertEqual((found.ranking[0].id, found.best_set, found.flags), ("healthy", [], []))
        for one in found.ranking[1:]:
            prior = SETTINGS.priors[one.id]["late_summer"] * (
                SETTINGS.not_there if one.id in ("small_hive_beetle", "tropilaelaps") else 1
            )
            self.assertAlmostEqual(one.probability / prior, 1, delta=0.02)
            self.assertTrue(one.nothing_seen, one.id)
        chances = [one.probability for one in found.ranking[1:]]
        self.assertEqual(chances, sorted(chances, reverse=True))


class Floors(unittest.TestCase):
    def odds(self, context: Context, **found: Any) -> float:
        """Odds of American foulbrood alone against none, over those before."""
        weighing = BroodWeighing(MATRIX, SETTINGS, seen(**found), context)
        scores = weighing.scores(weighing.alone())
        prior = weighing.priors["afb"]
        return float(exp(scores[1 + MATRIX.conditions.index("afb")] - scores[0]) / (prior / (1 - prior)))

    def test_absences_stop_at_the_floor(self) -> None:
        """All absent: 0.15 of the prior after an ordinary visit, 0.05 with every comb shaken, 0.01 with the laboratory;
        a negative kit is an ordinary absence."""
        ordinary = {one: "absent" for one in ENTERED if not one.startswith(("lab_", "lfd_"))}
        self.assertAlmostEqual(self.odds(LATE_SUMMER, **ordinary), 0.15)
        self.assertAlmostEqual(self.odds(LATE_SUMMER, **ordinary, lfd_afb_pos="absent"), 0.15)
        shaken = replace(LATE_SUMMER, all_brood_frames_shaken=True)
        self.assertAlmostEqual(self.odds(shaken, **ordinary), 0.05)
        self.assertAlmostEqual(self.odds(shaken, **ordinary, lab_afb_pos="absent"), 0.01)

    def test_without_brood_nothing_is_said_of_it(self) -> None:
        """Absent larval signs in a hive without brood change nothing; a comb without scale still speaks."""
        bare = assessed(no_brood="some")
        looked = {one.id: "absent" for one in MATRIX.signs if one.gate in ("brood", "caps")
                  and one.id not in ("scale_stuck", "scale_loose", "guanine")}  # fmt: skip
        self.assertEqual(assessed(no_brood="some", **looked).ranking, bare.ranking)
        self.assertLess(chance(assessed(no_brood="some", scale_stuck="absent"), "afb"), chance(bare, "afb"))

    def test_the_stage_is_past(self) -> None:
        """With a stuck scale the missing thread says nothing against American foulbrood."""
        scale = assessed(scale_stuck="some")
        dry = assessed(scale_stuck="some", ropy_thread=0.0, larva_brown_capped="absent", larva_discoloured="absent")
        # What speaks against other conditions only makes it likelier.
        self.assertGreaterEqual(chance(dry, "afb"), chance(scale, "afb"))

    def test_mites_before_signs(self) -> None:
        """With a high count, sound-looking brood is stage one and not an argument against mites."""
        high = chance(assessed(mite_count_high="some"), "varroa_pms")
        sound = assessed(mite_count_high="some", dwv="absent", cap_perforated="absent", pattern_spotty="absent")
        self.assertAlmostEqual(chance(sound, "varroa_pms"), high, delta=0.02)


class Rules(unittest.TestCase):
    def test_each_rule(self) -> None:
        """What sets each, and the nearest thing that does not."""
        found: dict[str, tuple[dict[str, Any], dict[str, Any]]] = {
            "R1": ({"ropy_thread": 10.0}, {"ropy_thread": 9.0}),
            "R2": ({"scale_stuck": "few"}, {"scale_loose": "many"}),
            "R3": (
                {"cap_greasy": "few", "cap_perforated": "few", "larva_brown_capped": "some", "ropy_thread": 0.0},
                {"cap_greasy": "few", "larva_brown_capped": "some", "ropy_thread": 0.0},
            ),
            "R3a": ({"larva_brown_capped": "few"}, {"larva_brown_capped": "few", "ropy_thread": 0.0}),
            "R3b": ({"larva_brown_capped": "few", "ropy_thread": 0.0}, {"larva_brown_capped": "few"}),
            "R3c": (
                {"cap_sunken": "few", "cap_greasy": "few"},
                {"cap_sunken": "few", "cap_greasy": "few", "ropy_thread": 0.0},
            ),
            "R4": ({"pupa_tongue": "some"}, {"pupa_chewed": "some"}),
            "R5": ({"lfd_efb_pos": "some"}, {"lfd_efb_pos": "absent"}),
            "R6": ({"smell_foul": 1.0, "larva_sac": "few"}, {"smell_foul": 1.0}),
            "R7": (
                {"larva_twisted": "few", "larva_discoloured": "few"},
                {"larva_melted": "few", "larva_discoloured": "few"},
            ),
            "R7b": ({"larva_melted": "few"}, {"larva_discoloured": "few"}),
            "R8": ({"mite_exotic": "some"}, {"mites_on_bees": "many"}),
            "R9": ({"shb_adults": 1.0}, {"moth_tunnels": "few"}),
            "R12": ({"cap_sunken": "few"}, {"cap_sunken": "few", "larva_brown_capped": "absent"}),
            "R13": ({"mummy_stone": "some"}, {"mummy_black": "many"}),
            "R14": ({"dead_pile": "some", "tongue_out": "few"}, {"dead_pile": "many"}),
            "R15": ({"stores_nil": 0.4}, {"stores_nil": 2.0}),
            "R16": ({"dwv": 1.0}, {"kwing": 5.0}),
            "R17": ({"rob_fighting": 1.0}, {"wax_bits": 1.0}),
        }
        for rule, (sets, near) in found.items():
            with self.subTest(rule):
                self.assertIn(rule, {one.id for one in assessed(**sets).rules})
                self.assertNotIn(rule, {one.id for one in assessed(**near).rules})

    def test_places_and_times(self) -> None:
        """A beetle where it is at home reports nothing; a traced contact makes any abnormal capping a suspicion; after
        an antibiotic nothing reassures; context alone raises nothing."""
        home = assess_brood(seen(shb_adults=30.0), replace(LATE_SUMMER, shb_established=True))
        self.assertEqual(SUSPICIONS & set(home.flags), set())
        traced = replace(LATE_SUMMER, flags=frozenset({"trace_contact_afb"}))
        self.assertIn("AFB_SUSPECT", assess_brood(seen(cap_perforated="few"), traced).flags)
        masked = replace(LATE_SUMMER, flags=frozenset({"antibiotic_recent"}))
        self.assertEqual(assess_brood({}, masked).flags, ["MASKED_EXAM"])
        worst = Context(
            "spring",
            "common",
            "common",
            flags=frozenset({"trace_contact_efb", "trace_contact_afb", "second_hand_comb"}),
        )
        self.assertEqual(assess_brood({}, worst).flags, [])

    def test_what_cannot_be(self) -> None:
        """A sign that is none, one that stands twice, a value for what nobody looked at: each at its entry."""
        for entries, field in (
            ([SignSeen("cap_sunken", True, "few"), SignSeen("sunk", True, "few")], "signs[1].sign"),
            ([SignSeen("ropy_short", True, "some")], "signs[0].sign"),
            ([SignSeen("dwv", True, "few"), SignSeen("dwv", True, "few")], "signs[1].sign"),
            ([SignSeen("dwv", False, "few")], "signs[0].value"),
            ([SignSeen("dwv", True, None)], "signs[0].value"),
            ([SignSeen("dwv", True, -1.0)], "signs[0].value"),
        ):
            with self.assertRaises(InvalidInput) as caught:
                read_findings(entries)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(InvalidInput) as caught:
            assess_brood({}, replace(LATE_SUMMER, flags=frozenset({"full_moon"})))
        self.assertEqual(caught.exception.field, "context.flags")


class Scales(unittest.TestCase):
    def test_numbers_by_their_scale(self) -> None:
        """The edges of each scale."""
        for sign, edges in {
            "cap_sunken": {0: None, 1: "few", 10: "few", 11: "some", 100: "some", 101: "many"},
            "dwv": {0: None, 5: "few", 6: "some", 50: "some", 51: "many"},
            "dead_pile": {0: None, 99: "few", 100: "some", 1000: "some", 1001: "many"},
            "pattern_spotty": {14.9: None, 15: "few", 25: "few", 26: "some", 40: "some", 41: "many"},
            "smell_foul": {0: None, 1: "some", 2: "many"},
            "dysentery": {0: None, 1: "few", 2: "some", 3: "many"},
            "qc_swarm": {0: None, 3: "few", 4: "some", 10: "some", 11: "many"},
            "mites_in_brood": {0: None, 4.9: "few", 5: "some", 15: "some", 15.1: "many"},
            "low_pollen": {0.5: "some", 1: None},
            "nosema_micro": {900_000: None, 1_000_000: "some"},
        }.items():
            for number, extent in edges.items():
                with self.subTest(sign=sign, number=number):
                    self.assertEqual(seen(**{sign: float(number)})[sign].extent, extent)
        self.assertEqual(set(seen(ropy_thread=15.0)), {"ropy_short"})

    def test_the_files(self) -> None:
        """Every row is a sign of the vocabulary, every column has its priors; a bad cell is named."""
        self.assertEqual({one.id for one in MATRIX.signs} - {"ropy_short"} - set(signs()), set())
        self.assertEqual(set(MATRIX.conditions), set(SETTINGS.priors))
        shown = {sign for test in SETTINGS.tests.values() for sign in test.tells}
        self.assertLessEqual(shown | set(SETTINGS.baselines), {one.id for one in MATRIX.signs})
        for flag in SETTINGS.context.values():
            self.assertLessEqual(set(flag), set(MATRIX.conditions))
        self.assertEqual(set(conditions()), set(MATRIX.conditions))
        for one in conditions().values():
            self.assertLessEqual(one.recheck_days[0], one.recheck_days[1])
            self.assertTrue(one.now and one.never and one.tells.endswith("."), one.name)
        head = "sign,group,gate,extent_sensitive,baseline,afb\n"
        for row, field in (("dwv,virus,bees,1,0.1,1.5", "dwv.afb"), ("dwv,virus,sky,1,0.1,0.5", "dwv.gate")):
            with self.assertRaises(InvalidInput) as caught:
                read_matrix(head + row)
            self.assertEqual(caught.exception.field, field)


class Drawn(unittest.TestCase):
    def test_colonies_drawn_from_the_matrix(self) -> None:
        """Inner consistency only, not field truth: made-up colonies with American foulbrood are nearly all suspected and
        led by it, healthy ones hardly ever."""
        chance_of = random.Random(3)
        suspected = {"afb": 0, "healthy": 0}
        led = 0
        for condition in suspected:
            for _ in range(40):
                found: dict[str, Any] = {}
                for row, sign in enumerate(MATRIX.signs):
                    if sign.gate == "test" or sign.id in ("no_brood", "mite_exotic"):
                        continue
                    p = (
                        sign.baseline
                        if condition == "healthy"
                        else float(MATRIX.chances[row, MATRIX.conditions.index("afb")])
                    )
                    found[sign.id] = "some" if chance_of.random() < p else "absent"
                if found["larva_brown_capped"] == "some":
                    found["ropy_thread"] = 25.0 if chance_of.random() < (0.9 if condition == "afb" else 0.01) else 0.0
                of = assessed(**found)
                suspected[condition] += "AFB_SUSPECT" in of.flags
                led += condition == "afb" and next(one.id for one in of.ranking if one.id != "healthy") == "afb"
        self.assertGreaterEqual(suspected["afb"], 38)
        self.assertGreaterEqual(led, 37)
        self.assertLessEqual(suspected["healthy"], 5)


class Commonness(unittest.TestCase):
    def test_a_factor_moves_the_odds_before_anything_was_seen(self) -> None:
        """Twice as common is twice the chance before; what is not said stays as it was to the last digit."""
        entered = read_findings([SignSeen("mummy_white", True, "few")])
        usual = BroodWeighing(brood_matrix(), brood_settings(), entered, LATE_SUMMER)
        for word, factor in FACTOR.items():
            region = DiseaseRegion(commonness={"chalkbrood": word})
            here = replace(LATE_SUMMER, factors=region.factors())
            other = BroodWeighing(brood_matrix(), brood_settings(), entered, here)
            for condition, prior in usual.priors.items():
                wanted = factor * prior if condition == "chalkbrood" else prior
                self.assertAlmostEqual(other.priors[condition], wanted, places=12)

    def test_what_is_notifiable_is_not_said_here(self) -> None:
        for condition in ("afb", "efb", "tropilaelaps", "small_hive_beetle", "nothing"):
            with self.subTest(condition=condition), self.assertRaises(InvalidInput):
                read(DiseaseRegion, {"commonness": {condition: "much_rarer"}})

    def test_no_word_on_a_region_lowers_a_flag(self) -> None:
        """Whatever is said to be common, a thread and a scale raise what they raise."""
        for sign, value in (("ropy_thread", 22.0), ("scale_stuck", "few")):
            entered = read_findings([SignSeen(sign, True, value), SignSeen("mummy_white", True, "many")])
            words = dict.fromkeys(adjustable(), "much_commoner")
            region = read(DiseaseRegion, {"commonness": words})
            found = assess_brood(entered, replace(LATE_SUMMER, factors=region.factors()))
            self.assertIn("AFB_SUSPECT", found.flags)


if __name__ == "__main__":
    unittest.main()
