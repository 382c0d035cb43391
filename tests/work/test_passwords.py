"""Which passwords are taken, and that none is found among the first anybody would try."""

from __future__ import annotations

import time
import unittest

from redframe.core.errors import InvalidInput
from redframe.work.members.passwords import check_new_password

ABOUT = ("aldith.marsh@corrane.example", "Aldith Marsh")


class NewPasswords(unittest.TestCase):
    def code(self, password: str) -> str:
        """Why it is not taken; empty where it is."""
        try:
            check_new_password(password, "new", ABOUT)
        except InvalidInput as refused:
            self.assertEqual(refused.field, "new")
            return refused.code
        return ""

    def test_what_everybody_tries_first(self) -> None:
        """Common ones with a year or in another spelling, rows of keys, repetitions, dates, the own name, the product's."""
        for password in (
            "password1234", "P@ssw0rd123", "iloveyou2031", "qwertyuiop", "1q2w3e4r5t", "1234567890", "aaaaaaaaaaaa",
            "abcabcabcabc", "12.05.1975", "aldithmarsh", "AldithMarsh1", "corrane.example", "redframe2031",
        ):  # fmt: skip
            with self.subTest(password=password):
                self.assertEqual(self.code(password), "too_common")

    def test_what_is_short(self) -> None:
        """Ten characters at least, whatever they are."""
        self.assertEqual(self.code("kV9#x!q2"), "too_short")
        self.assertEqual(self.code(""), "too_short")

    def test_what_is_taken(self) -> None:
        """Words that belong together for nobody else, in any language, and what a manager makes; as long as one likes."""
        for password in (
            "heather and gorse", "drei Bienen im Regen", "kV9#x!q2mZ", "three-late-skeps", "рой под ясенем", "x1Yz" + "kelp bramble 7 otter " * 9,
        ):  # fmt: skip
            with self.subTest(password=password):
                self.assertEqual(self.code(password), "")

    def test_a_long_one_takes_no_longer(self) -> None:
        """The worst that a field lets through is answered within a moment of computing."""
        started = time.process_time()
        self.code("x" * 200)
        self.code("1" * 100 + "a" * 100)
        self.assertLess(time.process_time() - started, 5)
