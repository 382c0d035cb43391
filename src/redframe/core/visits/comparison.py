"""Two visits side by side: what brood was gained or lost where, which signs are new, gone or spread, and the queen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.record import FrameRecord

Change = Literal["new", "gone", "spread", "less", "same"]
EXTENT = {"few": 1, "some": 2, "many": 3}


@dataclass(frozen=True, slots=True)
class SignChange:
    """A sign and what became of it."""

    sign: str
    change: Change


@dataclass(frozen=True, slots=True)
class FrameChange:
    """A slot then and now, in tenths of both sides; None where it was not looked at on one of the days."""

    box: int
    slot: int
    brood: int | None
    honey: int | None
    signs: Sequence[SignChange]
    queen: Literal["here_now", "here_then", "both", "no"]


@dataclass(frozen=True, slots=True)
class QueenTrace:
    """Where she was most recently, told from the youngest brood: eggs today before eggs then, or where she was seen."""

    box: int
    slot: int
    why: Literal["seen_today", "eggs_today", "seen_last_time", "eggs_last_time"]


def compare(then: Sequence[SeenFrame], now: Sequence[SeenFrame]) -> list[FrameChange]:
    """Slot by slot over all that were looked at on either day, from the floor up.

    A box is compared with itself: where boxes have changed places in the stack, by its id.
    """
    before = {_place(frame): frame for frame in then}
    after = {_place(frame): frame for frame in now}
    shown = {**{key: frame.box for key, frame in before.items()}, **{key: frame.box for key, frame in after.items()}}
    keys = sorted(shown, key=lambda key: (shown[key], key[1]))
    return [
        _change(
            shown[key],
            key[1],
            before[key].record if key in before else None,
            after[key].record if key in after else None,
        )
        for key in keys
    ]


def _place(frame: SeenFrame) -> tuple[UUID | int, int]:
    return frame.box_id or frame.box, frame.slot


def _change(box: int, slot: int, then: FrameRecord | None, now: FrameRecord | None) -> FrameChange:
    both = then is not None and now is not None and bool(then.sides) and bool(now.sides)
    brood = honey = None
    if both and then is not None and now is not None:
        brood = now.tenths_of_brood - then.tenths_of_brood
        honey = sum(side.honey for side in now.sides) - sum(side.honey for side in then.sides)
    queen: Literal["here_now", "here_then", "both", "no"] = "no"
    if now is not None and now.queen:
        queen = "both" if then is not None and then.queen else "here_now"
    elif then is not None and then.queen:
        queen = "here_then"
    return FrameChange(box, slot, brood, honey, _signs(then, now), queen)


def _signs(then: FrameRecord | None, now: FrameRecord | None) -> list[SignChange]:
    """A sign is gone only from a frame that was looked at again."""
    before = _extents(then)
    after = _extents(now)
    looked = now is not None
    found = []
    for sign in sorted(before.keys() | after.keys()):
        if sign not in before:
            found.append(SignChange(sign, "new"))
        elif sign not in after:
            if looked:
                found.append(SignChange(sign, "gone"))
        else:
            more = after[sign] - before[sign]
            found.append(SignChange(sign, "spread" if more > 0 else "less" if more < 0 else "same"))
    return found


def _extents(record: FrameRecord | None) -> dict[str, float]:
    """How much of each sign: extents as 1 to 3, numbers as they are; the sides together at their worst."""
    seen: dict[str, float] = {}
    for one in record.signs if record is not None else ():
        size = one.number if one.number is not None else float(EXTENT.get(one.extent or "", 1))
        seen[one.sign] = max(seen.get(one.sign, 0.0), size)
    return seen


def queen_trace(then: Sequence[SeenFrame], now: Sequence[SeenFrame]) -> list[QueenTrace]:
    """Frames to look for her on, most likely first: seen today; then most eggs today; then, of frames not yet looked at
    today, where she or most eggs were last time."""
    seen = [QueenTrace(frame.box, frame.slot, "seen_today") for frame in now if frame.record.queen]
    if seen:
        return seen
    looked = {_place(frame) for frame in now}
    today = sorted(now, key=lambda frame: -_eggs(frame.record))
    found = [QueenTrace(frame.box, frame.slot, "eggs_today") for frame in today if _eggs(frame.record) > 0]
    left = [frame for frame in then if _place(frame) not in looked]
    found += [QueenTrace(frame.box, frame.slot, "seen_last_time") for frame in left if frame.record.queen]
    most_eggs = sorted(left, key=lambda frame: -_eggs(frame.record))
    found += [QueenTrace(frame.box, frame.slot, "eggs_last_time") for frame in most_eggs if _eggs(frame.record) > 0]
    return found[:4]


def _eggs(record: FrameRecord) -> float:
    return sum(side.eggs + (0.5 if side.eggs_seen and not side.eggs else 0.0) for side in record.sides)
