"""Tables of counts as people really write them: what is read, what is refused and where, what goes out and what does not."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime, timedelta, timezone

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput
from redframe.core.sampling.jar import JarSample
from redframe.outlets.count_table import ReadTable, read_counts
from redframe.outlets.tables import MOST_BYTES, MOST_LINES

ZONE = timezone(timedelta(hours=-1))
NOW = datetime(2031, 8, 2, 13, tzinfo=UTC)
HEAD = "apiary,colony,date,method,mites,bees\n"


def read(text: str | bytes, now: datetime = NOW) -> ReadTable:
    """A table as the application reads it."""
    return read_counts(text.encode() if isinstance(text, str) else text, ZONE, now)


def jar(line: str, head: str = HEAD) -> JarSample:
    """The jar of the one line of a table."""
    table = read(head + line)
    assert not table.refused, table.refused
    [row] = table.rows
    return row.jar


def refused(line: str, head: str = HEAD) -> tuple[str, str]:
    """The column at which the one line of a table is refused, and why."""
    table = read(head + line)
    assert not table.rows, table.rows
    [row] = table.refused
    return row.field, row.why


class Tables(unittest.TestCase):
    def test_as_spreadsheets_write_it(self) -> None:
        """Comma, semicolon or tab; a mark of the byte order; Windows line ends; headings in any case and with spaces."""
        for text in (
            "apiary,colony,date,mites\nTarn Head,T1,2031-08-01,5\n",
            "apiary;colony;date;mites\r\nTarn Head;T1;2031-08-01;5\r\n",
            "apiary\tcolony\tdate\tmites\nTarn Head\tT1\t2031-08-01\t5",
            "\ufeffapiary,colony,date,mites\nTarn Head,T1,2031-08-01,5\n",
            " Apiary , COLONY,Date,Mites \n Tarn Head , T1 , 2031-08-01 , 5 \n",
            'apiary,colony,date,mites\n"Tarn Head","T1","2031-08-01","5"\n',
        ):
            table = read(text)
            with self.subTest(text=text[:20]):
                [row] = table.rows
                self.assertEqual((row.line, row.apiary, row.colony, row.taken_on, row.jar.shakes), (2, "Tarn Head", "T1", date(2031, 8, 1), (5,)))  # fmt: skip
                self.assertEqual(row.jar.known_by, "not_recorded")

    def test_columns_in_any_order_and_more_of_them(self) -> None:
        """What is not asked for is left alone; a name with a comma in quotes is one name."""
        table = read('weather,mites,date,colony,apiary\nfair,3,2031-08-01,T1,"Head, Tarn"\n')
        self.assertEqual([(row.apiary, row.jar.shakes) for row in table.rows], [("Head, Tarn", (3,))])

    def test_what_is_no_table(self) -> None:
        """Empty, other columns, a picture, too large, too long: refused as a file, with what it needs."""
        for content, words in (
            (b"", "no column apiary"),
            (b"\n\n", "no column apiary"),
            (b"apiary,colony,date\n", "no column mites"),
            (b"\x89PNG\r\n\x1a\n\x00\xff\xfe", "not a CSV"),
            (b"a" * (MOST_BYTES + 1), "larger than 2 MB"),
            (HEAD.encode() + b"T,T1,2031-08-01,wash,1,300\n" * (MOST_LINES + 1), f"more than {MOST_LINES}"),
        ):
            with self.subTest(words=words), self.assertRaises(InvalidInput) as caught:
                read(content)
            self.assertEqual(caught.exception.field, "file")
            self.assertIn(words, caught.exception.message)
        self.assertEqual(len(read(HEAD + "T,T1,2031-08-01,wash,1,300\n" * MOST_LINES).rows), MOST_LINES)

    def test_empty_lines_are_no_lines(self) -> None:
        """Left out without a word; the numbers of the lines are those of the file."""
        table = read(HEAD + "\n,,,,,\nTarn Head,T1,2031-08-01,wash,5,300\n\n")
        self.assertEqual([row.line for row in table.rows], [4])
        self.assertEqual(table.refused, [])

    def test_a_bad_line_does_not_spoil_the_others(self) -> None:
        """Each line that cannot be is named with its number, its apiary and colony, and the rest is read."""
        table = read(
            HEAD
            + "Tarn Head,T1,2031-08-01,wash,5,300\nTarn Head,T2,soon,wash,5,300\nTarn Head,T3,2031-08-01,wash,2,300\n"
        )
        self.assertEqual([row.colony for row in table.rows], ["T1", "T3"])
        self.assertEqual(
            [(row.line, row.colony, row.field, row.taken) for row in table.refused], [(3, "T2", "date", False)]
        )


class Lines(unittest.TestCase):
    def test_mites_shake_by_shake(self) -> None:
        """One number, or shakes with plus signs and any spaces; nothing else is a count."""
        for text, shakes in (
            ("0", (0,)),
            ("12", (12,)),
            ("5+1+0", (5, 1, 0)),
            (" 5 + 1 ", (5, 1)),
            ("1+1+1+1+1+1+1+1", (1,) * 8),
        ):
            self.assertEqual(jar(f"T,T1,2031-08-01,wash,{text},300\n").shakes, shakes)
        for text in ("", "five", "-1", "5.5", "5+", "+5", "5++1", "1+1+1+1+1+1+1+1+1", "123456", "5;1", "5 1"):
            with self.subTest(mites=text):
                self.assertEqual(refused(f'T,T1,2031-08-01,wash,"{text}",300\n')[0], "mites")

    def test_methods_by_their_names(self) -> None:
        """In any case, with or without roll; none is a wash; a board is no jar."""
        for text, method in (
            ("", "wash"),
            ("Wash", "wash"),
            ("sugar", "sugar"),
            ("Sugar Roll", "sugar"),
            ("CO2", "co2"),
            ("co2 roll", "co2"),
        ):
            self.assertEqual(jar(f"T,T1,2031-08-01,{text},5,300\n").method, method)
        for text in ("board", "smoke", "washing"):
            self.assertEqual(refused(f"T,T1,2031-08-01,{text},5,300\n")[0], "method")

    def test_days(self) -> None:
        """A day that is none is refused; the moment is noon there, and never lies ahead of now."""
        self.assertEqual(jar("T,T1,2031-08-01,wash,5,300\n").taken_at, datetime(2031, 8, 1, 12, tzinfo=ZONE))
        self.assertEqual(jar("T,T1,2031-08-02,wash,5,300\n").taken_at, NOW.astimezone(ZONE) if datetime(2031, 8, 2, 12, tzinfo=ZONE) > NOW else datetime(2031, 8, 2, 12, tzinfo=ZONE))  # fmt: skip
        for text in ("", "1 August", "01/08/2031", "2031-02-30", "2031-8-1", "31-08-01"):
            with self.subTest(date=text):
                self.assertEqual(refused(f"T,T1,{text},wash,5,300\n")[0], "date")

    def test_how_the_bees_are_known(self) -> None:
        """Counted, by volume, by mass, or not at all; a decimal comma is a point; two ways at once are refused."""
        head = "apiary;colony;date;mites;bees;ml;g\n"
        found = jar("T;T1;2031-08-01;5;300;;\n", head)
        self.assertEqual((found.known_by, found.bees), ("counted", 300))
        found = jar("T;T1;2031-08-01;5;;118,5;\n", head)
        self.assertEqual((found.known_by, found.volume_ml), ("volume_level", 118.5))
        found = jar("T;T1;2031-08-01;5;;;42.5\n", head)
        self.assertEqual((found.known_by, found.mass_g), ("mass_dry", 42.5))
        self.assertEqual(jar("T;T1;2031-08-01;5;;;\n", head).known_by, "not_recorded")
        self.assertEqual(refused("T;T1;2031-08-01;5;300;120;\n", head)[0], "ml")
        for text in ("many", "300.5", "nan", "inf", "1e999", "-inf", "NaN"):
            with self.subTest(bees=text):
                self.assertEqual(refused(f"T;T1;2031-08-01;5;{text};;\n", head)[0], "bees")
        for text in ("much", "nan", "inf", "-inf", "infinity"):
            with self.subTest(ml=text):
                self.assertEqual(refused(f"T;T1;2031-08-01;5;;{text};\n", head)[0], "ml")

    @settings(max_examples=200)
    @given(st.text(max_size=200))
    def test_any_text_is_answered(self, text: str) -> None:
        """A table, or a refusal of the file; every line read or refused lies inside it."""
        try:
            table = read(text.encode("utf-8", "surrogatepass"))
        except InvalidInput as error:
            self.assertEqual(error.field, "file")
            return
        self.assertLessEqual(len(table.rows) + len(table.refused), text.count("\n") + text.count("\r") + 1)

    @settings(max_examples=200)
    @given(st.lists(st.text(alphabet="0123456789+.,-naif eE\"';", max_size=12), min_size=3, max_size=3))
    def test_any_figures_are_answered(self, figures: list[str]) -> None:
        """Whatever stands in the columns of figures, the line is taken or refused at one of them."""
        day, mites, bees = ('"' + one.replace('"', "'") + '"' for one in figures)
        table = read(f"apiary,colony,date,mites,bees\nT,T1,{day},{mites},{bees}\n")
        for row in table.refused:
            self.assertIn(row.field, ("date", "mites", "bees"))
