"""From an old board to a new one: written down, judged, taken over, laid out."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.test_board import BoardCase


class Surveying(BoardCase):
    """A demo with an old board, and a job that begins with one."""

    def survey(self) -> str:
        address = self.demo("Bakehouse")
        self.go(address, "survey")
        self.css("[data-testid=found-ways]")
        return address

    def tab(self, title: str) -> None:
        xpath = f"//*[@role='tablist' and @aria-label='Survey sections']//button[normalize-space()='{title}']"
        self.browser.find_element(By.XPATH, xpath).click()

    def test_ways_are_typed_in_one_line_each_and_what_is_not_understood_stays_in_the_box(self) -> None:
        self.survey()
        box = self.css("[data-testid=way-entry]")
        box.send_keys("kettle", Keys.ENTER)
        self.wait(lambda: "No device" in self.css("[role=alert]").text, "not refused")
        self.assertEqual(box.get_attribute("value"), "kettle")
        box.clear()
        box.send_keys("B16 30mA 2.5mm shop sockets proven", Keys.ENTER)
        self.wait(lambda: "B16" in self.css("[data-way='9']").text, "not written down")
        self.assertEqual(
            self.css("[aria-label='Way 9: switched off and tested']").get_attribute("aria-checked"), "true"
        )
        self.css("[aria-label='Way 6: switched off and tested']").click()
        self.wait_kept(3)
        self.assertEqual(self.serious_faults(), [])

    def test_an_old_board_is_judged_taken_over_compared_and_laid_out(self) -> None:
        address = self.survey()
        self.tab("Observations")
        now = self.css("[data-urgency=now]")
        self.assertIn("Burnt or discoloured terminal", now.text)
        self.wait(lambda: "C1" in self.css("[data-urgency=now] h2").text, "no code of the standard")
        self.assertIn("BS 7671", self.css("[data-thing=hundred-ma-only]").text)
        self.tab("New ratings")
        self.wait(lambda: "25 A" in self.css("[data-mapped='3']").text, "the cable is not the limit")
        self.button("Create the new board").click()
        self.wait_kept(2)
        self.tab("Before and after")
        self.wait(lambda: "at 30 mA or less: 7" in self.css("[data-testid=before-after]").text, "nothing gained")
        self.browser.get(address.replace("circuits", "board"))
        self.pick(self.field("Enclosure"), text="Shale, 1 row of 12")
        self.wait_kept(3)
        self.button("Lay out").click()
        self.wait(lambda: len(self.all("[data-unit]")) == 8, "not laid out")
        self.wait_kept(4)
        self.assertEqual(self.page_errors(), [])

    def test_photos_are_kept_with_the_way_and_one_that_is_none_is_refused(self) -> None:
        self.survey()
        with tempfile.TemporaryDirectory() as folder:
            good, bad = Path(folder) / "burnt.jpg", Path(folder) / "notes.jpg"
            Image.new("RGB", (900, 700), (90, 60, 40)).save(good)
            bad.write_text("no picture at all", encoding="utf-8")
            self.css("[data-way='3'] td:last-child button").click()
            self.wait(lambda: "Photos of way 3" in self.css("[data-testid=photos]").text, "not of the way")
            self.css("[aria-label='Choose photos']").send_keys(str(good))
            self.wait(
                lambda: self.css("[data-testid=photos] img").get_property("naturalWidth") == 240, "no small picture"
            )
            self.css("[aria-label='Choose photos']").send_keys(str(bad))
            self.wait(lambda: "Not a photo" in self.css("[role=alert]").text, "not refused")
        self.browser.refresh()
        self.css("[data-testid=photos] img")

    def test_a_job_may_begin_with_the_old_board(self) -> None:
        address = self.open_demo()
        self.go(address, "survey")
        self.button("Record an existing board").click()
        # Saved before the next edit, or the two could be one revision.
        self.wait_kept(2)
        self.css("[data-testid=way-entry]").send_keys("fuse 5 1mm lights", Keys.ENTER)
        self.wait(lambda: "5 A rewirable fuse" in self.css("[data-way='1']").text, "not written down")
        self.wait_kept(3)


if __name__ == "__main__":
    unittest.main()
