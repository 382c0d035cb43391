"""The one-page report of a count week as PDF: coverage, the distribution, shares over each school's level, change,
treatments, and the coarse map."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence
from typing import Any
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Drawing, Line, Rect, String
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepInFrame, Paragraph, SimpleDocTemplate, Spacer, Table

from redframe.core.campaigns.week import CellLine
from redframe.core.status.status import Level
from redframe.outlets.visit_sheet import INK, RULE, WIDTH, page_styles
from redframe.store.campaigns import CountWeek
from redframe.wording.sentences import word, written_day
from redframe.work.campaigns.results import Results

BAR_HEIGHT = 36 * mm
MAP_WIDTH = 52 * mm
LEVEL_GROUND: dict[Level | None, colors.Color] = {
    None: colors.white,
    "unknown": colors.white,
    "clear": colors.HexColor("#f4f4f0"),
    "watch": colors.HexColor("#dededa"),
    "act": colors.HexColor("#c4c4be"),
    "urgent": colors.HexColor("#a9a9a2"),
}
"""Greys, so that the sheet says the same from a printer without colour; the word stands with it."""


def count_week_report(week: CountWeek, found: Results, association: str) -> bytes:
    """The report, A4, one page."""
    text, head, title = page_styles()
    out = io.BytesIO()
    page = SimpleDocTemplate(
        out, pagesize=A4, leftMargin=16 * mm, rightMargin=16 * mm, topMargin=14 * mm, bottomMargin=14 * mm,
        title=week.name, author="Red Frame",
    )  # fmt: skip
    cover = found.coverage
    days = f"{written_day(week.first_on)} to {written_day(week.last_on)}"
    story: list[Flowable] = [
        Paragraph(escape(week.name), title),
        Paragraph(escape(f"{association}. {days}, by {word('method', week.method)}."), text),
        Paragraph("Coverage", head),
        Paragraph(
            f"{cover.keepers_reporting} of {cover.keepers} keepers, {cover.apiaries_counted} of {cover.apiaries} "
            f"apiaries{_percent(cover.apiaries_counted, cover.apiaries)}, {cover.colonies_counted} of {cover.colonies} "
            f"colonies; bees recorded in {cover.with_bees}."
            + (" Fewer than 40 % of the keepers reported: those who did chose themselves." if cover.low else ""),
            text,
        ),
    ]
    if found.median is not None:
        phases = ", ".join(word("phase", one) for one in found.phases)
        spread = f", middle half {found.quartiles[0]:.1f} to {found.quartiles[1]:.1f}" if found.quartiles else ""
        story += [
            Paragraph("Mites per 100 bees", head),
            Paragraph(f"Median {found.median:.1f}{spread}. Phase: {phases}.", text),
            Spacer(1, 2 * mm),
            _bars(found),
        ]
    rows = [["scheme", "colonies at or over its act level", "95 % interval"]]
    for one in found.shares:
        share = one.share
        summary = f"{share.over} of {share.counted} ({100 * share.share:.0f} %)" if share else "no counts"
        rows.append([one.name, summary, f"{100 * share.low:.0f} to {100 * share.high:.0f} %" if share else ""])
    story += [Paragraph("Over the level of each school", head), _table(rows)]
    if found.change is not None:
        change = found.change
        summary = f"{change.ratio:.2f} times ({change.low:.2f} to {change.high:.2f})"
        story += [
            Paragraph("Change", head),
            Paragraph(
                escape(f"Since {found.change_since}: {summary} in {change.colonies} colonies counted both "
                       f"times and not treated between, {change.days:.0f} days apart."), text),
        ]  # fmt: skip
    if found.treatments:
        rows = [["placed", "colonies", "worked", "in part", "failed", "not yet known", "not verified yet"]]
        for tally in found.treatments:
            placed = tally.placed
            verified = (placed.worked, placed.partly, placed.failed, placed.cannot_tell, placed.not_verified)
            rows.append([tally.name, *map(str, (placed.colonies, *verified))])
        story += [Paragraph(f"Treatments since {written_day(found.treated_since)}", head), _table(rows)]
    if len(found.methods) > 1:
        summary = "; ".join(
            f"{word('method', way.method)} {way.colonies} colonies, median {_rate(way.median)}" for way in found.methods
        )
        story += [Paragraph("By method of counting", head), Paragraph(escape(summary) + ".", text)]
    rows = [["cell", "colonies counted", "over", "median", "level"]]
    for cell in [*found.cells, *([found.published_elsewhere] if found.published_elsewhere else [])]:
        counted = f"{cell.counted} of {cell.colonies}"
        rows.append([cell.id, counted, str(cell.over), _rate(cell.median), cell.level or "no counts"])
    areas = Table(
        [[_table(rows), _map(found.cells)]],
        hAlign="LEFT",
        style=[("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (0, 0), 0)],
    )
    story += [Paragraph("By area", head), areas, Spacer(1, 2 * mm)]
    story.append(
        Paragraph(
            "Colonies of one apiary are alike: intervals count them as fewer. A cell is shown only with three apiaries "
            "of three keepers. Schools are never merged. Method: count-week.",
            text,
        )
    )
    page.build([KeepInFrame(WIDTH, A4[1] - 29 * mm, story, mode="shrink")])
    return out.getvalue()


def _rate(median: float | None) -> str:
    return "-" if median is None else f"{median:.1f}"


def _percent(part: int, whole: int) -> str:
    return f" ({100 * part / whole:.0f} %)" if whole else ""


def _table(rows: list[list[str]]) -> Table:
    style: Any = [
        ("FONT", (0, 0), (-1, -1), "Vera", 9), ("FONT", (0, 0), (-1, 0), "Vera-Bold", 9),
        ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE), ("LEFTPADDING", (0, 0), (0, -1), 0),
    ]  # fmt: skip
    return Table(rows, hAlign="LEFT", style=style)


def _map(cells: Sequence[CellLine]) -> Drawing:
    """Where the cells lie to one another, north up: squares with how many are over, darker the worse."""
    drawing = Drawing(MAP_WIDTH, MAP_WIDTH if cells else 0)
    if not cells:
        return drawing
    south, north = min(cell.south for cell in cells), max(cell.north for cell in cells)
    west, east = min(cell.west for cell in cells), max(cell.east for cell in cells)
    level = math.cos(math.radians((south + north) / 2))
    scale = MAP_WIDTH / max(north - south, (east - west) * level)
    for cell in cells:
        x, y = (cell.west - west) * level * scale, MAP_WIDTH - (north - cell.south) * scale
        wide, high = (cell.east - cell.west) * level * scale, (cell.north - cell.south) * scale
        box = Rect(x, y, wide, high)
        box.fillColor, box.strokeColor, box.strokeWidth = LEVEL_GROUND[cell.level], INK, 0.6
        drawing.add(box)
        summary = f"{cell.over} of {cell.counted} over" if cell.level else "-"
        for line, said in enumerate((summary, cell.level or "no counts")):
            drawing.add(
                String(
                    x + wide / 2, y + high / 2 - 9 * line, said, textAnchor="middle", fontName="Vera", fontSize=7,
                    fillColor=INK,
                )
            )  # fmt: skip
    return drawing


def _block(x: float, wide: float, high: float, colour: Any) -> Rect:
    block = Rect(x, 9 * mm, wide, high)
    block.fillColor, block.strokeColor = colour, None
    return block


def _bars(found: Results) -> Drawing:
    """The distribution: none found apart, then bars by rate."""
    drawing = Drawing(WIDTH, BAR_HEIGHT + 10 * mm)
    most = max(1, *(bar.colonies for bar in found.distribution))
    wide = WIDTH / (len(found.distribution) + 0.5)
    for number, bar in enumerate(found.distribution):
        x = number * wide + (0 if bar.low is None else wide * 0.5)
        high = BAR_HEIGHT * bar.colonies / most
        drawing.add(_block(x, wide * 0.86, high, RULE if bar.low is None else INK))
        drawing.add(
            String(x + wide * 0.43, 10 * mm + high, str(bar.colonies), textAnchor="middle", fontName="Vera", fontSize=8)
        )
        name = "none" if bar.low is None else f"{bar.low:g}" + ("+" if bar.high is None else f"-{bar.high:g}")
        drawing.add(String(x + wide * 0.43, 4 * mm, name, textAnchor="middle", fontName="Vera", fontSize=8))
    drawing.add(Line(0, 9 * mm, WIDTH, 9 * mm, strokeColor=RULE))
    return drawing
