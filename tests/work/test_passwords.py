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
            "password1234", "P@ssw0rd1234", "iloveyou2031", "qwertyuiop123", "1q2w3e4r5t6y", "123456789012", "aaaaaaaaaaaa",
            "abcabcabcabc", "1205197512051975", "aldithmarsh1", "AldithMarsh1", "corrane.example", "redframe2031",
        ):  # fmt: skip
            with self.subTest(password=password):
                self.assertEqual(self.code(password), "too_common")

    def test_how_long(self) -> None:
        """Twelve characters at least, whatever they are, and no more than a hundred and twenty-eight."""
        self.assertEqual(self.code("kV9#x!q2mZw"), "too_short")
        self.assertEqual(self.code("kelp bramble 7 otter " * 7), "too_long")
        self.assertEqual(self.code(""), "too_short")

    def test_what_is_taken(self) -> None:
        """Words that belong together for nobody else, in any language, and what a manager makes."""
        for password in (
            "heather and gorse", "drei Bienen im Regen", "kV9#x!q2mZw4", "three-late-skeps", "рой под ясенем", "x1Yz" + "kelp bramble 7 otter " * 5,
        ):  # fmt: skip
            with self.subTest(password=password):
                self.assertEqual(self.code(password), "")

    def test_a_long_one_takes_no_longer(self) -> None:
        """The worst that a field lets through is answered within a moment of computing."""
        started = time.process_time()
        self.code("x" * 128)
        self.code("1" * 64 + "a" * 64)
        self.assertLess(time.process_time() - started, 5)
