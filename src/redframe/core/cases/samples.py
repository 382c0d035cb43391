"""Samples of a case and who had them: what is taken and how, the chain of custody, its gaps."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache
from importlib.resources import files
from typing import Literal, get_args

import yaml
from pydantic import TypeAdapter

from redframe.core.cases.states import CaseDisease

SampleKind = Literal["comb", "larvae", "bees", "mites_or_beetles", "debris", "honey"]
CustodyKind = Literal["taken", "sealed", "handed_over", "received"]
KINDS: tuple[SampleKind, ...] = get_args(SampleKind)
CODE_LETTERS = "ACDEFHJKLMNPRTUVWXY3479"
"""Letters and figures that nobody mistakes for one another by hand; their number is prime, so that the check holds."""
LONGEST_HAND_H = 72
"""So long one hand may keep a sample before its chain has a gap."""


@dataclass(frozen=True, slots=True)
class SampleMethod:
    """How a sample is taken: its name, how, how much, what to mind, and for which diseases."""

    name: str
    how: str
    amount: str
    mind: str
    diseases: tuple[CaseDisease, ...]


@cache
def sample_methods() -> Mapping[SampleKind, SampleMethod]:
    """How each kind is taken. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.cases").joinpath("sample_methods.yaml").read_text(encoding="utf-8")
    return TypeAdapter(Mapping[SampleKind, SampleMethod]).validate_python(yaml.safe_load(text))


def sample_code(number: int) -> str:
    """The blind code of a sample, six signs, the last of which tells a slip of the pen; 0 <= number < 23**5.

    It names neither colony nor apiary. The weighted sum of its signs is 0 modulo a prime, as in the numbers of books:
    every single wrong sign and every exchange of two neighbours breaks it.
    """
    base = len(CODE_LETTERS)
    if not 0 <= number < base**5:
        raise ValueError("a code has five signs and its check")
    digits = [number // base**place % base for place in range(4, -1, -1)]
    return "".join(CODE_LETTERS[one] for one in (*digits, _check_digit(digits)))


WEIGHTS = (6, 5, 4, 3, 2)


def _check_digit(digits: Sequence[int]) -> int:
    return -sum(weight * digit for weight, digit in zip(WEIGHTS, digits, strict=True)) % len(CODE_LETTERS)


def code_is_whole(code: str) -> bool:
    """Whether a code that was read or typed is one that was given out so."""
    if len(code) != 6 or any(one not in CODE_LETTERS for one in code):
        return False
    digits = [CODE_LETTERS.index(one) for one in code]
    return digits[5] == _check_digit(digits[:5])


@dataclass(frozen=True, slots=True)
class CustodyLine:
    """A sample in somebody's hands: what happened, when, who had it from then on, its seal, its temperature in degrees
    Celsius, and whether the seal was whole."""

    kind: CustodyKind
    at: datetime
    by: str
    to: str
    seal: str
    temperature_c: float | None
    seal_whole: bool | None


def gaps(lines: Sequence[CustodyLine]) -> list[str]:
    """What is wrong with a chain of custody, in words; none: it is whole.

    A result on a broken chain is kept, but marked: the authority decides what it is worth.
    """
    found = []
    held_by, seal, last = "", "", None
    for line in lines:
        if last is not None and line.at < last:
            found.append(f"{_named(line)} is dated before the line above it")
        if held_by and line.by and line.by.casefold() != held_by.casefold():
            found.append(f"{_named(line)}: it was with {held_by}, not with {line.by}")
        if last is not None and line.at - last > timedelta(hours=LONGEST_HAND_H):
            found.append(f"{_named(line)}: nobody is on record for {(line.at - last).days} days before")
        if line.kind == "handed_over" and not seal:
            found.append("it was handed over without a seal")
        if line.seal and seal and line.seal != seal:
            found.append(f"the seal was {seal} and came as {line.seal}")
        if line.seal_whole is False:
            found.append("the seal was broken when it arrived")
        seal = line.seal or seal
        held_by, last = line.to or line.by or held_by, line.at
    return found


def _named(line: CustodyLine) -> str:
    return {"taken": "taking", "sealed": "sealing", "handed_over": "handing over", "received": "receipt"}[line.kind]
