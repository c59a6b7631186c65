"""The calendar of routine checks, read back with the library that reads calendars elsewhere."""

from __future__ import annotations

import unittest
from datetime import date

from icalendar import Calendar

from tests.builders import circuit, job, mcb
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Reading, ReadingSubject, Testing
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.data_folder import standard_ids
from vivid_lattice.core.testing.routine_checks import UsualInterval, later, routine_checks, usual_intervals
from vivid_lattice.demo import DEMOS, demo_job
from vivid_lattice.reports.catalogue import export
from vivid_lattice.reports.report_data import ReportData

MADE = "2026-11-30T09:00:00+00:00"


def read_on(day: str, **more: object) -> Job:
    reading = Reading(id="r1", test="zs", subject=ReadingSubject(kind="circuit", id="c1"), value=0.5, at=f"{day}T10:00")
    return job(circuit()).model_copy(update={"testing": Testing(readings=(reading,), **more)})  # type: ignore[arg-type]


def events(of: Job) -> dict[str, dict[str, object]]:
    file = export(ReportData(job=of, made_at=MADE), "calendar")
    found = Calendar.from_ical(file.content)
    return {str(each["SUMMARY"]).split(": ", 1)[1]: dict(each) for each in found.walk("VEVENT")}


class OnPaper(unittest.TestCase):
    def test_checks_come_again_from_the_last_reading(self) -> None:
        made = events(read_on("2026-08-31"))
        button = made["Test button of each RCD: it must trip at once"]
        # BS 7671, 514.12.2: six months. From memory.
        self.assertEqual(button["DTSTART"].dt, date(2027, 2, 28))  # type: ignore[attr-defined]
        self.assertEqual(dict(button["RRULE"]), {"FREQ": ["MONTHLY"], "INTERVAL": [6]})  # type: ignore[call-overload]
        self.assertNotIn("Next inspection due", made)

    def test_only_what_is_there_is_checked(self) -> None:
        plain = events(job(circuit(device=mcb(16.0))))
        self.assertEqual(len(plain), 1, list(plain))
        self.assertTrue(next(iter(plain)).startswith("Terminals"))

    def test_the_next_inspection_is_once_and_a_day_that_does_not_exist_is_left_out(self) -> None:
        made = events(read_on("2026-11-30", next_inspection="2036-11-30"))["Next inspection due"]
        self.assertEqual(made["DTSTART"].dt, date(2036, 11, 30))  # type: ignore[attr-defined]
        self.assertNotIn("RRULE", made)
        self.assertNotIn("Next inspection due", events(read_on("2026-02-31", next_inspection="2036-02-31")))

    def test_the_same_job_gives_the_same_events(self) -> None:
        first, again = (events(read_on("2026-11-30")) for _ in range(2))
        self.assertEqual([each["UID"] for each in first.values()], [each["UID"] for each in again.values()])
        self.assertEqual(len({str(each["UID"]) for each in first.values()}), len(first))

    def test_every_demo_with_a_board_has_one(self) -> None:
        for name in DEMOS:
            with self.subTest(name):
                self.assertEqual(bool(events(demo_job(name))), bool(demo_job(name).boards))


class Months(unittest.TestCase):
    def test_the_end_of_a_month(self) -> None:
        for day, months, then in (
            (date(2026, 8, 31), 6, date(2027, 2, 28)),
            (date(2027, 8, 31), 6, date(2028, 2, 29)),
            (date(2026, 3, 31), 1, date(2026, 4, 30)),
            (date(2026, 12, 1), 1, date(2027, 1, 1)),
            (date(2026, 11, 30), 120, date(2036, 11, 30)),
        ):
            self.assertEqual(later(day, months), then)

    def test_every_standard_has_checks_and_a_button_is_pressed_more_often_than_an_inspection_comes(self) -> None:
        network = Installation.of(job(circuit()), rule_set("uk"))
        for standard in standard_ids():
            rows = rule_set(standard).testing.routine
            buttons = [row.months for row in rows if row.of == "rcd"]
            self.assertEqual(len(buttons), 1, standard)
            inspections = [row.months for row in rows if row.of == "inspection"]
            self.assertTrue(all(buttons[0] <= months for months in inspections), standard)
        self.assertIn(UsualInterval(premises="Owner-occupied dwelling", months=120), usual_intervals(network))
        self.assertGreater(len(routine_checks(network, date(2026, 11, 30))), 1)


if __name__ == "__main__":
    unittest.main()
