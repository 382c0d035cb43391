"""One search from anywhere."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.core.inputs import Text
from redframe.work.search import read as search_read
from redframe.work.search.read import SearchResult

router = topic("search")


@router.get("/search")
async def search(who: Who, services: TheServices, q: Annotated[Text, Query()] = "") -> SearchResult:
    """Apiaries, colonies, keepers and queens that have every word in what people call them, the closest first."""
    async with services.unit_of_work(who) as unit:
        return await search_read.search(unit, q)
