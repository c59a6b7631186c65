"""The board as DXF and SVG: read back by ezdxf and by an XML parser, counted and measured against the board itself."""

from __future__ import annotations

import io
import unittest
from xml.etree import ElementTree

import ezdxf
from defusedxml.ElementTree import fromstring
from ezdxf import bbox, units

from tests.builders import circuit, job
from tests.core.board.made import packed
from tests.reports.reading import report_data
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.demo import DEMOS
from vivid_lattice.reports.catalogue import export
from vivid_lattice.reports.report_data import ReportData

SVG = "{http://www.w3.org/2000/svg}"


def drawn() -> list[tuple[ReportData, str]]:
    """Every board of every demo that can be drawn."""
    held = [report_data(name) for name in DEMOS]
    return [(one, board.id) for one in held for board in one.job.boards if one.view(board.id) is not None]


class Dxf(unittest.TestCase):
    """By ezdxf."""

    def test_every_device_screw_and_conductor_is_one_entity(self) -> None:
        self.assertGreater(len(drawn()), 8)
        for held, board in drawn():
            view = held.view(board)
            assert view is not None
            with self.subTest(held.job.job.title, board=board):
                read = ezdxf.read(io.StringIO(export(held, "dxf", board).content.decode()))
                self.assertEqual(read.units, units.MM)
                self.assertFalse(read.audit().has_errors)
                space = read.modelspace()
                on = {
                    layer: [one for one in space if one.dxf.layer == layer]
                    for layer in ("DEVICES", "BARS", "CONDUCTORS")
                }
                boxes = [one for one in on["DEVICES"] if one.dxftype() == "LWPOLYLINE"]
                self.assertEqual(len(boxes), len(view.units))
                self.assertEqual(
                    sum(one.dxftype() == "CIRCLE" for one in on["BARS"]), sum(len(bar.screws) for bar in view.bars)
                )
                self.assertEqual(len(on["CONDUCTORS"]), sum(len(one.corners) > 1 for one in view.conductors))

    def test_it_is_to_scale_in_millimetres(self) -> None:
        for held, board in drawn():
            view = held.view(board)
            assert view is not None
            read = ezdxf.read(io.StringIO(export(held, "dxf", board).content.decode()))
            frame = bbox.extents(one for one in read.modelspace() if one.dxf.layer == "ENCLOSURE")
            self.assertAlmostEqual(frame.size.x, view.width_mm, places=6)
            self.assertAlmostEqual(frame.size.y, view.height_mm, places=6)

    def test_a_single_pole_device_is_a_module_wide(self) -> None:
        held = report_data(packed(job(circuit(name="Lamp\nline"))))
        read = ezdxf.read(io.StringIO(export(held, "dxf").content.decode()))
        boxes = [bbox.extents([one]).size.x for one in read.modelspace().query('LWPOLYLINE[layer=="DEVICES"]')]
        # Drawn 0.4 mm in from either side, so that neighbours are told apart.
        self.assertTrue(any(abs(wide - 17.2) < 1e-6 for wide in boxes), boxes)

    def test_a_board_with_nothing_to_draw_says_so(self) -> None:
        for kind in ("dxf", "svg"):
            self.assertRaisesRegex(BadDocument, "No enclosure chosen", export, report_data(job()), kind)


class Svg(unittest.TestCase):
    """By an XML parser."""

    def elements(self, held: ReportData, board: str) -> ElementTree.Element:
        found: ElementTree.Element = fromstring(export(held, "svg", board).content)
        return found

    def test_a_millimetre_is_a_millimetre(self) -> None:
        for held, board in drawn():
            view, root = held.view(board), self.elements(held, board)
            assert view is not None
            left, top, wide, high = (float(part) for part in root.attrib["viewBox"].split())
            self.assertEqual((root.attrib["width"], root.attrib["height"]), (f"{wide:g}mm", f"{high:g}mm"))
            self.assertAlmostEqual(wide, view.width_mm - 2 * left, places=2)
            self.assertAlmostEqual(high, view.height_mm - 2 * top, places=2)

    def test_everything_is_there_and_nothing_runs(self) -> None:
        for held, board in drawn():
            view, root = held.view(board), self.elements(held, board)
            assert view is not None
            groups = {group.attrib["id"]: list(group) for group in root.iter(f"{SVG}g")}
            self.assertEqual(len([one for one in groups["devices"] if one.tag == f"{SVG}rect"]), len(view.units))
            self.assertEqual(len(groups["conductors"]), sum(len(one.corners) > 1 for one in view.conductors))
            self.assertFalse(list(root.iter(f"{SVG}script")))
            texts = {one.text for one in root.iter(f"{SVG}text")}
            for unit in view.units:
                self.assertTrue(any(str(unit.name) in (text or "") for text in texts), unit.name)

    def test_a_name_with_markup_stays_a_name(self) -> None:
        held = report_data(packed(job(circuit(name='<script>alert("x")</script>&'))))
        root = self.elements(held, "main")
        self.assertFalse(list(root.iter(f"{SVG}script")))
        self.assertTrue(any('alert("x")' in (one.text or "") for one in root.iter(f"{SVG}text")))


if __name__ == "__main__":
    unittest.main()
