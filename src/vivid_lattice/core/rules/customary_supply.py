"""What is assumed of a supply until someone confirms it, and what a typical home has: common practice, no source."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualSupply:
    """A value of the supply, the first board or a device that a new job takes.

    field    where it is in the document: ``supply.ze_ohm``, ``board.main_switch.rating_a`` (of the first board),
             ``device.breaking_ka`` (of a circuit)
    systems  earthing systems it is for; empty: any
    phases   lines of the supply it is for
    value    in the unit of its field; ``other``: the other end of what is usual, None where there is none
    confirm  how it is confirmed on site, in the words of the table
    """

    field: str
    systems: tuple[str, ...]
    phases: tuple[int, ...]
    value: float
    other: float | None
    confirm: str
    case: str
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualLoad:
    """What a load of a kind takes where nothing is stated: its power [W], or its running current [A]."""

    power_w: float | None
    current_a: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TypicalHome:
    """A home to start from: its supply, its ways, its floor area [m²] where the standard needs it, and its circuits as lines that are typed, each with its name."""

    id: str
    title: str
    system: str
    phases: int
    ways: int
    floor_m2: float | None
    lines: tuple[tuple[str, str], ...]
