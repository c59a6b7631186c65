"""Readings sent to a job from several places, late, twice, in any order: none is lost, none is doubled, none is put over another unseen."""

from __future__ import annotations

import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.builders import circuit, job
from vivid_lattice.core.document.readings import Reading, ReadingSubject
from vivid_lattice.core.testing.enter_reading import ReadingEntry
from vivid_lattice.core.testing.merge_readings import SentReading
from vivid_lattice.store import job_bundle, jobs
from vivid_lattice.store.database import connect, prepare
from vivid_lattice.store.errors import NoSuchJob, NoSuchReading
from vivid_lattice.store.readings import ReadingRecord, history_of
from vivid_lattice.store.sent_readings import decide_reading, send_readings

OF = ReadingSubject(kind="circuit", id="c1")


def sent(identity: str, text: str, before: str = "", test: str = "zs", of: str = "c1", **more: str) -> SentReading:
    entry = ReadingEntry(id=identity, test=test, subject=ReadingSubject(kind="circuit", id=of), text=text)  # type: ignore[arg-type]
    return SentReading(entry=entry, before=before, **more)


class Sent(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = Path(folder.name) / "t.sqlite3"
        prepare(path)
        self.conn = connect(path)
        self.addCleanup(self.conn.close)
        self.job_id = jobs.create_job(self.conn, job(circuit()), "begun", "test").job_id

    def send(self, *readings: SentReading) -> dict[str, float | None]:
        """What is in force after readings were sent, by id."""
        revision, _ = send_readings(self.conn, self.job_id, readings, "test")
        return self.in_force(revision.job.testing.readings)

    def in_force(self, readings: tuple[Reading, ...]) -> dict[str, float | None]:
        return {reading.id: reading.value for reading in readings}

    def history(self) -> list[ReadingRecord]:
        return history_of(self.conn, self.job_id, jobs.get_revision(self.conn, self.job_id).job.testing.readings)

    def undecided(self) -> list[str]:
        return [record.reading.id for record in self.history() if record.undecided]

    def test_sent_twice_they_are_there_once_and_make_one_revision(self) -> None:
        batch = (sent("a1", "0.5"), sent("a2", ">200", test="ir_le"))
        for _ in range(3):
            self.assertEqual(self.send(*batch), {"a1": 0.5, "a2": 200.0})
        self.assertEqual(jobs.get_revision(self.conn, self.job_id).number, 2)
        self.assertEqual(len(self.history()), 2)

    def test_a_correction_made_from_what_is_in_force_takes_its_place(self) -> None:
        self.send(sent("a1", "0.5"))
        self.assertEqual(self.send(sent("a2", "0.6", "a1"), sent("a3", "0.7", "a2")), {"a3": 0.7})
        # An older one that comes late again changes nothing.
        self.assertEqual(self.send(sent("a1", "0.5"), sent("a2", "0.6", "a1")), {"a3": 0.7})
        self.assertEqual([record.reading.id for record in self.history()], ["a1", "a2", "a3"])

    def test_two_that_contradict_each_other_wait_for_a_decision(self) -> None:
        self.send(sent("laptop", "0.5", at="2026-11-30T09:00", by="E. Weir"))
        self.assertEqual(self.send(sent("phone", "0.9", at="2031-01-01T00:00", by="R. Sluice")), {"laptop": 0.5})
        self.assertEqual(self.undecided(), ["phone"])
        revision = decide_reading(self.conn, self.job_id, "phone", True, "test")
        [reading] = revision.job.testing.readings
        self.assertEqual(
            (reading.id, reading.value, reading.replaces, reading.by), ("phone", 0.9, "laptop", "R. Sluice")
        )
        self.assertEqual(self.undecided(), [])
        with self.assertRaises(NoSuchReading):
            decide_reading(self.conn, self.job_id, "phone", True, "test")

    def test_the_one_in_force_may_stay(self) -> None:
        self.send(sent("laptop", "0.5"))
        self.send(sent("phone", "0.9"))
        decide_reading(self.conn, self.job_id, "phone", False, "test")
        self.assertEqual(self.send(), {"laptop": 0.5})
        self.assertEqual(
            [(record.reading.id, record.undecided) for record in self.history()], [("laptop", False), ("phone", False)]
        )

    def test_the_same_value_read_twice_asks_nothing(self) -> None:
        self.send(sent("laptop", "0.5"))
        self.send(sent("phone", "0,50"))
        self.assertEqual(self.undecided(), [])

    def test_a_correction_of_one_that_waits_takes_its_place_there(self) -> None:
        self.send(sent("laptop", "0.5"))
        self.send(sent("p1", "0.9"), sent("p2", "0.8", "p1"))
        self.assertEqual(self.undecided(), ["p2"])
        self.send(sent("p3", "0.7", "p2"))
        self.assertEqual(self.undecided(), ["p3"])
        self.send(sent("p4", "0.5", "p3"))
        self.assertEqual((self.undecided(), self.send()), ([], {"laptop": 0.5}))

    def test_one_that_is_not_understood_or_of_nothing_keeps_none_of_the_others_back(self) -> None:
        batch = [sent("a1", "lots"), sent("a2", "0.5"), sent("a3", "1", of="gone")]
        revision, merged = send_readings(self.conn, self.job_id, batch, "test")
        self.assertEqual(merged.taken, ("a2",))
        self.assertEqual([identity for identity, _ in merged.refused], ["a1", "a3"])
        self.assertIn("Type a value", str(merged.refused[0][1]))
        self.assertEqual(self.in_force(revision.job.testing.readings), {"a2": 0.5})
        with self.assertRaises(NoSuchJob):
            send_readings(self.conn, "gone", batch, "test")

    def test_a_removal_removes_only_what_was_seen(self) -> None:
        self.send(sent("a1", "0.5"))
        self.assertEqual(self.send(sent("x", "", "a0")), {"a1": 0.5})
        self.assertEqual(self.send(sent("y", "", "a1")), {})
        self.assertEqual(len(self.history()), 1)

    def test_a_bundle_takes_what_waits_along(self) -> None:
        self.send(sent("laptop", "0.5"))
        self.send(sent("phone", "0.9"))
        _, bundle = job_bundle.bundle_of(self.conn, self.job_id)
        made = job_bundle.create_from(self.conn, bundle, "imported", "test")
        _, again = job_bundle.bundle_of(self.conn, made.job_id)
        self.assertEqual([each.undecided for each in again.readings], [False, True])


class AnyOrder(unittest.TestCase):
    """Two phones type over what each of them sees, and send when they can, some batches twice."""

    @settings(max_examples=40, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
    @given(
        st.lists(
            st.tuples(st.booleans(), st.sampled_from(["0.5", "0.6", "0.7"]), st.booleans(), st.booleans()), max_size=14
        )
    )
    def test_every_reading_is_in_the_history_once_and_the_last_of_each_phone_is_in_force_or_asked(
        self, steps: list[tuple[bool, str, bool, bool]]
    ) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "t.sqlite3"
            prepare(path)
            with closing(connect(path)) as conn:
                job_id = jobs.create_job(conn, job(circuit()), "begun", "test").job_id
                shown, waiting = {False: "", True: ""}, {False: [], True: []}  # type: ignore[var-annotated]
                typed: list[str] = []

                def send(phone: bool) -> None:
                    revision, merged = send_readings(conn, job_id, waiting[phone], "test")
                    self.assertEqual(len(merged.taken), len(waiting[phone]))
                    shown[phone] = next((each.id for each in revision.job.testing.readings), "")

                for number, (phone, text, now, again) in enumerate(steps):
                    waiting[phone].append(sent(f"r{number}", text, shown[phone]))
                    shown[phone] = f"r{number}"
                    typed.append(f"r{number}")
                    for _ in range(now + (now and again)):
                        send(phone)
                    if now and not again:
                        waiting[phone].clear()
                for phone in (False, True):
                    send(phone)
                readings = jobs.get_revision(conn, job_id).job.testing.readings
                records = history_of(conn, job_id, readings)
                kept = [record.reading.id for record in records]
                self.assertEqual(len(kept), len(set(kept)))
                self.assertEqual(len(readings), bool(steps))
                self.assertEqual(kept and sorted(kept), sorted(typed))
                if steps:
                    # Of the phone that sends last, what it typed last is in force, asked, or what is in force reads the same.
                    last = next((text for phone, text, _, _ in reversed(steps) if phone), steps[-1][1])
                    values = {record.reading.value for record in records if record.in_force or record.undecided}
                    self.assertIn(float(last), values)


if __name__ == "__main__":
    unittest.main()
