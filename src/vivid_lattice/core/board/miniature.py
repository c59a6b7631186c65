"""A board in miniature: its rows of devices as plain boxes, to tell one job from another at a glance."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.errors import NeedsInput

#: Modules in a row of a board without an enclosure, as it is drawn. Common practice, no source.
_MODULES_IN_A_ROW = 14.0


@dataclass(frozen=True, slots=True, kw_only=True)
class MiniatureBox:
    """A device: its row from 1, where it begins in it and how wide it is [modules], and its circuit; '' where it has none."""

    row: int
    start: float
    wide: float
    circuit: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Miniature:
    """A board: its rows, the modules in each, and its devices. ``laid_out``: as they are placed; else one after the other."""

    board: str
    name: str
    rows: int
    modules: float
    laid_out: bool
    boxes: tuple[MiniatureBox, ...]


def miniature_of(model: BoardModel) -> Miniature:
    """A board in miniature, as it is laid out; while it has no enclosure, its devices in a row."""
    try:
        places = model.places
    except NeedsInput:
        return _in_a_row(model)
    boxes = [_box(placed.unit, placed.row, placed.offset_modules) for placed in places.in_order() if placed.row > 0]
    enclosure = places.enclosure
    return Miniature(
        board=model.board.id,
        name=model.board.name,
        rows=enclosure.rows,
        modules=float(enclosure.modules),
        laid_out=True,
        boxes=tuple(boxes),
    )


def _in_a_row(model: BoardModel) -> Miniature:
    boxes: list[MiniatureBox] = []
    row, start = 1, 0.0
    for unit in model.units.all:
        if boxes and start + unit.wide > _MODULES_IN_A_ROW:
            row, start = row + 1, 0.0
        boxes.append(_box(unit, row, start))
        start += unit.wide
    return Miniature(
        board=model.board.id,
        name=model.board.name,
        rows=row,
        modules=_MODULES_IN_A_ROW,
        laid_out=False,
        boxes=tuple(boxes),
    )


def _box(unit: BoardDevice, row: int, start: float) -> MiniatureBox:
    return MiniatureBox(row=row, start=start, wide=unit.wide, circuit=unit.circuit.id if unit.circuit else "")
