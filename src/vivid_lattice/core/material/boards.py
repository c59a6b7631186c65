"""Enclosures and what is in them: switches, shared devices, links, busbars, blanks, ferrules."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator
from typing import Any

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.layout.device_kinds import gear_title
from vivid_lattice.core.board.layout.layout_problem import modules_needed
from vivid_lattice.core.board.wiring.wiring_list import Wiring
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.material.articles import article_of
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.material.devices import rcd_words
from vivid_lattice.core.material.line import Cut, Group, MaterialLine
from vivid_lattice.core.messages import Message
from vivid_lattice.core.text import Shown

#: What is cut beside the links of a board [%]. Common practice, no source.
ALLOWANCE_PCT = 10


def board_material(counting: Counting, board: Board, model: BoardModel) -> Iterator[MaterialLine]:
    """A board: its enclosure, what is switched and shared in it, what is cut and crimped for it."""
    for what in _parts(counting, board):
        yield _line("board", what)
    yield from _inside(counting, board, model)


def _line(group: Group, what: Message, quantity: float = 1.0, unit: str = "pcs", **more: Any) -> MaterialLine:
    return MaterialLine(
        group=group, article=article_of(group, what), what=what, quantity=quantity, unit=unit, **more
    )  # fmt: skip


def _parts(counting: Counting, board: Board) -> Iterator[Message]:
    """What a board is made of, but for the devices of its circuits."""
    enclosure = board.build.enclosure
    if enclosure is None:
        counting.lack("core.material.enclosure_open", board=board.name)
    else:
        yield counting.say(
            "core.material.spaces" if enclosure.form == "panelboard" else "core.material.enclosure",
            board=board.name,
            enclosure=enclosure.title,
            rows=enclosure.rows,
            modules=enclosure.modules,
            material=counting.say(f"core.material.of_{enclosure.material}"),
        )
    if board.main_switch is not None:
        main = board.main_switch
        figures = {"board": board.name, "a": Shown(f"{main.rating_a:g}")}
        if main.rcd is not None:
            yield counting.say("core.material.main_rcd", **figures, rcd=rcd_words(counting.network, main.rcd))
        else:
            yield counting.say("core.material.main", **figures)
    for group in board.shared_rcds:
        rcd = rcd_words(counting.network, group.rcd)
        yield counting.say("core.material.rcd", board=board.name, a=Shown(f"{group.rating_a:g}"), rcd=rcd)
    for device in board.spds:
        yield counting.say("core.material.spd", board=board.name, type=device.type, name=device.name)
        if device.backup_a is not None:
            yield counting.say("core.material.backup", board=board.name, a=Shown(f"{device.backup_a:g}"))
    if board.voltage_relay is not None:
        relay = board.voltage_relay
        yield counting.say("core.material.relay", board=board.name, a=Shown(f"{relay.rating_a:g}"))
    for gear in board.control_gear:
        yield counting.say(
            "core.material.gear",
            board=board.name,
            kind=gear_title(gear.kind),
            a=Shown(f"{gear.rating_a:g}"),
            gear=gear.name,
        )


def _inside(counting: Counting, board: Board, model: BoardModel) -> Iterator[MaterialLine]:
    """Links, busbars, ferrules and blanks of a board that is laid out."""
    if board.build.enclosure is None:
        return
    try:
        wiring = model.whole_wiring()
    except NeedsInput as lack:
        counting.lack("core.material.no_wiring", board=board.name, reason=lack.needs[0].what)
        return
    enclosure = model.enclosure
    free = enclosure.rows * enclosure.modules - modules_needed(model.units)
    if free > 0:
        unit = "spaces" if enclosure.form == "panelboard" else "modules"
        yield _line("board", counting.say("core.material.blanks", board=board.name), float(free), unit)
    for comb in model.combs:
        phases, cut = " ".join(comb.lines), Shown(f"{comb.cut_mm:g}")
        yield _line("link", counting.say("core.material.busbar", board=board.name, phases=phases, mm=cut))
    lengths, ferrules = _cut_and_crimped(wiring)
    for conductor, lengths_m in sorted(lengths.items()):
        total = round(sum(lengths_m) / 1000 * (1 + ALLOWANCE_PCT / 100), 2)
        what = counting.say("core.material.conductor", board=board.name, conductor=conductor)
        cuts = tuple(Cut(board.name, length / 1000) for length in lengths_m)
        note = counting.say("core.material.pieces", n=len(lengths_m), m=ALLOWANCE_PCT)
        yield _line("link", what, total, "m", cuts=cuts, note=note)
    for ferrule, pieces in sorted(ferrules.items()):
        yield _line("link", counting.say("core.material.ferrule", board=board.name, ferrule=ferrule), float(pieces))
    if wiring.blocks:
        yield _line("link", counting.say("core.material.block", board=board.name), float(len(wiring.blocks)))


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
