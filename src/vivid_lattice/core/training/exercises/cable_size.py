"""Which is the smallest cable that carries a device's rating, laid so, in such company?"""

from __future__ import annotations

import math
import random

from vivid_lattice.core.document.job import Cable, Section
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown
from vivid_lattice.core.training.exercises.exercise import Exercise

_RATINGS = (10.0, 16.0, 20.0, 25.0, 32.0, 40.0, 50.0)
_RATINGS_NA = (15.0, 20.0, 30.0, 40.0, 50.0, 60.0)
_GROUPED = (1, 2, 3, 4)


def capacity_a(rules: RuleSet, cable: Cable, section: Section) -> tuple[float, float, float]:
    """Tabulated capacity, the product of its factors, and the capacity as laid [A].

    Equation  Iz = It · ΠC
    """
    tabulated = rules.cables.capacity_a(cable, section.method, 2).value
    factors = math.prod(factor.value for factor in rules.factors.factors(section, cable, 2))
    return tabulated, factors, tabulated * factors


def cable_size(rules: RuleSet, number: int) -> Exercise:
    """The exercise of a number: what does not occur in the tables is drawn again."""
    rng = random.Random(f"cable {rules.id} {number}")
    while True:
        made = _made(rules, number, rng)
        if made is not None:
            return made


def smallest(rules: RuleSet, rating_a: float, kind: str, section: Section) -> float | None:
    """The smallest size of a kind of cable that carries a rating as laid [mm²]; None: none of the table does."""
    for area in rules.cables.kind(kind).sizes_mm2:
        try:
            if capacity_a(rules, plain_cable(rules, kind, area), section)[2] >= rating_a - 1e-9:
                return area
        except NotTabulated:
            continue
    return None


def plain_cable(rules: RuleSet, kind: str, area: float) -> Cable:
    """A cable of a kind and size [mm²], with the protective conductor that it usually has."""
    return Cable(type=kind, area_mm2=area, cpc=rules.cables.kind(kind).cpc_choices[0])  # type: ignore[arg-type]


def _made(rules: RuleSet, number: int, rng: random.Random) -> Exercise | None:
    kind = rng.choice(sorted(rules.cables.kinds))
    known = rules.cables.kind(kind)
    method = rng.choice(known.methods)
    rating = rng.choice(_RATINGS_NA if rules.id == "na" else _RATINGS)
    section = Section(length_m=10.0, method=method, circuits_grouped=rng.choice(_GROUPED))
    try:
        right = smallest(rules, rating, kind, section)
    except NotTabulated:
        return None
    sizes = [area for area in known.sizes_mm2 if area <= 50]
    if right is None or right not in sizes or len(sizes) < 4:
        return None
    at = sizes.index(right)
    if at == 0:
        return None  # every size carries it: nothing to choose
    first = max(0, min(at - rng.randint(0, 3), len(sizes) - 4))
    shown = sizes[first : first + 4]
    tabulated, factors, laid = capacity_a(rules, plain_cable(rules, kind, right), section)
    return Exercise(
        kind="cable-size", topic="grouped" if section.circuits_grouped > 1 else "alone", standard=rules.id, number=number,
        question=message(
            rules.words, "core.training.ask.cable", a=Shown(f"{rating:g}"), cable=known.title,
            method=rules.factors.methods[method].title, n=section.circuits_grouped,
        ),
        lines=(),
        options=tuple(rules.cables.size_label(area) for area in shown),
        right=shown.index(right),
        answer=(
            message(
                rules.words, "core.training.answer.cable", size=rules.cables.size_label(right), it=Shown(f"{tabulated:g}"),
                c=Shown(f"{factors:.3g}"), iz=Shown(f"{math.floor(laid * 10) / 10:g}"), a=Shown(f"{rating:g}"),
            ),
        ),
        source=rules.cables.capacity_a(plain_cable(rules, kind, right), method, 2).source,
        facts={"cable": kind, "method": method, "rating_a": rating, "grouped": float(section.circuits_grouped)},
    )  # fmt: skip
