"""Laws that hold for any circuit: found by hypothesis, not by example."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import circuit, finding, flat, job, laid, rcbo, supply
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS, SUPPLY_CHECKS
from vivid_lattice.core.document.job import Cable, Circuit, Job, Load, Section
from vivid_lattice.core.findings.verdict import VERDICT_ORDER
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.rules import rule_set

SIZES = rule_set("uk").cables.kind("flat-twin-pvc").sizes_mm2
METHODS = ("A", "C", "100", "101", "102", "103")

lengths = st.floats(0.1, 500).map(lambda value: round(value, 2))
sections = st.builds(
    lambda length, method, ambient, grouped: laid(length, method, ambient_c=ambient, circuits_grouped=grouped),
    lengths, st.sampled_from(METHODS), st.none() | st.floats(10, 60), st.integers(1, 20),
)  # fmt: skip
loads = st.builds(
    lambda watts, factor: (Load(name="Load", kind="motor", power_w=watts, power_factor=factor),),
    st.floats(1, 20_000), st.floats(0.3, 1.0),
)  # fmt: skip


@st.composite
def circuits(draw: Any, identity: str = "c1") -> Circuit:
    """Any circuit of flat twin and earth behind an RCBO."""
    return circuit(
        id=identity,
        kind=draw(st.sampled_from(["ring", "radial", "lighting", "fixed"])),
        run=tuple(draw(st.lists(sections, min_size=1, max_size=4))),
        cable=draw(st.just("auto") | st.sampled_from(SIZES).map(flat)),
        device=draw(
            st.just("auto") | st.builds(rcbo, st.sampled_from([6.0, 16.0, 32.0, 45.0]), st.sampled_from("BCD"))
        ),
        loads=draw(loads | st.just(())),
        design_current_a=draw(st.none() | st.floats(0.1, 100)),
    )


@st.composite
def jobs(draw: Any) -> Job:
    """Any job of one board."""
    held = [draw(circuits(f"c{number}")) for number in range(draw(st.integers(1, 4)))]
    system = draw(st.sampled_from(["TN-S", "TN-C-S", "TT"]))
    return job(
        *held,
        supply=supply(
            system=system,
            ze_ohm=draw(st.none() | st.floats(0.05, 300)),
            fault_current_ka=draw(st.none() | st.floats(0.1, 16)),
        ),
    )


#: Checks that may pass by an order or a kind, without a figure against a limit.
WITHOUT_FIGURES = {"selectivity-overload", "selectivity-short-circuit", "rcd-type", "arc-fault", "special-location"}


class Laws(unittest.TestCase):
    """What more length, more copper or the same question twice must not do."""

    @given(jobs())
    @settings(max_examples=60, deadline=None)
    def test_a_document_comes_back_from_its_text_as_it_was(self, made: Job) -> None:
        self.assertEqual(read_document(to_text(made)), made)

    @given(jobs())
    @settings(max_examples=60, deadline=None)
    def test_assessing_is_deterministic_and_changes_nothing(self, made: Job) -> None:
        before = to_text(made)
        self.assertEqual(assess(made), assess(made))
        self.assertEqual(to_text(made), before)

    @given(jobs())
    @settings(max_examples=60, deadline=None)
    def test_every_circuit_has_one_answer_of_every_check_and_none_passes_over_its_limit(self, made: Job) -> None:
        found = assess(made).findings
        wanted = len(SUPPLY_CHECKS) + len(made.boards) * len(BOARD_CHECKS) + len(made.circuits) * len(CHECKS)
        self.assertEqual(len(found), wanted)
        for one in found:
            if one.verdict in ("pass", "tight"):
                if one.value is None or one.limit is None:
                    self.assertIn(one.check, WITHOUT_FIGURES)
                else:
                    self.assertLessEqual(one.value, one.limit * (1 + 1e-9))
            elif one.verdict == "missing":
                self.assertTrue(one.needs)

    @given(jobs())
    @settings(max_examples=30, deadline=None)
    def test_leaving_the_workings_out_leaves_the_verdicts_as_they_are(self, made: Job) -> None:
        with_, without = assess(made).findings, assess(made, explain=False).findings
        self.assertEqual(
            [(f.verdict, f.value, str(f.sentence)) for f in with_],
            [(f.verdict, f.value, str(f.sentence)) for f in without],
        )

    @given(circuits(), st.floats(1.01, 5))
    @settings(max_examples=80, deadline=None)
    def test_a_longer_run_never_improves_anything(self, made: Circuit, times: float) -> None:
        longer = made.model_copy(update={"run": tuple(_stretched(section, times) for section in made.run)})
        for check in ("voltage-drop", "disconnection"):
            short, long = finding(job(made), check), finding(job(longer), check)
            self.assertLessEqual(VERDICT_ORDER.index(long.verdict), VERDICT_ORDER.index(short.verdict))
            if short.value is not None and long.value is not None and short.limit == long.limit:
                self.assertGreaterEqual(long.value, short.value)

    @given(circuits(), st.sampled_from(SIZES[:-1]))
    @settings(max_examples=80, deadline=None)
    def test_a_larger_conductor_never_worsens_drop_or_capacity(self, made: Circuit, area: float) -> None:
        larger = SIZES[SIZES.index(area) + 1]
        small, large = (job(made.model_copy(update={"cable": flat(size)})) for size in (area, larger))
        before, after = finding(small, "voltage-drop").value, finding(large, "voltage-drop").value
        if before is not None and after is not None:
            self.assertLess(after, before)
        self.assertGreaterEqual(
            VERDICT_ORDER.index(finding(large, "capacity").verdict),
            VERDICT_ORDER.index(finding(small, "capacity").verdict),
        )

    @given(st.floats(0.1, 60), st.floats(1, 200))
    @settings(max_examples=60, deadline=None)
    def test_drop_is_linear_in_length(self, current: float, length: float) -> None:
        def drop(metres: float) -> float:
            cable = Cable(type="flat-twin-pvc", area_mm2=6.0)
            made = job(circuit(design_current_a=current, cable=cable, device=rcbo(63.0), run=(laid(metres),)))
            return finding(made, "voltage-drop").value or 0

        self.assertAlmostEqual(drop(2 * length), 2 * drop(length), places=6)


def _stretched(section: Section, times: float) -> Section:
    return section.model_copy(update={"length_m": (section.length_m or 1.0) * times})


if __name__ == "__main__":
    unittest.main()
