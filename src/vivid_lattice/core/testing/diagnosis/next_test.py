"""The test that best tells two explanations apart, with what each would make of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules.testing_rules import TestingRules
from vivid_lattice.core.testing.diagnosis.defects import Separation, no_defect
from vivid_lattice.core.testing.diagnosis.fit import Fit
from vivid_lattice.core.testing.diagnosis.prediction import Predicted, predicted
from vivid_lattice.core.testing.diagnosis.unit import Unit
from vivid_lattice.core.testing.expected_value import Expecting
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.subjects import Subject, readable_of, subject_of
from vivid_lattice.core.testing.test_plan import PlannedTest, planned_test, reading_title

#: What a test costs beside another: a look 1, most 2, a conductor lifted or an outlet opened 3; a live one 2 more (practice).
_COST: Mapping[ReadingKind, float] = {
    "insp": 1,
    "pol": 1,
    "r2": 3,
    "r1rn": 3,
    "r1_end": 3,
    "rn_end": 3,
    "r2_end": 3,
    "ra": 8,
}
_USUAL_COST, _LIVE_EXTRA = 2.0, 2.0
#: Where one reads a value and the other does not, so many sigmas.
_STATE_APART, _LEAST_APART = 6.0, 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class NextTest:
    """A test to do next. ``reading``: what is read, where it is a reading; ``title``: what is done; ``first`` and ``second``: what it gives
    with the likeliest explanation, and with the next."""

    reading: PlannedTest | None
    title: Text
    first: Text
    second: Text


@dataclass(frozen=True, slots=True)
class Separating:
    """A reading that two explanations differ in, with what each makes of it."""

    subject: Subject
    kind: ReadingKind
    first: Predicted
    second: Predicted


def separating(by_design: Expecting, unit: Unit, first: Fit, second: Fit) -> Separating | None:
    """The reading, of those not taken yet, that two explanations differ in most for its cost; None: no reading tells them apart."""
    best: tuple[float, Separating] | None = None
    network, model = by_design.network, unit.model
    dead_only = _not_to_be_energised(unit)
    for kind, traits in TRAITS.items():
        if kind in unit.done or not model.has(kind) or (traits.live and dead_only):
            continue
        a, b = (predicted(model, fit.defects, fit.parameters, kind) for fit in (first, second))
        apart = _apart(kind, a, b, network.rules.testing)
        subject = None if apart < _LEAST_APART else _subject(network, kind, unit)
        if subject is None:
            continue
        cost = _COST.get(kind, _USUAL_COST) + (_LIVE_EXTRA if traits.live else 0.0)
        if best is None or apart / cost > best[0]:
            best = apart / cost, Separating(subject, kind, a, b)
    return None if best is None else best[1]


def _not_to_be_energised(unit: Unit) -> bool:
    """Whether a circuit's insulation from line to another conductor fails: what is read next is read dead."""
    return any(
        one.reading.test in ("ir_le", "ir_ln")
        and one.reading.value is not None
        and one.expected.least is not None
        and one.reading.value < one.expected.least
        for one in unit.taken
    )


def next_test(by_design: Expecting, unit: Unit, first: Fit, second: Fit) -> NextTest | None:
    """The reading that best tells two explanations apart; else what is usually done to tell them apart, where something is."""
    found = separating(by_design, unit, first, second)
    if found is None:
        return _known(first, second)
    network, kind = by_design.network, found.kind
    return NextTest(
        reading=planned_test(network, by_design, kind, found.subject),
        title=reading_title(network, kind),
        first=_said(network, kind, found.first),
        second=_said(network, kind, found.second),
    )


def _subject(network: Installation, kind: ReadingKind, unit: Unit) -> Subject | None:
    """The circuit, or its own residual-current device, if a reading of the kind is taken of it; of a shared device that alone."""
    if kind in unit.unread:
        return subject_of(network, kind, ReadingSubject(kind="circuit", id=unit.unread[kind]))
    if unit.of_supply and (found := _of_supply(network, kind)) is not None:
        return found
    own = unit.device or unit.model.circuit.id
    of_circuit = None if unit.device else subject_of(network, kind, ReadingSubject(kind="circuit", id=own))
    return of_circuit or subject_of(network, kind, ReadingSubject(kind="rcd", id=own))


def _of_supply(network: Installation, kind: ReadingKind) -> Subject | None:
    """What a kind of reading is taken of at the supply or the first board; None where it is one of circuits."""
    kinds = ("supply", "electrode", "board")
    return next((each for each in readable_of(network, kind) if each.subject.kind in kinds), None)


def _apart(kind: ReadingKind, a: Predicted, b: Predicted, testing: TestingRules) -> float:
    """How far two predictions of a reading are apart [sigma]."""
    if a.value is None or b.value is None or not TRAITS[kind].is_figure:
        same = (a.change == "same") == (b.change == "same") and (a.change == "open") == (b.change == "open")
        return 0.0 if same else _STATE_APART
    own = testing.uncertainty(kind)
    if own is None:
        return 0.0
    sigma = own.pct / 100 * max(a.value, b.value) + own.absolute
    return abs(a.value - b.value) / sigma if sigma > 0 else 0.0


def _said(network: Installation, kind: ReadingKind, made: Predicted) -> Text:
    if made.value is not None and TRAITS[kind].is_figure:
        return f"{made.value:.3g} {TRAITS[kind].unit}"
    word = made.change if made.change in ("open", "same", "no trip") else "wrong"
    return network.message(f"core.testing.gives.{word.replace(' ', '_')}")


def _known(first: Fit, second: Fit) -> NextTest | None:
    """What is usually done to tell two defects apart; with the answers exchanged where it is noted the other way round."""
    for a, b, turned in ((first, second, False), (second, first, True)):
        other = "-" if b.defects[0] is no_defect() else b.defects[0].id
        found: Separation | None = next((each for each in a.defects[0].separations if each.other == other), None)
        if found is not None:
            here, there = (found.there, found.here) if turned else (found.here, found.there)
            return NextTest(reading=None, title=found.test, first=here, second=there)
    return None
