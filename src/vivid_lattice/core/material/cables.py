"""Cable: pieces from the plan, section by section, or from stated runs; what they are cut from."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import partial

from vivid_lattice.core.assessment.assess import in_board_order
from vivid_lattice.core.design.cost import metre_price
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Cable, Circuit
from vivid_lattice.core.material.buying import Piece, Pieces, buy
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.material.line import CutList, MaterialLine
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.network.loops import run_length_m, spur_length_m
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.rules.fixing_rules import Goods

#: What a conductor of a single-wire section does, by the letter of its net; each is bought in a colour of its own.
_WIRE = {"L": "line", "N": "neutral", "SN": "neutral", "PE": "protective"}


@dataclass(frozen=True, slots=True, kw_only=True)
class _Wanted:
    article: str
    what: Text
    goods: Goods
    metre: float | None
    piece: Piece


#: Cable up to 4 mm² or 10 AWG is bought in rings or drums; larger, armoured and ground cable, and tails, are cut to length [mm²]. Common practice,
#: no source.
_IN_RINGS_MM2 = 5.5


def _goods(counting: Counting, cable: Cable) -> Goods:
    """How a cable is bought where the job does not say."""
    armoured = "armour" in counting.network.rules.cables.kind(cable.type).cpc_choices
    return "cable" if cable.area_mm2 <= _IN_RINGS_MM2 and not armoured else "to-length"


def cable_material(counting: Counting) -> tuple[list[MaterialLine], list[CutList]]:
    """All cable of a job: lines to buy, and how each article is cut."""
    by_article: dict[str, list[_Wanted]] = defaultdict(list)
    for wanted in (*_circuits(counting), *_tails(counting)):
        by_article[wanted.article].append(wanted)
    lines: list[MaterialLine] = []
    cuts: list[CutList] = []
    for article, found in sorted(by_article.items()):
        pieces = Pieces(
            group="cable", article=article, what=found[0].what, goods=found[0].goods, metre=found[0].metre,
            pieces=[each.piece for each in found],
        )  # fmt: skip
        bought, cut = buy(counting, pieces)
        lines += bought
        cuts.append(cut)
    return lines, cuts


def _circuits(counting: Counting) -> Iterator[_Wanted]:
    for circuit in in_board_order(counting.network.job):
        if is_auto(circuit.cable):
            counting.lack("core.material.cable_open", circuit=circuit.name)
            continue
        plan = counting.planned.get(circuit.id)
        if plan is None:
            yield from _stated(counting, circuit, circuit.cable)
        else:
            yield from _planned(counting, plan, circuit.cable)
        yield from _spurs(counting, circuit, circuit.cable)


def _stated(counting: Counting, circuit: Circuit, cable: Cable) -> Iterator[_Wanted]:
    """A circuit that is not on the plan: its run, in one piece."""
    length = or_none(lambda: run_length_m(circuit))
    if length is None:
        counting.lack("core.material.length_open", circuit=circuit.name)
        return
    length *= 1 + counting.waste("cable-not-measured", counting.network.job.purchase.cable_pct)
    piece = Piece(label=circuit.name, length_m=round(length, 3))
    cores = _live(counting, circuit)
    article = f"cable:{cable.type}:{cores}x{cable.area_mm2:g}"
    wires = cable.type in counting.network.rules.plan.wire_kinds
    metre = metre_price(cable, counting.network.job.prices)
    if wires:
        # As many pieces as there are conductors, each as long as the run.
        neutral = ("N",) if circuit.neutral else ()
        nets = (*("L",) * (cores - len(neutral)), *neutral, *(("PE",) if cable.cpc in ("core", "separate") else ()))
        yield from (_wire(counting, cable, net, piece) for net in nets)
    else:
        what = cable_words(counting, circuit, cable)
        yield _Wanted(article=article, what=what, goods=_goods(counting, cable), metre=metre, piece=piece)
    yield from _beside(counting, circuit, cable, piece)


def _beside(counting: Counting, circuit: Circuit, cable: Cable, piece: Piece) -> Iterator[_Wanted]:
    """Conductors that run beside the cable: a parallel protective one, a clean earth."""
    clean_mm2 = circuit.clean_earth.area_mm2 if circuit.clean_earth is not None else None
    for key, area in (("parallel", cable.parallel_cpc_mm2), ("clean_earth", clean_mm2)):
        if area is not None:
            what = counting.say(f"core.material.{key}", size=counting.size(area))
            goods: Goods = "wire" if area <= _IN_RINGS_MM2 else "to-length"
            yield _Wanted(article=f"wire:{key}:{area:g}", what=what, goods=goods, metre=None, piece=piece)


def _planned(counting: Counting, plan: CircuitPlan, cable: Cable) -> Iterator[_Wanted]:
    """Every section of a circuit on the plan, one piece each; single wires one each conductor."""
    share = counting.waste("cable", counting.network.job.purchase.cable_pct)
    wires = cable.type in counting.network.rules.plan.wire_kinds
    for section in plan.sections:
        room = counting.room_of.get(section.b) or counting.room_of.get(section.a, "")
        label = counting.section(plan.circuit, section.a, section.b)
        piece = Piece(label=label, length_m=round(section.piece_m * (1 + share), 3), room=room)
        if wires:
            yield from (_wire(counting, cable, net, piece) for net in section.carries)
            continue
        if section.cable is None:
            counting.lack("core.material.no_cable", circuit=plan.circuit.name, n=len(section.carries))
            continue
        yield _Wanted(
            article=f"cable:{cable.type}:{section.cable.cores}x{cable.area_mm2:g}",
            what=cable_words(counting, plan.circuit, cable, section.cable.cores),
            goods=_goods(counting, cable),
            metre=metre_price(cable, counting.network.job.prices),
            piece=piece,
        )
        yield from _beside(counting, plan.circuit, cable, piece)


def _wire(counting: Counting, cable: Cable, net: str, piece: Piece) -> _Wanted:
    """A single wire of a section, in the colour of what it does."""
    letters = net.rstrip("0123456789")
    does = _WIRE.get(letters, "switched")
    area = cable.cpc_mm2 or cable.area_mm2 if does == "protective" else cable.area_mm2
    return _Wanted(
        article=f"wire:{cable.type}:{does}:{area:g}",
        what=counting.say(
            f"core.material.wire.{does}",
            cable=counting.network.rules.cables.kind(cable.type).title,
            size=counting.size(area),
        ),
        goods="wire" if area <= _IN_RINGS_MM2 else "to-length",
        metre=metre_price(cable.model_copy(update={"area_mm2": area}), counting.network.job.prices),
        piece=replace(piece),
    )


def _spurs(counting: Counting, circuit: Circuit, cable: Cable) -> Iterator[_Wanted]:
    for spur in circuit.spurs:
        spur_cable = cable.model_copy(update={"area_mm2": spur.area_mm2, "cpc_mm2": None})
        spur_m = or_none(partial(spur_length_m, spur))
        if spur_m is None:
            counting.lack("core.material.spur_open", spur=spur.name)
            continue
        spur_m *= 1 + counting.waste("cable-not-measured", counting.network.job.purchase.cable_pct)
        yield _Wanted(
            article=f"cable:{cable.type}:{_live(counting, circuit)}x{spur.area_mm2:g}",
            what=cable_words(counting, circuit, spur_cable),
            goods=_goods(counting, spur_cable),
            metre=metre_price(spur_cable, counting.network.job.prices),
            piece=Piece(
                label=counting.say("core.material.spur", circuit=circuit.name, spur=spur.name),
                length_m=round(spur_m, 3),
            ),
        )


def _tails(counting: Counting) -> Iterator[_Wanted]:
    tails = counting.network.job.supply.tails
    if tails is None:
        return
    if tails.length_m is None:
        counting.lack("core.material.tails_open")
        return
    what = counting.say("core.material.tails", size=counting.size(tails.area_mm2))
    label = counting.say("core.material.tails_where")
    # One for the line and one for the neutral.
    for _ in range(2):
        yield _Wanted(
            article=f"tails:{tails.area_mm2:g}", what=what, goods="to-length", metre=None,
            piece=Piece(label=label, length_m=tails.length_m),
        )  # fmt: skip


def _live(counting: Counting, circuit: Circuit) -> int:
    lines = or_none(lambda: counting.network.tree.supplied(circuit).lines) or ("L1",)
    return len(lines) + (1 if circuit.neutral else 0)


def cable_words(counting: Counting, circuit: Circuit, cable: Cable, cores: int | None = None) -> Message:
    """A cable as it is ordered over the counter: its kind, live cores and size, and its protective conductor."""
    cables = counting.network.rules.cables
    cpc = or_none(lambda: cables.cpc_area_mm2(cable, counting.network.tree.loaded(circuit)).value)
    sized = cpc is not None and cable.cpc in ("included", "core", "separate")
    key = f"core.material.cpc_{cable.cpc}" + ("_sized" if sized else "")
    conductor = counting.say(key, **({"size": counting.size(cpc)} if sized and cpc is not None else {}))
    return counting.say(
        "core.material.cable",
        cable=cables.kind(cable.type).title,
        n=cores if cores else _live(counting, circuit),
        size=counting.size(cable.area_mm2),
        conductor=conductor,
    )
