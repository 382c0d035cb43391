"""The register of treatments: read, and printed for an authority."""

from __future__ import annotations

import asyncio
from datetime import date
from typing import Annotated
from uuid import UUID

from fastapi import Depends, Query, Response

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.registers.schemas import RegisterView
from redframe.core.errors import InvalidInput
from redframe.core.inputs import IsoDate
from redframe.outlets.register_table import register_csv
from redframe.store.registers import Wanted
from redframe.work.members import session as members_session
from redframe.work.registers import read as registers_read

router = topic("register")


def wanted_lines(
    keeper: UUID | None = None,
    apiary: UUID | None = None,
    colony: UUID | None = None,
    option: Annotated[str | None, Query(max_length=40)] = None,
    since: Annotated[IsoDate | None, Query(description="placed on this day or later")] = None,
    until: Annotated[IsoDate | None, Query(description="placed on this day or before")] = None,
    lot: Annotated[str, Query(max_length=80, description="the lot as it is on the pack")] = "",
    incomplete: Annotated[bool, Query(description="only lines that lack something")] = False,
) -> Wanted:
    """Which lines are wanted, as the address says."""
    return Wanted(keeper, apiary, colony, option, since, until, lot.strip(), incomplete)


Lines = Annotated[Wanted, Depends(wanted_lines)]


@router.get("/register")
async def read_register(
    wanted: Lines, who: Who, services: TheServices, before: Annotated[int | None, Query(ge=1, le=2**53)] = None
) -> RegisterView:
    """Lines of the register, the latest number first, a page at a time."""
    async with services.unit_of_work(who) as unit:
        found = await registers_read.register_page(unit, wanted, before)
        return RegisterView(
            today=unit.today, count=found.count, lines=list(found.lines), next=found.next, years=found.years
        )


@router.get("/register.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
async def export_register(wanted: Lines, who: Who, services: TheServices) -> Response:
    """All entries of the lines that fit, in the order of their numbers, as CSV."""
    async with services.unit_of_work(who, wide=True) as unit:
        found = await registers_read.whole_register(unit, wanted, registers_read.MOST_EXPORTED)
        if found.next is not None:
            raise InvalidInput("since", f"more than {registers_read.MOST_EXPORTED} lines fit: narrow the days")
        today = unit.today
    text = await asyncio.to_thread(register_csv, found)
    return Response(text, media_type="text/csv", headers=_file(today, "csv"))


@router.get("/register.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
async def print_register(wanted: Lines, who: Who, services: TheServices) -> Response:
    """The register as an authority asks for it: complete lines, those that lack something, and every amendment."""
    from redframe.outlets.register_report import register_report

    async with services.unit_of_work(who, wide=True) as unit:
        found = await registers_read.whole_register(unit, wanted)
        person, _ = await members_session.me(unit)
        today = unit.today
    of_keeper = wanted.keeper_id is not None or who.keeper_id is not None
    made = await asyncio.to_thread(register_report, found, person.association, today, wanted, of_keeper=of_keeper)
    return Response(made, media_type="application/pdf", headers=_file(today, "pdf"))


def _file(day: date, kind: str) -> dict[str, str]:
    return {"Content-Disposition": f'attachment; filename="treatment-register-{day.isoformat()}.{kind}"'}
