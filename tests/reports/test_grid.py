"""Tables on paper: everything that is put in comes out, however it is broken over pages."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import job
from tests.reports.reading import pages, plain, report_data, whole
from vivid_lattice.reports.fonts import REGULAR, printable, register, width_pt, wrapped
from vivid_lattice.reports.grid import Column, Grid, Row
from vivid_lattice.reports.sheet import Boxed, Heading, Text, paper


def made(*story: object) -> bytes:
    return paper(report_data(job()), "Test", story).content  # type: ignore[arg-type]


class Breaking(unittest.TestCase):
    """Over pages."""

    def test_rows_of_any_height_come_out_whole_and_in_order(self) -> None:
        for words in (1, 40, 900, 4000):
            rows = [Row([f"start{n}", " ".join(f"w{n}x{m}" for m in range(words)), f"end{n}"]) for n in range(3)]
            text = whole(
                made(Grid([Column(head="A", share=1), Column(head="B", share=3), Column(head="C", share=1)], rows))
            )
            for number in range(3):
                for word in (f"start{number}", f"w{number}x0", f"w{number}x{words - 1}", f"end{number}"):
                    self.assertEqual(text.count(word) >= 1, True, (words, word))

    def test_a_heading_stays_with_its_rows_however_tall_they_are(self) -> None:
        tall = " ".join(f"w{m}" for m in range(4000))
        rows = [Row(["Heading", ""], band=True), Row(["x", tall]), Row(["Second", ""], band=True), Row(["y", tall])]
        found = pages(made(Grid([Column(head="A", share=1), Column(head="B", share=3)], rows)))
        self.assertLess(len(found), 40)
        [second] = [page for page in found if "Second" in page]
        self.assertIn("y", second[second.index("Second") :])

    def test_headings_alone_do_not_go_on_for_ever(self) -> None:
        self.assertLess(
            len(pages(made(Grid([Column(head="A", share=1)], [Row([f"B{n}"], band=True) for n in range(200)])))), 12
        )

    def test_the_head_stands_on_every_page(self) -> None:
        found = pages(made(Grid([Column(head="HeadOfIt", share=1)], [Row([f"row {n}"]) for n in range(300)])))
        self.assertGreater(len(found), 4)
        self.assertTrue(all("HeadOfIt" in page for page in found))

    def test_boxes_and_paragraphs_go_on_over_the_page(self) -> None:
        lines = [f"line{n} " + "word " * 30 for n in range(200)]
        text = whole(made(Heading("H"), Boxed("Box", lines), Text(" ".join(f"t{n}" for n in range(5000)))))
        for word in ("line0", "line199", "t0", "t4999"):
            self.assertIn(word, text)


class Lines(unittest.TestCase):
    """Text in lines."""

    @settings(max_examples=150, deadline=None)
    @given(st.text(st.characters(min_codepoint=32, max_codepoint=0x24F), max_size=120), st.floats(20, 400))
    def test_every_line_fits_and_nothing_is_lost(self, text: str, room: float) -> None:
        register()
        lines = wrapped(text, REGULAR, 8.0, room)
        self.assertEqual(plain("".join(lines)), plain(printable(text)))
        for line in lines:
            self.assertTrue(len(line.strip()) <= 1 or width_pt(line.strip(), REGULAR, 8.0) <= room + 1e-6, line)

    def test_what_cannot_be_drawn_is_seen_to_be_missing(self) -> None:
        self.assertEqual(printable("窯 Ω √ – → ✓ Жλ"), "▯ Ω √ – → ✓ Жλ")
        self.assertEqual(printable("a\u202eb\x07c\tд"), "abc д")


if __name__ == "__main__":
    unittest.main()
