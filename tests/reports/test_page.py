"""The page for reading: one file that stands alone, with every finding in it."""

from __future__ import annotations

import unittest
from html.parser import HTMLParser

from tests.builders import circuit, job
from tests.core.board.made import packed
from tests.reports.reading import plain, report_data
from vivid_lattice.core.document.job import JobInfo, Load
from vivid_lattice.demo import DEMOS
from vivid_lattice.reports.catalogue import export

VOID = {"meta", "br", "hr", "img", "input", "link"}


class Reader(HTMLParser):
    """Tags, attributes and text; complains of tags that are not closed in order."""

    def __init__(self, page: str):
        super().__init__(convert_charrefs=True)
        self.tags: list[tuple[str, dict[str, str | None]]] = []
        self.open: list[str] = []
        self.words: list[str] = []
        self.feed(page)
        self.close()

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append((tag, dict(attrs)))
        if tag not in VOID:
            self.open.append(tag)

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append((tag, dict(attrs)))

    def handle_endtag(self, tag: str) -> None:
        if not self.open or self.open.pop() != tag:
            raise AssertionError(f"</{tag}> closes nothing")

    def handle_data(self, data: str) -> None:
        self.words.append(data)


class Page(unittest.TestCase):
    """Of every demo."""

    def test_it_is_well_formed_and_fetches_and_runs_nothing(self) -> None:
        for name in DEMOS:
            read = Reader(export(report_data(name), "html").content.decode())
            with self.subTest(name):
                self.assertEqual(read.open, [])
                for tag, attributes in read.tags:
                    self.assertNotIn(tag, ("script", "iframe", "link", "object", "embed", "form"))
                    self.assertFalse([key for key in attributes if key.startswith("on")])
                    for key in ("src", "href", "action"):
                        value = attributes.get(key)
                        self.assertTrue(value is None or value.startswith("#"), (tag, value))
                [policy] = [one for tag, one in read.tags if one.get("http-equiv") == "Content-Security-Policy"]
                self.assertTrue((policy["content"] or "").startswith("default-src 'none'"))

    def test_every_finding_and_every_step_can_be_read(self) -> None:
        held = report_data("millrace")
        words = plain(" ".join(Reader(export(held, "html").content.decode()).words))
        for one in held.assessment.findings:
            if one.subject.kind != "board" or one.verdict != "not-applicable":
                self.assertIn(plain(str(one.sentence)), words)
            for step in one.working:
                self.assertIn(plain(f"{step.shown} {step.unit}"), words)
        for caution in held.assessment.cautions:
            self.assertIn(plain(caution), words)
        drawings = [one for tag, one in Reader(export(held, "html").content.decode()).tags if tag == "svg"]
        self.assertEqual(len(drawings), 2)

    def test_a_hostile_name_stays_text(self) -> None:
        name = '"><script>alert(1)</script><img src=x onerror=alert(2)>'
        made = packed(
            job(
                circuit(name=name, notes=name, loads=(Load(name=name, kind="heater", power_w=3000.0),)),
                job=JobInfo(title=name, client=name, site=name),
            )
        )
        read = Reader(export(report_data(made), "html").content.decode())
        self.assertFalse([tag for tag, attributes in read.tags if tag in ("script", "img") or "onerror" in attributes])
        self.assertIn("<script>alert(1)</script>", " ".join(read.words))


if __name__ == "__main__":
    unittest.main()
