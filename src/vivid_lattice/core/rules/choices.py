"""What a person is offered where something must be chosen by hand; any other value may be typed. Common practice, no source."""

from __future__ import annotations

from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.surge_and_relay import VoltageRelay
from vivid_lattice.core.rules.protocol import CableSize, DeviceKind, RuleSet

#: A cut-out, or a device of the tails beside the meter, is rated at least so much [A].
_MIN_CUT_OUT_A = 60.0
#: No one connects a board by thinner tails [mm²].
_MIN_TAILS_MM2 = 6.0
#: Over- and undervoltage that a relay is set to where none is stated, over the nominal voltage.
_RELAY_OVER, _RELAY_UNDER = 1.15, 0.83


def cut_out_kinds(rules: RuleSet) -> tuple[DeviceKind, ...]:
    """Kinds of device at the origin: those without a residual-current part that come in the ratings of one."""
    return tuple(
        kind for kind in rules.devices.kinds.values() if not kind.has_rcd and max(kind.ratings_a) >= _MIN_CUT_OUT_A
    )


def tails_sizes(rules: RuleSet) -> tuple[CableSize, ...]:
    """Sizes of the conductors from the meter to the first board."""
    sizes = rules.cables.kind(rules.tails_cable).sizes
    return tuple(size for size in sizes if size.area_mm2 >= _MIN_TAILS_MM2)


def main_switch_rcds() -> tuple[Rcd, ...]:
    """Residual-current parts of a main switch. Above 30 mA the usual one is time-delayed, so that those downstream trip first."""
    return tuple(Rcd(idn_ma=idn, time_delayed=idn > 30) for idn in (30.0, 100.0, 300.0))


def usual_relay(rules: RuleSet) -> VoltageRelay:
    """A voltage relay as it is usually set, by the nominal voltage."""
    return VoltageRelay(
        rating_a=63.0,
        over_v=float(round(rules.nominal_v * _RELAY_OVER)),
        under_v=float(round(rules.nominal_v * _RELAY_UNDER)),
        over_s=0.2,
    )
