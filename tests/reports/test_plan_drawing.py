"""The plan as DXF and SVG: read back by ezdxf and by an XML parser, counted and measured against the plan itself."""

from __future__ import annotations

import io
import unittest
from dataclasses import replace

import ezdxf
from defusedxml.ElementTree import fromstring
from ezdxf import bbox, units

from tests.core.plan.test_typed_plan import typed
from tests.reports.reading import plain, report_data, whole
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.plan.drawing import drawing_of
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.rules import rule_set
from vivid_lattice.reports.catalogue import export
from vivid_lattice.reports.report_data import ReportData

SVG = "{http://www.w3.org/2000/svg}"
HOUSE = (
    "kitchen 4.2 x 3.6 h 2.4 door left 0.8 at 1.2 window back 1.4 at 1.2", "hall 1.2 x 5 left of kitchen door front 0.9 at 0.1",
    "study 4 x 3 less 1 x 1 back right right of kitchen door left", "landing 3 x 2 above hall", "board hall left at 0.5",
    "6 double sockets kitchen worktop", "cooker kitchen right at 1.9", "2 way light hall landing", "6 downlights kitchen",
    "smoke alarm landing", "fan kitchen", "data study", "junction box study",
)  # fmt: skip


def data_of(*lines: str) -> ReportData:
    return report_data(typed(*lines))


def read_back(data: ReportData) -> ezdxf.document.Drawing:
    return ezdxf.read(io.StringIO(export(data, "plan-dxf").content.decode()))


class Dxf(unittest.TestCase):
    def test_every_wall_opening_and_section_is_one_polyline(self) -> None:
        data = data_of(*HOUSE)
        rules = rule_set("uk")
        drawing = drawing_of(data.job, house_plan(data.job, rules), rules)
        read = read_back(data)
        self.assertEqual(read.units, units.MM)
        self.assertFalse(read.audit().has_errors)
        counts = {layer: len(read.modelspace().query(f'LWPOLYLINE[layer=="{layer}"]')) for layer in ("WALLS", "OPENINGS", "ROUTES")}  # fmt: skip
        openings = sum(len(room.openings) for room in drawing.rooms)
        self.assertEqual(counts, {"WALLS": 4, "OPENINGS": openings, "ROUTES": len(drawing.sections)})
        self.assertGreater(len(drawing.sections), 10)

    def test_rooms_are_in_full_size_and_floors_beside_each_other(self) -> None:
        """4.2 × 3.6 m is 4200 × 3600 mm; the landing, over the hall, is a house and a gap further right."""
        walls = [
            bbox.extents([one]) for one in read_back(data_of(*HOUSE)).modelspace().query('LWPOLYLINE[layer=="WALLS"]')
        ]
        self.assertEqual([(round(one.size.x), round(one.size.y)) for one in walls[:3]], [(4200, 3600), (1200, 5000), (4000, 3000)])  # fmt: skip
        house_mm = 1200 + 4200 + 4000
        self.assertAlmostEqual(walls[3].extmin.x - walls[1].extmin.x, house_mm + 1500, delta=1)

    def test_a_wall_symbol_points_into_its_room(self) -> None:
        for wall, (dx, dy) in {"left": (1, 0), "right": (-1, 0), "back": (0, -1), "front": (0, 1)}.items():
            space = read_back(data_of("kitchen 4 x 3", f"socket kitchen {wall} at 1.5")).modelspace()
            room = bbox.extents(space.query('LWPOLYLINE[layer=="WALLS"]'))
            symbol = bbox.extents(space.query('LWPOLYLINE[layer=="POINTS"]'))
            with self.subTest(wall):
                self.assertGreater(dx * (symbol.center.x - {1: room.extmin.x, -1: room.extmax.x}.get(dx, 0)) + dy * (
                    symbol.center.y - {1: room.extmin.y, -1: room.extmax.y}.get(dy, 0)), 100)  # fmt: skip
                self.assertGreaterEqual(symbol.extmin.x, room.extmin.x - 1)
                self.assertLessEqual(symbol.extmax.y, room.extmax.y + 1)

    def test_names_of_rooms_and_floors_are_there(self) -> None:
        texts = {text.dxf.text for text in read_back(data_of(*HOUSE)).modelspace().query("TEXT")}
        self.assertLessEqual({"Kitchen", "Hall", "Study", "Landing", "Ground floor", "Floor 1"}, texts)

    def test_a_name_with_control_characters_or_lines_does_no_harm(self) -> None:
        data = data_of("kitchen 4 x 3")
        rooms = tuple(room.model_copy(update={"name": "Kiln <room> & “shed” äöü"}) for room in data.job.rooms)
        data = replace(data, job=data.job.model_copy(update={"rooms": rooms}))
        self.assertFalse(read_back(data).audit().has_errors)
        fromstring(export(data, "plan-svg").content.decode())


class Svg(unittest.TestCase):
    def test_it_is_one_to_fifty_with_the_same_shapes(self) -> None:
        data = data_of("kitchen 4 x 3 door left", "board kitchen left at 0.2", "4 sockets kitchen")
        root = fromstring(export(data, "plan-svg").content.decode())
        _, _, wide, _ = (float(each) for each in root.attrib["viewBox"].split())
        self.assertAlmostEqual(float(root.attrib["width"].removesuffix("mm")) * 50, wide, places=3)
        self.assertAlmostEqual(wide, 4000 + 2 * 400)
        for layer in ("walls", "openings", "routes", "points"):
            in_dxf = len(read_back(data).modelspace().query(f'LWPOLYLINE[layer=="{layer.upper()}"]'))
            group = next(each for each in root.iter(f"{SVG}g") if each.attrib["id"] == layer)
            self.assertEqual(len(list(group.iter(f"{SVG}polyline"))), in_dxf, layer)
            self.assertGreater(in_dxf, 0)


class Paper(unittest.TestCase):
    def test_every_floor_is_at_a_scale_and_every_cable_is_listed(self) -> None:
        data = data_of(*HOUSE)
        made = export(data, "plan")
        plan = house_plan(data.job, rule_set("uk"))
        text = whole(made.content)
        for wanted in ("Ground floor", "Floor 1", "1:50"):
            self.assertIn(plain(wanted), text)
        pieces = [section.piece_m for circuit in plan.circuits for section in circuit.sections]
        for piece in pieces:
            self.assertIn(f"{piece:.2f}", text)
        self.assertGreaterEqual(made.pages, 3)

    def test_a_large_house_takes_a_smaller_scale(self) -> None:
        self.assertIn("1:200", whole(export(data_of("barn 40 x 25"), "plan").content))


class Nothing(unittest.TestCase):
    def test_without_rooms_it_says_what_to_do(self) -> None:
        for kind in ("plan-dxf", "plan-svg", "plan"):
            with self.assertRaises(BadDocument) as caught:
                export(data_of(), kind)
            self.assertIn("Type one under Routes", str(caught.exception))


if __name__ == "__main__":
    unittest.main()
