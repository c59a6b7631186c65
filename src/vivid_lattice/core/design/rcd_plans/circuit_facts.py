"""What the planning of a board's residual-current devices goes by: each circuit as a few figures, and the rules as limits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.checks import rcd_requirement, rcd_type, run_check_alone
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.device_family import DeviceFamily, packaged
from vivid_lattice.core.document.feeds import feeds_kind, feeds_lights, feeds_sockets, must_stay_on
from vivid_lattice.core.document.job import Board, Circuit, Job
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Vocabulary
from vivid_lattice.core.units import SLACK

#: How much it matters that a circuit loses supply. Common practice, no source.
_LIGHTS, _ESSENTIAL, _SOCKETS, _OTHER = 3, 4, 2, 1


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitFacts:
    """A circuit as the plan sees it.

    ``dark``   how much its loss matters;  rating_a  of its device [A]
    leak_ua    standing leakage as measured or stated, rounded up [µA]; usual_ua  the estimate of what no one has stated [µA]
    duty       whether a residual-current device is demanded;  unsure  whether that is so only because an input is missing
    own        whether one of its own is
    least_type the least type that sees its loads;  kept  it must stay on when sockets trip;  lines  it is of
    """

    circuit: Circuit
    loss_score: int
    leak_ua: int
    usual_ua: int
    rating_a: float
    duty: bool
    unsure: bool
    own_device: bool
    min_type: str
    lights: bool
    sockets: bool
    kept: bool
    lines: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Limits:
    """What the rules allow: leakage behind a device [µA], circuits behind one, least number, what is ahead [A]."""

    words: Vocabulary
    leak_ua: int
    most_per_rcd: int | None
    least_rcds: int
    lights_apart: bool
    ahead_a: float | None
    shared: bool
    idn_ma: float


@dataclass(frozen=True, slots=True)
class PricedDevice:
    """A device to choose: family, rating [A], modules, price."""

    family: DeviceFamily
    rating_a: float
    modules: float
    price: float


def facts_of(network: Installation, board: Board) -> tuple[CircuitFacts, ...]:
    """The final circuits of a board. NeedsInput while a device or a length is open."""
    circuits = [network.tree.circuits[way.circuit] for way in sorted(board.ways, key=lambda way: way.number)]
    return tuple(_facts(network, circuit) for circuit in circuits if circuit.kind != "distribution")


def _facts(network: Installation, circuit: Circuit) -> CircuitFacts:
    device = circuit.device
    if is_auto(device):
        raise NeedsInput(network.need("core.need.device", "device", circuit=circuit.name))
    # What is demanded does not depend on what is there: the circuit is asked as if it had none.
    bare_ = circuit.model_copy(update={"device": device.model_copy(update={"rcd": None})})
    bare = _bare(network, bare_)
    ctx = CircuitContext(bare, bare.tree.circuits[circuit.id], explain=True)
    finding = run_check_alone(rcd_requirement.check, rcd_requirement.ID, ctx)
    has_own_device = any(duty.own_device and feeds_kind(circuit, "charger") for duty in network.rules.protection.duties)
    lights = feeds_lights(circuit)
    sockets = feeds_sockets(circuit)
    kept = must_stay_on(circuit)
    dark = max(_LIGHTS * lights, _ESSENTIAL * kept, _SOCKETS * sockets, _OTHER)
    # An estimate never refuses a plan: only what is measured or stated is held to the limit.
    leak = network.rcds.stated_ma(circuit)
    return CircuitFacts(
        circuit=circuit,
        loss_score=dark,
        leak_ua=-int(-leak * 1000 // 1),
        usual_ua=-int(-(network.rcds.leakage_ma(circuit) - leak) * 1000 // 1),
        rating_a=device.rating_a,
        # What is not known counts as demanded: a missing input is never a pass.
        duty=finding.verdict in ("fail", "missing"),
        unsure=finding.verdict == "missing",
        own_device=has_own_device,
        min_type=rcd_type.min_type(ctx, (ctx.circuit,)),
        lights=lights,
        sockets=sockets,
        kept=kept,
        lines=network.tree.supplied(circuit).lines,
    )


def present_places(board: Board, facts: Sequence[CircuitFacts]) -> dict[str, int | str]:
    """Where each circuit is now: its shared device's number in the order of the circuits, 'own', or 'ahead' of all."""
    shared = {way.circuit: way.rcd for way in board.ways}
    numbers: dict[str, int] = {}
    places: dict[str, int | str] = {}
    for fact in facts:
        group, device = shared.get(fact.circuit.id), fact.circuit.device
        if group is not None:
            places[fact.circuit.id] = numbers.setdefault(group, len(numbers))
        else:
            places[fact.circuit.id] = "own" if not is_auto(device) and device.rcd else "ahead"
    return places


def _bare(network: Installation, circuit: Circuit) -> Installation:
    """The network without any residual-current device on the way to a circuit."""
    job: Job = network.job
    boards = tuple(
        board.model_copy(
            update={
                "shared_rcds": (),
                "ways": tuple(way.model_copy(update={"rcd": None}) for way in board.ways),
                "main_switch": board.main_switch.model_copy(update={"rcd": None}) if board.main_switch else None,
            }
        )
        for board in job.boards
    )
    circuits = tuple(circuit if old.id == circuit.id else old for old in job.circuits)
    return Installation.of(job.model_copy(update={"boards": boards, "circuits": circuits}), network.rules)


def limits_of(network: Installation, board: Board) -> Limits:
    """The rule set's limits for sharing devices, and what is ahead of a board."""
    rules = network.rules.protection
    division, feeder = rules.division, network.tree.feeder(board)
    ahead = network.series.cutout if feeder is None else network.series.device_of(feeder)
    idn = rules.additional_ma.value
    share = rules.leak_share.value * idn * 1000
    return Limits(
        words=network.rules.words,
        leak_ua=int(share + SLACK),
        most_per_rcd=division.most_per_rcd,
        least_rcds=division.least_rcds or 1,
        lights_apart=division.lights_least >= 2,
        ahead_a=ahead.key.rating_a if ahead else None,
        # Where the usual device is one a circuit, people are protected circuit by circuit.
        shared=idn > 10,
        idn_ma=idn,
    )


def switch_for(needed_a: float) -> PricedDevice | None:
    """The smallest shared residual-current switch of the library that carries so much; None where none does."""
    family = next(family for family in packaged() if family.kind == "rcd" and family.rcd_type == "A")
    rating = next((rating for rating in family.ratings_a if rating >= needed_a), None)
    if rating is None:
        return None
    at = family.ratings_a.index(rating)
    # Larger ones cost more: a tenth a step. Invented, as all prices of the library are.
    return PricedDevice(family, rating, family.modules, (family.price or 0.0) * (1 + 0.1 * at))


def rcbo_price(min_type: str) -> PricedDevice:
    """A residual-current breaker of one module; of type B or F dearer by what a switch of that type costs more."""
    family = next(family for family in packaged() if family.kind == "rcbo" and family.modules == 1)
    extra = 0.0
    if min_type in ("F", "B"):
        dearer = next(family for family in packaged() if family.kind == "rcd" and family.rcd_type == min_type)
        plain = next(family for family in packaged() if family.kind == "rcd" and family.rcd_type == "A")
        extra = (dearer.price or 0.0) - (plain.price or 0.0)
    return PricedDevice(family, 0.0, 2.0 if extra else family.modules, (family.price or 0.0) + extra)


def breaker_price() -> PricedDevice:
    """A plain breaker."""
    family = next(family for family in packaged() if family.kind == "breaker" and family.characteristic == "B")
    return PricedDevice(family, 0.0, family.modules, family.price or 0.0)
