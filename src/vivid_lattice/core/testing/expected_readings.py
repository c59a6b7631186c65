"""What a meter should read when the work is tested: for the test sheets, circuit by circuit, from the same network as the checks."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

from vivid_lattice.core.assessment.assess import in_board_order
from vivid_lattice.core.checks import CHECKS, run_check
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.formulas.cable.impedance import conductor_ohm
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text
from vivid_lattice.core.network.loops import chosen_cable, run_length_m
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import shown_down, shown_up
from vivid_lattice.core.units import ka_from_a

_DISCONNECTION = next(check for check in CHECKS if check.id == "disconnection")


@dataclass(frozen=True, slots=True)
class RingEnds:
    """End-to-end resistances of a ring at 20 °C [Ω]: line, neutral, protective conductor."""

    line_ohm: float
    neutral_ohm: float
    cpc_ohm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RcdTest:
    """A residual-current function that the circuit lies behind: where, rating [mA], type, and the longest times [ms] it may take
    at each multiple of IΔn that the standard tests at; None where the standard's table holds none."""

    where: Text
    idn_ma: float
    type: str
    most_ms: tuple[float | None, ...]
    source: Source | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ExpectedReadings:
    """A circuit on a test sheet. None: not known, or not required by the standard; ``missing`` says what is missing.

    ``zs_reading_ohm``: the most a loop may read on cold conductors to be accepted at once. ``zs_by_rcd``: its limit is that of
    the RCD, not of the overcurrent device.
    """

    circuit: str
    name: str
    board: str
    way: int
    ring: RingEnds | None
    r1r2_ohm: float | None
    zs_cold_ohm: float | None
    zs_limit_ohm: float | None
    zs_reading_ohm: float | None
    zs_by_rcd: bool
    zs_source: Source | None
    fault_ka: float | None
    rcds: tuple[RcdTest, ...]
    arc_fault: bool
    missing: tuple[Text, ...]

    def shown_r1r2(self) -> str:
        """R1+R2 as it is printed."""
        return "?" if self.r1r2_ohm is None else shown_up(self.r1r2_ohm)

    def shown_zs(self) -> str:
        """The loop a meter should read, as it is printed."""
        return "?" if self.zs_cold_ohm is None else shown_up(self.zs_cold_ohm)

    def shown_most(self) -> str:
        """The most the loop may read, rounded down."""
        return "–" if self.zs_reading_ohm is None else shown_down(self.zs_reading_ohm)


def expected(network: Installation) -> tuple[ExpectedReadings, ...]:
    """What every circuit should read, in the order of the boards' ways."""
    return tuple(expected_of(network, circuit) for circuit in in_board_order(network.job))


def expected_of(network: Installation, circuit: Circuit) -> ExpectedReadings:
    """What a circuit should read."""
    place = network.tree.place(circuit)
    loops, rules = network.loops, network.rules
    finding = run_check(_DISCONNECTION, CircuitContext(network, circuit, explain=False))
    if finding.verdict == "missing":
        # The loop is not known, its limit may be: that of the overcurrent device, or in TT that of the RCD.
        limit = or_none(partial(_overcurrent_limit_ohm, network, circuit))
        by_rcd = limit is None
        limit = _rcd_limit_ohm(network, circuit) if by_rcd else limit
    else:
        limit = finding.limit if finding.unit == "Ω" else _rcd_limit_ohm(network, circuit)
        by_rcd = finding.unit != "Ω" or (
            limit is not None and finding.rule is not None and finding.rule != rules.rule("loop")
        )
    share = rules.papers.cold_share
    reading = limit if by_rcd or limit is None or share is None else limit * share.value
    lacks = []
    try:
        loops.far_end_cold_ohm(circuit)
    except NeedsInput as lack:
        lacks += [need.what for need in lack.needs]
    lacks += [need.what for need in finding.needs]
    return ExpectedReadings(
        circuit=circuit.id,
        name=circuit.name,
        board=place.board.id,
        way=place.way.number,
        ring=or_none(lambda: ring_ends(network, circuit)) if circuit.kind == "ring" else None,
        r1r2_ohm=or_none(lambda: loops.run(circuit).cold_ohm),
        zs_cold_ohm=or_none(lambda: loops.far_end_cold_ohm(circuit)),
        zs_limit_ohm=limit,
        zs_reading_ohm=reading,
        zs_by_rcd=by_rcd,
        zs_source=finding.rule,
        fault_ka=or_none(lambda: ka_from_a(loops.board_fault_a(place.board))),
        rcds=_rcds(network, circuit),
        arc_fault=not is_auto(circuit.device) and circuit.device.arc_fault,
        missing=tuple(dict.fromkeys(lacks)),
    )


def _overcurrent_limit_ohm(network: Installation, circuit: Circuit) -> float | None:
    """The loop limit of a circuit's own device in TN [Ω]; None in TT, where the RCD decides, and where the standard knows no limit.
    NeedsInput while the device is not chosen."""
    system = network.tree.earth_of(circuit).system
    if system == "TT" or network.rules.limits.no_disconnection is not None or is_auto(circuit.device):
        return None
    time = network.rules.limits.disconnection_s(circuit, circuit.device.rating_a, system)
    return network.rules.devices.loop_limit(circuit.device, time.value).zs_ohm


def _rcd_limit_ohm(network: Installation, circuit: Circuit) -> float | None:
    """The largest loop limit of the RCDs upstream [Ω]; None where there is none."""
    devices, system = network.rules.devices, network.tree.earth_of(circuit).system
    limits = [devices.rcd_loop_limit(ahead.rcd, system).zs_ohm for ahead in network.tree.rcds_ahead(circuit)]
    return max(limits, default=None)


def ring_ends(network: Installation, circuit: Circuit) -> RingEnds:
    """A ring once round. The neutral is as large as the line. NeedsInput while its length is not known."""
    cables, cable, length = network.rules.cables, chosen_cable(circuit), run_length_m(circuit)
    line = conductor_ohm(cables.line_mohm_per_m(cable).value, length)
    cpc = conductor_ohm(cables.cpc_mohm_per_m(cable, network.tree.loaded(circuit)).value, length)
    return RingEnds(line, line, cpc)


def rcd_multiples(network: Installation) -> tuple[float, ...]:
    """Multiples of IΔn at which the standard has an RCD tested; none where it has the button pressed alone."""
    return or_none(lambda: network.rules.papers.rcd_multiples) or ()


def _rcds(network: Installation, circuit: Circuit) -> tuple[RcdTest, ...]:
    devices, multiples = network.rules.devices, rcd_multiples(network)
    tests = []
    for ahead in network.tree.rcds_ahead(circuit):
        times = [or_none(partial(devices.rcd_time_s, ahead.rcd, many)) for many in multiples]
        source = next((time.source for time in times if time is not None), None)
        kind = f"{ahead.rcd.type}, delayed" if ahead.rcd.time_delayed else ahead.rcd.type
        most = tuple(None if time is None else 1000 * time.value for time in times)
        tests.append(RcdTest(where=ahead.where, idn_ma=ahead.rcd.idn_ma, type=kind, most_ms=most, source=source))
    return tuple(tests)


def judged_by_sum(readings: ExpectedReadings, finding: Finding | None) -> bool:
    """Whether a sound circuit will read more than is accepted at once, so that the warm sum has to decide."""
    if readings.zs_cold_ohm is None or readings.zs_reading_ohm is None or finding is None:
        return False
    return readings.zs_cold_ohm > readings.zs_reading_ohm and finding.verdict in ("pass", "tight", "advice")
