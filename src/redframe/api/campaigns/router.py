"""Count weeks: opened, entered, followed, and their results out in open formats."""

from __future__ import annotations

import asyncio
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response
from fastapi.responses import JSONResponse

from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.bodies import CSV, body_of
from redframe.api.campaigns.schemas import CountWeekFields, CountWeekInput, CountWeekView, ImportReport, RemindersAsked
from redframe.outlets.count_table import cells_geojson, counts_csv, read_counts
from redframe.outlets.tables import MOST_BYTES
from redframe.store.campaigns import CountWeek, CountWeekDetails
from redframe.store.errors import NotAllowed
from redframe.work.campaigns import read as campaigns_read
from redframe.work.campaigns import record as campaigns_record
from redframe.work.campaigns.read import WeekView
from redframe.work.campaigns.results import Results
from redframe.work.members import session as members_session

router = topic("campaigns")


def _details(given: CountWeekFields) -> CountWeekDetails:
    return CountWeekDetails(**given.model_dump(exclude={"id", "keepers"}))


@router.get("/count-weeks")
async def list_count_weeks(who: Who, services: TheServices) -> list[CountWeek]:
    """All count weeks, the latest first."""
    async with services.unit_of_work(who, wide=True) as unit:
        return list(await campaigns_read.weeks(unit))


@router.post("/count-weeks", status_code=201)
async def open_count_week(given: CountWeekInput, who: Who, services: TheServices) -> CountWeek:
    """Open a count week."""
    async with services.unit_of_work(who, wide=True) as unit:
        return await campaigns_record.open_week(unit, given.id, _details(given), given.keepers)


@router.put("/count-weeks/{week_id}")
async def amend_count_week(
    week_id: UUID, given: CountWeekFields, version: Version, who: Who, services: TheServices
) -> CountWeek:
    """Amend a count week."""
    async with services.unit_of_work(who, wide=True) as unit:
        return await campaigns_record.amend_week(unit, week_id, version, _details(given), given.keepers)


@router.get("/count-weeks/{week_id}")
async def read_count_week(week_id: UUID, who: Who, services: TheServices) -> CountWeekView:
    """A count week with what its counts say, as far as the role may see it."""
    async with services.unit_of_work(who, wide=True) as unit:
        return CountWeekView.model_validate(await campaigns_read.week_view(unit, week_id))


@router.post("/count-weeks/{week_id}/import", openapi_extra=CSV)
async def import_counts(
    week_id: UUID, request: Request, who: Who, services: TheServices, take: Annotated[bool, Query()] = False
) -> ImportReport:
    """Counts from a CSV: without `take` a preview of what would be taken and what not, and why."""
    content = await body_of(request, MOST_BYTES)
    async with services.unit_of_work(who, wide=True) as unit:
        read = await asyncio.to_thread(read_counts, content, unit.zone, unit.now)
        imported = await campaigns_record.import_counts(unit, week_id, read.rows, take=take)
        rows = sorted([*imported, *read.refused], key=lambda row: row.line)
        taken = sum(row.taken for row in rows)
        return ImportReport(took=take, taken=taken, refused=len(rows) - taken, rows=list(rows))


@router.post("/count-weeks/{week_id}/reminders", status_code=202)
async def remind_keepers(week_id: UUID, who: Who, services: TheServices) -> RemindersAsked:
    """Write to the keepers who have not counted yet."""
    async with services.unit_of_work(who, wide=True) as unit:
        return RemindersAsked(keepers=await campaigns_record.ask_reminders(unit, week_id))


async def _whole(view: WeekView) -> Results:
    if view.results is None:
        raise NotAllowed("your role may not take the whole week with it")
    return view.results


def _file(name: str, kind: str) -> dict[str, str]:
    return {"Content-Disposition": f'attachment; filename="count-week-{name}.{kind}"'}


@router.get(
    "/count-weeks/{week_id}/counts.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}}
)
async def export_count_week_counts(week_id: UUID, who: Who, services: TheServices) -> Response:
    """The counts of a week as CSV, without names or places."""
    async with services.unit_of_work(who, wide=True) as unit:
        view = await campaigns_read.week_view(unit, week_id)
        text = counts_csv(await _whole(view))
    return Response(text, media_type="text/csv", headers=_file(view.week.first_on.isoformat(), "csv"))


@router.get(
    "/count-weeks/{week_id}/cells.geojson",
    response_class=Response,
    responses={200: {"content": {"application/geo+json": {}}}},
)
async def export_count_week_cells(week_id: UUID, who: Who, services: TheServices) -> JSONResponse:
    """The coarse map of a week as GeoJSON."""
    async with services.unit_of_work(who, wide=True) as unit:
        view = await campaigns_read.week_view(unit, week_id)
        found = cells_geojson(await _whole(view), view.week.name)
    headers = _file(view.week.first_on.isoformat(), "geojson")
    return JSONResponse(found, media_type="application/geo+json", headers=headers)


@router.get(
    "/count-weeks/{week_id}/report.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}}
)
async def export_count_week_report(week_id: UUID, who: Who, services: TheServices) -> Response:
    """The one-page report of a week as PDF."""
    from redframe.outlets.count_week_report import count_week_report

    async with services.unit_of_work(who, wide=True) as unit:
        view = await campaigns_read.week_view(unit, week_id)
        found = await _whole(view)
        person, _ = await members_session.me(unit)
    made = await asyncio.to_thread(count_week_report, view.week, found, person.association)
    return Response(made, media_type="application/pdf", headers=_file(view.week.first_on.isoformat(), "pdf"))
