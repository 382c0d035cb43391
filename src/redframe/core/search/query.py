"""What somebody types to find a thing, taken apart into the words that the thing must have."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from redframe.core.errors import InvalidInput

Kind = Literal["apiary", "colony", "keeper", "queen"]

LONGEST = 80
MOST_WORDS = 8


@dataclass(frozen=True, slots=True)
class SearchQuery:
    """The whole of what was typed, in lower case with single spaces, and its words.

    A thing is found when it has every word somewhere in what people call it: a colony by its label, its former labels,
    its apiary and its keeper, so that "kettle k3" and "tobias k3" are the same colony.
    """

    whole: str
    words: tuple[str, ...]


def parse(typed: str) -> SearchQuery | None:
    """What to look for; None where nothing was typed. Raises InvalidInput("q") for more than 80 letters or 8 words."""
    whole = " ".join(typed.casefold().replace(",", " ").split())
    if len(whole) > LONGEST:
        raise InvalidInput("q", "is longer than any name here", code="too_long", allowed=f"{LONGEST} letters")
    words = tuple(dict.fromkeys(whole.split()))
    if len(words) > MOST_WORDS:
        raise InvalidInput("q", "has more words than any name here", code="too_many", allowed=f"{MOST_WORDS} words")
    return SearchQuery(whole, words) if words else None
