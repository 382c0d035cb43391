"""The policy that the association judges and treats by."""

from __future__ import annotations

from uuid import UUID

from fastapi import APIRouter

from redframe.api import views as present
from redframe.api.access import TheDesk, Version, Who
from redframe.api.policy.schemas import ApiaryPolicyInput, ApiaryPolicyView, PolicyInput, PolicyPreview, PolicyView
from redframe.work.policy import read as policy_read
from redframe.work.policy import record as policy_record

router = APIRouter(tags=["thresholds"])


def _draft(given: PolicyInput) -> policy_record.PolicyDraft:
    own = {
        "school", "threshold_basis", "scope", "calendar", "levels", "stale_after_days", "stale_after_days_dormant",
        "scoops",
    }  # fmt: skip
    return policy_record.PolicyDraft(**given.model_dump(include=own), treatment_rules=given.model_dump(exclude=own))


@router.get("/policy")
async def policy(who: Who, desk: TheDesk) -> PolicyView:
    """The policy in force and the schools to choose from."""
    async with desk.work(who) as work:
        return present.policy(await policy_read.policy_in_force(work), work.today)


@router.put("/policy")
async def set_policy(given: PolicyInput, version: Version, who: Who, desk: TheDesk) -> PolicyView:
    """Put a new version of the policy in force; every counted colony is judged by it at once."""
    async with desk.work(who) as work:
        return present.policy(await policy_record.set_policy(work, _draft(given), version), work.today)


@router.post("/policy/preview")
async def preview_policy(given: PolicyInput, who: Who, desk: TheDesk) -> PolicyPreview:
    """What a draft would do to the colonies' levels today, and its levels through the coming year."""
    async with desk.work(who) as work:
        return present.policy_preview(await policy_record.preview_policy(work, _draft(given)), work.today)


@router.get("/apiaries/{apiary_id}/policy")
async def apiary_policy(apiary_id: UUID, who: Who, desk: TheDesk) -> ApiaryPolicyView:
    """What judges at an apiary, and what it does otherwise than its association."""
    async with desk.work(who) as work:
        return present.apiary_policy(await policy_record.apiary_policy(work, apiary_id), work.today)


@router.put("/apiaries/{apiary_id}/policy")
async def set_apiary_policy(
    apiary_id: UUID, given: ApiaryPolicyInput, version: Version, who: Who, desk: TheDesk
) -> ApiaryPolicyView:
    """Let an apiary do otherwise than its association, or as it again; its colonies are judged anew at once."""
    async with desk.work(who) as work:
        draft = policy_record.ApiaryPolicyDraft(**given.model_dump(exclude={"reason"}))
        view = await policy_record.set_apiary_policy(work, apiary_id, draft, version, given.reason)
        return present.apiary_policy(view, work.today)
