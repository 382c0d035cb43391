"""The policy that the association judges and treats by."""

from __future__ import annotations

from fastapi import APIRouter

from redframe.api import present
from redframe.api.access import TheDesk, Version, Who
from redframe.api.schemas.thresholds import PolicyInput, PolicyPreview, PolicyView
from redframe.work import thresholds

router = APIRouter(tags=["thresholds"])


def _draft(given: PolicyInput) -> thresholds.PolicyDraft:
    own = {"school", "threshold_basis", "scope", "calendar"}
    return thresholds.PolicyDraft(**given.model_dump(include=own), treatment_rules=given.model_dump(exclude=own))


@router.get("/policy")
async def policy(who: Who, desk: TheDesk) -> PolicyView:
    """The policy in force and the schools to choose from."""
    async with desk.work(who) as work:
        return present.policy(await thresholds.policy_in_force(work), work.today)


@router.put("/policy")
async def set_policy(given: PolicyInput, version: Version, who: Who, desk: TheDesk) -> PolicyView:
    """Put a new version of the policy in force; every counted colony is judged by it at once."""
    async with desk.work(who) as work:
        return present.policy(await thresholds.set_policy(work, _draft(given), version), work.today)


@router.post("/policy/preview")
async def preview_policy(given: PolicyInput, who: Who, desk: TheDesk) -> PolicyPreview:
    """What a draft would do to the colonies' levels today, and its levels through the coming year."""
    async with desk.work(who) as work:
        return present.policy_preview(await thresholds.preview_policy(work, _draft(given)), work.today)
