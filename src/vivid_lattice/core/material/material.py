"""What must be bought and cut: cables from the runs, devices from the boards, links and busbars from the wiring list."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import partial
from typing import Literal, get_args

from vivid_lattice.core.assessment.assess import in_board_order
from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.layout.device_kinds import gear_title
from vivid_lattice.core.board.layout.layout_problem import modules_needed, pairs_of_halves
from vivid_lattice.core.board.wiring.wiring_list import Wiring
from vivid_lattice.core.design.cost import metre_price, pole_price
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Cable, Circuit, Device
from vivid_lattice.core.document.local_earthing import WITH_ELECTRODE, LocalEarthing
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, Text, Vocabulary, message
from vivid_lattice.core.network.loops import run_length_m, spur_length_m
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.text import Shown

#: What is bought beside the length that is laid [%]. Common practice, no source.
ALLOWANCE_PCT = 10

Group = Literal["cable", "device", "board", "link", "bonding"]
GROUPS: tuple[Group, ...] = get_args(Group)


def group_title(group: Group, words: Vocabulary) -> Message:
    """What a group of the list is called."""
    return message(words, f"core.material.group.{group}")


@dataclass(frozen=True, slots=True)
class Cut:
    """A piece of cable: what for, and how long [m]."""

    label: Text
    length_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MaterialLine:
    """A line of the list. ``quantity`` None: not known yet. ``each``: by the user's price list, of one ``unit``; None: it does
    not name it."""

    group: Group
    what: Text
    quantity: float | None
    unit: str
    each: float | None = None
    cuts: tuple[Cut, ...] = ()
    note: Text = ""

    @property
    def cost(self) -> float | None:
        """Price of the line; None where the quantity or the price is not known."""
        return None if self.quantity is None or self.each is None else self.quantity * self.each


@dataclass(frozen=True, slots=True)
class Material:
    """The whole list, and what could not be counted."""

    items: tuple[MaterialLine, ...]
    missing: tuple[Text, ...]

    @property
    def cost(self) -> float:
        """Sum of the lines that have a price."""
        return sum(line.cost or 0.0 for line in self.items)

    @property
    def unpriced(self) -> int:
        """How many lines have none."""
        return sum(line.cost is None for line in self.items)


@dataclass(slots=True)
class _Counting:
    network: Installation
    missing: list[Text] = field(default_factory=list)

    def size(self, area_mm2: float) -> str:
        return self.network.rules.cables.size_label(area_mm2)


def material(network: Installation) -> Material:
    """Everything that a job needs, as far as it is known."""
    counting = _Counting(network)
    items = [*_cables(counting), *_devices(counting)]
    for board in network.job.boards:
        items += _board(counting, board, network.boards[board.id])
    items += _local_devices(counting)
    items += _bonding(counting)
    return Material(tuple(items), tuple(dict.fromkeys(counting.missing)))


# ------------------------------------------------------------------------------------------------ cable


def _cables(counting: _Counting) -> Iterator[MaterialLine]:
    cuts: dict[tuple[Text, float], list[Cut]] = defaultdict(list)
    prices: dict[tuple[Text, float], float | None] = {}
    for circuit in in_board_order(counting.network.job):
        if is_auto(circuit.cable):
            counting.missing.append(counting.network.message("core.material.cable_open", circuit=circuit.name))
            continue
        for what, area, cut in _pieces(counting, circuit, circuit.cable):
            cuts[what, area].append(cut)
            priced = circuit.cable.model_copy(update={"area_mm2": area})
            prices[what, area] = metre_price(priced, counting.network.job.prices)
    tails = counting.network.job.supply.tails
    if tails is not None and tails.length_m is None:
        counting.missing.append(counting.network.message("core.material.tails_open"))
    elif tails is not None and tails.length_m is not None:
        cuts[
            counting.network.message("core.material.tails", size=counting.size(tails.area_mm2)), tails.area_mm2
        ].append(Cut(counting.network.message("core.material.tails_where"), tails.length_m))
    for (what, area), pieces in sorted(cuts.items(), key=lambda pair: str(pair[0][0])):
        laid = sum(cut.length_m for cut in pieces)
        bought = round(laid * (1 + ALLOWANCE_PCT / 100), 1)
        note = counting.network.message("core.material.allowance", m=Shown(f"{laid:g}"), n=ALLOWANCE_PCT)
        yield MaterialLine(
            group="cable",
            what=what,
            quantity=bought,
            unit="m",
            each=prices.get((what, area)),
            cuts=tuple(pieces),
            note=note,
        )


def _pieces(counting: _Counting, circuit: Circuit, cable: Cable) -> Iterator[tuple[Text, float, Cut]]:
    length = or_none(lambda: run_length_m(circuit))
    if length is None:
        counting.missing.append(counting.network.message("core.material.length_open", circuit=circuit.name))
    else:
        yield _cable_words(counting, circuit, cable), cable.area_mm2, Cut(circuit.name, length)
        if cable.parallel_cpc_mm2 is not None:
            beside = counting.network.message("core.material.parallel", size=counting.size(cable.parallel_cpc_mm2))
            yield beside, cable.parallel_cpc_mm2, Cut(circuit.name, length)
        clean_mm2 = circuit.clean_earth.area_mm2 if circuit.clean_earth is not None else None
        if clean_mm2 is not None:
            clean = counting.network.message("core.material.clean_earth", size=counting.size(clean_mm2))
            yield clean, clean_mm2, Cut(circuit.name, length)
    for spur in circuit.spurs:
        spur_cable = cable.model_copy(update={"area_mm2": spur.area_mm2, "cpc_mm2": None})
        spur_m = or_none(partial(spur_length_m, spur))
        if spur_m is None:
            counting.missing.append(counting.network.message("core.material.spur_open", spur=spur.name))
        else:
            words = _cable_words(counting, circuit, spur_cable)
            yield (
                words,
                spur.area_mm2,
                Cut(counting.network.message("core.material.spur", circuit=circuit.name, spur=spur.name), spur_m),
            )


def _cable_words(counting: _Counting, circuit: Circuit, cable: Cable) -> Message:
    """A cable as it is ordered over the counter: its kind, live cores and size, and its protective conductor."""
    cables = counting.network.rules.cables
    lines = or_none(lambda: counting.network.tree.supplied(circuit).lines) or ("L1",)
    live = len(lines) + (1 if circuit.neutral else 0)
    cpc = or_none(lambda: cables.cpc_area_mm2(cable, counting.network.tree.loaded(circuit)).value)
    sized = cpc is not None and cable.cpc in ("included", "core", "separate")
    key = f"core.material.cpc_{cable.cpc}" + ("_sized" if sized else "")
    conductor = counting.network.message(key, **({"size": counting.size(cpc)} if sized and cpc is not None else {}))
    return counting.network.message(
        "core.material.cable",
        cable=cables.kind(cable.type).title,
        n=live,
        size=counting.size(cable.area_mm2),
        conductor=conductor,
    )


# ------------------------------------------------------------------------------------------------ devices


def device_words(network: Installation, device: Device, poles: int) -> Message:
    """A device as it is ordered over the counter."""
    kind = network.rules.devices.kind(device.kind)
    parts: list[Text] = [kind.title, device.label]
    if device.rcd is not None:
        parts.append(rcd_words(network, device.rcd))
    if device.breaking_ka is not None:
        parts.append(f"{device.breaking_ka:g} kA")
    if device.arc_fault:
        parts.append(network.message("core.material.arc"))
    if device.switches_neutral:
        parts.append(network.message("core.material.neutral"))
    if device.modules is not None and not device.is_half:
        parts.append(network.message("core.material.modules", n=Shown(f"{device.modules:g}")))
    parts.append(network.message("core.material.poles", n=poles))
    return network.message("core.material.device", parts=Joined.of(parts, ", "))


def rcd_words(network: Installation, rcd: Rcd) -> Message:
    """A residual-current function as it is ordered over the counter."""
    name = network.rules.bands.rcd_name(rcd)
    return network.message("core.material.delayed", rcd=name) if rcd.time_delayed else name


def _devices(counting: _Counting) -> Iterator[MaterialLine]:
    network = counting.network
    count: Counter[Message] = Counter()
    prices: dict[Message, float | None] = {}
    for circuit in in_board_order(network.job):
        if is_auto(circuit.device):
            counting.missing.append(counting.network.message("core.material.device_open", circuit=circuit.name))
            continue
        supplied = or_none(partial(network.tree.supplied, circuit))
        if supplied is None:
            counting.missing.append(counting.network.message("core.material.line_open", circuit=circuit.name))
        if circuit.device.is_half:
            continue  # two of them are one piece
        poles = len(supplied.lines) if supplied else 1
        words = device_words(network, circuit.device, poles)
        each = pole_price(circuit.device, network.job.prices)
        count[words] += 1
        prices[words] = None if each is None else each * poles
    for words, price in _double_breakers(network):
        count[words] += 1
        prices[words] = price
    for words, many in sorted(count.items(), key=lambda pair: str(pair[0])):
        yield MaterialLine(group="device", what=words, quantity=float(many), unit="pcs", each=prices[words])


def _double_breakers(network: Installation) -> Iterator[tuple[Message, float | None]]:
    """Breakers of which two are one piece: what it is called, and its price; a half without its mate is a whole one."""
    for model in network.boards.values():
        units = or_none(lambda m=model: m.units)  # type: ignore[misc]
        for pair in pairs_of_halves(units.all) if units is not None else ():
            devices = [unit.circuit.device for unit in pair if unit.circuit is not None]
            known = [device for device in devices if not is_auto(device)]
            prices = [pole_price(device, network.job.prices) for device in known]
            labels = " / ".join(device.label for device in known)
            kind = network.rules.devices.kind(known[0].kind).title
            price = None if None in prices else sum(price for price in prices if price is not None)
            yield network.message("core.material.double_breaker", kind=kind, ratings=labels), price


# ------------------------------------------------------------------------------------------------ boards


def _board(counting: _Counting, board: Board, model: BoardModel) -> Iterator[MaterialLine]:
    enclosure = board.build.enclosure
    if enclosure is None:
        counting.missing.append(counting.network.message("core.material.enclosure_open", board=board.name))
    else:
        what = counting.network.message(
            "core.material.spaces" if enclosure.form == "panelboard" else "core.material.enclosure",
            board=board.name,
            enclosure=enclosure.title,
            rows=enclosure.rows,
            modules=enclosure.modules,
            material=counting.network.message(f"core.material.of_{enclosure.material}"),
        )
        yield MaterialLine(group="board", what=what, quantity=1.0, unit="pcs")
    if board.main_switch is not None:
        main = board.main_switch
        figures = {"board": board.name, "a": Shown(f"{main.rating_a:g}")}
        what = (
            counting.network.message("core.material.main_rcd", **figures, rcd=rcd_words(counting.network, main.rcd))
            if main.rcd
            else counting.network.message("core.material.main", **figures)
        )
        yield MaterialLine(group="board", what=what, quantity=1.0, unit="pcs")
    for group in board.shared_rcds:
        yield MaterialLine(
            group="board",
            what=counting.network.message(
                "core.material.rcd",
                board=board.name,
                a=Shown(f"{group.rating_a:g}"),
                rcd=rcd_words(counting.network, group.rcd),
            ),
            quantity=1.0,
            unit="pcs",
        )
    for device in board.spds:
        yield MaterialLine(
            group="board",
            what=counting.network.message("core.material.spd", board=board.name, type=device.type, name=device.name),
            quantity=1.0,
            unit="pcs",
        )
        if device.backup_a is not None:
            yield MaterialLine(
                group="board",
                what=counting.network.message(
                    "core.material.backup", board=board.name, a=Shown(f"{device.backup_a:g}")
                ),
                quantity=1.0,
                unit="pcs",
            )
    if board.voltage_relay is not None:
        yield MaterialLine(
            group="board",
            what=counting.network.message(
                "core.material.relay", board=board.name, a=Shown(f"{board.voltage_relay.rating_a:g}")
            ),
            quantity=1.0,
            unit="pcs",
        )
    for gear in board.control_gear:
        yield MaterialLine(
            group="board",
            what=counting.network.message(
                "core.material.gear",
                board=board.name,
                kind=gear_title(gear.kind),
                a=Shown(f"{gear.rating_a:g}"),
                gear=gear.name,
            ),
            quantity=1.0,
            unit="pcs",
        )
    yield from _inside(counting, board, model)


def _inside(counting: _Counting, board: Board, model: BoardModel) -> Iterator[MaterialLine]:
    """Links, busbars, ferrules and blanks of a board that is laid out."""
    try:
        wiring = model.whole_wiring()
    except NeedsInput as lack:
        counting.missing.append(
            counting.network.message("core.material.no_wiring", board=board.name, reason=lack.needs[0].what)
        )
        return
    enclosure = model.enclosure
    free = enclosure.rows * enclosure.modules - modules_needed(model.units)
    if free > 0:
        unit = "spaces" if enclosure.form == "panelboard" else "modules"
        yield MaterialLine(
            group="board",
            what=counting.network.message("core.material.blanks", board=board.name),
            quantity=float(free),
            unit=unit,
        )
    for comb in model.combs:
        words = counting.network.message(
            "core.material.busbar", board=board.name, phases=" ".join(comb.lines), mm=Shown(f"{comb.cut_mm:g}")
        )
        yield MaterialLine(group="link", what=words, quantity=1.0, unit="pcs")
    lengths, ferrules = _cut_and_crimped(wiring)
    for conductor, lengths_m in sorted(lengths.items()):
        total = round(sum(lengths_m) / 1000 * (1 + ALLOWANCE_PCT / 100), 2)
        cuts = tuple(Cut(board.name, length / 1000) for length in lengths_m)
        note = counting.network.message("core.material.pieces", n=len(lengths_m), m=ALLOWANCE_PCT)
        yield MaterialLine(
            group="link",
            what=counting.network.message("core.material.conductor", board=board.name, conductor=conductor),
            quantity=total,
            unit="m",
            each=None,
            cuts=cuts,
            note=note,
        )
    for ferrule, pieces in sorted(ferrules.items()):
        yield MaterialLine(
            group="link",
            what=counting.network.message("core.material.ferrule", board=board.name, ferrule=ferrule),
            quantity=float(pieces),
            unit="pcs",
        )
    if wiring.blocks:
        yield MaterialLine(
            group="link",
            what=counting.network.message("core.material.block", board=board.name),
            quantity=float(len(wiring.blocks)),
            unit="pcs",
        )


def _local_devices(counting: _Counting) -> Iterator[MaterialLine]:
    """Devices outside the boards: outlets with an RCD, fused units with their fuse, isolators."""
    for circuit in counting.network.job.circuits:
        for device in circuit.local_devices:
            parts: list[Text] = [counting.network.message(f"core.material.local.{device.kind}")]
            if device.rating_a is not None:
                parts.append(f"{device.rating_a:g} A")
            if device.fuse_a is not None:
                parts.append(counting.network.message("core.material.local_fuse", a=f"{device.fuse_a:g}"))
            if device.rcd is not None:
                parts.append(counting.network.rules.bands.rcd_name(device.rcd))
            text = counting.network.message("core.material.local", circuit=circuit.name, parts=Joined.of(parts, ", "))
            yield MaterialLine(group="device", what=text, quantity=1.0, unit="pcs")


def _local_earthing(counting: _Counting) -> Iterator[MaterialLine]:
    """Electrodes, earthing conductors and bonding of boards and circuits that have an earth of their own."""
    job = counting.network.job
    owners: list[Board | Circuit] = [*job.boards, *job.circuits]
    for owner in owners:
        own = owner.earthing
        if own is None:
            continue
        if own.kind in WITH_ELECTRODE:
            yield _measured(counting, counting.network.message("core.material.rods", name=owner.name), _rods(own))
            if own.conductor_mm2 is not None:
                size = counting.size(own.conductor_mm2)
                yield _measured(
                    counting, counting.network.message("core.material.earthing_of", name=owner.name, size=size)
                )
        bonds = [(bond.name, bond.area_mm2) for bond in own.bonds]
        for name, area in bonds + [(bond.name, bond.area_mm2) for bond in own.supplementary]:
            if area is not None:
                size = counting.size(area)
                yield _measured(counting, counting.network.message("core.material.bond", name=name, size=size))


def _rods(own: LocalEarthing) -> float:
    return float(own.electrode.rods) if own.electrode is not None else 1.0


def _measured(counting: _Counting, what: Message, pieces: float | None = None) -> MaterialLine:
    """A line of the earthing: so many pieces, or metres that are measured on site."""
    return MaterialLine(
        group="bonding",
        what=what,
        quantity=pieces,
        unit="m" if pieces is None else "pcs",
        note=counting.network.message("core.material.measure") if pieces is None else "",
    )


def _bonding(counting: _Counting) -> Iterator[MaterialLine]:
    yield from _local_earthing(counting)
    earthing = counting.network.job.supply.earthing
    if earthing is None:
        counting.missing.append(counting.network.message("core.material.earthing_open"))
        return
    if earthing.conductor_mm2 is not None:
        size = counting.size(earthing.conductor_mm2)
        yield _measured(counting, counting.network.message("core.material.earthing", size=size))
    bonds = [(bond.name, bond.area_mm2) for bond in earthing.bonds]
    for name, area in bonds + [(bond.name, bond.area_mm2) for bond in earthing.supplementary]:
        if area is not None:
            yield _measured(
                counting, counting.network.message("core.material.bond", name=name, size=counting.size(area))
            )


_CUT = ("link", "lead", "control", "neutral-earth-link", "earth")


def _cut_and_crimped(wiring: Wiring) -> tuple[dict[str, list[float]], Counter[str]]:
    """Lengths of the conductors that are cut for the board by size and colour [mm], and ferrules by size."""
    lengths: dict[str, list[float]] = defaultdict(list)
    ferrules: Counter[str] = Counter()
    for conductor in wiring.conductors:
        if conductor.kind not in _CUT or conductor.area_mm2 is None:
            continue
        lengths[f"{conductor.size} {conductor.colour or conductor.conductor}"].append(conductor.length_mm)
        ends = [end for end in (conductor.start, conductor.end) if end.ferrule]
        ferrules.update(f"{conductor.size}, {end.finish}" for end in ends)
    return lengths, ferrules
