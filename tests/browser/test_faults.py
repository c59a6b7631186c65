"""The fault view as a person uses it: events picked, who opens, what goes dark, and the log of what opened."""

from __future__ import annotations

import unittest

from tests.browser.test_protection import ProtectionCase

#: Each wiring fault of the split board, with what the view has to say.
WIRING = (
    ("Neutral on the wrong bar", "RCD left trips"),
    ("Neutrals of two RCDs swapped", "RCD left trips"),
    ("Supply and load neutral of an RCD reversed", "RCD left trips"),
    ("Borrowed neutral", "RCD right"),
    ("Loose terminal", "No device trips"),
    ("Broken supply neutral", "Voltage relay, Cottage board trips"),
    ("Supply voltage too high or too low", "Voltage relay"),
    ("Surge from the supply", "reaches the equipment"),
    ("Nail through a cable", "trips"),
    ("Earth leakage", "RCD left"),
)


class FaultView(ProtectionCase):
    """Pick a place and an event."""

    def event(self, kind: str) -> None:
        self.choose("Event", kind)

    def outcome(self, part: str) -> None:
        self.wait(lambda: part in self.css("[data-testid=outcome]").text, f"it does not say: {part}")

    def test_a_far_end_fault_shows_who_opens_and_which_rooms_go_dark(self) -> None:
        self.go(self.demo(), "faults")
        self.css("[data-testid=fault-result]")
        self.choose("Circuit", "Lights, studio")
        self.event("Short circuit, line to neutral")
        self.outcome("B6 (Lights, studio) trips, or one of these first, within 100 ms: C50 (Studio board)")
        self.wait(lambda: self.css("[data-room=studio]").get_attribute("data-dark") == "dark", "the studio stays lit")
        self.assertEqual(self.css("[data-room=kitchen]").get_attribute("data-dark"), "lit")
        self.assertIn("line", self.css("[data-testid=flow-path]").get_attribute("aria-label"))
        self.css("[data-testid=band-plot] [data-testid=flow]")
        self.assertIn("trips after", self.css("[data-testid=ruler]").get_attribute("aria-label"))
        self.assertEqual(self.serious_faults(), [])
        self.assertEqual(self.page_errors(), [])

    def test_each_wiring_fault_is_provoked(self) -> None:
        self.go(self.demo("Lamplighter"), "faults")
        self.css("[data-testid=fault-result]")
        self.choose("Circuit", "Kitchen ring")
        for kind, said in WIRING:
            with self.subTest(kind):
                self.event(kind)
                if kind == "Borrowed neutral":
                    self.choose("Circuit", "Lights downstairs")
                    self.choose("Neutral borrowed from", "Lights upstairs")
                self.outcome(said)
        self.assertEqual(self.page_errors(), [])

    def test_on_the_standby_supply_the_inverter_stops_where_no_breaker_trips(self) -> None:
        address = self.open_demo("Weir cottage")
        self.go(address, "faults")
        self.event("Short circuit, line to neutral")
        self.choose("Circuit", "Freezer, kitchen")
        self.wait(lambda: "under “Supplied by”" in str(self.css("main").get_attribute("textContent")), "it is not told")
        self.choose("Supplied by", "Hybrid inverter, Essential board")
        self.outcome("Hybrid inverter trips within 300 ms")
        self.choose("Circuit", "Cooker, kitchen")
        self.wait(lambda: "is not supplied by Hybrid inverter" in self.css("main [role=alert]").text, "not refused")
        self.assertEqual(self.page_errors(), [])

    def test_what_is_missing_is_said_and_nothing_is_drawn(self) -> None:
        address = self.open_demo("Lamplighter")
        self.go(address, "faults")
        self.event("Borrowed neutral")
        self.wait(lambda: "the other circuit" in self.css("main [role=alert]").text, "not asked for")
        self.assertEqual(self.all("[data-testid=fault-result]"), [])

    def test_a_trip_is_written_down_and_its_causes_are_ranked_and_shown(self) -> None:
        address = self.open_demo("Lamplighter")
        self.go(address, "faults")
        self.css("[data-testid=fault-result]")
        self.browser.execute_script(
            "const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;"
            "set.call(arguments[0], '2026-11-20T18:40'); arguments[0].dispatchEvent(new Event('input', {bubbles: true}));",
            self.field("When"),
        )
        device = self.field("Device that tripped")
        self.pick(device, text=next(one.text for one in self.options(device) if "RCD right" in one.text))
        self.choose("In use, or just switched on", "Bedroom ring")
        self.button("Add entry", "//aside").click()
        causes = self.wait(lambda: self.all("[data-testid=causes] button"), "no causes")
        self.assertIn("Earth leakage: Bedroom ring", causes[0].text)
        causes[0].click()
        self.wait(lambda: "Earth leakage" in self.css("[data-testid=fault-result] h1").text, "the cause is not shown")
        self.browser.refresh()
        self.wait(lambda: "2026-11-20 18:40" in self.css("[data-testid=trips]").text, "the line is not kept")
        self.css("[data-testid=trips] button").click()
        self.button("Delete entry", "//aside").click()
        self.wait(lambda: "2026-11-20" not in self.css("[data-testid=trips]").text, "the line stays")
        self.assertEqual(self.serious_faults(), [])


if __name__ == "__main__":
    unittest.main()
