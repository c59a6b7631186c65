"""Certificate and condition report: filled in from the job, drafts while something is open, with codes, photos, departures and signatures."""

from __future__ import annotations

import io
import unittest
from dataclasses import replace

from PIL import Image

from tests.builders import mcb
from tests.core.inspection.test_inspection import AT, entered, observed, tested, with_work
from tests.core.testing.test_bench_examples import typed
from tests.core.testing.test_judged_readings import house, radial
from tests.reports.reading import pages, pictures, plain
from vivid_lattice.core.bundle import BundledPhoto, BundledReading
from vivid_lattice.core.document.inspection import Departure, Inspection, Limitation
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.inspection.sign_off import sign
from vivid_lattice.imports.job_bundle import read_bundle
from vivid_lattice.reports.catalogue import export
from vivid_lattice.reports.report_data import ReportData


def text_of(of: Job, kind: str, **more: object) -> str:
    made = export(ReportData(job=of, made_at=AT, **more), kind)  # type: ignore[arg-type]
    return plain(" ".join(pages(made.content)))


def sound() -> Job:
    return tested(house(radial(20.0, 2.5, mcb(20.0))))


class Sheet(unittest.TestCase):
    def has(self, found: str, *parts: str) -> None:
        for part in parts:
            self.assertIn(plain(part), found)

    def has_not(self, found: str, *parts: str) -> None:
        for part in parts:
            self.assertNotIn(plain(part), found)


class Certificate(Sheet):
    def test_it_is_a_draft_while_something_is_open_and_says_what(self) -> None:
        found = text_of(with_work(house(radial(20.0, 2.5, mcb(20.0))), "new-circuit"), "certificate")
        self.has(found, "a draft, not a certificate")
        self.has(found, "tests are not done")
        self.has(found, "Electrical Installation Certificate")
        self.has(found, "Not signed yet")

    def test_extent_departures_limitations_and_comments_are_in_it(self) -> None:
        inspection = Inspection(
            extent="Kiln circuit from the studio board",
            sample_pct=20.0,
            departures=(
                Departure(clause="411.3.3", text="Kiln outlet without RCD", reason="Locked and labelled"),
                Departure(clause="", text=""),
            ),
            limitations=(
                Limitation(text="Loft not entered", reason="Boarded", agreed_with="E. Weir"),
                Limitation(text=""),
            ),
            comments="Meter tails checked",
        )
        found = text_of(with_work(sound(), "alteration").model_copy(update={"inspection": inspection}), "certificate")
        for part in (
            "Kiln circuit from the studio board",
            "20 %",
            "411.3.3",
            "Locked and labelled",
            "Loft not entered. Boarded. Agreed with E. Weir",
            "Meter tails checked",
        ):
            self.has(found, part)

    def test_signed_it_is_no_draft_and_a_change_shows(self) -> None:
        of = observed(with_work(sound(), "inspection"))
        signed = sign(of, "inspection", "E. Weir", AT, "Electrician")
        found = text_of(signed, "condition")
        self.has_not(found, "draft")
        self.has(found, "Signed: E. Weir, Electrician")
        self.has(found, "Result: satisfactory")
        changed = signed.model_copy(update={"testing": signed.testing.model_copy(update={"temperature_c": 7.0})})
        found = text_of(changed, "condition")
        self.has(found, "draft")
        self.has(found, "changed since it was signed")

    def test_readings_are_in_the_schedule(self) -> None:
        found = text_of(with_work(sound(), "new-circuit"), "certificate")
        self.has(found, "dead tests")
        self.has(found, "> 200 MΩ")


class ConditionReport(Sheet):
    def test_observations_are_coded_and_the_result_follows(self) -> None:
        of = observed(
            with_work(sound(), "inspection"),
            entered("o1", "rcd-fails", subject="c1", text="45 mA", done="RCD replaced"),
            entered("o2", "no-spd"),
            entered("o3", text="Ivy in the meter box"),
        )
        found = text_of(of, "condition")
        for part in (
            "Result: unsatisfactory",
            "1 × C2, 1 × C3",
            "45 mA",
            "Done: RCD replaced",
            "no code yet",
            "Ivy in the meter box",
            "643.7.1",
        ):
            self.has(found, part)
        self.has(found, "improvement recommended")

    def test_nothing_is_satisfactory_before_it_is_tested(self) -> None:
        of = observed(with_work(house(radial(20.0, 2.5, mcb(20.0))), "inspection"))
        found = text_of(of, "condition")
        self.has(found, "Result: not complete")
        self.has_not(found, "Result: satisfactory")

    def test_the_photo_of_an_observation_is_beside_it_and_no_other(self) -> None:
        out = io.BytesIO()
        Image.new("RGB", (400, 300), (90, 60, 40)).save(out, "JPEG")
        photo = BundledPhoto(
            board="observation:o1", way=None, caption="", at="2026-11-30T10:00", width=400, height=300, image=out.getvalue(), small=out.getvalue()
        )  # fmt: skip
        of = observed(with_work(sound(), "inspection"), entered("o1", "metalwork-live"))
        data = ReportData(job=of, made_at=AT, photos=(photo, replace(photo, board="main")))
        self.assertEqual(pictures(export(data, "condition").content), 1)

    def test_every_standard_has_its_own_words(self) -> None:
        for rules, word in (
            ("na", "hazard"),
            ("za", "no certificate"),
            ("anz", "immediate danger"),
            ("iec", "serious fault"),
        ):
            code = {"na": "exposed", "za": "labels", "anz": "exposed-live", "iec": "overload"}[rules]
            made = typed(rules, {"na": "TN-C-S", "za": "TN-C-S", "anz": "MEN", "iec": "TN-S"}[rules], 0.2, "lights 12m")
            found = text_of(observed(made, entered("o1", code)), "condition")
            self.has(found, f"1 × {word}")


class WholeJob(unittest.TestCase):
    def test_the_exported_bundle_has_every_reading_that_was_ever_entered(self) -> None:
        of = sound()
        first = of.testing.readings[0].model_copy(update={"id": "old", "value": 9.0})
        history = (BundledReading(first, AT), *(BundledReading(each, AT) for each in of.testing.readings))
        made = export(ReportData(job=of, made_at=AT, history=history), "zip")
        back = read_bundle(made.content)
        self.assertEqual(back.readings, history)


if __name__ == "__main__":
    unittest.main()
