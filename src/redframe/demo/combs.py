"""Combs of the demo: a brood nest as it hangs in its boxes, with stores over and beside it.

A frame's brood falls off from the middle of the nest; the ages stand near 3 : 6 : 12; stores fill what is left of the
outer combs. Signs of sick brood show on the two middle combs of the lowest box.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from redframe.core.visits.record import FrameRecord
from redframe.demo.sick_brood import OnTwoCombs


def nest(
    generator: np.random.Generator, boxes: Sequence[int], frames_of_bees: float, *, signs: OnTwoCombs, honey: float
) -> dict[tuple[int, int], FrameRecord]:
    """Records by box (from 0) and slot of a colony on so many frames of bees; `honey` from 0 to 1 fills the edges."""
    middle = float(generator.normal(0.0, 0.4))
    reach = max(1.5, frames_of_bees * 0.36 / len(boxes))
    laying = float(np.clip(generator.normal(1.0, 0.2), 0.4, 1.3))
    records: dict[tuple[int, int], FrameRecord] = {}
    queen = (0, 0)
    most_eggs = -1
    for box, slots in enumerate(boxes):
        for slot in range(1, slots + 1):
            away = abs(slot - (slots + 1) / 2 - middle) / reach
            sides = [_side(generator, away, laying, honey) for _ in range(2)]
            fields: dict[str, Any] = {"a": sides[0], "b": sides[1]}
            if slot in (1, slots) and generator.random() < 0.25:
                fields["comb"] = ["old"]
            if box == 0 and slot in (slots // 2, slots // 2 + 1):
                fields["signs"] = list(signs[slot - slots // 2])
            eggs = sides[0]["eggs"] + sides[1]["eggs"]
            if eggs > most_eggs:
                most_eggs, queen = eggs, (box, slot)
            records[(box, slot)] = FrameRecord.model_validate(fields)
    if generator.random() < 0.5:
        found = records[queen]
        records[queen] = FrameRecord.model_validate({**found.model_dump(), "queen": True})
    return records


def _side(generator: np.random.Generator, away: float, laying: float, honey: float) -> dict[str, Any]:
    """One side: brood by its distance from the middle of the nest, food in what is left."""
    brood = round(float(np.clip(9.0 * laying * (1 - away**2) + generator.normal(0, 0.5), 0, 9))) if away < 1 else 0
    opened, eggs = round(brood * 0.28), round(brood * 0.15)
    left = 10 - brood
    pollen = min(left, int(generator.integers(0, 3))) if away < 1.3 else 0
    capped_honey = min(left - pollen, round(left * honey * (0.75 if away < 1 else 1.0)))
    nectar = min(left - pollen - capped_honey, int(generator.integers(0, 2)))
    bees = int(np.clip(round(10 - 4.5 * max(0.0, away - 0.4) + float(generator.normal(0, 0.6))), 1, 11))
    return {
        "capped": brood - opened - eggs,
        "open": opened,
        "eggs": eggs,
        "honey": capped_honey,
        "nectar": nectar,
        "pollen": pollen,
        "bees": bees,
    }
