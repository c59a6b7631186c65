"""The boards of each standard as they are typed, sound, and which defects each may have."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

from vivid_lattice.core.actions.enter_line import enter_and_design, enter_line
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.job import Circuit, Job, SharedRcd, with_parts
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.defects import Defect
from vivid_lattice.core.training.boards import PARTS, TrainingBoard
from vivid_lattice.core.training.shown import middle_of, shown_by
from vivid_lattice.core.training.training_rules import BoardLines, board_lines

#: The loop ahead of a board where the standard assumes none [Ω].
_ZE_OHM = 0.25
#: A sound electrode, below every limit [Ω]; invented.
_ELECTRODE_OHM = 60.0
#: The rating of a shared residual-current device [A], and what it opens at [mA].
_SHARED_A, _RATED_MA = 63.0, 30.0
#: Scopes of defects that a circuit of the board has.
_SCOPES = ("circuit", "rcd", "installation")


@lru_cache(maxsize=64)
def sound_board(standard: str, which: int) -> TrainingBoard:
    """One of a standard's boards with nothing wrong."""
    job = _sound_job(standard, which)
    return TrainingBoard(standard=standard, level=1, number=which, job=job, hidden=(), which=which)


def _sound_job(standard: str, which: int) -> Job:
    """One of a standard's boards as it is typed, designed."""
    typed = board_lines(standard)[which]
    rules = rule_set(standard)
    job = begin("Training board", rules, typed.system)  # type: ignore[arg-type]
    if typed.supply:
        job = set_supply(job, typed.supply).job
    job = _behind_shared(job, typed) if typed.rcds else _with_own(job, typed)
    known = {"ze_ohm": _ELECTRODE_OHM if typed.system == "TT" else job.supply.ze_ohm or _ZE_OHM}
    return job.model_copy(update={"supply": job.supply.model_copy(update=known)})


def _with_own(job: Job, typed: BoardLines) -> Job:
    for line in typed.lines:
        job = enter_and_design(job, line, "main").job
    return job


def _behind_shared(job: Job, typed: BoardLines) -> Job:
    """The lines behind shared residual-current devices, each of the rating and the type that is usual."""
    word = rule_set(job.job.rules).rcd_word
    shared = tuple(
        SharedRcd(id=f"r{n}", name=f"{word} {n}", rating_a=_SHARED_A, rcd=Rcd(idn_ma=_RATED_MA, type="A"))
        for n in range(1, len(typed.rcds) + 1)
    )
    job = with_parts(job, (), (job.boards[0].model_copy(update={"shared_rcds": shared}),))
    for line in typed.lines:
        job = enter_line(job, line, "main").job
    board = job.boards[0]
    of = {line: shared[n].id for n, lines in enumerate(typed.rcds) for line in lines}
    ways = tuple(way.model_copy(update={"rcd": of.get(n)}) for n, way in enumerate(board.ways, start=1))
    return design(with_parts(job, (), (board.model_copy(update={"ways": ways}),))).job


def possible_places(board: TrainingBoard) -> Mapping[str, tuple[str, ...]]:
    """The defects that a board may have, with the circuits where a reading of it shows them; '' of the whole installation."""
    return _places_on(board.standard, board.which)


@lru_cache(maxsize=64)
def _places_on(standard: str, which: int) -> Mapping[str, tuple[str, ...]]:
    sound = sound_board(standard, which)
    found: dict[str, list[str]] = {}
    for defect in sound.known.values():
        if defect.scope not in _SCOPES:
            continue
        circuits = [
            each
            for each in sound.job.circuits
            if each.kind != "distribution" and each.source is None and _may_have(sound, defect, each)
        ]
        if circuits:
            found[defect.id] = [""] if defect.scope == "installation" else [each.id for each in circuits]
    for part in PARTS:
        known = [each for each in sound.known.values() if each.scope == part and _is_read(sound, each)]
        # Of several that read the same, the one that is met most: what tells them apart is seen on the spot.
        found |= {each.id: [""] for each in sorted(known, key=lambda each: -each.weight)[:1]}
    return {id_: tuple(where) for id_, where in found.items()}


def _is_read(sound: TrainingBoard, defect: Defect) -> bool:
    """Whether the plan has a reading of the part of an installation that a defect is in."""
    return any(test.subject.kind == defect.scope and test.test in defect.effects for test in sound.plan.tests)


def _may_have(sound: TrainingBoard, defect: Defect, circuit: Circuit) -> bool:
    model = sound.models[circuit.id]
    ring = "ring" if model.ring else "radial"
    if defect.circuits not in ("any", ring) or not defect.needs <= model.facts:
        return False
    return bool(shown_by(sound, defect, circuit.id, middle_of(defect)))
