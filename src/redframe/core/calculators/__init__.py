"""The open calculators: the application's own rules for a spreadsheet, a script or another association's tool.

Each is a name, a sentence, an input model, a function and an example from the Isle of Corrane. Names and shapes are
fixed by contract; the functions call the core and add nothing.
"""

from __future__ import annotations

from typing import Any

from redframe.core.calculators.calculator import Calculator
from redframe.core.calculators.counting import COUNTING
from redframe.core.calculators.diagnosing import DIAGNOSING
from redframe.core.calculators.feeding import FEEDING
from redframe.core.calculators.treating import TREATING
from redframe.core.errors import InvalidInput

CALCULATORS: dict[str, Calculator[Any]] = {item.name: item for item in (*COUNTING, *TREATING, *FEEDING, *DIAGNOSING)}


def calculator(name: str) -> Calculator[Any]:
    """Look a calculator up; raises InvalidInput("name")."""
    found = CALCULATORS.get(name)
    if found is None:
        raise InvalidInput("name", "is not a calculator", code="unknown", allowed=", ".join(CALCULATORS))
    return found
