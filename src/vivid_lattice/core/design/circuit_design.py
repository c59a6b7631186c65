"""The device and cable of each circuit: what is usual for it, or the smallest or cheapest that pass every check where they require more."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from math import inf

from vivid_lattice.core.assessment.assess import findings_of, in_board_order
from vivid_lattice.core.checks import (
    arc_fault,
    breaking_capacity,
    capacity,
    disconnection,
    overload,
    protective_conductor,
    rcd_duty,
    rcd_type,
    run_check_alone,
    short_circuit_withstand,
    surge,
)
from vivid_lattice.core.design.board_changes import surge_device
from vivid_lattice.core.design.candidate_changes import protecting_devices, with_cable, with_device
from vivid_lattice.core.design.cost import cable_cost, device_cost
from vivid_lattice.core.design.phase_balance import balanced
from vivid_lattice.core.design.shared_rcds import with_shared_rcds
from vivid_lattice.core.design.usual import Usual, usual_form, usual_of
from vivid_lattice.core.document.feeds import feeds_lights
from vivid_lattice.core.document.job import Cable, Circuit, Device, GroupRcd, Job, with_circuit, with_parts
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import Finding, shown
from vivid_lattice.core.installation.contexts import Context, Network, SupplyContext
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import CableKind, RuleSet

#: Verdicts that do not count against a choice.
_GOOD = frozenset({"pass", "tight", "not-applicable"})
#: Checks of a final circuit that a larger feeder can mend.
_FEEDER_HELPS = ("voltage-drop", "disconnection")
_MOST_RUNNERS = 6


@dataclass(frozen=True, slots=True)
class Runner:
    """A choice that was not taken, and why it lost. ``cost`` by the job's price list, as cable."""

    what: str
    why: str
    cost: float


@dataclass(frozen=True, slots=True)
class Decision:
    """What was chosen for a circuit, the check that ruled out the next smaller choice, and what else was considered."""

    circuit: str
    what: str
    chosen: str
    decided_by: str
    sentence: str
    passes: bool
    cost: float = 0.0
    runners: tuple[Runner, ...] = ()


@dataclass(frozen=True, slots=True)
class Design:
    """A job with nothing left as auto (as far as its inputs allow), and why."""

    job: Job
    decisions: tuple[Decision, ...]


@dataclass(frozen=True, slots=True)
class _Candidate:
    """A circuit on a cable: how it does in the checks, what the cable costs, the checks that no cable mends (``beyond``), and
    whether it is smaller than is usual here."""

    circuit: Circuit
    cable: Cable
    kind: CableKind
    rank: int
    findings: list[Finding]
    cost: float
    beyond: tuple[str, ...] = ()
    below_usual: bool = False


def design(job: Job, *, spd: bool = True) -> Design:
    """Fill every line, device and cable left open with what passes all checks: the smallest, or the cheapest where the job
    asks for that; but no smaller than is usual for the kind of circuit, unless the job's setting turns that off.

    Lines come first, spread evenly; then devices, since a feeder's load hangs on what it feeds; then cables from the origin
    outwards. Where a final circuit cannot be made to pass and its feeder was left open too, the feeder grows until it does.
    What lacks an input stays auto, and the decision says what is missing. The job given is left as it was.

    spd  whether a board that needs a surge protective device gets one too, where the job's setting says so
    """
    rules = rule_set(job.job.rules)
    decisions: dict[tuple[str, str], Decision] = {}
    open_cables = {circuit.id for circuit in job.circuits if isinstance(circuit.cable, str)}
    open_devices = {circuit.id for circuit in job.circuits if isinstance(circuit.device, str)}
    job, placed = balanced(job, rules)
    for identity in placed:
        [line] = next(circuit.lines for circuit in job.circuits if circuit.id == identity)
        sentence = f"{line}: the line that carries least without it."
        decisions[identity, "line"] = Decision(identity, "line", line, "demand", sentence, True)
    for board in job.boards:
        open_here = [
            one for one in job.circuits if one.id in open_devices and any(way.circuit == one.id for way in board.ways)
        ]
        usual = [found for one in open_here if (found := _usual(job, one, rules)) is not None]
        job, said = with_shared_rcds(job, board, usual, rules)
        if said:
            decisions[board.id, "rcds"] = Decision(board.id, "rcds", "shared", rcd_duty.ID, said, True)
    for circuit in _devices_first(job):
        if isinstance(circuit.device, str):
            job, decision = _choose_device(job, circuit, rules)
            decisions[circuit.id, "device"] = decision
    for circuit in _feeders_first(job):
        if circuit.id in open_cables:
            before = job
            job, decision = _choose_cable(job, circuit, rules)
            decisions[circuit.id, "cable"] = decision
            if circuit.id in open_devices and decision.decided_by == disconnection.ID:
                job, quicker = _quicker(before, job, circuit, rules, decision)
                for one in quicker:
                    decisions[circuit.id, one.what] = decision = one
            if not decision.passes:
                job = _grow_feeders(job, circuit, rules, open_cables, decisions)
    job, added = _with_spd(job, rules) if spd else (job, ())
    return Design(job, (*decisions.values(), *added))


def _with_spd(job: Job, rules: RuleSet) -> tuple[Job, tuple[Decision, ...]]:
    """The job with the usual surge protective device in its first board, where one is required and the job's setting has it added."""
    board = next((board for board in job.boards if isinstance(board.fed_by, str)), None)
    if not job.settings.design_spd or board is None or any(other.surge for other in job.boards) or not job.circuits:
        return job, ()
    try:
        found = run_check_alone(surge.check, surge.ID, SupplyContext(Network.of(job, rules), explain=False))
    except NeedsInput:
        return job, ()
    if found.verdict != "fail":
        return job, ()
    spd = surge_device(job, board)
    changed = with_parts(job, (), (board.model_copy(update={"surge": (spd,)}),))
    sentence = f"SPD type {spd.type} in {board.name}: one is required, and none is fitted or declined in writing."
    return changed, (Decision(board.id, "spd", f"type {spd.type}", surge.ID, sentence, True),)


def _devices_first(job: Job) -> list[Circuit]:
    """Final circuits before the feeders that carry them, deepest boards first."""
    network = Network.of(job, rule_set(job.job.rules))
    return sorted(
        in_board_order(job), key=lambda circuit: (circuit.kind == "distribution", -len(network.tree.chain(circuit)))
    )


def _feeders_first(job: Job) -> list[Circuit]:
    network = Network.of(job, rule_set(job.job.rules))
    return sorted(
        in_board_order(job), key=lambda circuit: (circuit.kind != "distribution", len(network.tree.chain(circuit)))
    )


# ------------------------------------------------------------------------------------------------ devices


def with_ratings(job: Job, board_id: str, ratings_a: Mapping[str, float]) -> Job:
    """The job with devices of given ratings [A] for circuits of a board: of the kind that is usual, in the form that the checks
    of RCDs and arc faults require, behind shared RCDs where those are usual and the board is new.

    ratings_a  by the circuits' ids
    """
    rules = rule_set(job.job.rules)
    board = next(one for one in job.boards if one.id == board_id)
    given, rooms = [one for one in job.circuits if one.id in ratings_a], {room.id: room for room in job.rooms}
    forms = {one.id: usual_form(one, rules, rooms) if job.settings.design_usual else None for one in given}
    job, _ = with_shared_rcds(job, board, [form for form in forms.values() if form is not None], rules)
    for circuit in given:
        usual = forms[circuit.id]
        device = _usual_device(circuit, ratings_a[circuit.id], rules, usual)
        job = with_circuit(job, with_device(circuit, device))
        job, device = _protecting(job, circuit, device, rules, usual is not None and usual.rcd)
        job = with_circuit(job, with_device(circuit, _that_breaks(job, circuit, device, rules)))
    return job


def _choose_device(job: Job, circuit: Circuit, rules: RuleSet) -> tuple[Job, Decision]:
    sockets = circuit.kind in ("ring", "radial") and circuit.design_current_a is None
    usual = _usual(job, circuit, rules)
    least = usual.rating_a if usual and usual.rating_a is not None else 0.0
    try:
        if sockets:
            current = min(least, rules.devices.socket_rating_a(circuit)) or rules.devices.socket_rating_a(circuit)
        else:
            current = _needed_a(job, circuit, rules)
    except NeedsInput as lack:
        return job, Decision(circuit.id, "device", "auto", "", f"Left open: {lack} is missing.", False)
    kind = rules.devices.kind(_usual_device(circuit, min(current, 400.0), rules, usual).kind)
    carrying = [_usual_device(circuit, rating, rules, usual) for rating in kind.common_ratings_a if rating >= current]
    if not carrying:
        sentence = f"Left open: {shown(current)} A is more than any device here carries."
        return job, Decision(circuit.id, "device", "auto", "overload", sentence, False)
    # The usual rating first; a smaller one only where a cable that is given does not allow it.
    devices = [device for device in carrying if device.rating_a >= least] or carrying
    device, starts = _that_starts(job, circuit, devices, rules)
    if not isinstance(circuit.cable, str):
        # The cable is given, so another rating than the usual or smallest is taken only where it alone passes.
        tried = [*devices, *(device for device in reversed(carrying) if device.rating_a < least)]
        ranks = [_rank(findings_of(*_with(job, with_device(circuit, found)), rules)) for found in tried]
        device = tried[ranks.index(min(ranks))] if not starts else device
    job, device = _protecting(job, circuit, device, rules, usual is not None and usual.rcd)
    device = _that_breaks(job, circuit, device, rules)
    chosen = f"{device.curve or ''}{device.rating_a:g}"
    why = f"the smallest at or above {shown(current)} A"
    if device.rating_a == least:
        alone = next(one for one in carrying if one.rating_a >= current)
        why = (
            "usual here" if sockets or alone.rating_a == least else f"usual here; {alone.rating_a:g} A carries the load"
        )
    elif sockets:
        why = "the customary rating of a socket circuit"
    if starts:
        why = f"at or above {shown(max(current, least))} A, and it stays closed while the load starts"
    settled = with_device(circuit, device)
    changed = with_circuit(job, settled)
    cost = device_cost(settled, device, Network.of(changed, rules).tree, job.prices)
    return changed, Decision(circuit.id, "device", chosen, "overload", f"{chosen}: {why}.", True, cost)


def _usual(job: Job, circuit: Circuit, rules: RuleSet) -> Usual | None:
    """What is usual for a circuit, where the job's setting goes by it and nothing that it goes by is missing."""
    if not job.settings.design_usual:
        return None

    def running_a() -> float:
        return Network.of(job, rules).drops.design_current(circuit).current_a

    try:
        rooms = {room.id: room for room in job.rooms}
        return usual_of(circuit, rules, rooms, running_a, job.supply.nominal_v)
    except NeedsInput:
        return None


def _usual_device(circuit: Circuit, rating_a: float, rules: RuleSet, customary: Usual | None = None) -> Device:
    """The customary or else the standard's usual device of a rating, with what the circuit prefers in place of it."""
    usual, preferred = rules.devices.default_device(circuit, rating_a), circuit.preferred
    if customary is not None:
        of = rules.devices.kind(customary.device)
        if rating_a in of.common_ratings_a:
            breaking = usual.breaking_ka if of.action == "breaker" else None
            usual = Device(kind=of.id, curve=customary.curve, rating_a=rating_a, breaking_ka=breaking, rcd=of.usual_rcd)
    if preferred is None:
        return usual
    kind = rules.devices.kind(preferred.device or usual.kind)
    curve = preferred.curve or (usual.curve if kind.id == usual.kind else kind.usual_curve)
    rcd = preferred.rcd or usual.rcd or kind.usual_rcd
    return usual.model_copy(
        update={
            "kind": kind.id,
            "curve": curve if kind.curves else None,
            "rcd": rcd if kind.has_rcd else None,
            "arc_fault": preferred.arc_fault or usual.arc_fault,
        }
    )


def _needed_a(job: Job, circuit: Circuit, rules: RuleSet) -> float:
    """What a device must carry [A]: the design current, with the standard's factor on what runs for hours, and no less than the rule
    for its kind of load names."""
    counted = overload.counted_current_a(Context(Network.of(job, rules), circuit, explain=False)).value
    least = rules.limits.least_device_a(circuit, {room.id: room for room in job.rooms})
    return max(counted, least.value) if least is not None else counted


def _that_breaks(job: Job, circuit: Circuit, device: Device, rules: RuleSet) -> Device:
    """The device with the least breaking capacity that its kind is sold with and that is enough; as it was where none is."""
    for breaking in sorted(rules.devices.kind(device.kind).breaking_choices_ka):
        if breaking < (device.breaking_ka or 0.0):
            continue
        tried = device.model_copy(update={"breaking_ka": breaking})
        changed = with_device(circuit, tried)
        ctx = Context(Network.of(with_circuit(job, changed), rules), changed, explain=False)
        if run_check_alone(breaking_capacity.check, breaking_capacity.ID, ctx).verdict in _GOOD:
            return tried
    return device


#: Residual current of a device that protects people [mA]; what it is in North America is less.
_FOR_PEOPLE_MA = 30.0
#: What decides which form of device a circuit needs: with a residual-current part, of a type, with arc-fault detection.
_FORM_CHECKS = ((rcd_duty.check, rcd_duty.ID), (arc_fault.check, arc_fault.ID), (rcd_type.check, rcd_type.ID))


def _protecting(job: Job, circuit: Circuit, device: Device, rules: RuleSet, by_rcd: bool) -> tuple[Job, Device]:
    """The job and the device in the form that the checks of RCDs and arc faults require, and that is usual: the device itself where
    it meets them; behind a shared RCD of its board where there is one; else the first form that does.

    by_rcd  whether a 30 mA RCD protects such a circuit as a matter of course
    What the circuit prefers is left alone.
    """
    preferred = circuit.preferred
    if preferred is not None and preferred.device is not None:
        return job, device

    def fails(tried: Device, within: Job = job) -> int:
        changed = with_device(circuit, tried)
        network = Network.of(with_circuit(within, changed), rules)
        ctx = Context(network, changed, explain=False)
        upstream = network.tree.rcds_ahead(changed)
        lacks = by_rcd and not any(one.rcd.idn_ma <= _FOR_PEOPLE_MA for one in upstream)
        return lacks + sum(run_check_alone(check, name, ctx).verdict == "fail" for check, name in _FORM_CHECKS)

    count = fails(device)
    if count:
        for behind in _behind_shared(job, circuit):
            if not fails(device, behind):
                return behind, device
    best = device
    for tried in protecting_devices(device, rules):
        if not count:
            break
        if (found := fails(tried)) < count:
            best, count = tried, found
    return job, best


def _behind_shared(job: Job, circuit: Circuit) -> list[Job]:
    """The job with a circuit behind each shared RCD of its board that protects people, that with the fewest circuits first (of
    lights, the fewest lights); none where it is behind one already, or charges a vehicle, which has an RCD of its own."""
    board = next((one for one in job.boards if any(way.circuit == circuit.id for way in one.ways)), None)
    if board is None or any(way.circuit == circuit.id and way.rcd is not None for way in board.ways):
        return []
    if any(load.kind == "charger" for load in circuit.loads):
        return []
    shared = [group for group in board.rcds if group.rcd.idn_ma <= _FOR_PEOPLE_MA]
    lit = {one.id for one in job.circuits if feeds_lights(circuit) and feeds_lights(one)}
    # Circuits of one name on other lines feed one load, and share its neutral: they stay behind one RCD.
    same = {one.id for one in job.circuits if one.name == circuit.name and one.lines != circuit.lines}

    def taken(group: GroupRcd) -> tuple[bool, int, int]:
        members = [way.circuit for way in board.ways if way.rcd == group.id]
        return same.isdisjoint(members), sum(name in lit for name in members), len(members)

    shared.sort(key=taken)

    def behind(group: GroupRcd) -> Job:
        ways = tuple(
            way.model_copy(update={"rcd": group.id}) if way.circuit == circuit.id else way for way in board.ways
        )
        return with_parts(job, (), (board.model_copy(update={"ways": ways}),))

    return [behind(group) for group in shared]


def _that_starts(job: Job, circuit: Circuit, devices: list[Device], rules: RuleSet) -> tuple[Device, bool]:
    """The first device that stays closed while the load starts, and whether the start decided; the first of all where none does.

    A larger rating comes before the slowest characteristic: that one asks twice the current of the loop, and what it lets
    through stands in no table.
    """
    network, most = Network.of(job, rules), devices[:4]
    curves = sorted(
        {curve for curve in rules.devices.kind(devices[0].kind).curves if curve >= (devices[0].curve or "")}
    )
    if circuit.preferred is not None and circuit.preferred.curve is not None:
        curves = [circuit.preferred.curve]
    quick, slowest = curves[: max(1, len(curves) - 1)], curves[-1:] if len(curves) > 1 else []
    tries = [
        device.model_copy(update={"curve": curve}) for some in (quick, slowest) for device in most for curve in some
    ]
    for tried in tries or most:
        found = run_check_alone(overload.check, overload.ID, Context(network, with_device(circuit, tried), False))
        if found.verdict in _GOOD:
            return tried, tried != devices[0]
    return devices[0], False


def _quicker(
    before: Job, job: Job, circuit: Circuit, rules: RuleSet, decision: Decision
) -> tuple[Job, tuple[Decision, ...]]:
    """The job with a device that opens at less current, where the one chosen asks for a larger cable than it carries, or fails: the
    same rating in a quicker characteristic, then as a fuse. The job as it was where none does better."""
    here = next(one for one in before.circuits if one.id == circuit.id)
    best_area = _area_of(job, circuit.id) if decision.passes else inf
    best: tuple[Job, tuple[Decision, ...]] = (job, ())
    device = here.device
    if isinstance(device, str) or (circuit.preferred is not None and circuit.preferred.curve is not None):
        return best
    for tried in _opening_sooner(device, circuit, rules):
        changed = with_circuit(before, with_device(here, _that_breaks(before, here, tried, rules)))
        if run_check_alone(overload.check, overload.ID, _context(changed, circuit.id, rules)).verdict not in _GOOD:
            continue
        made, found = _choose_cable(changed, circuit, rules)
        if found.passes and (area := _area_of(made, circuit.id)) < best_area:
            name = f"{tried.curve or ''}{tried.rating_a:g}"
            sentence = f"{name}: opens at less current than the usual one, which asks for a larger cable or does not open in time."
            chosen = Decision(circuit.id, "device", name, disconnection.ID, sentence, True)
            best, best_area = (made, (chosen, found)), area
    return best


def _opening_sooner(device: Device, circuit: Circuit, rules: RuleSet) -> Iterator[Device]:
    """The same rating in each quicker characteristic, and for a feeder as a fuse."""
    kind = rules.devices.kind(device.kind)
    for curve in kind.curves:
        if device.curve is not None and curve < device.curve:
            yield device.model_copy(update={"curve": curve})
    if circuit.kind != "distribution":
        return
    for other in rules.devices.kinds.values():
        if other.action == "fuse" and other.current and device.rating_a in other.common_ratings_a:
            yield device.model_copy(update={"kind": other.id, "curve": None, "rcd": None, "breaking_ka": None})


def _context(job: Job, identity: str, rules: RuleSet) -> Context:
    circuit = next(one for one in job.circuits if one.id == identity)
    return Context(Network.of(job, rules), circuit, explain=False)


def _area_of(job: Job, identity: str) -> float:
    """Size of a circuit's cable [mm²]; infinite while it is open."""
    cable = next(one.cable for one in job.circuits if one.id == identity)
    return inf if isinstance(cable, str) else cable.area_mm2


# ------------------------------------------------------------------------------------------------ cables


def _choose_cable(job: Job, circuit: Circuit, rules: RuleSet) -> tuple[Job, Decision]:
    circuit = next(found for found in job.circuits if found.id == circuit.id)
    cheapest = job.settings.design_for == "price"
    kinds = _kinds(circuit, rules)
    if not kinds:
        return job, Decision(
            circuit.id, "cable", "auto", "", "Left open: no kind of cable here may be laid by all its methods.", False
        )
    least = _usual_mm2(job, circuit, rules)
    tried = [_climbed(job, circuit, kind, rules, least) for kind in (kinds if cheapest else kinds[:1])]
    best_of = [_best(held) for held in tried]
    best = min(best_of, key=lambda one: (one.rank, one.cost)) if cheapest else best_of[0]
    held = tried[best_of.index(best)]
    lacks = [need.what for found in best.findings for need in found.needs]
    if best.rank >= _RANK_MISSING:
        return job, Decision(
            circuit.id, "cable", "auto", "", f"Left open: {', '.join(dict.fromkeys(lacks))} missing.", False
        )
    if capacity.ID in _bad_checks(best.findings):
        return job, Decision(circuit.id, "cable", "auto", capacity.ID, _too_small(held, rules), False)
    return with_circuit(job, best.circuit), _decided(best, held, [one for one in best_of if one is not best], rules)


def _best(held: list[_Candidate]) -> _Candidate:
    """The best size of a kind: of those that only miss a limit of our own the largest, which comes nearest; else the smallest."""
    rank = min(one.rank for one in held)
    equal = [one for one in held if one.rank == rank]
    return equal[-1] if 0 < rank < _RANK_FAIL else equal[0]


def _usual_mm2(job: Job, circuit: Circuit, rules: RuleSet) -> float:
    """The usual conductor of a circuit [mm²]; 0 where its device is smaller than the usual one, or nothing is usual."""
    usual = _usual(job, circuit, rules)
    if usual is None or isinstance(circuit.device, str):
        return 0.0
    return usual.area_mm2 if circuit.device.rating_a >= (usual.rating_a or 0.0) else 0.0


def _too_small(held: list[_Candidate], rules: RuleSet) -> str:
    """Why a cable is left open that no size is known to be large enough for: a cable that its device does not protect is never chosen."""
    label, kind = rules.cables.size_label, held[-1].kind.title
    carrying = next((one for one in held if capacity.ID not in _bad_checks(one.findings)), None)
    if carrying is None:
        more = next((one for one in rules.cables.kinds.values() if max(one.sizes_mm2) > held[-1].cable.area_mm2), None)
        other = f" {more.title} is made larger: choose a method that it is laid by." if more else ""
        return (
            f"Left open: {kind} of {label(held[-1].cable.area_mm2)}, the largest, is too small for the device.{other}"
        )
    open_ = ", ".join(_bad_checks(carrying.findings))
    return f"Left open: {label(carrying.cable.area_mm2)} would carry it, but does not answer {open_}."


def _decided(best: _Candidate, held: list[_Candidate], others: list[_Candidate], rules: RuleSet) -> Decision:
    at = held.index(best)
    chosen = rules.cables.size_label(best.cable.area_mm2)
    before = held[at - 1] if at else None
    ruled_out = ([] if before.below_usual else _ruling(before)) if before else []
    sentence = f"{chosen}: the smallest size there is."
    if before is not None:
        sentence = f"{chosen}: the next smaller size {_why(before)}."
    if before is not None and before.below_usual and not _bad_checks(before.findings):
        passing = next(one for one in held if not _bad_checks(one.findings))
        label = rules.cables.size_label(passing.cable.area_mm2)
        sentence = f"{chosen}: usual here; {label} would pass every check."
    if best.cable.cpc_mm2 is not None:
        sentence += f" With an earth of {rules.cables.size_label(best.cable.cpc_mm2)} or more: read it on the drum."
    if best.rank >= _RANK_FAIL:
        sentence = f"{chosen}: the best there is, and it still fails {', '.join(_bad_checks(best.findings))}."
    elif others:
        sentence += f" Of {len(others) + 1} kinds of cable the cheapest that passes."
    if best.beyond:
        sentence += f" No cable mends {' and '.join(best.beyond)}: look at the device."
    runners = [
        Runner(
            f"{rules.cables.size_label(one.cable.area_mm2)} {one.kind.short}",
            _why(one),
            one.cost,
        )
        for one in reversed(held[:at])
    ]
    runners += [
        Runner(
            f"{rules.cables.size_label(one.cable.area_mm2)} {one.kind.short}",
            _why(one) if one.rank else f"passes, and costs {one.cost - best.cost:.0f} more",
            one.cost,
        )
        for one in others
    ]
    decided_by = (_bad_checks(best.findings) or ruled_out or [""])[0]
    return Decision(
        best.circuit.id,
        "cable",
        chosen,
        decided_by,
        sentence,
        best.rank < _RANK_FAIL and not best.beyond,
        best.cost,
        tuple(runners[:_MOST_RUNNERS]),
    )


def _with_earth(cable: Cable, rules: RuleSet) -> Cable:
    """A cable; of a kind whose makes differ in their earth, with the least earth to buy it with: half the line or the next size up."""
    sizes = rules.cables.kind(cable.type).sizes_mm2
    if any(_earth_known(cable.model_copy(update={"area_mm2": size}), rules) for size in sizes):
        return cable
    least = next((size for size in sizes if size >= cable.area_mm2 / 2), cable.area_mm2)
    return cable.model_copy(update={"cpc_mm2": least})


def _earth_known(cable: Cable, rules: RuleSet) -> bool:
    try:
        rules.cables.cpc_area_mm2(cable)
    except NeedsInput:
        return False
    return True


def _ruling(one: _Candidate) -> list[str]:
    """The checks that rule a size out; a feeder that passes them all loses too much voltage."""
    return _bad_checks(one.findings) or ["voltage-drop"]


def _climbed(job: Job, circuit: Circuit, kind: CableKind, rules: RuleSet, least_mm2: float = 0.0) -> list[_Candidate]:
    """A kind of cable in each size, smallest first, up to the first that passes everything and is no smaller than is usual.

    Advice does not speak against a size: only what fails or cannot be worked out does, and the job's own limits.
    """
    found: list[_Candidate] = []
    network = Network.of(job, rules)
    for area in kind.sizes_mm2:
        cable = _with_earth(
            Cable.model_validate({"type": kind.id, "area_mm2": area, "cpc": kind.cpc_choices[0]}), rules
        )
        candidate = with_cable(circuit, cable)
        changed, _ = _with(job, candidate)
        findings = findings_of(changed, candidate, rules, like=network)
        cost = cable_cost(candidate, cable, network.tree, rules, job.prices)
        beyond = _beyond_cable(findings)
        counting = [one for one in _counting(findings, job, rules, candidate) if one.check not in beyond]
        rank = _rank(counting) + (_RANK_OWN if _leaves_too_little(candidate, findings) else 0)
        if protective_conductor.ID not in _bad_checks(counting) and _earth_fails_at_board(changed, candidate, rules):
            counting = [
                one if one.check != protective_conductor.ID else replace(one, verdict="fail") for one in counting
            ]
            rank += _RANK_OWN
        below = kind.material == "copper" and area < least_mm2
        rank += _RANK_OWN if below else 0
        found.append(_Candidate(candidate, cable, kind, rank, counting, cost, beyond, below))
        if found[-1].rank == 0:
            break
    return found


def _earth_fails_at_board(job: Job, circuit: Circuit, rules: RuleSet) -> bool:
    """Whether the protective conductor is too small for a fault next to the board, by which on-site guidance chooses it."""
    try:
        found = protective_conductor.next_to_board(Context(Network.of(job, rules), circuit, explain=False))
    except NeedsInput:
        return False
    return found is not None and found.verdict == "fail"


def _beyond_cable(findings: list[Finding]) -> tuple[str, ...]:
    """Checks that a circuit does not pass and that no cable mends: a device that cannot break the fault, or of which that is not known, and
    the energy that nobody can say it lets through then. A larger cable is no answer to either."""
    of = {one.check: one.verdict for one in findings}
    if of.get(breaking_capacity.ID) not in ("fail", "missing"):
        return ()
    unknown = of.get(short_circuit_withstand.ID) == "missing"
    return (breaking_capacity.ID, short_circuit_withstand.ID) if unknown else (breaking_capacity.ID,)


def _counting(findings: list[Finding], job: Job, rules: RuleSet, circuit: Circuit) -> list[Finding]:
    """The findings that may speak against a choice: advice does not, but for a drop over a limit that is only recommended where it
    is above the job's own setting."""
    advisory, most = rules.limits.drop_limit(circuit).advisory, job.settings.design_drop_pct

    def over(one: Finding) -> bool:
        return advisory and one.check == "voltage-drop" and one.value is not None and one.value > most

    return [one for one in findings if one.verdict != "advice" or over(one)]


def _leaves_too_little(circuit: Circuit, findings: list[Finding]) -> bool:
    """Whether a feeder loses more than half of what may be lost in all. Half and half is a usual split; common practice."""
    return circuit.kind == "distribution" and any(
        found.check == "voltage-drop" and found.margin is not None and found.margin < 1 / 2 for found in findings
    )


def _why(one: _Candidate) -> str:
    """What speaks against a choice that does not pass."""
    bad = _bad_checks(one.findings)
    if bad:
        return f"fails {', '.join(bad)}"
    return (
        "is smaller than is usual here"
        if one.below_usual
        else "leaves less than half of the voltage drop to what it feeds"
    )


def _grow_feeders(
    job: Job, circuit: Circuit, rules: RuleSet, open_cables: set[str], decisions: dict[tuple[str, str], Decision]
) -> Job:
    """Larger feeders, nearest first and a size at a time, until the circuit passes; the job as it was if none helps."""
    stuck = next(found for found in job.circuits if found.id == circuit.id)
    helped = [check for check in _bad_checks(findings_of(job, stuck, rules)) if check in _FEEDER_HELPS]
    if not helped:
        return job
    chain = Network.of(job, rules).tree.chain(circuit)[:-1]
    for feeder in reversed([link for link in chain if link.id in open_cables and not isinstance(link.cable, str)]):
        assert not isinstance(feeder.cable, str)
        for area in rules.cables.kind(feeder.cable.type).sizes_mm2:
            if area <= feeder.cable.area_mm2:
                continue
            grown = with_circuit(job, with_cable(feeder, feeder.cable.model_copy(update={"area_mm2": area})))
            reopened = with_circuit(grown, circuit.model_copy(update={"cable": "auto", "device": stuck.device}))
            settled, decision = _choose_cable(reopened, circuit, rules)
            if decision.passes:
                decisions[circuit.id, "cable"] = decision
                size = rules.cables.size_label(area)
                sentence = f"{size}: a smaller feeder leaves too little for {circuit.name}."
                decisions[feeder.id, "cable"] = Decision(feeder.id, "cable", size, helped[0], sentence, True)
                return settled
    return job


def _kinds(circuit: Circuit, rules: RuleSet) -> list[CableKind]:
    """Kinds of cable that may be laid as the circuit is, the school's usual one first."""
    methods = {section.method for section in circuit.run}
    buried = any(rules.factors.methods[method].medium == "ground" for method in methods)
    loaded = 3 if len(circuit.lines) == 3 else 2
    indoors = rules.default_three_phase_cable if loaded == 3 else rules.default_cable
    usual = rules.default_buried_cable if buried else indoors
    preferred = _preferred_cable(circuit) or usual
    order = sorted(rules.cables.kinds.values(), key=lambda kind: kind.id != preferred)
    return [kind for kind in order if methods <= set(kind.methods) and loaded in kind.loaded]


def _preferred_cable(circuit: Circuit) -> str | None:
    return circuit.preferred.cable if circuit.preferred else None


_RANK_ADVICE, _RANK_OWN, _RANK_FAIL, _RANK_MISSING = 1, 1, 100, 1000


def _rank(findings: list[Finding]) -> int:
    """0 for all good; more for advice, more again for each failure, most for what cannot be worked out."""
    weight = {"advice": _RANK_ADVICE, "fail": _RANK_FAIL, "missing": _RANK_MISSING}
    return sum(weight.get(found.verdict, 0) for found in findings)


def _bad_checks(findings: list[Finding]) -> list[str]:
    return [found.check for found in findings if found.verdict not in _GOOD]


def _with(job: Job, circuit: Circuit) -> tuple[Job, Circuit]:
    return with_circuit(job, circuit), circuit
