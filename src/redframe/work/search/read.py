"""One search from anywhere."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.search.query import parse
from redframe.store import search as store
from redframe.store.search import SearchHit
from redframe.work.unit_of_work import UnitOfWork

MOST_OF_A_KIND = 8


@dataclass(frozen=True, slots=True)
class SearchResult:
    """What was found for the words typed, the closest first; `more`: there is more of a kind than is shown."""

    hits: Sequence[SearchHit]
    more: bool


async def search(unit: UnitOfWork, typed: str) -> SearchResult:
    """Everything that the person may see and that has all of these words in what people call it."""
    query = parse(typed)
    if query is None:
        return SearchResult([], more=False)
    found = await store.search(unit.connection, query, MOST_OF_A_KIND + 1)
    shown, kinds = [], dict.fromkeys((hit.kind for hit in found), 0)
    for hit in found:
        kinds[hit.kind] += 1
        if kinds[hit.kind] <= MOST_OF_A_KIND:
            shown.append(hit)
    return SearchResult(shown, more=len(shown) < len(found))
