"""Takes the pictures in docs/screenshots, each main view once, from the demo jobs. Usage: make shots"""

from __future__ import annotations

import io
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from PIL import Image
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.harness import Server, Shared, resize
from tests.browser.page import CABLE, PageCase
from vivid_lattice.core.training.draw_board import training_board
from vivid_lattice.demo import demo_job
from vivid_lattice.reports.catalogue import export
from vivid_lattice.reports.page_preview import page_picture
from vivid_lattice.reports.report_data import ReportData

TARGET = ROOT / "docs" / "screenshots"
#: Long enough for the remedies and the saving to have settled.
SETTLE_S = 1.0
KILN, STUDIO_SOCKETS = 12, 13
#: What a tester reads at the mill: the upper lights are not as drawn.
READINGS = {
    "r1r2:circuit:c3": "0.15", "r1r2:circuit:c4": "0.31", "r1r2:circuit:c5": "0.16", "r1r2:circuit:c6": "0.23", "r1r2:circuit:c7": "1.60",
    "r1r2:circuit:c8": "3.40", "ze:supply:supply": "0.26",
}  # fmt: skip
#: The ground floor of the mill as it is typed.


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
        self.wait(lambda: len(self.all("[data-status]")) >= 10, "no status")
        self.take("jobs")
        address = self.open_demo()
        self.cell(KILN, "capacity").click()
        self.css("[data-remedy]")
        self.take("circuits")
        self.browser.get(address.replace("circuits", "setup"))
        self.css("[aria-label=Supply]")
        self.take("setup")
        self.browser.get(address)
        self.type_over(KILN, CABLE, "6")
        self.wait_kept(2)
        self.type_over(STUDIO_SOCKETS, CABLE, "4")
        self.wait_kept(3)
        self.browser.get(address.replace("circuits", "compare"))
        self.pick(self.css("main [role=combobox]"), value="r1")
        self.take("compare")
        self._quote(address)
        self._papers(address)
        self._testing()
        self._building()
        self._protection()
        self._plan()
        self._standards()
        self._training()
        resize(self.browser, 390, 844)
        self.browser.get(address)
        self.css("[data-testid=pocket]")
        self.take("phone")

    def _papers(self, address: str) -> None:
        """What leaves: the view with a sheet to look at, and the main sheets side by side."""
        self.browser.get(address.replace("circuits", "documents"))
        self.css('[aria-label="Preview Client handover"]').click()
        self.css("img[data-ready=true][alt^='Client handover']")
        self.take("documents")
        montage(TARGET / "sheets.png")
        print("docs/screenshots/sheets.png")

    def _testing(self) -> None:
        """A board that is being tested: most readings agree, the lights have a cause to find."""
        self.browser.get(self.open_demo().replace("circuits", "testing"))
        for test, text in READINGS.items():
            box = self.css(f"[data-test='{test}'] [data-reading]")
            box.send_keys(Keys.CONTROL + "a")
            box.send_keys(text, Keys.ENTER)
        self.css("[data-diagnosis] summary").click()
        self.wait(lambda: "saved" in self.css("header").text, "not saved")
        self.browser.execute_script("document.querySelector('main').scrollTop = 0")
        self.take("testing")

    def _protection(self) -> None:
        """The other face, selectivity, and a fault."""
        address = self.open_demo()
        self.cell(KILN, "overload").click()
        self.browser.switch_to.active_element.send_keys("p")
        self.take("protection")
        self.browser.get(address.replace("circuits", "protection"))
        self.css("[data-testid=pair] [aria-label='Check details']")
        self.take("selectivity")
        self.browser.get(address.replace("circuits", "faults"))
        self.css("[data-testid=fault-result]")
        circuit = self.all("form[aria-label='Fault'] [role=combobox]")[1]
        self.pick(circuit, text="Kiln")
        self.take("fault")

    def _training(self) -> None:
        """A board with a hidden defect: off, locked and proved, one circuit tested with the leads by hand."""
        self.browser.get(f"{self.server.url}/training")
        self.pick(self.field("Level"), text="2 · improver")
        self.enter("Board number", str(next(n for n in range(1, 60) if training_board("uk", 2, n).groups)))
        self.button("Start").click()
        self.css("[data-circuit]")
        for label in ("Main switch: on", "Lock Main switch"):
            self.css(f'[aria-label="{label}"]').click()
            self.wait(lambda of=label: not self.all(f'[aria-label="{of}"]'), "not done")
        circuit = "//li[@data-circuit='c1']"
        for button in (
            self.button("Tell the people"), self.button("Prove the indicator"), self.button("Prove dead", circuit),
            self.button("Prove the indicator"),
            self.button("Open accessories", circuit), self.button("Disconnect electronics", circuit),
        ):  # fmt: skip
            before = len(self.all("[data-testid=said]"))
            button.click()
            self.wait(lambda n=before: len(self.all("[data-testid=said]")) == n, "nothing is said")
            time.sleep(SETTLE_S)
        self.pick(self.field("Function"), text="Insulation resistance")
        self.button("Read the display").click()
        self.wait(lambda: "MΩ" in self.css("[aria-label=Tests]").text, "nothing is read")
        self.take("training")

    def _quote(self, address: str) -> None:
        """What to buy, and the price of it."""
        self.browser.get(address.replace("circuits", "quote"))
        self.wait(lambda: self.all("[data-sum=gross]"), "no total")
        self.button("Save quote").click()
        self.wait(lambda: self.all("[data-quote]"), "no quote")
        self.take("quote")

    def _plan(self) -> None:
        """The mill on its plan, with what is in each box of its lights."""
        self.browser.get(self.open_demo().replace("circuits", "routes"))
        self.wait(lambda: len(self.all("[data-planned]")) >= 5, "circuits are not on the plan")
        self.all("[data-planned=c7] details summary")[1].click()
        self.css("[data-planned=c7] [data-box]")
        self.browser.execute_script("document.querySelector('[data-planned=c7]').scrollIntoView()")
        ActionChains(self.browser).move_to_element(self.all("[data-planned=c7] details summary")[1]).perform()
        self.take("routes")

    def _standards(self) -> None:
        """The standards side by side."""
        self.browser.get(f"{self.server.url}/standards")
        self.css("table")
        self.take("standards")

    def _building(self) -> None:
        """An old board that is surveyed, and the lead demo's board laid out, wired and switched off."""
        self.browser.get(self.demo("Bakehouse").replace("circuits", "survey"))
        self.css("[data-testid=found-ways]")
        self.take("survey")
        address = self.open_demo().replace("circuits", "board")
        self.browser.get(address)
        self.css("[data-unit='way:c12']").click()
        self.take("board")
        self.browser.get(f"{address}?part=wiring")
        self.css("[data-wire-line]")
        self.take("wiring")
        self.browser.get(f"{address}?part=live")
        self.css("[data-unit=main]").click()
        self.take("live")


#: Sheets of the lead demo and which of their pages, in the order in which they stand in the picture.
_SHEETS = (("report", 1), ("chart", 1), ("hand-over", 1), ("report", 4), ("tests", 3), ("labels", 1))
_WIDE, _GAP = 520, 12
#: Heights of the two rows: sheets that stand upright, and those that lie.
_HIGH = (736, 368)


def montage(target: Path) -> None:
    """The main sheets in one picture, three in a row."""
    dossier = ReportData(
        job=demo_job("millrace"), made_at="2026-01-31T09:00:00", revision=7, saved_at="2026-01-31T08:55:00"
    )
    picture = Image.new("RGB", (3 * _WIDE + 4 * _GAP, sum(_HIGH) + 3 * _GAP), "#c9d2de")
    for number, (kind, page) in enumerate(_SHEETS):
        with Image.open(io.BytesIO(page_picture(export(dossier, kind).content, page, 130))) as opened:
            row = number // 3
            opened.thumbnail((_WIDE, _HIGH[row]))
            x = _GAP + number % 3 * (_WIDE + _GAP) + (_WIDE - opened.width) // 2
            picture.paste(opened, (x, _GAP + row * (_HIGH[0] + _GAP)))
    picture.save(target, optimize=True)


def main() -> int:
    """Take them all."""
    TARGET.mkdir(parents=True, exist_ok=True)
    server, shots = Server(), Shots()
    shots.browser, shots.server = Shared.browser(), server
    try:
        shots.everything()
    finally:
        server.stop()
    return 0


if __name__ == "__main__":
    sys.exit(main())
