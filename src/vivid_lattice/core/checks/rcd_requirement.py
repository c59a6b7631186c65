"""Is a residual-current device demanded, why, and is one there?"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from math import inf

from vivid_lattice.core.checks.support.finding_builder import missing, not_applicable
from vivid_lattice.core.checks.support.labels import rcd_label
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.feeds import feeds_kind, feeds_lights, feeds_sockets, loads_of, served_by
from vivid_lattice.core.document.job import Load, Section
from vivid_lattice.core.document.local_device import LocalDevice
from vivid_lattice.core.entry.appliance import appliance_of
from vivid_lattice.core.errors import Need
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Joined, Message, Text
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.rules.protection_rules import RcdRequirement
from vivid_lattice.core.text import plain

ID = "rcd-duty"

#: Where an RCD of a circuit may be, nearest the source first; each protects what is downstream of it.
PLACES = ("board", "midway", "outlet")


@dataclass(frozen=True, slots=True)
class _RequirementState:
    """A duty that holds for a circuit: True, False, or None while an input is missing (which one)."""

    duty: RcdRequirement
    holds: bool | None
    need: Need | None = None


def check(ctx: CircuitContext) -> Finding:
    """Every duty of the rule set against what the circuit feeds and how it runs; then whether a device meets it.

    Source  the rule set's duties, each with its clause
    With a device ahead that meets the strictest duty there can be, nothing more need be known; without one, an input that
    would decide (how deep the cable is hidden) is missing and not a pass.
    """
    if ctx.circuit.kind == "distribution":
        return _feeder(ctx)
    asked = [_state_of(ctx, duty) for duty in ctx.network.rcds.duties]
    holding = [state.duty for state in asked if state.holds]
    places = ctx.network.rcds.ahead_of(ctx.circuit)
    best = min(places, key=lambda place: place.rcd.idn_ma, default=None)
    if best is None:
        _ = ctx.device  # while it is left open it is not known whether it will have a residual-current part
    if any(device.rcd is not None for device in ctx.circuit.local_devices) and _fits_none(ctx, holding, places):
        return _with_local(ctx, asked, places)
    if not holding:
        return _none_holds(ctx, asked, best)
    steps = _working(ctx, holding, asked, places) if ctx.explain else ()
    duty = min(holding, key=lambda item: item.most_ma)
    why = Joined.of(requirement.text for requirement in holding)
    fit = _fit(ctx, duty, places)
    if fit is None:
        return _finding(ctx, duty, "fail", _not_met(ctx, duty, why, best), best, steps)
    text = ctx.message("core.check.rcd-duty.pass", idn=plain(duty.most_ma), reasons=why, rcd=rcd_label(ctx, fit))
    return _finding(ctx, duty, "pass", text, fit, steps)


def _fits_none(ctx: CircuitContext, holding: Sequence[RcdRequirement], places: Sequence[RcdPlace]) -> bool:
    """Whether no device of a board meets the strictest requirement that holds."""
    return not holding or _fit(ctx, min(holding, key=lambda duty: duty.most_ma), places) is None


def _with_local(ctx: CircuitContext, asked: list[_RequirementState], places: tuple[RcdPlace, ...]) -> Finding:
    """Requirement by requirement, where a device along the cable or at an outlet may meet some that no device of a board meets.

    One that is not decided yet is missing only where no local device would be enough for it.
    """
    holding = [state.duty for state in asked if state.holds]
    unmet = [duty for duty in holding if _fit(ctx, duty, places) is None and _local_fit(ctx, duty) is None]
    steps = _working(ctx, holding, asked, places) if ctx.explain else ()
    best = min(places, key=lambda place: place.rcd.idn_ma, default=None)
    if unmet:
        duty = min(unmet, key=lambda item: item.most_ma)
        why = Joined.of(requirement.text for requirement in unmet)
        return _finding(ctx, duty, "fail", _not_met(ctx, duty, why, best, local=True), best, steps)
    open_ = [state for state in asked if state.holds is None and _local_fit(ctx, state.duty) is None]
    if open_:
        return missing(ID, ctx, tuple(state.need for state in open_ if state.need))
    if not holding:
        return _none_holds(ctx, [], best)
    duty = min(holding, key=lambda item: item.most_ma)
    devices = [device for duty_ in holding if (device := _local_fit(ctx, duty_)) is not None]
    text = ctx.message(
        "core.check.rcd-duty.pass_local",
        idn=plain(duty.most_ma),
        reasons=Joined.of(requirement.text for requirement in holding),
        devices=Joined.of(dict.fromkeys(_local_label(ctx, device) for device in devices)),
    )
    return _finding(ctx, duty, "pass", text, best, steps)


def _local_fit(ctx: CircuitContext, duty: RcdRequirement) -> LocalDevice | None:
    """A local device that meets a requirement: at a place that it permits, small enough, with every load behind it that gives rise to it."""
    concerned = [load for load in loads_of(ctx.circuit) if _gives_rise(ctx, duty, load)]
    for device in ctx.circuit.local_devices:
        if device.rcd is None or device.rcd.idn_ma > duty.most_ma or device.place not in duty.places:
            continue
        served = served_by(ctx.circuit, device)
        if all(load in served for load in concerned):
            return device
    return None


def _gives_rise(ctx: CircuitContext, duty: RcdRequirement, load: Load) -> bool:
    """Whether a load may be what gives rise to a requirement; of one that the cable or the supply gives rise to, every load."""
    rooms = ctx.network.tree.rooms
    room = rooms[load.room].kind if load.room else None
    is_socket = load.kind == "socket" or load.with_socket
    by_when = {
        "sockets": is_socket,
        "lights": load.kind == "lamp",
        "rooms": (room is None or room in duty.rooms) and (is_socket or not duty.only_sockets),
        "outdoors": room is None or room == "outdoors",
        "charger": load.kind == "charger",
        "loads": load.kind in duty.kinds or appliance_of(load, ctx.rules) in duty.appliances,
    }
    return by_when.get(duty.when, True)


def _local_label(ctx: CircuitContext, device: LocalDevice) -> Message:
    assert device.rcd is not None
    return ctx.message(
        "core.check.rcd-duty.local",
        rcd=ctx.rules.bands.rcd_name(device.rcd),
        name=device.name,
        place=ctx.message(f"core.check.rcd-duty.local_{device.place}"),
    )


def _fit(ctx: CircuitContext, duty: RcdRequirement, places: Sequence[RcdPlace]) -> RcdPlace | None:
    """A device upstream that meets a requirement: of the circuit alone, where that is required."""

    def alone(place: RcdPlace) -> bool:
        return place.own_device is not None or len(ctx.network.rcds.final_behind(place)) == 1

    small = (place for place in places if place.rcd.idn_ma <= duty.most_ma)
    return next((place for place in small if alone(place) or not duty.own_device), None)


def _not_met(
    ctx: CircuitContext, duty: RcdRequirement, why: Joined, best: RcdPlace | None, *, local: bool = False
) -> Message:
    fitted = ctx.message(f"core.check.rcd-duty.{'local_only' if local else 'absent'}")
    if best is not None:
        fitted = ctx.message("core.check.rcd-duty.insufficient", rcd=rcd_label(ctx, best))
    fail = ctx.message("core.check.rcd-duty.fail", idn=plain(duty.most_ma), reasons=why, fitted=fitted)
    if not duty.lifted or duty.lifted == "nothing":
        return fail
    return ctx.message("core.check.rcd-duty.exemption", fail=fail, exemption=duty.lifted)


def _feeder(ctx: CircuitContext) -> Finding:
    """A feeder has no duty of its own but that of its cable and of TT."""
    asked = [_state_of(ctx, duty) for duty in ctx.network.rcds.duties if duty.when == "tt"]
    holding = [state.duty for state in asked if state.holds]
    if not holding:
        return not_applicable(ID, ctx, ctx.message("core.check.rcd-duty.feeder_none"))
    places = ctx.network.rcds.ahead_of(ctx.circuit)
    duty = holding[0]
    fit = next((place for place in places if place.rcd.idn_ma <= duty.most_ma), None)
    steps = _working(ctx, holding, asked, places) if ctx.explain else ()
    if fit is None:
        text = ctx.message("core.check.rcd-duty.feeder_fail", reason=duty.text)
        return _finding(ctx, duty, "fail", text, None, steps)
    text = ctx.message("core.check.rcd-duty.feeder_pass", reason=duty.text, rcd=rcd_label(ctx, fit))
    return _finding(ctx, duty, "pass", text, fit, steps)


def _finding(
    ctx: CircuitContext,
    duty: RcdRequirement,
    verdict: Verdict,
    text: Text,
    place: RcdPlace | None,
    steps: tuple[Step, ...],
) -> Finding:
    value = place.rcd.idn_ma if place else None
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=verdict,
        sentence=text,
        value=value,
        limit=duty.most_ma,
        unit="mA",
        shown_value=f"{value:g}" if value is not None else str(ctx.message("core.check.rcd-duty.no_value")),
        shown_limit=f"{duty.most_ma:g}",
        margin=None,
        rule=duty.source,
        working=steps,
    )


def _working(
    ctx: CircuitContext, holding: list[RcdRequirement], asked: list[_RequirementState], places: tuple[RcdPlace, ...]
) -> tuple[Step, ...]:
    steps = []
    for requirement_state in asked:
        state = {True: "applies", False: "applies_not", None: "applies_unknown"}[requirement_state.holds]
        steps.append(
            Step(
                symbol="",
                meaning=requirement_state.duty.text,
                formula="",
                figures="",
                result=requirement_state.duty.most_ma,
                unit="",
                shown=ctx.message(f"core.check.rcd-duty.{state}"),
                source=requirement_state.duty.source,
            )
        )
    steps += [
        Step(
            symbol="IΔn",
            meaning=rcd_label(ctx, place),
            formula=ctx.message("core.formula.as_stated"),
            figures="",
            result=place.rcd.idn_ma,
            unit="mA",
            shown=f"{place.rcd.idn_ma:g}",
        )
        for place in places
    ]
    allowed = [set(requirement.places) for requirement in holding]
    fits = set.intersection(*allowed) if allowed else set()
    return (*steps, *(_place_step(ctx, name, fits=name in fits) for name in PLACES if holding))


def _place_step(ctx: CircuitContext, place: str, *, fits: bool) -> Step:
    """What a place protects, and whether the requirements permit it."""
    return Step(
        symbol="",
        meaning=ctx.message(f"core.check.rcd-duty.place.{place}"),
        formula="",
        figures="",
        result=0.0,
        unit="",
        shown=ctx.message(f"core.check.rcd-duty.{'place_ok' if fits else 'place_not'}"),
    )


def _state_of(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    asked = _WHEN[duty.when](ctx, duty)
    loads = loads_of(ctx.circuit)
    if asked.holds is False or not _may_be_exempt(duty, loads):
        return asked
    # Exempt by its kind, where its manufacturer states that it may be.
    if all(load.rcd_exempt for load in loads):
        return _RequirementState(duty, False)
    unknown = next((load for load in loads if load.rcd_exempt is None), None)
    if unknown is None or asked.holds is None:
        return asked
    return _RequirementState(duty, None, _exemption_need(ctx, unknown))


def _exemption_need(ctx: CircuitContext, load: Load) -> Need:
    what = ctx.message("core.check.rcd-duty.need.exempt.what", load=load.name)
    return Need(what, "loads.rcd_exempt", ctx.message("core.check.rcd-duty.need.exempt.ask"))


def _sockets(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    return _RequirementState(duty, feeds_sockets(ctx.circuit) and _small(ctx, duty))


def _small(ctx: CircuitContext, duty: RcdRequirement) -> bool:
    """Whether the circuit's device is within what the duty names."""
    return duty.upto_a is None or ctx.device.rating_a <= duty.upto_a


def _lights(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    return _RequirementState(duty, feeds_lights(ctx.circuit))


def _in_rooms(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    rooms = ctx.network.tree.rooms
    loads = [load for load in loads_of(ctx.circuit) if not duty.only_sockets or load.kind == "socket"]
    inside = [load for load in loads if load.room and rooms[load.room].kind in duty.rooms]
    if inside or not any(load.room is None for load in loads):
        return _RequirementState(duty, bool(inside))
    return _RequirementState(duty, None, _room_need(ctx, loads))


def _room_need(ctx: CircuitContext, loads: list[Load]) -> Need:
    name = next(load.name for load in loads if load.room is None)
    what = ctx.message("core.check.rcd-duty.need.room.what", load=name, circuit=ctx.circuit.name)
    return Need(what, "loads.room", ctx.message("core.check.rcd-duty.need.room.ask"))


def _outdoors(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    rooms = ctx.network.tree.rooms
    loads = [load for load in loads_of(ctx.circuit) if not duty.mobile_only or _is_mobile(load)]
    outside = any(load.room and rooms[load.room].kind == "outdoors" for load in loads)
    return _RequirementState(duty, outside and _small(ctx, duty))


def _is_mobile(load: Load) -> bool:
    """Whether a load is plugged in, or is a socket for one that is."""
    return load.kind == "socket" or load.with_socket or (load.position is not None and not load.position.fixed)


def _kinds(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    named = bool(duty.appliances) and any(
        appliance_of(load, ctx.rules) in duty.appliances for load in loads_of(ctx.circuit)
    )
    return _RequirementState(duty, named or feeds_kind(ctx.circuit, *duty.kinds))


def _charger(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    return _RequirementState(duty, feeds_kind(ctx.circuit, "charger"))


def _fire(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    rooms = ctx.network.tree.rooms
    return _RequirementState(duty, any(load.room and rooms[load.room].fire_risk for load in ctx.circuit.loads))


def _final(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    return _RequirementState(duty, True)


def _tt(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    return _RequirementState(duty, ctx.network.tree.earth_of(ctx.circuit).system == "TT")


def _covered(ctx: CircuitContext, section: Section) -> bool:
    """Whether earthed metal is round the cable: armour that serves or is there, conduit, or in the ground."""
    cable = ctx.circuit.cable
    armoured = not is_auto(cable) and "armour" in ctx.rules.cables.kind(cable.type).cpc_choices
    metal = not is_auto(cable) and cable.cpc == "metal"
    return (
        section.earthed_metal_covering
        or armoured
        or metal
        or ctx.rules.factors.methods[section.method].medium == "ground"
    )


def _concealed(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    bare = [section for section in ctx.circuit.run if not _covered(ctx, section)]
    depths = [_depth_mm(section) for section in bare]
    if any(depth is not None and depth < (duty.depth_mm or 0.0) for depth in depths):
        return _RequirementState(duty, True)
    return _RequirementState(duty, None, _depth_need(ctx)) if None in depths else _RequirementState(duty, False)


def _depth_mm(section: Section) -> float | None:
    """How deep a section is concealed in a wall [mm], infinite where it is not in a wall; None where not known."""
    if section.concealed_in is None:
        return None
    return section.depth_mm if section.concealed_in == "wall" else inf


def _metal_partition(ctx: CircuitContext, duty: RcdRequirement) -> _RequirementState:
    bare = [section for section in ctx.circuit.run if not _covered(ctx, section)]
    if any(section.concealed_in == "metal-partition" for section in bare):
        return _RequirementState(duty, True)
    return (
        _RequirementState(duty, None, _depth_need(ctx))
        if any(s.concealed_in is None for s in bare)
        else _RequirementState(duty, False)
    )


def _depth_need(ctx: CircuitContext) -> Need:
    return Need(
        ctx.message("core.check.rcd-duty.need.concealed.what", circuit=ctx.circuit.name),
        "run.concealed_in",
        ctx.message("core.check.rcd-duty.need.concealed.ask"),
    )


_WHEN: Mapping[str, Callable[[CircuitContext, RcdRequirement], _RequirementState]] = {
    "sockets": _sockets,
    "lights": _lights,
    "rooms": _in_rooms,
    "outdoors": _outdoors,
    "loads": _kinds,
    "charger": _charger,
    "fire": _fire,
    "final": _final,
    "tt": _tt,
    "concealed": _concealed,
    "metal-partition": _metal_partition,
}


def _none_holds(ctx: CircuitContext, states: Sequence[_RequirementState], best: RcdPlace | None) -> Finding:
    """No requirement holds for certain: what would decide is missing, unless a device meets the strictest one there can be."""
    undecided = [state for state in states if state.holds is None]
    strictest_ma = ctx.rules.protection.additional_ma.value
    if undecided and (best is None or best.rcd.idn_ma > strictest_ma):
        return missing(ID, ctx, tuple(state.need for state in undecided if state.need))
    if best is None:
        return not_applicable(ID, ctx, ctx.message("core.check.rcd-duty.none"))
    return not_applicable(ID, ctx, ctx.message("core.check.rcd-duty.none_fitted", rcd=rcd_label(ctx, best)))


def _may_be_exempt(duty: RcdRequirement, loads: Sequence[Load]) -> bool:
    """Whether the circuit feeds nothing but what the requirement leaves to the manufacturer's statement."""
    return bool(loads) and all(load.kind in duty.besides for load in loads)
