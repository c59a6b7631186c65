"""The surge decision: what was asked, what is fitted or declined, and the signature that stays with the papers."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Blank, Boxed, Heading, PdfDocument, Spacer, Text, bullets, facts, paper
from vivid_lattice.reports.sheets.parts import FINDING_COLUMNS, NOT_SAID, cautions_of, cited, finding_row, head_of


def make(data: ReportData) -> PdfDocument:
    """The sheet."""
    return paper(data, data.say("documents.kind.surge.title"), list(_story(data)))


def _yes(answer: bool | None) -> str:
    return NOT_SAID if answer is None else "yes" if answer else "no"


def _story(data: ReportData) -> Iterator[Flowable]:
    plan = data.job.surge
    finding = next(finding for finding in data.by_subject["supply"] if finding.check == "surge")
    yield from head_of(data, data.say("documents.kind.surge.title"))
    yield Heading("Risk")
    yield facts(
        [
            ("Lightning protection system", _yes(plan.lightning_protection)),
            ("Overhead supply line", _yes(plan.overhead_line)),
            ("Consequence of an overvoltage", (plan.consequence or NOT_SAID).replace("-", " ")),
            (
                "Wiring length to furthest equipment",
                f"{plan.furthest_m:g} m of wiring" if plan.furthest_m is not None else NOT_SAID,
            ),
        ]
    )
    yield Heading("Requirements of the standard")
    yield Grid(FINDING_COLUMNS, [finding_row(data, finding)])
    if finding.rule:
        yield Text(cited(finding.rule), size_pt=style.SMALL_PT, colour=style.SOFT)
    steps = [f"{step.meaning}: {step.shown} {step.unit}".strip() for step in finding.working]
    yield from bullets(steps, size_pt=style.SMALL_PT)
    yield from _fitted(data)
    yield from _decision(data)
    yield Spacer(1, 8)
    yield cautions_of(data)


def _fitted(data: ReportData) -> Iterator[Flowable]:
    rows = [
        Row(
            [
                board.name,
                device.name,
                device.type,
                f"{device.up_kv:g} kV" if device.up_kv is not None else NOT_SAID,
                f"{device.leads_m:g} m" if device.leads_m is not None else "from the board layout, or not measured",
                "",
            ],
            tall_pt=18,
        )
        for board in data.job.boards
        for device in board.spds
    ]
    if not rows:
        return
    yield Heading("SPDs fitted")
    columns = [
        Column(head="Board", share=1.4),
        Column(head="Device", share=1.6),
        Column(head="Type", share=0.6),
        Column(head="Protection level Up", share=0.8),
        Column(head="Leads", share=1.2),
        Column(head="Status indicator green on", share=1.2),
    ]
    yield Grid(columns, rows)


def _decision(data: ReportData) -> Iterator[Flowable]:
    declined = data.job.surge.declined
    yield Heading("Decision of the owner")
    if declined is not None:
        text = f"{declined.name}, {declined.date}: {declined.reason}"
        yield Boxed(
            f"Surge protection {declined.how()}",
            [text, "I understand that an overvoltage can damage equipment and start a fire, and I accept this risk."],
            style.OF_VERDICT["advice"],
        )
    elif any(board.spds for board in data.job.boards):
        yield Text(
            "Surge protection is fitted as listed. Check its status indicator once a year; if it is red or dark, call the electrician."
        )
    else:
        yield Text("Decision required. Cross out one of the two:", after=4)
        yield from bullets(
            [
                "I want surge protection fitted.",
                "I decline surge protection. I understand that an overvoltage can damage equipment and start a fire, and I accept this risk.",
            ]
        )
    yield Spacer(1, 10)
    yield Blank(["Owner: name", "Date", "Signature"])
    yield Spacer(1, 6)
    yield Blank(["Electrician: name", "Date", "Signature"])
