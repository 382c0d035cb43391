"""One count of whatever method: checked, read, and what it may do to a level."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from redframe.core.sampling.bees import DEFAULT_SCOOP, BeesInSample, Scoop
from redframe.core.sampling.board import BoardSample, board_use, read_board
from redframe.core.sampling.drone_brood import DroneSample, read_drone_brood
from redframe.core.sampling.jar import JarSample, jar_use, read_jar_sample
from redframe.core.sampling.method import CountFinding, TreatmentSpan, Use
from redframe.core.sampling.reading import AnyReading, ThresholdBasis
from redframe.core.sampling.shakes import Removal

NO_USE = Use(enters=False, can_lower=False, can_clear=False)


@dataclass(frozen=True, slots=True)
class LookSample:
    """Bees looked at with the eye. It says nothing of the infestation; `mites_seen` is kept as a finding."""

    mites_seen: bool


AnySample = JarSample | BoardSample | DroneSample | LookSample


@dataclass(frozen=True, slots=True)
class CountResult:
    """What any count says: `reading` is None where there is none to give, `use` what it may do to a level."""

    reading: AnyReading | None
    use: Use
    bees: BeesInSample | None
    removal: Removal | None
    shake_again: bool
    findings: tuple[CountFinding, ...]


def read_count(
    sample: AnySample,
    *,
    treatments: Sequence[TreatmentSpan] = (),
    other_counts: Sequence[datetime] = (),
    dormant: bool = False,
    basis: ThresholdBasis = "corrected",
    scoop: Scoop = DEFAULT_SCOOP,
) -> CountResult:
    """Check a count and read it. `treatments` and `other_counts` (of the same method) are those of the same colony;
    `scoop` is what the association's scoop holds.

    Raises InvalidInput naming the field that cannot be.
    """
    if isinstance(sample, JarSample):
        jar = read_jar_sample(sample, treatments=treatments, other_counts=other_counts, basis=basis, scoop=scoop)
        use = NO_USE
        if jar.bees is not None:
            use = jar_use(jar.bees.mean, sample.place_of_bees, sample.method, sample.rested_s, sample.wet)
        return CountResult(jar.reading, use, jar.bees, jar.removal, jar.shake_again, jar.findings)
    if isinstance(sample, BoardSample):
        board = read_board(sample, treatments=treatments, dormant=dormant)
        use = board_use(sample, treated=board.after_treatment, dormant=dormant)
        return CountResult(board.reading, use, None, None, False, board.findings)
    if isinstance(sample, DroneSample):
        drone = read_drone_brood(sample)
        return CountResult(drone.reading, NO_USE, None, None, False, drone.findings)
    note = CountFinding("LOOKED", "note", "mites_seen", {"mites": "seen" if sample.mites_seen else "none"})
    return CountResult(None, NO_USE, None, None, False, (note,))
