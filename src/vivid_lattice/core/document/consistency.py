"""What contradicts itself in a document: references that lead nowhere, ids and ways used twice, boards that feed themselves.

Each contradiction is the path of its field, and a line that says what is wrong.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterable, Iterator, Sequence

from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.existing_board import ExistingBoard
from vivid_lattice.core.document.job import LINES, Accessory, Board, Circuit, Job, Line, Load
from vivid_lattice.core.document.local_device import WITH_FUSE, WITH_RCD
from vivid_lattice.core.document.local_earthing import OF_POINTS
from vivid_lattice.core.document.plan_consistency import plan_contradictions
from vivid_lattice.core.messages import Text, message

Contradiction = tuple[str, Text]


def contradictions(job: Job) -> Iterator[Contradiction]:
    """Everything that contradicts itself in a document, part by part."""
    yield from _twice("rooms", (room.id for room in job.rooms))
    yield from _twice("boards", (board.id for board in job.boards))
    yield from _twice("circuits", (circuit.id for circuit in job.circuits))
    yield from _twice("inspection.observations", (each.id for each in job.inspection.observations))
    yield from _ways(job)
    rooms = {room.id for room in job.rooms}
    for index, board in enumerate(job.boards):
        yield from _gear(board, f"boards[{index}].control_gear")
        yield from _build(board, f"boards[{index}].build", rooms)
    yield from _survey(job)
    yield from _feeds(job)
    yield from _lines(job)
    yield from _source(job)
    yield from _local_earthing(job)
    yield from _sources(job)
    yield from _local_devices(job)
    for index, circuit in enumerate(job.circuits):
        yield from _rooms(circuit, f"circuits[{index}]", rooms)
    yield from plan_contradictions(job)


def _twice(name: str, ids: Iterable[str]) -> Iterator[Contradiction]:
    for identity, count in Counter(ids).items():
        if count > 1:
            yield name, message(None, "core.file.twice", id=identity, n=count)


def _rooms(circuit: Circuit, at: str, rooms: Collection[str]) -> Iterator[Contradiction]:
    parts: dict[str, Sequence[Load | Accessory]] = {"loads": circuit.loads, "accessories": circuit.accessories}
    for part, items in parts.items():
        for number, item in enumerate(items):
            if item.room is not None and item.room not in rooms:
                yield f"{at}.{part}[{number}].room", f"no room '{item.room}'"


def _ways(job: Job) -> Iterator[Contradiction]:
    """Every circuit has one way, every way one circuit."""
    circuits = {circuit.id for circuit in job.circuits}
    for index, board in enumerate(job.boards):
        yield from _ways_of(board, f"boards[{index}]", circuits)
    count = Counter(way.circuit for board in job.boards for way in board.ways)
    for index, circuit in enumerate(job.circuits):
        if count[circuit.id] == 0:
            yield f"circuits[{index}]", message(None, "core.file.unplaced", id=circuit.id)
        elif count[circuit.id] > 1:
            yield f"circuits[{index}]", message(None, "core.file.placed_twice", id=circuit.id, n=count[circuit.id])


def _ways_of(board: Board, at: str, circuits: Collection[str]) -> Iterator[Contradiction]:
    groups = [group.id for group in board.shared_rcds]
    yield from _twice(f"{at}.shared_rcds", groups)
    numbers = Counter(way.number for way in board.ways)
    for index, way in enumerate(board.ways):
        here = f"{at}.ways[{index}]"
        if numbers[way.number] > 1:
            yield f"{here}.number", message(None, "core.file.way_twice", n=way.number)
        if way.number > board.way_count:
            yield f"{here}.number", message(None, "core.file.way_range", n=way.number, max=board.way_count)
        if way.circuit not in circuits:
            yield f"{here}.circuit", f"no circuit '{way.circuit}'"
        if way.rcd is not None and way.rcd not in groups:
            yield f"{here}.rcd", message(None, "core.file.no_rcd", id=way.rcd)


def _gear(board: Board, at: str) -> Iterator[Contradiction]:
    """Control gear that switches nothing there is, or what something else switches."""
    yield from _twice(at, (gear.id for gear in board.control_gear))
    for number, gear in enumerate(board.control_gear):
        contactor = gear.kind == "contactor"
        if not contactor and len(gear.switches) > 1:
            wrong = message(None, "core.file.gear_one", kind=gear.kind.replace("-", " "), n=len(gear.switches))
            yield f"{at}[{number}].switches", wrong
        if gear.coil_with is not None and gear.coil_with not in _leads(board) - {gear.id}:
            yield f"{at}[{number}].coil_with", message(None, "core.file.gear_coil", id=gear.coil_with)
        if gear.central_off is not None and gear.kind != "impulse-relay":
            yield f"{at}[{number}].central_off", message(None, "core.file.gear_central")
        for name in gear.switches:
            if text := _wrong_switch(board, gear, name):
                yield f"{at}[{number}].switches", text


def _leads(board: Board) -> set[str]:
    """The contactors with a coil circuit of their own."""
    return {gear.id for gear in board.control_gear if gear.kind == "contactor" and gear.coil_with is None}


def _wrong_switch(board: Board, gear: ControlGear, name: str) -> Text:
    """Why a piece of control gear cannot switch a circuit or group; '' where it can."""
    behind = {way.circuit: way.rcd for way in board.ways}
    if gear.kind != "contactor":
        return "" if name in behind else message(None, "core.file.label_circuit", id=name)
    if name not in behind and name not in {group.id for group in board.shared_rcds}:
        return message(None, "core.file.label_circuit_or_rcd", id=name)
    if _contactor_count(board, name) > 1:
        return message(None, "core.file.gear_twice", id=name)
    if group := behind.get(name):
        return message(None, "core.file.gear_group", id=name, rcd=group)
    return ""


def _build(board: Board, at: str, rooms: Collection[str]) -> Iterator[Contradiction]:
    """Positions, labels and neutrals of what is not in the board; a room that is not there."""
    circuits = {way.circuit for way in board.ways}
    yield from _twice(f"{at}.device_positions", (position.device for position in board.build.device_positions))
    for number, text in enumerate(board.build.labels.texts):
        if text.circuit not in circuits:
            yield f"{at}.labels.texts[{number}].circuit", message(None, "core.file.label_circuit", id=text.circuit)
    contactors = [gear.id for gear in board.control_gear if gear.kind == "contactor"]
    bars = {"N", *(f"N-{name}" for name in (*(group.id for group in board.shared_rcds), *contactors))}
    for number, neutral in enumerate(board.build.neutral_connections):
        here = f"{at}.neutral_connections[{number}]"
        if neutral.circuit not in circuits:
            yield f"{here}.circuit", message(None, "core.file.label_circuit", id=neutral.circuit)
        if neutral.bar not in bars:
            yield f"{here}.bar", message(None, "core.file.neutral_bar", id=neutral.bar, list=", ".join(sorted(bars)))
    room = board.build.mounting.room if board.build.mounting else None
    if room is not None and room not in rooms:
        yield f"{at}.mounting.room", f"no room '{room}'"


def _survey(job: Job) -> Iterator[Contradiction]:
    """Ways of a surveyed board that stand twice, or that something is said to transfer that does not exist."""
    boards, circuits = {board.id for board in job.boards}, {circuit.id for circuit in job.circuits}
    yield from _twice("survey.boards", (board.id for board in job.survey.boards))
    for index, board in enumerate(job.survey.boards):
        at = f"survey.boards[{index}]"
        if board.replaced_by is not None and board.replaced_by not in boards:
            yield f"{at}.replaced_by", message(None, "core.file.no_board", id=board.replaced_by)
        yield from _existing_ways(board, at, circuits)


def _existing_ways(board: ExistingBoard, at: str, circuits: Collection[str]) -> Iterator[Contradiction]:
    numbers, taken = Counter(way.number for way in board.ways), Counter(way.circuit for way in board.ways)
    for number, way in enumerate(board.ways):
        here = f"{at}.ways[{number}]"
        if numbers[way.number] > 1:
            yield f"{here}.number", message(None, "core.file.found_twice", n=way.number)
        if way.circuit is None:
            continue
        if way.circuit not in circuits:
            yield f"{here}.circuit", f"no circuit '{way.circuit}'"
        elif taken[way.circuit] > 1:
            yield f"{here}.circuit", message(None, "core.file.takes_two", id=way.circuit, n=taken[way.circuit])


def _feeds(job: Job) -> Iterator[Contradiction]:
    """Boards fed from a way that is not there, feeds no board, or feeds two; boards that feed themselves."""
    boards = {board.id: board for board in job.boards}
    kinds = {circuit.id: circuit.kind for circuit in job.circuits}
    fed = Counter(board.fed_by for board in job.boards)
    for index, board in enumerate(job.boards):
        if is_origin(board.fed_by):
            continue
        at, source = f"boards[{index}].fed_by", boards.get(board.fed_by.board)
        if source is None:
            yield f"{at}.board", message(None, "core.file.no_board", id=board.fed_by.board)
            continue
        way = next((way for way in source.ways if way.number == board.fed_by.way), None)
        if way is None:
            yield f"{at}.way", message(None, "core.file.fed_way", n=board.fed_by.way, board=source.id)
        elif kinds.get(way.circuit) not in (None, "distribution"):
            yield f"{at}.way", message(None, "core.file.fed_kind", n=way.number, board=source.id)
        if fed[board.fed_by] > 1:
            yield f"{at}.way", message(None, "core.file.fed_two", n=board.fed_by.way, board=source.id)
        if _goes_round(board, boards):
            yield at, message(None, "core.file.fed_loop", board=board.id)


def _lines(job: Job) -> Iterator[Contradiction]:
    """Lines that a supply, a feeder or a circuit does not have."""
    lines = LINES[: job.supply.phases]
    fed = _fed_lines(job)
    for index, circuit in enumerate(job.circuits):
        at = f"circuits[{index}]"
        for line in circuit.lines:
            if line not in lines:
                yield f"{at}.lines", message(None, "core.file.no_line", phase=line, list=", ".join(lines))
            elif line not in fed.get(circuit.id, lines):
                yield (
                    f"{at}.lines",
                    message(None, "core.file.line_not_here", phase=line, list=", ".join(fed[circuit.id])),
                )
        yield from _circuit_lines(circuit, at)


def _circuit_lines(circuit: Circuit, at: str) -> Iterator[Contradiction]:
    if len(set(circuit.lines)) < len(circuit.lines):
        yield f"{at}.lines", message(None, "core.file.line_twice")
    if circuit.kind == "ring" and len(circuit.lines) > 1:
        yield f"{at}.lines", message(None, "core.file.ring_lines")
    if not circuit.neutral and len(circuit.lines) < 2:
        yield f"{at}.neutral", message(None, "core.file.no_neutral")
    for number, load in enumerate(circuit.loads):
        yield from _load_lines(circuit, load, f"{at}.loads[{number}].lines")


def _load_lines(circuit: Circuit, load: Load, at: str) -> Iterator[Contradiction]:
    lines = load.lines
    if not lines:
        return
    if not set(lines) <= set(circuit.lines) or len(set(lines)) < len(lines):
        yield at, message(None, "core.file.load_lines", list=", ".join(circuit.lines) or "–")
    if len(lines) == 1 and not circuit.neutral:
        yield at, message(None, "core.file.load_neutral")


def _fed_lines(job: Job) -> dict[str, tuple[Line, ...]]:
    """Lines that reach each circuit's board, where the board is mounted behind a feeder with stated lines."""
    by_way = {(board.id, way.number): way.circuit for board in job.boards for way in board.ways}
    stated = {circuit.id: circuit.lines for circuit in job.circuits}
    literals: dict[str, tuple[Line, ...]] = {}
    for board in job.boards:
        if is_origin(board.fed_by):
            continue
        lines = stated.get(by_way.get((board.fed_by.board, board.fed_by.way), ""), ())
        if lines:
            literals |= {way.circuit: lines for way in board.ways}
    return literals


def _source(job: Job) -> Iterator[Contradiction]:
    """A supply given in two ways that could contradict each other."""
    supply = job.supply
    if supply.transformer is None:
        if supply.service_cable is not None:
            yield "supply.service_cable", message(None, "core.file.service")
        return
    if supply.fault_current_ka is not None or supply.fault_current_lines_ka is not None:
        yield "supply.fault_current_ka", message(None, "core.file.stated_twice")
    if supply.ze_ohm is not None and supply.system != "TT":
        yield "supply.ze_ohm", message(None, "core.file.stated_twice")
    if supply.transformer.resistance_pct > supply.transformer.impedance_pct:
        yield "supply.transformer.resistance_pct", message(None, "core.file.resistance")


def _local_earthing(job: Job) -> Iterator[Contradiction]:
    """An earth of its own where there is none to have: at the origin, of a feeder; a link at the points of a circuit."""
    for index, board in enumerate(job.boards):
        if board.earthing is not None and is_origin(board.fed_by):
            yield f"boards[{index}].earthing", message(None, "core.file.earth_at_origin", board=board.name)
    for index, circuit in enumerate(job.circuits):
        if circuit.earthing is None:
            continue
        if circuit.kind == "distribution":
            yield f"circuits[{index}].earthing", message(None, "core.file.earth_of_feeder", circuit=circuit.name)
        elif circuit.earthing.kind not in OF_POINTS:
            yield f"circuits[{index}].earthing.kind", message(None, "core.file.earth_of_circuit", circuit=circuit.name)


def _sources(job: Job) -> Iterator[Contradiction]:
    """A source on a feeder, or a standby supply whose circuit has none."""
    with_source = {circuit.id for circuit in job.circuits if circuit.source is not None}
    for index, circuit in enumerate(job.circuits):
        if circuit.source is not None and circuit.kind == "distribution":
            yield f"circuits[{index}].source", message(None, "core.file.source_of_feeder", circuit=circuit.name)
    for index, board in enumerate(job.boards):
        if board.standby is not None and board.standby.circuit not in (None, *with_source):
            yield (
                f"boards[{index}].standby.circuit",
                message(None, "core.file.standby_circuit", id=str(board.standby.circuit)),
            )


def _local_devices(job: Job) -> Iterator[Contradiction]:
    """A device that serves a load that is not there, has an RCD or a fuse that its kind has not, or is on a feeder."""
    for index, circuit in enumerate(job.circuits):
        names = {load.name for load in circuit.loads}
        if circuit.local_devices and circuit.kind == "distribution":
            yield f"circuits[{index}].local_devices", message(None, "core.file.local_of_feeder", circuit=circuit.name)
        for number, device in enumerate(circuit.local_devices):
            here = f"circuits[{index}].local_devices[{number}]"
            for name in device.serves:
                if name not in names:
                    yield f"{here}.serves", message(None, "core.file.local_serves", name=name, circuit=circuit.name)
            if device.rcd is not None and device.kind not in WITH_RCD:
                yield f"{here}.rcd", message(None, "core.file.local_no_rcd", name=device.name)
            if device.fuse_a is not None and device.kind not in WITH_FUSE:
                yield f"{here}.fuse_a", message(None, "core.file.local_no_fuse", name=device.name)


def _goes_round(board: Board, boards: dict[str, Board]) -> bool:
    here, seen = board, {board.id}
    while not is_origin(here.fed_by):
        following = boards.get(here.fed_by.board)
        if following is None:
            return False
        if following.id in seen:
            return True
        seen.add(following.id)
        here = following
    return False


def _contactor_count(board: Board, name: str) -> int:
    """How many contactors of a board say that they switch a circuit or group."""
    return sum(gear.switches.count(name) for gear in board.control_gear if gear.kind == "contactor")
