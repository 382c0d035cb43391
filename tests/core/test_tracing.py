"""Traces against a tracer that tries every way there is, and the rules that a trace must keep."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from datetime import date, timedelta
from itertools import count

from redframe.core.tracing.movements import GRADE, Movement, MovementKind, Stay, band_of, risk_of
from redframe.core.tracing.traces import LEAST_RISK, MOST_STEPS, Direction, Reached, trace
from redframe.core.tracing.windows import window

DAY = date(2031, 5, 1)
END = DAY + timedelta(days=60)
KINDS: tuple[MovementKind, ...] = tuple(GRADE)


def on(day: int, origin: str, target: str, kind: MovementKind = "brood_frame", until: int | None = None) -> Movement:
    """A movement `day` days after the first of May."""
    last = day if until is None else until
    return Movement(f"{origin}{target}{day}{kind}", DAY + timedelta(days=day), DAY + timedelta(days=last), origin, target, kind)  # fmt: skip


def forward(movements: list[Movement], stays: list[Stay] | None = None) -> dict[str, Reached]:
    """Where it may have gone from A."""
    return {one.colony: one for one in trace(movements, stays or [], "A", "afb", since=DAY, until=END, direction="forward")}  # fmt: skip


def every_way(movements: list[Movement], start: str, sign: int) -> dict[str, list[tuple[int, float, int, bool]]]:
    """Every way by trying them all: its day, its risk, its length, whether its order is certain."""
    edges = []
    for one in movements:
        low, high = sorted((sign * one.earliest.toordinal(), sign * one.latest.toordinal()))
        ends = (one.origin, one.target) if sign > 0 else (one.target, one.origin)
        edges.append((low, high, *ends, risk_of(one, "afb")))
    opening, closing = (DAY, END) if sign > 0 else (END, DAY)
    found: dict[str, list[tuple[int, float, int, bool]]] = {}

    def go(at: str, day: int, surely: int, risk: float, way: tuple[str, ...], certain: bool) -> None:
        for low, high, origin, target, grade in edges:
            last = min(high, sign * closing.toordinal())
            if origin != at or target in way or last < day or low > last or len(way) > MOST_STEPS:
                continue
            if risk * grade < LEAST_RISK:
                continue
            reached = max(day, low), risk * grade, len(way), certain and surely < low
            found.setdefault(target, []).append(reached)
            go(target, reached[0], last, reached[1], (*way, target), reached[3])

    begin = sign * opening.toordinal()
    go(start, begin, begin - 1, 1.0, (start,), True)
    return found


class AgainstEveryWay(unittest.TestCase):
    def test_small_logs_at_random(self) -> None:
        """Four hundred logs, both ways: the same colonies, the same earliest day, highest risk, highest certain risk."""
        dice = random.Random(11)
        numbers = count()
        for _ in range(400):
            colonies = "ABCDEF"[: dice.randint(3, 6)]
            movements = []
            for _ in range(dice.randint(2, 11)):
                origin, target = dice.sample(colonies, 2)
                first = dice.randrange(58)
                last = first + dice.choice((0, 0, 0, dice.randrange(12)))
                one = on(first, origin, target, dice.choice(KINDS), last)
                movements.append(
                    replace(one, id=str(next(numbers)), certainty=dice.choice(("seen", "told", "inferred")))
                )
            directions: tuple[tuple[Direction, int], ...] = (("forward", 1), ("backward", -1))
            for direction, sign in directions:
                found = trace(movements, [], "A", "afb", since=DAY, until=END, direction=direction)
                ways = every_way(movements, "A", sign)
                self.assertEqual({one.colony for one in found}, set(ways))
                for one in found:
                    own = ways[one.colony]
                    self.assertAlmostEqual(one.best.risk, max(way[1] for way in own))
                    days = [sign * path.on.toordinal() for path in one.paths]
                    self.assertEqual(min(days), min(way[0] for way in own))
                    sure = [path.risk for path in one.paths if path.is_certain]
                    self.assertAlmostEqual(max(sure, default=0), max((way[1] for way in own if way[3]), default=0))

    def test_both_directions_see_the_same_contact(self) -> None:
        """Whoever A reaches forward reaches A backward, along the same movements with the same risk."""
        dice = random.Random(5)
        for number in range(60):
            movements = [
                replace(on(dice.randrange(60), *dice.sample("ABCDE", 2), dice.choice(KINDS)), id=f"{number}-{one}")
                for one in range(10)
            ]
            for one in trace(movements, [], "A", "afb", since=DAY, until=END, direction="forward"):
                back = trace(movements, [], one.colony, "afb", since=DAY, until=END, direction="backward")
                source = next(other for other in back if other.colony == "A")
                self.assertAlmostEqual(source.best.risk, one.best.risk)


class Rules(unittest.TestCase):
    def test_an_edge_before_arrival_does_not_carry(self) -> None:
        """B gave to C before A gave to B: C is not reached; a day later it is."""
        self.assertEqual(set(forward([on(10, "A", "B"), on(9, "B", "C")])), {"B"})
        self.assertEqual(set(forward([on(10, "A", "B"), on(11, "B", "C")])), {"B", "C"})

    def test_one_day_is_possible_and_no_more(self) -> None:
        """Two movements on one day, or on a day that is not known: possible; what surely came before is certain."""
        same = forward([on(10, "A", "B"), on(10, "B", "C")])
        self.assertEqual((same["B"].best.is_certain, same["C"].best.is_certain), (True, False))
        unsure = forward([on(10, "A", "B", until=20), on(15, "B", "C")])
        self.assertFalse(unsure["C"].best.is_certain)
        self.assertTrue(forward([on(10, "A", "B", until=14), on(15, "B", "C")])["C"].best.is_certain)

    def test_risk_is_the_product_and_the_band_is_its(self) -> None:
        """A comb, then tools: a fifth; in words from the first movement to the last."""
        found = forward([on(1, "A", "B"), on(20, "B", "C", "tools")])["C"].best
        self.assertAlmostEqual(found.risk, 0.2)
        self.assertEqual([one.kind for one in found.movements], ["brood_frame", "tools"])
        self.assertEqual([band_of(one) for one in (0.6, 0.59, 0.25, 0.24)], ["high", "medium", "medium", "low"])
        flamed = replace(on(1, "A", "B", "tools"), is_disinfected=True)
        self.assertAlmostEqual(risk_of(flamed, "afb"), 0.02)

    def test_a_merger_passes_both_histories(self) -> None:
        """What reached either of two colonies that were merged reaches the one that lives on."""
        movements = [on(1, "A", "B"), on(5, "B", "D", "merge"), on(5, "C", "D", "merge"), on(9, "D", "E", "split")]
        self.assertEqual(set(forward(movements)), {"B", "D", "E"})
        back = trace(movements, [], "E", "afb", since=DAY, until=END, direction="backward")
        self.assertEqual({one.colony for one in back}, {"A", "B", "C", "D"})

    def test_neighbours_of_one_time(self) -> None:
        """Colonies that stood together are contacts by rule; those that came when it had gone are not."""
        stays = [
            Stay("A", "hill", DAY, DAY + timedelta(days=10)), Stay("B", "hill", DAY, None),
            Stay("C", "hill", DAY + timedelta(days=11), None), Stay("F", "wood", DAY, None),
        ]  # fmt: skip
        found = forward([], stays)
        self.assertEqual(set(found), {"B", "C"})
        self.assertEqual([one.kind for one in found["C"].best.movements], ["same_apiary", "same_apiary"])
        self.assertAlmostEqual(found["B"].best.risk, 0.3 * 0.6)

    def test_no_circle_and_no_more_than_eight_steps(self) -> None:
        """Nobody is reached twice on one way; a chain of twelve is followed for eight."""
        names = [f"N{number}" for number in range(12)]
        chain = [on(number, one, other) for number, (one, other) in enumerate(zip(["A", *names], names, strict=False))]
        found = forward([*chain, on(40, "N0", "A")])
        self.assertEqual(set(found), set(names[:MOST_STEPS]))

    def test_windows(self) -> None:
        """Two years back for American foulbrood; infectious from the day after all its brood was clean, else a year."""
        found = date(2031, 7, 26)
        known = window("afb", found, date(2031, 5, 20))
        self.assertEqual((known.back_to, known.infectious_from, known.assumed), (date(2029, 7, 26), date(2031, 5, 21), False))  # fmt: skip
        unknown = window("efb", found, None)
        self.assertEqual((unknown.infectious_from, unknown.assumed), (date(2031, 5, 27), True))
        self.assertEqual(window("efb", found, date(2031, 1, 1)).infectious_from, date(2031, 1, 2))
        self.assertEqual(window("efb", found, date(2029, 1, 1)).infectious_from, found - timedelta(days=365))


if __name__ == "__main__":
    unittest.main()
