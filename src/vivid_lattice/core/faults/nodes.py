"""Nodes and branches of the electrical model by what they are. Devices are ``cutout``, a circuit's id for its own, ``board:part``
for a residual-current switch, ``relay:board`` for a voltage relay."""

from __future__ import annotations

from typing import Final, NewType

Node = NewType("Node", str)
BranchName = NewType("BranchName", str)

#: Of the transformer; the ground; the source's star point is the reference.
SOURCE: Final = Node("source")
EARTH: Final = Node("earth")
#: Conductors of the supply, and what joins neutral and earth to each other and to the ground.
SUPPLY_N: Final = BranchName("supply.N")
SUPPLY_PE: Final = BranchName("supply.PE")
LINK: Final = BranchName("link")
MAIN_EARTH: Final = BranchName("main-earth")
HOUSE_EARTH: Final = BranchName("house-earth")
SOURCE_ELECTRODE: Final = BranchName("source-electrode")


def origin(conductor: str) -> Node:
    """Where the supply arrives, ahead of the cut-out."""
    return Node(f"origin.{conductor}")


def meter(conductor: str) -> Node:
    """Behind the cut-out; of PE, the main earthing terminal."""
    return Node(f"meter.{conductor}")


def bar(board_or_group: str, conductor: str) -> Node:
    """A bar of a board, or what a shared RCD feeds (``board.group``)."""
    return Node(f"{board_or_group}.{conductor}")


def at_board(circuit: str, conductor: str) -> Node:
    """Where a circuit's conductor begins."""
    return Node(f"{circuit}.{conductor}.0")


def at_fault(circuit: str, conductor: str) -> Node:
    """Where the run of the circuit with the fault is parted."""
    return Node(f"{circuit}.{conductor}.F")


def at_end(circuit: str, conductor: str) -> Node:
    """The end of a circuit's conductor."""
    return Node(f"{circuit}.{conductor}.E")


def contact(device: str, pole: str) -> BranchName:
    """A contact of a device."""
    return BranchName(f"{device}|{pole}")


def watched(board: str, conductor: str) -> Node:
    """Between a board's voltage relay and its main switch."""
    return Node(f"{board}.watched.{conductor}")


def earth_of(device: str) -> BranchName:
    """What brings the earth to a board, or to a circuit from its board."""
    return BranchName(f"{device}.PE")


def electrode_of(owner: str) -> BranchName:
    """The electrode of a board's or circuit's own."""
    return BranchName(f"{owner}.electrode")


def link_of(board: str) -> BranchName:
    """What joins neutral and earth in a board that has a link of its own."""
    return BranchName(f"{board}.link")


def supply(conductor: str) -> BranchName:
    """A conductor of the supply."""
    return BranchName(f"supply.{conductor}")


def run(circuit: str, conductor: str) -> BranchName:
    """A circuit's conductor, up to the fault where there is one."""
    return BranchName(f"{circuit}|run.{conductor}")


def rest(circuit: str, conductor: str) -> BranchName:
    """A circuit's conductor beyond the fault."""
    return BranchName(f"{circuit}|rest.{conductor}")


def load(circuit: str, conductor: str) -> BranchName:
    """What a circuit's loads draw from a line."""
    return BranchName(f"{circuit}|load.{conductor}")


def leakage(circuit: str, conductor: str) -> BranchName:
    """What a circuit's loads leak to earth from a line."""
    return BranchName(f"{circuit}|leak.{conductor}")


def is_load_of(name: BranchName, circuit: str) -> bool:
    """Whether a branch is a load of a circuit."""
    return name.startswith(f"{circuit}|load.")
