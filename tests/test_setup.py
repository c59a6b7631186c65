"""What a fresh machine meets: missing tools are named, stale files noticed, and nothing is built twice."""

from __future__ import annotations

import re
import shutil
import subprocess
import tempfile
import tomllib
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


class MissingTools(unittest.TestCase):
    """tools/need.sh with next to nothing on the path, and not as root."""

    def need(self, tool: str, *available: str) -> subprocess.CompletedProcess[str]:
        with tempfile.TemporaryDirectory() as folder:
            for name in ("bash", "env", *available):
                (Path(folder) / name).symlink_to(shutil.which(name) or "/nowhere")
            (Path(folder) / "id").write_text("#!/bin/bash\necho 1000\n")
            (Path(folder) / "id").chmod(0o755)
            return subprocess.run(
                [shutil.which("bash") or "bash", str(ROOT / "tools/need.sh"), tool],
                capture_output=True, text=True, check=False, env={"PATH": folder},
            )  # fmt: skip

    def test_each_missing_tool_is_named_with_how_to_get_it(self) -> None:
        for tool, named in (("python", "Python 3.11"), ("node", "Node.js 20.19"), ("chromium", "Chromium")):
            with self.subTest(tool):
                done = self.need(tool)
                self.assertEqual(done.returncode, 1)
                self.assertIn(f"Missing: {named}", done.stderr)
                self.assertIn("To install:", done.stderr)

    def test_a_tool_that_is_there_is_passed_over_in_silence(self) -> None:
        done = self.need("node", "node", "npm")
        self.assertEqual((done.returncode, done.stdout, done.stderr), (0, "", ""))


class Repository(unittest.TestCase):
    """What is written twice on purpose stays the same, and what is linked is there."""

    def test_every_picture_is_linked_and_every_link_leads_somewhere(self) -> None:
        readme = (ROOT / "README.md").read_text("utf-8")
        pictures = {f"docs/screenshots/{path.name}" for path in (ROOT / "docs/screenshots").glob("*.png")}
        self.assertEqual(set(re.findall(r"docs/screenshots/[\w-]+\.png", readme)), pictures)
        self.assertLess(len(pictures), 20)
        for page in [ROOT / "README.md", *(ROOT / "docs").rglob("*.md")]:
            for link in re.findall(r"\]\((?!https?:)([^)#]+)\)", page.read_text("utf-8")):
                with self.subTest(page.name, link=link):
                    self.assertTrue((page.parent / link).exists())

    def test_every_dependency_is_locked_to_one_version(self) -> None:
        for name in ("requirements.lock", "requirements-dev.lock"):
            for line in (ROOT / name).read_text("utf-8").splitlines():
                if line and not line.lstrip().startswith("#"):
                    self.assertRegex(line, r"^[\w.\-]+==[\w.]+", name)

    def test_whatever_the_project_asks_for_stands_in_its_lock(self) -> None:
        project = tomllib.loads((ROOT / "pyproject.toml").read_text("utf-8"))["project"]
        for wanted, lock in (
            (project["dependencies"], "requirements.lock"),
            (project["optional-dependencies"]["dev"], "requirements-dev.lock"),
        ):
            held = {
                line.split("==")[0].lower() for line in (ROOT / lock).read_text("utf-8").splitlines() if "==" in line
            }
            names = {re.split(r"[<>=\[]", one)[0].lower() for one in wanted}
            self.assertEqual(names - held, set(), lock)

    def test_the_web_fetches_nothing_from_elsewhere(self) -> None:
        for path in [ROOT / "web/index.html", *(ROOT / "web/src").rglob("*.*")]:
            if path.suffix in (".html", ".css", ".ts", ".tsx") and path.name != "schema.d.ts":
                self.assertNotRegex(path.read_text("utf-8"), r"https?://(?!www\.w3\.org)", path.name)


if __name__ == "__main__":
    unittest.main()
