"""What a visit found, and the context in which it is weighed, taken from its view."""

from __future__ import annotations

from dataclasses import dataclass, replace

from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import Findings
from redframe.core.disease.region import DiseaseRegion
from redframe.core.visits.disease_reading import count_over, with_examination
from redframe.core.visits.evidence import findings_of_visit, season_of_phase
from redframe.work.visits.read import VisitView, seen_frames


@dataclass(frozen=True, slots=True)
class Found:
    """The findings of a visit and the context in which they are weighed."""

    findings: Findings
    context: Context


def found_at(view: VisitView, region: DiseaseRegion | None = None) -> Found:
    """What a visit found; `region`: as if the association had said so of its region then."""
    visit, place = view.visit, view.place
    level = place.known.level if place.known is not None else "unknown"
    findings = findings_of_visit(
        visit.before, visit.after, seen_frames(place.hive, view.records), on=visit.visited_on,
        count_over=count_over(level),
    )  # fmt: skip
    if place.disease is None:
        context = Context(season_of_phase(place.phase))
    else:
        context = (place.disease if region is None else replace(place.disease, region=region)).context()
    return Found(findings, with_examination(context, visit.after.examination))
