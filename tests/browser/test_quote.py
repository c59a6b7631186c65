"""From the plan to the quote on the page, by keyboard alone; the same figures from the shell; one more point on a circuit."""

from __future__ import annotations

import io
import json
import tempfile
import unittest
from contextlib import closing, redirect_stdout
from pathlib import Path
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.harness import resize
from tests.browser.page import PageCase
from tests.browser.test_routes import POINTS, ROOMS
from tests.browser.test_testing import house
from vivid_lattice.cli.main import main
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.job_file import to_text
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import get_revision

BUILD = ("walls masonry 100", "ground floor joists across depth 225 centres 400 span 4.2", "first floor joists none")


class Quoting(PageCase):
    demos = False

    def job(self, address: str) -> Job:
        """The job as the server has it, once the page says that it is saved."""
        self.wait(lambda: self.all("[data-testid=save-state][data-state=saved]"), "not saved")
        with closing(connect(self.server.database)) as conn:
            return get_revision(conn, address.split("/")[-2]).job

    def from_the_shell(self, address: str) -> dict[str, Any]:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "job.json"
            path.write_text(to_text(self.job(address)), "utf-8")
            out = io.StringIO()
            with redirect_stdout(out):
                main(["quote", str(path), "--json"])
        said: dict[str, Any] = json.loads(out.getvalue())
        return said

    def type_into(self, label: str, text: str) -> None:
        """A figure into a box that is reached by its label, without a click."""
        box = self.field(label)
        self.browser.execute_script("arguments[0].focus()", box)
        box.send_keys(Keys.CONTROL + "a")
        box.send_keys(text, Keys.TAB)

    def test_from_the_plan_to_a_saved_quote_by_keyboard_alone(self) -> None:
        address = self.kept(house("kitchen ring", "lights", "cooker 32A"))
        self.browser.get(address.replace("circuits", "routes"))
        entry = self.css("#plan-entry")
        for line in (*ROOMS, *POINTS, *BUILD):
            entry.send_keys(line, Keys.ENTER)
            self.wait(lambda: entry.get_attribute("value") == "", f"not taken: {line}")
        self.job(address)
        self.browser.switch_to.active_element.send_keys(Keys.ALT, "q")
        self.css("[data-testid=sums]")
        self.assertIn("hourly rate is not stated", self.css("[data-testid=sums]").text)
        for label, text in (("Currency", "£"), ("Hourly rate", "45"), ("Tax", "20"), ("Markup", "12,5")):
            self.type_into(label, text)
            self.job(address)
        for number in range(len(self.all("[data-price]"))):
            box = self.all("[data-price]")[number]
            self.browser.execute_script("arguments[0].focus()", box)
            box.send_keys(Keys.CONTROL + "a")
            box.send_keys(f"{3 + number}.35", Keys.TAB)
            self.wait(
                lambda number=number: self.all("[data-price]")[number].get_attribute("value") == f"{3 + number}.35",  # type: ignore[misc]
                "the price is not kept",
            )
            self.job(address)
        self.wait(lambda: self.all("[data-sum=gross]"), "no total")
        said = self.from_the_shell(address)
        for name in ("material", "labour", "overhead", "net", "tax", "gross"):
            self.assertEqual(self.css(f"[data-sum={name}]").text, f"£{said['sums'][name] / 100:.2f}", name)
        shown = {
            row.get_attribute("data-article"): row.find_element(By.CSS_SELECTOR, "[data-cost]").text
            for row in self.all("[data-article]")
        }
        costs = {line["article"]: "" if line["cost"] is None else f"{line['cost']:.2f}" for line in said["material"]}
        self.assertEqual(shown, costs)
        self.same_cuts(said)
        save = self.button("Save quote")
        self.browser.execute_script("arguments[0].focus()", save)
        save.send_keys(Keys.ENTER)
        self.wait(lambda: self.all("[data-quote='1']"), "not saved")
        [made] = self.job(address).quotes
        self.assertEqual(made.gross_coins, said["sums"]["gross"])
        self.assertGreater(made.revision or 0, 5)
        self.assertEqual(self.page_errors(), [])
        self.assertEqual(self.serious_faults(), [])

    def same_cuts(self, said: dict[str, Any]) -> None:
        """Each piece of the page's cut list, and each of the shell's."""
        for cut in said["cuts"]:
            drawn = self.css(f"[data-cut='{cut['article']}']")
            pieces = [
                float(each.get_attribute("textContent").split()[0])
                for each in drawn.find_elements(By.CSS_SELECTOR, "li")
            ]
            wanted = (
                [mm / 1000 for each in cut["plan"] for mm in each["pieces_mm"]]
                if cut["plan"]
                else [each["length_m"] for each in cut["pieces"]]
            )
            self.assertEqual(len(pieces), len(wanted), cut["article"])
            for one, other in zip(pieces, wanted, strict=True):
                self.assertAlmostEqual(one, other, delta=0.0051)

    def test_an_empty_job_says_what_it_needs_and_a_bad_price_is_not_taken(self) -> None:
        address = self.kept(house())
        self.browser.get(address.replace("circuits", "quote"))
        self.assertIn("no line has a price", self.css("[data-testid=sums]").text)
        box = self.css("[data-price]")
        box.send_keys("many", Keys.TAB)
        self.assertEqual(self.css("[data-price]").get_attribute("value"), "many")
        self.assertEqual(self.job(address).prices.articles, ())
        measured = self.css("[data-measured]")
        measured.send_keys("7,5", Keys.TAB)
        self.wait(lambda: self.job(address).purchase.measured, "a measured length is not kept")
        self.assertEqual(self.page_errors(), [])

    def test_what_changed_since_the_last_quote_is_told(self) -> None:
        address = self.demo()
        self.browser.get(address.replace("circuits", "quote"))
        self.wait(lambda: self.all("[data-sum=gross]"), "no total")
        self.button("Save quote").click()
        self.wait(lambda: self.all("[data-quote='1'] [data-option=shared-rcd]"), "not saved with its options")
        box = self.css("[data-work=connect] input")
        box.send_keys(Keys.CONTROL + "a")
        box.send_keys("0.5", Keys.TAB)
        self.wait(lambda: self.all("[data-testid=changes]"), "no changes")
        self.css("[data-testid=changes] summary").click()
        self.assertIn("circuit connected in the board: 5.6 h, now 8 h", self.css("[data-testid=changes]").text)
        self.assertEqual(self.serious_faults(), [])

    def test_one_more_point_is_decided_and_added(self) -> None:
        address = self.kept(house("kitchen ring 40m", "lights 30m"))
        self.browser.get(address.replace("circuits", "routes"))
        self.css("[data-testid=one-point] summary").click()
        self.enter("New cable", "5")
        self.wait(lambda: self.css("[data-testid=decision]").get_attribute("data-allowed") == "false", "not refused")
        self.assertIn("not been confirmed", self.css("[data-testid=decision]").text)
        self.pick(self.field("Found at the box"), text="On the ring, no spur")
        self.wait(lambda: self.css("[data-testid=decision]").get_attribute("data-allowed") == "null", "not open")
        self.pick(self.field("New cable hidden in"), text="a wall")
        self.enter("Outlets on the ring", "8")
        self.enter("Unfused spurs", "7")
        self.wait(lambda: self.css("[data-testid=decision]").get_attribute("data-allowed") == "true", "not permitted")
        self.enter("Unfused spurs", "8")
        self.wait(lambda: "9 unfused spurs" in self.css("[data-testid=decision]").text, "too many spurs are not told")
        self.enter("Unfused spurs", "7")
        self.wait(
            lambda: self.css("[data-testid=decision]").get_attribute("data-allowed") == "true", "not permitted again"
        )
        self.button("Add it to the circuit").click()
        self.wait(lambda: self.job(address).circuits[0].spurs, "not added")
        self.assertEqual(self.page_errors(), [])

    def test_the_fixing_of_a_plan_is_shown_on_a_phone_too(self) -> None:
        address = self.demo()
        resize(self.browser, 390, 800)
        self.browser.get(address.replace("circuits", "routes"))
        self.css("[data-testid=fixing] summary").click()
        self.wait(lambda: self.all("[data-drill]"), "no drill list")
        self.assertIn("m from the", self.css("[data-mark]").text)
        wide = self.browser.execute_script("return document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 390)


if __name__ == "__main__":
    unittest.main()
