"""The board as a person builds it: laid out, moved about by mouse and keys, wired by list, followed from the supply, named."""

from __future__ import annotations

import time
import unittest
from typing import Any
from unittest.mock import patch

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.browser.harness import resize
from tests.browser.test_protection import ProtectionCase
from vivid_lattice.core.stopping import stop_point


class BoardCase(ProtectionCase):
    """Goes to the board's view."""

    def board(self, address: str, part: str = "layout", board: str = "") -> None:
        self.browser.get(address.replace("circuits", "board") + f"?part={part}&board={board}")
        self.css("[data-testid=board-drawing]")

    def unit(self, name: str) -> WebElement:
        return self.css(f"[data-unit='{name}']")

    def at(self, name: str) -> tuple[str, float]:
        found = self.unit(name)
        return str(found.get_attribute("data-row")), float(str(found.get_attribute("data-at")))

    def verdict_of(self, check: str) -> str:
        return str(self.css(f"[data-check='{check}'] [data-verdict]").get_attribute("data-verdict"))


class Layout(BoardCase):
    """Laid out and moved about."""

    def test_a_device_is_dragged_the_checks_answer_meanwhile_and_undo_takes_it_back(self) -> None:
        self.board(self.demo())
        before = self.at("way:c12")
        drag = ActionChains(self.browser).click_and_hold(self.unit("way:c12"))
        drag.move_by_offset(-60, 0).move_by_offset(-60, 0).perform()
        self.wait(lambda: "While moving" in self.css("[data-testid=build-findings]").text, "no answer while it is held")
        ActionChains(self.browser).release().perform()
        self.wait_kept(2)
        self.assertLess(self.at("way:c12")[1], before[1])
        self.wait(lambda: "Board checks" in self.css("[data-testid=build-findings]").text, "still held")
        self.css("[aria-label=Undo]").click()
        self.wait(lambda: self.at("way:c12") == before, "not taken back")

    def test_keys_move_a_device_as_the_mouse_does(self) -> None:
        self.board(self.demo())
        start = self.at("way:c12")[1]
        self.browser.execute_script("arguments[0].focus()", self.unit("way:c12"))
        ActionChains(self.browser).key_down(Keys.SHIFT).send_keys(Keys.ARROW_LEFT).key_up(Keys.SHIFT).perform()
        self.wait(lambda: self.at("way:c12")[1] == start - 1, "not moved")
        self.wait_kept(2)
        self.assertIn("Way 12: Studio board", self.css("[data-testid=chosen-unit]").text)

    def test_laid_out_anew_by_a_wish_and_a_larger_enclosure(self) -> None:
        self.board(self.demo())
        self.css("summary").click()
        self.choose("Main switch position", "left")
        self.wait_kept(2)
        self.button("Lay out again").click()
        self.wait(lambda: self.at("main") == ("1", 0.0), "the main switch is not at the left")
        self.wait(lambda: "the best possible" in self.css("main [role=status]").text, "not told how good it is")
        self.assertEqual((self.verdict_of("ways"), self.verdict_of("comb")), ("pass", "pass"))
        self.choose("Enclosure", "Shale, 1 row of 12, too small")
        self.wait(lambda: self.verdict_of("ways") == "fail", "too small is not told")
        self.button("Lay out").click()
        self.wait(lambda: "Choose a larger enclosure" in self.css("main [role=status]").text, "not refused")

    def test_a_search_that_is_stopped_leaves_the_board_as_it_was(self) -> None:
        def never(*_args: Any, cancelled: Any, **_more: Any) -> Any:
            """A search that goes on until it is stopped."""
            while not cancelled():
                time.sleep(0.01)
            stop_point()

        self.board(self.demo("Organ builder"))
        before = self.at("way:c9")
        with patch("vivid_lattice.api.boards.lay_out", never):
            self.button("Lay out again").click()
            self.button("Cancel").click()
            self.wait(
                lambda: "Cancelled. The board is unchanged." in self.css("main [role=status]").text, "not stopped"
            )
        self.assertEqual(self.at("way:c9"), before)

    def test_a_neutral_said_to_be_on_another_bar_is_told_with_what_follows(self) -> None:
        self.board(self.demo("Lamplighter"))
        self.unit("way:c2").click()
        self.choose("Neutral connected to", "neutral bar of RCD right")
        self.wait(lambda: self.verdict_of("terminals") == "fail", "not found")
        self.assertIn("both RCDs trip as soon as", self.css("[data-check=terminals]").text)

    def test_the_sum_behind_a_check_of_the_build_is_shown_with_its_source(self) -> None:
        self.board(self.demo(), board="studio")
        self.wait(lambda: self.verdict_of("thermal") == "fail", "the kiln is not too warm")
        self.css("[data-check=thermal] button").click()
        self.wait(lambda: "IEC 61439-3" in self.css("[data-check=thermal]").text, "no source")
        self.assertIn("air inside", self.css("[data-check=thermal]").text)
        self.assertEqual(self.serious_faults(), [])

    def test_a_panel_of_two_columns_and_a_phone_show_the_board_too(self) -> None:
        self.board(self.demo("Lighthouse"))
        self.assertEqual(len(self.all("[data-unit]")), 13)
        self.assertEqual(self.verdict_of("comb"), "pass")
        self.css("[role=checkbox]").click()
        self.wait(lambda: self.all("[data-blank]"), "no blanks on the cover")
        resize(self.browser, 390, 844)
        try:
            self.css("[data-testid=build-findings]")
            self.assertLessEqual(self.browser.execute_script("return document.body.scrollWidth"), 390)
        finally:
            resize(self.browser, 1280, 800)
        self.assertEqual(self.page_errors(), [])


class Wired(BoardCase):
    """The list, and what is live."""

    def test_a_tick_is_kept_and_falls_when_the_conductor_changes(self) -> None:
        address = self.open_demo()
        self.board(address, "wiring")
        line = "[data-wire-line='supply/L1>main/L1/in']"
        self.css(f"{line} [role=checkbox]").click()
        self.wait(lambda: self.css("[data-testid=wired-count]").text.startswith("1 of"), "not counted")
        self.board(address, "wiring")
        self.wait(lambda: self.css(f"{line} [aria-checked=true]"), "not saved")
        self.browser.get(address.replace("circuits", "setup"))
        self.pick(self.field("Meter tails"), value="16")
        self.wait_kept(2)
        self.board(address, "wiring")
        self.wait(lambda: "changed since" in self.css(line).text, "the tick still stands")

    def test_with_the_main_switch_open_only_its_incoming_side_is_live(self) -> None:
        self.board(self.demo(), "live")
        self.assertIn("none", self.css("[data-testid=live-panel]").text)
        self.unit("main").click()
        words = self.css("[data-testid=stays-live]")
        self.wait(lambda: words.text == "Live: Main switch, incoming side", "not told what stays live")
        live = {wire.get_attribute("data-wire") for wire in self.all("[data-wire][data-state=live]")}
        self.assertEqual(live, {"supply/L1>main/L1/in"})
        self.browser.execute_script("arguments[0].focus()", self.unit("main"))
        self.press(Keys.ENTER)
        self.wait(lambda: "All devices are on" in self.css("[data-testid=live-panel]").text, "not closed by key")
        self.choose("Planned work", "on the circuit Oven")
        self.wait(lambda: "Switch off way 4" in self.css("[data-testid=isolation]").text, "no order of isolation")
        self.assertEqual(self.serious_faults(), [])

    def test_a_way_is_named_in_the_users_words(self) -> None:
        self.board(self.demo(), "labels")
        box = self.css("[aria-label='Label for way 4']")
        box.clear()
        box.send_keys("Oven, left of the sink", Keys.ENTER)
        self.wait_kept(2)
        self.assertIn("Press the test button", self.css("[data-testid=labels]").text)


class OnPaper(BoardCase):
    """What the browser prints."""

    def test_the_drawing_and_the_whole_list_are_on_the_paper_and_nothing_that_is_pressed(self) -> None:
        address = self.open_demo()
        self.css("[aria-label='Dark theme']").click()
        self.addCleanup(lambda: self.css("[aria-label='Light theme']").click())
        self.board(address, "wiring")
        listed = len(self.css("[data-testid=wiring-list]").find_elements(By.CSS_SELECTOR, "li"))
        self.assertGreater(listed, 50)
        self.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
        self.addCleanup(self.browser.execute_cdp_cmd, "Emulation.setEmulatedMedia", {"media": ""})
        resize(self.browser, 794, 1123)
        self.addCleanup(resize, self.browser, 1280, 800)
        found = self.browser.execute_script(
            """
            const drawing = document.querySelector("[data-testid=board-drawing]").getBoundingClientRect();
            const lines = [...document.querySelectorAll("[data-testid=wiring-list] li")];
            const last = lines.at(-1).getBoundingClientRect();
            const clipped = [];
            for (let at = lines.at(-1).parentElement; at; at = at.parentElement)
              if (getComputedStyle(at).overflowY !== "visible" && at.getBoundingClientRect().bottom < last.bottom - 1)
                clipped.push(at.className);
            return { left: drawing.left, right: drawing.right, wide: innerWidth, clipped,
                     tabs: document.querySelector("[aria-label='Boards']").getBoundingClientRect().height,
                     ink: getComputedStyle(document.body).color, title: document.querySelector("main h1").innerText };
            """
        )
        self.assertGreaterEqual(found["left"], 0)
        self.assertLessEqual(found["right"], found["wide"])
        self.assertEqual((found["clipped"], found["tabs"]), ([], 0))
        self.assertEqual(found["ink"], "rgb(20, 27, 40)", "dark ink also when the screen is dark")
        self.assertIn("Mill board", found["title"])


class FullBoard(BoardCase):
    """One more circuit in a board that is full."""

    def test_a_full_board_has_several_ways_and_each_is_told_whole(self) -> None:
        self.board(self.demo("Lamplighter"))
        self.choose("Enclosure", "Shale, 1 row of 18")
        self.wait_kept(2)
        self.button("Lay out").click()
        self.wait_kept(3)
        self.browser.find_element(By.XPATH, "//button[normalize-space()='Add a circuit']").click()
        self.button("Show options").click()
        self.wait(lambda: len(self.all("[data-solution]")) == 7, "no answers")
        told = {one.get_attribute("data-solution"): one.text for one in self.all("[data-solution]")}
        self.assertIn("only 0 modules free", told["spare"])
        done = [name for name, text in told.items() if "Apply" in text]
        self.assertGreaterEqual(len(done), 3)
        for name in done:
            self.assertIn("Stays live during the work", told[name])
        self.assertIn("distributor", told["split"])
        self.assertIn("distributor, twice", told["split_without"])
        self.css("[data-solution=rcbo] button").click()
        self.wait_kept(4)
        self.assertEqual(self.serious_faults(), [])

    def test_a_swap_says_what_it_meets(self) -> None:
        self.board(self.demo("Lamplighter"), "swap")
        self.unit("way:c3").click()
        self.button("Check fit").click()
        self.wait(
            lambda: "moves from the neutral bar of RCD left, terminal 5" in self.css("[data-testid=swap]").text,
            "not told",
        )
        self.assertIn("Stays live during the work", self.css("[data-testid=swap]").text)


if __name__ == "__main__":
    unittest.main()
