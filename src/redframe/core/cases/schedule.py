"""The days and hours of a case: when is looked again, and how long each part took against what the law allows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Literal

from redframe.core.cases.law import LawPack
from redframe.core.cases.states import CaseAct, CaseDisease

ClockId = Literal["to_report", "to_standstill", "to_receipt", "to_result", "to_done"]


@dataclass(frozen=True, slots=True)
class DueDays:
    """From which day to which something is done."""

    first: date
    last: date


def _in_season(day: date, law: LawPack) -> date:
    """The day itself where there is brood to look at, else the first day of the next month with brood."""
    while day.month not in law.season:
        day = date(day.year + day.month // 12, day.month % 12 + 1, 1)
    return day


def reinspection_due(ordered_on: date, law: LawPack) -> DueDays:
    """When all brood of the apiary is looked at again after an order: weeks after it, and only where there is brood."""
    first, last = (ordered_on + timedelta(days=days) for days in law.reinspect_days)
    begin = _in_season(first, law)
    return DueDays(begin, max(last, begin + (last - first)))


def recheck_due(result_on: date, law: LawPack) -> DueDays:
    """When signs that the laboratory did not confirm are looked at again."""
    first, last = (result_on + timedelta(days=days) for days in law.recheck_days)
    begin = _in_season(first, law)
    return DueDays(begin, max(last, begin + (last - first)))


@dataclass(frozen=True, slots=True)
class StepTime:
    """An act of a case and its moment."""

    act: CaseAct
    at: datetime


@dataclass(frozen=True, slots=True)
class Clock:
    """How long a part of a case took, or has taken so far: hours, what is allowed, and whether that is over."""

    id: ClockId
    began: datetime
    ended: datetime | None
    hours: float
    allowed_h: float | None
    is_over: bool


_PARTS: tuple[tuple[ClockId, tuple[CaseAct, ...], tuple[CaseAct, ...]], ...] = (
    ("to_report", ("raise", "suspect_again", "reopen_suspected"), ("report", "not_supported")),
    ("to_standstill", ("report",), ("hold_official",)),
    ("to_receipt", ("sample",), ("receive",)),
    ("to_result", ("receive",), ("accept_negative", "accept_inconclusive", "accept_confirmed")),
    ("to_done", ("order",), ("order_done",)),
)


def clocks(
    steps: Sequence[StepTime], disease: CaseDisease, law: LawPack, now: datetime, deadline: date | None
) -> list[Clock]:
    """The clocks of a case that have begun, each from its last beginning."""
    found = []
    for name, begins, ends in _PARTS:
        began = max((one.at for one in steps if one.act in begins), default=None)
        if began is None:
            continue
        # An official standstill may come before the report: then nothing was waited for.
        ended = min((one.at for one in steps if one.act in ends and one.at >= began), default=None)
        if name == "to_standstill" and any(one.act in ends and one.at <= began for one in steps):
            continue
        hours = ((ended or now) - began).total_seconds() / 3600
        allowed = _allowed(name, disease, law, began, deadline)
        found.append(Clock(name, began, ended, hours, allowed, allowed is not None and hours > allowed))
    return found


def _allowed(
    clock: ClockId, disease: CaseDisease, law: LawPack, began: datetime, deadline: date | None
) -> float | None:
    if clock == "to_report":
        return law.diseases[disease].report_within_h
    if clock == "to_receipt":
        return law.receipt_within_h
    if clock == "to_result":
        return 24 * law.result_within_days
    if clock == "to_done" and deadline is not None:
        return 24 * ((deadline - began.date()).days + 1)
    return None
