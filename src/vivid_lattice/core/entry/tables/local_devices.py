"""Devices outside the board in one cell of a table: ``Isolator (isolator, 32 A, lockable); RCD (rcd, 30 mA A, at 12 m)``."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import cast, get_args

from vivid_lattice.core.document.local_device import WITH_FUSE, WITH_RCD, LocalDevice, LocalDeviceKind
from vivid_lattice.core.document.rcd import Rcd, RcdType
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.messages import message

#: What kinds are called in tables of others, beside their ids; longer names are looked for first.
_ALSO: dict[str, LocalDeviceKind] = {
    "rcd socket": "rcd-outlet",
    "rcd outlet": "rcd-outlet",
    "gfci outlet": "rcd-outlet",
    "gfci receptacle": "rcd-outlet",
    "rcd fcu": "rcd-fused-unit",
    "rcd fused unit": "rcd-fused-unit",
    "rcd isolator": "rcd-isolator",
    "fused connection unit": "fused-unit",
    "fused spur": "fused-unit",
    "fused unit": "fused-unit",
    "fcu": "fused-unit",
    "switch fuse": "switch-fuse",
    "rotary isolator": "isolator",
    "disconnect": "isolator",
    "cooker unit": "cooker-unit",
    "cooker switch": "cooker-unit",
    "interlocked socket": "interlocked-outlet",
    "interlocked outlet": "interlocked-outlet",
}
_KINDS: dict[str, LocalDeviceKind] = {**_ALSO, **{kind: kind for kind in get_args(LocalDeviceKind)}}
_NAMED = re.compile(r"(?P<name>[^()]+)\((?P<facts>[^()]*)\)")
_NUMBER = r"(\d+(?:[.,]\d+)?)"


def written(devices: Sequence[LocalDevice]) -> str:
    """A cell that ``read`` gives the same devices for. A bracket or semicolon of a name becomes a blank."""
    return "; ".join(f"{_plain(device.name)} ({', '.join(_facts(device))})" for device in devices)


def _plain(name: str) -> str:
    return " ".join(re.sub(r"[();+,]", " ", name).split()) or "-"


def _facts(device: LocalDevice) -> list[str]:
    facts: list[str] = [device.kind]
    if device.rating_a is not None:
        facts.append(f"{device.rating_a:g} A")
    if device.fuse_a is not None:
        facts.append(f"fuse {device.fuse_a:g} A")
    if device.rcd is not None:
        delay = " S" if device.rcd.time_delayed else " K" if device.rcd.short_time_delayed else ""
        facts.append(f"{device.rcd.idn_ma:g} mA {device.rcd.type}{delay}")
    if device.at_m is not None:
        facts.append(f"at {device.at_m:g} m")
    if device.lockable is not None:
        facts.append("lockable" if device.lockable else "not lockable")
    if device.serves:
        facts.append("for " + " + ".join(_plain(name) for name in device.serves))
    return facts


def read(cell: str) -> tuple[LocalDevice, ...]:
    """The devices that a cell names. EntryNotUnderstood where an item names no kind, or a residual current without a type.

    >>> [device.kind for device in read("isolator 32 A; FCU fuse 3A")]
    ['isolator', 'fused-unit']
    """
    return tuple(_device(item.strip()) for item in cell.split(";") if item.strip())


def _device(item: str) -> LocalDevice:
    named = _NAMED.fullmatch(item)
    facts, _, served = (named["facts"] if named else item).partition("for ")
    text = facts.casefold()
    phrase = next((name for name in sorted(_KINDS, key=len, reverse=True) if re.search(rf"\b{name}\b", text)), None)
    if phrase is None:
        known = ", ".join(get_args(LocalDeviceKind))
        raise EntryNotUnderstood(item, message(None, "core.import.local_device", text=item[:40], list=known))
    kind = _KINDS[phrase]
    rest = text.replace(phrase, " ", 1)
    fuse = _figure(rf"fuse\s*{_NUMBER}\s*a?\b", rest)
    rest = re.sub(rf"fuse\s*{_NUMBER}\s*a?\b", " ", rest)
    return LocalDevice(
        name=named["name"].strip() if named else item.split(",")[0].strip()[:120],
        kind=kind,
        at_m=_figure(rf"\bat\s*{_NUMBER}\s*m\b", rest),
        serves=tuple(name.strip() for name in served.split("+") if name.strip()),
        rating_a=_figure(rf"{_NUMBER}\s*a\b", rest),
        fuse_a=fuse if kind in WITH_FUSE else None,
        rcd=_rcd(rest) if kind in WITH_RCD else None,
        lockable="not lockable" not in rest if "lockable" in rest else None,
    )


def _figure(pattern: str, text: str) -> float | None:
    found = re.search(pattern, text)
    return float(found.group(1).replace(",", ".")) if found else None


def _rcd(text: str) -> Rcd | None:
    """A residual-current part where its current is stated; None: not known."""
    found = re.search(rf"{_NUMBER}\s*ma\b(?:\s*(?:type\s*)?(ac|a|f|b)\b)?(?:\s*([sk])\b)?", text)
    if found is None:
        return None
    if found.group(2) is None:
        raise EntryNotUnderstood(text, message(None, "core.import.local_rcd_type", ma=found.group(1)))
    return Rcd(
        idn_ma=float(found.group(1).replace(",", ".")),
        type=cast(RcdType, found.group(2).upper()),
        time_delayed=found.group(3) == "s",
        short_time_delayed=found.group(3) == "k",
    )
