"""What the browser needs to show cases: words, how samples are taken, the laws."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from redframe.core.cases.case_words import CaseWords, case_words
from redframe.core.cases.law import LawId, law_packs
from redframe.core.cases.samples import SampleKind, SampleMethod, sample_methods


@dataclass(frozen=True, slots=True)
class CaseVocabulary:
    """All words of a case, how each sample is taken, and the names of the laws."""

    words: CaseWords
    samples: Mapping[SampleKind, SampleMethod]
    laws: Mapping[LawId, str]


def case_vocabulary() -> CaseVocabulary:
    """What is the same for every case."""
    return CaseVocabulary(case_words(), sample_methods(), {name: one.name for name, one in law_packs().items()})
