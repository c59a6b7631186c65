"""The order of a safe addition, the dead end first; and what is tested afterwards."""

from __future__ import annotations

from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.extension_rules import FoundRow
from vivid_lattice.core.rules.protocol import RuleSet

_STEPS = (
    "agree", "prove_circuit", "isolate", "lay", "connect_far", "connect_host", "dead_tests", "energise", "live_tests",
    "papers",
)  # fmt: skip
_PROVE = ("agree", "isolate", "prove_ends", "prove_cross", "label")
_TESTS = ("continuity", "insulation", "polarity", "loop", "rcd", "function")


def steps_of(row: FoundRow, circuit: Circuit, rules: RuleSet) -> tuple[Text, ...]:
    """What is done, in order.

    Source  uk.runs.add-point.order, common practice
    """
    names = _PROVE if row.way == "prove" else _STEPS
    return tuple(message(rules.words, f"core.extension.step.{name}", circuit=circuit.name) for name in names)


def tests_of(row: FoundRow, circuit: Circuit, rules: RuleSet) -> tuple[Text, ...]:
    """What is tested; of a ring its loop too."""
    names = (*_TESTS[:1], "ring", *_TESTS[1:]) if circuit.kind == "ring" else _TESTS
    return tuple(message(rules.words, f"core.extension.test.{name}", circuit=circuit.name) for name in names)
