"""A rule that was overridden for a course, and who answers for it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Override:
    """The rule by its id, who authorised that it is overridden, and why."""

    rule: str
    authorised_by: str
    reason: str
