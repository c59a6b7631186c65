"""Text that goes into another program's file: it stays text there, and the file is whole or not there at all."""

from __future__ import annotations

import re
from pathlib import Path
from typing import TypeVar

#: A spreadsheet takes a cell that begins so for a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_CONTROL = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")
_UNFIT = re.compile(r"[^\w.]+", re.UNICODE)
#: Names that one system or another keeps for its devices.
_DEVICES = re.compile(r"^(con|prn|aux|nul|com\d|lpt\d)$", re.IGNORECASE)
_LONGEST = 60

Value = TypeVar("Value")


def escape_formula(cell: Value) -> Value | str:
    """A cell that no spreadsheet takes for a formula; what is no text stays as it is.

    >>> harmless("=1+1"), harmless("6 mm²"), harmless(-4.5)
    ("'=1+1", '6 mm²', -4.5)
    """
    return f"'{cell}" if isinstance(cell, str) and cell.startswith(_FORMULA) else cell


def unmarked(cell: str) -> str:
    """A cell as it was before ``escape_formula`` marked it.

    >>> unmarked("'=1+1"), unmarked("'tis")
    ('=1+1', "'tis")
    """
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(_FORMULA) else cell


def without_controls(text: str) -> str:
    """A text without the signs that no XML file may hold."""
    return _CONTROL.sub("", text)


def file_name(*parts: str, suffix: str) -> str:
    """A file name that every system takes, from a job's title and what the file is.

    >>> file_name("Mill: a/b", "design report", suffix="pdf"), file_name("../..", suffix="json"), file_name("CON", suffix="pdf")
    ('Mill-a-b-design-report.pdf', 'job.json', 'job-CON.pdf')
    """
    words = [_UNFIT.sub("-", part).strip("-._")[:_LONGEST].strip("-._") for part in parts]
    stem = "-".join(word for word in words if word) or "job"
    return f"job-{stem}.{suffix}" if _DEVICES.match(stem) else f"{stem}.{suffix}"


def write_atomically(target: Path, content: bytes) -> None:
    """A file written whole, or left as it was."""
    partial = target.with_name(target.name + ".partial")
    try:
        partial.write_bytes(content)
        partial.replace(target)
    except OSError:
        partial.unlink(missing_ok=True)
        raise
