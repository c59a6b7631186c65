"""In which order an expert takes the tests of a board: by what is seen before a test, and by what is usually wrong."""

from __future__ import annotations

from collections.abc import Mapping

from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.test_plan import planned_id
from vivid_lattice.core.training.acts import Measure
from vivid_lattice.core.training.bench import Bench
from vivid_lattice.core.training.boards import ALL_AT_ONCE, HiddenDefect, TrainingBoard, all_at_once, tells_of
from vivid_lattice.core.training.findings import found_dead, is_possible
from vivid_lattice.core.training.house import house_circuit
from vivid_lattice.core.training.shown import shown_by, sizes_of
from vivid_lattice.core.training.sound_boards import possible_places

#: A defect that shows what is seen is so many times as likely as one that shows nothing.
_SHOWS = 50.0
#: One circuit is read before all at once where that covers as much of what is likely.
_ALL_AT_ONCE_SHARE = 0.8
#: What is read in a doubt comes before a test of the standard that shows less than half as much.
_IN_DOUBT = 0.5


def plan_tests(board: TrainingBoard) -> tuple[Measure, ...]:
    """The tests of the standard, as far as they are not left to a doubt."""
    return tuple(Measure(test=each.test, subject=each.subject) for each in board.plan.tests if not each.optional)


def all_tests(board: TrainingBoard) -> tuple[Measure, ...]:
    """Everything that can be read."""
    return tuple(Measure(test=each.test, subject=each.subject) for each in board.tests)


Symptoms = frozenset[tuple[str, str]]


def symptoms(board: TrainingBoard) -> Symptoms:
    """What is seen of a board before a test: devices that do not stay closed, points that do not work as they should."""
    bench = Bench(board=board)
    not_working = {
        (each.id, point.state)
        for each in board.job.circuits
        for point in house_circuit(bench, each).points
        if point.state != "works"
    }
    return frozenset({*((device, "tripped") for device in bench.tripped), *not_working})


#: A defect of some size at a place: its name, its circuit, which of its sizes.
_Candidate = tuple[str, str, int]


def _weights(board: TrainingBoard) -> Mapping[_Candidate, float]:
    """How likely each defect is at each place and size, by how often it is met and by what is seen: one that would show what is not there is none;
    one that shows what is there comes before those that show nothing."""
    seen = symptoms(board)
    weights: dict[_Candidate, float] = {}
    for id_, circuits in possible_places(board).items():
        defect = board.known[id_]
        for circuit in circuits:
            for n, size in enumerate(sizes_of(defect)):
                own = symptoms(board.with_hidden(HiddenDefect(id_, circuit, size)))
                if own <= seen:
                    weights[id_, circuit, n] = defect.weight * (_SHOWS if own else 1.0) / len(sizes_of(defect))
    return weights


def screening_order(board: TrainingBoard) -> tuple[Measure, ...]:
    """The tests of a board: those first that show most of what is likely to be wrong, of a circuit its dead tests before its live
    ones; what shows nothing new comes last.

    Equation  greedy: the test with the greatest weight of defects that it shows and none before it did
    """
    weights, dead = _weights(board), found_dead(board)
    shows: dict[Measure, set[_Candidate]] = {}
    tests, planned = all_tests(board), frozenset(plan_tests(board))
    possible = [each for each in tests if is_possible(board, each, dead)]
    for id_, circuit, size in weights:
        defect = board.known[id_]
        own = circuit or board.job.circuits[0].id
        kinds = set(shown_by(board, defect, own, sizes_of(defect)[size]))
        for test in possible:
            # Which device switches what is a finding of itself only where no reading shows the defect.
            tells = test.test != "ident" or test.subject.kind != "board" or kinds == {"ident"}
            if tells and test.test in kinds and tells_of(board, test.subject, defect, own):
                shows.setdefault(test, set()).add((id_, circuit, size))
    covered: set[_Candidate] = set()
    order: list[Measure] = []
    left = dict.fromkeys(possible)
    while left:
        gain = {
            test: _share(test, planned) * sum(weights[each] for each in shows.get(test, set()) - covered)
            for test in left
        }
        waits = {test.subject.id for test in left if gain[test] > 0 and not TRAITS[test.test].live and test in planned}
        ranks = {test: _rank(test, gain[test], waits) for test in left}
        best = max(ranks, key=ranks.__getitem__)
        covered |= shows.get(best, set())
        order.append(best)
        del left[best]
    return (*order, *(each for each in tests if each not in order))


def _rank(test: Measure, gain: float, waits: set[str]) -> tuple[bool, bool, float, str]:
    """What comes first: what shows something, and is not a live test of a circuit whose dead tests are not all taken; then what shows most."""
    is_early = TRAITS[test.test].live and test.subject.id in waits
    return gain > 0, not is_early, gain, planned_id(test.test, test.subject)


def _share(test: Measure, planned: frozenset[Measure]) -> float:
    """What a test counts for: a circuit by itself before all at once; what is read in a doubt, after what the standard has."""
    if all_at_once(test.test, test.subject):
        return _ALL_AT_ONCE_SHARE
    return 1.0 if test in planned or test.test in ALL_AT_ONCE else _IN_DOUBT
