"""What a tester reads on a board: the value of the engine with the hidden defects in it, and what its display makes of that."""

from __future__ import annotations

import random
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.testing.diagnosis.defects import Defect
from vivid_lattice.core.testing.diagnosis.prediction import WRONG, Predicted, predicted
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.training.boards import HiddenDefect, TrainingBoard, all_at_once, circuits_of
from vivid_lattice.core.training.shown import middle_of, shown_by

#: Leads that are not nulled add so much to a resistance [Ω]; a sound residual-current device opens in so many milliseconds.
LEADS_OHM = 0.14
_SOUND_MS, _LATE_MS, _EARLY_MS = 24.0, 340.0, 4.0
#: A device of which the standard has no limits [mA].
_RATED_MA = 30.0
#: Insulation beyond this reads over the range [MΩ].
_RANGE_MOHM = 199.0
#: Looked at or tried, and the defect is seen.
_BY_SIGHT: frozenset[ReadingKind] = frozenset({"insp", "func", "ident"})
#: Insulation is no less than this [MΩ].
LEAST_MOHM = 1e-3
#: A short conductor [Ω], and the voltage with a load on as a share of the nominal one.
_SHORT_OHM, _UNDER_LOAD = 0.04, 0.98
#: A repeat of a reading differs by so much of its uncertainty.
_REPEATS = 0.15
#: What is read where the catalogue has no formula: a share of the nominal voltage, a current [A]; invented, of a size that is met.
_USUAL_V: Mapping[ReadingKind, float] = {"u_me": 0.6, "u_ne": 0.1, "u_le": 0.6, "u_ln": 0.8, "u_load": 0.88}
_USUAL_A: Mapping[ReadingKind, float] = {"i_res": 0.4, "i_pe": 1.5}
#: Pipes in the ground beside the earthing conductor [Ω]; invented.
_OTHER_PATHS = {"Zt": 0.5}
#: What a loop at the origin is read with while the earthing conductor is on.
PARALLEL_PATHS = "common.defect.ze-with-parallel-paths"


@dataclass(frozen=True, slots=True)
class Answer:
    """A reading as the display shows it, and as it is typed into a job. ``wrong``: of what is seen, not read."""

    text: str
    wrong: bool


def answer(
    board: TrainingBoard,
    kind: ReadingKind,
    subject: ReadingSubject,
    *,
    nulled: bool = True,
    repeat: int = 0,
    earth_on: bool = False,
) -> Answer:
    """A reading of a board. The same test twice differs by its repeatability alone.

    nulled    the leads were nulled
    repeat    how often it was read before
    earth_on  the earthing conductor is on: a loop at the origin is read with every other path to earth
    """
    if all_at_once(kind, subject):
        each = [answer(board, kind, ReadingSubject(kind="circuit", id=of)) for of in circuits_of(board, subject)]
        return Answer(in_parallel([one.text for one in each]), False)
    made = engine(board, kind, subject, earth_on=earth_on)
    if not TRAITS[kind].is_figure:
        wrong = made.change in WRONG
        return Answer("wrong" if wrong else "ok", wrong)
    return Answer(_shown(board, kind, subject, made, nulled=nulled, repeat=repeat), False)


def engine(board: TrainingBoard, kind: ReadingKind, subject: ReadingSubject, *, earth_on: bool = False) -> Predicted:
    """What the engine makes of a reading with the board's defects in it: of the circuit, of the worst of those behind a residual-current
    device, of the supply by the defects of the whole installation, and with other paths to earth while its own is on."""
    found = [_made(board, kind, circuit, board.defects_of(circuit)) for circuit in circuits_of(board, subject)]
    if not found:
        paths = board.known.get(PARALLEL_PATHS) if earth_on and kind == "ze" else None
        also = () if paths is None else ((paths, HiddenDefect(paths.id, "", middle_of(paths) | _OTHER_PATHS)),)
        return _made(board, kind, board.job.circuits[0].id, (*board.defects_of(""), *also))
    return next((each for each in found if each.change != "same"), found[0])


def _made(
    board: TrainingBoard, kind: ReadingKind, circuit: str, inside: Sequence[tuple[Defect, HiddenDefect]]
) -> Predicted:
    unknowns = {defect.unknown(name): value for defect, hidden in inside for name, value in hidden.parameters.items()}
    return predicted(board.models[circuit], [defect for defect, _ in inside], unknowns, kind)


def _shown(
    board: TrainingBoard, kind: ReadingKind, subject: ReadingSubject, made: Predicted, *, nulled: bool, repeat: int
) -> str:
    if kind.startswith("rcd_"):
        return _of_rcd(board, kind, made)
    if made.change == "open":
        return "OL"
    value = made.value
    if kind.startswith("ir_"):
        value = (
            0.0 if made.change == "zero" else value if value is not None else (0.3 if made.change == "down" else None)
        )
        return f">{_RANGE_MOHM:g}" if value is None or value > _RANGE_MOHM else f"{value:.2f}"
    if value is None and made.change == "same":
        value = _sound(board, kind)
    if value is None and made.change not in ("same", "open", "zero", "dead"):
        share, amps = _USUAL_V.get(kind), _USUAL_A.get(kind)
        value = amps if share is None else share * board.job.supply.nominal_v
    if value is None:
        return "OL" if made.change in ("up", "unstable") else "0"
    own = board.network.rules.testing.uncertainty(kind)
    sigma = own.pct / 100 * value + own.absolute if own is not None else 0.0
    rng = random.Random(f"{board.standard} {board.number} {kind} {subject.id} {repeat}")
    if made.change not in ("zero", "dead"):
        value += rng.uniform(-1, 1) * _REPEATS * sigma
    if TRAITS[kind].unit == "Ω" and not TRAITS[kind].live and not nulled:
        value += LEADS_OHM
    return f"{max(value, 0.0):.{_places(TRAITS[kind].unit, value)}f}"


def _places(unit: str, value: float) -> int:
    """How many places a display has: currents in milliamperes."""
    if unit == "Ω":
        return 2
    if unit == "A" and value < 1:
        return 3
    return 0 if unit in ("V", "A", "ms") and value >= 10 else 1


def _ramp_limits(board: TrainingBoard) -> tuple[float, float]:
    """Between which currents a sound device trips [mA]: its limits of the standard, else half of its rating and all of it."""
    for each in board.plan.tests:
        if each.test == "rcd_ramp" and each.expected.most is not None:
            return each.expected.least or each.expected.most / 2, each.expected.most
    return _RATED_MA / 2, _RATED_MA


def _sound(board: TrainingBoard, kind: ReadingKind) -> float | None:
    """A sound reading that no formula of a circuit gives: short earthing and bonding conductors, the voltage under load."""
    if kind == "u_load":
        return board.job.supply.nominal_v * _UNDER_LOAD
    return _SHORT_OHM if kind in ("r_me", "r_bond", "r2") else None


def _of_rcd(board: TrainingBoard, kind: ReadingKind, made: Predicted) -> str:
    if made.change in ("no trip", "fails"):
        return "did not trip"
    if kind == "rcd_ramp":
        low, high = _ramp_limits(board)
        share = {"up": 1.15 * high, "late": 1.15 * high, "down": 0.9 * low, "early": 0.7 * low}
        return f"{share.get(made.change, (low + high) / 2):.1f}"
    return f"{_LATE_MS if made.change == 'late' else _EARLY_MS if made.change == 'early' else _SOUND_MS:g}"


def in_parallel(texts: Sequence[str]) -> str:
    """The insulation of several circuits in parallel [MΩ], from what each shows."""
    total = sum(1 / max(float(text.lstrip(">")), LEAST_MOHM) for text in texts)
    over = all(text.startswith(">") for text in texts)
    return f">{1 / total:.0f}" if over else f"{max(1 / total, 0.0):.2f}"


@dataclass(frozen=True, slots=True)
class Sight:
    """A hidden defect that is seen: where, and what."""

    defect: Defect
    circuit: str


def seen_at(board: TrainingBoard, kind: ReadingKind, subject: ReadingSubject) -> tuple[Sight, ...]:
    """The hidden defects that are seen where something is inspected with its covers off, or tried circuit by circuit: what does not work
    is seen; which device switches what tells a defect where no reading does."""
    return tuple(
        Sight(defect, circuit)
        for circuit in circuits_of(board, subject)
        for defect, hidden in board.defects_of(circuit)
        if kind in _BY_SIGHT and _is_changed(defect, kind)
        if kind != "ident" or shown_by(board, defect, circuit, hidden.parameters) == ("ident",)
    )


def _is_changed(defect: Defect, kind: ReadingKind) -> bool:
    effect = defect.effects.get(kind)
    return effect is not None and effect.change not in ("same", "may trip")
