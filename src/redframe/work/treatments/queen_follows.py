"""A course that cages the queen says of her that she is caged, and that she is free again when it is over."""

from __future__ import annotations

from datetime import date

from redframe.core.treatments.catalogue import Option
from redframe.store import queens
from redframe.store.treatments import Course
from redframe.work.colonies.queens import present_queen
from redframe.work.unit_of_work import UnitOfWork


async def queen_follows(
    unit: UnitOfWork, course: Course, option: Option, *, caged: bool, release_on: date | None
) -> None:  # fmt: skip
    """Bring the record of the present queen to what the course makes of her; nothing where she is neither laying nor
    caged, or where the option leaves her free."""
    if option.effect is None or option.effect.kind != "laying_break":
        return
    queen = await present_queen(unit, course.colony_id)
    wanted = "caged" if caged else "mated"
    if queen is None or queen.status not in ("mated", "caged"):
        return
    release = release_on if caged else None
    if (queen.status, queen.release_on) == (wanted, release):
        return
    await queens.amend_queen(
        unit.connection, course.colony_id, queen.version, year=queen.year, mark_seen=queen.mark_seen,
        status="caged" if caged else "mated", laying_since=queen.laying_since, release_on=release,
    )  # fmt: skip
