"""A quote from the shell: a job priced by a price list, as text, JSON, XLSX or PDF."""

from __future__ import annotations

import argparse
import datetime
import json
from pathlib import Path
from typing import Any

from vivid_lattice.cli.material_json import material_json
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.entry.tables.columns import PRICE_FIELDS, matched
from vivid_lattice.core.entry.tables.prices import read_prices
from vivid_lattice.core.job_file import read_document
from vivid_lattice.core.quote.options import priced_options
from vivid_lattice.core.quote.quote import Quote, quote_of, saved_quote
from vivid_lattice.files import write_atomically
from vivid_lattice.imports.table import read_table


def add_commands(commands: Any) -> None:
    """Puts ``quote`` beside the other commands."""
    command = commands.add_parser("quote", help="price a job: material by a price list, hours, overhead and tax")
    command.add_argument("file", type=Path, metavar="JOB")
    command.add_argument("--prices", type=Path, help="price list, CSV or XLSX; else the prices of the job")
    command.add_argument("--rate", type=float, help="hourly rate, in place of the job's")
    command.add_argument("--tax", type=float, help="tax in percent, in place of the job's")
    command.add_argument("--client", action="store_true", help="with -o: the client's copy, without cost prices")
    command.add_argument("--json", action="store_true", help="print the whole quote as JSON")
    command.add_argument("-o", "--output", type=Path, help="write it to a file: .pdf or .xlsx")
    command.set_defaults(run=_quote)


def _quote(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    left_out: list[str] = []
    if args.prices is not None:
        table = read_table(args.prices.read_bytes())
        read = read_prices(job, table.rows, matched(table.heads, PRICE_FIELDS), table.first_row)
        job = read.job
        left_out = [f"{row.number}: {each.field} {each.message}" for row in read.rows for each in row.problems]
    job = _with_terms(job, args.rate, args.tax)
    quote = quote_of(job)
    if args.json:
        print(json.dumps(as_json(job, quote) | {"rows_left_out": left_out}, indent=2, ensure_ascii=False))
    else:
        for line in left_out:
            print(f"price list, row {line}")
        _print(job, quote)
    if args.output is not None and quote.sums is not None:
        _write(job, quote, args.output, client=args.client)
    return 0 if quote.sums is not None else 1


def _with_terms(job: Job, rate: float | None, tax: float | None) -> Job:
    change = {name: value for name, value in (("rate", rate), ("tax_pct", tax)) if value is not None}
    terms = type(job.quote).model_validate({**job.quote.model_dump(), **change})
    return job.model_copy(update={"quote": terms})


def as_json(job: Job, quote: Quote) -> dict[str, Any]:
    """A quote as plain values: money in coins."""
    sums = quote.sums
    return {
        "currency": job.quote.currency,
        **material_json(quote.material),
        "work": [
            {"work": line.work, "title": str(line.title), "quantity": line.quantity, "unit": line.unit, "hours": line.hours}
            for line in quote.work
        ],
        "hours": quote.hours,
        "sums": None
        if sums is None
        else {
            "cost": sums.cost, "material": sums.material, "labour": sums.labour, "overhead": sums.overhead,
            "net": sums.net, "tax": sums.tax, "gross": sums.gross,
        },
        "options": [
            {"option": each.option, "net": each.net_coins, "gross": each.gross_coins, "not_possible": each.not_possible}
            for each in priced_options(job)
        ],
        "lacks": [str(each) for each in quote.lacks],
        "excluded": [str(each) for each in quote.excluded],
    }  # fmt: skip


def _print(job: Job, quote: Quote) -> None:
    for line in quote.material.items:
        cost = "no price" if line.cost is None else f"{line.cost:.2f}"
        quantity = "to be measured" if line.packs is None else f"{line.packs:g} {line.unit}"
        print(f"   {line.what}  {quantity}  {cost}")
    for work in quote.work:
        print(f"   {work.title}  {work.quantity:g} {work.unit}  {work.hours:.2f} h")
    print(f"{quote.hours:.2f} hours")
    for lack in quote.lacks:
        print(f"No quote: {lack}")
    sums = quote.sums
    if sums is not None:
        for name, amount in (
            ("Material", sums.material), ("Labour", sums.labour), ("Overhead", sums.overhead), ("Net", sums.net),
            ("Tax", sums.tax), ("Total", sums.gross),
        ):  # fmt: skip
            print(f"{name}: {job.quote.currency}{amount / 100:.2f}")
        for option in priced_options(job):
            print(f"{option.option}: {option.not_possible or f'{job.quote.currency}{option.gross_coins / 100:.2f}'}")
    for each in quote.excluded:
        print(f"Not included: {each}")


def _write(job: Job, quote: Quote, path: Path, *, client: bool) -> None:
    from vivid_lattice.reports.catalogue import export
    from vivid_lattice.reports.report_data import ReportData

    made = saved_quote(job, quote, priced_options(job), revision=None, today=datetime.datetime.now().date())
    job = job.model_copy(update={"quotes": (*job.quotes, made)})
    data = ReportData(job=job, made_at=datetime.datetime.now().isoformat(timespec="minutes"))
    whose = "quote-client" if client else "quote"
    kind = f"{whose}-xlsx" if path.suffix.lower() == ".xlsx" else whose
    write_atomically(path, export(data, kind).content)
