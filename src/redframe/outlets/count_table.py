"""Tables of counts as CSV: what comes in is read line by line with a report of what cannot be, what goes out has codes
and units that its heading row and the data dictionary name."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, tzinfo
from typing import cast

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesKnownBy
from redframe.core.sampling.jar import JarSample
from redframe.core.sampling.method import JarMethod
from redframe.outlets.tables import read_lines
from redframe.work.campaigns.record import CountRow, RowReport, refused_row
from redframe.work.campaigns.results import Results

COLUMNS = ("apiary", "colony", "date", "method", "mites", "bees", "ml", "g")
NEEDED = ("apiary", "colony", "date", "mites")
METHODS = {"": "wash", "wash": "wash", "sugar": "sugar", "sugar roll": "sugar", "co2": "co2", "co2 roll": "co2"}
DICTIONARY = (
    ("cell", "map cell, latitude step:row:column; empty where too few keepers stand together to be shown"),
    ("phase_day", "day of the count, YYYY-MM-DD"),
    ("method", "wash, sugar (roll) or co2 (roll)"),
    ("mites", "mites counted, all shakes together"),
    ("bees", "bees in the jar, counted or from the measure; empty: not recorded"),
    ("rate_per_100", "mites per 100 bees, corrected for those that the method misses (median)"),
    ("low_per_100, high_per_100", "its 95 % interval"),
    ("treated_28d", "1: a treatment was in the colony within 28 days before"),
)


@dataclass(frozen=True, slots=True)
class ReadTable:
    """Lines that can be counts, and a report of those that cannot be."""

    rows: Sequence[CountRow]
    refused: Sequence[RowReport]


def read_counts(content: bytes, zone: tzinfo, now: datetime) -> ReadTable:
    """Read a CSV (comma, semicolon or tab; UTF-8) with the columns apiary, colony, date, mites (shakes as "5+1+0") and
    one of bees, ml or g; method is wash where there is none.

    Raises InvalidInput("file") for what is no such table.
    """
    rows: list[CountRow] = []
    refused: list[RowReport] = []
    for line, texts in read_lines(content, COLUMNS, NEEDED):
        try:
            rows.append(_row(line, texts, zone, now))
        except InvalidInput as error:
            refused.append(refused_row(line, texts["apiary"][:120], texts["colony"][:40], error.field, error.message))
    return ReadTable(rows, refused)


def _row(line: int, texts: dict[str, str], zone: tzinfo, now: datetime) -> CountRow:
    try:
        day = date.fromisoformat(texts["date"])
    except ValueError:
        raise InvalidInput("date", "write the day as YYYY-MM-DD") from None
    method = METHODS.get(texts.get("method", "").casefold())
    if method is None:
        raise InvalidInput("method", "must be wash, sugar or co2")
    if not re.fullmatch(r"\d{1,5}(\s*\+\s*\d{1,5}){0,7}", texts["mites"]):
        raise InvalidInput("mites", "write the mites as a whole number, or shake by shake as 5+1+0")
    shakes = tuple(int(part) for part in texts["mites"].split("+"))
    known_by, bees, volume, mass = _measure(texts)
    taken_at = min(datetime(day.year, day.month, day.day, 12, tzinfo=zone), now)
    jar = JarSample(
        taken_at, shakes, known_by, bees, volume, mass, place_of_bees="unknown", method=cast(JarMethod, method)
    )
    return CountRow(line, texts["apiary"], texts["colony"], day, jar)


def _measure(texts: dict[str, str]) -> tuple[BeesKnownBy, int | None, float | None, float | None]:
    given = [column for column in ("bees", "ml", "g") if texts.get(column)]
    if not given:
        return "not_recorded", None, None, None
    if len(given) > 1:
        raise InvalidInput(given[1], "give the bees, their volume or their mass, not two of them")
    column = given[0]
    if not re.fullmatch(r"\d{1,9}([.,]\d{1,9})?", texts[column]):
        raise InvalidInput(column, "must be a number")
    value = float(texts[column].replace(",", "."))
    if column == "bees":
        if value != int(value):
            raise InvalidInput("bees", "must be a whole number")
        return "counted", int(value), None, None
    return ("volume_level", None, value, None) if column == "ml" else ("mass_dry", None, None, value)


def counts_csv(found: Results) -> str:
    """The counts of a week without name or place: cell, day, method, mites, bees, rate, interval, treated. Counts of an
    apiary that stands alone in a far corner are left out: they would be its keeper's."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(
        ["cell", "phase_day", "method", "mites", "bees", "rate_per_100", "low_per_100", "high_per_100", "treated_28d"]
    )
    cells = {line.apiary_id: line.cell or "" for line in found.apiaries}
    shown = [one for one in found.counts if cells.get(one.apiary_id) or found.published_elsewhere is not None]
    ordered = sorted(shown, key=lambda one: (cells.get(one.apiary_id, ""), one.taken_on, one.mites or 0))
    for one in ordered:
        figures = [one.median, one.low, one.high]
        written = ["" if part is None else f"{part:.2f}" for part in figures]
        bees = "" if one.bees_mean is None else round(one.bees_mean)
        first = [cells.get(one.apiary_id, ""), one.taken_on.isoformat(), one.method, sum(one.shakes), bees]
        writer.writerow([*first, *written, int(one.treated)])
    return out.getvalue()


def cells_geojson(found: Results, name: str) -> dict[str, object]:
    """The map of a week as GeoJSON: a polygon a cell, nothing of any apiary."""
    features = []
    for cell in found.cells:
        ring = [
            [cell.west, cell.south], [cell.east, cell.south], [cell.east, cell.north], [cell.west, cell.north],
            [cell.west, cell.south],
        ]  # fmt: skip
        share = cell.share
        features.append({
            "type": "Feature",
            "id": cell.id,
            "geometry": {"type": "Polygon", "coordinates": [[[round(x, 5), round(y, 5)] for x, y in ring]]},
            "properties": {
                "cell": cell.id, "apiaries": cell.apiaries, "colonies": cell.colonies, "counted": cell.counted,
                "over_act": cell.over, "share_over_act": share.share if share else None,
                "low": share.low if share else None, "high": share.high if share else None,
                "median_per_100": cell.median, "level": cell.level, "few": cell.few,
            },
        })  # fmt: skip
    return {"type": "FeatureCollection", "name": name, "features": features}
