"""What a hold stops, act by hold by role; and whose history is whose."""

from __future__ import annotations

import unittest
from datetime import date
from itertools import product
from typing import get_args
from uuid import UUID

from redframe.core.colonies.holds import REASONS, TABLE, HeldAct, HeldBack, HoldReason, Ruling, check, ruling
from redframe.core.colonies.lineage import (
    CombsOfMerger,
    DatedChange,
    QueenOfMerger,
    check_merger,
    check_parent,
    value_on,
)
from redframe.core.colonies.states import COLONY_STATES
from redframe.core.errors import InvalidInput, Refused
from redframe.launch.system import ROOT

ACTS: tuple[HeldAct, ...] = get_args(HeldAct)
WORDS: dict[str, HeldAct] = {
    "a comb goes to another colony": "comb_out", "split": "split", "to another apiary": "move", "into another hive": "rehouse",
    "honey taken for people": "honey", "honey taken for bees": "honey_for_bees", "boxes with frames come or go": "boxes",
    "another colony into its hive": "house", "a new queen": "requeen", "treated": "treat", "merged, or merged into": "merge",
}  # fmt: skip


def held(reason: HoldReason | None, number: int = 1) -> HeldBack:
    """A colony that one reason holds back, or none."""
    kind = reason if reason in ("notifiable", "other") else None
    return HeldBack(
        UUID(int=number),
        f"K{number}",
        "dead" if reason == "lost" else "alive",
        kind,
        "ropy brood" if kind else None,
        ["ropy"] if reason == "signs" else [],
        standstill="official" if reason == "standstill" else None,
        standstill_case="2031-01" if reason == "standstill" else None,
    )


def written() -> dict[tuple[HeldAct, HoldReason], str]:
    """The table as docs/methods/holds.md gives it to people."""
    lines = (ROOT / "docs" / "methods" / "holds.md").read_text(encoding="utf-8").splitlines()
    rows = [[cell.strip() for cell in line.strip("|").split("|")] for line in lines if line.startswith("|")][2:]
    found = {(WORDS[act], reason): said for act, *cells in rows for reason, said in zip(REASONS, cells, strict=True)}
    return found | {("receive_merger", reason): found["merge", reason] for reason in REASONS}


class Holds(unittest.TestCase):
    def test_the_table_is_the_one_that_people_read(self) -> None:
        """Every act under every reason is ruled on, as the method note says."""
        said: dict[tuple[HeldAct, HoldReason], str] = {
            (act, reason): rule for act, rules in TABLE.items() for reason, rule in rules.items()
        }
        self.assertEqual(said, written())
        self.assertEqual(set(said), set(product(ACTS, REASONS)))

    def test_what_never_passes_alone(self) -> None:
        """Under a notifiable disease nothing is done; nothing of a suspect, dead or held colony reaches another."""
        for act in ACTS:
            self.assertEqual(ruling(act, held("notifiable"))[0], "release", act)
            self.assertEqual(ruling(act, held(None)), ("free", None), act)
        for act, reason in product(("comb_out", "merge", "receive_merger", "split", "move", "house"), REASONS):
            said = "anyway" if reason == "standstill" else "release"
            self.assertEqual(ruling(act, held(reason))[0], said, (act, reason))
        suspect = HeldBack(UUID(int=5), "K5", "alive", None, None, [], "2031-01", "voluntary", "2031-01")
        for act in ACTS:
            self.assertEqual(ruling(act, suspect)[0], "release", act)

    def test_act_by_hold_by_role(self) -> None:
        """What needs a release is refused without a reason and without the role; what passed keeps what was set
        aside."""
        for act, reason, may, why in product(ACTS, REASONS, (True, False), ("", "  ", "laboratory: negative")):
            wanted: Ruling = TABLE[act][reason]
            with self.subTest(act=act, reason=reason, may=may, why=why):
                if wanted not in ("release", "anyway"):
                    self.assertIsNone(check(act, [held(reason)], may_release=may, why=why))
                elif (may or wanted == "anyway") and why.strip():
                    self.assertEqual(check(act, [held(reason)], may_release=may, why=why), reason)
                else:
                    with self.assertRaises(Refused) as refused:
                        check(act, [held(reason)], may_release=may, why=why)
                    self.assertEqual(refused.exception.rule, f"hold_{reason}")
                    self.assertEqual(refused.exception.can_override, may or wanted == "anyway")
                    self.assertIn("2031-01" if reason == "standstill" else "K1", refused.exception.message)

    def test_one_of_several_is_enough(self) -> None:
        """A sound colony does not free a held one; the weightiest reason of a colony is named."""
        with self.assertRaises(Refused):
            check("merge", [held(None), held("signs", 2)], may_release=False, why="strong")
        # A neighbour under the standstill comes before the suspect in the list: the suspect's hold is said all the same.
        suspect = HeldBack(UUID(int=5), "K5", "alive", None, None, [], "2031-01", "official", "2031-01")
        for colonies in ([held("standstill"), suspect], [suspect, held("standstill")]):
            with self.assertRaises(Refused) as refused:
                check("comb_out", colonies, may_release=False, why="a swarm")
            self.assertEqual((refused.exception.rule, refused.exception.can_override), ("hold_notifiable", False))
            self.assertEqual(check("comb_out", colonies, may_release=True, why="a swarm"), "notifiable")
        both = HeldBack(UUID(int=3), "K3", "dead", "notifiable", "ropy brood", ["ropy"])
        self.assertEqual(check("move", [both], may_release=True, why="authority"), "notifiable")
        requeened = HeldBack(UUID(int=4), "K4", "alive", "other", "kept apart", ["ropy"])
        self.assertEqual(ruling("requeen", requeened)[0], "caution")


class Lineage(unittest.TestCase):
    def test_a_label_is_that_of_its_day(self) -> None:
        """Renumbered twice: each day has its own label, the day of a change the new one; other changes do not count."""
        changes = [
            DatedChange("renumbered", date(2031, 6, 1), "B2"),
            DatedChange("renumbered", date(2031, 4, 1), "A1"),
            DatedChange("moved", date(2031, 5, 1), "Plover Hay"),
        ]
        for day, label, place in (
            (date(2031, 3, 31), "A1", "Plover Hay"), (date(2031, 4, 1), "B2", "Plover Hay"), (date(2031, 5, 1), "B2", "Kettle Wood"),
            (date(2031, 5, 31), "B2", "Kettle Wood"), (date(2031, 6, 1), "C3", "Kettle Wood"),
        ):  # fmt: skip
            with self.subTest(day=day):
                self.assertEqual(value_on(day, "C3", changes, "renumbered"), label)
                self.assertEqual(value_on(day, "Kettle Wood", changes, "moved"), place)

    def test_nothing_is_split_from_what_no_longer_lives(self) -> None:
        """A split entered later may lie before the end of its parent; none lies after it."""
        end = date(2031, 6, 1)
        for state, properties in COLONY_STATES.items():
            check_parent("K1", state, end, date(2031, 5, 20))
            if properties.is_living:
                check_parent("K1", state, end, date(2031, 6, 20))
            else:
                with self.subTest(state=state), self.assertRaisesRegex(InvalidInput, "^split_from:"):
                    check_parent("K1", state, end, date(2031, 6, 20))

    def test_a_merger_answers_for_queens_and_combs(self) -> None:
        """Two queens need an answer, one that is not there cannot stay, combs need a place; nothing else is asked."""
        queens: tuple[QueenOfMerger | None, ...] = (None, *get_args(QueenOfMerger))
        combs: tuple[CombsOfMerger | None, ...] = (None, *get_args(CombsOfMerger))
        for own, other, queen, has_combs, to in product((True, False), (True, False), queens, (True, False), combs):
            wrong = (
                "queen" if (queen is None and own and other) or (queen == "of_this" and not own) or (queen == "of_other" and not other)
                else "combs" if has_combs and to is None else ""
            )  # fmt: skip
            with self.subTest(own=own, other=other, queen=queen, combs=has_combs, to=to):
                try:
                    check_merger(own_queen=own, other_queen=other, queen=queen, own_combs=has_combs, combs=to)
                    field = ""
                except InvalidInput as error:
                    field = error.field
                self.assertEqual(field, wrong)
