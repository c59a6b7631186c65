"""Boards with defects put in, read by a tester, and diagnosed: how often the true cause is told, and how often one is told that is none."""

from __future__ import annotations

import random
from collections.abc import Iterator, Sequence
from copy import deepcopy
from dataclasses import dataclass, replace

from tests.defects_put_in import ANY, RADIAL, RING, class_of, reads_like_another
from tests.faulty_wiring import Wiring
from tests.trial_boards import Place, places, wiring_of
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Testing
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.reading_table import read_readings

#: So many tests are done beyond the usual ones before it counts as not told.
FURTHER = 5
#: A defect is tried in so many circuits until a reading shows it.
_TRIED = 60
_DEFECTS = {**ANY, **RADIAL, **RING}


@dataclass(frozen=True, slots=True)
class Trial:
    """A board that was read. ``true``: the defects put in, none on a sound one; ``told``: explanations after the usual readings, the likeliest
    first; ``certain``: what was told as certain in the end; ``further``: tests done until then, None if it never was; ``rows``: what was typed."""

    standard: str
    true: frozenset[str]
    told: tuple[frozenset[str], ...]
    certain: tuple[frozenset[str], ...]
    further: int | None
    rows: tuple[str, ...]

    @property
    def is_right(self) -> bool:
        """Whether what is told as certain is, or holds, the true cause."""
        return any(self.is_true(told) for told in self.certain)

    def is_true(self, told: frozenset[str]) -> bool:
        """Whether an explanation is the true one, but for what readings do not tell apart."""
        return len(told) == len(self.true) and all(any(one in class_of(defect) for one in told) for defect in self.true)


def trials(count: int, seed: int) -> Iterator[Trial]:
    """Random boards: a fifth sound, three in twenty with two defects, the others with one. Each defect of the list has its turn before one
    comes again."""
    rng = random.Random(seed)
    turns = in_turn(rng)
    for number in range(count):
        wanted = 0 if number % 20 < 4 else 2 if number % 20 < 7 else 1
        if wanted == 0:
            place = rng.choice(places())
            yield _trial(place, wiring_of(place, rng), [], rng)
        else:
            yield _trial(*next(put_in for name in turns if (put_in := put_into_some(name, wanted, rng))), rng)


def in_turn(rng: random.Random) -> Iterator[str]:
    """Every defect that is put in, in a random order, again and again."""
    while True:
        yield from rng.sample(sorted(_DEFECTS), len(_DEFECTS))


def put_into_some(name: str, wanted: int, rng: random.Random) -> tuple[Place, Wiring, list[str]] | None:
    """A circuit with a defect, alone or with another one, that some reading shows; None where none is found."""
    open_to = [place for place in places() if name in place.may_have]
    for _ in range(_TRIED):
        place = rng.choice(open_to)
        others = rng.sample(sorted(place.may_have - {name}), wanted - 1)
        if any(reads_like_another(name, other) for other in others):
            continue
        made = _put_in(place, wiring_of(place, rng), [name, *others])
        if made is not None:
            return place, made, [name, *others]
    return None


def _put_in(place: Place, sound: Wiring, names: Sequence[str]) -> Wiring | None:
    """A wiring with defects, each of which changes a reading that is taken, beside the other too: what no reading shows cannot be told."""
    kinds = (*place.kinds, *dict.fromkeys(kind for kind, _ in place.parts))
    made, without = deepcopy(sound), [deepcopy(sound) for _ in names]
    for name in names:
        state = sound.rng.getstate()
        for other, wiring in zip([*names, ""], [*without, made], strict=True):
            wiring.rng.setstate(state)
            if other != name:
                _DEFECTS[name](wiring)
    return made if all(made.differs_from(wiring, kinds) for wiring in without) else None


def _trial(place: Place, wiring: Wiring, true: Sequence[str], rng: random.Random) -> Trial:
    rows = _beside(place, wiring, rng)
    rows += [f"{kind},{subject},{text}" for kind, subject in place.parts if (text := wiring.reading(kind)) is not None]
    rows += [f"{kind},{place.circuit.id},{text}" for kind in place.kinds if (text := wiring.reading(kind)) is not None]
    found = _diagnosed(place.job, rows, place.circuit.id)
    told = tuple(_names(each.ids) for each in found.possible) if found else ()
    further = 0
    certain: tuple[frozenset[str], ...] = ()
    while found is not None:
        if found.certain:
            certain = tuple(_names(each.ids) for each in found.possible)
            break
        reading = found.next_test.reading if found.next_test is not None else None
        text = wiring.reading(reading.test) if reading is not None and further < FURTHER else None
        if reading is None or text is None:
            break
        further += 1
        rows.append(f"{reading.test},{reading.subject.kind}:{reading.subject.id},{text}")
        found = _diagnosed(place.job, rows, place.circuit.id)
    return Trial(place.standard, frozenset(true), told, certain, further if certain else None, tuple(rows))


def _beside(place: Place, wiring: Wiring, rng: random.Random) -> list[str]:
    """What is read of another circuit of the board, which is sound but for what the supply and the tester do to it."""
    board = place.network.tree.place(place.circuit).board
    same_board = [other for other in places() if other.job is place.job and other.circuit is not place.circuit]
    radials = [
        other
        for other in same_board
        if other.circuit.kind != "ring" and place.network.tree.place(other.circuit).board is board
    ]
    if not radials:
        return []
    other = rng.choice(radials)
    beside = replace(
        wiring_of(other, rng), ze_ohm=wiring.ze_ohm, zln0_ohm=wiring.zln0_ohm, lead_ohm=wiring.lead_ohm,
        reversed_at_board=wiring.reversed_at_board,
    )  # fmt: skip
    return [f"{kind},{other.circuit.id},{beside.reading(kind)}" for kind in ("r1r2", "zs") if kind in other.kinds]


def _names(ids: tuple[str, ...]) -> frozenset[str]:
    return frozenset(each.removeprefix("common.defect.") for each in ids)


def _diagnosed(job: Job, rows: list[str], circuit: str) -> Diagnosis | None:
    rules = rule_set(job.job.rules)
    read = read_readings(Installation.of(job, rules), "test,subject,value\n" + "\n".join(rows))
    assert not read.problems, read.problems
    made = job.model_copy(update={"testing": Testing(temperature_c=20.0, readings=read.readings)})
    network = Installation.of(made, rules)
    found = diagnosed(network, judged(network))
    of_parts = ("bond:", "spd:")
    return next((each for each in found if each.circuit in (circuit, "") or each.circuit.startswith(of_parts)), None)
