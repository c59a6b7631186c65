"""Boards from the shell: laid out, and wired by list."""

from __future__ import annotations

import argparse
import csv
from pathlib import Path
from typing import Any

from vivid_lattice.core.board.moving import lay_out, model_of
from vivid_lattice.core.board.wiring import STEPS, Wiring
from vivid_lattice.core.document import read_document, to_text
from vivid_lattice.core.errors import BadDocument, DocumentProblem, NeedsInput

_COLUMNS = (
    "step",
    "from",
    "to",
    "conductor",
    "colour",
    "size",
    "length_mm",
    "end",
    "strip_mm",
    "torque from",
    "torque to",
)
#: A spreadsheet takes a cell that begins so for a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def add_commands(commands: Any) -> None:
    """Puts ``lay-out`` and ``wiring`` beside the other commands."""
    command = commands.add_parser("lay-out", help="a board laid out in its enclosure")
    command.add_argument("file", type=Path)
    command.add_argument("--board", required=True)
    command.add_argument("-o", "--output", type=Path, required=True)
    command.set_defaults(run=_lay_out)

    command = commands.add_parser("wiring", help="the wiring list of a board that is laid out")
    command.add_argument("file", type=Path)
    command.add_argument("--board", required=True)
    command.add_argument("--csv", type=Path, help="written there; printed unless given")
    command.set_defaults(run=_wiring)


def _lay_out(args: argparse.Namespace) -> int:
    job, found = lay_out(read_document(args.file.read_bytes()), args.board)
    args.output.write_text(to_text(job), encoding="utf-8")
    rest = "nothing is tidier" if found.proven else f"untidiness {found.cost}, at least {found.bound}"
    print(f"{len(found.spots)} devices in {found.seconds:.2f} s; {rest}")
    return 0


def _wiring(args: argparse.Namespace) -> int:
    model = model_of(read_document(args.file.read_bytes()), args.board)
    try:
        wiring = model.whole_wiring()
    except NeedsInput as lack:
        raise BadDocument([DocumentProblem("boards.housing", lack.needs[0].what)]) from None
    rows = _rows(wiring)
    if args.csv:
        with args.csv.open("w", encoding="utf-8", newline="") as file:
            csv.writer(file).writerows([_COLUMNS, *([_plain(cell) for cell in row] for row in rows)])
        return 0
    at = ""
    for row in rows:
        if row[0] != at:
            at = row[0]
            print(at)
        print(f"  {row[1]} → {row[2]}: {', '.join(cell for cell in row[4:8] if cell)}")
    for missing in wiring.lacks:
        print(f"  ? {missing}")
    return 0


def _rows(wiring: Wiring) -> list[tuple[str, ...]]:
    return [
        (
            STEPS[one.step - 1],
            one.start.words,
            one.end.words,
            one.conductor,
            one.colour,
            one.size,
            f"{one.length_mm:g} mm",
            one.start.finish,
            f"{one.start.strip_mm:g}",
            one.start.torque,
            one.end.torque,
        )
        for one in wiring.conductors
        if one.kind != "plug"
    ]


def _plain(cell: str) -> str:
    """A cell that no spreadsheet takes for a formula.

    >>> _plain("=1+1"), _plain("6 mm²")
    ("'=1+1", '6 mm²')
    """
    return f"'{cell}" if cell.startswith(_FORMULA) else cell
