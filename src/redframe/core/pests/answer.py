"""What a score asks for at a colony: the acts, with what speaks against one of them here, and when to look again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.pests.pests import PestId, pests

Caution = Literal[
    "report_first", "not_moved", "not_united", "weak_first", "disease_check", "trace_robbers", "strong_tolerate",
    "guard_until_spring", "score_fell", "score_rose", "score_same",
]  # fmt: skip
WEAK_FRAMES = 4.0
"""Fewer frames of bees defend little."""
DISEASE_CHECK_DAYS = 7


@dataclass(frozen=True, slots=True)
class PestPlace:
    """What bears on the answer: whether the beetle is established there, whether signs of brood disease are open or the
    apiary stands still, the frames of bees last seen (None: not known), and the score before (None: none)."""

    shb_established: bool
    disease_open: bool
    frames: float | None
    before: int | None


@dataclass(frozen=True, slots=True)
class PestAnswer:
    """What a score says and asks for: `asks`: an act is asked for; `look_from`, `look_by`: when to look again (None: at
    the next visit); `cautions`: what bears on it here; `disease_check_by`: brood is looked at by then."""

    says: str
    asks: bool
    acts: Sequence[str]
    cautions: Sequence[Caution]
    look_from: date | None
    look_by: date | None
    disease_check_by: date | None


def answer(pest: PestId, score: int, on: date, place: PestPlace) -> PestAnswer:
    """What a score asks for."""
    kind = pests()[pest]
    cautions = _cautions(pest, score, place)
    if score == 0:
        return PestAnswer("none seen", False, (), cautions, None, None, None)
    words = kind.scores[score]
    asks = score >= kind.asks_from or "report_first" in cautions
    first, last = (on + timedelta(days=days) for days in words.days)
    check = on + timedelta(days=DISEASE_CHECK_DAYS) if pest == "robbing" and score >= 2 else None
    return PestAnswer(words.says, asks, words.act, cautions, first, last, check)


def _cautions(pest: PestId, score: int, place: PestPlace) -> list[Caution]:
    found: list[Caution] = []
    if pest == "beetle" and score > 0 and not place.shb_established:
        found.append("report_first")
    if place.disease_open and ((pest == "robbing" and score >= 4) or (pest == "wasps" and score >= 3)):
        found.append("not_moved" if pest == "robbing" else "not_united")
    weak = place.frames is not None and place.frames < WEAK_FRAMES
    if weak and score >= pests()[pest].asks_from:
        found.append("weak_first")
    if pest == "moth" and score in (1, 2) and not weak:
        found.append("strong_tolerate")
    if pest == "robbing" and score >= 2:
        found.append("disease_check")
    if pest == "robbing" and score >= 3:
        found.append("trace_robbers")
    if pest == "mice" and score >= 1:
        found.append("guard_until_spring")
    if place.before is not None and (score > 0 or place.before > 0):
        found.append("score_same" if score == place.before else "score_fell" if score < place.before else "score_rose")
    return found
