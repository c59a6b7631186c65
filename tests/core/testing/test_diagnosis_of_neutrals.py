"""What readings mean that are taken where there is a doubt: loads on, between circuits, to a true earth. Jobs and readings as they are typed.

Which defect gives which reading is common practice, no source; the currents and voltages are Kirchhoff's and Ohm's laws.
"""

from __future__ import annotations

import unittest

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import Job, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.readings import Testing
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.diagnosis.facts import facts_of
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.reading_table import read_readings
from vivid_lattice.core.testing.reading_text import reading_text


def typed(standard: str, system: str, *lines: str, phases: int | None = None) -> Job:
    job = begin("Malthouse", rule_set(standard), system, phases)  # type: ignore[arg-type]
    for line in lines:
        job = enter_and_design(job, line, "main").job
    return job


def sharing(job: Job) -> Job:
    """The circuits behind two residual-current devices, the odd ways behind the first; their own ones are breakers."""
    [board] = job.boards
    rcds = tuple(SharedRcd(id=f"r{n}", name=f"RCD {n}", rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for n in (1, 2))
    ways = tuple(way.model_copy(update={"rcd": f"r{1 + number % 2}"}) for number, way in enumerate(board.ways))
    circuits = tuple(
        each.model_copy(update={"device": each.device.model_copy(update={"kind": "mcb", "rcd": None})})  # type: ignore[union-attr]
        for each in job.circuits
    )
    boards = (board.model_copy(update={"shared_rcds": rcds, "ways": ways}),)
    return job.model_copy(update={"boards": boards, "circuits": circuits})


def found(job: Job, *rows: str) -> tuple[Diagnosis, ...]:
    rules = rule_set(job.job.rules)
    read = read_readings(Installation.of(job, rules), "test,subject,value\n" + "\n".join(rows))
    assert not read.problems, read.problems
    network = Installation.of(job.model_copy(update={"testing": Testing(readings=read.readings)}), rules)
    return diagnosed(network, judged(network))


def names(diagnosis: Diagnosis) -> list[str]:
    return [" + ".join(each.removeprefix("common.defect.") for each in one.ids) for one in diagnosis.possible]


HOUSE = typed("uk", "TN-C-S", "kitchen sockets radial 20m", "cooker 32A 14m", "lights 24m", "garden sockets radial 26m")
SHARED = sharing(HOUSE)


class Loads(unittest.TestCase):
    """A device that holds in every test of the sequence, and trips as soon as something runs."""

    def only(self, job: Job, *rows: str) -> Diagnosis:
        told = found(job, *rows)
        self.assertEqual(len(told), 1, [names(each) for each in told])
        return told[0]

    def test_one_circuit_alone_and_its_neutral_is_on_another_bar(self) -> None:
        told = self.only(SHARED, "rcd_load,1,trips", "rcd_other,1,holds", "ident,1,wrong", "r_nn,1,LIM", "r1rn,1,0.30")
        self.assertEqual(names(told)[0], "neutral-wrong-bar")
        self.assertEqual(told.possible[0].danger, "soon")

    def test_every_circuit_of_the_device_and_it_is_told_once_of_the_device(self) -> None:
        told = self.only(
            SHARED, "rcd_load,1,trips", "rcd_load,3,trips", "ident,1,ok", "ident,3,ok", "r_nn,1,LIM", "r_nn,3,LIM"
        )
        self.assertEqual((names(told)[0], str(told.name)), ("rcd-neutral-crossed", "RCD 1"))

    def test_the_loads_of_the_other_circuits_are_taken_from_their_own_readings(self) -> None:
        alone = self.only(SHARED, "rcd_load,1,trips", "rcd_load,3,holds", "ident,1,ok", "r_nn,1,LIM")
        self.assertNotIn("rcd-neutral-crossed", names(alone)[:1])

    def test_two_neutrals_joined_in_a_box(self) -> None:
        told = self.only(HOUSE, "rcd_load,1,trips", "r_nn,1,0.7", "ident,1,ok")
        self.assertEqual(names(told)[0], "neutrals-joined")
        self.assertAlmostEqual(told.possible[0].unknowns[0]["RnB"], 0.7 - 0.148, delta=0.05)

    def test_the_neutral_of_an_rcbo_on_the_main_bar(self) -> None:
        told = self.only(
            HOUSE,
            "rcd_load,1,trips",
            "r_nn,1,LIM",
            "ident,1,ok",
            "i_res,1,4.2",
            "rcd_half,1,holds",
            "ir_ne,1,>200",
            "r1rn,1,0.30",
        )
        self.assertEqual((names(told)[0], told.certain), ("rcbo-neutral-bypass", True))

    def test_a_borrowed_neutral_reads_open_against_its_own(self) -> None:
        told = self.only(HOUSE, "rcd_load,3,trips", "ident,3,wrong", "r1rn,3,LIM", "zln,3,0.9", "pfc_ln,main,800")
        self.assertEqual((names(told)[0], told.possible[0].danger), ("borrowed-neutral", "now"))

    def test_what_tells_the_first_two_apart_is_asked_next(self) -> None:
        told = self.only(SHARED, "rcd_load,1,trips", "ident,1,wrong")
        assert told.next_test is not None and told.next_test.reading is not None
        self.assertIn(told.next_test.reading.test, ("r1rn", "rcd_other", "i_res", "r_nn"))


class Seen(unittest.TestCase):
    def first(self, job: Job, *rows: str) -> list[str]:
        [told] = found(job, *rows)
        return names(told)

    def test_a_circuit_that_another_breaker_feeds_and_one_that_two_feed(self) -> None:
        self.assertEqual(self.first(HOUSE, "ident,1,wrong", "r_cc,1,LIM", "rcd_1,1,24")[0], "circuit-other-breaker")
        self.assertEqual(self.first(HOUSE, "ident,1,wrong", "r_cc,1,0.6")[0], "two-feeds")

    def test_a_breaker_that_is_not_as_designed(self) -> None:
        self.assertIn("breaker-too-large", self.first(HOUSE, "insp,1,wrong", "func,1,ok", "rcd_button,1,ok"))
        self.assertEqual(self.first(HOUSE, "insp,1,wrong", "func,1,wrong")[0], "breaker-too-small")

    def test_one_that_trips_after_minutes_is_loaded_too_much_or_has_a_hot_terminal(self) -> None:
        self.assertEqual(self.first(HOUSE, "func,2,wrong", "insp,2,ok", "temp,2,ok")[0], "overload")

    def test_a_contactor_is_blamed_only_where_there_is_one(self) -> None:
        self.assertNotIn("contactor-welded", self.first(HOUSE, "func,1,wrong", "insp,1,ok"))
        gear = ControlGear(id="k1", name="Contactor", kind="contactor", switches=(HOUSE.circuits[0].id,))
        board = HOUSE.boards[0].model_copy(update={"control_gear": (gear,)})
        self.assertIn(
            "contactor-welded", self.first(HOUSE.model_copy(update={"boards": (board,)}), "func,1,wrong", "insp,1,ok")
        )

    def test_a_lampholder_is_blamed_only_on_a_lighting_circuit(self) -> None:
        told = self.first(HOUSE, "pol,3,wrong", "r1r2,3,0.85", "r1rn,3,0.87", "r2,3,0.43")
        self.assertEqual(set(told), {"switch-in-neutral", "lampholder-shell-live"})
        self.assertNotIn("lampholder-shell-live", self.first(HOUSE, "pol,1,wrong", "r1r2,1,LIM", "r1rn,1,0.3"))

    def test_a_bond_that_is_not_there_and_a_spent_surge_device(self) -> None:
        [bond] = found(HOUSE, "r_bond,bond:main/1,LIM")
        self.assertEqual((bond.circuit, bond.certain), ("bond:main/1", True))
        self.assertEqual(set(names(bond)), {"bond-missing", "bond-false", "not-extraneous"})
        [surge] = found(HOUSE, "spd,spd:main/spd,wrong")
        self.assertEqual(names(surge), ["spd-failed"])


class Lines(unittest.TestCase):
    def test_a_multiwire_circuit_on_one_line_and_with_its_neutral_open(self) -> None:
        job = typed("na", "TN-C-S", "multiwire receptacles 20A 18m", "lights 20m")
        job = job.model_copy(update={"supply": job.supply.model_copy(update={"ze_ohm": 0.2})})
        [told] = found(job, "u_ll,1,2", "r1rn,1,0.20")
        self.assertEqual(names(told)[0], "mwbc-same-line")
        [told] = found(job, "r1rn,1,LIM", "u_ln,1,168", "u_ll,1,240")
        self.assertEqual((names(told)[0], told.possible[0].danger), ("mwbc-open-neutral", "now"))

    def test_three_phases_out_of_order_and_one_of_them_twice(self) -> None:
        job = typed("iec", "TN-S", "heat pump 16A 3ph 18m", "sockets 18m", phases=3)
        [told] = found(job, "rot,circuit:c1,wrong", "u_ll,circuit:c1,400")
        self.assertEqual(names(told)[0], "phase-rotation")
        [told] = found(job, "rot,circuit:c1,wrong", "u_ll,circuit:c1,0")
        self.assertEqual(names(told)[0], "line-from-other-phase")


class OfTheSupply(unittest.TestCase):
    """Told once, of the supply."""

    ROWS = ("r1r2,1,0.39", "r1r2,4,0.51")

    def told(self, job: Job, *rows: str) -> Diagnosis:
        return next(each for each in found(job, *rows) if each.circuit == "")

    def test_a_broken_pen_drives_both_loops_through_the_ground(self) -> None:
        told = self.told(
            HOUSE, *self.ROWS, "ze,supply,14", "pfc_ln,main,17", "zs,1,14.4", "zs,4,14.5", "r_me,supply,0.02"
        )
        self.assertEqual((names(told)[0], told.possible[0].danger), ("pen-open", "now"))

    def test_a_tt_supply_has_no_pen(self) -> None:
        job = typed("uk", "TT", "sockets radial 20m", "lights 24m")
        told = found(job, "ze,supply,900", "ra,electrode:supply,895", "zs,1,900")
        self.assertTrue(all("pen-open" not in name for each in told for name in names(each)))
        self.assertTrue(any("tt-rod-dry" in name for each in told for name in names(each)[:1]))

    def test_line_and_neutral_exchanged_at_the_board(self) -> None:
        rows = ("ze,supply,LIM", "zs,1,LIM", "zs,4,LIM", "u_ne,supply,231", "u_le,supply,1", "r_me,supply,0.02")
        self.assertEqual(names(self.told(HOUSE, *self.ROWS, *rows))[0], "reversed-at-board")

    def test_a_poor_earth_that_was_read_with_the_bonds_connected(self) -> None:
        rows = ("r1r2,3,0.87", "ze,supply,0.18", "zs,1,1.60", "zs,3,2.08", "zs,4,1.72")
        told = self.told(HOUSE, *self.ROWS, *rows)
        self.assertEqual((names(told)[0], told.possible[0].danger), ("ze-with-parallel-paths", "hidden"))
        self.assertAlmostEqual(told.possible[0].unknowns[0]["Zt"], 1.21, delta=0.06)

    def test_an_outbuilding_on_its_own_electrode_that_reads_like_the_house(self) -> None:
        job = typed("uk", "TN-C-S", "kitchen ring 44m", "feeder 20m 3x10 swa 32A own electrode 30 ohm")
        job = enter_and_design(job, "sockets radial 14m", "sub").job
        [circuit] = [each for each in job.circuits if each.name.startswith("Sockets")]
        self.assertIn("own-electrode", facts_of(Installation.of(job, rule_set("uk")), circuit))
        told = found(job, f"r1r2,{circuit.id},0.27", f"zs,{circuit.id},0.9", "ra,electrode:sub,29")
        self.assertEqual([names(each)[0] for each in told], ["tt-tn-mixed"])


class Typing(unittest.TestCase):
    def test_a_device_that_trips_with_a_load_on_is_not_right(self) -> None:
        self.assertEqual(reading_text("trips", "rcd_load").state, "wrong")
        self.assertEqual(reading_text("holds", "rcd_load").state, "right")
        self.assertEqual(reading_text("trips", "rcd_button").state, "right")

    def test_no_live_test_is_asked_for_while_insulation_fails(self) -> None:
        for row in ("ir_le,1,0.00", "ir_le,1,0.4", "ir_ln,1,0.2"):
            [told] = found(HOUSE, row)
            reading = told.next_test.reading if told.next_test is not None else None
            with self.subTest(row):
                self.assertFalse(reading is not None and reading.live, reading)


if __name__ == "__main__":
    unittest.main()
