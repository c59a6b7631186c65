"""The figures of a circuit that formulas of readings are made of, as designed, at the temperature of the day."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Cable, Circuit
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.testing.diagnosis.facts import facts_of
from vivid_lattice.core.testing.expected_value import Expecting
from vivid_lattice.core.testing.measured_values import MeasuredValues

#: A sound insulation [MΩ]; what a sound residual-current device trips at, of its rating, and the standing leakage [A]: common practice.
_SOUND_MOHM, TRIPS_AT, _LEAK_A = 200.0, 0.75, 0.0
#: The rating of one that is not known [mA].
_USUAL_RCD_MA = 30.0
#: An electrode of the source, and a pipe in the ground [Ω]: usual values, common practice.
_RB_OHM, _PIPE_OHM = 5.0, 8.0
#: A surge device passes 1 mA at so many volts; an insulation tester gives so many milliamperes.
_VARISTOR_V, _TESTER_MA = 430.0, 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitModel:
    """A circuit as it is compared: its symbols, and the formula of each reading while nothing is wrong. ``scale_free``: its length is not
    known, so that only ratios of its conductors count; ``facts``: what it has that a defect can be in."""

    circuit: Circuit
    ring: bool
    facts: frozenset[str]
    symbols: Mapping[str, float]
    healthy: Mapping[ReadingKind, str]
    scale_free: bool

    def has(self, kind: ReadingKind) -> bool:
        """Whether a kind of reading is taken of such a circuit: ends of a ring, R1+R2 of a radial."""
        return kind in self.healthy or kind not in {**_RING, **_RADIAL}


_RADIAL: Mapping[ReadingKind, str] = {
    "r1r2": "R1+R2", "r1rn": "R1+Rn", "r2": "R2", "zs": "Ze+R1+R2", "zln": "ZLN0+R1+Rn",
}  # fmt: skip
_RING: Mapping[ReadingKind, str] = {
    "r1_end": "r1", "rn_end": "rn", "r2_end": "r2", "x_ln": "(r1+rn)/4", "x_le": "(r1+r2)/4",
    "zs": "Ze+(r1+r2)*x*(1-x)", "zln": "ZLN0+(r1+rn)*x*(1-x)",
}  # fmt: skip
_SUPPLY: Mapping[ReadingKind, str] = {
    "ze": "Ze",
    "pfc_le": "U0/Ze",
    "pfc_ln": "U0/ZLN0",
    "u_ln": "U0",
    "ra": "RA",
    "rcd_ramp": "1000*Itrip",
    "u_ll": "U",
    "u_le": "U0",
    "u_ne": "0",
    "u_me": "0",
    "i_res": "Ileak",
    "i_pe": "0",
}
#: The loop through the neutral of a supply on an electrode [Ω]: usual value, common practice.
_NEUTRAL_OHM = 0.25
#: No symbol is less.
_LEAST = 1e-6
#: A length in place of one that is not known: it is scaled.
_ANY_M = 20.0


def circuit_model(expecting: Expecting, measured: MeasuredValues, circuit: Circuit) -> CircuitModel:
    """The model of a circuit at the temperature of the readings. What is ahead of it counts as it was read, else as designed.

    Raises  NeedsInput while its cable, or the loop ahead of it, is not known
    """
    network = expecting.design
    ring, cable = circuit.kind == "ring", chosen_cable(circuit)
    cables = network.rules.cables
    line_mohm = cables.line_mohm_per_m(cable).value
    cpc_mohm = cables.cpc_mohm_per_m(cable, network.tree.loaded(circuit)).value
    run = or_none(lambda: network.loops.run(circuit))
    length_m = _ANY_M if run is None else run.length_m
    r1, r2 = line_mohm * length_m / 1000, cpc_mohm * length_m / 1000
    day = expecting.factor
    place = network.tree.place(circuit)
    ze = _ahead_ohm(network, measured, circuit)
    volts = network.job.supply.nominal_v
    # The largest prospective current, which boards are chosen for, says nothing of the loop as it is: unless it is read, the neutral
    # counts as the earth does; on an electrode the earth says nothing of it, and a usual value counts.
    on_electrode = network.tree.earth_of(circuit).system == "TT"
    fault = measured.read("pfc_ln", ReadingSubject(kind="board", id=place.board.id))
    symbols = {
        "U0": volts,
        "U": volts * (2 if network.job.supply.phases == 2 else 3**0.5),
        "Ze": ze,
        "ZLN0": volts / fault if fault else _NEUTRAL_OHM if on_electrode else ze,
        "x": 0.5,
        "Riso": _SOUND_MOHM,
        "Itrip": trips_at_a(_rcd_ma(circuit)),
        "Ileak": _LEAK_A,
        "RA": or_none(network.loops.ze_ohm) or _PIPE_OHM,
        "RB": _RB_OHM,
        "Rpipe": _PIPE_OHM,
        "Uvar": _VARISTOR_V,
        "Itest": _TESTER_MA,
        "RNs": 0.03,
        "RPs": 0.05,
        "ratio": cpc_mohm / line_mohm,
        **_smaller(network, circuit, cable),
    }
    if ring:
        symbols |= {"r1": r1 * day, "rn": r1 * day, "r2": r2 * day}
        symbols |= {"R1": r1 * day / 4, "Rn": r1 * day / 4, "R2": r2 * day / 4}
    else:
        # On the longest spur, which the reading at the end is taken on.
        more = run.spur.cold_ohm if run is not None and run.spur is not None else 0.0
        ratio = cpc_mohm / line_mohm
        spur_line = more / (1 + ratio)
        symbols |= {"R1": (r1 + spur_line) * day, "Rn": (r1 + spur_line) * day, "R2": (r2 + more - spur_line) * day}
    # A loop or a length that is read or stated as 0 is as good as none: formulas divide by some of these.
    symbols = {name: max(value, _LEAST) for name, value in symbols.items()}
    healthy = {**(_RING if ring else _RADIAL), **_SUPPLY}
    return CircuitModel(
        circuit=circuit,
        ring=ring,
        facts=facts_of(network, circuit),
        symbols=symbols,
        healthy=healthy,
        scale_free=run is None,
    )


def _ahead_ohm(network: Installation, measured: MeasuredValues, circuit: Circuit) -> float:
    """The loop to earth ahead of a circuit [Ω]: as read at the origin or at the end of its feeder, on an electrode of its own with that as
    read, else as designed. NeedsInput where none of them is known."""
    board, earth = network.tree.place(circuit).board, network.tree.earth_of(circuit)
    if earth.system == "TT" and earth.owner is not None:
        own = earth.owner is circuit
        designed = abs(network.loops.ahead_of(circuit)) if own else network.loops.board_cold_ohm(board)
        read = measured.read("ra", ReadingSubject(kind="electrode", id=earth.owner.id))
        return designed if read is None else max(designed - network.loops.local_electrode_ohm(earth), 0.0) + read
    feeder = network.tree.feeder(board)
    read = measured.ze_ohm if feeder is None else measured.read("zs", ReadingSubject(kind="circuit", id=feeder.id))
    return network.loops.board_cold_ohm(board) if read is None else read


def trips_at_a(idn_ma: float) -> float:
    """What a sound residual-current device of a rating [mA] usually trips at [A]."""
    return TRIPS_AT * idn_ma / 1000


def _rcd_ma(circuit: Circuit) -> float:
    """The rating of the circuit's own residual-current device [mA]."""
    device = circuit.device
    return _USUAL_RCD_MA if is_auto(device) or device.rcd is None else device.rcd.idn_ma


def _smaller(network: Installation, circuit: Circuit, cable: Cable) -> dict[str, float]:
    """What a metre of the next smaller size of the cable has over one of this: line ``m1``, protective conductor ``m2``."""
    cables = network.rules.cables
    sizes = [size for size in cables.kind(cable.type).sizes_mm2 if size < cable.area_mm2]
    if not sizes:
        return {"m1": 1.5, "m2": 1.5}
    smaller = cable.model_copy(update={"area_mm2": max(sizes), "cpc_mm2": None})
    loaded = network.tree.loaded(circuit)
    line = cables.line_mohm_per_m(smaller).value / cables.line_mohm_per_m(cable).value
    cpc = or_none(lambda: cables.cpc_mohm_per_m(smaller, loaded).value / cables.cpc_mohm_per_m(cable, loaded).value)
    return {"m1": line, "m2": cpc or line}
