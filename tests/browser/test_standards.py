"""A circuit of each kind typed into jobs of four standards, and what else a standard changes on the pages."""

from __future__ import annotations

import re
import unittest
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.page import CHECKS, LENGTH, PageCase

#: Lines of one standard's words: what is typed, the name that comes of it, and a pattern of the device that is chosen.
TYPED: dict[str, tuple[tuple[str, str, str], ...]] = {
    "Ferry landing": (
        ("workshop ring 40m", "Workshop ring", "B32"),
        ("8 x lamp 9W 20m", "Lamp", "B6"),
        ("oven 3.6kW 12m", "Oven", "B20"),
        ("saw 1.5kW 16m", "Saw", "C16"),
        ("doorbell control 20W 8m", "Doorbell control", "B6"),
    ),
    "Wool loft": (
        ("sockets 18m", "Sockets", "C20"),
        ("12 x lamp 9W spread 30m", "Lamp", "C10"),
        ("press motor 4kW 20m 3ph", "Press motor", "C10"),
        ("welder 4kW 10m L2", "Welder", "C32"),
        ("geyser 3kW 14m", "Geyser", "C20"),
        ("contactor coil 30W 8m", "Contactor coil", "C10"),
    ),
    "Organ builder": (
        ("sockets 18m", "Sockets", "B16"),
        ("glue kiln 6kW 15m 3ph", "Glue kiln", "B16"),
        ("planer motor 3kW 16m 3ph", "Planer motor", "C"),
        ("lights 300W continuous 25m L3", "Lights", "B10"),
        ("heater 2kW 12m", "Heater", "B16"),
    ),
    "Lighthouse": (
        ("receptacle 60ft", "Receptacle", "15"),
        ("10 x lamp 9W 80ft", "Lamp", "15"),
        ("tower water heater 4.5kW 30ft", "Tower water heater", "30"),
        ("tower dryer 5kW 40ft", "Tower dryer", "30"),
        ("pump 750W 50ft L2", "Pump", "15"),
        ("welder 6kW 30ft", "Welder", "50"),
    ),
}


class EveryKind(PageCase):
    """From a typed line to a row that answers."""

    def row_of(self, name: str) -> str:
        """The last row of a name; looked for in the page, since asking for every cell by itself takes seconds."""
        script = """return [...document.querySelectorAll("[data-column='0'][data-row]")]
                    .filter((cell) => cell.innerText.split("\\n").includes(arguments[0])).at(-1)?.dataset.row"""
        return str(self.wait(lambda: self.browser.execute_script(script, name), f"no row {name}"))

    def cells(self, row: str) -> dict[str, Any]:
        """What a row's cells hold: the editable ones in their order, and the verdict of every check."""
        script = """const cells = [...document.querySelectorAll(`[data-row='${arguments[0]}'][data-column]`)];
                    return {edits: cells.map((cell) => cell.dataset.value).filter((value) => value !== undefined),
                            verdicts: cells.map((cell) => cell.dataset.verdict).filter((verdict) => verdict)};"""
        found: dict[str, Any] = self.browser.execute_script(script, row)
        return found

    def test_each_kind_is_typed_chosen_and_checked(self) -> None:
        for title, lines in TYPED.items():
            self.open_demo(title)
            for text, name, device in lines:
                with self.subTest(title, text=text):
                    box = self.css("#quick-entry")
                    box.send_keys(text, Keys.ENTER)
                    # A demo may have a row of the name already: the new one is the last, once it is there.
                    found = self.wait(
                        lambda name=name, device=device: (
                            (cells := self.cells(self.row_of(name)))
                            and len(cells["verdicts"]) == len(CHECKS)
                            and any(device in (value or "") for value in cells["edits"])
                            and cells
                        ),
                        f"{name} is not answered with {device}",
                    )
                    self.assertNotIn("missing", found["verdicts"])
                    self.assertNotIn("fail", found["verdicts"])
        self.assertEqual(self.page_errors(), [])

    def test_a_ring_is_refused_by_a_standard_that_knows_none_and_the_line_stays(self) -> None:
        self.open_demo("Wool loft")
        box = self.css("#quick-entry")
        box.send_keys("kitchen ring 40m", Keys.ENTER)
        self.wait(lambda: "has no ring circuits" in self.css("body").text, "no reason is given")
        self.assertEqual(box.get_attribute("value"), "kitchen ring 40m")

    def test_a_feeder_of_nothing_rests_on_an_assumed_current(self) -> None:
        self.open_demo("Ferry landing")
        self.css("#quick-entry").send_keys("boathouse feeder 30m", Keys.ENTER)
        row = self.row_of("Boathouse feeder")
        self.wait(lambda: "pass" in self.cells(row)["verdicts"], "the feeder is not judged")
        self.wait(
            lambda: "Rests on an assumed value" in self.browser.page_source, "that its current is assumed is not said"
        )
        self.assertIn("to confirm", self.css("[data-testid=to-confirm]").text)


class OtherViews(PageCase):
    """What if, two variants, the standards side by side: there, right, and readable by everybody."""

    def test_standards_stand_side_by_side(self) -> None:
        self.browser.get(f"{self.server.url}/standards")
        self.wait(lambda: "AS/NZS 3000" in self.css("table").text, "no table of standards")
        text = self.css("main").text
        self.assertIn("equipment ground", text)
        self.assertIn("switchboard", text)
        self.assertEqual(self.serious_faults(), [])

    def test_what_if_moves_a_figure_and_takes_it_over(self) -> None:
        self.open_demo()
        self.cell(4, "voltage-drop").click()
        before = self.typed(4, LENGTH)
        self.wait(
            lambda: self.browser.find_element(By.XPATH, "//button[normalize-space()='What if …']"), "no what if"
        ).click()
        slider = self.css("[data-testid=what-if] input[type=range]")
        shown = self.css("[data-testid=what-if]").text
        self.assertRegex(shown, r"Length[\s\S]*Ambient")
        slider.send_keys(Keys.END)
        self.wait(lambda: re.search(r"-\d+ %", self.css("[data-testid=what-if]").text), "nothing is over its limit")
        self.assertIn("First to fail", self.css("[data-testid=what-if]").text)
        self.assertEqual(self.typed(4, LENGTH), before)
        self.assertEqual(self.serious_faults(), [])
        self.wait(
            lambda: next(one for one in self.all("[data-testid=what-if] button") if one.text.startswith("Apply")),
            "no way to take it",
        ).click()
        self.wait(lambda: float(self.typed(4, LENGTH)) > 2 * float(before), "the figure is not taken over")
        self.assertEqual(self.page_errors(), [])

    def test_two_variants_are_told_apart_in_words(self) -> None:
        address = self.open_demo()
        self.type_over(2, 3, "90")
        self.wait_kept(2)
        self.browser.get(address.replace("circuits", "compare"))
        self.wait(lambda: "90 m" in self.css("main").text, "the change is not told")
        self.assertEqual(self.serious_faults(), [])
        self.assertEqual(self.page_errors(), [])


if __name__ == "__main__":
    unittest.main()
