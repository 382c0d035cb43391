"""The autumn programme of an apiary, and of all in a line each."""

from __future__ import annotations

from datetime import date

from redframe.api.base import Output
from redframe.work.feeding.read import ApiaryAutumn, Autumn


class AutumnView(Output):
    today: date
    autumn: Autumn


class AutumnsView(Output):
    """A page of apiaries by name; `next`: where the next one begins."""

    today: date
    apiaries: list[ApiaryAutumn]
    next: str | None
