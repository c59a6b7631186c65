"""Which pieces are cut from which lengths: least money for what is bought, then the longest single rest.

Lengths in whole millimetres and money in whole coins, so that 50.0 m from 50 m fits.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import count

from ortools.sat.python import cp_model

from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.messages import message

#: Where no price is known, another length counts as so much cable more [mm]: fewer lengths of what is as long.
_ANOTHER_MM = 1000
#: What the search for the least money and for the longest rest may do, in the solver's own measure of work: the same on every machine,
#: however busy.
_WORK, _WORK_ON_REST = 1.0, 0.2
#: More pieces are cut by the simple method, with its gap.
_MOST_PIECES = 120


@dataclass(frozen=True, slots=True)
class Stock:
    """A length that is sold, or a rest that is there [mm]. ``price``: in coins; None: not known. ``have``: how many there are, None: any
    number is sold."""

    length_mm: int
    price: int | None = None
    have: int | None = None


@dataclass(frozen=True, slots=True)
class CutStock:
    """One length with the pieces cut from it [mm], the longest first, and its rest."""

    stock: Stock
    pieces_mm: tuple[int, ...]
    rest_mm: int


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPlan:
    """What is bought and cut. ``price``: in coins, None where a length has no price; ``gap``: by what share a cheaper plan could cost less;
    0: there is none."""

    cuts: tuple[CutStock, ...]
    price: int | None
    gap: float

    @property
    def bought(self) -> Counter[int]:
        """How many of each length are bought [mm]; rests that were there are none."""
        return Counter(cut.stock.length_mm for cut in self.cuts if cut.stock.have is None)

    @property
    def rests_mm(self) -> tuple[int, ...]:
        """What is left of each, the longest first."""
        return tuple(sorted((cut.rest_mm for cut in self.cuts), reverse=True))


def cutting(pieces_mm: Sequence[int], stock: Sequence[Stock], *, saw_mm: int = 0) -> CutPlan:
    """The best plan for some pieces.

    pieces_mm  each is cut whole from one length
    stock      lengths that are sold, with prices or without, and rests
    saw_mm     what a cut takes between two pieces
    Raises     NotPossible where a piece is longer than every length
    Equation   least sum of prices (of metres where no price is known, with few lengths), then the longest single rest
    Source     cutting-stock problem; exact by CP-SAT, with the gap where it stops first
    """
    longest = max((each.length_mm for each in stock), default=0)
    if pieces_mm and max(pieces_mm) > longest:
        piece = max(pieces_mm) / 1000
        raise NotPossible(message(None, "core.material.cut.too_long", m=f"{piece:g}", longest=f"{longest / 1000:g}"))
    if not pieces_mm:
        return CutPlan(cuts=(), price=0, gap=0.0)
    simple = simple_cutting(pieces_mm, stock, saw_mm=saw_mm)
    if len(pieces_mm) > _MOST_PIECES:
        return _Search(pieces_mm, stock, saw_mm, simple).bounded()
    return _Search(pieces_mm, stock, saw_mm, simple).best()


def lower_bound(pieces_mm: Sequence[int], length_mm: int) -> int:
    """The fewest lengths of one size that can do: by their total; by pieces longer than half, of which no two share one; and by what does not
    fit beside those.

    Source  bound L2 of Martello and Toth for bin packing (memory)
    """
    best = math.ceil(sum(pieces_mm) / length_mm)
    for least in {0, *(piece for piece in pieces_mm if 2 * piece <= length_mm)}:
        alone = sum(piece > length_mm - least for piece in pieces_mm)
        large = [piece for piece in pieces_mm if length_mm < 2 * piece <= 2 * (length_mm - least)]
        small = sum(piece for piece in pieces_mm if least <= piece and 2 * piece <= length_mm)
        over = small - (len(large) * length_mm - sum(large))
        best = max(best, alone + len(large) + max(0, math.ceil(over / length_mm)))
    return best


def simple_cutting(pieces_mm: Sequence[int], stock: Sequence[Stock], *, saw_mm: int = 0) -> CutPlan:
    """First-fit decreasing, from rests first and then from each sold length alone: the cheapest of these."""
    tried = []
    sold = [each for each in stock if each.have is None]
    rests = sorted((each for each in stock if each.have is not None), key=lambda each: each.length_mm)
    for size in sold or rests[-1:]:
        cuts = _first_fit(pieces_mm, [rest for rest in rests for _ in range(rest.have or 0)], size, sold, saw_mm)
        if cuts is not None:
            tried.append(cuts)
    if not tried:
        raise NotPossible(message(None, "core.material.cut.too_little"))
    priced = _priced(stock)
    best = min(tried, key=lambda cuts: (sum(_cost(cut.stock, priced) for cut in cuts), len(cuts)))
    return _plan(best, priced, 0.0)


def _first_fit(
    pieces_mm: Sequence[int], rests: Sequence[Stock], size: Stock, sold: Sequence[Stock], saw_mm: int
) -> list[CutStock] | None:
    """Pieces into the first length they fit; a longer one is opened for a piece that is longer than ``size``."""
    opened: list[tuple[Stock, list[int]]] = [(rest, []) for rest in rests]
    for piece in sorted(pieces_mm, reverse=True):
        fitting = (cut for stock, cut in opened if _used([*cut, piece], saw_mm) <= stock.length_mm)
        into = next(fitting, None)
        if into is None:
            larger = [
                each for each in (size, *sorted(sold, key=lambda each: each.length_mm)) if each.length_mm >= piece
            ]
            if not larger or size not in sold:
                return None
            into = []
            opened.append((larger[0], into))
        into.append(piece)
    return [_cut(stock, cut, saw_mm) for stock, cut in opened if cut]


def _used(pieces: Sequence[int], saw_mm: int) -> int:
    return sum(pieces) + saw_mm * (len(pieces) - 1)


def _cut(stock: Stock, pieces: Iterable[int], saw_mm: int) -> CutStock:
    cut = tuple(sorted(pieces, reverse=True))
    return CutStock(stock, cut, stock.length_mm - _used(cut, saw_mm))


def _priced(stock: Sequence[Stock]) -> bool:
    """Whether plans are compared by money: every length that is sold has a price."""
    return all(each.price is not None for each in stock if each.have is None)


def _cost(stock: Stock, priced: bool) -> int:
    if stock.have is not None:
        return stock.price or 0
    return (stock.price or 0) if priced else stock.length_mm + _ANOTHER_MM


def _plan(cuts: Sequence[CutStock], priced: bool, gap: float) -> CutPlan:
    ordered = tuple(sorted(cuts, key=lambda cut: (-cut.stock.length_mm, cut.pieces_mm), reverse=False))
    return CutPlan(cuts=ordered, price=sum(_cost(cut.stock, True) for cut in cuts) if priced else None, gap=gap)


class _Search:
    """Exact search: how many of each piece are cut from each length that could be bought."""

    def __init__(self, pieces_mm: Sequence[int], stock: Sequence[Stock], saw_mm: int, simple: CutPlan):
        self._wanted = Counter(pieces_mm)
        self._saw, self._simple, self._priced = saw_mm, simple, _priced(stock)
        limit = sum(_cost(cut.stock, self._priced) for cut in simple.cuts)
        self._limit = limit
        self._lengths = [
            each
            for each in sorted(stock, key=lambda each: (-each.length_mm, each.price or 0))
            for _ in range(self._most(each, limit, len(pieces_mm)))
        ]

    def _most(self, stock: Stock, limit: int, pieces: int) -> int:
        """How many of a length a plan could open that is no dearer than the simple one."""
        cost = _cost(stock, self._priced)
        most = pieces if cost <= 0 else min(pieces, limit // cost)
        return most if stock.have is None else min(most, stock.have)

    def bounded(self) -> CutPlan:
        """The simple plan with what a cheaper one could save at most."""
        return self._with_gap(self._simple, self._floor())

    def best(self) -> CutPlan:
        """The plan; the simple one where the search finds none as good in the work it may do."""
        model = cp_model.CpModel()
        opened = [model.new_bool_var(f"open{n}") for n in range(len(self._lengths))]
        cuts = [self._cuts_of(model, number, opened[number]) for number in range(len(self._lengths))]
        for piece, wanted in self._wanted.items():
            model.add(sum(cut[piece] for cut in cuts if piece in cut) == wanted)
        rests = [self._rest(model, number, opened[number], cuts[number]) for number in range(len(self._lengths))]
        for one, other in zip(count(), range(1, len(self._lengths))):
            if one < other and self._lengths[one] == self._lengths[other]:
                # Of equal lengths the first is opened first, with the shorter rest: one order of many.
                model.add(opened[one] >= opened[other])
                model.add(rests[one] <= rests[other]).only_enforce_if(opened[other])
        cost = sum(_cost(each, self._priced) * on for each, on in zip(self._lengths, opened, strict=True))
        floor = self._floor()
        if self._limit == floor:
            return self._with_longest_rest(model, opened, cuts, rests, self._simple, floor)
        model.add(cost <= self._limit)
        model.add(cost >= floor)
        model.minimize(cost)
        solver, status = self._solved(model, _WORK)
        found = self._simple
        bound = max(solver.best_objective_bound, floor)
        if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            found = _plan(self._taken(solver, opened, cuts), self._priced, 0.0)
        model.clear_objective()  # type: ignore[no-untyped-call]
        return self._with_longest_rest(model, opened, cuts, rests, found, bound)

    def _floor(self) -> int:
        """The least that lengths cost which hold all pieces together, were they cut anywhere."""
        model = cp_model.CpModel()
        whole = sum((piece + self._saw) * many for piece, many in self._wanted.items())
        kinds = list(dict.fromkeys(self._lengths))
        numbers = [model.new_int_var(0, self._lengths.count(kind), "") for kind in kinds]
        model.add(sum((kind.length_mm + self._saw) * many for kind, many in zip(kinds, numbers, strict=True)) >= whole)
        cost = sum(_cost(kind, self._priced) * many for kind, many in zip(kinds, numbers, strict=True))
        model.minimize(cost)
        solver, status = self._solved(model, _WORK)
        least = math.ceil(solver.best_objective_bound - 1e-6) if status == cp_model.OPTIMAL else 0
        if len(kinds) == 1:
            pieces = [piece + self._saw for piece in self._wanted.elements()]
            few = lower_bound(pieces, kinds[0].length_mm + self._saw)
            least = max(least, few * _cost(kinds[0], self._priced))
        return least

    def _with_longest_rest(
        self, model: cp_model.CpModel, opened: Sequence[cp_model.IntVar], cuts: Sequence[dict[int, cp_model.IntVar]],
        rests: Sequence[cp_model.IntVar], found: CutPlan, bound: float,
    ) -> CutPlan:  # fmt: skip
        """Of plans that cost as much, the one with the longest single rest."""
        cost = sum(_cost(each, self._priced) * on for each, on in zip(self._lengths, opened, strict=True))
        model.add(cost == sum(_cost(cut.stock, self._priced) for cut in found.cuts))
        marks = [model.new_bool_var(f"mark{n}") for n in range(len(self._lengths))]
        longest = model.new_int_var(0, max(each.length_mm for each in self._lengths), "longest")
        model.add_exactly_one(marks)
        for mark, on, rest in zip(marks, opened, rests, strict=True):
            model.add_implication(mark, on)
            model.add(longest <= rest).only_enforce_if(mark)
        model.add(longest >= found.rests_mm[0])
        model.maximize(longest)
        solver, status = self._solved(model, _WORK_ON_REST)
        if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            found = _plan(self._taken(solver, opened, cuts), self._priced, 0.0)
        return self._with_gap(found, bound)

    def _cuts_of(self, model: cp_model.CpModel, number: int, on: cp_model.IntVar) -> dict[int, cp_model.IntVar]:
        """How many of each piece come from a length: none where it is not bought."""
        length = self._lengths[number].length_mm
        cut = {
            piece: model.new_int_var(0, min(wanted, length // piece), f"cut{number}_{piece}")
            for piece, wanted in self._wanted.items()
            if piece <= length
        }
        used = sum((piece + self._saw) * many for piece, many in cut.items())
        model.add(used <= (length + self._saw) * on)
        return cut

    def _rest(
        self, model: cp_model.CpModel, number: int, on: cp_model.IntVar, cut: dict[int, cp_model.IntVar]
    ) -> cp_model.IntVar:
        length = self._lengths[number].length_mm
        rest = model.new_int_var(0, length + self._saw, f"rest{number}")
        used = sum((piece + self._saw) * many for piece, many in cut.items())
        model.add(rest == (length + self._saw) * on - used)
        return rest

    def _solved(self, model: cp_model.CpModel, work: float) -> tuple[cp_model.CpSolver, int]:
        solver = cp_model.CpSolver()
        solver.parameters.num_search_workers = 1
        solver.parameters.random_seed = 1
        solver.parameters.max_deterministic_time = work
        return solver, int(solver.solve(model))

    def _taken(
        self, solver: cp_model.CpSolver, opened: Sequence[cp_model.IntVar], cuts: Sequence[dict[int, cp_model.IntVar]]
    ) -> list[CutStock]:
        return [
            _cut(
                self._lengths[number],
                (piece for piece, many in cuts[number].items() for _ in range(solver.value(many))),
                self._saw,
            )
            for number, on in enumerate(opened)
            if solver.value(on) and any(solver.value(many) for many in cuts[number].values())
        ]

    def _with_gap(self, plan: CutPlan, bound: float) -> CutPlan:
        cost = sum(_cost(cut.stock, self._priced) for cut in plan.cuts)
        gap = 0.0 if cost <= 0 else max(0.0, round((cost - math.ceil(bound - 1e-6)) / cost, 4))
        return CutPlan(cuts=plan.cuts, price=plan.price, gap=gap)
