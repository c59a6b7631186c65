"""Does the protective conductor stand the heat of an earth fault until the device trips, or is it of the size rules ask?"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import inf

from vivid_lattice.core.checks import capacity
from vivid_lattice.core.checks.support.fault_energy import assumed_fault, by_onsite_table
from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, standard_size, step
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.findings.verdict import VERDICT_ORDER
from vivid_lattice.core.formulas.cable.adiabatic import min_area_for_energy_mm2
from vivid_lattice.core.formulas.device.loop import fault_current_a
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.rules.protocol import Clearing
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain, shown, shown_up
from vivid_lattice.core.units import a_from_ma

ID = "protective-conductor"
#: The largest current that energy classes are tabulated for [A].
_MAX_A = 10_000.0


def check(ctx: CircuitContext) -> Finding:
    """The protective conductor there is, against the least there may be.

    Equation  S = √(I²·t) / k ≤ cross-section of the protective conductor, or the size the rule set tabulates for the line;
              in standards that go by the device, the size for its rating, enlarged with the line
    Source    the rule set's k tables, device tables and adiabatic rule
    The table is turned to where the calculation fails or cannot be made, the published on-site size behind a small breaker where its class's
    limit is passed. The fault is one at the end of the circuit. Close to the board the current is larger and shorter; there the energy the
    device lets through counts, which is the business of ``short-circuit-withstand``; ``design`` looks at it there too.
    """
    cable = chosen_cable(ctx.circuit)
    area = ctx.rules.cables.cpc_area_mm2(cable, ctx.loaded)
    material = ctx.rules.cables.kind(cable.type).material
    by_device = ctx.rules.earthing.protective_by_device_mm2(ctx.device.rating_a, material)
    if by_device is not None:
        return _by_device(ctx, area, by_device)
    by_line = ctx.rules.earthing.protective_mm2(cable.area_mm2)
    needs_no_sum = by_line is not None and by_line.value <= area.value and cable.cpc not in ("armour", "metal")
    try:
        by_sum = _by_sum(ctx, area)
    except NeedsInput:
        if by_line is None or not needs_no_sum:
            raise
        return _by_line(ctx, area, by_line)
    if by_line is not None and needs_no_sum and by_sum.verdict in ("fail", "advice"):
        return _by_line(ctx, area, by_line)
    return by_sum


def _by_sum(ctx: CircuitContext, area: SourcedValue) -> Finding:
    """By the adiabatic sum, for the fault at the end of the circuit."""
    places = _RING_PLACES if ctx.circuit.kind == "ring" else (_AT_THE_END,)
    if ctx.network.loops.is_measured(ctx.circuit):
        # Where the loop is known by a reading, it is somewhere within its uncertainty.
        places = (*places, *(replace(place, least=True) for place in places if not place.at_board))
    return min((_by_sum_at(ctx, area, place) for place in places), key=_hardest)


def next_to_board(ctx: CircuitContext) -> Finding | None:
    """The protective conductor against a fault next to the board, behind a breaker of a known energy class; None of other devices.

    The energy of such a breaker rises with the current, so that a fault there requires the most. On-site guidance chooses by it, and
    so does ``design``: a shorter run then never needs more than a longer one.
    """
    if ctx.rules.earthing.protective_by_device_mm2(ctx.device.rating_a, "copper") is not None:
        return None
    loops, cable = ctx.network.loops, chosen_cable(ctx.circuit)
    fault = fault_current_a(ctx.job.supply.nominal_v, loops.board_ohm(ctx.board))
    near = min(assumed_fault(ctx, fault)[0], _MAX_A)
    if ctx.rules.devices.class_row_a(ctx.device, near) is None:
        return None
    return _by_sum_at(ctx, ctx.rules.cables.cpc_area_mm2(cable, ctx.loaded), _NEAR, near)


def _hardest(finding: Finding) -> tuple[int, float]:
    return VERDICT_ORDER.index(finding.verdict), finding.margin or 0.0


@dataclass(frozen=True, slots=True)
class _Place:
    """Where the fault is, and what share of its current a leg of the conductor carries there."""

    key: str
    share: float
    at_board: bool
    least: bool = False


_AT_THE_END = _Place("at_end", 1.0, False)
_NEAR = _Place("at_board", 1.0, True)
#: At its middle a fault divides between the legs of a ring; next to the board all of it is in the nearer leg.
_RING_PLACES = (
    _Place("at_middle", 0.5, False),
    _NEAR,
)


def _by_sum_at(ctx: CircuitContext, area: SourcedValue, place: _Place, most_a: float = inf) -> Finding:
    cable, loops = chosen_cable(ctx.circuit), ctx.network.loops
    zs = loops.board_ohm(ctx.board) if place.at_board else loops.far_end_ohm(ctx.circuit)
    if place.least:
        zs = loops.least_far_end_ohm(ctx.circuit)
    fault, assumed = assumed_fault(ctx, fault_current_a(ctx.job.supply.nominal_v, zs))
    fault = min(fault, most_a)
    clearing, k = _clearing(ctx, fault), ctx.rules.cables.k_protective(cable)
    needed = min_area_for_energy_mm2(clearing.energy_a2s * place.share**2, k.value)

    def working() -> list[Step]:
        volts = ctx.job.supply.nominal_v
        current, time, energy = clearing.current_a, clearing.time_s, clearing.energy_a2s
        by_time = energy >= current**2 * time
        where = ctx.message(f"core.check.protective-conductor.fault_{place.key}")
        table = ctx.message("core.formula.table")
        instantaneous = ctx.message("core.check.protective-conductor.instantaneous")
        let_through = ctx.message("core.check.protective-conductor.energy")
        return [
            step("If", where, "Uo / Zs", f"{volts:g} / {shown(zs)}", fault, "A"),
            step("t", clearing.reason if by_time else instantaneous, table, "", time, "s", clearing.source),
            step(
                "I²t",
                let_through if by_time else clearing.reason,
                "I² · t" if by_time else ctx.message("core.check.protective-conductor.energy_table"),
                f"{shown(current)}² · {time:g}"
                if by_time
                else f"{shown(current)}² · {time:g} = {shown(current**2 * time)}",
                energy,
                "A²s",
                clearing.source,
            ),
            step("k", ctx.message("core.check.protective-conductor.k"), table, "", k.value, "A·√s/mm²", k.source),
            step(
                "S",
                ctx.message("core.check.protective-conductor.minimum"),
                "√(I²t) / k"
                if place.share == 1
                else ctx.message("core.check.protective-conductor.share", formula="√(I²t) / k"),
                f"{'' if place.share == 1 else f'{place.share:g} · '}√{shown(energy)} / {k.value:g}",
                needed,
                "mm²",
                ctx.rules.rule("adiabatic"),
            ),
            _there_is(area),
        ]

    sentence = ctx.message("core.check.protective-conductor.adiabatic", size=plain(area.value), needed=shown_up(needed))
    rule = ctx.rules.rule("adiabatic")
    finding = finding_from_limit(ID, ctx, needed, area.value, "mm²", sentence, rule, working, assumptions=assumed)
    return by_onsite_table(ctx, finding, area, fault)


def _there_is(area: SourcedValue) -> Step:
    meaning = message(None, "core.check.protective-conductor.has")
    if area.basis:
        meaning = message(None, "core.check.protective-conductor.has_basis", basis=area.basis)
    return step("Sp", meaning, message(None, "core.formula.table_or_stated"), "", area.value, "mm²", area.source)


def _by_line(ctx: CircuitContext, area: SourcedValue, least: SourcedValue) -> Finding:
    """By the table that needs no sum. A size of the table has nothing to spare by nature, so it is not called tight."""

    def working() -> list[Step]:
        meaning: Text = ctx.message(
            "core.check.protective-conductor.line_minimum", size=ctx.size(chosen_cable(ctx.circuit).area_mm2)
        )
        if least.basis:
            meaning = ctx.message("core.phrase.detail", text=meaning, detail=least.basis)
        table = ctx.message("core.formula.table")
        return [step("S", meaning, table, "", least.value, "mm²", least.source), _there_is(area)]

    sentence = ctx.message(
        "core.check.protective-conductor.by_line", size=ctx.size(area.value), least=ctx.size(least.value)
    )
    return standard_size(ID, ctx, least, area, sentence, working)


def _by_device(ctx: CircuitContext, area: SourcedValue, least: SourcedValue) -> Finding:
    """By the device's rating; a line larger than its device needs takes the protective conductor with it."""
    cable, upsized = chosen_cable(ctx.circuit), ctx.rules.earthing.upsized_with_line()
    needed, grown = min(least.value, cable.area_mm2), 1.0
    smallest = _smallest_line_mm2(ctx)
    if upsized is not None and smallest is not None and cable.area_mm2 > smallest:
        grown = cable.area_mm2 / smallest
        needed = min(needed * grown, cable.area_mm2)

    def working() -> list[Step]:
        table = ctx.message("core.formula.table")
        of_device = ctx.message("core.check.protective-conductor.device_minimum", device_range=least.basis)
        steps = [step("S", of_device, table, "", least.value, "mm²", least.source)]
        if grown > 1 and upsized is not None and smallest is not None:
            figures = f"{shown(least.value)} · {shown(cable.area_mm2)} / {shown(smallest)}"
            meaning = ctx.message(
                "core.check.protective-conductor.upsized", a=ctx.size(smallest), b=ctx.size(cable.area_mm2)
            )
            steps.append(step("S", meaning, "min(S · A / Amin, A)", figures, needed, "mm²", upsized.source))
        return [*steps, _there_is(area)]

    sentence = ctx.message(
        "core.check.protective-conductor.by_device",
        size=ctx.size(area.value),
        needed=ctx.size(needed),
        device=ctx.device_name(),
    )
    return standard_size(ID, ctx, SourcedValue(needed, least.source), area, sentence, working)


def _smallest_line_mm2(ctx: CircuitContext) -> float | None:
    """The smallest conductor of the cable that its device could have was ahead of, by capacity; None where none could."""
    cable = chosen_cable(ctx.circuit)
    for area in ctx.rules.cables.kind(cable.type).sizes_mm2:
        if area > cable.area_mm2:
            return None
        smaller = ctx.circuit.model_copy(update={"cable": cable.model_copy(update={"area_mm2": area})})
        try:
            finding = capacity.check(CircuitContext(ctx.network, smaller, explain=False))
        except NeedsInput:
            continue
        if finding.verdict in ("pass", "tight"):
            return area
    return None


def _clearing(ctx: CircuitContext, fault_a: float) -> Clearing:
    """By the overcurrent device; where the fault is too small for it, by the nearest RCD that trips."""
    try:
        return ctx.rules.devices.clearing(ctx.device, fault_a)
    except NotTabulated as overcurrent_refused:
        for ahead in ctx.network.tree.rcds_ahead(ctx.circuit):
            try:
                opens = ctx.rules.devices.rcd_time_s(ahead.rcd, fault_a / a_from_ma(ahead.rcd.idn_ma))
            except NotTabulated:
                continue
            return Clearing(
                current_a=fault_a,
                time_s=opens.value,
                energy_a2s=fault_a**2 * opens.value,
                source=opens.source,
                reason=ctx.message(
                    "core.check.protective-conductor.by_rcd", idn=plain(ahead.rcd.idn_ma), condition=opens.basis
                ),
            )
        raise NeedsInput(*overcurrent_refused.needs) from overcurrent_refused
