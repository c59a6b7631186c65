"""What a clean earth of outlets requires: it is their protective conductor, so its size, its end and its marking are judged."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from vivid_lattice.core.checks.support.conductor_size import sold_mm2
from vivid_lattice.core.checks.support.requirements import RequirementResult
from vivid_lattice.core.document.clean_earth import CleanEarth
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.rules.protocol import CleanEarthRule
from vivid_lattice.core.units import SLACK


def clean_earth_requirements(ctx: CircuitContext, earth: CleanEarth) -> Iterable[RequirementResult]:
    """Its results; NeedsInput where something is not known, NotTabulated where the standard's data has no rule of it.

    Equation  size ≥ copper equivalent of the protective conductors it takes the place of, on its whole way, so that the fault loop is no
              larger through it
    """
    rule = ctx.rules.earthing.clean_earth()
    if rule is None:
        text = ctx.message("core.check.clean-earth.unavailable", standard=ctx.rules.title)
        raise NotTabulated(text, path="job.rules")
    return [*_size(ctx, earth, rule), *_end(ctx, earth, rule), *_marking(ctx, earth, rule)]


def _needs(ctx: CircuitContext, field: str) -> NeedsInput:
    return NeedsInput(ctx.need(f"core.check.clean-earth.need.{field}", f"clean_earth.{field}", name=ctx.circuit.name))


def _size(ctx: CircuitContext, earth: CleanEarth, rule: CleanEarthRule) -> Iterator[RequirementResult]:
    if earth.area_mm2 is None:
        raise _needs(ctx, "area_mm2")
    if earth.ends_at is None:
        raise _needs(ctx, "ends_at")
    ways = [ctx.circuit, *(_feeders(ctx) if earth.ends_at == "main-earth" else ())]
    least = max(_copper_mm2(ctx, way) for way in ways)
    size = ctx.rules.cables.size_label
    yield RequirementResult(
        verdict="pass" if earth.area_mm2 >= least - SLACK else "fail",
        text=ctx.message("core.check.clean-earth.size", size=size(earth.area_mm2), least=size(sold_mm2(ctx, least))),
        value=least,
        limit=earth.area_mm2,
        source=rule.source,
        unit="mm²",
    )


def _feeders(ctx: CircuitContext) -> Iterator[Circuit]:
    feeder = ctx.network.tree.feeder(ctx.board)
    while feeder is not None:
        yield feeder
        feeder = ctx.network.tree.feeder(ctx.network.tree.place(feeder).board)


def _copper_mm2(ctx: CircuitContext, circuit: Circuit) -> float:
    """The copper that conducts as well as the protective conductor of a circuit [mm²]."""
    cables, cable = ctx.rules.cables, chosen_cable(circuit)
    line_mohm = cables.line_mohm_per_m(cable).value
    cpc_mohm = cables.cpc_mohm_per_m(cable, ctx.network.tree.loaded(circuit)).value
    equal_mm2 = cable.area_mm2 * line_mohm / cpc_mohm
    # A copper conductor of a standard size is that size: the two resistances of a table are rounded apart.
    stated = cables.cpc_area_mm2(cable, ctx.network.tree.loaded(circuit)).value
    return stated if cable.cpc in ("included", "core", "separate") else equal_mm2


def _end(ctx: CircuitContext, earth: CleanEarth, rule: CleanEarthRule) -> Iterator[RequirementResult]:
    """It ends in the building of its outlets: taken to another one, it would bring the earth of that one with it."""
    local = ctx.board.earthing
    elsewhere = local is not None and local.kind != "same-building"
    unknown = local is None and ctx.network.tree.feeder(ctx.board) is not None
    if earth.ends_at == "main-earth" and unknown:
        raise NeedsInput(ctx.need("core.check.local-earthing.need", "boards.earthing", name=ctx.board.name))
    leaves = earth.ends_at == "main-earth" and elsewhere
    key = "leaves" if leaves else f"ends_{'board' if earth.ends_at == 'board' else 'main'}"
    verdict: Verdict = "fail" if leaves else "pass"
    text = ctx.message(f"core.check.clean-earth.{key}", board=ctx.board.name)
    yield RequirementResult(verdict=verdict, text=text, value=0.0, limit=0.0, source=rule.source)


def _marking(ctx: CircuitContext, earth: CleanEarth, rule: CleanEarthRule) -> Iterator[RequirementResult]:
    if earth.marked is None:
        raise _needs(ctx, "marked")
    verdict: Verdict = "pass" if earth.marked else "fail" if rule.marking_required else "advice"
    text = ctx.message(f"core.check.clean-earth.{'marked' if earth.marked else 'not_marked'}", marking=rule.marking)
    yield RequirementResult(verdict=verdict, text=text, value=0.0, limit=0.0, source=rule.source)
