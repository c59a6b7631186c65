"""Changes to a board or the supply that an electrician would think of. None is judged here."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from itertools import product
from typing import Literal

from vivid_lattice.core.board.layout.device_kinds import GEAR_RATINGS_A
from vivid_lattice.core.design.candidate_changes import CandidateChange
from vivid_lattice.core.design.cooler_devices import cooler_devices
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.device_family import DeviceFamily, packaged
from vivid_lattice.core.document.job import Board, Job, free_id
from vivid_lattice.core.document.supply import CutOut, Earthing, Supply, Tails
from vivid_lattice.core.document.surge_and_relay import Spd
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.network.upstream import upstream_of
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import DeviceKind, RuleSet
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import ka_from_a

#: Ratings that switches and shared RCDs are sold in [A]. Common practice, no source.
_SWITCHES_A = (40.0, 63.0, 80.0, 100.0, 125.0)
#: Usual back-up device of a surge protective device whose manufacturer does not allow what is upstream [A]. Common practice, no source.
_SPD_BACKUP_A = 63.0


def larger_main_switch(job: Job, board: Board, rules: RuleSet) -> Iterator[CandidateChange]:
    """The main switch in each larger rating."""
    switch = board.main_switch
    if switch is None:
        return
    for rating in _SWITCHES_A:
        if rating > switch.rating_a:
            changed = board.model_copy(update={"main_switch": switch.model_copy(update={"rating_a": rating})})
            yield CandidateChange(
                kind="main-switch",
                label=message(
                    rules.words, "core.fix.main_switch", a=Shown(f"{rating:g}"), old=Shown(f"{switch.rating_a:g}")
                ),
                circuit=None,
                boards=(changed,),
            )


def larger_rcds(job: Job, board: Board, rules: RuleSet) -> Iterator[CandidateChange]:
    """All shared RCDs of the board in each larger rating."""
    for rating in _SWITCHES_A:
        smaller = [group for group in board.shared_rcds if group.rating_a < rating]
        if smaller:
            names = ", ".join(group.name for group in smaller)
            rcds = tuple(
                group.model_copy(update={"rating_a": max(rating, group.rating_a), "family": None})
                for group in board.shared_rcds
            )
            yield CandidateChange(
                kind="rcd-rating",
                label=message(rules.words, "core.fix.rating_for", a=Shown(f"{rating:g}"), devices=names),
                circuit=None,
                boards=(board.model_copy(update={"shared_rcds": rcds}),),
            )


def larger_gear(job: Job, board: Board, rules: RuleSet) -> Iterator[CandidateChange]:
    """Control gear in each larger rating."""
    for rating in GEAR_RATINGS_A:
        smaller = [gear for gear in board.control_gear if gear.kind != "socket" and gear.rating_a < rating]
        if smaller:
            gear = tuple(
                gear.model_copy(update={"rating_a": rating}) if gear in smaller else gear for gear in board.control_gear
            )
            names = ", ".join(gear.name for gear in smaller)
            yield CandidateChange(
                kind="gear-rating",
                label=message(rules.words, "core.fix.rating_for", a=Shown(f"{rating:g}"), devices=names),
                circuit=None,
                boards=(board.model_copy(update={"control_gear": gear}),),
            )


def larger_tails(job: Job, rules: RuleSet) -> Iterator[CandidateChange]:
    """Tails in each larger size, and in each from theirs on behind a switch-fuse beside the meter, the largest that the cut-out allows
    first."""
    supply, tails = job.supply, job.supply.tails
    if tails is None:
        return
    label = rules.cables.size_label
    areas = [area for area in rules.cables.kind(rules.tails_cable).sizes_mm2 if tails.area_mm2 <= area <= 120]
    for area in areas:
        if area > tails.area_mm2:
            changed = supply.model_copy(update={"tails": tails.model_copy(update={"area_mm2": area})})
            yield CandidateChange(
                kind="tails",
                label=message(rules.words, "core.fix.tails", size=label(area), old=label(tails.area_mm2)),
                circuit=None,
                supply=changed,
            )
    if tails.device is None and supply.cutout is not None:
        yield from _switch_fuses(supply, tails, supply.cutout, areas, rules)


def _fuse_kind(rules: RuleSet, cutout: CutOut) -> DeviceKind | None:
    """The cut-out's kind of fuse where it is still made, or the first that is; None where the standard has none."""
    fuses = [kind for kind in rules.devices.kinds.values() if kind.action == "fuse" and kind.current]
    return next((fuse for fuse in fuses if fuse.id == cutout.kind), fuses[0] if fuses else None)


def _switch_fuses(
    supply: Supply, tails: Tails, cutout: CutOut, areas: Sequence[float], rules: RuleSet
) -> Iterator[CandidateChange]:
    """A switch-fuse beside the meter in each rating up to the cut-out's, largest first, with tails in each size."""
    kind = _fuse_kind(rules, cutout)
    if kind is None:
        return
    ratings = [rating for rating in kind.ratings_a if rating <= cutout.rating_a]
    for rating, area in product(reversed(ratings), areas):
        device = CutOut(kind=kind.id, rating_a=rating)
        changed = supply.model_copy(update={"tails": tails.model_copy(update={"device": device, "area_mm2": area})})
        fuse = {"a": Shown(f"{rating:g}"), "size": rules.cables.size_label(area)}
        label = (
            message(rules.words, "core.fix.switch_fuse_tails", **fuse)
            if area > tails.area_mm2
            else message(rules.words, "core.fix.switch_fuse", a=fuse["a"])
        )
        yield CandidateChange(kind="switch-fuse", label=label, circuit=None, supply=changed)


def larger_earthing(job: Job, rules: RuleSet) -> Iterator[CandidateChange]:
    """The earthing conductor, and the neutral-earth link, in each larger size."""
    earthing = job.supply.earthing
    if earthing is None:
        return
    for field in ("conductor_mm2", "link_mm2"):
        there = getattr(earthing, field)
        for area in _sizes(rules):
            if there is not None and area > there:
                size = rules.cables.size_label(area)
                yield CandidateChange(
                    kind=field,
                    label=message(rules.words, f"core.fix.earthing.{field}", size=size),
                    circuit=None,
                    supply=_earthed(job.supply, earthing, {field: area}),
                )


def larger_bonds(job: Job, rules: RuleSet) -> Iterator[CandidateChange]:
    """Main bonding conductors of at least each larger size."""
    earthing = job.supply.earthing
    if earthing is None:
        return
    for area in _sizes(rules):
        small = [bond for bond in earthing.bonds if bond.area_mm2 is not None and bond.area_mm2 < area]
        if small:
            bonds = tuple(
                bond.model_copy(update={"area_mm2": area}) if bond in small else bond for bond in earthing.bonds
            )
            names = ", ".join(bond.name for bond in small)
            size = rules.cables.size_label(area)
            yield CandidateChange(
                kind="bonds",
                label=message(rules.words, "core.fix.bonds", size=size, bonds=names),
                circuit=None,
                supply=_earthed(job.supply, earthing, {"bonds": bonds}),
            )


def usual_spd(job: Job, rules: RuleSet) -> Iterator[CandidateChange]:
    """The usual surge protective device in the first board."""
    board = next((board for board in job.boards if is_origin(board.fed_by)), None)
    if board is None or any(other.spds for other in job.boards):
        return
    spd = surge_device(job, board)
    yield CandidateChange(
        kind="spd",
        label=message(rules.words, "core.fix.spd", type=spd.type, board=board.name),
        circuit=None,
        boards=(board.model_copy(update={"spds": (spd,)}),),
    )


#: Leads of a wired device as it is to be wired [m]. IEC 60364-5-53, 534.4.8, from memory.
_SPD_LEADS_M = 0.5


def _surge_family(job: Job, board: Board, type_: str) -> DeviceFamily:
    """A family of the library of a type that discharges what the standard requires, plugged on where one withstands what may flow at
    the board."""
    surge = rule_set(job.job.rules).protection.surge
    least = (surge.impulse_ka if type_.startswith("1") else surge.discharge_ka).value
    of_voltage = [
        family for family in _surge_families(type_) if _suits(family, surge.uc_factor.value, job.supply.nominal_v)
    ]
    families = [family for family in of_voltage if (family.discharge_ka or 0.0) >= least] or of_voltage
    families = families or _surge_families(type_)
    fault = or_none(lambda: ka_from_a(Installation.of(job, rule_set(job.job.rules)).loops.board_fault_a(board))) or 0.0
    standing = [family for family in families if (family.breaking_ka or 0.0) >= fault] or families
    return next((family for family in standing if "plug" in family.id), standing[0])


def _suits(family: DeviceFamily, factor: float, nominal_v: float) -> bool:
    """Whether a surge device is made for a voltage to neutral: it withstands it continuously, and is not one for twice as much,
    which would let twice as much through. Common practice, no source."""
    return family.uc_v is not None and factor * nominal_v <= family.uc_v < 2 * nominal_v


def surge_device(job: Job, board: Board) -> Spd:
    """The usual device of the library for a first board: type 2, or 1+2 with lightning protection or an overhead line; plugged on beside the
    main switch, unless what may flow there is more than such a device withstands."""
    type_: Literal["1+2", "2"] = "1+2" if job.surge.lightning_protection or job.surge.overhead_line else "2"
    family = _surge_family(job, board, type_)
    tree = Tree(job)
    upstream, most = upstream_of(job, tree, board), family.max_backup_a
    too_large = upstream is not None and most is not None and upstream.device.rating_a > most
    plugged = "plug" in family.id
    conductor_mm2 = 16.0 if type_ == "1+2" else 6.0
    return Spd(
        id=free_id("spd", {spd.id for spd in board.spds}),
        name=f"SPD type {type_}",
        type=type_,
        form="plug-on" if plugged else "wired",
        up_kv=family.up_kv,
        uc_v=family.uc_v,
        discharge_ka=family.discharge_ka,
        short_circuit_ka=family.breaking_ka,
        max_backup_a=family.max_backup_a,
        backup_a=min(_SPD_BACKUP_A, most) if too_large and most else None,
        live_mm2=conductor_mm2,
        earth_mm2=conductor_mm2,
        spark_gap_to_earth=tree.earth_of_board(board).system == "TT",
        leads_m=None if plugged else _SPD_LEADS_M,
    )


def _earthed(supply: Supply, earthing: Earthing, update: Mapping[str, object]) -> Supply:
    return supply.model_copy(update={"earthing": earthing.model_copy(update=update)})


def _sizes(rules: RuleSet) -> list[float]:
    return sorted({size for kind in rules.cables.kinds.values() for size in kind.sizes_mm2 if size <= 120})


#: What may fix a finding of a board, and of the supply, by the check.
OF_BOARDS: Mapping[str, Callable[[Job, Board, RuleSet], Iterator[CandidateChange]]] = {
    "main-switch": larger_main_switch,
    "demand": larger_main_switch,
    "rcd-loading": larger_rcds,
    "control-gear": larger_gear,
    "thermal": cooler_devices,
}
OF_SUPPLY: Mapping[str, Callable[[Job, RuleSet], Iterator[CandidateChange]]] = {
    "tails": larger_tails,
    "earthing": larger_earthing,
    "bonding": larger_bonds,
    "surge": usual_spd,
}


def _surge_families(type_: str) -> list[DeviceFamily]:
    return [family for family in packaged() if family.kind == "surge" and family.surge_type == type_]
