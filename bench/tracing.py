"""Both traces of a case through a long log, against one look at each movement."""

from __future__ import annotations

import random
import time
from collections import Counter
from datetime import date, timedelta

from redframe.core.tracing.movements import GRADE, Movement, MovementKind, Stay, risk_of
from redframe.core.tracing.traces import trace

MOVEMENTS, COLONIES, A_PLACE = 100_000, 10_000, 12
BEGIN = date(2029, 8, 1)
DAYS = 730
TOOLS = 0.7
"""Most of what is on record are the tools of a round."""
KINDS: tuple[MovementKind, ...] = tuple(one for one in GRADE if one not in ("same_apiary", "tools"))


def measure_tracing() -> list[tuple[str, str]]:
    """Seconds for both traces in the densest part of a log of a large association, as a ratio to reading it once."""
    dice = random.Random(20)
    log = [_movement(dice, number) for number in range(MOVEMENTS)]
    stays = [Stay(str(one), f"place {one // A_PLACE}", BEGIN, None) for one in range(COLONIES)]
    until = BEGIN + timedelta(days=DAYS)
    busiest = Counter(one.origin for one in log).most_common(1)[0][0]
    began = time.perf_counter()
    for one in log:
        risk_of(one, "afb")
    read = time.perf_counter() - began
    began = time.perf_counter()
    back = trace(log, stays, busiest, "afb", since=BEGIN, until=until, direction="backward")
    gone = trace(log, stays, busiest, "afb", since=until - timedelta(days=365), until=until, direction="forward")
    took = time.perf_counter() - began
    reached = len(back) + len(gone)
    return [
        (f"both traces through {MOVEMENTS:,} movements of {COLONIES:,} colonies, against reading the log once",
         f"{took:.2f} s / {read:.3f} s = {took / read:.0f}x (target 1 s); {reached:,} colonies reached"),
    ]  # fmt: skip


def _movement(dice: random.Random, number: int) -> Movement:
    day = BEGIN + timedelta(days=dice.randrange(DAYS))
    origin = dice.randrange(COLONIES)
    near = min(COLONIES - 1, max(0, origin + dice.choice((-1, 1)) * dice.randint(1, 30)))
    kind: MovementKind = "tools" if dice.random() < TOOLS else dice.choice(KINDS)
    return Movement(str(number), day, day, str(origin), str(near), kind, "inferred" if kind == "tools" else "seen")


if __name__ == "__main__":
    print(measure_tracing())
