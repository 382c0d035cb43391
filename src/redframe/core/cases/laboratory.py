"""What goes to the laboratory and what comes back: open, small, signed.

A parcel names a sample by its blind code alone. The laboratory answers with a receipt and a result, each signed with
its key (HMAC-SHA256 over the canonical JSON of the document): a result that nobody signed is none.
"""

from __future__ import annotations

import hmac
import json
from dataclasses import asdict, dataclass
from datetime import datetime
from hashlib import sha256
from typing import Any, Literal, Protocol

from redframe.core.cases.samples import SampleKind
from redframe.core.cases.states import CaseDisease

LaboratoryResult = Literal["nothing_found", "found", "could_not_tell", "unsuitable"]


@dataclass(frozen=True, slots=True)
class Parcel:
    """What is sent: the code, what it is, for which disease it is examined, when it was handed over, its seal."""

    code: str
    kind: SampleKind
    disease: CaseDisease
    sent_at: datetime
    seal: str


@dataclass(frozen=True, slots=True)
class LaboratoryDocument:
    """A receipt (with the state of the seal) or a result (with its method), signed."""

    kind: Literal["receipt", "result"]
    code: str
    at: datetime
    seal: str
    seal_whole: bool
    method: str
    result: LaboratoryResult | None
    text: str
    signed_by: str
    signature: str = ""

    def content(self) -> dict[str, Any]:
        """All that is signed."""
        written = {name: value for name, value in asdict(self).items() if name != "signature"}
        return {**written, "at": self.at.isoformat()}


class Laboratory(Protocol):
    """A laboratory: what it has written of a parcel by a moment."""

    def documents(self, parcel: Parcel, by: datetime) -> list[LaboratoryDocument]:
        """The receipt and the result, as far as they are out."""

    def is_signed(self, document: LaboratoryDocument) -> bool:
        """Whether the laboratory wrote this."""


def signature(content: dict[str, Any], key: bytes) -> str:
    """The signature of a document."""
    text = json.dumps(content, sort_keys=True, separators=(",", ":"), ensure_ascii=True)
    return hmac.new(key, text.encode(), sha256).hexdigest()


def is_signed(content: dict[str, Any], key: bytes, given: str) -> bool:
    """Whether a signature belongs to a document."""
    return hmac.compare_digest(signature(content, key), given)
