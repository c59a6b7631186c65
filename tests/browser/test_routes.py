"""The plan on the page: a house typed by keyboard alone from an empty page, lengths that follow in the circuits, and the same from the shell."""

from __future__ import annotations

import io
import json
import tempfile
import unittest
from contextlib import redirect_stdout
from pathlib import Path

from PIL import Image
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.actions.action_builder import ActionBuilder
from selenium.webdriver.common.actions.interaction import POINTER_TOUCH
from selenium.webdriver.common.actions.pointer_input import PointerInput
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.browser.harness import resize
from tests.browser.page import PageCase
from tests.browser.test_testing import house
from tests.imports.test_floor_plan import around, dxf
from vivid_lattice.cli.main import main
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.job_file import to_text
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import get_revision

ROOMS = (
    "kitchen 4.2 x 3.6 h 2.4 door left 0.8 at 1.2",
    "hall 1.2 x 5 left of kitchen door front 0.9 at 0.1",
    "landing 3 x 2 above hall",
    "board hall left at 0.5",
    "ground floor insulation none",
)
POINTS = ("6 double sockets kitchen worktop", "cooker kitchen right at 1.9", "2 way light hall landing")


def length_m(circuit: Circuit) -> float:
    """The length of a run [m]."""
    return round(sum(section.length_m or 0.0 for section in circuit.run), 2)


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
        """The job as the server has it, once the page says that it is saved."""
        self.wait(lambda: self.all("[data-testid=save-state][data-state=saved]"), "not saved")
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
            lambda: {each.id: length_m(each) for each in self.job(address).circuits} == shown,
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
        before = length_m(self.job(address).circuits[2])
        self.browser.execute_script(f'document.querySelector("{cooker}").focus()')
        self.browser.switch_to.active_element.send_keys(Keys.ARROW_UP)
        self.wait(
            lambda: abs((length_m(self.job(address).circuits[2])) - before - 0.1) < 0.005,
            "the length does not follow",
        )
        self.pick(self.css("button[aria-label='Cables of Cooker']"), text="under the floor")
        self.wait(
            lambda: abs((length_m(self.job(address).circuits[2])) - before - 0.1) > 0.2,
            "another way has the same length",
        )
        self.browser.execute_script(f'document.querySelector("{cooker}").focus()')
        self.browser.switch_to.active_element.send_keys(Keys.DELETE)
        self.wait(lambda: not self.all(cooker), "it is still there")
        self.wait(lambda: len(self.all("[data-planned]")) == 2, "its circuit is still on the plan")
        self.assertEqual(self.page_errors(), [])

    def test_a_list_is_pasted_with_progress_as_one_edit_and_can_be_cancelled(self) -> None:
        address = self.open_routes()
        self.paste("\n".join((*ROOMS, *POINTS, "4 sockets attic")))
        self.wait(lambda: len(self.all("[data-planned]")) == 3, "not all circuits are on the plan")
        self.wait(lambda: "attic" in self.css("body").text, "the line that is not understood is not told")
        before = len(self.job(address).plan.points)
        self.assertGreater(before, 8)
        self.paste("\n".join(f"study {number} 2 x 2" for number in range(40)))
        self.button("Cancel").click()
        self.wait(lambda: not self.all("progress"), "still entering")
        self.assertNotIn("study", self.css("main").text.lower())
        self.assertEqual(len(self.job(address).plan.rooms), 3)
        self.css("body").send_keys(Keys.CONTROL, "z")
        self.wait(lambda: "No room yet" in self.css("main").text, "a list is more than one edit")
        self.assertEqual(self.page_errors(), [])

    def paste(self, text: str) -> None:
        self.browser.execute_script(
            """const data = new DataTransfer(); data.setData("text", arguments[0]);
            document.querySelector("#plan-entry").dispatchEvent(
                new ClipboardEvent("paste", {clipboardData: data, bubbles: true, cancelable: true}));""",
            text,
        )

    def test_what_a_room_usually_has_is_taken_and_a_section_is_pinned(self) -> None:
        address = self.open_routes()
        self.type(*ROOMS)
        self.css("[data-testid=proposals] summary").click()
        for button in self.all("[data-proposal=kitchen] button")[:1]:
            button.click()
        self.wait(lambda: self.all("[data-planned=c1]"), "the worktop of the kitchen is not on the ring")
        self.wait(lambda: len(self.all("[data-planned=c1] [data-check]")) == 3, "no checks beside the route")
        self.css("[data-planned=c1] details summary").click()
        before = length_m(self.job(address).circuits[0])
        self.pick(self.all("[data-planned=c1] [aria-label^='Way of']")[0], text="under the floor")
        self.wait(lambda: length_m(self.job(address).circuits[0]) != before, "the length does not follow")
        [route] = self.job(address).plan.routes
        self.assertEqual([pin.way for pin in route.pinned], ["floor"])
        self.pick(self.css("[aria-label='Cables that go the same way']"), text="two diameters apart")
        self.wait(lambda: self.job(address).plan.apart is True, "not apart")
        self.assertEqual({part.circuits_grouped for part in self.job(address).circuits[0].run}, {1})
        self.assertEqual(self.page_errors(), [])
        self.assertEqual(self.serious_faults(), [])

    def test_a_route_and_its_circuit_are_pointed_at_from_either_side(self) -> None:
        address = self.open_routes()
        self.type(*ROOMS, *POINTS)
        self.wait(lambda: len(self.all("[data-planned]")) == 3, "not all circuits are on the plan")
        reach = self.css("[data-reach=c3]")
        self.browser.execute_script(
            "arguments[0].dispatchEvent(new PointerEvent('pointerover', {bubbles: true}))", reach
        )
        self.wait(lambda: self.css("[data-planned=c3]").get_attribute("data-shown") == "true", "the circuit is not lit")
        self.css("[data-planned=c3] [data-check=voltage-drop] a").click()
        self.wait(lambda: "circuits" in self.browser.current_url, "the grid does not open")
        self.browser.get(address.replace("circuits", "routes"))
        self.assertEqual(self.page_errors(), [])

    def test_a_point_is_dropped_and_dragged_to_another_wall(self) -> None:
        address = self.open_routes()
        self.type(*ROOMS)
        self.pick(self.css("[aria-label='Drop a point']"), text="socket")
        drawing = self.css("svg[aria-label='Plan of Ground floor']")
        at = ActionChains(self.browser).move_to_element_with_offset(drawing, 60, 20)
        at.click().perform()
        self.wait(lambda: self.all("[data-point='kitchen-socket']"), "no socket")
        [before] = self.job(address).plan.points
        self.assertEqual((before.kind, before.room), ("socket", "kitchen"))
        point = self.css("[data-point='kitchen-socket']")
        ActionChains(self.browser).click_and_hold(point).move_by_offset(-30, 40).move_by_offset(
            -90, 20
        ).release().perform()
        self.wait(lambda: self.job(address).plan.points[0] != before, "it stays where it was")
        self.assertEqual(self.page_errors(), [])
        self.assertEqual(self.serious_faults(), [])

    def test_a_floor_plan_is_imported_from_a_drawing(self) -> None:
        address = self.open_routes()
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "house.dxf"
            path.write_bytes(dxf([*around(0, 0, 4, 3), *around(4, 0, 9, 3)], {"Parlour": (2, 1), "Scullery": (6, 1)}))
            self.css("[data-testid=drawing-import] input").send_keys(str(path))
            self.wait(
                lambda: "Parlour, Scullery" in self.css("section[aria-label='Rooms of the drawing']").text, "no rooms"
            )
        self.button("Add to the plan", "//section[@aria-label='Rooms of the drawing']").click()
        self.wait(lambda: len(self.all("[data-room]")) == 2, "the rooms are not drawn")
        self.wait(
            lambda: {shape.width_m for shape in self.job(address).plan.rooms} == {4.0, 5.0}, "the rooms are not kept"
        )
        self.assertEqual(self.page_errors(), [])

    def test_rooms_are_traced_over_a_picture_at_a_scale(self) -> None:
        address = self.open_routes()
        self.css("[data-testid=tracing] summary").click()
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "floor.png"
            Image.new("RGB", (600, 300), "white").save(path)
            self.css("[data-testid=tracing] input[type=file]").send_keys(str(path))
            self.wait(lambda: self.all("[data-testid=tracing] image"), "no picture")
        wide = self.css("[data-testid=tracing] input[type=number]")
        wide.send_keys(Keys.CONTROL + "a")
        wide.send_keys("10")
        area = self.css("[data-testid=tracing] svg")
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", area)
        scale = min(area.size["width"] / 10, area.size["height"] / 5)
        drag = ActionChains(self.browser).move_to_element_with_offset(area, -int(3 * scale), -int(1 * scale))
        drag.click_and_hold().move_by_offset(int(2 * scale), int(scale)).move_by_offset(
            int(2 * scale), int(scale)
        ).release().perform()
        self.css("[data-testid=tracing] input[aria-label=Room]").send_keys("studio", Keys.ENTER)
        self.wait(lambda: self.job(address).plan.rooms, "no room")
        [room] = self.job(address).plan.rooms
        self.assertAlmostEqual(room.width_m, 4.0, delta=0.15)
        self.assertAlmostEqual(room.depth_m, 2.0, delta=0.15)
        self.assertAlmostEqual(room.x_m, 2.0, delta=0.15)
        self.assertEqual(self.page_errors(), [])

    def test_by_touch(self) -> None:
        """A room measured by taps, a house entered by tapping what is proposed, and a point chosen and removed."""
        address = self.open_routes()
        resize(self.browser, 390, 844)
        self.type(*ROOMS)
        self.tap(self.css("[data-testid=room-form] summary"))
        self.css("[data-testid=room-form] input").send_keys("pantry")
        for name in ("Width: 1 m less", "Width: 0.1 m more", "Depth: 1 m less"):
            self.tap(self.css(f"button[aria-label='{name}']"))
        self.tap(self.button("Add to the plan", "//*[@data-testid='room-form']"))
        self.wait(lambda: any(shape.room == "pantry" for shape in self.job(address).plan.rooms), "no pantry")
        [pantry] = [shape for shape in self.job(address).plan.rooms if shape.room == "pantry"]
        self.assertEqual((pantry.width_m, pantry.depth_m, pantry.height_m), (3.1, 2.5, 2.4))
        self.tap(self.css("[data-testid=proposals] summary"))
        for room in ("kitchen", "hall"):
            self.tap(self.button_of(f"[data-proposal={room}]", "All of"))
            self.wait(lambda room=room: not self.all(f"[data-proposal={room}]"), "points are not taken")
        self.wait(lambda: len(self.all("[data-planned]")) >= 2, "no circuit is on the plan")
        self.tap(self.css("[data-point='hall-socket']"))
        self.css("section[aria-label='Selected point']")
        self.tap(self.button("Remove the point"))
        self.wait(lambda: not self.all("[data-point='hall-socket']"), "it is still there")
        self.tap(self.css("[data-planned=c2] details summary"))
        self.assertTrue(self.all("[data-planned=c2] [data-section]"))
        self.assertEqual(self.page_errors(), [])

    def tap(self, element: WebElement) -> None:
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", element)
        touch = ActionBuilder(self.browser, mouse=PointerInput(POINTER_TOUCH, "finger"))
        touch.pointer_action.move_to(element).pointer_down().pointer_up()
        touch.perform()

    def button_of(self, where: str, text: str) -> WebElement:
        return next(each for each in self.all(f"{where} button") if text in each.text)

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
