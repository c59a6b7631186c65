"""Do the devices of a circuit outside its board suit their loads: fused units, isolators, outlets, RCDs at the point of use?"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.load_rcd_type import type_of_load
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_known_requirements
from vivid_lattice.core.document.feeds import served_by
from vivid_lattice.core.document.job import Load
from vivid_lattice.core.document.local_device import WITH_FUSE, WITH_RCD, LocalDevice
from vivid_lattice.core.document.rcd import RCD_TYPES
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.formulas.load_currents import load_current_a
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain, shown_up
from vivid_lattice.core.units import SLACK

ID = "local-devices"
#: Loads that can draw more than they are made for: what switches them is protected by a device of no higher rating.
_CAN_OVERLOAD = frozenset({"socket", "motor", "air-conditioner", "welder"})


def check(ctx: CircuitContext) -> Finding:
    """Each device outside the board: its fuse against the loads behind it, its rating against what it may carry, an outlet's rating against
    the device upstream, the type of its RCD, and whether an isolator can be locked.

    Equation  Ib of the loads ≤ fuse;  rating ≥ Ib of fixed loads, ≥ fuse or device upstream of what can be overloaded
    Source    IEC 60947-3 and IEC 60669-2-4 for switches, the rule set's rule for devices without overload protection; BS 1362 for fuses
    """
    if not ctx.circuit.local_devices:
        return not_applicable(ID, ctx, ctx.message("core.check.local-devices.none"))
    parts = [
        partial(part, ctx, device)
        for device in ctx.circuit.local_devices
        for part in (_position, _fuse, _rating, _outlet, _rcd, _lock)
    ]
    return finding_from_known_requirements(ID, ctx, parts)


def _say(ctx: CircuitContext, part: str, device: LocalDevice, **params: Param) -> Message:
    return ctx.message(f"core.check.local-devices.{part}", name=device.name, **params)


def _needs(ctx: CircuitContext, part: str, device: LocalDevice) -> NeedsInput:
    return NeedsInput(ctx.need(f"core.check.local-devices.need.{part}", f"local_devices.{part}", name=device.name))


def _result(
    verdict: Verdict, text: Message, source: Source, value: float = 0.0, limit: float = 0.0, unit: str = ""
) -> RequirementResult:
    return RequirementResult(verdict=verdict, text=text, value=value, limit=limit, source=source, unit=unit)


def _served(ctx: CircuitContext, device: LocalDevice) -> tuple[Load, ...]:
    return served_by(ctx.circuit, device)


def _load_a(ctx: CircuitContext, device: LocalDevice) -> float:
    """What the fixed loads behind it draw together [A]; of sockets no one knows."""
    supplied = ctx.network.tree.supplied(ctx.circuit)
    return sum(load_current_a(load, supplied) for load in _served(ctx, device) if load.kind != "socket")


def _position(ctx: CircuitContext, device: LocalDevice) -> Iterator[RequirementResult]:
    """A position beyond the end of the run cannot be: one of the two is wrong."""
    lengths = [section.length_m for section in ctx.circuit.run]
    if device.at_m is not None and None not in lengths and device.at_m > sum(filter(None, lengths)) + SLACK:
        raise _needs(ctx, "at_m", device)
    yield from ()


def _fuse(ctx: CircuitContext, device: LocalDevice) -> Iterator[RequirementResult]:
    if device.kind not in WITH_FUSE:
        return
    if device.fuse_a is None:
        raise _needs(ctx, "fuse_a", device)
    amps = _load_a(ctx, device)
    text = _say(ctx, "fuse", device, a=shown_up(amps), fuse=plain(device.fuse_a))
    rule = ctx.rules.rule("overload")
    yield _result("pass" if amps <= device.fuse_a + SLACK else "fail", text, rule, amps, device.fuse_a, "A")


def _rating(ctx: CircuitContext, device: LocalDevice) -> Iterator[RequirementResult]:
    """A switch without an overload release: what it may have to carry."""
    if device.kind in ("interlocked-outlet", "rcd-outlet"):
        return  # an outlet is judged by the device upstream, or by the fuse in each plug
    if device.rating_a is None:
        raise _needs(ctx, "rating_a", device)
    upstream_a = device.fuse_a or ctx.device.rating_a
    can_overload = any(load.kind in _CAN_OVERLOAD or load.with_socket for load in _served(ctx, device))
    amps = upstream_a if can_overload else min(upstream_a, _load_a(ctx, device))
    key = "rating_device" if can_overload else "rating_load"
    text = _say(ctx, key, device, a=shown_up(amps), rating=plain(device.rating_a))
    rule = ctx.rules.protection.source("loading")
    yield _result("pass" if amps <= device.rating_a + SLACK else "fail", text, rule, amps, device.rating_a, "A")


def _outlet(ctx: CircuitContext, device: LocalDevice) -> Iterator[RequirementResult]:
    """An outlet of 16 or 32 A: nothing but the device upstream keeps what is plugged in within its rating."""
    if device.kind != "interlocked-outlet":
        return
    if device.rating_a is None:
        raise _needs(ctx, "rating_a", device)
    upstream_a = ctx.device.rating_a
    text = _say(ctx, "outlet", device, a=plain(upstream_a), rating=plain(device.rating_a))
    verdict: Verdict = "pass" if upstream_a <= device.rating_a + SLACK else "fail"
    yield _result(verdict, text, ctx.rules.rule("overload"), upstream_a, device.rating_a, "A")


def _rcd(ctx: CircuitContext, device: LocalDevice) -> Iterator[RequirementResult]:
    """Its residual-current part: there, and of a type that detects what its loads leak."""
    if device.kind not in WITH_RCD:
        return
    if device.rcd is None:
        raise _needs(ctx, "rcd", device)
    if ctx.rules.protection.alternating_only[0] == "yes":
        text = _say(ctx, "residual", device, idn=plain(device.rcd.idn_ma))
        yield _result("pass", text, ctx.rules.protection.source("type"))
        return
    required = max(
        (type_of_load(ctx, ctx.circuit, load) for load in _served(ctx, device)), key=RCD_TYPES.index, default="A"
    )
    if required == "AC" and ctx.rules.protection.alternating_only[0] == "never":
        required = "A"
    enough = RCD_TYPES.index(device.rcd.type) >= RCD_TYPES.index(required)
    text = _say(ctx, "type", device, type=device.rcd.type, least=required)
    yield _result("pass" if enough else "fail", text, ctx.rules.protection.source("type"))


def _lock(ctx: CircuitContext, device: LocalDevice) -> Iterator[RequirementResult]:
    """An isolator for mechanical work is locked off while someone works."""
    if device.kind not in ("isolator", "rcd-isolator"):
        return
    motors = any(load.kind in ("motor", "air-conditioner") for load in _served(ctx, device))
    if not motors:
        return
    if device.lockable is None:
        raise _needs(ctx, "lockable", device)
    text = _say(ctx, "lockable" if device.lockable else "not_lockable", device)
    yield _result("pass" if device.lockable else "advice", text, ctx.rules.board.main.source)
