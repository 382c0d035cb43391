"""Things by what people call them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from redframe.core.colonies.queens import COLOUR_OF_DIGIT, MarkColour
from redframe.core.colonies.states import ColonyState
from redframe.core.search.query import Kind, SearchQuery
from redframe.store.database import Connection, many


@dataclass(frozen=True, slots=True)
class SearchHit:
    """A thing that was found. `id` is that of the page to open: a queen is found with her colony. `former` are labels
    that a colony had before; a queen has her year and colour."""

    kind: Kind
    id: UUID
    title: str
    apiary_id: UUID | None
    apiary: str | None
    keeper: str
    former: str
    year: int | None
    colour: MarkColour | None
    state: ColonyState | None
    is_living: bool


async def search(connection: Connection, query: SearchQuery, most: int) -> Sequence[SearchHit]:
    """What has every word of the query, the closest first, `most` of each kind."""
    escaped = (word.replace("\\", r"\\").replace("%", r"\%").replace("_", r"\_") for word in query.words)
    return await many(
        connection,
        SearchHit,
        "search",
        whole=query.whole,
        words=list(query.words),
        patterns=[f"%{word}%" for word in escaped],
        colours=list(COLOUR_OF_DIGIT),
        most=most,
    )
