"""The report on the condition of an installation: what was looked at, what was found, and what follows."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.inspection.observations import coded_observations, outcome_text
from vivid_lattice.core.inspection.report_outcome import outcome_of
from vivid_lattice.reports import style
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, Spacer, Text, facts, paper, soft
from vivid_lattice.reports.sheets.inspection_parts import (
    boards_of,
    declarations,
    extent_and_limits,
    not_closed,
    observations_of,
    open_of,
    results_of,
    schedule_of,
    supply_particulars,
)
from vivid_lattice.reports.sheets.parts import NOT_SAID, cited, head_of


def make(data: ReportData) -> PdfDocument:
    """The report, filled in as far as the job goes."""
    return paper(data, data.say("documents.kind.condition.title"), list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    inspection, work = data.job.inspection, data.job.work_details
    yield from head_of(data, data.say("documents.kind.condition.title"))
    yield from _outcome(data)
    yield from not_closed(data)
    yield facts(
        [
            (data.say("documents.condition.reason"), inspection.reason or NOT_SAID),
            (data.say("documents.certificate.contractor"), work.contractor or NOT_SAID),
        ]
    )
    yield from observations_of(data, data.say("documents.condition.observations"))
    yield from extent_and_limits(data)
    yield from supply_particulars(data)
    yield from boards_of(data)
    yield Heading(data.say("documents.certificate.results"))
    yield from results_of(data)
    if inspection.comments:
        yield Text(inspection.comments, after=4)
    yield from declarations(data, ("inspection",))
    yield from _codes(data)
    yield from schedule_of(data)


def _outcome(data: ReportData) -> Iterator[Flowable]:
    """The overall result; satisfactory only where nothing is open."""
    outcome = outcome_of(data.network.rules.testing, coded_observations(data.network), complete=not open_of(data))
    verdicts: dict[bool | None, Verdict] = {True: "pass", False: "fail", None: "missing"}
    colour = style.OF_VERDICT[verdicts[outcome.satisfactory]]
    counts = ", ".join(f"{each.n} × {each.code}" for each in outcome.counts)
    yield Boxed(
        data.say("documents.condition.outcome", outcome=outcome_text(data.network, outcome.satisfactory)),
        [counts or data.say("documents.inspection.no_observations")],
        colour,
    )
    yield Spacer(1, 6)


def _codes(data: ReportData) -> Iterator[Flowable]:
    """What the codes stand for, and how the result follows from them."""
    rules = data.network.rules.testing
    yield Heading(data.say("documents.condition.codes"), level=2)
    yield facts([(code.code, f"{code.meaning}. {code.action}") for code in rules.codes], columns=1)
    yield soft(f"{rules.outcome.text} ({cited(rules.outcome.source)})")
