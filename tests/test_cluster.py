"""The batch on a dask cluster: two workers, one of them killed in the middle, and every document answered once."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from distributed import Client, LocalCluster

from tests.builders import circuit, job, laid
from vivid_lattice.batch import check_all
from vivid_lattice.cluster import ClusterProblem, check_on_cluster
from vivid_lattice.core.job_file import to_text

DOCUMENTS = 48


class Cluster(unittest.TestCase):
    """Two worker processes on this machine."""

    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.paths = [Path(folder.name) / f"plot-{number:03}.json" for number in range(DOCUMENTS)]
        for number, path in enumerate(cls.paths):
            path.write_text(to_text(job(circuit(run=(laid(10.0 + number),)))), "utf-8")
        cls.paths[7].write_text("{", "utf-8")
        cls.cluster = LocalCluster(n_workers=2, threads_per_worker=1, processes=True, dashboard_address=None)
        cls.addClassCleanup(cls.cluster.close)

    def test_a_worker_that_is_killed_costs_no_answer_and_doubles_none(self) -> None:
        with Client(self.cluster.scheduler_address, set_as_default=False) as client:
            pids = client.run(os.getpid)
        killed: list[int] = []

        def kill_one(done: int, all_: int) -> None:
            if done >= all_ // 3 and not killed:
                killed.append(next(iter(pids.values())))
                os.kill(killed[0], signal.SIGKILL)

        found = check_on_cluster(self.paths, self.cluster.scheduler_address, kill_one, chunk=2)
        self.assertEqual(len(killed), 1)
        self.assertEqual(found, check_all(self.paths, 1))
        self.assertEqual([line.file for line in found], [str(path) for path in self.paths])
        self.assertEqual(found[7].verdict, "unreadable")

    def test_a_scheduler_that_does_not_answer_is_said_in_one_line(self) -> None:
        with self.assertRaisesRegex(ClusterProblem, "no scheduler answers"):
            check_on_cluster(self.paths[:1], "tcp://127.0.0.1:1")

    def test_the_command_hands_over_and_answers_as_it_does_alone(self) -> None:
        command = [sys.executable, "-m", "vivid_lattice.cli.main", "check-batch", str(self.paths[0].parent)]
        alone = subprocess.run(command, capture_output=True, text=True, check=False, timeout=120)
        handed = subprocess.run(
            [*command, "--scheduler", self.cluster.scheduler_address],
            capture_output=True,
            text=True,
            check=False,
            timeout=120,
        )
        self.assertEqual((handed.returncode, handed.stdout), (alone.returncode, alone.stdout))


if __name__ == "__main__":
    unittest.main()
