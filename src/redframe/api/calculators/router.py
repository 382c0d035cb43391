"""The open calculators: the core's own rules, one endpoint each."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from fastapi import Depends

from redframe.api.access import calculator_guest
from redframe.api.again import topic
from redframe.api.calculators.schemas import CalculatorView
from redframe.api.turns import by_turns
from redframe.core.calculators import CALCULATORS
from redframe.core.calculators.calculator import Calculator
from redframe.wording.sentences import sentence

router = topic("calculators", prefix="/calculators", dependencies=[Depends(calculator_guest)])
BY_TURNS = [Depends(by_turns)]


@router.get("")
async def list_calculators() -> list[CalculatorView]:
    """All calculators with their input schemas, a sentence each and an example."""
    return [
        CalculatorView(
            name=item.name,
            sentence=item.sentence,
            method_note=f"docs/methods/{item.method_note}.md",
            inputs=item.inputs.model_json_schema(),
            example=item.example,
        )
        for item in CALCULATORS.values()
    ]


def _in_words(result: dict[str, Any]) -> dict[str, Any]:
    """A result whose reasons say in words (`text`) what they say as a code."""
    for option in result.get("options", {}).values():
        option["reasons"] = [{**one, "text": sentence(one["code"], one["params"])} for one in option["reasons"]]
    return result


def _endpoint(item: Calculator[Any]) -> Callable[[Any], dict[str, Any]]:
    # Not a coroutine: a forecast takes a while, and the others must not wait for it.
    def calculate(given: Any) -> dict[str, Any]:
        return _in_words(item.compute(given))

    calculate.__annotations__["given"] = item.inputs
    calculate.__doc__ = item.sentence
    calculate.__name__ = f"calculate_{item.name}"
    return calculate


for _item in CALCULATORS.values():
    router.add_api_route(
        f"/{_item.name}",
        _endpoint(_item),
        methods=["POST"],
        response_model=dict[str, Any],
        summary=_item.sentence,
        dependencies=BY_TURNS,
    )
