"""Frames, estimates, findings, comparison, moves and shorthand: worked figures, identities and properties."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid5

from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from redframe.core.colonies.frame_places import ENDED, Away, Box, Place, Slot, move, moved
from redframe.core.errors import InvalidInput, Refused
from redframe.core.inputs import read
from redframe.core.visits.cells import cells
from redframe.core.visits.colony import stores, suspicious_signs, weakness
from redframe.core.visits.comparison import compare, queen_trace
from redframe.core.visits.estimates import Estimate, Estimates, Range, SeenFrame, estimate
from redframe.core.visits.opening import opening
from redframe.core.visits.queen import QueenRecord, laying_state, queen_evidence, queen_worth, solidity
from redframe.core.visits.record import After, Before, CombSide, FrameRecord, QueenCells, SignSeen
from redframe.core.visits.shorthand import COMB_WORDS, print_line, read_line

ON = date(2031, 6, 14)
NS = UUID(int=7)


def seen(slot: int, a: dict[str, Any] | None = None, b: dict[str, Any] | None = None, *, box: int = 1,
         frame_format: str = "A_deep", **rest: Any) -> SeenFrame:  # fmt: skip
    """A frame with its sides as covers; side b like side a where it is not given."""
    sides: dict[str, Any] = {} if a is None else {"a": a, "b": a if b is None else b}
    return SeenFrame(box, slot, frame_format, FrameRecord.model_validate({**sides, **rest}))


def estimates(frames: list[SeenFrame], after: After | None = None, **rest: Any) -> Estimates:
    """Estimates of a hive of which every comb was seen, unless `hanging` says how many hang there."""
    nest: dict[str, Any] = {"hanging": 0, "nest_boxes": frozenset(), "nest_hanging": rest.get("hanging", 0)}
    settings_: dict[str, Any] = {"air_temp_c": 18.0, "wintering": False, "frame_format": "A_deep", **nest, **rest}
    return estimate(frames, after or After(), **settings_)


@st.composite
def sides(draw: st.DrawFn) -> CombSide:
    left, covers = 10, {}
    for name in ("capped", "open", "eggs", "drone", "honey", "nectar", "pollen"):
        covers[name] = draw(st.integers(0, left))
        left -= covers[name]
    return CombSide(**covers, eggs_seen=draw(st.booleans()), bees=draw(st.none() | st.integers(0, 15)))


records = st.builds(
    FrameRecord,
    a=sides(),
    b=sides(),
    comb=st.lists(st.sampled_from(COMB_WORDS), unique=True, max_size=3),
    cells=st.lists(
        st.builds(QueenCells, content=st.sampled_from(["cup", "egg", "larva", "capped", "emerged", "torn"]),
                  place=st.sampled_from(["edge", "face"]), number=st.integers(1, 200)), max_size=4),
    queen=st.booleans(),
    signs=st.lists(st.builds(SignSeen, sign=st.sampled_from(["cap_sunken", "mummy_white", "eggs_multiple"]),
                             extent=st.sampled_from(["few", "some", "many"])), max_size=3),
    note=st.text(alphabet="abc xyz", max_size=12).map(lambda text: " ".join(text.split())),
)  # fmt: skip


class Sides(unittest.TestCase):
    def test_a_side_has_ten_tenths(self) -> None:
        """Covers over the whole side are refused at that side; bees may sit two deep."""
        with self.assertRaises(InvalidInput) as caught:
            read(FrameRecord, {"b": {"capped": 6, "open": 3, "honey": 2}})
        self.assertEqual(caught.exception.field, "b.cover")
        self.assertEqual(CombSide(capped=10, bees=15).brood, 10)

    def test_signs_come_from_the_vocabulary(self) -> None:
        """Free text is no sign, and neither is one that is not seen on a comb."""
        for sign in ("looks bad", "forager_loss"):
            with self.assertRaises(InvalidInput) as caught:
                read(FrameRecord, {"signs": [{"sign": sign}]})
            self.assertEqual(caught.exception.field, "signs[0].sign")

    def test_answers_need_one_another(self) -> None:
        """Mites without days, kilograms without how, feed amount without what, a release without a cage."""
        for model, body, field in (
            (Before, {"board_mites": 12}, "board_days"),
            (After, {"stores_kg": 8.0}, "stores_by"),
            (After, {"feed_amount": 2.0}, "feed"),
            (After, {"queen_released": True}, "queen_released"),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as caught:
                read(model, body)  # type: ignore[type-var]
            self.assertEqual(caught.exception.field, field)


class Estimating(unittest.TestCase):
    def test_the_worked_adults(self) -> None:
        """Ten deep sides full and four half: 13 200 bees."""
        frames = [seen(n, {"bees": 10}) for n in range(1, 6)] + [seen(n, {"bees": 5}) for n in (6, 7)]
        found = estimates(frames)
        assert found.adults is not None
        self.assertAlmostEqual(found.adults.value, 13_200)
        self.assertEqual(found.frames_of_bees, 6.0)
        self.assertEqual(found.bees_away, Range(1320.0, 3960.0))

    def test_a_full_comb_of_honey(self) -> None:
        """Both sides capped weigh what the table says; open nectar six tenths of it; the range holds the published one."""
        full = estimates([seen(1, {"honey": 10})]).stores_kg
        nectar = estimates([seen(1, {"nectar": 10})]).stores_kg
        assert full is not None and nectar is not None
        self.assertAlmostEqual(full.value, 2.7)
        self.assertLessEqual(full.low, 2.3)
        self.assertGreaterEqual(full.high, 3.2)
        self.assertAlmostEqual(nectar.value / full.value, 0.6)

    def test_even_laying_gives_three_six_twelve(self) -> None:
        """Cells laid evenly for 21 days stand 3 : 6 : 12, and both ratios are 1."""
        found = estimates([seen(1, {"eggs": 1, "open": 2, "capped": 4})]).balance
        assert found is not None and found.r1 is not None and found.r2 is not None
        self.assertAlmostEqual(found.r1, 1)
        self.assertAlmostEqual(found.r2, 1)
        self.assertEqual(found.reading, "steady")
        stopped = estimates([seen(1, {"open": 2, "capped": 4})]).balance
        assert stopped is not None
        self.assertEqual(stopped.reading, "laying_stopped")

    def test_emergence(self) -> None:
        """A full deep side of capped brood lets nine tenths of its 3480 cells emerge within 12 days."""
        found = estimates([seen(1, {"capped": 10, "bees": 10}, {"bees": 10})])
        assert found.emerging_12_days is not None and found.adults_in_12_days is not None
        self.assertAlmostEqual(found.emerging_12_days.value, 0.9 * 3480)
        self.assertAlmostEqual(found.adults_in_12_days.value, 2200 * (1 - 0.0325) ** 12 + 0.9 * 3480)

    def test_seams_by_temperature_and_format(self) -> None:
        """A cold cluster packs more bees into a seam than a loose one; a smaller comb fewer."""
        cold = estimates([], After(seams_of_bees=6), air_temp_c=8.0).adults
        loose = estimates([], After(seams_of_bees=6), air_temp_c=15.0).adults
        small = estimates([], After(seams_of_bees=6), air_temp_c=8.0, frame_format="B_deep").adults
        assert cold is not None and loose is not None and small is not None
        self.assertEqual((cold.low, cold.high), (10_800, 14_400))
        self.assertEqual((loose.low, loose.high), (7_200, 9_600))
        self.assertLess(small.value, cold.value)

    @settings(max_examples=60)
    @given(st.lists(st.tuples(records, st.sampled_from(["A_deep", "B_shallow", "B_extra_deep"])), max_size=12))
    def test_never_negative_always_with_a_range(self, drawn: list[tuple[FrameRecord, str]]) -> None:
        """Whatever was recorded, low <= value <= high and nothing is below zero."""
        found = estimates([SeenFrame(1, n + 1, kind, record) for n, (record, kind) in enumerate(drawn)])
        for name in ("adults", "eggs", "open", "capped", "emerging_12_days", "adults_in_12_days", "stores_kg"):
            figure: Estimate | None = getattr(found, name)
            if figure is not None:
                assert 0 <= figure.low <= figure.value <= figure.high, (name, figure)
                assert figure.value == 0 or figure.low < figure.high, (name, figure)


class Findings(unittest.TestCase):
    def test_the_queen_from_the_ages(self) -> None:
        """Eggs: within 3 days. Open only: 3 and more. Capped only: 9 and more. None: 21 and more, or winter."""
        for frames, wanted in (
            ([seen(4, {"eggs": 1, "open": 1})], "eggs"),
            ([seen(4, {"eggs_seen": True})], "eggs"),
            ([seen(4, {"open": 2, "capped": 3})], "open_no_eggs"),
            ([seen(4, {"capped": 3})], "capped_only"),
            ([seen(4, {"honey": 3})], "no_brood"),
            ([], "not_looked"),
        ):
            with self.subTest(wanted=wanted):
                self.assertEqual(queen_evidence(frames, After(), ON, wintering=False, complete=True).code, wanted)
        self.assertEqual(
            queen_evidence([seen(4, {"honey": 3})], After(), ON, wintering=True, complete=True).code, "winter_pause"
        )
        self.assertEqual(queen_evidence([], After(eggs_seen=True), ON, wintering=False, complete=True).code, "eggs")
        for frames in ([seen(4, {"honey": 3})], [seen(4, {"open": 2})]):
            early = queen_evidence(frames, After(), ON, wintering=False, complete=False)
            self.assertEqual((early.code, early.level), ("no_eggs_yet", "note"), "what is missing may hang further on")
        capped_only = queen_evidence([seen(4, {"capped": 3})], After(), ON, wintering=False, complete=True)
        self.assertEqual(capped_only.params, {"since": ON - timedelta(days=9)})

    def test_drone_brood_in_worker_cells(self) -> None:
        """Scattered with many eggs: laying workers. A compact slab: a drone-laying queen. Neither: nothing is said."""
        many = seen(4, {"open": 2}, signs=[{"sign": "eggs_multiple"}, {"sign": "drone_scattered"}])
        slab = seen(4, {"open": 2}, signs=[{"sign": "drone_compact"}])
        self.assertEqual(getattr(laying_state([many]), "code", None), "laying_workers")
        self.assertEqual(getattr(laying_state([slab]), "code", None), "drone_layer")
        self.assertIsNone(laying_state([seen(4, {"open": 2})]))

    def test_cells_by_content_and_place(self) -> None:
        """Play cups are no intent; two on the face beside eggs are supersedure; many of mixed age on the edges swarm."""

        def with_cells(*found: dict[str, Any], eggs: int = 1) -> list[SeenFrame]:
            return [seen(5, {"eggs": eggs, "capped": 2}, cells=list(found))]

        cups = cells(with_cells({"content": "cup", "number": 6}), After(), ON, crowded=False)[0]
        self.assertEqual((cups.code, cups.level), ("swarm", "note"))
        quiet = cells(with_cells({"content": "larva", "place": "face", "number": 2}), After(), ON, crowded=False)[0]
        self.assertEqual(quiet.code, "supersedure")
        lost = cells(
            with_cells({"content": "larva", "place": "face", "number": 5}, eggs=0), After(), ON, crowded=False
        )[0]
        self.assertEqual(lost.code, "emergency_cells")
        mixed = [{"content": "larva", "number": 4}, {"content": "egg", "number": 3}]
        swarm = cells(with_cells(*mixed), After(), ON, crowded=True)[0]
        self.assertEqual((swarm.code, swarm.params), ("swarm", {"score": 3}))
        typical = {one.event: one.typical for one in swarm.dates}
        self.assertEqual(typical["first_cell_sealed"], ON + timedelta(days=2))
        self.assertEqual(typical["new_queen_emerges"], ON + timedelta(days=10))

    def test_opening(self) -> None:
        """Shut below 10 °C but for an emergency, cover only to 13, brief to the limit, nothing said of a warm still day."""
        for warm, code in ((6.0, "too_cold"), (11.0, "cover_only"), (14.0, "brief"), (16.0, "no_shaking")):
            self.assertEqual([found.code for found in opening(Before(air_temp_c=warm))], [code])
        self.assertEqual([found.code for found in opening(Before(air_temp_c=6.0, emergency=True))], ["food_check"])
        self.assertEqual(opening(Before(air_temp_c=21.0, wind="still")), [])
        self.assertEqual(opening(Before(board_mites=18, board_days=3.0))[0].params, {"a_day": 6.0})

    def test_a_sick_colony_is_never_united(self) -> None:
        """Weak in spring: uniting is offered, but not while a suspicious sign is unexplained."""
        weak = estimates([seen(4, {"bees": 10, "open": 3})])
        frames = [seen(4, {"open": 3}, signs=[{"sign": "cap_sunken", "extent": "few"}])]
        evidence = queen_evidence(frames, After(), ON, wintering=False, complete=True)
        healthy = weakness(weak, evidence, [], phase="build_up")
        sick = weakness(weak, evidence, suspicious_signs(frames, None), phase="build_up")
        assert healthy is not None and sick is not None
        self.assertEqual(healthy.code, "weak_unite")
        self.assertEqual(sick.code, "weak_suspect")
        self.assertIsNone(weakness(weak, evidence, [], phase="dormant"))

    def test_stores_by_season(self) -> None:
        """The same eight kilograms are enough in June and short of what the policy wants toward the winter: watched below
        three fifths of it, noted above; a small colony winters on less."""
        eight = estimates([], After(stores_kg=8.0, stores_by="weighing"))
        self.assertEqual(getattr(stores(eight, 20.0, toward_winter=False), "code", None), "stores_good")
        for target, level, lacks in ((20.0, "watch", 12.0), (13.0, "note", 5.0)):
            short = stores(eight, target, toward_winter=True)
            assert short is not None
            self.assertEqual((short.code, short.level, short.params), ("stores_short", level, {"short": lacks}))
        small = stores(
            estimates([], After(stores_kg=8.0, stores_by="weighing", frames_of_bees=4)), 20.0, toward_winter=True
        )
        assert small is not None
        self.assertEqual((small.level, small.params), ("note", {"short": 3.0}))
        self.assertEqual(getattr(stores(eight, 8.0, toward_winter=True), "code", None), "stores_good")

    def test_a_pattern_has_its_name(self) -> None:
        """Names change after 5, 10, 20 and 40 percent; from poor on it is watched."""
        names = [getattr(solidity(pct), "params", {}).get("pattern") for pct in (5, 5.1, 10, 20, 40, 40.1)]
        self.assertEqual(names, ["very_solid", "good", "good", "fair", "poor", "shotgun"])
        self.assertEqual([getattr(solidity(pct), "level", "") for pct in (20, 21)], ["note", "watch"])
        self.assertIsNone(solidity(None))

    def test_one_bad_visit_is_watch(self) -> None:
        """A spotty pattern, slow laying or a rough temper once is watched; twice replaces; sickness excuses the pattern."""
        once = QueenRecord(1, [4], [28], 0.5, None)
        twice = QueenRecord(2, [4, 3], [28, 25], 0.5, 0.55)
        self.assertEqual({one.verdict for one in queen_worth(once, suspicious=False, laying=None)}, {"keep", "watch"})
        verdicts = {one.name: one.verdict for one in queen_worth(twice, suspicious=False, laying=None)}
        self.assertEqual(verdicts, {"pattern": "replace", "laying": "replace", "age": "keep", "temper": "replace"})
        sick = {one.name: one.verdict for one in queen_worth(twice, suspicious=True, laying=None)}
        self.assertEqual(sick["pattern"], "watch")


class Comparing(unittest.TestCase):
    def test_gained_lost_new_gone_spread(self) -> None:
        """Brood by its tenths, signs by what became of them; a frame not looked at again has lost nothing."""
        then = [
            seen(3, {"capped": 2}, signs=[{"sign": "cap_sunken", "extent": "few"}]),
            seen(5, {"capped": 4}, queen=True),
        ]
        now = [seen(3, {"capped": 5}, signs=[{"sign": "cap_sunken", "extent": "some"}, {"sign": "mummy_white"}])]
        three, five = compare(then, now)
        self.assertEqual(three.brood, 6)
        self.assertEqual({one.sign: one.change for one in three.signs}, {"cap_sunken": "spread", "mummy_white": "new"})
        self.assertIsNone(five.brood)
        self.assertEqual(five.queen, "here_then")
        back = compare(now, then)
        self.assertEqual(back[0].brood, -6)
        self.assertEqual({one.sign: one.change for one in back[0].signs}, {"cap_sunken": "less", "mummy_white": "gone"})

    def test_where_to_look_for_her(self) -> None:
        """Seen today ends the search; else today's eggs, then where she was last time on frames not yet looked at."""
        then = [seen(4, {"eggs": 2}), seen(6, {"eggs": 1}, queen=True)]
        self.assertEqual([one.slot for one in queen_trace(then, [])], [6, 4, 6])
        self.assertEqual(queen_trace(then, [seen(5, {"eggs": 1})])[0].slot, 5)
        self.assertEqual([one.why for one in queen_trace(then, [seen(2, {}, queen=True)])], ["seen_today"])


class Moves(RuleBasedStateMachine):
    """Two boxes of two colonies and everywhere a frame can go: any sequence of moves keeps every frame exactly once."""

    def __init__(self) -> None:
        super().__init__()
        first, second = uuid5(NS, "box 1"), uuid5(NS, "box 2")
        one, other = uuid5(NS, "colony 1"), uuid5(NS, "colony 2")
        self.boxes = {first: Box(first, 4, "A_deep", [one] * 4), second: Box(second, 3, "A_deep", [one, other, other])}
        self.places: dict[UUID, Place] = {
            uuid5(NS, f"frame {number}"): Slot(first, number) for number in range(1, 5)
        } | {uuid5(NS, f"frame {number + 4}"): Slot(second, number) for number in range(1, 3)}
        self.all = set(self.places)

    @rule(frame=st.integers(1, 7), box=st.integers(1, 3), slot=st.integers(0, 5))
    def into_a_slot(self, frame: int, box: int, slot: int) -> None:
        self.go(uuid5(NS, f"frame {frame}"), Slot(uuid5(NS, f"box {box}"), slot))

    @rule(frame=st.integers(1, 6), away=st.sampled_from(["store", "freezer", "melted", "burned"]))
    def away(self, frame: int, away: Away) -> None:
        self.go(uuid5(NS, f"frame {frame}"), away)

    def go(self, frame: UUID, target: Place) -> None:
        before = dict(self.places)
        try:
            self.places = moved(self.places, move(self.places, self.boxes, frame, target))
        except (InvalidInput, Refused):
            assert self.places == before
            return
        assert self.places[frame] == target
        assert all(before[one] == place for one, place in self.places.items() if before[one] in ENDED)

    @invariant()
    def every_frame_once(self) -> None:
        assert set(self.places) == self.all
        hanging = [place for place in self.places.values() if isinstance(place, Slot)]
        assert len(hanging) == len(set(hanging))
        assert all(1 <= place.number <= self.boxes[place.box].slots for place in hanging)


class MovesKeepFrames(Moves.TestCase):  # type: ignore[misc, name-defined]
    settings = settings(max_examples=40, stateful_step_count=25, deadline=None)


class Shorthand(unittest.TestCase):
    def test_a_dictated_line(self) -> None:
        """Letters or spoken words, both sides or alike, cells, queen, signs, comb and a note."""
        line = read_line('2.4 c7 o2 e b9 / capped 6 open 3 honey 1 bees 8 egg2f Q !cap_sunken4 !dwv3 old "rough"')
        self.assertEqual((line.box, line.slot, line.not_understood), (2, 4, []))
        assert line.record is not None and line.record.a is not None and line.record.b is not None
        self.assertEqual((line.record.a.capped, line.record.a.eggs_seen, line.record.b.honey), (7, True, 1))
        self.assertEqual(line.record.cells[0].place, "face")
        self.assertTrue(line.record.queen)
        self.assertEqual([(one.sign, one.number) for one in line.record.signs], [("cap_sunken", 4), ("dwv", 3)])
        alike = read_line("5 stores").record
        assert alike is not None and alike.a == alike.b
        self.assertTrue(read_line("5 same").same)

    def test_what_is_not_understood_is_marked_where_it_stands(self) -> None:
        """The rest of the line is taken; the stretch that was not is named with its place."""
        line = read_line("4 c7 frobs b9")
        assert line.record is not None and line.record.a is not None
        self.assertEqual(line.record.a.capped, 7)
        (wrong,) = line.not_understood
        self.assertEqual("4 c7 frobs b9"[wrong.start : wrong.end], "frobs")
        self.assertEqual(read_line("4 c9 o9").not_understood[0].why.split(":")[0], "adds up to 18 tenths")
        self.assertEqual(read_line("4 c11").not_understood[0].why, "0 to 10 tenths")
        self.assertIsNone(read_line("capped 4").slot)

    @settings(max_examples=150)
    @given(st.integers(1, 4), st.integers(1, 12), records)
    def test_print_and_read_are_stable(self, box: int, slot: int, record: FrameRecord) -> None:
        """What is printed reads back as what was printed, and prints the same again."""
        printed = print_line(box, slot, record)
        line = read_line(printed)
        assert line.not_understood == [], (printed, line.not_understood)
        assert (line.box, line.slot, line.record) == (box, slot, record), printed
        assert line.record is not None
        assert print_line(box, slot, line.record) == printed

    @settings(max_examples=150)
    @given(st.text(max_size=60))
    def test_no_text_breaks_it(self, text: str) -> None:
        """Whatever is typed is read without an error, and every mark lies inside the line."""
        line = read_line(text)
        assert all(0 <= one.start <= one.end <= len(text) for one in line.not_understood)


if __name__ == "__main__":
    unittest.main()
