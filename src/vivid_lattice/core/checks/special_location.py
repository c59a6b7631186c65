"""May an item stand where it is: near water, near heat, outdoors?"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import partial

from vivid_lattice.core.checks.support.clean_earth import clean_earth_requirements
from vivid_lattice.core.checks.support.finding_builder import missing, not_applicable
from vivid_lattice.core.checks.support.local_earth import LocalEarth
from vivid_lattice.core.checks.support.open_pen import open_pen
from vivid_lattice.core.document.feeds import loads_of
from vivid_lattice.core.document.job import Accessory, Load
from vivid_lattice.core.document.rooms import SPECIAL_ROOMS, EquipmentPosition, Room
from vivid_lattice.core.entry.appliance import appliance_of
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Assumption, Cause, CauseSubject, Finding, Step
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.formulas.zones import OUTSIDE, ip_enough, zone_of
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.rules.protection_rules import ZoneRules
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain
from vivid_lattice.core.units import SLACK

ID = "special-location"
#: What is shown in place of a zone.
_CHARGING, _EARTH = "charging", "earth"

#: Loads that may stand in zone 1 of a bath room where their manufacturer makes them for it.
_ZONE_1 = frozenset({"shower", "lamp", "heater", "water-heater", "motor", "appliance"})
#: Kinds of equipment, by their customary circuits, that stand in bathrooms.
_OF_BATHS = frozenset(
    {
        "lighting",
        "shower",
        "instant-heater",
        "shower-pump",
        "water-heater",
        "immersion",
        "geyser",
        "towel-rail",
        "bathroom-heater",
        "floor-heat",
        "underfloor",
        "shaver",
        "extractor-fan",
        "bathroom-sockets",
        "bathroom",
        "whirlpool",
    }
)
#: No rim of a bath is higher [m]. Common practice, no source.
HIGHEST_RIM_M = 0.8


@dataclass(frozen=True, slots=True, kw_only=True)
class _ItemResult:
    """An item, what was found of it, and the rule that decided."""

    load: Load
    zone: str
    verdict: Verdict
    text: Text
    source: Source
    needs: tuple[Need, ...] = ()
    room: str = ""


def check(ctx: CircuitContext) -> Finding:
    """Each item in a room with rules of its own: its zone by its distances, then degree of protection, temperature, and
    whether it may be there at all.

    Source  the rule set's zones; IEC 60364-7-701, -702, -703
    A residual-current device for such a room is asked by `rcd-duty`. What is not measured or looked up yet is told as what
    the item has to meet there: one advice for a room, with what to record.
    """
    judged = [*_chargers(ctx), *_own_earth(ctx), *_placed(ctx), *_unplaced(ctx), *_accessories(ctx)]
    if not judged:
        return not_applicable(ID, ctx, ctx.message("core.check.special-location.none"))
    worst = min(judged, key=lambda item: VERDICT_ORDER.index(item.verdict))
    if worst.verdict == "missing":
        return missing(ID, ctx, _needs(result for result in judged if result.verdict == "missing"))
    steps = tuple(_step(ctx, result) for result in judged) if ctx.explain else ()
    in_room = worst.verdict == "advice" and worst.room
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=worst.verdict,
        sentence=ctx.message("core.check.special-location.result", load=worst.load.name, text=worst.text),
        shown_value=worst.zone,
        shown_limit="",
        rule=worst.source,
        working=steps,
        needs=_needs(judged),
        assumptions=_assumptions(judged),
        cause=Cause(ID, CauseSubject("room", in_room)) if in_room else None,
    )


def _step(ctx: CircuitContext, result: _ItemResult) -> Step:
    return Step(
        symbol="",
        meaning=ctx.message("core.check.special-location.item", load=result.load.name, zone=result.zone),
        formula=result.text,
        figures="",
        result=0.0,
        unit="",
        shown=ctx.message(f"core.check.special-location.word.{result.verdict}"),
        source=result.source,
    )


def _own_earth(ctx: CircuitContext) -> list[_ItemResult]:
    """What an earth of their own requires of a circuit's points, and those that may not be on the earth of their board."""
    circuit, loads = ctx.circuit, loads_of(ctx.circuit)
    results = []
    system = ctx.network.tree.earth_of(circuit).system
    refused = ctx.rules.earthing.refused_earth(system)
    for load in loads:
        if refused is not None and appliance_of(load, ctx.rules) in refused.appliances:
            text = ctx.message("core.check.special-location.refused_earth", rule=refused.text)
            results.append(_ItemResult(load=load, zone=_EARTH, verdict="fail", text=text, source=refused.source))
    if not loads:
        return results
    parts = [] if circuit.earthing is None else LocalEarth(ctx, circuit.earthing, circuit, circuit).parts()
    if circuit.clean_earth is not None:
        parts.append(partial(clean_earth_requirements, ctx, circuit.clean_earth))
    for part in parts:
        try:
            results += [
                _ItemResult(load=loads[0], zone=_EARTH, verdict=each.verdict, text=each.text, source=each.source)
                for each in part()
                if each.source is not None
            ]
        except NeedsInput as lack:
            rule = ctx.rules.earthing.what_to_bond().source
            results.append(
                _ItemResult(load=loads[0], zone=_EARTH, verdict="missing", text="", source=rule, needs=lack.needs)
            )
    return results


def _chargers(ctx: CircuitContext) -> list[_ItemResult]:
    """Charging points behind a PEN that may be lost."""
    system = ctx.network.tree.earth_of(ctx.circuit).system
    rule = ctx.rules.protection.charger_pen if system == "TN-C-S" else None
    return [_charger(ctx, load, rule) for load in ctx.circuit.loads if load.kind == "charger"] if rule else []


def _placed(ctx: CircuitContext) -> list[_ItemResult]:
    """Loads in a room with rules of its own."""
    rooms = ctx.network.tree.rooms
    located = ((load, rooms[load.room]) for load in loads_of(ctx.circuit) if load.room)
    return [_judge(ctx, load, room) for load, room in located if room.kind in SPECIAL_ROOMS]


def _unplaced(ctx: CircuitContext) -> list[_ItemResult]:
    """Where the house has a bathroom, an item that no one placed may be in it, if it is of a kind that could."""
    special = _any_special(ctx)
    if special is None:
        return []
    loads = (load for load in loads_of(ctx.circuit) if load.room is None)
    return [_nowhere(ctx, load, special) for load in loads if _could_be_in_bath(ctx, load)]


def _open_question(load: Load, room: Room, zone: str, required: Text, source: Source, *needs: Need) -> _ItemResult:
    """An item of which something is not known yet: what is required where it is, and what to record."""
    return _ItemResult(
        load=load,
        zone=zone,
        verdict="advice",
        text=message(None, "core.check.special-location.open", room=room.name, required=required),
        source=source,
        needs=needs,
        room=room.id,
    )


def _accessories(ctx: CircuitContext) -> list[_ItemResult]:
    """Switches and boxes in a room with zones. A cord may be mounted into a zone; the switch itself is outside or above them."""
    judged = []
    for accessory in ctx.circuit.accessories:
        room = ctx.network.tree.rooms.get(accessory.room or "")
        if room is None or room.kind not in ("bath", "shower"):
            continue
        zones = ctx.rules.protection.zones(room.kind)
        if zones.shape != "left":
            judged.append(_accessory(ctx, accessory, room, zones))
    return judged


def _accessory(ctx: CircuitContext, accessory: Accessory, room: Room, zones: ZoneRules) -> _ItemResult:
    load = Load(name=accessory.name, kind="appliance", room=accessory.room, position=accessory.position)
    where = accessory.position or EquipmentPosition()
    if where.distance_m is None or where.height_m is None:
        need = ctx.need(
            "core.check.special-location.need.distance", "accessories.position", load=accessory.name, room=room.name
        )
        return _open_question(
            load, room, "?", ctx.message("core.check.special-location.switch_required"), zones.source, need
        )
    zone = zone_of(zones.shape, room, where.distance_m, where.height_m, zones.figures)
    rule = zones.rules.get("sockets_rule", zones.source)
    if zone == OUTSIDE or accessory.kind == "pull-cord" or (where.selv_v is not None and where.selv_v <= 12):
        text = ctx.message("core.check.special-location.switch_ok")
        return _ItemResult(load=load, zone=zone, verdict="pass", text=text, source=rule)
    text = ctx.message("core.check.special-location.switch_zone", zone=zone)
    return _ItemResult(load=load, zone=zone, verdict="fail", text=text, source=rule)


def _any_special(ctx: CircuitContext) -> Room | None:
    """A bathroom of the house, where the standard has zones for it."""
    special = (room for room in ctx.network.tree.rooms.values() if room.kind in ("bath", "shower"))
    return next((room for room in special if ctx.rules.protection.zones(room.kind).shape != "left"), None)


def _could_be_in_bath(ctx: CircuitContext, load: Load) -> bool:
    """Whether a load is of a kind that is in bathrooms. Common practice, no source."""
    appliance = appliance_of(load, ctx.rules)
    return appliance in _OF_BATHS if appliance else load.kind in ("shower", "lamp")


def _nowhere(ctx: CircuitContext, load: Load, room: Room) -> _ItemResult:
    """An item that no one placed, in a house with such a room."""
    need = ctx.need("core.check.special-location.need.room", "loads.room", load=load.name, room=room.name)
    zones = ctx.rules.protection.zones(room.kind)
    least = zones.ip.get("2") or zones.ip.get("1") or ""
    required = (
        ctx.message("core.check.special-location.ip_zones", ip=least)
        if least
        else ctx.message("core.check.special-location.zones")
    )
    return _open_question(load, room, "?", required, zones.source, need)


def _judge(ctx: CircuitContext, load: Load, room: Room) -> _ItemResult:
    zones = ctx.rules.protection.zones(room.kind)
    if zones.shape == "left":
        return _ItemResult(
            load=load,
            zone=room.kind,
            verdict="not-applicable",
            text=ctx.message("core.check.special-location.left"),
            source=zones.source,
        )
    if zones.shape == "open":
        return _open(ctx, load, room, zones)
    where = load.position or EquipmentPosition()
    if load.kind == "shower" and zones.shape not in ("sauna", "pool"):
        return _in_wet(ctx, load, room, where, zones, "1")
    if where.distance_m is None or where.height_m is None:
        need = ctx.need("core.check.special-location.need.distance", "loads.position", load=load.name, room=room.name)
        return _open_question(load, room, "?", _required(ctx, load, zones), zones.source, need)
    zone = zone_of(zones.shape, room, where.distance_m, where.height_m, zones.figures)
    if zones.shape == "sauna":
        return _in_sauna(ctx, load, room, where, zones, zone)
    if zones.shape == "pool":
        return _in_wet(ctx, load, room, where, zones, zone)
    if _depends_on_rim(room, zones, where.distance_m, where.height_m):
        need = ctx.need("core.check.special-location.need.rim", "rooms.rim_height_m", room=room.name)
        return _open_question(load, room, "?", _required(ctx, load, zones), zones.source, need)
    if load.kind == "socket" or load.with_socket:
        return _socket_in_bath(ctx, load, room, where, zones, zone)
    return _in_wet(ctx, load, room, where, zones, zone)


def _depends_on_rim(room: Room, zones: ZoneRules, distance_m: float, height_m: float) -> bool:
    """Whether an item over a bath or tray is inside it or above its rim, which no one measured."""
    over = room.kind == "bath" and distance_m <= 0
    return over and room.rim_height_m is None and zones.figures["tray_m"] < height_m <= HIGHEST_RIM_M


def _required(ctx: CircuitContext, load: Load, zones: ZoneRules) -> Message:
    """What is required of an item in a room with zones, before its position is measured."""
    if zones.shape == "sauna":
        return ctx.message("core.check.special-location.sauna_required")
    if load.kind == "socket" or load.with_socket:
        least = zones.figures.get("sockets_from_m", 0.0)
        return (
            ctx.message("core.check.special-location.socket_required", m=plain(least))
            if least
            else ctx.message("core.check.special-location.outside")
        )
    least_ip = zones.ip.get("2") or zones.ip.get("1")
    if least_ip and zones.shape != "pool":
        return ctx.message("core.check.special-location.ip_required", ip=least_ip)
    return ctx.message("core.check.special-location.outside")


def _charger(ctx: CircuitContext, load: Load, rule: Source) -> _ItemResult:
    """A charging point on a combined neutral and earth: a vehicle outdoors must not take the voltage of a broken PEN."""
    verdict, text, needs = open_pen(ctx, load)
    return _ItemResult(load=load, zone=_CHARGING, verdict=verdict, text=text, source=rule, needs=needs)


def _ip(ctx: CircuitContext, load: Load, room: Room, needs: str, zone: str, zones: ZoneRules) -> _ItemResult | None:
    """A finding where the degree of protection is missing or too low; None where it is enough."""
    has = load.position.ip if load.position else None
    if has is None:
        need = ctx.need("core.check.special-location.need.ip", "loads.position.ip", load=load.name, room=room.name)
        return _open_question(
            load, room, zone, ctx.message("core.check.special-location.ip_min", ip=needs), zones.ip_source, need
        )
    if not ip_enough(has, needs):
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text=ctx.message("core.check.special-location.ip", has=has, needs=needs),
            source=zones.ip_source,
        )
    return None


def _open(ctx: CircuitContext, load: Load, room: Room, zones: ZoneRules) -> _ItemResult:
    needs = zones.ip["lamp" if load.kind == "lamp" else "out"]
    wrong = _ip(ctx, load, room, needs, room.kind, zones)
    if wrong is not None:
        return wrong
    text = ctx.message(
        "core.check.special-location.ip", has=(load.position.ip if load.position else None) or "", needs=needs
    )
    return _ItemResult(load=load, zone=room.kind, verdict="pass", text=text, source=zones.ip_source)


def _socket_in_bath(
    ctx: CircuitContext, load: Load, room: Room, where: EquipmentPosition, zones: ZoneRules, zone: str
) -> _ItemResult:
    rule = zones.rules.get("sockets_rule", zones.source)
    if zone != OUTSIDE:
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text=ctx.message("core.check.special-location.socket_zone"),
            source=rule,
        )
    least = zones.figures.get("sockets_from_m", 0.0)
    inner = 0.0 if room.kind == "bath" else zones.figures["shower_m"]
    away = (where.distance_m or 0.0) - inner
    if away < least - SLACK:
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text=ctx.message("core.check.special-location.socket_near", m=plain(away), least=plain(least)),
            source=rule,
        )
    return _ItemResult(
        load=load, zone=zone, verdict="pass", text=ctx.message("core.check.special-location.socket_ok"), source=rule
    )


def _forbidden(where: EquipmentPosition, zones: ZoneRules, zone: str) -> tuple[str, str] | None:
    """The rule that keeps an item out of a zone for its voltage, and the key of its text; None where it may be there."""
    if zone == "0" and (where.selv_v is None or where.selv_v > 12):
        return "zone0_rule", "zone_0"
    if zone == "1" and zones.shape == "pool" and where.selv_v is None:
        return "selv_rule", "zone_1_pool"
    return None


def _in_wet(
    ctx: CircuitContext, load: Load, room: Room, where: EquipmentPosition, zones: ZoneRules, zone: str
) -> _ItemResult:
    """A bath, shower or pool: by zone."""
    if zone == OUTSIDE:
        text = ctx.message("core.check.special-location.outside")
        return _ItemResult(load=load, zone=zone, verdict="pass", text=text, source=zones.source)
    forbidden = _forbidden(where, zones, zone)
    if forbidden is not None:
        rule, key = forbidden
        text = ctx.message(f"core.check.special-location.{key}")
        return _ItemResult(load=load, zone=zone, verdict="fail", text=text, source=zones.rules.get(rule, zones.source))
    needs = zones.jets_ip if room.water_jets and zone != "0" and zones.jets_ip else zones.ip[zone]
    wrong = _ip(ctx, load, room, needs, zone, zones)
    if wrong is not None and wrong.verdict == "fail":
        return wrong
    if zone == "1" and where.selv_v is None:
        in_zone_1 = _zone_1(ctx, load, where, zones, room)
        if in_zone_1 and wrong is not None and in_zone_1.verdict == "advice":
            text = ctx.message(
                "core.phrase.detail",
                text=in_zone_1.text,
                detail=ctx.message("core.check.special-location.ip_min", ip=needs),
            )
            return replace(in_zone_1, text=text, needs=(*in_zone_1.needs, *wrong.needs))
        if in_zone_1:
            return in_zone_1
    if wrong is not None:
        return wrong
    text = ctx.message("core.check.special-location.ip", has=where.ip or "", needs=needs)
    return _ItemResult(load=load, zone=zone, verdict="pass", text=text, source=zones.ip_source)


def _zone_1(
    ctx: CircuitContext, load: Load, where: EquipmentPosition, zones: ZoneRules, room: Room
) -> _ItemResult | None:
    rule = zones.rules.get("zone1_rule", zones.source)
    if not where.fixed or load.kind not in _ZONE_1:
        return _ItemResult(
            load=load,
            zone="1",
            verdict="fail",
            text=ctx.message("core.check.special-location.zone_1_fixed"),
            source=rule,
        )
    if where.zone_permitted is None:
        need = ctx.need(
            "core.check.special-location.need.zone_1", "loads.position.zone_permitted", load=load.name, room=room.name
        )
        return _open_question(load, room, "1", ctx.message("core.check.special-location.zone_1_required"), rule, need)
    if not where.zone_permitted:
        return _ItemResult(
            load=load,
            zone="1",
            verdict="fail",
            text=ctx.message("core.check.special-location.zone_1_maker"),
            source=rule,
        )
    return None


def _in_sauna(
    ctx: CircuitContext, load: Load, room: Room, where: EquipmentPosition, zones: ZoneRules, zone: str
) -> _ItemResult:
    if load.kind == "socket":
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text=ctx.message("core.check.special-location.sauna_socket"),
            source=zones.rules.get("wiring_rule", zones.source),
        )
    if zone == "1" and load.kind != "heater":
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text=ctx.message("core.check.special-location.sauna_near", m="0.5"),
            source=zones.source,
        )
    if zone == "3":
        for has, least, field in (
            (where.rated_ambient_c, zones.figures["stands_c"], "rated_ambient_c"),
            (where.cable_rated_c, zones.figures["cable_c"], "cable_rated_c"),
        ):
            what = ctx.message(f"core.check.special-location.{field}")
            if has is None:
                need = ctx.need(
                    "core.check.special-location.need.temperature",
                    f"loads.position.{field}",
                    load=load.name,
                    property=what,
                )
                required = ctx.message("core.check.special-location.temperature_required", least=plain(least))
                return _open_question(load, room, zone, required, zones.source, need)
            if has < least:
                return _ItemResult(
                    load=load,
                    zone=zone,
                    verdict="fail",
                    text=ctx.message(
                        "core.check.special-location.temperature", property=what, has=plain(has), least=plain(least)
                    ),
                    source=zones.source,
                )
    wrong = _ip(ctx, load, room, zones.ip[zone], zone, zones)
    if wrong is not None:
        return wrong
    text = ctx.message("core.check.special-location.ip", has=where.ip or "", needs=zones.ip[zone])
    return _ItemResult(load=load, zone=zone, verdict="pass", text=text, source=zones.ip_source)


def _needs(results: Iterable[_ItemResult]) -> tuple[Need, ...]:
    return tuple(need for result in results for need in result.needs)


def _assumptions(results: Iterable[_ItemResult]) -> tuple[Assumption, ...]:
    """What each item has to meet where it is not measured or looked up yet."""
    return tuple(
        Assumption(
            "loads.position",
            message(None, "core.phrase.labelled", label=result.load.name, text=result.text),
            result.source.publication,
        )
        for result in results
        if result.verdict == "advice"
    )
