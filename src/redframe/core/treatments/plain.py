"""Suitability as plain values, as the open calculators give it and a plan keeps it."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from redframe.core.treatments.eligibility import Choice, Suitability


def suitability_as_plain(item: Suitability) -> dict[str, Any]:
    """One judged option as plain values, in the shape of the `eligibility` calculator."""
    return {
        "name": item.option.name,
        "verdict": item.verdict,
        "from": item.from_day,
        "weather_known": item.weather_known,
        "rules": item.rules,
        "reasons": [asdict(reason) for reason in item.reasons],
        "eff": list(item.efficacy) if item.efficacy else None,
        "expected_after": list(item.expected_after) if item.expected_after else None,
        "in_time": item.in_time,
        "visits": item.option.visits,
        "queen_loss_pct": list(item.option.queen_loss_pct),
        "dose": asdict(item.dose) if item.dose else None,
        "ends_on": item.ends_on,
        "honey_clear": item.honey_clear,
        "check_label": item.option.check_label,
    }


def choice_as_plain(choice: Choice) -> dict[str, Any]:
    """All options, the ranking and the supporting measures as plain values."""
    options = {name: suitability_as_plain(item) for name, item in choice.options.items()}
    return {"options": options, "ranking": choice.ranking, "supporting": choice.supporting}
