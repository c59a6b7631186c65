"""Laws of design, over generated jobs of every standard: a shorter run never gets a thicker cable, and design passes its own checks."""

from __future__ import annotations

import unittest
from itertools import pairwise
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.document.test_feeds import SUPPLIES, typed
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.candidate_changes import larger_cables, other_devices
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.decisions import Design
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.rules import rule_set

EXAMPLES = 40
#: Circuits with the words and devices that every standard knows.
LINES = ("sockets", "cooker 7kW", "lights 9W", "water heater 3kW", "heater 2kW", "pump 750W", "kiln 7kW", "submain 40A")
#: What a device or a cable of the circuit alone can turn.
BY_CHOICE = ("overload", "capacity", "voltage-drop", "disconnection", "protective-conductor", "short-circuit-withstand", "rcd-duty", "rcd-type", "arc-fault")  # fmt: skip


@st.composite
def supplies(draw: Any) -> tuple[str, str]:
    """A standard and a typed supply: loop, prospective current, and whether that is measured."""
    rules = draw(st.sampled_from(sorted(SUPPLIES)))
    first = " ".join(SUPPLIES[rules].split(" ")[:2])
    ze = "" if rules == "na" else f" Ze {draw(st.sampled_from([0.02, 0.05, 0.1, 0.2, 0.35, 0.8]))}"
    ka = draw(st.sampled_from([0.5, 1.5, 3.0, 4.4, 6.0, 10.0, 16.0]))
    return rules, f"{first}{ze} {ka}kA {draw(st.sampled_from(['', 'measured', 'enquiry']))}"


def designed(rules: str, supply: str, line: str, usual: bool) -> Design:
    """A typed circuit, designed."""
    job = set_supply(typed(line, rules=rules), supply).job
    return design(job.model_copy(update={"settings": job.settings.model_copy(update={"design_usual": usual})}))


def area_of(made: Design) -> float | None:
    """Size of the one cable [mm²]; None while it is open."""
    cable = made.job.circuits[0].cable
    return None if isinstance(cable, str) else cable.area_mm2


#: A standard and its supply, the circuit's words, the lengths of its run, and whether what is usual is a minimum.
Runs = tuple[tuple[str, str], str, bool, list[int]]
Typed = tuple[tuple[str, str], str, int, bool]
RUNS = st.tuples(
    supplies(),
    st.sampled_from(LINES),
    st.booleans(),
    st.lists(st.integers(1, 80), min_size=2, max_size=4, unique=True),
)
CIRCUITS = st.tuples(supplies(), st.sampled_from(LINES), st.integers(1, 60), st.booleans())


def failing(job: Job) -> list[Finding]:
    """What fails of the circuits and a choice could turn."""
    found = assess(job, explain=False).findings
    return [one for one in found if one.verdict == "fail" and one.check in BY_CHOICE]


def shorter_is_no_thicker(
    test: unittest.TestCase, of: tuple[str, str], line: str, usual: bool, lengths: list[int]
) -> None:
    """Over the lengths of a run, upwards, the cable that design takes never gets smaller."""
    unit = "ft" if of[0] == "na" else "m"
    sizes = [(at, area_of(designed(*of, f"{line} {at}{unit}", usual))) for at in sorted(lengths)]
    known = [(at, size) for at, size in sizes if size is not None]
    for (short, small), (long, large) in pairwise(known):
        test.assertLessEqual(small, large, f"{of} {line}: {small} at {short}, {large} at {long}")


def passes_or_says(test: unittest.TestCase, of: tuple[str, str], line: str, length: int, usual: bool) -> None:
    """Nothing fails after design that another device or cable would have turned, unless design says so."""
    rules, unit = rule_set(of[0]), "ft" if of[0] == "na" else "m"
    made = designed(*of, f"{line} {length}{unit}", usual)
    said = " ".join(str(one.sentence) for one in made.decisions if not one.passes)
    circuit = made.job.circuits[0]
    if isinstance(circuit.cable, str) or isinstance(circuit.device, str):
        test.assertTrue(said, "what is left open is said")
        return
    for found in failing(made.job):
        moves = [*larger_cables(circuit, rules), *other_devices(circuit, rules)]
        better = [
            move.label
            for move in moves
            if move.circuit is not None and not failing(made.job.model_copy(update={"circuits": (move.circuit,)}))
        ]
        test.assertTrue(not better or found.check in said, f"{of} {line}: {(found.sentence)!s} {better[:2]}")


class Laws(unittest.TestCase):
    """Found by hypothesis."""

    @settings(max_examples=EXAMPLES, deadline=None)
    @given(RUNS)
    def test_a_shorter_run_never_gets_a_thicker_cable(self, runs: Runs) -> None:
        shorter_is_no_thicker(self, *runs)

    @settings(max_examples=EXAMPLES, deadline=None)
    @given(CIRCUITS)
    def test_design_passes_its_own_checks_or_says_which_it_does_not(self, circuit: Typed) -> None:
        passes_or_says(self, *circuit)


if __name__ == "__main__":
    unittest.main()
