"""Runs an event: what trips, when, and what then. Deterministic; the same engine ranks causes and serves the bench."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import inf

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.faults.event import KIND_FIELDS, FaultEvent
from vivid_lattice.core.faults.fault_model import FAULT, FaultBuilder, Scene
from vivid_lattice.core.faults.nodal_analysis import NetworkSolution
from vivid_lattice.core.faults.nodes import BranchName
from vivid_lattice.core.faults.on_standby import LimitedSource, on_standby
from vivid_lattice.core.faults.result_types import FaultStage, Trip, shown_time
from vivid_lattice.core.faults.tripping import Candidate, Watch
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, Text
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.text import Shown

#: More stages than this no household fault has.
_MAX_STAGES = 6


@dataclass(kw_only=True)
class Run:
    """An event run to its end: the scenes, the solutions before anything tripped and after the likely trips, and the stages.

    ``opened``: devices that open for certain or are the likeliest; ``perhaps``: others that may trip with or before them.
    """

    network: Installation
    hand: FaultBuilder
    warm: Scene
    cold: Scene
    first_least: NetworkSolution
    first_most: NetworkSolution
    last: NetworkSolution
    stages: list[FaultStage] = field(default_factory=list)
    opened: list[str] = field(default_factory=list)
    perhaps: list[str] = field(default_factory=list)
    candidates: list[Candidate] = field(default_factory=list)
    missing: list[Text] = field(default_factory=list)

    @property
    def cleared_s(self) -> float | None:
        """When the fault's current has ended at the latest [s]; None: never, or not for certain."""
        first = self.stages[0].fault_a_most
        quiet = (stage.from_s for stage in self.stages[1:] if stage.fault_a_most <= 0.01 * first)
        return next(quiet, None)


def run_event(job: Job, event: FaultEvent) -> Run:
    """An event on a job that ``read_document`` has accepted, opening by opening.

    Raises NeedsInput where the supply or the run it happens on is not known, OutOfRange where the event names what is not there.
    """
    network, source = Installation.of(job, rule_set(job.job.rules)), None
    if event.standby is not None and "standby" in KIND_FIELDS[event.kind]:
        island, source = on_standby(network, event.standby)
        _in_island(network, island, source, event)
        network = Installation.of(island, network.rules)
    hand = FaultBuilder(network, event, source)
    warm, cold = hand.scene(warm=True), hand.scene(warm=False)
    least, most = warm.wired.net.solve(), cold.wired.net.solve()
    run = Run(network=network, hand=hand, warm=warm, cold=cold, first_least=least, first_most=most, last=least)
    watch = Watch(network, source)
    from_s, opened = 0.0, frozenset[str]()
    for _ in range(_MAX_STAGES):
        candidates = watch.candidates(warm.wired, least, most, opened, warm.direct)
        stage, winner = _stage(run, candidates, least, most, from_s)
        run.stages.append(stage)
        if not run.candidates:
            run.candidates = candidates
        if winner is None:
            break
        opened = opened | {winner.device}
        run.opened.append(winner.device)
        run.perhaps += [opening.device for opening in stage.openings if opening.device != winner.device]
        contacts = {name for device in opened for name in _contacts(warm, network, device)}
        least, most = warm.wired.net.solve(contacts), cold.wired.net.solve(contacts)
        from_s = stage.until_s if stage.until_s is not None else from_s
        if warm.direct is not None and _cut_off(network, opened, warm.direct.circuit):
            run.stages.append(_quiet(network, least, most, from_s))
            break
    run.last, run.missing = least, watch.lacks
    return run


def _in_island(network: Installation, island: Job, source: LimitedSource, event: FaultEvent) -> None:
    """Raises NotPossible where the source does not supply the circuit of an event."""
    circuit = network.tree.circuits.get(event.circuit or "")
    if circuit is not None and all(each.id != circuit.id for each in island.circuits):
        raise NotPossible(network.message("core.fault.not_on_standby", circuit=circuit.name, name=source.name))


def _contacts(scene: Scene, network: Installation, device: str) -> list[BranchName]:
    """Contacts that open in a trip: of a breaker without a residual-current part its lines alone."""
    circuit = network.tree.circuits.get(device)
    if circuit is not None and not is_auto(circuit.device) and circuit.device.rcd is None:
        return scene.wired.poles.get(device, [])
    return scene.wired.contacts.get(device, [])


def _cut_off(network: Installation, opened: frozenset[str], circuit: str) -> bool:
    """Whether a tripped device is ahead of a circuit, or is its own."""
    fed = network.tree.circuits[circuit]
    ahead = {place.id for place in network.rcds.ahead_of(fed)} | {item.id for item in network.series.way(fed)}
    return bool(ahead & opened)


def _stage(
    run: Run, candidates: list[Candidate], least: NetworkSolution, most: NetworkSolution, from_s: float
) -> tuple[FaultStage, Candidate | None]:
    """What flows now, who may end it, and who is the likeliest."""
    low, high = sorted((abs(least.amp(FAULT)), abs(most.amp(FAULT))))
    if not candidates:
        return _quiet(run.network, least, most, from_s), None
    soonest = min(candidate.latest_s for candidate in candidates)
    may = [candidate for candidate in candidates if candidate.earliest_s <= soonest]
    likely = may[0]
    surely = len(may) == 1 and likely.latest_s < inf
    openings = tuple(_opening(run.network, candidate, from_s, certain=surely) for candidate in may)
    until = None if soonest == inf else from_s + soonest
    words = _words(run.network, may, surely, soonest)
    return FaultStage(
        text=words, from_s=from_s, until_s=until, fault_a_most=high, fault_a_least=low, openings=openings
    ), likely if soonest < inf else None


def _quiet(network: Installation, least: NetworkSolution, most: NetworkSolution, from_s: float) -> FaultStage:
    low, high = sorted((abs(least.amp(FAULT)), abs(most.amp(FAULT))))
    words = network.message("core.fault.stage.quiet")
    return FaultStage(text=words, from_s=from_s, until_s=None, fault_a_most=high, fault_a_least=low, openings=())


def _opening(network: Installation, candidate: Candidate, from_s: float, *, certain: bool) -> Trip:
    early = from_s + candidate.earliest_s
    late = None if candidate.latest_s == inf else from_s + candidate.latest_s
    amps = f"{candidate.current_a * 1000:.0f} mA" if candidate.current_a < 1 else f"{candidate.current_a:.0f} A"
    if candidate.part == "voltage":
        amps = f"{candidate.current_a:.0f} V"
    key = "core.fault.stage.may" if late is None else "core.fault.stage.opening"
    times = {} if late is None else {"late": shown_time(late)}
    shown = network.message(key, amps=Shown(amps), early=shown_time(early), **times)
    return Trip(
        device=candidate.device,
        name=candidate.name,
        where=candidate.where,
        part=candidate.part,
        current_a=candidate.current_a,
        earliest_s=early,
        latest_s=late,
        certain=certain,
        shown=shown,
    )


def _words(network: Installation, may: list[Candidate], surely: bool, soonest: float) -> Message:
    if soonest == inf:
        return network.message("core.fault.stage.perhaps", devices=Joined.of((each.name for each in may[:3]), ", "))
    time = shown_time(soonest)
    if surely or len(may) == 1:
        return network.message("core.fault.stage.one", device=may[0].name, time=time)
    others = Joined.of((each.name for each in may[1:4]), ", ")
    return network.message("core.fault.stage.several", device=may[0].name, time=time, others=others)
