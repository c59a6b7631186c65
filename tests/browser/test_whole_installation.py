"""Earthing by board, sources, standby supplies, devices outside the board and a larger supply, entered on the pages."""

from __future__ import annotations

import unittest

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.page import NAME, PageCase
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.actions.propose_layout import propose_layout
from vivid_lattice.core.rules import rule_set

WEIR = "Weir cottage"


class Entered(PageCase):
    """A job typed in the core, changed on the pages."""

    demos = False

    def house(self, *lines: str) -> str:
        """The address of a house with these lines."""
        job = begin("Sluice house", rule_set("uk"), "TN-C-S")
        for line in lines:
            board, _, text = line.rpartition("|")
            job = enter_and_design(job, text, board or "main").job
        return self.kept(job)

    def setup(self, address: str) -> None:
        self.browser.get(address.replace("circuits", "setup"))
        self.css("[aria-label=Supply]")

    def sheet(self, address: str, name: str) -> None:
        """Opens the sheet of a circuit."""
        self.browser.get(address)
        self.wait_for_lattice()
        names = self.all(f"[data-row][data-column='{NAME}']")
        next(cell for cell in names if name in cell.text).click()
        self.press(Keys.ENTER)
        self.css("[role=dialog] fieldset")

    def finding(self, check: str) -> str:
        """The words of the first result of a check, opened by its address."""
        self.browser.get(self.browser.current_url.split("?")[0].replace("setup", "circuits"))
        self.wait_for_lattice()
        self.wait(lambda: self.all('[data-testid="counts"]'), "no counts")[0].click()
        path = f'//*[@data-testid="causes"]//button[contains(., "{check}")]'
        return str(self.wait(lambda: self.browser.find_element(By.XPATH, path), f"{check} is not listed").text)


class Earths(Entered):
    """The earth of a board, and of the points of a circuit."""

    def test_a_typed_shed_has_its_electrode_and_what_is_missed_is_answered(self) -> None:
        address = self.house("kitchen ring 40m")
        self.browser.get(address)
        self.css("#quick-entry").send_keys("shed 28m swa own rod 38 ohm", Keys.ENTER)
        self.wait(lambda: "Shed" in self.css("[role=grid]").text, "no feeder")
        self.wait_kept(2)
        self.setup(address)
        self.assertEqual(self.field("Earth of this board").text, "own electrode alone (TT)")
        self.assertEqual(self.field("Electrode, measured").get_attribute("value"), "38")
        self.enter("Distance to metal on the other earth", "4,5")
        self.wait_kept(3)
        self.assertEqual(self.field("Distance to metal on the other earth").get_attribute("value"), "4.5")
        self.assertEqual(self.page_errors(), [])

    def test_the_kind_of_earth_changes_what_is_asked(self) -> None:
        self.setup(self.house("shed 28m swa own rod 38 ohm"))
        self.pick(self.field("Earth of this board"), value="exported")
        self.wait(
            lambda: not self.browser.find_elements(By.XPATH, "//label[starts-with(., 'Electrode, measured')]"),
            "still asked",
        )
        self.pick(self.field("Metalwork to bond"), text="yes")
        self.wait_kept(3)
        self.pick(self.field("Earth of this board"), value="electrode")
        self.wait_kept(4)
        self.assertEqual(self.field("Electrode, measured").get_attribute("value"), "38")
        self.button("Calculate from rods").click()
        self.enter("Soil resistivity", "250")
        self.wait_kept(6)
        self.enter("Soil resistivity", "wet")
        self.wait(lambda: "is not a number" in self.css("main").text, "it is not said")

    def test_an_electrode_for_a_charging_point_and_its_open_pen_device(self) -> None:
        address = self.house("ev charger 7.4kW 16m")
        self.sheet(address, "charger")
        self.pick(self.field("Earth of these points"), value="electrode")
        self.enter("Electrode, measured", "55")
        self.wait_kept(3)
        self.pick(self.field("Earth of these points"), value="")
        self.wait_kept(4)
        self.button("Enter its thresholds").click()
        self.enter("Disconnects at", "80")
        self.enter("Within", "5")
        self.wait_kept(7)
        self.button("Done", "//*[@role='dialog']").click()
        # BS 7671, 722.411.4.1: 70 V to true earth within 5 s.
        self.assertIn("limit 70 V", self.finding("80 V"))


class Devices(Entered):
    """Tandems with the panel's label, poles and widths, clean earths, bonding at a further board, switching in words."""

    def panel(self) -> str:
        job = begin("Ranger station", rule_set("na"), "TN-C-S")
        for line in ("basement lights 15A tandem 40ft", "hall lights 15A tandem 40ft"):
            job = enter_and_design(job, line, "main").job
        return self.kept(propose_layout(job, "main").document)

    def test_a_tandem_asks_for_the_label_and_is_drawn_in_halves(self) -> None:
        self.browser.get(self.panel().replace("circuits", "board") + "?part=layout&board=main")
        self.css("[data-testid=board-drawing]")
        ways = lambda: str(self.css("[data-check='ways'] [data-verdict]").get_attribute("data-verdict"))  # noqa: E731
        self.assertEqual(ways(), "missing")
        for summary in self.all("summary"):
            summary.click()
        self.enter("Spaces for tandem breakers", "25-40")
        self.wait(lambda: ways() == "fail", "outside the label is not told")
        self.enter("Spaces for tandem breakers", "All")
        self.wait(lambda: ways() not in ("fail", "missing"), "the label is not taken")
        halves = [unit.size["height"] for unit in self.all("[data-unit^='way:']")]
        main = self.css("[data-unit='main']").size["height"]
        self.assertTrue(all(0 < half < main for half in halves), (halves, main))
        self.assertEqual(self.page_errors(), [])

    def test_poles_width_and_a_clean_earth_of_a_circuit(self) -> None:
        address = self.house("office sockets 20A 12m")
        self.sheet(address, "Office")
        self.pick(self.field("Neutral"), text="Switched with the line")
        self.pick(self.field("Width, modules"), value="1")
        self.css("[role=dialog]").find_element(
            By.XPATH, ".//label[contains(., 'Clean earth')]//input | .//label[contains(., 'Clean earth')]"
        ).click()
        self.pick(self.field("Ends at"), value="board")
        self.pick(self.field("Outlets marked"), text="no")
        self.wait_kept(6)
        self.pick(self.field("Its size"), text="2.5")
        self.wait_kept(7)
        self.button("Done", "//*[@role='dialog']").click()
        self.assertIn("not marked", self.finding("clean earth").casefold())

    def test_supplementary_bonding_at_a_further_board(self) -> None:
        self.setup(self.house("shed 28m swa exported earth"))
        self.browser.find_elements(By.XPATH, "//button[contains(., 'Add supplementary bond')]")[-1].click()
        self.wait_kept(2)
        self.pick(self.field("Size", "//li[.//label[starts-with(., 'Mechanical')]]"), text="1.5")
        self.wait_kept(3)
        self.pick(self.field("Protective conductor of the part", "//li"), text="1.5")
        self.wait_kept(4)
        self.assertIn("minimum 2.5", self.finding("Supplementary bonding"))
        self.assertEqual(self.page_errors(), [])

    def test_a_central_off_and_a_voltage_relay_are_typed(self) -> None:
        address = self.house("hall lights 22m", "landing lights 18m")
        self.browser.get(address)
        self.wait_for_lattice()
        for number, line in enumerate(("central off at the door: lights", "voltage relay over 265"), 2):
            self.css("#quick-entry").send_keys(line, Keys.ENTER)
            self.wait_kept(number)
        self.browser.get(address.replace("circuits", "board") + "?part=layout&board=main")
        self.wait(lambda: len(self.all("[data-gear]")) == 2, "no relays")
        for summary in self.all("summary"):
            if summary.is_displayed():
                summary.click()
        self.assertEqual(self.field("Central off").get_attribute("value"), "Central off at the door")
        self.assertEqual(self.page_errors(), [])


class Sources(Entered):
    """Sources at the end of circuits, and a supply for while there is none."""

    def test_a_circuit_becomes_a_source(self) -> None:
        address = self.house("kitchen ring 40m", "shed 20m swa exported earth")
        self.browser.get(address)
        self.css("#quick-entry").send_keys("solar 3.68kW 14m", Keys.ENTER)
        self.wait(lambda: "Solar" in self.css("[role=grid]").text, "no circuit")
        self.wait_kept(2)
        self.sheet(address, "Solar")
        self.assertEqual(self.field("Source").text, "solar panels")
        self.assertEqual(self.field("Rated output").get_attribute("value"), "16")
        self.pick(self.field("Source"), value="hybrid")
        self.enter("Rated output", "20")
        self.pick(self.field("Charging at the time of highest demand"), value="managed")
        self.pick(self.field("Lockable isolator beside it"), text="yes")
        self.wait_kept(6)
        self.button("Done", "//*[@role='dialog']").click()
        self.setup(address)
        self.enter("Rating of the busbar", "100")
        self.wait_kept(7)
        self.assertEqual(self.page_errors(), [])

    def test_a_standby_supply_is_added_and_asks_for_what_it_must_know(self) -> None:
        address = self.house("freezer 16m", "solar 3.68kW 14m")
        self.setup(address)
        self.button("Add a standby supply").click()
        self.wait_kept(2)
        self.pick(self.field("Kind", "//fieldset[legend='Standby supply']"), value="generator")
        self.pick(self.field("Changeover"), value="none")
        self.wait_kept(4)
        self.assertIn("changeover", self.finding("No changeover").casefold())
        self.setup(address)
        self.button("Remove the standby supply").click()
        self.wait_kept(5)

    def test_with_the_main_switch_open_the_solar_panels_keep_their_board_live(self) -> None:
        address = self.demo(WEIR)
        self.browser.get(address.replace("circuits", "board?part=live&board=main"))
        self.css("[data-unit='main']").click()
        words = self.css("[data-testid=stays-live]")
        # Its outgoing side is live from the inverter as well: not only the incoming one.
        self.wait(lambda: words.text.startswith("Live: Main switch;"), "not told")
        self.wait(
            lambda: "live from another source" in self.css("[data-testid=live-panel]").text, "not told from where"
        )


class SwitchedTogether(Entered):
    """Groups of circuits that are switched at the door, or stay on."""

    def test_all_off_at_the_door_is_typed_like_a_circuit(self) -> None:
        address = self.house("kitchen ring 40m", "lights 30m, ground floor", "freezer 9m")
        self.browser.get(address)
        box = self.css("#quick-entry")
        box.send_keys("all off at the door")
        self.wait(lambda: "Kitchen ring" in self.css("[data-testid=line-preview]").text, "its effect is not shown")
        box.send_keys(Keys.ENTER)
        self.wait(lambda: "Stay on: Freezer." in self.css("#quick-entry-note").text, "it is not said")
        self.wait_kept(2)
        box.send_keys("keep on: cellar", Keys.ENTER)
        self.wait(lambda: "No circuit of" in self.css("#quick-entry-note").text, "it is not refused")
        self.browser.get(address.replace("circuits", "board?part=layout&board=main"))
        gear = self.css("[data-gear=k]")
        self.assertIn("All off at the door", str(gear.get_attribute("textContent")))
        ticked = [
            box.get_attribute("aria-checked") or box.get_attribute("checked")
            for box in gear.find_elements(By.CSS_SELECTOR, "[role=checkbox], input[type=checkbox]")
        ]
        self.assertEqual(len([tick for tick in ticked if tick == "true"]), 2)
        self.assertEqual(self.page_errors(), [])


class Outside(Entered):
    """Devices outside the board, and the distributor's side of it."""

    def test_a_device_at_the_outlet_is_added_and_taken_out(self) -> None:
        address = self.house("sockets 22m, study")
        self.sheet(address, "Sockets, study")
        part = "//fieldset[legend='Devices outside the consumer unit']"
        self.button("Add a device").click()
        self.pick(self.field("Kind", part), value="rcd-fused-unit")
        self.enter("Fuse", "13")
        at = self.field("Position along the run", part)
        at.send_keys("9", Keys.TAB)
        self.wait_kept(5)
        self.assertEqual(self.field("Name", part).get_attribute("value"), "Fused unit with RCD")
        self.wait(
            lambda: "leaves the whole cable unprotected" in self.css("[data-testid=rcd-reach]").text,
            "its reach is not told",
        )
        at.send_keys(Keys.CONTROL + "a")
        at.send_keys("90", Keys.TAB)
        self.wait_kept(6)
        self.button("Done", "//*[@role='dialog']").click()
        self.assertIn("beyond the end of the run", self.finding("where Fused unit with RCD is"))

    def test_a_larger_supply_is_requested(self) -> None:
        address = self.house("shower 9.5kW 12m")
        self.setup(address)
        self.wait(
            lambda: self.browser.find_element(By.XPATH, "//summary[text()='Request a larger supply']"), "none"
        ).click()
        self.enter("Rating requested", "100")
        self.enter("Wanted by", "14-02-2027")
        self.wait_kept(3)


if __name__ == "__main__":
    unittest.main()
