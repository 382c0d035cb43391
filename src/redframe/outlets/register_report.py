"""The register of treatments on paper, A4 across: what an authority asks for in one row a placing, under it what it
was bought as and what became of it, then every amendment, latest first. Void lines stay and are named; those that lack
something are listed apart."""

from __future__ import annotations

import io
from collections.abc import Sequence
from datetime import date
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import BaseDocTemplate, Flowable, Paragraph, SimpleDocTemplate, Spacer, Table

from redframe.core.registers.register import FieldChange, Value
from redframe.core.treatments.step_facts import COUNTED_UNITS
from redframe.outlets.visit_sheet import ACT, INK, RULE, page_styles
from redframe.store.registers import RegisterEntry, Wanted
from redframe.wording.sentences import word, written_day
from redframe.work.registers.read import LineView, RegisterView

PAGE = landscape(A4)
MARGIN = 12 * mm
TOP, HEAD_ROOM = 18 * mm, 9 * mm
"""Where the lines of a page begin, and the room above them in which later pages repeat the headings."""
FRAME_PADDING = 6
COLUMNS = (
    ("No.", 12), ("Placed", 21), ("Out of the hive", 21), ("Colony, apiary", 34), ("Treatment", 46), ("Quantity", 19),
    ("Lot, use by", 28), ("Applied by", 28), ("Withdrawal, honey clear", 30), ("Result", 34),
)  # fmt: skip
"""Heading and width in millimetres."""
WIDTHS = [wide * mm for _, wide in COLUMNS]
PLAIN: list[Any] = [
    ("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 1), ("RIGHTPADDING", (0, 0), (-1, -1), 3),
    ("TOPPADDING", (0, 0), (-1, -1), 1.2), ("BOTTOMPADDING", (0, 0), (-1, -1), 1.2),
]  # fmt: skip


def register_report(view: RegisterView, association: str, today: date, wanted: Wanted, *, of_keeper: bool) -> bytes:
    """The lines of a register, the first number first; `of_keeper`: by the numbers of a keeper's own register."""
    text, head, title = page_styles()
    small = ParagraphStyle("small", text, fontSize=7, leading=9)
    out = io.BytesIO()
    page = SimpleDocTemplate(
        out, pagesize=PAGE, leftMargin=MARGIN, rightMargin=MARGIN, topMargin=TOP, bottomMargin=14 * mm,
        title="Register of treatments", author="Red Frame", invariant=1,
    )  # fmt: skip
    story: list[Flowable] = [
        Paragraph("Register of treatments", title),
        Paragraph(escape(_heading(view, association, today, wanted)), text),
        Spacer(1, 3 * mm),
    ]
    if view.next is not None:
        story += [Paragraph("Older lines are not printed here: narrow the days and print again.", head)]
    if not view.lines:
        story += [Paragraph("No line fits.", text)]
    else:
        amendment = ParagraphStyle("amended", small, textColor=ACT)
        story += [_headings(small), *(_line(one, small, amendment, of_keeper=of_keeper) for one in view.lines)]
    lacking = [one for one in view.lines if one.line.missing and not one.line.is_void]
    if lacking:
        story += [
            Paragraph("Incomplete lines", head),
            *(Paragraph(escape(f"No. {_number(one, of_keeper)}: {_fields(one.line.missing)} not recorded."), small)
              for one in lacking),
        ]  # fmt: skip
    story += [
        Spacer(1, 3 * mm),
        Paragraph(
            escape(f"Each line is kept for {view.years} years after its last day at least. No entry is ever changed or "
                   "deleted: what is corrected is printed under its line with the old value, the new one, who, when "
                   "and why. The label of the product and local law come before what this register says."), small),
    ]  # fmt: skip

    def later(canvas: Canvas, document: BaseDocTemplate) -> None:
        _foot(canvas, document)
        headings = _headings(small)
        _, height = headings.wrapOn(canvas, PAGE[0] - 2 * MARGIN, PAGE[1])
        headings.drawOn(canvas, MARGIN + FRAME_PADDING, PAGE[1] - TOP - height + HEAD_ROOM)

    page.build(story, onFirstPage=_foot, onLaterPages=later)
    return out.getvalue()


def _heading(view: RegisterView, association: str, today: date, wanted: Wanted) -> str:
    days = ""
    if wanted.since is not None or wanted.until is not None:
        first = f" from {written_day(wanted.since)}" if wanted.since is not None else ""
        last = f" to {written_day(wanted.until)}" if wanted.until is not None else ""
        days = f" Placed{first}{last}."
    keepers = {one.line.line.keeper for one in view.lines}
    whose = f", keeper {next(iter(keepers))}" if len(keepers) == 1 else ""
    lot = f" Lot {wanted.lot}." if wanted.lot else ""
    only = " Only lines that lack something." if wanted.incomplete else ""
    count = view.count
    return (
        f"{association}{whose}. Printed {written_day(today)}.{days}{lot}{only} {count.lines} lines, {count.incomplete} "
        f"of them incomplete, {count.void} void."
    )


def _line(one: LineView, small: ParagraphStyle, amendment: ParagraphStyle, *, of_keeper: bool) -> Table:
    below: list[Flowable] = [Paragraph(escape(_bought(one)), small)]
    below += [
        Paragraph(escape(_entry(entry, of_keeper)), small if entry.kind == "added" else amendment)
        for entry in one.entries
        if entry.kind != "line"
    ]
    cells = [Paragraph(escape(cell), small) for cell in _cells(one, of_keeper)]
    style: list[Any] = [
        *PLAIN, ("SPAN", (1, 1), (-1, 1)), ("LINEBELOW", (0, 1), (-1, 1), 0.3, RULE), ("NOSPLIT", (0, 0), (-1, 1)),
    ]  # fmt: skip
    if one.line.is_void:
        style.append(("LINEABOVE", (0, 0), (0, 0), 1.2, ACT))
    return Table([cells, ["", below, *[""] * (len(COLUMNS) - 2)]], colWidths=WIDTHS, style=style, hAlign="LEFT")


def _headings(small: ParagraphStyle) -> Table:
    bold = ParagraphStyle("bold", small, fontName="Vera-Bold")
    row = [Paragraph(name, bold) for name, _ in COLUMNS]
    return Table([row], colWidths=WIDTHS, style=[*PLAIN, ("LINEBELOW", (0, 0), (-1, 0), 0.8, INK)], hAlign="LEFT")


def _cells(one: LineView, of_keeper: bool) -> list[str]:
    line = one.line.line
    number = _number(one, of_keeper) + (" VOID" if one.line.is_void else " incomplete" if one.line.missing else "")
    quantity = "not recorded" if line.quantity is None else _amount(line.quantity, line.unit)
    withdrawal = f"{line.withdrawal_days} days"
    clear = f", from {line.honey_clear_on}" if line.honey_clear_on else ", not known before it is out"
    return [
        number, line.placed_on, line.ended_on or "in the hive", f"{line.colony}, {line.apiary}",
        f"{line.option} ({line.active})", quantity, f"{line.lot or 'no lot'}, {line.expires_on or 'date not recorded'}",
        line.applied_by or "not recorded", withdrawal + clear,
        word("register_result", line.result) if line.result else "not yet verified",
    ]  # fmt: skip


def _bought(one: LineView) -> str:
    line = one.line.line
    parts = [
        f"Keeper {line.keeper}, registration {line.registration or 'not recorded'}; {line.latitude:.4f}, "
        f"{line.longitude:.4f}",
        f"For: {line.treated_for or 'not recorded'}",
        f"Product: {line.product or 'not recorded'}, {line.form}{f', {line.strength}' if line.strength else ''}",
        f"Bought: {line.supplier or 'supplier not recorded'}, {line.bought_on or 'day not recorded'}, receipt "
        f"{line.receipt or 'not recorded'}",
    ]
    optional = (
        ("Prescriber", line.prescriber), ("Honey supers", line.supers), ("Remains", line.disposal),
        ("Adverse reaction", line.adverse), ("Set aside", line.exceptions), ("Known from", line.source),
    )  # fmt: skip
    parts += [f"{name}: {value}" for name, value in optional if value]
    entered = one.line.entered_on
    if entered.isoformat() != line.placed_on:
        parts.append(f"Done {line.placed_on}, entered {entered.isoformat()}")
    parts.append(f"Kept until {one.kept_until.isoformat()} at least")
    return " ".join(_ended(part) for part in parts)


def _entry(entry: RegisterEntry, of_keeper: bool) -> str:
    number = entry.keeper_number if of_keeper else entry.number
    said = {"added": "added", "amended": "amended", "void": "VOID", "restored": "entered again", "line": ""}[entry.kind]
    changes = "; ".join(_change(one) for one in entry.changes)
    when = entry.entered_at.date().isoformat()
    parts = [f"No. {number}, {when}, {entry.by_name or 'the association'}: {said}", changes]
    return " ".join(_ended(part) for part in [*parts, f"Why: {entry.why}" if entry.why else ""] if part)


def _amount(quantity: float, unit: str) -> str:
    many = "s" if unit in COUNTED_UNITS and quantity != 1 else ""
    return f"{quantity:.10g} {unit}{many}"


def _ended(text: str) -> str:
    """A sentence with its full stop, once."""
    return text if text.endswith((".", "!", "?")) else f"{text}."


def _change(change: FieldChange) -> str:
    old = "" if change.old in (None, "") else f"{_said(change.old)} → "
    return f"{word('register_field', change.field)}: {old}{_said(change.new)}"


def _said(value: Value) -> str:
    if value in (None, ""):
        return "not recorded"
    return f"{value:.10g}" if isinstance(value, float) else str(value)


def _fields(names: Sequence[str]) -> str:
    return ", ".join(word("register_field", name) for name in names)


def _number(one: LineView, of_keeper: bool) -> str:
    return str(one.line.keeper_number if of_keeper else one.line.number)


def _foot(canvas: Canvas, document: BaseDocTemplate) -> None:
    canvas.saveState()
    canvas.setFont("Vera", 7)
    canvas.drawRightString(PAGE[0] - MARGIN, 8 * mm, f"Register of treatments, page {document.page}")
    canvas.restoreState()
