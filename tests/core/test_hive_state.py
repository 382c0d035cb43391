"""A hive on a day: who lives around a slot, which boxes are the same when somebody changes the stack."""

from __future__ import annotations

import unittest
from datetime import date
from uuid import UUID

from redframe.core.colonies.frame_places import Box, Place, Shift, Slot, check_formats, colonies_left, from_away
from redframe.core.colonies.hive_state import (
    BoxPurpose,
    Floor,
    Hive,
    HiveColony,
    HiveState,
    PlacedBox,
    WantedBox,
    match_boxes,
)
from redframe.core.errors import InvalidInput, Refused

SINCE = date(2031, 4, 1)
FLOOR: Floor = "mesh"
LEFT, RIGHT = UUID(int=101), UUID(int=102)


def box(number: int, purpose: BoxPurpose = "brood", frames: int = 10, frame_format: str | None = "A_deep") -> PlacedBox:
    """A box at its place from the floor up; its id is its number."""
    return PlacedBox(UUID(int=number), number, purpose, frame_format, frames, SINCE)


def state(colonies: list[HiveColony], *, divided_after: int | None = None, boxes: list[PlacedBox] | None = None) -> HiveState:  # fmt: skip
    """A hive with these colonies."""
    hive = Hive(UUID(int=1), UUID(int=2), "A", FLOOR, "left", divided_after, 1)
    return HiveState(hive, boxes if boxes is not None else [box(1)], colonies)


class Owners(unittest.TestCase):
    def test_a_divided_hive_parts_its_slots(self) -> None:
        """Up to the divider is the left colony's, past it the right one's, however they are listed."""
        pair = [HiveColony(LEFT, "a", "left"), HiveColony(RIGHT, "b", "right")]
        for colonies in (pair, pair[::-1]):
            for divided_after in (1, 4, 9):
                hive = state(colonies, divided_after=divided_after)
                owners = [hive.owner(slot) for slot in range(1, 11)]
                self.assertEqual(owners, [LEFT] * divided_after + [RIGHT] * (10 - divided_after))
                self.assertEqual(hive.as_boxes()[UUID(int=1)].colonies, owners)

    def test_without_a_divider_the_hive_is_the_first_colonys(self) -> None:
        """One colony has all slots, whatever side it was given; so has the first of two where nothing divides them."""
        alone = state([HiveColony(RIGHT, "b", "right")], divided_after=5)
        self.assertEqual({alone.owner(slot) for slot in range(1, 11)}, {RIGHT})
        open_hive = state([HiveColony(LEFT, "a", "left"), HiveColony(RIGHT, "b", "right")])
        self.assertEqual({open_hive.owner(slot) for slot in range(1, 11)}, {LEFT})

    def test_a_side_that_nobody_has_falls_to_the_first(self) -> None:
        """Two colonies of which neither is on the right: no slot is without a colony."""
        hive = state([HiveColony(LEFT, "a", "left"), HiveColony(RIGHT, "b", None)], divided_after=5)
        self.assertEqual({hive.owner(slot) for slot in range(1, 11)}, {LEFT})

    def test_only_boxes_with_frames_take_frames(self) -> None:
        """An excluder, a feeder and an empty eke hold no comb; a hive without a colony has no frames of anybody."""
        boxes = [
            box(1),
            box(2, "excluder", 0, None),
            box(3, "super", 8),
            box(4, "feeder", 0, None),
            box(5, "eke", 0, None),
        ]
        found = state([HiveColony(LEFT, "a", None)], boxes=boxes).as_boxes()
        self.assertEqual({one.int: found[one].slots for one in found}, {1: 10, 3: 8})
        self.assertEqual(state([], boxes=boxes).as_boxes(), {})


class Stacking(unittest.TestCase):
    placed = (box(1), box(2, "excluder", 0, None), box(3, "super", 8, "A_shallow"))

    def ids(self, wanted: list[WantedBox]) -> list[int | None]:
        """The numbers of the boxes that stay, None for new ones."""
        return [one.id.int if one.id is not None else None for one in match_boxes(self.placed, wanted)]

    def like(self, number: int, *, named: bool = False) -> WantedBox:
        """A box as one that stands."""
        one = self.placed[number - 1]
        return WantedBox(one.purpose, one.frame_format, one.frames, one.id if named else None)

    def test_a_like_box_at_its_place_is_the_same_box(self) -> None:
        """The stack said again as it stands keeps every box, with its combs."""
        self.assertEqual(self.ids([self.like(1), self.like(2), self.like(3)]), [1, 2, 3])
        self.assertEqual(self.ids([self.like(1, named=True), self.like(2), self.like(3, named=True)]), [1, 2, 3])

    def test_a_named_box_may_go_elsewhere_in_the_stack(self) -> None:
        """The super put under the brood box is still that super; a new one does not take its combs."""
        new = WantedBox("super", "A_shallow", 8)
        self.assertEqual(self.ids([self.like(3, named=True), self.like(1, named=True)]), [3, 1])
        self.assertEqual(self.ids([self.like(1), self.like(2), new, self.like(3, named=True)]), [1, 2, None, 3])

    def test_another_kind_of_box_is_another_box(self) -> None:
        """More frames, another format or another purpose at the same place: a new box, whose combs are not these."""
        for other in (
            WantedBox("brood", "A_deep", 11),
            WantedBox("brood", "B_deep", 10),
            WantedBox("super", "A_deep", 10),
            WantedBox("brood", None, 10),
        ):
            with self.subTest(other=other):
                self.assertEqual(self.ids([other, self.like(2)]), [None, 2])

    def test_what_does_not_stand_there_is_refused_at_its_field(self) -> None:
        """A box of another hive, one named twice, one that would change its frames: each at the box it is about."""
        one = self.like(1, named=True)
        for wanted, field in (
            ([self.like(1), WantedBox("brood", "A_deep", 10, UUID(int=99))], "boxes[1].id"),
            ([one, one], "boxes[0].id"),
            ([WantedBox("brood", "A_deep", 8, UUID(int=1))], "boxes[0].frames"),
            ([one, WantedBox("super", "A_deep", 8, UUID(int=3))], "boxes[1].frames"),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as caught:
                match_boxes(self.placed, wanted)
            self.assertEqual(caught.exception.field, field)

    def test_nothing_wanted_nothing_stands(self) -> None:
        """All boxes taken off: nothing is kept, nothing is refused."""
        self.assertEqual(self.ids([]), [])


class Combs(unittest.TestCase):
    """Which colonies' combs come to another colony, and which frames fit."""

    def setUp(self) -> None:
        self.one, self.other = UUID(int=11), UUID(int=12)
        self.boxes = {
            UUID(int=1): Box(UUID(int=1), 10, "A_deep", [self.one] * 10),
            UUID(int=2): Box(UUID(int=2), 10, "A_deep", [self.one] * 5 + [self.other] * 5),
            UUID(int=3): Box(UUID(int=3), 8, "A_shallow", [self.other] * 8),
        }
        self.frame = UUID(int=21)

    def left(self, origin: Place, target: Place, hung_in: UUID | None = None) -> list[UUID]:
        """The colonies that lose a comb by one shift."""
        known = {self.frame: hung_in} if hung_in is not None else {}
        return colonies_left([Shift(self.frame, origin, target)], self.boxes, known)

    def test_a_comb_that_stays_with_its_colony_leaves_nobody(self) -> None:
        """Within a box, to another box of the same colony, into store, into the melter."""
        here = Slot(UUID(int=1), 3)
        for target in (Slot(UUID(int=1), 4), Slot(UUID(int=2), 5), "store", "melted"):
            with self.subTest(target=target):
                self.assertEqual(self.left(here, target), [])  # type: ignore[arg-type]

    def test_across_the_divider_it_leaves(self) -> None:
        """Slot 5 is the one colony's, slot 6 the other's, in one body."""
        self.assertEqual(self.left(Slot(UUID(int=2), 5), Slot(UUID(int=2), 6)), [self.one])
        self.assertEqual(self.left(Slot(UUID(int=2), 6), Slot(UUID(int=1), 1)), [self.other])

    def test_store_does_not_wash_it(self) -> None:
        """A comb that waited in store or freezer is still of the colony that it hung in last; one of nobody is free."""
        for away in ("store", "freezer"):
            with self.subTest(away=away):
                self.assertEqual(self.left(away, Slot(UUID(int=3), 1), self.one), [self.one])  # type: ignore[arg-type]
                self.assertEqual(self.left(away, Slot(UUID(int=3), 1), self.other), [])  # type: ignore[arg-type]
                self.assertEqual(self.left(away, Slot(UUID(int=3), 1)), [])  # type: ignore[arg-type]

    def test_a_swap_leaves_both(self) -> None:
        """Two combs change places between two colonies: each loses one, each is named once."""
        here, there = Slot(UUID(int=1), 1), Slot(UUID(int=3), 1)
        shifts = [Shift(self.frame, here, there), Shift(UUID(int=22), there, here), Shift(UUID(int=23), here, there)]
        self.assertEqual(colonies_left(shifts, self.boxes, {}), [self.one, self.other])

    def test_which_frames_are_looked_up(self) -> None:
        """Only those that come from away into a hive."""
        shifts = [
            Shift(UUID(int=31), "store", Slot(UUID(int=1), 1)),
            Shift(UUID(int=32), Slot(UUID(int=1), 2), Slot(UUID(int=1), 3)),
            Shift(UUID(int=33), "freezer", "melted"),
            Shift(UUID(int=34), "freezer", Slot(UUID(int=1), 4)),
        ]
        self.assertEqual(from_away(shifts), [UUID(int=31), UUID(int=34)])

    def test_a_frame_fits_its_format(self) -> None:
        """A deep frame into a deep box, a shallow one not; out of a hive anything goes."""
        formats = {self.frame: "A_shallow"}
        check_formats([Shift(self.frame, "store", Slot(UUID(int=3), 1))], formats, self.boxes)
        check_formats([Shift(self.frame, Slot(UUID(int=3), 1), "store")], formats, self.boxes)
        with self.assertRaises(Refused) as caught:
            check_formats([Shift(self.frame, "store", Slot(UUID(int=1), 1))], formats, self.boxes)
        self.assertEqual((caught.exception.rule, caught.exception.field), ("format", "to_box"))
