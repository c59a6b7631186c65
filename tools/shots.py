"""Takes the pictures in docs/screenshots, each main view once, from the demo jobs. Usage: make shots"""

from __future__ import annotations

import sys
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser.harness import resize
from tests.browser.page import CABLE, LENGTH, NAME, PageCase

TARGET = ROOT / "docs" / "screenshots"
#: Long enough for the remedies and the saving to have settled.
SETTLE_S = 1.0
KILN, STUDIO_SOCKETS, INDUCTION_HOB = 12, 13, 2


class Shots(PageCase):
    """Not a test: it uses the pages the way the tests do."""

    def take(self, name: str) -> None:
        """A picture of what is on the page now."""
        time.sleep(SETTLE_S)
        self.browser.save_screenshot(str(TARGET / f"{name}.png"))
        print(f"docs/screenshots/{name}.png")

    def everything(self) -> None:
        """Every main view, one after the other."""
        self.browser.get(self.server.url)
        self.css("main h1")
        self.take("jobs")
        address = self.open_demo()
        self.cell(KILN, "capacity").click()
        self.css("[data-remedy]")
        self.take("lattice")
        self.css('[aria-label="Dark"]').click()
        self.cell(STUDIO_SOCKETS, "voltage-drop").click()
        self.css("[data-remedy]")
        self.take("lattice-dark")
        self.css('[aria-label="Light"]').click()
        self.browser.get(address.replace("lattice", "intake"))
        self.css("[aria-label=Supply]")
        self.take("intake")
        self.browser.get(address)
        self.cell(KILN, NAME).click()
        self.browser.switch_to.active_element.send_keys(Keys.ENTER)
        self.css("[role=dialog]")
        self.take("circuit")
        self.browser.get(address)
        self._what_if()
        self.browser.get(address)
        self._conflict(address)
        self.browser.get(address)
        self.type_over(KILN, CABLE, "6")
        self.wait_kept(3)
        self.type_over(STUDIO_SOCKETS, CABLE, "4")
        self.wait_kept(4)
        self.browser.get(address.replace("lattice", "variants"))
        self.css("main select option[value=r1]").click()
        self.take("variants")
        self._protection()
        self._schools()
        resize(self.browser, 390, 844)
        self.browser.get(address)
        self.css("[data-testid=pocket]")
        self.take("phone")

    def _what_if(self) -> None:
        self.cell(STUDIO_SOCKETS, "voltage-drop").click()
        self.css("[data-remedy]")
        button = self.browser.find_element(By.XPATH, "//button[normalize-space()='What if …']")
        button.click()
        slider = self.css("[data-testid=what-if] input[type=range]")
        slider.send_keys(*[Keys.ARROW_RIGHT] * 4)
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'end'})", slider)
        self.take("what-if")

    def _part(self, title: str) -> None:
        xpath = f"//nav[@aria-label='Parts of protection']//button[normalize-space()='{title}']"
        self.wait(lambda: self.browser.find_element(By.XPATH, xpath), f"no part {title}").click()

    def _protection(self) -> None:
        """The other face, the parts of the protection view, and a fault in each of two jobs."""
        address = self.open_demo()
        self.cell(KILN, "overload").click()
        self.browser.switch_to.active_element.send_keys("p")
        self.take("protection")
        self.browser.get(address.replace("lattice", "protection"))
        self.css("[data-testid=pair] [aria-label=Working]")
        self.take("discrimination")
        self._part("Surge")
        self.css("[aria-label=Finding] ol")
        self.take("surge")
        self.browser.get(address.replace("lattice", "faults"))
        self.css("[data-testid=story]")
        circuit = self.all("form[aria-label='The event'] select")[1]
        Select(circuit).select_by_visible_text("Kiln")
        self.take("fault")
        cottage = self.open_job("Lamplighter").replace("lattice", "protection")
        self.browser.get(cottage)
        self._part("RCD plans")
        self.browser.find_element(By.XPATH, "//main//button[normalize-space()='Plan']").click()
        self.css("[data-architecture=split]")
        self.take("rcd-plans")
        self._part("Voltage relay")
        self.css("[data-testid=switchings]")
        self.take("relay")

    def _schools(self) -> None:
        """What the other schools change: lines, gauges, the supply, and all of them side by side."""
        address = self.open_job("Organ builder")
        self.cell(1, "voltage-drop")
        self.take("three-lines")
        self.browser.get(address.replace("lattice", "intake"))
        self.css("[aria-label=Supply]")
        self.take("intake-three-lines")
        self.open_job("Lighthouse")
        self.cell(3, "voltage-drop").click()
        self.take("split-phase")
        self.browser.get(f"{self.server.url}/schools")
        self.css("table")
        self.take("schools")

    def _conflict(self, address: str) -> None:
        self.cell(INDUCTION_HOB, NAME)
        self.change_in_another_tab(address, INDUCTION_HOB, LENGTH, "15")
        self.type_over(KILN, CABLE, "6")
        dialog: Any = self.css("[role=dialog]")
        self.take("conflict")
        dialog.find_element(By.XPATH, ".//button[starts-with(., 'Open theirs and drop mine')]").click()


def main() -> int:
    """Take them all."""
    TARGET.mkdir(parents=True, exist_ok=True)
    Shots.setUpClass()
    try:
        Shots().everything()
    finally:
        Shots.doClassCleanups()
    return 0


if __name__ == "__main__":
    sys.exit(main())
