"""Text that goes into another program's file: it stays text there."""

from __future__ import annotations

import re
from typing import TypeVar

#: A spreadsheet takes a cell that begins so for a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_CONTROL = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")

Value = TypeVar("Value")


def escape_formula(cell: Value) -> Value | str:
    """A cell that no spreadsheet takes for a formula; what is no text stays as it is.

    >>> escape_formula("=1+1"), escape_formula("6 mm²"), escape_formula(-4.5)
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
