"""A line of the material list, and the list."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from math import ceil
from typing import Literal, get_args

from vivid_lattice.core.material.cutting import CutPlan
from vivid_lattice.core.material.money import coins
from vivid_lattice.core.messages import Message, Text, Vocabulary, message
from vivid_lattice.core.rules.fixing_rules import Goods

Group = Literal["cable", "conduit", "fixing", "box", "accessory", "device", "board", "link", "bonding", "label"]
GROUPS: tuple[Group, ...] = get_args(Group)


def group_title(group: Group, words: Vocabulary) -> Message:
    """What a group of the list is called."""
    return message(words, f"core.material.group.{group}")


@dataclass(frozen=True, slots=True)
class Cut:
    """A piece of cable or conduit: what for, and how long [m]."""

    label: Text
    length_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MaterialLine:
    """A line of the list.

    article   what a price list calls it
    quantity  None: not known yet
    each      by the user's price list, of a ``pack`` of so many; None: it does not name it
    rooms     how many of them are for which room, by id; '' of none
    """

    group: Group
    article: str
    what: Text
    quantity: float | None
    unit: str
    each: float | None = None
    pack: int = 1
    cuts: tuple[Cut, ...] = ()
    note: Text = ""
    rooms: Mapping[str, float] = field(default_factory=dict)

    @property
    def packs(self) -> float | None:
        """What is bought: whole packs; of what is sold singly or by the metre the quantity."""
        if self.quantity is None:
            return None
        return float(ceil(round(self.quantity / self.pack, 9))) if self.pack > 1 else self.quantity

    @property
    def cost(self) -> float | None:
        """Price of the line, to the coin; None where the quantity or the price is not known."""
        packs = self.packs
        return None if packs is None or self.each is None else coins(packs * self.each) / 100


@dataclass(frozen=True, slots=True, kw_only=True)
class CutList:
    """How an article is cut. ``pieces``: what each is for, in the order of the plan; ``plan`` None: it is cut to length by the merchant."""

    article: str
    what: Text
    goods: Goods
    pieces: tuple[Cut, ...]
    plan: CutPlan | None

    @property
    def length_m(self) -> float:
        """Of all pieces [m]."""
        return round(sum(piece.length_m for piece in self.pieces), 3)


@dataclass(frozen=True, slots=True)
class Material:
    """The whole list, how it is cut, and what could not be counted."""

    items: tuple[MaterialLine, ...]
    cuts: tuple[CutList, ...]
    missing: tuple[Text, ...]

    @property
    def cost(self) -> float:
        """Sum of the lines that have a price."""
        return sum(coins(line.cost or 0.0) for line in self.items) / 100

    @property
    def unpriced(self) -> int:
        """How many lines have none."""
        return sum(line.cost is None for line in self.items)
