"""Boards of five standards as they are typed, their circuits with what is read of each, and the defects that each may have."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from tests.defects_put_in import ANY, RADIAL, RING
from tests.faulty_wiring import Wiring
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import Board, Cable, Circuit, Job, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.document.surge_and_relay import VoltageRelay
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.defects import defects as defects_of
from vivid_lattice.core.testing.diagnosis.unit import unit_of
from vivid_lattice.core.testing.expected_value import expecting
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.subjects import subject_of, subjects_of
from vivid_lattice.core.testing.test_plan import plan_of


#: Boards of each standard, as they are typed: the system, its lines of supply, and its circuits; ``shared``: two residual-current devices, each
#: with half of the circuits.
@dataclass(frozen=True, slots=True)
class Typed:
    system: str
    lines: tuple[str, ...]
    phases: int | None = None
    outbuilding: tuple[str, ...] = ()
    shared: bool = False
    gear: bool = False
    aluminium: bool = False


BOARDS: Mapping[str, tuple[Typed, ...]] = {
    "uk": (
        Typed("TN-C-S", ("kitchen ring 44m", "cooker 32A 14m", "lights 34m", "study sockets radial 22m")),
        Typed("TN-S", ("upstairs ring 50m", "downstairs ring 40m", "lights 30m", "water heater 3kW 16m"), shared=True, gear=True),
        Typed("TT", ("kitchen ring 40m", "charger 7kW 18m", "lights 24m")),
        Typed("TN-C-S", ("kitchen ring 44m", "feeder 20m 3x10 swa 32A own electrode 30 ohm"), outbuilding=("sockets radial 14m", "lights 12m")),
    ),
    "iec": (
        Typed("TN-S", ("kitchen sockets 18m", "cooker 32A 12m", "lights 28m")),
        Typed("TN-C-S", ("hob 16A 3ph 12m", "sockets 18m", "lights 24m", "heat pump 16A 3ph 18m"), phases=3, shared=True, gear=True),
        Typed("TT", ("kitchen sockets 18m", "heater 2kW 12m", "lights 28m")),
    ),
    "anz": (
        Typed("MEN", ("kitchen sockets 22m", "hotplate 32A 14m", "lights 30m")),
        Typed("MEN", ("sockets 20m", "lights 26m", "water heater 3.6kW 12m", "sockets 24m"), shared=True, gear=True),
    ),
    "za": (
        Typed("TN-C-S", ("kitchen sockets 20m", "stove 32A 12m", "lights 30m")),
        Typed("TT", ("kitchen sockets 20m", "water heater 3kW 12m", "lights 30m"), shared=True),
    ),
    "na": (
        Typed("TN-C-S", ("kitchen receptacles 18m", "dryer 10m", "lights 25m")),
        Typed("TN-C-S", ("multiwire receptacles 20A 18m", "lights 20m", "range 12m"), gear=True, aluminium=True),
    ),
}  # fmt: skip


#: What the tester reads beside the standard's sequence, with the leads already there: the neutral by itself; each circuit against the chart,
#: looked at, its functions, its residual-current device with a load on; between its lines where it has several.
ALSO_READ: tuple[ReadingKind, ...] = ("ir_ne", "zln", "ident", "insp", "func", "rcd_load", "rcd_other", "u_ll", "rot")


@dataclass(frozen=True, slots=True, eq=False)
class Place:
    """A circuit that defects are put into. ``kinds``: what is read of it; ``parts``: what is read of the supply and its board, with the
    subject; ``may_have``: the ids of the defects that may be there."""

    standard: str
    job: Job
    network: Installation
    circuit: Circuit
    kinds: tuple[ReadingKind, ...]
    parts: tuple[tuple[ReadingKind, str], ...]
    may_have: frozenset[str]


@lru_cache
def places() -> tuple[Place, ...]:
    """Every circuit with loads of every board."""
    return tuple(
        _place(standard, job, network, circuit)
        for standard, boards in BOARDS.items()
        for number in range(len(boards))
        for job in [_board(standard, number)]
        for network in [Installation.of(job, rule_set(standard))]
        for circuit in job.circuits
        if circuit.loads
    )


def _place(standard: str, job: Job, network: Installation, circuit: Circuit) -> Place:
    usual = [test.test for test in plan_of(network).tests if test.subject.id == circuit.id and not test.optional]
    also = [kind for kind in ALSO_READ if subject_of(network, kind, ReadingSubject(kind="circuit", id=circuit.id))]
    if circuit.kind == "lighting":
        also.append("ir_selv")
    if any(load.kind == "charger" for load in circuit.loads):
        also.append("rcd_ramp")  # with the car charging
    defects = {*ANY, *(RING if circuit.kind == "ring" else RADIAL)}
    has_rcd = _rcd_ma(network, circuit) is not None
    return Place(
        standard=standard,
        job=job,
        network=network,
        circuit=circuit,
        kinds=tuple(dict.fromkeys([*usual, *also])),
        parts=tuple(_parts(network, network.tree.place(circuit).board)),
        may_have=frozenset(name for name in defects if _may_have(name, network, circuit, has_rcd)),
    )


@lru_cache
def _board(standard: str, number: int) -> Job:
    rules, typed = rule_set(standard), BOARDS[standard][number]
    job = begin("Trial", rules, typed.system, typed.phases)  # type: ignore[arg-type]
    job = job.model_copy(update={"supply": job.supply.model_copy(update={"ze_ohm": job.supply.ze_ohm or 0.3})})
    for board, lines in (("main", typed.lines), ("sub", typed.outbuilding)):
        for line in lines:
            job = enter_and_design(job, line, board).job
    main = job.boards[0]
    if typed.aluminium:
        *others, last = job.circuits
        cable = Cable(type="thwn-al", area_mm2=13.3, cpc="core")
        job = job.model_copy(update={"circuits": (*others, last.model_copy(update={"cable": cable}))})
    if typed.shared:
        main, job = _sharing(main, job)
    if typed.gear:
        gear = ControlGear(id="k1", name="Contactor", kind="contactor", switches=(main.ways[0].circuit,))
        relay = VoltageRelay(rating_a=63.0, over_v=260.0, under_v=195.0)
        main = main.model_copy(update={"control_gear": (gear,), "voltage_relay": relay})
    return job.model_copy(update={"boards": (main, *job.boards[1:])})


def _sharing(board: Board, job: Job) -> tuple[Board, Job]:
    """The circuits behind two residual-current devices, in turn; their own ones are breakers."""
    rcds = tuple(SharedRcd(id=f"r{n}", name=f"RCD {n}", rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for n in (1, 2))
    ways = tuple(way.model_copy(update={"rcd": f"r{1 + number % 2}"}) for number, way in enumerate(board.ways))
    circuits = []
    for circuit in job.circuits:
        assert not isinstance(circuit.device, str)
        device = circuit.device.model_copy(update={"kind": "mcb", "rcd": None})
        circuits.append(circuit.model_copy(update={"device": device}))
    return board.model_copy(update={"shared_rcds": rcds, "ways": ways}), job.model_copy(
        update={"circuits": tuple(circuits)}
    )


def _parts(network: Installation, board: Board) -> list[tuple[ReadingKind, str]]:
    """What is read of the supply, and of the board of the circuit: its bonds, surge devices and electrode."""
    supply: list[tuple[ReadingKind, str]] = [("ze", "supply"), ("pfc_ln", f"board:{board.id}"), ("r_me", "supply")]
    owner = network.tree.earth_of_board(board).owner
    if network.tree.earth_of_board(board).system == "TT":
        supply.append(("ra", f"electrode:{owner.id if owner is not None else 'supply'}"))
    for kind in ("r_bond", "spd"):
        found = [each.subject for each in subjects_of(network, kind) if each.board == board.id]
        supply += [(kind, f"{each.kind}:{each.id}") for each in found[:1]]
    return supply


def wiring_of(place: Place, rng: random.Random) -> Wiring:
    """The circuit as drawn, a little longer or shorter, with joints as good joints are."""
    network, circuit = place.network, place.circuit
    by_design = expecting(network, 20.0)
    unit = unit_of(network, by_design, MeasuredValues(network, {}), circuit.id)
    assert unit is not None
    symbols, ring = unit.model.symbols, unit.model.ring
    a, b, c = (symbols[name] for name in (("r1", "rn", "r2") if ring else ("R1", "Rn", "R2")))
    earth = network.tree.earth_of(circuit)
    electrode = None
    ahead = round(symbols["Ze"] * rng.uniform(0.6, 1.0), 2)
    if earth.system == "TT":
        electrode = max(ahead - 1.0, 1.0)
    ze_text = None if earth.owner is None else f"{(network.job.supply.ze_ohm or 0.3) * rng.uniform(0.6, 1.0):.2f}"
    line_to_neutral = min(symbols["Ze"], 0.6) * rng.uniform(0.5, 0.9)
    return Wiring(
        ring=ring, line_ohm=a, neutral_ohm=b, cpc_ohm=c, ze_ohm=ahead, zln0_ohm=line_to_neutral, rcd_ma=_rcd_ma(network, circuit),
        nominal_v=symbols["U0"], between_v=symbols["U"], rng=rng, stretch=rng.uniform(0.92, 1.08), lines=len(circuit.lines) or 1,
        electrode_ohm=electrode, ze_text=ze_text, load_a=rng.uniform(2.0, 8.0),
    )  # fmt: skip


def _rcd_ma(network: Installation, circuit: Circuit) -> tuple[float, float] | None:
    """Between what the residual-current device ahead of the circuit trips at, rising; None: it has none."""
    places = [place for place in network.rcds.all if circuit in place.behind]
    if not places:
        return None
    [subject, *_] = [each for each in subjects_of(network, "rcd_ramp") if each.rcd == places[-1].rcd]
    expected = expecting(network, 20.0).of("rcd_ramp", subject)
    return expected.least or places[-1].rcd.idn_ma / 2, expected.most or places[-1].rcd.idn_ma


#: What an installation has to have for a defect: told from the document, not by the diagnosis.
_OF_OWN_RCD = ("rcd-stuck", "rcd-slow", "rcd-sensitive", "rcd-delayed", "leakage-standing", "button-", "circuit-not", "line-ahead",
               "rcbo-", "rcd-fed", "rcd-ac", "rcd-lift")  # fmt: skip


def _may_have(name: str, network: Installation, circuit: Circuit, has_rcd: bool) -> bool:
    """Whether a defect is met in such an installation, and this circuit has what it is in."""
    if not any(each.id.endswith(f".{name}") for each in defects_of(network.rules.id)):
        return False
    device, board = circuit.device, network.tree.place(circuit).board
    assert not isinstance(device, str)
    earth, several = network.tree.earth_of(circuit), len(circuit.lines) > 1
    shared = bool(board.shared_rcds)
    contactor = any(circuit.id in gear.switches for gear in board.control_gear)
    has = {
        "rcd-neutrals-swapped": shared, "rcd-neutral-crossed": shared, "neutral-wrong-bar": shared, "neutrals-joined": has_rcd,
        "borrowed-neutral": has_rcd and not several, "coil-neutral-wrong-group": contactor and shared,
        "contactor-welded": contactor, "coil-backfed": contactor, "voltage-relay-setting": board.voltage_relay is not None,
        "switch-in-neutral": circuit.kind == "lighting", "lampholder-shell-live": circuit.kind == "lighting",
        "selv-not-separate": circuit.kind == "lighting", "mwbc-same-line": several and circuit.neutral,
        "mwbc-open-neutral": several and circuit.neutral, "open-neutral": not several and circuit.neutral,
        "phase-rotation": len(circuit.lines) == 3, "line-from-other-phase": several,
        "aluminium-joint": circuit.cable != "auto" and circuit.cable.type == "thwn-al", "afdd-dead": device.detects_arcs, "rcd-ac-blinded": any(load.kind == "charger" for load in circuit.loads),
        "tt-tn-mixed": earth.owner is not None, "tt-rod-dry": earth.system == "TT", "pen-open": network.job.supply.system in ("TN-C-S", "MEN"),
        "men-missing": network.job.supply.system in ("MEN", "TN-C-S") and network.rules.id in ("anz", "na"),
        "bond-missing": bool(board.fed_by == "origin"), "bond-false": bool(board.fed_by == "origin"),
        "not-extraneous": bool(board.fed_by == "origin"), "spd-failed": bool(board.spds),
    }  # fmt: skip
    if earth.system == "TT" and name in (
        "ze-high",
        "ze-with-parallel-paths",
        "small-cpc-cable",
        "joint-cpc",
        "loose-cpc-terminal",
    ):
        return False  # some tenths of an ohm beside tens: no reading of the loop shows them
    if earth.owner is not None and name in (
        "ze-high",
        "earthing-conductor-off",
        "reversed-at-board",
        "main-neutral-loose",
        "pen-open",
    ):
        return False  # of the house, not of the outbuilding that is read here
    if name.startswith(_OF_OWN_RCD) and (device.rcd is None or not has_rcd):
        return False
    return has.get(name, True)
