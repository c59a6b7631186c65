"""The lattice in a real browser: seen, asked, changed, mended, undone, found again."""

from __future__ import annotations

import sqlite3
import unittest
from contextlib import closing, suppress
from unittest.mock import patch

from selenium.common.exceptions import NoAlertPresentException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.harness import resize
from tests.browser.page import CABLE, DEVICE, LENGTH, MILLRACE, NAME, PageCase
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.demo import demo_job, demo_text
from vivid_lattice.store.backup import restore, write_backup
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import get_revision

#: Rows of the demo: twelve of the mill, then the studio's.
INDUCTION_HOB, SLUICE_PUMP, KILN, STUDIO_SOCKETS = 2, 9, 12, 13


class Editing(PageCase):
    """Changes and their effect."""

    def test_two_keys_change_the_cable_and_the_cell_relaxes(self) -> None:
        self.open_demo()
        self.assertEqual(self.verdict(STUDIO_SOCKETS, "voltage-drop"), "fail")
        self.cell(STUDIO_SOCKETS, CABLE).click()
        self.press("4", Keys.ENTER)
        self.wait_verdict(STUDIO_SOCKETS, "voltage-drop", "tight")
        self.wait_kept(2)
        self.assertEqual(self.page_errors(), [])

    def test_a_cell_opens_its_sum_with_the_table_named(self) -> None:
        self.open_demo()
        self.cell(KILN, "capacity").click()
        panel = self.css('[data-testid=working][data-check=capacity] [aria-label="Check details"]')
        for said in ("It", "37 A", "Ca", "0.87", "Table 4B1", "37 · 0.87 · 0.85", "from memory"):
            self.assertIn(said, panel.text)
        self.assertNotRegex(panel.text, r"[{}]|undefined|NaN|null")

    def test_a_remedy_shows_its_effect_and_keeps_its_word(self) -> None:
        self.open_demo()
        self.cell(KILN, "capacity").click()
        remedy = self.css("[data-remedy=larger-cable]")
        self.assertIn("Use 6 mm² instead of 4 mm²", remedy.text)
        self.assertIn("32 A (limit 34.7 A)", remedy.text)
        remedy.click()
        self.wait_verdict(KILN, "capacity", "tight")
        self.assertIn("34.7", self.cell(KILN, "capacity").text)

    def test_undo_and_redo_outlive_a_reload(self) -> None:
        address = self.open_demo()
        self.type_over(STUDIO_SOCKETS, CABLE, "6")
        self.wait_verdict(STUDIO_SOCKETS, "voltage-drop", "pass")
        self.wait_kept(2)
        self.browser.get(address)
        self.wait_verdict(STUDIO_SOCKETS, "voltage-drop", "pass")
        self.css('[aria-label="Undo"]').click()
        self.wait_verdict(STUDIO_SOCKETS, "voltage-drop", "fail")
        self.browser.refresh()
        self.wait_verdict(STUDIO_SOCKETS, "voltage-drop", "fail")
        self.css('[aria-label="Redo"]').click()
        self.wait_verdict(STUDIO_SOCKETS, "voltage-drop", "pass")
        self.css('[aria-label="History"]').click()
        self.wait(
            lambda: "Studio sockets: 2.5 → 6 mm²" in self.css("[role=dialog]").text, "the history does not say it"
        )

    def test_what_cannot_be_is_said_and_nothing_is_lost(self) -> None:
        self.open_demo()
        for column, text, said in (
            (CABLE, "3", "Available: 1, 1.5, 2.5"),
            (DEVICE, "B33", "RCBO is available in"),
            (LENGTH, "0", "is not a length"),
        ):
            self.type_over(INDUCTION_HOB, column, text)
            self.wait(lambda said=said: said in self.css("[role=alert]").text, f"'{said}' is not said")
        self.assertEqual([self.typed(INDUCTION_HOB, column) for column in (DEVICE, LENGTH)], ["B32", "14"])
        self.assertIn("Revision 1 · saved", self.css("[data-testid=save-state]").text)

    def test_an_empty_length_is_missing_and_not_in_order(self) -> None:
        self.open_demo()
        self.cell(INDUCTION_HOB, LENGTH).click()
        self.press(Keys.DELETE, Keys.ENTER)
        self.wait_verdict(INDUCTION_HOB, "voltage-drop", "missing")
        self.cell(INDUCTION_HOB, "voltage-drop").click()
        self.wait(
            lambda: "Needs the length of Induction hob" in self.css("[data-testid=working]").text,
            "the need is not said",
        )

    def test_a_typed_line_becomes_a_designed_circuit(self) -> None:
        self.open_demo()
        box = self.css("#quick-entry")
        box.send_keys("bread oven 5.2kW 18m", Keys.ENTER)
        self.wait(lambda: "Bread oven" in self.cell(12, NAME).text, "the circuit is not there")
        self.assertNotIn("auto", self.typed(12, DEVICE) + self.typed(12, CABLE))
        self.wait_verdict(12, "voltage-drop", "pass")
        box.send_keys("gizmo 18m", Keys.ENTER)
        self.wait(
            lambda: "names no load that is known" in self.css("#quick-entry-note").text, "the line is not refused"
        )
        self.assertEqual(box.get_attribute("value"), "gizmo 18m")

    def test_what_was_left_open_is_chosen_once_its_input_is_there(self) -> None:
        entered = add_entry(demo_job("millrace"), "drying room heater 2.8kW", "mill").job
        self.browser.get(self.kept(entered))
        self.wait(lambda: self.typed(12, CABLE) == "auto", "the circuit is not there")
        self.wait_verdict(12, "voltage-drop", "missing")
        self.type_over(12, LENGTH, "24")
        self.wait_kept(2)
        self.browser.find_element(By.XPATH, "//button[contains(., 'Choose 1 open choice')]").click()
        self.wait_verdict(12, "voltage-drop", "pass")
        self.assertNotIn("auto", (self.typed(12, DEVICE), self.typed(12, CABLE)))
        self.assertEqual(self.browser.find_elements(By.XPATH, "//button[contains(., 'Choose for')]"), [])

    def test_beside_the_length_stands_how_far_each_size_goes(self) -> None:
        self.open_demo()
        self.cell(STUDIO_SOCKETS, LENGTH).click()
        self.wait(
            lambda: "4 mm²\n27.8 m\nvoltage drop" in self.css("[data-testid=lengths]").text, "the lengths are not there"
        )
        self.type_over(STUDIO_SOCKETS, CABLE, "4")
        self.wait_verdict(STUDIO_SOCKETS, "voltage-drop", "tight")
        self.type_over(STUDIO_SOCKETS, LENGTH, "27.9")
        self.wait_verdict(STUDIO_SOCKETS, "voltage-drop", "fail")

    def test_rows_and_rail_are_bound(self) -> None:
        self.open_demo()
        self.css('[data-way="studio 2"]').click()
        self.wait(
            lambda: self.css("[aria-selected=true]").get_attribute("data-row") == str(STUDIO_SOCKETS),
            "the row is not chosen",
        )

    def test_everything_is_done_by_keyboard(self) -> None:
        self.browser.get(self.open_demo())
        self.css("[data-verdict=fail]")
        for _ in range(30):
            self.press(Keys.TAB)
            if self.browser.switch_to.active_element.get_attribute("data-row") is not None:
                break
        self.press(Keys.CONTROL + Keys.END, *[Keys.ARROW_UP] * 3)
        # On the kiln, far right; back to the cable's check, and the first remedy by its figure.
        self.press(*[Keys.ARROW_LEFT] * 5)
        self.wait(lambda: self.all("[data-remedy]"), "no remedies")
        self.press("1")
        self.wait_verdict(KILN, "capacity", "tight")
        self.press(Keys.HOME, Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, "-")
        self.wait_verdict(KILN, "capacity", "fail")
        self.press(Keys.CONTROL + "z")
        self.wait_verdict(KILN, "capacity", "tight")
        self.press("/")
        self.assertEqual(self.browser.switch_to.active_element.get_attribute("id"), "quick-entry")

    def test_the_circuit_sheet_changes_what_the_row_cannot(self) -> None:
        self.open_demo()
        self.cell(SLUICE_PUMP, NAME).click()
        self.press(Keys.ENTER)
        sheet = self.css("[role=dialog]")
        curve = self.wait(
            lambda: sheet.find_element(By.XPATH, ".//label[text()='Curve']/following-sibling::button"),
            "no choice",
        )
        curve.send_keys("B")
        sheet.find_element(By.XPATH, ".//button[text()='Done']").click()
        self.wait_verdict(SLUICE_PUMP, "disconnection", "pass")
        self.assertEqual(self.typed(SLUICE_PUMP, DEVICE), "B16")

    def test_a_circuit_moves_to_another_board_and_is_checked_there(self) -> None:
        self.open_demo()
        self.cell(INDUCTION_HOB, NAME).click()
        self.press(Keys.ENTER)
        sheet = self.css("[role=dialog]")
        place = self.wait(
            lambda: sheet.find_element(By.XPATH, ".//label[text()='Position']/following-sibling::button"), "no place"
        )
        self.pick(place, text="Studio board, way 7")
        sheet.find_element(By.XPATH, ".//button[text()='Done']").click()
        self.wait(lambda: "Induction hob" in self.cell(15, NAME).text, "it has not moved")
        self.wait(lambda: "1.24" in self.cell(15, "breaking-capacity").text, "it is not checked at its new board")
        self.wait_kept(2)

    def test_at_1280_by_800_sixteen_circuits_stand_without_scrolling(self) -> None:
        self.open_demo()
        scroll = self.css("[data-testid=grid-scroll]")
        self.assertLessEqual(scroll.get_property("scrollHeight"), scroll.get_property("clientHeight"))
        self.assertLessEqual(scroll.get_property("scrollWidth"), scroll.get_property("clientWidth"))
        self.assertEqual(len(self.all("[data-column='0'][data-row]")), 16)


class Safety(PageCase):
    """Two tabs, a server that is gone, and files that are no jobs."""

    def test_two_tabs_get_each_others_changes_and_nothing_is_overwritten(self) -> None:
        address = self.open_demo()
        self.change_in_another_tab(address, INDUCTION_HOB, LENGTH, "15")
        self.type_over(KILN, CABLE, "6")
        dialog = self.css("[role=dialog]")
        self.wait(
            lambda: "Induction hob: 14 → 15 m" in dialog.text and "Kiln: 4 → 6 mm²" in dialog.text,
            "the difference is not shown",
        )
        dialog.find_element(By.XPATH, ".//button[starts-with(., 'Open the saved version and save mine')]").click()
        self.wait(lambda: self.typed(INDUCTION_HOB, LENGTH) == "15", "theirs is not opened")
        self.assertEqual(self.verdict(KILN, "capacity"), "fail")
        self.browser.get(self.server.url)
        copy = self.wait(lambda: self.browser.find_element(By.LINK_TEXT, f"{MILLRACE} (copy)"), "my copy is not kept")
        copy.click()
        self.wait_verdict(KILN, "capacity", "tight")

    def test_mine_can_be_put_on_top(self) -> None:
        address = self.open_demo()
        self.change_in_another_tab(address, INDUCTION_HOB, LENGTH, "15")
        self.type_over(KILN, CABLE, "6")
        self.css("[role=dialog]").find_element(
            By.XPATH, ".//button[starts-with(., 'Save mine as a new revision')]"
        ).click()
        self.wait_kept(3)
        self.assertEqual(self.typed(INDUCTION_HOB, LENGTH), "14")

    def test_an_edit_that_could_not_be_kept_is_there_after_a_reload_and_kept_then(self) -> None:
        address = self.open_demo()
        self.cell(0, NAME)
        # The way to the store is taken away, as in a cellar without a signal.
        self.browser.execute_cdp_cmd("Network.enable", {})
        self.browser.execute_cdp_cmd("Network.setBlockedURLs", {"urls": ["*/api/jobs/*"]})
        self.addCleanup(self.browser.execute_cdp_cmd, "Network.setBlockedURLs", {"urls": []})
        self.type_over(KILN, CABLE, "6")
        self.wait(
            lambda: self.css("[data-testid=save-state]").get_attribute("data-state") == "unreachable", "it is not said"
        )
        self.browser.get("about:blank")
        with suppress(NoAlertPresentException):
            self.browser.switch_to.alert.accept()
        self.browser.execute_cdp_cmd("Network.setBlockedURLs", {"urls": []})
        self.browser.get(address)
        self.wait_verdict(KILN, "capacity", "tight")
        self.wait_kept(2)

    def test_a_locked_database_is_said_with_what_to_do_and_saving_goes_on_when_it_clears(self) -> None:
        self.open_demo()
        with (
            patch("vivid_lattice.store.database._BUSY_TIMEOUT_MS", 100),
            closing(sqlite3.connect(self.server.database, isolation_level=None)) as other,
        ):
            other.execute("begin immediate")
            self.type_over(KILN, CABLE, "6")
            said = self.css("[data-testid=save-problem]").text
            self.assertIn("locked by another program", said)
            self.assertIn("Close that program", said)
            self.assertEqual(self.css("[data-testid=save-state]").get_attribute("data-state"), "unavailable")
            self.assertEqual(self.typed(KILN, CABLE), "6")
            other.execute("rollback")
        self.wait_kept(2)
        self.assertEqual(self.all("[data-testid=save-problem]"), [])

    def test_a_job_that_a_restored_backup_does_not_hold_is_saved_as_a_new_one(self) -> None:
        before = write_backup(self.server.database, self.server.database.with_name("before.sqlite3"))
        address = self.open_demo()
        restore(self.server.database, before)
        self.type_over(KILN, CABLE, "6")
        self.wait(lambda: "no longer in the database" in self.css("[role=dialog]").text, "it is not said")
        self.assertEqual(self.serious_faults(), [])
        self.browser.find_element(By.XPATH, "//button[.='Save as a new job']").click()
        self.wait(lambda: self.browser.current_url not in (address, "about:blank"), "no new job")
        self.wait_for_lattice()
        self.assertEqual(self.typed(KILN, CABLE), "6")
        self.wait_kept(1)

    def test_a_page_open_over_a_restore_meets_a_conflict_and_writes_nothing_over(self) -> None:
        self.open_demo()
        before = write_backup(self.server.database, self.server.database.with_name("before.sqlite3"))
        self.type_over(INDUCTION_HOB, LENGTH, "15")
        self.wait_kept(2)
        restore(self.server.database, before)
        self.type_over(KILN, CABLE, "6")
        self.wait(lambda: "This job was changed elsewhere" in self.css("[role=dialog]").text, "no conflict is told")
        job_id = self.browser.current_url.split("/")[-2]
        with closing(connect(self.server.database)) as conn:
            self.assertEqual(get_revision(conn, job_id).text, "restored from a backup")

    def test_a_wrong_file_is_refused_with_the_reason_and_a_right_one_is_read(self) -> None:
        folder = self.server.database.parent
        wrong, right = folder / "wrong.json", folder / "right.json"
        wrong.write_text('{"format": "vivid-lattice/9"}')
        self.begin_from("file", wrong)
        self.wait(
            lambda: "version 9 is not read by this program" in self.css("[role=alert]").text, "the reason is not said"
        )
        right.write_text(demo_text("ferry-landing"))
        self.css("form[aria-labelledby=new-job] input[type=file]").send_keys(str(right))
        self.create()
        self.wait(lambda: "Winch" in self.css("[role=grid]").text, "the job is not opened")


class Accessible(PageCase):
    """axe-core on every view, light and dark, wide and narrow."""

    def test_no_view_has_a_serious_fault(self) -> None:
        self.browser.get(self.server.url)
        self.css("main h1")
        faults = {"jobs": self.serious_faults()}
        address = self.open_demo()
        self.cell(KILN, "capacity").click()
        self.css("[data-remedy]")
        faults["circuits"] = self.serious_faults()
        self.css('[aria-label="Dark theme"]').click()
        # In the dark the page is the same but for its colours.
        faults["lattice, dark"] = self.serious_faults("color-contrast")
        self.browser.get(address.replace("circuits", "setup"))
        self.css("[aria-label=Supply]")
        faults["intake, dark"] = self.serious_faults("color-contrast")
        self.css('[aria-label="Light theme"]').click()
        faults["setup"] = self.serious_faults()
        self.browser.get(address)
        self.cell(KILN, NAME).click()
        self.press(Keys.ENTER)
        self.css("[role=dialog]")
        faults["circuit sheet"] = self.serious_faults()
        self.browser.get(address)
        self.css('[aria-label="History"]').click()
        self.css("[role=dialog] li")
        faults["history"] = self.serious_faults()
        self.browser.get(address)
        self.cell(KILN, NAME)
        self.change_in_another_tab(address, INDUCTION_HOB, LENGTH, "15")
        self.type_over(KILN, CABLE, "6")
        self.css("[role=dialog]")
        faults["changed elsewhere"] = self.serious_faults()
        self.browser.find_element(
            By.XPATH, "//button[starts-with(., 'Open the saved version and discard mine')]"
        ).click()
        resize(self.browser, 390, 844)
        self.addCleanup(resize, self.browser, 1280, 800)
        self.browser.get(address)
        self.css("[data-testid=pocket]")
        faults["pocket"] = self.serious_faults()
        self.maxDiff = None
        self.assertEqual({view: found for view, found in faults.items() if found}, {})

    def test_a_cell_reads_as_a_sentence(self) -> None:
        self.open_demo()
        self.wait_verdict(KILN, "capacity", "fail")
        said = self.cell(KILN, "capacity").find_element(By.CSS_SELECTOR, ".sr-only").get_attribute("textContent")
        self.assertTrue(said.startswith("Kiln, Cable capacity: fail, 32 A, limit 27.3 A."), said)

    def test_on_a_phone_a_length_is_changed_and_a_sum_read(self) -> None:
        resize(self.browser, 390, 844)
        self.addCleanup(resize, self.browser, 1280, 800)
        self.open_demo()
        box = self.css('[aria-label="Studio sockets, length, m"]')
        box.send_keys(Keys.CONTROL + "a")
        box.send_keys("15", Keys.ENTER)
        self.wait_kept(2)
        drop = "//button[contains(., 'Studio sockets, Voltage drop: tight')]"
        self.wait(lambda: self.browser.find_element(By.XPATH, drop), "the drop is not tight").click()
        self.wait(lambda: "18 · 20 · 15 / 1000" in self.css("[role=dialog]").text, "the sum is not there")
        overflow = self.browser.execute_script("return document.documentElement.scrollWidth - window.innerWidth")
        self.assertLessEqual(overflow, 0)


if __name__ == "__main__":
    unittest.main()
