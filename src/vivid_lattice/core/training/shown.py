"""What of a hidden defect shows on a board: which readings it changes, by how much, and where it may be named."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.testing.diagnosis.defects import Defect
from vivid_lattice.core.testing.diagnosis.prediction import Predicted, predicted
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.training.boards import HiddenDefect, TrainingBoard, tells_of

#: A defect is shown by a reading that it changes by so many times its uncertainty.
_SHOWN_SIGMA = 3.0
#: A range whose ends are so many times apart is of several orders of size.
_WIDE = 30.0


def sizes_of(defect: Defect) -> tuple[dict[str, float], ...]:
    """Its unknowns at a quarter, the middle and three quarters of their ranges; one where it has none."""
    shares = (0.25, 0.5, 0.75) if defect.parameters else (0.5,)
    return tuple({name: _at(low, high, share) for name, (low, high) in defect.parameters.items()} for share in shares)


def _at(low: float, high: float, share: float) -> float:
    """A share of a range: by ratio where it is of several orders of size."""
    return low * (high / low) ** share if 0 < low * _WIDE < high else low + (high - low) * share


def middle_of(defect: Defect) -> dict[str, float]:
    """Its unknowns in the middle of their ranges: by their ratio where the range is of several orders of size."""
    return {name: _at(low, high, 0.5) for name, (low, high) in defect.parameters.items()}


def _predictions(
    board: TrainingBoard, defect: Defect, circuit: str, parameters: Mapping[str, float]
) -> Iterator[tuple[ReadingKind, Predicted, Predicted]]:
    """The kinds of reading of a board that tell of a defect in a circuit, with it and without."""
    model = board.models[circuit]
    unknowns = {defect.unknown(name): value for name, value in parameters.items()}
    seen = set()
    for test in board.tests:
        if test.test not in seen and tells_of(board, test.subject, defect, circuit):
            seen.add(test.test)
            yield test.test, predicted(model, [defect], unknowns, test.test), predicted(model, [], {}, test.test)


def is_as_stated(board: TrainingBoard, defect: Defect, circuit: str, parameters: Mapping[str, float]) -> bool:
    """Whether every reading goes up or down as the catalogue says: not so where it is read at a place that has less to begin with."""
    return not any(
        made.value is not None and sound.value is not None
        and ((made.change == "up" and made.value < sound.value) or (made.change == "down" and made.value > sound.value))
        for _, made, sound in _predictions(board, defect, circuit, parameters)
    )  # fmt: skip


def shown_by(
    board: TrainingBoard, defect: Defect, circuit: str, parameters: Mapping[str, float]
) -> tuple[ReadingKind, ...]:
    """The kinds of reading of a board that a defect in a circuit changes by more than their uncertainty."""
    found = []
    for kind, made, sound in _predictions(board, defect, circuit, parameters):
        effect = defect.effects.get(kind)
        if effect is None or effect.change in ("same", "may trip", "unstable"):
            continue
        if made.value is None or sound.value is None or not TRAITS[kind].is_figure:
            if made.change != sound.change:
                found.append(kind)
            continue
        own = board.network.rules.testing.uncertainty(kind)
        sigma = own.pct / 100 * max(made.value, sound.value) + own.absolute if own is not None else 0.0
        if abs(made.value - sound.value) > _SHOWN_SIGMA * sigma:
            found.append(kind)
    return tuple(found)


def where_of(board: TrainingBoard, circuit: str) -> tuple[str, ...]:
    """The circuits that a hidden defect is in: its own, all of the installation's."""
    return (circuit,) if circuit else tuple(each.id for each in board.job.circuits)


def shown_in(
    board: TrainingBoard, defect: Defect, circuit: str, parameters: Mapping[str, float]
) -> frozenset[ReadingKind]:
    """The same of the circuits where a defect is; '' of the whole installation."""
    return frozenset(kind for each in where_of(board, circuit) for kind in shown_by(board, defect, each, parameters))


def places_accepted(board: TrainingBoard, hidden: HiddenDefect) -> frozenset[str]:
    """The places where the name of a hidden defect counts: its circuit; every circuit of its group where only readings of their shared device
    show it."""
    group = board.behind_the_same(hidden.circuit)
    defect = board.known[hidden.id]
    shown = shown_in(board, defect, hidden.circuit, hidden.parameters)
    alone = any(test.test in shown and test.subject.id == hidden.circuit for test in board.plan.tests)
    return frozenset((hidden.circuit,) if alone and defect.scope != "rcd" else group)
