"""One device swapped for another in its place: what changes on the rail, on the bars and under the clamps."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.isolation.isolation_steps import isolation_for
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.layout.rail_positions import PlacedDevice, RailPositions
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.netlist import cable_ends, neutral_bar
from vivid_lattice.core.checks import BOARD_CHECKS, run_board_check
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Device, Job, with_circuit
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.units import SLACK


@dataclass(frozen=True, slots=True)
class Fact:
    """Something that the swap meets: how it stands, and in words."""

    topic: str
    verdict: Verdict
    text: Text


@dataclass(frozen=True, slots=True, kw_only=True)
class Swap:
    """A swap: the job with it done, what it meets, what it changes in the circuit's checks, the steps, and what stays live."""

    job: Job
    facts: tuple[Fact, ...]
    changes: tuple[str, ...]
    steps: tuple[Text, ...]
    stays_live: tuple[str, ...]


def swap(job: Job, circuit_id: str, device: Device) -> Swap:
    """A circuit's device changed for another one in its place.

    Raises  BadDocument where the circuit is in no board, has no device yet, or the device is none of the rule set's
    """
    circuit = job.find_circuit(circuit_id)
    board = job.find_board_of(circuit_id)
    if circuit is None or board is None or is_auto(circuit.device):
        raise BadDocument([DocumentProblem("circuit", f"no device of a circuit '{circuit_id}' to swap")])
    made = checked(with_circuit(job, circuit.model_copy(update={"device": device})))
    rules = rule_set(job.job.rules)
    old, new = (Installation.of(version, rules) for version in (job, made))
    unit = f"way:{circuit_id}"
    was, now = old.boards[board.id].units.by_id.get(unit), new.boards[board.id].units.by_id.get(unit)
    if was is None or now is None:
        raise BadDocument([DocumentProblem("circuit", f"{circuit.name} has no line yet, so its device has no poles")])
    facts = [_width(old.boards[board.id], was, now), *_neutral(old.boards[board.id], was, now)]
    context = BoardContext(new, new.tree.boards[board.id], explain=False)
    for check in BOARD_CHECKS:
        if check.id in ("comb", "terminals"):
            finding = run_board_check(check, context)
            facts.append(Fact(str(check.title(rules.words)), finding.verdict, finding.sentence))
    isolation = isolation_for(old.boards, board.id, unit)
    steps = (
        *isolation.steps,
        f"Take out {was.mark}; note where its neutral went.",
        *(fact.text for fact in facts[1:-2]),
        f"Fit {now.mark}; pull at each conductor; tighten to its torque.",
        "Test: polarity, loop, RCD time and button where it has one, then label it.",
    )
    return Swap(
        job=made,
        facts=tuple(facts),
        changes=tuple(_changes(job, made, circuit_id)),
        steps=steps,
        stays_live=isolation.stays_live,
    )


def _free_beside(places: RailPositions, placed: PlacedDevice) -> float:
    """Modules that are free on both sides of a device, up to its neighbours or the ends of its row."""
    row = places.row(placed.row)
    starts = [other.offset_modules for other in row if other.offset_modules >= placed.end - SLACK]
    ends = [other.end for other in row if other.end <= placed.offset_modules + SLACK]
    following, before = min(starts, default=float(places.enclosure.modules)), max(ends, default=0.0)
    return following - placed.end + placed.offset_modules - before


def _width(model: BoardModel, was: BoardDevice, now: BoardDevice) -> Fact:
    gain = now.wide - was.wide
    if gain <= 0:
        words = f"{now.wide:g} modules in place of {was.wide:g}" + (
            f": close the {-gain:g} left with a blank" if gain < 0 else ""
        )
        return Fact("Width", "pass", words)
    places = or_none(lambda: model.places)
    placed = places.placed.get(was.id) if places else None
    if places is None or placed is None:
        return Fact("Width", "missing", f"{now.wide:g} modules in place of {was.wide:g}; the board is not laid out yet")
    beside = _free_beside(places, placed)
    free = places.enclosure.modules - sum(each.unit.wide for each in places.row(placed.row))
    words = f"{now.wide:g} modules in place of {was.wide:g}"
    if beside + SLACK >= gain:
        return Fact("Width", "pass", f"{words}: {beside:g} are free beside it")
    if free + SLACK >= gain:
        return Fact("Width", "advice", f"{words}: its neighbours have to move, {free:g} are free in the row")
    return Fact("Width", "fail", f"{words}, and only {free:g} are free in the row")


def _neutral(model: BoardModel, was: BoardDevice, now: BoardDevice) -> list[Fact]:
    through_was, through_now = "N" in was.poles, "N" in now.poles
    bar = neutral_bar(was.feed)
    places = or_none(lambda: model.places)
    ends = cable_ends(was)
    screws = [screw.number for end in ends if places and (screw := places.screw(Terminal(f"{end}/N"))) is not None]
    at = f", screw {' and '.join(map(str, screws))}," if screws else ""
    if through_now and not through_was:
        tail = (
            "its flying lead takes that screw" if now.flying_lead else "a link from that screw feeds its neutral clamp"
        )
        return [
            Fact(
                "Neutral",
                "advice",
                f"the circuit's neutral moves from the bar {bar}{at} to the device's own clamp, and {tail}",
            )
        ]
    if through_was and not through_now:
        return [Fact("Neutral", "advice", f"the circuit's neutral moves from the device to the bar {bar}")]
    return [Fact("Neutral", "pass", "the neutral stays where it is")]


def _changes(job: Job, made: Job, circuit: str) -> list[str]:
    before = {
        finding.check: finding for finding in assess(job, explain=False).findings if finding.subject.id == circuit
    }
    changes = []
    for finding in assess(made, explain=False).findings:
        if finding.subject.id == circuit and finding.verdict != before[finding.check].verdict:
            changes.append(f"{finding.check}: {before[finding.check].verdict} → {finding.verdict}. {finding.sentence}")
    return changes
