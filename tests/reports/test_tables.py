"""Workbook and CSV: opened by other libraries, figures as figures, sums recomputed, nothing a formula."""

from __future__ import annotations

import csv
import io
import unittest
from typing import Any

from openpyxl import load_workbook

from tests.builders import circuit, flat, job, laid, rcbo
from tests.core.board.made import housed
from tests.reports.reading import report_data
from vivid_lattice.core.actions.move_device import lay_out
from vivid_lattice.core.document.job import CablePrice, DevicePrice, Prices
from vivid_lattice.demo import DEMOS
from vivid_lattice.files import file_name
from vivid_lattice.reports.catalogue import export
from vivid_lattice.reports.tables import TABLE_TITLES, material, table
from vivid_lattice.safe_text import escape_formula, unmarked

HOSTILE = ('=HYPERLINK("http://x","y")', "+1+1", "-2", "@SUM(A1)", "\t=1", "a\x00b\x0bc")


def book(content: bytes) -> Any:
    return load_workbook(io.BytesIO(content))


def written(cell: Any) -> Any:
    """A cell as a workbook keeps it: fifteen digits, and nothing for nothing."""
    return float(f"{cell:.14g}") if isinstance(cell, int | float) else cell or None


def read_csv(content: bytes) -> list[list[str]]:
    return list(csv.reader(io.StringIO(content.decode("utf-8-sig"), newline="")))


class Workbook(unittest.TestCase):
    """XLSX by openpyxl."""

    def test_every_cell_is_the_tables_own(self) -> None:
        for name in ("millrace", "honey-house", "bakehouse"):
            held = report_data(name)
            made = book(export(held, "xlsx").content)
            self.assertEqual(made.sheetnames, list(TABLE_TITLES.values()))
            for id_, title in TABLE_TITLES.items():
                wanted = table(held, id_)
                rows = list(made[title].iter_rows(values_only=True))
                self.assertEqual(rows[0], wanted.heads)
                for row, cells in zip(rows[1:], wanted.rows, strict=False):
                    self.assertEqual([written(cell) for cell in row], [written(cell) for cell in cells])

    def test_blanks_are_bought_for_what_stays_open_and_for_nothing_else(self) -> None:
        def blanks(modules: int) -> list[Any]:
            laid_out = lay_out(housed(job(), 1, modules), "main")[0]
            return [row[3] for row in table(report_data(laid_out), "material").rows if "blanks" in str(row[1])]

        # A main switch of two modules and an RCBO of one.
        self.assertEqual((blanks(3), blanks(12)), ([], [9.0]))

    def test_sums_are_those_of_their_rows(self) -> None:
        prices = Prices(
            devices=(DevicePrice(kind="rcbo", each=31.5), DevicePrice(kind="rcbo", rating_a=32.0, each=40.0)),
            cables=(CablePrice(type="flat-twin-pvc", area_mm2=2.5, per_m=0.9),),
        )
        two = (circuit(), circuit(id="c2", name="Cooker", device=rcbo(32.0), cable=flat(6.0), run=(laid(10.0),)))
        rows = list(
            book(export(report_data(job(*two, prices=prices)), "xlsx").content)["Material"].iter_rows(values_only=True)
        )
        costs = [row[8] for row in rows[1:-1] if row[8] is not None]
        # 21 m of 2.5 mm² from a ring of 25 m at 0.90 a metre; a B16 at 31.50 by its kind; a B32 at 40.00 by its rating.
        self.assertEqual(sorted(round(cost, 2) for cost in costs), [22.5, 31.5, 40.0])
        packs, each = ([row[at] for row in rows[1:-1] if row[8] is not None] for at in (6, 7))
        self.assertEqual([round(a * b, 2) for a, b in zip(packs, each, strict=True)], [round(c, 2) for c in costs])
        self.assertAlmostEqual(rows[-1][8], 94.0)

    def test_no_cell_is_ever_a_formula(self) -> None:
        many = [circuit(id=f"c{n}", name=name.replace("\x00", "")) for n, name in enumerate(HOSTILE)]
        made = book(export(report_data(job(*many)), "xlsx").content)
        for sheet in made:
            for row in sheet.iter_rows():
                for cell in row:
                    self.assertNotEqual(cell.data_type, "f", cell.value)


class Csv(unittest.TestCase):
    """CSV by the standard library."""

    def test_a_text_that_looks_like_a_formula_is_marked_as_text(self) -> None:
        many = [circuit(id=f"c{n}", name=name) for n, name in enumerate(HOSTILE)]
        rows = read_csv(export(report_data(job(*many)), "circuits-csv").content)
        names = [row[2] for row in rows[1:]]
        for name, given in zip(names, HOSTILE, strict=True):
            self.assertFalse(name.startswith(("=", "+", "-", "@", "\t")), name)
            self.assertNotIn("\x00", name)
            if "\x00" not in given:
                self.assertEqual(unmarked(name), given)

    def test_every_table_has_a_row_a_thing(self) -> None:
        for name in DEMOS:
            held = report_data(name)
            rows = read_csv(export(held, "findings-csv").content)
            self.assertEqual(len(rows) - 1, len(held.assessment.findings))
            self.assertEqual(len(read_csv(export(held, "circuits-csv").content)) - 1, len(held.circuits))
            self.assertEqual(len(read_csv(export(held, "material-csv").content)) - 2, len(material(held).rows))

    def test_figures_are_plain_numbers(self) -> None:
        rows = read_csv(export(report_data(), "findings-csv").content)
        values = [row[4] for row in rows[1:] if row[4]]
        self.assertTrue(values and all(float(value) >= 0 for value in values))


class Harmless(unittest.TestCase):
    """Texts and file names."""

    def test_marking_is_undone_by_reading(self) -> None:
        for text in (*HOSTILE, "'tis", "plain", "", "'"):
            self.assertEqual(unmarked(escape_formula(text)), text)

    def test_a_file_name_leads_nowhere_and_is_short(self) -> None:
        for title in ("../../etc/passwd", "a" * 500, "C:\\x\\y", "nul", "..", "\u202eevil\n", "名前", "-rf /"):
            made = file_name(title, suffix="pdf")
            with self.subTest(title):
                self.assertNotRegex(made, r'[/\\:*?"<>|\s]')
                self.assertNotIn("..", made)
                self.assertTrue(made.endswith(".pdf") and 4 < len(made) < 80 and not made.startswith(("-", ".")))
        self.assertEqual(file_name("名前", "design report", "", "r3", suffix="pdf"), "名前-design-report-r3.pdf")


if __name__ == "__main__":
    unittest.main()
