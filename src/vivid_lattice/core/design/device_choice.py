"""The device of a circuit: what is usual for it, or the smallest that carries the load, in the form that the checks require."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from vivid_lattice.core.assessment.assess import findings_of
from vivid_lattice.core.checks import (
    arc_fault,
    breaking_capacity,
    overload,
    rcd_requirement,
    rcd_type,
    run_check_alone,
)
from vivid_lattice.core.design.candidate_changes import delayed_devices, protecting_devices, with_device
from vivid_lattice.core.design.cost import device_cost
from vivid_lattice.core.design.decisions import (
    GOOD,
    Decision,
    left_open,
    rank_of,
)
from vivid_lattice.core.design.shared_rcds import with_shared_rcds
from vivid_lattice.core.design.usual import Usual, usual_form, usual_in
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.feeds import feeds_lights
from vivid_lattice.core.document.job import Circuit, Device, Job, SharedRcd, with_circuit, with_parts
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, Vocabulary, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown, shown

#: Residual current of a device that protects people [mA]; what it is in North America is less.
_FOR_PEOPLE_MA = 30.0

#: What decides which form of device a circuit needs: with a residual-current part, of a type, with arc-fault detection.
_FORM_CHECKS = (
    (rcd_requirement.check, rcd_requirement.ID),
    (arc_fault.check, arc_fault.ID),
    (rcd_type.check, rcd_type.ID),
)


def with_ratings(job: Job, board_id: str, ratings_a: Mapping[str, float]) -> Job:
    """The job with devices of given ratings [A] for circuits of a board: of the kind that is usual, in the form that the checks
    of RCDs and arc faults require, behind shared RCDs where those are usual and the board is new.

    ratings_a  by the circuits' ids
    """
    rules = rule_set(job.job.rules)
    board = job.board(board_id)
    circuits, rooms = (
        [circuit for circuit in job.circuits if circuit.id in ratings_a],
        {room.id: room for room in job.rooms},
    )
    forms = {
        circuit.id: usual_form(circuit, rules, rooms) if job.settings.design_usual else None for circuit in circuits
    }
    job, _ = with_shared_rcds(job, board, [form for form in forms.values() if form is not None], rules)
    for circuit in circuits:
        usual = forms[circuit.id]
        device = _usual_device(circuit, ratings_a[circuit.id], rules, usual)
        job = with_circuit(job, with_device(circuit, device))
        job, device = _protecting(job, circuit, device, rules, usual is not None and usual.rcd)
        job = with_circuit(job, with_device(circuit, that_breaks(job, circuit, device, rules)))
    return job


def choose_device(job: Job, circuit: Circuit, rules: RuleSet) -> tuple[Job, Decision]:
    sockets = circuit.kind in ("ring", "radial") and circuit.design_current_a is None
    usual = usual_in(job, circuit, rules)
    least = usual.rating_a if usual and usual.rating_a is not None else 0.0
    try:
        current = _socket_a(circuit, least, rules) if sockets else _needed_a(job, circuit, rules)
    except NeedsInput as lack:
        return job, left_open(
            circuit,
            "device",
            "",
            message(rules.words, "core.design.needs", needs=Joined.of(need.what for need in lack.needs)),
        )
    kind = rules.devices.kind(_usual_device(circuit, min(current, 400.0), rules, usual).kind)
    carrying = [_usual_device(circuit, rating, rules, usual) for rating in kind.common_ratings_a if rating >= current]
    if not carrying:
        return job, left_open(
            circuit, "device", "overload", message(rules.words, "core.design.too_large", a=shown(current))
        )
    # The usual rating first; a smaller one only where a cable that is given does not allow it.
    devices = [device for device in carrying if device.rating_a >= least] or carrying
    device, starts = _that_starts(job, circuit, devices, rules)
    if not is_auto(circuit.cable) and not starts:
        # The cable is given, so another rating than the usual or smallest is taken only where it alone passes.
        smaller = [device for device in reversed(carrying) if device.rating_a < least]
        device = _best_ranked(job, circuit, [*devices, *smaller], rules)
    job, device = _protecting(job, circuit, device, rules, usual is not None and usual.rcd)
    device = that_breaks(job, circuit, device, rules)
    chosen = f"{device.curve or ''}{device.rating_a:g}"
    why = (
        _why_it_starts(current, least, rules.words)
        if starts
        else _why(device, current, least, carrying, sockets, rules.words)
    )
    settled = with_device(circuit, device)
    changed = with_circuit(job, settled)
    cost = device_cost(settled, device, Installation.of(changed, rules).tree, job.prices)
    return changed, Decision(
        circuit=circuit.id,
        what="device",
        chosen=chosen,
        decided_by="overload",
        sentence=message(rules.words, "core.design.device", device=chosen, reason=why),
        passes=True,
        cost=cost,
    )


def _socket_a(circuit: Circuit, usual_a: float, rules: RuleSet) -> float:
    """The current a socket circuit is for: its customary rating, or the usual one of its kind where that is less."""
    customary_a = rules.devices.socket_rating_a(circuit)
    return min(usual_a, customary_a) or customary_a


def _why(
    device: Device, current: float, least: float, carrying: Sequence[Device], sockets: bool, words: Vocabulary
) -> Message:
    """Why a rating was chosen, where nothing that starts decided it."""
    if device.rating_a == least:
        alone = next(device for device in carrying if device.rating_a >= current)
        usual = sockets or alone.rating_a == least
        if usual:
            return message(words, "core.design.usual")
        return message(words, "core.design.usual_over", a=Shown(f"{alone.rating_a:g}"))
    if sockets:
        return message(words, "core.design.customary")
    return message(words, "core.design.smallest", a=shown(current))


def _rank_with(job: Job, circuit: Circuit, rules: RuleSet) -> int:
    """The rank of a circuit as it is changed, within its job."""
    return rank_of(findings_of(with_circuit(job, circuit), circuit, rules))


def _customary_device(customary: Usual, rating_a: float, breaking_ka: float | None, rules: RuleSet) -> Device:
    kind = rules.devices.kind(customary.device)
    breaking = breaking_ka if kind.action == "breaker" else None
    return Device(kind=kind.id, curve=customary.curve, rating_a=rating_a, breaking_ka=breaking, rcd=kind.usual_rcd)


def _usual_device(circuit: Circuit, rating_a: float, rules: RuleSet, customary: Usual | None = None) -> Device:
    """The customary or else the standard's usual device of a rating, with what the circuit prefers in place of it."""
    usual, preferred = rules.devices.default_device(circuit, rating_a), circuit.preferred
    if customary is not None and rating_a in rules.devices.kind(customary.device).common_ratings_a:
        usual = _customary_device(customary, rating_a, usual.breaking_ka, rules)
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
            "modules": preferred.modules,
            "switches_neutral": preferred.switches_neutral,
        }
    )


def _needed_a(job: Job, circuit: Circuit, rules: RuleSet) -> float:
    """What a device must carry [A]: the design current, with the standard's factor on what runs for hours, and no less than the rule
    for its kind of load names."""
    counted = overload.counted_current_a(CircuitContext(Installation.of(job, rules), circuit, explain=False)).value
    least = rules.limits.min_device_a(circuit, {room.id: room for room in job.rooms})
    return max(counted, least.value) if least is not None else counted


def that_breaks(job: Job, circuit: Circuit, device: Device, rules: RuleSet) -> Device:
    """The device with the least breaking capacity that its kind is sold with and that is enough; as it was where none is."""
    for breaking in sorted(rules.devices.kind(device.kind).breaking_choices_ka):
        if breaking < (device.breaking_ka or 0.0):
            continue
        tried = device.model_copy(update={"breaking_ka": breaking})
        changed = with_device(circuit, tried)
        ctx = CircuitContext(Installation.of(with_circuit(job, changed), rules), changed, explain=False)
        if run_check_alone(breaking_capacity.check, breaking_capacity.ID, ctx).verdict in GOOD:
            return tried
    return device


def _protecting(job: Job, circuit: Circuit, device: Device, rules: RuleSet, by_rcd: bool) -> tuple[Job, Device]:
    """The job and the device in the form that the checks of RCDs and arc faults require, and that is usual: the device itself where
    it meets them; a breaker where the circuit is behind an RCD already; behind a shared RCD of its board where there is one; else the
    first form that does.

    by_rcd  whether a 30 mA RCD protects such a circuit as a matter of course
    What the circuit prefers is left alone.
    """
    preferred = circuit.preferred
    if preferred is not None and preferred.device is not None:
        return job, device

    def fails(tried: Device, within: Job = job) -> int:
        changed = with_device(circuit, tried)
        network = Installation.of(with_circuit(within, changed), rules)
        ctx = CircuitContext(network, changed, explain=False)
        upstream = network.tree.rcds_ahead(changed)
        lacks = by_rcd and not any(rcd_ahead.rcd.idn_ma <= _FOR_PEOPLE_MA for rcd_ahead in upstream)
        return lacks + sum(run_check_alone(check, name, ctx).verdict == "fail" for check, name in _FORM_CHECKS)

    if (breaker := _breaker_of(job, circuit, device, rules)) is not None and not fails(breaker):
        return job, breaker
    count = fails(device)
    if count:
        for behind in _behind_shared(job, circuit):
            if not fails(device, behind):
                return behind, device
    best = device
    # What feeds a board must not trip with the devices of that board.
    delayed = delayed_devices(device, rules) if circuit.kind == "distribution" else ()
    for tried in (*delayed, *protecting_devices(device, rules)):
        if not count:
            break
        if (position := fails(tried)) < count:
            best, count = tried, position
    return job, best


def _breaker_of(job: Job, circuit: Circuit, device: Device, rules: RuleSet) -> Device | None:
    """The breaker in place of one with an RCD of its own, for a circuit that is behind an RCD for people already, shared, in the main switch
    or of a feeder: two in series trip together. None where it is behind none, or the device has none."""
    if device.rcd is None:
        return None
    forms = protecting_devices(device, rules)
    breaker = next((each for each in forms if each.rcd is None and each.arc_fault == device.arc_fault), None)
    if breaker is None:
        return None
    changed = with_device(circuit, breaker)
    ahead = Installation.of(with_circuit(job, changed), rules).tree.rcds_ahead(changed)
    return breaker if any(each.rcd.idn_ma <= _FOR_PEOPLE_MA for each in ahead) else None


def _parts_of_one_load(job: Job, circuit: Circuit) -> set[str]:
    """Fixed loads of one name on different lines are the parts of one load, which share its neutral: they stay behind one RCD."""
    if circuit.kind != "fixed":
        return set()
    fixed = [other for other in job.circuits if other.kind == "fixed" and other.name == circuit.name]
    return {other.id for other in fixed if other.lines != circuit.lines}


def _behind_shared(job: Job, circuit: Circuit) -> list[Job]:
    """The job with a circuit behind each shared RCD of its board that protects people, that with the fewest circuits first (of
    lights, the fewest lights); none where it is behind one already, or charges a vehicle, which has an RCD of its own."""
    board = job.find_board_of(circuit.id)
    if board is None or any(way.circuit == circuit.id and way.rcd is not None for way in board.ways):
        return []
    if any(load.kind == "charger" for load in circuit.loads):
        return []
    shared = [group for group in board.shared_rcds if group.rcd.idn_ma <= _FOR_PEOPLE_MA]
    lit = {other.id for other in job.circuits if feeds_lights(circuit) and feeds_lights(other)}
    same = _parts_of_one_load(job, circuit)

    def taken(group: SharedRcd) -> tuple[bool, int, int]:
        members = [way.circuit for way in board.ways if way.rcd == group.id]
        return same.isdisjoint(members), sum(name in lit for name in members), len(members)

    shared.sort(key=taken)

    def behind(group: SharedRcd) -> Job:
        ways = tuple(
            way.model_copy(update={"rcd": group.id}) if way.circuit == circuit.id else way for way in board.ways
        )
        return with_parts(job, (), (board.model_copy(update={"ways": ways}),))

    return [behind(group) for group in shared]


def _curves_to_try(circuit: Circuit, device: Device, rules: RuleSet) -> list[str]:
    """Characteristics from the device's own to slower ones, or the one the circuit prefers."""
    if circuit.preferred is not None and circuit.preferred.curve is not None:
        return [circuit.preferred.curve]
    return sorted({curve for curve in rules.devices.kind(device.kind).curves if curve >= (device.curve or "")})


def _that_starts(job: Job, circuit: Circuit, devices: list[Device], rules: RuleSet) -> tuple[Device, bool]:
    """The first device that stays closed while the load starts, and whether the start decided; the first of all where none does.

    A larger rating comes before the slowest characteristic: that one asks twice the current of the loop, and what it lets
    through is in no table.
    """
    network, most = Installation.of(job, rules), devices[:4]
    curves = _curves_to_try(circuit, devices[0], rules)
    quick, slowest = curves[: max(1, len(curves) - 1)], curves[-1:] if len(curves) > 1 else []
    tries = [
        device.model_copy(update={"curve": curve}) for some in (quick, slowest) for device in most for curve in some
    ]
    for tried in tries or most:
        finding = run_check_alone(
            overload.check, overload.ID, CircuitContext(network, with_device(circuit, tried), False)
        )
        if finding.verdict in GOOD:
            return tried, tried != devices[0]
    return devices[0], False


def _why_it_starts(current_a: float, least_a: float, words: Vocabulary) -> Message:
    return message(words, "core.design.start", a=shown(max(current_a, least_a)))


def _best_ranked(job: Job, circuit: Circuit, devices: Sequence[Device], rules: RuleSet) -> Device:
    """The device with the fewest and least findings; the first of equals."""
    return min(devices, key=lambda device: _rank_with(job, with_device(circuit, device), rules))
