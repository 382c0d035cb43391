"""Around a suspect case: the apiaries within reach, the visits to them, and the photos that it shows."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import Any
from uuid import uuid4

from redframe.core.errors import InvalidInput, Refused
from redframe.store.case_photos import CasePicture
from redframe.store.errors import StoreError
from redframe.work.cases import photos
from redframe.work.cases.around import Around, NewAroundVisit, around_case, record_around_visit
from tests.support import identity
from tests.work.test_cases import LOOKED, MENTOR, Case


class AroundCase(Case):
    def test_around_is_the_inspectors(self) -> None:
        """Apiaries within the outer radius, the nearest first; distances by another formula."""
        case = self.suspect().line.case.id
        with self.assertRaises(StoreError):
            self.at_work(lambda unit: around_case(unit, case), MENTOR)
        found = self.at_work(lambda unit: around_case(unit, case))
        self.assertEqual((found.inner_km, found.outer_km), (3, 5))
        far = [one.apiary.distance_m for one in found.apiaries]
        self.assertEqual(far, sorted(far))
        self.assertTrue(all(one <= 5000 for one in far))

    def test_photos_stay_with_the_case(self) -> None:
        """Kept once, seen by whoever sees the case; none of a closed case, none more than it may keep."""
        case = self.suspect().line.case.id
        picture, number = CasePicture(b"a", b"b", 10, 10), uuid4()
        for _ in range(2):
            kept = self.at_work(lambda unit: photos.add_photo(unit, case, number, picture, "the pit"))
        self.assertEqual([one.caption for one in kept], ["the pit"])
        self.assertEqual(self.at_work(lambda unit: photos.picture_of(unit, number, small=True), MENTOR), b"b")
        self.assertEqual([one.id for one in self.read(case, MENTOR).photos], [number])
        with self.assertRaises(StoreError):
            self.at_work(lambda unit: photos.picture_of(unit, number, small=True), identity("keeper", "Orla Fenwick"))
        look = {**LOOKED, "rope_negative": True, "scales_negative": True, "text": "nothing on 12 combs"}
        self.step(case, "not_supported", **look)
        self.step(case, "close", text="done")
        with self.assertRaises(Refused):
            self.at_work(lambda unit: photos.add_photo(unit, case, uuid4(), picture, ""))

    def test_the_inspection_around(self) -> None:
        """Not before it is open nor before the case was confirmed; each visit once; not found only after two and a
        letter; a place that nobody registered counts too; what was found after all comes before."""
        case = self.confirmed()
        near = self.at_work(lambda unit: around_case(unit, case)).apiaries[0].apiary.id

        def visit(outcome: Any, *, day: date | None = None, letter: bool = False, **more: Any) -> Around:
            new = NewAroundVisit(
                more.get("id", uuid4()), None if "place" in more else near, more.get("place", ""), day or self.now,
                outcome, letter, "",
            )  # fmt: skip
            found: Around = self.at_work(lambda unit: record_around_visit(unit, case, new))
            return found

        with self.assertRaises(Refused):
            visit("clear")
        self.step(case, "open_radius")
        for wrong, field in (
            (self.now - timedelta(days=1), "visited_on"),
            (self.now + timedelta(days=1), "visited_on"),
        ):
            with self.assertRaises(InvalidInput) as refused:
                visit("clear", day=wrong)
            self.assertEqual(refused.exception.field, field)
        number = uuid4()
        for _ in range(2):
            found = visit("not_found", id=number)
        self.assertEqual((found.apiaries[0].state, len(found.apiaries[0].visits), found.ended), ("to_see", 1, 0))
        self.assertEqual(visit("not_found").apiaries[0].state, "to_see")
        self.assertEqual(visit("not_found", letter=True).apiaries[0].state, "not_found")
        self.assertEqual(visit("suspect").apiaries[0].state, "suspect")
        found = visit("refused", place="Garden behind the chapel")
        self.assertEqual(
            [(one.place, one.state) for one in found.unregistered], [("Garden behind the chapel", "refused")]
        )
        self.assertEqual(found.ended, 2)
        with self.assertRaises(StoreError):
            new = NewAroundVisit(uuid4(), near, "", self.now, "clear", False, "")
            self.at_work(lambda unit: record_around_visit(unit, case, new), MENTOR)
        self.step(case, "end_radius", text="all seen")
        with self.assertRaises(Refused):
            visit("clear")


if __name__ == "__main__":
    unittest.main()
