"""One cause told once: which findings share it, what is said of it, and that no finding loses its verdict."""

from __future__ import annotations

import unittest

from tests.builders import circuit, cutout, feeder, finding, job, laid, mcb, rcbo, supply, two_boards
from tests.core.checks.test_protection_verdicts import behind_one, board
from tests.core.document.test_feeds import typed
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.assessment.causes import OPEN, cause_of
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.remedies import remedies
from vivid_lattice.core.document.job import Job, Load, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.findings.assessment import CauseGroup

LAMPS = (Load(name="Lamps", kind="lamp", power_w=60.0, power_factor=0.9),)


def groups(of: Job, check: str) -> list[CauseGroup]:
    """The causes of what is not in order that a check names."""
    return [one for one in assess(of).causes if one.cause.check == check]


class Shared(unittest.TestCase):
    """Findings that repeat one another."""

    def test_two_old_rcds_are_two_causes_not_nine(self) -> None:
        circuits = [circuit(id=f"c{at}", device=mcb(16.0), loads=LAMPS) for at in range(9)]
        made = job(*circuits)
        old = [SharedRcd(id=name, name=name, rating_a=63.0, rcd=Rcd(idn_ma=30.0, type="AC")) for name in ("r1", "r2")]
        ways = tuple(
            way.model_copy(update={"rcd": "r1" if at < 5 else "r2"}) for at, way in enumerate(made.boards[0].ways)
        )
        made = board(made, shared_rcds=tuple(old), ways=ways)
        found = [one for one in groups(made, "rcd-type") if one.verdict == "fail"]
        self.assertEqual([(one.findings, one.cause.subject.kind) for one in found], [(5, "rcd"), (4, "rcd")])
        # No cell is lost: each of the nine keeps its own verdict.
        self.assertEqual(sum(one.check == "rcd-type" and one.verdict == "fail" for one in assess(made).findings), 9)

    def test_a_missing_figure_of_the_supply_is_one_cause(self) -> None:
        made = job(*(circuit(id=f"c{at}") for at in range(6)), supply=supply(ze_ohm=None))
        lacking = [one for one in assess(made).causes if one.verdict == "missing"]
        self.assertEqual([one.cause.subject.kind for one in lacking], ["supply"])
        self.assertGreaterEqual(lacking[0].findings, 12)

    def test_a_length_that_is_lacking_is_one_cause_of_its_circuit(self) -> None:
        lacking = [
            one
            for one in assess(typed("sockets 20A 2.5mm2")).causes
            if str(one.sentence).endswith("length of Sockets.")
        ]
        self.assertEqual([(one.findings, one.circuits) for one in lacking], [(4, ("c1",))])

    def test_a_device_and_a_cable_that_wait_for_an_input_are_one_cause(self) -> None:
        for rules in ("iec", "anz", "za"):
            made = typed("shower 12m", "heater 2kW 10m", rules=rules)
            waiting = [
                one for one in assess(design(made).job).causes if one.verdict == "missing" and "c1" in one.circuits
            ]
            with self.subTest(rules):
                self.assertEqual([str(one.sentence) for one in waiting], ["Needs the power of Shower."])

    def test_a_feeder_still_to_be_chosen_is_one(self) -> None:
        made = two_boards(feeder(cable="auto"), circuit(), circuit(id="c2"), circuit(id="c3"))
        lacking = [one for one in assess(made).causes if one.verdict == "missing" and one.circuits]
        self.assertEqual(len(lacking), 1, [str(one.sentence) for one in lacking])
        self.assertIn("f1", lacking[0].circuits)

    def test_the_distributors_device_is_one_line_a_board(self) -> None:
        # Behind 40 A the let-through of B32 at 3 kA, 18 000 A²s, is more than such a fuse takes before it melts (IEC 60269-2).
        made = job(*(circuit(id=f"c{at}", device=rcbo(32.0)) for at in range(5)), supply=supply(cutout=cutout(45.0)))
        [one] = groups(made, "selectivity-short-circuit")
        self.assertEqual((one.verdict, len(one.circuits)), ("advice", 5))
        self.assertRegex(str(one.sentence), "near .*: 45 A cut-out fuse may operate as well")
        found = finding(made, "selectivity-short-circuit")
        self.assertEqual(remedies(made, found.check, found.subject), ())

    def test_behind_a_feeder_it_is_one_for_the_feeder(self) -> None:
        far = [circuit(id=f"c{at}", device=rcbo(32.0)) for at in range(3)]
        made = two_boards(feeder(device=mcb(40.0, "C")), *far)
        of_feeder = [one for one in groups(made, "selectivity-short-circuit") if one.cause.subject.id == "f1"]
        self.assertEqual([one.findings for one in of_feeder], [3])

    def test_leakage_is_told_once_for_a_device(self) -> None:
        pumps = [circuit(id=f"c{at}", device=mcb(16.0), loads=(Load(name="Heat pump", kind="air-conditioner"),)) for at in range(7)]  # fmt: skip
        [one] = groups(behind_one(*pumps), "leakage")
        self.assertEqual((one.verdict, one.findings, one.cause.subject.id), ("advice", 7, "main:r1"))

    def test_the_boards_demand_is_told_with_the_supplys(self) -> None:
        showers = [circuit(id=f"c{at}", loads=(Load(name="S", kind="shower", power_w=9500.0),)) for at in range(4)]
        made = job(*showers)
        [one] = groups(made, "demand")
        self.assertEqual((one.verdict, one.findings, one.cause.subject.kind), ("advice", 2, "supply"))

    def test_what_a_bathroom_asks_is_one_for_the_room(self) -> None:
        bath = Room(id="bath", name="Bath", kind="bath")
        loads = [Load(name=name, kind="heater", power_w=100.0, room="bath") for name in ("Rail", "Mirror")]
        made = job(*(circuit(id=f"c{at}", loads=(load,)) for at, load in enumerate(loads)), rooms=(bath,))
        [one] = groups(made, "special-location")
        self.assertEqual((one.findings, one.cause.subject.kind, one.cause.subject.id), (2, "room", "bath"))


class Groups(unittest.TestCase):
    """The list of causes."""

    def test_every_open_finding_is_in_one_group_and_the_worst_come_first(self) -> None:
        made = design(
            typed(
                "sockets 12m, kitchen",
                "shower 9kW 14m, bathroom",
                "lights 9W 20m",
                "cooker 9kW 60m",
                "charger 7.4kW 12m",
            )
        ).job
        found = assess(made)
        open_ = [one for one in found.findings if one.verdict in OPEN]
        self.assertEqual(sum(one.findings for one in found.causes), len(open_))
        self.assertEqual({one.cause for one in found.causes}, {cause_of(one) for one in open_})
        order = [OPEN.index(one.verdict) for one in found.causes]
        self.assertEqual(order, sorted(order))

    def test_a_finding_alone_is_its_own_cause(self) -> None:
        made = job(circuit(run=(laid(60.0),)))
        [one] = groups(made, "voltage-drop")
        self.assertEqual((one.cause.subject.kind, one.cause.subject.id, one.findings), ("circuit", "c1", 1))


if __name__ == "__main__":
    unittest.main()
