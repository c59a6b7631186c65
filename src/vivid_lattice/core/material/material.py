"""What must be bought and cut: cables from the plan or the runs, points from the plan, devices from the boards, links and busbars from the
wiring list."""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.material.articles import article_of
from vivid_lattice.core.material.boards import board_material
from vivid_lattice.core.material.cables import cable_material
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.material.devices import circuit_devices, local_devices
from vivid_lattice.core.material.earthing import bonding
from vivid_lattice.core.material.fixings import fixing_material
from vivid_lattice.core.material.line import GROUPS, CutList, Material, MaterialLine
from vivid_lattice.core.material.points import point_material
from vivid_lattice.core.material.pricing import measured, priced
from vivid_lattice.core.messages import Joined


def material(network: Installation) -> Material:
    """Everything that a job needs, as far as it is known."""
    counting = Counting(network=network)
    items: list[MaterialLine] = []
    cuts: list[CutList] = []
    if counting.wired:
        cables, cable_cuts = cable_material(counting)
        fixings, conduit_cuts = fixing_material(counting)
        items += [*cables, *fixings, *point_material(counting)]
        cuts += [*cable_cuts, *conduit_cuts]
        _not_on_the_plan(counting)
    else:
        counting.lack("core.material.existing")
    items += circuit_devices(counting)
    for board in network.job.boards:
        items += board_material(counting, board, network.boards[board.id])
    items += [*local_devices(counting), *bonding(counting), *_labels(counting)]
    items.sort(key=lambda line: GROUPS.index(line.group))
    return Material(
        items=tuple(measured(priced(line, network.job.prices), network.job.purchase) for line in items),
        cuts=tuple(cuts),
        missing=tuple(dict.fromkeys(counting.missing)),
    )


def _not_on_the_plan(counting: Counting) -> None:
    """Circuits whose points are not on the plan: what they are made of is not counted."""
    names = [
        circuit.name
        for circuit in counting.network.job.circuits
        if circuit.kind != "distribution" and circuit.id not in counting.planned
    ]
    if names:
        counting.lack("core.material.not_planned", circuits=Joined.of(names, ", "))


def _labels(counting: Counting) -> Iterator[MaterialLine]:
    """A circuit chart and a label strip for each board that has circuits."""
    boards = [board for board in counting.network.job.boards if any(way.circuit for way in board.ways)]
    if not boards:
        return
    for key in ("chart", "strip"):
        what = counting.say(f"core.material.label.{key}")
        yield MaterialLine(
            group="label", article=article_of("label", what), what=what, quantity=float(len(boards)), unit="pcs"
        )  # fmt: skip
