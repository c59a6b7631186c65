"""The same calls from the shell. The commands and their exit codes stay stable: others check the engine by them."""

from __future__ import annotations

import argparse
import json
import sqlite3
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from vivid_lattice.cli import board, documents, entry, instrument, plan, protection, quote, serve, testing
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.remedies import with_remedies
from vivid_lattice.core.document.job import Job, names_of
from vivid_lattice.core.errors import BadDocument, BadTable, NeedsInput, OutOfRange, UnknownRuleSet
from vivid_lattice.core.findings.assessment import Assessment
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.messages import speaking
from vivid_lattice.core.messages.catalogue import languages
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.reference_only import reference_only
from vivid_lattice.demo import DEMOS, demo_text
from vivid_lattice.files import write_atomically
from vivid_lattice.imports.refusal import ImportRefused
from vivid_lattice.store.errors import StoreError

_MARKS = {
    "pass": "ok",
    "tight": "tight",
    "fail": "FAIL",
    "advice": "advice",
    "missing": "MISSING",
    "not-applicable": "–",
}


def main(argv: Sequence[str] | None = None) -> int:
    """Run a command; the exit code is 0 where all is well, 1 where something fails, 2 where the input cannot be used."""
    args = parser().parse_args(argv)
    with speaking(args.lang or "en"):
        return _run(args)


def _run(args: argparse.Namespace) -> int:
    try:
        code: int = args.run(args)
    except BadDocument as bad:
        for problem in bad.problems:
            print(f"{args.file}: {problem.line()}", file=sys.stderr)
        return 2
    except (BadTable, UnknownRuleSet, OutOfRange, NeedsInput, ImportRefused, StoreError, sqlite3.Error, OSError) as why:
        print(why, file=sys.stderr)
        return 2
    return code


def parser() -> argparse.ArgumentParser:
    """Every command with its options."""
    parser = argparse.ArgumentParser(
        prog="vivid-lattice", description="Designs consumer units and explains every value."
    )
    parser.add_argument(
        "--lang",
        choices=[name for name in languages() if "-" not in name],
        help="language of what is printed and of documents (default: English; documents: the job's own setting)",
    )
    commands = parser.add_subparsers(required=True, metavar="command")

    command = commands.add_parser("assess", help="check a job file")
    command.add_argument("file", type=Path)
    command.add_argument(
        "--json", action="store_true", help="print the whole result as JSON, with calculations and fixes"
    )
    command.add_argument("--strict", action="store_true", help="exit 1 while a value is assumed and not confirmed")
    command.set_defaults(run=_assess)

    command = commands.add_parser("design", help="choose every device and cable left as “auto”")
    command.add_argument("file", type=Path)
    command.add_argument("-o", "--output", type=Path, required=True)
    command.set_defaults(run=_design)

    entry.add_commands(commands)
    protection.add_commands(commands)
    board.add_commands(commands)
    documents.add_commands(commands)
    testing.add_commands(commands)
    plan.add_commands(commands)
    quote.add_commands(commands)

    command = commands.add_parser("check-batch", help="check every job file in a folder, using all cores")
    command.add_argument("folder", type=Path)
    command.add_argument("--csv", type=Path, help="a line a document")
    command.add_argument("--workers", type=int, help="number of processes (default: number of cores)")
    command.add_argument("--scheduler", metavar="ADDRESS", help="address of a running dask scheduler")
    command.set_defaults(run=_check_batch)

    command = commands.add_parser("demo", help="list or write the demo jobs")
    group = command.add_mutually_exclusive_group(required=True)
    group.add_argument("--list", action="store_true", help="list their names")
    group.add_argument("--write", type=Path, metavar="DIR", help="write their job files")
    command.set_defaults(run=_demo)

    commands.add_parser("schema", help="print the JSON Schema of the job file").set_defaults(run=_schema)
    commands.add_parser("openapi", help="print the OpenAPI document of the server").set_defaults(run=_openapi)

    command = commands.add_parser("rules", help="show the tables in use, with publication and source")
    what = command.add_subparsers(required=True, metavar="list|show")
    listed = what.add_parser("list", aliases=["LIST"], help="list the ids of all tables and rules")
    listed.set_defaults(run=_rules_list)
    what.add_parser("differences", help="all standards side by side").set_defaults(run=_rules_differences)
    job_command = what.add_parser("show", aliases=["SHOW"], help="show one table or rule")
    job_command.add_argument("id")
    job_command.set_defaults(run=_rules_show)

    instrument.add_commands(commands)
    serve.add_commands(commands)
    return parser


def _assess(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    assessment = assess(job)
    if args.json:
        _write(TypeAdapter(Assessment).dump_json(with_remedies(job, assessment), indent=2).decode())
    else:
        _print_assessment(job, assessment)
    if args.strict and assessment.to_confirm:
        return 1
    return 0 if assessment.verdict in ("pass", "tight", "advice") else 1


def _print_assessment(job: Job, assessment: Assessment) -> None:
    names = names_of(job)
    print(
        f"{assessment.job}: {assessment.verdict} ({', '.join(f'{count} {verdict}' for verdict, count in assessment.counts.items())})"
    )
    if assessment.to_confirm:
        print(f"  {assessment.to_confirm} assumed, to confirm:")
    for assumed in assessment.assumptions:
        print(f"    {assumed.label}: {assumed.shown} {assumed.unit} ({assumed.confirm})")
    for cause in assessment.causes:
        where = f" ({cause.findings} findings)" if cause.findings > 1 else ""
        print(f"  {_MARKS[cause.verdict]:8}{cause.sentence}{where}")
    for accepted in assessment.accepted:
        print(f"  {'accepted':8}{accepted.sentence} ({accepted.reason})")
    print()
    for finding in assessment.findings:
        figure = f"{finding.shown_value} of {finding.shown_limit} {finding.unit}" if finding.value is not None else ""
        print(
            f"  {_MARKS[finding.verdict]:8}{names[finding.subject.id]:28.28} {finding.check:21}{figure:22} {finding.sentence}"
        )
        for need in finding.needs:
            print(f"{'':10}needs {need.what}: {need.ask}")
    for caution in assessment.cautions:
        print(f"! {caution}")


def _design(args: argparse.Namespace) -> int:
    done = design(read_document(args.file.read_bytes()))
    write_atomically(args.output, to_text(done.job).encode("utf-8"))
    for decision in done.decisions:
        print(f"{decision.circuit} {decision.what}: {decision.sentence}")
        for runner in decision.runners:
            print(f"    rejected: {runner.what}: {runner.reason}")
    return 0 if all(decision.passes for decision in done.decisions) else 1


def _check_batch(args: argparse.Namespace) -> int:
    from vivid_lattice.batch import check_all, documents_in, summary, write_csv

    if not args.folder.is_dir():
        print(f"{args.folder}: folder not found", file=sys.stderr)
        return 2
    paths = documents_in(args.folder)
    if not paths:
        print(f"{args.folder}: no .json file found", file=sys.stderr)
        return 2
    shown = _show_progress if sys.stderr.isatty() else None
    if args.scheduler is None:
        lines = check_all(paths, args.workers, shown)
    else:
        from vivid_lattice.cluster import ClusterProblem, check_on_cluster

        try:
            lines = check_on_cluster(paths, args.scheduler, shown)
        except ClusterProblem as why:
            print(why, file=sys.stderr)
            return 2
    for line in lines:
        if line.verdict in ("fail", "missing", "unreadable"):
            print(f"{line.file}: {line.verdict}  {line.worst or line.problem}")
    print("\n".join(summary(lines)))
    if args.csv is not None:
        write_csv(lines, args.csv)
    return 1 if any(line.verdict in ("fail", "missing", "unreadable") for line in lines) else 0


def _show_progress(done: int, all_: int) -> None:
    print(f"\r{done} of {all_}", end="\n" if done == all_ else "", file=sys.stderr, flush=True)


def _demo(args: argparse.Namespace) -> int:
    if args.list:
        print("\n".join(DEMOS))
        return 0
    args.write.mkdir(parents=True, exist_ok=True)
    for name in DEMOS:
        target = args.write / f"{name}.json"
        target.write_text(demo_text(name), encoding="utf-8")
        print(target)
    return 0


def _schema(_args: argparse.Namespace) -> int:
    _write(json.dumps(Job.model_json_schema(), indent=2, ensure_ascii=False))
    return 0


def _openapi(_args: argparse.Namespace) -> int:
    import tempfile

    from vivid_lattice.api.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Path(folder) / "empty.sqlite3")
        _write(json.dumps(app.openapi(), indent=1, ensure_ascii=False))
    return 0


def _rules_list(_args: argparse.Namespace) -> int:
    # Tables that several standards share are listed once.
    titles = {
        table.id: (table.source, table.title)
        for rules_id in standard_ids()
        for table in rule_set(rules_id).data.tables.values()
    }
    titles |= {
        rule.id: (rule.source, "rule") for rules_id in standard_ids() for rule in rule_set(rules_id).data.rules.values()
    }
    for name, (source, title) in titles.items():
        print(f"{name:36} {source.publication} ({source.provenance}, {source.confidence})  {title}")
    return 0


def _rules_differences(_args: argparse.Namespace) -> int:
    from vivid_lattice.core.rules.differences import as_markdown, differences

    _write(as_markdown(differences()))
    return 0


def _rules_show(args: argparse.Namespace) -> int:
    for data in (rule_set(rules_id).data for rules_id in standard_ids()):
        if args.id in data.rules:
            rule = data.rules[args.id]
            print(f"{rule.id}\n{rule.text}\n{_source_text(rule.source)}")
            _say_reference_only(args.id)
            return 0
        if args.id in data.tables:
            table = data.tables[args.id]
            print(
                f"{table.id}: {table.title} {_source_text(table.source)} units: {table.units} checked: {table.checked}"
            )
            print("\t".join(table.columns))
            for row in table.rows:
                print("\t".join(str(cell) for cell in row))
            print(table.notes)
            _say_reference_only(args.id)
            return 0
    raise BadTable(args.id, "not included. “rules list” shows the available ids.")


def _say_reference_only(rule_id: str) -> None:
    """Why a table or rule is packaged without being in use, where it is so."""
    reason = reference_only().get(rule_id)
    if reason is not None:
        print(f"Reference only. {reason}")


def _source_text(source: Any) -> str:
    return f"{source.publication} ({source.provenance}, confidence {source.confidence})"


def _write(text: str) -> None:
    sys.stdout.buffer.write(text.encode("utf-8") + b"\n")
    sys.stdout.flush()


if __name__ == "__main__":
    sys.exit(main())
