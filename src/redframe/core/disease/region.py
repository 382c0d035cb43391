"""What an association says of disease in its region: it bears on how likely each is before anything was seen."""

from __future__ import annotations

from redframe.core.cases.law import LawId
from redframe.core.disease.settings import Level
from redframe.core.inputs import Input


class DiseaseRegion(Input):
    """How common both foulbroods are, whether the small hive beetle and the exotic brood mite are established, and the
    law that a suspicion follows."""

    afb_level: Level = "occasional"
    efb_level: Level = "occasional"
    shb_established: bool = False
    tropilaelaps_present: bool = False
    law: LawId = "general"
