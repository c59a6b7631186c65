"""What the engine answers with: a Finding a check and subject, its Working step by step, and remedies.

Nothing outside the core computes: the interface and the papers print what stands here.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Literal

from vivid_lattice.core.document.job import Board, Circuit, Line
from vivid_lattice.core.document.supply import Supply
from vivid_lattice.core.errors import Need
from vivid_lattice.core.sources import Source as Source

Verdict = Literal["pass", "tight", "fail", "advice", "missing", "not-applicable"]
SubjectKind = Literal["circuit", "board", "supply"]
#: What several findings may be due to: a residual-current device (its board and id), and equipment of a room, too.
CauseKind = Literal["circuit", "board", "supply", "rcd", "room"]

#: Under a tenth in hand is worth a look before the cable is bought. Common practice, no source.
TIGHT_BELOW = 0.10
#: Floating-point slack, far below anything a meter can read.
_EPSILON = 1e-9

VERDICT_ORDER: tuple[Verdict, ...] = ("fail", "missing", "advice", "tight", "pass", "not-applicable")


@dataclass(frozen=True, slots=True)
class Step:
    """One line of a sum as an electrician would write it."""

    symbol: str
    meaning: str
    formula: str
    figures: str
    result: float
    unit: str
    shown: str
    source: Source | None = None


@dataclass(frozen=True, slots=True)
class Subject:
    """What a finding is about."""

    kind: SubjectKind
    id: str


@dataclass(frozen=True, slots=True)
class CauseSubject:
    """What a cause lies in."""

    kind: CauseKind
    id: str


@dataclass(frozen=True, slots=True)
class Cause:
    """What several findings are due to: the check that names it, and what it lies in."""

    check: str
    subject: CauseSubject


@dataclass(frozen=True, slots=True)
class CauseGroup:
    """A cause with what it comes to: its worst verdict, the sentence that says it once, how many findings repeat it, and the
    circuits they are about."""

    cause: Cause
    verdict: Verdict
    sentence: str
    findings: int
    circuits: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Remedy:
    """A change that mends a finding, found by running the engine on the changed job."""

    id: str
    label: str
    effect: str
    verdict: Verdict
    value: float | None
    shown_value: str
    worsens: tuple[str, ...]
    circuits: tuple[Circuit, ...]
    boards: tuple[Board, ...] = ()
    supply: Supply | None = None


@dataclass(frozen=True, slots=True)
class Assumption:
    """A value that a finding rests on and that nobody has confirmed: the field it stands for, the value, where it is from."""

    field: str
    value: str
    source: str


@dataclass(frozen=True, slots=True)
class Finding:
    """What a check says of a subject. ``margin``: 0 at the limit, 1 all in hand, negative over. ``cause``: what it shares with other
    findings; None: itself alone."""

    check: str
    subject: Subject
    verdict: Verdict
    sentence: str
    value: float | None = None
    limit: float | None = None
    unit: str = ""
    shown_value: str = ""
    shown_limit: str = ""
    margin: float | None = None
    rule: Source | None = None
    working: tuple[Step, ...] = ()
    needs: tuple[Need, ...] = ()
    remedies: tuple[Remedy, ...] = ()
    assumptions: tuple[Assumption, ...] = ()
    cause: Cause | None = None


@dataclass(frozen=True, slots=True)
class PathPoint:
    """A place on the way from the origin to a far end, with what has added up by then."""

    label: str
    detail: str
    drop_pct: float | None
    loop_ohm: float | None
    largest_ka: float | None
    shown_drop: str
    shown_loop: str
    shown_largest: str


@dataclass(frozen=True, slots=True)
class CircuitFigures:
    """What a row of the lattice shows beside its checks. ``r1r2_ohm`` and ``zs_cold_ohm`` are what a meter should read at
    20 °C; ``fault_max_ka`` flows next to its board, ``fault_min_ka`` to earth at its far end."""

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


@dataclass(frozen=True, slots=True)
class BoardFigures:
    """A board's lines, what they carry, and the largest currents that may flow at it."""

    board: str
    lines: tuple[LineLoad, ...]
    fault_lines_ka: float | None
    fault_neutral_ka: float | None
    loop_ohm: float | None


@dataclass(frozen=True, slots=True)
class Assessment:
    """The whole job, checked. ``counts``: findings by verdict; ``causes``: what is not in order, each cause once, the worst first."""

    job: str
    rules: str
    verdict: Verdict
    counts: dict[str, int]
    findings: tuple[Finding, ...]
    causes: tuple[CauseGroup, ...]
    circuits: tuple[CircuitFigures, ...]
    boards: tuple[BoardFigures, ...]
    cautions: tuple[str, ...] = field(default=())


def margin_of(value: float, limit: float) -> float:
    """Share of the limit still in hand: 1 − value/limit.

    >>> margin_of(4.1, 5.0) > 0.179
    True
    """
    return 1.0 - value / limit


def verdict_by(margin: float) -> Verdict:
    """Pass, tight or fail for a figure by what it leaves in hand; at the limit it passes, but is tight.

    >>> [verdict_by(margin_of(value, 16)) for value in (16, 14.4, 16.001)]
    ['tight', 'pass', 'fail']
    """
    if margin < -_EPSILON:
        return "fail"
    return "tight" if margin < TIGHT_BELOW - _EPSILON else "pass"


def worst(verdicts: list[Verdict]) -> Verdict:
    """The worst of several verdicts; of none, 'not-applicable'.

    >>> worst(["pass", "missing", "tight"])
    'missing'
    """
    return min(verdicts, key=VERDICT_ORDER.index, default="not-applicable")


@lru_cache(maxsize=65536)
def shown_up(value: float, digits: int = 3) -> str:
    """A figure rounded up to so many significant digits, so that rounding never makes it look better.

    >>> shown_up(0.65001), shown_up(16.0), shown_up(4.2398), shown_up(120.5853), shown_up(0.003317)
    ('0.651', '16', '4.24', '121', '0.00332')
    """
    return _shown(value, digits, math.ceil)


@lru_cache(maxsize=65536)
def shown_down(value: float, digits: int = 3) -> str:
    """A limit rounded down, for the same reason.

    >>> shown_down(1.36563), shown_down(1666.67), shown_down(11.5)
    ('1.36', '1666', '11.5')
    """
    return _shown(value, digits, math.floor)


@lru_cache(maxsize=65536)
def shown(value: float, digits: int = 4) -> str:
    """A figure inside a sum, to the nearest of so many significant digits, and whole digits never cut.

    >>> shown(25.69565), shown(0.3008), shown(37.0), shown(12345.6), shown(0.0000412)
    ('25.7', '0.3008', '37', '12346', '0.0000412')
    """
    return _shown(value, digits, round)


def _shown(value: float, digits: int, rounded: Callable[[float], int]) -> str:
    if value == 0:
        return "0"
    places = max(0, digits - 1 - math.floor(math.log10(abs(value))))
    scale = 10**places
    # Nine places first: 1.13 × 100 is 112.99999999999999, and must not be floored to 112.
    text = f"{rounded(round(value * scale, 9)) / scale:.{places}f}"
    return text.rstrip("0").rstrip(".") if places else text
