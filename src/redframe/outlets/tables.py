"""Reading a table that people bring: CSV with comma, semicolon or tab, UTF-8, its columns in any order."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Sequence

from redframe.core.errors import InvalidInput

MOST_BYTES = 2_000_000
MOST_LINES = 5_000


def read_lines(content: bytes, columns: Sequence[str], needed: Sequence[str]) -> list[tuple[int, dict[str, str]]]:
    """The lines of a table that hold anything, each with its number in the file and the texts of the columns that the
    table has, trimmed.

    Raises InvalidInput("file") for what is no such table.
    """
    if len(content) > MOST_BYTES:
        raise InvalidInput("file", "is larger than 2 MB", code="out_of_range")
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InvalidInput("file", "is not a CSV in UTF-8") from error
    first = text.splitlines()[0] if text.strip() else ""
    mark = max(",;\t", key=first.count)
    reader = csv.DictReader(io.StringIO(text, newline=""), delimiter=mark)
    try:
        heads = reader.fieldnames or []
    except csv.Error as error:
        raise InvalidInput("file", "has a heading that is too long", code="out_of_range") from error
    names = {name.strip().casefold(): name for name in heads if name}
    missing = [name for name in needed if name not in names]
    if missing:
        raise InvalidInput("file", f"has no column {missing[0]}: it needs {', '.join(needed)}", code="missing")
    found = []
    for number, record in enumerate(_records(reader), start=1):
        if number > MOST_LINES:
            raise InvalidInput("file", f"has more than {MOST_LINES} lines", code="out_of_range")
        texts = {column: (record.get(names[column]) or "").strip() for column in columns if column in names}
        if any(texts.values()):
            # The line of the file: empty ones are left out by the reader, not by who looks for the mistake.
            found.append((reader.line_num, texts))
    return found


def _records(reader: csv.DictReader[str]) -> Iterator[dict[str, str]]:
    try:
        yield from reader
    except csv.Error as error:
        raise InvalidInput("file", f"has a field that is too long, near line {reader.line_num}") from error
