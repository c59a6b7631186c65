"""May an item stand where it stands: near water, near heat, outdoors?"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from vivid_lattice.core.checks.support.finding_builder import missing, not_applicable
from vivid_lattice.core.document.feeds import loads_of
from vivid_lattice.core.document.job import Accessory, Load
from vivid_lattice.core.document.rooms import SPECIAL_ROOMS, EquipmentPosition, Room
from vivid_lattice.core.entry.appliance import appliance_of
from vivid_lattice.core.errors import Need
from vivid_lattice.core.findings.finding import Assumption, Cause, CauseSubject, Finding, Step
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.formulas.zones import OUTSIDE, ip_enough, zone_of
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.rules.protection_rules import ZoneRules
from vivid_lattice.core.sources import Source
from vivid_lattice.core.units import SLACK

ID = "special-location"

#: Loads that may stand in zone 1 of a bath room where their maker makes them for it.
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
#: No rim of a bath stands higher [m]. Common practice, no source.
HIGHEST_RIM_M = 0.8


@dataclass(frozen=True, slots=True, kw_only=True)
class _ItemResult:
    """An item, what was found of it, and the rule that decided."""

    load: Load
    zone: str
    verdict: Verdict
    text: str
    source: Source
    needs: tuple[Need, ...] = ()
    room: str = ""


def check(ctx: CircuitContext) -> Finding:
    """Each item in a room with rules of its own: its zone by its distances, then degree of protection, temperature, and
    whether it may be there at all.

    Source  the rule set's zones; IEC 60364-7-701, -702, -703
    A residual-current device for such a room is asked by `rcd-duty`. What nobody has measured or looked up yet is told as what
    the item has to meet there: one advice for a room, with what to record.
    """
    judged = [*_chargers(ctx), *_placed(ctx), *_unplaced(ctx), *_accessories(ctx)]
    if not judged:
        return not_applicable(ID, ctx, f"{ctx.circuit.name} feeds nothing in a place with rules of its own.")
    worst = min(judged, key=lambda item: VERDICT_ORDER.index(item.verdict))
    if worst.verdict == "missing":
        return missing(ID, ctx, _needs(result for result in judged if result.verdict == "missing"))
    steps = tuple(map(_step, judged)) if ctx.explain else ()
    in_room = worst.verdict == "advice" and worst.room
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=worst.verdict,
        sentence=f"{worst.load.name}: {worst.text}.",
        shown_value=worst.zone,
        shown_limit="",
        rule=worst.source,
        working=steps,
        needs=_needs(judged),
        assumptions=_assumptions(judged),
        cause=Cause(ID, CauseSubject("room", in_room)) if in_room else None,
    )


def _step(result: _ItemResult) -> Step:
    return Step(
        symbol="",
        meaning=f"{result.load.name}: zone {result.zone}",
        formula=result.text,
        figures="",
        result=0.0,
        unit="",
        shown=_word(result),
        source=result.source,
    )


def _chargers(ctx: CircuitContext) -> list[_ItemResult]:
    """Charging points behind a PEN that may be lost."""
    rule = ctx.rules.protection.charger_pen if ctx.job.supply.system == "TN-C-S" else None
    return [_charger(load, rule) for load in ctx.circuit.loads if load.kind == "charger"] if rule else []


def _placed(ctx: CircuitContext) -> list[_ItemResult]:
    """Loads in a room with rules of its own."""
    rooms = ctx.network.tree.rooms
    located = ((load, rooms[load.room]) for load in loads_of(ctx.circuit) if load.room)
    return [_judge(ctx, load, room) for load, room in located if room.kind in SPECIAL_ROOMS]


def _unplaced(ctx: CircuitContext) -> list[_ItemResult]:
    """Where the house has a bathroom, an item that nobody placed may be in it, if it is of a kind that could."""
    special = _any_special(ctx)
    if special is None:
        return []
    loads = (load for load in loads_of(ctx.circuit) if load.room is None)
    return [_nowhere(ctx, load, special) for load in loads if _could_be_in_bath(ctx, load)]


def _open_question(load: Load, room: Room, zone: str, has_to: str, source: Source, *needs: Need) -> _ItemResult:
    """An item of which something is not known yet: what it has to meet where it stands, and what to record."""
    return _ItemResult(
        load=load,
        zone=zone,
        verdict="advice",
        text=f"in {room.name} {has_to}",
        source=source,
        needs=needs,
        room=room.id,
    )


def _accessories(ctx: CircuitContext) -> list[_ItemResult]:
    """Switches and boxes in a room with zones. A cord may hang into a zone; the switch itself is outside or above them."""
    judged = []
    for accessory in ctx.circuit.accessories:
        room = ctx.network.tree.rooms.get(accessory.room or "")
        if room is None or room.kind not in ("bath", "shower"):
            continue
        zones = ctx.rules.protection.zones(room.kind)
        if zones.shape != "left":
            judged.append(_accessory(accessory, room, zones))
    return judged


def _accessory(accessory: Accessory, room: Room, zones: ZoneRules) -> _ItemResult:
    load = Load(name=accessory.name, kind="appliance", room=accessory.room, position=accessory.position)
    where = accessory.position or EquipmentPosition()
    if where.distance_m is None or where.height_m is None:
        ask = "Measure across from the edge of bath, tray or basin, and up."
        need = Need(f"where {accessory.name} is in {room.name}", "accessories.position", ask)
        return _open_question(load, room, "?", "outside the zones, or a pull cord", zones.source, need)
    zone = zone_of(zones.shape, room, where.distance_m, where.height_m, zones.figures)
    rule = zones.rules.get("sockets_rule", zones.source)
    if zone == OUTSIDE or accessory.kind == "pull-cord" or (where.selv_v is not None and where.selv_v <= 12):
        text = "outside the zones, or its cord alone is in one"
        return _ItemResult(load=load, zone=zone, verdict="pass", text=text, source=rule)
    text = f"no switch or junction box is permitted in zone {zone}"
    return _ItemResult(load=load, zone=zone, verdict="fail", text=text, source=rule)


def _any_special(ctx: CircuitContext) -> Room | None:
    """A bathroom of the house, where the standard has zones for it."""
    special = (room for room in ctx.network.tree.rooms.values() if room.kind in ("bath", "shower"))
    return next((room for room in special if ctx.rules.protection.zones(room.kind).shape != "left"), None)


def _could_be_in_bath(ctx: CircuitContext, load: Load) -> bool:
    """Whether a load is of a kind that stands in bathrooms. Common practice, no source."""
    appliance = appliance_of(load, ctx.rules)
    return appliance in _OF_BATHS if appliance else load.kind in ("shower", "lamp")


def _nowhere(ctx: CircuitContext, load: Load, room: Room) -> _ItemResult:
    """An item that nobody placed, in a house with such a room."""
    need = Need(f"the room of {load.name} (the house has {room.name})", "loads.room", "Say in which room it stands.")
    zones = ctx.rules.protection.zones(room.kind)
    least = zones.ip.get("2") or zones.ip.get("1") or ""
    return _open_question(load, room, "?", f"{least} at least within the zones".strip(), zones.source, need)


def _word(item_result: _ItemResult) -> str:
    return {
        "pass": "in order",
        "fail": "not allowed",
        "advice": "worth a thought",
        "not-applicable": "left to the code",
    }.get(item_result.verdict, "not known")


def _judge(ctx: CircuitContext, load: Load, room: Room) -> _ItemResult:
    zones = ctx.rules.protection.zones(room.kind)
    if zones.shape == "left":
        return _ItemResult(
            load=load,
            zone=room.kind,
            verdict="not-applicable",
            text="left to the code's own article",
            source=zones.source,
        )
    if zones.shape == "open":
        return _open(load, room, zones)
    where = load.position or EquipmentPosition()
    if load.kind == "shower" and zones.shape not in ("sauna", "pool"):
        return _in_wet(load, room, where, zones, "1")
    if where.distance_m is None or where.height_m is None:
        what = f"how far {load.name} stands from the water or the heat in {room.name}, and how high"
        need = Need(
            what, "loads.position", "Measure across from the edge of bath, tray or basin (or the heater), and up."
        )
        return _open_question(load, room, "?", _has_to(load, zones), zones.source, need)
    zone = zone_of(zones.shape, room, where.distance_m, where.height_m, zones.figures)
    if zones.shape == "sauna":
        return _in_sauna(load, room, where, zones, zone)
    if zones.shape == "pool":
        return _in_wet(load, room, where, zones, zone)
    if _depends_on_rim(room, zones, where.distance_m, where.height_m):
        need = Need(
            f"how high the rim of the bath or tray in {room.name} is",
            "rooms.rim_height_m",
            "Measure it from the floor.",
        )
        return _open_question(load, room, "?", _has_to(load, zones), zones.source, need)
    if load.kind == "socket" or load.with_socket:
        return _socket_in_bath(load, room, where, zones, zone)
    return _in_wet(load, room, where, zones, zone)


def _depends_on_rim(room: Room, zones: ZoneRules, distance_m: float, height_m: float) -> bool:
    """Whether an item over a bath or tray is inside it or above its rim, which nobody measured."""
    over = room.kind == "bath" and distance_m <= 0
    return over and room.rim_height_m is None and zones.figures["tray_m"] < height_m <= HIGHEST_RIM_M


def _has_to(load: Load, zones: ZoneRules) -> str:
    """What an item has to meet in a room with zones, before anybody has measured where it stands."""
    if zones.shape == "sauna":
        return "outside, or made for the temperature of its zone"
    if load.kind == "socket" or load.with_socket:
        least = zones.figures.get("sockets_from_m", 0.0)
        return f"{least:g} m or more from zone 1" if least else "outside the zones"
    least_ip = zones.ip.get("2") or zones.ip.get("1")
    return "outside the zones" + (f", or {least_ip} in zone 2" if least_ip and zones.shape != "pool" else "")


def _charger(load: Load, rule: Source) -> _ItemResult:
    """A charging point on a combined neutral and earth: a vehicle outdoors must not take the voltage of a lost PEN."""
    if load.open_pen_protection is None:
        need = Need(
            f"whether {load.name} opens all conductors, earth too, when the supply's PEN is lost",
            "loads.open_pen_protection",
            "Look in its data; else it gets an electrode of its own, or another means no less safe.",
        )
        return _ItemResult(load=load, zone="charging", verdict="missing", text="", source=rule, needs=(need,))
    if not load.open_pen_protection:
        return _ItemResult(
            load=load,
            zone="charging",
            verdict="fail",
            text="nothing opens it when the supply's PEN is lost, and a vehicle outdoors would be live",
            source=rule,
        )
    return _ItemResult(
        load=load,
        zone="charging",
        verdict="pass",
        text="it opens all conductors when the supply's PEN is lost",
        source=rule,
    )


def _ip_need(load: Load, room: Room) -> Need:
    return Need(
        f"the degree of protection of {load.name} in {room.name}",
        "loads.position.ip",
        "Read it on its label: IP and two signs.",
    )


def _ip(load: Load, room: Room, needs: str, zone: str, zones: ZoneRules) -> _ItemResult | None:
    """A finding where the degree of protection is missing or too low; None where it is enough."""
    has = load.position.ip if load.position else None
    if has is None:
        return _open_question(load, room, zone, f"{needs} at least", zones.ip_source, _ip_need(load, room))
    if not ip_enough(has, needs):
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text=f"{has} is not enough there; {needs} is the least",
            source=zones.ip_source,
        )
    return None


def _open(load: Load, room: Room, zones: ZoneRules) -> _ItemResult:
    needs = zones.ip["lamp" if load.kind == "lamp" else "out"]
    wrong = _ip(load, room, needs, room.kind, zones)
    has = load.position.ip if load.position else ""
    return wrong or _ItemResult(
        load=load, zone=room.kind, verdict="pass", text=f"{has} meets {needs}", source=zones.ip_source
    )


def _socket_in_bath(load: Load, room: Room, where: EquipmentPosition, zones: ZoneRules, zone: str) -> _ItemResult:
    rule = zones.rules.get("sockets_rule", zones.source)
    if zone != OUTSIDE:
        return _ItemResult(
            load=load, zone=zone, verdict="fail", text="no socket-outlet is allowed in the zones", source=rule
        )
    least = zones.figures.get("sockets_from_m", 0.0)
    inner = 0.0 if room.kind == "bath" else zones.figures["shower_m"]
    away = (where.distance_m or 0.0) - inner
    if away < least - SLACK:
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text=f"{away:g} m from zone 1 is too near for a socket-outlet; {least:g} m is the least",
            source=rule,
        )
    return _ItemResult(
        load=load, zone=zone, verdict="pass", text="outside the zones and far enough for a socket-outlet", source=rule
    )


def _forbidden(where: EquipmentPosition, zones: ZoneRules, zone: str) -> tuple[str, str] | None:
    """The rule that keeps an item out of a zone for its voltage, and what is said; None where it may be there."""
    if zone == "0" and (where.selv_v is None or where.selv_v > 12):
        return "zone0_rule", "only equipment on 12 V extra-low voltage made for it may stand in zone 0"
    if zone == "1" and zones.shape == "pool" and where.selv_v is None:
        return "selv_rule", "in zone 1 of a pool only extra-low voltage may stand"
    return None


def _in_wet(load: Load, room: Room, where: EquipmentPosition, zones: ZoneRules, zone: str) -> _ItemResult:
    """A bath, shower or pool: by zone."""
    if zone == OUTSIDE:
        return _ItemResult(load=load, zone=zone, verdict="pass", text="outside the zones", source=zones.source)
    forbidden = _forbidden(where, zones, zone)
    if forbidden is not None:
        rule, text = forbidden
        return _ItemResult(load=load, zone=zone, verdict="fail", text=text, source=zones.rules.get(rule, zones.source))
    needs = zones.jets_ip if room.water_jets and zone != "0" and zones.jets_ip else zones.ip[zone]
    wrong = _ip(load, room, needs, zone, zones)
    if wrong is not None and wrong.verdict == "fail":
        return wrong
    if zone == "1" and where.selv_v is None:
        stands = _zone_1(load, where, zones, room)
        if stands and wrong is not None and stands.verdict == "advice":
            return replace(stands, text=f"{stands.text}, {needs} at least", needs=(*stands.needs, *wrong.needs))
        if stands:
            return stands
    return wrong or _ItemResult(
        load=load, zone=zone, verdict="pass", text=f"{where.ip} meets {needs}", source=zones.ip_source
    )


def _zone_1(load: Load, where: EquipmentPosition, zones: ZoneRules, room: Room) -> _ItemResult | None:
    rule = zones.rules.get("zone1_rule", zones.source)
    if not where.fixed or load.kind not in _ZONE_1:
        return _ItemResult(
            load=load,
            zone="1",
            verdict="fail",
            text="in zone 1 only fixed equipment made for it may stand",
            source=rule,
        )
    if where.zone_permitted is None:
        need = Need(
            f"whether the maker of {load.name} allows it in zone 1 of {room.name}",
            "loads.position.zone_permitted",
            "Look in its instructions.",
        )
        return _open_question(load, room, "1", "made for zone 1 by its manufacturer", rule, need)
    if not where.zone_permitted:
        return _ItemResult(
            load=load, zone="1", verdict="fail", text="its maker does not make it for zone 1", source=rule
        )
    return None


def _in_sauna(load: Load, room: Room, where: EquipmentPosition, zones: ZoneRules, zone: str) -> _ItemResult:
    if load.kind == "socket":
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text="no socket-outlet is allowed in a sauna",
            source=zones.rules.get("wiring_rule", zones.source),
        )
    if zone == "1" and load.kind != "heater":
        return _ItemResult(
            load=load,
            zone=zone,
            verdict="fail",
            text="within 0.5 m of the heater stands only what belongs to it",
            source=zones.source,
        )
    if zone == "3":
        for has, least, what, path in (
            (where.rated_ambient_c, zones.figures["stands_c"], "the surroundings it is made for", "rated_ambient_c"),
            (where.cable_rated_c, zones.figures["cable_c"], "the temperature its cable stands", "cable_rated_c"),
        ):
            if has is None:
                need = Need(f"{what} of {load.name} in °C", f"loads.position.{path}", "Look in its maker's data.")
                return _open_question(load, room, zone, f"made for {least:g} °C", zones.source, need)
            if has < least:
                return _ItemResult(
                    load=load,
                    zone=zone,
                    verdict="fail",
                    text=f"{what}, {has:g} °C, is below {least:g} °C",
                    source=zones.source,
                )
    wrong = _ip(load, room, zones.ip[zone], zone, zones)
    return wrong or _ItemResult(
        load=load, zone=zone, verdict="pass", text=f"{where.ip} meets {zones.ip[zone]}", source=zones.ip_source
    )


def _needs(results: Iterable[_ItemResult]) -> tuple[Need, ...]:
    return tuple(need for result in results for need in result.needs)


def _assumptions(results: Iterable[_ItemResult]) -> tuple[Assumption, ...]:
    """What each item has to meet where nobody has measured or looked it up yet."""
    return tuple(
        Assumption("loads.position", f"{result.load.name}: {result.text}", result.source.publication)
        for result in results
        if result.verdict == "advice"
    )
