"""Which is the least type of residual-current device for some loads?"""

from __future__ import annotations

import random
from typing import Literal, get_args

from vivid_lattice.core.checks.support.load_rcd_type import least_type_by_load
from vivid_lattice.core.document.job import Load, LoadKind
from vivid_lattice.core.document.rcd import RCD_TYPES
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.training.exercises.exercise import Exercise

DcResidual = Literal["smooth", "smooth-detected"]
_OF_CHARGER: tuple[DcResidual, ...] = get_args(DcResidual)


def least_type(rules: RuleSet, load: Load) -> str:
    """The least type that sees what a load may leak, and that the standard takes."""
    needed = least_type_by_load(rules.protection, load, phases=1)
    allowed, _ = rules.protection.alternating_only
    return "A" if needed == "AC" and allowed == "never" else needed


def rcd_type(rules: RuleSet, number: int) -> Exercise:
    """The exercise of a number: a load, with a frequency converter or detection of direct current or without."""
    rng = random.Random(f"rcd {rules.id} {number}")
    kind: LoadKind = rng.choice(get_args(LoadKind))
    converter = rng.random() < 0.4 and kind in ("motor", "appliance", "dryer")
    residual: DcResidual | None = rng.choice(_OF_CHARGER) if kind == "charger" else None
    load = Load(name="Load", kind=kind, frequency_converter=converter, dc_residual=residual)
    right = least_type(rules, load)
    words = (
        "charger" if residual == "smooth" else "charger_detected" if residual else "converter" if converter else "plain"
    )
    leak = rules.protection.residual(load)
    return Exercise(
        kind="rcd-type", topic=words, standard=rules.id, number=number,
        question=message(rules.words, f"core.training.ask.rcd_{words}", load=kind.replace("-", " ")),
        lines=(),
        options=RCD_TYPES,
        right=RCD_TYPES.index(right),
        answer=(
            message(rules.words, "core.training.answer.rcd", dc=message(rules.words, f"core.check.rcd-type.dc.{leak.dc}"), type=right),
        ),
        source=rules.protection.source("type"),
        facts={"load": kind, "converter": str(converter), "dc": residual or ""},
    )  # fmt: skip
