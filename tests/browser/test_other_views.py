"""Jobs and intake in a real browser."""

from __future__ import annotations

import unittest

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.page import MILLRACE, NAME, PageCase


class Begin(PageCase):
    """From nothing to the first figure."""

    def begin(self, title: str) -> None:
        self.browser.get(self.server.url)
        self.css('[aria-label="Job name"]').send_keys(title)
        self.wait(lambda: self.browser.find_element(By.XPATH, "//button[text()='TN-C-S']"), "no question").click()
        self.browser.find_element(By.XPATH, "//button[text()='Create']").click()
        self.css("#quick-entry")
        self.browser.find_element(By.LINK_TEXT, "Setup").click()
        self.css("[aria-label=Supply]")

    def test_a_new_job_comes_to_a_verdict_and_says_what_is_assumed(self) -> None:
        self.begin("Chapel on the hill")
        self.assertIn("Ze", self.css("[data-testid=to-confirm-list]").text)
        before = len(self.all("[data-assumption]"))
        self.enter("Ze, external", "0,31")
        self.enter("Prospective fault", "1.2")
        self.wait(lambda: len(self.all("[data-assumption]")) == before - 2, "what is typed is still to confirm")
        self.pick(self.field("Cut-out"), value="fuse-bs1361")
        self.wait_kept(4)
        self.browser.find_element(By.LINK_TEXT, "Circuits").click()
        self.css("#quick-entry").send_keys("vestry heater 2kW 12m", Keys.ENTER)
        self.wait_verdict(0, "disconnection", "pass")
        self.wait_verdict(0, "overload", "pass")
        self.assertEqual(self.all("[data-verdict=missing]"), [])
        self.assertEqual(self.page_errors(), [])

    def test_the_earthing_system_is_asked_before_anything_else(self) -> None:
        self.browser.get(self.server.url)
        self.css('[aria-label="Job name"]').send_keys("Chapel", Keys.ENTER)
        create = self.browser.find_element(By.XPATH, "//button[text()='Create']")
        self.assertFalse(create.is_enabled())
        self.assertEqual(self.serious_faults(), [])

    def test_a_figure_that_is_none_stays_in_its_box_with_the_reason(self) -> None:
        self.begin("Bad figures")
        self.enter("Ze, external", "about 0.3")
        self.wait(lambda: "is not a number" in self.css("[aria-label=Supply] [role=alert]").text, "it is not said")
        self.assertEqual(self.field("Ze, external").get_attribute("value"), "about 0.3")
        self.enter("Ze, external", "9999")
        self.wait(
            lambda: "must be 5000" in self.browser.find_element(By.TAG_NAME, "body").text, "the limit is not said"
        )
        self.assertIn("Revision 1 ·", self.css("[data-testid=save-state]").text)

    def test_a_further_board_comes_with_its_feeder(self) -> None:
        self.begin("Two boards")
        self.browser.find_element(By.XPATH, "//button[text()='Add board']").click()
        self.wait(
            lambda: "Fed from way 1 of Main consumer unit." in self.browser.find_element(By.TAG_NAME, "main").text,
            "no board",
        )
        self.browser.find_element(By.LINK_TEXT, "Circuits").click()
        self.wait(lambda: "Board 2" in self.css("[role=grid]").text, "the board is not in the grid")
        self.assertEqual(self.verdict(0, "voltage-drop"), "missing")

    def test_a_shared_rcd_is_added_and_a_circuit_put_behind_it(self) -> None:
        address = self.open_demo()
        self.browser.get(address.replace("circuits", "setup"))
        self.wait(
            lambda: self.browser.find_element(By.XPATH, "(//button[text()='Add shared RCD'])[1]"), "no button"
        ).click()
        self.wait_kept(2)
        self.browser.get(address)
        self.cell(11, NAME).click()
        self.browser.switch_to.active_element.send_keys(Keys.ENTER)
        sheet = self.css("[role=dialog]")
        path = ".//label[text()='Behind shared RCD']/following-sibling::button"
        self.wait(lambda: sheet.find_element(By.XPATH, path), "no choice").send_keys("RCD 1")
        self.wait_kept(3)
        self.browser.get(address.replace("circuits", "setup"))
        self.wait(lambda: self.browser.find_element(By.XPATH, "(//button[text()='Remove'])[1]"), "no button").click()
        self.wait(
            lambda: "1 circuit is behind RCD 1" in self.css('[aria-label^="Consumer units"]').text, "it is not refused"
        )

    def test_what_is_in_use_is_not_taken_out(self) -> None:
        self.open_demo()
        self.browser.find_element(By.LINK_TEXT, "Setup").click()
        self.css('[aria-label="Remove Kitchen"]').click()
        self.wait(lambda: "Kitchen ring" in self.css("[aria-label=Rooms] [role=alert]").text, "the reason is not said")
        self.css('[aria-label^="Consumer units"]').find_element(By.XPATH, ".//button[text()='Remove']").click()
        self.wait(
            lambda: "12 circuits are still in" in self.css('[aria-label^="Consumer units"] [role=alert]').text,
            "the reason is not said",
        )

    def test_the_cooler_conductor_is_the_designers_choice(self) -> None:
        self.open_demo()
        before = self.cell(1, "voltage-drop").text
        self.browser.find_element(By.LINK_TEXT, "Setup").click()
        self.wait(lambda: self.browser.find_element(By.XPATH, "//label[contains(., 'factor Ct')]"), "no choice").click()
        self.wait_kept(2)
        self.browser.find_element(By.LINK_TEXT, "Circuits").click()
        self.cell(9, "voltage-drop").click()
        self.wait(
            lambda: "corrected for a cooler conductor" in self.css("[data-testid=working]").text,
            "the correction is not said",
        )
        self.assertNotEqual(self.cell(9, "voltage-drop").text, before)

    def test_the_demand_is_shown_with_its_sum(self) -> None:
        self.open_demo("Lamplighter")
        self.wait(
            lambda: self.browser.find_elements(By.CSS_SELECTOR, 'button[data-testid="counts"]'), "nothing to look at"
        )
        self.css('[data-testid="counts"]').click()
        lines = self.wait(
            lambda: self.browser.find_elements(
                By.XPATH, '//*[@data-testid="causes"]//button[contains(., "Estimated maximum demand")]'
            ),
            "the demand is no cause",
        )
        lines[0].click()
        card = self.css('[aria-label^="Can the supply carry"]')
        self.wait(
            lambda: (
                "On-Site Guide, Table A2" in card.text
                and "limit 80 A" in card.text.replace("\n", " ")
                and "82.6" in card.text
            ),
            "no sum",
        )
        ways = self.wait(lambda: self.css('[data-testid="ways-out"]').text, "no way out is offered")
        self.assertLess(ways.index("Measure the demand"), ways.index("Three-phase service"))
        self.assertNotRegex(card.text, r"[{}]|undefined|NaN|null")


class NoJobs(PageCase):
    """A database without any job."""

    demos = False

    def test_a_demo_is_opened_from_the_list_and_is_in_it_once(self) -> None:
        self.browser.get(self.server.url)
        demo = f'//section//button[.//b[starts-with(., "{MILLRACE}")]]'
        self.wait(lambda: self.browser.find_element(By.XPATH, demo), "it is not offered").click()
        self.wait_for_lattice()
        self.assertRegex(self.browser.current_url, r"/jobs/\w+/circuits$")
        self.wait_verdict(12, "capacity", "fail")
        self.browser.get(self.server.url)
        self.wait(lambda: self.all("section[aria-labelledby=demos-title] [data-status]"), "it is not in the list")
        self.assertEqual(self.browser.find_elements(By.XPATH, demo), [])
        self.assertEqual(self.all("section[aria-labelledby=jobs-title] [data-job]"), [])


class ListOfJobs(PageCase):
    """The list."""

    def test_a_job_put_away_can_be_taken_out_again(self) -> None:
        self.browser.get(self.server.url)
        self.css(f'[aria-label="Archive {MILLRACE}"]').click()
        self.wait(lambda: not self.browser.find_elements(By.LINK_TEXT, MILLRACE), "it is still there")
        self.browser.find_element(By.XPATH, "//button[starts-with(., 'Show 1 archived job')]").click()
        self.css(f'[aria-label="Unarchive {MILLRACE}"]').click()
        self.css(f'[aria-label="Archive {MILLRACE}"]')

    def test_a_job_that_is_not_there_is_said_with_a_way_back(self) -> None:
        self.browser.get(f"{self.server.url}/jobs/mill-x/circuits")
        self.wait(lambda: "No job “mill-x”" in self.css("main").text, "it is not said")
        self.browser.find_element(By.LINK_TEXT, "All jobs").click()
        self.css("#jobs-title")


if __name__ == "__main__":
    unittest.main()
