"""An assessment: every finding of a job, its causes, and the values that rows and boards show beside them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from vivid_lattice.core.document.job import Line
from vivid_lattice.core.findings.finding import Cause, Finding, SubjectKind
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.messages import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class CauseGroup:
    """A cause with what it comes to: its worst verdict, the sentence that says it once, how many findings repeat it, and the
    circuits they are about."""

    cause: Cause
    verdict: Verdict
    sentence: Text
    findings: int
    circuits: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class AcceptedCause:
    """Advice that was accepted: what it is due to, its sentence today, the circuits it is about, why, by whom and when ('': not said)."""

    cause: Cause
    sentence: Text
    circuits: tuple[str, ...]
    reason: str
    name: str
    date: str


NextStepKind = Literal["fix", "input", "design", "confirm", "advice"]


@dataclass(frozen=True, slots=True, kw_only=True)
class NextStep:
    """Something to do on a job, and how many there are of it: causes by their places in the assessment's list, or circuits by id."""

    kind: NextStepKind
    n: int
    causes: tuple[int, ...]
    circuits: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class PathPoint:
    """A place on the way from the origin to the end of the circuit, with what has added up by then."""

    label: str
    detail: str
    drop_pct: float | None
    loop_ohm: float | None
    largest_ka: float | None
    shown_drop: str
    shown_loop: str
    shown_largest: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitFigures:
    """What a row of the lattice shows beside its checks. ``r1r2_ohm`` and ``zs_cold_ohm`` are what a meter should read at
    20 °C; ``fault_max_ka`` flows next to its board, ``fault_min_ka`` to earth at its end."""

    circuit: str
    board: str
    way: int
    lines: tuple[Line, ...]
    design_current_a: float | None
    length_m: float | None
    cpc_mm2: float | None
    size: str
    r1r2_ohm: float | None
    zs_cold_ohm: float | None
    zs_warm_ohm: float | None
    fault_max_ka: float | None
    fault_min_ka: float | None
    drop_limit_pct: float
    path: tuple[PathPoint, ...]


@dataclass(frozen=True, slots=True)
class LineLoad:
    """What a line of a board carries after diversity [A]."""

    line: Line
    current_a: float
    shown: str


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardFigures:
    """A board's lines, what they carry, and the largest currents that may flow at it."""

    board: str
    lines: tuple[LineLoad, ...]
    fault_lines_ka: float | None
    fault_neutral_ka: float | None
    loop_ohm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class OpenAssumption:
    """A value to confirm: what it is, how it is written, how it is confirmed on site, and what it belongs to.

    other   the other usual end, as it is written; '' where there is none
    """

    field: str
    label: Text
    value: float | str
    shown: str
    unit: str
    other: str
    confirm: str
    source: str
    kind: SubjectKind
    subject: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Assessment:
    """The whole job, checked. ``counts``: findings by verdict; ``causes``: what is not in order, each cause once, the worst first.
    Advice that was accepted is in neither, nor in ``verdict``; it is in ``accepted``.

    next_steps   what to do, the most important first
    to_confirm   how many values are assumed and not confirmed; while there is one, ``verdict`` is at best 'advice'
    assumptions  each of them
    """

    job: str
    rules: str
    verdict: Verdict
    counts: dict[str, int]
    findings: tuple[Finding, ...]
    causes: tuple[CauseGroup, ...]
    circuits: tuple[CircuitFigures, ...]
    boards: tuple[BoardFigures, ...]
    to_confirm: int = 0
    assumptions: tuple[OpenAssumption, ...] = ()
    accepted: tuple[AcceptedCause, ...] = ()
    next_steps: tuple[NextStep, ...] = ()
    cautions: tuple[str, ...] = field(default=())
