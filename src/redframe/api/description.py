"""The API's description (OpenAPI): computed once, when the API changes, and shipped.

Computing it takes two seconds of a quick machine; every start of the server would pay them at the first request.
"""

from __future__ import annotations

import json
from functools import lru_cache
from pathlib import Path
from typing import Any, cast

from fastapi import FastAPI

from redframe.api import errors

SHIPPED = Path(__file__).with_name("openapi.json")


def computed(app: FastAPI) -> dict[str, Any]:
    """The description of the application as it is, computed now."""
    return errors.describe_in(FastAPI.openapi(app))


def shipped(app: FastAPI) -> dict[str, Any]:
    """The description that ships with the application; worked out where none does."""
    return _read() if SHIPPED.exists() else computed(app)


@lru_cache(maxsize=1)
def _read() -> dict[str, Any]:
    return cast(dict[str, Any], json.loads(SHIPPED.read_text(encoding="utf-8")))
