"""What changed between two documents, in words an electrician would use."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel

from vivid_lattice.core.document.base import Auto, is_auto
from vivid_lattice.core.document.board_build import BoardBuild
from vivid_lattice.core.document.existing_board import Survey
from vivid_lattice.core.document.inspection import Inspection
from vivid_lattice.core.document.job import Board, Cable, Circuit, Device, Job, Prices, Section
from vivid_lattice.core.document.readings import Testing
from vivid_lattice.core.messages import Joined, Message, Text, message

#: Fields that are told with their values, and their units.
_SUPPLY_UNITS = {
    "system": "",
    "nominal_v": "V",
    "ze_ohm": "Ω",
    "ze_source": "",
    "fault_current_ka": "kA",
    "fault_current_source": "",
    "phases": "",
    "fault_current_lines_ka": "kA",
}
_SECTION_UNITS = {
    "length_m": "m",
    "method": "",
    "ambient_c": "°C",
    "circuits_grouped": "",
    "grouping": "",
    "in_insulation_mm": "mm",
    "soil_k_m_per_w": "K·m/W",
}
#: Fields of which only that they changed is told.
_SUPPLY_PARTS = (
    "transformer", "service_cable", "electrode", "earthing", "prerequisites", "demand", "looped", "meter_a", "request",
)  # fmt: skip
_BOARD_PARTS = ("spds", "voltage_relay", "control_gear", "tap", "earthing", "busbar_a", "standby")
_BUILD_PARTS = (
    "mounting",
    "layout_preferences",
    "busbar_stock",
    "wiring_defaults",
    "labels",
    "neutral_connections",
)


def differences(old: Job, new: Job) -> list[Text]:
    """Everything that differs, one short sentence each (as 'Kiln: 6 → 10 mm²'); nothing where they are the same."""
    texts: list[Text] = [*_fields("job", old.job, new.job), *_fields("settings", old.settings, new.settings)]
    texts += [*_fields("documents", old.work_details, new.work_details), *_prices(old.prices, new.prices)]
    texts += [*_supply(old, new), *_by_id("room", old.rooms, new.rooms)]
    texts += [*_boards(old, new), *_circuits(old, new), *_survey(old.survey, new.survey)]
    if old.accepted_advice != new.accepted_advice:
        texts.append(message(None, "core.change.accepted_advice"))
    if old.surge != new.surge:
        texts.append(message(None, "core.change.surge"))
    texts += [*_testing(old.testing, new.testing), *_inspection(old.inspection, new.inspection)]
    if old.families != new.families:
        texts.append(message(None, "core.change.families"))
    return list(dict.fromkeys(texts))


def _inspection(old: Inspection, new: Inspection) -> Iterator[Text]:
    """Observations, signatures, and what else the report states."""
    if old.observations != new.observations:
        yield message(None, "core.change.report_observations", n=len(new.observations))
    if old.signatures != new.signatures:
        signed = {each.role for each in new.signatures} - {each.role for each in old.signatures}
        yield message(None, "core.change.signed" if signed else "core.change.signature")
    same = {"observations": (), "signatures": ()}
    if old.model_copy(update=same) != new.model_copy(update=same):
        yield message(None, "core.change.report_details")


def _testing(old: Testing, new: Testing) -> Iterator[Text]:
    """Readings that were added or corrected, instruments, the temperature of the day."""
    before = {reading.id for reading in old.readings}
    added = [reading for reading in new.readings if reading.id not in before]
    corrected = sum(reading.replaces is not None for reading in added)
    if len(added) > corrected:
        yield message(None, "core.change.readings_added", n=len(added) - corrected)
    if corrected:
        yield message(None, "core.change.readings_corrected", n=corrected)
    after = {reading.id for reading in new.readings} | {reading.replaces for reading in added}
    if removed := len(before - after):
        yield message(None, "core.change.readings_removed", n=removed)
    kept = {reading.id: reading for reading in old.readings}
    if any(kept[reading.id] != reading for reading in new.readings if reading.id in kept):
        yield message(None, "core.change.readings_corrected", n=1)
    if old.isolation != new.isolation:
        yield message(None, "core.change.isolation", n=len(new.isolation))
    if old.instruments != new.instruments:
        yield message(None, "core.change.instruments")
    if old.temperature_c != new.temperature_c:
        yield message(None, "core.change.test_temperature", change=_change(old.temperature_c, new.temperature_c, "°C"))


def in_words(old: Job, new: Job, most: int = 3) -> Text:
    """The differences as one line for a history: the first few, and how many more."""
    texts = differences(old, new)
    if not texts:
        return message(None, "core.change.none")
    return message(None, "core.change.first", list=Joined.of(texts[:most]), n=max(0, len(texts) - most))


def _fields(name: str, old: BaseModel, new: BaseModel) -> Iterator[Text]:
    for field in type(old).model_fields:
        was, now = getattr(old, field), getattr(new, field)
        if was != now:
            label = field.replace("_", " ")
            if isinstance(now, str) and len(now) > 40:
                yield message(None, "core.change.long", part=message(None, f"core.change.part.{name}"), field=label)
            else:
                yield message(None, "core.change.field", field=label, change=_change(was, now))


def _supply(old: Job, new: Job) -> Iterator[Text]:
    for field, unit in _SUPPLY_UNITS.items():
        was, now = getattr(old.supply, field), getattr(new.supply, field)
        if was != now:
            yield message(None, f"core.change.supply.{field}", change=_change(was, now, unit))
    for field in _SUPPLY_PARTS:
        if getattr(old.supply, field) != getattr(new.supply, field):
            yield message(None, f"core.change.supply.{field}")
    if old.supply.cutout != new.supply.cutout:
        yield message(None, "core.change.cutout", change=_arrow(_cutout(old), _cutout(new)))
    if old.supply.tails != new.supply.tails:
        yield message(None, "core.change.tails", change=_arrow(_tails(old), _tails(new)))


def _prices(old: Prices, new: Prices) -> Iterator[Text]:
    yield from _fields("prices", old.model_copy(update=_NO_LISTS), new.model_copy(update=_NO_LISTS))
    if old.cables != new.cables:
        yield message(None, "core.change.cable_prices", n=str(len(new.cables)))
    if old.devices != new.devices:
        yield message(None, "core.change.device_prices", n=str(len(new.devices)))


_NO_LISTS: dict[str, Any] = {"cables": (), "devices": ()}


def _cutout(job: Job) -> Text:
    return f"{job.supply.cutout.rating_a:g} A {job.supply.cutout.kind}" if job.supply.cutout else _none()


def _tails(job: Job) -> Text:
    tails = job.supply.tails
    if tails is None:
        return _none()
    length = f", {tails.length_m:g} m" if tails.length_m is not None else ""
    size = f"{tails.area_mm2:g} mm²{f' {tails.material}' if tails.material else ''}{length}"
    if tails.device is None:
        return size
    return message(None, "core.change.switch_fuse", size=size, a=f"{tails.device.rating_a:g}")


def _by_id(what: str, old: tuple[Any, ...], new: tuple[Any, ...]) -> Iterator[Text]:
    was, now = {item.id: item for item in old}, {item.id: item for item in new}
    for identity, item in now.items():
        if identity not in was:
            yield message(None, "core.change.added", name=item.name)
        elif was[identity].name != item.name:
            yield message(None, "core.change.renamed", change=_arrow(was[identity].name, item.name))
        elif was[identity] != item and what == "room":
            yield message(None, "core.change.floor", name=item.name, change=_change(was[identity].floor, item.floor))
    for identity, item in was.items():
        if identity not in now:
            yield message(None, "core.change.removed", name=item.name)


def _boards(old: Job, new: Job) -> Iterator[Text]:
    yield from _by_id("board", old.boards, new.boards)
    for board in new.boards:
        before = old.find_board(board.id)
        if before is not None and before != board:
            yield from _board(before, board, new)


def _board(old: Board, new: Board, job: Job) -> Iterator[Text]:
    if old.way_count != new.way_count:
        yield _of(new.name, message(None, "core.change.ways", change=_change(old.way_count, new.way_count)))
    if (old.main_switch, old.shared_rcds, old.assembly_ka) != (new.main_switch, new.shared_rcds, new.assembly_ka):
        yield _of(new.name, message(None, "core.change.main"))
    if old.fed_by != new.fed_by:
        yield _of(new.name, message(None, "core.change.feed"))
    for field in _BOARD_PARTS:
        if getattr(old, field) != getattr(new, field):
            yield _of(new.name, message(None, f"core.change.board.{field}"))
    if old.build != new.build:
        yield from (_of(new.name, text) for text in _build(old.build, new.build))
    names = {circuit.id: circuit.name for circuit in job.circuits}
    was = {way.circuit: way for way in old.ways}
    for way in new.ways:
        before = was.get(way.circuit)
        if before is not None and before.number != way.number:
            yield _of(
                names.get(way.circuit, way.circuit),
                message(None, "core.change.way", change=_change(before.number, way.number)),
            )
        elif before is not None and before.rcd != way.rcd:
            yield _of(
                names.get(way.circuit, way.circuit),
                message(None, "core.change.rcd", change=_change(before.rcd, way.rcd)),
            )


def _build(old: BoardBuild, new: BoardBuild) -> Iterator[Text]:
    if old.enclosure != new.enclosure:
        was, now = (enclosure.title if enclosure else None for enclosure in (old.enclosure, new.enclosure))
        if was != now:
            yield message(None, "core.change.enclosure", change=_change(was, now))
        else:
            yield message(None, "core.change.enclosure_size")
    if old.device_positions != new.device_positions:
        before = {spot.device: (spot.row, spot.offset_modules) for spot in old.device_positions}
        moved = [spot for spot in new.device_positions if before.get(spot.device) != (spot.row, spot.offset_modules)]
        if old.device_positions:
            yield message(None, "core.change.moved", n=len(moved))
        else:
            yield message(None, "core.change.laid_out")
    for field in _BUILD_PARTS:
        if getattr(old, field) != getattr(new, field):
            yield message(None, f"core.change.build.{field}")


def _survey(old: Survey, new: Survey) -> Iterator[Text]:
    yield from _by_id("old board", old.boards, new.boards)
    was = {board.id: board for board in old.boards}
    for board in new.boards:
        before = was.get(board.id)
        if before is None or before == board:
            continue
        known, now = ({way.number: way for way in existing_board.ways} for existing_board in (before, board))
        for number in sorted(known.keys() | now.keys()):
            if known.get(number) != now.get(number):
                done = "added" if number not in known else "removed" if number not in now else "changed"
                yield _of(board.name, message(None, f"core.change.existing_way.{done}", n=str(number)))
        if before.observations != board.observations:
            yield _of(board.name, message(None, "core.change.observations"))
        if (
            before.model_copy(update={"ways": board.ways, "observations": board.observations, "name": board.name})
            != board
        ):
            yield _of(board.name, message(None, "core.change.existing_main"))


def _circuits(old: Job, new: Job) -> Iterator[Text]:
    yield from _by_id("circuit", old.circuits, new.circuits)
    was = {circuit.id: circuit for circuit in old.circuits}
    for circuit in new.circuits:
        before = was.get(circuit.id)
        if before is not None and before != circuit:
            yield from (_of(circuit.name, text) for text in _circuit(before, circuit))


def _circuit(old: Circuit, new: Circuit) -> Iterator[Text]:
    if old.kind != new.kind:
        yield _change(old.kind, new.kind)
    if old.cable != new.cable:
        yield _cable(old.cable, new.cable)
    if old.device != new.device:
        yield _arrow(device_text(old.device), device_text(new.device))
    if old.design_current_a != new.design_current_a:
        yield message(None, "core.change.current", change=_change(old.design_current_a, new.design_current_a, "A"))
    if old.run != new.run:
        yield from _run(old.run, new.run)
    if old.lines != new.lines:
        yield message(None, "core.change.lines", change=_change("+".join(old.lines), "+".join(new.lines)))
    if (old.neutral, old.distributed_load, old.use) != (new.neutral, new.distributed_load, new.use):
        yield message(None, "core.change.use")
    if old.earthing != new.earthing:
        yield message(None, "core.change.board.earthing")
    if old.source != new.source:
        yield message(None, "core.change.source")
    if old.clean_earth != new.clean_earth:
        yield message(None, "core.change.clean_earth")
    if old.local_devices != new.local_devices:
        yield message(None, "core.change.local_devices")
    if old.leakage_ma != new.leakage_ma:
        yield message(None, "core.change.leakage", change=_change(old.leakage_ma, new.leakage_ma, "mA"))
    if old.spurs != new.spurs:
        yield message(None, "core.change.spurs")
    if old.loads != new.loads:
        yield message(None, "core.change.loads")
    for field in ("accessories", "preferred", "notes"):
        if getattr(old, field) != getattr(new, field):
            yield message(None, f"core.change.{field}")


def _cable(old: Cable | Auto, new: Cable | Auto) -> Text:
    if isinstance(old, Cable) and isinstance(new, Cable) and old.type == new.type:
        if old.area_mm2 != new.area_mm2:
            return _change(old.area_mm2, new.area_mm2, "mm²")
        return message(None, "core.change.cpc", change=_arrow(_cpc(old), _cpc(new)))
    return _arrow(_cable_text(old), _cable_text(new))


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


def _run(old: tuple[Section, ...], new: tuple[Section, ...]) -> Iterator[Text]:
    if len(old) != len(new):
        yield message(None, "core.change.sections", change=_change(len(old), len(new)))
        return
    for number, (was, now) in enumerate(zip(old, new, strict=True), 1):
        for field, unit in _SECTION_UNITS.items():
            before, after = getattr(was, field), getattr(now, field)
            if before != after:
                text = message(None, f"core.change.section.{field}", change=_change(before, after, unit))
                yield text if len(new) == 1 else message(None, "core.change.section", n=str(number), text=text)


def _of(name: str, text: Text) -> Message:
    """What changed of something that has a name."""
    return message(None, "core.change.of", name=name, text=text)


def _arrow(was: Text, now: Text) -> Message:
    return message(None, "core.change.arrow", was=was, now=now)


def _change(was: object, now: object, unit: str = "") -> Message:
    """A value before and after; the unit is written once, with the later value where there is one."""
    before, after = _value_text(was), _value_text(now)
    if not unit:
        return _arrow(before, after)
    if after == _none():
        return _arrow(message(None, "core.change.value", value=before, unit=unit), after)
    return _arrow(before, message(None, "core.change.value", value=after, unit=unit))


def _value_text(value: object) -> Text:
    if value is None or value == "":
        return _none()
    return f"{value:g}" if isinstance(value, float) else str(value)


def _none() -> Message:
    return message(None, "core.change.nothing")
