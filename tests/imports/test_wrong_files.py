"""Files that are not taken in: each refused for its own reason, and nothing of it in the job."""

from __future__ import annotations

import io
import json
import unittest
import warnings
import zipfile
from collections.abc import Callable
from unittest.mock import patch

from openpyxl import Workbook
from openpyxl.utils import get_column_letter

from tests.builders import circuit, job
from tests.reports.reading import report_data
from vivid_lattice.core.bundle import BUNDLE, DOCUMENT, MANIFEST, Bundle, as_zip
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.job_file import to_text
from vivid_lattice.imports import table as tables
from vivid_lattice.imports.job_bundle import read_bundle
from vivid_lattice.imports.refusal import ImportRefused
from vivid_lattice.imports.table import MAX_BYTES, MAX_CELL, MAX_COLUMNS, MAX_ROWS, read_pasted, read_table
from vivid_lattice.reports.catalogue import export


def zipped(files: dict[str, bytes], *, packing: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", packing) as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return out.getvalue()


def workbook(*rows: tuple[object, ...]) -> bytes:
    book, out = Workbook(), io.BytesIO()
    for row in rows:
        book.active.append(row)
    book.save(out)
    return out.getvalue()


def changed(book: bytes, name: str, content: bytes) -> bytes:
    """A workbook with one of its parts replaced."""
    with zipfile.ZipFile(io.BytesIO(book)) as archive:
        return zipped({one: content if one == name else archive.read(one) for one in archive.namelist()})


_SHEET = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
GOOD = workbook(("Circuit", "Length"), ("Heater", 4))
ENTITIES = (
    b'<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><worksheet>&b;</worksheet>'
)

#: A file and what its refusal has to say.
TABLES: list[tuple[str, bytes, str]] = [
    ("empty", b"", "is empty"),
    ("blanks", b" \r\n\t\n", "is empty"),
    ("too large", b"a,b\n" + b"x" * MAX_BYTES, "over 4 MB"),
    ("PDF", b"%PDF-1.7\n...", "a PDF"),
    ("picture", b"\x89PNG\r\n\x1a\n....", "a picture"),
    ("photo", b"\xff\xd8\xff\xe0....", "a picture"),
    ("old spreadsheet", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1....", r"\.xls"),
    ("database", b"SQLite format 3\0....", "a database"),
    ("gzip", b"\x1f\x8b\x08....", "a compressed file"),
    ("rich text", b"{\\rtf1 x}", "a text document"),
    ("web page", b"<!DOCTYPE html><table><tr><td>1", "a web page"),
    ("XML", b'<?xml version="1.0"?><x/>', "a web page or XML"),
    ("job document", to_text(job()).encode(), "a JSON file, not a table"),
    ("bytes", b"a,b\n\x00\x01,2\n", "bytes that are not text"),
    ("no text", bytes(range(128, 160)) * 3, "Not a readable text|only one column"),
    ("half UTF-16", b"\xff\xfea\x00b", "broken UTF-16"),
    ("open quotation", b'Circuit,Length\n"Heater,4\nKiln,5\n', "quotation mark is not closed"),
    ("head alone", b"Circuit,Length\n", "no rows below it"),
    ("one column", b"Circuit\nHeater\nKiln\n", "only one column"),
    ("empty cells", b",,,\n,,,\n", "only empty cells"),
    ("too many rows", b"a,b\n" * (MAX_ROWS + 2), f"more than {MAX_ROWS} rows"),
    ("too many columns", b"a,b\n" + b"x," * MAX_COLUMNS + b"x\n", "columns"),
    ("endless cell", b"a,b\n" + b"x" * (MAX_CELL + 1) + b",2\n", "characters"),
    ("cut-off ZIP", GOOD[: len(GOOD) // 2], "damaged or incomplete"),
    ("ZIP of something else", zipped({"readme.txt": b"hello"}), "not a spreadsheet"),
    ("workbook without its parts", zipped({"xl/workbook.xml": b"<workbook/>"}), "damaged"),
    ("workbook with a broken sheet", changed(GOOD, "xl/worksheets/sheet1.xml", b"<worksheet><sheetData><row>"), "damaged|nothing but|no sheet"),
    ("workbook that multiplies", changed(GOOD, "xl/worksheets/sheet1.xml", ENTITIES), "damaged|no sheet"),
    ("workbook with nothing in it", workbook(), "no sheet with content"),
    ("bomb", changed(GOOD, "xl/worksheets/sheet1.xml", b"\0" * (70 * 1024 * 1024)), "would unpack"),
]  # fmt: skip


class WrongTables(unittest.TestCase):
    """Tables of circuits or prices."""

    def test_each_is_refused_for_its_own_reason(self) -> None:
        self.assertGreaterEqual(len(TABLES), 20)
        for name, raw, said in TABLES:
            with self.subTest(name), self.assertRaisesRegex(ImportRefused, said):
                read_table(raw)

    def test_reasons_differ(self) -> None:
        self.assertGreater(len({said for _, _, said in TABLES}), 20)

    def test_nothing_was_pasted(self) -> None:
        for text, said in (("", "Nothing was pasted"), ("\n\n", "Nothing was pasted"), ("one\n", "no rows below it")):
            self.assertRaisesRegex(ImportRefused, said, read_pasted, text)


def formatted(rows: int, columns: int) -> bytes:
    """A workbook with two cells filled in each row, and a format on all cells up to a column, as a spreadsheet saves it."""
    text = '<c r="{0}{1}" t="inlineStr"><is><t>{2}</t></is></c>'
    empty = [f"{get_column_letter(at)}" for at in range(3, columns + 1)]
    body = [
        f'<row r="{row}">{text.format("A", row, a)}{text.format("B", row, b)}'
        + "".join(f'<c r="{letters}{row}" s="0"/>' for letters in empty)
        + "</row>"
        for row, a, b in ((1, "Circuit", "Length"), *((row, f"Heater {row}", "4") for row in range(2, rows + 2)))
    ]
    body.append("".join(f'<row r="{row}" s="0" customFormat="1"/>' for row in range(rows + 2, rows + 5000)))
    sheet = f'<worksheet xmlns="{_SHEET}"><sheetData>{"".join(body)}</sheetData></worksheet>'
    return changed(GOOD, "xl/worksheets/sheet1.xml", sheet.encode())


class WideTables(unittest.TestCase):
    """Tables with formats, delimiters or texts far past what they hold: read at once, or refused at once."""

    def test_cells_that_are_only_formatted_are_not_read_one_by_one(self) -> None:
        with patch.object(tables, "_plain", wraps=tables._plain) as made:
            read = read_table(formatted(20, 16384))
        self.assertEqual((read.heads, len(read.rows), read.rows[-1]), (("Circuit", "Length"), 20, ("Heater 21", "4")))
        self.assertLessEqual(made.call_count, 21 * (MAX_COLUMNS + 1))

    def test_delimiters_without_end_are_no_columns(self) -> None:
        for raw in (b"a,b\n1,2" + b"," * 60_000, (b"a,b" + b"," * 16_382 + b"\n") * 20):
            self.assertEqual(read_table(raw).heads, ("a", "b"))

    def test_a_value_past_the_last_row_or_column_that_is_read_is_refused(self) -> None:
        book = Workbook()
        book.active["A1"], book.active["B1"], book.active["A1048576"] = "Circuit", "Length", "x"
        out = io.BytesIO()
        book.save(out)
        self.assertRaisesRegex(ImportRefused, f"more than {MAX_ROWS} rows", read_table, out.getvalue())
        self.assertRaisesRegex(
            ImportRefused, f"more than {MAX_COLUMNS} columns", read_table, b"a,b\n1" + b"," * MAX_COLUMNS + b"2\n"
        )
        self.assertEqual(len(read_table(b"a,b\n1" + b"," * (MAX_COLUMNS - 1) + b"2\n").rows[0]), MAX_COLUMNS)

    def test_more_texts_or_cells_than_a_table_has_are_refused(self) -> None:
        many = MAX_ROWS * MAX_COLUMNS + 1
        texts = f'<sst xmlns="{_SHEET}">{"<si/>" * many}</sst>'.encode()
        with zipfile.ZipFile(io.BytesIO(GOOD)) as archive:
            files = {name: archive.read(name) for name in archive.namelist()}
        self.assertRaisesRegex(ImportRefused, "texts", read_table, zipped(files | {"xl/sharedStrings.xml": texts}))
        cells = f'<worksheet xmlns="{_SHEET}"><sheetData><row r="1">{"<c><v>1</v></c>" * many}</row></sheetData></worksheet>'
        self.assertRaisesRegex(
            ImportRefused, "filled cells", read_table, changed(GOOD, "xl/worksheets/sheet1.xml", cells.encode())
        )


class RightTables(unittest.TestCase):
    """The same table in the forms in which it comes."""

    WANTED = (("Heater", "4,5"), ("Kiln é", "=1"))

    def test_whatever_parts_the_cells_and_however_it_is_coded(self) -> None:
        rows = [("Circuit", "Length"), *self.WANTED]
        for delimiter in (";", "\t"):
            text = "\r\n".join(delimiter.join(row) for row in rows)
            for coding in ("utf-8", "utf-8-sig", "utf-16", "cp1252"):
                with self.subTest(delimiter, coding=coding):
                    read = read_table(text.encode(coding))
                    self.assertEqual((read.heads, read.rows, read.first_row), (rows[0], self.WANTED, 2))

    def test_what_was_pasted(self) -> None:
        self.assertEqual(read_pasted("Circuit\tLength\r\nHeater\t4\r\n").rows, (("Heater", "4"),))

    def test_a_workbook_gives_figures_as_text_and_skips_empty_sheets_and_rows(self) -> None:
        book, out = Workbook(), io.BytesIO()
        sheet = book.create_sheet("Second")
        for row in ((None, None), ("Circuit", "Length", "Way"), ("Heater", 4.5, 3)):
            sheet.append(row)
        book.save(out)
        read = read_table(out.getvalue())
        self.assertEqual(
            (read.heads, read.rows, read.first_row), (("Circuit", "Length", "Way"), (("Heater", "4.5", "3"),), 3)
        )

    def test_a_title_above_the_head_is_passed_over(self) -> None:
        read = read_table(b"Board schedule,,\r\n,,\r\nCircuit,Length,Way\r\nHeater,4,1\r\n")
        self.assertEqual((read.heads, read.first_row), (("Circuit", "Length", "Way"), 4))

    def test_our_own_exports_are_read(self) -> None:
        held = report_data("lamp-cottage")
        one, other = (read_table(export(held, kind).content) for kind in ("circuits-csv", "xlsx"))
        self.assertEqual(one.heads, other.heads)
        self.assertEqual([row[2] for row in one.rows], [row[2] for row in other.rows])


def photo(content: bytes = b"\xff\xd8\xff\xd9") -> dict[str, bytes]:
    return {"photos/0001.jpg": content, "photos/0001-small.jpg": content}


def manifest(**more: object) -> bytes:
    return json.dumps({"format": BUNDLE, "photos": [], "trips": [], "ticks": []} | more).encode()


DOC = {DOCUMENT: to_text(job()).encode()}
SHOWN = {"board": "main", "way": None, "caption": "", "at": "2026-01-01", "width": 9, "height": 9}


def locked() -> bytes:
    """A ZIP whose files are marked as locked with a password."""
    raw = bytearray(zipped(DOC | {MANIFEST: manifest()}, packing=zipfile.ZIP_STORED))
    for mark, at in ((b"PK\x01\x02", 8), (b"PK\x03\x04", 6)):
        start = raw.find(mark)
        while start >= 0:
            raw[start + at] |= 1
            start = raw.find(mark, start + 1)
    return bytes(raw)


def lying() -> bytes:
    """A ZIP that says of a file that it is smaller than it is."""
    raw = bytearray(zipped(DOC | {MANIFEST: b" " * (9 * 1024 * 1024)}))
    at = raw.rfind(b"PK\x01\x02")
    raw[at + 24 : at + 28] = (100).to_bytes(4, "little")
    return bytes(raw)


def damaged() -> bytes:
    raw = bytearray(zipped({DOCUMENT: to_text(job()).encode(), MANIFEST: manifest()}, packing=zipfile.ZIP_STORED))
    at = raw.find(b'"format"')
    raw[at] ^= 0xFF
    return bytes(raw)


def doubled() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr(DOCUMENT, b"{}")
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            archive.writestr(DOCUMENT, b"{}")
    return out.getvalue()


BUNDLES: list[tuple[str, Callable[[], bytes], str]] = [
    ("empty", lambda: b"", "is empty"),
    ("no ZIP", lambda: b"hello", "Not a ZIP file"),
    ("cut off", lambda: as_zip(Bundle(job()))[:-40], "damaged or incomplete"),
    ("no document", lambda: zipped({"x": b""}), "has no “job.json”"),
    ("no manifest", lambda: zipped(DOC), "has no “bundle.json”"),
    ("no JSON", lambda: zipped(DOC | {MANIFEST: b"{"}), "not valid JSON"),
    ("another form", lambda: zipped(DOC | {MANIFEST: manifest(format="other/1")}), "has the format “other/1”"),
    ("a field too many", lambda: zipped(DOC | {MANIFEST: manifest(extra=1)}), "is damaged: extra"),
    ("a photo that is not there", lambda: zipped(DOC | {MANIFEST: manifest(photos=[SHOWN])}), "has no “photos/0001.jpg”"),
    ("a photo that is none", lambda: zipped(DOC | photo(b"hello") | {MANIFEST: manifest(photos=[SHOWN])}), "Photo 1 in the ZIP"),
    ("a photo of a board without a name", lambda: zipped(DOC | photo() | {MANIFEST: manifest(photos=[SHOWN | {"board": "x" * 99}])}), "photos"),
    ("a name that leads out", lambda: zipped(DOC | {"../evil": b""}), "unsafe path"),
    ("a name from the root", lambda: zipped(DOC | {"/etc/passwd": b""}), "unsafe path"),
    ("two files of a name", doubled, "two files with the same name"),
    ("too many files", lambda: zipped({f"f{n}": b"" for n in range(500)}), "500 files"),
    ("a bomb", lambda: zipped(DOC | {f"photos/{n}": b"\0" * (50 * 1024 * 1024) for n in range(5)}), "would unpack"),
    ("a lie about a size", lying, "larger than the ZIP says|damaged"),
    ("locked", locked, "password"),
    ("a bit turned over", damaged, "is damaged"),
]  # fmt: skip


class WrongBundles(unittest.TestCase):
    """Jobs with photos."""

    def test_each_is_refused_for_its_own_reason(self) -> None:
        for name, made, said in BUNDLES:
            with self.subTest(name), self.assertRaisesRegex(ImportRefused, said):
                read_bundle(made())

    def test_a_document_that_does_not_hold_together_is_named_by_its_path(self) -> None:
        broken = to_text(job(circuit())).replace('"circuit": "c1"', '"circuit": "c9"').encode()
        with self.assertRaises(BadDocument) as caught:
            read_bundle(zipped({DOCUMENT: broken, MANIFEST: manifest()}))
        self.assertTrue(caught.exception.problems[0].path.startswith("boards[0]"))

    def test_limits_are_the_ones_the_door_allows(self) -> None:
        from vivid_lattice.api.guard import MAX_BYTES as DOOR

        self.assertLessEqual(tables.MAX_BYTES, DOOR)


if __name__ == "__main__":
    unittest.main()
