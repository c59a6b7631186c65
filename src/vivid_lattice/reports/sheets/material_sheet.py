"""What to buy, and what to cut it to."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.material.material import ALLOWANCE_PCT, GROUPS, group_title
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, paper, soft
from vivid_lattice.reports.sheets.parts import head_of


def make(data: ReportData) -> PdfDocument:
    """The list."""
    return paper(data, data.say("documents.kind.material.title"), list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    yield from head_of(data, data.say("documents.kind.material.title"))
    material = data.material
    if material.missing:
        yield Boxed(
            "Not included, because not known yet", [str(line) for line in material.missing], style.OF_VERDICT["missing"]
        )
    rows = []
    for group in GROUPS:
        items = [line for line in material.items if line.group == group]
        if not items:
            continue
        rows.append(Row([GridCell(text=str(group_title(group, data.network.rules.words))), "", "", "", ""], band=True))
        for entry in items:
            quantity = "to be measured" if entry.quantity is None else f"{entry.quantity:g} {entry.unit}"
            each = "" if entry.each is None else f"{entry.each:.2f}"
            cost = "" if entry.cost is None else f"{entry.cost:.2f}"
            rows.append(Row([str(entry.what), quantity, str(entry.note), each, cost]))
    columns = [
        Column(head="What", share=3.6),
        Column(head="Quantity", share=1.1, align="right"),
        Column(head="", share=1.7, size_pt=style.SMALL_PT),
        Column(head="Each", share=0.7, align="right"),
        Column(head="Cost", share=0.8, align="right"),
    ]
    yield Heading("To buy")
    yield Grid(columns, rows)
    priced = (
        f"Total of priced lines {material.cost:.2f}; lines without a price: {material.unpriced}."
        if material.cost
        else "No prices for these items yet. Import a price list under Documents."
    )
    yield soft(
        f"{priced} Prices from your own list. Cable includes {ALLOWANCE_PCT} % allowance (common practice, no source)."
    )
    yield Heading("To cut")
    cuts = []
    for entry in material.items:
        if entry.group == "cable" and entry.cuts:
            cuts.append(Row([GridCell(text=str(entry.what)), ""], band=True))
            cuts += [Row([str(cut.label), f"{cut.length_m:g} m"]) for cut in entry.cuts]
    yield Grid([Column(head="Piece", share=4), Column(head="Installed length", share=1, align="right")], cuts)
