"""The work at the hive: the acts of each option fit its course, come in order, and say how things stand."""

from __future__ import annotations

import itertools
import unittest
from datetime import date, timedelta

from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import plan_course
from redframe.core.treatments.hive_work import (
    acts_now,
    check_act,
    edge_of_nest,
    hive_work,
    steps_decided,
    steps_finished,
    where_things_stand,
)

START = date(2031, 6, 1)
WITH_WORK = [one for one in default_catalogue().options if hive_work(one.id) is not None]


class EveryOption(unittest.TestCase):
    def test_acts_fit_the_course(self) -> None:
        """Only options without a product have hive work; each act belongs to a step, in the order of the steps."""
        self.assertEqual({one.moa_group for one in WITH_WORK}, {"BIO"})
        for option in WITH_WORK:
            work = hive_work(option.id)
            assert work is not None
            order = [step.name for step in plan_course(option, START).steps]
            places = [order.index(act.step) for act in work.acts]
            self.assertEqual(places, sorted(places), option.id)
            self.assertEqual(len({act.id for act in work.acts}), len(work.acts), option.id)
            self.assertTrue(all(act.then and act.how for act in work.acts), option.id)

    def test_who_is_caged_comes_out_again(self) -> None:
        """Whatever holds the queen is followed by what frees her, and an excluder that goes in comes out."""
        pairs = ({"queen_held", "queen_in"}, {"queen_free", "queen_accepted"}), ({"box_under"}, {"excluder_out"}), \
            ({"box_under", "box_above"}, {"boxes_off"}), ({"comb_in"}, {"comb_out"})  # fmt: skip
        for option in WITH_WORK:
            work = hive_work(option.id)
            assert work is not None
            written = [act.writes for act in work.acts if not act.optional]
            for begins, ends in pairs:
                for at, one in enumerate(written):
                    if one in begins:
                        self.assertTrue(ends & set(written[at:]), f"{option.id}: {one}")

    def test_stopped_anywhere(self) -> None:
        """After every act there is a sentence of its own, and exactly one next act until all are done."""
        for option in WITH_WORK:
            work = hive_work(option.id)
            assert work is not None
            needed = [act for act in work.acts if not act.optional]
            said = set()
            for number in range(len(needed) + 1):
                done = {act.id for act in needed[:number]}
                ready = [one.act for one in acts_now(work, done, ()) if one.state == "ready" and not one.act.optional]
                self.assertEqual(ready, needed[number : number + 1], option.id)
                said.add(where_things_stand(work, done))
            self.assertEqual(len(said), len(needed) + 1, option.id)


class Order(unittest.TestCase):
    def setUp(self) -> None:
        work = hive_work("SHAKEN")
        assert work is not None
        self.work = work

    def test_not_before_its_turn(self) -> None:
        """Bees are not shaken into a box that is not there; any order but the right one is refused at some act."""
        with self.assertRaisesRegex(Refused, "first: Queen caged"):
            check_act(self.work, "bees_shaken", {}, (), START)
        names = [act.id for act in self.work.acts[:4]]
        for order in itertools.permutations(names):
            done: dict[str, date] = {}
            try:
                for name in order:
                    check_act(self.work, name, done, (), START)
                    done[name] = START
            except Refused:
                continue
            self.assertEqual(list(order), names)
        with self.assertRaises(InvalidInput) as caught:
            check_act(self.work, "sing", {}, (), START)
        self.assertEqual(caught.exception.field, "act")

    def test_days_do_not_run_back(self) -> None:
        """An act on a day before the one before it cannot be; on the same day or later it can."""
        done = {"queen_held": START}
        with self.assertRaises(InvalidInput) as caught:
            check_act(self.work, "new_box", done, (), START - timedelta(days=1))
        self.assertEqual(caught.exception.field, "done_on")
        self.assertEqual(check_act(self.work, "new_box", done, (), START).id, "new_box")

    def test_decided_before_it_is_finished(self) -> None:
        """Once the bees are shaken the brood is gone, though the queen is in her cage still."""
        done = ["queen_held", "new_box", "bees_shaken"]
        self.assertEqual((steps_finished(self.work, done), steps_decided(self.work, done)), ([], ["place_1"]))
        self.assertEqual(steps_decided(self.work, done[:2]), [])
        all_but_the_last = [act.id for act in self.work.acts if act.step == "place_1"]
        self.assertEqual(steps_finished(self.work, all_but_the_last), ["place_1"])

    def test_recorded_without_its_acts(self) -> None:
        """Who recorded the step in one go is not asked for its acts, and the next step's are open."""
        states = {one.act.id: one.state for one in acts_now(self.work, (), {"place_1"})}
        self.assertEqual({states[act.id] for act in self.work.acts if act.step == "place_1"}, {"passed"})
        self.assertEqual(states["excluder_out"], "ready")
        with self.assertRaises(Refused):
            check_act(self.work, "fed", {}, {"place_1"}, START)

    def test_it_was_not_so(self) -> None:
        """A queen that was not accepted leaves things otherwise than one that was."""
        work = hive_work("REQUEEN")
        assert work is not None
        stands = [where_things_stand(work, {"accepted"}, not_so) for not_so in ((), ("accepted",))]
        self.assertIn("queenless", str(stands[1]))
        self.assertNotIn("queenless", str(stands[0]))


class EdgeOfNest(unittest.TestCase):
    def test_next_to_the_outermost_brood(self) -> None:
        """Beside the brood, off the walls; in a divided box only where the colony lives."""
        ten = range(1, 11)
        for own, brood, slot in (
            (ten, {4, 5, 6}, 7),
            (ten, {4, 5, 6, 7, 8, 9}, 3),
            (ten, set(range(2, 10)), 10),
            (ten, set(ten), 10),
            (ten, (), 9),
            (range(6, 11), {6, 7}, 8),
            (range(6, 11), {2, 3}, 9),
            ((1,), (), 1),
            ((), (), None),
        ):
            with self.subTest(brood=brood, own=list(own)):
                self.assertEqual(edge_of_nest(list(own), brood), slot)


if __name__ == "__main__":
    unittest.main()
