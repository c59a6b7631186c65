"""Rows of a table into circuits. A row is taken whole or not at all, and one that is not says why."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import cast, get_args

from pydantic import ValidationError

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.changes import device_text
from vivid_lattice.core.document.energy_source import SourceKind
from vivid_lattice.core.document.job import LINES, RESISTIVE_LOADS, Board, CircuitKind, Job, Line, LoadKind, Way
from vivid_lattice.core.document.local_earthing import OF_POINTS
from vivid_lattice.core.document.rcd import RCD_TYPES
from vivid_lattice.core.document.supply import Curve
from vivid_lattice.core.entry import spelling
from vivid_lattice.core.entry.circuit_line import free_way, read_circuit
from vivid_lattice.core.entry.conductors import ConductorSize, conductor
from vivid_lattice.core.entry.devices import TypedDevice
from vivid_lattice.core.entry.earth_words import EarthWord, earth_word
from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.entry.parsed_line import ParsedLine, TypedLoad
from vivid_lattice.core.entry.rooms import NamedRoom, named_room
from vivid_lattice.core.entry.source_words import source_kind
from vivid_lattice.core.entry.tables import local_devices
from vivid_lattice.core.entry.tables.columns import FIELDS, cell_of, number_in
from vivid_lattice.core.entry.tables.rows import ReadRow, ReadRows, RowProblem, filled, read_rows
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.job_file import checked, problems_of
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.protocol import DeviceKind, RuleSet
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import M_PER_FT

_TITLES = {other_field.id: other_field.title for other_field in FIELDS}
#: Loads that never draw so little [W]: such a figure was meant in kilowatts.
_STRONG = RESISTIVE_LOADS | {"charger", "air-conditioner", "dryer", "welder"}
#: Below this a figure in watts is one in kilowatts: no such load of a dwelling draws less.
_LIKELY_KW = 60.0
#: What a circuit of a kind feeds, where its name says nothing; and the kind of circuit of a load.
_LOADS_OF_KIND: Mapping[CircuitKind, LoadKind] = {"ring": "socket", "radial": "socket", "lighting": "lamp"}
_CIRCUITS_OF_LOAD: Mapping[LoadKind, CircuitKind] = {"socket": "radial", "lamp": "lighting"}


#: Earths of a circuit's points as the document names them, in words of a typed line.
_EARTH_WORDS: Mapping[str, tuple[EarthWord, ...]] = {
    "electrode": ("electrode",),
    "exported-and-electrode": ("exported", "electrode"),
}
_YES_NO: Mapping[str, bool] = {"yes": True, "y": True, "true": True, "no": False, "n": False, "false": False}


def read_circuits(job: Job, rows: Sequence[Sequence[str]], mapping: Mapping[str, int], first_row: int = 2) -> ReadRows:
    """Every row tried, one after another. The job given is left as it was.

    mapping  field id to column, as ``matched`` finds it
    """
    read: list[ReadRow] = []
    for number, row in filled(rows, first_row):
        reader = _Row(job=job, rules=rule_set(job.job.rules), row=row, mapping=mapping)
        grown = reader.added()
        read.append(
            ReadRow(
                number=number,
                name=reader.text("name"),
                text=reader.description,
                problems=tuple(reader.problems),
                assumed=tuple(reader.assumed),
            )
        )
        job = grown or job
    return read_rows(read, job)


@dataclass(slots=True, kw_only=True)
class _Row:
    job: Job
    rules: RuleSet
    row: Sequence[str]
    mapping: Mapping[str, int]
    problems: list[RowProblem] = field(default_factory=list)
    assumed: list[Text] = field(default_factory=list)
    description: Text = ""

    def text(self, name: str) -> str:
        """The text of a field."""
        return cell_of(self.row, self.mapping, name)

    def added(self) -> Job | None:
        """The job with the row's circuit in its way; None where something is wrong with it."""
        board, way = self._place()
        line = self._line()
        if self.problems or board is None:
            return None
        try:
            read = read_circuit(line, self.job, self.rules)
        except EntryNotUnderstood as why:
            self.problems.append(RowProblem(_TITLES["name"], why.why))
            return None
        except ValidationError as why:
            self.problems += [RowProblem(problem.path, problem.message) for problem in problems_of(why.errors())]
            return None
        self.assumed += read.assumed
        self.problems += [RowProblem(_TITLES["device"], f"'{token.text}': {token.reason}") for token in read.unused]
        if self.problems:
            return None
        if read.board_earthing is not None and self.text("earth"):
            self._wrong("earth", message(None, "core.import.earth_of_board"))
            return None
        circuit = read.circuit
        grown = board.model_copy(update={"ways": (*board.ways, Way(number=way, circuit=circuit.id))})
        boards = tuple(grown if old.id == board.id else old for old in self.job.boards)
        circuits = (*self.job.circuits, circuit)
        try:
            made = checked(self.job.model_copy(update={"rooms": read.rooms, "boards": boards, "circuits": circuits}))
        except BadDocument as bad:
            self.problems += [RowProblem(problem.path, problem.message) for problem in bad.problems]
            return None
        open_cable = message(None, "core.import.cable_open")
        cable: Text = open_cable if is_auto(circuit.cable) else self.rules.cables.size_label(circuit.cable.area_mm2)
        device = message(None, "core.import.device_open") if is_auto(circuit.device) else device_text(circuit.device)
        length = circuit.run[0].length_m
        run: Text = message(None, "core.import.length_open") if length is None else f"{length:g} m"
        self.description = message(
            None, "core.import.row", n=way, board=board.name, kind=circuit.kind, run=run, cable=cable, device=device
        )
        return made

    def _wrong(self, name: str, wrong: Text) -> None:
        self.problems.append(RowProblem(_TITLES.get(name, name), wrong))

    def _number(self, name: str, most: float, *, whole: bool = False) -> float | None:
        text = self.text(name)
        if not text:
            return None
        number = number_in(text)
        if number is None:
            self._wrong(name, message(None, "core.import.not_number", value=_short(text)))
        elif not 0 < number <= most:
            self._wrong(name, message(None, "core.import.range", value=Shown(f"{number:g}"), max=Shown(f"{most:g}")))
        elif whole and number != int(number):
            self._wrong(name, message(None, "core.import.whole", value=Shown(f"{number:g}")))
        else:
            return number
        return None

    # ------------------------------------------------------------------------------------------------ place

    def _place(self) -> tuple[Board | None, int]:
        named = self.text("board")
        boards = self.job.boards
        if not boards:
            self._wrong("board", message(None, "core.import.no_board"))
            return None, 0
        target = _named_board(boards, named) if named else boards[0]
        if target is None:
            self._wrong(
                "board",
                message(
                    None,
                    "core.import.unknown_board",
                    text=_short(named),
                    list=", ".join(board.name for board in boards),
                ),
            )
            return None, 0
        wanted = self._number("way", 200, whole=True)
        if wanted is None:
            number = free_way(target)
            if number is None:
                self._wrong("way", message(None, "core.entry.circuit.full", board=target.name, n=target.way_count))
            return target, number or 0
        number = int(wanted)
        if any(way.number == number for way in target.ways):
            self._wrong("way", message(None, "core.import.way_used", n=number, board=target.name))
        elif number > target.way_count:
            self._wrong(
                "way", message(None, "core.import.way_range", m=number, board=target.name, n=int(target.way_count))
            )
        return target, number

    # ------------------------------------------------------------------------------------------------ circuit

    def _name(self) -> str:
        name = self.text("name")
        if not name:
            self._wrong("name", message(None, "core.import.name_empty"))
        elif len(name) > 120:
            self._wrong("name", message(None, "core.import.name_long", n=len(name)))
        return name

    def _line(self) -> ParsedLine:
        """The row as the line it would be typed as: what its name states, and each other column over it."""
        name = self._name()
        line = parse_line(name[:120], self.rules, self.job.rooms, kind="name")
        if not self._says_more(line):
            line.name, line.name_given = name[:120], True
        self._set_source(line)
        line.kind = self._kind(line)
        self._set_load(line)
        line.current_a = self._number("current_a", 400) or line.current_a
        line.power_factor = self._number("power_factor", 1) or line.power_factor
        line.room = self._room() or line.room
        line.lines = self._lines() or line.lines
        line.length_m = self._length() if self.text("length_m") else line.length_m
        line.method = self._method() or line.method
        self._set_cable(line)
        self._set_device(line)
        self._set_local_devices(line)
        self._set_earth(line)
        if notes := self.text("notes")[:4000]:
            line.notes = [*line.notes, notes]
        return line

    @staticmethod
    def _says_more(line: ParsedLine) -> bool:
        """Whether the name's cell states a rating, a size, a length or a power too."""
        given = (line.device.rating_a, line.conductor, line.length_m, *(load.power_w for load in line.loads))
        return any(value is not None for value in given)

    def _kind(self, line: ParsedLine) -> CircuitKind | None:
        text = self.text("kind").lower()
        if text in get_args(CircuitKind):
            return cast(CircuitKind, text)
        if text:
            self._wrong(
                "kind", message(None, "core.import.kind", text=_short(text), list=", ".join(get_args(CircuitKind)))
            )
        elif not line.loads and line.source is None and not (self.text("load") or self.text("source")):
            self._wrong(
                "kind",
                message(None, "core.import.kind_needed", list=", ".join(get_args(CircuitKind))),
            )
        return None

    def _power(self) -> float | None:
        """Power [W] from either of its columns; a unit in the cell goes before the column's."""
        watts = self._number("power_w", 100_000)
        kilowatts = self._number("power_kw", 100)
        if watts is not None and re.search(r"kw\s*$", self.text("power_w").lower()):
            watts = 1000 * watts
        if watts is not None and kilowatts is not None and abs(watts - 1000 * kilowatts) > 1:
            self._wrong(
                "power_kw", message(None, "core.import.power_twice", kw=Shown(f"{kilowatts:g}"), w=Shown(f"{watts:g}"))
            )
        return watts if watts is not None else None if kilowatts is None else 1000 * kilowatts

    def _set_source(self, line: ParsedLine) -> None:
        """A source at the end of the circuit, and its output, where columns of their own state them."""
        text = self.text("source").lower()
        if text:
            named = text if text in get_args(SourceKind) else source_kind(text.split())
            if named is None or named == "generator":
                known = ", ".join(kind for kind in get_args(SourceKind) if kind != "generator")
                self._wrong("source", message(None, "core.import.source", text=_short(text), list=known))
            else:
                line.source = cast(SourceKind, named)
        output_a = self._number("source_a", 400)
        if output_a is not None and line.source is None:
            self._wrong("source_a", message(None, "core.import.source_needed"))
        line.source_a = output_a

    def _set_load(self, line: ParsedLine) -> None:
        """The load, its number and its power, where columns of their own state them."""
        watts, count = self._power(), self._number("count", 500, whole=True)
        named = self._named_load(line)
        if named is not None:
            line.loads = [named]
        elif not line.loads and line.kind is not None and line.kind in _LOADS_OF_KIND:
            line.loads = [
                TypedLoad(text=[line.name], kind="", load=_LOADS_OF_KIND[line.kind], circuit=line.kind, position=0)
            ]
        if watts is not None and line.source is not None and not line.loads:
            line.source_w = watts
        elif watts is not None:
            drawing = [load for load in line.loads if load.load not in (None, "socket")]
            if drawing:
                drawing[0].power_w = watts
                self._likely(drawing[0], watts)
            elif line.loads and line.loads[0].load is None:
                self._wrong("power_w", message(None, "core.import.feeder_power"))
            elif line.loads:
                self._wrong("power_w", message(None, "core.import.socket_power"))
            elif line.kind != "distribution":
                self._wrong("load", message(None, "core.import.load_needed", list=", ".join(get_args(LoadKind))))
        if count is not None and line.loads:
            line.loads[0].count = int(count)

    def _named_load(self, line: ParsedLine) -> TypedLoad | None:
        text = self.text("load").lower()
        if not text:
            return None
        if text in get_args(LoadKind):
            load = cast(LoadKind, text)
            circuit = line.kind or _CIRCUITS_OF_LOAD.get(load, "fixed")
            return TypedLoad(text=[line.name], kind="", load=load, circuit=circuit, position=0)
        named = parse_line(text, self.rules, kind="name").loads
        if not named:
            self._wrong(
                "load", message(None, "core.import.load", text=_short(text), list=", ".join(get_args(LoadKind)))
            )
            return None
        named[0].text = [line.name]
        return named[0]

    def _likely(self, load: TypedLoad, watts: float) -> None:
        if watts < _LIKELY_KW and load.load in _STRONG:
            self._wrong(
                "power_w",
                message(None, "core.import.power_odd", w=Shown(f"{watts:g}"), load=load.load),
            )

    def _room(self) -> NamedRoom | None:
        text = self.text("room")
        return named_room(text, self.job.rooms) if text else None

    def _lines(self) -> tuple[Line, ...]:
        text = self.text("lines").upper().replace(" ", "")
        if not text or self.job.supply.phases == 1:
            return ()
        if text in ("3", "3PH", "L1L2L3", "TP", "TPN"):
            return LINES
        lines = tuple(dict.fromkeys(re.findall(r"L[123]", text)))
        if not lines:
            self._wrong("lines", message(None, "core.import.line", text=_short(text)))
        return cast("tuple[Line, ...]", lines)

    # ------------------------------------------------------------------------------------------------ run, cable, device

    def _length(self) -> float | None:
        length = self._number("length_m", 16_400 if "ft" in self.text("length_m").lower() else 5000)
        if length is None:
            return None
        return round(length * M_PER_FT, 2) if "ft" in self.text("length_m").lower() else length

    def _method(self) -> str | None:
        text, methods = self.text("method"), self.rules.factors.methods
        if not text:
            return None
        method_id = next(
            (
                method.id
                for method in methods.values()
                if text.lower() in (method.id.lower(), method.title.lower(), method.short.lower())
            ),
            None,
        )
        method_id = method_id or parse_line(text, self.rules, kind="name").method
        if method_id is None:
            self._wrong("method", message(None, "core.import.method", text=_short(text), list=", ".join(methods)))
        return method_id

    def _set_cable(self, line: ParsedLine) -> None:
        text, size, kinds = self.text("cable"), self.text("size_mm2"), self.rules.cables.kinds
        if text.lower() == "auto":
            line.conductor, line.cable = None, None
            return
        if text:
            named = next((kind.id for kind in kinds.values() if text.lower() == kind.title.lower()), None)
            line.cable = named or parse_line(text, self.rules, kind="name").cable
            if line.cable is None:
                self._wrong("cable", message(None, "core.import.cable", text=_short(text), list=", ".join(kinds)))
        if size:
            inches = customary(self.rules.id).inch_mm2
            line.conductor = (
                conductor(spelling.plain(size), self.rules, inches)
                or self._labelled(size)
                or (ConductorSize(area_mm2=area) if (area := self._number("size_mm2", 400)) else None)
            )
        kind = kinds.get(line.cable or "", kinds[self.rules.default_cable])
        if size and line.conductor is not None and line.conductor.area_mm2 not in kind.sizes_mm2:
            self._wrong(
                "size_mm2",
                message(None, "core.import.size", cable=kind.title, size=Shown(f"{line.conductor.area_mm2:g}")),
            )

    def _labelled(self, text: str) -> ConductorSize | None:
        """A size by the name that the standard gives it (``12`` for 12 AWG)."""
        sizes = (size for kind in self.rules.cables.kinds.values() for size in kind.sizes)
        area = next((size.area_mm2 for size in sizes if size.label.lower() == text.lower()), None)
        return ConductorSize(area_mm2=area) if area is not None else None

    def _set_device(self, line: ParsedLine) -> None:
        """A device from its own columns, or from words such as 'B32 RCBO 30 mA A'."""
        text = self.text("device")
        if text.lower() == "auto":
            line.device = TypedDevice()
            return
        if text:
            read = parse_line(text, self.rules, kind="name").device
            if not (read.typed or read.rating_a or read.rcd_ma):
                self._wrong(
                    "device",
                    message(None, "core.import.device", text=_short(text), list=", ".join(self.rules.devices.kinds)),
                )
                return
            line.device = read
        device = line.device
        device.rating_a = self._number("rating_a", 400) or device.rating_a
        device.rcd_ma = self._number("rcd_ma", 1000) or device.rcd_ma
        device.breaking_ka = self._number("breaking_ka", 100) or device.breaking_ka
        device.modules = self._number("modules", 12) or device.modules
        device.switches_neutral = self._yes_no("switches_neutral", device.switches_neutral)
        self._set_letters(device)

    def _yes_no(self, name: str, otherwise: bool | None) -> bool | None:
        text = self.text(name).casefold()
        if text and text not in _YES_NO:
            self._wrong(name, message(None, "core.import.yes_no", value=_short(text)))
        return _YES_NO.get(text, otherwise)

    def _set_local_devices(self, line: ParsedLine) -> None:
        if not (text := self.text("local_devices")):
            return
        try:
            line.local_devices = local_devices.read(text)
        except EntryNotUnderstood as why:
            self._wrong("local_devices", why.why)
        except ValidationError as why:
            self._wrong("local_devices", problems_of(why.errors())[0].message)

    def _set_earth(self, line: ParsedLine) -> None:
        """Where the earth of its points comes from, as the document names it or as people say it."""
        text = self.text("earth").casefold()
        if text in _EARTH_WORDS:
            line.earth = list(_EARTH_WORDS[text])
        elif text:
            found = earth_word(text.split(), self.rules)
            if found is None or found[1] == "open-pen":
                known = ", ".join(sorted(OF_POINTS))
                self._wrong("earth", message(None, "core.import.earth", text=_short(text), list=known))
            else:
                line.earth = [found[1]]
        ohm = self._number("electrode_ohm", 5000)
        if ohm is not None and "electrode" not in line.earth:
            self._wrong("electrode_ohm", message(None, "core.import.electrode_needed"))
        line.electrode_ohm = ohm or line.electrode_ohm

    def _set_letters(self, device: TypedDevice) -> None:
        """The characteristic and the type of the RCD, each a letter with or without 'type' before it."""
        if curve := self.text("curve").upper().removeprefix("TYPE").strip():
            if curve in get_args(Curve):
                device.curve = cast(Curve, curve)
            else:
                self._wrong("curve", message(None, "core.import.curve", curve=_short(curve)))
        if kind := self.text("rcd_type").upper().removeprefix("TYPE").strip():
            if kind in RCD_TYPES:
                device.rcd_type = kind
            else:
                self._wrong("rcd_type", message(None, "core.import.type", text=_short(kind)))


def kind_in(text: str, kinds: Mapping[str, DeviceKind]) -> DeviceKind | None:
    """The kind of device that a text names: by its id, its title or its short name, the longest first."""
    names = [(name.lower(), kind) for kind in kinds.values() for name in (kind.id, kind.title, kind.short)]
    for name, kind in sorted(names, key=lambda pair: -len(pair[0])):
        if re.search(rf"(?<![a-z0-9]){re.escape(name)}(?![a-z0-9])", text):
            return kind
    return None


def _short(text: str) -> str:
    return text if len(text) <= 40 else f"{text[:40]}…"


def _named_board(boards: Sequence[Board], name: str) -> Board | None:
    return next((board for board in boards if name.lower() in (board.name.lower(), board.id)), None)
