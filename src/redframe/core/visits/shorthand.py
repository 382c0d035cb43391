"""One line of text for each frame, as it is spoken: read back live, with what was not understood marked.

    2.4  c7 o2 e1 b9 / c6 o3 h1 b8  egg2f  Q  !cap_sunken4  old  "rough"

A line begins with the frame's number, with the box before it from the second box on (`2.4`). Covers are a letter or
word and tenths of a side: c capped, o open, e eggs (alone: eggs seen), d drone, h honey, n nectar, p pollen, b bees.
What stands before the slash is side a, behind it side b; without a slash both sides are alike. Then, in any order:
queen cells (`cup` `egg` `larva` `sealed` `hatched` `torn` with their number, `f` for the face of the comb), `Q` for the
queen, comb words, `!` and a sign with few / some / many or a number, and a note in quotes. `same` stands for last time,
`stores` for nothing but stores.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

from redframe.core.disease.signs import signs
from redframe.core.errors import InvalidInput
from redframe.core.inputs import read
from redframe.core.visits.record import CombSide, FrameRecord

COVER_WORDS = {
    "c": "capped", "capped": "capped", "o": "open", "open": "open", "e": "eggs", "eggs": "eggs",
    "d": "drone", "drone": "drone", "h": "honey", "honey": "honey", "n": "nectar", "nectar": "nectar", "p": "pollen",
    "pollen": "pollen", "b": "bees", "bees": "bees",
}  # fmt: skip
COVER_LETTER = {
    "capped": "c",
    "open": "o",
    "eggs": "e",
    "drone": "d",
    "honey": "h",
    "nectar": "n",
    "pollen": "p",
    "bees": "b",
}
CELL_WORDS = {"cup": "cup", "cups": "cup", "egg": "egg", "larva": "larva", "larvae": "larva", "sealed": "capped",
              "hatched": "emerged", "torn": "torn"}  # fmt: skip
CELL_WORD = {"cup": "cup", "egg": "egg", "larva": "larva", "capped": "sealed", "emerged": "hatched", "torn": "torn"}
COMB_WORDS = ("new", "drawn", "old", "damaged", "foundation", "mould")
STORES_HONEY = 10
_PIECE = re.compile(r'"[^"]*"?|/|[^\s/"]+')
_HEAD = re.compile(r"\s*(?:(\d{1,2})[.])?(\d{1,2}):?(?=\s|$|/)")
_PART = re.compile(r"([a-z]+)(\d*)(f?)", re.IGNORECASE)
_SIGN = re.compile(r"!([a-z_]+?)(few|some|many|\d+(?:\.\d+)?)?$", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class NotUnderstood:
    """A stretch of the line (from, to) that could not be read, and why."""

    start: int
    end: int
    text: str
    why: str


@dataclass(frozen=True, slots=True)
class ReadLine:
    """What a line says. `same` asks for last time's record; `record` is None then, or where no frame was named.
    `printed` is the line as it would be written for this record."""

    box: int | None
    slot: int | None
    same: bool
    record: FrameRecord | None
    not_understood: list[NotUnderstood]
    printed: str = ""


class _Draft:
    """The record as it grows, piece by piece."""

    def __init__(self) -> None:
        self.sides: list[dict[str, Any]] = [{}]
        self.rest: dict[str, Any] = {"comb": [], "cells": [], "signs": [], "queen": False, "note": ""}
        self.same = False
        self.begun = False

    def side(self) -> dict[str, Any]:
        self.begun = True
        return self.sides[-1]


def read_line(text: str) -> ReadLine:
    """Read a line of shorthand. Never raises: what cannot be read is told with its place in the line."""
    head = _HEAD.match(text)
    if head is None:
        shown = text.strip()
        why = "begin with the frame's number"
        return ReadLine(None, None, False, None, [NotUnderstood(0, len(text), shown, why)] if shown else [])
    box, slot = int(head[1] or 1), int(head[2])
    draft, wrong = _Draft(), []
    pieces = list(_PIECE.finditer(text, head.end()))
    at = 0
    while at < len(pieces):
        piece = pieces[at]
        following = pieces[at + 1][0] if at + 1 < len(pieces) else ""
        used, why = _take(draft, piece[0], following)
        if why:
            wrong.append(NotUnderstood(piece.start(), piece.end(), piece[0], why))
        at += used
    try:
        record = None if draft.same else read(FrameRecord, _as_record(draft))
    except InvalidInput as error:
        wrong.append(NotUnderstood(head.end(), len(text), text[head.end() :].strip(), error.message))
        record = None
    return ReadLine(box, slot, draft.same, record, wrong)


def _as_record(draft: _Draft) -> dict[str, Any]:
    if not draft.begun and len(draft.sides) == 1:
        return {**draft.rest, "a": None, "b": None}
    a = draft.sides[0]
    b = draft.sides[1] if len(draft.sides) > 1 else a
    return {**draft.rest, "a": a, "b": b}


def _take(draft: _Draft, piece: str, following: str) -> tuple[int, str]:
    """Take a piece with the number that follows it; how many were used, and why where it was not understood."""
    word = piece.lower()
    if piece == "/":
        if len(draft.sides) == 2:
            return 1, "a frame has two sides"
        draft.begun = True
        draft.sides.append({})
        return 1, ""
    if piece.startswith('"'):
        draft.rest["note"] = piece.strip('"').strip()
        return 1, ""
    if word == "same":
        draft.same = True
        return 1, ""
    if word == "stores":
        draft.side()["honey"] = STORES_HONEY
        return 1, ""
    if piece == "Q" or word == "queen":
        draft.rest["queen"] = True
        return 1, ""
    if word in COMB_WORDS:
        if word not in draft.rest["comb"]:
            draft.rest["comb"].append(word)
        return 1, ""
    if word.startswith("!"):
        return 1, _take_sign(draft, word)
    part = _PART.fullmatch(word)
    if part is None:
        return 1, "not a word of the shorthand"
    name, digits, face = part[1], part[2], part[3]
    if name not in COVER_WORDS and name not in CELL_WORDS and name.endswith("f") and name[:-1] in CELL_WORDS:
        name, face = name[:-1], "f"
    used = 1
    if not digits and following.isdigit():
        digits, used = following, 2
    if name in CELL_WORDS:
        number = int(digits or 1)
        if not 1 <= number <= 200:
            return used, "1 to 200 cells"
        draft.rest["cells"].append({"content": CELL_WORDS[name], "place": "face" if face else "edge", "number": number})
        return used, ""
    if name in COVER_WORDS and not face:
        return used, _take_cover(draft, COVER_WORDS[name], digits)
    return used, "not a word of the shorthand"


def _take_cover(draft: _Draft, name: str, digits: str) -> str:
    most = 15 if name == "bees" else 10
    if not digits:
        if name == "eggs":
            draft.side()["eggs_seen"] = True
            return ""
        return "how many tenths?"
    if int(digits) > most:
        return f"0 to {most} tenths"
    draft.side()[name] = int(digits)
    return ""


def _take_sign(draft: _Draft, word: str) -> str:
    match = _SIGN.fullmatch(word)
    known = signs()
    if match is None:
        return "! and a sign"
    name, size = match[1].rstrip("_"), match[2]
    if name not in known or not known[name].on_frame:
        return "no sign of the comb has this name"
    seen: dict[str, Any] = {"sign": name}
    if size in ("few", "some", "many"):
        seen["extent"] = size
    elif size:
        seen["number"] = float(size)
    draft.rest["signs"].append(seen)
    return ""


def print_line(box: int, slot: int, record: FrameRecord) -> str:
    """A record as its line. Reading it back gives the same record, but for the side of a sign."""
    parts = [f"{box}.{slot}" if box > 1 else str(slot)]
    if record.a is not None or record.b is not None:
        a = _side(record.a or CombSide())
        b = _side(record.b or CombSide())
        parts += [a] if a == b else [a, "/", b]
        if a == b == "":
            parts.append("/")
    parts += [f"{CELL_WORD[cell.content]}{cell.number}{'f' if cell.place == 'face' else ''}" for cell in record.cells]
    if record.queen:
        parts.append("Q")
    for one in record.signs:
        size = one.extent or (f"{one.number:g}" if one.number is not None else "")
        parts.append(f"!{one.sign}{size}")
    parts += list(record.comb)
    if record.note:
        said = " ".join(record.note.replace('"', "'").split())
        parts.append(f'"{said}"')
    return " ".join(part for part in parts if part)


def _side(side: CombSide) -> str:
    said = [f"{COVER_LETTER[name]}{getattr(side, name)}" for name in COVER_LETTER if getattr(side, name)]
    if side.bees == 0:
        said.append("b0")
    if side.eggs_seen:
        said.append("e")
    return " ".join(said)
