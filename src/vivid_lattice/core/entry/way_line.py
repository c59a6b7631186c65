"""A typed line as a way of an existing board: ``3 fuse 30 6mm cooker``, ``7 mcb 30 type 2 4mm shower``, ``5 blank``."""

from __future__ import annotations

from vivid_lattice.core.document.existing_board import ExistingBoard, ExistingRcd, ExistingWay
from vivid_lattice.core.entry.devices import device_kind
from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.entry.parsed_line import ParsedLine, unused_text
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.protocol import RuleSet

_EXAMPLE = "3 fuse 30 6mm cooker"


def read_way(rules: RuleSet, board: ExistingBoard, text: str) -> ExistingWay:
    """A way from a typed line, in any order behind its number; without a number it is the next one.

    Raises  EntryNotUnderstood with what is missing or not used, and an example
    """
    if not text.strip():
        raise EntryNotUnderstood(text, message(None, "core.entry.way.empty", example=_EXAMPLE))
    line = parse_line(text, rules, kind="way")
    number = _number(board, line, text)
    if line.unused:
        raise EntryNotUnderstood(text, unused_text(line.unused))
    kind = _kind(rules, line)
    if kind is None:
        raise EntryNotUnderstood(text, message(None, "core.entry.way.no_device", text=text.strip(), example=_EXAMPLE))
    device = line.device
    if not device.empty and device.rating_a is None:
        raise EntryNotUnderstood(text, message(None, "core.entry.way.no_rating", example=_EXAMPLE))
    return ExistingWay.model_validate(
        {
            "number": number,
            "kind": kind,
            "curve": device.curve,
            "old_type": device.old_type,
            "rating_a": device.rating_a,
            "rcd": _rcd(line),
            "conductor_mm2": line.conductor.area_mm2 if line.conductor else None,
            "cable_count": line.conductor.cables if line.conductor else 1,
            "label": _label(line),
            "tested": line.tested,
            "line": text.strip()[:300],
        }
    )


def _kind(rules: RuleSet, line: ParsedLine) -> str | None:
    """Kind of the device of a way; one with a residual current is an RCBO. None where the line names no device."""
    device = line.device
    if device.empty:
        return device.empty
    if not device.typed and device.rating_a is None:
        return None
    kind = device.kind or device_kind(rules, "breaker")[0]
    of_kind = rules.devices.kinds.get(kind or "")
    if (device.rcd_ma is not None or device.rcd_type is not None) and of_kind is not None and not of_kind.has_rcd:
        return device_kind(rules, "rcbo")[0]
    return kind


def _rcd(line: ParsedLine) -> ExistingRcd | None:
    """The residual-current part of a way, as far as it was typed."""
    device = line.device
    if device.rcd_ma is None:
        return None
    return ExistingRcd.model_validate(
        {"idn_ma": device.rcd_ma, "type": device.rcd_type or "AC", "time_delayed": device.rcd_delayed}
    )


def _label(line: ParsedLine) -> str:
    """The words of the way, its room behind a comma."""
    if line.room is None or line.room.name.casefold() in line.name.casefold():
        return line.name[:120]
    return f"{line.name}, {line.room.name.lower()}".strip(", ")[:120]


def _number(board: ExistingBoard, line: ParsedLine, text: str) -> int:
    """The way's number as typed, or the next one of the board."""
    number = line.number if line.number is not None else max((way.number for way in board.ways), default=0) + 1
    if not 1 <= number <= 200:
        raise EntryNotUnderstood(text, message(None, "core.entry.way.number", n=number))
    return number
