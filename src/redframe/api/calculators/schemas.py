"""The open calculators."""

from __future__ import annotations

from typing import Any

from redframe.api.base import Output


class CalculatorView(Output):
    name: str
    sentence: str
    method_note: str
    inputs: dict[str, Any]
    example: dict[str, Any]
