"""Protection from the shell: the matrix of devices, an event run to its end, and plans of residual-current devices."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter, ValidationError

from vivid_lattice.core.design.rcd_plans.architectures import SHAPES
from vivid_lattice.core.design.rcd_plans.plan import RcdPlan, plan
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.faults.event import KIND_FIELDS, FaultEvent
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.faults.result_types import FaultResult
from vivid_lattice.core.job_file import problems_of, read_document, to_text
from vivid_lattice.core.selectivity.matrix import Matrix, matrix


def add_commands(commands: Any) -> None:
    """Puts ``matrix``, ``fault`` and ``plan-rcds`` beside the other commands."""
    command = commands.add_parser(
        "matrix", aliases=["selectivity"], help="show the selectivity of every pair of overcurrent devices in series"
    )
    command.add_argument("file", type=Path)
    command.add_argument("--json", action="store_true")
    command.set_defaults(run=_matrix)

    command = commands.add_parser("fault", help="which device trips, when, and what then")
    command.add_argument("file", type=Path)
    command.add_argument("--kind", choices=list(KIND_FIELDS), required=True)
    for name in ("circuit", "other", "rcd", "other-rcd", "line", "waveform", "standby"):
        command.add_argument(f"--{name}")
    for name in ("at", "amps", "ohm", "milliamps", "volts", "surge-kv", "electrode-ohm", "running"):
        command.add_argument(f"--{name}", type=float)
    command.add_argument("--json", action="store_true")
    command.set_defaults(run=_fault)

    command = commands.add_parser("plan-rcds", aliases=["rcd-plans"], help="plan the RCDs of a board")
    command.add_argument("file", type=Path)
    command.add_argument("--board", required=True)
    command.add_argument("--architecture", choices=list(SHAPES), help="one of them; all by default")
    command.add_argument("-o", "--output", type=Path, help="write the job file with this arrangement")
    command.set_defaults(run=_plan)


def _matrix(args: argparse.Namespace) -> int:
    pairs_of_job = matrix(read_document(args.file.read_bytes()))
    if args.json:
        print(TypeAdapter(Matrix).dump_json(pairs_of_job, indent=2).decode())
    else:
        for pair in pairs_of_job.pairs:
            print(f"{pair.status:8} {pair.shown:>9}  {pair.sentence}")
    return 1 if any(pair.status in ("none", "unknown") for pair in pairs_of_job.pairs) else 0


_NOT_OF_THE_EVENT = ("file", "json", "run")


def _fault(args: argparse.Namespace) -> int:
    given = {name: value for name, value in vars(args).items() if name not in _NOT_OF_THE_EVENT and value is not None}
    try:
        event = FaultEvent.model_validate(given)
    except ValidationError as why:
        raise BadDocument(problems_of(why.errors(), "event")) from None
    result = describe(read_document(args.file.read_bytes()), event)
    if args.json:
        print(TypeAdapter(FaultResult).dump_json(result, indent=2).decode())
        return 0
    print(f"{result.title}\n{result.outcome}")
    for stage in result.stages:
        for opening in stage.openings:
            print(f"  {opening.name}, {opening.where}: {opening.shown}{'' if opening.certain else ' (possible)'}")
    for title, lines in (("still live", result.still_live), ("next", result.next_steps), ("notes", result.notes)):
        for line in lines:
            print(f"  {title}: {line}")
    return 0


def _plan(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    chosen = [args.architecture] if args.architecture else list(SHAPES)
    plans = [plan(job, args.board, architecture) for architecture in chosen]
    for option in plans:
        print(_plan_text(option))
    if args.output is not None:
        made = plans[0].job if len(plans) == 1 else None
        if made is None:
            print("Choose one architecture that is possible here (--architecture) to write it.")
            return 1
        args.output.write_text(to_text(made), encoding="utf-8")
    return 0 if any(option.job is not None for option in plans) else 1


def _plan_text(plan: RcdPlan) -> str:
    if plan.job is None:
        return f"{plan.architecture:6} not possible: {plan.not_possible}"
    sure = "proven" if plan.proven else f"at most {plan.gap_pct:.1f} % better"
    return (
        f"{plan.architecture:6} loss score {plan.worst_loss}, {plan.devices} devices, {plan.modules:g} modules, "
        f"cost {plan.cost:g}, {sure}"
    )
