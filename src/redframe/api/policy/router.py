"""The policy that the association judges and treats by."""

from __future__ import annotations

from uuid import UUID

from redframe.api import views
from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.policy.schemas import ApiaryPolicyInput, ApiaryPolicyView, PolicyInput, PolicyPreview, PolicyView
from redframe.work.policy import read as policy_read
from redframe.work.policy import record as policy_record

router = topic("policy")


def _draft(given: PolicyInput) -> policy_record.PolicyDraft:
    return policy_record.PolicyDraft(**{name: getattr(given, name) for name in PolicyInput.model_fields})


@router.get("/policy")
async def read_policy(who: Who, services: TheServices) -> PolicyView:
    """The policy in force and the schemes to choose from."""
    async with services.unit_of_work(who) as unit:
        return views.policy(await policy_read.policy_in_force(unit), unit.today)


@router.put("/policy")
async def replace_policy(given: PolicyInput, version: Version, who: Who, services: TheServices) -> PolicyView:
    """Put a new version of the policy in force; every counted colony is judged by it at once."""
    async with services.unit_of_work(who, wide=True) as unit:
        return views.policy(await policy_record.set_policy(unit, _draft(given), version), unit.today)


@router.post("/policy/preview")
async def preview_policy(given: PolicyInput, who: Who, services: TheServices) -> PolicyPreview:
    """What a draft would do to the colonies' levels today, and its levels through the coming year."""
    async with services.unit_of_work(who, wide=True) as unit:
        return views.policy_preview(await policy_record.preview_policy(unit, _draft(given)), unit.today)


@router.get("/apiaries/{apiary_id}/policy")
async def read_apiary_policy(apiary_id: UUID, who: Who, services: TheServices) -> ApiaryPolicyView:
    """What judges at an apiary, and what it does otherwise than its association."""
    async with services.unit_of_work(who) as unit:
        return views.apiary_policy(await policy_record.apiary_policy(unit, apiary_id), unit.today)


@router.put("/apiaries/{apiary_id}/policy")
async def replace_apiary_policy(
    apiary_id: UUID, given: ApiaryPolicyInput, version: Version, who: Who, services: TheServices
) -> ApiaryPolicyView:
    """Let an apiary do otherwise than its association, or as it again; its colonies are judged again at once."""
    async with services.unit_of_work(who, wide=True) as unit:
        draft = policy_record.ApiaryPolicyDraft(given.scheme, given.scope, given.calendar, given.levels)
        view = await policy_record.set_apiary_policy(unit, apiary_id, draft, version, given.reason)
        return views.apiary_policy(view, unit.today)
