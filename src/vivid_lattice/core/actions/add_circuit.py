"""One more circuit in a board that is full: every way it can be done, each as a job of its own, checked by the same checks."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.actions.move_device import board_of, lay_out
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.board.catalogue import enclosures
from vivid_lattice.core.board.isolation.isolation_steps import isolation_for
from vivid_lattice.core.board.layout.layout_problem import modules_needed
from vivid_lattice.core.checks import check_title
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.board_build import Enclosure
from vivid_lattice.core.document.device_family import DeviceFamily, packaged
from vivid_lattice.core.document.job import (
    Board,
    Circuit,
    Device,
    FedByWay,
    Job,
    MainSwitch,
    Section,
    SharedRcd,
    Tap,
    Way,
    free_id,
    with_parts,
)
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.errors import BadDocument, CoreError, DocumentProblem
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict, worst
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown, shown_up
from vivid_lattice.core.units import SLACK

#: Isolator and sub-board that a split or a new board begins with: common practice, no source.
_ISOLATOR_A, _SUB_WAYS = 100.0, 6
#: Time to lay a changed board out [s].
_LAYOUT_S = 0.4


@dataclass(frozen=True, slots=True, kw_only=True)
class AddCircuitOption:
    """A way of doing it. ``not_possible``: why it cannot be done here; ``job`` None then. ``new_problems``: what fails or is missing that
    did not before, each check with its sentence. ``modules_left``: free in the board that holds it."""

    id: str
    title: Text
    not_possible: Text
    job: Job | None
    verdict: Verdict
    new_problems: tuple[Text, ...]
    modules_left: float | None
    steps: tuple[Text, ...]
    materials: tuple[Text, ...]
    calls: tuple[Text, ...]
    stays_live: tuple[Text, ...]


def add_circuit_options(job: Job, board_id: str, circuit: Circuit) -> tuple[AddCircuitOption, ...]:
    """The ways to add a circuit to a board.

    circuit  what is to be added, not yet of the job; a device or cable left open is chosen
    Raises   BadDocument where the board is not there, the circuit's id is taken, or it names what the job has not
    """
    board, rules = board_of(job, board_id), rule_set(job.job.rules)
    if any(present.id == circuit.id for present in job.circuits):
        raise BadDocument(
            [DocumentProblem("circuit.id", message(None, "core.add_circuit.id_used", circuit=circuit.id))]
        )
    before = {(finding.check, finding.subject.id): finding for finding in assess(job, explain=False).findings}
    made = _OptionBuilder(job, rules, board, circuit, before)
    checked(made.added(job, board_id))
    return tuple(made.solutions())


def _as_half(circuit: Circuit) -> Circuit:
    """A circuit whose breaker is one half of a tandem; its breaking capacity is to be read off the new one."""
    assert not is_auto(circuit.device)
    device = circuit.device.model_copy(update={"modules": 0.5, "family": None, "breaking_ka": None})
    return circuit.model_copy(update={"device": device})


def _larger_enclosures(old: Enclosure, needed: float) -> list[Enclosure]:
    """Enclosures of the library that are larger than one and have room for so many modules, the smallest first."""

    def room(enclosure: Enclosure) -> int:
        return enclosure.rows * enclosure.modules

    known = (entry.enclosure for entry in enclosures() if entry.enclosure.form == old.form)
    return sorted((each for each in known if room(each) > room(old) and room(each) >= needed), key=room)


class _OptionBuilder:
    def __init__(
        self, job: Job, rules: RuleSet, board: Board, circuit: Circuit, before: dict[tuple[str, str], Finding]
    ):
        self._job, self._rules, self._board, self._circuit, self._before = job, rules, board, circuit, before
        self._network = Installation.of(job, rules)
        self._units = or_none(lambda: self._network.boards[board.id].units)

    def solutions(self) -> Iterator[AddCircuitOption]:
        yield self._spare()
        yield self._slim()
        if self._board.build.enclosure is not None and self._board.build.enclosure.form == "panelboard":
            yield self._tandem(self._board.build.enclosure)
        yield self._instead_of_shared()
        yield self._larger()
        yield self._split()
        yield self._split_without()
        yield self._sub_board()

    # ------------------------------------------------------------------------------------------- the ways

    def _spare(self) -> AddCircuitOption:
        free, wide = self._free(self._board, self._job), self._wide()
        if free + SLACK < wide:
            return self._no(
                "spare",
                self._network.message("core.add_circuit.spare.title"),
                self._network.message(
                    "core.add_circuit.spare.refused", free=Shown(f"{free:g}"), wide=Shown(f"{wide:g}")
                ),
            )
        return self._judged(
            "spare",
            self._network.message("core.add_circuit.spare.title"),
            self.added(self._job, self._board.id),
            (
                *self._dead(self._board.id),
                self._network.message("core.add_circuit.spare.step"),
            ),
            (),
            (),
        )

    def _slim(self) -> AddCircuitOption:
        title = self._network.message("core.add_circuit.slim.title")
        slim = _slim()
        swapped, gained = [], 0.0
        for way in self._ways():
            unit = self._units.by_id.get(f"way:{way.id}") if self._units else None
            device = way.device
            if unit is None or is_auto(device) or device.rcd is None or device.arc_fault or unit.wide <= slim.modules:
                continue
            if device.rating_a in slim.ratings_a and device.curve == slim.characteristic and len(unit.lines) == 1:
                swapped.append(way.model_copy(update={"device": device.model_copy(update={"family": slim.id})}))
                gained += unit.wide - slim.modules
        free, wide = self._free(self._board, self._job), self._wide()
        if not swapped:
            return self._no("slim", title, self._network.message("core.add_circuit.slim.none"))
        if free + gained + SLACK < wide:
            return self._no(
                "slim",
                title,
                self._network.message(
                    "core.add_circuit.slim.short", gained=Shown(f"{gained:g}"), short=Shown(f"{wide - free:g}")
                ),
            )
        job = with_parts(self._job, tuple(swapped))
        names = ", ".join(circuit.name for circuit in swapped)
        return self._judged(
            "slim",
            title,
            self.added(job, self._board.id),
            (
                *self._dead(self._board.id),
                self._network.message("core.add_circuit.slim.step_1", circuits=names),
                self._network.message("core.add_circuit.slim.step_2"),
            ),
            (self._network.message("core.add_circuit.pieces", n=len(swapped), part=slim.title),),
            (),
        )

    def _tandem(self, enclosure: Enclosure) -> AddCircuitOption:
        """Two single-pole breakers on one line made one tandem, in a space whose label permits it."""
        say = self._network.message
        title = say("core.add_circuit.tandem.title")
        permitted = enclosure.tandem_space_numbers
        if permitted is None:
            return self._no("tandem", title, say("core.add_circuit.tandem.label"))
        if not permitted:
            return self._no("tandem", title, say("core.add_circuit.tandem.not_permitted"))
        by_line: dict[tuple[str, tuple[str, ...]], list[Circuit]] = {}
        for unit in self._units.all if self._units else ():
            plain_breaker = unit.kind == "way" and unit.wide == 1 and unit.rcd is None and "N" not in unit.poles
            if plain_breaker and unit.circuit is not None:
                by_line.setdefault((unit.feed, unit.lines), []).append(unit.circuit)
        pairs = [each[:2] for each in by_line.values() if len(each) > 1]
        for pair in pairs:
            halves = tuple(_as_half(circuit) for circuit in pair)
            job = with_parts(self._job, halves)
            if self._free(self._board, job) + SLACK < self._wide():
                continue
            names = ", ".join(circuit.name for circuit in pair)
            return self._judged(
                "tandem",
                title,
                self.added(job, self._board.id),
                (
                    *self._dead(self._board.id),
                    say("core.add_circuit.tandem.step", circuits=names, spaces=str(enclosure.tandem_spaces)),
                ),
                (say("core.add_circuit.tandem.part"),),
                (),
            )
        return self._no("tandem", title, say("core.add_circuit.tandem.none"))

    def _without_group(self, group: SharedRcd, members: list[Circuit]) -> Job | None:
        """The job without a shared RCD, its circuits behind slim RCBOs; None where there are none of their ratings."""
        slim, board = _slim(), self._board
        kind = next((kind for kind in self._rules.devices.kinds.values() if kind.has_rcd and "B" in kind.curves), None)
        changed = [
            member.model_copy(update={"device": _as_rcbo(member.device, kind.id, slim)})
            for member in members
            if kind is not None and not is_auto(member.device) and member.device.rating_a in slim.ratings_a
        ]
        if not members or len(changed) < len(members):
            return None
        ways = tuple(way.model_copy(update={"rcd": None}) if way.rcd == group.id else way for way in board.ways)
        rest = tuple(shared_rcd for shared_rcd in board.shared_rcds if shared_rcd.id != group.id)
        job = with_parts(self._job, tuple(changed))
        return with_parts(job, (), (board.model_copy(update={"shared_rcds": rest, "ways": ways}),))

    def _instead_of_shared(self) -> AddCircuitOption:
        """A shared RCD given up: its ways become breakers with residual current of their own, in the width of their old ones."""
        title = self._network.message("core.add_circuit.rcbo.title")
        slim = _slim()
        board = self._board
        for group in board.shared_rcds:
            members = [way for way in self._ways() if self._way(way.id).rcd == group.id]
            job = self._without_group(group, members)
            if job is None or self._free(board_of(job, board.id), job) + SLACK < self._wide():
                continue
            return self._judged(
                "rcbo",
                title,
                self.added(job, board.id),
                (
                    *self._dead(board.id),
                    self._network.message(
                        "core.add_circuit.rcbo.step_1",
                        rcd=group.name,
                        circuits=", ".join(member.name for member in members),
                    ),
                    self._network.message("core.add_circuit.rcbo.step_2", rcd=group.name),
                    *self._leakage(group, members),
                ),
                (self._network.message("core.add_circuit.pieces", n=len(members), part=slim.title),),
                (),
            )
        return self._no("rcbo", title, self._network.message("core.add_circuit.rcbo.none"))

    def _leakage(self, group: SharedRcd, members: list[Circuit]) -> tuple[Text, ...]:
        """What leaks behind a shared RCD, and the most that one device has afterwards [mA]; nothing while one of them is not known."""
        leaking = [or_none(lambda c=c: self._network.rcds.leakage_ma(c)) for c in members]  # type: ignore[misc]
        known = [each for each in leaking if each is not None]
        if not known or len(known) < len(members):
            return ()
        now, then = shown_up(sum(known)), shown_up(max(known))
        return (self._network.message("core.add_circuit.rcbo.leakage", rcd=group.name, ma=now, most=then),)

    def _larger(self) -> AddCircuitOption:
        """The next larger enclosure there is, with everything moved over."""
        title = self._network.message("core.add_circuit.larger.title")
        old, board = self._board.build.enclosure, self._board
        if old is None:
            return self._no("larger", title, self._network.message("core.add_circuit.larger.no_enclosure"))
        lacking = max(0.0, self._wide() - self._free(board, self._job))
        for enclosure in _larger_enclosures(old, old.rows * old.modules + lacking):
            housing = board.build.model_copy(update={"enclosure": enclosure, "device_positions": ()})
            room = max(board.way_count, board.way_count + enclosure.rows * enclosure.modules - old.rows * old.modules)
            changed = board.model_copy(update={"build": housing, "way_count": min(room, 200)})
            job = self.added(with_parts(self._job, (), (changed,)), board.id)
            if self._free(board_of(job, board.id), job) < -SLACK:
                continue
            try:
                job, _ = lay_out(design(job, spd=False).job, board.id, seconds=_LAYOUT_S)
            except CoreError:
                continue
            steps = (
                *self._dead(board.id),
                self._network.message(
                    "core.add_circuit.larger.step_1",
                    board=board.name,
                    enclosure=enclosure.title,
                    rows=enclosure.rows,
                    modules=enclosure.modules,
                ),
                self._network.message("core.add_circuit.larger.step_2"),
            )
            made = self._judged(
                "larger",
                title,
                job,
                steps,
                (
                    self._network.message(
                        "core.add_circuit.enclosure",
                        enclosure=enclosure.title,
                        rows=enclosure.rows,
                        modules=enclosure.modules,
                    ),
                ),
                self._visits_to_change(),
            )
            if made.job is not None:
                return made
        return self._no("larger", title, self._network.message("core.add_circuit.larger.none"))

    def _visits_to_change(self) -> tuple[Text, ...]:
        """Who comes to make the conductors of this board dead: no one where something upstream of it in the installation does."""
        if not is_origin(self._board.fed_by) or self._isolated():
            return ()
        return (self._network.message("core.add_circuit.larger.call"),)

    def _isolated(self) -> bool:
        """Whether an isolator between the meter and the boards is there: a prerequisite of a larger supply that is done."""
        return any(each.id == "isolator" and each.done for each in self._job.supply.prerequisites)

    def _split(self) -> AddCircuitOption:
        """A second board beside this one, both behind an isolator: one visit of the distributor, or none where it is there."""
        say, rating = self._network.message, Shown(f"{_ISOLATOR_A:g}")
        first: tuple[Text, ...] = (say("core.add_circuit.split.step_1", a=rating),)
        part: tuple[Text, ...] = (say("core.add_circuit.split.part_isolator", a=rating),)
        calls: tuple[Text, ...] = (say("core.add_circuit.split.call"),)
        if self._isolated():
            first = part = calls = ()
        return self._second_board("split", (*first, say("core.add_circuit.split.step_2")), part, calls)

    def _split_without(self) -> AddCircuitOption:
        """The same without an isolator: the distributor comes before the work and after it."""
        say = self._network.message
        if self._isolated():
            title = say("core.add_circuit.split_without.title")
            return self._no("split_without", title, say("core.add_circuit.split.isolator_there"))
        calls = (say("core.add_circuit.split_without.call"),)
        return self._second_board("split_without", (say("core.add_circuit.split_without.step"),), (), calls)

    def _second_board(
        self, id_: str, first: tuple[Text, ...], parts: tuple[Text, ...], calls: tuple[Text, ...]
    ) -> AddCircuitOption:
        """A second board on split tails; the present one stays. ``first``: how the tails are made dead, ``parts`` what that needs."""
        say = self._network.message
        title = say(f"core.add_circuit.{id_}.title")
        if not is_origin(self._board.fed_by):
            return self._no(id_, title, say("core.add_circuit.split.no_tails"))
        tails = self._job.supply.tails
        name = free_id("second", {board.id for board in self._job.boards})
        second = Board(
            id=name,
            name="Second board",
            fed_by="origin",
            way_count=_SUB_WAYS,
            main_switch=MainSwitch(rating_a=_ISOLATOR_A),
            tap=Tap(
                line_mm2=tails.area_mm2 if tails else None,
                neutral_mm2=tails.area_mm2 if tails else None,
                earth_mm2=self._job.supply.earthing.conductor_mm2 if self._job.supply.earthing else None,
                length_m=1.0,
                labelled=True,
            ),
        )
        job = self._job.model_copy(update={"boards": (*self._job.boards, second)})
        size = self._rules.cables.size_label(tails.area_mm2) if tails else say("core.add_circuit.split.tails_unknown")
        return self._judged(
            id_,
            title,
            self.added(job, name),
            (
                say("core.add_circuit.split.old_stays"),
                *first,
                say("core.add_circuit.split.step_3", size=size),
                say("core.add_circuit.split.step_4"),
                say("core.add_circuit.split.step_5"),
            ),
            (
                *parts,
                say("core.add_circuit.split.part_blocks", size=size),
                say("core.add_circuit.split.part_tails", size=size),
                say("core.add_circuit.split.part_board", n=_SUB_WAYS),
                say("core.add_circuit.split.part_earth"),
            ),
            calls,
            at=name,
        )

    def _sub_board(self) -> AddCircuitOption:
        title = self._network.message("core.add_circuit.sub.title")
        board, rules = self._board, self._rules
        circuits = [way for way in self._ways() if way.kind != "distribution" and not is_auto(way.device)]
        if not circuits:
            return self._no("sub", title, self._network.message("core.add_circuit.sub.none"))
        # The smallest circuit gives up its way: it moves to the sub-board, and a feeder takes its place.
        moved = min(
            circuits,
            key=lambda item: (item.kind == "ring", item.device.rating_a if isinstance(item.device, Device) else 0),
        )
        way = self._way(moved.id)
        feeder_id = free_id("feeder", {circuit.id for circuit in self._job.circuits} | {self._circuit.id})
        name = free_id("sub", {board.id for board in self._job.boards})
        # Only what reaches this board can go on; where its own feeder is not on a line yet, the sub-board follows it.
        reaching = or_none(lambda: self._network.tree.board_lines(board)) or ()
        lines = reaching if len(reaching) > 1 else ()
        feeder = Circuit(
            id=feeder_id,
            name="Sub-board",
            kind="distribution",
            lines=lines,
            run=(Section(length_m=2.0, method=rules.default_method, concealed_in="no"),),
        )
        sub = Board(
            id=name,
            name="Sub-board",
            fed_by=FedByWay(board=board.id, way=way.number),
            way_count=_SUB_WAYS,
            main_switch=MainSwitch(rating_a=63.0),
            ways=(Way(number=1, circuit=moved.id),),
        )
        ways = tuple(
            Way(number=way.number, circuit=feeder_id) if way.circuit == moved.id else way for way in board.ways
        )
        job = with_parts(self._job, (), (board.model_copy(update={"ways": ways}),))
        if way.rcd is not None and isinstance(moved.device, Device):
            # It leaves the shared RCD behind, so it gets one of its own.
            own_device = rules.devices.default_device(moved, moved.device.rating_a)
            job = with_parts(job, (moved.model_copy(update={"device": own_device}),))
        job = job.model_copy(update={"boards": (*job.boards, sub), "circuits": (*job.circuits, feeder)})
        return self._judged(
            "sub",
            title,
            self.added(job, name),
            (
                *self._dead(board.id),
                self._network.message("core.add_circuit.sub.step_1", circuit=moved.name, n=way.number),
                self._network.message("core.add_circuit.sub.step_2"),
                self._network.message("core.add_circuit.sub.step_3"),
            ),
            (
                self._network.message("core.add_circuit.sub.part_board", n=_SUB_WAYS),
                self._network.message("core.add_circuit.sub.part_cable"),
                self._network.message("core.add_circuit.sub.part_breaker"),
            ),
            (),
            at=name,
        )

    # -------------------------------------------------------------------------------------------- judging

    def _is_new(self, finding: Finding) -> bool:
        """Whether something fails or lacks an input that did not before."""
        before = self._before.get((finding.check, finding.subject.id))
        return finding.verdict in ("fail", "missing") and (before is None or before.verdict != finding.verdict)

    def _new_device(self, made: Job) -> tuple[Text, ...]:
        """The device to buy for the new circuit, where one is chosen."""
        device = made.circuit(self._circuit.id).device
        return (
            ()
            if is_auto(device)
            else (
                self._network.message(
                    "core.add_circuit.device_for",
                    device=f"{device.curve or ''}{device.rating_a:g}",
                    circuit=self._circuit.name,
                ),
            )
        )

    def _judged(
        self,
        name: str,
        title: Text,
        job: Job,
        steps: tuple[Text, ...],
        materials: tuple[Text, ...],
        calls: tuple[Text, ...],
        at: str = "",
    ) -> AddCircuitOption:
        """A way of doing it, designed where it is open, and assessed: what it makes worse than it was."""
        try:
            made = design(job, spd=False).job
            for loose in [board.id for board in made.boards if self._loose(made, board)]:
                made, _ = lay_out(made, loose, seconds=_LAYOUT_S)
            assessment = assess(made, explain=False)
        except CoreError as why:
            return self._no(name, title, str(why))
        new = [finding for finding in assessment.findings if self._is_new(finding)]
        board, network = board_of(made, at or self._board.id), Installation.of(made, self._rules)
        free = self._free(board, made)
        if free < -SLACK:
            return self._no(name, title, self._network.message("core.add_circuit.short", n=Shown(f"{-free:g}")))
        concerned = [finding for finding in assessment.findings if finding.subject.id in (self._circuit.id, at)] + new
        concerning = [finding.verdict for finding in concerned if finding.verdict != "not-applicable"]
        live = or_none(lambda: isolation_for(network.boards, board.id, "board").stays_live) or ()
        return AddCircuitOption(
            id=name,
            title=title,
            not_possible="",
            job=made,
            verdict=worst(concerning),
            new_problems=tuple(dict.fromkeys(self._problem(finding) for finding in new)),
            modules_left=free,
            steps=steps,
            materials=(*materials, *self._new_device(made)),
            calls=calls,
            stays_live=live,
        )

    def _problem(self, finding: Finding) -> Message:
        title = check_title(finding.check, self._rules.words, finding.subject.kind)
        return self._network.message("core.add_circuit.problem", check=title, sentence=finding.sentence)

    def _loose(self, job: Job, board: Board) -> bool:
        """Whether a board that was laid out has a device without a place now."""
        places = or_none(lambda: Installation.of(job, self._rules).boards[board.id].places)
        return bool(board.build.device_positions and places and places.loose)

    def _no(self, name: str, title: Text, why: Text) -> AddCircuitOption:
        return AddCircuitOption(
            id=name,
            title=title,
            not_possible=self._network.message("core.add_circuit.refused", reason=why),
            job=None,
            verdict="not-applicable",
            new_problems=(),
            modules_left=None,
            steps=(),
            materials=(),
            calls=(),
            stays_live=(),
        )

    def _dead(self, board: str) -> tuple[Text, ...]:
        steps = or_none(lambda: isolation_for(self._network.boards, board, "board").steps) or ()
        return steps[1:2]

    # --------------------------------------------------------------------------------------------- pieces

    def _ways(self) -> list[Circuit]:
        return [self._network.tree.circuits[way.circuit] for way in self._board.ways]

    def _way(self, circuit: str) -> Way:
        return next(way for way in self._board.ways if way.circuit == circuit)

    def _free(self, board: Board, job: Job) -> float:
        """Modules that are free in a board, or ways where it has no enclosure."""
        enclosure = board.build.enclosure
        if enclosure is None:
            return float(board.way_count - len(board.ways))
        units = or_none(lambda: Installation.of(job, self._rules).boards[board.id].units)
        used = modules_needed(units) if units else 0.0
        return enclosure.rows * enclosure.modules - used

    def _wide(self) -> float:
        """Width of the new circuit's device: of the slimmest that does."""
        lines = max(1, len(self._circuit.lines))
        return float(lines)

    def added(self, job: Job, board_id: str) -> Job:
        """The job with the circuit in the next free way of a board; that board's layout is to be made again."""
        board = board_of(job, board_id)
        taken = {way.number for way in board.ways}
        number = next(at for at in range(1, 201) if at not in taken)
        ways = (*board.ways, Way(number=number, circuit=self._circuit.id))
        changed = board.model_copy(update={"ways": ways, "way_count": max(board.way_count, number)})
        return with_parts(job.model_copy(update={"circuits": (*job.circuits, self._circuit)}), (), (changed,))


def _slim() -> DeviceFamily:
    """The packaged family of one-module breakers with residual current."""
    return next(family for family in packaged() if family.kind == "rcbo" and family.modules == 1)


def _as_rcbo(device: Device, kind: str, slim: DeviceFamily) -> Device:
    return device.model_copy(
        update={"kind": kind, "curve": slim.characteristic, "rcd": Rcd(idn_ma=30.0), "family": slim.id}
    )
