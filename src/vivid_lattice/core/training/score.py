"""The score of an attempt: safety, finding, evidence, economy, order, words."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.training.acts import Name
from vivid_lattice.core.training.bench import Bench
from vivid_lattice.core.training.boards import HiddenDefect, tells_of
from vivid_lattice.core.training.shown import places_accepted, shown_in
from vivid_lattice.core.training.training_rules import PASS_FROM, PASS_SAFETY, TAKES, points

#: A defect named in the wrong place has half of its share; a false accusation takes so many points.
_WRONG_PLACE, _FALSE = 0.5, 5
#: Up to so many times the fewest tests have all points of economy, up to so many half.
_ALL, _HALF = 1.5, 3.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Score:
    """Points by part, of 100. ``tests``: that were taken; ``least``: the fewest that show every defect."""

    safety: float
    finding: float
    evidence: float
    economy: float
    order: float
    words: float
    tests: int
    least: int

    @property
    def total(self) -> float:
        """All points."""
        return round(self.safety + self.finding + self.evidence + self.economy + self.order + self.words, 1)

    @property
    def passed(self) -> bool:
        """Whether it is a pass."""
        return self.total >= PASS_FROM and self.safety >= PASS_SAFETY


def score_of(bench: Bench) -> Score:
    """The score of a bench as it was left. What is named without a reading that shows it is a guess: it has no points of evidence, economy
    and order, and does not pass.

    Source  bench.trainer.rubric, common practice
    """
    most = points()
    hidden = bench.board.hidden
    right = [each for each in hidden if any(names(bench, name, each) for name in bench.named)]
    least = least_tests(bench)
    shown = _share(sum(_evidence(bench, each) for each in right), len(hidden))
    return Score(
        safety=max(0.0, most["safety"] - sum(TAKES[each.severity] for each in bench.stopped)),
        finding=_finding(bench, most["finding"]),
        evidence=most["evidence"] * shown,
        economy=_economy(bench, len(right), least, most["economy"]) * shown,
        order=_order(bench, most["order"]) * shown,
        words=most["words"] * _share(sum(_words(bench, each) for each in right), len(hidden)),
        tests=len(bench.done),
        least=least,
    )


def _share(part: float, of: int) -> float:
    """A share of what is hidden; on a sound board all of it."""
    return round(part / of, 4) if of else 1.0


def names(bench: Bench, name: Name, hidden: HiddenDefect) -> bool:
    """Whether a hidden defect was named where it is, as far as readings tell."""
    return name.defect == hidden.id and name.circuit in places_accepted(bench.board, hidden)


def _finding(bench: Bench, most: int) -> float:
    """Each defect named in its place its share, in a wrong place half of it; each false accusation takes points."""
    hidden = bench.board.hidden
    found = 0.0
    for each in hidden:
        if any(names(bench, name, each) for name in bench.named):
            found += 1
        elif any(name.defect == each.id for name in bench.named):
            found += _WRONG_PLACE
    false = {(name.defect, name.circuit) for name in bench.named if all(name.defect != each.id for each in hidden)}
    return max(0.0, round(most * _share(found, len(hidden)) - _FALSE * len(false), 2))


def evidence_kinds(bench: Bench, hidden: HiddenDefect) -> frozenset[ReadingKind]:
    """The kinds of reading that show a hidden defect."""
    return shown_in(bench.board, bench.board.known[hidden.id], hidden.circuit, hidden.parameters)


def _evidence(bench: Bench, hidden: HiddenDefect) -> float:
    """Whether a reading that the defect changes was taken, where it shows."""
    board, kinds = bench.board, evidence_kinds(bench, hidden)
    where = [hidden.circuit] if hidden.circuit else [each.id for each in board.job.circuits]
    return float(
        any(
            each.prepared
            and each.measure.test in kinds
            and any(tells_of(board, each.measure.subject, board.known[hidden.id], of) for of in where)
            for each in bench.taken
        )
    )


def _words(bench: Bench, hidden: HiddenDefect) -> float:
    """Whether the danger of a defect was told."""
    danger = bench.board.known[hidden.id].danger
    return float(any(names(bench, name, hidden) and name.danger == danger for name in bench.named))


def least_tests(bench: Bench) -> int:
    """The fewest tests that could show every defect: one each where one does; on a sound board one a circuit."""
    return max(1, len(bench.board.hidden) or len(bench.board.job.circuits))


def _economy(bench: Bench, right: int, least: int, most: int) -> float:
    """Tests taken against the fewest, with the usual tests of the circuits of the defects as what is usual."""
    if right < len(bench.board.hidden):
        return 0.0
    usual = least + sum(len(evidence_kinds(bench, each)) for each in bench.board.hidden) + 4
    taken = len(bench.done) + 2 * bench.hints
    return float(most if taken <= _ALL * usual else most / 2 if taken <= _HALF * usual else 0.0)


def _order(bench: Bench, most: int) -> float:
    """Dead before live, circuit by circuit, and the leads nulled before the first resistance. What is read in a doubt may come when it does."""
    planned = {(each.test, each.subject) for each in bench.board.plan.tests}
    turned = 0
    for circuit in {each.subject.id for each in bench.done}:
        live_seen = False
        for each in (one for one in bench.done if one.subject.id == circuit and (one.test, one.subject) in planned):
            live_seen = live_seen or TRAITS[each.test].live
            turned += live_seen and not TRAITS[each.test].live
    share = 1.0 if not turned else 0.5 if turned <= len(bench.done) / 4 else 0.0
    return most * share * (1.0 if bench.nulled or not _resistances(bench) else 0.5)


def _resistances(bench: Bench) -> bool:
    return any(TRAITS[each.test].unit == "Ω" and not TRAITS[each.test].live for each in bench.done)
