"""The shared RCDs that a new board usually has, where the standard's practice is breakers behind shared RCDs."""

from __future__ import annotations

from math import ceil

from vivid_lattice.core.design.usual import Usual
from vivid_lattice.core.document.device_family import packaged
from vivid_lattice.core.document.job import Board, Job, SharedRcd, with_parts
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.network.upstream import upstream_of
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown

#: Fewer circuits than this have RCBOs: a switch for them costs no less.
_FROM = 3


def with_shared_rcds(job: Job, board: Board, usual: list[Usual], rules: RuleSet) -> tuple[Job, Text]:
    """The job with the usual shared RCDs in a board that has none, and what to say of them; the job as it is, and nothing, where
    practice is another.

    usual   what is usual for each circuit of the board whose device is left open
    Source  customary boards of the standard: common practice, no source
    """
    shared = customary(rules.id).shared_rcds
    behind = sum(choice.rcd and not rules.devices.kind(choice.device).has_rcd for choice in usual)
    switch = board.main_switch
    if shared is None or behind < _FROM or board.shared_rcds or (switch is not None and switch.rcd is not None):
        return job, ""
    count = min(shared.most, max(shared.least, ceil(behind / shared.circuits)))
    rating = _rating_a(job, board)
    word = rules.rcd_word
    rcds = tuple(
        SharedRcd(id=f"rcd-{number}", name=f"{word} {number}", rating_a=rating, rcd=Rcd(idn_ma=30.0))
        for number in range(1, count + 1)
    )
    sentence = message(
        rules.words, "core.design.shared", n=count, a=Shown(f"{rating:g}"), board=board.name, circuits=shared.circuits
    )
    return with_parts(job, (), (board.model_copy(update={"shared_rcds": rcds}),)), sentence


def _rating_a(job: Job, board: Board) -> float:
    """The smallest shared switch that the device upstream of the board protects against overload [A]."""
    family = next(known for known in packaged() if known.kind == "rcd" and known.rcd_type == "A")
    upstream = upstream_of(job, Tree(job), board)
    least = upstream.device.rating_a if upstream is not None else 0.0
    return next((rating for rating in family.ratings_a if rating >= max(40.0, least)), family.ratings_a[-1])
