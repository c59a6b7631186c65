"""A table as it would be imported: row by row, what it makes or why it is left out."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.messages import Text

#: More rows than this are no board, and no price list that anyone looks through.
MAX_ROWS = 400


@dataclass(frozen=True, slots=True)
class RowProblem:
    """What is wrong in a row: of which field, and how to fix it."""

    field: str
    message: Text


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadRow:
    """A row as it was read: its number in the table (the head is 1), what it makes in words, what was assumed for it; or what is
    wrong with it."""

    number: int
    name: str
    text: Text
    problems: tuple[RowProblem, ...] = ()
    assumed: tuple[Text, ...] = ()


@dataclass(frozen=True, slots=True)
class ReadRows:
    """Every row, and the job with every good one added; ``added``: how many those are."""

    rows: tuple[ReadRow, ...]
    job: Job
    added: int


def filled(rows: Sequence[Sequence[str]], first_row: int) -> Iterator[tuple[int, Sequence[str]]]:
    """Rows that hold anything, with their numbers."""
    for number, row in enumerate(rows, first_row):
        if any(cell.strip() for cell in row):
            yield number, row


def read_rows(rows: Sequence[ReadRow], job: Job) -> ReadRows:
    """The rows with the job that came of them."""
    return ReadRows(tuple(rows), job, sum(not row.problems for row in rows))
