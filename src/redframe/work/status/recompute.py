"""The dated levels of colonies, computed again after anything that bears on them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from uuid import UUID

from redframe.store import status
from redframe.store.status import Outlook
from redframe.work.policy.read import PolicyInForce, policies_of
from redframe.work.status.many import outlooks_of_many, read_jars_again
from redframe.work.status.outlooks import Judging, judging, outlooks_by, outlooks_of
from redframe.work.unit_of_work import UnitOfWork

FEW_COLONIES = 20


async def recompute_status(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> None:
    """Recompute status and outlook of colonies from their counts and courses.

    The policy is read once they are held: one that came into force while this waited is the one that judges.
    """
    await status.lock_colonies(unit.connection, colony_ids)
    await _replace(unit, await policies_of(unit, colony_ids))


async def recompute_colony(unit: UnitOfWork, colony_id: UUID, policy: PolicyInForce) -> Judging:
    """The same of one colony that is held already, under a policy that was read since; what it was judged by."""
    by = await judging(unit, [colony_id])
    found = outlooks_by({colony_id: policy}, by, unit.zone)
    await status.replace_outlooks(unit.connection, found, policy.version)
    return by


async def recompute_association(unit: UnitOfWork, *, read_again: bool) -> None:
    """Recompute status and outlook of every counted colony; `read_again`: the counts read otherwise than before."""
    await status.lock_association(unit.connection)
    ids = [colony.id for colony in await status.counted_colonies(unit.connection)]
    policies = await policies_of(unit, ids)
    if read_again and policies:
        await read_jars_again(unit, policies, keep=True)
    await _replace(unit, policies)


async def _replace(unit: UnitOfWork, policies: Mapping[UUID, PolicyInForce]) -> None:
    found: list[Outlook] = await (outlooks_of if len(policies) <= FEW_COLONIES else outlooks_of_many)(unit, policies)
    version = next(iter(policies.values())).version if policies else 0
    await status.replace_outlooks(unit.connection, found, version)
