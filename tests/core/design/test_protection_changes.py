"""What mends a finding of protection does mend it, keeps the document in order, and touches nothing else."""

from __future__ import annotations

import unittest

from tests.builders import circuit, job, mcb
from tests.core.checks.test_protection_verdicts import CASES, ahead, behind_one
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.protection_changes import delayed_ahead, other_types, own_rcd
from vivid_lattice.core.design.remedies import find, remedies, worsened
from vivid_lattice.core.document.job import Job, Load, with_parts
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.findings.finding import Subject
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set

UK = rule_set("uk")


def pair_of_sharers() -> Job:
    held = (Load(name="Filter", kind="appliance", leakage_ma=5.0),)
    return behind_one(*(circuit(id=f"c{n}", name=f"C{n}", loads=held, device=mcb(16.0)) for n in (1, 2)))


class Promises(unittest.TestCase):
    """Every remedy of every failing case, carried out and assessed anew."""

    def test_each_remedy_does_what_it_says_and_the_job_can_still_be_read(self) -> None:
        tried = 0
        for case in CASES:
            if case.subject != "circuit" or case.verdict not in ("fail", "advice"):
                continue
            subject = Subject("circuit", case.circuit)
            before = assess(case.made, explain=False)
            for one in remedies(case.made, case.check, subject):
                tried += 1
                changed = checked(with_parts(case.made, one.circuits, one.boards))
                after = assess(changed, explain=False)
                now = find(after, case.check, subject)
                assert now is not None
                with self.subTest(case.check, said=case.said, remedy=one.label):
                    self.assertEqual((now.verdict, now.shown_value), (one.verdict, one.shown_value))
                    self.assertEqual(worsened(before, after), one.worsens)
        self.assertGreaterEqual(tried, 15)


class Moves(unittest.TestCase):
    """Each change by itself."""

    def test_an_own_device_takes_only_its_circuit_out_of_the_shared_one(self) -> None:
        made = pair_of_sharers()
        [move] = own_rcd(made, made.circuits[0], UK)
        [board] = move.boards
        self.assertEqual({way.circuit: way.rcd for way in board.ways}, {"c1": None, "c2": "r1"})
        device = move.circuit.device
        assert not isinstance(device, str) and device.rcd is not None
        self.assertEqual((device.rating_a, device.curve, device.rcd.idn_ma), (16.0, "B", 30.0))

    def test_another_type_of_a_shared_device_holds_for_all_behind_it(self) -> None:
        made = pair_of_sharers()
        kinds = []
        for move in other_types(made, made.circuits[0], UK):
            self.assertEqual(move.circuit, made.circuits[0])
            [board] = move.boards
            kinds.append(board.shared_rcds[0].rcd.type)
            self.assertEqual(board.ways, made.boards[0].ways)
        self.assertEqual(kinds[-1], "B")

    def test_a_delay_is_put_ahead_and_never_on_the_device_itself(self) -> None:
        made = ahead(Rcd(idn_ma=30.0), circuit())
        for move in delayed_ahead(made, made.circuits[0], UK):
            self.assertEqual(move.circuit, made.circuits[0])
            switch = move.boards[0].main_switch
            assert switch is not None and switch.rcd is not None
            self.assertTrue(switch.rcd.time_delayed and switch.rcd.idn_ma >= 100.0)

    def test_nothing_is_offered_where_nothing_stands_ahead_or_no_device_is_chosen(self) -> None:
        alone, open_ = job(), job(circuit(device="auto"))
        self.assertEqual(list(delayed_ahead(alone, alone.circuits[0], UK)), [])
        self.assertEqual(list(own_rcd(open_, open_.circuits[0], UK)), [])
        self.assertEqual(list(other_types(open_, open_.circuits[0], UK)), [])


if __name__ == "__main__":
    unittest.main()
