"""Field types of everything that comes in from outside, and the one way of naming a bad field.

Whole numbers refuse 2.5 and true; numbers refuse what is not finite; dates are strict `YYYY-MM-DD`. Unknown
fields are refused, so that a misspelt optional field is never silently a default.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from datetime import date, datetime
from typing import Annotated, Any, TypeVar

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    StringConstraints,
    ValidationError,
    WithJsonSchema,
)

from redframe.core import names
from redframe.core.errors import InvalidInput

FIRST_YEAR, LAST_YEAR = 1900, 2200
_ISO_DATE = re.compile(r"\d{4}-\d{2}-\d{2}")


def _strict_date(value: object) -> date:
    if isinstance(value, date) and not isinstance(value, datetime):
        return _in_reach(value)
    if not isinstance(value, str) or not _ISO_DATE.fullmatch(value):
        raise ValueError("write the date as YYYY-MM-DD")
    try:
        return _in_reach(date.fromisoformat(value))
    except ValueError:
        raise ValueError(f"{value} is not a day between {FIRST_YEAR} and {LAST_YEAR}") from None


def _in_reach(day: date) -> date:
    """Days far away are slips of the finger, and arithmetic on them leaves the calendar."""
    if not FIRST_YEAR <= day.year <= LAST_YEAR:
        raise ValueError(f"the year must be {FIRST_YEAR} to {LAST_YEAR}")
    return day


IsoDate = Annotated[date, BeforeValidator(_strict_date), WithJsonSchema({"type": "string", "format": "date"})]


def _strict_moment(value: object) -> datetime:
    if isinstance(value, str) and len(value) > 10 and value[10] in "T ":
        try:
            value = datetime.fromisoformat(value)
        except ValueError:
            raise ValueError("write the moment as YYYY-MM-DDTHH:MM with its offset") from None
    if not isinstance(value, datetime) or value.tzinfo is None:
        raise ValueError("write the moment as YYYY-MM-DDTHH:MM with its offset")
    _in_reach(value.date())
    return value


Moment = Annotated[datetime, BeforeValidator(_strict_moment), WithJsonSchema({"type": "string", "format": "date-time"})]
"""A moment with its offset from universal time."""


def printable(text: str) -> str:
    """The text, if every sign of it can be seen: databases and documents take no control signs, and nobody is to read
    what is not there."""
    fault = names.fault_of(text, name=False)
    if fault is not None:
        raise ValueError(fault)
    return names.composed(text)


def named(text: str) -> str:
    """A name on one line, if every sign of it can be seen."""
    text = names.one_line(text)
    fault = names.fault_of(text, name=True)
    if fault is not None:
        raise ValueError(fault)
    return text


Text = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), AfterValidator(printable)]
Whole = Annotated[int, Field(strict=True)]
Mites = Annotated[int, Field(strict=True, ge=0, le=100_000)]
Bees = Annotated[int, Field(strict=True, ge=1, le=1_000_000)]
Number = Annotated[float, Field(strict=True, allow_inf_nan=False)]


class Input(BaseModel):
    """Base of what a rule takes: strict types, unknown fields refused, frozen once read."""

    model_config = ConfigDict(extra="forbid", frozen=True, validate_default=True)


M = TypeVar("M", bound=BaseModel)

_WORDS = {
    "missing": "is needed",
    "extra_forbidden": "is no field here",
    "int_type": "must be a whole number",
    "int_parsing": "must be a whole number",
    "int_parsing_size": "must be a whole number",
    "int_from_float": "must be a whole number",
    "float_type": "must be a number",
    "float_parsing": "must be a number",
    "finite_number": "must be a finite number",
    "bool_type": "must be true or false",
    "bool_parsing": "must be true or false",
    "string_type": "must be text",
    "string_pattern_mismatch": "is not written as it is asked for",
    "list_type": "must be a list",
    "tuple_type": "must be a list",
    "dict_type": "must be an object",
    "model_type": "must be an object",
    "model_attributes_type": "must be an object",
    "uuid_type": "is not the id of a record",
    "uuid_parsing": "is not the id of a record",
    "json_invalid": "is not written as JSON",
}
_LIMITS = {
    "greater_than": ("must be more than {gt:g}", "out_of_range"),
    "greater_than_equal": ("must be {ge:g} or more", "out_of_range"),
    "less_than": ("must be less than {lt:g}", "out_of_range"),
    "less_than_equal": ("must be {le:g} or less", "out_of_range"),
    "too_short": ("needs {min_length} entries at least", "invalid"),
    "too_long": ("may have {max_length} entries at most", "invalid"),
    "string_too_long": ("may have {max_length} characters at most", "invalid"),
    "union_tag_invalid": ("must be one of: {expected_tags}", "invalid"),
}
_MOMENTS = ("datetime", "timezone")


def _said_of(item: Mapping[str, Any]) -> tuple[str, str]:
    """What is wrong with a value, in words for the person who entered it, and its code."""
    kind, context = str(item["type"]), item.get("ctx", {})
    if kind in _WORDS:
        return _WORDS[kind], kind if kind in ("missing", "extra_forbidden") else "invalid"
    if kind in _LIMITS:
        text, code = _LIMITS[kind]
        return text.format(**context), code
    if kind == "string_too_short":
        least = context["min_length"]
        return "is needed" if least == 1 else f"needs {least} characters at least", "invalid"
    if kind.startswith(_MOMENTS):
        return "write the moment as YYYY-MM-DDTHH:MM with its offset", "invalid"
    return str(item["msg"]).removeprefix("Value error, ").replace("Input should", "must", 1), "invalid"


def path_of(location: Sequence[int | str]) -> str:
    """`('frames', 1, 'pct')` as the domain writes it: `frames[1].pct`."""
    path = ""
    for part in location:
        if isinstance(part, int):
            path += f"[{part}]"
        else:
            path += f".{part}" if path else part
    return path


def faults_of(error: ValidationError) -> list[InvalidInput]:
    """Pydantic's findings as our own, in the order of the fields."""
    return faults_of_items(error.errors(include_url=False))


def faults_of_items(items: Sequence[Mapping[str, Any]]) -> list[InvalidInput]:
    """The same from the single findings, as a framework hands them on."""
    faults = []
    for item in items:
        path = path_of([part for part in item["loc"] if not (isinstance(part, str) and "[" in part)])
        cause = item.get("ctx", {}).get("error")
        if isinstance(cause, InvalidInput):
            inner = cause.field
            whole = inner if not path or inner.startswith(path) else f"{path}.{inner}"
            faults.append(InvalidInput(whole, cause.message, code=cause.code, allowed=cause.allowed))
            continue
        text, code = _said_of(item)
        faults.append(InvalidInput(path or "body", text, code=code))
    return faults


def read(model: type[M], data: Mapping[str, Any]) -> M:
    """Read an input model; raise InvalidInput for the first bad field in the order of the model."""
    try:
        return model.model_validate(data)
    except ValidationError as error:
        raise faults_of(error)[0] from error
