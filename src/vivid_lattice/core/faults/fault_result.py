"""From an event that has been run to what a person reads: loss of supply, touch voltage, heat, currents on the path, advice."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Sequence
from math import inf

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Cable, Circuit, Job, Line
from vivid_lattice.core.document.served import circuits_of_room, lights_of_room
from vivid_lattice.core.faults import nodes
from vivid_lattice.core.faults.advice import next_steps, still_live
from vivid_lattice.core.faults.electrical_model import STANDBY
from vivid_lattice.core.faults.engine import Run, run_event
from vivid_lattice.core.faults.event import FaultEvent
from vivid_lattice.core.faults.fault_model import FAULT
from vivid_lattice.core.faults.nodal_analysis import NetworkSolution
from vivid_lattice.core.faults.result_types import ConductorHeating, FaultResult, PathFlow, RoomLost, Touch, shown_time
from vivid_lattice.core.formulas.device.surge import surge_lead_kv
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, Text
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.selectivity.plot import BandPoints, drawn
from vivid_lattice.core.text import Shown, shown_down, shown_up

#: Under this share of the nominal voltage a circuit counts as without supply.
_DARK_BELOW = 0.5
#: From this share of the fault's current on, what the loads draw as well is told apart from it.
_LOADS_SHARE = 0.002
#: Current from which an arc-fault device has to trip [A]: IEC 62606, the smallest arc it is tested with (from memory).
_ARC_A = 2.5
#: Longest time for sockets in TN at 230 V [s]. IEC 60364-4-41, table 41.1 (from memory).
_TN_S = 0.4


def describe(job: Job, event: FaultEvent) -> FaultResult:
    """What an event leads to. Raises as ``run_event``."""
    run = run_event(job, event)
    certainly, perhaps = _dark(run)
    touch, heat = _touch(run), _heat(run)
    fault_low, fault_high = sorted((abs(run.first_least.amp(FAULT)), abs(run.first_most.amp(FAULT))))
    if run.warm.direct is not None:
        fault_low = fault_high = run.warm.direct.amps
    return FaultResult(
        kind=event.kind,
        title=run.warm.title,
        event=event,
        stages=tuple(run.stages),
        outcome=_outcome(run, touch, certainly, perhaps),
        circuits_lost=tuple(circuit.id for circuit in certainly),
        circuits_maybe_lost=tuple(circuit.id for circuit in perhaps),
        rooms=tuple(_rooms(job, run.network.job, certainly, perhaps)),
        touch=touch,
        heat=heat,
        path=tuple(_path(run)),
        bands=tuple(_bands(run)),
        fault_a_least=fault_low,
        fault_a_most=fault_high,
        still_live=tuple(still_live(run)),
        next_steps=tuple(next_steps(run)),
        notes=tuple(_notes(run)),
    )


# ---------------------------------------------------------------------------------------------- loss of supply


def _final(run: Run) -> list[Circuit]:
    tree = run.network.tree
    return [c for c in run.network.job.circuits if c.kind != "distribution" and c.id in tree.places]


def _volts(run: Run, solution: NetworkSolution, circuit: Circuit) -> float:
    """Largest voltage a load of a circuit gets [V]."""
    lines = or_none(lambda: run.network.tree.supplied(circuit).lines) or ("L1",)
    ends = [nodes.at_end(circuit.id, line) for line in lines]
    if circuit.neutral:
        return max(abs(solution.volt(end, nodes.at_end(circuit.id, "N"))) for end in ends)
    return abs(solution.volt(ends[0], ends[-1]))


def _dark(run: Run) -> tuple[list[Circuit], list[Circuit]]:
    """Circuits that lose supply whatever happens, and those that may."""
    surely, perhaps = [], []
    may = _may_open(run)
    nominal = run.network.job.supply.nominal_v
    for circuit in _final(run):
        after = _volts(run, run.last, circuit) < _DARK_BELOW * nominal
        # Where several may trip first, only what every one of them takes is certain.
        always = after and all(circuit.id in behind for behind in may) if may else after
        if always:
            surely.append(circuit)
        elif after or any(circuit.id in behind for behind in may):
            perhaps.append(circuit)
    return surely, perhaps


def _may_open(run: Run) -> list[set[str]]:
    """Circuits behind each device that may be the first to open; empty where one trips for certain."""
    first = run.stages[0]
    if not first.openings or first.openings[0].certain:
        return []
    opened = [_behind(run, opening.device) for opening in first.openings]
    return [*opened, set()] if first.until_s is None else opened


def _behind(run: Run, device: str) -> set[str]:
    network = run.network
    if device in ("cutout", STANDBY):
        return {circuit.id for circuit in network.job.circuits}
    if device in network.tree.circuits:
        return _with_fed(network, [network.tree.circuits[device]])
    if device.startswith("relay:"):
        board = network.tree.boards[device.removeprefix("relay:")]
        return _with_fed(network, [network.tree.circuits[way.circuit] for way in board.ways])
    return {circuit.id for place in network.rcds.all if place.id == device for circuit in place.behind}


def _rooms(job: Job, supplied: Job, surely: list[Circuit], perhaps: list[Circuit]) -> Iterator[RoomLost]:
    """Every room of the job, with what it loses; on a standby supply the lights of the other boards are out already."""
    off = {circuit.id for circuit in job.circuits} - {circuit.id for circuit in supplied.circuits}
    sure, may_be = {circuit.id for circuit in surely}, {circuit.id for circuit in perhaps}
    for room in job.rooms:
        circuits = circuits_of_room(job, room.id)
        yield RoomLost(
            room=room.id,
            name=room.name,
            floor=room.floor,
            lights_out=_lights_out(lights_of_room(job, room.id), sure | off, may_be),
            certainly=_names(circuits, sure),
            perhaps=_names(circuits, may_be),
        )


def _lights_out(lights: frozenset[str], sure: set[str], may_be: set[str]) -> str:
    """Whether every light of a room goes out, by the circuits of its lights: ``dark``, possibly, or lit."""
    if lights and lights <= sure:
        return "dark"
    return "perhaps" if lights and lights <= sure | may_be else "lit"


def _outcome(run: Run, touch: Touch | None, dark: list[Circuit], perhaps: list[Circuit]) -> Text:
    event, network = run.hand.event, run.network
    if event.kind == "surge":
        return _surge_words(run)
    first = run.stages[0]
    parts: list[Text] = [first.text if first.openings else _nothing_opens(run)]
    if dark:
        parts.append(network.message("core.fault.outcome.lost", n=len(dark), circuits=_first_names(dark)))
    if perhaps:
        key = "core.fault.outcome.may_more" if dark else "core.fault.outcome.may"
        parts.append(network.message(key, n=len(perhaps), circuits=_first_names(perhaps)))
    if touch is not None and touch.dangerous:
        v = shown_up(touch.volts)
        if touch.seconds is None:
            parts.append(network.message("core.fault.outcome.touch_stays", v=v, between=touch.between))
        else:
            time = shown_time(touch.seconds)
            parts.append(network.message("core.fault.outcome.touch", v=v, between=touch.between, time=time))
    return network.message("core.fault.outcome.all", parts=Joined.of(parts, " "))


def _nothing_opens(run: Run) -> Message:
    event, network = run.hand.event, run.network
    if event.kind == "open-neutral":
        return _open_neutral_words(run)
    if event.kind == "loose-terminal":
        return _loose_words(run)
    if event.kind == "voltage":
        return network.message("core.fault.outcome.voltage", v=Shown(f"{event.volts:g}"))
    if event.kind == "rcd-neutral-crossed" and abs(run.first_least.amp(nodes.SUPPLY_N)) < 0.05:
        return network.message("core.fault.outcome.quiet")
    return network.message("core.fault.outcome.none")


def _open_neutral_words(run: Run) -> Message:
    job, network = run.network.job, run.network
    volts = {c.name: _volts(run, run.first_least, c) for c in _final(run) if c.neutral}
    if not volts:
        return network.message("core.fault.outcome.none")
    if job.supply.phases == 1:
        return network.message("core.fault.outcome.neutral_dead")
    if max(volts.values()) - min(volts.values()) < 0.5:
        return network.message("core.fault.outcome.neutral_even", v=Shown(f"{job.supply.nominal_v:g}"))
    worst, best = max(volts, key=lambda name: volts[name]), min(volts, key=lambda name: volts[name])
    high, low = shown_up(volts[worst]), shown_down(volts[best])
    return network.message("core.fault.outcome.neutral_share", high=high, worst=worst, low=low, best=best)


def _loose_words(run: Run) -> Message:
    circuit, line, network = run.hand.where(), run.hand.line(), run.network
    amps = abs(run.first_least.amp(nodes.run(circuit.id, line)))
    ohm = run.hand.event.ohm or 0.05
    watts = amps**2 * ohm
    chars = network.rules.protection.figure("common.loose.heat", "chars_W").value
    arc = not is_auto(circuit.device) and circuit.device.arc_fault
    detection = (
        network.message("core.fault.outcome.arc_sees", a=Shown(f"{_ARC_A:g}"))
        if arc
        else network.message("core.fault.outcome.not_seen")
    )
    return network.message(
        "core.fault.outcome.loose",
        a=shown_up(amps),
        ohm=Shown(f"{ohm:g}"),
        w=shown_up(watts),
        effect=network.message("core.fault.outcome.chars" if watts >= chars else "core.fault.outcome.warms"),
        detection=detection,
    )


def _surge_words(run: Run) -> Message:
    job, event, network = run.network.job, run.hand.event, run.network
    devices = [(board, device) for board in job.boards for device in board.spds]
    stands = job.surge.withstand_kv or network.rules.protection.surge.up_max_kv.value
    uw = Shown(f"{stands:g}")
    if not devices:
        kv = Shown(f"{event.surge_kv:g}")
        key = "over" if event.surge_kv > stands else "within"
        return network.message(f"core.fault.outcome.surge_none_{key}", kv=kv, uw=uw)
    board, device = devices[0]
    if device.up_kv is None:
        return network.message("core.fault.outcome.surge_unknown", spd=device.name)
    arrives = min(event.surge_kv, device.up_kv + surge_lead_kv(device.leads_m or 0.0))
    places = {"kv": shown_up(arrives), "spd": device.name, "board": board.name}
    surge = (
        network.message("core.fault.outcome.surge_within", **places)
        if arrives <= stands
        else network.message("core.fault.outcome.surge_over", **places, uw=uw)
    )
    return network.message("core.fault.outcome.surge_red", surge=surge) if device.status == "red" else surge


# ---------------------------------------------------------------------------------------------- touch and heat


def _touch(run: Run) -> Touch | None:
    """The voltage between earthed metal and what else can be reached, the main earth or the ground: conductors warm, at the
    nominal voltage, so that it is U0 · R2 / Zs with the figures of the loop check."""
    network, event = run.network, run.hand.event
    least = run.first_least
    limit = network.rules.protection.figure("common.touch.limit", "touch_V").value
    circuit = run.hand.circuit
    system = network.job.supply.system if circuit is None else network.tree.earth_of(circuit).system
    tt_or_open = system == "TT" or event.kind == "open-neutral"
    against, between = (
        (nodes.EARTH, network.message("core.fault.touch.ground"))
        if tt_or_open
        else (nodes.meter("PE"), network.message("core.fault.touch.main_earth"))
    )
    at_fault = nodes.at_fault(event.circuit, "PE") if event.circuit else None
    touched = [at_fault] if at_fault and least_has(least, at_fault) else []
    if not touched:
        touched = [nodes.meter("PE")] if tt_or_open else []
    if not touched or event.kind in ("surge", "voltage", "loose-terminal"):
        return None
    at_nominal = max(1.0, network.job.supply.nominal_v / network.loops.ahead.origin.volts_min)
    # The largest current of a limited source decides what can be touched.
    solutions = (least,) if run.hand.source is None else (least, run.first_most)
    volts = at_nominal * max(abs(each.volt(node, against)) for node in touched for each in solutions)
    if volts < 1.0:
        return None
    lasting = run.cleared_s is None or run.cleared_s > _bearable_s(run)
    return Touch(volts, between, run.cleared_s, volts > limit and lasting)


def _bearable_s(run: Run) -> float:
    """How long a touch voltage above the limit may stand [s]: the time the rules give the circuit, and never more than a
    socket's in TN (IEC 60364-4-41, table 41.1), since a longer one rests on the voltage being low."""
    circuit, limits = run.hand.circuit, run.network.rules.limits
    if circuit is None or is_auto(circuit.device) or limits.no_disconnection is not None:
        return _TN_S
    rating_a, system = circuit.device.rating_a, run.network.tree.earth_of(circuit).system
    given = or_none(lambda: limits.disconnection_s(circuit, rating_a, system).value)
    return _TN_S if given is None else min(_TN_S, given)


def least_has(solution: NetworkSolution, node: str) -> bool:
    """Whether a node is in a solution."""
    return node in solution.nodes


def _heat(run: Run) -> ConductorHeating | None:
    """Energy of a short circuit against the smallest conductor of the run it is on."""
    event = run.hand.event
    if event.kind not in ("line-neutral", "line-line", "line-earth", "nail") or run.hand.circuit is None:
        return None
    circuit = run.hand.where()
    cable = or_none(lambda: chosen_cable(circuit))
    if cable is None or is_auto(circuit.device) or not run.stages[0].openings:
        return None
    rules, amps = run.network.rules, abs(run.first_most.amp(FAULT))
    earth = event.kind in ("line-earth", "nail")
    stands = or_none(lambda: _withstand_a2s(run, circuit, cable, earth=earth))
    if stands is None:
        return None
    late, opener = run.stages[0].until_s, run.stages[0].openings[0]
    energy = None
    if opener.part == "overcurrent" and opener.device == circuit.id:
        device = circuit.device
        energy = or_none(lambda: rules.devices.let_through(device, amps).value)
    if energy is None:
        energy = inf if late is None else amps**2 * late
    conductor, limit = "cpc" if earth else "line", shown_down(stands)
    text = (
        run.network.message(f"core.fault.heat.{conductor}", energy=shown_up(energy), limit=limit)
        if energy < inf
        else run.network.message(f"core.fault.heat.{conductor}_flows", limit=limit)
    )
    return ConductorHeating(min(energy, 1e15), stands, energy <= stands, text)


# ---------------------------------------------------------------------------------------------- drawing


def _path(run: Run) -> Iterator[PathFlow]:
    solution, network = run.first_most, run.network
    circuit = run.hand.circuit
    line: Line = (
        network.tree.supplied(circuit).lines[0] if circuit and or_none(lambda: network.tree.supplied(circuit)) else "L1"
    )
    if circuit is not None and run.hand.event.line:
        line = run.hand.event.line
    yield PathFlow(
        run.hand.source.name if run.hand.source is not None else network.message("core.fault.path.origin"),
        abs(solution.amp(nodes.contact("cutout", line))),
        abs(solution.amp(nodes.SUPPLY_N)),
        _earth(solution),
    )
    if circuit is None:
        return
    for link in network.tree.chain(circuit):
        label: Text = (
            network.message("core.fault.path.end", circuit=link.name)
            if link.id == circuit.id
            else network.tree.boards[network.tree.feeds[link.id]].name
        )
        yield PathFlow(
            label,
            abs(solution.amp(nodes.run(link.id, line))),
            abs(solution.amp(nodes.run(link.id, "N"))),
            abs(solution.amp(nodes.run(link.id, "PE"))),
        )


def _earth(solution: NetworkSolution) -> float:
    return max(abs(solution.amp(name)) for name in (nodes.SUPPLY_PE, nodes.LINK, nodes.MAIN_EARTH))


def _bands(run: Run) -> Iterator[BandPoints]:
    """Overcurrent bands of the way, origin first."""
    circuit, series = run.hand.circuit, run.network.series
    for device in series.way(circuit) if circuit else ():
        points = drawn(series, device)
        if points is not None:
            yield points


def _notes(run: Run) -> Iterator[Text]:
    network = run.network
    yield from dict.fromkeys((*run.warm.wired.assumed, *run.cold.wired.assumed))
    if run.missing:
        yield network.message("core.fault.note.not_included", needs=Joined.of(run.missing, "; "))
    fault, carried = abs(run.first_most.amp(FAULT)), max((flow.line_a for flow in _path(run)), default=0.0)
    if run.warm.direct is None and fault > 1.0 and abs(carried - fault) > _LOADS_SHARE * fault:
        yield network.message("core.fault.note.loads", a=shown_up(fault))
    yield network.message("core.fault.note.bounds")
    yield from _on_standby(run)
    if run.warm.direct is not None:
        yield network.message("core.fault.note.direct")
        yield from _blinded(run)
    if run.hand.event.kind == "nail":
        yield _nail_on_line_alone(run)


def _on_standby(run: Run) -> Iterator[Text]:
    """That the figures are those of the supply, where a standby source may supply the circuit instead: it gives far less current."""
    circuit, tree = run.hand.circuit, run.network.tree
    if run.hand.source is not None:
        yield run.network.message("core.fault.note.on_standby", name=run.hand.source.name, board=run.hand.source.board)
    if circuit is None:
        return
    for board in run.network.job.boards:
        if board.standby is not None and circuit in tree.fed_by_board(board):
            yield run.network.message("core.fault.note.standby", name=board.standby.name, board=board.name)


def _blinded(run: Run) -> Iterator[Text]:
    """Residual-current devices that a smooth direct current makes blind."""
    direct = run.warm.direct
    if direct is None or direct.waveform != "smooth":
        return
    for place in run.network.rcds.ahead_of(run.hand.where()):
        stands = run.network.rules.bands.residual(place.rcd).dc_a
        if direct.amps > stands:
            rcd, ma = run.network.rules.bands.rcd_name(place.rcd), Shown(f"{stands * 1000:g}")
            yield run.network.message("core.fault.note.blinded", rcd=rcd, place=place.name, ma=ma)


def _nail_on_line_alone(run: Run) -> Message:
    """A nail that meets the line alone, until a person touches it."""
    volts = run.network.job.supply.nominal_v
    ohm = run.network.rules.protection.figure("common.body.ohm", "ohm").value
    amps = volts / ohm
    places = run.network.rcds.ahead_of(run.hand.where())
    times = [run.network.rules.bands.residual(place.rcd).opens_s(amps)[1] for place in places]
    late = min(times, default=inf)
    ma = Shown(f"{amps * 1000:.0f}")
    if late == inf:
        return run.network.message("core.fault.note.nail_none", ma=ma)
    return run.network.message("core.fault.note.nail_rcd", ma=ma, time=shown_time(late))


def _with_fed(network: Installation, circuits: Iterable[Circuit]) -> set[str]:
    """Circuits, and all that is fed through them."""
    return {each.id for circuit in circuits for each in (circuit, *network.tree.fed_through(circuit))}


def _names(circuits: Iterable[Circuit], ids: Collection[str]) -> tuple[str, ...]:
    return tuple(circuit.name for circuit in circuits if circuit.id in ids)


def _withstand_a2s(run: Run, circuit: Circuit, cable: Cable, *, earth: bool) -> float:
    """(k · S)² of the conductor that carries the fault back, or of the line conductor [A²s]. NeedsInput while its size is open."""
    cables = run.network.rules.cables
    if not earth:
        return (cables.k_live(cable).value * cable.area_mm2) ** 2
    area_mm2 = cables.cpc_area_mm2(cable, run.network.tree.loaded(circuit)).value
    return (cables.k_protective(cable).value * area_mm2) ** 2


def _first_names(circuits: Sequence[Circuit]) -> str:
    """The first four circuits by name, and a sign where there are more."""
    return ", ".join(circuit.name for circuit in circuits[:4]) + (" …" if len(circuits) > 4 else "")
