"""What changed between two documents, in words an electrician would use."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel

from vivid_lattice.core.document.base import Auto, is_auto
from vivid_lattice.core.document.board_build import BoardBuild
from vivid_lattice.core.document.existing_board import Survey
from vivid_lattice.core.document.job import Board, Cable, Circuit, Device, Job, Prices, Section

_SUPPLY_WORDS = {
    "system": ("system", ""),
    "nominal_v": ("nominal voltage", "V"),
    "ze_ohm": ("Ze", "Ω"),
    "ze_source": ("Ze is", ""),
    "fault_current_ka": ("fault current", "kA"),
    "fault_current_source": ("fault current is", ""),
    "phases": ("phases", ""),
    "fault_current_lines_ka": ("fault current between lines", "kA"),
}
_SUPPLY_PARTS = {
    "transformer": "Transformer",
    "service_cable": "Service cable",
    "electrode": "Earth electrode",
    "earthing": "Earthing and bonding",
    "prerequisites": "Prerequisites of a larger service",
}
_BOARD_PARTS = {
    "spds": "surge protection",
    "voltage_relay": "voltage relay",
    "control_gear": "control gear",
    "tap": "its feed",
}
_HOUSING_PARTS = {
    "mounting": "where it hangs",
    "layout_preferences": "wishes",
    "busbar_stock": "the comb at hand",
    "wiring_defaults": "habits of wiring",
    "labels": "labels",
    "neutral_connections": "bars of neutrals",
}
_SECTION_WORDS = {
    "length_m": ("", "m"),
    "method": ("method", ""),
    "ambient_c": ("ambient", "°C"),
    "circuits_grouped": ("grouped", ""),
    "grouping": ("grouping", ""),
    "in_insulation_mm": ("in insulation", "mm"),
    "soil_k_m_per_w": ("soil", "K·m/W"),
}


def differences(old: Job, new: Job) -> list[str]:
    """Everything that differs, one short sentence each (as 'Kiln: 6 → 10 mm²'); nothing where they are the same."""
    texts = [*_fields("job", old.job, new.job), *_fields("settings", old.settings, new.settings)]
    texts += [*_fields("papers", old.work_details, new.work_details), *_prices(old.prices, new.prices)]
    texts += [*_supply(old, new), *_by_id("room", old.rooms, new.rooms)]
    texts += [*_boards(old, new), *_circuits(old, new), *_survey(old.survey, new.survey)]
    if old.surge != new.surge:
        texts.append("Need for surge protection changed")
    if old.families != new.families:
        texts.append("Own device families changed")
    return list(dict.fromkeys(texts))


def in_words(old: Job, new: Job, most: int = 3) -> str:
    """The differences as one line for a history: the first few, and how many more."""
    texts = differences(old, new)
    if not texts:
        return "nothing changed"
    more = f"; and {len(texts) - most} more" if len(texts) > most else ""
    return "; ".join(texts[:most]) + more


def _fields(name: str, old: BaseModel, new: BaseModel) -> Iterator[str]:
    for field in type(old).model_fields:
        was, now = getattr(old, field), getattr(new, field)
        if was != now:
            label = field.replace("_", " ")
            yield (
                f"{name} {label} changed"
                if isinstance(now, str) and len(now) > 40
                else f"{label}: {_value_text(was)} → {_value_text(now)}"
            )


def _supply(old: Job, new: Job) -> Iterator[str]:
    for field, (label, unit) in _SUPPLY_WORDS.items():
        was, now = getattr(old.supply, field), getattr(new.supply, field)
        if was != now:
            yield f"Supply {label}: {_change(was, now, unit)}"
    for field, label in _SUPPLY_PARTS.items():
        if getattr(old.supply, field) != getattr(new.supply, field):
            yield f"{label} changed"
    if old.supply.cutout != new.supply.cutout:
        yield f"Cut-out: {_cutout(old)} → {_cutout(new)}"
    if old.supply.tails != new.supply.tails:
        yield f"Tails: {_tails(old)} → {_tails(new)}"


def _prices(old: Prices, new: Prices) -> Iterator[str]:
    yield from _fields("prices", old.model_copy(update=_NO_LISTS), new.model_copy(update=_NO_LISTS))
    for what, was, now in (("cables", old.cables, new.cables), ("devices", old.devices, new.devices)):
        if was != now:
            yield f"Prices of {what} changed ({len(now)} in the list)"


_NO_LISTS: dict[str, Any] = {"cables": (), "devices": ()}


def _cutout(job: Job) -> str:
    return f"{job.supply.cutout.rating_a:g} A {job.supply.cutout.kind}" if job.supply.cutout else "none"


def _tails(job: Job) -> str:
    tails = job.supply.tails
    if tails is None:
        return "none"
    length = f", {tails.length_m:g} m" if tails.length_m is not None else ""
    switch_fuse = f", {tails.device.rating_a:g} A beside the meter" if tails.device else ""
    return f"{tails.area_mm2:g} mm²{f' {tails.material}' if tails.material else ''}{length}{switch_fuse}"


def _by_id(what: str, old: tuple[Any, ...], new: tuple[Any, ...]) -> Iterator[str]:
    was, now = {item.id: item for item in old}, {item.id: item for item in new}
    for identity, item in now.items():
        if identity not in was:
            yield f"{item.name} added"
        elif was[identity].name != item.name:
            yield f"{was[identity].name} is now called {item.name}"
        elif was[identity] != item and what == "room":
            yield f"{item.name}: floor {_value_text(was[identity].floor)} → {_value_text(item.floor)}"
    for identity, item in was.items():
        if identity not in now:
            yield f"{item.name} taken out"


def _boards(old: Job, new: Job) -> Iterator[str]:
    yield from _by_id("board", old.boards, new.boards)
    for board in new.boards:
        before = old.find_board(board.id)
        if before is not None and before != board:
            yield from _board(before, board, new)


def _board(old: Board, new: Board, job: Job) -> Iterator[str]:
    if old.way_count != new.way_count:
        yield f"{new.name}: {old.way_count} → {new.way_count} ways"
    if (old.main_switch, old.shared_rcds, old.assembly_ka) != (new.main_switch, new.shared_rcds, new.assembly_ka):
        yield f"{new.name}: main switch, RCDs or rating changed"
    if old.fed_by != new.fed_by:
        yield f"{new.name}: fed from elsewhere"
    for field, words in _BOARD_PARTS.items():
        if getattr(old, field) != getattr(new, field):
            yield f"{new.name}: {words} changed"
    if old.build != new.build:
        yield from (f"{new.name}: {words}" for words in _housing(old.build, new.build))
    names = {circuit.id: circuit.name for circuit in job.circuits}
    was = {way.circuit: way for way in old.ways}
    for way in new.ways:
        before = was.get(way.circuit)
        if before is not None and before.number != way.number:
            yield f"{names.get(way.circuit, way.circuit)}: way {before.number} → {way.number}"
        elif before is not None and before.rcd != way.rcd:
            yield f"{names.get(way.circuit, way.circuit)}: RCD {_value_text(before.rcd)} → {_value_text(way.rcd)}"


def _housing(old: BoardBuild, new: BoardBuild) -> Iterator[str]:
    if old.enclosure != new.enclosure:
        was, now = (enclosure.title if enclosure else "none" for enclosure in (old.enclosure, new.enclosure))
        yield f"enclosure {was} → {now}" if was != now else "the enclosure's measures changed"
    if old.device_positions != new.device_positions:
        before = {spot.device: (spot.row, spot.offset_modules) for spot in old.device_positions}
        moved = [spot for spot in new.device_positions if before.get(spot.device) != (spot.row, spot.offset_modules)]
        count = f"{len(moved)} device{'' if len(moved) == 1 else 's'}"
        yield f"{count} moved" if old.device_positions else "laid out"
    for field, words in _HOUSING_PARTS.items():
        if getattr(old, field) != getattr(new, field):
            yield f"{words} changed"


def _survey(old: Survey, new: Survey) -> Iterator[str]:
    yield from _by_id("old board", old.boards, new.boards)
    was = {board.id: board for board in old.boards}
    for board in new.boards:
        before = was.get(board.id)
        if before is None or before == board:
            continue
        known, now = ({way.number: way for way in existing_board.ways} for existing_board in (before, board))
        for number in sorted(known.keys() | now.keys()):
            if known.get(number) != now.get(number):
                done = "written down" if number not in known else "taken out" if number not in now else "changed"
                yield f"{board.name}: way {number} {done}"
        if before.observations != board.observations:
            yield f"{board.name}: what was seen changed"
        if (
            before.model_copy(update={"ways": board.ways, "observations": board.observations, "name": board.name})
            != board
        ):
            yield f"{board.name}: main switch or material changed"


def _circuits(old: Job, new: Job) -> Iterator[str]:
    yield from _by_id("circuit", old.circuits, new.circuits)
    was = {circuit.id: circuit for circuit in old.circuits}
    for circuit in new.circuits:
        before = was.get(circuit.id)
        if before is not None and before != circuit:
            yield from (f"{circuit.name}: {words}" for words in _circuit(before, circuit))


def _circuit(old: Circuit, new: Circuit) -> Iterator[str]:
    if old.kind != new.kind:
        yield f"{old.kind} → {new.kind}"
    if old.cable != new.cable:
        yield _cable(old.cable, new.cable)
    if old.device != new.device:
        yield f"{device_text(old.device)} → {device_text(new.device)}"
    if old.design_current_a != new.design_current_a:
        yield f"design current {_change(old.design_current_a, new.design_current_a, 'A')}"
    if old.run != new.run:
        yield from _run(old.run, new.run)
    if old.lines != new.lines:
        yield f"lines {_lines(old)} → {_lines(new)}"
    if (old.neutral, old.distributed_load, old.use) != (new.neutral, new.distributed_load, new.use):
        yield "neutral, spread of loads or use changed"
    if old.spurs != new.spurs:
        yield "spurs changed"
    if old.loads != new.loads:
        yield "loads changed"
    if old.notes != new.notes:
        yield "notes changed"


def _lines(circuit: Circuit) -> str:
    return "+".join(circuit.lines) or "not said"


def _cable(old: Cable | Auto, new: Cable | Auto) -> str:
    if isinstance(old, Cable) and isinstance(new, Cable) and old.type == new.type:
        if old.area_mm2 != new.area_mm2:
            return f"{old.area_mm2:g} → {new.area_mm2:g} mm²"
        return f"protective conductor {_cpc(old)} → {_cpc(new)}"
    return f"{_cable_text(old)} → {_cable_text(new)}"


def _cpc(cable: Cable) -> str:
    return f"{cable.cpc_mm2:g} mm²" if cable.cpc_mm2 else cable.cpc


def _cable_text(cable: Cable | Auto) -> str:
    return cable if is_auto(cable) else f"{cable.type} {cable.area_mm2:g} mm²"


def device_text(device: Device | Auto) -> str:
    """A device in words; one that is left to the design as such."""
    if is_auto(device):
        return device
    rcd = f" {device.rcd.idn_ma:g} mA {device.rcd.type}" if device.rcd else ""
    breaking = f" {device.breaking_ka:g} kA" if device.breaking_ka else ""
    return f"{device.kind} {device.curve or ''}{device.rating_a:g}{rcd}{breaking}"


def _run(old: tuple[Section, ...], new: tuple[Section, ...]) -> Iterator[str]:
    if len(old) != len(new):
        yield f"run of {len(old)} → {len(new)} sections"
        return
    for number, (was, now) in enumerate(zip(old, new, strict=True), 1):
        where = f"section {number} " if len(new) > 1 else ""
        for field, (label, unit) in _SECTION_WORDS.items():
            before, after = getattr(was, field), getattr(now, field)
            if before != after:
                yield f"{where}{label} {_change(before, after, unit)}".replace("  ", " ").strip()


def _change(was: object, now: object, unit: str) -> str:
    return f"{_value_text(was)} → {_value_text(now)} {unit}".rstrip()


def _value_text(value: object) -> str:
    if value is None or value == "":
        return "none"
    return f"{value:g}" if isinstance(value, float) else str(value)
