"""Advice that is accepted with a reason: quiet while it says the same and is no worse, raised again once it changes.

The jobs are typed as people type them. Values are of no standard: what is tested is what becomes of the advice.
"""

from __future__ import annotations

import unittest

from vivid_lattice.core.actions.accept_advice import accept_advice, raise_again
from vivid_lattice.core.actions.enter_line import enter_line
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.assessment.causes import cause_of
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.remedies import remedies
from vivid_lattice.core.document.changes import differences
from vivid_lattice.core.document.job import Job, with_parts
from vivid_lattice.core.findings.assessment import Assessment
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Subject
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import demo_job

LEADS = Cause("surge", CauseSubject("supply", "supply"))
KILN_FEED = Cause("selectivity-short-circuit", CauseSubject("circuit", "c12"))


def kinds(assessment: Assessment) -> list[str]:
    return [step.kind for step in assessment.next_steps]


class Accepting(unittest.TestCase):
    """Of the mill: surge leads of 0.7 m where 0.5 m is recommended, and partial selectivity between its boards."""

    job: Job

    @classmethod
    def setUpClass(cls) -> None:
        cls.job = accept_advice(
            demo_job("millrace"), LEADS, "Short leads are not possible here.", "A. Tester", "2027-03-01"
        )
        cls.before, cls.after = assess(demo_job("millrace")), assess(cls.job)

    def test_it_is_out_of_the_list_and_keeps_its_reason(self) -> None:
        self.assertIn(LEADS, [cause.cause for cause in self.before.causes])
        self.assertNotIn(LEADS, [cause.cause for cause in self.after.causes])
        (entry,) = self.after.accepted
        self.assertEqual(
            (entry.cause, entry.reason, entry.name), (LEADS, "Short leads are not possible here.", "A. Tester")
        )
        self.assertEqual(self.after.counts["advice"], self.before.counts["advice"] - 1)

    def test_the_results_themselves_do_not_change(self) -> None:
        for was, now in zip(self.before.findings, self.after.findings, strict=True):
            self.assertEqual((was.verdict, was.sentence, was.margin), (now.verdict, now.sentence, now.margin))
        (quiet,) = (finding for finding in self.after.findings if finding.accepted)
        self.assertEqual((quiet.check, quiet.verdict), ("surge", "advice"))

    def test_it_is_written_and_read_again_and_told_as_a_change(self) -> None:
        self.assertEqual(read_document(to_text(self.job)), self.job)
        self.assertEqual(
            [str(text) for text in differences(demo_job("millrace"), self.job)], ["Accepted advice changed"]
        )

    def test_it_is_raised_again_by_hand(self) -> None:
        self.assertEqual(raise_again(self.job, LEADS), demo_job("millrace"))
        with self.assertRaises(KeyError):
            raise_again(demo_job("millrace"), LEADS)

    def test_one_cause_with_several_circuits_is_accepted_at_once(self) -> None:
        members = [finding for finding in self.before.findings if cause_of(finding) == KILN_FEED]
        self.assertGreater(len(members), 1)
        after = assess(accept_advice(self.job, KILN_FEED, "Usual with a breaker upstream."))
        self.assertEqual(sum(bool(finding.accepted) for finding in after.findings), len(members) + 1)

    def test_what_fails_or_lacks_an_input_is_never_accepted(self) -> None:
        for cause in self.before.causes:
            if cause.verdict != "advice":
                with self.assertRaises(KeyError):
                    accept_advice(self.job, cause.cause, "never mind")


class RaisedAgain(unittest.TestCase):
    """Advice whose value gets worse is not what was accepted."""

    def leads(self, length_m: float, job: Job) -> Job:
        board = job.board("mill")
        spds = tuple(spd.model_copy(update={"leads_m": length_m}) for spd in board.spds)
        changed = board.model_copy(update={"spds": spds, "build": board.build.model_copy(update={"enclosure": None})})
        return job.model_copy(update={"boards": tuple(changed if each.id == "mill" else each for each in job.boards)})

    def test_other_leads_are_raised_again(self) -> None:
        accepted = accept_advice(self.leads(0.7, demo_job("millrace")), LEADS, "no nearer place")
        for length_m, quiet in ((0.7, True), (0.6, False), (0.8, False)):
            with self.subTest(leads_m=length_m):
                after = assess(self.leads(length_m, accepted), explain=False)
                self.assertEqual([entry.cause for entry in after.accepted], [LEADS] if quiet else [])
                self.assertEqual(LEADS in [cause.cause for cause in after.causes], not quiet)

    def test_a_failure_in_its_place_is_not_quiet(self) -> None:
        accepted = accept_advice(self.leads(0.7, demo_job("millrace")), LEADS, "no nearer place")
        board = accepted.board("mill")
        bare = board.model_copy(update={"spds": ()})
        after = assess(
            accepted.model_copy(update={"boards": tuple(bare if b.id == "mill" else b for b in accepted.boards)})
        )
        surge = next(finding for finding in after.findings if finding.check == "surge")
        self.assertFalse(surge.accepted)
        self.assertNotEqual(surge.verdict, "advice")


class NextSteps(unittest.TestCase):
    """What to do next, in order of importance."""

    def test_failures_come_first_and_advice_last(self) -> None:
        before = assess(demo_job("millrace"), explain=False)
        self.assertEqual(kinds(before), ["fix", "advice"])
        for step in before.next_steps:
            self.assertEqual(step.n, len(step.causes))
            verdicts = {before.causes[at].verdict for at in step.causes}
            self.assertEqual(verdicts, {"fail"} if step.kind == "fix" else {"advice"})

    def test_a_job_just_begun_has_values_to_confirm_and_circuits_to_design(self) -> None:
        job = begin("Loft", rule_set("uk"), "TN-C-S")
        self.assertIn("confirm", kinds(assess(job)))
        job = enter_line(job, "cooker 7.2kW 14m", "main").job
        open_job = job.model_copy(
            update={"circuits": tuple(circuit.model_copy(update={"device": "auto"}) for circuit in job.circuits)}
        )
        undesigned = next(step for step in assess(open_job).next_steps if step.kind == "design")
        self.assertEqual(undesigned.circuits, (job.circuits[0].id,))
        self.assertNotIn("design", kinds(assess(design(job).job)))

    def test_with_its_failures_fixed_and_its_advice_accepted_there_is_nothing_left(self) -> None:
        job = demo_job("millrace")
        for check, subject in (("thermal", Subject("board", "studio")), ("voltage-drop", Subject("circuit", "c14"))):
            best = remedies(job, check, subject)[0]
            job = with_parts(job, best.circuits, best.boards, best.supply)
        while causes := [cause for cause in assess(job, explain=False).causes if cause.verdict == "advice"]:
            job = accept_advice(job, causes[0].cause, "agreed")
        after = assess(job, explain=False)
        self.assertEqual((after.causes, after.next_steps), ((), ()))
        self.assertIn(after.verdict, ("pass", "tight"))
        self.assertGreater(len(after.accepted), 2)


if __name__ == "__main__":
    unittest.main()
