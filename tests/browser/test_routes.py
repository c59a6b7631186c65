"""The plan on the page: a house typed by keyboard alone from an empty page, lengths that follow in the circuits, and the same from the shell."""

from __future__ import annotations

import io
import json
import tempfile
import unittest
from contextlib import redirect_stdout
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.harness import resize
from tests.browser.page import PageCase
from tests.browser.test_testing import house
from vivid_lattice.cli.main import main
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.job_file import to_text
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import get_revision

ROOMS = (
    "kitchen 4.2 x 3.6 h 2.4 door left 0.8 at 1.2",
    "hall 1.2 x 5 left of kitchen door front 0.9 at 0.1",
    "landing 3 x 2 above hall",
    "board hall left at 0.5",
)
POINTS = ("6 double sockets kitchen worktop", "cooker kitchen right at 1.9", "2 way light hall landing")


class Routes(PageCase):
    demos = False

    def open_routes(self) -> str:
        address = self.kept(house("kitchen ring", "lights", "cooker 32A"))
        self.browser.get(address.replace("circuits", "routes"))
        self.css("#plan-entry")
        return address

    def type(self, *lines: str) -> None:
        for line in lines:
            self.css("#plan-entry").send_keys(line, Keys.ENTER)
            self.wait(lambda: self.css("#plan-entry").get_attribute("value") == "", f"not taken: {line}")

    def job(self, address: str) -> Job:
        conn = connect(self.server.database)
        try:
            return get_revision(conn, address.split("/")[-2]).job
        finally:
            conn.close()

    def test_a_house_typed_by_keyboard_gives_every_length_its_circuit(self) -> None:
        address = self.open_routes()
        self.wait(lambda: "No room yet" in self.css("main").text, "an empty plan does not say what to do")
        self.type(*ROOMS)
        self.assertEqual(len(self.all("[data-room]")), 2, "the rooms of the ground floor")
        self.type(*POINTS)
        self.wait(lambda: len(self.all("[data-planned]")) == 3, "not all circuits are on the plan")
        shown = {
            each.get_attribute("data-planned"): float(each.find_element(By.CSS_SELECTOR, ".figure").text.split()[0])
            for each in self.all("[data-planned]")
        }
        self.wait(
            lambda: {each.id: each.run[0].length_m for each in self.job(address).circuits} == shown,
            f"lengths differ: {shown}",
        )
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "job.json"
            path.write_text(to_text(self.job(address)), "utf-8")
            out = io.StringIO()
            with redirect_stdout(out):
                code = main(["plan", str(path), "--json"])
        self.assertEqual(code, 0)
        said = json.loads(out.getvalue())
        self.assertEqual({each["id"]: round(each["length_m"], 2) for each in said["circuits"]}, shown)
        self.assertEqual(self.page_errors(), [])
        self.assertEqual(self.serious_faults(), [])

    def test_what_is_not_understood_stays_with_the_reason(self) -> None:
        self.open_routes()
        self.css("#plan-entry").send_keys("4 sockets attic", Keys.ENTER)
        self.wait(lambda: "type a room of the plan" in self.css("[role=alert]").text, "no reason")
        self.assertEqual(self.css("#plan-entry").get_attribute("value"), "4 sockets attic")

    def test_a_point_is_moved_and_removed_by_keys_and_a_route_changed(self) -> None:
        address = self.open_routes()
        self.type(*ROOMS, *POINTS)
        cooker = "[data-point='kitchen-cooker']"
        self.wait(lambda: self.all(cooker), "no cooker")
        before = self.job(address).circuits[2].run[0].length_m or 0.0
        self.browser.execute_script(f'document.querySelector("{cooker}").focus()')
        self.browser.switch_to.active_element.send_keys(Keys.ARROW_UP)
        self.wait(
            lambda: abs((self.job(address).circuits[2].run[0].length_m or 0.0) - before - 0.1) < 0.005,
            "the length does not follow",
        )
        self.pick(self.css("button[aria-label='Cables of Cooker']"), text="under the floor")
        self.wait(
            lambda: abs((self.job(address).circuits[2].run[0].length_m or 0.0) - before - 0.1) > 0.2,
            "another way has the same length",
        )
        self.browser.execute_script(f'document.querySelector("{cooker}").focus()')
        self.browser.switch_to.active_element.send_keys(Keys.DELETE)
        self.wait(lambda: not self.all(cooker), "it is still there")
        self.wait(lambda: len(self.all("[data-planned]")) == 2, "its circuit is still on the plan")
        self.assertEqual(self.page_errors(), [])

    def test_on_a_phone(self) -> None:
        self.open_routes()
        resize(self.browser, 390, 844)
        self.type(*ROOMS[:2], ROOMS[3], POINTS[0])
        self.wait(lambda: self.all("[data-planned='c1']"), "no ring")
        self.css("[data-point='kitchen-socket-1']").click()
        self.css("section[aria-label='Selected point']")
        wide = self.browser.execute_script("return document.scrollingElement.scrollWidth")
        self.assertLessEqual(wide, 390)
        self.assertEqual(self.serious_faults(), [])


if __name__ == "__main__":
    unittest.main()
