"""Jobs from the shell: begun, their supply typed, circuits added as an electrician says them."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Iterable
from pathlib import Path
from typing import Any, get_args

from vivid_lattice.core.actions.assume import confirm, enter_supply
from vivid_lattice.core.actions.enter_line import enter_line, entry_texts
from vivid_lattice.core.actions.new_job import begin, typical_home
from vivid_lattice.core.actions.switching_groups import switch
from vivid_lattice.core.assessment.assumed import to_confirm
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.decisions import Decision
from vivid_lattice.core.document.assumptions import SYSTEM, Confirmation, open_assumptions
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.changes import device_text
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.entry.parsed_line import Unused
from vivid_lattice.core.entry.switching_words import read_switching
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.formulas.load_currents import supply_title
from vivid_lattice.core.job_file import checked, read_document, to_text
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.files import write_atomically


def add_commands(commands: Any) -> None:
    """Puts ``new``, ``supply`` and ``add`` beside the other commands."""
    command = commands.add_parser("new", help="begin a job with one empty board")
    command.add_argument("--rules", required=True, help="the standard, for example uk")
    command.add_argument("--title", default="New job")
    command.add_argument("--system", help="the earthing system, for example TN-C-S: it is asked, not assumed")
    command.add_argument("--phases", type=int, choices=(1, 2, 3), help="lines of the supply")
    start = command.add_mutually_exclusive_group()
    start.add_argument(
        "--home", help="begin with a typical home, for example three-bed; its supply is assumed, its circuits designed"
    )
    start.add_argument("--existing", action="store_true", help="the board is there already: nothing of it is assumed")
    command.add_argument("-o", "--output", type=Path, required=True)
    command.set_defaults(run=_new)

    command = commands.add_parser("supply", help='set the supply: "TN-C-S 100A Ze 0.35 16kA tails 25mm2 3m"')
    command.add_argument("file", type=Path)
    command.add_argument("line")
    _add_output(command)
    command.set_defaults(run=_supply)

    command = commands.add_parser("confirm", help="confirm assumed values: as measured, by enquiry, or as read off")
    command.add_argument("file", type=Path)
    command.add_argument(
        "fields", nargs="*", metavar="field", help="for example supply.ze_ohm; without any they are listed"
    )
    command.add_argument("--how", choices=get_args(Confirmation), default="read")
    command.add_argument("-o", "--output", type=Path)
    command.set_defaults(run=_confirm)

    command = commands.add_parser("add", help='add circuits: "kitchen sockets ring 60m, kitchen" "cooker 9kW 14m"')
    command.add_argument("file", type=Path)
    command.add_argument("lines", nargs="+", metavar="line")
    command.add_argument("--board", help="its id; the first board unless given")
    command.add_argument("--design", action="store_true", help="choose devices and cables that are left open")
    _add_output(command)
    command.set_defaults(run=_add)


def _add_output(command: argparse.ArgumentParser) -> None:
    command.add_argument("--accept", action="store_true", help="write the job even where a token is not used")
    command.add_argument("-o", "--output", type=Path, required=True)


def _new(args: argparse.Namespace) -> int:
    rules = rule_set(args.rules)
    if args.system is not None and args.system not in rules.systems:
        print(
            f"{rules.title} has no earthing system {args.system}. Use one of: {', '.join(rules.systems)}.",
            file=sys.stderr,
        )
        return 2
    homes = {home.id: home for home in customary(rules.id).homes}
    if args.home is not None and args.home not in homes:
        print(f"No typical home “{args.home}”. Use one of: {', '.join(homes)}.", file=sys.stderr)
        return 2
    if args.home is not None:
        home = homes[args.home]
        job = typical_home(home, rules, home.title if args.title == "New job" else args.title, args.system)
    else:
        job = begin(args.title, rules, args.system, args.phases, existing=args.existing)
    _write(args.output, job)
    print(
        f"Job: {job.job.title}, {rule_set(args.rules).title}, {supply_title(job.supply.phases, job.supply.nominal_v)}"
    )
    _print_assumed(job)
    if any(assumed.field == SYSTEM for assumed in open_assumptions(job)):
        print(
            f"  asked: the earthing system ({', '.join(rules.systems)}). State it with --system or in the supply line."
        )
    print(f"  {job.boards[0].name} with {job.boards[0].way_count} ways, {len(job.circuits)} circuits")
    return 0


def _confirm(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    if not args.fields:
        _print_assumed(job)
        return 0
    if args.output is None:
        print("State where to write the job: -o FILE.", file=sys.stderr)
        return 2
    for field in args.fields:
        try:
            job = confirm(job, field, args.how)
        except KeyError:
            print(f"{field} is not assumed in this job. Run “confirm {args.file}” for the list.", file=sys.stderr)
            return 2
    _write(args.output, job)
    _print_assumed(job)
    return 0


def _print_assumed(job: Job) -> None:
    """Every value to confirm, with its field."""
    for assumed in to_confirm(job, rule_set(job.job.rules)):
        value = f"{assumed.shown} {assumed.unit}".rstrip()
        print(f"  assumed: {assumed.label}: {value} ({assumed.confirm})  [{assumed.field}]")


def _supply(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    try:
        done = enter_supply(job, args.line, accept=args.accept)
    except EntryNotUnderstood as why:
        return _refused(args.line, why)
    _write(args.output, done.job)
    print(f"Supply: {', '.join(map(str, done.understood))}")
    _print_assumed(done.job)
    _print_rest(done.assumed, done.unused)
    return 0


def _add(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    board = args.board or (job.boards[0].id if job.boards else "")
    switching = [(line, words) for line in args.lines if (words := read_switching(line))]
    done = []
    for line in args.lines:
        if any(line == other for other, _ in switching):
            continue
        try:
            entered = enter_line(job, line, board, accept=args.accept)
        except EntryNotUnderstood as why:
            return _refused(line, why)
        job = checked(entered.job)
        done.append(entered)
    decisions: tuple[Decision, ...] = ()
    if args.design:
        designed = design(job)
        job, decisions = designed.job, designed.decisions
    # What is switched together is decided last: its contactor goes by the devices chosen.
    said: list[Text] = []
    for line, words in switching:
        try:
            switched = switch(job, words, board, line)
        except EntryNotUnderstood as why:
            return _refused(line, why)
        job, said = switched.job, [*said, *switched.said]
    _write(args.output, job)
    circuits = {circuit.id: circuit for circuit in job.circuits}
    for entered in done:
        _print_circuit(circuits[entered.circuit])
        _print_rest(entry_texts(entered, job), entered.unused)
    for text in said:
        print(text)
    for decision in decisions:
        print(f"{decision.circuit} {decision.what}: {decision.sentence}")
    return 0 if all(decision.passes for decision in decisions) else 1


def _refused(line: str, why: EntryNotUnderstood) -> int:
    print(f"{line}\n  not used: {why}\n  Nothing was written. Correct the line, or add --accept.", file=sys.stderr)
    return 2


def _write(target: Path, job: Job) -> None:
    write_atomically(target, to_text(job).encode("utf-8"))


def _print_circuit(circuit: Circuit) -> None:
    loads = "; ".join(
        f"{load.kind}"
        + (f", {load.count} off" if load.count and load.count > 1 else "")
        + (f", {load.power_w:g} W" if load.power_w else "")
        + (f", room {load.room}" if load.room else "")
        for load in circuit.loads
    )
    section = circuit.run[0]
    run = f"{section.length_m:g} m, method {section.method}" if section.length_m else f"method {section.method}"
    cable = "cable to be designed" if is_auto(circuit.cable) else f"{circuit.cable.area_mm2:g} mm² {circuit.cable.type}"
    device = "device to be designed" if is_auto(circuit.device) else device_text(circuit.device)
    print(f"{circuit.id} {circuit.name}: {circuit.kind}; {loads or 'no load'}; {run}; {cable}; {device}")


def _print_rest(assumed: Iterable[Text], unused: Iterable[Unused]) -> None:
    for text in assumed:
        print(f"  assumed: {text}")
    for token in unused:
        print(f"  not used: '{token.text}': {token.reason}")
