"""An enclosure for a board that has none, and the board laid out in it: the smallest packaged one that leaves the usual space."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.actions.move_device import lay_out, model_of, with_housing
from vivid_lattice.core.board.catalogue import enclosures, usual_enclosure_form
from vivid_lattice.core.board.layout.layout_problem import modules_needed
from vivid_lattice.core.document.board_build import Enclosure
from vivid_lattice.core.document.job import Board, Job
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules import rule_set

#: How long the search for a layout may take, since a page waits for it [s].
_SEARCH_S = 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class LayoutProposal:
    """A job with a board laid out, in which enclosure, and how many modules it leaves free."""

    document: Job
    enclosure: str
    free_modules: float


def propose_layout(job: Job, board_id: str) -> LayoutProposal:
    """The proposal for a board. Its enclosure where it has one, else the smallest that fits with the usual spare space; where none
    leaves that, the largest there is.

    Raises  BadDocument where a device is not chosen yet, or no packaged enclosure is large enough
    Source  the standard's rule on spare ways; packaged enclosures: common practice, no source
    """
    model = model_of(job, board_id)
    board, needed = model.board, modules_needed(model.units)
    enclosure = board.build.enclosure or _smallest(job, board, needed)
    build = board.build.model_copy(update={"enclosure": enclosure})
    done, _ = lay_out(with_housing(job, board_id, build), board_id, seconds=_SEARCH_S)
    return LayoutProposal(
        document=done, enclosure=enclosure.title, free_modules=enclosure.rows * enclosure.modules - needed
    )


def _smallest(job: Job, board: Board, needed: float) -> Enclosure:
    spare, wish = rule_set(job.job.rules).board.spare, board.build.layout_preferences.spare_pct
    form = usual_enclosure_form(job.supply)
    fitting = sorted(
        (known.enclosure for known in enclosures() if known.enclosure.form == form),
        key=lambda housing: (housing.rows * housing.modules, housing.rows),
    )
    for enclosure in fitting:
        room = enclosure.rows * enclosure.modules
        if room - needed >= spare.to_leave(room, wish):
            return enclosure
    if fitting[-1].rows * fitting[-1].modules >= needed:
        return fitting[-1]
    text = message(None, "core.propose_layout.none", n=f"{needed:g}")
    raise BadDocument([DocumentProblem("boards.build.enclosure", text)])
