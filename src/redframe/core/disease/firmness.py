"""How firm is what is likeliest: the same findings weighed again and again with a matrix whose cells are shaken.

The cells are practitioners' estimates, right to about half a step: a cell that speaks is moved by a normal of standard
deviation 0.6 in its log odds. What is likeliest in most of the shaken runs hangs on no single estimate.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

import numpy as np

from redframe.core.disease.brood_assessment import leading
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import Findings
from redframe.core.disease.matrix import Matrix, brood_matrix
from redframe.core.disease.settings import brood_settings

RUNS = 50
STEP = 0.6
SPEAKS_FROM = 0.05
"""A cell within so much (log of its ratio to the baseline) of saying nothing is left alone."""
SEED = 20


@dataclass(frozen=True, slots=True)
class Firmness:
    """What is likeliest (`healthy` where nothing speaks), in how many of the runs it still was, and what was instead,
    the most often first."""

    leader: str
    kept: int
    runs: int
    instead: tuple[tuple[str, int], ...]


def firmness(findings: Findings, context: Context, runs: int = RUNS) -> Firmness:
    """How often what is likeliest stays so; the same for the same findings."""
    settings, matrix = brood_settings(), brood_matrix()
    first = leading(findings, context, settings, matrix)
    dice = np.random.default_rng(SEED)
    led = Counter(leading(findings, context, settings, shaken(matrix, dice)) for _ in range(runs))
    others = sorted(((one, times) for one, times in led.items() if one != first), key=lambda one: (-one[1], one[0]))
    return Firmness(first, led[first], runs, tuple(others))


def shaken(matrix: Matrix, dice: np.random.Generator) -> Matrix:
    """The matrix with each cell that speaks moved at random."""
    chances = np.clip(matrix.chances, 1e-6, 1 - 1e-6)
    speaks = np.abs(np.log(chances / matrix.baselines[:, None])) >= SPEAKS_FROM
    moved = np.log(chances / (1 - chances)) + dice.normal(0, STEP, chances.shape) * speaks
    return replace(matrix, chances=1 / (1 + np.exp(-moved)))
