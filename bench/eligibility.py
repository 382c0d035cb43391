"""Which treatments suit ten thousand colonies: each rule asked once for all that agree, beside colony by colony."""

from __future__ import annotations

import random
import time

from tests.core.test_eligibility_many import CATALOGUE, situation

from redframe.core.treatments.eligibility import choice_of, choose
from redframe.core.treatments.many import ManyColonies
from redframe.launch.web import settle

COLONIES, ALONE = 10_000, 300


def measure_eligibility() -> list[tuple[str, str]]:
    """Computing time of both for all options; colonies agree in one fact or another and seldom in all."""
    chance = random.Random(20310802)
    colonies = [situation(chance) for _ in range(COLONIES)]
    many = ManyColonies(CATALOGUE)
    settle()  # As the server runs.
    began = time.process_time()
    for one in colonies:
        choice_of(many.suit(one))
    together = time.process_time() - began
    began = time.process_time()
    for one in colonies[:ALONE]:
        choose(CATALOGUE, one)
    alone = (time.process_time() - began) * COLONIES / ALONE
    what = f"{len(CATALOGUE.options)} options judged for {COLONIES} colonies, computing time"
    return [(what, f"{together:.1f} s (target 5); colony by colony {alone:.0f} s, {alone / together:.1f}x")]


if __name__ == "__main__":
    print(measure_eligibility())
