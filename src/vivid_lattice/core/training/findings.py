"""What is known of a board as tests are taken: the readings, what was seen, and what they usually mean."""

from __future__ import annotations

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.enter_reading import ReadingEntry, enter_readings
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.training.acts import Measure
from vivid_lattice.core.training.answers import LEAST_MOHM, answer, seen_at
from vivid_lattice.core.training.bench import BY_CLOSING, Bench
from vivid_lattice.core.training.boards import ALL_AT_ONCE, TrainingBoard, all_at_once, circuits_of

#: Circuits that leak so much of what all do explain it.
_EXPLAINS = 0.8


class Findings:
    """What is known of a board as tests are taken: the readings, and what they usually mean."""

    def __init__(self, board: TrainingBoard):
        self.board = board
        self.done: list[Measure] = []
        self._job: Job = board.job
        self.diagnoses: tuple[Diagnosis, ...] = ()
        self._dead = found_dead(board)
        self._all_at_once = _AllAtOnce(board, self._dead)
        #: Defects that were seen, not read.
        self.seen: set[str] = set()

    def take(self, measure: Measure, text: str = "") -> bool:
        """A test taken; whether something is off now. ``text``: what was shown; '': what a test that is prepared shows."""
        shown = answer(self.board, measure.test, measure.subject)
        text = text or shown.text
        self.done.append(measure)
        if shown.wrong:
            self.seen |= {each.defect.id for each in seen_at(self.board, measure.test, measure.subject)}
        if measure.test in ALL_AT_ONCE:
            self._all_at_once.take(measure, text)
        if all_at_once(measure.test, measure.subject):
            return bool(self.diagnoses or self.seen or self._all_at_once.next())
        entry = ReadingEntry(id=f"t{len(self.done)}", test=measure.test, subject=measure.subject, text=text)
        try:
            self._job = enter_readings(self._job, [entry])
        except EntryNotUnderstood:
            return bool(self.diagnoses or self.seen)
        network = Installation.of(self._job, rule_set(self._job.job.rules))
        read = judged(network)
        if any(each.off for each in read):
            self.diagnoses = diagnosed(network, read)
        return bool(self.diagnoses or self.seen)

    def tells_all(self) -> bool:
        """Whether every hidden defect was seen, or is the first explanation of a circuit; the second too where no reading that can be taken
        tells the two apart, and the place is looked at."""
        told = set(self.seen)
        for each in self.diagnoses:
            for explanation in each.possible[: 1 if self._next_of(each) is not None else 2]:
                told.update(explanation.ids)
        return all(each.id in told for each in self.board.hidden)

    def next_of_all_at_once(self) -> Measure | None:
        """After insulation of all circuits at once was low: the next circuit, until one is as low as all."""
        return self._all_at_once.next()

    def next_of_diagnosis(self) -> Measure | None:
        """The test that best tells the explanations of a circuit apart, of those not taken."""
        return next((own for each in self.diagnoses if not each.certain and (own := self._next_of(each))), None)

    def _next_of(self, diagnosis: Diagnosis) -> Measure | None:
        reading = diagnosis.next_test.reading if diagnosis.next_test is not None else None
        measure = None if reading is None else Measure(test=reading.test, subject=reading.subject)
        return (
            measure
            if measure is not None and measure not in self.done and is_possible(self.board, measure, self._dead)
            else None
        )


class _AllAtOnce:
    """Readings of all circuits at once that were low, and which circuits they may come from."""

    def __init__(self, board: TrainingBoard, dead: frozenset[str]):
        #: What does not stay on is looked at first.
        self._circuits = sorted((each.id for each in board.job.circuits), key=lambda each: each not in dead)
        #: What leaks, of all, by kind; what was read of each circuit [1/MΩ].
        self._low: dict[ReadingKind, float] = {}
        self._read: dict[ReadingKind, dict[str, float]] = {}

    def take(self, measure: Measure, text: str) -> None:
        """A reading of insulation, of a circuit or of all."""
        leaks = 1 / max(float(text.lstrip(">")), LEAST_MOHM)
        if measure.subject.kind == "circuit":
            self._read.setdefault(measure.test, {})[measure.subject.id] = leaks
        elif not text.startswith(">"):
            self._low[measure.test] = leaks

    def next(self) -> Measure | None:
        """The next circuit to read; None where what was read explains what leaks."""
        for kind, whole in self._low.items():
            read = self._read.get(kind, {})
            left = [each for each in self._circuits if each not in read]
            if left and sum(read.values()) < _EXPLAINS * whole:
                return Measure(test=kind, subject=ReadingSubject(kind="circuit", id=left[0]))
        return None


def found_dead(board: TrainingBoard) -> frozenset[str]:
    """Circuits that have no voltage as a board is found: a device does not stay closed."""
    bench = Bench(board=board)
    return frozenset(each for each in bench.circuits if not bench.has_voltage(each))


def is_possible(board: TrainingBoard, measure: Measure, dead: frozenset[str]) -> bool:
    """Whether a test can be taken as a board is found: a live one where there is voltage."""
    circuits = circuits_of(board, measure.subject)
    live = TRAITS[measure.test].live and measure.test not in BY_CLOSING
    return not live or not circuits or not dead.issuperset(circuits)
