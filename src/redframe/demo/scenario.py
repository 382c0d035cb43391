"""Who and where: associations, people, keepers and apiaries of the demo. Everything here is invented."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any, Literal
from uuid import UUID, uuid5

DEMO_TODAY = date(2031, 8, 2)
FIRST_DAY = date(2029, 11, 1)
RANDOM_STATE = 20310802
NAMESPACE = UUID("6f0b9a54-6a0e-4f0e-9b53-5c1d6f2b8e10")
PASSWORD = "corrane-demo"  # noqa: S105
"""Password of the demo's accounts; it is printed at every start of the demo and nowhere else of use."""


def made_id(*parts: object) -> UUID:
    """A stable id for something of the scenario."""
    return uuid5(NAMESPACE, "/".join(map(str, parts)))


@dataclass(frozen=True)
class Account:
    """Somebody who signs in."""

    email: str
    name: str
    role: str
    keeper: str | None = None
    also_in: str | None = None
    association: str = "corrane"


@dataclass(frozen=True)
class ApiaryPlan:
    """An apiary of the scenario; `habit` is how its keeper goes about varroa."""

    name: str
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
    letter: str
    colonies: int
    habit: str
    access: str = ""
    forage: str = ""


@dataclass(frozen=True)
class AssociationPlan:
    """An association with its calendar, keepers and apiaries."""

    key: str
    name: str
    timezone: str
    scheme: str
    scope: str
    calendar: dict[str, Any]
    rules: dict[str, Any]
    keepers: tuple[tuple[str, str], ...]
    apiaries: tuple[ApiaryPlan, ...] = field(default=())
    beetles_established: bool = False


ACCOUNTS = (
    Account("administrator@corrane.example", "Sunniva Hale", "administrator"),
    Account("inspector@corrane.example", "Idris Calloway", "inspector", also_in="ellery"),
    Account("mentor@corrane.example", "Bettrys Lund", "mentor"),
    Account("keeper@corrane.example", "Orla Fenwick", "keeper", keeper="Orla Fenwick"),
    Account("merrin@corrane.example", "Merrin Sands", "keeper", keeper="Merrin Sands"),
    Account("halvard@corrane.example", "Halvard Byrne", "keeper", keeper="Halvard Byrne"),
    Account("reader@corrane.example", "Piet Aldous", "read_only"),
    Account("mentor@ellery.example", "Marram Teague", "mentor", association="ellery"),
)

_OFFERED = ["FA_STRIP2", "FA_STRIP11", "OX_TRICKLE"]

CORRANE = AssociationPlan(
    key="corrane",
    name="Corrane Beekeepers' Association",
    timezone="Etc/GMT+1",
    scheme="season_phase",
    scope="whole_apiary",
    calendar={
        "dormant": "11-01",
        "build_up": "03-01",
        "peak": "05-15",
        "decline": "07-25",
        "winter_bees": "08-25",
        "lead_days": 42,
    },
    rules={
        "authorised": _OFFERED, "honey_off": "07-20", "cold": "10-20", "crystals": "09-20",
        "approach": "counting_first",
        "product_labels": [
            {"option": "FA_STRIP2", "product": "two-strip pack of the bulk order", "max_uses_per_year": 2,
             "note": "Label of spring 2031, kept with the register."},
        ],
    },
    keepers=(
        ("Orla Fenwick", "C-0104"),
        ("Garrow Pike", "C-0117"),
        ("Linnet Ashgrove", "C-0122"),
        ("Tobias Quill", "C-0131"),
        ("Merrin Sands", "C-0140"),
        ("Halvard Byrne", "C-0148"),
        ("Nettie Crowhurst", "C-0155"),
        ("Aldith Marsh", "C-0163"),
        ("Jory Penhallow", "C-0170"),
        ("Corrane teaching apiary", "C-0001"),
    ),
    apiaries=(
        ApiaryPlan("Tarn Head", "Orla Fenwick", 44.235, -31.370, 84, "T", 8, "counts_often",
                   "Gate code from the keeper. Last 200 m on foot.", "Lime avenue, bramble, heather from August."),
        ApiaryPlan("Skerrow Bank", "Orla Fenwick", 44.262, -31.428, 31, "S", 7, "counts_often",
                   "Park at the slip; tide covers the lower lane.", "White clover, sea holly."),
        ApiaryPlan("Hollin Croft", "Garrow Pike", 44.206, -31.337, 112, "H", 8, "treats_late",
                   "Bull in the second field in July.", "Holly, bramble, ivy."),
        ApiaryPlan("Mell Fold", "Garrow Pike", 44.190, -31.352, 140, "M", 6, "treats_late"),
        ApiaryPlan("Orrin Quay", "Linnet Ashgrove", 44.168, -31.486, 6, "Q", 6, "never_counts",
                   "Behind the net store; ask at the harbour.", "Gardens, willowherb."),
        ApiaryPlan("Saltby Rise", "Linnet Ashgrove", 44.181, -31.462, 48, "R", 4, "never_counts"),
        ApiaryPlan("Kettle Wood", "Tobias Quill", 44.221, -31.405, 96, "K", 9, "by_the_book",
                   "Forest track, soft after rain.", "Sycamore, lime, bramble."),
        ApiaryPlan("Brae Garth", "Tobias Quill", 44.244, -31.392, 122, "B", 6, "by_the_book"),
        ApiaryPlan("Lower Fenn", "Merrin Sands", 44.153, -31.421, 12, "L", 7, "cold_formic",
                   "Boardwalk is slippery.", "Purple loosestrife, mint, willow."),
        ApiaryPlan("Upper Fenn", "Merrin Sands", 44.161, -31.403, 27, "U", 6, "by_the_book"),
        ApiaryPlan("Quarrel Lane", "Halvard Byrne", 44.199, -31.448, 71, "A", 6, "some_left_out"),
        ApiaryPlan("Whin Moor", "Halvard Byrne", 44.214, -31.459, 188, "W", 8, "some_left_out",
                   "Open moor; tie the roofs down.", "Heather, whin, clover."),
        ApiaryPlan("St Ossory", "Nettie Crowhurst", 44.251, -31.352, 58, "O", 7, "by_the_book",
                   "Orchard behind the chapel.", "Apple, dandelion, lime."),
        ApiaryPlan("Plover Hay", "Aldith Marsh", 44.141, -31.377, 19, "P", 8, "counts_often"),
        ApiaryPlan("Thrift Point", "Jory Penhallow", 44.276, -31.452, 22, "J", 4, "neighbour_collapsed",
                   "Cliff path; not in a westerly.", "Thrift, thyme, clover."),
        ApiaryPlan("Cairn Yard", "Jory Penhallow", 44.228, -31.474, 64, "C", 7, "counts_often"),
        ApiaryPlan("Dunnock Mill", "Corrane teaching apiary", 44.189, -31.398, 43, "D", 9, "teaching",
                   "Teaching shed with water, scales and a bench.", "Lime, clover, borage strips."),
    ),
)  # fmt: skip

ELLERY = AssociationPlan(
    key="ellery",
    name="Port Ellery Bee Keepers",
    timezone="Etc/GMT+2",
    scheme="flat_3",
    scope="single_colony",
    calendar={
        "dormant": "05-01",
        "build_up": "08-30",
        "peak": "11-15",
        "decline": "01-25",
        "winter_bees": "02-24",
        "lead_days": 42,
    },
    rules={
        "authorised": [*_OFFERED, "THY_GEL", "OX_VAP1", "OX_EXT", "AMZ_STRIP", "FLUM_STRIP", "HOP_STRIP"],
        "honey_off": "01-20",
        "cold": "04-20",
        "approach": "counting_first",
        "respirator_ok": True,
    },
    keepers=(("Marram Teague", "PE-02"), ("Wilga Dunne", "PE-05"), ("Banks Harrow", "PE-07")),
    apiaries=(
        ApiaryPlan("Shearwater Hill", "Marram Teague", -39.912, -28.422, 66, "H", 4, "by_the_book"),
        ApiaryPlan("Old Jetty", "Wilga Dunne", -39.948, -28.461, 4, "J", 3, "counts_often"),
        ApiaryPlan("Banksia Flat", "Banks Harrow", -39.931, -28.394, 23, "B", 3, "treats_late"),
    ),
    beetles_established=True,
)

ASSOCIATIONS = (CORRANE, ELLERY)


@dataclass(frozen=True)
class OldStrips:
    """A course that was given less than planned, from a lot that was out of date: the one that failed."""

    apiary: str
    on: date
    lot: str
    quantity: float
    note: str


OLD_STRIPS = OldStrips("Lower Fenn", date(2031, 7, 3), "F-2207", 1.0, "One strip each: what was left of the old pack.")


FED = {
    # The autumn programme of this apiary is half done.
    ("Upper Fenn", date(2031, 7, 22)): ("put_on", 5.0),
    ("Upper Fenn", date(2031, 7, 29)): ("refilled", 5.0),
}
"""Rounds of syrup 2:1 to all colonies of an apiary: what was done with the feeder, litres."""


@dataclass(frozen=True)
class LayingStopped:
    """What stopped the laying of a colony, and when a caged queen is to be set free."""

    apiary: str
    label: str
    kind: Literal["queen_caged", "swarm_left"]
    on: date
    release_on: date | None = None


LAYING_STOPPED = (
    # The acid is due tomorrow.
    LayingStopped("St Ossory", "O3", "queen_caged", date(2031, 7, 12), date(2031, 8, 5)),
    LayingStopped("Upper Fenn", "U4", "swarm_left", date(2031, 7, 15)),
)


@dataclass(frozen=True)
class PastCourse:
    """A course of all colonies of an apiary: what it killed, and after how many days from its end it was checked."""

    apiary: str
    option: str
    start: date
    killed: float
    checked_after: int
    broodless: bool = False


PAST_COURSES = (
    PastCourse("Shearwater Hill", "THY_GEL", date(2030, 1, 27), 0.84, 10),
    PastCourse("Shearwater Hill", "OX_VAP1", date(2030, 6, 18), 0.93, 24, broodless=True),
    PastCourse("Shearwater Hill", "AMZ_STRIP", date(2031, 1, 27), 0.95, 8),
    PastCourse("Old Jetty", "OX_EXT", date(2030, 1, 26), 0.82, 8),
    PastCourse("Old Jetty", "OX_TRICKLE", date(2030, 6, 16), 0.94, 24, broodless=True),
    PastCourse("Old Jetty", "DRONE_TRAP", date(2030, 11, 20), 0.3, 3),
    PastCourse("Old Jetty", "FLUM_STRIP", date(2031, 2, 2), 0.3, 8),
    PastCourse("Banksia Flat", "FA_STRIP11", date(2030, 2, 3), 0.85, 10),
    PastCourse("Banksia Flat", "REQUEEN", date(2030, 11, 20), 0.05, 42),
    PastCourse("Banksia Flat", "HOP_STRIP", date(2031, 1, 24), 0.55, 10),
    PastCourse("Banksia Flat", "FA_STRIP2", date(2031, 3, 12), 0.88, 10),
)
"""What was done at Port Ellery, with many options: one of them failed."""

LOST = (("Orrin Quay", "Q4"), ("Saltby Rise", "R3"), ("Mell Fold", "M5"), ("Thrift Point", "J4"))
"""The colonies that are lost in the second winter."""
RUN_AHEAD = {"Hollin Croft": 2.7, "Mell Fold": 5.0, "Whin Moor": 2.8}
"""Infestation on the demo's today, in mites per 100 bees, of apiaries that run ahead of the others in the last summer;
where some colonies are left out of treatments, only of these."""
MERGED = ("Dunnock Mill", "D8", date(2031, 6, 14))
"""The colony that was merged into its neighbour, and when: it is counted no more."""


@dataclass(frozen=True)
class Stage:
    """A course of the last weeks: which option, when it started, how far it has come, how much it killed, and in
    which colonies it was verified. `load` is the infestation that it met, in mites per 100 bees."""

    apiary: str
    option: str
    start: date
    until: date
    killed: float
    labels: tuple[str, ...]
    verified: tuple[str, ...] = ()
    load: float = 2.4

    @property
    def check_on(self) -> date | None:
        """The day on which it was counted again: ten days after the strips were spent."""
        return self.start + timedelta(days=17) if self.verified else None


STAGES = (
    # Second strip due today.
    Stage("Kettle Wood", "FA_STRIP11", date(2031, 7, 26), date(2031, 8, 1), 0.0, ("K1", "K3", "K4", "K6", "K7")),
    # First strips planned for today, inland, and the hot spell is coming.
    Stage("Hollin Croft", "FA_STRIP2", date(2031, 8, 2), date(2031, 8, 1), 0.0, ("H1", "H2", "H4", "H5"),
          load=2.6),
    # Ended; its check count is due now.
    Stage("Brae Garth", "FA_STRIP2", date(2031, 7, 15), date(2031, 7, 24), 0.87, ("B1", "B2", "B3", "B4", "B5", "B6"),
          load=4.0),
    # Done and verified, with untreated neighbours as controls: worked.
    Stage("Whin Moor", "FA_STRIP2", date(2031, 7, 1), date(2031, 7, 9), 0.9, ("W1", "W3", "W5", "W7"),
          ("W1", "W3", "W5", "W7"), load=8.0),
    # Done and failed.
    Stage("Lower Fenn", "FA_STRIP2", date(2031, 7, 3), date(2031, 7, 11), 0.12, ("L1", "L2", "L4"), ("L1", "L2", "L4"),
          load=6.5),
    # The check count was forgotten.
    Stage("Plover Hay", "FA_STRIP11", date(2031, 6, 28), date(2031, 7, 13), 0.85, ("P1", "P3")),
)  # fmt: skip
