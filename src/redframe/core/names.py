"""Names and labels as they are taken in, and when two of them look the same to whoever reads them on a hive."""

from __future__ import annotations

import unicodedata
from functools import cache

UNSEEN = frozenset("\u034f\u115f\u1160\u17b4\u17b5\u2800\u3164\uffa0")
"""Signs that print as nothing, though their category says otherwise."""
JOINERS = frozenset("\u200c\u200d")
"""Between letters they decide how these are written, in several languages."""


def fault_of(text: str, *, name: bool) -> str | None:
    """What is wrong with the signs of a text, in words; None where every one of them can be seen. A `name` stands on
    one line and has no joiners, which are never seen by themselves."""
    for sign in text:
        kind = unicodedata.category(sign)
        if kind in ("Cc", "Cs") and (name or sign not in "\n\t"):
            return "contains signs that cannot be printed"
        if kind in ("Zl", "Zp") or sign in UNSEEN or (kind == "Cf" and (name or sign not in JOINERS)):
            return "contains signs that cannot be seen, or that turn the writing round: type it again"
    return None


def composed(text: str) -> str:
    """The text with each letter and its marks as one sign where there is one (NFC), so that what reads the same is the
    same."""
    return unicodedata.normalize("NFC", text)


def one_line(text: str) -> str:
    """A name with single plain spaces."""
    return " ".join(composed(text).split())


def look_of(name: str) -> str:
    """What a name looks like: two that differ only in capitals, in the width of their letters, in spaces, or in letters
    of another alphabet that look the same, have one look. Figures are never taken for letters (Unicode TR 39 gives the
    letters that look alike)."""
    plain = unicodedata.normalize("NFKC", name)
    return "".join(_latin(letter) for letter in plain if not letter.isspace()).casefold()


@cache
def _latin(letter: str) -> str:
    if letter.isascii():
        return letter
    # Its tables are large: read in where a letter needs them.
    from confusable_homoglyphs import confusables

    for found in confusables.is_confusable(letter, greedy=True) or []:
        for alike in found["homoglyphs"]:
            if alike["c"].isascii() and alike["c"].isalpha():
                return str(alike["c"])
    return letter
