"""Two revisions, or two jobs, compared: what changed in words, and what that does to the verdicts."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.design.compare import ChangedResult, compare
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row, verdict_cell
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Heading, PdfDocument, bullets, paper, soft
from vivid_lattice.reports.sheets.parts import cautions_of, head_of

_ORDER: tuple[Verdict, ...] = ("fail", "missing", "advice", "tight", "pass")


def make(data: ReportData) -> PdfDocument:
    """The sheet. BadDocument where nothing was named to compare with."""
    if data.against is None:
        raise BadDocument([DocumentProblem("against", "Choose a revision or a job to compare with.")])
    return paper(data, data.say("documents.kind.comparison.title"), list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    assert data.against is not None
    comparison = compare(data.against, data.job)
    yield from head_of(data, data.say("documents.kind.comparison.title"))
    yield soft(f"Before: {data.against_title}. After: {data.job.job.title}, {data.revision_text}.", after=6)
    rows = [
        Row([GridCell(text=name, bold=True), *(str(counts.get(verdict, 0)) for verdict in _ORDER)])
        for name, counts in (("before", comparison.counts_before), ("now", comparison.counts_after))
    ]
    yield Heading("Findings")
    heads = Row(["", *(verdict_cell(verdict) for verdict in _ORDER)])
    yield Grid([Column(head="", share=1), *(Column(head="", share=1) for _ in _ORDER)], [heads, *rows])
    yield Heading("Changed results")
    turned = [
        Row(
            [
                GridCell(text=changed_result.name, bold=True),
                data.check_title(changed_result.subject.kind, changed_result.check),
                _cell(changed_result.before, changed_result.figure_before),
                _cell(changed_result.after, changed_result.figure_after),
                _way(changed_result),
            ]
        )
        for changed_result in comparison.changed
    ]
    if turned:
        columns = [
            Column(head="What", share=1.8),
            Column(head="Check", share=1.8),
            Column(head="Before", share=1.8),
            Column(head="Now", share=1.8),
            Column(head="", share=0.7),
        ]
        yield Grid(columns, turned)
    else:
        yield soft("No check result changes.")
    yield Heading("Differences")
    yield from bullets(comparison.text or ["Nothing."])
    yield cautions_of(data)


def _way(changed_result: ChangedResult) -> GridCell:
    if changed_result.better is None:
        return GridCell(text="new" if changed_result.before is None else "gone", colour=style.SOFT)
    return GridCell(
        text="better" if changed_result.better else "worse",
        bold=True,
        colour=style.INK if changed_result.better else style.OF_VERDICT["fail"],
    )


def _cell(verdict: Verdict | None, figure: str) -> GridCell:
    if verdict is None:
        return GridCell(text="none", colour=style.SOFT)
    words = f"{style.verdict_word(verdict)} {figure if figure != '–' else ''}".strip()
    return GridCell(text=words, colour=style.OF_VERDICT[verdict], mark=verdict)
