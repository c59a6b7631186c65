"""Do the conductors from the meter to the first board suit what is upstream of them: size, material, length, fault?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_known_requirements
from vivid_lattice.core.document.job import Cable
from vivid_lattice.core.document.supply import CutOut, Tails
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings.finding import Assumption, Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.formulas.cable.adiabatic import min_area_for_energy_mm2
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.network.upstream import as_device
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK

ID = "tails"


@dataclass(frozen=True, slots=True)
class _Line:
    """The line conductors of the tails: the cable they count as, what they carry [A], the factor on its k."""

    cable: Cable
    capacity: SourcedValue
    k_share: float


def check(ctx: SupplyContext) -> Finding:
    """The current-carrying capacity of the tails against the device upstream of them, their length, and their withstand in a fault.

    Equation  share · In ≤ f · Iz;  length ≤ the standard's limit;  I²t ≤ k²S²
    Source    the rule set's tables of single cores; its rule of length; IEC 60364-4-43, 433.2.2, 434.5.2 and 435.1
    A device of their own beside the meter takes the place of the cut-out. Where no let-through energy is tabulated, a device that
    protects them against overload is taken to protect them in a short circuit too (435.1).
    """
    tails = ctx.job.supply.tails
    if tails is None:
        raise NeedsInput(ctx.need("core.check.conductor.need.tails", "supply.tails"))
    upstream = _upstream(ctx, tails)
    line = _line(ctx, tails)
    parts = (
        lambda: [_overload(ctx, tails, upstream, line)],
        lambda: list(_length(ctx, tails, upstream, line)),
        lambda: list(_withstand(ctx, upstream, line)),
    )
    return finding_from_known_requirements(ID, ctx, parts, _assumptions(tails))


def _assumptions(tails: Tails) -> tuple[Assumption, ...]:
    if tails.material is not None:
        return ()
    return (Assumption("supply.tails.material", "copper", "common practice, no source"),)


def _upstream(ctx: SupplyContext, tails: Tails) -> CutOut:
    upstream = tails.device or ctx.job.supply.cutout
    if upstream is None:
        raise NeedsInput(ctx.need("core.check.demand.need.cutout", "supply.cutout"))
    return upstream


def _line(ctx: SupplyContext, tails: Tails) -> _Line:
    """The tails as a cable of the standard; aluminium by its own table, else as a share of copper."""
    rules, loaded = ctx.rules, 3 if ctx.job.supply.phases == 3 else 2
    usual = Cable(type=rules.tails_cable, area_mm2=tails.area_mm2, cpc="separate")
    if tails.material != "aluminium":
        return _Line(usual, _capacity(ctx, usual, loaded), 1.0)
    kinds = rules.cables.kinds.values()
    metal = next((kind for kind in kinds if kind.material == "aluminium" and rules.tails_method in kind.methods), None)
    if metal is not None:
        cable = usual.model_copy(update={"type": metal.id})
        return _Line(cable, _capacity(ctx, cable, loaded), 1.0)
    copper, share = _capacity(ctx, usual, loaded), rules.tails.aluminium_capacity
    how = ctx.message("core.check.tails.aluminium", share=plain(share), a=plain(copper.value))
    return _Line(usual, SourcedValue(share * copper.value, rules.tails.aluminium_source, how), rules.tails.aluminium_k)


def _capacity(ctx: SupplyContext, cable: Cable, loaded: int) -> SourcedValue:
    carries = ctx.rules.cables.capacity_a(cable, ctx.rules.tails_method, loaded)
    rating = ctx.job.supply.cutout.rating_a if ctx.job.supply.cutout else 100.0
    ceiling = ctx.rules.cables.terminal_ceiling(cable, rating, ctx.job.settings.terminals_c)
    return ceiling if ceiling is not None and ceiling.value < carries.value else carries


def _needed_a(ctx: SupplyContext, upstream: CutOut) -> float:
    """Capacity that the device upstream requires [A]."""
    kind = ctx.rules.devices.kind(upstream.kind)
    return upstream.rating_a * ctx.rules.tails.rating_share / kind.overload_factor


def _overload(ctx: SupplyContext, tails: Tails, upstream: CutOut, line: _Line) -> RequirementResult:
    needed, size = _needed_a(ctx, upstream), ctx.rules.cables.size_label(tails.area_mm2)
    words = ctx.message(
        "core.check.tails.capacity",
        size=size,
        metal=tails.material or "none",
        iz=shown_down(line.capacity.value),
        min=shown_up(needed),
        rating=plain(upstream.rating_a),
    )
    if needed <= line.capacity.value + SLACK:
        return RequirementResult(
            verdict="pass", text=words, value=needed, limit=line.capacity.value, source=line.capacity.source, unit="A"
        )
    if ctx.rules.tails.load_end is not None and upstream.rating_a <= line.capacity.value + SLACK:
        most = ctx.message("core.check.tails.load_end", capacity=words, max=shown_down(line.capacity.value))
        return RequirementResult(
            verdict="advice",
            text=most,
            value=needed,
            limit=line.capacity.value,
            source=ctx.rules.tails.load_end,
            unit="A",
        )
    return RequirementResult(
        verdict="fail", text=words, value=needed, limit=line.capacity.value, source=line.capacity.source, unit="A"
    )


def _length(ctx: SupplyContext, tails: Tails, upstream: CutOut, line: _Line) -> Iterator[RequirementResult]:
    rules = ctx.rules.tails
    if rules.max_m is None or tails.device is not None:
        return
    protected = _needed_a(ctx, upstream) <= line.capacity.value + SLACK
    if protected and not rules.max_m_always:
        return
    if tails.length_m is None:
        raise NeedsInput(ctx.need("core.check.tails.need.length", "supply.tails.length_m"))
    words = ctx.message("core.check.tails.length", m=shown_up(tails.length_m), max=plain(rules.max_m))
    verdict: Verdict = "pass" if tails.length_m <= rules.max_m + SLACK else "fail"
    yield RequirementResult(
        verdict=verdict, text=words, value=tails.length_m, limit=rules.max_m, source=rules.max_m_source, unit="m"
    )


def _withstand(ctx: SupplyContext, upstream: CutOut, line: _Line) -> Iterator[RequirementResult]:
    """The energy of a fault at the origin against the conductor; by the overload device where no energy is tabulated."""
    none = ctx.rules.limits.no_withstand
    if none is not None:
        return
    protected = _needed_a(ctx, upstream) <= line.capacity.value + SLACK
    fuse = ctx.rules.devices.kind(upstream.kind).action == "fuse"
    fault = or_none(lambda: ctx.network.loops.ahead.fault_a)
    energy = _energy(ctx, upstream, fault) if fuse and fault is not None else None
    area = line.cable.area_mm2
    if energy is not None:
        k = ctx.rules.cables.k_live(line.cable)
        needed = min_area_for_energy_mm2(energy.value, k.value * line.k_share)
        words = ctx.message(
            "core.check.tails.withstand", size=ctx.rules.cables.size_label(area), needed=shown_up(needed)
        )
        yield RequirementResult(
            verdict="pass" if needed <= area + SLACK else "fail",
            text=words,
            value=needed,
            limit=area,
            source=energy.source,
            unit="mm²",
        )
    elif protected:
        words = ctx.message("core.check.tails.protected", rating=plain(upstream.rating_a))
        source: Source = ctx.rules.tails.in_short_circuit
        yield RequirementResult(
            verdict="pass",
            text=words,
            value=_needed_a(ctx, upstream),
            limit=line.capacity.value,
            source=source,
            unit="A",
        )
    elif fault is None:
        raise NeedsInput(ctx.need("core.check.tails.need.fault", "supply.fault_current_ka"))


def _energy(ctx: SupplyContext, upstream: CutOut, fault_a: float) -> SourcedValue | None:
    """Let-through energy of the fuse upstream [A²s]; None where the table has no row for it."""
    try:
        return ctx.rules.devices.let_through(as_device(upstream), fault_a)
    except NotTabulated:
        return None
