"""Boards with hidden defects: from a list, or drawn from a number; the same number gives the same board."""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from functools import lru_cache

from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.messages import message
from vivid_lattice.core.testing.diagnosis.defects import Defect
from vivid_lattice.core.training.boards import HiddenDefect, TrainingBoard
from vivid_lattice.core.training.shown import is_as_stated, middle_of, shown_in, where_of
from vivid_lattice.core.training.sound_boards import possible_places, sound_board
from vivid_lattice.core.training.training_rules import Level, board_lines, levels

#: What plainly shows that something is wrong.
_PLAIN = frozenset({"open", "zero", "wrong", "dead", "live", "fails", "no trip"})


@lru_cache(maxsize=64)
def training_board(standard: str, level: int, number: int) -> TrainingBoard:
    """The board of a number at a level of a standard.

    Raises  NotPossible where there is no such level
    """
    of = _level(level)
    rng = random.Random(f"{standard} {level} {number}")
    sound = sound_board(standard, rng.randrange(len(board_lines(standard))))
    wanted = rng.randint(of.defects_low, of.defects_high)
    hidden = _drawn(sound, wanted, rng, plain=level == 1)
    return sound.with_hidden(*hidden, level=level, number=number)


def board_with(standard: str, chosen: Sequence[str], number: int = 1, level: int = 1) -> TrainingBoard:
    """A board with defects of a list, by their ids; where each is follows from the number.

    Raises  NotPossible where a defect is not met in the standard, or no circuit of its boards can have it
    """
    rng = random.Random(f"{standard} {' '.join(chosen)} {number}")
    hidden: list[HiddenDefect] = []
    for which in rng.sample(range(len(board_lines(standard))), len(board_lines(standard))):
        sound = sound_board(standard, which)
        places = possible_places(sound)
        if all(id_ in places for id_ in chosen):
            for id_ in chosen:
                taken = {each.circuit for each in hidden}
                free = [each for each in places[id_] if each not in taken] or list(places[id_])
                hidden.append(_put_in(sound, sound.known[id_], rng.choice(free), rng))
            return sound.with_hidden(*hidden, level=level, number=number)
    raise NotPossible(message(None, "core.training.no_place", defects=", ".join(chosen)))


def _level(level: int) -> Level:
    found = next((each for each in levels() if each.level == level), None)
    if found is None:
        known = ", ".join(str(each.level) for each in levels())
        raise NotPossible(message(None, "core.training.no_level", level=str(level), known=known))
    return found


def _drawn(sound: TrainingBoard, wanted: int, rng: random.Random, *, plain: bool) -> tuple[HiddenDefect, ...]:
    """Defects by how often they are met, each in a circuit of its own."""
    places = possible_places(sound)
    if plain:
        places = {id_: where for id_, where in places.items() if _is_plain(sound.known[id_])} or places
    if wanted > 1:
        # One of the whole installation would cover those of the circuits.
        places = {id_: where for id_, where in places.items() if where != ("",)}
    hidden: list[HiddenDefect] = []
    for _ in range(wanted):
        taken = {each.circuit for each in hidden}
        open_to = {
            id_: free for id_, where in places.items() if (free := [each for each in where if each not in taken])
        }
        if not open_to:
            break
        names = sorted(open_to)
        id_ = rng.choices(names, [sound.known[name].weight for name in names])[0]
        hidden.append(_put_in(sound, sound.known[id_], rng.choice(open_to[id_]), rng))
    return tuple(hidden)


def _is_plain(defect: Defect) -> bool:
    return defect.scope == "circuit" and any(effect.change in _PLAIN for effect in defect.effects.values())


def _put_in(sound: TrainingBoard, defect: Defect, circuit: str, rng: random.Random) -> HiddenDefect:
    """The defect with sizes of its unknowns that a reading shows: drawn over their range, else the middle of it."""
    for _ in range(40):
        sizes = {name: round(_drawn_from(low, high, rng), 4) for name, (low, high) in defect.parameters.items()}
        if shown_in(sound, defect, circuit, sizes) and all(
            is_as_stated(sound, defect, each, sizes) for each in where_of(sound, circuit)
        ):
            return HiddenDefect(defect.id, circuit, sizes)
    return HiddenDefect(defect.id, circuit, middle_of(defect))


def _drawn_from(low: float, high: float, rng: random.Random) -> float:
    """A size of a range, each order of size as often as the others."""
    return math.exp(rng.uniform(math.log(low), math.log(high))) if low > 0 else rng.uniform(low, high)
