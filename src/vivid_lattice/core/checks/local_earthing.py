"""Is a board in another building earthed as it may be, with what that requires?"""

from __future__ import annotations

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.local_earth import LocalEarth
from vivid_lattice.core.checks.support.requirements import finding_from_known_requirements
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import BoardContext

ID = "local-earthing"


def check(ctx: BoardContext) -> Finding:
    """How a board that a way feeds is earthed: whether the standard permits it; the electrode, its conductor and distance; the link; the
    bonding there, and the feeder's protective conductor where that counts as a part of it.

    Equation  size ≥ the rule set's least; RA ≤ what stays stable; distance ≥ the rule set's least
    Source    the rule set's rules of earthing in another building
    Whether the RCDs disconnect at that electrode is asked of each circuit by ``disconnection``. A board whose feeder stays in the building is
    earthed with it, and nothing more applies.
    """
    board, feeder = ctx.board, ctx.network.tree.feeder(ctx.board)
    if feeder is None:
        return not_applicable(ID, ctx, ctx.message("core.check.local-earthing.at_origin"))
    own = board.earthing
    if own is None:
        if not _leaves_building(ctx, feeder):
            return not_applicable(ID, ctx, ctx.message("core.check.local-earthing.none"))
        raise NeedsInput(ctx.need("core.check.local-earthing.need", "boards.earthing", name=board.name))
    if own.kind == "same-building":
        return not_applicable(ID, ctx, ctx.message("core.check.local-earthing.none"))
    return finding_from_known_requirements(ID, ctx, LocalEarth(ctx, own, board, feeder).parts())


def _leaves_building(ctx: BoardContext, feeder: Circuit) -> bool:
    """Whether a feeder is likely to lead to another building: it is in the ground, or armoured. Common practice, no source."""
    cable = feeder.cable
    armoured = not is_auto(cable) and "armour" in ctx.rules.cables.kind(cable.type).cpc_choices
    return armoured or any(ctx.rules.factors.methods[section.method].medium == "ground" for section in feeder.run)
