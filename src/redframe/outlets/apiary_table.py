"""A table of apiaries as CSV: whose, where, and the labels of the colonies that stand there."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.errors import InvalidInput
from redframe.core.names import fault_of, look_of
from redframe.outlets.tables import read_lines
from redframe.work.places.table import ApiaryReport, ApiaryRow, refused_apiary

COLUMNS = ("apiary", "keeper", "latitude", "longitude", "height", "colonies")
NEEDED = ("apiary", "keeper", "latitude", "longitude")
MOST_COLONIES = 400


@dataclass(frozen=True, slots=True)
class ReadApiaries:
    """Lines that can be apiaries, and a report of those that cannot be."""

    rows: Sequence[ApiaryRow]
    refused: Sequence[ApiaryReport]


def read_apiaries(content: bytes) -> ReadApiaries:
    """Read a CSV with the columns apiary, keeper, latitude, longitude (degrees, decimal comma or point), and where
    they are known height (m) and colonies (labels with spaces between them).

    Raises InvalidInput("file") for what is no such table.
    """
    rows: list[ApiaryRow] = []
    refused: list[ApiaryReport] = []
    for line, texts in read_lines(content, COLUMNS, NEEDED):
        try:
            rows.append(_row(line, texts))
        except InvalidInput as error:
            refused.append(refused_apiary(line, texts["apiary"][:120], error.field, error.message))
    return ReadApiaries(rows, refused)


def _row(line: int, texts: dict[str, str]) -> ApiaryRow:
    for column in ("apiary", "keeper"):
        if not 0 < len(texts[column]) <= 120 or fault_of(texts[column], name=True):
            raise InvalidInput(column, "needs a name of 120 letters at most")
    labels = re.split(r"[\s,;]+", texts.get("colonies", "").strip())
    colonies = tuple(label for label in labels if label)
    if len(colonies) > MOST_COLONIES:
        raise InvalidInput("colonies", f"are more than {MOST_COLONIES}: is this one apiary?")
    if any(len(label) > 24 or fault_of(label, name=True) for label in colonies):
        raise InvalidInput("colonies", "has a label of more than 24 letters")
    if len({look_of(label) for label in colonies}) < len(colonies):
        raise InvalidInput("colonies", "has a label twice")
    height = _figure(texts, "height", -430, 6000) if texts.get("height") else 0.0
    return ApiaryRow(
        line, texts["apiary"], texts["keeper"], _figure(texts, "latitude", -90, 90),
        _figure(texts, "longitude", -180, 180), round(height), colonies,
    )  # fmt: skip


def _figure(texts: dict[str, str], column: str, least: float, most: float) -> float:
    if not re.fullmatch(r"-?\d{1,5}([.,]\d{1,9})?", texts[column]):
        raise InvalidInput(column, "must be a number, as 44.2350")
    value = float(texts[column].replace(",", "."))
    if not least <= value <= most:
        raise InvalidInput(column, f"must lie from {least:g} to {most:g}")
    return value
