"""A laboratory that examines nothing: what it answers follows from the code of the sample, after days like a real one.

It receives within a day, at times a broken seal; of a hundred samples about five are unsuitable and ten cannot be told.
It knows nothing of the colony: what it finds says nothing of any bees.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta
from hashlib import sha256

from redframe.core.cases.laboratory import LaboratoryDocument, LaboratoryResult, Parcel, is_signed, signature

KEY = b"the stand-in's own key, which opens nothing"
NAME = "Bee laboratory (simulated)"
METHODS = {"comb": "culture and PCR", "larvae": "microscopy and PCR", "bees": "culture for spores", "debris": "PCR",
           "honey": "culture for spores", "mites_or_beetles": "microscopy"}  # fmt: skip
BROKEN_OF_256, UNSUITABLE_OF_256, UNSURE_OF_256, FOUND_OF_256 = 10, 13, 26, 120


class StandInLaboratory:
    """Answers by the code: the same parcel always gets the same documents."""

    def documents(self, parcel: Parcel, by: datetime) -> list[LaboratoryDocument]:
        """The receipt and the result, as far as they are out."""
        dice = sha256(parcel.code.encode()).digest()
        received = parcel.sent_at + timedelta(hours=18 + dice[0] % 10)
        done = received + timedelta(hours=36 + dice[1] % 60)
        whole = dice[2] >= BROKEN_OF_256
        receipt = LaboratoryDocument(
            "receipt", parcel.code, received, parcel.seal, whole, METHODS[parcel.kind], None, "", NAME
        )
        found = _result(dice[3])
        result = replace(receipt, kind="result", at=done, result=found, text=TEXTS[found])
        return [_signed(one) for one in (receipt, result) if one.at <= by]

    def is_signed(self, document: LaboratoryDocument) -> bool:
        """Whether the laboratory wrote this."""
        return is_signed(document.content(), KEY, document.signature)


TEXTS: dict[LaboratoryResult, str] = {
    "unsuitable": "The sample could not be examined. Send another.",
    "could_not_tell": "No clear result. Send another sample.",
    "found": "Found.",
    "nothing_found": "Not found in this sample.",
}


def _result(dice: int) -> LaboratoryResult:
    if dice < UNSUITABLE_OF_256:
        return "unsuitable"
    if dice < UNSUITABLE_OF_256 + UNSURE_OF_256:
        return "could_not_tell"
    return "found" if dice < UNSUITABLE_OF_256 + UNSURE_OF_256 + FOUND_OF_256 else "nothing_found"


def _signed(document: LaboratoryDocument) -> LaboratoryDocument:
    return replace(document, signature=signature(document.content(), KEY))
