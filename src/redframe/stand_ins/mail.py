"""A mail service that sends nothing: each message becomes a file that a mail program can open."""

from __future__ import annotations

from datetime import datetime
from email.message import EmailMessage
from email.utils import format_datetime
from pathlib import Path
from uuid import uuid4


class StandInMail:
    """Writes messages into a folder, one `.eml` file each."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def send(self, to: str, subject: str, text: str, at: datetime) -> None:
        """Lay a message in the folder."""
        message = EmailMessage()
        message["From"] = "Red Frame <no-reply@redframe.example>"
        message["To"] = to
        message["Subject"] = subject
        message["Date"] = format_datetime(at)
        message.set_content(text)
        self._folder.mkdir(parents=True, exist_ok=True)
        (self._folder / f"{at:%Y%m%dT%H%M%S}-{uuid4().hex[:8]}.eml").write_bytes(message.as_bytes())
