"""Floor plans from DXF drawings: our own drawing read back, walls as single and double lines, doors as gaps, and files that are none."""

from __future__ import annotations

import io
import unittest

import ezdxf
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.plan.test_typed_plan import shape_of, typed
from tests.reports.reading import report_data
from vivid_lattice.imports.floor_plan import read_floor_plan
from vivid_lattice.imports.floor_plan_in_job import with_floor_plan
from vivid_lattice.imports.refusal import ImportRefused
from vivid_lattice.reports.catalogue import export

Line = tuple[tuple[float, float], tuple[float, float]]


def dxf(lines: list[Line], texts: dict[str, tuple[float, float]] | None = None, units: int = 6) -> bytes:
    drawing = ezdxf.new()
    drawing.header["$INSUNITS"] = units
    space = drawing.modelspace()
    for a, b in lines:
        space.add_line(a, b, dxfattribs={"layer": "A-WALL"})
    for text, at in (texts or {}).items():
        space.add_text(text, dxfattribs={"insert": at})
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode()


def around(x0: float, y0: float, x1: float, y1: float) -> list[Line]:
    corners = [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
    return [(corners[n], corners[(n + 1) % 4]) for n in range(4)]


class ReadBack(unittest.TestCase):
    def test_our_own_drawing_gives_the_rooms_that_were_typed(self) -> None:
        """Exported in full size and read back: name, place and measures, an L too."""
        job = typed(
            "kitchen 4.2 x 3.6 door left", "hall 1.2 x 5 left of kitchen", "study 3 x 3.2 less 1 x 1.2 back right behind kitchen",
        )  # fmt: skip
        raw = export(report_data(job), "plan-dxf").content
        [layer] = [each for each in read_floor_plan(raw) if each.name == "WALLS"]
        back = with_floor_plan(typed(), layer, 0)
        self.assertEqual({room.name for room in layer.rooms}, {"Kitchen", "Hall", "Study"})
        self.assertTrue(all(room.exact for room in layer.rooms))
        left = min(shape.x_m for shape in job.plan.rooms)
        for room in ("kitchen", "hall", "study"):
            was, now = shape_of(job, room), shape_of(back, room)
            self.assertAlmostEqual(now.width_m, was.width_m, delta=0.03)
            self.assertAlmostEqual(now.depth_m, was.depth_m, delta=0.03)
            self.assertAlmostEqual(now.x_m, was.x_m - left, delta=0.03)
            self.assertEqual(now.notch and now.notch.corner, was.notch and was.notch.corner)


class Walls(unittest.TestCase):
    def test_a_door_is_a_gap_in_a_wall(self) -> None:
        lines = [*around(0, 0, 4, 3)[1:], ((0.0, 0.0), (1.2, 0.0)), ((2.1, 0.0), (4.0, 0.0))]
        [layer] = read_floor_plan(dxf(lines, {"Study": (2, 2)}))
        [room] = layer.rooms
        [door] = room.doors
        self.assertEqual((room.name, door.wall), ("Study", "front"))
        self.assertAlmostEqual(door.from_m, 1.2, delta=0.02)
        self.assertAlmostEqual(door.width_m, 0.9, delta=0.02)

    def test_the_inside_of_a_wall_of_two_lines_is_no_room(self) -> None:
        inner, outer = around(0, 0, 4, 3), around(-0.3, -0.3, 4.3, 3.3)
        [layer] = read_floor_plan(dxf([*inner, *outer]))
        self.assertEqual([(room.width_m, room.depth_m) for room in layer.rooms if room.exact], [(4.0, 3.0)])

    def test_units_as_stated_or_by_the_size_of_a_house(self) -> None:
        for units, scale in ((4, 1000.0), (5, 100.0), (6, 1.0), (0, 1000.0), (0, 1.0)):
            lines = [((a[0] * scale, a[1] * scale), (b[0] * scale, b[1] * scale)) for a, b in around(0, 0, 12, 3)]
            [layer] = read_floor_plan(dxf(lines, units=units))
            self.assertAlmostEqual(layer.rooms[0].width_m, 12.0, delta=0.03, msg=str((units, scale)))

    def test_a_room_of_another_shape_is_its_outer_rectangle_and_that_is_said(self) -> None:
        [layer] = read_floor_plan(dxf([((0, 0), (5, 0)), ((5, 0), (2.5, 4)), ((2.5, 4), (0, 0))]))
        [room] = layer.rooms
        self.assertEqual((room.width_m, room.depth_m, room.exact), (5.0, 4.0, False))

    @settings(max_examples=25, deadline=None)
    @given(st.lists(st.tuples(st.integers(10, 60), st.integers(10, 60)), min_size=1, max_size=5))
    def test_rooms_in_a_row(self, sizes: list[tuple[int, int]]) -> None:
        lines: list[Line] = []
        at = 0.0
        for wide, deep in sizes:
            lines += around(at, 0, at + wide / 10, deep / 10)
            at += wide / 10
        [layer] = read_floor_plan(dxf(lines))
        found = sorted((room.x_m, room.width_m, room.depth_m) for room in layer.rooms)
        self.assertEqual(len(found), len(sizes))
        for (_, wide, deep), size in zip(found, sizes, strict=True):
            self.assertAlmostEqual(wide, size[0] / 10, delta=0.03)
            self.assertAlmostEqual(deep, size[1] / 10, delta=0.03)


class Refused(unittest.TestCase):
    def test_files_that_are_no_drawing_or_have_no_room(self) -> None:
        for raw, why in (
            (b"", "not a DXF"), (b"%PDF-1.7", "not a DXF"), (b"\x00\xff" * 500, "not a DXF"), (b"0\nSECTION\n", "not a DXF"),
            (dxf([((0, 0), (4, 0))]), "enclose"), (dxf([]), "enclose"), (b"x" * (13 * 1024 * 1024), "larger"),
        ):  # fmt: skip
            with self.subTest(raw[:12]), self.assertRaises(ImportRefused) as refused:
                read_floor_plan(raw)
            self.assertIn(why, str(refused.exception))


if __name__ == "__main__":
    unittest.main()
