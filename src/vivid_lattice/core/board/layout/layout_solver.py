"""The tidiest layout of a board, by CP-SAT."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from itertools import combinations, pairwise

from ortools.sat.python import cp_model

from vivid_lattice.core.board.layout.initial_layout import initial_layout
from vivid_lattice.core.board.layout.layout_problem import (
    FORWARD,
    HOT_PAIR,
    INVERSION,
    LAYOUT_S,
    MISFIT,
    SPAN,
    LayoutItem,
    LayoutProblem,
    LayoutResult,
    allowed,
    cost_of,
    fits_line,
    groups,
    in_order,
    spots_of,
)

#: How long a search for any layout at all may take [s].
ANY_S = 30.0

_Vars = Mapping[str, cp_model.IntVar]


def solve_layout(
    task: LayoutProblem,
    *,
    present: Mapping[str, int] | None = None,
    seconds: float = LAYOUT_S,
    cancelled: Callable[[], bool] = lambda: False,
    better: Callable[[int, int], None] = lambda cost, bound: None,
) -> LayoutResult | None:
    """The tidiest layout; None where none holds (too few modules, or a line that no free space meets).

    present    where things stand now: the search begins from there
    seconds    time it may take to get better: what has been found by then is given with its bound. Any layout at all is searched for
               longer: that none was found on a busy machine does not mean that there is none.
    cancelled  asked at each better layout; True ends the search
    better     told the cost and the bound of each better layout
    """
    if any(not allowed(task, item) for item in task.items):
        return None
    model = cp_model.CpModel()
    start = {
        item.id: model.new_int_var_from_domain(cp_model.Domain.from_values(sorted(allowed(task, item))), item.id)
        for item in task.items
    }
    model.add_no_overlap([model.new_fixed_size_interval_var(start[item.id], item.wide, item.id) for item in task.items])
    items = {item.id: item for item in task.items}
    for a, b in pairwise(task.first):
        model.add(start[a] + items[a].wide == start[b])
    model.minimize(sum(_terms(model, task, start)))
    _begin_from(model, start, _better_of(task, present, initial_layout(task)))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = 4
    solver.parameters.random_seed = 1
    status = solver.solve(model, _Watch(cancelled, better))
    if status == cp_model.UNKNOWN and not cancelled():
        model.clear_objective()  # type: ignore[no-untyped-call]
        solver.parameters.max_time_in_seconds = ANY_S
        status = solver.solve(model, _Watch(cancelled, lambda cost, bound: None))
        # It is a layout, and nothing is known of how good it is.
        status = cp_model.FEASIBLE if status == cp_model.OPTIMAL else status
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None
    starts = {name: solver.value(var) for name, var in start.items()}
    cost = cost_of(task, starts)
    assert cost is not None, "the model and the cost agree on what is a layout"
    return LayoutResult(
        spots=spots_of(task, starts),
        cost=cost,
        bound=max(0, min(cost, round(solver.best_objective_bound))),
        proven=status == cp_model.OPTIMAL,
        seconds=solver.wall_time,
    )


def _better_of(task: LayoutProblem, present: Mapping[str, int] | None, guess: dict[str, int]) -> Mapping[str, int]:
    """Where things stand now, where that is a layout and no worse than a guess."""
    if present is None or set(present) != set(guess):
        return guess
    now, guessed = cost_of(task, present), cost_of(task, guess)
    return present if now is not None and (guessed is None or now <= guessed) else guess


def _begin_from(model: cp_model.CpModel, start: _Vars, layout: Mapping[str, int]) -> None:
    """Have the search begin from a layout: all that follows from it is worked out first, so that it is taken whole."""
    for name, at in layout.items():
        model.add_hint(start[name], at)
    fixed = cp_model.CpSolver()
    fixed.parameters.fix_variables_to_their_hinted_value = True
    fixed.parameters.num_workers = 1
    fixed.parameters.max_time_in_seconds = 0.3
    if fixed.solve(model) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return
    model.clear_hints()  # type: ignore[no-untyped-call]
    for index in range(len(model.proto.variables)):
        var = model.get_int_var_from_proto_index(index)
        model.add_hint(var, fixed.value(var))


class _Watch(cp_model.CpSolverSolutionCallback):
    """Tells of each better layout, and ends the search once it is cancelled."""

    def __init__(self, cancelled: Callable[[], bool], better: Callable[[int, int], None]):
        super().__init__()
        self._cancelled, self._better = cancelled, better

    def on_solution_callback(self) -> None:
        """Called at each better layout."""
        self._better(round(self.objective_value), round(self.best_objective_bound))
        if self._cancelled():
            self.stop_search()


def _gaps(
    model: cp_model.CpModel, task: LayoutProblem, start: _Vars, members: Sequence[LayoutItem]
) -> cp_model.LinearExprT:
    """Steps between the first and the last of what one feed supplies that are not its own width."""
    whole = task.rows * task.row
    low, high = model.new_int_var(0, whole, ""), model.new_int_var(0, whole, "")
    for member in members:
        model.add(low <= start[member.id])
        model.add(high >= start[member.id] + member.wide)
    return high - low - sum(member.wide for member in members)


def _terms(model: cp_model.CpModel, task: LayoutProblem, start: _Vars) -> list[cp_model.LinearExprT]:
    """What ``cost_of`` adds up, as expressions of the model."""
    ahead = {name: _ahead_var(model, task, var) for name, var in start.items()}
    terms: list[cp_model.LinearExprT] = [FORWARD * var for var in ahead.values()]
    for feed, members in groups(task).items():
        if task.together:
            terms.append(SPAN * _gaps(model, task, start, members))
        hanging = in_order(feed, members)
        for a, b in pairwise(hanging):
            if task.in_turn:
                model.add(start[a.id] + a.wide <= start[b.id])
                continue
            turned = model.new_bool_var("")
            model.add(ahead[b.id] >= ahead[a.id]).only_enforce_if(turned.negated())
            terms.append(INVERSION * turned)
    terms += _misfits(model, task, start)
    for a, b in _may_touch(task):
        before, after, near = (model.new_bool_var("") for _ in range(3))
        model.add(start[a.id] + a.wide + task.pitch <= start[b.id]).only_enforce_if(before)
        model.add(start[b.id] + b.wide + task.pitch <= start[a.id]).only_enforce_if(after)
        model.add_bool_or([before, after, near])
        terms.append(HOT_PAIR * near)
    return terms


def _may_touch(task: LayoutProblem) -> list[tuple[LayoutItem, LayoutItem]]:
    """Pairs of warm devices that could stand side by side: where turns are kept, not those with another one between them."""
    follows: set[tuple[str, str]] = set()
    for feed, members in groups(task).items():
        follows |= {(a.id, b.id) for a, b in pairwise(in_order(feed, members))}
    pairs = combinations([item for item in task.items if item.hot], 2)
    return [(a, b) for a, b in pairs if not task.in_turn or a.feed != b.feed or {(a.id, b.id), (b.id, a.id)} & follows]


def _ahead_var(model: cp_model.CpModel, task: LayoutProblem, start: cp_model.IntVar) -> cp_model.IntVar:
    if not task.strict:
        return start
    int_var = model.new_int_var(0, task.row - 1, "")
    model.add_modulo_equality(int_var, start, task.row)
    return int_var


def _misfits(model: cp_model.CpModel, task: LayoutProblem, start: _Vars) -> list[cp_model.LinearExprT]:
    """Devices whose first terminal does not meet a pin of its line, the busbar beginning on whichever line suits best."""
    if task.lines < 2 or task.strict:
        return []
    turn = [model.new_bool_var("") for _ in range(task.lines)]
    model.add_exactly_one(turn)
    terms: list[cp_model.LinearExprT] = []
    for item in task.items:
        if item.line is None:
            continue
        misfit = model.new_bool_var("")
        places = allowed(task, item)
        for number, begins in enumerate(turn):
            fits = [at for at in places if fits_line(task, item, {item.id: at}, number)]
            meets = model.new_bool_var("")
            model.add_linear_expression_in_domain(
                start[item.id], cp_model.Domain.from_values(sorted(fits))
            ).only_enforce_if(meets)
            model.add_bool_or([begins.negated(), misfit, meets])
        terms.append(MISFIT * misfit)
    return terms
