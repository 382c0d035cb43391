"""What honey supers and feed say against an option: before it is chosen, before a dose, and while it is in the hive."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date

from redframe.core.colonies.condition import Condition, Known
from redframe.core.said import Params
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.reasons import Reason, ReasonCode


def supers_and_feed(
    option: Option, supers_on: bool | None, fed: bool | None, *, supers_off_by: date | None, fed_until: date | None
) -> Iterator[Reason]:
    """Rules T50 to T52 for an option that is to be placed; None for what is not known."""
    if option.supers == "no":
        if supers_on:
            yield Reason("T50", "not_now", "L", {"supers_on": True, "limit": False}, "supers_on", until=supers_off_by)
        elif supers_on is None:
            yield Reason("T50", "caution", "L", {"supers_on": None, "limit": False}, "supers_unknown")
    if option.supers == "label" and supers_on is not False:
        code: ReasonCode = "supers_by_label" if supers_on else "supers_unknown_by_label"
        yield Reason("T51", "caution", "L", {"supers_on": supers_on}, code)
    if not option.feeding_during:
        if fed:
            yield Reason("T52", "not_now", "E", {"fed": True, "limit": False}, "fed", until=fed_until)
        elif fed is None:
            yield Reason("T52", "caution", "E", {"fed": None, "limit": False}, "fed_unknown")


def against_course(option: Option, now: Condition, *, is_placed: bool, dose_to_come: bool) -> list[Reason]:
    """What the hive says against a course that is planned or under way. While nothing of it is placed, and before each
    dose, what is not known is asked; of what is in the hive only what was seen counts."""
    supers, fed = _value(now.supers), _value(now.fed)
    found = list(supers_and_feed(option, supers, fed, supers_off_by=None, fed_until=None))
    if not dose_to_come:
        found = [one for one in found if one.code not in ("supers_unknown", "supers_unknown_by_label", "fed_unknown")]
    if not is_placed:
        return found
    return [_in_course(one, now) for one in found]


def _value(known: Known | None) -> bool | None:
    return known.value if known is not None else None


def _in_course(reason: Reason, now: Condition) -> Reason:
    """The same of what is in the hive already: since when, and what to do."""
    known, code = {
        "supers_on": (now.supers, "supers_in_course"), "supers_by_label": (now.supers, "supers_in_course_by_label"),
        "fed": (now.fed, "feed_in_course"),
    }.get(reason.code, (None, None))  # fmt: skip
    if known is None or code is None:
        return reason
    params: Params = {"since": known.on}
    return Reason(reason.rule, reason.level, reason.source, reason.compared, code, params)  # type: ignore[arg-type]
