"""Kinds of reading: what unit each has, whether it is taken dead or live, whether it is a figure, and which of them change with temperature."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from vivid_lattice.core.document.readings import ReadingKind

Unit = Literal["Ω", "MΩ", "V", "A", "ms", "mA", ""]


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingTraits:
    """What a kind of reading is. ``unit`` '': it is seen, not read. ``of_conductor``: it rises with the conductor's temperature;
    ``optional``: taken only where there is a doubt, or where it is usual."""

    unit: Unit = ""
    live: bool = False
    of_conductor: bool = False
    optional: bool = False

    @property
    def is_figure(self) -> bool:
        """Whether a figure is read."""
        return self.unit != ""


_DOUBT = ReadingTraits(live=True, optional=True)
_VOLTAGE_IN_DOUBT = ReadingTraits(unit="V", live=True, optional=True)
_CURRENT_IN_DOUBT = ReadingTraits(unit="A", live=True, optional=True)
_CONDUCTOR = ReadingTraits(unit="Ω", of_conductor=True)
_INSULATION = ReadingTraits(unit="MΩ")
_SEEN = ReadingTraits()
_SEEN_LIVE = ReadingTraits(live=True)
_LOOP = ReadingTraits(unit="Ω", live=True)
_CURRENT = ReadingTraits(unit="A", live=True)
_TIME = ReadingTraits(unit="ms", live=True)

TRAITS: Mapping[ReadingKind, ReadingTraits] = MappingProxyType(
    {
        "insp": _SEEN,
        "r_me": _CONDUCTOR,
        "r_bond": _CONDUCTOR,
        "r1r2": _CONDUCTOR,
        "r1rn": _CONDUCTOR,
        "r2": _CONDUCTOR,
        "r1_end": _CONDUCTOR,
        "rn_end": _CONDUCTOR,
        "r2_end": _CONDUCTOR,
        "x_ln": _CONDUCTOR,
        "x_le": _CONDUCTOR,
        "ir_ln": _INSULATION,
        "ir_le": _INSULATION,
        "ir_ne": _INSULATION,
        "pol": _SEEN,
        "ident": _SEEN_LIVE,
        "ra": ReadingTraits(unit="Ω"),
        "u_ln": ReadingTraits(unit="V", live=True),
        "u_ll": ReadingTraits(unit="V", live=True),
        "u_load": ReadingTraits(unit="V", live=True, optional=True),
        "ze": _LOOP,
        "pfc_ln": _CURRENT,
        "pfc_le": _CURRENT,
        "zs": _LOOP,
        "zln": ReadingTraits(unit="Ω", live=True, optional=True),
        "rcd_half": _SEEN_LIVE,
        "rcd_1": _TIME,
        "rcd_5": ReadingTraits(unit="ms", live=True, optional=True),
        "rcd_ramp": ReadingTraits(unit="mA", live=True),
        "rcd_button": _SEEN_LIVE,
        "afdd": _SEEN_LIVE,
        "spd": _SEEN_LIVE,
        "rot": _SEEN_LIVE,
        "func": _SEEN_LIVE,
        "tester": _SEEN_LIVE,
        "u_le": _VOLTAGE_IN_DOUBT,
        "u_ne": _VOLTAGE_IN_DOUBT,
        "u_me": _VOLTAGE_IN_DOUBT,
        "r_nn": ReadingTraits(unit="Ω", optional=True),
        "r_cc": ReadingTraits(unit="Ω", optional=True),
        "ir_cc": ReadingTraits(unit="MΩ", optional=True),
        "ir_selv": ReadingTraits(unit="MΩ", optional=True),
        "i_res": _CURRENT_IN_DOUBT,
        "i_pe": _CURRENT_IN_DOUBT,
        "rcd_load": _DOUBT,
        "rcd_other": _DOUBT,
        "temp": _DOUBT,
    }
)

#: Between conductors that have nothing to do with each other: a sound one reads no continuity.
APART: frozenset[ReadingKind] = frozenset({"r_nn", "r_cc"})
