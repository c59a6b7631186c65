"""What sweeps go over: every demo on one, two and three phases, with every event that may happen on it."""

from __future__ import annotations

import json
from collections.abc import Iterator
from itertools import product
from typing import Any

from vivid_lattice.core.document.job import Circuit, Job, free_id
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.faults.event import KIND_FIELDS, FaultEvent
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import read_data
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import DEMOS, demo_text


def demos_on_every_supply() -> Iterator[tuple[str, Job]]:
    """Every demo on each number of phases that its standard and its circuits allow, and named."""
    for name, phases in product(DEMOS, (1, 2, 3)):
        data = json.loads(demo_text(name))
        data["supply"]["phases"] = phases
        try:
            yield f"{name}, {phases}", read_data(data)
        except BadDocument:
            continue


def demos_with_loads_on_a_line() -> Iterator[tuple[str, Job]]:
    """The same with every load stated to be on its circuit's last line."""
    for name, job in demos_on_every_supply():
        data = job.model_dump(mode="json")
        for circuit in data["circuits"]:
            if circuit["kind"] != "distribution":
                circuit["lines"] = circuit["lines"] or ["L1"]
                for load in circuit["loads"]:
                    load["lines"] = circuit["lines"][-1:]
        try:
            yield f"{name}, loads on a line", read_data(data)
        except BadDocument:
            continue


def events_on(job: Job, *, every: int = 1) -> Iterator[FaultEvent]:
    """Every kind of event on every circuit and device of a job, at the board, half way and at the end, with nothing, the
    usual and everything running; of these each one of ``every``."""
    for number, event in enumerate(_events(job)):
        if number % every == 0:
            yield FaultEvent.model_validate(event)


def _events(job: Job) -> Iterator[dict[str, Any]]:
    circuits = [circuit.id for circuit in job.circuits]
    rcds = [place.id for place in Installation.of(job, rule_set(job.job.rules)).rcds.all]
    choices: dict[str, list[Any]] = {
        "circuit": circuits,
        "other": [None, *circuits[:3], *circuits[-2:]],
        "rcd": rcds,
        "other_rcd": rcds,
        "at": [0.0, 0.5, 1.0],
        "running": [None, 0.0, 1.0],
    }
    for kind, fields in KIND_FIELDS.items():
        swept = [name for name in fields if name in choices]
        for values in product(*(choices[name] for name in swept)):
            yield {"kind": kind, **dict(zip(swept, values, strict=True))}


def further_circuit(job: Job) -> Circuit:
    """An oven that is not in the job yet, with everything left to choose."""
    rules = rule_set(job.job.rules)
    return Circuit.model_validate(
        {
            "id": free_id("oven", {circuit.id for circuit in job.circuits}),
            "name": "Oven",
            "kind": "fixed",
            "loads": [{"name": "Oven", "kind": "cooker", "power_w": 3000.0}],
            "run": [{"length_m": 10.0, "method": rules.default_method}],
        }
    )
