"""The keeper's sheet as PDF: one page a visit, with the plan as it was found, what follows, and what to do by when."""

from __future__ import annotations

import io
from collections.abc import Sequence
from datetime import date
from typing import Any
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Circle, Drawing, Line, Rect, String
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Flowable, KeepInFrame, Paragraph, SimpleDocTemplate, Spacer, Table

from redframe.core.colonies.hive_state import frame_number
from redframe.core.disease.signs import signs
from redframe.core.visits.assessment import framed_boxes
from redframe.core.visits.place import ColonyThen
from redframe.core.visits.record import After, CombSide, FrameRecord
from redframe.wording.sentences import sentence, word, written_day
from redframe.work.visits.read import VisitView

FILL = {
    "honey": colors.HexColor("#dfd3ac"),
    "nectar": colors.HexColor("#f0e6c4"),
    "pollen": colors.HexColor("#b57f22"),
    "capped": colors.HexColor("#54301c"),
    "open": colors.HexColor("#cbb29f"),
    "eggs": colors.HexColor("#efe6d6"),
    "drone": colors.HexColor("#b58a63"),
}
LEGEND = (
    "Solid: sealed brood; large dots: open brood; small dots: eggs; upright: drone brood; level lines: honey; "
    "slanting: nectar; crossed: pollen. Q: queen seen. !: a sign."
)
DOTS = {"open": (1.1, 4.4), "eggs": (0.5, 3.0)}
"""Radius of a dot of a pattern and how far apart they stand, in points."""
INK, RULE, ACT = colors.HexColor("#17201e"), colors.HexColor("#8b8b82"), colors.HexColor("#a81c18")
WIDTH = A4[0] - 32 * mm


def page_styles() -> tuple[ParagraphStyle, ParagraphStyle, ParagraphStyle]:
    """The type of every page: text, heading, title."""
    pdfmetrics.registerFont(TTFont("Vera", "Vera.ttf"))
    pdfmetrics.registerFont(TTFont("Vera-Bold", "VeraBd.ttf"))
    text = ParagraphStyle("text", fontName="Vera", fontSize=9, leading=12.5, textColor=INK)
    head = ParagraphStyle("head", text, fontName="Vera-Bold", fontSize=11, leading=14, spaceBefore=7, spaceAfter=2)
    return text, head, ParagraphStyle("title", text, fontName="Vera-Bold", fontSize=20, leading=24)


def visit_sheet(view: VisitView) -> bytes:
    """The sheet of a visit, A4, one page (set smaller where much was found)."""
    text, head, title = page_styles()
    out = io.BytesIO()
    page = SimpleDocTemplate(
        out, pagesize=A4, leftMargin=16 * mm, rightMargin=16 * mm, topMargin=14 * mm, bottomMargin=14 * mm,
        title=f"{view.place.label}, {view.visit.visited_on.isoformat()}", author="Red Frame",
    )  # fmt: skip
    story = _story(view, text, head, title)
    page.build([KeepInFrame(WIDTH, A4[1] - 29 * mm, story, mode="shrink")])
    return out.getvalue()


def _story(view: VisitView, text: ParagraphStyle, head: ParagraphStyle, title: ParagraphStyle) -> list[Flowable]:
    visit, place, assessment = view.visit, view.place, view.assessment
    before, after = visit.before, visit.after
    seen = [f"{before.air_temp_c:g} °C"] if before.air_temp_c is not None else []
    seen += [word for word in (before.wind, before.rain) if word]
    story: list[Flowable] = [
        Paragraph(escape(f"{place.label}, {place.apiary}"), title),
        Paragraph(
            escape(f"Keeper {place.keeper}. Visit of {written_day(visit.visited_on)} by "
                   f"{visit.by_name or 'the association'}" + (f"; {', '.join(seen)}" if seen else "") + "."), text),
        Spacer(1, 2 * mm),
        *(Paragraph(escape(line), text) for line in known_lines(place.known, visit.visited_on)),
        Spacer(1, 3 * mm),
    ]  # fmt: skip
    figures = _figures(view)
    if figures:
        story.append(
            Table([figures], style=[("FONT", (0, 0), (-1, -1), "Vera-Bold", 9.5), ("BOX", (0, 0), (-1, -1), 0.8, INK)])
        )
    plan = _plan(view)
    if plan is not None:
        story += [Spacer(1, 3 * mm), plan]
        story.append(Paragraph(LEGEND, text))
    story.append(Paragraph("Findings and next steps", head))
    order = {"act": 0, "watch": 1, "note": 2}
    for one in sorted(assessment.findings, key=lambda found: order[found.level]):
        strong = f'<font name="Vera-Bold" color="{"#a81c18" if one.level == "act" else "#17201e"}">'
        why = "; ".join(sentence(reason.code, reason.params) for reason in one.because)
        because = f" Because: {escape(why)}." if why else ""
        story.append(Paragraph(f"{strong}{escape(sentence(one.code, one.params))}</font>{because}", text))
    named = _signs_seen(view)
    if named:
        story.append(Paragraph(f"Signs: {escape(named)}.", text))
    if after.decided:
        story += [Paragraph("Decided, and why", head), Paragraph(escape(after.decided), text)]
    story.append(Paragraph("What to do, by when", head))
    for task in _tasks(view, after):
        story.append(Paragraph(f"[ ] {escape(task)}", text))
    if after.note:
        story += [Paragraph("Note", head), Paragraph(escape(after.note), text)]
    story += [
        Spacer(1, 4 * mm),
        Paragraph("A decision aid: labels, local law and licensed practice come first. What was not seen at this "
                  "examination is not ruled out.", text),
    ]  # fmt: skip
    return story


UNIT = {
    "mites_per_100": "mites per 100 bees", "mites_per_day": "mites a day", "percent_of_cells": "% of drone cells",
}  # fmt: skip


def known_lines(known: ColonyThen | None, day: date) -> list[str]:
    """What the sheet begins with: the level on the day with its figure, and each course with its dates."""
    if known is None:
        return []
    figure = "never counted"
    if known.rate is not None and known.counted_on is not None:
        interval = f" ({known.low:.1f} to {known.high:.1f})" if known.low is not None and known.high is not None else ""
        counted = written_day(known.counted_on)
        figure = f"{known.rate:.1f}{interval} {UNIT[known.scale or 'mites_per_100']}, counted {counted}"
    lines = [f"Level on {written_day(day)}: {word('level', known.level)}; {figure}."]
    for one in known.courses:
        ended = f"ended {written_day(one.ended_on)}" if one.ended_on else "under way"
        clear = f"; honey clear {written_day(one.honey_clear_on)}" if one.honey_clear_on else ""
        lines.append(f"{one.name}, placed {written_day(one.placed_on)}, {ended}{clear}.")
    return lines


def _figures(view: VisitView) -> list[str]:
    """Figures of the whole hive; where there are none, what the combs looked at hold."""
    estimates = view.assessment.estimates
    found = []
    if estimates.frames_of_bees is not None:
        found.append(f"{estimates.frames_of_bees:.3g} frames of bees")
    elif estimates.seams_of_bees is not None:
        found.append(f"{estimates.seams_of_bees:g} seams of bees")
    if estimates.frames_of_brood is not None:
        found.append(f"{estimates.frames_of_brood:g} frames of brood")
    if estimates.stores_kg is not None:
        found.append(f"{estimates.stores_kg.value:.1f} kg stores")
    if estimates.hive.unseen and estimates.hive.seen:
        found.append(f"{estimates.hive.seen} of {estimates.hive.hanging} combs seen")
    if view.visit.after.temper is not None:
        found.append(f"temper {view.visit.after.temper} of 10")
    return found


def _signs_seen(view: VisitView) -> str:
    known = signs()
    seen: dict[str, int] = {}
    for frame in view.records:
        for one in frame.record.signs:
            seen[one.sign] = seen.get(one.sign, 0) + 1
    return "; ".join(
        f"{known[sign].name} on {count} {'frame' if count == 1 else 'frames'}" for sign, count in seen.items()
    )


def _tasks(view: VisitView, after: After) -> list[str]:
    """What is to be done, the next visit last: never blank."""
    tasks = [sentence(one.code, one.params) for one in view.assessment.findings if one.level == "act"]
    if view.hold is not None:
        tasks.insert(0, f"On hold: {view.hold.why}. No comb leaves this hive.")
    on = after.next_visit or view.assessment.suggested.on
    why = after.next_why or (word("next_visit", view.assessment.suggested.why) if after.next_visit is None else "")
    tasks.append(f"Next visit by {written_day(on)}{f' ({why})' if why else ''}.")
    return tasks


def _plan(view: VisitView) -> Drawing | None:
    """Boxes from the floor up as they stand, each frame with its two sides; None where no frame was looked at."""
    hive = view.place.hive
    framed = framed_boxes(hive)
    if not view.records or hive is None or not framed:
        return None
    at = {(one.box_id, one.slot): one.record for one in view.records}
    row, gap = 62.0, 16.0
    drawing = Drawing(WIDTH, len(framed) * (row + gap))
    for level, box in enumerate(framed):
        bottom = level * (row + gap) + 11
        wide = WIDTH / max(10, box.frames)
        _rect(drawing, 0, bottom - 2, wide * box.frames, row + 4, line=INK, thick=1.6)
        for slot in range(1, box.frames + 1):
            left = (slot - 1) * wide
            _word(
                drawing, left + wide / 2 - 3, bottom - 11, str(frame_number(slot, box.frames, hive.hive.numbered_from))
            )
            record = at.get((box.id, slot))
            if record is not None:
                _frame(drawing, record, left + 2, bottom, wide - 4, row)
    return drawing


def _frame(drawing: Drawing, record: FrameRecord, left: float, bottom: float, wide: float, row: float) -> None:
    half = wide / 2
    for number, side in enumerate((record.a, record.b)):
        if side is not None:
            _side(drawing, side, left + number * half, bottom, half, row)
    _rect(drawing, left, bottom, wide, row, line=RULE, thick=0.6)
    _rect(drawing, left + half - 0.2, bottom, 0.4, row, fill=INK)
    marks: Sequence[tuple[bool, str, colors.Color]] = ((record.queen, "Q", INK), (bool(record.signs), "!", ACT))
    for place, (there, mark, colour) in enumerate(marks):
        if there:
            _rect(drawing, left + 2 + place * 11, bottom + row - 13, 10, 11, fill=colors.white, line=colour, thick=0.8)
            _word(drawing, left + 4 + place * 11, bottom + row - 11, mark, colour)


def _rect(
    drawing: Drawing, left: float, bottom: float, wide: float, tall: float, *,
    fill: colors.Color | None = None, line: colors.Color | None = None, thick: float = 0,
) -> None:  # fmt: skip
    style: dict[str, Any] = {"fillColor": fill, "strokeColor": line, "strokeWidth": thick}
    drawing.add(Rect(left, bottom, wide, tall, **style))


def _word(drawing: Drawing, left: float, bottom: float, word: str, colour: colors.Color = INK) -> None:
    style: dict[str, Any] = {"fontName": "Vera-Bold", "fontSize": 7.5, "fillColor": colour}
    drawing.add(String(left, bottom, word, **style))


def _side(drawing: Drawing, side: CombSide, left: float, bottom: float, wide: float, row: float) -> None:
    top = bottom + row
    for name, fill in FILL.items():
        tall = getattr(side, name) * row / 10
        if tall:
            top -= tall
            _rect(drawing, left, top, wide, tall, fill=fill)
            _pattern(drawing, name, left, top, wide, tall)


def _pattern(drawing: Drawing, cover: str, left: float, bottom: float, wide: float, tall: float) -> None:
    """The pattern of a cover, as on the screen: read without its colour, and off a copy in grey."""
    right, top = left + wide, bottom + tall
    if cover in DOTS:
        radius, step = DOTS[cover]
        for y in _steps(bottom - step / 2, top, step):
            for x in _steps(left - step / 2, right, step):
                drawing.add(Circle(x, y, radius, fillColor=INK, strokeColor=None))
    lines: list[tuple[float, float, float, float]] = []
    if cover == "honey":
        lines += [(left, y, right, y) for y in _steps(bottom, top, 2.6)]
    if cover == "drone":
        lines += [(x, bottom, x, top) for x in _steps(left, right, 2.6)]
    if cover in ("nectar", "pollen"):
        # Slanting lines, cut where they leave the cover: rising ones, and for pollen falling ones too.
        for x in _steps(left - tall, right, 3.2):
            start, end = max(left, x), min(right, x + tall)
            if start < end:
                lines.append((start, bottom + start - x, end, bottom + end - x))
                if cover == "pollen":
                    lines.append((start, top - (start - x), end, top - (end - x)))
    for line in lines:
        drawing.add(Line(*line, strokeColor=INK, strokeWidth=0.35))


def _steps(first: float, last: float, step: float) -> list[float]:
    """Places from `first` to `last`, `step` apart, neither of them included."""
    places = (first + step * number for number in range(1, int((last - first) / step) + 1))
    return [place for place in places if place < last]
