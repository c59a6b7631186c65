"""The overcurrent device upstream of a board: that of its feeder, of its own feed, the one beside the meter, or the cut-out."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Device, Job
from vivid_lattice.core.document.supply import CutOut
from vivid_lattice.core.network.tree import Tree


@dataclass(frozen=True, slots=True)
class Upstream:
    """A device, and where it is: a feeder's in its board, a tapped-off feed's own, beside the meter, at the origin."""

    device: Device
    where: Literal["feeder", "tap", "tails", "origin"]


def as_device(cutout: CutOut) -> Device:
    """A fuse or breaker of the supply as the device tables know it."""
    return Device(kind=cutout.kind, curve=cutout.curve, rating_a=cutout.rating_a)


def upstream_of(job: Job, tree: Tree, board: Board) -> Upstream | None:
    """What protects a board's incoming conductors; None while it is not chosen, or not known."""
    feeder = tree.feeder(board)
    if feeder is not None:
        return None if is_auto(feeder.device) else Upstream(feeder.device, "feeder")
    if board.tap is not None and board.tap.device is not None:
        return Upstream(as_device(board.tap.device), "tap")
    tails, cutout = job.supply.tails, job.supply.cutout
    if tails is not None and tails.device is not None:
        return Upstream(as_device(tails.device), "tails")
    return Upstream(as_device(cutout), "origin") if cutout is not None else None
