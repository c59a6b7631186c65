"""Lines as electricians type them, in every standard. Facts of the trade in here are common practice, no source."""

from __future__ import annotations

import itertools
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.entry.parsed_line import ParsedLine
from vivid_lattice.core.rules import rule_set, standard_ids

UK = rule_set("uk")


def read(text: str, rules: str = "uk", **kind: Any) -> ParsedLine:
    return parse_line(text, rule_set(rules), **kind)


class Loads(unittest.TestCase):
    """What a line feeds."""

    def test_words_of_each_standard_name_their_loads(self) -> None:
        for rules, text, load, circuit in (
            ("uk", "kitchen sockets ring 60m", "socket", "ring"),
            ("uk", "immersion 3kW", "water-heater", "fixed"),
            ("uk", "ASHP 16A", "air-conditioner", "fixed"),
            ("uk", "garage submain 32A 20m buried", None, "distribution"),
            ("anz", "hot water 3.6kW 12m", "water-heater", "fixed"),
            ("anz", "power front C20", "socket", "radial"),
            ("iec", "lave-vaisselle 2.2kW 10m", "appliance", "fixed"),
            ("iec", "prises cuisine 16A", "socket", "radial"),
            ("iec-de", "E-Herd 11kW 3ph", "cooker", "fixed"),
            ("iec-de", "Gartenpumpe 800W 25m", "motor", "fixed"),
            ("iec-de", "Durchlauferhitzer 21kW", "shower", "fixed"),
            ("za", "geyser 3kW 12m", "water-heater", "fixed"),
            ("za", "stove 7kW 10m", "cooker", "fixed"),
            ("na", "furnace 800W 30ft", "appliance", "fixed"),
            ("na", "kitchen receptacles 12/2 30ft", "socket", "radial"),
            ("na", "sump pump 600W 40ft", "motor", "fixed"),
        ):
            with self.subTest(text, rules=rules):
                [found] = read(text, rules).loads
                self.assertEqual((found.load, found.circuit), (load, circuit))

    def test_the_last_of_a_compound_is_the_load_and_what_is_joined_is_one_too(self) -> None:
        for text, loads in (
            ("shower light", ["lamp"]),
            ("shower pump 400W", ["motor"]),
            ("cooker hood 100W", ["motor"]),
            ("garage door 250W", ["motor"]),
            ("bathroom fan 30W", ["motor"]),
            ("socket for fridge", ["socket", "appliance"]),
            ("lights and sockets", ["lamp", "socket"]),
            ("oven 3kW and hob 7kW", ["cooker", "cooker"]),
            ("oven and hob 10kW", ["cooker"]),
            ("fridge and freezer 400W", ["appliance"]),
        ):
            with self.subTest(text):
                self.assertEqual([found.load for found in read(text).loads], loads)

    def test_a_radial_is_no_ring_whatever_is_usual_in_that_room(self) -> None:
        for line in ("kitchen sockets radial 20m", "radial sockets kitchen 20m", "kitchen plugs radials 15m"):
            self.assertEqual(read(line).circuit, "radial", line)
        self.assertNotEqual(read("kitchen sockets 30m").circuit, "radial")

    def test_each_power_and_count_goes_to_its_own_load(self) -> None:
        oven, hob = read("oven 3kW and hob 7kW B40").loads
        self.assertEqual((oven.power_w, hob.power_w), (3000.0, 7000.0))
        sockets, lamps = read("4 sockets and 6 lights 9W").loads
        self.assertEqual((sockets.count, lamps.count, sockets.power_w, lamps.power_w), (4, 6, None, 9.0))
        self.assertTrue(read("cooker with socket 9kW").with_socket)

    def test_counts(self) -> None:
        for text, count, power in (
            ("10 downlights 5W", 10, 5.0),
            ("8 x downlight 6W", 8, 6.0),
            ("8x downlight 6W", 8, 6.0),
            ("lights 4x36W", 4, 36.0),
            ("lights 6W", None, 6.0),
        ):
            with self.subTest(text):
                [lamp] = read(text).loads
                self.assertEqual((lamp.count, lamp.power_w), (count, power))


class Fields(unittest.TestCase):
    """Everything else that a line states."""

    def test_a_device_with_all_its_parts(self) -> None:
        line = read("B32 RCBO 30 mA A 6kA ring 2x2.5mm 55m")
        device = line.device
        self.assertEqual((device.kind, device.curve, device.rating_a), ("rcbo", "B", 32.0))
        self.assertEqual((device.rcd_ma, device.rcd_type, device.breaking_ka), (30.0, "A", 6.0))
        assert line.conductor is not None
        self.assertEqual((line.conductor.area_mm2, line.conductor.cables, line.circuit or "ring"), (2.5, 2, "ring"))

    def test_a_bare_current_is_the_rating_and_draws_is_the_load(self) -> None:
        line = read("immersion draws 13A 16A")
        self.assertEqual((line.current_a, line.device.rating_a), (13.0, 16.0))
        self.assertEqual(read("pump 16A load C20").current_a, 16.0)
        self.assertIn("second rating", str(read("heater 16A 20A").unused[0].reason))

    def test_types_and_curves(self) -> None:
        for text, curve, rcd, old in (
            ("mcb 30 type 2 shower", None, None, "2"),
            ("C curve 16A pump", "C", None, None),
            ("type C 16A pump", "C", None, None),
            ("RCBO B16 type A pump", "B", "A", None),
            ("charger B40 30mA type B", "B", "B", None),
            ("heater 30mA AC B16", "B", "AC", None),
        ):
            with self.subTest(text):
                device = read(text).device
                self.assertEqual((device.curve, device.rcd_type, device.old_type), (curve, rcd, old))
        self.assertTrue(read("submain 100mA S").device.rcd_delayed)
        self.assertTrue(read("sockets AFDD B20").device.arc_fault)

    def test_sizes_by_area_gauge_and_inch(self) -> None:
        for rules, text, area, cpc in (
            ("uk", "cooker 6mm", 6.0, None),
            ("uk", "cooker 6/2.5mm", 6.0, 2.5),
            ("uk", "cooker 6/2.5", 6.0, 2.5),
            ("anz", "power points 2.5/2.5", 2.5, 2.5),
            ("uk", "cooker 6mm² 2.5mm cpc", 6.0, 2.5),
            ("uk", "lights 1.5", 1.5, None),
            ("uk", "sockets 7/.029", 2.5, None),
            ("uk", "sockets 7/029", 2.5, None),
            ("iec-de", "Herd 5x2.5", 2.5, None),
            ("iec-de", "Licht 3G1.5", 1.5, None),
            ("na", "dryer 10/3", 5.261, None),
            ("na", "dryer 10 AWG", 5.261, None),
            ("na", "feeder 4/0", 107.2, None),
        ):
            with self.subTest(text):
                line = read(text, rules)
                assert line.conductor is not None
                self.assertEqual((line.conductor.area_mm2, line.cpc_mm2, line.unused), (area, cpc, []))

    def test_a_pair_of_numbers_that_are_no_sizes_is_not_a_cable(self) -> None:
        for text in ("cooker 2.5/6", "cooker 24/7", "cooker 6/3"):
            self.assertIsNone(read(text).conductor, text)

    def test_cables_and_methods_by_the_words_of_each_standard(self) -> None:
        for rules, text, cable, method in (
            ("uk", "shed feed swa buried", "swa-xlpe", "D"),
            ("uk", "lights t&e loft", "flat-twin-pvc", "101"),
            ("uk", "cooker clipped", None, "C"),
            ("uk", "sockets singles", "single-pvc", "B"),
            ("anz", "lights tps ceiling", "flat-tps", "partly_insulated"),
            ("iec-de", "Licht NYM-J unter Putz", "sheathed-pvc", "C"),
            ("za", "stove clipped", None, "C"),
            ("na", "range NM", "nm", None),
            ("na", "well pump UF-B", "uf", "buried"),
        ):
            with self.subTest(text):
                line = read(text, rules)
                self.assertEqual((line.cable, line.method), (cable, method))

    def test_rooms(self) -> None:
        for text, name, kind in (
            ("1 x socket 12m surface, bathroom", "Bathroom", "bath"),
            ("garage sockets 20m", "Garage", "garage"),
            ("bedroom 2 lights", "Bedroom 2", "bedroom"),
            ("outside light 20W", "Outside", "outdoors"),
            ("sockets, studio", "Studio", "ordinary"),
            ("shower room light", "Shower room", "shower"),
        ):
            with self.subTest(text):
                room = read(text).room
                assert room is not None
                self.assertEqual((room.name, room.kind), (name, kind))
        self.assertIsNone(read("sockets 20m").room)

    def test_lengths_depths_and_what_is_near_them(self) -> None:
        self.assertEqual(read("lights 45ft", "na").length_m, 13.72)
        line = read("shed feed 20m buried 600mm deep")
        self.assertEqual((line.length_m, line.depth_mm, line.conductor), (20.0, 600.0, None))
        line = read("cooker 6mm 14m 500mm in insulation 35°C grouped 3")
        self.assertEqual((line.in_insulation_mm, line.ambient_c, line.circuits_grouped), (500.0, 35.0, 3))

    def test_local_switches_are_notes_and_their_fuse_is_not_the_rating(self) -> None:
        line = read("boiler FCU 3A 12m 16A")
        self.assertEqual((line.notes, line.device.rating_a), (["FCU 3A"], 16.0))
        self.assertEqual(read("shower 9.5kW 45A switch").notes, ["45A switch"])


class NothingLost(unittest.TestCase):
    """A token with a number or a unit is used, or shown."""

    TOKENS = ("B32", "6mm", "14m", "9kW", "30mA", "6kA", "clipped", "t&e", "pf0.9", "35°C")

    def test_what_cannot_be_used_is_shown(self) -> None:
        for text, shown in (
            ("cooker 9q", "9q"),
            ("sockets 3kW", "3kW"),
            ("cooker 9kW 3kW", "3kW"),
            ("cooker 14m 20m", "20m"),
            ("cooker 6mm 4mm", "4mm"),
            ("cooker 0m", "0m"),
            ("cooker 900000W", "900000W"),
            ("generator 4kW", "generator"),
            ("9999 lights", "9999"),
            ("cooker 50mm insulation", "50mm"),
        ):
            with self.subTest(text):
                self.assertIn(shown, [token.text for token in read(text).unused])

    def test_a_name_is_made_of_words_alone(self) -> None:
        for text, name in (
            ("cooker B32 6mm 14m 9kW", "cooker"),
            ("10 downlights 5W 1.5mm loft 20m", "downlights"),
            ("kitchen sockets ring 60m B32", "kitchen sockets ring"),
            ("granny's annexe lights 6W", "granny's annexe lights"),
        ):
            with self.subTest(text):
                self.assertEqual(read(text).name, name)

    @settings(max_examples=60, deadline=None)
    @given(st.permutations([*TOKENS, "cooker"]))
    def test_order_does_not_matter(self, tokens: list[str]) -> None:
        line, usual = read(" ".join(tokens)), read(" ".join(["cooker", *self.TOKENS]))
        for name in (
            "name",
            "device",
            "conductor",
            "length_m",
            "cable",
            "method",
            "power_factor",
            "ambient_c",
            "unused",
        ):
            self.assertEqual(getattr(line, name), getattr(usual, name), (name, tokens))
        self.assertEqual([load.power_w for load in line.loads], [9000.0])

    @settings(max_examples=120, deadline=None)
    @given(
        st.lists(st.sampled_from([*TOKENS, "sockets", "lights", "7x", "99", "12/2", "ring", "L2", "spare"]), max_size=6)
    )
    def test_every_number_is_in_a_field_or_reported(self, tokens: list[str]) -> None:
        for rules in ("uk", "na"):
            line = read(" ".join(tokens), rules)
            self.assertFalse([word for word in line.name.split() if any(sign.isdigit() for sign in word)], tokens)


class Ways(unittest.TestCase):
    """Lines of a survey."""

    def test_old_devices_and_sizes(self) -> None:
        for rules, text, kind, old, area in (
            ("uk", "7 mcb 30 type 2 4mm shower", "mcb", "2", 4.0),
            ("uk", "1 fuse 30 6mm cooker", "fuse-bs3036", None, 6.0),
            ("uk", "2 cartridge 30 7/.044 cooker", "fuse-bs1361", None, 6.0),
            ("uk", "3 rewirable 15 3/.029 immersion", "fuse-bs3036", None, 1.0),
            ("anz", "1 fuse 15 2.5mm power front", "rewirable", None, 2.5),
            ("za", "1 fuse 30 6mm stove", "rewirable", None, 6.0),
            ("iec-de", "5 L16 1.5mm Licht", "mcb", "L", 1.5),
            ("iec-de", "1 fuse 16 1.5mm kitchen sockets", "fuse-gg", None, 1.5),
            ("na", "1 fuse 15 14AWG bedroom outlets", "plug-fuse", None, 2.08),
        ):
            with self.subTest(text):
                line = read(text, rules, kind="way")
                assert line.conductor is not None
                self.assertEqual((line.device.kind, line.device.old_type), (kind, old))
                self.assertEqual((line.conductor.area_mm2, line.unused, line.number), (area, [], int(text[0])))


class Vocabulary(unittest.TestCase):
    """Every word of every standard is read as what it says."""

    def test_each_word_alone_names_its_load(self) -> None:
        for rules in standard_ids():
            words = [word for word in _words(rules) if word.kind]
            self.assertGreater(len(words), 100, rules)
            for word in words:
                line = read(f"{word.text} 20m", rules)
                loads = [found.load for found in line.loads]
                self.assertIn(word.load or None, loads, (rules, word.text))
                self.assertEqual(line.unused, [], (rules, word.text))

    def test_each_setting_names_something_the_standard_has(self) -> None:
        for rules in standard_ids():
            standard = rule_set(rules)
            for word in _words(rules):
                if "cable" in word.sets:
                    self.assertIn(word.sets["cable"], standard.cables.kinds, (rules, word.text))
                if "method" in word.sets:
                    self.assertIn(word.sets["method"], standard.factors.methods, (rules, word.text))
                if "use" in word.sets:
                    self.assertIn(word.sets["use"], standard.uses, (rules, word.text))


def _words(rules: str) -> Any:
    from vivid_lattice.core.rules.customary import customary

    return customary(rules).words.values()


class Permutations(unittest.TestCase):
    """The example of the trade in each order of its parts."""

    def test_cooker_in_every_order(self) -> None:
        for parts in itertools.permutations(("cooker", "B32", "6mm", "14m", "9kW")):
            line = read(" ".join(parts))
            assert line.conductor is not None
            got = (line.name, line.device.curve, line.device.rating_a, line.conductor.area_mm2, line.length_m)
            self.assertEqual(got, ("cooker", "B", 32.0, 6.0, 14.0), parts)


if __name__ == "__main__":
    unittest.main()
