"""Which line of a calculation of voltage drop or loop impedance is wrong? One line was worked out as it often is by mistake; all others follow
from it and from what is given."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass

from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown
from vivid_lattice.core.training.exercises.cable_size import plain_cable
from vivid_lattice.core.training.exercises.exercise import Exercise

#: A line that is off by less than this share follows from the others: figures are shown to three.
_SAME = 0.006
#: Final circuits have no larger conductors [mm²].
_LARGEST_MM2 = 16.0


@dataclass(frozen=True, slots=True)
class Line:
    """A line of a calculation: its name, how it follows from what is above it, and how it is got wrong."""

    name: str
    right: Callable[[Mapping[str, float]], float]
    wrong: Callable[[Mapping[str, float]], float]


#: Voltage drop of a single-phase circuit: I = P/U, R of both ways, U = I·R, in percent of the nominal voltage.
_DROP: Sequence[Line] = (
    Line("current", lambda at: at["power"] / at["volts"], lambda at: at["power"] / (at["volts"] * 3**0.5)),
    Line("both_ways", lambda at: 2 * at["per_m"] * at["length"] / 1000, lambda at: at["per_m"] * at["length"] / 1000),
    Line("drop", lambda at: at["current"] * at["both_ways"], lambda at: at["both_ways"] * at["volts"] / 10),
    Line("percent", lambda at: 100 * at["drop"] / at["volts"], lambda at: 100 * at["drop"] / (at["volts"] * 3**0.5)),
)
#: Loop at the end of a circuit, warm: R1+R2 cold, warm, with the loop ahead, and the fault current.
_LOOP: Sequence[Line] = (
    Line("cold", lambda at: (at["per_m"] + at["cpc_per_m"]) * at["length"] / 1000, lambda at: 2 * at["per_m"] * at["length"] / 1000),
    Line("warm", lambda at: at["cold"] * 1.2, lambda at: at["cold"] / 1.2),
    Line("loop", lambda at: at["ahead"] + at["warm"], lambda at: at["ahead"] + 2 * at["warm"]),
    Line("fault", lambda at: at["volts"] / at["loop"], lambda at: at["volts"] * 3**0.5 / at["loop"]),
)  # fmt: skip
_WHAT = {"drop": _DROP, "loop": _LOOP}


def worked(what: str, given: Mapping[str, float], mistaken: int) -> dict[str, float]:
    """The values of a calculation with one line got wrong, to three figures as they are written; -1: none."""
    at = dict(given)
    for number, line in enumerate(_WHAT[what]):
        at[line.name] = _figures((line.wrong if number == mistaken else line.right)(at))
    return at


def wrong_lines(what: str, at: Mapping[str, float]) -> tuple[int, ...]:
    """The lines of a written calculation that do not follow from what is given and from the lines above them."""
    found = []
    for number, line in enumerate(_WHAT[what]):
        should = line.right(at)
        if abs(at[line.name] - should) > _SAME * abs(should):
            found.append(number)
    return tuple(found)


def _figures(value: float) -> float:
    return float(f"{value:.3g}")


def find_mistake(rules: RuleSet, number: int) -> Exercise:
    """The exercise of a number. The calculation is checked again as it is written: exactly one line does not follow."""
    rng = random.Random(f"mistake {rules.id} {number}")
    cables = list(_cables(rules))
    while True:
        what = rng.choice(sorted(_WHAT))
        line, earth = rng.choice(cables)
        given = {
            "power": float(rng.randrange(600, 4601, 100)), "volts": rules.nominal_v, "per_m": _figures(line.value), "cpc_per_m": _figures(earth.value),
            "length": float(rng.randrange(8, 61)), "ahead": rng.choice((0.2, 0.25, 0.35, 0.5, 0.8)),
        }  # fmt: skip
        mistaken = rng.randrange(4)
        at = worked(what, given, mistaken)
        if wrong_lines(what, at) == (mistaken,):
            return _exercise(rules, number, what, at, mistaken, line.source)


def _cables(rules: RuleSet) -> Iterator[tuple[SourcedValue, SourcedValue]]:
    """Resistance of the line and of the protective conductor of the cables of final circuits [mΩ/m], as far as they are tabulated."""
    for kind in sorted(rules.cables.kinds):
        for area in rules.cables.kind(kind).sizes_mm2:
            cable = plain_cable(rules, kind, area)
            with suppress(NotTabulated, NeedsInput):
                if area <= _LARGEST_MM2:
                    yield rules.cables.line_mohm_per_m(cable), rules.cables.cpc_mohm_per_m(cable)


def _shown(value: float) -> Shown:
    return Shown(f"{value:.3g}" if value < 1000 else f"{value:.0f}")


def _exercise(
    rules: RuleSet, number: int, what: str, at: Mapping[str, float], mistaken: int, source: Source
) -> Exercise:
    def say(line_name: str) -> Message:
        return message(rules.words, f"core.training.mistake.{what}.{line_name}", **shown)

    shown = {name: _shown(value) for name, value in at.items()}
    lines: list[Text] = [say("given"), *(say(line.name) for line in _WHAT[what])]
    line = _WHAT[what][mistaken]
    should = _figures(line.right(at))
    return Exercise(
        kind="find-mistake", topic=f"{what}-{line.name}", standard=rules.id, number=number,
        question=message(rules.words, f"core.training.ask.mistake_{what}"),
        lines=tuple(lines),
        options=tuple(message(rules.words, "core.training.option.line", n=str(each + 1)) for each in range(4)),
        right=mistaken,
        answer=(message(rules.words, f"core.training.mistake.{what}.{line.name}", **{**shown, line.name: _shown(should)}),),
        source=source,
        facts={"what": what, **{name: float(value) for name, value in at.items()}},
    )  # fmt: skip
