"""Typical homes as jobs, typed line by line; the boards that are swapped as surveys."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from vivid_lattice.core.document import checked
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.job import Job
from vivid_lattice.core.new_job import blank
from vivid_lattice.core.rules import rule_set


@dataclass(frozen=True)
class Line:
    """What is typed, and what it should be read as: kind of circuit, least and greatest length [m], points, power in all [W]."""

    text: str
    kind: str
    least_m: float
    most_m: float
    points: int
    power_w: float


@dataclass(frozen=True)
class Home:
    """A home of one standard. ``ways``: its lines are ways of a board that was found."""

    standard: str
    name: str
    title: str
    supply: str
    ways: bool
    lines: tuple[Line, ...]


@cache
def homes() -> tuple[Home, ...]:
    """All homes of homes.toml, in its order."""
    data = tomllib.loads((Path(__file__).parent / "homes.toml").read_text("utf-8"))
    return tuple(Home(**{**one, "lines": tuple(Line(*line) for line in one["lines"])}) for one in data["home"])


def typed_home(home: Home) -> Job:
    """The home's supply, then its circuits, as somebody types them one after the other."""
    job = set_supply(blank(home.title, rule_set(home.standard)), home.supply).job
    board = job.boards[0].model_copy(update={"ways_total": 40})
    job = job.model_copy(update={"boards": (board,)})
    for line in home.lines:
        job = add_entry(job, line.text, board.id).job
    return checked(job)
