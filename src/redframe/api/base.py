"""What all schemas share: the two bases, printable text, ranges; and what is asked of long lists."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import Query
from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints

from redframe.core.inputs import Text, named, printable

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120), AfterValidator(named)]
Word = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), AfterValidator(named)]
Note = Text
Label = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=24), AfterValidator(named)]
Why = Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=400), AfterValidator(printable)]
Reason = Annotated[str, StringConstraints(strip_whitespace=True, max_length=400), AfterValidator(printable)]
BeesKnown = Literal["counted", "photo", "volume_level", "volume_heaped", "mass_dry", "mass_wet", "not_recorded"]
Frames = Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)]

FindPlace = Annotated[str, Query(max_length=120, description="letters of an apiary's or a keeper's name")]
PageAfter = Annotated[str | None, Query(max_length=600, description="`next` of the page before")]


class Output(BaseModel):
    """Base of what goes out."""

    model_config = ConfigDict(from_attributes=True)


class Span(Output):
    """A range, low to high."""

    low: float
    high: float


def _as_span(value: object) -> object:
    return {"low": value[0], "high": value[1]} if isinstance(value, (tuple, list)) else value


SpanOf = Annotated[Span, BeforeValidator(_as_span)]
