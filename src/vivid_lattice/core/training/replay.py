"""What happened in an attempt, test by test, and what an expert would have done next."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.messages import Text
from vivid_lattice.core.testing.diagnosis.defects import Danger
from vivid_lattice.core.testing.subjects import subject_of
from vivid_lattice.core.testing.test_plan import planned_test, reading_title
from vivid_lattice.core.training.acts import Measure
from vivid_lattice.core.training.findings import Findings
from vivid_lattice.core.training.policies import MOST_TESTS, expert_next
from vivid_lattice.core.training.score import evidence_kinds, names
from vivid_lattice.core.training.screening import screening_order
from vivid_lattice.core.training.session import Played


@dataclass(frozen=True, slots=True, kw_only=True)
class ReplayStep:
    """A test that was taken: what it read, what it should read, and the test that an expert would have chosen. ``off``: the readings so far
    disagree with the design."""

    title: Text
    of: Text
    reading: str
    expected: float | None
    unit: str
    off: bool
    expert: Text
    expert_of: Text
    same: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Revealed:
    """A hidden defect: its name, where it was, what it did to which readings, and how dangerous it is."""

    id: str
    name: str
    circuit: str
    shown_by: tuple[Text, ...]
    danger: Danger
    seen: str
    repair: str
    named: bool


def replay(played: Played) -> tuple[ReplayStep, ...]:
    """The tests of an attempt, one after the other; what an expert would have done beside the first of them."""
    return tuple(_steps(played))


def _steps(played: Played) -> Iterator[ReplayStep]:
    board = played.board
    findings, order = Findings(board), screening_order(board)
    off, wanted = False, None
    for number, taken in enumerate(played.bench.taken):
        measure = taken.measure
        if number < MOST_TESTS:
            wanted = expert_next(findings, order)
            off = findings.take(measure, taken.text)
        else:
            wanted = None
        title, of, unit, expected = _words(played, measure)
        expert, expert_of = _words(played, wanted)[:2] if wanted is not None else ("", "")
        yield ReplayStep(
            title=title, of=of, reading=taken.text, expected=expected, unit=unit, off=off, expert=expert,
            expert_of=expert_of, same=wanted == measure,
        )  # fmt: skip


def _words(played: Played, measure: Measure) -> tuple[Text, Text, str, float | None]:
    """What a test is, of what, its unit, and what it should read."""
    network = played.board.network
    own = next(
        (each for each in played.board.tests if (each.test, each.subject) == (measure.test, measure.subject)), None
    )
    if own is None:
        subject = subject_of(network, measure.test, measure.subject)
        if subject is None:
            return reading_title(network, measure.test), measure.subject.id, "", None
        own = planned_test(network, played.board.by_design, measure.test, subject)
    return own.title, own.name, own.unit, own.expected.value


def revealed(played: Played) -> tuple[Revealed, ...]:
    """The hidden defects. They are told when an attempt has ended, not before."""
    board, bench = played.board, played.bench
    return tuple(
        Revealed(
            id=each.id,
            name=board.known[each.id].name,
            circuit=board.job.circuit(each.circuit).name if each.circuit else "",
            shown_by=tuple(reading_title(board.network, kind) for kind in sorted(evidence_kinds(bench, each))),
            danger=board.known[each.id].danger,
            seen=board.known[each.id].seen,
            repair=board.known[each.id].repair,
            named=any(names(bench, name, each) for name in bench.named),
        )
        for each in board.hidden
    )
