"""The old board by the same checks as the new one, and both side by side: what loses supply, protection gained, ways."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.board.layout.layout_problem import modules_needed
from vivid_lattice.core.document.base import Auto, is_auto, is_origin
from vivid_lattice.core.document.existing_board import EMPTY, ExistingBoard, ExistingRcd, ExistingWay
from vivid_lattice.core.document.job import (
    Board,
    Cable,
    Circuit,
    CircuitKind,
    Device,
    Job,
    Load,
    MainSwitch,
    Section,
    Way,
)
from vivid_lattice.core.document.plan import Plan
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.supply import Curve
from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.entry.parsed_line import TypedLoad
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.findings.assessment import Assessment
from vivid_lattice.core.findings.verdict import Verdict, worst
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.survey.rating_transfer import existing_way_text

#: The curve of today that an old breaker is judged by: the next one that needs no less current to trip at once. A type 4
#: (10 to 50 times its rating) has none. From memory of BS 3871 and of German practice.
_CURVE_OF_OLD_TYPE: Mapping[str, Curve] = {"1": "B", "2": "C", "3": "C", "L": "B", "H": "B", "G": "C", "U": "D"}


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitSummary:
    """A circuit on one side: its device, its worst verdict, the residual current it is guarded by [mA], what goes off with it."""

    device: Text
    verdict: Verdict
    worst_check: str
    rcd_ma: float | None
    trips_with: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """A circuit before and after; a side is None where it is not there."""

    name: str
    old_way: int | None
    new_way: int | None
    before: CircuitSummary | None
    after: CircuitSummary | None


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardSummary:
    """A whole board on one side: ways in use, those there are, circuits guarded at 30 mA or less, the most that lose supply at a time,
    how many circuits fail a check, and of how many others an input is missing."""

    ways_used: int
    ways_total: float
    with_rcd: int
    most_lost: int
    failing: int
    unknown: int


@dataclass(frozen=True, slots=True)
class BeforeAfter:
    """A board before and after."""

    circuits: tuple[Compared, ...]
    before: BoardSummary
    after: BoardSummary
    improvements: tuple[Text, ...]


def as_found(job: Job, board_id: str) -> Job:
    """The job with a board as it was found in place of what takes its place, so that the same checks judge it.

    A way that a circuit transfers to has that circuit's run and loads, and the device and conductor that were found; another one
    has no length and no load yet, and its checks say so. BadDocument where there is no such board.
    """
    surveyed = existing_board(job, board_id)
    rules = rule_set(job.job.rules)
    taken = {circuit.id: circuit for circuit in job.circuits}
    filled = [way for way in surveyed.ways if way.kind not in EMPTY]
    circuits = [_circuit(rules, taken, way) for way in filled]
    board = Board(
        id=surveyed.replaced_by or surveyed.id,
        name=surveyed.name,
        fed_by="origin",
        way_count=max([1, *(way.number for way in surveyed.ways)]),
        main_switch=_main_switch(job, surveyed),
        ways=tuple(Way(number=way.number, circuit=circuit.id) for way, circuit in zip(filled, circuits, strict=True)),
    )
    others = _fed_already(job, board)
    there = {circuit.id for circuit in circuits}
    behind = [taken[way.circuit] for other in others for way in other.ways if way.circuit not in there]
    # The plan is of the new circuits.
    return job.model_copy(update={"boards": (board, *others), "circuits": (*circuits, *behind), "plan": Plan()})


def _main_switch(job: Job, surveyed: ExistingBoard) -> MainSwitch | None:
    """The main switch of a surveyed board, with the cut-out's rating where its own was not read."""
    if surveyed.main_device not in ("switch", "rcd"):
        return None
    cutout_a = job.supply.cutout.rating_a if job.supply.cutout else 100.0
    return MainSwitch(
        rating_a=surveyed.main_rating_a or cutout_a,
        rcd=_rcd(surveyed.main_rcd),
        switched_poles=surveyed.main_switched_poles,
    )


def _fed_already(job: Job, board: Board) -> list[Board]:
    """Boards behind a feeder that was there already stay as they are; what is fed by nothing any more is left out."""
    boards = {other.id: other for other in job.boards}
    fed = []
    for other in job.boards:
        if other.id == board.id or is_origin(other.fed_by) or other.fed_by.board != board.id:
            continue
        feeders = {way.number: way.circuit for way in boards[board.id].ways}
        number = next((way.number for way in board.ways if way.circuit == feeders.get(other.fed_by.way)), None)
        if number is not None:
            fed.append(other.model_copy(update={"fed_by": other.fed_by.model_copy(update={"way": number})}))
    return fed


def existing_board(job: Job, board_id: str) -> ExistingBoard:
    """A surveyed board by its id. BadDocument where there is none."""
    surveyed = next((board for board in job.survey.boards if board.id == board_id), None)
    if surveyed is None:
        raise BadDocument(
            [DocumentProblem("survey.boards", message(None, "core.survey.compare.no_board", id=board_id))]
        )
    return surveyed


def _circuit(rules: RuleSet, taken: dict[str, Circuit], way: ExistingWay) -> Circuit:
    circuit = taken.get(way.circuit or "")
    cable = None if way.conductor_mm2 is None else Cable(type=rules.default_cable, area_mm2=way.conductor_mm2)
    device = _device(rules, way)
    if circuit is not None:
        parts: dict[str, object] = {"device": device}
        if cable is not None:
            old = circuit.cable
            parts["cable"] = cable if isinstance(old, str) else old.model_copy(update={"area_mm2": cable.area_mm2})
        return circuit.model_copy(update=parts)
    loads = parse_line(way.actually_feeds or way.label, rules, kind="name").loads
    return Circuit(
        id=f"found-{way.number}",
        name=way.actually_feeds or way.label or f"Way {way.number}",
        kind=_kind(rules, way, loads),
        loads=tuple(Load(name=load.name, kind=load.load, count=load.count) for load in loads if load.load),
        run=(Section(length_m=None, method=rules.default_method),),
        cable=cable or "auto",
        device=device,
    )


def _device(rules: RuleSet, way: ExistingWay) -> Device | Auto:
    if way.rating_a is None or way.kind not in rules.devices.kinds:
        return "auto"
    kind = rules.devices.kind(way.kind)
    rcd = _rcd(way.rcd) if kind.has_rcd else None
    if kind.has_rcd and rcd is None:
        rcd = Rcd(idn_ma=30.0, type="AC")
    curve = way.curve
    if way.old_type is not None:
        curve = _CURVE_OF_OLD_TYPE.get(way.old_type)
        if curve is None:
            return "auto"
    return Device(kind=way.kind, curve=curve if kind.curves else None, rating_a=way.rating_a, rcd=rcd)


def _rcd(existing_rcd: ExistingRcd | None) -> Rcd | None:
    return (
        None
        if existing_rcd is None
        else Rcd(idn_ma=existing_rcd.idn_ma, type=existing_rcd.type, time_delayed=existing_rcd.time_delayed)
    )


def before_after(job: Job, board_id: str) -> BeforeAfter:
    """A surveyed board and the one that takes its place, side by side."""
    surveyed = existing_board(job, board_id)
    rules = rule_set(job.job.rules)
    old_job = as_found(job, board_id)
    old = _sides(old_job, surveyed.replaced_by or surveyed.id)
    replacement = job.find_board(surveyed.replaced_by)
    new = _sides(job, replacement.id) if replacement else {}
    by_way = {way.number: way for way in surveyed.ways}
    old_ways = {way.circuit: way.number for way in old_job.boards[0].ways}
    new_ways = {way.circuit: way.number for way in replacement.ways} if replacement else {}
    names = {circuit.id: circuit.name for circuit in (*old_job.circuits, *job.circuits)}
    lines = []
    for name in dict.fromkeys([*old_ways, *new_ways]):
        before = old.get(name)
        if before is not None:
            words = existing_way_text(rules, by_way[old_ways[name]])
            before = CircuitSummary(
                device=words,
                verdict=before.verdict,
                worst_check=before.worst_check,
                rcd_ma=before.rcd_ma,
                trips_with=before.trips_with,
            )
        lines.append(
            Compared(
                name=names[name],
                old_way=old_ways.get(name),
                new_way=new_ways.get(name),
                before=before,
                after=new.get(name),
            )
        )
    whole_old = _whole(list(old.values()), len(old), float(max([1, *by_way])), rules)
    total = _total(job, replacement)
    whole_new = _whole(list(new.values()), len(new), total, rules)
    return BeforeAfter(tuple(lines), whole_old, whole_new, tuple(_gained(lines, whole_old, whole_new)))


def _total(job: Job, board: Board | None) -> float:
    if board is None:
        return 0.0
    enclosure = board.build.enclosure
    if enclosure is None:
        return float(board.way_count)
    units = or_none(lambda: Installation.of(job, rule_set(job.job.rules)).boards[board.id].units)
    used = modules_needed(units) if units else 0.0
    return len(board.ways) + max(0.0, enclosure.rows * enclosure.modules - used)


def _sides(job: Job, board_id: str) -> dict[str, CircuitSummary]:
    network = Installation.of(job, rule_set(job.job.rules))
    assessment: Assessment = assess(job, explain=False)
    ways = network.tree.boards[board_id].ways
    return {way.circuit: _side(network, assessment, network.tree.circuits[way.circuit]) for way in ways}


def _side(network: Installation, assessment: Assessment, circuit: Circuit) -> CircuitSummary:
    findings = [finding for finding in assessment.findings if finding.subject.id == circuit.id]
    verdict = worst([finding.verdict for finding in findings])
    worst_check = next((finding.check for finding in findings if finding.verdict == verdict), "")
    places = network.rcds.ahead_of(circuit)
    together = places[0].behind if places else ()
    return CircuitSummary(
        device=message(None, "core.survey.compare.not_chosen")
        if is_auto(circuit.device)
        else circuit.device.label_with_rcd,
        verdict=verdict,
        worst_check=worst_check,
        rcd_ma=min((place.rcd.idn_ma for place in places), default=None),
        trips_with=tuple(other.name for other in together if other is not circuit),
    )


def _whole(sides: list[CircuitSummary], used: int, total: float, rules: RuleSet) -> BoardSummary:
    limit = rules.protection.additional_ma.value
    return BoardSummary(
        ways_used=used,
        ways_total=total,
        with_rcd=sum(side.rcd_ma is not None and side.rcd_ma <= limit for side in sides),
        most_lost=max((len(side.trips_with) + 1 for side in sides), default=0),
        failing=sum(side.verdict == "fail" for side in sides),
        unknown=sum(side.verdict == "missing" for side in sides),
    )


def _circuits(count: int) -> str:
    return f"{count} circuit{'' if count == 1 else 's'}"


def _gained(lines: list[Compared], old: BoardSummary, new: BoardSummary) -> list[Text]:
    improvements: list[Text] = []
    if new.with_rcd > old.with_rcd:
        improvements.append(message(None, "core.survey.compare.guarded", new=new.with_rcd, old=old.with_rcd))
    if (new.most_lost < old.most_lost and new.ways_used) or new.most_lost > old.most_lost:
        improvements.append(message(None, "core.survey.compare.fewer_lost", new=new.most_lost, old=old.most_lost))
    mended = [
        line
        for line in lines
        if line.before
        and line.after
        and line.before.verdict == "fail"
        and line.after.verdict not in ("fail", "missing")
    ]
    if mended:
        improvements.append(message(None, "core.survey.compare.fixed", n=len(mended)))
    if new.unknown:
        improvements.append(message(None, "core.survey.compare.unknown", n=new.unknown))
    left = [line.name for line in lines if line.after is None]
    if left:
        improvements.append(message(None, "core.survey.compare.left", list=", ".join(left)))
    return improvements


def _kind(rules: RuleSet, way: ExistingWay, loads: Sequence[TypedLoad]) -> CircuitKind:
    """Two cables make a ring where the standard has rings; else what the label says the way feeds, and no ring of one cable."""
    if way.cable_count > 1 and rules.limits.knows_rings:
        return "ring"
    kind = loads[0].circuit if loads else "radial"
    return "radial" if kind == "ring" else kind
