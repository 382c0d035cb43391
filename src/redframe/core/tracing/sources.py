"""Common sources: places that lie on the backward traces of several cases."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from redframe.core.tracing.traces import Path, Reached


@dataclass(frozen=True, slots=True)
class CommonSource:
    """A place with the riskiest path from it to each case that it may have reached; `score`: the sum of their risks."""

    place: str
    paths: Mapping[str, Path]

    @property
    def score(self) -> float:
        """Cases reached, each by its risk."""
        return sum(path.risk for path in self.paths.values())


def common_sources(
    traced: Mapping[str, Sequence[Reached]], colony_of: Mapping[str, str], *, least: int = 2
) -> list[CommonSource]:
    """The places on the backward traces of at least two cases, the most cases and the highest risks first.

    `traced`: the backward trace of each case; `colony_of`: its colony, which is a source of the other cases where it
    lies on their traces.
    """
    found: dict[str, dict[str, Path]] = defaultdict(dict)
    for case, reached in traced.items():
        for one in reached:
            if one.colony != colony_of[case]:
                found[one.colony][case] = one.best
    common = [CommonSource(place, paths) for place, paths in found.items() if len(paths) >= least]
    return sorted(common, key=lambda one: (-len(one.paths), -one.score, one.place))
