"""Candidates on pictures of boards, and what a person makes of them."""

from __future__ import annotations

import unittest

import numpy as np
from bench.board_pictures import HEIGHT_MM, WIDTH_MM, draw, matched

from redframe.core.errors import InvalidInput
from redframe.core.sampling.board_marks import Mark, PictureReading, check_squares, mites_by_square, square_of
from redframe.core.sampling.board_picture import find_candidates
from redframe.demo.board_pictures import draw_board


class CountFinding(unittest.TestCase):
    def test_most_mites_are_found_on_a_usual_board_of_another_hand(self) -> None:
        """Pictures that the weights were not fitted on: recall over 85 %, and most of what is marked is a mite."""
        found = hits = mites = 0
        for number in range(3):
            random = np.random.default_rng([1, 60, number])
            picture, places = draw(random, 30, 1, 5.0)
            candidates = find_candidates(picture, float(WIDTH_MM))
            found, hits, mites = found + len(candidates), hits + matched(candidates, places), mites + len(places)
        self.assertGreater(hits / mites, 0.85)
        self.assertGreater(hits / found, 0.5)

    def test_an_empty_board_has_hardly_any(self) -> None:
        """Wax, pollen and legs alone: fewer than three marks on a clean board."""
        picture = draw_board(np.random.default_rng(5), 0, "clean", width_mm=120, height_mm=80, px_per_mm=5)
        self.assertLess(len(find_candidates(picture.pixels, 120.0)), 3)
        self.assertEqual(find_candidates(np.full((400, 600, 3), 230, dtype=np.uint8), 100.0), [])

    def test_places_and_lengths_are_told_in_shares_and_millimetres(self) -> None:
        """A single mite: one candidate, at its place, about 1.7 mm long, whatever the size of the picture."""
        for px_per_mm in (4.0, 9.0):
            picture = draw_board(np.random.default_rng(11), 1, "clean", width_mm=60, height_mm=40, px_per_mm=px_per_mm)
            best = find_candidates(picture.pixels, 60.0)[0]
            self.assertLess(abs(best.x - picture.mites[0][0]) * 60, 0.5)
            self.assertLess(abs(best.y - picture.mites[0][1]) * 40, 0.5)
            self.assertTrue(1.2 < best.length_mm < 2.4, best)

    def test_a_picture_too_coarse_is_refused(self) -> None:
        """Half a metre on 800 pixels: a mite would be three pixels long."""
        with self.assertRaisesRegex(InvalidInput, "^width_mm:"):
            find_candidates(np.zeros((500, 800, 3), dtype=np.uint8), 500.0)

    def test_the_two_generators_draw_differently(self) -> None:
        """The one that measures is no copy of the one that the weights were fitted on: another size, other colours."""
        one = draw_board(np.random.default_rng(1), 10, "usual", width_mm=WIDTH_MM, height_mm=HEIGHT_MM, px_per_mm=4.0)
        other, _ = draw(np.random.default_rng(1), 10, 1, 4.0)
        self.assertEqual(one.pixels.shape, other.shape)
        self.assertGreater(float(np.abs(one.pixels.mean((0, 1)) - other.mean((0, 1))).max()), 3)


class Marks(unittest.TestCase):
    MARKS = (
        Mark(0.1, 0.1, True, True), Mark(0.2, 0.1, True, False), Mark(0.9, 0.9, False, True), Mark(1.0, 1.0, True, True),
    )  # fmt: skip

    def test_squares_are_what_was_kept_in_them(self) -> None:
        """Struck marks do not count, nor those beyond the counted squares; the far corner belongs to the last square."""
        self.assertEqual(square_of(1.0, 1.0, 6, 4), 23)
        self.assertEqual(mites_by_square(PictureReading(2, 2, (3, 0), self.MARKS)), (2, 1))
        self.assertEqual(mites_by_square(PictureReading(2, 2, (1,), self.MARKS)), (0,))
        check_squares((2, 1), PictureReading(2, 2, (3, 0), self.MARKS))
        with self.assertRaisesRegex(InvalidInput, "^squares:"):
            check_squares((3, 1), PictureReading(2, 2, (3, 0), self.MARKS))

    def test_what_cannot_be(self) -> None:
        """No square, one twice, one that there is not, a mark beyond the picture."""
        for field, counted, marks in (
            ("picture.counted", (), ()), ("picture.counted", (1, 1), ()), ("picture.counted", (4,), ()),
            ("picture.marks[0]", (0,), (Mark(1.2, 0.5, True, True),)),
        ):  # fmt: skip
            with self.subTest(field=field, counted=counted), self.assertRaises(InvalidInput) as refused:
                mites_by_square(PictureReading(2, 2, counted, marks))
            self.assertEqual(refused.exception.field, field)
