"""What papers rest on, as laws that hold for any board of any standard: readings, material, charts, exports."""

from __future__ import annotations

import unittest
from collections import Counter

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.core.board.made import boards
from tests.reports.reading import plain, report_data, whole
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Circuit, Job, with_circuit
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.material.buying import millimetres
from vivid_lattice.core.material.material import material
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.expected_readings import expected
from vivid_lattice.reports.catalogue import KINDS, export
from vivid_lattice.reports.sheets.label_strips import strips_of

LAWS = settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))


def network(job: Job) -> Installation:
    return Installation.of(job, rule_set(job.job.rules))


def longer(circuit: Circuit, by: float) -> Circuit:
    section = circuit.run[0]
    return circuit.model_copy(
        update={"run": (section.model_copy(update={"length_m": (section.length_m or 0.0) + by}),)}
    )


class Readings(unittest.TestCase):
    """What a meter should read."""

    @LAWS
    @given(boards(most=10))
    def test_cold_never_reads_more_than_warm_and_the_two_sheets_agree(self, job: Job) -> None:
        rows = {row.circuit: row for row in assess(job, explain=False).circuits}
        for one in expected(network(job)):
            row = rows[one.circuit]
            self.assertEqual((one.r1r2_ohm, one.zs_cold_ohm), (row.r1r2_ohm, row.zs_cold_ohm))
            if one.zs_cold_ohm is not None and row.zs_warm_ohm is not None:
                self.assertLessEqual(one.zs_cold_ohm, row.zs_warm_ohm + 1e-9)
            if one.zs_reading_ohm is not None and one.zs_limit_ohm is not None:
                self.assertLessEqual(one.zs_reading_ohm, one.zs_limit_ohm + 1e-9)

    @LAWS
    @given(boards(most=8), st.floats(0.5, 100))
    def test_a_longer_run_reads_more_and_may_read_no_more(self, job: Job, by: float) -> None:
        first = job.circuits[0]
        before, after = (
            next(one for one in expected(network(made)) if one.circuit == first.id)
            for made in (job, with_circuit(job, longer(first, by)))
        )
        if before.r1r2_ohm is None or before.zs_cold_ohm is None:
            # A size that the standard's tables hold no resistance of: no length makes one up.
            self.assertEqual((after.r1r2_ohm, after.zs_cold_ohm), (None, None))
            self.assertTrue(after.missing)
            return
        assert after.r1r2_ohm is not None and after.zs_cold_ohm is not None
        self.assertGreater(after.r1r2_ohm, before.r1r2_ohm)
        self.assertGreater(after.zs_cold_ohm, before.zs_cold_ohm)
        if not after.zs_by_rcd and not before.zs_by_rcd:
            self.assertEqual(after.zs_reading_ohm, before.zs_reading_ohm)

    @LAWS
    @given(boards(most=10))
    def test_the_far_point_of_a_ring_reads_a_quarter_of_its_ends(self, job: Job) -> None:
        for one in expected(network(job)):
            if one.ring is not None:
                self.assertAlmostEqual(one.r1r2_ohm or 0, (one.ring.line_ohm + one.ring.cpc_ohm) / 4, places=12)


class Material(unittest.TestCase):
    """What to buy."""

    @LAWS
    @given(boards(most=16))
    def test_every_metre_is_cut_once_and_every_device_bought_once(self, job: Job) -> None:
        held = material(network(job))
        cuts = {cut.label for item in held.items if item.group == "cable" for cut in item.cuts}
        self.assertTrue(all(circuit.name in cuts for circuit in job.circuits))
        for cut_list in held.cuts:
            wanted = Counter(millimetres(piece.length_m) for piece in cut_list.pieces)
            if cut_list.plan is None:
                [line] = [item for item in held.items if item.article == cut_list.article]
                self.assertAlmostEqual(line.quantity or 0, sum(wanted.elements()) / 1000, delta=0.006)
                continue
            self.assertEqual(Counter(piece for cut in cut_list.plan.cuts for piece in cut.pieces_mm), wanted)
            for cut in cut_list.plan.cuts:
                self.assertEqual(cut.stock.length_mm - sum(cut.pieces_mm), cut.rest_mm)
                self.assertGreaterEqual(cut.rest_mm, 0)
            lines = {item.article: item.quantity for item in held.items}
            for length_mm, many in cut_list.plan.bought.items():
                self.assertEqual(lines[f"{cut_list.article}:{length_mm / 1000:g}"], many)
        self.assertEqual(sum(item.quantity or 0 for item in held.items if item.group == "device"), len(job.circuits))
        self.assertTrue(all(item.quantity is None or item.quantity > 0 for item in held.items))

    @LAWS
    @given(boards(most=10))
    def test_what_is_left_open_is_named_and_its_line_is_gone(self, job: Job) -> None:
        first = job.circuits[0]
        open_ = with_circuit(job, first.model_copy(update={"device": "auto", "cable": "auto"}))
        held = material(network(open_))
        for what in ("device", "cable"):
            self.assertIn(f"the {what} of {first.name} is not chosen yet", [str(lack) for lack in held.missing])
        self.assertEqual(
            sum(item.quantity or 0 for item in held.items if item.group == "device"), len(job.circuits) - 1
        )


class Exports(unittest.TestCase):
    """Of any board."""

    @settings(LAWS, max_examples=4)
    @given(boards(most=16))
    def test_every_export_of_any_board_is_made_and_named(self, job: Job) -> None:
        names = set()
        job = enter_plan_line(job, "kitchen 4 x 3 door left")
        for kind in KINDS:
            if kind.needs in ("survey", "other", "quote"):
                continue
            made = export(report_data(job), kind.id)
            self.assertTrue(made.content)
            self.assertTrue(made.name.endswith(f".{kind.suffix}"))
            names.add(made.name)
        self.assertEqual(len(names), sum(kind.needs not in ("survey", "other", "quote") for kind in KINDS))

    @settings(LAWS, max_examples=6)
    @given(boards(most=24))
    def test_every_way_has_its_label_and_its_line_on_the_chart(self, job: Job) -> None:
        held = report_data(job)
        board = job.boards[0]
        numbers = Counter(label.number for row in strips_of(held, board) for label in row if label.number)
        self.assertEqual(numbers, Counter(str(way.number) for way in board.ways))
        text = whole(export(held, "chart", board.id).content)
        for line in held.chart(board.id):
            self.assertIn(plain(f"{line.way} {line.text}"), text)


if __name__ == "__main__":
    unittest.main()
