"""One treatment for several colonies: which options come first when an apiary is treated together.

The order is that of one colony's ranking, by visible columns, with how many of the colonies may have an option put
before the rest (docs/methods/eligibility.md).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.treatments.eligibility import RISK_ORDER, VERDICT_ORDER, Choice, Suitability, Verdict


@dataclass(frozen=True, slots=True)
class OptionTogether:
    """An option for all colonies of a choice: the best verdict that any of them gets, how many may have it now
    (`ready`), the first day on which any could, and whether it is only a supporting measure."""

    option_id: str
    verdict: Verdict
    ready: int
    from_day: date | None
    is_supporting: bool


def rank_together(choices: Sequence[Choice]) -> list[OptionTogether]:
    """Every option, in the order in which it is offered. `choices`: one for each colony, at least one."""
    option_ids = list(choices[0].options)
    judged = {one: [choice.options[one] for choice in choices] for one in option_ids}
    return [_together(judged[one]) for one in sorted(option_ids, key=lambda one: _key(judged[one]))]


def _together(judged: Sequence[Suitability]) -> OptionTogether:
    days = [one.from_day for one in judged if one.from_day is not None]
    return OptionTogether(
        option_id=judged[0].option.id,
        verdict=_best(judged),
        ready=_ready(judged),
        from_day=min(days, default=None),
        is_supporting=all(one.supporting for one in judged),
    )


def _best(judged: Sequence[Suitability]) -> Verdict:
    return min((one.verdict for one in judged), key=VERDICT_ORDER.index)


def _ready(judged: Sequence[Suitability]) -> int:
    return sum(1 for one in judged if one.verdict in ("allowed", "allowed_with_cautions"))


def _key(judged: Sequence[Suitability]) -> tuple[int, int, date, int, float, int, int, str]:
    option = judged[0].option
    best = _best(judged)
    soonest = min((one.from_day for one in judged if one.from_day is not None), default=date.max)
    return (
        VERDICT_ORDER.index(best),
        -_ready(judged),
        soonest if best == "not_now" else date.min,
        0 if all(one.in_time is not False for one in judged) else 1,
        -sum(one.expected_midpoint for one in judged) / len(judged),
        RISK_ORDER.index(option.queen_loss_risk),
        option.visits,
        option.id,
    )
