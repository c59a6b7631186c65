"""A typed line made into a circuit: room for it, the circuit, what its line leaves open taken as usual, and its design."""

from __future__ import annotations

from dataclasses import dataclass, replace

from vivid_lattice.core.actions.switching_groups import switch
from vivid_lattice.core.assessment.assumed import to_confirm
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.decisions import Decision
from vivid_lattice.core.design.usual import customary_kinds, usual_form
from vivid_lattice.core.document.assumptions import AssumedValue, assumed_with, is_new_design, with_value
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit, Device, Job, with_circuit, with_parts
from vivid_lattice.core.entry.appliance import appliance_of
from vivid_lattice.core.entry.circuit_line import Entry, add_entry, free_way
from vivid_lattice.core.entry.parsed_line import ParsedLine
from vivid_lattice.core.entry.switching_words import read_switching
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import Customary, customary
from vivid_lattice.core.rules.protocol import DeviceKind, RuleSet
from vivid_lattice.core.text import Shown

#: A new board grows by so many ways, to no more than a document holds.
_MORE_WAYS, _MAX_WAYS = 6, 200
#: What the reading of a line says of a part that it does not give.
_NOT_GIVEN = {
    "length_m": "core.entry.circuit.no_length",
    "power_w": "core.entry.circuit.no_power",
    "design_current_a": "core.entry.circuit.no_power",
}
#: Where a power or current is read.
_PLATE = "read the rating plate"
_BY_DEVICE = "the rating of its device"
_BOARD_FED = "add up what its board feeds"


@dataclass(frozen=True, slots=True, kw_only=True)
class DesignedEntry:
    """A typed line as entered: the job, the circuit's id, what was chosen for it, and what was assumed, in words. A line that switches
    circuits together adds none: ``said`` is what it did."""

    job: Job
    circuit: str | None
    decisions: tuple[Decision, ...] = ()
    assumed: tuple[Text, ...] = ()
    said: tuple[Text, ...] = ()


def enter_line(job: Job, text: str, board: str, *, accept: bool = False) -> Entry:
    """A line added to a board of the job, the values that it leaves open taken as usual. ``accept``: even where a token is not used.

    Raises  EntryNotUnderstood where the line states no circuit, a token is not used, or the board has no free way
    """
    entry = add_entry(_with_free_way(job, board), text, board, accept=accept)
    return replace(entry, job=assume_circuit(_with_usual_kind(entry.job, entry.line, entry.circuit), entry.circuit))


def enter_and_design(job: Job, text: str, board: str) -> DesignedEntry:
    """A line added to a board of the job and designed; with the first circuit of a new board comes its surge protection. A line of
    switching (all off at the door) is carried out.

    Raises  EntryNotUnderstood as ``enter_line`` and ``switch`` do
    """
    if words := read_switching(text):
        switched = switch(job, words, board, text)
        return DesignedEntry(job=switched.job, circuit=None, said=switched.said)
    entry = enter_line(job, text, board)
    done = design(entry.job, spd=is_new_design(job) and not job.circuits)
    return DesignedEntry(
        job=done.job,
        circuit=entry.circuit,
        decisions=tuple(decision for decision in done.decisions if decision.circuit == entry.circuit),
        assumed=entry_texts(entry, done.job),
    )


def _with_free_way(job: Job, board_id: str) -> Job:
    """The job with room for one more circuit in a new board that has no enclosure yet: how many ways it gets is decided with that.

    A job of which nothing is assumed, and a board that is there already, keep their ways.
    """
    board = job.find_board(board_id)
    if board is None or not is_new_design(job) or board.build.enclosure is not None:
        return job
    if free_way(board) is not None:
        return job
    grown = board.model_copy(update={"way_count": min(board.way_count + _MORE_WAYS, _MAX_WAYS)})
    return with_parts(job, (), (grown,))


def _with_usual_kind(job: Job, line: ParsedLine, circuit_id: str) -> Job:
    """The job with the usual kind of device for a circuit whose line states a rating alone (B32): on a new board where a breaker with
    an RCD is usual for the circuit, or the design would take one, that is meant. A kind or an RCD that is typed stays, and so does
    the breaker of a circuit behind a shared RCD.

    Source  the standard's customary circuits: common practice, no source
    """
    circuit, rules = job.circuit(circuit_id), rule_set(job.job.rules)
    board = job.find_board_of(circuit_id)
    device, typed = circuit.device, line.device
    if is_auto(device) or not is_new_design(job) or (board is not None and board.shared_rcds):
        return job
    if typed.kind is not None or typed.rcd_ma is not None or typed.rcd_type is not None:
        return job
    usual = usual_form(circuit, rules, {room.id: room for room in job.rooms})
    kind = rules.devices.kinds.get(usual.device) if usual is not None else None
    if kind is None or not kind.has_rcd:
        kind = _designed_kind(job, circuit, rules)
    if kind is None or not kind.has_rcd or device.rating_a not in kind.ratings_a:
        return job
    if device.curve is not None and device.curve not in kind.curves:
        return job
    meant = device.model_copy(update={"kind": kind.id, "rcd": kind.usual_rcd})
    return with_circuit(job, circuit.model_copy(update={"device": meant}))


def _designed_kind(job: Job, circuit: Circuit, rules: RuleSet) -> DeviceKind | None:
    """The kind of device that the design takes for a circuit whose rating alone is stated, were the kind left open; None where it takes
    none."""
    if is_auto(circuit.device) or circuit.kind == "distribution":
        return None
    left_open = circuit.model_copy(
        update={"device": "auto", "design_current_a": _carried_a(circuit.device, circuit, rules)}
    )
    chosen = design(with_circuit(job, left_open), spd=False).job.circuit(circuit.id).device
    return None if is_auto(chosen) else rules.devices.kind(chosen.kind)


def _carried_a(device: Device, circuit: Circuit, rules: RuleSet) -> float:
    """What a device may carry of a circuit [A]: of a continuous load less than its rating, by the standard's factor."""
    factor = rules.limits.continuous(circuit)
    lasting = any(rules.limits.is_continuous(load.kind, load.continuous) for load in circuit.loads)
    return device.rating_a / (factor.value if factor is not None and lasting else 1.0)


def assume_circuit(job: Job, circuit_id: str) -> Job:
    """The job with the length of a new circuit and the power of its loads, where its line states none, taken as usual for its kind; so
    is the breaking capacity of a breaker.

    On an existing board nothing is assumed: its conductors are measured, not drawn. A circuit whose current is stated needs no power;
    fixed equipment whose device is stated draws what that carries. KeyError where there is no such circuit.
    Source  the standard's customary lengths and powers: common practice, no source
    """
    circuit = job.circuit(circuit_id)
    if job.survey.boards:
        return job
    rules = rule_set(job.job.rules)
    usual, rooms = customary(rules.id), {room.id: room for room in job.rooms}
    values = []
    for kind in customary_kinds(circuit, rules, rooms)[:1]:
        length_m = usual.lengths_m.get(kind)
        if length_m is not None and len(circuit.run) == 1 and circuit.run[0].length_m is None:
            values.append(_of_circuit(circuit_id, "run.0.length_m", length_m, usual.lengths_source, "measure"))
    if circuit.design_current_a is None and (is_auto(circuit.device) or circuit.kind != "fixed"):
        values += _usual_power(circuit, rules, usual)
    elif circuit.design_current_a is None and is_new_design(job):
        values += _what_its_device_carries(circuit, rules)
    job = _with_breaking(job, circuit, rules, usual)
    for value in values:
        job = with_value(job, value.field, value.value)
    return checked(assumed_with(job, values))


def entry_texts(entry: Entry, job: Job) -> tuple[Text, ...]:
    """What was assumed of a typed line, in words: what the line's reading took as usual, and the values taken since, in place of
    the remark that they are not given."""
    prefix = f"circuits.{entry.circuit}."
    added = [each for each in to_confirm(job, rule_set(job.job.rules)) if each.field.startswith(prefix)]
    replaced = {_NOT_GIVEN[part] for each in added for part in _NOT_GIVEN if part in each.field}
    kept = [text for text in entry.assumed if not (isinstance(text, Message) and text.id in replaced)]
    values = [
        message(None, "core.entry.circuit.usual", label=each.label, value=Shown(f"{each.shown} {each.unit}".rstrip()))
        for each in added
    ]
    return (*values, *kept)


def _usual_power(circuit: Circuit, rules: RuleSet, usual: Customary) -> list[AssumedValue]:
    """The usual power of each load that states none; of one that goes by its running current, the circuit's current."""
    phases = 3 if len(circuit.lines) == 3 else 1
    values = []
    if circuit.kind == "distribution":
        keys = [(kind, lines) for kind in customary_kinds(circuit, rules, {}) for lines in (phases, 1, 3)]
        feeder = next((usual.loads[key] for key in keys if key in usual.loads), None)
        if feeder is None or feeder.current_a is None:
            return []
        return [_of_circuit(circuit.id, "design_current_a", feeder.current_a, usual.loads_source, _BOARD_FED)]
    for number, load in enumerate(circuit.loads):
        kind = appliance_of(load, rules) or ("lighting" if load.kind == "lamp" else "")
        stated = usual.loads.get((kind, phases)) or usual.loads.get((kind, 1))
        if stated is None or load.power_w is not None or load.kind == "socket":
            continue
        if stated.power_w is not None:
            values.append(
                _of_circuit(circuit.id, f"loads.{number}.power_w", stated.power_w, usual.loads_source, _PLATE)
            )
        elif stated.current_a is not None and len(circuit.loads) == 1:
            values.append(_of_circuit(circuit.id, "design_current_a", stated.current_a, usual.loads_source, _PLATE))
    return values


def _what_its_device_carries(circuit: Circuit, rules: RuleSet) -> list[AssumedValue]:
    """The current of fixed equipment of which only the device is stated (cooker 32A): what the device may carry, so that nothing is
    chosen too small; of a continuous load less by the standard's factor."""
    unknown = any(load.power_w is None for load in circuit.loads)
    if is_auto(circuit.device) or not unknown:
        return []
    amps = _carried_a(circuit.device, circuit, rules)
    return [_of_circuit(circuit.id, "design_current_a", amps, _BY_DEVICE, _PLATE)]


def _with_breaking(job: Job, circuit: Circuit, rules: RuleSet, usual: Customary) -> Job:
    """The job with the usual breaking capacity for a breaker whose line states a rating alone: on a new board that is a choice, as
    every device that the design takes. A fuse has the breaking capacity of its kind."""
    device = circuit.device
    if not is_new_design(job) or is_auto(device) or device.breaking_ka is not None or usual.breaking is None:
        return job
    if rules.devices.kind(device.kind).action != "breaker":
        return job
    chosen = device.model_copy(update={"breaking_ka": usual.breaking.value})
    return with_circuit(job, circuit.model_copy(update={"device": chosen}))


def _of_circuit(circuit_id: str, part: str, value: float, source: str, confirm: str) -> AssumedValue:
    return AssumedValue(field=f"circuits.{circuit_id}.{part}", value=value, source=source, confirm=confirm)
