"""Syrup, stores, dates of feeding, shopping, recipes and hours of heat, against the worked tables and their identities."""

from __future__ import annotations

import unittest
from datetime import date

from hypothesis import given
from hypothesis import strategies as st

from redframe.core.calculators import calculator
from redframe.core.errors import InvalidInput
from redframe.core.feeding.stores import FULL_KG, StoredFrames, feed_by, stores
from redframe.core.feeding.syrup import LOSS, SUGAR_IN_STORES, Ratio, stored, sugar_for, syrup, syrup_imperial
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.oxalic import oxalic_from_recipe, oxalic_solution
from redframe.core.treatments.shopping import shopping
from redframe.core.treatments.weather import hot_hours

CATALOGUE = default_catalogue()
RATIOS: st.SearchStrategy[Ratio] = st.sampled_from(["1:1", "2:1"])


class Syrups(unittest.TestCase):
    def test_the_recipes_of_the_reference(self) -> None:
        """Sugar, water, litres, per cent and stores of each row."""
        for ratio, wanted, expected in (
            ("2:1", {"sugar_kg": 10.0}, (10, 5.0, 11.2, 66.7, 10.98)),
            ("1:1", {"sugar_kg": 5.0}, (5, 5.0, 8.1, 50.0, 4.88)),
            ("2:1", {"litres": 14.0}, (12.5, 6.25, 14.0, 66.7, 13.72)),
        ):
            with self.subTest(ratio=ratio, **wanted):
                found = syrup(ratio, **wanted)  # type: ignore[arg-type]
                self.assertEqual(
                    (found.sugar_kg, found.water_l, found.litres, found.sugar_pct_ww, found.stored_kg), expected
                )
        thick, thin = syrup_imperial(10, 2), syrup_imperial(10, 1)
        self.assertEqual((thick.sugar_kg, thick.litres, thick.imp_pints, thick.sugar_pct_ww, thick.stored_kg), (9.072, 11.307, 19.9, 61.5, 9.96))  # fmt: skip
        self.assertEqual((thin.sugar_kg, thin.litres, thin.sugar_pct_ww, thin.stored_kg), (4.536, 8.495, 44.4, 4.43))
        self.assertAlmostEqual(thick.water_ml, 5682.6, places=1)

    @given(st.floats(0.5, 500), RATIOS)
    def test_nothing_gets_lost(self, sugar: float, ratio: Ratio) -> None:
        """Litres of a sugar lead back to the sugar; the sugar for some stores makes those stores; more is more."""
        litres = syrup(ratio, sugar_kg=sugar).litres
        self.assertAlmostEqual(syrup(ratio, litres=litres).sugar_kg, sugar, delta=0.02)
        self.assertAlmostEqual(stored(sugar_for(sugar, ratio), LOSS[ratio]), sugar, places=9)
        self.assertLess(stored(sugar, LOSS[ratio]), sugar / SUGAR_IN_STORES)

    def test_what_cannot_be_mixed(self) -> None:
        """Each fault at its field."""
        for name, body, field in (
            ("syrup", {"ratio": "3:1", "sugar_kg": 1}, "ratio"),
            ("syrup", {"ratio": "2:1"}, "sugar_kg"),
            ("syrup", {"ratio": "2:1", "sugar_kg": 1, "litres": 1}, "sugar_kg"),
            ("syrup", {"ratio": "2:1", "litres": -1}, "litres"),
            ("syrup_imperial", {"pints": 0, "lb_per_pint": 2}, "pints"),
            ("stores", {"frames": [{"size": "A_deep", "n": 1, "pct": 10}, {"size": "A_deep", "n": 1, "pct": 101}], "target_kg": 20}, "frames[1].pct"),
            ("stores", {"frames": [{"size": "C", "n": 1, "pct": 10}], "target_kg": 20}, "frames[0].size"),
            ("stores", {"frames": [{"size": "other", "n": 1, "pct": 10}], "target_kg": 20}, "frames[0].dm2"),
            ("stores", {"frames": [], "target_kg": 0}, "target_kg"),
            ("feed_by", {"syrup_l": 5, "rate_l_day": 0, "cold_date": "2026-10-15"}, "rate_l_day"),
            ("feed_by", {"syrup_l": 5, "cold_date": "2026-02-30"}, "cold_date"),
            ("hourly", {"tmin": 20, "tmax": 10, "limit": 29.5}, "tmin"),
            ("shopping", {"option": "FA_PAD", "frames": [9, 61], "pack_size": 10}, "frames[1]"),
            ("shopping", {"option": "FA_PAD", "frames": [9], "brood_boxes": [1, 1], "pack_size": 10}, "brood_boxes"),
            ("shopping", {"option": "NONE", "frames": [9], "pack_size": 10}, "option"),
            ("oxalic_from_recipe", {"dihydrate_g": 75, "sugar_g": 1000, "water_ml": 0}, "water_ml"),
            ("window", {"option": "FA_STRIP2", "forecast": {"start": "2026-08-15", "tmax": [10], "tmin": [12], "rain_mm": [0]}}, "forecast.tmin[0]"),
        ):  # fmt: skip
            with self.subTest(name=name, field=field), self.assertRaises(InvalidInput) as refused:
                calculator(name)(body)
            self.assertEqual(refused.exception.field, field)


class WinterStores(unittest.TestCase):
    def test_the_examples_of_the_reference(self) -> None:
        """Six combs against twenty kilograms, and two sizes against twenty-five."""
        found = stores([StoredFrames("B_deep", 6, 80)], 20)
        self.assertEqual((found.stores_kg, found.deficit_kg, found.sugar_kg, found.syrup_l), (11.04, 8.96, 8.16, 9.14))
        found = stores([StoredFrames("A_deep", 4, 75), StoredFrames("A_medium", 10, 30)], 25)
        self.assertEqual((found.stores_kg, found.deficit_kg, found.sugar_kg, found.syrup_l), (13.5, 11.5, 10.48, 11.74))
        thin = stores([StoredFrames("A_deep", 4, 75), StoredFrames("A_medium", 10, 30)], 25, "1:1")
        self.assertAlmostEqual(thin.syrup_l / thin.sugar_kg, 1.62, places=2)

    def test_enough_is_enough(self) -> None:
        """Over the target nothing is lacking; a comb of another size goes by its face."""
        self.assertEqual(stores([StoredFrames("A_jumbo", 10, 100)], 20).syrup_l, 0)
        self.assertAlmostEqual(stores([StoredFrames("other", 2, 100, 10.0)], 20).stores_kg, 6.2)
        self.assertEqual(
            set(FULL_KG), {"A_deep", "A_medium", "A_shallow", "A_jumbo", "B_deep", "B_shallow", "B_extra_deep"}
        )

    def test_by_when_to_feed(self) -> None:
        """A fortnight before the cold, a week before what sets hard; part of a day is a day."""
        cold, ivy = date(2026, 10, 15), date(2026, 9, 25)
        found = feed_by(9.14, cold, ivy)
        self.assertEqual((found.days, found.start_by, found.finish_by), (10, date(2026, 9, 8), date(2026, 9, 18)))
        found = feed_by(9.14, cold)
        self.assertEqual((found.start_by, found.finish_by), (date(2026, 9, 21), date(2026, 10, 1)))
        self.assertEqual(feed_by(6, cold, rate_l_day=2).days, 3)
        self.assertEqual(feed_by(9.14, cold, date(2026, 11, 1)).finish_by, date(2026, 10, 1))


class ShoppingAndMixing(unittest.TestCase):
    def test_the_purchases_of_the_reference(self) -> None:
        """Strips for four colonies in packs of ten, trays by strength, formic strips for six; an apiary of mixed sizes."""
        strips = shopping(CATALOGUE.option("AMZ_STRIP"), [7, 10, 16, 4], 10, [1, 1, 2, 1])
        self.assertEqual((strips.per_colony, strips.units, strips.packs, strips.left_over), ([2, 2, 4, 1], 9, 1, 1))
        gel = shopping(CATALOGUE.option("THY_GEL"), [9, 4], 50)
        self.assertEqual((gel.per_colony, gel.units, gel.packs), ([100, 50], 150, 3))
        formic = shopping(CATALOGUE.option("FA_STRIP2"), [9] * 6, 20)
        self.assertEqual((formic.units, formic.packs, formic.left_over), (12, 1, 8))
        pads = shopping(CATALOGUE.option("FA_PAD"), [9, 18], 1000, [1, 2])
        self.assertEqual(pads.per_colony, [72, 144])
        self.assertEqual(shopping(CATALOGUE.option("OX_EXT"), [7], 10).per_colony, [3])
        vapour = shopping(CATALOGUE.option("OX_VAP1"), [12, 9], 35, [2, 1])
        self.assertEqual(vapour.per_colony, [4, 2])

    @given(st.lists(st.floats(1, 20), min_size=1, max_size=20), st.integers(1, 50), st.floats(0, 100))
    def test_packs_suffice(self, frames: list[float], pack: int, spare: float) -> None:
        """They hold what is needed, and one less would not."""
        found = shopping(CATALOGUE.option("AMZ_STRIP"), frames, pack, spare_pct=spare)
        self.assertGreaterEqual(found.units, sum(found.per_colony) * (1 + spare / 100) - 1e-6)
        self.assertEqual(found.packs * pack - found.units, found.left_over)
        self.assertTrue(0 <= found.left_over < pack)

    def test_recipes(self) -> None:
        """The two of the reference, and any solution that was computed leads back to its strength."""
        strong, weak = oxalic_from_recipe(75, 1000, 1000), oxalic_from_recipe(35, 1000, 1000)
        self.assertEqual((strong.final_ml, strong.strength_dihydrate_wv, strong.strength_anhydrous_wv), (1665.0, 4.5, 3.22))  # fmt: skip
        self.assertEqual((weak.final_ml, weak.strength_dihydrate_wv), (1641.0, 2.13))
        self.assertIsNotNone(weak.caution)
        mixed = oxalic_solution(1000, 3.2, "anhydrous_wv")
        back = oxalic_from_recipe(mixed.dihydrate_g, mixed.sugar_g, mixed.water_ml)
        self.assertAlmostEqual(back.strength_anhydrous_wv, 3.2, places=2)

    def test_hours_of_heat(self) -> None:
        """The three days of the reference: a warm one near the limit, a hot one over it, a cool one."""
        for tmin, tmax, expected in ((15, 29, (0, 5, "moderate")), (17, 31, (5, 9, "high")), (12, 24, (0, 0, "low"))):
            found = hot_hours(tmin, tmax, 29.5)
            self.assertEqual((found.hours_over, found.hours_near, found.risk), expected)

    def test_the_window_of_the_reference(self) -> None:
        """First usable and first clear day of the worked forecast."""
        forecast = {
            "start": "2026-08-15", "tmax": [28, 31, 30.2, 29.4, 28.7, 27.5, 26, 25, 26, 27, 25.5, 24], "tmin": [15] * 12,
            "rain_mm": [0, 0, 0, 0, 0, 0, 7, 1, 3, 0, 0, 0],
        }  # fmt: skip
        found = calculator("window")({"option": "FA_STRIP2", "forecast": forecast})
        self.assertEqual((str(found["first_usable"]), str(found["first_clear"])), ("2026-08-18", "2026-08-20"))
        self.assertEqual(
            [(one["result"], list(one["rules"])) for one in found["days"]][3:9],
            [("caution", ["T64"]), ("caution", ["T64"]), ("ok", []), ("no", ["T63"]), ("ok", []), ("caution", ["T63"])],
        )


if __name__ == "__main__":
    unittest.main()
