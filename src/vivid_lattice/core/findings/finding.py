"""A finding: what a check says of a subject, with its calculation step by step, what it needs, and what would fix it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.document.job import Board, Circuit
from vivid_lattice.core.document.supply import Supply
from vivid_lattice.core.errors import Need
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.messages import Text
from vivid_lattice.core.sources import Source

SubjectKind = Literal["circuit", "board", "supply"]
#: What several findings may be due to: a residual-current device (its board and id), and equipment of a room, too.
CauseKind = Literal["circuit", "board", "supply", "rcd", "room"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One line of a calculation as an electrician would write it."""

    symbol: str
    meaning: Text
    formula: Text
    figures: Text
    result: float
    unit: Text
    shown: Text
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Remedy:
    """A change that fixes a finding, found by running the engine on the changed job."""

    id: str
    label: Text
    effect: Text
    verdict: Verdict
    value: float | None
    shown_value: str
    worsens: tuple[str, ...]
    circuits: tuple[Circuit, ...]
    boards: tuple[Board, ...] = ()
    supply: Supply | None = None


@dataclass(frozen=True, slots=True)
class Assumption:
    """A value that a finding rests on and that no one has confirmed: the field it is for, the value, where it is from.

    to_confirm  it is a value of the document that is marked as assumed; else an estimate of a check
    """

    field: str
    value: Text
    source: str
    to_confirm: bool = False


# Not frozen, for the time it takes: see ``Message``. Nothing writes to one.
@dataclass(slots=True, kw_only=True, unsafe_hash=True)
class Finding:
    """What a check says of a subject. ``margin``: 0 at the limit, 1 nothing used, negative over. ``cause``: what it shares with other
    findings; None: itself alone. ``accepted``: the reason for which this advice was accepted; '': it was not."""

    check: str
    subject: Subject
    verdict: Verdict
    sentence: Text
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
    accepted: str = ""
