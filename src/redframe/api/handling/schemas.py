"""Handling of brood disease."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from pydantic import Field

from redframe.api.base import Why
from redframe.core.handling.options import HandledCondition, HandlingId
from redframe.core.inputs import Input
from redframe.work.handling.choose import WantedHandling


class HandlingInput(Input):
    """A way of handling a condition, chosen at a closed visit, why, and the combs that are followed."""

    id: UUID
    visit_id: UUID
    condition: HandledCondition
    option: HandlingId
    reason: Why
    combs: Annotated[list[UUID], Field(max_length=40)] = []

    def as_wanted(self) -> WantedHandling:
        """What is chosen."""
        return WantedHandling(self.id, self.visit_id, self.condition, self.option, self.reason, self.combs)


class EndHandling(Input):
    """Why a handling ends; `by_mistake`: it was never so and counts nowhere."""

    why: Why
    by_mistake: bool = False
