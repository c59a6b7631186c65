"""Tails, main switch and control gear: a pass, a fail and a missing input in each standard, from typed supplies and lines."""

from __future__ import annotations

import unittest
from typing import Any, ClassVar

from tests.core.document.test_feeds import typed
from vivid_lattice.core.actions.new_job import blank
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import Job, MainSwitch
from vivid_lattice.core.document.supply import CutOut
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set, standard_ids


def finding(job: Job, check: str, subject: str) -> Finding:
    """The finding of a check of a board or of the supply."""
    return next(one for one in assess(job).findings if one.check == check and one.subject.id == subject)


def tails(rules: str, line: str, **changed: Any) -> Finding:
    job = set_supply(blank("Mill", rule_set(rules)), line).job
    if changed and job.supply.tails:
        supply = job.supply.model_copy(update={"tails": job.supply.tails.model_copy(update=changed)})
        job = checked(job.model_copy(update={"supply": supply}))
    return finding(job, "tails", "supply")


class Tails(unittest.TestCase):
    """The conductors from the meter to the first board."""

    #: In each standard a line that passes, one whose tails are too small, one that lacks their size.
    CASES: ClassVar[dict[str, tuple[str, str, str]]] = {
        "uk": ("TN-C-S 100A 16kA tails 25mm2 3m", "TN-C-S 100A 16kA tails 6mm2 9m", "TN-C-S 100A 16kA"),
        "anz": ("MEN 63A 6kA tails 16mm2 9m", "MEN 80A 6kA tails 16mm2 9m", "MEN 63A 6kA"),
        "anz-nz": ("MEN 63A 6kA tails 16mm2 9m", "MEN 80A 6kA tails 10mm2 9m", "MEN 63A 6kA"),
        "iec": ("TN-C-S 40A gG 6kA tails 10mm2 9m", "TN-C-S 63A gG 6kA tails 10mm2 9m", "TN-C-S 40A gG"),
        "iec-de": ("TN-C-S 63A gG 6kA tails 16mm2 9m", "TN-C-S 63A gG 6kA tails 6mm2 9m", "TN-C-S 63A gG"),
        "za": ("TN-S C60 6kA tails 16mm2 9m", "TN-S C60 6kA tails 10mm2 9m", "TN-S C60 6kA"),
        "na": ("TN-C-S 200A 10kA tails 2/0 5m", "TN-C-S 200A 10kA tails 1/0 5m", "TN-C-S 200A 10kA"),
    }

    def test_each_standard_passes_fails_and_asks(self) -> None:
        self.assertEqual(set(self.CASES), set(standard_ids()))
        for rules, (good, small, starved) in self.CASES.items():
            with self.subTest(rules):
                self.assertEqual(tails(rules, good).verdict, "pass", tails(rules, good).sentence)
                self.assertEqual(tails(rules, small).verdict, "fail")
                self.assertEqual(tails(rules, starved).verdict, "missing")

    def test_without_the_cut_out_nothing_passes(self) -> None:
        for rules in standard_ids():
            system = self.CASES[rules][0].split()[0]
            size = "2/0" if rules == "na" else "25mm2"
            self.assertEqual(tails(rules, f"{system} 6kA tails {size} 2m").verdict, "missing", rules)

    def test_at_the_boundary_of_their_capacity(self) -> None:
        # BS 7671:2018, Table 4D1A, method C, two cables: 25 mm² 114 A, 16 mm² 87 A (from memory).
        for rating, size, verdict in ((87.0, 16, "pass"), (88.0, 16, "fail"), (114.0, 25, "pass"), (115.0, 25, "fail")):
            job = set_supply(blank("Mill", rule_set("uk")), f"80A 1.4kA tails {size}mm2 2m").job
            assert job.supply.cutout is not None
            cutout = job.supply.cutout.model_copy(update={"rating_a": rating})
            made = job.model_copy(update={"supply": job.supply.model_copy(update={"cutout": cutout})})
            got = finding(made, "tails", "supply")
            with self.subTest(rating, size=size):
                self.assertEqual((got.verdict, got.value), (verdict, rating))

    def test_their_length_and_a_device_of_their_own(self) -> None:
        # On-Site Guide and distributors: 3 m from the meter; beyond it a switch-fuse beside it. Practice.
        self.assertEqual(tails("uk", "100A 16kA tails 25mm2 3m").verdict, "pass")
        long = tails("uk", "100A 16kA tails 25mm2 3.1m")
        self.assertEqual((long.verdict, long.value, long.limit), ("fail", 3.1, 3.0))
        self.assertEqual(tails("uk", "100A 16kA tails 25mm2").verdict, "missing")
        own = tails("uk", "100A 16kA tails 25mm2 9m", device=CutOut(kind="fuse-bs88-2", rating_a=80.0))
        self.assertEqual(own.verdict, "pass", str(own.sentence))
        small = tails("uk", "100A 16kA tails 10mm2 9m", device=CutOut(kind="fuse-bs88-2", rating_a=80.0))
        self.assertEqual((small.verdict, small.value), ("fail", 80.0))
        # IEC 60364-4-43, 433.2.2: 3 m only where the cut-out does not protect them; here it fails by size and by length.
        self.assertEqual(tails("iec", "TN-C-S 40A gG 6kA tails 10mm2 30m").verdict, "pass")

    def test_aluminium_carries_less_and_an_unknown_material_is_an_assumption(self) -> None:
        self.assertEqual(tails("uk", "100A 16kA tails 25mm2 2m aluminium").verdict, "fail")  # 0.78 · 114 = 88.9 A
        got = tails("uk", "80A 6kA tails 25mm2 2m aluminium")
        self.assertEqual(got.verdict, "pass")
        self.assertAlmostEqual(got.limit or 0, 0.78 * 114)
        self.assertEqual(got.assumptions, ())
        [assumed] = tails("uk", "100A 16kA tails 25mm2 2m").assumptions
        self.assertEqual((assumed.field, assumed.value), ("supply.tails.material", "copper"))
        # NEC 310.12(A), 83 % rule, from memory: 4/0 aluminium or 2/0 copper for 200 A.
        self.assertEqual(tails("na", "TN-C-S 200A 10kA tails 4/0 aluminum").verdict, "pass")
        self.assertEqual(tails("na", "TN-C-S 200A 10kA tails 2/0 aluminum").verdict, "fail")

    def test_a_failing_size_is_not_hidden_by_a_missing_length(self) -> None:
        self.assertEqual(tails("uk", "100A 16kA tails 6mm2").verdict, "fail")


def board(rules: str, *lines: str, switch: float | None, cutout: str = "") -> Job:
    """A job of typed lines with a main switch of a rating, behind a cut-out."""
    job = typed(*lines, rules=rules)
    if cutout:
        job = set_supply(job, cutout).job
    main = MainSwitch(rating_a=switch) if switch else None
    return job.model_copy(update={"boards": (job.boards[0].model_copy(update={"main_switch": main}),)})


#: Two circuits of 40 A and one of 10 A behind a cut-out of 100 A, in each standard.
BIG = {
    "uk": ("shower 9kW B40", "cooker 9kW B40", "lights 9W B10"), "anz": ("cooker 9kW C40", "shower 9kW C40", "lights 9W C10"),
    "anz-nz": ("cooker 9kW C40", "shower 9kW C40", "lights 9W C10"), "iec": ("cooker 9kW B40", "flow heater 9kW B40", "lights 9W B10"),
    "iec-de": ("Herd 9kW B40 L1", "Durchlauferhitzer 9kW B40 L1", "Licht 9W B10"), "za": ("stove 9kW C40", "shower 9kW C40", "lights 9W C10"),
}  # fmt: skip
CUTOUTS = {"uk": "100A", "anz": "100A", "anz-nz": "100A", "iec": "100A gG", "iec-de": "100A gG", "za": "C100"}


class MainSwitches(unittest.TestCase):
    """Diversity alone does not protect a switch: 63 A behind 100 A, with 90 A of breakers, passed before."""

    def test_each_standard_passes_fails_and_asks(self) -> None:
        for rules, lines in BIG.items():
            with self.subTest(rules):
                wrong = finding(board(rules, *lines, switch=63.0, cutout=CUTOUTS[rules]), "main-switch", "main")
                self.assertEqual((wrong.verdict, wrong.value, wrong.limit), ("fail", 90.0, 63.0))
                for good in (100.0, 90.0):
                    made = board(rules, *lines, switch=good, cutout=CUTOUTS[rules])
                    self.assertEqual(finding(made, "main-switch", "main").verdict, "pass", good)
                self.assertEqual(finding(board(rules, *lines, switch=None), "main-switch", "main").verdict, "missing")
                open_ = (*lines, "heater 2kW 9m")
                starved = board(rules, *open_, switch=63.0, cutout=CUTOUTS[rules])
                self.assertEqual(
                    finding(starved, "main-switch", "main").verdict, "fail"
                )  # 90 A of those chosen are too many
                few = board(rules, lines[2], "heater 2kW 9m", switch=63.0, cutout=CUTOUTS[rules])
                self.assertEqual(finding(few, "main-switch", "main").verdict, "missing")

    def test_a_main_breaker_protects_itself(self) -> None:
        made = board("na", "range 12kW 40A", switch=60.0)
        self.assertEqual(finding(made, "main-switch", "main").verdict, "not-applicable")

    def test_the_upstream_device_is_enough(self) -> None:
        made = board("uk", *BIG["uk"], switch=63.0, cutout="63A")
        got = finding(made, "main-switch", "main")
        self.assertEqual((got.verdict, got.value), ("pass", 63.0))
        # Not known what is upstream, and more downstream than it carries: the cut-out is asked for.
        bare = made.model_copy(update={"supply": made.supply.model_copy(update={"cutout": None})})
        self.assertEqual(finding(bare, "main-switch", "main").verdict, "missing")


def geared(rules: str, line: str, **gear: Any) -> Finding:
    """A typed circuit with a piece of control gear."""
    job = typed(line, rules=rules)
    made = ControlGear.model_validate({"id": "k1", "name": "Gear", "switches": ("c1",)} | gear, strict=False)
    held = job.boards[0].model_copy(update={"control_gear": (made,)})
    return finding(checked(job.model_copy(update={"boards": (held,)})), "control-gear", "main")


#: A fixed heater of 4.5 kW behind 32 A or the like, in each standard.
HEATERS = {
    "uk": "water heater 4.5kW B32 9m", "anz": "water heater 4.5kW C25 9m", "anz-nz": "water heater 4.5kW C25 9m", "iec": "water heater 4.5kW B25 9m",
    "iec-de": "water heater 4.5kW B25 9m L1", "za": "geyser 4.5kW C25 9m", "na": "water heater 4.5kW 25A 9m",
}  # fmt: skip
#: What it draws [A]: 4500 W / 230 V, or between the two legs of 240 V.
HEATER_A = {rules: 4500 / (240 if rules == "na" else 230) for rules in HEATERS}


class ContactorAhead(unittest.TestCase):
    """A 20 A contactor upstream of a 45 A shower was not noticed."""

    def test_each_standard_passes_fails_and_asks(self) -> None:
        for rules, line in HEATERS.items():
            with self.subTest(rules):
                good = geared(rules, line, kind="contactor", rating_a=25.0, max_backup_a=200.0)
                self.assertEqual(good.verdict, "pass", str(good.sentence))
                bad = geared(rules, line, kind="contactor", rating_a=16.0, max_backup_a=200.0)
                self.assertEqual((bad.verdict, bad.limit), ("fail", 16.0))
                self.assertAlmostEqual(bad.value or 0, HEATER_A[rules], places=6)
                self.assertEqual(
                    geared(rules, line, kind="contactor", rating_a=25.0).verdict, "missing"
                )  # its back-up device
                without = line.replace("4.5kW", "").replace("  ", " ")
                starved = geared(rules, without, kind="isolator", rating_a=63.0)
                self.assertEqual(starved.verdict, "missing")

    def test_the_shower_and_its_contactor(self) -> None:
        got = geared("uk", "shower 10.5kW B45 10mm 17m", kind="contactor", rating_a=20.0, max_backup_a=100.0)
        self.assertEqual((got.verdict, got.limit), ("fail", 20.0))
        self.assertAlmostEqual(got.value or 0, 10500 / 230)

    def test_motors_go_by_their_own_category(self) -> None:
        line = "pump 1.5kW pf 0.8 C16 9m"
        self.assertEqual(geared("uk", line, kind="time-switch", rating_a=16.0).verdict, "missing")
        self.assertEqual(geared("uk", line, kind="time-switch", rating_a=16.0, motor_rating_a=9.0).verdict, "pass")
        got = geared("uk", line, kind="time-switch", rating_a=16.0, motor_rating_a=8.0)
        self.assertEqual(got.verdict, "fail")
        self.assertAlmostEqual(got.value or 0, 1500 / 230 / 0.8)

    def test_what_can_be_overloaded_needs_the_rating_of_its_device(self) -> None:
        for rating, verdict in ((20.0, "pass"), (16.0, "fail")):
            got = geared(
                "uk", "4 sockets B20 30mA 20m surface", kind="impulse-relay", rating_a=rating, max_backup_a=63.0
            )
            self.assertEqual(got.verdict, verdict, str(got.sentence))
        # A fixed heater cannot overload it: 13 A through 16 A, behind 20 A that the manufacturer permits.
        fixed = geared("uk", "heater 3kW B20 9m", kind="impulse-relay", rating_a=16.0, max_backup_a=20.0)
        self.assertEqual(fixed.verdict, "pass")
        self.assertEqual(
            geared("uk", "heater 3kW B20 9m", kind="impulse-relay", rating_a=16.0, max_backup_a=16.0).verdict, "fail"
        )

    def test_a_socket_on_the_rail_goes_by_its_device(self) -> None:
        for rules, line, rating, verdict in (
            ("uk", "4 sockets B32 30mA 20m", 13.0, "pass"),
            ("uk", "4 sockets B32 30mA 20m", 16.0, "fail"),
            ("iec", "4 sockets B16 30mA 20m", 16.0, "pass"),
            ("iec", "4 sockets B20 30mA 20m", 16.0, "fail"),
            ("anz", "4 sockets C20 RCBO 20m", 10.0, "pass"),
            ("za", "4 sockets C20 30mA 20m", 16.0, "pass"),
            ("na", "4 receptacles 20A GFCI 20ft", 15.0, "pass"),
            ("uk", "4 sockets 20m", 13.0, "missing"),
        ):
            with self.subTest(rules, line=line, rating=rating):
                self.assertEqual(geared(rules, line, kind="socket", rating_a=rating).verdict, verdict)

    def test_a_typed_isolator_is_judged(self) -> None:
        for line, verdict in (
            ("shower 10.5kW B45 10mm 17m 20A DP", "fail"),
            ("shower 10.5kW B45 10mm 17m 50A pull cord", "pass"),
            ("shower 10.5kW B45 10mm 17m", "not-applicable"),
        ):
            with self.subTest(line):
                got = finding(typed(line), "control-gear", "main")
                self.assertEqual(got.verdict, verdict, str(got.sentence))


if __name__ == "__main__":
    unittest.main()
