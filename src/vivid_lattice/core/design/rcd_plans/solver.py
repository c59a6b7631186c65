"""Which circuit goes behind which device: by CP-SAT, for the least worst-case loss of supply, then devices, then cost."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from math import ceil

from ortools.sat.python import cp_model

from vivid_lattice.core.design.rcd_plans.architectures import SHAPES, Architecture, PlanSolution, Weights
from vivid_lattice.core.design.rcd_plans.circuit_facts import (
    CircuitFacts,
    Limits,
    breaker_price,
    rcbo_price,
    switch_for,
)

#: Ratings of shared switches, and what their rise in price is per step, come from the library.
_RATINGS = (25.0, 40.0, 63.0, 80.0, 100.0)
#: Prices are calculated in whole hundredths.
_CENTS = 100
#: Weights are whole numbers in the model: thousandths.
_SCALE = 1000


class _Choice:
    """Where each circuit may go, a variable a place: behind a shared device by its number, by a device of its own, or ahead."""

    def __init__(self, model: cp_model.CpModel, facts: Sequence[CircuitFacts], shared: int):
        self.names, self.groups = [fact.circuit.id for fact in facts], range(shared)
        self.at = {(name, group): model.new_bool_var("") for name in self.names for group in self.groups}
        self.alone = {name: model.new_bool_var("") for name in self.names}
        self.ahead = {name: model.new_bool_var("") for name in self.names}

    def by_place(self) -> dict[tuple[str, int | str], cp_model.IntVar]:
        """The variables by circuit and place."""
        places: dict[tuple[str, int | str], cp_model.IntVar] = {
            (name, group): var for (name, group), var in self.at.items()
        }
        places.update({(name, "own"): var for name, var in self.alone.items()})
        places.update({(name, "ahead"): var for name, var in self.ahead.items()})
        return places

    def taken(self, solver: cp_model.CpSolver) -> dict[str, int | str]:
        """The place of each circuit in what was found."""
        chosen = {name: place for (name, place), var in self.by_place().items() if solver.value(var)}
        return {name: chosen[name] for name in self.names}


def _place(
    model: cp_model.CpModel,
    fact: CircuitFacts,
    choice: _Choice,
    limits: Limits,
    *,
    own_allowed: bool,
    ahead_allowed: bool,
) -> None:
    """The places that a circuit may take."""
    name = fact.circuit.id
    behind = [choice.at[name, group] for group in choice.groups]
    model.add_exactly_one([*behind, choice.alone[name], choice.ahead[name]])
    if fact.own_device or fact.min_type in ("F", "B"):
        model.add(choice.alone[name] == 1)
    elif not own_allowed:
        model.add(choice.alone[name] == 0)
    # A circuit nothing is demanded for may be ahead of the devices; where the shape has no such place, it is protected too.
    if fact.duty or not ahead_allowed:
        model.add(choice.ahead[name] == 0)
    if fact.leak_ua > limits.leak_ua:
        for var in behind:
            model.add(var == 0)


def solve(
    facts: Sequence[CircuitFacts],
    limits: Limits,
    architecture: Architecture,
    weights: Weights,
    *,
    present: Mapping[str, int | str] | None = None,
    seconds: float = 1.5,
    cancelled: Callable[[], bool] = lambda: False,
) -> PlanSolution | None:
    """The best grouping of an architecture within all rules; None where there is none.

    present    where each circuit is now: kept where nothing found is better, since rewiring for nothing is no gain
    seconds    time it may take: what has been found by then is given with its gap
    cancelled  asked at each better solution; True ends the search
    """
    shared, own_allowed, ahead_allowed = SHAPES[architecture]
    if shared and not limits.shared:
        return None
    model = cp_model.CpModel()
    choice = _Choice(model, facts, shared)
    for fact in facts:
        _place(model, fact, choice, limits, own_allowed=own_allowed, ahead_allowed=ahead_allowed)
    _rules(model, facts, limits, choice)
    loss, cost = _measures(model, facts, limits, choice)
    devices = shared + sum(choice.alone.values())
    factor = {name: round(getattr(weights, name) * _SCALE) for name in ("worst_loss", "devices", "cost")}
    model.minimize(factor["worst_loss"] * loss * _CENTS + factor["devices"] * devices * _CENTS + factor["cost"] * cost)
    as_it_is = None if present is None else _objective_of(model, choice.by_place(), present)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = 2
    solver.parameters.random_seed = 1
    status = solver.solve(model, _Stop(cancelled))
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None
    places = choice.taken(solver)
    if present is not None and as_it_is is not None and as_it_is <= solver.objective_value + 0.5:
        places = dict(present)
    unit = _SCALE * _CENTS
    return PlanSolution(
        places=places,
        objective=solver.objective_value / unit,
        bound=solver.best_objective_bound / unit,
        proven=status == cp_model.OPTIMAL,
        seconds=solver.wall_time,
    )


def _objective_of(
    model: cp_model.CpModel, choices: Mapping[tuple[str, int | str], cp_model.IntVar], places: Mapping[str, int | str]
) -> float | None:
    """What a grouping is worth; None where the rules do not allow it. It stays in the model as a first guess."""
    for (name, place), var in choices.items():
        model.add_hint(var, places.get(name) == place)
    fixed = cp_model.CpSolver()
    fixed.parameters.fix_variables_to_their_hinted_value = True
    fixed.parameters.num_workers = 1
    if fixed.solve(model) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None
    return float(fixed.objective_value)


class _Stop(cp_model.CpSolverSolutionCallback):
    """Ends the search once it is cancelled."""

    def __init__(self, cancelled: Callable[[], bool]):
        super().__init__()
        self._cancelled = cancelled

    def on_solution_callback(self) -> None:
        """Called at each better solution."""
        if self._cancelled():
            self.stop_search()


_Vars = dict[str, cp_model.IntVar]


def _rules(
    model: cp_model.CpModel,
    facts: Sequence[CircuitFacts],
    limits: Limits,
    choice: _Choice,
) -> None:
    """What the rules demand of every grouping."""
    lights = [fact for fact in facts if fact.lights]
    for group in choice.groups:
        members = [choice.at[fact.circuit.id, group] for fact in facts]
        model.add(sum(members) >= 1)
        model.add(sum(fact.leak_ua * choice.at[fact.circuit.id, group] for fact in facts) <= limits.leak_ua)
        if limits.most_per_rcd is not None:
            model.add(sum(members) <= limits.most_per_rcd)
        if limits.lights_apart and len(lights) > 1:
            model.add(sum(choice.at[fact.circuit.id, group] for fact in lights) <= len(lights) - 1)
        if group:
            # Groups are equal: numbered by their first circuit, so that the same grouping is not looked at twice.
            for number, fact in enumerate(facts):
                earlier = sum(choice.at[before.circuit.id, group - 1] for before in facts[:number])
                model.add(choice.at[fact.circuit.id, group] <= earlier)
    protected = sum(1 - choice.ahead[fact.circuit.id] for fact in facts)
    if limits.least_rcds > 1 and len(facts) > 1:
        short = model.new_bool_var("")
        model.add(protected <= 1).only_enforce_if(short)
        model.add(protected >= 2).only_enforce_if(short.negated())
        model.add(len(choice.groups) + sum(choice.alone.values()) >= limits.least_rcds).only_enforce_if(short.negated())


def _measures(
    model: cp_model.CpModel,
    facts: Sequence[CircuitFacts],
    limits: Limits,
    choice: _Choice,
) -> tuple[cp_model.IntVar, cp_model.LinearExprT]:
    """Worst-case loss of supply, and cost in hundredths: shared switches by rating, breakers behind them, own devices."""
    most = sum(fact.loss_score for fact in facts)
    dark = model.new_int_var(0, 2 * most + 1, "dark")
    terms: list[cp_model.LinearExprT] = []
    for fact in facts:
        name = fact.circuit.id
        rcbo_cents = round(rcbo_price(fact.min_type).price * _CENTS)
        plain_cents = round(breaker_price().price * _CENTS)
        terms.append(rcbo_cents * choice.alone[name] + plain_cents * (1 - choice.alone[name]))
        model.add(dark >= fact.loss_score).only_enforce_if(choice.alone[name])
    for group in choice.groups:
        # What must stay on counts double where sockets trip it.
        mixed = model.new_bool_var("")
        for fact in facts:
            if fact.sockets:
                model.add_implication(choice.at[fact.circuit.id, group], mixed)
        extra = []
        for fact in facts:
            if fact.kept:
                both = model.new_bool_var("")
                model.add_bool_or([choice.at[fact.circuit.id, group].negated(), mixed.negated(), both])
                extra.append(fact.loss_score * both)
        behind = sum(fact.loss_score * choice.at[fact.circuit.id, group] for fact in facts)
        model.add(dark >= behind + sum(extra))
        terms.append(_switch_cents(model, facts, limits, choice.at, group))
    return dark, sum(terms)


def _ratings_by_line(
    facts: Sequence[CircuitFacts], at: dict[tuple[str, int], cp_model.IntVar], group: int
) -> list[cp_model.LinearExprT]:
    """Sum of the ratings behind a group's switch on each line, in whole amperes, rounded up."""
    lines = sorted({line for fact in facts for line in fact.lines})
    return [
        sum(ceil(fact.rating_a) * at[fact.circuit.id, group] for fact in facts if line in fact.lines) for line in lines
    ]


def _switch_cents(
    model: cp_model.CpModel,
    facts: Sequence[CircuitFacts],
    limits: Limits,
    at: dict[tuple[str, int], cp_model.IntVar],
    group: int,
) -> cp_model.LinearExprT:
    """Price of a group's switch: the smallest whose rating meets what is ahead, or the total behind it on a line."""
    ratings_a = _ratings_by_line(facts, at, group)
    options = []
    for rating in _RATINGS:
        priced = switch_for(rating)
        if priced is None:
            continue
        chosen = model.new_bool_var("")
        options.append((chosen, round(priced.price * _CENTS)))
        if limits.ahead_a is None or rating < limits.ahead_a:
            for summed in ratings_a:
                model.add(summed <= int(rating)).only_enforce_if(chosen)
    model.add_exactly_one([chosen for chosen, _ in options])
    return sum(cents * chosen for chosen, cents in options)
