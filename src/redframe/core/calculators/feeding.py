"""The open calculators of feeding: syrup, stores, and by when to feed."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from redframe.core.calculators.calculator import Calculator, plain
from redframe.core.feeding.stores import LITRES_A_DAY, FrameSize, StoredFrames, feed_by, stores
from redframe.core.feeding.syrup import Ratio, syrup, syrup_imperial
from redframe.core.inputs import Input, IsoDate, Number


class SyrupInput(Input):
    """Sugar to water by mass, and the sugar there is or the litres wanted."""

    ratio: Ratio
    sugar_kg: Number | None = None
    litres: Number | None = None


class SyrupImperialInput(Input):
    """Imperial pints of water, and pounds of sugar to each."""

    pints: Number
    lb_per_pint: Number


class StoredFramesInput(Input):
    """Frames of a size, how full they are in per cent; `dm2`: one face of a comb of another size."""

    size: FrameSize
    n: Annotated[int, Field(strict=True)]
    pct: Number
    dm2: Number | None = None


class StoresInput(Input):
    """Frames with stores, the weight to winter on, and the syrup that makes up for what is lacking."""

    frames: Annotated[list[StoredFramesInput], Field(max_length=200)]
    target_kg: Number
    ratio: Ratio = "2:1"


class FeedByInput(Input):
    """Litres to feed, litres that a colony takes a day, the first cold and forage that sets hard in the comb."""

    syrup_l: Number
    rate_l_day: Number = LITRES_A_DAY
    cold_date: IsoDate
    crystal_date: IsoDate | None = None


def _stores(given: StoresInput) -> dict[str, Any]:
    frames = [StoredFrames(one.size, one.n, one.pct, one.dm2) for one in given.frames]
    return plain(stores(frames, given.target_kg, given.ratio))


FEEDING: tuple[Calculator[Any], ...] = (
    Calculator(
        "syrup",
        "Sugar, water and litres of a syrup, and the stores that bees make of it.",
        SyrupInput,
        lambda given: plain(syrup(given.ratio, sugar_kg=given.sugar_kg, litres=given.litres)),
        {"ratio": "2:1", "sugar_kg": 10},
        "feeding",
    ),
    Calculator(
        "syrup_imperial",
        "A syrup by pounds of sugar to imperial pints of water.",
        SyrupImperialInput,
        lambda given: plain(syrup_imperial(given.pints, given.lb_per_pint)),
        {"pints": 10, "lb_per_pint": 2},
        "feeding",
    ),
    Calculator(
        "stores",
        "Stores in the combs against the weight to winter on, and the syrup that makes up for what is lacking.",
        StoresInput,
        _stores,
        {"frames": [{"size": "B_deep", "n": 6, "pct": 80}], "target_kg": 20, "ratio": "2:1"},
        "feeding",
    ),
    Calculator(
        "feed_by",
        "When feeding must begin and end before the cold, and before forage that sets hard in the comb.",
        FeedByInput,
        lambda given: plain(feed_by(given.syrup_l, given.cold_date, given.crystal_date, given.rate_l_day)),
        {"syrup_l": 9.14, "rate_l_day": 1, "cold_date": "2031-10-15", "crystal_date": "2031-09-25"},
        "feeding",
    ),
)
