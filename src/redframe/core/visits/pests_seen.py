"""Pests that a visit saw among its signs: each that asks for an act is a finding with its act and its day."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from redframe.core.disease.signs import Extent
from redframe.core.pests.pests import PestId, pests
from redframe.core.pests.scoring import Counted, score_of
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.examination import Examination
from redframe.core.visits.finding import VisitFinding
from redframe.core.visits.record import Before

MEANT: Mapping[str, Mapping[Extent, float]] = {
    "shb_adults": {"few": 3, "some": 13, "many": 40},
    "wasp_hawking": {"few": 2, "some": 6, "many": 15},
    "wasps_in": {"few": 1, "some": 2, "many": 5},
}
"""Numbers that stand for an extent where nobody counted."""
MUCH_TORN_TENTHS = 5
ACT_FROM = 3


def pests_seen(now: Sequence[SeenFrame], before: Before, examined: Examination | None) -> list[VisitFinding]:
    """The pests that ask for an act, the worst first."""
    scores = dict(_scores(_amounts(now, examined), now, before))
    found = [_finding(pest, score) for pest, score in scores.items() if score >= pests()[pest].asks_from]
    return sorted(found, key=lambda one: -float(str(one.params["score"])))


def _amounts(now: Sequence[SeenFrame], examined: Examination | None) -> dict[str, float]:
    """How much was seen of each sign, over all combs and at the entrance."""
    total: dict[str, float] = {}
    for frame in now:
        for one in frame.record.signs:
            total[one.sign] = total.get(one.sign, 0.0) + _amount(one.sign, one.extent, one.number)
    for seen in examined.signs if examined is not None else ():
        if seen.seen == "seen":
            total[seen.sign] = max(total.get(seen.sign, 0.0), _amount(seen.sign, seen.extent, seen.number))
    return total


def _amount(sign: str, extent: Extent | None, number: float | None) -> float:
    if number is not None:
        return number
    return MEANT.get(sign, {}).get(extent or "few", 1.0)


def _scores(amount: Mapping[str, float], now: Sequence[SeenFrame], before: Before) -> Iterator[tuple[PestId, int]]:
    beetle = Counted(
        adults=round(amount["shb_adults"]) if "shb_adults" in amount else None,
        larvae=amount.get("shb_larvae", 0) > 0, slime=amount.get("shb_slime", 0) > 0,
    )  # fmt: skip
    wasps = Counted(
        hovering=round(amount["wasp_hawking"]) if "wasp_hawking" in amount else None,
        going_in=round(amount["wasps_in"]) if "wasps_in" in amount else None,
    )  # fmt: skip
    for pest, counted in (("beetle", beetle), ("wasps", wasps)):
        score = score_of(pest, counted)  # type: ignore[arg-type]
        if score:
            yield pest, score  # type: ignore[misc]
    combs = sum(any(one.sign == "moth_tunnels" for one in frame.record.signs) for frame in now)
    if combs:
        yield "moth", 3 if combs > 1 else 2 if amount["moth_tunnels"] > 1 else 1
    robbing = _robbing(amount, before)
    if robbing:
        yield "robbing", robbing


def _robbing(amount: Mapping[str, float], before: Before) -> int:
    torn, fighting = amount.get("rob_ragged", 0.0), amount.get("rob_fighting", 0.0)
    if torn > MUCH_TORN_TENTHS:
        return 4
    if fighting > 1 or (torn > 0 and (fighting > 0 or before.traffic == "fighting")):
        return 3
    return 2 if torn > 0 or fighting > 0 or before.traffic == "fighting" else 0


def _finding(pest: PestId, score: int) -> VisitFinding:
    kind = pests()[pest]
    words = kind.scores[score]
    return VisitFinding(
        "pest_asks", "act" if score >= ACT_FROM else "watch",
        {
            "pest": kind.name[:1].upper() + kind.name[1:], "score": float(score), "says": words.says,
            "acts": "; ".join(words.act), "days": float(words.days[1]),
        },
    )  # fmt: skip
