"""Kinds of device on a board's rails, and kinds of control gear: what layout, wiring and heat need to know of each.

The only list of them: a kind that is added here, and made by ``board_devices``, is laid out, wired and drawn.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from vivid_lattice.core.document.board_build import GearKind
from vivid_lattice.core.messages import Message, message

#: Ratings that control gear is sold in [A]. Common practice, no source.
GEAR_RATINGS_A = (16.0, 20.0, 25.0, 40.0, 63.0)

BoardDeviceKind = Literal["main", "relay", "rcd", "way", "surge", "backup", "gear", "coil"]


@dataclass(frozen=True, slots=True, kw_only=True)
class KindTraits:
    """What a kind of device does in a board.

    terminal         its terminals as the table of usual torques names them; '' where that depends on the device
    passes_on        the same current flows into and out of it, so that it feeds others: RCD, contactor
    from_busbar      an outgoing device, fed at its own supply terminal
    in_main_path     everything of the board flows through it: main switch, voltage relay
    of_surge         a surge protective device or its backup: beside the main switch, with leads as short as can be
    of_control       its wiring is control wiring
    loses_heat       it carries a lasting current
    usual_families   families whose losses count where its own are not stated
    """

    terminal: str = ""
    passes_on: bool = False
    from_busbar: bool = False
    in_main_path: bool = False
    of_surge: bool = False
    of_control: bool = False
    loses_heat: bool = True
    usual_families: tuple[str, ...] = ()


KINDS: Mapping[BoardDeviceKind, KindTraits] = MappingProxyType(
    {
        "main": KindTraits(in_main_path=True, usual_families=("moor-switch", "mesa-main")),
        "relay": KindTraits(terminal="voltage relay 63 A", in_main_path=True, loses_heat=False),
        "rcd": KindTraits(terminal="RCCB", passes_on=True, usual_families=("beck-rcd-a",)),
        "way": KindTraits(terminal="MCB up to 63 A", from_busbar=True),
        "surge": KindTraits(of_surge=True),
        "backup": KindTraits(terminal="MCB up to 63 A", from_busbar=True, of_surge=True, loses_heat=False),
        "gear": KindTraits(passes_on=True, of_control=True, usual_families=("otter-contactor",)),
        "coil": KindTraits(terminal="MCB up to 63 A", from_busbar=True, of_control=True, loses_heat=False),
    }
)


@dataclass(frozen=True, slots=True, kw_only=True)
class GearTraits:
    """What a kind of control gear is.

    on_rail         it has a place in the board
    upstream        it is upstream of what it switches, as a contactor is; else downstream of the device of one circuit
    breaks_lines    the lines run through it
    width_kind      its name in the table of usual widths; '' where that depends on its rating
    taps            further terminals: of a coil, of what it takes for itself; L is for a line
    terminal        as the table of usual torques names its main contacts; ``coil_terminal`` those of the coil
    rating_a        as it begins; ``coil_breaker_a`` that of the breaker of its coil
    motor_category  the utilisation category its motor rating is for
    """

    on_rail: bool = True
    upstream: bool = False
    breaks_lines: bool = True
    width_kind: str = ""
    taps: tuple[str, ...] = ()
    terminal: str = "contactor 25 A main contacts"
    coil_terminal: str = "contactor coil, control device"
    rating_a: float = 16.0
    coil_breaker_a: float | None = None
    motor_category: str = "AC-7b"


_CONTROL = "contactor coil, control device"
GEAR: Mapping[GearKind, GearTraits] = MappingProxyType(
    {
        "contactor": GearTraits(upstream=True, taps=("A1", "A2"), rating_a=25.0, coil_breaker_a=6.0),
        "impulse-relay": GearTraits(width_kind="impulse relay", taps=("A1", "A2"), terminal="impulse relay"),
        "time-switch": GearTraits(width_kind="time switch", taps=("N",), terminal=_CONTROL),
        "socket": GearTraits(
            breaks_lines=False,
            width_kind="socket for rail",
            taps=("L", "N", "PE"),
            terminal=_CONTROL,
            motor_category="",
        ),
        "isolator": GearTraits(on_rail=False, motor_category="AC-23"),
    }
)


def gear_title(kind: GearKind) -> Message:
    """What a kind of control gear is called."""
    return message(None, f"core.device.gear.{kind}")
