"""Protection as a person uses it: the other face of the lattice, discrimination, plans, surge, relay, library."""

from __future__ import annotations

import time
import unittest
from typing import Any
from unittest.mock import patch

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.page import DEVICE, PageCase
from tests.core.document.test_feeds import typed
from vivid_lattice.core.design.rcd_plans.architectures import SHAPES
from vivid_lattice.core.design.rcd_plans.plan import RcdPlan, plan
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import MainSwitch
from vivid_lattice.core.document.supply import Tails
from vivid_lattice.core.stopping import stop_point

STUDIO_BOARD, KILN = 11, 12


class ProtectionCase(PageCase):
    """Goes to the parts of the protection view."""

    def go(self, address: str, view: str = "protection") -> None:
        self.browser.get(address.replace("circuits", view))

    def part(self, title: str) -> None:
        xpath = f"//*[@role='tablist' and @aria-label='Protection sections']//button[normalize-space()='{title}']"
        self.wait(lambda: self.browser.find_element(By.XPATH, xpath), f"no part {title}").click()

    def choose(self, label: str, text: str) -> None:
        self.pick(self.field(label), text=text)


class Faces(ProtectionCase):
    """The lattice turned over."""

    def test_one_key_turns_it_over_and_every_circuit_is_answered(self) -> None:
        self.open_demo()
        self.cell(0, "overload").click()
        self.press("p")
        self.wait(lambda: "Leakage" in self.css("[role=grid]").text, "it is not turned over")
        cells = self.all("[data-row='0'][data-verdict]")
        self.assertEqual(len(cells), 8)
        self.assertEqual(self.css("[data-testid=working]").get_attribute("data-check"), "selectivity-overload")
        scroll = self.css("[data-testid=grid-scroll]")
        self.assertLessEqual(scroll.get_property("scrollHeight"), scroll.get_property("clientHeight"))
        self.assertEqual(self.serious_faults(), [])
        self.press("p")
        self.wait(lambda: "Loop" in self.css("[role=grid]").text, "it is not turned back")

    def test_trouble_on_the_face_turned_away_is_told_beside_the_name(self) -> None:
        self.open_demo()
        self.type_over(KILN, DEVICE, "50")
        self.cell(KILN, "overload").click()
        self.press("p")
        self.wait(lambda: self.all(f"[data-row='{KILN}'][data-column='0'] [role=img]"), "no sign beside the name")


class Discriminating(ProtectionCase):
    """A failure built, seen and mended."""

    def test_a_crossed_pair_is_mended_from_the_view(self) -> None:
        address = self.open_demo()
        self.type_over(STUDIO_BOARD, DEVICE, "20")
        self.wait_kept(2)
        self.go(address)
        self.wait(lambda: self.css("[data-pair='c12 c13']").get_attribute("data-status") == "none", "not crossed")
        self.css("[data-pair='c12 c13']").click()
        self.wait(lambda: "may trip first" in self.css("[data-testid=pair]").text, "not told")
        self.css("[data-testid=band-plot]")
        self.assertEqual(self.serious_faults(), [])
        self.css("[data-testid=pair] [data-remedy^=ahead]").click()
        self.wait(lambda: self.css("[data-pair='c12 c13']").get_attribute("data-status") != "none", "not mended")
        self.wait_kept(3)
        self.assertEqual(self.page_errors(), [])


class Planning(ProtectionCase):
    """Architectures side by side."""

    def test_two_are_compared_and_one_is_taken(self) -> None:
        address = self.open_demo("Lamplighter")
        self.go(address)
        self.part("RCD plans")
        self.wait(lambda: len(self.all("[data-architecture]")) == len(SHAPES), "not all are worked out")
        self.wait(lambda: not self.all("[role=status]"), "it does not end")
        three, own = (self.css(f"[data-architecture={name}]").text for name in ("three", "own"))
        self.assertIn("Optimal", three)
        self.assertIn("RCBO Kitchen ring", own)
        self.assertIn("All lighting would", self.css("[data-architecture=one]").text)
        self.assertEqual(self.serious_faults(), [])
        self.css("[data-architecture=three] button").click()
        self.wait_kept(2)
        self.go(address, "setup")
        self.wait(lambda: self.all("input[value='RCD 3']"), "the plan is not in the job")
        self.assertEqual(self.page_errors(), [])

    def test_planning_is_stopped_and_what_is_done_stays(self) -> None:
        planned: list[str] = []

        def one_then_none(*args: Any) -> RcdPlan:
            """The first architecture is planned; the next one goes on until whoever asked hangs up."""
            planned.append(args[2])
            while len(planned) > 1:
                stop_point()
                time.sleep(0.01)
            return plan(*args)

        with patch("vivid_lattice.api.protection.plan", one_then_none):
            self.go(self.demo())
            self.part("RCD plans")
            self.wait(lambda: len(self.all("[data-architecture]")) == 1 and len(planned) == 2, "nothing is worked out")
            self.button("Cancel").click()
            self.wait(lambda: not self.all("[role=status]"), "it does not stop")
        self.assertEqual((len(self.all("[data-architecture]")), len(planned)), (1, 2))
        self.assertEqual(self.all("[role=alert]"), [])


class Surge(ProtectionCase):
    """The owner's decision, and a device with its leads."""

    def test_it_is_declined_in_writing_and_taken_back(self) -> None:
        address = self.open_demo("Lamplighter")
        self.go(address)
        self.part("Surge protection")
        self.wait(lambda: "no refusal in writing is recorded" in self.css("main").text, "not asked")
        self.field("Name").send_keys("A. Owner (invented)")
        self.browser.execute_script(
            "const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;"
            "set.call(arguments[0], '2026-10-02'); arguments[0].dispatchEvent(new Event('input', {bubbles: true}));",
            self.field("Date"),
        )
        self.field("Reason").send_keys("Nothing delicate in the house.")
        self.button("Record decision").click()
        self.wait_kept(2)
        self.browser.refresh()
        self.part("Surge protection")
        self.wait(lambda: "2026-10-02" in self.css("[data-testid=declined]").text, "the decision is not kept")
        finding = "[aria-label='Check result']"
        self.wait(lambda: "whether the owner’s refusal is in writing" in self.css(finding).text, "it is not asked")
        self.choose("In writing", "no")
        self.wait(lambda: "must be in writing" in self.css(finding).text, "a spoken refusal passes")
        self.choose("In writing", "yes")
        self.wait(lambda: "declined by the owner in writing" in self.css(finding).text, "the finding does not say so")
        self.assertEqual(self.serious_faults(), [])
        self.button("Undo decision").click()
        self.wait(lambda: not self.all("[data-testid=declined]"), "it stays declined")

    def test_longer_leads_are_told_and_shorter_ones_mend_it(self) -> None:
        self.go(self.demo())
        self.part("Surge protection")
        self.wait(lambda: "leads 0.7 m" in self.css("[aria-label='Check result']").text, "no advice")
        box = self.field("Total lead length")
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys("0.4", Keys.ENTER)
        self.wait(lambda: "leads 0.7 m" not in self.css("[aria-label='Check result']").text, "the advice stays")


class FixesOfBoardsAndSupply(ProtectionCase):
    """A finding of a board or of the supply is opened, and its fix taken with a click."""

    def test_each_is_taken_where_it_is_told(self) -> None:
        gear = ControlGear(
            id="g", name="Contactor", kind="contactor", rating_a=16.0, switches=("c2",), max_backup_a=100.0
        )
        made = typed("cooker B32 6mm 14m 9kW", "shower 8.5kW 9m 10mm B40")
        board = made.boards[0].model_copy(update={"main_switch": MainSwitch(rating_a=40.0), "control_gear": (gear,)})
        tails = Tails(area_mm2=6.0, length_m=9.0, material="copper")
        supply = made.supply.model_copy(update={"tails": tails})
        address = self.kept(made.model_copy(update={"boards": (board,), "supply": supply}))
        self.go(address, "setup")
        self.css("section[aria-label='Meter tails'] [data-remedy=switch-fuse]").click()
        self.wait(lambda: "pass" in self.css("section[aria-label='Meter tails']").text, "the tails are not mended")
        self.wait_kept(2)
        self.go(address)
        self.css("[data-testid=board-findings] [data-check=main-switch]").click()
        self.css("[data-remedy=main-switch]").click()
        self.wait(lambda: not self.all("[data-testid=board-findings] [data-check=main-switch]"), "it is too small")
        self.wait_kept(3)
        self.go(address, "board")
        self.css("[data-check=control-gear] button").click()
        self.css("[data-check=control-gear] [data-remedy=gear-rating]").click()
        self.wait_kept(4)
        self.wait(
            lambda: "Contactor: load 37 A (rating 40 A" in self.css("[data-check=control-gear]").text, "too small"
        )
        self.assertEqual(self.serious_faults(), [])


class RelayAndLibrary(ProtectionCase):
    """A relay over a trace, and families of the user's own."""

    def test_a_relay_is_run_over_a_trace(self) -> None:
        self.go(self.demo("Lamplighter"))
        self.part("Voltage relay")
        self.wait(lambda: "disconnects" in self.css("[data-testid=switchings]").text, "it never opens")
        self.choose("Voltage trace", "Normal evening")
        self.wait(lambda: "Stays closed" in self.css("main").text, "it opens in a quiet evening")
        self.assertEqual(self.serious_faults(), [])

    def test_a_family_is_refused_with_its_reason_and_added_once_it_holds(self) -> None:
        self.go(self.demo())
        self.part("Device library")
        for label, text in (
            ("Short name", "own-b"),
            ("Title", "Own breaker"),
            ("Ratings", "16 10"),
            ("Fast edge", "1.13:3600 3:200"),
            ("Slow edge", "1.45:3600 5:10 5:0.1"),
        ):
            self.field(label).send_keys(text)
        self.button("Add family").click()
        self.wait(lambda: "not in order" in self.css("[data-testid=refused-families]").text, "not refused")
        self.assertIn("edges cross", self.css("[data-testid=refused-families]").text)
        for label, text in (("Ratings", "10 16"), ("Fast edge", "1.13:3600 3:0.1")):
            box = self.field(label)
            box.send_keys(Keys.CONTROL, "a")
            box.send_keys(text)
        self.button("Add family").click()
        self.wait_kept(2)
        self.wait(lambda: "Own breaker" in self.css("section[aria-label='Your families'] table").text, "not added")
        # Another kind asks for what it goes by, and not for edges.
        self.choose("Kind", "surge")
        self.assertNotIn("Fast edge", self.css("section[aria-label='Your families']").text)
        for label, text in (
            ("Short name", "own-s"),
            ("Title", "Own arrester"),
            ("SPD type", "2"),
            ("Protection level", "1.3"),
        ):
            self.field(label).send_keys(text)
        self.button("Add family").click()
        self.wait_kept(3)
        self.wait(
            lambda: "1.3" in self.css("section[aria-label='Your families'] table").text, "the second is not added"
        )
        self.assertEqual(self.serious_faults(), [])


class Rooms(ProtectionCase):
    """What a room is made of, from the intake to the finding."""

    def test_rim_and_outlet_of_a_bath_are_entered_and_kept(self) -> None:
        address = self.open_demo()
        self.go(address, "setup")
        self.button("Loft bath").click()
        for label, text in (("Height of bath or tray rim", "0.55"), ("Height of highest water outlet", "2.4")):
            box = self.field(label)
            box.send_keys(Keys.CONTROL + "a")
            box.send_keys(text, Keys.TAB)
            self.wait(lambda box=box, text=text: box.get_attribute("value") == text, f"{label} is not taken")
        self.wait_kept(3)
        self.browser.refresh()
        self.button("Loft bath").click()
        kept = [
            self.field(label).get_attribute("value")
            for label in ("Height of bath or tray rim", "Height of highest water outlet")
        ]
        self.assertEqual(kept, ["0.55", "2.4"])
        # Rooms that no water is in ask neither.
        self.button("Pantry").click()
        self.wait(lambda: "Height of bath or tray rim" not in self.css("main").text, "the pantry has a rim")
        self.assertEqual(self.serious_faults(), [])


if __name__ == "__main__":
    unittest.main()
