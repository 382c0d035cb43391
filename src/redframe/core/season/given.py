"""A place's calendar as it comes in from outside."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import PlainValidator, WithJsonSchema

from redframe.core.season.calendar import Calendar

_SCHEMA = {
    "type": "object",
    "properties": {
        **{phase: {"type": ["string", "null"]} for phase in ("dormant", "build_up", "peak", "decline", "winter_bees")},
        "lead_days": {"type": "integer", "minimum": 0, "maximum": 120, "default": 42},
    },
}
GivenCalendar = Annotated[Any, PlainValidator(Calendar.parse), WithJsonSchema(_SCHEMA)]
"""`{dormant, build_up, peak, decline, winter_bees: "MM-DD" or null, lead_days}`, read as a Calendar."""
