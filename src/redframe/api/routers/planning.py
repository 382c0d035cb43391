"""Today, and the policy that the association judges by."""

from __future__ import annotations

from fastapi import APIRouter

from redframe.api import present
from redframe.api.access import TheDesk, Who
from redframe.api.schemas.planning import WorklistView
from redframe.api.schemas.thresholds import PolicyInput, PolicyView
from redframe.work import planning, thresholds

router = APIRouter(tags=["planning"])


@router.get("/worklist")
async def worklist(who: Who, desk: TheDesk) -> WorklistView:
    """What is due, overdue, waiting for the weather or for its proof, across apiaries."""
    async with desk.work(who) as work:
        return present.worklist(await planning.worklist(work))


@router.get("/policy")
async def policy(who: Who, desk: TheDesk) -> PolicyView:
    """The policy in force and the schools to choose from."""
    async with desk.work(who) as work:
        return present.policy(await thresholds.policy_in_force(work))


@router.put("/policy")
async def set_policy(given: PolicyInput, who: Who, desk: TheDesk) -> PolicyView:
    """Put a new version of the policy in force; every colony is judged by it at once."""
    rules = given.model_dump(include={"authorised", "honey_off", "cold", "respirator_ok"})
    async with desk.work(who) as work:
        found = await thresholds.set_policy(
            work,
            school=given.school,
            threshold_basis=given.threshold_basis,
            scope=given.scope,
            calendar=given.calendar,
            treatment_rules=rules,
        )
        return present.policy(found)
