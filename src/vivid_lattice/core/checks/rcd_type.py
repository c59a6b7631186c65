"""Does each residual-current device see what its loads can leak?"""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from vivid_lattice.core.checks.support.finding_builder import not_applicable, step
from vivid_lattice.core.checks.support.labels import rcd_label
from vivid_lattice.core.checks.support.load_rcd_type import TYPE_BY_DC, type_of_load
from vivid_lattice.core.document.energy_source import EnergySource
from vivid_lattice.core.document.feeds import loads_of
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.document.rcd import RCD_TYPES
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Assumption, Cause, CauseSubject, Finding, Step
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.sources import Source

ID = "rcd-type"


def check(ctx: CircuitContext) -> Finding:
    """The type of every residual-current device ahead against the loads behind it.

    Equation  type ≥ least type of each load: AC where nothing but alternating current leaks (and the rule set still takes it),
              A for pulsating direct, F for a single-phase converter, B for smooth direct that is not detected at 6 mA
    Source    the rule set's type rules; what a load leaks: as stated, else the usual of its kind (common practice)
    The nearest device has to see this circuit's loads; those further ahead must not be blinded by them.
    """
    _ = ctx.device  # it may have a residual-current part of its own
    places = ctx.network.rcds.ahead_of(ctx.circuit)
    if not places:
        return not_applicable(ID, ctx, ctx.message("core.check.rcd-type.none"))
    if ctx.rules.protection.alternating_only[0] == "yes":
        return not_applicable(ID, ctx, ctx.message("core.check.rcd-type.no_types"))
    circuits = (ctx.circuit, *ctx.network.tree.fed_through(ctx.circuit))
    asked = min_type(ctx, circuits)
    wrong = _wrong(ctx, places, asked)
    worst = wrong[0] if wrong else places[0]
    steps = _working(ctx, circuits, places) if ctx.explain else ()
    assumed = _assumed(ctx, circuits) if asked != "B" and any(place.rcd.type != "B" for place in places) else ()
    verdict: Verdict = "fail" if wrong else "advice" if assumed else "pass"
    text, source = (
        _answer(ctx, asked, worst, assumed=bool(assumed))
        if not wrong
        else _lack(ctx, circuits, asked, worst, nearest=worst is places[0])
    )
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=verdict,
        sentence=text,
        value=None,
        limit=None,
        unit="",
        shown_value=f"{worst.rcd.type}",
        shown_limit=f"{asked}",
        margin=None,
        rule=source,
        working=steps,
        assumptions=assumed,
        cause=None if worst.own_device is not None else Cause(ID, CauseSubject("rcd", worst.id)),
    )


def _answer(ctx: CircuitContext, asked: str, nearest: RcdPlace, *, assumed: bool) -> tuple[Message, Source]:
    """What is said where every type is enough, and the rule."""
    key = "assumed" if assumed else "pass"
    text = ctx.message(f"core.check.rcd-type.{key}", rcd=rcd_label(ctx, nearest), type=asked)
    return text, ctx.rules.protection.source("type")


def _lack(
    ctx: CircuitContext, circuits: Sequence[Circuit], asked: str, worst: RcdPlace, *, nearest: bool
) -> tuple[Message, Source]:
    """What is said of a device whose type is not enough, and the rule it breaks."""
    name, rules = rcd_label(ctx, worst), ctx.rules.protection
    if not nearest:
        return ctx.message("core.check.rcd-type.blinded", rcd=name), rules.source("order")
    source = rules.alternating_only[1] if worst.rcd.type == "AC" else rules.source("type")
    if worst.rcd.type == "AC" and needs_only_ac(ctx, circuits):
        return ctx.message("core.check.rcd-type.no_ac", rcd=name, type=asked), source
    return ctx.message("core.check.rcd-type.fail", rcd=name, type=asked), source


def needs_only_ac(ctx: CircuitContext, circuits: Iterable[Circuit]) -> bool:
    """Whether nothing of the loads leaks direct current."""
    return all(type_of_load(ctx, circuit, load) == "AC" for circuit in circuits for load in loads_of(circuit))


def min_type(ctx: CircuitContext, circuits: Iterable[Circuit]) -> str:
    """The least type that sees all loads of some circuits, and that the rule set still takes."""
    circuits = tuple(circuits)
    required = [type_of_load(ctx, circuit, load) for circuit in circuits for load in loads_of(circuit)]
    required += [_of_source(ctx, circuit, circuit.source) for circuit in circuits if circuit.source is not None]
    worst = max(required, key=RCD_TYPES.index, default="A")
    allowed, _ = ctx.rules.protection.alternating_only
    if worst == "AC" and allowed == "never":
        return "A"
    return worst


def _of_source(ctx: CircuitContext, circuit: Circuit, source: EnergySource) -> str:
    """The type that a source requires by its direct current. NeedsInput while its data are not read."""
    if source.dc_residual is None:
        raise NeedsInput(ctx.need("core.check.rcd-type.need.source", "source.dc_residual", circuit=circuit.name))
    return TYPE_BY_DC[source.dc_residual]


def _assumed(ctx: CircuitContext, circuits: Iterable[Circuit]) -> tuple[Assumption, ...]:
    """Charging points of which no one has stated whether they detect 6 mA d.c.: the usual circuit does."""
    unstated = [
        load
        for circuit in circuits
        for load in loads_of(circuit)
        if load.kind == "charger" and load.dc_residual is None
    ]
    return (Assumption("loads.dc_residual", "smooth-detected", "common practice, no source"),) if unstated else ()


def _wrong(ctx: CircuitContext, places: tuple[RcdPlace, ...], asked: str) -> list[RcdPlace]:
    """Devices that do not do: the nearest where it sees too little, one further ahead where it would be blinded."""
    wrong = [places[0]] if RCD_TYPES.index(places[0].rcd.type) < RCD_TYPES.index(asked) else []
    if asked == "B":
        wrong += [place for place in places[1:] if place.rcd.type != "B"]
    return wrong


def _load_steps(ctx: CircuitContext, circuits: Iterable[Circuit]) -> list[Step]:
    steps = []
    for circuit, load in [(each, load) for each in circuits for load in loads_of(each)]:
        leak = ctx.rules.protection.residual(load)
        key = "load_converter" if load.frequency_converter else "load"
        words = ctx.message(
            f"core.check.rcd-type.{key}", load=load.name, kind=ctx.message(f"core.check.rcd-type.dc.{leak.dc}")
        )
        how = ctx.message("core.formula.as_stated" if load.dc_residual else "core.formula.typical")
        source: Source | None = None if load.dc_residual else leak.source
        steps.append(
            Step(
                symbol="",
                meaning=words,
                formula=how,
                figures="",
                result=0.0,
                unit="",
                shown=ctx.message("core.check.rcd-type.type", type=type_of_load(ctx, circuit, load)),
                source=source,
            )
        )
    return steps


def _place_step(ctx: CircuitContext, place: RcdPlace) -> Step:
    type_ = ctx.message("core.check.rcd-type.type", type=place.rcd.type)
    return step("IΔn", rcd_label(ctx, place), ctx.message("core.formula.as_stated"), type_, place.rcd.idn_ma, "mA")


def _working(ctx: CircuitContext, circuits: Sequence[Circuit], places: Sequence[RcdPlace]) -> tuple[Step, ...]:
    return (*_load_steps(ctx, circuits), *(_place_step(ctx, place) for place in places))
