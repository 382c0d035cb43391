"""Settings of one server process, from the environment."""

from __future__ import annotations

import os
import tempfile
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from pathlib import Path

from redframe.work.unit_of_work import Clock

MAIL = Path(tempfile.gettempdir()) / "redframe-mail"


@dataclass(frozen=True, slots=True)
class Settings:
    """`demo_today` fixes the day of the demo; `secure` marks cookies for TLS; `web` is the built front end;
    `mail` is the folder into which the stand-in for a mail service writes; `kept_mb`: room for kept answers.
    `hosts`: the names under which the application is reached; none given, any."""

    database_url: str
    web: Path
    demo_today: date | None = None
    open_calculators: bool = False
    secure: bool = False
    fast_passwords: bool = False
    pool_size: int = 10
    mail: Path = MAIL
    kept_mb: int = 48
    hosts: tuple[str, ...] = ()

    @classmethod
    def from_environment(cls) -> Settings:
        """Read REDFRAME_DATABASE_URL, REDFRAME_WEB, REDFRAME_DEMO_TODAY, REDFRAME_OPEN_CALCULATORS, REDFRAME_SECURE."""
        demo = os.environ.get("REDFRAME_DEMO_TODAY")
        return cls(
            database_url=os.environ["REDFRAME_DATABASE_URL"],
            web=Path(os.environ["REDFRAME_WEB"]),
            demo_today=date.fromisoformat(demo) if demo else None,
            open_calculators=os.environ.get("REDFRAME_OPEN_CALCULATORS") == "1",
            secure=os.environ.get("REDFRAME_SECURE") == "1",
            fast_passwords=os.environ.get("REDFRAME_FAST_PASSWORDS") == "1",
            pool_size=int(os.environ.get("REDFRAME_POOL_SIZE", "10")),
            hosts=tuple(name for name in os.environ.get("REDFRAME_HOSTS", "").split(",") if name),
            kept_mb=int(os.environ.get("REDFRAME_KEPT_MB", "48")),
            mail=Path(os.environ.get("REDFRAME_MAIL", str(MAIL))),
        )

    @property
    def clock(self) -> Clock:
        """The clock of this installation."""
        return DemoClock(self.demo_today) if self.demo_today else SystemClock()


class SystemClock:
    """The time of the machine."""

    def now(self) -> datetime:
        """Now, in UTC."""
        return datetime.now(UTC)


class DemoClock:
    """Always the demo's today: half a day from a quarter to one on, from the machine's own clock, so that a restart
    goes on where it was and what was counted before stays before."""

    HALF_A_DAY = 12 * 3600

    def __init__(self, today: date) -> None:
        self._from = datetime.combine(today, time(12, 45), tzinfo=UTC)

    def now(self) -> datetime:
        """Now, on the demo's day."""
        return self._from + timedelta(seconds=datetime.now(UTC).timestamp() % self.HALF_A_DAY)
