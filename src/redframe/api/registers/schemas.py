"""The register of treatments."""

from __future__ import annotations

from datetime import date

from redframe.api.base import Output
from redframe.store.registers import RegisterCount
from redframe.work.registers.read import LineView


class RegisterView(Output):
    """Lines with the entries that made them what they are, latest first; `years`: so long each is kept."""

    today: date
    count: RegisterCount
    lines: list[LineView]
    next: int | None
    years: int
