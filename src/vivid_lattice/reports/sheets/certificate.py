"""The certificate of new work: what was done, to which standard, with which results, and who declares it."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from reportlab.platypus import Flowable

from vivid_lattice.core.optional import or_none
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Heading, PdfDocument, Text, facts, paper
from vivid_lattice.reports.sheets.inspection_parts import (
    boards_of,
    declarations,
    departures_of,
    extent_and_limits,
    not_closed,
    observations_of,
    results_of,
    schedule_of,
    supply_particulars,
)
from vivid_lattice.reports.sheets.parts import NOT_SAID, cited, head_of


def make(data: ReportData) -> PdfDocument:
    """The certificate, filled in as far as the job goes."""
    return paper(data, data.say("documents.kind.certificate.title"), list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    work = data.job.work_details
    yield from head_of(data, data.say("documents.kind.certificate.title"))
    yield from not_closed(data)
    rules = data.network.rules.papers
    required = None if work.kind is None else or_none(partial(rules.certificate, work.kind))
    if required is not None:
        yield Text(data.say("documents.certificate.required", text=required.text, source=cited(required.source)))
    yield facts(
        [
            (data.say("documents.certificate.contractor"), work.contractor or NOT_SAID),
            (data.say("documents.certificate.phone"), work.contractor_phone or NOT_SAID),
        ]
    )
    yield from extent_and_limits(data)
    yield from departures_of(data)
    yield from supply_particulars(data)
    yield from boards_of(data)
    yield Heading(data.say("documents.certificate.results"))
    yield from results_of(data)
    yield from observations_of(data, data.say("documents.certificate.existing"))
    if data.job.inspection.comments:
        yield Text(data.job.inspection.comments, after=4)
    yield from declarations(data, ("design", "construction", "inspection"))
    yield from schedule_of(data)
