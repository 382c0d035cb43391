"""What a reading shows of findings, rules and tests, of living colonies and of dead ones."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.disease.gain import NextTest
from redframe.core.disease.settings import DiseaseTest

LITTLE_BITS, LARGE_BITS = 0.2, 0.5


@dataclass(frozen=True, slots=True)
class FitTerm:
    """What a finding adds for a condition, in log odds; `seen` False for what was looked for and not seen."""

    sign: str
    name: str
    seen: bool
    log_odds: float


@dataclass(frozen=True, slots=True)
class RuleMet:
    """A safety rule that is met, what it says, and the conditions that it names."""

    id: str
    says: str
    names: Sequence[str]


@dataclass(frozen=True, slots=True)
class TestNext:
    """A test that would tell: how to do it, its minutes, how much it tells in bits, and the rule that asks for it."""

    id: str
    how: str
    minutes: float
    tells: str
    bits: float
    forced_by: str | None


def test_next(test: NextTest, words: DiseaseTest) -> TestNext:
    """A test as it is shown."""
    much = "much" if test.gain_bits > LARGE_BITS else "some" if test.gain_bits >= LITTLE_BITS else "little"
    return TestNext(test.id, words.how, test.minutes, much, test.gain_bits, test.forced_by)
