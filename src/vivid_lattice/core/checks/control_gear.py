"""Does the control gear of a board suit what it switches: contactors, relays, time switches, isolators, a socket on the rail?"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_known_requirements
from vivid_lattice.core.checks.support.switch_load import sum_a, upstream_a
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.feeds import feeds_sockets, loads_of
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.formulas.load_currents import load_current_a
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.text import plain, shown_up
from vivid_lattice.core.units import SLACK

ID = "control-gear"
#: Loads whose compressor or motor starts under the contacts: categories AC-7b and AC-23.
_MOTORS = frozenset({"motor", "air-conditioner"})
#: Side by side without this gap, two that stay energised warm each other [modules].
_GAP_RULE = "common.board.contactor-gap"


def check(ctx: BoardContext) -> Finding:
    """Each piece of control gear: its rating against the load it switches, by utilisation category; its overload and back-up
    protection; and contactors that warm each other.

    Equation  Ib ≤ Ie of the category (AC-7a or AC-22 mixed loads, AC-7b or AC-23 motors); In ≤ Ie where the load can overload it;
              In of the device upstream ≤ largest back-up device of the manufacturer's data
    Source    IEC 61095 and IEC 60947-3 for the categories (from memory); IEC 60364-5-53 for overload protection; practice for the gap
    A load that is fixed, and no motor, cannot overload what switches it; sockets and motors can.
    """
    if not ctx.board.control_gear:
        return not_applicable(ID, ctx, ctx.message("core.check.control-gear.none"))
    parts = [part for gear in ctx.board.control_gear for part in _parts(ctx, gear)]
    return finding_from_known_requirements(ID, ctx, [*parts, partial(_gaps, ctx)])


def _parts(ctx: BoardContext, gear: ControlGear) -> list[partial[list[RequirementResult]]]:
    if gear.kind == "socket":
        return [partial(_rail_socket, ctx, gear)]
    return [
        partial(_load, ctx, gear),
        partial(_motors, ctx, gear),
        partial(_overload, ctx, gear),
        partial(_backup, ctx, gear),
    ]


def _circuits(ctx: BoardContext, gear: ControlGear) -> list[Circuit]:
    """The circuits that a piece of gear switches: those named, and those of the RCDs named."""
    named = set(gear.switches)
    return [
        ctx.network.tree.circuits[way.circuit]
        for way in ctx.board.ways
        if way.circuit in named or (way.rcd is not None and way.rcd in named)
    ]


def _load(ctx: BoardContext, gear: ControlGear) -> list[RequirementResult]:
    """Design current of what it switches, on the most loaded phase. One pole of a contactor is one phase."""
    by_line: dict[str, float] = {}
    for circuit in _circuits(ctx, gear):
        demand = ctx.network.drops.design_current(circuit)
        for line, amps in demand.by_line.items():
            by_line[line] = by_line.get(line, 0.0) + amps
    amps = max(by_line.values(), default=0.0)
    words = ctx.message(
        "core.check.control-gear.load",
        gear=gear.name,
        a=shown_up(amps),
        rating=plain(gear.rating_a),
        category=_category(gear, motor=False),
    )
    return [_within(ctx, words, amps, gear.rating_a)]


def _within(ctx: BoardContext, words: Message, amps: float, rating_a: float) -> RequirementResult:
    """A current against a rating [A]."""
    return RequirementResult(
        verdict="pass" if amps <= rating_a + SLACK else "fail",
        text=words,
        value=amps,
        limit=rating_a,
        source=ctx.rules.board.switch_category,
        unit="A",
    )


def _category(gear: ControlGear, *, motor: bool) -> str:
    if gear.kind == "isolator":
        return "AC-23" if motor else "AC-22"
    return "AC-7b" if motor else "AC-7a"


def _motors(ctx: BoardContext, gear: ControlGear) -> list[RequirementResult]:
    """The motors it switches against its rating for motors."""
    amps = 0.0
    for circuit in _circuits(ctx, gear):
        motors = [load for load in loads_of(circuit) if load.kind in _MOTORS]
        supplied = ctx.network.tree.supplied(circuit)
        amps += sum(load_current_a(load, supplied) for load in motors)
    if not amps:
        return []
    category = _category(gear, motor=True)
    if gear.motor_rating_a is None:
        what = ctx.message("core.check.control-gear.need.motor.what", gear=gear.name)
        ask = ctx.message("core.check.control-gear.need.motor.ask", category=category)
        raise NeedsInput(Need(what, "boards.control_gear.motor_rating_a", ask))
    words = ctx.message(
        "core.check.control-gear.motors",
        gear=gear.name,
        a=shown_up(amps),
        rating=plain(gear.motor_rating_a),
        category=category,
    )
    return [_within(ctx, words, amps, gear.motor_rating_a)]


def _can_overload(circuit: Circuit) -> bool:
    return feeds_sockets(circuit) or any(load.kind in _MOTORS for load in loads_of(circuit))


def _may_carry_a(ctx: BoardContext, gear: ControlGear, circuits: list[Circuit]) -> tuple[float, Text]:
    """The most that a piece of gear may have to carry [A], and by which devices.

    Raises  NeedsInput while a device that decides is not chosen
    """
    total_a, chosen = sum_a(ctx, circuits)
    upstream = upstream_a(ctx, ctx.board) if gear.kind == "contactor" else None
    decided = chosen or (upstream is not None and upstream[0] <= gear.rating_a)
    if not decided:
        raise NeedsInput(ctx.need("core.check.control-gear.need.devices", "circuits.device", gear=gear.name))
    if upstream is not None and upstream[0] < total_a:
        return upstream
    return total_a, ctx.message(f"core.check.control-gear.{'devices' if gear.kind == 'contactor' else 'device'}")


def _overload(ctx: BoardContext, gear: ControlGear) -> list[RequirementResult]:
    """Where the load can overload it: the device upstream, or the total of those downstream of a contactor."""
    circuits = _circuits(ctx, gear)
    if not any(_can_overload(circuit) for circuit in circuits):
        return []
    amps, how = _may_carry_a(ctx, gear, circuits)
    words = ctx.message(
        "core.check.control-gear.overload", gear=gear.name, a=shown_up(amps), basis=how, rating=plain(gear.rating_a)
    )
    verdict: Verdict = "pass" if amps <= gear.rating_a + SLACK else "fail"
    return [
        RequirementResult(
            verdict=verdict,
            text=words,
            value=amps,
            limit=gear.rating_a,
            source=ctx.rules.protection.source("loading"),
            unit="A",
        )
    ]


def _backup(ctx: BoardContext, gear: ControlGear) -> list[RequirementResult]:
    """The device upstream in a short circuit against the largest that the manufacturer permits."""
    if gear.kind == "contactor":
        backup = upstream_a(ctx, ctx.board)
    else:
        devices = [circuit.device for circuit in _circuits(ctx, gear)]
        name = ctx.message("core.check.control-gear.device")
        backup = next(((device.rating_a, name) for device in devices if not is_auto(device)), None)
    if backup is None:
        raise NeedsInput(ctx.need("core.check.control-gear.need.upstream", "circuits.device", gear=gear.name))
    amps, how = backup
    most = gear.max_backup_a
    if most is None:
        if amps <= gear.rating_a + SLACK:
            return []
        raise NeedsInput(
            ctx.need("core.check.control-gear.need.backup", "boards.control_gear.max_backup_a", gear=gear.name)
        )
    words = ctx.message("core.check.control-gear.backup", gear=gear.name, a=plain(amps), basis=how, max=plain(most))
    verdict: Verdict = "pass" if amps <= most + SLACK else "fail"
    return [
        RequirementResult(
            verdict=verdict, text=words, value=amps, limit=most, source=ctx.rules.board.switch_category, unit="A"
        )
    ]


def _rail_socket(ctx: BoardContext, gear: ControlGear) -> list[RequirementResult]:
    """A socket in the board against the device that feeds it."""
    circuit = next(iter(_circuits(ctx, gear)), None)
    if circuit is None or is_auto(circuit.device):
        raise NeedsInput(ctx.need("core.check.control-gear.need.socket", "circuits.device", gear=gear.name))
    most = ctx.rules.board.rail_socket_device_a(gear.rating_a)
    words = ctx.message(
        "core.check.control-gear.socket",
        gear=gear.name,
        a=plain(circuit.device.rating_a),
        max=plain(most.value),
        outlet=plain(gear.rating_a),
    )
    verdict: Verdict = "pass" if circuit.device.rating_a <= most.value + SLACK else "fail"
    return [
        RequirementResult(
            verdict=verdict, text=words, value=circuit.device.rating_a, limit=most.value, source=most.source, unit="A"
        )
    ]


def _gaps(ctx: BoardContext) -> Iterator[RequirementResult]:
    """Contactors side by side on the rail that stay energised for long."""
    if not ctx.model.begun:
        return
    rule = ctx.rules.board.figure(_GAP_RULE, "gap_modules")
    placed = [
        placed_device
        for placed_device in ctx.model.places.placed.values()
        if placed_device.unit.gear and placed_device.unit.gear.kind == "contactor"
    ]
    for left in placed:
        for right in placed:
            if left.row != right.row or right.offset_modules <= left.offset_modules:
                continue
            gap = right.offset_modules - left.end
            if gap < rule.value - SLACK:
                words = ctx.message(
                    "core.check.control-gear.gap",
                    left=left.unit.name,
                    right=right.unit.name,
                    n=plain(gap),
                    min=plain(rule.value),
                )
                yield RequirementResult(
                    verdict="advice", text=words, value=rule.value, limit=gap, source=rule.source, unit="modules"
                )
