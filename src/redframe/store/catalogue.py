"""What a database of this release holds: tables, guards, triggers, functions.

A database that lacks any of it, such as one whose restore was cut off, is not served: its records would stand open.

The list ships with the release (`./redframe schema` writes it from the migrations); a test holds it to them.
"""

from __future__ import annotations

from pathlib import Path

import psycopg

from redframe.store.database import sql

LISTED = Path(__file__).with_name("catalogue.txt")


def held(owner_url: str) -> list[str]:
    """What a database holds, a line each."""
    with psycopg.connect(owner_url) as owner:
        return [str(line) for (line,) in owner.execute(sql("held"))]


def missing(owner_url: str) -> list[str]:
    """What a database lacks of this release."""
    there = set(held(owner_url))
    return [line for line in LISTED.read_text(encoding="utf-8").splitlines() if line not in there]
