"""When a colony died, what its record says, where its combs go, and what an association loses in a winter."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from itertools import product
from typing import Any, get_args

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from redframe.core.deadouts.fates import GROUPS, HELD, HeldWhy, ItemFacts, ItemKind, fates_for
from redframe.core.deadouts.losses import Wintered, clustering, share_interval, winter_losses
from redframe.core.deadouts.read_back import (
    CountOnRecord,
    DeadRecord,
    TreatmentOnRecord,
    read_back,
)
from redframe.core.deadouts.timeline import ALIVE, AliveCode, Bound, BroodLeft, DeadCode, cocoons, softness, timeline

FOUND = date(2031, 2, 20)
codes: tuple[str, ...] = (*get_args(AliveCode), *get_args(DeadCode))
bounds = st.lists(
    st.builds(Bound, st.sampled_from(codes), st.dates(FOUND - timedelta(days=200), FOUND)), max_size=8
)  # fmt: skip


class When(unittest.TestCase):
    @given(bounds)
    def test_an_interval_or_a_contradiction(self, known: list[Bound]) -> None:
        """Never an average of two bounds that contradict each other; the guess lies within."""
        told = timeline(known, FOUND, BroodLeft())
        self.assertEqual([one.on for one in told.bounds], sorted(one.on for one in told.bounds))
        if told.conflict is not None:
            alive, dead = told.conflict.alive, told.conflict.dead
            self.assertTrue(alive.code in ALIVE and dead.code not in ALIVE and alive.on > dead.on)
            self.assertIsNone(told.best_guess)
        elif told.earliest is not None and told.best_guess is not None:
            self.assertTrue(told.earliest <= told.best_guess <= told.latest)

    def test_a_winter(self) -> None:
        """Alive at the check in November, no flight on a mild day in January, dry bees in February."""
        known = [
            Bound("visit_alive", date(2030, 9, 12)), Bound("count_alive", date(2030, 11, 20)),
            Bound("no_flight", date(2031, 1, 15)), softness("dry", FOUND),
        ]  # fmt: skip
        told = timeline(known, FOUND, BroodLeft(youngest="capped"))
        self.assertEqual((told.earliest, told.latest), (date(2030, 11, 20), date(2031, 1, 15)))
        self.assertEqual(told.best_guess, date(2030, 12, 18))
        (egg,) = told.brood
        self.assertEqual((egg.span.earliest, egg.span.latest), (date(2030, 10, 30), date(2031, 1, 6)))

    def test_weak_signs_narrow_only_the_guess(self) -> None:
        """Soft bees: a fortnight at the most in the cold."""
        known = [Bound("noted_alive", FOUND - timedelta(days=60)), softness("soft", FOUND)]
        told = timeline(known, FOUND, BroodLeft())
        self.assertEqual(told.earliest, FOUND - timedelta(days=60))
        self.assertEqual(told.best_guess, FOUND - timedelta(days=7))
        self.assertEqual(cocoons(FOUND).on, FOUND - timedelta(days=28))

    def test_what_drone_brood_and_cells_tell(self) -> None:
        """Workers that laid: 31 days at least after the queen; a sealed cell: 2 to 16 days."""
        told = timeline([], FOUND, BroodLeft(drone="capped", workers_laid=True, cells="sealed"))
        spans = {one.code: one.span for one in told.brood}
        self.assertEqual(spans["drone_eggs"].latest, FOUND - timedelta(days=10))
        self.assertEqual(spans["queen_lost_workers_laid"].latest, FOUND - timedelta(days=31))
        self.assertEqual(spans["queen_lost_cell"].latest, FOUND - timedelta(days=2))
        self.assertIsNone(spans["queen_lost_cell"].earliest)
        layer = timeline([], FOUND, BroodLeft(drone="emerged"))
        self.assertEqual([one.code for one in layer.brood], ["drone_eggs"])


def record(**changes: Any) -> DeadRecord:
    """A colony of which nothing is on record but what is said."""
    empty: dict[str, Any] = dict.fromkeys((
        "count", "treatment", "stores_kg", "stores_on", "frames_summer", "frames_autumn", "frames_on", "queen_year",
        "eggs_looked_on", "last_visit_on", "spray_on",
    ))  # fmt: skip
    usual = {
        "died_by": FOUND, "winter_bees": date(2030, 8, 20), "stores_target_kg": 15.0, "queen_signs": [],
        "neighbours": 0, "neighbours_lost": 0, "foul_contact": False,
    }  # fmt: skip
    return DeadRecord(**{**empty, **usual, **changes})


class ReadBack(unittest.TestCase):
    def test_nothing_on_record_says_what_to_note(self) -> None:
        """No item, no blame, a list for next year; and no record item is filled."""
        told = read_back(record())
        self.assertEqual((list(told.items), told.signs, told.was_avoidable), ([], {}, False))
        self.assertEqual(len(told.missing), 6)

    def test_mites_over_their_level_and_not_treated(self) -> None:
        """Clear; the matrix learns it."""
        count = CountOnRecord(date(2030, 9, 1), 6.0, "mites_per_100", 3.0, "urgent")
        told = read_back(record(count=count))
        self.assertEqual(
            [(one.code, one.strength) for one in told.items], [("mites_over", "clear"), ("not_treated", "clear")]
        )
        self.assertTrue(told.signs["r_mites_high_or_late"] and told.was_avoidable)

    def test_treated_after_the_winter_bees(self) -> None:
        """Late is likely; what did not work is clear; both before what only may be."""
        course = TreatmentOnRecord("thymol gel", date(2030, 10, 5), "failed")
        told = read_back(record(treatment=course, queen_year=2027))
        self.assertEqual([one.code for one in told.items], ["failed_treatment", "treated_late", "queen_old"])
        self.assertTrue(told.signs["r_mites_high_or_late"])

    def test_treated_in_time_and_low(self) -> None:
        """Says so to the matrix: looked for, not there."""
        count = CountOnRecord(date(2030, 9, 1), 0.4, "mites_per_100", 3.0, "clear")
        told = read_back(record(count=count, treatment=TreatmentOnRecord("x", date(2030, 8, 10), "worked")))
        self.assertEqual((list(told.items), told.signs), ([], {"r_mites_high_or_late": False}))

    def test_food_size_and_neighbours(self) -> None:
        """Half the target is clear; a crash before a small size; three items at the most."""
        told = read_back(record(
            stores_kg=6.0, stores_on=date(2030, 9, 20), frames_summer=12.0, frames_autumn=4.0,
            frames_on=date(2030, 10, 1), neighbours=8, neighbours_lost=5,
        ))  # fmt: skip
        self.assertEqual([one.code for one in told.items], ["food_short", "crashed_in_autumn", "small_in_autumn"])
        self.assertEqual(
            told.signs, {"r_small_going_in": True, "r_autumn_crash": True, "r_stores_low": True}
        )  # fmt: skip

    def test_what_no_keeper_could_meet_is_not_avoidable(self) -> None:
        """A spray, contact with a case, an old queen, the neighbours."""
        told = read_back(record(spray_on=date(2031, 2, 1), foul_contact=True, neighbours=4, neighbours_lost=3))
        self.assertFalse(told.was_avoidable)


class Fates(unittest.TestCase):
    def test_held_means_held(self) -> None:
        """Whatever the comb: nothing but holding and the laboratory is open, but fire by order."""
        for kind, cause, held in product(get_args(ItemKind), GROUPS, HELD):
            for ordered in (False, True):
                judged = fates_for(ItemFacts(kind, cause, held, by_order=ordered, declared=True))
                open_ones = {one.fate for one in judged if one.ruling != "barred"}
                self.assertLessEqual(open_ones, {"hold", "laboratory", *(("burn", "scorch") if ordered else ())})
                self.assertEqual([one.fate for one in judged if one.ruling == "usual"], ["hold"])

    def test_released_each_has_one_usual_way(self) -> None:
        """And each way stands once."""
        for kind, cause, age, slime, moth, mould in product(
            get_args(ItemKind), GROUPS, (None, 1, 5), (False, True), (False, True), (0, 1, 2)
        ):
            judged = fates_for(ItemFacts(kind, cause, None, age, slime=slime, moth=moth, mould=mould))
            self.assertEqual(sum(one.ruling == "usual" for one in judged), 1)
            self.assertEqual(len({one.fate for one in judged}), len(judged))

    def fate(self, facts: ItemFacts, fate: str) -> tuple[str, set[str]]:
        """How a way stands."""
        found = next(one for one in fates_for(facts) if one.fate == fate)
        return found.ruling, set(found.reasons)

    def test_honey_for_people(self) -> None:
        """Only with the medicines of the season declared, and from clean comb; never from a poisoned hive."""
        honey = ("honey_comb", "varroa_virus", None)
        self.assertEqual(self.fate(ItemFacts(*honey), "extract"), ("barred", {"declare_medicines"}))
        self.assertEqual(self.fate(ItemFacts(*honey, declared=True), "extract"), ("open", {"food_law"}))
        soiled = ItemFacts(*honey, declared=True, streaks=True, mould=1)
        self.assertEqual(self.fate(soiled, "extract"), ("barred", {"soiled", "mouldy"}))
        self.assertEqual(self.fate(ItemFacts(*honey, declared=True, medicine_open=True), "extract")[0], "barred")
        ways = {one.fate for one in fates_for(ItemFacts("honey_comb", "pesticide", None, declared=True))}
        self.assertFalse(ways & {"extract", "freeze"})

    def test_old_brood_comb_is_melted(self) -> None:
        """Up to three years it is frozen for the same apiary."""
        young, old = (ItemFacts("brood_comb", "starvation", None, age) for age in (3, 4))
        self.assertEqual(self.fate(young, "freeze"), ("usual", {"same_apiary_only"}))
        self.assertEqual(self.fate(old, "melt")[0], "usual")

    def test_every_reason_to_hold_has_its_word(self) -> None:
        """So that no hold is silent."""
        self.assertEqual(set(HELD), set(get_args(HeldWhy)))


class Losses(unittest.TestCase):
    def test_the_interval_of_one_in_ten(self) -> None:
        """Jeffreys' interval as Brown, Cai and DasGupta print it, and its ends."""
        low, high = share_interval(1, 10)
        self.assertAlmostEqual(low, 0.011, places=3)
        self.assertAlmostEqual(high, 0.381, places=3)
        self.assertEqual(share_interval(0, 10)[0], 0.0)
        self.assertEqual(share_interval(10, 10)[1], 1.0)

    def test_alike_within_an_apiary(self) -> None:
        """All or nothing by apiary: as many as there are apiaries, not colonies; even shares: no more than chance."""
        self.assertAlmostEqual(clustering([[True] * 10, [False] * 10] * 5), 10 * 10 / 9, places=6)
        self.assertEqual(clustering([[True, False]] * 10), 1.0)
        self.assertEqual(clustering([[True] * 4]), 1.0)

    def test_the_interval_covers(self) -> None:
        """Apiaries whose shares differ: the interval holds the true share in nine of ten simulated winters or more; one
        that takes every colony for itself does not."""
        dice = np.random.default_rng(4)
        held = plain = 0
        for _ in range(300):
            shares = dice.beta(1.0, 4.0, 30)
            colonies = [
                Wintered(str(at), None, "not_known", bool(dice.random() < share))
                for at, share in enumerate(shares) for _ in range(12)
            ]  # fmt: skip
            whole = winter_losses(colonies).whole
            assert whole.low is not None and whole.high is not None
            held += whole.low <= 0.2 <= whole.high
            low, high = share_interval(whole.lost, whole.of)
            plain += low <= 0.2 <= high
        self.assertGreater(held, 270)
        self.assertLess(plain, 240)

    def test_a_winter_in_groups(self) -> None:
        """Every colony stands in one group of each kind; causes and what was avoidable are of those examined."""
        colonies = [
            Wintered("A", 4.0, "late", True, "varroa_virus", True), Wintered("A", 10.0, "in_time", False),
            Wintered("B", 7.0, "in_time", True, "starvation", False), Wintered("B", None, "none", True),
            Wintered("B", 6.0, "in_time", False),
        ]  # fmt: skip
        told = winter_losses(colonies)
        self.assertEqual((told.whole.of, told.whole.lost, told.examined, told.avoidable), (5, 3, 2, 1))
        for groups in (told.by_treatment, told.by_size, told.by_apiary):
            self.assertEqual((sum(one.of for one in groups), sum(one.lost for one in groups)), (5, 3))
        self.assertEqual([one.key for one in told.by_apiary], ["B", "A"])
        self.assertEqual({one.cause: one.lost for one in told.by_cause}, {"varroa_virus": 1, "starvation": 1})
        self.assertIsNone(winter_losses([]).whole.share)
