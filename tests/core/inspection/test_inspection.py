"""Observations with the standard's codes, the result of the report, what is open before a job is closed, and signatures.

Which codes make a report unsatisfactory: BS 7671:2018+A2:2022, 653 and Appendix 6; IEC 60364-6, 6.5.4 (both from memory).
"""

from __future__ import annotations

import unittest

from tests.builders import mcb
from tests.core.testing.test_judged_readings import house, radial, with_rows
from vivid_lattice.core.assessment.signatures import is_closed, signed_states
from vivid_lattice.core.assessment.summary import summary_of
from vivid_lattice.core.document.existing_board import ExistingBoard, ExistingWay, Observation
from vivid_lattice.core.document.inspection import Inspection, InspectionObservation
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.work_details import Work
from vivid_lattice.core.errors import BadDocument, NotPossible
from vivid_lattice.core.inspection.observations import CodedObservation, coded_observations, suggested
from vivid_lattice.core.inspection.report_outcome import outcome_of
from vivid_lattice.core.inspection.sign_off import OpenItem, declarations_of, open_items, sign
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.test_plan import plan_of

AT = "2026-11-30T16:00"


def network(of: Job) -> Installation:
    return Installation.of(of, rule_set(of.job.rules))


def with_work(of: Job, kind: Work) -> Job:
    return of.model_copy(update={"work_details": of.work_details.model_copy(update={"kind": kind})})


def observed(of: Job, *observations: InspectionObservation, **more: object) -> Job:
    return of.model_copy(update={"inspection": Inspection(observations=observations, extent="all", **more)})  # type: ignore[arg-type]


def entered(identity: str, kind: str = "", **more: str) -> InspectionObservation:
    return InspectionObservation(id=identity, kind=kind, **more)


def coded(of: Job) -> dict[str, CodedObservation]:
    return {each.id: each for each in coded_observations(network(of))}


def items(of: Job) -> list[OpenItem]:
    net = network(of)
    return list(open_items(net, plan_of(net), judged(net)))


def tested(of: Job) -> Job:
    """Every required test done, as designed."""
    rows = []
    for test in plan_of(network(of)).tests:
        if test.optional:
            continue
        expected = test.expected
        if not test.unit:
            value = "ok"
        elif expected.value is not None:
            value = f"{expected.value:.4f}"
        else:
            value = {"MΩ": ">200", "V": "230", "A": "500", "ms": "20", "mA": "22", "Ω": "0.02"}[test.unit]
        subject = f"{test.subject.kind}:{test.subject.id}"
        rows.append(f"{test.test},{subject},{value}")
    return with_rows(of, *rows)


class Catalogue(unittest.TestCase):
    def test_every_standard_has_codes_for_every_urgency_and_sound_entries(self) -> None:
        for standard in standard_ids():
            rules = rule_set(standard).testing
            with self.subTest(standard):
                self.assertEqual({code.urgency for code in rules.codes}, {"now", "soon", "better", "note"})
                self.assertGreater(len(rules.observations), 9)
                for each in rules.observations:
                    self.assertTrue(each.title and each.reason and each.clause, each.id)
                    self.assertLessEqual(set(each.readings), set(TRAITS), each.id)

    def test_the_codes_of_the_united_kingdom(self) -> None:
        codes = {code.code: code.unsatisfactory for code in rule_set("uk").testing.codes}
        self.assertEqual(codes, {"C1": True, "C2": True, "C3": False, "FI": True})

    def test_what_improves_only_never_makes_a_report_unsatisfactory_and_danger_always_does(self) -> None:
        for standard in standard_ids():
            for code in rule_set(standard).testing.codes:
                if code.urgency != "better":
                    self.assertTrue(code.unsatisfactory, (standard, code.code))


class Result(unittest.TestCase):
    def outcome(self, *observations: InspectionObservation, complete: bool = True) -> bool | None:
        of = observed(house(radial(20.0, 2.5, mcb(20.0))), *observations)
        return outcome_of(rule_set("uk").testing, coded_observations(network(of)), complete=complete).satisfactory

    def test_it_follows_from_the_codes(self) -> None:
        for kind, satisfactory in (
            ("metalwork-live", False),
            ("rcd-fails", False),
            ("untraceable", False),
            ("no-spd", True),
        ):
            self.assertEqual(self.outcome(entered("o1", kind)), satisfactory, kind)

    def test_a_chosen_code_goes_before_the_usual_one(self) -> None:
        self.assertIs(self.outcome(entered("o1", "rcd-type-ac")), True)
        self.assertIs(self.outcome(entered("o1", "rcd-type-ac", code="C2")), False)

    def test_nothing_is_satisfactory_while_something_is_open(self) -> None:
        self.assertIsNone(self.outcome(complete=False))
        self.assertIsNone(self.outcome(entered("o1", text="Ivy in the meter box")))
        self.assertIs(self.outcome(entered("o1", "metalwork-live"), complete=False), False)

    def test_the_most_serious_is_first_and_what_has_no_code_before_it(self) -> None:
        of = observed(
            house(radial(20.0, 2.5, mcb(20.0))),
            entered("o1", "no-spd"), entered("o2", "rcd-fails", subject="c1"), entered("o3", text="Ivy"), entered("o4", "metalwork-live"),
        )  # fmt: skip
        self.assertEqual([each.id for each in coded_observations(network(of))], ["o3", "o4", "o2", "o1"])
        self.assertTrue(coded(of)["o2"].usual)
        self.assertEqual(str(coded(of)["o2"].where), "Heater")

    def test_an_id_that_is_there_twice_is_refused(self) -> None:
        of = observed(house(radial(20.0, 2.5, mcb(20.0))), entered("o1", "no-spd"), entered("o1", "rcd-fails"))
        with self.assertRaises(BadDocument):
            read_document(to_text(of))

    def test_any_kind_and_code_is_read_and_coded(self) -> None:
        # A document of another standard, or of a later program.
        of = observed(
            house(radial(20.0, 2.5, mcb(20.0))),
            entered("o1", "not-a-kind", code="hazard", text="x"),
            entered("o2", "rcd-fails", code="C9"),
        )
        found = coded(read_document(to_text(of)))
        self.assertIsNone(found["o1"].code)
        code = found["o2"].code
        assert code is not None
        self.assertEqual((code.code, found["o2"].usual), ("C2", True))


class Surveyed(unittest.TestCase):
    def surveyed(self, replaced_by: str | None) -> Job:
        ways = (
            ExistingWay(number=1, kind="rewirable", rating_a=30.0, label="Ring", tested=True),
            ExistingWay(number=2, kind="open"),
        )
        seen = (Observation(kind="burnt-terminal", way=1, note="brown"),)
        board = ExistingBoard(id="old", name="Old board", ways=ways, observations=seen, replaced_by=replaced_by)
        of = house(radial(20.0, 2.5, mcb(20.0)))
        return of.model_copy(update={"survey": of.survey.model_copy(update={"boards": (board,)})})

    def test_what_a_survey_found_is_coded_by_its_urgency(self) -> None:
        found = {str(each.title): each for each in coded_observations(network(self.surveyed(None)))}
        for title, code in (
            ("Burnt or discoloured terminal", "C1"),
            ("Missing blank", "C1"),
            ("No RCD protection", "C2"),
        ):
            coded_as = found[title].code
            assert coded_as is not None
            self.assertEqual(coded_as.code, code, title)
        self.assertNotIn("Rewirable fuse", found)

    def test_a_board_that_is_replaced_leaves_it_behind(self) -> None:
        self.assertEqual(coded_observations(network(self.surveyed("main"))), ())


class Suggested(unittest.TestCase):
    def test_a_failing_reading_suggests_what_it_can_show_until_that_is_entered(self) -> None:
        of = with_rows(house(radial(20.0, 2.5, mcb(20.0))), "zs,1,9", "ir_le,1,0.2", "pol,1,ok")
        net = network(of)
        found = {
            each.test.id if hasattr(each.test, "id") else str(each.test): each for each in suggested(net, judged(net))
        }
        self.assertEqual(len(found), 2)
        kinds = {kind.id for each in found.values() for kind in each.kinds}
        self.assertLessEqual({"zs-high-no-rcd", "insulation-low"}, kinds)
        self.assertTrue(all(each.subject == "c1" for each in found.values()))
        done = observed(
            of, entered("o1", "zs-high-no-rcd", subject="c1"), entered("o2", text="Damp", subject="c1", code="C2")
        )
        net = network(done)
        self.assertEqual(suggested(net, judged(net)), ())

    def test_what_a_system_cannot_have_is_not_suggested_and_the_typical_comes_first(self) -> None:
        of = with_rows(house(radial(20.0, 2.5, mcb(20.0))), "zs,1,9")
        for system, first, tt in (("TN-C-S", "zs-high-no-rcd", False), ("TT", "tt-no-rcd", True)):
            supply = of.supply.model_copy(update={"system": system})
            net = network(of.model_copy(update={"supply": supply}))
            [only] = suggested(net, judged(net))
            self.assertEqual(only.kinds[0].id, first)
            self.assertEqual("tt-no-rcd" in {kind.id for kind in only.kinds}, tt)

    def test_an_observation_of_another_circuit_does_not_cover_it(self) -> None:
        of = with_rows(house(radial(20.0, 2.5, mcb(20.0))), "zs,1,9")
        net = network(observed(of, entered("o1", "zs-high-no-rcd")))
        self.assertEqual(len(suggested(net, judged(net))), 1)


class SignedOff(unittest.TestCase):
    def sound(self) -> Job:
        return tested(house(radial(20.0, 2.5, mcb(20.0))))

    def test_every_test_is_done_or_a_reason_is_there(self) -> None:
        of = with_work(house(radial(20.0, 2.5, mcb(20.0))), "inspection")
        required = sum(not test.optional for test in plan_of(network(of)).tests)
        [item] = [item for item in items(of) if item.kind == "test"]
        self.assertIn(f"{required} tests are not done", str(item.text))
        self.assertIn(f"and {required - 3} more", str(item.text))
        of = observed(tested(of))
        self.assertEqual([str(item.text) for item in items(of)], [])
        left = of.testing.readings[0].model_copy(update={"state": "left-out", "value": None})
        readings = (left, *of.testing.readings[1:])
        for reason, kinds in (("", ["reason"]), ("No access", [])):
            readings = (left.model_copy(update={"reason": reason}), *readings[1:])
            again = of.model_copy(update={"testing": of.testing.model_copy(update={"readings": readings})})
            self.assertEqual([item.kind for item in items(again)], kinds, reason)

    def test_an_inspection_states_its_extent_and_tells_of_what_fails(self) -> None:
        of = with_work(self.sound(), "inspection")
        self.assertEqual([item.kind for item in items(of)], ["extent"])
        readings = tuple(
            each.model_copy(update={"value": 9.0}) if each.test == "zs" else each for each in of.testing.readings
        )
        bad = observed(of.model_copy(update={"testing": of.testing.model_copy(update={"readings": readings})}))
        self.assertIn("failing", [item.kind for item in items(bad)])
        told = observed(bad, entered("o1", "zs-high-no-rcd", subject="c1"))
        self.assertEqual([item.kind for item in items(told)], [])
        self.assertEqual([item.kind for item in items(observed(of, entered("o1", text="Ivy")))], ["code"])

    def test_new_work_is_not_signed_while_a_check_fails_or_a_value_is_missing(self) -> None:
        of = with_work(self.sound(), "new-circuit")
        long = of.circuits[0].model_copy(
            update={"run": (of.circuits[0].run[0].model_copy(update={"length_m": 190.0}),)}
        )
        self.assertIn("check", [item.kind for item in items(of.model_copy(update={"circuits": (long,)}))])
        unknown = of.model_copy(update={"supply": of.supply.model_copy(update={"cutout": None})})
        self.assertIn("input", [item.kind for item in items(unknown)])

    def test_a_job_is_closed_by_the_signature_of_the_inspector_and_open_again_after_a_change(self) -> None:
        of = observed(with_work(self.sound(), "inspection"))
        self.assertFalse(is_closed(of))
        designed = sign(of, "design", "R. Sluice", AT)
        self.assertFalse(is_closed(designed))
        signed = sign(designed, "inspection", "E. Weir", AT, "Electrician")
        self.assertTrue(is_closed(signed))
        self.assertTrue(summary_of(signed).closed)
        self.assertEqual(read_document(to_text(signed)), signed)
        changed = signed.model_copy(update={"testing": signed.testing.model_copy(update={"temperature_c": 9.0})})
        self.assertFalse(is_closed(changed))
        self.assertEqual([state.unchanged for state in signed_states(changed)], [False, False])
        again = sign(changed, "inspection", "E. Weir", AT)
        self.assertEqual([each.role for each in again.inspection.signatures], ["design", "inspection"])
        self.assertTrue(is_closed(again))

    def test_what_is_declared_of_new_work_and_of_an_inspection(self) -> None:
        new = with_work(self.sound(), "new-circuit")
        self.assertEqual(
            [(each.role, each.ready, each.signed) for each in declarations_of(new, items(new))],
            [("design", True, None), ("construction", True, None), ("inspection", not items(new), None)],
        )
        found = with_work(self.sound(), "inspection")
        self.assertEqual(
            [(each.role, each.ready) for each in declarations_of(found, items(found))], [("inspection", False)]
        )
        signed = sign(observed(found), "inspection", "E. Weir", AT)
        [declared] = declarations_of(signed, items(signed))
        assert declared.signed is not None
        self.assertTrue(declared.ready and declared.signed.unchanged)

    def test_what_is_open_is_refused_with_the_first_item_and_how_many_more(self) -> None:
        of = with_work(house(radial(20.0, 2.5, mcb(20.0))), "inspection")
        with self.assertRaises(NotPossible) as refused:
            sign(of, "inspection", "E. Weir", AT)
        self.assertIn("not done", str(refused.exception))
        self.assertIn("One more item is open", str(refused.exception))


if __name__ == "__main__":
    unittest.main()
