"""Points and what is fixed in a room: typed, kept clear of, proposed; worktops, halls and basins of the North American rules."""

from __future__ import annotations

import itertools
import unittest

from tests.core.plan.test_typed_plan import of_kind, shape_of, typed
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import FloorBuild
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.plan.clearances import barred, too_near
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.plan.proposals import proposals
from vivid_lattice.core.plan.remarks import remarks
from vivid_lattice.core.plan.spacing import WallSpace, counter_spaces, least_sockets, spacing_gaps
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.rule_data import load

INCH_M = 0.0254


def house(*lines: str, standard: str = "uk") -> Job:
    circuits = {"na": ("kitchen outlets 20A",), "anz": ("power points",), "uk": ("sockets ring",)}.get(
        standard, ("sockets 20m",)
    )
    return typed(*lines, circuits=circuits, standard=standard)


class Fixtures(unittest.TestCase):
    def test_of_the_usual_size_in_the_middle_or_as_stated(self) -> None:
        job = house(
            "kitchen 4 x 3", "sink kitchen back", "worktop kitchen back at 0 width 3.2", "cooktop kitchen left at 1"
        )
        sink, top, hob = shape_of(job, "kitchen").fixtures
        self.assertEqual(
            (sink.kind, sink.wall, sink.from_m, sink.width_m, sink.depth_m), ("sink", "back", 1.6, 0.8, 0.5)
        )
        self.assertEqual((top.kind, top.from_m, top.width_m, top.depth_m), ("worktop", 0.0, 3.2, 0.6))
        self.assertEqual((hob.kind, hob.wall, hob.from_m), ("hob", "left", 1.0))
        moved = enter_plan_line(job, "sink kitchen back at 0.4")
        self.assertEqual([each.from_m for each in shape_of(moved, "kitchen").fixtures if each.kind == "sink"], [0.4])

    def test_they_stay_when_the_room_is_measured_again(self) -> None:
        job = enter_plan_line(house("kitchen 4 x 3", "sink kitchen back"), "kitchen 4.2 x 3")
        self.assertEqual([each.kind for each in shape_of(job, "kitchen").fixtures], ["sink"])

    def test_what_is_refused_says_why(self) -> None:
        job = house("kitchen 4 x 3")
        for line, why in (
            ("sink kitchen", "wall"), ("sink kitchen back at 3.5", "4.30"), ("bath garage left", "room of the plan"),
            ("kitchen 4 x 3 door front 0.8 at 3.5", "4.30"), ("first floor insulation thick", "insulation thick"),
            ("socket kitchen with the switch", "no switch"), ("kitchen 4 x 3 h 0.2", "height 0.2: more than 1"),
            ("kitchen 900 x 3", "width 900.0: 200 at most"), ("ground floor thickness 9", "thickness 9.0: 2 at most"),
        ):  # fmt: skip
            with self.subTest(line), self.assertRaises(EntryNotUnderstood) as refused:
                enter_plan_line(job, line)
            self.assertIn(why, str(refused.exception))

    def test_how_a_floor_is_built(self) -> None:
        job = house(
            "kitchen 4 x 3", "ground floor void 0.2 joists across", "floor 1 above loft insulation 270 mm thickness 0.3"
        )
        self.assertEqual(
            job.plan.floors,
            (
                FloorBuild(level=0, void_m=0.2, joists="x"),
                FloorBuild(level=1, thickness_m=0.3, above="loft", insulation_mm=270.0),
            ),
        )
        job = enter_plan_line(job, "ground floor insulation none")
        self.assertEqual(job.plan.floors[0], FloorBuild(level=0, void_m=0.2, joists="x", insulation_mm=0.0))
        self.assertIsNone(job.plan.apart)
        self.assertEqual(
            [enter_plan_line(job, f"cables {how}").plan.apart for how in ("apart", "together")], [True, False]
        )


class FirstFloor(unittest.TestCase):
    def test_it_is_on_the_ground_in_north_america_and_above_it_elsewhere(self) -> None:
        """Common practice, no source."""
        for standard, level in (("na", 0), ("uk", 1), ("iec", 1), ("anz", 1), ("za", 1)):
            job = house("kitchen 4 x 3", "first floor void 0.2", standard=standard)
            self.assertEqual([floor.level for floor in job.plan.floors], [level], standard)

    def test_circuits_go_by_it_too(self) -> None:
        lines = ("kitchen 4 x 3", "bedroom 4 x 3 above kitchen", "2 receptacles bedroom")
        job = typed(*lines, circuits=("first floor outlets 20A", "second floor outlets 20A"), standard="na")
        names = {circuit.id: circuit.name for circuit in job.circuits}
        self.assertEqual({names[point.circuit or ""] for point in of_kind(job, "socket")}, {"Second floor outlets"})


class KeptClear(unittest.TestCase):
    def test_a_cooking_surface(self) -> None:
        """anz.runs.ex.cooktop: barred from 1.05 to 1.95 m; at 1.00 and 2.00 m allowed, at 1.10 and 1.50 m not."""
        job = house("kitchen 4 x 3", "cooktop kitchen back at 1.2 width 0.6", standard="anz")
        [(low, high)] = barred(shape_of(job, "kitchen"), "back", "socket", 1.1, rule_set("anz").plan)
        self.assertAlmostEqual(low, 1.05)
        self.assertAlmostEqual(high, 1.95)
        for at, allowed in ((1.0, True), (1.1, False), (1.5, False), (2.0, True)):
            placed = enter_plan_line(job, f"socket kitchen worktop back at {at}")
            self.assertEqual(not too_near(placed, rule_set("anz")), allowed, at)

    def test_a_sink_at_and_under_300_mm(self) -> None:
        """uk.accessory.sink: 300 mm and more."""
        job = house("kitchen 4 x 3", "sink kitchen back at 1 width 0.8")
        for at, allowed in ((0.7, True), (0.71, False), (2.09, False), (2.1, True), (1.4, False)):
            placed = enter_plan_line(job, f"socket kitchen worktop back at {at}")
            self.assertEqual(not too_near(placed, rule_set("uk")), allowed, at)
        [near] = too_near(enter_plan_line(job, "socket kitchen worktop back at 2"), rule_set("uk"))
        self.assertIn("0.20 m from the sink; 0.30 m at least. On-Site Guide; practice", str(near.text))

    def test_a_bath_from_another_wall_and_over_a_hob(self) -> None:
        """BS 7671 701.512.3: sockets 2.5 m from zone 1. Over a hob nothing, beside it anything."""
        job = house("bathroom 4 x 3", "bath bathroom left at 0 width 1.7")
        near = enter_plan_line(job, "socket bathroom front at 3.1")
        self.assertEqual([round(each.distance_m, 2) for each in too_near(near, rule_set("uk"))], [2.4])
        self.assertEqual(too_near(enter_plan_line(job, "socket bathroom front at 3.3"), rule_set("uk")), ())
        hob = house("kitchen 4 x 3", "hob top kitchen back at 1 width 0.6")
        [over] = too_near(enter_plan_line(hob, "socket kitchen worktop back at 1.3"), rule_set("uk"))
        self.assertIn("over the hob", str(over.text))
        self.assertEqual(too_near(enter_plan_line(hob, "socket kitchen back at 1.3 h 0.45"), rule_set("uk")), ())

    def test_typed_points_go_where_they_may(self) -> None:
        lines = (
            "kitchen 4 x 3 door front",
            "worktop kitchen back at 0 width 4",
            "sink kitchen back at 1.6",
            "cooktop kitchen back at 3",
        )
        for standard in ("uk", "iec", "na", "anz", "za"):
            job = house(
                *lines,
                "board kitchen right at 1.5",
                "4 double sockets kitchen worktop",
                "4 double sockets kitchen",
                standard=standard,
            )
            with self.subTest(standard):
                self.assertEqual([str(each.text) for each in too_near(job, rule_set(standard))], [])
                above = [point for point in of_kind(job, "socket") if point.above_worktop]
                self.assertEqual({point.wall for point in above}, {"back"})
                sockets = [point for point in of_kind(job, "socket") if not point.above_worktop]
                by_the_board = [
                    point for point in sockets if point.wall == "right" and abs((point.along_m or 0) - 1.5) < 0.35
                ]
                self.assertEqual(by_the_board, [])

    def test_sockets_of_two_lines_are_not_in_one_place(self) -> None:
        job = house("study 4 x 3 door front", "4 sockets study", "4 sockets study")
        places = [(point.wall, point.along_m) for point in of_kind(job, "socket")]
        self.assertEqual(len(set(places)), 8)
        for wall in ("front", "right", "back", "left"):
            along = sorted(at or 0.0 for on, at in places if on == wall)
            self.assertTrue(all(b - a >= 0.19 for a, b in itertools.pairwise(along)), (wall, along))

    def test_sockets_keep_off_the_corners(self) -> None:
        job = house("study 4 x 3 door front", "7 sockets study")
        for point in of_kind(job, "socket"):
            length = 4.0 if point.wall in ("front", "back") else 3.0
            self.assertTrue(0.3 <= (point.along_m or 0.0) <= length - 0.3, point)


class Figures(unittest.TestCase):
    """Figures of the plan against the rules and tables that they are taken from."""

    def clear(self, standard: str, fixture: str, points: str) -> float:
        found = [
            each for each in rule_set(standard).plan.clearances if (each.fixture, each.points) == (fixture, points)
        ]
        [one] = found
        return one.sideways_m

    def test_clearances(self) -> None:
        """uk.bathroom.sockets, NEC 406.9(C) in feet, zone 2 of IEC 60364-7-701 and of the British zones."""
        away = load("uk").rule("uk.bathroom.sockets").params["distance_m"]
        self.assertEqual(self.clear("uk", "bath", "socket"), away)
        self.assertEqual(self.clear("uk", "shower-tray", "socket"), away)
        self.assertAlmostEqual(self.clear("na", "bath", "socket") / 0.3048, 3.0)
        for standard, points in (
            ("uk", "switch"),
            ("iec", "socket"),
            ("iec", "switch"),
            ("za", "socket"),
            ("anz", "socket"),
        ):
            self.assertEqual(self.clear(standard, "bath", points), 0.6, standard)

    def test_methods_by_place_have_ratings_for_the_cable_that_is_laid(self) -> None:
        for standard, cable in (("uk", "flat-twin-pvc"), ("iec", "sheathed-pvc")):
            rules = rule_set(standard)
            self.assertLessEqual(rules.plan.methods_told_apart, set(rules.cables.kind(cable).methods))

    def test_insulation_at_and_over_the_limit(self) -> None:
        """BS 7671 Table 4A2: 100 to 100 mm, 101 over it."""
        plan = rule_set("uk").plan
        found = [plan.method_of("ceiling", mm) for mm in (0.0, 0.5, 100.0, 100.5, 400.0)]
        self.assertEqual([each and each.method for each in found], ["C", "100", "100", "101", "101"])
        self.assertIsNone(plan.method_of("ceiling", None))
        self.assertIsNone(rule_set("na").plan.method_of("ceiling", 0.0))


class Worktops(unittest.TestCase):
    RULES = rule_set("na")

    def test_spaces_of_a_counter(self) -> None:
        """na.runs.ex.counter: 10, 30, 52 and 96 in need none, one, two and two."""
        spacing = self.RULES.plan.counter_spacing
        assert spacing is not None
        self.assertEqual([least_sockets(inches * INCH_M, spacing) for inches in (10, 30, 52, 96)], [0, 1, 2, 2])
        self.assertAlmostEqual(
            WallSpace(length_m=96 * INCH_M, sockets=(24 * INCH_M, 72 * INCH_M)).furthest_m, 24 * INCH_M
        )

    def test_a_worktop_is_broken_by_its_sink(self) -> None:
        job = house(
            "kitchen 4 x 3", "worktop kitchen back at 0 width 4", "sink kitchen back at 1.5 width 0.8", standard="na"
        )
        lengths = [round(space.length_m, 2) for space in counter_spaces(job, self.RULES, shape_of(job, "kitchen"))]
        self.assertEqual(lengths, [1.5, 1.7])
        [gap] = spacing_gaps(job, self.RULES)
        self.assertEqual((gap.needed, gap.present), (4, 0))
        self.assertIn("210.52(C)", str(gap.text))
        done = enter_plan_line(job, "4 double receptacles kitchen worktop")
        self.assertEqual([str(each.text) for each in spacing_gaps(done, self.RULES)], [])

    def test_halls_and_basins(self) -> None:
        """NEC 210.52(H): a hallway of 10 ft and longer. 210.52(D): within 3 ft of a basin."""
        for feet, wanted in ((9.99, 0), (10, 1)):
            job = house(f"hall {feet}ft x 4ft", standard="na")
            self.assertEqual(len(spacing_gaps(job, self.RULES)), wanted, feet)
        self.assertEqual(spacing_gaps(house("hall 12ft x 4ft", "receptacle hall", standard="na"), self.RULES), ())
        bath = house("bathroom 4 x 3", "basin bathroom back at 1 width 0.6", standard="na")
        self.assertIn("of the basin", str(spacing_gaps(bath, self.RULES)[0].text))
        for at, wanted in ((2.5, 0), (2.6, 1)):
            job = enter_plan_line(bath, f"receptacle bathroom back at {at}")
            self.assertEqual(len(spacing_gaps(job, self.RULES)), wanted, at)

    def test_other_standards_do_not_have_them(self) -> None:
        for standard in ("uk", "iec", "anz", "za"):
            job = house("hall 12ft x 4ft", "kitchen 4 x 3", "worktop kitchen back at 0 width 4", standard=standard)
            self.assertEqual(spacing_gaps(job, rule_set(standard)), ())


class Zones(unittest.TestCase):
    def test_a_cable_between_two_sockets_above_a_worktop_needs_a_middle_zone(self) -> None:
        """DIN 18015-3: the middle zone is of kitchens and rooms to work in."""
        rules = rule_set("iec")
        for room, wanted in (("bedroom", 1), ("kitchen", 0)):
            job = house(
                f"{room} 4 x 3 h 2.5", f"board {room} left at 0.4", f"socket {room} back at 1 h 1.15", f"socket {room} back at 2 h 1.15",
                standard="iec",
            )  # fmt: skip
            found = [str(each) for each in remarks(job, rules, house_plan(job, rules))]
            self.assertEqual(len(found), wanted, found)
            self.assertTrue(all("1.15 m" in each for each in found))

    def test_outside_the_house_is_told_once_a_circuit(self) -> None:
        job = house("barn 4 x 3", "shed 2 x 2 right of barn offset 0", "board barn left at 1")
        job = enter_plan_line(job, "store 2 x 2 behind shed offset 6")
        job = enter_plan_line(job, "2 sockets store")
        found = [str(each) for each in remarks(job, rule_set("uk"), house_plan(job, rule_set("uk")))]
        self.assertEqual(len(found), 1, found)
        self.assertIn("outside the house", found[0])


class Proposed(unittest.TestCase):
    def test_what_a_room_usually_has_can_be_typed_as_it_is(self) -> None:
        for standard in ("uk", "iec", "na", "anz", "za"):
            rules = rule_set(standard)
            job = house(
                "kitchen 4 x 3 door front", "hall 1.5 x 4 right of kitchen door left", "bathroom 2 x 3 right of hall door left",
                "bedroom 4 x 4 right of bathroom door left", standard=standard,
            )  # fmt: skip
            first = proposals(job, rules)
            self.assertEqual([each.room for each in first], ["kitchen", "hall", "bathroom", "bedroom"])
            for each in first:
                for line in each.lines:
                    job = enter_plan_line(job, line)
            self.assertEqual(proposals(job, rules), (), standard)
            self.assertFalse([p for p in of_kind(job, "socket") if p.room == "bathroom"])

    def test_no_fewer_than_the_guidance_and_the_rule_say(self) -> None:
        """uk.runs.sockets-per-room: a bedroom of 13 m² four, of 26 m² five; na.runs.ex.room: four along 45.5 ft."""
        for line, words in (("bedroom 4 x 3.2", "4 double sockets"), ("bedroom 6.5 x 4", "5 double sockets")):
            [proposal] = proposals(house(f"{line} door front"), rule_set("uk"))
            self.assertTrue(proposal.lines[0].startswith(words), proposal.lines)
        [bedroom] = proposals(house("bedroom 20ft x 20ft door front 2.5ft at 3ft", standard="na"), self.na)
        self.assertTrue(bedroom.lines[0].startswith("7 "), bedroom.lines)

    na = rule_set("na")


if __name__ == "__main__":
    unittest.main()
