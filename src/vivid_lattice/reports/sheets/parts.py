"""What several papers have in common: the head of a job, its cautions, its certificate, sources by number."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from reportlab.platypus import Flowable

from vivid_lattice.core.document.work_details import WORKS, work_title
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.document_rules import SourcedText
from vivid_lattice.core.sources import Source
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row, verdict_cell
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, Spacer, facts, soft

NOT_SAID = "not stated yet"


def head_of(data: ReportData, title: str) -> Iterator[Flowable]:
    """Title, job, client, place, rules."""
    info, work = data.job.job, data.job.work_details.kind
    yield Heading(title, level=0)
    yield facts(
        [
            ("Job", info.title),
            ("Place", info.site or NOT_SAID),
            ("Client", info.client or NOT_SAID),
            ("Work", str(work_title(work)) if work else NOT_SAID),
            ("Standard", data.network.rules.title),
            ("Edition", data.network.rules.edition),
        ]
    )
    yield Spacer(1, 5)
    yield from assumed_of(data)


def assumed_of(data: ReportData) -> Iterator[Flowable]:
    """What is assumed and not confirmed, each value once, for the first page of a document; nothing where all is confirmed."""
    assumptions = data.assessment.assumptions
    if not assumptions:
        return
    lines = [
        str(
            data.say(
                "documents.assumed.line", label=each.label, value=f"{each.shown} {each.unit}".rstrip(), how=each.confirm
            )
        )
        for each in assumptions
    ]
    title = data.say("documents.assumed.title", n=len(assumptions))
    # Two to a line: a new job has a dozen, and the first page has more to say.
    pairs = ["   ·   ".join(lines[at : at + 2]) for at in range(0, len(lines), 2)]
    yield Boxed(title, pairs, style.OF_VERDICT["missing"])
    yield Spacer(1, 5)


def cautions_of(data: ReportData) -> Boxed:
    """All cautions of a job."""
    return Boxed("Safety first", data.assessment.cautions, style.OF_VERDICT["fail"])


def papers_due(data: ReportData) -> Iterator[Flowable]:
    """Which certificate the work needs, and who must be told, by the standard's own rules."""
    yield Heading("Certificates and notifications")
    rules, work = data.network.rules.papers, data.job.work_details.kind
    # Where one paper goes with several kinds of work, it is once.
    kinds: dict[SourcedText | None, list[str]] = {}
    for kind in WORKS:
        if work in (None, kind):
            kinds.setdefault(or_none(partial(rules.certificate, kind)), []).append(str(work_title(kind)))
    rows = []
    for sourced_text, names in kinds.items():
        text = sourced_text.text if sourced_text else "not given in this standard: ask the authority"
        name = "any work" if len(names) == len(WORKS) else ", ".join(names)
        rows.append(Row([GridCell(text=name, bold=True), text, cited(sourced_text.source) if sourced_text else "–"]))
    if work is None:
        yield soft("Type of work not stated yet: enter it under Documents. By type of work:")
    for told in or_none(lambda: rules.notices_to_give) or ():
        rows.append(Row([GridCell(text="to be told", bold=True), told.text, cited(told.source)]))
    yield Grid(
        [
            Column(head="", share=1.1),
            Column(head="Certificate or notification", share=3.2),
            Column(head="Reference", share=1.7),
        ],
        rows,
    )


def cited(source: Source | None) -> str:
    """A source in a few words, with where it comes from: what is from memory says so."""
    if source is None:
        return ""
    table = f", {source.table}" if source.table else ""
    return f"{source.publication}{table} ({source.provenance})"


def finding_row(data: ReportData, finding: Finding) -> Row:
    """A finding as a row: what is asked, the answer, the figure, the sentence."""
    figure = f"{finding.shown_value} / {finding.shown_limit} {finding.unit}" if finding.value is not None else ""
    return Row([data.title_of(finding), verdict_cell(finding.verdict), figure, with_needs(finding)])


def with_needs(finding: Finding) -> str:
    """A finding's sentence with what it needs, and how to get that; a sentence that is about what is missing says it already."""
    missing = finding.verdict == "missing"
    needs = [str(need.ask if missing else need.sentence) for need in finding.needs]
    return " ".join(dict.fromkeys([str(finding.sentence), *needs]))


FINDING_COLUMNS = (
    Column(head="Check", share=1.35, bold=True),
    Column(head="Answer", share=1.3),
    Column(head="Figure / limit", share=1.15),
    Column(head="In words", share=4.0, size_pt=style.SMALL_PT),
)


def board_words(data: ReportData) -> str:
    """What the standard calls a board."""
    return str(data.network.rules.vocabulary.get("board", "board"))


class Sources:
    """Sources by number, in the order in which they are first met, so that a calculation can name them shortly."""

    def __init__(self) -> None:
        self._numbers: dict[Source, int] = {}

    def number(self, source: Source) -> int:
        """The number of a source."""
        return self._numbers.setdefault(source, len(self._numbers) + 1)

    def note(self, finding: Finding) -> None:
        """Numbers for everything a finding rests on, before any of it is laid out."""
        for source in (finding.rule, *(step.source for step in finding.working)):
            if source is not None:
                self.number(source)

    def listed(self) -> Grid:
        """All of them."""
        rows = [
            Row([str(number), source.publication, source.table, f"{source.provenance}, {source.confidence}"])
            for source, number in self._numbers.items()
        ]
        columns = [
            Column(head="No.", share=0.4, align="right"),
            Column(head="Publication", share=3.2),
            Column(head="Table or rule", share=1.8),
            Column(head="Source and confidence", share=1.2),
        ]
        return Grid(columns, rows)
