"""Queen marking colours by the last digit of the year in which she was mated: a convention of the craft."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Literal

from redframe.core.errors import InvalidInput

QueenState = Literal["mated", "virgin", "caged", "queenless", "unknown"]
MarkColour = Literal["white", "yellow", "red", "green", "blue"]

COLOUR_OF_DIGIT: tuple[MarkColour, ...] = ("blue", "white", "yellow", "red", "green")
"""Colour by the year's last digit modulo 5: 5 and 0 blue, 1 and 6 white, 2 and 7 yellow, 3 and 8 red, 4 and 9 green."""


def mark_colour(year: int) -> MarkColour:
    """The colour that a queen of this year is marked with. Raises InvalidInput("year") outside 1950 to 2200."""
    if not 1950 <= year <= 2200:
        raise InvalidInput("year", "is not a year of a queen", code="out_of_range", allowed="1950 to 2200")
    return COLOUR_OF_DIGIT[year % 5]


def year_on(day: date, queens: Sequence[tuple[date, date | None, int | None]]) -> int | None:
    """The year of the queen that headed a colony on a day, by what is on record of its queens (since, until, year);
    None where none did or her year is not known. On the day of a change she is the one that came."""
    present = [(since, year) for since, until, year in queens if since <= day and (until is None or day < until)]
    return max(present, key=lambda one: one[0])[1] if present else None


def mark_differs(year: int | None, seen: MarkColour | None) -> str | None:
    """A sentence when the mark seen is not the colour of the queen's year; None when it fits or is not known."""
    if year is None or seen is None:
        return None
    expected = mark_colour(year)
    if seen == expected:
        return None
    return f"Mark seen is {seen}; a queen of {year} would be {expected}. Replaced, or the wrong year?"
