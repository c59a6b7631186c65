"""Clips, conduit with its couplers, bends and saddles, glands, and protection plates of a plan."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from math import ceil

from vivid_lattice.core.document.job import Cable
from vivid_lattice.core.material.articles import article_of
from vivid_lattice.core.material.buying import Piece, Pieces, buy, millimetres
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.material.line import CutList, Group, MaterialLine
from vivid_lattice.core.messages import Text
from vivid_lattice.core.plan.conductors.wiring import FEED
from vivid_lattice.core.plan.fixing.clips import FixedSection

#: Clips and saddles are counted up to the next ten.
_ROUND_TO = 10


def fixing_material(counting: Counting) -> tuple[list[MaterialLine], list[CutList]]:
    """What the plan is fixed with; nothing where there is none."""
    if counting.fixing is None:
        return [], []
    conduit, cuts = _conduit(counting, counting.fixing.sections)
    return [*_clips(counting), *conduit, *_glands(counting), *_plates(counting)], cuts


def _clips(counting: Counting) -> Iterator[MaterialLine]:
    """Clips by cable, saddles by conduit, with spares."""
    assert counting.fixing is not None
    rooms: dict[str, Counter[str]] = defaultdict(Counter)
    words: dict[str, Text] = {}
    open_m = 0.0
    for section in counting.fixing.sections:
        open_m += section.open_m
        if not section.count:
            continue
        what = (
            counting.say("core.material.saddle", size=section.conduit)
            if section.conduit
            else counting.say("core.material.clip", cable=section.what)
        )
        article = article_of("fixing", what)
        words.setdefault(article, what)
        rooms[article][_room(counting, section)] += section.count
    share = counting.waste("clips", counting.network.job.purchase.clips_pct)
    for article, by_room in sorted(rooms.items()):
        count = sum(by_room.values())
        with_spares = ceil(round(count * (1 + share), 9))
        yield MaterialLine(
            group="fixing", article=article, what=words[article],
            quantity=float(-(-with_spares // _ROUND_TO) * _ROUND_TO), unit="pcs",
            note=counting.say("core.material.counted", n=count, pct=round(share * 100)),
            rooms={room: float(many) for room, many in by_room.items()},
        )  # fmt: skip
    if open_m > 0:
        counting.lack("core.material.clips_open", m=f"{open_m:.1f}")


def _room(counting: Counting, section: FixedSection) -> str:
    return counting.room_of.get(section.b) or counting.room_of.get(section.a, "")


def _conduit(counting: Counting, sections: Sequence[FixedSection]) -> tuple[list[MaterialLine], list[CutList]]:
    """Rigid conduit by size: whole lengths, couplers where a part is longer than one, bends."""
    by_size: dict[str, list[FixedSection]] = defaultdict(list)
    for section in sections:
        if section.conduit == "?":
            named = counting.section(counting.planned[section.circuit].circuit, section.a, section.b)
            counting.lack("core.material.conduit_open", section=named)
        elif section.conduit:
            by_size[section.conduit].append(section)
    lines: list[MaterialLine] = []
    cuts: list[CutList] = []
    share = counting.waste("conduit", counting.network.job.purchase.conduit_pct)
    for size, found in sorted(by_size.items()):
        article = article_of("conduit", size)
        longest = max(counting.network.rules.fixing.sold_in_m("conduit"))
        pieces, couplers = _pieces(counting, found, longest, share)
        wanted = Pieces(
            group="conduit", article=article, what=counting.say("core.material.conduit", size=size), goods="conduit",
            metre=None, pieces=pieces,
        )  # fmt: skip
        bought, cut = buy(counting, wanted)
        lines += bought
        cuts.append(cut)
        for key, count in (("coupler", couplers), ("bend", sum(each.bends for each in found))):
            if count:
                lines.append(_counted("conduit", counting.say(f"core.material.{key}", size=size), count))
    return lines, cuts


def _pieces(
    counting: Counting, sections: Sequence[FixedSection], longest_m: float, share: float
) -> tuple[list[Piece], int]:
    """Straight parts as pieces: one that is longer than a length is whole lengths and the rest, with a coupler at each joint."""
    pieces, couplers = [], 0
    for section in sections:
        label = counting.section(counting.planned[section.circuit].circuit, section.a, section.b)
        for part in section.parts:
            own = split_rigid(part.length_m * (1 + share), longest_m)
            couplers += len(own) - 1
            pieces += [Piece(label=label, length_m=length, room=_room(counting, section)) for length in own]
    return pieces, couplers


def split_rigid(length_m: float, longest_m: float) -> list[float]:
    """A straight part in lengths that can be bought: whole ones and the rest [m].

    Source  runs.cut.rigid, common practice
    """
    left, whole = millimetres(length_m), millimetres(longest_m)
    return [longest_m] * (left // whole) + ([left % whole / 1000] if left % whole else [])


def _counted(group: Group, what: Text, count: int) -> MaterialLine:
    return MaterialLine(
        group=group, article=article_of(group, what), what=what, quantity=float(count), unit="pcs"
    )  # fmt: skip


def _glands(counting: Counting) -> Iterator[MaterialLine]:
    """An entry for each cable at a metal board: glands or grommets, by cable."""
    assert counting.house is not None
    job = counting.network.job
    metal = {
        board.id
        for board in job.boards
        if board.build.enclosure is not None and board.build.enclosure.material == "metal"
    }
    count: Counter[str] = Counter()
    for plan in counting.house.circuits:
        board, cable = job.find_board_of(plan.circuit.id), plan.circuit.cable
        if board is not None and board.id in metal and isinstance(cable, Cable):
            entries = sum(FEED in (section.a, section.b) for section in plan.sections)
            count[counting.size(cable.area_mm2)] += entries
    for size, many in sorted(count.items()):
        yield _counted("accessory", counting.say("core.material.gland", size=size), many)


def _plates(counting: Counting) -> Iterator[MaterialLine]:
    """Plates that keep nails off cables near the edges of timber."""
    assert counting.fixing is not None
    count = sum(row.count for row in counting.fixing.joists if row.protect)
    count += sum(row.count for row in counting.fixing.studs if row.protect)
    if count:
        yield _counted("fixing", counting.say("core.material.nail_plate"), count)
