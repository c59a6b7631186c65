"""Earthing and bonding: electrodes, earthing conductors, bonds; their lengths are measured on site."""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.document.job import Board, Circuit
from vivid_lattice.core.document.local_earthing import WITH_ELECTRODE, LocalEarthing
from vivid_lattice.core.material.articles import article_of
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.material.line import MaterialLine
from vivid_lattice.core.messages import Message


def _local_earthing(counting: Counting) -> Iterator[MaterialLine]:
    """Electrodes, earthing conductors and bonding of boards and circuits that have an earth of their own."""
    job = counting.network.job
    owners: list[Board | Circuit] = [*job.boards, *job.circuits]
    for owner in owners:
        own = owner.earthing
        if own is None:
            continue
        if own.kind in WITH_ELECTRODE:
            yield _measured(counting, counting.say("core.material.rods", name=owner.name), _rods(own))
            if own.conductor_mm2 is not None:
                size = counting.size(own.conductor_mm2)
                yield _measured(counting, counting.say("core.material.earthing_of", name=owner.name, size=size))
        bonds = [(bond.name, bond.area_mm2) for bond in own.bonds]
        for name, area in bonds + [(bond.name, bond.area_mm2) for bond in own.supplementary]:
            if area is not None:
                size = counting.size(area)
                yield _measured(counting, counting.say("core.material.bond", name=name, size=size))


def _rods(own: LocalEarthing) -> float:
    return float(own.electrode.rods) if own.electrode is not None else 1.0


def _measured(counting: Counting, what: Message, pieces: float | None = None) -> MaterialLine:
    """A line of the earthing: so many pieces, or metres that are measured on site."""
    return MaterialLine(
        group="bonding",
        article=article_of("bonding", what),
        what=what,
        quantity=pieces,
        unit="m" if pieces is None else "pcs",
        note=counting.say("core.material.measure") if pieces is None else "",
    )


def bonding(counting: Counting) -> Iterator[MaterialLine]:
    """Earthing conductors and bonds of the supply, of boards and of circuits."""
    yield from _local_earthing(counting)
    earthing = counting.network.job.supply.earthing
    if earthing is None:
        counting.lack("core.material.earthing_open")
        return
    if earthing.conductor_mm2 is not None:
        size = counting.size(earthing.conductor_mm2)
        yield _measured(counting, counting.say("core.material.earthing", size=size))
    bonds = [(bond.name, bond.area_mm2) for bond in earthing.bonds]
    for name, area in bonds + [(bond.name, bond.area_mm2) for bond in earthing.supplementary]:
        if area is not None:
            yield _measured(counting, counting.say("core.material.bond", name=name, size=counting.size(area)))
