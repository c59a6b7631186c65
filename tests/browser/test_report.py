"""Report and sign-off on the page; and a board swap from the survey of the old board to the report, with no length known, in two standards."""

from __future__ import annotations

import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.browser.page import PageCase
from tests.browser.test_testing import house
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.rules import rule_set
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import get_revision


class TestingCase(PageCase):
    """What the two classes below do on the page."""

    demos = False

    def go(self, address: str, view: str, ready: str) -> None:
        self.browser.get(address.replace("circuits", view))
        self.css(ready)

    def press(self, text: str, within: str = "") -> None:
        path = f"{within}//button[normalize-space()={text!r}]"
        found = self.wait(lambda: self.browser.find_element(By.XPATH, path), f"no button {text}")
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", found)
        found.click()

    def labelled(self, label: str) -> WebElement:
        path = f"//label[normalize-space()={label!r}]/following-sibling::input"
        found: WebElement = self.wait(lambda: self.browser.find_element(By.XPATH, path), f"no box {label}")
        return found

    def fill(self, label: str, text: str) -> None:
        box = self.labelled(label)
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", box)
        box.send_keys(text, Keys.ENTER)

    def read(self, test: str, text: str) -> None:
        box = self.css(f"[data-test='{test}'] [data-reading]")
        box.send_keys(Keys.CONTROL + "a")
        box.send_keys(text, Keys.ENTER)

    def tick_all(self) -> None:
        """What is seen is right, step by step; what is read is the same for all that is open."""
        for section in self.all("section[aria-label]"):
            for button in section.find_elements(By.XPATH, ".//header//button[starts-with(., 'All ')]"):
                self.browser.execute_script("arguments[0].click()", button)

    def saved_job(self, address: str) -> Job:
        with closing(connect(self.server.database)) as conn:
            return get_revision(conn, address.split("/")[-2]).job


class Report(TestingCase):
    def test_observations_are_found_by_a_few_words_coded_and_decide_the_result(self) -> None:
        address = self.kept(house("cooker 32A 12m", "lights 30m"))
        self.go(address, "testing", "[data-testid=progress]")
        self.read("ze:supply:supply", "0.3")
        self.read("r1r2:circuit:c1", "0.13")
        self.read("zs:circuit:c1", "2.5")
        self.wait(lambda: len(self.saved_job(address).testing.readings) >= 3, "not saved")
        self.press("Report and sign-off")
        result = self.css("[data-testid=result]")
        self.assertEqual(result.get_attribute("data-satisfactory"), "null")
        # The failing reading is offered as an observation, once.
        self.press("C2 Zs above the limit of the device, no RCD")
        self.wait(lambda: self.css("[data-observation=obs-1]").get_attribute("data-code") == "C2", "not added")
        self.wait(lambda: not self.all("[data-testid=suggested]"), "still offered")
        self.wait(lambda: self.css("[data-testid=result]").get_attribute("data-satisfactory") == "false", "not judged")
        box = self.css("[data-testid=add-observation]")
        box.send_keys("blank barrier")
        self.wait(lambda: "second barrier" in self.css("[role=option]").text, "not found")
        box.send_keys(Keys.ENTER)
        box.send_keys("Ivy in the meter box")
        self.wait(lambda: "In own words" in self.css("[role=option]").text, "own words are not offered")
        box.send_keys(Keys.ENTER)
        own = self.css("[data-observation=obs-3]")
        self.assertEqual(own.get_attribute("data-code"), "")
        own.find_element(By.CSS_SELECTOR, "[role=combobox]").click()
        self.wait(
            lambda: self.browser.find_element(By.XPATH, "//*[@role='option'][starts-with(., 'FI')]"), "no codes"
        ).click()
        self.wait(lambda: self.css("[data-observation=obs-3]").get_attribute("data-code") == "FI", "not coded")
        self.wait(lambda: "1 × C2 · 1 × C3 · 1 × FI" in self.css("[data-testid=result]").text, "not counted")
        self.assertEqual(self.serious_faults(), [])
        self.assertEqual(self.page_errors(), [])

    def test_an_observation_has_its_photos_and_what_was_done(self) -> None:
        address = self.kept(house("cooker 32A 12m"))
        self.go(address, "testing", "[data-testid=progress]")
        self.press("Report and sign-off")
        self.css("[data-testid=add-observation]").send_keys("metalwork live", Keys.ENTER)
        self.css("[data-observation=obs-1]").find_element(By.XPATH, ".//button[.='Edit']").click()
        self.fill("Done at once", "Isolated and locked")
        self.wait(lambda: "Isolated and locked" in self.css("[data-observation=obs-1]").text, "not told")
        with tempfile.TemporaryDirectory() as folder:
            picture = Path(folder) / "rail.jpg"
            Image.new("RGB", (600, 400), (90, 60, 40)).save(picture)
            self.css("[aria-label='Choose photos']").send_keys(str(picture))
            self.wait(lambda: self.css("[data-testid=photos] img").get_property("naturalWidth") > 100, "no picture")

    def test_a_job_is_signed_when_nothing_is_open_and_a_change_shows(self) -> None:
        job = house("cooker 32A 12m")
        job = job.model_copy(update={"work_details": job.work_details.model_copy(update={"kind": "inspection"})})
        address = self.kept(job)
        self.go(address, "testing", "[data-testid=progress]")
        self.tick_all()
        for row in self.all("[data-test]"):
            test, boxes = str(row.get_attribute("data-test")), row.find_elements(By.CSS_SELECTOR, "[data-reading]")
            if boxes and not boxes[0].get_attribute("value"):
                self.read(test, "n/a")
            elif not boxes and not row.get_attribute("data-verdict"):
                self.browser.execute_script("arguments[0].click()", row.find_elements(By.TAG_NAME, "button")[1])
        self.wait(lambda: self.all("[aria-label='Why it was left out']"), "no reason is asked")
        self.press("Report and sign-off")
        panel = "[data-testid=open-items]"
        self.wait(lambda: "Record the reason" in self.css(panel).text, "left out without a reason")
        self.assertIsNotNone(self.sign_button().get_attribute("disabled"))
        self.press("Readings")
        while boxes := self.all("[aria-label='Why it was left out']"):
            before = len(boxes)
            boxes[0].send_keys("Not live yet", Keys.ENTER)
            self.wait(lambda before=before: len(self.all("[aria-label='Why it was left out']")) < before, "not taken")  # type: ignore[misc]
        self.press("Report and sign-off")
        self.wait(lambda: "State the extent" in self.css(panel).text, "the extent is not asked")
        self.fill("Extent", "Whole installation")
        self.wait(lambda: not self.all(panel), "something is still open")
        self.fill("Name", "E. Weir")
        self.wait(lambda: self.sign_button().get_attribute("disabled") is None, "cannot be signed")
        self.sign_button().click()
        self.wait(lambda: self.css("[data-testid=sign-off]").get_attribute("data-closed") == "true", "not closed")
        self.assertEqual(self.css("[data-testid=result]").get_attribute("data-satisfactory"), "true")
        self.fill("Comments", "Seen again")
        self.wait(lambda: "has changed since" in self.css("[data-testid=sign-off]").text, "a change does not show")
        self.assertEqual(self.page_errors(), [])

    def sign_button(self) -> WebElement:
        found: WebElement = self.browser.find_element(By.XPATH, "//fieldset[@data-role='inspection']//button[.='Sign']")
        return found


class BoardSwap(TestingCase):
    """From the old board to the report; no length of a cable is known."""

    #: The old ways as they are typed, and what is read: by standard.
    UK = (
        "30A rewirable 2.5mm ring sockets proven",
        "5A rewirable 1mm lights proven",
        "30A rewirable 6mm cooker proven",
    )
    DE = ("L16A 2.5mm sockets proven", "L10A 1.5mm lights proven", "L16A 2.5mm washing machine proven")

    def swap(self, standard: str, lines: tuple[str, ...]) -> str:
        address = self.kept(begin("Sluice house", rule_set(standard), "TN-C-S", existing=True))
        self.go(address, "survey", "[data-testid=way-entry]")
        for number, line in enumerate(lines, 1):
            self.css("[data-testid=way-entry]").send_keys(line, Keys.ENTER)
            self.css(f"[data-way='{number}']")
        self.browser.find_element(By.XPATH, "//*[@role='tab' and normalize-space()='New ratings']").click()
        self.press("Create the new board")
        self.wait(lambda: len(self.saved_job(address).circuits) == len(lines), "no new board")
        return address

    def measure(self, address: str) -> None:
        """Types what a tester reads: supply, ends of rings, R1+R2 and R1+Rn of the others."""
        self.go(address, "testing", "[data-testid=progress]")
        board = self.saved_job(address).boards[0].id
        self.read("ze:supply:supply", "0.2")
        for to in ("ln", "le"):
            if self.all(f"[data-test='pfc_{to}:board:{board}']"):
                self.read(f"pfc_{to}:board:{board}", "1.2kA")
        for circuit in self.saved_job(address).circuits:
            for test, text in (("r1_end", "0.5"), ("rn_end", "0.5"), ("r2_end", "0.82"), ("x_le", "0.33"), ("r1r2", "0.4"), ("zs", "0.6")):  # fmt: skip
                if self.all(f"[data-test='{test}:circuit:{circuit.id}']"):
                    self.read(f"{test}:circuit:{circuit.id}", text)
        self.tick_all()
        self.wait(lambda: len(self.saved_job(address).testing.readings) > 8, "not saved")

    def open_for_a_tester(self, of: Job) -> list[str]:
        return [
            f"{found.check} {need.path}"
            for found in assess(of).findings
            if found.verdict == "missing"
            for need in found.needs
            if "length" in need.path or need.path in ("supply.ze_ohm", "supply.fault_current_ka")
        ]

    def test_in_two_standards(self) -> None:
        for standard, lines, bad in (("uk", self.UK, "C1"), ("iec-de", self.DE, "immediate danger")):
            with self.subTest(standard):
                address = self.swap(standard, lines)
                self.assertGreater(len(self.open_for_a_tester(self.saved_job(address))), 3)
                self.measure(address)
                for circuit in self.saved_job(address).circuits:
                    self.alone(circuit.id)
                self.wait(
                    lambda address=address: self.open_for_a_tester(self.saved_job(address)) == [],  # type: ignore[misc]
                    f"still asked: {self.open_for_a_tester(self.saved_job(address))}",
                )
                self.press("Report and sign-off")
                self.css("[data-testid=add-observation]").send_keys("live parts", Keys.ENTER)
                self.wait(
                    lambda bad=bad: self.css("[data-observation=obs-1]").get_attribute("data-code") == bad, "no code"
                )  # type: ignore[misc]
                self.wait(lambda: self.css("[data-testid=result]").get_attribute("data-satisfactory") == "false", "no")
                self.wait(
                    lambda address=address: len(self.saved_job(address).inspection.observations) == 1, "not saved"
                )  # type: ignore[misc]
                self.go(address, "documents", "[data-export=condition]")
                self.assertEqual(self.page_errors(), [])

    def alone(self, circuit: str) -> None:
        """Says of a reading of both conductors that nothing else was joined, so that the drop follows from it."""
        for test in ("r1r2", "x_le"):
            rows = self.all(f"[data-test='{test}:circuit:{circuit}']")
            if not rows or not rows[0].get_attribute("data-verdict"):
                continue
            self.browser.execute_script("arguments[0].click()", rows[0].find_element(By.CSS_SELECTOR, "button"))
            box = self.css(f"[id='alone-{test}:circuit:{circuit}']")
            self.browser.execute_script("arguments[0].click()", box)
            selector = f"[id='alone-{test}:circuit:{circuit}'][data-state=checked]"
            self.css(selector)


if __name__ == "__main__":
    unittest.main()
