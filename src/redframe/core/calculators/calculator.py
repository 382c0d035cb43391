"""What an open calculator is."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, is_dataclass
from typing import Annotated, Any, Generic, TypeVar

from pydantic import BaseModel, Field

from redframe.core.inputs import read

Positive = Annotated[float, Field(strict=True, allow_inf_nan=False, gt=0, le=1e9)]
NotNegative = Annotated[float, Field(strict=True, allow_inf_nan=False, ge=0, le=1e9)]
I = TypeVar("I", bound=BaseModel)  # noqa: E741


@dataclass(frozen=True, slots=True)
class Calculator(Generic[I]):
    """One open calculation."""

    name: str
    sentence: str
    inputs: type[I]
    compute: Callable[[I], dict[str, Any]]
    example: dict[str, Any]
    method_note: str

    def __call__(self, data: Mapping[str, Any]) -> dict[str, Any]:
        """Read the input, compute, return plain values. Raises InvalidInput for the first bad field."""
        return self.compute(read(self.inputs, data))


def plain(result: Any) -> dict[str, Any]:
    """A result of the core as plain values."""
    assert is_dataclass(result) and not isinstance(result, type)
    return asdict(result)
