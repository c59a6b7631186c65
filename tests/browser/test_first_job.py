"""From New job to a printed board, by keyboard alone: what a newcomer does, counted.

An action is a line typed with its Enter, a run of Tabs, a choice, or a shortcut.
"""

from __future__ import annotations

import json
import re
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from pathlib import Path
from typing import Any

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.page import PageCase
from tests.browser.test_documents import complete
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.job_file import read_document

UK = (
    "kitchen sockets ring 48m, kitchen", "downstairs sockets ring 58m", "upstairs sockets ring 62m", "utility sockets radial 16m",
    "cooker 10.5kW 10m, kitchen", "shower 9.5kW 14m, bathroom", "immersion heater 3kW 12m", "12 x downlight 6W 36m",
    "9 x lamp 9W 34m loft, landing", "5 x smoke alarm 2W 28m, landing", "boiler 150W 12m, utility", "towel rail 120W 12m, bathroom",
    "garage sockets radial 16m, garage", "4 x outside light 12W 30m, outside", "alarm panel 60W 10m", "extractor fan 30W 14m, bathroom",
)  # fmt: skip
NA = (
    "kitchen receptacles 35ft, kitchen", "kitchen receptacles 40ft, kitchen", "laundry receptacle 30ft", "bathroom receptacles 35ft, bath",
    "range 12kW 40ft, kitchen", "dryer 5kW 30ft, laundry", "water heater 4.5kW 25ft", "dishwasher 1.2kW 30ft, kitchen",
    "disposal 0.5kW 30ft, kitchen", "bedroom receptacles 50ft, bedroom", "living receptacles 45ft, living", "8 x lamp 9W 60ft",
    "garage receptacles 40ft, garage", "furnace 0.6kW 35ft",
)  # fmt: skip
ROOT = Path(__file__).resolve().parents[2]
#: What the element with the focus is called: by its label for those who hear it, its text, or the label before it.
_NAME = """
const here = document.activeElement;
const text = here.matches('button, a, input, [role]') ? here.innerText : '';
return [here.getAttribute('aria-label'), text, ...Array.from(here.labels ?? [], (label) => label.innerText)].join(' ');
"""
#: More than any page has to press Tab for.
_TABS = 160


class FirstJob(PageCase):
    """One way from nothing to paper: the database is empty."""

    demos = False

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.browser.execute_cdp_cmd(
            "Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(self.folder)}
        )
        self.actions = 0
        self.browser.get(self.server.url)
        self.css("main h1")
        self.assertEqual(self.answered("/api/jobs"), [])

    # ------------------------------------------------------------------------------------------ by keyboard

    def press(self, *keys: str) -> None:
        """Keys to whatever has the focus."""
        ActionChains(self.browser).send_keys(*keys).perform()

    def tab_to(self, name: str) -> None:
        """A run of Tabs to what is called so: by its name for those who hear it, or its text."""
        self.actions += 1
        for _ in range(_TABS):
            self.press(Keys.TAB)
            if name in self.browser.execute_script(_NAME):
                return
        self.fail(f"no way to {name} by Tab")

    def act(self, *keys: str) -> None:
        """An action: a choice, a shortcut, Enter."""
        self.actions += 1
        self.press(*keys)

    def type_line(self, line: str) -> None:
        self.actions += 1
        # To whatever has the focus, in one call: a key by itself takes ten times as long to send.
        self.browser.switch_to.active_element.send_keys(line, Keys.ENTER)
        self.wait(lambda: self.css("#quick-entry").get_attribute("value") == "", f"{line} stays in the box")

    def choose(self, label: str, text: str) -> None:
        """A choice by its name: opened, and the option typed."""
        self.tab_to(label)
        self.act(Keys.ENTER)
        self.wait(lambda: self.all("[role=option]"), "the choice does not open")
        self.wait(lambda: self.found(text), f"{text} is not found by its letters")
        self.press(Keys.ENTER)
        self.wait(lambda: not self.all("[role=option]"), "the choice stays open")

    def found(self, text: str) -> bool:
        """An open list is at the option with some first letters once they are typed; typed again where the machine was too slow for them."""
        at = self.browser.switch_to.active_element
        if at.text.startswith(text):
            return True
        time.sleep(1.1)  # what was typed before is forgotten after a second
        self.press(text)
        return self.browser.switch_to.active_element.text.startswith(text)

    def begin(self, title: str, *, standard: str = "", start: str = "", system: str = "") -> None:
        if title:
            self.tab_to("Job name")
            self.press(title)
        if standard:
            self.choose("Standard", standard)
        if start:
            self.choose("Starting point", start)
        if system:
            self.tab_to("TN-S")
            while self.browser.switch_to.active_element.text != system:
                self.press(Keys.ARROW_RIGHT)
            self.act(Keys.SPACE)
        self.tab_to("Create")
        self.act(Keys.ENTER)
        self.css("#quick-entry")

    def view(self, number: int) -> None:
        """A view by its shortcut."""
        self.actions += 1
        ActionChains(self.browser).key_down(Keys.ALT).send_keys(str(number)).key_up(Keys.ALT).perform()

    def lay_out(self) -> None:
        self.view(5)
        self.wait(lambda: self.browser.switch_to.active_element.text == "Use this layout", "no proposal")
        self.act(Keys.ENTER)
        self.wait(lambda: not self.all("[data-testid=proposal]"), "the layout is not used")

    def print_report(self) -> str:
        """The design report, saved; its text."""
        before = set(self.folder.iterdir())
        self.view(9)
        self.css('[data-export="report"]')
        self.tab_to("Save pdf: Design report")
        self.act(Keys.ENTER)
        made = self.wait(lambda: complete(set(self.folder.iterdir()) - before, ".pdf"), "no report is saved")[0]
        # In a process of its own: the page draws its preview meanwhile, and the reader of PDFs is not made for two threads.
        read = "import sys; from tests.reports.reading import pages; print(' '.join(pages(open(sys.argv[1], 'rb').read())))"
        done = subprocess.run(
            [sys.executable, "-c", read, str(made)], capture_output=True, text=True, check=True, cwd=ROOT, timeout=120
        )
        return done.stdout

    def saved_job(self) -> Job:
        # The one saved last is the first of the list.
        listed = self.answered("/api/jobs")[0]
        return read_document(json.dumps(self.answered(f"/api/jobs/{listed['id']}")["job"]))

    def answered(self, path: str) -> Any:
        with urllib.request.urlopen(f"{self.server.url}{path}") as answer:
            return json.load(answer)

    def is_printed(self, text: str, job: Job) -> None:
        """What was typed, chosen and assumed is in the report."""
        plain = re.sub(r"\s+", " ", text)
        for circuit in job.circuits:
            self.assertIn(circuit.name.split(",")[0][:24], plain)
            assert not isinstance(circuit.cable, str) and not isinstance(circuit.device, str), circuit.name
        self.assertIn("assumed and not confirmed", plain)
        self.assertIn(f"{job.supply.fault_current_ka:g} kA", plain)

    # ------------------------------------------------------------------------------------------ the jobs

    def test_sixteen_circuits_in_the_united_kingdom(self) -> None:
        self.begin("Mill house", system="TN-C-S")
        for line in UK:
            self.type_line(line)
        self.lay_out()
        text = self.print_report()
        job = self.saved_job()
        self.assertEqual(len(job.circuits), 16)
        self.is_printed(text, job)
        self.assertIn("Ze: 0.35 Ω", text)
        self.assertLessEqual(self.actions, 60, "actions")

    def test_fourteen_circuits_in_the_united_states(self) -> None:
        self.begin("Ranch house", standard="United States")
        for line in NA:
            self.type_line(line)
        self.lay_out()
        text = self.print_report()
        job = self.saved_job()
        self.assertEqual((job.job.rules, len(job.circuits)), ("na", 14))
        self.is_printed(text, job)
        self.assertLessEqual(self.actions, 60, "actions")

    def test_a_typical_home(self) -> None:
        self.begin("", start="House, three", system="TN-C-S")
        self.lay_out()
        text = self.print_report()
        self.is_printed(text, self.saved_job())
        self.assertLessEqual(self.actions, 12, "actions")

    def test_a_value_is_confirmed_with_one_key(self) -> None:
        self.begin("Mill house", system="TT")
        self.type_line("heater 2kW 12m")
        self.tab_to("to confirm")
        self.act(Keys.ENTER)
        rows = self.wait(lambda: self.all("[data-assumption]"), "no list")
        count = len(rows)
        self.wait(
            lambda: self.browser.switch_to.active_element.get_attribute("data-assumption"), "no row has the focus"
        )
        self.act("m")
        self.wait(lambda: len(self.all("[data-assumption]")) == count - 1, "it is not confirmed")
        self.wait(lambda: self.saved_job().supply.ze_source == "measured", "it is not saved")
        self.assertEqual(self.serious_faults(), [])


if __name__ == "__main__":
    unittest.main()
