"""What protects a charging point when the PEN conductor of the supply breaks: a device, or an electrode that is low enough."""

from __future__ import annotations

from vivid_lattice.core.document.job import Load
from vivid_lattice.core.document.open_pen_device import OpenPenDevice
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.formulas.open_pen import max_electrode_ohm
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.tree import EarthInUse
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK

OpenPenResult = tuple[Verdict, Text, tuple[Need, ...]]
#: The rule whose figures hold: the voltage of an earth terminal to true earth, the time, the range of the supply.
_RULE = "uk.earthing.open-pen"


def open_pen(ctx: CircuitContext, load: Load) -> OpenPenResult:
    """How a charging point is protected, and whether that is enough: the device's thresholds and time where they are entered, else whether it
    has one; without a device, the resistance of an additional electrode.

    Equation  touch voltage ≤ UL, or the supply within its range, disconnected in time with the protective conductor;
              without a device RA ≤ UL · U0 / (Ib · (U0 − UL)), single-phase
    Source    BS 7671:2018+A2, 722.411.4.1 and Annex A722 (from memory)
    """
    if load.open_pen_device is not None:
        return _device(ctx, load, load.open_pen_device)
    if load.open_pen_protection:
        return "pass", _say(ctx, "pen_pass"), ()
    own = ctx.circuit.earthing
    if own is not None and own.kind == "exported-and-electrode":
        return _electrode(ctx, load)
    if load.open_pen_protection is None:
        return "missing", "", (_need(ctx, "pen", "open_pen_protection", load),)
    return "fail", _say(ctx, "pen_fail"), ()


def _say(ctx: CircuitContext, part: str, **params: Param) -> Message:
    return ctx.message(f"core.check.special-location.{part}", **params)


def _need(ctx: CircuitContext, part: str, field: str, load: Load) -> Need:
    return ctx.need(f"core.check.special-location.need.{part}", f"loads.{field}", load=load.name)


def _device(ctx: CircuitContext, load: Load, device: OpenPenDevice) -> OpenPenResult:
    """The first thing that fails, even where more is not known; then what is not known; then how it protects."""
    figure = ctx.rules.protection.figure
    within_s = figure(_RULE, "within_s").value
    detects, passed = _detection(ctx, device)
    if device.disconnects_earth is False:
        return "fail", _say(ctx, "pen_earth"), ()
    if device.within_s is not None and device.within_s > within_s + SLACK:
        return "fail", _say(ctx, "pen_slow", s=shown_up(device.within_s), limit=plain(within_s)), ()
    if passed is False:
        return "fail", detects, ()
    fields = {"disconnects_earth": device.disconnects_earth, "within_s": device.within_s} | _thresholds(device)
    unknown = [field for field, value in fields.items() if value is None]
    if unknown:
        return "missing", "", (_need(ctx, f"pen_{unknown[0]}", f"open_pen_device.{unknown[0]}", load),)
    return "pass", detects, ()


def _thresholds(device: OpenPenDevice) -> dict[str, float | None]:
    if device.detects == "touch-voltage":
        return {"threshold_v": device.threshold_v}
    return {"low_v": device.low_v, "high_v": device.high_v}


def _detection(ctx: CircuitContext, device: OpenPenDevice) -> tuple[Text, bool | None]:
    """What the device measures and whether its thresholds are good enough, None as long as that is not known."""
    figure = ctx.rules.protection.figure
    if device.detects == "touch-voltage":
        limit, has = figure(_RULE, "limit_V").value, device.threshold_v
        if has is None:
            return "", None
        passed = has <= limit + SLACK
        return _say(ctx, "pen_touch" if passed else "pen_touch_high", v=shown_up(has), limit=plain(limit)), passed
    if ctx.job.supply.phases != 1:
        return _say(ctx, "pen_single"), False
    low, high = figure(_RULE, "low_V").value, figure(_RULE, "high_V").value
    if device.low_v is not None and device.low_v < low - SLACK:
        return _say(ctx, "pen_low", v=shown_down(device.low_v), limit=plain(low)), False
    if device.high_v is not None and device.high_v > high + SLACK:
        return _say(ctx, "pen_high", v=shown_up(device.high_v), limit=plain(high)), False
    if device.low_v is None or device.high_v is None:
        return "", None
    shown = {"low": plain(device.low_v), "high": plain(device.high_v)}
    return _say(ctx, "pen_supply", min=plain(low), max=plain(high), **shown), True


def _electrode(ctx: CircuitContext, load: Load) -> OpenPenResult:
    """An additional electrode, low enough for the whole demand of the installation."""
    if ctx.job.supply.phases != 1:
        return "missing", "", (_need(ctx, "pen_phases", "open_pen_protection", load),)
    earth = EarthInUse(system="TT", own=ctx.circuit.earthing, owner=ctx.circuit)
    try:
        ohm = ctx.network.loops.local_electrode_ohm(earth)
        demand_a = ctx.network.drops.whole_demand().current_a
    except NeedsInput as lack:
        return "missing", "", lack.needs
    limit_v = ctx.rules.protection.figure(_RULE, "limit_V").value
    limit = max_electrode_ohm(demand_a, ctx.job.supply.nominal_v, limit_v)
    key = "pen_electrode" if ohm <= limit * (1 + SLACK) else "pen_electrode_high"
    text = _say(ctx, key, ohm=shown_up(ohm), limit=shown_down(limit), v=plain(limit_v), a=shown_up(demand_a))
    return "pass" if key == "pen_electrode" else "fail", text, ()
