"""Does the device carry the load, and stay closed while it starts? Ib ≤ In."""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, not_applicable, step
from vivid_lattice.core.document.job import Line, Load
from vivid_lattice.core.findings.finding import Assumption, Finding, Step
from vivid_lattice.core.findings.verdict import margin_of
from vivid_lattice.core.formulas.load_currents import CircuitSupply, duty_share, lines_of_load
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.rules.protocol import CircuitDemand
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain, shown, shown_down, shown_up

ID = "overload"
#: Starting current of a motor over its running one, where no one has stated it. Common practice, no source.
_ASSUMED_STARTS = {"motor": 6.0, "welder": 5.0}


def assumed_start(load_kind: str) -> float | None:
    """Starting current over the running one [1] that is assumed of a kind of load where none is stated; None: no start."""
    return _ASSUMED_STARTS.get(load_kind)


def check(ctx: CircuitContext) -> Finding:
    """The design current against the device's rating, with the standard's factor on what runs for hours; and the largest
    load's starting current against the current below which the device certainly stays closed.

    Equation  Ib ≤ In, intermittent loads by √(duty), continuous ones by the standard's factor; Ib + (n − 1)·I ≤ m·In
    Source    the rule set's overload rule, and what it names as the least or largest device of a kind of circuit; the other half, In ≤ Iz, is ``capacity``
    A socket circuit with no stated current is calculated as loaded to its device, so there is nothing to compare.
    """
    circuit, device, rule = ctx.circuit, ctx.device, ctx.rules.rule("overload")
    least = ctx.rules.limits.min_device_a(circuit, ctx.network.tree.rooms)
    if least is not None and device.rating_a < least.value:
        sentence = _rating(ctx, "rating_min", least.value)
        return finding_from_limit(ID, ctx, least.value, device.rating_a, "A", sentence, least.source, list)
    most = ctx.rules.limits.max_device_a(circuit)
    if most is not None and device.rating_a > most.value:
        sentence = _rating(ctx, "rating_max", most.value)
        return finding_from_limit(ID, ctx, device.rating_a, most.value, "A", sentence, most.source, list)
    if circuit.kind in ("ring", "radial") and circuit.design_current_a is None:
        return not_applicable(ID, ctx, ctx.message("core.check.overload.sockets"), rule)
    demand, counted = ctx.network.drops.design_current(circuit), counted_current_a(ctx)
    starting = _starting(ctx, demand, counted.value / device.rating_a)
    if starting is not None:
        return starting
    sentence = ctx.message(
        "core.check.overload.load", ib=shown_up(counted.value), device=ctx.device_name(), rating=plain(device.rating_a)
    )
    return finding_from_limit(
        ID, ctx, counted.value, device.rating_a, "A", sentence, rule, lambda: _working(ctx, demand, counted)
    )


def counted_current_a(ctx: CircuitContext) -> SourcedValue:
    """What of a circuit's current counts for device and cable [A]: intermittent loads less, continuous ones more."""
    circuit, demand = ctx.circuit, ctx.network.drops.design_current(ctx.circuit)
    rule, source = ctx.rules.limits.continuous(circuit), demand.source or ctx.rules.rule("overload")
    if circuit.source is not None and rule is not None:
        # A source feeds for hours on end.
        words = ctx.message("core.check.overload.continuous", factor=plain(rule.value))
        return SourcedValue(demand.heating_a * rule.value, rule.source, words)
    if circuit.design_current_a is not None or not circuit.loads or circuit.kind in ("ring", "radial", "distribution"):
        return SourcedValue(demand.heating_a, source)
    if rule is None:
        intermittent = demand.heating_a < demand.current_a
        return SourcedValue(
            demand.heating_a, source, ctx.message("core.check.overload.intermittent") if intermittent else ""
        )
    supplied = ctx.network.tree.supplied(circuit)
    counted = max(_continuous_a(ctx, supplied, rule.value).values())
    if counted <= demand.heating_a:
        return SourcedValue(demand.heating_a, source)
    return SourcedValue(counted, rule.source, ctx.message("core.check.overload.continuous", factor=plain(rule.value)))


def _starting(ctx: CircuitContext, demand: CircuitDemand, used: float) -> Finding | None:
    """The answer by the starting current, where it leaves less left than the running one; None where it does not rule."""
    starts = any(assumed_start(load.kind) or load.starting_multiple for load in ctx.circuit.loads)
    if not starts or ctx.circuit.design_current_a is not None:
        return None
    holds = ctx.rules.devices.holds_a(ctx.device)
    if holds is None:
        return None
    assumed = [load for load in ctx.circuit.loads if assumed_start(load.kind) and load.starting_multiple is None]
    current, load, multiple = _largest_start(ctx, demand)
    if load is None or margin_of(current, holds.value) >= 1 - used:
        return None
    sentence = ctx.message(
        "core.check.overload.start",
        a=shown_up(current),
        load=load.name,
        device=ctx.device_name(),
        limit=shown_down(holds.value),
    )

    def working() -> list[Step]:
        basis = ctx.message(f"core.check.overload.{'start_assumed' if load in assumed else 'as_stated'}")
        times = ctx.message("core.check.overload.start_multiple", load=load.name, basis=basis)
        hold = ctx.message("core.check.overload.start_hold", device=ctx.device_name())
        return [
            *demand.steps(),
            step("n", times, "", "", multiple, ""),
            step("Ia", ctx.message("core.check.overload.start_current"), "Ib + (n − 1) · I", "", current, "A"),
            step("m·In", hold, "", "", holds.value, "A", holds.source),
        ]

    finding = finding_from_limit(ID, ctx, current, holds.value, "A", sentence, holds.source, working)
    if load in assumed and finding.verdict == "fail":
        text = ctx.message("core.check.overload.start_advice", start=sentence, n=shown(multiple))
        given = (Assumption("loads.starting_multiple", f"{multiple:g}", "common practice, no source"),)
        return replace(finding, verdict="advice", sentence=text, assumptions=given)
    return None if load in assumed else finding


def _largest_start(ctx: CircuitContext, demand: CircuitDemand) -> tuple[float, Load | None, float]:
    """The current while the load with the largest start starts, that load, and its multiple."""
    supplied, best = ctx.network.tree.supplied(ctx.circuit), (0.0, None, 1.0)
    largest: tuple[float, Load | None, float] = best
    for load in ctx.circuit.loads:
        multiple = load.starting_multiple or assumed_start(load.kind) or 1.0
        if multiple <= 1 or load.power_w is None:
            continue
        single = load.model_copy(update={"count": 1})
        own_current_a = ctx.rules.demand.circuit_current(
            ctx.circuit.model_copy(update={"loads": (single,)}), supplied
        ).current_a
        current = demand.current_a + (multiple - 1) * own_current_a
        if current > largest[0]:
            largest = (current, load, multiple)
    return largest


def _working(ctx: CircuitContext, demand: CircuitDemand, counted: SourcedValue) -> list[Step]:
    rating = ctx.device.rating_a
    steps = list(demand.steps())
    if counted.basis:
        steps.append(step("I", counted.basis, "", "", counted.value, "A", counted.source))
    meaning = ctx.message("core.check.overload.rating", device=ctx.device_name())
    return [*steps, step("In", meaning, ctx.message("core.formula.chosen"), f"{rating:g} A", rating, "A")]


def _rating(ctx: CircuitContext, key: str, limit_a: float) -> Message:
    return ctx.message(
        f"core.check.overload.{key}",
        rating=plain(ctx.device.rating_a),
        device=ctx.device_name(),
        limit=plain(limit_a),
    )


def _continuous_a(ctx: CircuitContext, supplied: CircuitSupply, factor: float) -> dict[Line, float]:
    """Current of each line [A], with loads that run for three hours or more counted by a factor."""
    by_line = dict.fromkeys(supplied.lines, 0.0)
    for load in ctx.circuit.loads:
        counted = factor if ctx.rules.limits.is_continuous(load.kind, load.continuous) else 1.0
        current = ctx.rules.demand.circuit_current(ctx.circuit.model_copy(update={"loads": (load,)}), supplied)
        for line in lines_of_load(load, supplied):
            by_line[line] += current.by_line[line] * duty_share(load) * counted
    return by_line
