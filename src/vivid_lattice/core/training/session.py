"""An attempt at a board: what was done, replayed from its record; the same record gives the same board, answers and score."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.messages import message
from vivid_lattice.core.training.acts import Act
from vivid_lattice.core.training.bench import Bench, Outcome
from vivid_lattice.core.training.boards import TrainingBoard
from vivid_lattice.core.training.draw_board import board_with, training_board
from vivid_lattice.core.training.score import Score, score_of
from vivid_lattice.core.training.training_rules import ENDS_AT, pieces

#: More acts than these are no attempt.
MOST_ACTS = 2000


class BoardSpec(DocumentModel):
    """Which board: of a standard and level by its number; or with defects of a list; or one of the chosen boards, by its id."""

    standard: Annotated[str, Field(max_length=20)] = "uk"
    level: Annotated[int, Field(ge=1, le=4)] = 1
    number: Annotated[int, Field(ge=0, le=10**9)] = 1
    defects: Annotated[tuple[Annotated[str, Field(max_length=80)], ...], Field(strict=False, max_length=4)] = ()
    piece: Annotated[str, Field(max_length=40)] = ""


class Attempt(DocumentModel):
    """The record of an attempt."""

    board: BoardSpec
    acts: Annotated[tuple[Act, ...], Field(strict=False, max_length=MOST_ACTS)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Played:
    """An attempt as it was replayed. ``ended``: it was finished, or stopped acts that can kill ended it; ``score`` None until then."""

    board: TrainingBoard
    bench: Bench
    outcomes: tuple[Outcome, ...]
    ended: bool
    score: Score | None


def board_of(spec: BoardSpec) -> TrainingBoard:
    """The board of a record. NotPossible where there is none such."""
    if spec.piece:
        piece = pieces().get(spec.piece)
        if piece is None:
            raise NotPossible(message(None, "core.training.no_piece", piece=spec.piece))
        return board_with(spec.standard, piece.defects, spec.number, piece.level)
    if spec.defects:
        return board_with(spec.standard, spec.defects, spec.number, spec.level)
    return training_board(spec.standard, spec.level, spec.number)


def play(attempt: Attempt) -> Played:
    """An attempt replayed act by act. What comes after its end is not done."""
    board = board_of(attempt.board)
    bench = Bench(board=board)
    outcomes = tuple(_outcomes(bench, attempt.acts))
    ended = is_ended(bench)
    return Played(
        board=board, bench=bench, outcomes=outcomes, ended=ended, score=score_of(bench) if ended else None
    )  # fmt: skip


def _outcomes(bench: Bench, acts: Sequence[Act]) -> Iterator[Outcome]:
    for act in acts:
        if is_ended(bench):
            return
        yield bench.do(act)


def is_ended(bench: Bench) -> bool:
    """Whether an attempt is over: finished, or three acts that can kill were stopped."""
    return bench.finished or sum(each.severity == "fatal" for each in bench.stopped) >= ENDS_AT
