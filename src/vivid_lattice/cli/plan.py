"""The plan from the shell: cables with lengths and sections, conductors and cores of each section, joints of each box."""

from __future__ import annotations

import argparse
import json
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from vivid_lattice.cli.material_json import fixing_json, material_json
from vivid_lattice.core.document.job import Section
from vivid_lattice.core.document.plan import PlanPoint
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import read_document
from vivid_lattice.core.material.material import material
from vivid_lattice.core.messages import Text
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.plan.fill.box import BoxFill
from vivid_lattice.core.plan.fill.boxes_of_plan import fills_of
from vivid_lattice.core.plan.fill.conduit import ConduitChoice
from vivid_lattice.core.plan.fill.conduits_of_plan import conduits_of
from vivid_lattice.core.plan.fixing.fixing_plan import fixing_plan
from vivid_lattice.core.plan.house_plan import HousePlan, MadeJoint, house_plan, made_joints
from vivid_lattice.core.plan.planned_runs import is_branch, planned_runs
from vivid_lattice.core.plan.remarks import questions, remarks
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet


def add_commands(commands: Any) -> None:
    """Puts ``plan`` beside the other commands."""
    command = commands.add_parser(
        "plan", help="show the cables of the plan, with the conductors of each section and the joints of each box"
    )
    command.add_argument("file", type=Path)
    command.add_argument("--json", action="store_true", help="print the whole plan as JSON")
    command.set_defaults(run=_plan)


def _plan(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    rules = rule_set(job.job.rules)
    plan = house_plan(job, rules)
    points = {point.id: point for point in job.plan.points}
    runs = planned_runs(job, rules, plan)
    against, asked = remarks(job, rules, plan), questions(job, rules, plan)
    if args.json:
        print(
            json.dumps(
                as_json(plan, points, rules, runs)
                | fixing_json(fixing_plan(job, rules, plan))
                | material_json(material(Installation.of(job, rules)))
                | {"remarks": [str(each) for each in against], "questions": [str(each) for each in asked]},
                indent=2,
                ensure_ascii=False,
            )
        )
    else:
        for circuit in plan.circuits:
            _print_circuit(circuit, points, rules, runs[circuit.circuit.id])
        for name, what in plan.lacks.items():
            print(f"{name}: needs {what}")
        for point in plan.undecided:
            print(f"{point}: no circuit")
        for each in (*against, *asked):
            print(each)
    decided = plan.circuits and not plan.undecided and not against and not asked
    return 0 if decided and all(each.proved for each in plan.circuits) else 1


def as_json(
    plan: HousePlan, points: Mapping[str, PlanPoint], rules: RuleSet, runs: Mapping[str, Sequence[Section]]
) -> dict[str, Any]:
    """A plan as plain values: lengths in metres."""
    return {
        "circuits": [
            _circuit(each, points, rules)
            | {
                "run": [_part(section) for section in runs[each.circuit.id]],
                "grouped_with": list(plan.laying.circuits[each.circuit.id].beside),
                "conduits": [
                    _conduit(a, b, found) for (a, b), found in conduits_of(each, plan.laying.sections, rules).items()
                ],
            }
            for each in plan.circuits
        ],
        "lacks": {name: str(what) for name, what in plan.lacks.items()},
        "undecided": list(plan.undecided),
    }


def _circuit(plan: CircuitPlan, points: Mapping[str, PlanPoint], rules: RuleSet) -> dict[str, Any]:
    boxes = made_joints(plan, rules)
    fills = fills_of(plan, points, boxes, rules)
    return {
        "id": plan.circuit.id,
        "name": plan.circuit.name,
        "shape": plan.shape,
        "feed_at": plan.feed_at,
        "order": list(plan.order.points),
        "order_gap": round(plan.order.gap, 4),
        "length_m": plan.length_m,
        "cable_m": round(plan.cable_m, 3),
        "furthest": plan.furthest,
        "proved": plan.proved,
        "sections": [
            {
                "from": section.a,
                "to": section.b,
                "route_m": section.route_m,
                "piece_m": section.piece_m,
                "conductors": list(section.carries),
                "cable": section.cable.name if section.cable is not None else None,
                "cores": section.cores.cores if section.cores is not None else None,
                "marked": section.cores.marked if section.cores is not None else None,
                "spare": section.spare,
            }
            for section in plan.sections
        ],
        "boxes": [
            {
                "box": box,
                "devices": list(plan.devices[box]),
                "fill": _fill(fills[box]) if box in fills else None,
                "joints": [
                    {
                        "conductor": made.joint.net,
                        "cables": made.joint.cables,
                        "devices": made.joint.devices,
                        "in_terminals_of": made.terminals_of or None,
                        "connectors": None
                        if made.connectors is None
                        else {"count": made.connectors.count, "ports": made.connectors.ports},
                    }
                    for made in joints
                ],
            }
            for box, joints in boxes.items()
        ],
    }


def _conduit(a: str, b: str, found: ConduitChoice | Text) -> dict[str, Any]:
    """The conduit of a section of single wires, or why none is known."""
    if not isinstance(found, ConduitChoice):
        return {"from": a, "to": b, "conduit": None, "lacks": str(found)}
    return {
        "from": a,
        "to": b,
        "conduit": found.conduit,
        "used": round(found.used, 3),
        "limit": round(found.limit, 3),
        "unit": found.unit,
        "parts": list(found.parts),
    }


def _part(section: Section) -> dict[str, Any]:
    """A part of a run as the plan gives it."""
    return {
        "length_m": section.length_m,
        "concealed_in": section.concealed_in,
        "method": section.method,
        "circuits_grouped": section.circuits_grouped,
        "depth_mm": section.depth_mm,
        "branch": is_branch(section),
    }


def _fill(fill: BoxFill) -> dict[str, Any]:
    """None of the table: no box of it is large enough, or the standard counts none."""
    return {
        "counted": fill.method,
        "used": round(fill.used, 3),
        "parts": list(fill.parts),
        "smallest_box": fill.box.name if fill.box is not None else None,
        "takes": fill.limit,
    }


def _print_circuit(plan: CircuitPlan, points: Mapping[str, PlanPoint], rules: RuleSet, run: Sequence[Section]) -> None:
    gap = f", another order could be {100 * plan.order.gap:.0f} % shorter at most" if plan.order.gap > 0.005 else ""
    print(
        f"{plan.circuit.name}: {plan.shape}, {plan.length_m:.2f} m to {plan.furthest}, {plan.cable_m:.2f} m of cable{gap}"
    )
    for part in run:
        grouped = f", {part.circuits_grouped} grouped" if part.circuits_grouped > 1 else ""
        long = "on a branch" if is_branch(part) else f"{part.length_m:.2f} m"
        print(f"   {long} {part.concealed_in or 'place not stated'}, method {part.method}{grouped}")
    if not plan.proved:
        print("   NOT PROVED: a switch position does not do what it should")
    for section in plan.sections:
        cable = section.cable.name if section.cable is not None else "no cable has so many cores"
        cores = section.cores
        use = "; ".join(each for each in (cores.cores, cores.marked) if each) if cores is not None else ""
        print(
            f"   {section.a} – {section.b}  {section.piece_m:.2f} m  {' '.join(section.carries)}  {cable}{'; ' if use else ''}{use}"
        )
    boxes = made_joints(plan, rules)
    for box, joints in boxes.items():
        parts = [f"{each.joint.net} {each.joint.ends} {_how(each)}" for each in joints if each.joint.needs_connector]
        if parts:
            print(f"   {box}: joints {', '.join(parts)}")
    for box, fill in fills_of(plan, points, boxes, rules).items():
        print(f"   {box}: {_size_of(fill)}")


def _size_of(fill: BoxFill) -> str:
    if fill.method is None:
        return "box fill is not available for this standard"
    counted = f"{fill.used:g} ({', '.join(fill.parts)})" if len(fill.parts) > 1 else f"{fill.used:g}"
    if fill.box is None or fill.limit is None:
        return f"no box of the table takes {counted}"
    return f"box {fill.box.name}: {fill.method} {counted} of {fill.limit:g}"


def _how(made: MadeJoint) -> str:
    if made.connectors is None:
        return f"in the terminals of the {made.terminals_of}"
    many = f"{made.connectors.count} connectors" if made.connectors.count > 1 else "a connector"
    return f"in {many} of {made.connectors.ports}"
