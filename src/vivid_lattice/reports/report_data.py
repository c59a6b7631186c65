"""Everything that a paper is made from: a job as it was kept, assessed, with its network and photos."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from vivid_lattice.core.assessment.assess import assess, in_board_order
from vivid_lattice.core.board.board_view import BoardView, view_of
from vivid_lattice.core.board.labels import ChartLine, chart_of
from vivid_lattice.core.bundle import BundledPhoto, BundledReading, BundledTick, BundledTrip
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS, SUPPLY_CHECKS, BoardCheck, Check, SupplyCheck
from vivid_lattice.core.document.job import Board, Circuit, Device, Job, names_of
from vivid_lattice.core.findings.assessment import Assessment, CircuitFigures
from vivid_lattice.core.findings.finding import Finding, SubjectKind
from vivid_lattice.core.findings.verdict import VERDICT_ORDER
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.material.line import Material
from vivid_lattice.core.material.material import material
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.expected_readings import ExpectedReadings, expected
from vivid_lattice.core.testing.expected_value import by_design
from vivid_lattice.core.testing.judgement import JudgedReading, judged

#: All checks, by what they are asked of and their id.
_CHECKS: Mapping[SubjectKind, Mapping[str, Check | BoardCheck | SupplyCheck]] = {
    "circuit": {check.id: check for check in CHECKS},
    "board": {check.id: check for check in BOARD_CHECKS},
    "supply": {check.id: check for check in SUPPLY_CHECKS},
}
#: Told how far an export is: so many steps done of so many, and what is left. It may raise ``Stopped``.
Progress = Callable[[int, int, str], None]


def unwatched(_done: int, _all: int, _what: str) -> None:
    """Progress that no one looks at."""


@dataclass(frozen=True, kw_only=True)
class ReportData:
    """A job and what is known of it. ``revision`` None: it comes from a file; ``made_at``: when the paper was made."""

    job: Job
    made_at: str
    revision: int | None = None
    saved_at: str = ""
    photos: tuple[BundledPhoto, ...] = ()
    trips: tuple[BundledTrip, ...] = ()
    ticks: tuple[BundledTick, ...] = ()
    history: tuple[BundledReading, ...] = ()
    against: Job | None = None
    against_title: str = ""
    progress: Progress = field(default=unwatched, compare=False)

    def say(self, id_: str, **params: Param) -> str:
        """A text of the catalogue in the words of the job's standard and the language of its documents."""
        return str(self.network.message(id_, **params))

    @cached_property
    def network(self) -> Installation:
        """The network of the job under its standard."""
        return Installation.of(self.job, rule_set(self.job.job.rules))

    @cached_property
    def assessment(self) -> Assessment:
        """Every finding with its working."""
        return assess(self.job)

    @cached_property
    def names(self) -> Mapping[str, str]:
        """What boards, circuits and the supply are called."""
        return names_of(self.job)

    def title_of(self, finding: Finding) -> str:
        """Title of a finding's check: the same id may be asked of the supply, of a board and of a circuit."""
        return self.check_title(finding.subject.kind, finding.check)

    def check_title(self, kind: SubjectKind, check: str) -> str:
        """What a check of circuits, boards or the supply is called in the job's standard."""
        return str(_CHECKS[kind][check].title(self.network.rules.words))

    @cached_property
    def circuits(self) -> tuple[Circuit, ...]:
        """Circuits in the order of the boards' ways."""
        return tuple(in_board_order(self.job))

    @cached_property
    def figures(self) -> Mapping[str, CircuitFigures]:
        """Figures of each circuit's row."""
        return {row.circuit: row for row in self.assessment.circuits}

    @cached_property
    def by_subject(self) -> Mapping[str, tuple[Finding, ...]]:
        """Findings by what they are about."""
        findings: dict[str, list[Finding]] = {}
        for finding in self.assessment.findings:
            findings.setdefault(finding.subject.id, []).append(finding)
        return {name: tuple(of_subject) for name, of_subject in findings.items()}

    @cached_property
    def expected(self) -> tuple[ExpectedReadings, ...]:
        """What a meter should read, by the design: readings in force are not compared with themselves."""
        return expected(by_design(self.network))

    @cached_property
    def readings(self) -> Mapping[str, JudgedReading]:
        """The readings in force by the test they are of, of several points the worst."""
        found: dict[str, JudgedReading] = {}
        for reading in judged(self.network):
            before = found.get(reading.test)
            if before is None or VERDICT_ORDER.index(reading.verdict) < VERDICT_ORDER.index(before.verdict):
                found[reading.test] = reading
        return found

    @cached_property
    def material(self) -> Material:
        """What must be bought and cut."""
        return material(self.network)

    def board(self, board_id: str) -> Board:
        """A board by its id."""
        return self.network.tree.boards[board_id]

    def view(self, board_id: str) -> BoardView | None:
        """A board as it is drawn; None while its lines or enclosure are not known."""
        drawn = or_none(lambda: view_of(self.network.boards, board_id, ()))
        return drawn if drawn is not None and drawn.width_mm > 0 else None

    def chart(self, board_id: str) -> tuple[ChartLine, ...]:
        """The ways of a board with their texts and rooms."""
        return chart_of(self.network.boards[board_id])

    @property
    def revision_text(self) -> str:
        """Which state of the job a paper shows."""
        if self.revision is None:
            return self.say("documents.page.no_revision")
        saved = self.saved_at[:16].replace("T", " ")
        return self.say("documents.page.revision", n=self.revision, time=saved)


def device_short(circuit: Circuit) -> str:
    """A circuit's device as it is written in a column: 'B32 30 mA A'."""
    device = circuit.device
    if not isinstance(device, Device):
        return "not chosen"
    words = device.label
    if device.rcd is not None:
        words += f" {device.rcd.idn_ma:g} mA {device.rcd.type}{' S' if device.rcd.time_delayed else ''}"
    return words + (" arc" if device.arc_fault else "")


def device_long(data: ReportData, circuit: Circuit) -> str:
    """The same with its kind before it and its breaking capacity behind."""
    device = circuit.device
    if not isinstance(device, Device):
        return "not chosen"
    breaking = f", {device.breaking_ka:g} kA" if device.breaking_ka else ""
    return f"{data.network.rules.devices.kind(device.kind).short} {device_short(circuit)}{breaking}"
