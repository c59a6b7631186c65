"""A quote from the shell: the same figures as in the workbook, recalculated; and a client's copy without any cost price."""

from __future__ import annotations

import csv
import io
import json
import re
import tempfile
import unittest
from contextlib import redirect_stdout
from decimal import ROUND_HALF_UP, Decimal
from pathlib import Path
from typing import Any

from openpyxl import load_workbook
from pypdfium2 import PdfDocument

from tests.browser.test_testing import house
from tests.reports.reading import report_data
from vivid_lattice.cli.main import main
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.job_file import to_text
from vivid_lattice.reports.catalogue import export

#: Prices that no other figure of a job can be mistaken for.
ODD = [73.13, 19.37, 41.79, 7.93, 3.67, 11.59, 29.83]


def run(*args: str) -> tuple[int, str]:
    out = io.StringIO()
    with redirect_stdout(out):
        code = main(list(args))
    return code, out.getvalue()


def rounded(amount: Decimal) -> Decimal:
    return amount.quantize(Decimal("0.01"), ROUND_HALF_UP)


class Quoted(unittest.TestCase):
    """A typed job, a price list that was filled in, and what comes of them."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.job = house("kitchen ring 40m", "lights 30m", "cooker 32A 12m")
        self.file = self.folder / "job.json"
        self.file.write_text(to_text(self.job), "utf-8")
        self.prices = self.folder / "prices.csv"
        self.prices.write_bytes(self.filled(self.job))
        self.terms = ("--prices", str(self.prices), "--rate", "45", "--tax", "20")

    def filled(self, job: Job) -> bytes:
        """The price list to fill in, with a price in each row but one."""
        raw = export(report_data(job), "price-list-csv").content.decode("utf-8-sig")
        rows = list(csv.reader(io.StringIO(raw, newline="")))
        for number, row in enumerate(rows[1:]):
            row[2] = str(ODD[number % len(ODD)]) if number != 1 else ""
        out = io.StringIO(newline="")
        csv.writer(out).writerows(rows)
        return out.getvalue().encode()

    def quote(self, *more: str) -> dict[str, Any]:
        code, text = run("quote", str(self.file), *self.terms, "--json", *more)
        self.assertEqual(code, 0)
        result: dict[str, Any] = json.loads(text)
        return result

    def test_the_list_is_read_back_with_the_empty_row_named(self) -> None:
        said = self.quote()
        self.assertEqual([re.sub(r"^\d+: ", "", each) for each in said["rows_left_out"]], ["Price is empty"])
        self.assertGreater(said["cost"], 100)

    def test_every_sum_is_that_of_the_workbook_recalculated(self) -> None:
        path = self.folder / "quote.xlsx"
        said = self.quote("-o", str(path))
        book = load_workbook(path)
        rows = list(book["Material"].iter_rows(min_row=2, values_only=True))[:-1]
        costs = [rounded(Decimal(str(row[3])) * Decimal(str(row[5]))) for row in rows if row[6] is not None]
        self.assertEqual([Decimal(str(row[6])).quantize(Decimal("0.01")) for row in rows if row[6] is not None], costs)
        cost = sum(costs)
        self.assertEqual(int(cost * 100), said["sums"]["cost"])
        hours = sum(Decimal(str(row[3])) for row in book["Work"].iter_rows(min_row=2, values_only=True))
        self.assertAlmostEqual(float(hours), said["hours"], places=2)
        labour = rounded(Decimal(str(said["hours"])) * 45)
        sums = {row[0]: row[1] for row in book["Price"].iter_rows(min_row=2, values_only=True)}
        net = cost + labour
        self.assertEqual(Decimal(str(sums["Net"])).quantize(Decimal("0.01")), net)
        self.assertEqual(Decimal(str(sums["Total"])).quantize(Decimal("0.01")), net + rounded(net * Decimal("0.2")))
        self.assertEqual(int((net + rounded(net * Decimal("0.2"))) * 100), said["sums"]["gross"])

    def test_the_client_sees_no_cost_price_anywhere(self) -> None:
        said = self.quote()
        secret = {line[name] for line in said["material"] for name in ("each", "cost") if line[name] is not None}
        secret |= {said["sums"][name] / 100 for name in ("cost", "material", "labour")}
        secret = {round(each, 2) for each in secret if each != int(each)}
        self.assertGreater(len(secret), 8)
        for suffix in ("pdf", "xlsx"):
            path = self.folder / f"client.{suffix}"
            code, _ = run("quote", str(self.file), *self.terms, "--client", "-o", str(path))
            self.assertEqual(code, 0)
            text = (pdf_text(path) if suffix == "pdf" else book_text(path)).replace(",", "")
            numbers = {float(each) for each in re.findall(r"\d+(?:\.\d+)?", text)}
            self.assertIn(said["sums"]["gross"] / 100, numbers)
            self.assertEqual(secret & numbers, set())
        ours = self.folder / "ours.pdf"
        run("quote", str(self.file), *self.terms, "-o", str(ours))
        self.assertIn("73.13", pdf_text(ours))

    def test_without_a_rate_there_is_no_quote_and_the_shell_says_why(self) -> None:
        code, text = run("quote", str(self.file), "--prices", str(self.prices))
        self.assertEqual(code, 1)
        self.assertIn("hourly rate is not stated", text)

    def test_bad_files_are_told(self) -> None:
        wrong = self.folder / "wrong.csv"
        wrong.write_bytes(b"%PDF-1.4")
        code, _ = run("quote", str(self.file), "--prices", str(wrong))
        self.assertNotEqual(code, 0)

    def test_the_plan_prints_fixings_cuts_and_material(self) -> None:
        code, text = run("plan", str(Path(__file__).parents[1] / "src/vivid_lattice/demo/millrace.json"), "--json")
        said = json.loads(text)
        self.assertIn(code, (0, 1))
        self.assertTrue(said["fixings"] and said["drill_list"] and said["chases"] and said["marks"])
        cut = next(each for each in said["cuts"] if each["article"] == "cable:flat-twin-pvc:2x2.5")
        pieces = sorted(round(piece["length_m"] * 1000) for piece in cut["pieces"])
        self.assertEqual(sorted(mm for each in cut["plan"] for mm in each["pieces_mm"]), pieces)
        self.assertTrue(all(each["from_mm"] - sum(each["pieces_mm"]) == each["rest_mm"] for each in cut["plan"]))


def pdf_text(path: Path) -> str:
    document = PdfDocument(path)
    return "\n".join(page.get_textpage().get_text_bounded() for page in document)


def book_text(path: Path) -> str:
    book = load_workbook(path)
    return "\n".join(
        str(cell) for sheet in book for row in sheet.iter_rows(values_only=True) for cell in row if cell is not None
    )
