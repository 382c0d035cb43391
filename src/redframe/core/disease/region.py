"""What an association says of disease in its region: it bears on how likely each is before anything was seen."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from pydantic import field_validator

from redframe.core.cases.law import LawId
from redframe.core.disease.conditions import conditions
from redframe.core.disease.settings import Level
from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input

Commonness = Literal["much_rarer", "rarer", "commoner", "much_commoner"]
FACTOR: Mapping[Commonness, float] = {"much_rarer": 0.25, "rarer": 0.5, "commoner": 2.0, "much_commoner": 4.0}
"""By what the chance before anything was seen is multiplied; what is not said is as usual."""
BY_AUTHORITY = frozenset({"afb", "efb", "small_hive_beetle", "tropilaelaps"})
"""What is notifiable is as the authority has it, and never made rarer here."""


class DiseaseRegion(Input):
    """How common both foulbroods are, whether the small hive beetle and the exotic brood mite are established, how
    common other conditions are against what is usual, and the law that a suspicion follows."""

    afb_level: Level = "occasional"
    efb_level: Level = "occasional"
    shb_established: bool = False
    tropilaelaps_present: bool = False
    commonness: dict[str, Commonness] = {}
    law: LawId = "general"

    @field_validator("commonness")
    @classmethod
    def _known(cls, given: dict[str, Commonness]) -> dict[str, Commonness]:
        for condition in given:
            if condition not in adjustable():
                raise InvalidInput("commonness", f"{condition} is not said here", code="unknown")
        return given

    def factors(self) -> frozenset[tuple[str, float]]:
        """The conditions that are commoner or rarer than usual, each with its factor."""
        return frozenset((condition, FACTOR[word]) for condition, word in self.commonness.items())


def adjustable() -> dict[str, str]:
    """The conditions of which an association says how common they are, by id, with their names."""
    return {one: words.name for one, words in conditions().items() if one not in BY_AUTHORITY}
