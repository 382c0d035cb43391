"""Papers of a suspect case: the keeper's sheet, the notice to the authority, the blind label of a sample."""

from __future__ import annotations

import io
from collections.abc import Sequence
from datetime import date, datetime
from xml.sax.saxutils import escape

from reportlab.lib.pagesizes import A4, A7, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepInFrame, Paragraph, SimpleDocTemplate, Spacer

from redframe.core.cases.case_words import case_words
from redframe.core.cases.samples import sample_methods
from redframe.outlets.visit_sheet import ACT, page_styles
from redframe.store.cases import SampleRow
from redframe.wording.sentences import written_day
from redframe.work.cases.read import CaseView

MARGIN = 16 * mm
TO_BE_SHOWN = (
    "Hives and combs destroyed", "Depth of the pit in centimetres", "Boxes, floors and roofs scorched",
    "Tools and clothes", "Photographs", "Witness",
)  # fmt: skip


def _page(story: Sequence[Flowable], title: str, size: tuple[float, float] = A4, margin: float = MARGIN) -> bytes:
    out = io.BytesIO()
    page = SimpleDocTemplate(
        out, pagesize=size, leftMargin=margin, rightMargin=margin, topMargin=margin, bottomMargin=margin, title=title,
        author="Red Frame", invariant=1,
    )  # fmt: skip
    inside = (size[0] - 2 * margin - 12, size[1] - 2 * margin - 12)
    page.build([KeepInFrame(*inside, list(story), mode="shrink")])
    return out.getvalue()


def keeper_sheet(view: CaseView) -> bytes:
    """What the keeper does now and what not, A4: of this apiary alone, nobody else is named."""
    text, head, title = page_styles()
    warn = ParagraphStyle("warn", text, textColor=ACT, fontName="Vera-Bold", fontSize=11, leading=15)
    case, words = view.line.case, case_words()
    stands = words.holds[case.hold]
    ask = f"Ask {view.law.authority}" + (f", {view.law.telephone}" if view.law.telephone else "")

    def listed(name: str, lines: Sequence[str]) -> list[Flowable]:
        return [Paragraph(name, head), *(Paragraph(escape(f"–  {one}"), text) for one in lines)]

    story: list[Flowable] = [
        Paragraph(escape(case.apiary), title),
        Paragraph(escape(f"Case {case.number}: {words.diseases[case.disease]} {words.states[view.line.state].name}, "
                         f"colony {case.label}. Found on {written_day(case.found_on)}."), text),
        Spacer(1, 3 * mm),
        Paragraph(escape(f"{stands.capitalize()}" + (f", {case.hold_reference}" if case.hold_reference else "")), warn),
        *listed("Now", words.keeper.now),
        *listed("Not now", words.keeper.never),
        *listed("What else holds", words.keeper.rules),
        Spacer(1, 4 * mm),
        Paragraph(escape(f"{ask}. Local law and what the authority orders come before this sheet."), text),
    ]  # fmt: skip
    return _page(story, f"Case {case.number}")


def authority_notice(view: CaseView) -> bytes:
    """The notice to the authority, A4: what was found, where and when, by whom, what was done, who has which sample."""
    text, head, title = page_styles()
    case, words = view.line.case, case_words()
    story: list[Flowable] = [
        Paragraph(escape(f"Notice of a suspicion: {words.diseases[case.disease]}"), title),
        Paragraph(escape(f"To {view.law.authority}. Case {case.number} of {written_day(case.found_on)}."), text),
        Paragraph("Where", head),
        Paragraph(escape(f"Apiary {case.apiary}, keeper {case.keeper}, colony {case.label}; {view.living} living "
                         "colonies at the apiary."), text),
        Paragraph("On what it rests", head),
        *(Paragraph(escape(f"{one.id}: {one.says}"), text) for one in view.rules),
        Paragraph("What was done", head),
        *(Paragraph(escape(_step_line(view, number)), text) for number in range(len(view.steps))),
        Paragraph("Samples", head),
        *(Paragraph(escape(f"{one.sample.code}: {sample_methods()[one.sample.kind].name}, colony {one.sample.label}"
                           + (f"; {'; '.join(one.gaps)}" if one.gaps else "")), text) for one in view.samples),
    ]  # fmt: skip
    if not view.samples:
        story.append(Paragraph("None so far.", text))
    story += [Spacer(1, 10 * mm), Paragraph("Signed, with name and date: ______________________________", text)]
    return _page(story, f"Case {case.number}, notice")


def neighbours_sheet(view: CaseView) -> bytes:
    """What keepers around are told, A4: the disease and what to do; no keeper, apiary, colony or place is named."""
    text, head, title = page_styles()
    words = case_words()
    ask = f"Ask {view.law.authority}" + (f", {view.law.telephone}" if view.law.telephone else "")
    lists = (
        ("Now", words.neighbours.now),
        ("Not now", words.neighbours.never),
        ("What else holds", words.neighbours.rules),
    )
    story: list[Flowable] = [
        Paragraph(escape(f"{words.diseases[view.line.case.disease]} near you"), title),
        Paragraph("A case near you is being looked into. Your bees may have met it.", text),
    ]
    for name, lines in lists:
        story += [Paragraph(name, head), *(Paragraph(escape(f"–  {one}"), text) for one in lines)]
    story += [
        Spacer(1, 4 * mm),
        Paragraph(escape(f"{ask}. Local law and what the authority orders come before this sheet."), text),
    ]
    return _page(story, "To the keepers around")


def order_sheet(view: CaseView) -> bytes:
    """The last order as it was recorded, A4, with room for what is to be shown of it; says so where there is none."""
    text, head, title = page_styles()
    case, words = view.line.case, case_words()
    where = (
        f"Case {case.number}: {words.diseases[case.disease]}, {case.apiary}, colony {case.label}, keeper {case.keeper}."
    )
    step = next((one for one in reversed(view.steps) if one.act == "order"), None)
    if step is None:
        return _page([Paragraph("No order is on record", title), Paragraph(escape(where), text)], f"Case {case.number}")
    said = step.evidence
    option = words.fields["option"].choices.get(str(said.get("option")), "")
    ordered = [option, str(said.get("text", ""))]
    if said.get("deadline"):
        ordered.append(f"To be done by {written_day(date.fromisoformat(str(said['deadline'])))}.")
    by = f"Recorded {written_day(step.happened_on)}; decided by {said.get('ordered_by', '')}."
    story: list[Flowable] = [
        Paragraph(escape(f"Order {said.get('reference', '')}"), title),
        Paragraph(escape(f"{where} {by}"), text),
        Paragraph("What is ordered", head),
        *(Paragraph(escape(one), text) for one in ordered if one),
        Paragraph("What is to be shown", head),
        *(Paragraph(escape(f"–  {one}: ______________________________"), text) for one in TO_BE_SHOWN),
        Spacer(1, 8 * mm),
        Paragraph("This is a copy of the record. The order of the authority in its own words comes before it.", text),
        Spacer(1, 10 * mm),
        Paragraph("Done, with name and date: ______________________________", text),
    ]
    return _page(story, f"Case {case.number}, order")


def _step_line(view: CaseView, number: int) -> str:
    step = view.steps[number]
    said = [case_words().acts[step.act].done]
    for field in ("reference", "ordered_by", "text"):
        if step.evidence.get(field):
            said.append(str(step.evidence[field]))
    who = step.by_name or step.actor
    return f"{step.seq}. {written_day(step.happened_on)}, {who}: {'; '.join(said)}"


def sample_label(sample: SampleRow, taken_at: datetime) -> bytes:
    """A blind label, A7 across: the code, what it is, when it was taken; neither colony nor apiary nor keeper."""
    text, _, title = page_styles()
    large = ParagraphStyle("code", title, fontSize=34, leading=40)
    method = sample_methods()[sample.kind]
    story: list[Flowable] = [
        Paragraph(escape(f"{sample.code[:3]} {sample.code[3:]}"), large),
        Paragraph(escape(method.name.capitalize()), ParagraphStyle("kind", text, fontName="Vera-Bold", fontSize=12,
                                                                   leading=15)),
        Paragraph(escape(f"Taken {written_day(taken_at.date())}, {taken_at:%H:%M}"), text),
        Paragraph(escape(method.mind), text),
    ]  # fmt: skip
    return _page(story, f"Sample {sample.code}", landscape(A7), 6 * mm)
