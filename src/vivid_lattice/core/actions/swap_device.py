"""One device swapped for another in its place: what changes on the rail, on the bars and under the terminals."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.isolation.isolation_steps import isolation_for
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.layout.rail_positions import PlacedDevice, RailPositions
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.netlist import cable_ends, neutral_bar
from vivid_lattice.core.checks import BOARD_CHECKS, check_title, run_board_check
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Device, Job, with_circuit
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Joined, Text, message
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import SLACK


@dataclass(frozen=True, slots=True)
class Fact:
    """Something that the swap meets: what state it is in, and in words."""

    topic: Text
    verdict: Verdict
    text: Text


@dataclass(frozen=True, slots=True, kw_only=True)
class Swap:
    """A swap: the job with it done, what it meets, what it changes in the circuit's checks, the steps, and what stays live."""

    job: Job
    facts: tuple[Fact, ...]
    changes: tuple[Text, ...]
    steps: tuple[Text, ...]
    stays_live: tuple[Text, ...]


def swap(job: Job, circuit_id: str, device: Device) -> Swap:
    """A circuit's device changed for another one in its place.

    Raises  BadDocument where the circuit is in no board, has no device yet, or the device is none of the rule set's
    """
    circuit = job.find_circuit(circuit_id)
    board = job.find_board_of(circuit_id)
    if circuit is None or board is None or is_auto(circuit.device):
        raise BadDocument([DocumentProblem("circuit", message(None, "core.swap.no_device", circuit=circuit_id))])
    made = checked(with_circuit(job, circuit.model_copy(update={"device": device})))
    rules = rule_set(job.job.rules)
    old, new = (Installation.of(version, rules) for version in (job, made))
    unit = f"way:{circuit_id}"
    was, now = old.boards[board.id].units.by_id.get(unit), new.boards[board.id].units.by_id.get(unit)
    if was is None or now is None:
        raise BadDocument(
            [DocumentProblem("circuit", message(rules.words, "core.swap.no_phase", circuit=circuit.name))]
        )
    facts = [_width(old.boards[board.id], was, now), *_neutral(old.boards[board.id], was, now)]
    context = BoardContext(new, new.tree.boards[board.id], explain=False)
    for check in BOARD_CHECKS:
        if check.id in ("comb", "terminals"):
            finding = run_board_check(check, context)
            facts.append(Fact(check.title(rules.words), finding.verdict, finding.sentence))
    isolation = isolation_for(old.boards, board.id, unit)
    steps = (
        *isolation.steps,
        message(rules.words, "core.swap.step_1", old=was.mark),
        *(fact.text for fact in facts[1:-2]),
        message(rules.words, "core.swap.step_2", new=now.mark),
        message(rules.words, "core.swap.step_3"),
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
    words, gain = model.rules.words, now.wide - was.wide
    topic = message(words, "core.swap.topic_width")
    width = message(words, "core.swap.width", n=Shown(f"{now.wide:g}"), m=Shown(f"{was.wide:g}"))
    if gain == 0:
        return Fact(topic, "pass", width)
    if gain < 0:
        return Fact(topic, "pass", message(words, "core.swap.width_blank", width=width, n=Shown(f"{-gain:g}")))
    places = or_none(lambda: model.places)
    placed = places.placed.get(was.id) if places else None
    if places is None or placed is None:
        return Fact(topic, "missing", message(words, "core.swap.width_no_layout", width=width))
    beside = _free_beside(places, placed)
    free = places.enclosure.modules - sum(each.unit.wide for each in places.row(placed.row))
    if beside + SLACK >= gain:
        return Fact(topic, "pass", message(words, "core.swap.width_beside", width=width, n=Shown(f"{beside:g}")))
    n = Shown(f"{free:g}")
    if free + SLACK >= gain:
        return Fact(topic, "advice", message(words, "core.swap.width_move", width=width, n=n))
    return Fact(topic, "fail", message(words, "core.swap.width_short", width=width, n=n))


def _neutral(model: BoardModel, was: BoardDevice, now: BoardDevice) -> list[Fact]:
    words, topic = model.rules.words, message(model.rules.words, "core.swap.topic_neutral")
    through_was, through_now = "N" in was.poles, "N" in now.poles
    bar = next(bar.title for bar in model.scheme.bars if bar.id == neutral_bar(was.feed))
    if through_now and not through_was:
        places = or_none(lambda: model.places)
        screws = [
            str(screw.number)
            for end in cable_ends(was)
            if places and (screw := places.screw(Terminal(f"{end}/N"))) is not None
        ]
        place: Text = message(words, "core.swap.terminal", bar=bar, n=Joined.of(screws, ", ")) if screws else bar
        tail = message(words, "core.swap.flying_lead" if now.flying_lead else "core.swap.link")
        return [Fact(topic, "advice", message(words, "core.swap.neutral_to_device", place=place, lead=tail))]
    if through_was and not through_now:
        return [Fact(topic, "advice", message(words, "core.swap.neutral_to_bar", bar=bar))]
    return [Fact(topic, "pass", message(words, "core.swap.neutral_stays"))]


def _changes(job: Job, made: Job, circuit: str) -> list[Text]:
    before = {
        finding.check: finding for finding in assess(job, explain=False).findings if finding.subject.id == circuit
    }
    words, changes = rule_set(made.job.rules).words, list[Text]()
    for finding in assess(made, explain=False).findings:
        if finding.subject.id != circuit:
            continue
        was = before[finding.check].verdict
        if finding.verdict != was:
            change = message(
                words,
                "core.swap.change",
                check=check_title(finding.check, words),
                before=message(None, f"core.verdict.{was}"),
                after=message(None, f"core.verdict.{finding.verdict}"),
                sentence=finding.sentence,
            )
            changes.append(change)
    return changes
