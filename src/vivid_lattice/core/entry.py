"""One typed line into a circuit: ``cooker 7.2kW 14m`` or ``8 x downlight 6W, bath, 22m``."""

from __future__ import annotations

import re
from dataclasses import dataclass

from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job import LINES, Board, Circuit, CircuitKind, Job, Line, Load, LoadKind, Section, Way
from vivid_lattice.core.places import Room
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True)
class Entry:
    """A job with the new circuit in it, its id, and what was assumed where the line said nothing."""

    job: Job
    circuit: str
    assumed: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class _Use:
    """What a word means: the load it names, the circuit it makes, and a power factor where custom has one."""

    words: tuple[str, ...]
    load: LoadKind
    circuit: CircuitKind
    power_factor: float | None = None


#: Longer words first, so that 'smoke alarm' is not taken for anything else. Power factors: common practice, no source.
_USES: tuple[_Use, ...] = (
    _Use(("smoke", "heat alarm", "alarm", "co alarm"), "alarm", "fixed", 0.9),
    _Use(("ring",), "socket", "ring"),
    _Use(("socket", "sockets", "radial", "outlets", "receptacle"), "socket", "radial"),
    _Use(
        ("light", "lights", "lighting", "downlight", "downlights", "lamp", "lamps", "luminaire", "floodlight"),
        "lamp",
        "lighting",
        0.9,
    ),
    _Use(("cooker", "hob", "oven", "range", "stove"), "cooker", "fixed"),
    _Use(("shower", "flow heater"), "shower", "fixed"),
    _Use(("immersion", "water heater", "cylinder", "geyser"), "water-heater", "fixed"),
    _Use(("kiln", "furnace"), "kiln", "fixed"),
    _Use(("pump", "motor", "fan", "extractor", "lathe", "saw", "wheel", "compressor"), "motor", "fixed", 0.8),
    _Use(("dryer", "tumble dryer"), "dryer", "fixed", 1.0),
    _Use(
        ("air conditioner", "aircon", "air conditioning", "heat pump", "split system"), "air-conditioner", "fixed", 0.9
    ),
    _Use(("welder",), "welder", "fixed", 0.7),
    _Use(("dishwasher", "washing machine", "fridge", "freezer", "microwave", "appliance"), "appliance", "fixed", 0.9),
    _Use(("control", "controls", "doorbell", "contactor coil"), "appliance", "control", 0.5),
    _Use(("charger", "charging", "wallbox"), "charger", "fixed", 1.0),
    _Use(("heater", "radiator", "panel heater", "towel rail", "underfloor"), "heater", "fixed"),
    _Use(("board", "sub-board", "submain", "feeder", "panel"), "appliance", "distribution"),
)

_POWER = re.compile(r"^(\d+(?:[.,]\d+)?)\s*(k?w|kva|va)$", re.IGNORECASE)
_LENGTH = re.compile(r"^(\d+(?:[.,]\d+)?)\s*(m|ft)$", re.IGNORECASE)
_LINE = re.compile(r"^l([123])$", re.IGNORECASE)
_LINES = re.compile(r"^(?:([23])(?:p|ph|phase|~)|(two|three)-(?:pole|phase))$", re.IGNORECASE)
_M_PER_FT = 0.3048
_CURRENT = re.compile(r"^(\d+(?:[.,]\d+)?)\s*a$", re.IGNORECASE)
_FACTOR = re.compile(r"^pf\s*(0?[.,]\d+|1(?:[.,]0+)?)$", re.IGNORECASE)
_COUNT = re.compile(r"^\s*(\d{1,3})\s*(?:x|×|\*)\s*", re.IGNORECASE)


def add_entry(job: Job, text: str, board_id: str) -> Entry:
    """The job with a typed line added as a circuit in the first free way of a board, device and cable left ``auto``.

    Raises EntryNotUnderstood with what the line lacks or what in it is not known; the job given is left as it was.
    """
    board = next((board for board in job.boards if board.id == board_id), None)
    if board is None:
        raise EntryNotUnderstood(text, f"There is no board '{board_id}' in this job.")
    number = free_way(board)
    if number is None:
        raise EntryNotUnderstood(text, f"{board.name} has no free way: all {board.ways_total} are taken.")
    circuit, assumed = parse_entry(text, job, rule_set(job.job.rules))
    grown = board.model_copy(update={"ways": (*board.ways, Way(number=number, circuit=circuit.id))})
    boards = tuple(grown if known.id == board.id else known for known in job.boards)
    added = job.model_copy(update={"boards": boards, "circuits": (*job.circuits, circuit)})
    return Entry(added, circuit.id, (*assumed, f"way {number} of {board.name}, the first free one"))


def free_way(board: Board) -> int | None:
    """The lowest way of a board that holds nothing, or None."""
    taken = {way.number for way in board.ways}
    return next((number for number in range(1, board.ways_total + 1) if number not in taken), None)


def parse_entry(text: str, job: Job, rules: RuleSet) -> tuple[Circuit, tuple[str, ...]]:
    """The circuit a typed line names, and what was assumed.

    Understood    a count (``8 x``), a power (``7.2kW``, ``60W``), a current (``16A``), a length (``14m``, ``45ft``), a
                  power factor (``pf 0.8``), a method of installation by its word (``buried``, ``loft``), a room's name,
                  its lines (``L2``, ``3ph``, ``2p``), ``continuous``, ``spread``
    Raises        EntryNotUnderstood
    """
    reader = _Reader(text, job, rules)
    return reader.circuit()


class _Reader:
    """Takes the known parts out of a line; what is left is the circuit's name."""

    def __init__(self, text: str, job: Job, rules: RuleSet):
        self._text, self._job, self._rules = text, job, rules
        self._assumed: list[str] = []
        self._count = 1
        self._power_w: float | None = None
        self._current_a: float | None = None
        self._length_m: float | None = None
        self._factor: float | None = None
        self._method: str | None = None
        self._room: Room | None = None
        self._lines: tuple[Line, ...] = ()
        self._continuous = self._spread = False
        self._name: list[str] = []

    def circuit(self) -> tuple[Circuit, tuple[str, ...]]:
        self._read()
        name = " ".join(self._name).strip(" ,") or ""
        use = _use_of(name)
        if use is None:
            raise EntryNotUnderstood(self._text, self._unknown(name))
        power_factor = self._power_factor(use)
        neutral = self._between_lines(use)
        load = Load(
            name=name[:1].upper() + name[1:],
            kind=use.load,
            count=self._count,
            power_w=self._power_w,
            power_factor=power_factor,
            room=self._room.id if self._room else None,
            continuous=self._continuous,
        )
        feeds = self._feeds(use, load)
        if feeds and self._power_w is None and self._current_a is None:
            self._assumed.append("power not given: the checks that need it say so")
        if self._length_m is None:
            self._assumed.append("length not given: the checks that need it say so")
        where = f", {self._room.name.lower()}" if self._room else ""
        return Circuit(
            id=free_circuit_id(self._job),
            name=f"{load.name}{where}"[:120],
            kind=use.circuit,
            loads=feeds,
            lines=self._lines,
            neutral=neutral,
            spread=self._spread,
            design_current_a=self._current_a,
            run=(Section(length_m=self._length_m, method=self._chosen_method()),),
        ), tuple(self._assumed)

    def _feeds(self, use: _Use, load: Load) -> tuple[Load, ...]:
        """What stands in the circuit: of sockets only their number, where it was said."""
        if use.circuit == "ring" and not self._rules.limits.knows_rings:
            raise EntryNotUnderstood(self._text, f"{self._rules.title} knows no ring circuits; type 'sockets'.")
        if use.circuit in ("ring", "radial"):
            return (load.model_copy(update={"power_w": None, "power_factor": None}),) if self._count > 1 else ()
        return () if use.circuit == "distribution" else (load,)

    def _between_lines(self, use: _Use) -> bool:
        """Whether the circuit has a neutral. On a split phase, loads that are made for both lines are put between them."""
        if self._job.supply.phases != 2 or use.circuit == "distribution":
            return True
        habit = self._rules.between_lines.get(use.load)
        if habit is None or (self._lines and len(self._lines) != 2):
            return True
        if not self._lines:
            self._lines = LINES[:2]
            self._assumed.append("between both lines, as such loads are made; type L1 or L2 for one that is not")
        return habit

    def _read(self) -> None:
        line = self._text.strip()
        if not line:
            raise EntryNotUnderstood(self._text, "Type what the circuit feeds, for instance: cooker 7.2kW 14m")
        counted = _COUNT.match(line)
        if counted:
            self._count = int(counted.group(1))
            if not 1 <= self._count <= 500:
                raise EntryNotUnderstood(self._text, f"{self._count} of them cannot be; a count is 1 to 500.")
            line = line[counted.end() :]
        # A comma between figures is a decimal one; between words it parts them.
        line = re.sub(r"(\d),(\d)", r"\1.\2", line)
        # A unit may stand apart from its figure, and 'pf' before it.
        line = re.sub(r"(\d)\s+(kw|w|kva|m|ft|a)\b", r"\1\2", line, flags=re.IGNORECASE)
        line = re.sub(r"\bpf\s+", "pf", line, flags=re.IGNORECASE)
        for part in line.split(","):
            if not self._is_room(part.strip()):
                for word in part.split():
                    self._word(word)

    def _is_room(self, part: str) -> bool:
        if len(part) < 3:
            return False
        for room in self._job.rooms:
            if room.name.lower() == part.lower() or room.name.lower().startswith(part.lower()):
                self._room = room
                return True
        return False

    def _word(self, word: str) -> None:
        if found := _POWER.match(word):
            watts = _figure(found.group(1)) * (1000 if found.group(2).lower().startswith("k") else 1)
            self._power_w = self._within("power", watts, 100_000, "W")
        elif found := _LENGTH.match(word):
            metres = _figure(found.group(1)) * (_M_PER_FT if found.group(2).lower() == "ft" else 1)
            self._length_m = round(self._within("length", metres, 5000, "m"), 2)
        elif (found := _LINE.match(word)) or (found := _LINES.match(word)):
            self._lines = self._said_lines(found)
        elif word.lower() in ("continuous", "spread"):
            self._continuous, self._spread = word.lower() == "continuous", word.lower() == "spread"
        elif found := _CURRENT.match(word):
            self._current_a = self._within("current", _figure(found.group(1)), 400, "A")
        elif found := _FACTOR.match(word):
            self._factor = self._within("power factor", _figure(found.group(1)), 1, "")
        elif (method := self._method_of(word)) is not None:
            self._method = method
        else:
            self._name.append(word)

    def _said_lines(self, found: re.Match[str]) -> tuple[Line, ...]:
        held = LINES[: self._job.supply.phases]
        if found.re is _LINE:
            wanted: tuple[Line, ...] = (LINES[int(found.group(1)) - 1],)
        else:
            count = int(found.group(1)) if found.group(1) else {"two": 2, "three": 3}[found.group(2).lower()]
            wanted = LINES[:count]
        if not set(wanted) <= set(held):
            raise EntryNotUnderstood(self._text, f"The supply has no {' and '.join(wanted)}; it has {', '.join(held)}.")
        return wanted

    def _within(self, what: str, value: float, most: float, unit: str) -> float:
        if not 0 < value <= most:
            raise EntryNotUnderstood(
                self._text, f"A {what} of {value:g} {unit} cannot be; it has to be over 0 and at most {most:g} {unit}."
            )
        return value

    def _method_of(self, word: str) -> str | None:
        for method in self._rules.factors.methods.values():
            if word.lower() in method.entry_words:
                return method.id
        return None

    def _chosen_method(self) -> str:
        if self._method is None:
            method = self._rules.factors.methods[self._rules.default_method]
            self._assumed.append(f"method {method.id}: {method.title.lower()}")
            return method.id
        return self._method

    def _power_factor(self, use: _Use) -> float | None:
        if self._factor is not None:
            return self._factor
        if use.power_factor is not None and use.power_factor != 1.0:
            self._assumed.append(f"power factor {use.power_factor:g}, a habit with no source: read the label")
        return use.power_factor

    def _unknown(self, name: str) -> str:
        known = ", ".join(use.words[0] for use in _USES)
        if not name:
            return f"The line says how much and how far, but not what for. Known words: {known}."
        return f"'{name}' names nothing that is known here. Use one of: {known}; the rest of the name is yours."


def _use_of(name: str) -> _Use | None:
    lowered = f" {name.lower()} "
    found = [(len(word), use) for use in _USES for word in use.words if re.search(rf"\b{re.escape(word)}s?\b", lowered)]
    return max(found, key=lambda match: match[0])[1] if found else None


def use_of(name: str) -> tuple[LoadKind, CircuitKind, float | None] | None:
    """What a name's words mean: the kind of load, the circuit it makes, a power factor where custom has one; None where no word of
    it is known.

    >>> use_of("Downlights, bath"), use_of("Thing")
    (('lamp', 'lighting', 0.9), None)
    """
    found = _use_of(name)
    return (found.load, found.circuit, found.power_factor) if found else None


def _figure(text: str) -> float:
    return float(text.replace(",", "."))


def free_circuit_id(job: Job) -> str:
    """An id that no circuit of the job has yet."""
    taken = {circuit.id for circuit in job.circuits}
    return next(name for number in range(1, len(taken) + 2) if (name := f"c{number}") not in taken)
