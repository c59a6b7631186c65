"""Which devices open for the currents that flow, at the earliest and at the latest."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import inf

from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.faults import nodes
from vivid_lattice.core.faults.electrical_model import STANDBY, Wired
from vivid_lattice.core.faults.nodal_analysis import NetworkSolution
from vivid_lattice.core.faults.on_standby import LimitedSource
from vivid_lattice.core.formulas.device.residual import Waveform
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Text
from vivid_lattice.core.network.overcurrent_series import Overcurrent, Pair
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.units import SLACK

#: A source that holds this share of its voltage goes on [1]: common practice, no source.
_HOLDS = 0.8
#: Currents under this share of a device's rating need not be looked at.
_WORTH_A_LOOK = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """A device that may trip: what it sees, and when it trips at the earliest and the latest [s]."""

    device: str
    name: Text
    where: Text
    part: str
    current_a: float
    earliest_s: float
    latest_s: float
    typical_s: float
    #: How many circuits it feeds: of two that race the one nearer the fault has fewer.
    behind: int


@dataclass(frozen=True, slots=True)
class DirectCurrent:
    """A direct current to earth that runs through the devices ahead of a circuit [A], and its waveform."""

    circuit: str
    amps: float
    waveform: Waveform


class Watch:
    """The protective devices of a job, watching two solutions: the smallest currents and the largest."""

    def __init__(self, network: Installation, source: LimitedSource | None = None):
        self._network, self._source = network, source
        self.lacks: list[Text] = []

    def candidates(
        self,
        wired: Wired,
        least: NetworkSolution,
        most: NetworkSolution,
        opened: frozenset[str],
        direct: DirectCurrent | None,
    ) -> list[Candidate]:
        """Every device that may trip for what flows, quickest typical time first."""
        candidates = [
            *self._overcurrent(wired, least, most, opened),
            *self._residual(wired, least, most, opened, direct),
            *self._voltage(wired, least, opened),
            *self._source_stops(least, opened),
        ]
        return sorted(
            _per_device(self._without_losers(candidates)), key=lambda candidate: (candidate.typical_s, candidate.behind)
        )

    # ------------------------------------------------------------------------------------------ overcurrent

    def _overcurrent_devices(self) -> list[Overcurrent]:
        """The cut-out and every device that is chosen."""
        series = self._network.series
        chosen = [device for device in map(series.device_of, self._placed()) if device is not None]
        return [series.cutout, *chosen] if series.cutout else chosen

    def _overcurrent(
        self, wired: Wired, least: NetworkSolution, most: NetworkSolution, opened: frozenset[str]
    ) -> Iterator[Candidate]:
        series = self._network.series
        for overcurrent in self._overcurrent_devices():
            if overcurrent.id in opened:
                continue
            poles = wired.poles.get(overcurrent.id, [])
            high = max((abs(most.amp(pole)) for pole in poles), default=0.0)
            low = max((abs(least.amp(pole)) for pole in poles), default=0.0)
            if high < overcurrent.key.rating_a * _WORTH_A_LOOK:
                continue
            try:
                band = series.band(overcurrent)
            except NeedsInput as lack:
                self._lack(
                    self._network.message(
                        "core.fault.lack", device=overcurrent.name, need=Joined.of(need.what for need in lack.needs)
                    )
                )
                continue
            early, late = band.opens_s(max(high, low))[0], band.opens_s(min(high, low))[1]
            if early < inf:
                typical = band.typical_s(max(high, low))
                yield Candidate(
                    device=overcurrent.id,
                    name=overcurrent.name,
                    where=overcurrent.where,
                    part="overcurrent",
                    current_a=high,
                    earliest_s=early,
                    latest_s=late,
                    typical_s=typical,
                    behind=self._behind(overcurrent),
                )

    def _placed(self) -> Iterator[Circuit]:
        return (circuit for circuit in self._network.job.circuits if circuit.id in self._network.tree.places)

    def _behind(self, overcurrent: Overcurrent) -> int:
        if overcurrent.circuit is None:
            return len(self._network.job.circuits) + 1
        return 1 + len(self._network.tree.fed_through(overcurrent.circuit))

    def _lack(self, words: Text) -> None:
        if words not in self.lacks:
            self.lacks.append(words)

    # ------------------------------------------------------------------------------------------ residual

    def _residual(
        self,
        wired: Wired,
        least: NetworkSolution,
        most: NetworkSolution,
        opened: frozenset[str],
        direct: DirectCurrent | None,
    ) -> Iterator[Candidate]:
        for place in self._network.rcds.all:
            if place.id in opened or (place.own_device is not None and place.own_device.id in opened):
                continue
            contacts = wired.residual.get(place.id, [])
            flows = [abs(sum(sign * solution.amp(name) for name, sign in contacts)) for solution in (least, most)]
            through = direct is not None and any(circuit.id == direct.circuit for circuit in place.behind)
            try:
                early, late, seen = self._times(place, min(flows), max(flows), direct if through else None)
            except NeedsInput as lack:
                self._lack(
                    self._network.message(
                        "core.fault.lack", device=place.name, need=Joined.of(need.what for need in lack.needs)
                    )
                )
                continue
            if early < inf:
                name = f"{self._network.rules.bands.rcd_name(place.rcd)}, {place.name}"
                own_circuit = place.own_device
                typical = inf if late == inf else (max(early, 1e-3) * late) ** 0.5
                device = own_circuit.id if own_circuit is not None else place.id
                yield Candidate(
                    device=device,
                    name=name,
                    where=place.where,
                    part="residual",
                    current_a=seen,
                    earliest_s=early,
                    latest_s=late,
                    typical_s=typical,
                    behind=len(place.behind),
                )

    def _voltage(self, wired: Wired, least: NetworkSolution, opened: frozenset[str]) -> Iterator[Candidate]:
        """Voltage-watching relays whose board gets too much or too little."""
        for board in self._network.job.boards:
            relay, device = board.voltage_relay, f"relay:{board.id}"
            if relay is None or device in opened:
                continue
            # It watches what arrives, ahead of its own contacts.
            arrives = [wired.net.branches[name].a for name in wired.contacts[device]]
            neutral = least.volts[wired.net.branches[nodes.contact(f"{board.id}:main", "N")].a]
            volts = [abs(least.volts[node] - neutral) for node in arrives]
            past = [
                (delay, seen)
                for seen in volts
                for delay, beyond in ((relay.over_s, seen > relay.over_v), (relay.under_s, seen < relay.under_v))
                if beyond
            ]
            if past:
                delay, seen = min(past)
                name = self._network.message("core.fault.relay", board=board.name)
                yield Candidate(
                    device=device,
                    name=name,
                    where=board.name,
                    part="voltage",
                    current_a=seen,
                    earliest_s=delay,
                    latest_s=delay,
                    typical_s=max(delay, 1e-3),
                    behind=len(board.ways),
                )

    def _source_stops(self, least: NetworkSolution, opened: frozenset[str]) -> Iterator[Candidate]:
        """A standby source whose voltage has broken down: it stops within the time of its data, or at once."""
        source = self._source
        if source is None or STANDBY in opened or least.share > _HOLDS:
            return
        if source.shutdown_s is None:
            self._lack(self._network.message("core.fault.lack_shutdown", name=source.name))
            return
        yield Candidate(
            device=STANDBY,
            name=source.name,
            where=source.board,
            part="voltage",
            # Of a device that watches the voltage, what it sees is in volts.
            current_a=least.share * self._network.job.supply.nominal_v,
            earliest_s=0.0,
            latest_s=source.shutdown_s,
            typical_s=source.shutdown_s,
            behind=len(self._network.job.circuits) + 1,
        )

    def _times(
        self, place: RcdPlace, low: float, high: float, direct: DirectCurrent | None
    ) -> tuple[float, float, float]:
        band = self._network.rules.bands.residual(place.rcd)
        smooth = direct.amps if direct is not None and direct.waveform == "smooth" else 0.0
        early, late = band.opens_s(high, "ac", smooth)[0], band.opens_s(low, "ac", smooth)[1]
        if direct is None:
            return early, late, high
        early_dc, late_dc = band.opens_s(direct.amps, direct.waveform)
        return min(early, early_dc), min(late, late_dc), max(high, direct.amps)

    # ------------------------------------------------------------------------------------------ order

    def _without_losers(self, candidates: list[Candidate]) -> list[Candidate]:
        """Without upstream devices that energy keeps closed: where a pair is selective at the current that flows, the one
        ahead does not open, though the edges of both overlap within half a wave."""
        over = {candidate.device: candidate for candidate in candidates if candidate.part == "overcurrent"}
        kept = set(over)
        for circuit in self._network.job.circuits:
            down = over.get(circuit.id)
            if down is None:
                continue
            for pair in self._network.series.pairs(circuit):
                if pair.down.id == circuit.id and pair.up.id in over and self._holds(pair, over[pair.up.id], down):
                    kept.discard(pair.up.id)
        return [candidate for candidate in candidates if candidate.part != "overcurrent" or candidate.device in kept]

    def _holds(self, pair: Pair, up: Candidate, down: Candidate) -> bool:
        """Whether the upstream device certainly stays closed: the other is at the latest before it, or takes less energy."""
        if down.latest_s <= up.earliest_s:
            return True
        if down.latest_s > 0.1 + SLACK:
            return False
        reach = or_none(lambda: self._network.series.reach(pair, up.current_a))
        return reach is not None and up.current_a <= reach.current_a


def _per_device(candidates: list[Candidate]) -> list[Candidate]:
    """A device of two parts trips by whichever is first: of an RCBO the part that is sooner at the latest speaks for both."""
    by_device: dict[str, Candidate] = {}
    for candidate in candidates:
        other = by_device.get(candidate.device)
        if other is None:
            by_device[candidate.device] = candidate
            continue
        sooner, later = sorted((candidate, other), key=lambda each: each.latest_s)
        by_device[candidate.device] = replace(
            sooner,
            earliest_s=min(sooner.earliest_s, later.earliest_s),
            typical_s=min(sooner.typical_s, later.typical_s),
        )
    return list(by_device.values())
