"""Papers and files from the shell: what leaves, what comes in, and the whole database."""

from __future__ import annotations

import argparse
import signal
import sys
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path
from types import FrameType
from typing import TYPE_CHECKING, Any

from vivid_lattice.core.bundle import Bundle
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.entry.tables.circuits import read_circuits
from vivid_lattice.core.entry.tables.columns import FIELDS, PRICE_FIELDS, matched
from vivid_lattice.core.entry.tables.prices import read_prices
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.files import write_atomically
from vivid_lattice.imports.job_bundle import read_bundle
from vivid_lattice.imports.table import ReadTable, read_table

if TYPE_CHECKING:
    from vivid_lattice.reports.report_data import ReportData

_DATABASE = Path("var/vivid-lattice.sqlite3")


def add_commands(commands: Any) -> None:
    """Puts ``export``, ``import``, ``import-table``, ``backup`` and ``restore`` beside the other commands."""
    command = commands.add_parser("export", help="write a document, a table, a drawing or the whole job")
    command.add_argument("job", metavar="JOB", help="job file, ZIP with photos, or with --database a job id")
    command.add_argument("--as", dest="kind", required=True, metavar="KIND", help="“list” shows all types")
    command.add_argument("--board", help="board to use")
    command.add_argument("--against", type=Path, help="job file to compare with, for “comparison”")
    command.add_argument("--database", type=Path, help="read the job from this database")
    command.add_argument("--revision", type=int, help="with --database: this revision instead of the current one")
    command.add_argument("-o", "--output", type=Path, help="output file or folder")
    command.set_defaults(run=_export)

    command = commands.add_parser("import", help="import a job file, or a ZIP with photos, into a database")
    command.add_argument("file", type=Path)
    command.add_argument("--database", type=Path, default=_DATABASE)
    command.set_defaults(run=_import)

    command = commands.add_parser(
        "import-table", help="import circuits or prices from a CSV or XLSX file into a job file"
    )
    command.add_argument("of", choices=("circuits", "prices"))
    command.add_argument("file", type=Path)
    command.add_argument("--job", type=Path, required=True, help="job file to add them to")
    command.add_argument(
        "--map", action="append", default=[], metavar="FIELD=COLUMN", help="assign a column to a field"
    )
    command.add_argument("-o", "--output", type=Path, help="write to this file (default: show the result only)")
    command.set_defaults(run=_import_table)

    command = commands.add_parser("backup", help="back up the whole database while it is in use")
    command.add_argument("output", type=Path)
    command.add_argument("--database", type=Path, default=_DATABASE)
    command.set_defaults(run=_backup)

    command = commands.add_parser("restore", help="replace all data with a backup; the present data is backed up first")
    command.add_argument("file", type=Path)
    command.add_argument("--database", type=Path, default=_DATABASE)
    command.add_argument("--yes", action="store_true", help="confirm; without it the backup is only inspected")
    command.set_defaults(run=_restore)


# ------------------------------------------------------------------------------------------------ what leaves


def _export(args: argparse.Namespace) -> int:
    # What papers are made with takes longer to load than most commands take to run.
    from vivid_lattice.core.errors import Stopped
    from vivid_lattice.reports.catalogue import KINDS, export

    if args.kind == "list":
        print("\n".join(f"{kind.id:14} {kind.title}: {kind.text}" for kind in KINDS))
        return 0
    args.file = args.job
    shown = sys.stderr.isatty()

    def progress(done: int, all_: int, what: str) -> None:
        if shown:
            print(f"\r{done}{f' of {all_}' if all_ else ''} {what[:40]:40}", end="", file=sys.stderr, flush=True)

    data = _data(args, progress)
    try:
        made = export(data, args.kind, args.board, args.lang or "")
    except (KeyboardInterrupt, Stopped):
        print("cancelled; nothing was written", file=sys.stderr)
        return 130
    if shown:
        print(file=sys.stderr)
    target = args.output or Path()
    if target.is_dir():
        target = target / made.name
    write_atomically(target, made.content)
    pages = f", {made.pages} pages" if made.pages else ""
    print(f"{target}  {len(made.content)} bytes{pages}")
    return 0


def _data(args: argparse.Namespace, progress: Any) -> ReportData:
    from vivid_lattice.reports.report_data import ReportData

    now = datetime.now(UTC).isoformat(timespec="seconds")
    against = read_document(args.against.read_bytes()) if args.against else None
    more: dict[str, Any] = {"against": against, "against_title": args.against.name if args.against else ""}
    if args.database is None:
        bundle, number, saved_at = _from_file(Path(args.job)), None, ""
    else:
        from vivid_lattice.store.database import connect, prepare
        from vivid_lattice.store.job_bundle import bundle_of

        _must_be_there(args.database)
        prepare(args.database)
        with closing(connect(args.database)) as conn:
            revision, bundle = bundle_of(conn, args.job, args.revision)
        number, saved_at = revision.number, revision.saved_at
    return ReportData(
        job=bundle.job,
        made_at=now,
        revision=number,
        saved_at=saved_at,
        photos=bundle.photos,
        trips=bundle.trips,
        ticks=bundle.ticks,
        history=bundle.readings,
        progress=progress,
        **more,
    )


def _from_file(file: Path) -> Bundle:
    raw = file.read_bytes()
    return read_bundle(raw) if raw.startswith(b"PK") else Bundle(read_document(raw))


# ------------------------------------------------------------------------------------------------ what comes in


def _import(args: argparse.Namespace) -> int:
    from vivid_lattice.store.database import connect, prepare
    from vivid_lattice.store.job_bundle import create_from

    bundle = _from_file(args.file)
    prepare(args.database)
    with closing(connect(args.database)) as conn:
        made = create_from(conn, bundle, "imported from a file", "this machine")
    print(f"{made.job_id}  {made.job.job.title}, {len(bundle.photos)} photos")
    return 0


def _import_table(args: argparse.Namespace) -> int:
    job, table = read_document(args.job.read_bytes()), read_table(args.file.read_bytes())
    mapping = _mapping(args, table)
    read_all = read_circuits if args.of == "circuits" else read_prices
    read = read_all(job, table.rows, mapping, table.first_row)
    for row in read.rows:
        print(f"row {row.number}: {row.name}: {row.text or 'left out'}")
        for problem in row.problems:
            print(f"    {problem.field}: {problem.message}")
    print(f"{read.added} of {len(read.rows)} rows can be imported.")
    if args.output is not None:
        _write_job(args.output, read.job)
    return 0 if read.added == len(read.rows) else 1


def _mapping(args: argparse.Namespace, table: ReadTable) -> dict[str, int]:
    fields = FIELDS if args.of == "circuits" else PRICE_FIELDS
    mapping = matched(table.heads, fields)
    for stated in args.map:
        field, _, column = stated.partition("=")
        heads = [head.lower() for head in table.heads]
        if field not in {field.id for field in fields} or column.lower() not in heads:
            known = ", ".join(field.id for field in fields)
            raise BadDocument(
                [DocumentProblem("--map", f"'{stated}': fields are {known}; columns are {', '.join(table.heads)}")]
            )
        mapping[field] = heads.index(column.lower())
    return mapping


def _write_job(target: Path, job: Job) -> None:
    write_atomically(target, to_text(job).encode("utf-8"))


# ------------------------------------------------------------------------------------------------ the whole database


def _backup(args: argparse.Namespace) -> int:
    from vivid_lattice.store.backup import read_backup, write_backup

    _must_be_there(args.database)
    write_backup(args.database, args.output)
    content = read_backup(args.output)
    print(f"{args.output}: {content.jobs} jobs, {content.revisions} revisions, {content.photos} photos")
    return 0


def _restore(args: argparse.Namespace) -> int:
    from vivid_lattice.store.backup import read_backup, restore
    from vivid_lattice.store.database import prepare

    content = read_backup(args.file)
    print(
        f"{args.file}: {content.jobs} jobs, {content.revisions} revisions, {content.photos} photos, last saved {content.saved_at}"
    )
    if not args.yes:
        print("Inspected only. Add --yes to replace all data with it; the present data is backed up first.")
        return 0
    prepare(args.database)
    # Half a restore would be worse than none: what is begun is ended.
    former_handler = signal.signal(signal.SIGINT, _not_now)
    try:
        done = restore(args.database, args.file)
    finally:
        signal.signal(signal.SIGINT, former_handler)
    print(f"restored; previous data backed up in {done.kept_before}")
    return 0


def _not_now(_signal: int, _frame: FrameType | None) -> None:
    print("restore in progress; it finishes in a moment", file=sys.stderr)


def _must_be_there(database: Path) -> None:
    if not database.is_file():
        raise FileNotFoundError(f"{database}: database not found; name it with --database")
