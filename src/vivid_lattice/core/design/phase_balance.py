"""Which line feeds which circuit: the lines loaded as evenly as their circuits allow."""

from __future__ import annotations

from vivid_lattice.core.design.usual import usual_of
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.feeds import feeds_lights
from vivid_lattice.core.document.job import LINES, Circuit, Job, Line, with_circuit
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.formulas.load_currents import CircuitSupply
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet


def balanced(job: Job, rules: RuleSet) -> tuple[Job, tuple[str, ...]]:
    """The job with a line for every circuit of one line that has none yet, and the ids of the circuits given one.

    Largest current first, each to the line of its board that carries least by then; lights on at least two lines. Circuits whose
    line is stated stay, and count. A circuit whose current is not known counts as its device's rating, or as the usual one.
    """
    if job.supply.phases == 1:
        return job, ()
    tree, given = Tree(job), []
    carried, open_ = _stated(job, rules)
    for current, identity in sorted(open_, key=lambda entry: (-entry[0], entry[1])):
        circuit = tree.circuits[identity]
        choices = _choices(job, tree, circuit)
        if not choices:
            continue
        line = min(choices, key=lambda name: carried[name])
        carried[line] += current
        job = with_circuit(job, circuit.model_copy(update={"lines": (line,)}))
        tree = Tree(job)
        given.append(identity)
    return job, tuple(given)


def _stated(job: Job, rules: RuleSet) -> tuple[dict[Line, float], list[tuple[float, str]]]:
    """What the circuits whose line is stated put on each line [A]; and the currents of those that have none yet, with their ids."""
    carried: dict[Line, float] = dict.fromkeys(LINES[: job.supply.phases], 0.0)
    open_: list[tuple[float, str]] = []
    for circuit in job.circuits:
        if circuit.kind == "distribution" and circuit.lines:
            continue
        current = _current(circuit, job, rules)
        for line in circuit.lines:
            carried[line] += current
        if not circuit.lines:
            open_.append((current, circuit.id))
    return carried, open_


def _choices(job: Job, tree: Tree, circuit: Circuit) -> tuple[Line, ...]:
    """The lines that a circuit may go on; none where there is nothing to choose."""
    choices = _reaching(tree, circuit)
    below = {line for fed in tree.fed_through(circuit) for line in fed.lines}
    if below:
        # A feeder goes on the line that its circuits are said to be on; where they are on several, one line is not enough.
        choices = tuple(line for line in choices if below == {line})
    elif len(choices) < 2:
        return ()
    if mates := _lines_of_single_halves(job, tree, circuit) & set(choices):
        return tuple(line for line in choices if line in mates)
    if not feeds_lights(circuit) or len(choices) < 2:
        return choices
    lighting = (other for other in job.circuits if other.id != circuit.id and feeds_lights(other))
    lit = {line for other in lighting for line in other.lines}
    return tuple(line for line in choices if line not in lit) if len(lit) == 1 else choices


def _lines_of_single_halves(job: Job, tree: Tree, circuit: Circuit) -> set[Line]:
    """Of a circuit on one half of a tandem breaker: the lines of its board on which a half has no mate yet."""
    if not _is_half(circuit):
        return set()
    board = tree.place(circuit).board
    lines = [
        other.lines[0]
        for way in board.ways
        if (other := tree.circuits[way.circuit]).id != circuit.id and _is_half(other) and len(other.lines) == 1
    ]
    return {line for line in lines if lines.count(line) % 2}


def _is_half(circuit: Circuit) -> bool:
    return not is_auto(circuit.device) and circuit.device.is_half


def rebalanced(job: Job, rules: RuleSet) -> Job:
    """The job with every final circuit of one line placed again, as if none had been stated; feeders and others stay."""
    circuits = tuple(
        _freed(circuit) if len(circuit.lines) == 1 and circuit.kind != "distribution" else circuit
        for circuit in job.circuits
    )
    return balanced(job.model_copy(update={"circuits": circuits}), rules)[0]


def _freed(circuit: Circuit) -> Circuit:
    """A circuit of one line that is on none yet. Its loads go where it goes, so theirs is not stated either."""
    loads = tuple(load.model_copy(update={"lines": ()}) if load.lines else load for load in circuit.loads)
    return circuit.model_copy(update={"lines": (), "loads": loads})


def _reaching(tree: Tree, circuit: Circuit) -> tuple[Line, ...]:
    try:
        return tree.board_lines(tree.place(circuit).board)
    except NeedsInput:
        return ()


def _current(circuit: Circuit, job: Job, rules: RuleSet) -> float:
    supplied = CircuitSupply(circuit.lines or ("L1",), job.supply.phases, job.supply.nominal_v)
    try:
        return rules.demand.circuit_current(circuit, supplied).current_a
    except NeedsInput:
        if not is_auto(circuit.device):
            return circuit.device.rating_a
        rooms = {room.id: room for room in job.rooms}
        usual = usual_of(circuit, rules, rooms, lambda: 0.0, job.supply.nominal_v)
        return usual.rating_a or 0.0 if usual is not None else 0.0
