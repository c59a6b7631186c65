"""What training boards are made of and scored by: lines of boards, levels, points, acts that are stopped."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.data_folder import homes

Severity = Literal["fatal", "injury", "fire", "damage"]
Part = Literal["safety", "finding", "evidence", "economy", "order", "words"]
#: What a stopped act takes off the points of safety, by its severity.
TAKES: Mapping[Severity, int] = {"fatal": 15, "injury": 8, "fire": 8, "damage": 5}
#: So many stopped acts that can kill end an attempt; so many points pass, with so many of safety.
ENDS_AT, PASS_FROM, PASS_SAFETY = 3, 70, 15

#: From this level the learner sets the tester and its leads; before it, each test of the list does.
LEADS_FROM_LEVEL = 2


@dataclass(frozen=True, slots=True)
class BoardLines:
    """A board as it is typed. ``supply``: the line of the supply, '' of the usual one; ``rcds``: the numbers of the lines that each shared
    residual-current device feeds."""

    system: str
    supply: str
    rcds: tuple[tuple[int, ...], ...]
    lines: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Level:
    """How many defects a board of a level hides, how many hints there are, and in how many minutes it is done."""

    level: int
    name: str
    defects_low: int
    defects_high: int
    hints: int
    minutes: int


@dataclass(frozen=True, slots=True)
class Piece:
    """A board with chosen defects: what is told of it first, the standards where it is possible."""

    id: str
    title: str
    standards: tuple[str, ...]
    level: int
    defects: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Stopped:
    """An act that is stopped: what, why, and what is right."""

    act: str
    what: str
    why: str
    right: str
    severity: Severity


@lru_cache
def board_lines(standard: str) -> tuple[BoardLines, ...]:
    """The boards of a standard."""
    rows = rule_set(standard).data.table("common.training.boards").rows
    family = homes()[standard][0]
    return tuple(
        BoardLines(
            str(system),
            str(supply),
            tuple(tuple(int(each) for each in group.split()) for group in str(rcds).split(";") if group.strip()),
            tuple(each.strip() for each in str(lines).split(";")),
        )
        for of, system, supply, rcds, lines in rows
        if of == family
    )


@lru_cache
def pieces() -> Mapping[str, Piece]:
    """Boards with chosen defects, by id."""
    rows = rule_set("uk").data.table("common.training.pieces").rows
    return {
        str(id_): Piece(str(id_), str(title), tuple(str(of).split()), int(str(level)), tuple(str(defects).split("; ")))
        for id_, title, of, level, defects in rows
    }


@lru_cache
def levels() -> tuple[Level, ...]:
    """Every level, the easiest first."""
    rows = rule_set("uk").data.table("common.training.levels").rows
    return tuple(Level(int(str(n)), str(name), *(int(str(each)) for each in rest)) for n, name, *rest in rows)


@lru_cache
def points() -> Mapping[str, int]:
    """The greatest points of each part of the score."""
    return {str(part): int(str(most)) for part, most in rule_set("uk").data.table("common.training.score").rows}


@lru_cache
def stopped() -> Mapping[str, Stopped]:
    """Acts that are stopped, by name."""
    rows = rule_set("uk").data.table("common.training.stopped").rows
    return {str(row[0]): Stopped(*(str(cell) for cell in row)) for row in rows}  # type: ignore[arg-type]


@lru_cache
def stays_live() -> Mapping[str, str]:
    """Defects that leave a circuit live, by the device that is off: the ``breaker`` of the circuit, or the ``shared`` device before it."""
    rows = rule_set("uk").data.table("common.training.stays-live").rows
    return {str(defect): str(off) for defect, off in rows}
