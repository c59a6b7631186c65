"""Boards from the shell: laid out, and wired by list."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from vivid_lattice.core.actions.move_device import lay_out, model_of
from vivid_lattice.core.errors import BadDocument, DocumentProblem, NeedsInput
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.files import write_atomically


def add_commands(commands: Any) -> None:
    """Puts ``lay-out`` and ``wiring`` beside the other commands."""
    command = commands.add_parser("lay-out", aliases=["layout"], help="lay out a board in its enclosure")
    command.add_argument("file", type=Path)
    command.add_argument("--board", required=True)
    command.add_argument("-o", "--output", type=Path, required=True)
    command.set_defaults(run=_lay_out)

    command = commands.add_parser("wiring", help="list the conductors of a board that has a layout")
    command.add_argument("file", type=Path)
    command.add_argument("--board", required=True)
    command.add_argument("--csv", type=Path, help="write to this file instead of the screen")
    command.set_defaults(run=_wiring)


def _lay_out(args: argparse.Namespace) -> int:
    job, layout_result = lay_out(read_document(args.file.read_bytes()), args.board)
    write_atomically(args.output, to_text(job).encode("utf-8"))
    rest = (
        "the best possible"
        if layout_result.proven
        else f"untidiness {layout_result.cost}, at least {layout_result.bound}"
    )
    print(f"{len(layout_result.spots)} devices in {layout_result.seconds:.2f} s; {rest}")
    return 0


def _wiring(args: argparse.Namespace) -> int:
    from vivid_lattice.reports.report_data import ReportData
    from vivid_lattice.reports.tables import as_csv
    from vivid_lattice.reports.tables import wiring as table_of_wiring

    model = model_of(read_document(args.file.read_bytes()), args.board)
    try:
        wiring = model.whole_wiring()
    except NeedsInput as lack:
        raise BadDocument([DocumentProblem("boards.build", str(lack.needs[0].sentence))]) from None
    listed = table_of_wiring(ReportData(job=model.job, made_at=""), args.board)
    if args.csv:
        write_atomically(args.csv, as_csv(listed))
        return 0
    at = ""
    for row in listed.rows:
        step, start, end, _, colour, size, length, finish = row[1:9]
        if step != at:
            at = str(step)
            print(at)
        print(f"  {start} → {end}: {', '.join(str(cell) for cell in (colour, size, f'{length:g} mm', finish) if cell)}")
    for missing in wiring.missing:
        print(f"  ? {missing}")
    return 0
