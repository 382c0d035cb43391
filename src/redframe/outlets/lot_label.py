"""A label for a bottle or a box: what is in it, how strong and by which basis, when it is over, what it does."""

from __future__ import annotations

import io
from xml.sax.saxutils import escape

from reportlab.lib.pagesizes import A6, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepInFrame, Paragraph, SimpleDocTemplate, Spacer

from redframe.core.treatments.catalogue import default_catalogue
from redframe.outlets.visit_sheet import ACT, page_styles
from redframe.store.stock import Lot
from redframe.wording.sentences import written_day

PAGE = landscape(A6)
MARGIN = 7 * mm


def lot_label(lot: Lot) -> bytes:
    """The label of a lot, A6 across, one page."""
    text, _, title = page_styles()
    large = ParagraphStyle("large", title, fontSize=17, leading=20)
    head = ParagraphStyle("strong", text, fontName="Vera-Bold", fontSize=11, leading=14)
    warn = ParagraphStyle("warn", text, textColor=ACT, fontName="Vera-Bold")
    options = [one for one in default_catalogue().options if one.id in lot.option_ids]
    hazards = list(dict.fromkeys(one.hazards_people for one in options))
    wear = list(dict.fromkeys(item for one in options for item in one.ppe))
    until = f"Use by {written_day(lot.expires_on)}" if lot.expires_on is not None else "Use by: see the pack"
    story: list[Flowable] = [
        Paragraph(escape(lot.product), large),
        Paragraph(escape(", ".join(dict.fromkeys(one.active for one in options))), text),
        Spacer(1, 2 * mm),
        Paragraph(escape(lot.strength or "Strength: see the pack"), head),
        Paragraph(escape(f"{until}. Lot {lot.lot or 'not recorded'}. {lot.quantity:.10g} {lot.unit}."), head),
        Spacer(1, 2 * mm),
        *(Paragraph(escape(f"{one}."), warn) for one in hazards),
        Paragraph(escape(f"Wear {', '.join(wear)}."), text),
        Paragraph(
            "Keep locked, cool and dark, away from food, children and animals. Never in a drink bottle. Eyes or skin: "
            "rinse with running water for 15 minutes and get help. The label of the product comes first.", text),
    ]  # fmt: skip
    out = io.BytesIO()
    page = SimpleDocTemplate(
        out, pagesize=PAGE, leftMargin=MARGIN, rightMargin=MARGIN, topMargin=MARGIN, bottomMargin=MARGIN,
        title=lot.product, author="Red Frame", invariant=1,
    )  # fmt: skip
    page.build([KeepInFrame(PAGE[0] - 2 * MARGIN - 12, PAGE[1] - 2 * MARGIN - 12, story, mode="shrink")])
    return out.getvalue()
