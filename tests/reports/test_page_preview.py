"""Pages drawn and read in several threads at once, as when a browser requests all pages of a preview."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tests.reports.reading import report_data
from vivid_lattice.reports.catalogue import export

#: In a process of its own: what goes wrong here takes the whole process with it.
MANY_AT_ONCE = """
import sys
from concurrent.futures import ThreadPoolExecutor
from tests.reports.reading import pages
from vivid_lattice.reports.page_preview import page_picture
pdf = open(sys.argv[1], "rb").read()
count = len(pages(pdf))
with ThreadPoolExecutor(6) as pool:
    made = list(pool.map(lambda n: pages(pdf)[0] if n % 2 else page_picture(pdf, n % count + 1, 60), range(60)))
print(len(made))
"""


class SeveralThreads(unittest.TestCase):
    def test_pages_are_drawn_and_read_by_several_threads_without_a_crash(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "chart.pdf"
            path.write_bytes(export(report_data(), "chart").content)
            ran = subprocess.run(
                [sys.executable, "-c", MANY_AT_ONCE, str(path)],
                capture_output=True,
                text=True,
                timeout=120,
                check=False,
            )
        self.assertEqual((ran.returncode, ran.stdout.strip()), (0, "60"), ran.stderr[-500:])


if __name__ == "__main__":
    unittest.main()
