"""Reading a job document: from bytes to a Job that holds together, or one clear line for each thing wrong."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from pydantic import ValidationError

from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import LINES, Board, Circuit, Job, Line, Load
from vivid_lattice.core.document.validation import validated
from vivid_lattice.core.document.versions import FORMAT, VERSION, version_of
from vivid_lattice.core.errors import BadDocument, DocumentProblem, UnknownRuleSet
from vivid_lattice.core.rules import rule_set

#: More lines than this help nobody; the rest is counted.
_MAX_PROBLEMS = 40


def read_document(raw: bytes | str) -> Job:
    """The job in a document's text.

    Raises BadDocument with one line for each problem and its path: not text, not JSON, another format or version,
    a field missing, unknown or out of range, a reference that leads nowhere, a loop in the tree, an id used twice.
    """
    return read_data(_json(raw))


def read_data(data: Any) -> Job:
    """The job in data already read from JSON. Raises BadDocument as ``read_document`` does."""
    if not isinstance(data, dict):
        raise _bad("", f'a job document is a JSON object with "format": "{FORMAT}", not a {_json_kind(data)}')
    _check_format(data)
    try:
        job = validated(Job, data)
    except ValidationError as why:
        raise BadDocument(problems_of(why.errors())) from None
    return checked(job)


def checked(job: Job) -> Job:
    """The job itself where it holds together; BadDocument where it contradicts itself or its rule set."""
    problems = [DocumentProblem(path, message) for path, message in _inconsistencies(job)]
    if not problems:
        try:
            rules = rule_set(job.job.rules)
        except UnknownRuleSet as why:
            raise _bad("job.rules", str(why)) from None
        problems = [DocumentProblem(path, message) for path, message in rules.check_job(job)]
    if problems:
        raise BadDocument(problems[:_MAX_PROBLEMS])
    return job


def to_text(job: Job) -> str:
    """The document of a job, as it is kept and handed on: stable order, two-space indent, nothing that is not known."""
    return json.dumps(job.model_dump(mode="json", exclude_none=True), indent=2, ensure_ascii=False) + "\n"


def problems_of(errors: Iterable[Any], root: str = "") -> list[DocumentProblem]:
    """Validation errors as problems with a path a person can follow, the first forty of them."""
    problems: dict[tuple[str, str], DocumentProblem] = {}
    short: list[str] = []
    for error in errors:
        problem = DocumentProblem(_path(error["loc"], root), _plain(error))
        problems.setdefault((problem.path, problem.message), problem)
        if error["type"] == "too_short":
            short.append(problem.path)
    # A list whose only entry is wrong is called empty as well; the entry's own line is the one that helps.
    spurious = {path for path in short if any(other.path.startswith(f"{path}[") for other in problems.values())}
    return [problem for problem in problems.values() if problem.path not in spurious][:_MAX_PROBLEMS]


def _json(raw: bytes | str) -> Any:
    try:
        text = raw.decode("utf-8-sig") if isinstance(raw, bytes) else raw
    except UnicodeDecodeError as why:
        raise _bad("", f"not a text file (byte {why.start} is not UTF-8); a job document is JSON text") from None
    try:
        return json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as why:
        raise _bad("", f"not JSON: {why.msg} at line {why.lineno}, column {why.colno}") from None
    except RecursionError:
        raise _bad("", "not a job document: nested too deeply") from None


def _no_constant(name: str) -> float:
    raise _bad("", f"{name} is not a number a job can hold")


def _check_format(data: dict[str, Any]) -> None:
    given = data.get("format")
    if given is None:
        raise _bad("format", f'missing; a job document says "format": "{FORMAT}"')
    version = version_of(given)
    if version is not None and 1 <= version <= VERSION:
        return
    if version is not None:
        raise _bad(
            "format",
            f"version {version} is not read by this program, which reads versions 1 to {VERSION}; a newer program wrote it, so use that one",
        )
    raise _bad("format", f"'{given}' is not a job document; this program reads \"{FORMAT}\"")


def _bad(path: str, message: str) -> BadDocument:
    return BadDocument([DocumentProblem(path, message)])


def _json_kind(data: Any) -> str:
    return {list: "list", str: "text", bool: "true or false", type(None): "null"}.get(type(data), "number")


def _path(loc: Sequence[int | str], root: str) -> str:
    path = root
    for part in loc:
        if isinstance(part, int):
            path += f"[{part}]"
        elif part not in ("FedByWay", "literal['origin']", "Cable", "Device", "literal['auto']", "body"):
            path += f".{part}" if path else part
    return path


def _plain(error: Any) -> str:
    kind, given, context = error["type"], error.get("input"), error.get("ctx", {})
    text = f", not {given!r}" if isinstance(given, (int, float, str)) and not isinstance(given, bool) else ""
    plain = {
        "missing": "missing",
        "extra_forbidden": "not a field of the format; check its spelling",
        "greater_than": f"has to be over {context.get('gt')}{text}",
        "greater_than_equal": f"has to be {context.get('ge')} or more{text}",
        "less_than_equal": f"has to be {context.get('le')} or less{text}",
        "finite_number": "has to be an ordinary number",
        "string_too_short": "may not be empty",
        "string_too_long": f"is longer than {context.get('max_length')} characters",
        "string_pattern_mismatch": f"has to begin with a small letter and hold only small letters, figures and hyphens{text}",
        "literal_error": f"has to be {context.get('expected')}{text}",
        "too_short": f"needs at least {context.get('min_length')} entry",
        "too_long": f"holds more than {context.get('max_length')} entries",
        "float_type": f"has to be a number{text}",
        "int_type": f"has to be a whole number{text}",
        "string_type": "has to be text",
        "bool_type": "has to be true or false",
        "model_type": "has to be an object",
        "model_attributes_type": "has to be an object",
        "tuple_type": "has to be a list",
    }
    return plain.get(kind, str(error["msg"]))


def _inconsistencies(job: Job) -> Iterator[tuple[str, str]]:
    yield from _twice("rooms", (room.id for room in job.rooms))
    yield from _twice("boards", (board.id for board in job.boards))
    yield from _twice("circuits", (circuit.id for circuit in job.circuits))
    yield from _ways(job)
    yield from _housed(job)
    yield from _survey(job)
    yield from _tree(job)
    yield from _lines(job)
    yield from _source(job)
    rooms = {room.id for room in job.rooms}
    for index, circuit in enumerate(job.circuits):
        for number, load in enumerate(circuit.loads):
            if load.room is not None and load.room not in rooms:
                yield f"circuits[{index}].loads[{number}].room", f"no room '{load.room}'"
        for number, accessory in enumerate(circuit.accessories):
            if accessory.room is not None and accessory.room not in rooms:
                yield f"circuits[{index}].accessories[{number}].room", f"no room '{accessory.room}'"


def _twice(name: str, ids: Iterable[str]) -> Iterator[tuple[str, str]]:
    for identity, count in Counter(ids).items():
        if count > 1:
            yield name, f"the id '{identity}' is used {count} times; every id stands once"


def _ways(job: Job) -> Iterator[tuple[str, str]]:
    known, seen = {circuit.id for circuit in job.circuits}, Counter[str]()
    for index, board in enumerate(job.boards):
        at = f"boards[{index}]"
        yield from _twice(f"{at}.shared_rcds", (group.id for group in board.shared_rcds))
        numbers = Counter(way.number for way in board.ways)
        for way_index, way in enumerate(board.ways):
            here = f"{at}.ways[{way_index}]"
            if numbers[way.number] > 1:
                yield f"{here}.number", f"way {way.number} is taken twice"
            if way.number > board.way_count:
                yield f"{here}.number", f"way {way.number} is past the board's last, {board.way_count}"
            if way.circuit not in known:
                yield f"{here}.circuit", f"no circuit '{way.circuit}'"
            if way.rcd is not None and way.rcd not in {group.id for group in board.shared_rcds}:
                yield f"{here}.rcd", f"no RCD '{way.rcd}' in this board"
            seen[way.circuit] += 1
    for index, circuit in enumerate(job.circuits):
        if seen[circuit.id] == 0:
            yield f"circuits[{index}]", f"'{circuit.id}' sits in no way of any board"
        elif seen[circuit.id] > 1:
            yield f"circuits[{index}]", f"'{circuit.id}' sits in {seen[circuit.id]} ways; a circuit has one"


def _housed(job: Job) -> Iterator[tuple[str, str]]:
    """Control gear and places on the rail that lead nowhere, or that something else has taken."""
    rooms = {room.id for room in job.rooms}
    for index, board in enumerate(job.boards):
        at = f"boards[{index}]"
        texts, groups = {way.circuit for way in board.ways}, {group.id for group in board.shared_rcds}
        yield from _twice(f"{at}.control_gear", (gear.id for gear in board.control_gear))
        switched = Counter(name for gear in board.control_gear if gear.kind == "contactor" for name in gear.switches)
        behind = {way.circuit: way.rcd for way in board.ways}
        for number, gear in enumerate(board.control_gear):
            here = f"{at}.control_gear[{number}].switches"
            if gear.kind != "contactor" and len(gear.switches) > 1:
                yield here, f"a {gear.kind.replace('-', ' ')} belongs to one circuit, not to {len(gear.switches)}"
            for name in gear.switches:
                if name not in texts and not (gear.kind == "contactor" and name in groups):
                    yield here, f"no circuit{' or RCD' if gear.kind == 'contactor' else ''} '{name}' in this board"
                elif gear.kind == "contactor" and switched[name] > 1:
                    yield here, f"'{name}' is switched by two contactors"
                elif gear.kind == "contactor" and (group := behind.get(name)) is not None:
                    yield (
                        here,
                        f"'{name}' stands behind the shared RCD '{group}'; switch the RCD, or give the circuit its own",
                    )
        yield from _twice(f"{at}.build.device_positions", (spot.device for spot in board.build.device_positions))
        for number, text in enumerate(board.build.labels.texts):
            if text.circuit not in texts:
                yield f"{at}.build.labels.texts[{number}].circuit", f"no circuit '{text.circuit}' in this board"
        bars = {"N", *(f"N-{group}" for group in groups)}
        bars |= {f"N-{gear.id}" for gear in board.control_gear if gear.kind == "contactor"}
        for number, neutral in enumerate(board.build.neutral_connections):
            here = f"{at}.build.neutral_connections[{number}]"
            if neutral.circuit not in texts:
                yield f"{here}.circuit", f"no circuit '{neutral.circuit}' in this board"
            if neutral.bar not in bars:
                yield f"{here}.bar", f"no bar '{neutral.bar}'; the board has {', '.join(sorted(bars))}"
        standing = board.build.mounting
        if standing is not None and standing.room is not None and standing.room not in rooms:
            yield f"{at}.build.mounting.room", f"no room '{standing.room}'"


def _survey(job: Job) -> Iterator[tuple[str, str]]:
    """Ways of a surveyed board that stand twice, or that something is said to take over that does not exist."""
    boards, circuits = {board.id for board in job.boards}, {circuit.id for circuit in job.circuits}
    yield from _twice("survey.boards", (board.id for board in job.survey.boards))
    for index, board in enumerate(job.survey.boards):
        at = f"survey.boards[{index}]"
        if board.replaced_by is not None and board.replaced_by not in boards:
            yield f"{at}.replaced_by", f"no board '{board.replaced_by}'"
        numbers, taken = Counter(way.number for way in board.ways), Counter(way.circuit for way in board.ways)
        for number, way in enumerate(board.ways):
            here = f"{at}.ways[{number}]"
            if numbers[way.number] > 1:
                yield f"{here}.number", f"way {way.number} is written down twice"
            if way.circuit is not None and way.circuit not in circuits:
                yield f"{here}.circuit", f"no circuit '{way.circuit}'"
            elif way.circuit is not None and taken[way.circuit] > 1:
                yield f"{here}.circuit", f"'{way.circuit}' takes over {taken[way.circuit]} ways; it can take over one"


def _tree(job: Job) -> Iterator[tuple[str, str]]:
    boards, kinds = (
        {board.id: board for board in job.boards},
        {circuit.id: circuit.kind for circuit in job.circuits},
    )
    fed = Counter((board.fed_by.board, board.fed_by.way) for board in job.boards if not is_origin(board.fed_by))
    for index, board in enumerate(job.boards):
        if is_origin(board.fed_by):
            continue
        at, source = f"boards[{index}].fed_by", boards.get(board.fed_by.board)
        if source is None:
            yield f"{at}.board", f"no board '{board.fed_by.board}'"
            continue
        way = next((way for way in source.ways if way.number == board.fed_by.way), None)
        if way is None:
            yield f"{at}.way", f"way {board.fed_by.way} of '{source.id}' holds no circuit"
        elif kinds.get(way.circuit) not in (None, "distribution"):
            yield (
                f"{at}.way",
                f"the circuit in way {way.number} of '{source.id}' is not a distribution circuit",
            )
        if fed[board.fed_by.board, board.fed_by.way] > 1:
            yield f"{at}.way", f"way {board.fed_by.way} of '{source.id}' feeds more than one board"
        if _goes_round(board, boards):
            yield at, f"'{board.id}' feeds itself in a circle; one board has to be fed by the origin"


def _lines(job: Job) -> Iterator[tuple[str, str]]:
    """Lines that a supply, a feeder or a circuit does not have."""
    lines = LINES[: job.supply.phases]
    fed = _fed_lines(job)
    for index, circuit in enumerate(job.circuits):
        at = f"circuits[{index}]"
        if len(set(circuit.lines)) < len(circuit.lines):
            yield f"{at}.lines", "names a line twice"
        for line in circuit.lines:
            if line not in lines:
                yield f"{at}.lines", f"the supply has no {line}; it has {', '.join(lines)}"
            elif line not in fed.get(circuit.id, lines):
                yield f"{at}.lines", f"no {line} reaches its board; {', '.join(fed[circuit.id])} does"
        if circuit.kind == "ring" and len(circuit.lines) > 1:
            yield f"{at}.lines", "a ring is on one line"
        if not circuit.neutral and len(circuit.lines) < 2:
            yield f"{at}.neutral", "a circuit without a neutral has two lines at least"
        for number, load in enumerate(circuit.loads):
            yield from _load_lines(circuit, load, f"{at}.loads[{number}].lines")


def _load_lines(circuit: Circuit, load: Load, at: str) -> Iterator[tuple[str, str]]:
    circuit_lines = load.lines
    if not circuit_lines:
        return
    if not set(circuit_lines) <= set(circuit.lines) or len(set(circuit_lines)) < len(circuit_lines):
        yield at, f"has to be of the circuit's lines ({', '.join(circuit.lines) or 'none stated'}), each once"
    if len(circuit_lines) == 1 and not circuit.neutral:
        yield at, "a load on one line needs the neutral that this circuit has not"


def _fed_lines(job: Job) -> dict[str, tuple[Line, ...]]:
    """Lines that reach each circuit's board, where the board hangs behind a feeder with stated lines."""
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


def _source(job: Job) -> Iterator[tuple[str, str]]:
    """A supply given in two ways that could contradict each other."""
    supply = job.supply
    if supply.transformer is None:
        if supply.service_cable is not None:
            yield "supply.service_cable", "a service cable is reckoned with its transformer; enter that as well"
        return
    if supply.fault_current_ka is not None or supply.fault_current_lines_ka is not None:
        yield "supply.fault_current_ka", "is calculated from the transformer; leave one of the two out"
    if supply.ze_ohm is not None and supply.system != "TT":
        yield "supply.ze_ohm", "is calculated from the transformer; leave one of the two out"
    if supply.transformer.resistance_pct > supply.transformer.impedance_pct:
        yield "supply.transformer.resistance_pct", "cannot be more than the impedance"


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
