"""A CSV or XLSX file as rows of text. Whatever it claims to be, it is read as what it is, and only so far as is safe."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import islice
from typing import Any

from vivid_lattice.core.messages import Message, message
from vivid_lattice.imports.refusal import ImportRefused
from vivid_lattice.imports.unzip import opened, unpacked
from vivid_lattice.safe_text import unmarked

MAX_BYTES = 4 * 1024 * 1024
MAX_ROWS, MAX_COLUMNS, MAX_CELL = 2000, 60, 2000
_TOO_MANY_ROWS = message(None, "import.table.rows", n=str(MAX_ROWS))
#: What an XLSX file may come to when it is unpacked.
_MAX_UNPACKED = 60 * 1024 * 1024

_MAGIC: tuple[tuple[bytes, Message], ...] = (
    (b"%PDF", message(None, "import.kind.pdf")),
    (b"\x89PNG", message(None, "import.kind.picture")),
    (b"\xff\xd8\xff", message(None, "import.kind.picture")),
    (b"\xd0\xcf\x11\xe0", message(None, "import.kind.xls")),
    (b"SQLite format 3", message(None, "import.kind.database")),
    (b"\x1f\x8b", message(None, "import.kind.compressed")),
    (b"{\\rtf", message(None, "import.kind.text")),
)


@dataclass(frozen=True, slots=True)
class ReadTable:
    """A table as it was read: its heads and its rows, all as text, and the number of the first row."""

    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    first_row: int


def read_table(raw: bytes) -> ReadTable:
    """The table in a file's bytes. Its head is the first row of more than one cell.

    Raises  Refused where it is none, damaged, empty or too large
    """
    if not raw.strip():
        raise ImportRefused(message(None, "import.table.empty"))
    if len(raw) > MAX_BYTES:
        raise ImportRefused(message(None, "import.table.large", n=str(MAX_BYTES // 1024 // 1024)))
    for magic, what in _MAGIC:
        if raw.startswith(magic):
            raise ImportRefused(message(None, "import.table.other_file", what=what))
    rows = _xlsx(raw) if raw.startswith(b"PK") else _csv(_text(raw))
    return as_table(rows)


def read_pasted(text: str) -> ReadTable:
    """A table as a spreadsheet puts it on the clipboard. Raises Refused."""
    if not text.strip():
        raise ImportRefused(message(None, "import.table.nothing_pasted"))
    return as_table(_checked(csv.reader(io.StringIO(text, newline=""), delimiter="\t" if "\t" in text else ",")))


def as_table(rows: list[list[str]]) -> ReadTable:
    """Rows with a head. Raises Refused where there is no head, or nothing under it."""
    filled = [(at, sum(bool(cell) for cell in row)) for at, row in enumerate(rows)]
    if not any(count for _, count in filled):
        raise ImportRefused(message(None, "import.table.no_content"))
    # A title of one cell often is above the head.
    start = next((at for at, count in filled if count > 1), next(at for at, count in filled if count))
    heads, body = rows[start], rows[start + 1 :]
    if not any(any(row) for row in body):
        raise ImportRefused(message(None, "import.table.no_rows"))
    if sum(bool(head) for head in heads) < 2 and max(len(row) for row in body) < 2:
        raise ImportRefused(message(None, "import.table.one_column"))
    wide = max(len(row) for row in rows[start:])
    pad = [tuple(row) + ("",) * (wide - len(row)) for row in body]
    return ReadTable(tuple(heads) + ("",) * (wide - len(heads)), tuple(pad), start + 2)


def _text(raw: bytes) -> str:
    if raw[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            text = raw.decode("utf-16")
        except UnicodeDecodeError:
            raise ImportRefused(message(None, "import.table.utf16")) from None
    else:
        try:
            text = raw.decode("utf-8-sig")
        except UnicodeDecodeError:
            # What spreadsheets of the west write where they do not write UTF-8.
            text = raw.decode("cp1252", errors="replace")
            if "\ufffd" in text:
                raise ImportRefused(message(None, "import.table.not_text")) from None
    if "\0" in text:
        raise ImportRefused(message(None, "import.table.bytes"))
    head = text.lstrip()[:200].lower()
    if head.startswith(("<!doctype", "<html", "<?xml", "<table", "<svg")):
        raise ImportRefused(message(None, "import.table.web_page"))
    if head.startswith("{"):
        raise ImportRefused(message(None, "import.table.json"))
    return text


def _csv(text: str) -> list[list[str]]:
    line = text.split("\n", 1)[0]
    delimiter = max(",;\t", key=line.count)
    try:
        return _checked(csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True))
    except csv.Error as why:
        raise ImportRefused(message(None, "import.table.csv_damaged", why=str(why))) from None


def _xlsx(raw: bytes) -> list[list[str]]:
    from openpyxl import load_workbook

    slim = _without_empty_cells(raw)
    try:
        book = load_workbook(io.BytesIO(slim), read_only=True, data_only=True, keep_links=False)
    except Exception:  # whatever a damaged part makes the library raise
        raise ImportRefused(message(None, "import.table.book_damaged")) from None
    try:
        for sheet in book.worksheets:
            # Past the last column that is read nothing is made; one more tells that there is something.
            cells = sheet.iter_rows(values_only=True, max_col=MAX_COLUMNS + 1)
            rows = _checked([_plain(cell) for cell in row] for row in cells)
            if any(any(row) for row in rows):
                return rows
    except ImportRefused:
        raise
    except Exception:
        raise ImportRefused(message(None, "import.table.sheet_damaged")) from None
    finally:
        book.close()
    raise ImportRefused(message(None, "import.table.no_sheet"))


#: A cell or a row that has a format and nothing in it. A sheet that is formatted to its last column has millions of them.
_EMPTY_CELL = re.compile(rb"<(?:\w+:)?c\b[^<>]*/>")
_EMPTY_ROW = re.compile(rb"<(?:\w+:)?row\b[^<>]*(?:/>|>\s*</(?:\w+:)?row>)")
_ROW_NUMBER = re.compile(rb"<(?:\w+:)?row\b[^<>]*?\sr=[\"'](\d+)")
_TEXT_ENTRY = re.compile(rb"<(?:\w+:)?si\b")
_CELL = re.compile(rb"<(?:\w+:)?c\b")


def _without_empty_cells(raw: bytes) -> bytes:
    """The workbook without the cells and rows that have nothing in them, so that reading it takes as long as what it says.

    Raises Refused where there is more left than any table of circuits or prices has.
    """
    slim = io.BytesIO()
    with (
        opened(raw, most_bytes=_MAX_UNPACKED, most_files=2000) as archive,
        zipfile.ZipFile(slim, "w", zipfile.ZIP_STORED) as target,
    ):
        if "xl/workbook.xml" not in archive.namelist():
            raise ImportRefused(message(None, "import.table.zip"))
        for name in archive.namelist():
            content = unpacked(archive, name, _MAX_UNPACKED)
            if name.startswith("xl/worksheets/") and name.endswith(".xml"):
                content = _EMPTY_ROW.sub(b"", _EMPTY_CELL.sub(b"", content))
                _bounded(content, _CELL, message(None, "import.kind.cells"))
                # A value far down would have every row above it made first.
                if any(int(row[1][:9]) > MAX_ROWS for row in _ROW_NUMBER.finditer(content)):
                    raise ImportRefused(_TOO_MANY_ROWS)
            elif name.startswith("xl/sharedStrings"):
                _bounded(content, _TEXT_ENTRY, message(None, "import.kind.texts"))
            target.writestr(name, content)
    return slim.getvalue()


def _bounded(content: bytes, entry: re.Pattern[bytes], what: Message) -> None:
    most = MAX_ROWS * MAX_COLUMNS
    if sum(1 for _ in islice(entry.finditer(content), most + 1)) > most:
        raise ImportRefused(message(None, "import.table.too_many", n=str(most), what=what))


def _plain(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        return f"{value:.12g}"
    return str(value)


def _checked(rows: Iterable[Sequence[str]]) -> list[list[str]]:
    """The rows without the empty cells and rows at their ends; Refused at the first that is too long, or one too many."""
    cleaned: list[list[str]] = []
    for number, row in enumerate(rows, 1):
        filled = _filled(row)
        if filled > MAX_COLUMNS:
            raise ImportRefused(message(None, "import.table.columns", row=str(number), n=str(MAX_COLUMNS)))
        if filled and number > MAX_ROWS:
            raise ImportRefused(_TOO_MANY_ROWS)
        cells = [unmarked(" ".join(cell.split())) for cell in row[:filled]]
        if any(len(cell) > MAX_CELL for cell in cells):
            raise ImportRefused(message(None, "import.table.cell", row=str(number), n=str(MAX_CELL)))
        if number <= MAX_ROWS:
            cleaned.append(cells)
    while cleaned and not any(cleaned[-1]):
        cleaned.pop()
    return cleaned


def _filled(row: Sequence[str]) -> int:
    """How many cells a row has up to its last that is not empty."""
    return next((at for at in range(len(row), 0, -1) if row[at - 1]), 0)
