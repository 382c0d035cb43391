"""What is not known of a colony and its mites: every figure of the model with its spread over colonies.

Defaults and spreads are those of docs/methods/forecast.md, which names their sources; those without one are design
choices. A lognormal figure spreads by its log standard deviation around the default as its median.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy.special import ndtri

Draws = npt.NDArray[np.float64]
Kind = Literal["lognormal", "normal"]


@dataclass(frozen=True, slots=True)
class Figure:
    """A default with its spread (log standard deviation, or standard deviation of a normal) and hard limits."""

    default: float
    spread: float
    kind: Kind = "lognormal"
    least: float = 0.0
    most: float = np.inf


@dataclass(frozen=True, slots=True)
class Parameters:
    """One value an ensemble member, shape (members,); units as in `FIGURES`."""

    cap_max: Draws
    late_share: Draws
    drone_share: Draws
    inv_worker: Draws
    inv_drone: Draws
    inv_scale: Draws
    bee_g: Draws
    off_worker: Draws
    off_drone: Draws
    half_multi: Draws
    mother_surv: Draws
    emerge_surv: Draws
    mort_brood: Draws
    mort_nobrood: Draws
    bee_life: Draws
    bee_life_w: Draws
    harm: Draws
    nurse_bias: Draws
    reinv: Draws
    late_reinv: Draws
    season_shift: Draws
    treat_strength: Draws

    def take(self, chosen: npt.NDArray[np.intp]) -> Parameters:
        """The members with these numbers."""
        return Parameters(**{each.name: getattr(self, each.name)[chosen] for each in fields(self)})


FIGURES: dict[str, Figure] = {
    "cap_max": Figure(1150, 0.18),  # worker cells capped a day at the peak
    "late_share": Figure(0.80, 0.08, "normal", 0.3, 1.0),  # of cap_max at the start of decline
    "drone_share": Figure(0.03, 0.45),  # drone cells a worker cell capped
    "inv_worker": Figure(0.56, 0.10),  # entered a mite a day, per worker cell a gram of bees
    "inv_drone": Figure(6.49, 0.15),  # the same for drone cells
    "inv_scale": Figure(0.45, 0.20),  # share of the mites on bees that are ready to enter
    "bee_g": Figure(0.12, 0.05),  # grams a bee
    "off_worker": Figure(0.90, 0.15),  # viable daughters a foundress in worker cells
    "off_drone": Figure(1.7, 0.15),  # the same in drone cells
    "half_multi": Figure(4.0, 0.30),  # further foundresses in a cell that halve the yield of each
    "mother_surv": Figure(0.88, 0.03, "normal", 0.0, 1.0),  # foundresses alive when the cell opens
    "emerge_surv": Figure(0.80, 0.045, "normal", 0.0, 1.0),  # mites alive a day after it opened
    "mort_brood": Figure(0.006, 0.30, most=0.5),  # deaths a day of mites on bees, with brood
    "mort_nobrood": Figure(0.004, 0.30, most=0.5),  # and without
    "bee_life": Figure(28, 0.10),  # mean days of an adult in summer
    "bee_life_w": Figure(200, 0.20),  # and of a long-lived one
    "harm": Figure(1.5, 0.40),  # extra hazard of adults when every cell was infested
    "nurse_bias": Figure(1.20, 0.12),  # mites on bees of the brood nest against all bees
    "reinv": Figure(0.3, 0.90),  # mites arriving a day
    "late_reinv": Figure(1.0, 0.90),  # and in decline
    "season_shift": Figure(0.0, 7.0, "normal", -60.0, 60.0),  # days the year runs late
    "treat_strength": Figure(1.0, 0.40),  # multiplies the hazard of every treatment (the reference: 0.25)
}
"""The model's figures in the order in which they are drawn."""


def default_parameters() -> Parameters:
    """One member with every figure at its default."""
    return Parameters(**{name: np.array([float(figure.default)]) for name, figure in FIGURES.items()})


def draw_parameters(members: int, generator: np.random.Generator) -> Parameters:
    """So many members, every figure drawn by itself, in even strata so that few members cover its spread."""
    drawn = {}
    for name, figure in FIGURES.items():
        strata = (generator.permutation(members) + generator.random(members)) / members
        score = ndtri(strata)
        if figure.kind == "lognormal":
            values = figure.default * np.exp(figure.spread * score)
        else:
            values = figure.default + figure.spread * score
        drawn[name] = np.clip(values, figure.least, figure.most)
    return Parameters(**drawn)
