"""Rows of a table into circuits. A row is taken whole or not at all, and one that is not says why."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, get_args

from pydantic import ValidationError

from vivid_lattice.core.document import checked, problems_of
from vivid_lattice.core.entry import free_circuit_id, free_way, use_of
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.history import device_said
from vivid_lattice.core.importing.columns import FIELDS, cell_of, number_in
from vivid_lattice.core.importing.rows import ReadRow, ReadRows, RowProblem, filled, read_rows
from vivid_lattice.core.job import RESISTIVE_LOADS, Board, Circuit, CircuitKind, Job, LoadKind, Way
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import DeviceKind, RuleSet

_TITLES = {one.id: one.title for one in FIELDS}
_M_PER_FT = 0.3048
#: Loads that never draw so little [W]: such a figure was meant in kilowatts.
_STRONG = RESISTIVE_LOADS | {"charger", "air-conditioner", "dryer", "welder"}
_LIKELY_KW = 60.0


def read_circuits(job: Job, rows: Sequence[Sequence[str]], mapping: Mapping[str, int], first_row: int = 2) -> ReadRows:
    """Every row tried, one after another. The job given is left as it was.

    mapping  field id to column, as ``matched`` finds it
    """
    read: list[ReadRow] = []
    for number, row in filled(rows, first_row):
        reader = _Row(job, rule_set(job.job.rules), row, mapping)
        grown = reader.added()
        read.append(ReadRow(number, reader.text("name"), reader.words, tuple(reader.problems), tuple(reader.assumed)))
        job = grown or job
    return read_rows(read, job)


@dataclass(slots=True)
class _Row:
    job: Job
    rules: RuleSet
    row: Sequence[str]
    mapping: Mapping[str, int]
    problems: list[RowProblem] = field(default_factory=list)
    assumed: list[str] = field(default_factory=list)
    words: str = ""

    def text(self, name: str) -> str:
        """The text of a field."""
        return cell_of(self.row, self.mapping, name)

    def added(self) -> Job | None:
        """The job with the row's circuit in its way; None where something is wrong with it."""
        board, way = self._place()
        data = self._data()
        if self.problems or board is None:
            return None
        try:
            circuit = Circuit.model_validate(data)
        except ValidationError as why:
            self.problems += [RowProblem(one.path, one.message) for one in problems_of(why.errors())]
            return None
        grown = board.model_copy(update={"ways": (*board.ways, Way(number=way, circuit=circuit.id))})
        boards = tuple(grown if one.id == board.id else one for one in self.job.boards)
        try:
            made = checked(self.job.model_copy(update={"boards": boards, "circuits": (*self.job.circuits, circuit)}))
        except BadDocument as bad:
            self.problems += [RowProblem(one.path, one.message) for one in bad.problems]
            return None
        cable = "cable to be chosen" if isinstance(circuit.cable, str) else f"{circuit.cable.area_mm2:g} mm²"
        device = "device to be chosen" if isinstance(circuit.device, str) else device_said(circuit.device)
        length = circuit.run[0].length_m
        run = "length not known" if length is None else f"{length:g} m"
        self.words = f"way {way} of {board.name}: {circuit.kind}, {run}, {cable}, {device}"
        return made

    def _wrong(self, name: str, message: str) -> None:
        self.problems.append(RowProblem(_TITLES.get(name, name), message))

    def _number(self, name: str, most: float, *, whole: bool = False) -> float | None:
        text = self.text(name)
        if not text:
            return None
        found = number_in(text)
        if found is None:
            self._wrong(name, f"'{_short(text)}' is no figure")
        elif not 0 < found <= most:
            self._wrong(name, f"{found:g} cannot be: it has to be over 0 and at most {most:g}")
        elif whole and found != int(found):
            self._wrong(name, f"{found:g} is no whole number")
        else:
            return found
        return None

    # ------------------------------------------------------------------------------------------------ place

    def _place(self) -> tuple[Board | None, int]:
        named = self.text("board")
        boards = self.job.boards
        if not boards:
            self._wrong("board", "the job has no board yet; add one first")
            return None, 0
        found = (
            next((one for one in boards if named.lower() in (one.name.lower(), one.id)), None) if named else boards[0]
        )
        if found is None:
            self._wrong(
                "board", f"no board '{_short(named)}' in this job; it has {', '.join(one.name for one in boards)}"
            )
            return None, 0
        wanted = self._number("way", 200, whole=True)
        if wanted is None:
            number = free_way(found)
            if number is None:
                self._wrong("way", f"{found.name} has no free way: all {found.ways_total} are taken")
            return found, number or 0
        number = int(wanted)
        if any(way.number == number for way in found.ways):
            self._wrong(
                "way", f"way {number} of {found.name} is taken; leave the column out and the first free one is used"
            )
        elif number > found.ways_total:
            self._wrong("way", f"{found.name} has {found.ways_total} ways, no way {number}")
        return found, number

    # ------------------------------------------------------------------------------------------------ circuit

    def _data(self) -> dict[str, Any]:
        name = self.text("name")
        if not name:
            self._wrong("name", "is empty; every circuit has a name")
        elif len(name) > 120:
            self._wrong("name", f"has {len(name)} letters; 120 are the most")
        use = use_of(name)
        kind = self._kind(use[1] if use else None)
        return {
            "id": free_circuit_id(self.job),
            "name": name,
            "kind": kind,
            "loads": self._loads(name, kind, use),
            "lines": self._lines(),
            "design_current_a": self._number("current_a", 400),
            "run": ({"length_m": self._length(), "method": self._method()},),
            "cable": self._cable(),
            "device": self._device(),
            "notes": self.text("notes")[:4000],
        }

    def _kind(self, usual: CircuitKind | None) -> str | None:
        text = self.text("kind").lower()
        if text in get_args(CircuitKind):
            return text
        if text:
            self._wrong("kind", f"'{_short(text)}' is no kind of circuit; known: {', '.join(get_args(CircuitKind))}")
        elif usual is None:
            self._wrong(
                "kind",
                "the name says nothing that is known here, so the kind has to be given: "
                + ", ".join(get_args(CircuitKind)),
            )
        else:
            self.assumed.append(f"{usual} circuit, by its name")
            return usual
        return None

    def _power(self) -> float | None:
        """Power [W] from either of its columns; a unit in the cell goes before the column's."""
        watts = self._number("power_w", 100_000)
        kilowatts = self._number("power_kw", 100)
        if watts is not None and re.search(r"kw\s*$", self.text("power_w").lower()):
            watts = 1000 * watts
        if watts is not None and kilowatts is not None and abs(watts - 1000 * kilowatts) > 1:
            self._wrong("power_kw", f"{kilowatts:g} kW and {watts:g} W contradict each other")
        return watts if watts is not None else None if kilowatts is None else 1000 * kilowatts

    def _loads(
        self, name: str, kind: str | None, use: tuple[LoadKind, CircuitKind, float | None] | None
    ) -> tuple[dict[str, Any], ...]:
        power = self._power()
        count, factor, room = self._number("count", 500, whole=True), self._number("power_factor", 1), self._room()
        load = self.text("load").lower() or (use[0] if use else "")
        if load and load not in get_args(LoadKind):
            named = use_of(load)
            if named is None:
                self._wrong("load", f"'{_short(load)}' is no kind of load; known: {', '.join(get_args(LoadKind))}")
                return ()
            load = named[0]
        if kind == "distribution" or not (load or power):
            return ()
        if not load:
            self._wrong("load", "a power is given, but not of what; known: " + ", ".join(get_args(LoadKind)))
            return ()
        if kind in ("ring", "radial") and power is None and count is None and room is None:
            return ()
        if power is not None and power < _LIKELY_KW and load in _STRONG:
            self._wrong(
                "power_w",
                f"{power:g} W for a {load} cannot be meant: match the column to 'Power, kW', or write the unit",
            )
        if factor is None and use is not None and use[0] == load and use[2] not in (None, 1.0):
            factor = use[2]
            self.assumed.append(f"power factor {factor:g}, a habit with no source: read the label")
        return (
            {
                "name": name[:120] or "load",
                "kind": load,
                "power_w": power,
                "count": int(count or 1),
                "power_factor": factor,
                "room": room,
            },
        )

    def _room(self) -> str | None:
        text = self.text("room")
        if not text:
            return None
        found = next((room.id for room in self.job.rooms if text.lower() in (room.name.lower(), room.id)), None)
        if found is None:
            self._wrong(
                "room",
                f"no room '{_short(text)}' in this job: add it under Intake, since its kind decides what is allowed there; or leave the column out",
            )
        return found

    def _lines(self) -> tuple[str, ...]:
        text = self.text("lines").upper().replace(" ", "")
        if not text or self.job.supply.phases == 1:
            return ()
        if text in ("3", "3PH", "L1L2L3", "TP", "TPN"):
            return ("L1", "L2", "L3")
        found = tuple(dict.fromkeys(re.findall(r"L[123]", text)))
        if not found:
            self._wrong("lines", f"'{_short(text)}' names no line; write L1, L2, L3 or L1+L2+L3")
        return found

    # ------------------------------------------------------------------------------------------------ run, cable, device

    def _length(self) -> float | None:
        length = self._number("length_m", 16_400 if "ft" in self.text("length_m").lower() else 5000)
        if length is None:
            if not self.text("length_m"):
                self.assumed.append("length not given: the checks that need it say so")
            return None
        return round(length * _M_PER_FT, 2) if "ft" in self.text("length_m").lower() else length

    def _method(self) -> str:
        text, methods = self.text("method"), self.rules.factors.methods
        if not text:
            self.assumed.append(f"method {self.rules.default_method}, as the school is used to")
            return self.rules.default_method
        found = next(
            (
                one.id
                for one in methods.values()
                if text.lower() in (one.id.lower(), one.title.lower(), one.short.lower(), *one.entry_words)
            ),
            None,
        )
        if found is None:
            self._wrong("method", f"no method '{_short(text)}' in these rules; known: {', '.join(methods)}")
        return found or self.rules.default_method

    def _cable(self) -> str | dict[str, Any]:
        text, kinds = self.text("cable"), self.rules.cables.kinds
        size = self._size(kinds)
        if text.lower() == "auto" or (not text and size is None):
            return "auto"
        found = self.rules.default_cable
        if text:
            named = next(
                (one.id for one in kinds.values() if text.lower() in (one.id, one.title.lower(), one.short.lower())),
                None,
            )
            if named is None:
                self._wrong("cable", f"no cable '{_short(text)}' in these rules; known: {', '.join(kinds)}")
            found = named or found
        else:
            self.assumed.append(f"cable {kinds[found].title}, as the school is used to")
        if size is None:
            if not self.text("size_mm2"):
                self._wrong("size_mm2", "a cable is named, but not its size; or write 'auto' and it is chosen")
            return "auto"
        if size not in kinds[found].sizes_mm2:
            self._wrong("size_mm2", f"{kinds[found].title} is not made in {size:g} mm²")
        cpc = kinds[found].cpc_choices[0]
        return {"type": found, "area_mm2": size, "cpc": cpc}

    def _size(self, kinds: Mapping[str, Any]) -> float | None:
        text = self.text("size_mm2")
        named = next(
            (
                size.area_mm2
                for kind in kinds.values()
                for size in kind.sizes
                if text and size.label.lower() == text.lower()
            ),
            None,
        )
        return named if named is not None else self._number("size_mm2", 400)

    def _device(self) -> str | dict[str, Any]:
        """A device from its own columns, or from words such as 'B32 RCBO 30 mA A'."""
        text, kinds = self.text("device"), self.rules.devices.kinds
        if text.lower() == "auto" or (not text and not self.text("rating_a")):
            return "auto"
        written = re.search(
            r"(?<![a-z\d.])([bcd])?\s?(\d{1,3}(?:\.\d)?)(?!\d)\s*a?(?![\d]*\s*(?:ma|ka))(?![a-z])", text.lower()
        )
        kind = kind_in(text.lower(), kinds)
        rating = self._number("rating_a", 400) or (float(written.group(2)) if written and written.group(2) else None)
        curve = (
            (self.text("curve") or (written.group(1) if written and written.group(1) else ""))
            .upper()
            .removeprefix("TYPE")
            .strip()
        )
        idn = self._number("rcd_ma", 1000) or _figure_before(text, "ma")
        if kind is None:
            usual = [
                one
                for one in kinds.values()
                if one.current and one.action == "breaker" and one.has_rcd == (idn is not None)
            ]
            if text and written is None:
                self._wrong("device", f"no device '{_short(text)}' in these rules; known: {', '.join(kinds)}")
                return "auto"
            if not usual:
                self._wrong("device", "say what kind of device it is")
                return "auto"
            kind = usual[0]
            self.assumed.append(f"{kind.title.lower()}, since no kind of device is given")
        if rating is None:
            self._wrong("rating_a", "a device is named, but not its rating; or write 'auto' and it is chosen")
            return "auto"
        return self._made(kind, rating, curve, idn)

    def _made(self, kind: DeviceKind, rating: float, curve: str, idn: float | None) -> dict[str, Any]:
        if rating not in kind.ratings_a:
            held = ", ".join(f"{one:g}" for one in kind.ratings_a)
            self._wrong("rating_a", f"the {kind.short} comes in {held} A, not in {rating:g} A")
        made: dict[str, Any] = {"kind": kind.id, "rating_a": rating, "breaking_ka": self._number("breaking_ka", 100)}
        if made["breaking_ka"] is None:
            made["breaking_ka"] = _figure_before(self.text("device"), "ka")
        if kind.curves:
            made["curve"] = curve or kind.usual_curve
            if not curve:
                self.assumed.append(f"characteristic {kind.usual_curve}, as usual")
            elif curve not in kind.curves:
                self._wrong(
                    "curve", f"the {kind.short} has no characteristic {_short(curve)}; it has {', '.join(kind.curves)}"
                )
        if kind.has_rcd:
            usual = kind.usual_rcd
            text = self.text("rcd_type").upper().removeprefix("TYPE").strip()
            if idn is None and usual is not None:
                self.assumed.append(f"residual current {usual.idn_ma:g} mA, as usual")
            if text and text not in ("AC", "A", "F", "B"):
                self._wrong("rcd_type", f"'{_short(text)}' is no type; known: AC, A, F, B")
                text = ""
            made["rcd"] = {
                "idn_ma": idn or (usual.idn_ma if usual else 30.0),
                "type": text or (usual.type if usual else "A"),
            }
        elif idn is not None:
            self._wrong(
                "rcd_ma", f"the {kind.short} has no residual-current part; choose another kind, or leave it out"
            )
        return made


def kind_in(text: str, kinds: Mapping[str, DeviceKind]) -> DeviceKind | None:
    """The kind of device that a text names: by its id, its title or its short name, the longest first."""
    names = [(name.lower(), kind) for kind in kinds.values() for name in (kind.id, kind.title, kind.short)]
    for name, kind in sorted(names, key=lambda pair: -len(pair[0])):
        if re.search(rf"(?<![a-z0-9]){re.escape(name)}(?![a-z0-9])", text):
            return kind
    return None


def _figure_before(text: str, unit: str) -> float | None:
    found = re.search(rf"(\d+(?:[.,]\d+)?)\s*{unit}\b", text.lower())
    return float(found.group(1).replace(",", ".")) if found else None


def _short(text: str) -> str:
    return text if len(text) <= 40 else f"{text[:40]}…"
