"""Testing from the shell: the test plan of a job, and readings judged."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import read_document
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.judgement import JudgedReading, judged, worst_of
from vivid_lattice.core.testing.reading_table import read_readings
from vivid_lattice.core.testing.test_plan import PlannedTest, TestPlan, plan_of
from vivid_lattice.core.text import shown_down, shown_up


def add_commands(commands: Any) -> None:
    """Puts ``test-plan`` and ``judge`` beside the other commands."""
    command = commands.add_parser("test-plan", help="show the test plan of a job, with what each test should read")
    command.add_argument("file", type=Path)
    command.add_argument("--temperature", type=float, metavar="C", help="temperature of the conductors (°C)")
    command.add_argument("--json", action="store_true", help="print the whole plan as JSON")
    command.set_defaults(run=_plan)

    command = commands.add_parser("judge", help="judge readings against limits, the design and each other")
    command.add_argument("file", type=Path)
    command.add_argument("readings", type=Path, help="CSV: test, subject, value and more; see the guide")
    command.add_argument("--temperature", type=float, metavar="C", help="temperature of the conductors (°C)")
    command.add_argument("--json", action="store_true", help="print the whole result as JSON")
    command.set_defaults(run=_judge)


def _plan(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    plan = plan_of(Installation.of(job, rule_set(job.job.rules)), args.temperature)
    if args.json:
        print(TypeAdapter(TestPlan).dump_json(plan, indent=2).decode())
    else:
        _print_plan(plan)
    return 0


def _print_plan(plan: TestPlan) -> None:
    for step in plan.steps:
        print(f"{step.order}. {step.title} ({step.state})")
        for test in (each for each in plan.tests if each.step == step.id):
            way = f"{test.way} " if test.way is not None else ""
            print(f"   {way}{test.name}: {test.title}{_figures(test)}")


def _figures(test: PlannedTest) -> str:
    expected, parts = test.expected, []
    if expected.value is not None:
        parts.append(f"expected {shown_up(expected.value)} {test.unit}")
    if expected.low is not None and expected.high is not None:
        parts.append(f"agrees {shown_up(expected.low)} to {shown_down(expected.high)}")
    if expected.least is not None:
        parts.append(f"minimum {expected.least:g} {test.unit}")
    if expected.most is not None:
        parts.append(f"maximum {shown_down(expected.most)} {test.unit}")
    if expected.by_calculation is not None:
        parts.append(f"above it Ze and the warm R1+R2 up to {shown_down(expected.by_calculation)} {test.unit}")
    parts += [f"not known: {why}" for why in expected.missing[:1]]
    return f": {', '.join(parts)}" if parts else ""


def _judge(args: argparse.Namespace) -> int:
    job = read_document(args.file.read_bytes())
    rules = rule_set(job.job.rules)
    rows = read_readings(Installation.of(job, rules), args.readings.read_text("utf-8-sig"))
    for number, problem in rows.problems:
        print(f"{args.readings}: row {number}: {problem}", file=sys.stderr)
    made = _with_readings(job, rows.readings)
    network = Installation.of(made, rules)
    results = judged(network, args.temperature)
    diagnoses = diagnosed(network, results, args.temperature)
    if args.json:
        adapter = TypeAdapter(dict[str, tuple[JudgedReading, ...] | tuple[Diagnosis, ...]])
        found = json.loads(adapter.dump_json({"readings": results, "diagnoses": diagnoses}))
        problems = [{"row": number, "problem": str(problem)} for number, problem in rows.problems]
        print(json.dumps(found | {"problems": problems}, indent=2))
    else:
        for result in results:
            _print_reading(result)
        for diagnosis in diagnoses:
            _print_diagnosis(diagnosis)
    if rows.problems:
        return 2
    return 1 if worst_of(results) in ("fail", "missing") else 0


def _with_readings(job: Job, readings: tuple[Any, ...]) -> Job:
    testing = job.testing.model_copy(update={"readings": (*job.testing.readings, *readings)})
    return job.model_copy(update={"testing": testing})


def _print_reading(result: JudgedReading) -> None:
    print(f"{result.verdict:15} {result.name}: {result.title} {result.shown}. {result.sentence}.")
    if result.agreement_text:
        print(f"{'':15}   {result.agreement_text}.")
    for comparison in result.comparisons:
        print(f"{'':15}   {comparison.text}.")


def _print_diagnosis(diagnosis: Diagnosis) -> None:
    print(f"\n{diagnosis.name}: likely causes")
    for possible in diagnosis.possible:
        alone = diagnosis.certain and len(diagnosis.possible) == 1
        chance = "almost certain" if alone else f"{100 * possible.probability:.0f} %"
        print(f"   {chance}: {'; and '.join(possible.names)}")
        print(f"      usually found: {'; '.join(possible.seen)}")
        if possible.heat is not None:
            print(f"      in use: {possible.heat}")
        print(f"      put right: {'; '.join(possible.repair)}")
    if not diagnosis.explains:
        print("   none of these explains every reading: read again, or look for two causes")
    if (test := diagnosis.next_test) is not None:
        of = f" of {test.reading.name}" if test.reading is not None and test.reading.name != diagnosis.name else ""
        print(f"   next: {test.title}{of}. The first if it reads: {test.first}. The second: {test.second}")
