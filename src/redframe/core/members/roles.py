"""The roles that a member of an association can have."""

from __future__ import annotations

from typing import Literal

Role = Literal["administrator", "inspector", "mentor", "keeper", "read_only"]
