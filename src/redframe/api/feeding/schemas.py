"""The autumn programme of an apiary."""

from __future__ import annotations

from datetime import date

from redframe.api.base import Output
from redframe.work.feeding.read import Autumn


class AutumnView(Output):
    today: date
    autumn: Autumn
