"""Instruments over HTTP: identified, nulled, read, and what they refuse answered with what to do."""

from __future__ import annotations

import unittest

from tests.api.test_api import ApiCase
from tests.instruments.test_instrument import tester
from vivid_lattice.instruments.server import instrument_on

READING = {"id": "a1", "test": "r1r2", "subject": {"kind": "circuit", "id": "c1"}}


class Instruments(ApiCase):
    def test_a_reading_is_taken_and_forgotten_when_it_is_saved(self) -> None:
        with instrument_on(tester()) as port:
            self.assertEqual(self.client.post("/api/instrument", json={"port": port}).json()["serial"], "VL-0001")
            refused = self.client.post("/api/instrument/read", json={"port": port, **READING})
            self.assertEqual(refused.status_code, 409)
            self.assertIn("not nulled", refused.json()["detail"])
            self.assertEqual(self.client.post("/api/instrument/null", json={"port": port}).json(), {"ohm": 0.08})
            first = self.client.post("/api/instrument/read", json={"port": port, **READING}).json()
            again = self.client.post("/api/instrument/read", json={"port": port, **READING}).json()
            self.assertEqual(first, again)
            other = READING | {"id": "a2", "test": "zs", "saved": ["a1"]}
            self.client.post("/api/instrument/read", json={"port": port, **other})
            stored = self.client.post("/api/instrument/stored", json={"port": port}).json()
            self.assertEqual([each["id"] for each in stored], ["a2"])

    def test_no_other_host_and_no_port_of_the_system_is_reached(self) -> None:
        for port in (22, 80, 0, 70000):
            self.assertEqual(self.client.post("/api/instrument", json={"port": port}).status_code, 422)
        self.assertEqual(
            self.client.post("/api/instrument", json={"port": 8767, "host": "10.0.0.1"}).status_code // 100, 4
        )


if __name__ == "__main__":
    unittest.main()
