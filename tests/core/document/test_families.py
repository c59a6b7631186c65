"""The device library: what is packaged holds, and a family of the user's own is refused for its own reason."""

from __future__ import annotations

import json
import unittest

from tests.builders import circuit, finding, job, two_boards
from vivid_lattice.core.document.device_family import DeviceFamily, family_problems, packaged, read_families
from vivid_lattice.core.errors import BadDocument

GOOD = "id,title,kind,characteristic,ratings_a,lower,upper\n"
OWN = 'own-b,Own breaker,breaker,B,16 20 32,"1.13:3600 3:0.1 3:0.01","1.45:3600 5:10 5:0.1"\n'


class Packaged(unittest.TestCase):
    """The families that come with the program."""

    def test_every_family_holds_and_stands_once(self) -> None:
        self.assertEqual(len({family.id for family in packaged()}), len(packaged()))
        for family in packaged():
            with self.subTest(family.id):
                self.assertEqual(family_problems(family), [])

    def test_every_kind_of_device_has_one(self) -> None:
        self.assertGreaterEqual(
            {family.kind for family in packaged()},
            {"breaker", "fuse", "rcd", "rcbo", "arc-fault", "surge", "switch", "voltage-relay", "contactor",
             "impulse-relay", "time-switch", "socket"},
        )  # fmt: skip
        self.assertEqual({one.surge_type for one in packaged() if one.surge_type}, {"1", "1+2", "2", "3"})
        self.assertEqual({one.modules for one in packaged() if one.kind == "rcbo"}, {1, 2})


class EnteredCircuit(unittest.TestCase):
    """A user's own families, by CSV or JSON."""

    def refused(self, text: str, said: str) -> None:
        with self.assertRaises(BadDocument) as caught:
            read_families(text)
        self.assertRegex(str(caught.exception), said)

    def test_csv_and_json_say_the_same(self) -> None:
        (by_csv,) = read_families(GOOD + OWN)
        (by_json,) = read_families(json.dumps([by_csv.model_dump(mode="json", exclude_none=True)]))
        self.assertEqual(by_csv, by_json)
        self.assertEqual((by_csv.ratings_a, by_csv.upper[1].times_in), ((16.0, 20.0, 32.0), 5.0))

    def test_each_wrong_family_is_refused_for_its_own_reason(self) -> None:
        self.refused(GOOD + OWN.replace("16 20 32", "16 32 20"), "families.1.: ratings not in order: 20 comes after 32")
        self.refused(GOOD + OWN.replace("3:0.1", "3:200"), "edges cross at")
        self.refused(GOOD + OWN.replace("1.45:3600", "6:3600"), "upper edge not in order")
        self.refused(GOOD + OWN.replace('"1.45:3600 5:10 5:0.1"', ""), "one edge .* missing")
        self.refused(GOOD + OWN.replace("16 20 32", ""), "needs at least one rating")
        self.refused(GOOD + OWN.replace("breaker,B", "toaster,B"), "kind")
        self.refused(GOOD + OWN + OWN, "already used")
        self.refused(GOOD.replace("kind", "sort") + OWN, "no column 'sort'")
        self.refused(GOOD, "no family found")
        self.refused("[{", "[Nn]ot valid JSON")
        self.refused('[{"id":"s","title":"S","kind":"surge"}]', "needs its type")
        self.refused(
            '[{"id":"r","title":"R","kind":"rcd","idn_ma":[30]}]', "needs its rated residual currents and its type"
        )
        self.refused('[{"id":"b","title":"B","kind":"breaker","ratings_a":[6,10],"loss_w":[2,1]}]', "loss falls")
        self.refused(
            '[{"id":"b","title":"B","kind":"breaker","ratings_a":[6],"terminal_from_mm2":16,"terminal_to_mm2":4}]',
            "smaller value comes first",
        )

    def test_a_family_s_own_curve_decides_over_the_standard_s(self) -> None:
        # A feeder whose magnetic part begins only at 20 times its rating reaches four times as far as type C.
        slow = DeviceFamily.model_validate(
            {"id": "slow", "title": "Slow", "kind": "breaker", "ratings_a": [40.0],
             "lower": [{"times_in": 1.2, "time_s": 7200.0}, {"times_in": 20.0, "time_s": 2.0}, {"times_in": 20.0, "time_s": 0.01}],
             "upper": [{"times_in": 1.45, "time_s": 7200.0}, {"times_in": 30.0, "time_s": 5.0}, {"times_in": 30.0, "time_s": 0.1}]},
            strict=False,
        )  # fmt: skip
        made = two_boards()
        before = finding(made, "selectivity-short-circuit")
        feeder = made.circuits[0]
        assert not isinstance(feeder.device, str)
        own = feeder.model_copy(update={"device": feeder.device.model_copy(update={"family": "slow"})})
        after = finding(
            made.model_copy(update={"families": (slow,), "circuits": (own, *made.circuits[1:])}),
            "selectivity-short-circuit",
        )
        self.assertEqual((before.limit, after.limit), (0.2, 0.8))

    def test_a_family_nobody_holds_is_missing(self) -> None:
        held = circuit()
        assert not isinstance(held.device, str)
        lost = circuit(device=held.device.model_copy(update={"family": "gone"}))
        found = finding(job(lost), "selectivity-overload")
        self.assertEqual((found.verdict, found.needs[0].path), ("missing", "device.family"))


if __name__ == "__main__":
    unittest.main()
