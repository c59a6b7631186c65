"""The way in, in a real browser: what to do next, the list of jobs, the palette, the tour, values typed where they are missed."""

from __future__ import annotations

import unittest

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.harness import resize
from tests.browser.page import MILLRACE, PageCase
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin, blank
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import DEMOS, demo_job


class Entrance(PageCase):
    def keys(self, *keys: str, held: str = "") -> None:
        chain = ActionChains(self.browser)
        if held:
            chain = chain.key_down(held)
        chain = chain.send_keys(*keys)
        (chain.key_up(held) if held else chain).perform()

    # -------------------------------------------------------------------------------- what to do next

    def test_what_to_do_next_is_a_press_away_and_advice_is_accepted(self) -> None:
        self.open_demo()
        steps = self.wait(lambda: self.all("[data-step]"), "nothing to do")
        self.assertEqual([step.get_attribute("data-step") for step in steps], ["fix", "advice"])
        self.css("[data-step=advice] button").click()
        self.css("[data-testid=surge-proposal], [aria-label='Check result']")
        self.browser.back()
        self.css("button[data-testid=counts]").click()
        self.wait(lambda: len(self.all("[data-testid=causes] li")) == 7, "not every cause is listed")
        before = self.css("button[data-testid=counts]").text
        self.button("Accept …").click()
        self.browser.switch_to.active_element.send_keys("no nearer place", Keys.ENTER)
        self.wait(lambda: self.all("[data-testid=accepted]"), "it is not accepted")
        self.assertIn("no nearer place", self.css("[data-testid=accepted]").text)
        self.assertNotEqual(self.css("button[data-testid=counts]").text, before)
        self.wait_kept(2)
        self.button("Raise again").click()
        self.wait(lambda: not self.all("[data-testid=accepted]"), "it stays accepted")
        self.assertEqual(self.serious_faults(), [])
        self.assertEqual(self.page_errors(), [])

    # -------------------------------------------------------------------------------- the list of jobs

    def test_jobs_are_found_copied_and_told_by_their_status(self) -> None:
        self.kept(begin("Weir cottage", rule_set("uk"), None))
        self.kept(demo_job("lock-lodge"))
        self.browser.get(self.server.url)
        self.wait(lambda: self.all("[data-status=empty]") and self.all("[data-status=failing]"), "no status")
        self.css("input[type=search]").send_keys("weir")
        own = "section[aria-labelledby=jobs-title] [data-job]"
        self.wait(lambda: len(self.all(own)) == 1, "the search finds another")
        self.css("[aria-label='Duplicate Weir cottage']").click()
        self.wait(lambda: len(self.all(own)) == 2, "no copy")
        self.css("input[type=search]").send_keys(" castle")
        self.wait(lambda: "No job has" in self.css("section[aria-labelledby=jobs-title]").text, "nothing is said")
        demos = self.all("section[aria-labelledby=demos-title] li")
        self.assertEqual(len(demos), len(DEMOS))
        self.assertEqual(self.serious_faults(), [])

    def test_a_new_job_begins_with_a_table(self) -> None:
        path = self.server.database.parent / "circuits.csv"
        path.write_text("Circuit,Power [kW],Length [m]\nCooker,7.2,14\nHeater,2,9\n", encoding="utf-8")
        self.browser.get(self.server.url)
        self.css('[aria-label="Job name"]').send_keys("From a table")
        choice = self.wait(
            lambda: self.browser.find_element(By.XPATH, "//label[text()='Starting point']/following-sibling::button"),
            "no starting point",
        )
        self.pick(choice, value="table")
        self.css("form[aria-labelledby=new-job] input[type=file]").send_keys(str(path))
        self.button("TN-S").click()
        self.create()
        self.css("[role=dialog] [data-row-left-out]")
        self.button("Import 2 rows").click()
        self.wait(lambda: len(self.all("[data-testid=grid-scroll] [role=row][aria-label]")) >= 2, "not imported")
        self.assertEqual(self.page_errors(), [])

    def test_an_address_that_leads_nowhere_says_so(self) -> None:
        for path in ("/nowhere", "/jobs/none/circuits"):
            self.browser.get(f"{self.server.url}{path}")
            title = self.wait(lambda: self.css("main h1").text, "no title")
            self.assertIn(title, ("No page at this address", "Cannot open this job"))
            self.browser.find_element(By.LINK_TEXT, "All jobs").click()
            self.css("#jobs-title")

    # -------------------------------------------------------------------------------- palette and tour

    def test_the_palette_goes_to_a_circuit_a_setting_and_does_an_action(self) -> None:
        self.open_demo()
        self.keys("k", held=Keys.CONTROL)
        self.css("[role=combobox][aria-controls]")
        self.keys("sluice", Keys.ENTER)
        self.wait(lambda: "Sluice pump" in self.css("[data-testid=working]").text, "the cursor is elsewhere")
        self.keys("k", held=Keys.CONTROL)
        self.css("[role=listbox]")
        self.assertEqual(self.serious_faults(), [])
        self.keys("earthing and", Keys.ENTER)
        self.css("section[aria-label='Earthing and bonding']")
        self.wait(
            lambda: self.browser.execute_script(
                "return document.querySelector('section[aria-label=\"Earthing and bonding\"]').contains(document.activeElement)"
            ),
            "the keyboard is elsewhere",
        )
        self.keys("k", held=Keys.CONTROL)
        self.css("[role=listbox]")
        self.keys("add a circuit", Keys.ENTER)
        self.wait(lambda: self.browser.switch_to.active_element.get_attribute("id") == "quick-entry", "no entry")

    def test_the_tour_goes_from_view_to_view_and_is_left_at_any_time(self) -> None:
        address = self.open_demo()
        self.browser.get(f"{address}?tour=1")
        views = []
        for _ in range(7):
            tour = self.css("[data-testid=tour]")
            self.wait(lambda: self.all("[data-toured]"), "nothing is pointed at")
            views.append(self.browser.current_url.split("?")[0].rsplit("/", 1)[-1])
            number = tour.text.split("\n")[0]
            self.button("Next").click()
            self.wait(lambda was=number: self.css("[data-testid=tour]").text.split("\n")[0] != was, "it stays")  # type: ignore[misc]
        self.assertEqual(views, ["circuits"] * 4 + ["protection", "board", "faults"])
        self.assertEqual(self.serious_faults(), [])
        self.keys(Keys.ESCAPE)
        self.wait(lambda: not self.all("[data-testid=tour], [data-toured]"), "it does not end")
        self.assertEqual(self.page_errors(), [])

    # -------------------------------------------------------------------------------- what is missing

    def test_a_value_that_a_page_lacks_is_typed_there(self) -> None:
        job = enter_and_design(blank("Old", rule_set("uk")), "cooker 7.2kW 14m", "main").job
        address = self.kept(job)
        self.browser.get(address.replace("circuits", "faults"))
        box = self.css("[data-need='supply.fault_current_ka']")
        box.send_keys("about one", Keys.ENTER)
        self.wait(lambda: "is not a number" in self.css("main").text, "it is not refused")
        box = self.css("[data-need='supply.fault_current_ka']")
        box.send_keys(Keys.CONTROL + "a")
        box.send_keys("1,4", Keys.ENTER)
        self.wait(lambda: not self.all("[data-need='supply.fault_current_ka']"), "it is still asked")
        self.wait_kept(2)
        self.browser.get(address.replace("circuits", "protection") + "?part=surge")
        self.css("[data-testid=surge-proposal] button").click()
        self.wait_kept(3)
        self.wait(lambda: not self.all("[data-testid=surge-proposal]"), "it is still proposed")
        self.assertEqual(self.page_errors(), [])

    def test_a_page_without_circuits_has_the_box_for_the_first(self) -> None:
        address = self.kept(begin("Weir cottage", rule_set("uk"), "TN-S"))
        for view, shown in (("faults", "[data-testid=fault-result]"), ("board", "[data-testid=proposal]")):
            self.browser.get(address.replace("circuits", view))
            if view == "faults":
                self.css("#quick-entry").send_keys("heater 2kW 12m", Keys.ENTER)
            self.css(shown)
        self.assertEqual(self.page_errors(), [])

    # -------------------------------------------------------------------------------- drawings

    def test_a_conductor_is_followed_from_end_to_end(self) -> None:
        address = self.open_demo(MILLRACE)
        self.browser.get(address.replace("circuits", "board") + "?part=wiring")
        self.css("[data-testid=supply-side]")
        line = self.css("[data-wire-line='main/N/out>bar>main/N/out']")
        ActionChains(self.browser).move_to_element(line).perform()
        self.wait(lambda: "Main switch" in self.css("[data-testid=wire-caption]").text, "no caption")
        dimmed = [wire for wire in self.all("[data-wire]") if "opacity-15" in (wire.get_attribute("class") or "")]
        self.assertEqual(len(dimmed), len(self.all("[data-wire]")) - 1)
        self.assertEqual(self.serious_faults(), [])

    def test_a_slider_plans_again(self) -> None:
        address = self.open_demo("Lamplighter")
        self.browser.get(address.replace("circuits", "protection") + "?part=rcds")
        self.wait(lambda: self.all("[data-architecture=two] ol li"), "no plans")
        self.assertEqual(len(self.all("[data-architecture=two] ol li")), 10)
        self.css("[role=slider][aria-label='Fewer devices']").send_keys(Keys.END)
        self.assertEqual(
            self.css("[role=slider][aria-label='Fewer devices']").get_attribute("aria-valuetext"), "above all"
        )
        self.wait(lambda: self.all("[role=status]"), "it does not begin again")
        self.assertEqual(self.serious_faults(), [])

    # -------------------------------------------------------------------------------- on the phone

    def test_on_a_phone_a_circuit_is_added_by_a_line(self) -> None:
        resize(self.browser, 390, 800)
        self.browser.get(self.demo())
        cards = self.wait(lambda: self.all("[data-testid=pocket] li b"), "no cards")
        count = len(cards)
        self.css("#quick-entry").send_keys("heater 2kW 12m", Keys.ENTER)
        self.wait(lambda: len(self.all("[data-testid=pocket] li b")) == count + 1, "it is not added")
        self.assertTrue(self.all("[data-testid=photos]"))
        self.assertEqual(self.serious_faults(), [])
        self.assertEqual(self.page_errors(), [])


if __name__ == "__main__":
    unittest.main()
