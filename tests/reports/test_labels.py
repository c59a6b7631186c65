"""Label strips measured in the PDF: a module is 18 mm wide on paper."""

from __future__ import annotations

import unittest

from tests.builders import circuit, job
from tests.core.board.made import packed
from tests.reports.reading import outlines, pages, plain, report_data, sizes_mm, whole
from vivid_lattice.core.board.layout.rail_positions import MODULE_MM, SPACE_MM
from vivid_lattice.demo import demo_job
from vivid_lattice.reports.catalogue import export
from vivid_lattice.reports.sheets.label_strips import STRIP_MM, strips_of

#: What a strip may be off by and still go into its place [mm].
EXACT_MM = 0.2
_STROKE_MM = 0.3 * 25.4 / 72


class Measured(unittest.TestCase):
    """Widths on paper against widths of devices (DIN 43880: 18 mm a module, from memory)."""

    def labels_on_paper(self, name: str) -> list[float]:
        made = export(report_data(name), "labels")
        found = [one for number in range(made.pages) for one in outlines(made.content, number)]
        return [one.width - _STROKE_MM for one in found if abs(one.height - STRIP_MM - _STROKE_MM) < EXACT_MM]

    def test_every_label_is_as_wide_as_its_device(self) -> None:
        for name in ("millrace", "keepers-house", "organ-loft"):
            held = report_data(name)
            wanted = [label.wide_mm for board in held.job.boards for row in strips_of(held, board) for label in row]
            found = self.labels_on_paper(name)
            with self.subTest(name):
                self.assertAlmostEqual(sum(found), sum(wanted), delta=EXACT_MM * len(found))
                named = [
                    label.wide_mm
                    for board in held.job.boards
                    for row in strips_of(held, board)
                    for label in row
                    if label.text
                ]
                for wide in named:
                    self.assertTrue(any(abs(one - wide) < EXACT_MM for one in found), (wide, found))

    def test_a_device_of_one_module_is_eighteen_millimetres(self) -> None:
        found = self.labels_on_paper("millrace")
        self.assertGreaterEqual(sum(abs(wide - 18.0) < EXACT_MM for wide in found), 13)

    def test_the_line_to_measure_by_is_a_hundred_millimetres(self) -> None:
        lines = outlines(export(report_data(), "labels").content, 0)
        self.assertTrue(any(abs(one.width - 100.0) < 0.5 and one.height < 1 for one in lines))

    def test_a_row_wider_than_a_page_is_cut_between_labels_only(self) -> None:
        held = report_data(packed(job(*(circuit(id=f"c{n}", name=f"Circuit {n}") for n in range(30)))))
        made = export(held, "labels")
        self.assertEqual(sizes_mm(made.content), {(297, 210)})
        found = [one for number in range(made.pages) for one in outlines(made.content, number)]
        strips = [one for one in found if abs(one.height - STRIP_MM - _STROKE_MM) < EXACT_MM]
        self.assertTrue(all(one.x >= 14.5 and one.x + one.width <= 297 - 14.5 for one in strips))
        self.assertEqual(sum(abs(one.width - _STROKE_MM - MODULE_MM) < EXACT_MM for one in strips), 30)
        text = whole(made.content)
        for number in range(30):
            self.assertIn(plain(f"Circuit {number}"), text)

    def test_a_panel_has_labels_as_high_as_its_spaces(self) -> None:
        held = report_data(packed(demo_job("keepers-house")))
        board = held.job.boards[0]
        steps = {label.wide_mm / SPACE_MM for row in strips_of(held, board) for label in row if label.number}
        self.assertTrue(all(step == int(step) and step >= 1 for step in steps), steps)

    def test_a_board_without_a_layout_says_in_which_order_its_labels_stand(self) -> None:
        text = " ".join(pages(export(report_data(job()), "labels").content))
        self.assertIn("No layout yet", text)


if __name__ == "__main__":
    unittest.main()
