"""Sentences of the core in words, as paper and records take them: metric, days written out.

A place in a sentence is `{name}` (a figure to one decimal at most, names in a row) or `{name:kind}`. Kinds are `date`,
`temperature` (°C), `weight` (kg), `exact`, `tenth`, `whole`, `percent` (of a share), `Names` (with a capital), `places`
("box/frame"), `comb|combs` (a number with its noun), or a table of `words`. The browser reads the same file in the
person's units (`web/src/wording/sentences.ts`).
"""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from datetime import date
from functools import cache
from importlib.resources import files

from redframe.core.said import Param, Params

TOPICS = (
    "visits",
    "counts",
    "treatments",
    "steps",
    "lateness",
    "days",
    "turns",
    "registers",
    "brood",
    "failure",
    "autumn",
    "deadouts",
)
"""What the sentences speak of; a code stands in one of them."""
PLACE = re.compile(r"\{(\w+)(?::([^}]+))?\}")


@cache
def _file() -> Mapping[str, Mapping[str, object]]:
    text = files("redframe.wording").joinpath("sentences.json").read_text(encoding="utf-8")
    loaded: Mapping[str, Mapping[str, object]] = json.loads(text)
    return loaded


@cache
def _sentences() -> dict[str, str]:
    return {code: str(text) for topic in TOPICS for code, text in _file()[topic].items()}


def sentence(code: str, params: Params) -> str:
    """The sentence of a code with what goes into it. Raises KeyError for a code or a parameter without words."""
    return PLACE.sub(lambda place: _shown(params[place[1]], place[2]), _sentences()[code])


def word(table: str, code: str) -> str:
    """The word of a code in one of the tables. Raises KeyError."""
    words = _file()["words"][table]
    assert isinstance(words, dict)
    return str(words[code])


def written_day(day: date) -> str:
    """ "2 August 2031"."""
    return f"{day.day} {day:%B} {day.year}"


def _shown(value: Param, kind: str | None) -> str:
    match value:
        case date():
            return written_day(value)
        case bool() | str():
            return word(kind, str(value)) if kind is not None else str(value)
        case int() | float():
            return _figure(value, kind)
    if kind == "places":
        return ", ".join("box {} frame {}".format(*one.split("/")) for one in value)
    named = ", ".join(value)
    return named[:1].upper() + named[1:] if kind == "Names" else named


def _figure(value: float, kind: str | None) -> str:
    match kind:
        case None:
            return _tenth(value)
        case "temperature":
            return f"{_tenth(value)} °C"
        case "weight":
            return f"{_tenth(value)} kg"
        case "exact":
            return f"{value:.10g}"
        case "tenth":
            return f"{value:.1f}"
        case "whole":
            return f"{value:.0f}"
        case "percent":
            return f"{value:.0%}"
    if "|" in kind:
        one, many = kind.split("|")
        return f"{_tenth(value)} {one if value == 1 else many}"
    return word(kind, str(value))


def _tenth(value: float) -> str:
    """To one decimal, without a trailing nought."""
    return f"{round(value, 1):.10g}"
