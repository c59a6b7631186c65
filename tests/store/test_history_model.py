"""Any sequence of saves, undos, redos and restarts against a plain model of what a history is."""

from __future__ import annotations

import sqlite3
import tempfile
import threading
import unittest
from contextlib import closing, suppress
from pathlib import Path

from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

from tests.builders import circuit, flat, job
from vivid_lattice.core.document.job import Job
from vivid_lattice.store import jobs as store
from vivid_lattice.store.database import connect, prepare
from vivid_lattice.store.errors import NothingToUndo, StaleRevision

SIZES = (1.5, 2.5, 4.0, 6.0, 10.0)


def sized(area: float) -> Job:
    """A job told from others by its cable."""
    return job(circuit(cable=flat(area)))


class HistoryMachine(RuleBasedStateMachine):
    """The model: every revision ever made with its parent, and which is open."""

    def __init__(self) -> None:
        super().__init__()
        self._folder = tempfile.TemporaryDirectory()
        self._path = Path(self._folder.name) / "m.sqlite3"
        prepare(self._path)
        self._conn = connect(self._path)

    @initialize()
    def begin(self) -> None:
        self._job = store.create_job(self._conn, sized(2.5), "begun", "model").job_id
        self._areas, self._parents, self._head = {1: 2.5}, {1: None}, 1

    @rule(area=st.sampled_from(SIZES))
    def save(self, area: float) -> None:
        kept = store.append_revision(self._conn, self._job, self._head, sized(area), "model")
        if area != self._areas[self._head]:
            number = max(self._areas) + 1
            self._areas[number], self._parents[number], self._head = area, self._head, number
        assert kept.number == self._head

    @precondition(lambda self: len(self._areas) > 1)
    @rule(area=st.sampled_from(SIZES), data=st.data())
    def save_from_elsewhere(self, area: float, data: st.DataObject) -> None:
        base = data.draw(st.sampled_from([number for number in self._areas if number != self._head]))
        with suppress(StaleRevision):
            store.append_revision(self._conn, self._job, base, sized(area), "model")
            raise AssertionError("a stale save was taken")

    @rule()
    def undo(self) -> None:
        parent = self._parents[self._head]
        if parent is None:
            with suppress(NothingToUndo):
                store.undo(self._conn, self._job, self._head)
                raise AssertionError("there was nothing to undo")
        else:
            store.undo(self._conn, self._job, self._head)
            self._head = parent

    @rule()
    def redo(self) -> None:
        children = [number for number, parent in self._parents.items() if parent == self._head]
        if not children:
            with suppress(NothingToUndo):
                store.redo(self._conn, self._job, self._head)
                raise AssertionError("there was nothing to redo")
        else:
            store.redo(self._conn, self._job, self._head)
            self._head = max(children)

    @rule()
    def restart(self) -> None:
        self._conn.close()
        prepare(self._path)
        self._conn = connect(self._path)

    @invariant()
    def the_store_is_as_the_model(self) -> None:
        if not hasattr(self, "_job"):
            return
        opened = store.get_revision(self._conn, self._job)
        assert (opened.number, opened.job) == (self._head, sized(self._areas[self._head]))
        assert opened.can_undo == (self._parents[self._head] is not None)
        assert opened.can_redo == (self._head in self._parents.values())
        lines = store.list_revisions(self._conn, self._job)
        assert {line.number: line.parent for line in lines} == self._parents

    def teardown(self) -> None:
        self._conn.close()
        self._folder.cleanup()


class HistoryModel(HistoryMachine.TestCase):  # type: ignore[name-defined,misc]
    """The machine as a test."""

    settings = settings(max_examples=20, stateful_step_count=25, deadline=None, suppress_health_check=list(HealthCheck))


class AtOnce(unittest.TestCase):
    """Several writers from the same revision: exactly one is taken."""

    def test_of_eight_saves_from_one_revision_one_is_kept_and_seven_are_told(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "t.sqlite3"
            prepare(path)
            with closing(connect(path)) as conn:
                made = store.create_job(conn, sized(2.5), "begun", "test").job_id
            outcomes: list[str] = []
            gate = threading.Barrier(8)

            def save(number: int) -> None:
                with closing(connect(path)) as own:
                    gate.wait()
                    try:
                        changed = job(circuit(name=f"Writer {number}"))
                        store.append_revision(own, made, 1, changed, f"writer {number}")
                        outcomes.append("kept")
                    except StaleRevision:
                        outcomes.append("told")
                    except sqlite3.OperationalError as locked:
                        outcomes.append(str(locked))

            writers = [threading.Thread(target=save, args=(number,)) for number in range(8)]
            for writer in writers:
                writer.start()
            for writer in writers:
                writer.join()
            self.assertEqual(sorted(outcomes), ["kept"] + ["told"] * 7)
            with closing(connect(path)) as conn:
                self.assertEqual(len(store.list_revisions(conn, made)), 2)


if __name__ == "__main__":
    unittest.main()
