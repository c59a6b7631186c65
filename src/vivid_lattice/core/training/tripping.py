"""Which devices of a training board do not stay closed: by the faults that hidden defects are when they are live."""

from __future__ import annotations

from collections.abc import Sequence

from vivid_lattice.core.testing.diagnosis.circuit_symbols import TRIPS_AT
from vivid_lattice.core.testing.diagnosis.defects import Defect
from vivid_lattice.core.training.bench_state import BenchState
from vivid_lattice.core.training.boards import HiddenDefect

#: Faults of a live defect that its overcurrent device opens at once, and those that its residual-current device does.
_OVERCURRENT = frozenset({"line-neutral", "line-earth"})
_RESIDUAL = frozenset({"line-earth", "leakage", "neutral-earth", "borrowed-neutral", "neutral-wrong-bar", "neutrals-swapped", "rcd-neutral-crossed", "nail"})  # fmt: skip
#: Faults that a current flows to earth through, by the resistance of the fault [MΩ], or the share of the rated current that leaks.
_TO_EARTH = frozenset({"line-earth", "leakage", "nail"})
_RESISTANCE, _OF_RATED = "Rf", "k"


def devices_that_trip(bench: BenchState, circuits: Sequence[str]) -> tuple[str, ...]:
    """Devices that trip as circuits are switched on with loads."""
    found = [
        device
        for each in circuits
        for defect, hidden in bench.board.defects_of(each)
        if (bench.is_on(each) or _flows_back(bench, defect, each))
        and (device := _opened_by(bench, defect, hidden, each))
    ]
    return tuple(dict.fromkeys(found))


def _flows_back(bench: BenchState, defect: Defect, circuit: str) -> bool:
    """Whether a fault of a neutral trips the shared device though the breaker of its circuit is off: that switches the line alone."""
    before = bench.devices_of(circuit)[:-1]
    is_fed = len(before) > 1 and not any(each in bench.off or each in bench.tripped for each in before)
    return is_fed and "neutral-earth" in defect.events and circuit not in bench.neutrals_off


def _opened_by(bench: BenchState, defect: Defect, hidden: HiddenDefect, circuit: str) -> str:
    """The device that trips by a defect: by a short its circuit's, by what flows to earth the residual-current device before it. '': none."""
    faults = set(defect.events)
    if "rcd" in bench.board.models[circuit].facts and _is_residual(bench, defect, hidden, circuit):
        return bench.devices_of(circuit)[-2] or circuit
    return circuit if faults & _OVERCURRENT and _RESISTANCE not in hidden.parameters else ""


def _is_residual(bench: BenchState, defect: Defect, hidden: HiddenDefect, circuit: str) -> bool:
    faults, on_load = set(defect.events), defect.effects.get("rcd_load")
    leaks = _leaks_a(bench, faults, hidden, circuit)
    if leaks is not None:
        return leaks >= bench.board.models[circuit].symbols["Itrip"]
    return bool(faults & _RESIDUAL) or (on_load is not None and on_load.change == "trips")


def _leaks_a(bench: BenchState, faults: set[str], hidden: HiddenDefect, circuit: str) -> float | None:
    """What flows to earth through a fault of a known size [A]; None of a fault without one.

    Equation  I = U0 / Rf through damaged insulation; k of the rated residual current of standing leakage
    """
    symbols = bench.board.models[circuit].symbols
    if (mohm := hidden.parameters.get(_RESISTANCE)) is not None:
        return symbols["U0"] / (mohm * 1e6) if faults & _TO_EARTH else 0.0
    share = hidden.parameters.get(_OF_RATED)
    return None if share is None or "leakage" not in faults else share * symbols["Itrip"] / TRIPS_AT
