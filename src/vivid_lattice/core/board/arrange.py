"""Where each device goes: by CP-SAT on one long rail made of all rows, by the school's habits and the owner's wishes."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise
from typing import Literal

from ortools.sat.python import cp_model

from vivid_lattice.core.board.units import AHEAD, BUS, Unit, Units, line_index
from vivid_lattice.core.housing import STEPS_A_MODULE, Enclosure, Spot, Wishes

#: What an untidiness costs, per module or per case.
SPAN, MISFIT, INVERSION, HOT_PAIR, FORWARD = 8, 24, 6, 24, 1


#: Time a search may take [s]: with all around it a layout is there within two.
LAYOUT_S = 1.5


@dataclass(frozen=True, slots=True)
class Item:
    """A device to place: its width [steps], what it hangs on and what hangs on it, its turn among those of its feed, the line
    that its first clamp has to meet (None: any), and what is to be seen to."""

    id: str
    wide: int
    feed: str
    heads: str
    turn: int
    line: int | None
    hot: bool = False


@dataclass(frozen=True, slots=True)
class Task:
    """Devices, rows of so many steps, and the wishes. ``first``: those that stand beside the main switch, in that order.
    ``pitch``: steps between two teeth; ``lines``: teeth in turn on so many lines; ``strict``: a clamp on the wrong line is no
    layout at all (a panel's own bars). With ``mirrored`` everything is reckoned from the right end of the rows. Where no
    line has to be met, what hangs on one feed stands in its turn."""

    items: tuple[Item, ...]
    rows: int
    row: int
    first: tuple[str, ...]
    at_end: bool
    mirrored: bool
    pitch: int
    lines: int
    strict: bool
    together: bool

    @property
    def in_turn(self) -> bool:
        """Whether what hangs on one feed has to stand in its turn."""
        return self.lines == 1


@dataclass(frozen=True, slots=True)
class Arranged:
    """A layout found: where each device stands, what it costs, the least that any could cost, and how long it took."""

    spots: tuple[Spot, ...]
    cost: int
    bound: int
    proven: bool
    seconds: float


def task_of(
    units: Units, enclosure: Enclosure, wishes: Wishes, main: Literal["left", "right", "top"], hot: frozenset[str]
) -> Task:
    """The task of laying out a board in an enclosure.

    hot  ids of the units that run warm for long
    """
    placed = [unit for unit in units.all if unit.wide > 0]
    if wishes.lights != "anywhere":
        last_first = 1 if wishes.lights == "last" else -1
        placed.sort(key=lambda unit: last_first * _is_light(unit))
    step = STEPS_A_MODULE if enclosure.form == "rail" else 1
    heads = {unit.id: unit.id for unit in placed if unit.kind in ("rcd", "gear") and unit.circuit is None}
    last = next((one for one in ("relay", "main") if one in units.by_id), None)
    mirrored = main == "right" and enclosure.form == "rail"
    items = tuple(
        Item(
            unit.id,
            round(unit.wide * step) + (1 if _wants_gap(unit) and step > 1 else 0),
            _feed(unit),
            BUS if unit.id == last else heads.get(unit.id, ""),
            number,
            _line(unit, units, enclosure, mirrored),
            unit.id in hot and wishes.hot_apart,
        )
        for number, unit in enumerate(placed)
    )
    beside = [unit.id for unit in placed if unit.kind in ("main", "relay")]
    if wishes.surge_beside_main:
        beside += [unit.id for unit in placed if unit.kind in ("backup", "surge")]
    return Task(
        items,
        enclosure.rows,
        enclosure.modules * step,
        tuple(beside),
        main != "top",
        mirrored,
        step,
        len(units.lines),
        enclosure.form == "stab",
        wishes.groups_together and enclosure.form == "rail",
    )


def _feed(unit: Unit) -> str:
    """What a unit hangs together with. What has a place of its own beside the main switch hangs on nothing."""
    return "" if unit.kind in ("main", "relay", "surge", "backup") or unit.feed == AHEAD else unit.feed


def _wants_gap(unit: Unit) -> bool:
    return unit.gear is not None and unit.kind == "gear" and unit.gear.kind == "contactor"


def _line(unit: Unit, units: Units, enclosure: Enclosure, mirrored: bool) -> int | None:
    """The line a unit's first clamp has to meet: of one with several, on a rail the first of them; a panel takes it anywhere.

    Seen from the right, the clamps run the other way round: a first clamp on tooth p is p + width from that end.
    """
    if len(units.lines) == 1 or not unit.lines or unit.kind not in ("way", "coil", "backup"):
        return None
    if enclosure.form == "stab" and len(unit.lines) > 1:
        return None
    index = line_index(unit.lines[0])
    return (-index - round(unit.wide)) % len(units.lines) if mirrored else index


def _is_light(unit: Unit) -> bool:
    return unit.circuit is not None and (
        unit.circuit.kind == "lighting" or any(load.kind == "alarm" for load in unit.circuit.loads)
    )


def modules_needed(units: Units) -> float:
    """Modules that all devices take together."""
    return sum(unit.wide for unit in units.all)


# ------------------------------------------------------------------------------------------------------ cost


def cost_of(task: Task, starts: Mapping[str, int]) -> int | None:
    """What a layout costs; None where it breaks a rule: overlapping, across two rows, out of place beside the main switch, or
    (on a panel) on the wrong line.

    starts  step that each device begins at, on one rail made of all rows
    """
    items = {item.id: item for item in task.items}
    if not _holds(task, items, starts):
        return None
    total = FORWARD * sum(_ahead(task, starts[item.id]) for item in task.items)
    for feed, members in _groups(task).items():
        ends = [(starts[one.id], starts[one.id] + one.wide) for one in members]
        if task.together:
            total += SPAN * (
                max(end for _, end in ends) - min(start for start, _ in ends) - sum(i.wide for i in members)
            )
        hanging = _in_order(feed, members)
        total += INVERSION * sum(_ahead(task, starts[b.id]) < _ahead(task, starts[a.id]) for a, b in pairwise(hanging))
    if task.lines > 1 and not task.strict:
        total += min(
            sum(MISFIT for item in task.items if item.line is not None and not _fits(task, item, starts, turn))
            for turn in range(task.lines)
        )
    for a, b in combinations([item for item in task.items if item.hot], 2):
        gap = max(starts[a.id], starts[b.id]) - (
            starts[a.id] + a.wide if starts[a.id] < starts[b.id] else starts[b.id] + b.wide
        )
        total += HOT_PAIR if gap < task.pitch else 0
    return total


def _ahead(task: Task, start: int) -> int:
    """How far from the beginning a device stands: along all rows, on a panel down its column."""
    return start % task.row if task.strict else start


def _holds(task: Task, items: Mapping[str, Item], starts: Mapping[str, int]) -> bool:
    order = sorted(task.items, key=lambda item: starts[item.id])
    if any(starts[a.id] + a.wide > starts[b.id] for a, b in pairwise(order)):
        return False
    for item in task.items:
        start = starts[item.id]
        if start not in _allowed(task, item):
            return False
    chain = [items[one] for one in task.first]
    if any(starts[a.id] + a.wide != starts[b.id] for a, b in pairwise(chain)):
        return False
    return not task.in_turn or all(
        starts[a.id] < starts[b.id]
        for feed, members in _groups(task).items()
        for a, b in pairwise(_in_order(feed, members))
    )


def _groups(task: Task) -> dict[str, list[Item]]:
    """Devices that hang together, each with what it hangs on: by feed, in their turn."""
    found: dict[str, list[Item]] = {}
    for item in task.items:
        if item.heads:
            found.setdefault(item.heads, []).append(item)
        if item.feed:
            found.setdefault(item.feed, []).append(item)
    return {feed: sorted(held, key=lambda one: one.turn) for feed, held in found.items() if len(held) > 1}


def _in_order(feed: str, members: Sequence[Item]) -> list[Item]:
    """The order in which devices that hang together had best stand: first what they hang on, then each in its turn."""
    return sorted(members, key=lambda one: (one.heads != feed, one.turn))


def _fits(task: Task, item: Item, starts: Mapping[str, int], turn: int) -> bool:
    local = starts[item.id] % task.row
    return local % task.pitch == 0 and (local // task.pitch + turn) % task.lines == item.line


def _allowed(task: Task, item: Item) -> set[int]:
    """Steps an item may begin at: whole within a row; the main switch at its end; on a panel only where its line is."""
    found = {row * task.row + at for row in range(task.rows) for at in range(task.row - item.wide + 1)}
    if task.first and item.id == task.first[0]:
        found = {0} if task.at_end else set(range(task.row - item.wide + 1))
    if task.strict and item.line is not None:
        found = {at for at in found if at % task.row % task.lines == item.line}
    return found


# ---------------------------------------------------------------------------------------------------- solver


def arrange(
    task: Task,
    *,
    present: Mapping[str, int] | None = None,
    seconds: float = LAYOUT_S,
    cancelled: Callable[[], bool] = lambda: False,
    better: Callable[[int, int], None] = lambda cost, bound: None,
) -> Arranged | None:
    """The tidiest layout; None where none holds (too few modules, or a line that no free space meets).

    present    where things stand now: the search begins from there
    seconds    time it may take: what has been found by then is given with its bound
    cancelled  asked at each better layout; True ends the search
    better     told the cost and the bound of each better layout
    """
    if any(not _allowed(task, item) for item in task.items):
        return None
    model = cp_model.CpModel()
    start = {
        item.id: model.new_int_var_from_domain(cp_model.Domain.from_values(sorted(_allowed(task, item))), item.id)
        for item in task.items
    }
    model.add_no_overlap([model.new_fixed_size_interval_var(start[item.id], item.wide, item.id) for item in task.items])
    items = {item.id: item for item in task.items}
    for a, b in pairwise(task.first):
        model.add(start[a] + items[a].wide == start[b])
    model.minimize(sum(_terms(model, task, start)))
    _begin_from(model, start, _better_of(task, present, first_guess(task)))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = 4
    solver.parameters.random_seed = 1
    status = solver.solve(model, _Watch(cancelled, better))
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None
    starts = {name: solver.value(var) for name, var in start.items()}
    cost = cost_of(task, starts)
    assert cost is not None, "the model and the cost agree on what is a layout"
    return Arranged(
        spots_of(task, starts),
        cost,
        max(0, min(cost, round(solver.best_objective_bound))),
        status == cp_model.OPTIMAL,
        solver.wall_time,
    )


def spots_of(task: Task, starts: Mapping[str, int]) -> tuple[Spot, ...]:
    """Places of the document from steps on the one long rail."""
    wide = {item.id: item.wide for item in task.items}
    found = []
    for name, start in starts.items():
        at = start % task.row
        if task.mirrored:
            at = task.row - at - wide[name]
        found.append(Spot(unit=name, row=start // task.row + 1, at=at / task.pitch))
    return tuple(sorted(found, key=lambda spot: (spot.row, spot.at)))


def starts_of(task: Task, spots: Sequence[Spot]) -> dict[str, int]:
    """Steps on the one long rail from the places of a document."""
    wide = {item.id: item.wide for item in task.items}
    found = {}
    for spot in spots:
        at = round(spot.at * task.pitch)
        if task.mirrored and spot.unit in wide:
            at = task.row - at - wide[spot.unit]
        found[spot.unit] = (spot.row - 1) * task.row + at
    return found


_Vars = Mapping[str, cp_model.IntVar]


def first_guess(task: Task) -> dict[str, int]:
    """A layout made by hand, as it were: each group behind what it hangs on, the next device being the first in turn that
    meets its line and stands by no warm neighbour. It may break a rule where room is short; the search begins from it."""
    guesses = [_guess(task, turn) for turn in range(task.lines if task.lines > 1 and not task.strict else 1)]
    costs = [(cost_of(task, guess), guess) for guess in guesses]
    return min(costs, key=lambda pair: (pair[0] is None, pair[0] or 0))[1]


def _guess(task: Task, turn: int) -> dict[str, int]:
    found: dict[str, int] = {}
    taken: list[tuple[int, int]] = []
    last: Item | None = None

    def place(item: Item) -> None:
        nonlocal last
        start = _next_start(task, item, taken)
        found[item.id] = start
        taken.append((start, start + item.wide))
        last = item

    def untidy(item: Item) -> tuple[bool, bool, int]:
        start = _next_start(task, item, taken)
        misfit = item.line is not None and not task.strict and not _fits(task, item, {item.id: start}, turn)
        return misfit, bool(last and last.hot and item.hot), item.turn

    def fill(waiting: list[Item]) -> None:
        while waiting:
            chosen = waiting[0] if task.in_turn else min(waiting, key=untidy)
            place(chosen)
            waiting.remove(chosen)

    items = {item.id: item for item in task.items}
    for name in task.first:
        place(items[name])
    in_turn = sorted(task.items, key=lambda item: item.turn)
    for head in (item for item in in_turn if item.heads and item.id not in found):
        place(head)
        fill([item for item in in_turn if item.feed == head.heads and not item.heads])
    fill([item for item in in_turn if item.id not in found])
    return found


def _next_start(task: Task, item: Item, taken: Sequence[tuple[int, int]]) -> int:
    """Where a device goes next: behind everything that stands, in the next row where it reaches past this one; on a panel the
    highest place that is free and on its line."""
    if task.strict:
        free = (
            at
            for at in sorted(_allowed(task, item), key=lambda at: (_ahead(task, at), at))
            if all(at + item.wide <= start or at >= end for start, end in taken)
        )
        return next(free, 0)
    at = max((end for _, end in taken), default=0)
    return (at // task.row + 1) * task.row if at % task.row + item.wide > task.row else at


def _better_of(task: Task, present: Mapping[str, int] | None, guess: dict[str, int]) -> Mapping[str, int]:
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


def _terms(model: cp_model.CpModel, task: Task, start: _Vars) -> list[cp_model.LinearExprT]:
    """What ``cost_of`` adds up, as expressions of the model."""
    ahead = {name: _ahead_var(model, task, var) for name, var in start.items()}
    terms: list[cp_model.LinearExprT] = [FORWARD * var for var in ahead.values()]
    whole = task.rows * task.row
    for feed, members in _groups(task).items():
        if task.together:
            low, high = model.new_int_var(0, whole, ""), model.new_int_var(0, whole, "")
            for one in members:
                model.add(low <= start[one.id])
                model.add(high >= start[one.id] + one.wide)
            terms.append(SPAN * (high - low - sum(one.wide for one in members)))
        hanging = _in_order(feed, members)
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


def _may_touch(task: Task) -> list[tuple[Item, Item]]:
    """Pairs of warm devices that could stand side by side: where turns are kept, not those with another one between them."""
    follows: set[tuple[str, str]] = set()
    for feed, members in _groups(task).items():
        follows |= {(a.id, b.id) for a, b in pairwise(_in_order(feed, members))}
    pairs = combinations([item for item in task.items if item.hot], 2)
    return [(a, b) for a, b in pairs if not task.in_turn or a.feed != b.feed or {(a.id, b.id), (b.id, a.id)} & follows]


def _ahead_var(model: cp_model.CpModel, task: Task, start: cp_model.IntVar) -> cp_model.IntVar:
    if not task.strict:
        return start
    found = model.new_int_var(0, task.row - 1, "")
    model.add_modulo_equality(found, start, task.row)
    return found


def _misfits(model: cp_model.CpModel, task: Task, start: _Vars) -> list[cp_model.LinearExprT]:
    """Devices whose first clamp does not meet a tooth of its line, the comb beginning on whichever line suits best."""
    if task.lines < 2 or task.strict:
        return []
    turn = [model.new_bool_var("") for _ in range(task.lines)]
    model.add_exactly_one(turn)
    terms: list[cp_model.LinearExprT] = []
    for item in task.items:
        if item.line is None:
            continue
        misfit = model.new_bool_var("")
        allowed = _allowed(task, item)
        for number, begins in enumerate(turn):
            fits = [at for at in allowed if _fits(task, item, {item.id: at}, number)]
            meets = model.new_bool_var("")
            model.add_linear_expression_in_domain(
                start[item.id], cp_model.Domain.from_values(sorted(fits))
            ).only_enforce_if(meets)
            model.add_bool_or([begins.negated(), misfit, meets])
        terms.append(MISFIT * misfit)
    return terms
