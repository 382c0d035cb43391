"""Where schools of treating differ, with the side that the association's policy follows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.treatments.schools import School, schools
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class SchoolHere:
    """A question with its sides; `followed`: the side of the policy in force, None where no setting decides."""

    school: School
    followed: str | None


async def schools_here(unit: UnitOfWork) -> Sequence[SchoolHere]:
    """All questions on which schools differ."""
    policy = await policy_in_force(unit)
    return [SchoolHere(one, one.followed(policy.treatment_rules, policy.scope)) for one in schools()]
