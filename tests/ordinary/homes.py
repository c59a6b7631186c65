"""Typical homes as jobs, typed line by line; the boards that are swapped as surveys."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from vivid_lattice.core.actions.new_job import blank
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.existing_board import ExistingBoard, Survey
from vivid_lattice.core.document.job import Job, MainSwitch
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.entry.way_line import read_way
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.survey.board_replacement import replaced_board


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


@dataclass(frozen=True)
class Fitted:
    """What is usual for a line: kind of device, curve, ratings and sizes (the first is the usual one), and whether a 30 mA RCD protects it."""

    text: str
    kind: str
    curve: str
    ratings_a: tuple[float, ...]
    sizes: tuple[str, ...]
    by_rcd: bool


@dataclass(frozen=True)
class Expectation:
    """What is expected of a home: see expected.toml."""

    home: Home
    known: str
    floor_m2: float
    main_switch_a: float
    assembly_ka: float
    must_advise: tuple[str, ...]
    may_miss: tuple[str, ...]
    causes: int
    circuits: tuple[Fitted, ...]


@dataclass(frozen=True)
class Swap:
    """A board that is swapped, and what is expected of it; ``fitted``: way by way, with the size that is there."""

    home: Home
    assembly_ka: float
    may_fail: tuple[str, ...]
    fitted: tuple[Fitted, ...]


@cache
def homes() -> tuple[Home, ...]:
    """All homes of homes.toml, in its order."""
    data = tomllib.loads((Path(__file__).parent / "homes.toml").read_text("utf-8"))
    return tuple(Home(**{**one, "lines": tuple(Line(*line) for line in one["lines"])}) for one in data["home"])


def typed_home(home: Home) -> Job:
    """The home's supply, then its circuits, as somebody types them one after the other."""
    job = set_supply(blank(home.title, rule_set(home.standard)), home.supply).job
    board = job.boards[0].model_copy(update={"way_count": 40})
    job = job.model_copy(update={"boards": (board,)})
    for line in home.lines:
        job = add_entry(job, line.text, board.id).job
    return checked(job)


@cache
def expected() -> tuple[Expectation, ...]:
    """The expectations of every home that is typed line by line."""
    by_name = {(home.standard, home.name): home for home in homes()}
    data = tomllib.loads((Path(__file__).parent / "expected.toml").read_text("utf-8"))
    return tuple(
        Expectation(
            home=by_name[one["standard"], one["name"]],
            known=one["known"],
            floor_m2=one["floor_m2"],
            main_switch_a=one["main_switch_A"],
            assembly_ka=one["assembly_kA"],
            must_advise=tuple(one["must_advise"]),
            may_miss=tuple(one["may_miss"]),
            causes=one["causes"],
            circuits=tuple(
                Fitted(
                    text,
                    kind,
                    curve,
                    (rating, *ratings),
                    tuple(str(size).removesuffix(".0") for size in (size, *sizes)),
                    rcd,
                )
                for text, kind, curve, rating, ratings, size, sizes, rcd in one["circuits"]
            ),
        )
        for one in data["home"]
    )


def known_home(one: Expectation) -> Job:
    """The typed home with what is known of its supply and board once somebody has looked."""
    job = typed_home(one.home)
    if one.known:
        job = set_supply(job, one.known).job
    job = job.model_copy(update={"job": job.job.model_copy(update={"floor_area_m2": float(one.floor_m2)})})
    board = job.boards[0]
    if one.main_switch_a:
        board = board.model_copy(update={"main_switch": MainSwitch(rating_a=one.main_switch_a)})
    if one.assembly_ka:
        board = board.model_copy(update={"assembly_ka": one.assembly_ka})
    return checked(job.model_copy(update={"boards": (board,)}))


def swaps() -> tuple[Swap, ...]:
    """The boards that are swapped, with what is expected of each."""
    by_standard = {home.standard: home for home in homes() if home.ways}
    data = tomllib.loads((Path(__file__).parent / "expected.toml").read_text("utf-8"))
    return tuple(
        Swap(
            home=by_standard[one["standard"]],
            assembly_ka=one["assembly_kA"],
            may_fail=tuple(one["may_fail"]),
            fitted=tuple(
                Fitted(text, kind, curve, (rating, *ratings), (f"{size:g}",), rcd)
                for text, kind, curve, rating, ratings, size, rcd in one["ways"]
            ),
        )
        for one in data["swap"]
    )


def swapped(one: Swap) -> Job:
    """The old board typed way by way into a new job, and a new board in its place."""
    rules = rule_set(one.home.standard)
    job = set_supply(blank(one.home.title, rules), one.home.supply).job
    found = ExistingBoard(id="old", name="Old board")
    found = found.model_copy(update={"ways": tuple(read_way(rules, found, line.text) for line in one.home.lines)})
    job = replaced_board(checked(job.model_copy(update={"survey": Survey(boards=(found,))})), "old")
    if one.assembly_ka:
        board = job.boards[0].model_copy(update={"assembly_ka": float(one.assembly_ka)})
        job = job.model_copy(update={"boards": (board,)})
    return checked(design(job).job)
