"""Does the smaller of two devices in series trip first, at every current of an overload?"""

from __future__ import annotations

import random
from math import isinf

from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.formulas.device.coordination import overload_order
from vivid_lattice.core.messages import Message, message
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown
from vivid_lattice.core.training.exercises.exercise import Exercise

#: Half of the questions are of pairs that keep their order, where so many tries find one.
_TRIES = 60
_KEPT, _CROSSED = "core.training.option.kept", "core.training.option.crossed"


def order_kept(rules: RuleSet, kind: str, up: tuple[str | None, float], down: tuple[str | None, float]) -> bool:
    """Whether two devices of a kind keep their order under overload, at every current."""
    return overload_order(rules.bands.band(kind, *up), rules.bands.band(kind, *down)).selective


def _seconds(rules: RuleSet, time_s: float) -> Message | Shown:
    return message(rules.words, "core.training.never") if isinf(time_s) else Shown(f"{time_s:.3g} s")


def selective_pair(rules: RuleSet, number: int) -> Exercise:
    """The exercise of a number."""
    rng = random.Random(f"pair {rules.id} {number}")
    kinds = [kind for kind in rules.devices.kinds.values() if kind.action == "breaker" and kind.current]
    wanted, tries = number % 2 == 0, 0
    while True:
        kind = rng.choice(sorted(kinds, key=lambda each: each.id))
        ratings = [each for each in kind.common_ratings_a or kind.ratings_a if 6 <= each <= 125]
        if len(ratings) < 3:
            continue
        small, large = sorted(rng.sample(ratings, 2))
        curves: list[str | None] = list(kind.curves) or [None]
        up, down = (rng.choice(curves), large), (rng.choice(curves), small)
        try:
            kept = order_kept(rules, kind.id, up, down)
        except NotTabulated:
            continue
        tries += 1
        if kept != wanted and tries < _TRIES:
            continue
        order = overload_order(rules.bands.band(kind.id, *up), rules.bands.band(kind.id, *down))
        label = [f"{curve or ''}{rating:g}{'' if curve else ' A'}" for curve, rating in (up, down)]
        key = "kept" if kept else "crossed"
        return Exercise(
            kind="selective-pair", topic="same-curve" if up[0] == down[0] else "other-curve", standard=rules.id,
            number=number,
            question=message(rules.words, "core.training.ask.pair", kind=kind.title, up=label[0], down=label[1]),
            lines=(),
            options=(message(rules.words, _KEPT), message(rules.words, _CROSSED)),
            right=0 if kept else 1,
            answer=(
                message(
                    rules.words, f"core.training.answer.pair_{key}", a=Shown(f"{order.at_a:.0f}"), down=_seconds(rules, order.down_s),
                    up=_seconds(rules, order.up_s),
                ),
            ),
            source=rules.protection.source("order"),
            facts={"kind": kind.id, "up_curve": up[0] or "", "up_a": large, "down_curve": down[0] or "", "down_a": small},
        )  # fmt: skip
