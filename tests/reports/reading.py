"""PDFs read back by another library than the one that wrote them: text, lines and boxes, page by page."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

import pypdfium2
import pypdfium2.raw as raw

from vivid_lattice.core.bundle import BundledPhoto
from vivid_lattice.core.document.job import Job
from vivid_lattice.demo import demo_job
from vivid_lattice.reports.page_preview import ONE_AT_A_TIME
from vivid_lattice.reports.report_data import ReportData

WHEN = "2026-02-03T10:30:00"
SAVED = "2026-02-02T09:15:00.000+00:00"
_MM_PER_PT = 25.4 / 72


def report_data(job: Job | str = "millrace", photos: tuple[BundledPhoto, ...] = (), **more: object) -> ReportData:
    """A report_data of a job, or of a demo by its name."""
    made = demo_job(job) if isinstance(job, str) else job
    return ReportData(job=made, made_at=WHEN, revision=7, saved_at=SAVED, photos=photos, **more)  # type: ignore[arg-type]


@dataclass(frozen=True)
class Outline:
    """A stroked path on a page [mm]: its left edge, width and height."""

    x: float
    width: float
    height: float


@contextmanager
def opened(pdf: bytes) -> Iterator[pypdfium2.PdfDocument]:
    """The document; a server in another thread of this process may be making pictures of pages meanwhile."""
    with ONE_AT_A_TIME:
        document = pypdfium2.PdfDocument(pdf)
        try:
            yield document
        finally:
            document.close()


def pages(pdf: bytes) -> list[str]:
    """The text of each page; what was broken over lines is joined again."""
    with opened(pdf) as document:
        found = []
        for page in document:
            text = page.get_textpage()
            found.append(" ".join(text.get_text_range().split()))
            text.close()
        return found


def whole(pdf: bytes) -> str:
    """The text of all pages without blanks, so that where a line was broken does not matter."""
    return plain(" ".join(pages(pdf)))


def plain(text: str) -> str:
    """A text without blanks."""
    return "".join(text.replace("\u00a0", " ").replace("\u2010", "-").split())


def outlines(pdf: bytes, number: int) -> list[Outline]:
    """Every path of a page (counted from 0)."""
    with opened(pdf) as document:
        found = []
        for one in document[number].get_objects(filter=[raw.FPDF_PAGEOBJ_PATH]):
            left, bottom, right, top = one.get_bounds()
            found.append(Outline(left * _MM_PER_PT, (right - left) * _MM_PER_PT, (top - bottom) * _MM_PER_PT))
        return found


def sizes_mm(pdf: bytes) -> set[tuple[int, int]]:
    """Sizes of the pages, in whole millimetres."""
    with opened(pdf) as document:
        return {tuple(round(edge * _MM_PER_PT) for edge in page.get_size()) for page in document}  # type: ignore[misc]


def pictures(pdf: bytes) -> int:
    """How many pictures stand on its pages."""
    with opened(pdf) as document:
        return sum(len(list(page.get_objects(filter=[raw.FPDF_PAGEOBJ_IMAGE]))) for page in document)
