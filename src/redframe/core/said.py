"""What goes into a sentence of the core. Its words stand at the edge, in `wording/`, for browser and paper."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date

Param = float | date | str | Sequence[str]
"""A figure in SI units, a day, a code with words of its own, or names."""
Params = Mapping[str, Param]


def nothing() -> Params:
    """No parameters."""
    return {}
