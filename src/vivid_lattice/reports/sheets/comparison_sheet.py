"""Two revisions, or two jobs, compared: what changed in words, and what that does to the verdicts."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.design.compare import Turned, compare
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.findings import Verdict
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Cell, Column, Grid, Row, verdict_cell
from vivid_lattice.reports.report_data import CHECK_TITLES, ReportData
from vivid_lattice.reports.sheet import Heading, Paper, bullets, paper, soft
from vivid_lattice.reports.sheets.parts import cautions_of, head_of

TITLE = "What changed"
_ORDER: tuple[Verdict, ...] = ("fail", "missing", "advice", "tight", "pass")


def make(dossier: ReportData) -> Paper:
    """The sheet. BadDocument where nothing was named to compare with."""
    if dossier.against is None:
        raise BadDocument([DocumentProblem("against", "name the revision or the job to compare with")])
    return paper(dossier, TITLE, list(_story(dossier)))


def _story(dossier: ReportData) -> Iterator[Flowable]:
    assert dossier.against is not None
    found = compare(dossier.against, dossier.job)
    yield from head_of(dossier, TITLE)
    yield soft(f"Before: {dossier.against_said}. Now: {dossier.job.job.title}, {dossier.revision_said}.", after=6)
    rows = [
        Row([Cell(name, bold=True), *(str(counts.get(verdict, 0)) for verdict in _ORDER)])
        for name, counts in (("before", found.counts_before), ("now", found.counts_after))
    ]
    yield Heading("Findings")
    heads = Row(["", *(verdict_cell(verdict) for verdict in _ORDER)])
    yield Grid([Column("", 1), *(Column("", 1) for _ in _ORDER)], [heads, *rows])
    yield Heading("What turned")
    turned = [
        Row(
            [
                Cell(one.name, bold=True),
                CHECK_TITLES[one.subject.kind].get(one.check, one.check),
                _said(one.before, one.figure_before),
                _said(one.after, one.figure_after),
                _way(one),
            ]
        )
        for one in found.turned
    ]
    if turned:
        columns = [
            Column("What", 1.8),
            Column("Check", 1.8),
            Column("Before", 1.8),
            Column("Now", 1.8),
            Column("", 0.7),
        ]
        yield Grid(columns, turned)
    else:
        yield soft("No finding answers otherwise.")
    yield Heading("What differs")
    yield from bullets(found.words or ["Nothing."])
    yield cautions_of(dossier)


def _way(one: Turned) -> Cell:
    if one.better is None:
        return Cell("new" if one.before is None else "gone", colour=style.SOFT)
    return Cell(
        "better" if one.better else "worse", bold=True, colour=style.INK if one.better else style.OF_VERDICT["fail"]
    )


def _said(verdict: Verdict | None, figure: str) -> Cell:
    if verdict is None:
        return Cell("not there", colour=style.SOFT)
    words = f"{style.WORDS[verdict]} {figure if figure != '–' else ''}".strip()
    return Cell(words, colour=style.OF_VERDICT[verdict], mark=verdict)
