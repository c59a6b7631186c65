"""A layout made by hand, as it were, for the search to begin from."""

from __future__ import annotations

from collections.abc import Sequence

from vivid_lattice.core.board.layout.layout_problem import (
    LayoutItem,
    LayoutProblem,
    ahead_of,
    allowed,
    cost_of,
    fits_line,
)


def initial_layout(task: LayoutProblem) -> dict[str, int]:
    """A layout made by hand, as it were: each group behind what feeds it, the next device being the first in turn that
    meets its line and is by no warm neighbour. It may break a rule where room is short; the search begins from it."""
    guesses = [_guess(task, turn) for turn in range(task.lines if task.lines > 1 and not task.strict else 1)]
    costs = [(cost_of(task, guess), guess) for guess in guesses]
    return min(costs, key=lambda pair: (pair[0] is None, pair[0] or 0))[1]


def _guess(task: LayoutProblem, turn: int) -> dict[str, int]:
    starts: dict[str, int] = {}
    taken: list[tuple[int, int]] = []
    last: LayoutItem | None = None

    def place(item: LayoutItem) -> None:
        nonlocal last
        start = _next_start(task, item, taken)
        starts[item.id] = start
        taken.append((start, start + item.wide))
        last = item

    def untidy(item: LayoutItem) -> tuple[bool, bool, int]:
        start = _next_start(task, item, taken)
        misfit = item.line is not None and not task.strict and not fits_line(task, item, {item.id: start}, turn)
        return misfit, bool(last and last.hot and item.hot), item.turn

    def fill(waiting: list[LayoutItem]) -> None:
        while waiting:
            chosen = waiting[0] if task.in_turn else min(waiting, key=untidy)
            place(chosen)
            waiting.remove(chosen)

    items = {item.id: item for item in task.items}
    for name in task.first:
        place(items[name])
    in_turn = sorted(task.items, key=lambda item: item.turn)
    for head in (item for item in in_turn if item.heads and item.id not in starts):
        place(head)
        fill([item for item in in_turn if item.feed == head.heads and not item.heads])
    fill([item for item in in_turn if item.id not in starts])
    return starts


def _next_start(task: LayoutProblem, item: LayoutItem, taken: Sequence[tuple[int, int]]) -> int:
    """Where a device goes next: behind everything placed, in the next row where it reaches past this one; on a panel the
    highest place that is free and on its line."""
    if task.strict:
        free = (
            at
            for at in sorted(allowed(task, item), key=lambda at: (ahead_of(task, at), at))
            if all(at + item.wide <= start or at >= end for start, end in taken)
        )
        return next(free, 0)
    at = max((end for _, end in taken), default=0)
    return (at // task.row + 1) * task.row if at % task.row + item.wide > task.row else at
