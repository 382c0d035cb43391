"""A conclusion of a visit with its reasons, so that it can be opened and doubted: codes and figures, never words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

from redframe.core.said import Params, nothing

Level = Literal["note", "watch", "act"]
ExpectedEvent = Literal["new_queen_emerges", "first_eggs", "first_cell_sealed"]
OpeningCode = Literal[
    "too_cold", "food_check", "cover_only", "brief", "no_shaking", "postpone", "robbing", "board",
]  # fmt: skip
QueenCode = Literal[
    "eggs", "queen_and_eggs", "no_eggs_yet", "queen_no_eggs", "not_looked", "queen_seen", "open_no_eggs", "capped_only",
    "no_eggs", "winter_pause", "no_brood", "eggs_multiple", "laying_workers", "drone_layer", "pattern",
]  # fmt: skip
CellsCode = Literal["supersedure", "emergency_cells", "swarm"]
BalanceCode = Literal[
    "balance_laying_stopped", "balance_laying_fell", "balance_gap_earlier", "balance_expanding",
    "balance_capped_short", "balance_steady", "balance_one_age",
]  # fmt: skip
WeakCode = Literal[
    "weak_suspect", "weak_dying", "weak_before_winter", "weak_at_peak", "weak_keep", "weak_nucleus", "weak_unite",
]  # fmt: skip
ColonyCode = Literal[
    "suspicious", "stores_unsure", "stores_nil", "stores_short", "stores_low", "stores_good", "stores_fermenting",
    "stores_set_hard", "stores_syrup", "renew_comb", "bees_lost",
    "supers_with_course", "supers_with_course_by_label", "feed_with_course", "supers_before_course",
    "feed_before_course", "feed_untouched", "drone_comb_cut", "cells_removed", "cells_removed_no_eggs", "sugar_dusted",
    "spare_honey", "spare_honey_not_clear", "count_needed", "count_needed_never",
    "brood_lost", "pest_asks",
]  # fmt: skip
FindingCode = Literal[OpeningCode, QueenCode, CellsCode, BalanceCode, WeakCode, ColonyCode]
BecauseCode = Literal[
    "air", "rain_or_wind", "fighting_or_wax", "mites_in_days", "can_show_foulbrood", "never_ruled_out", "laid_a_day",
    "eggs_undercounted", "stores_seen", "combs_unseen", "winter_target", "reserve", "renewed_a_year", "signs_seen",
    "bees", "nothing_on_record", "eggs_stand_3_days", "not_laying", "seen_today", "open_brood_age", "no_eggs_seen",
    "sealed_brood_age", "no_younger_brood", "season_of_place", "no_brood_of_any_age", "drone_brood_would_settle",
    "cells_empty", "gaps_may_be_laid", "cells_seen", "crowded",
    "empty_cells", "share_of_median", "season_in_office", "mean_temper", "not_clear_before_out", "not_clear_until",
    "kept_for_winter", "syrup_in_combs", "causes_of_loss",
    "causes_of_lost_brood",
]  # fmt: skip
SentenceCode = Literal[FindingCode, BecauseCode]


@dataclass(frozen=True, slots=True)
class Said:
    """A sentence: which, and what goes into it."""

    code: SentenceCode
    params: Params = field(default_factory=nothing)


@dataclass(frozen=True, slots=True)
class ExpectedOn:
    """Something that is expected: at the earliest, as a rule, at the latest."""

    event: ExpectedEvent
    early: date
    typical: date
    late: date


@dataclass(frozen=True, slots=True)
class VisitFinding:
    """What follows, how pressing it is, the figures in it, why, and the days that follow from it."""

    code: FindingCode
    level: Level
    params: Params = field(default_factory=nothing)
    because: Sequence[Said] = ()
    dates: Sequence[ExpectedOn] = ()
