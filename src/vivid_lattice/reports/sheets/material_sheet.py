"""What to buy, and what to cut it to."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.material.material import ALLOWANCE_PCT, GROUPS
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, paper, soft
from vivid_lattice.reports.sheets.parts import head_of

TITLE = "Material and cut list"


def make(data: ReportData) -> PdfDocument:
    """The list."""
    return paper(data, TITLE, list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    yield from head_of(data, TITLE)
    material = data.material
    if material.missing:
        yield Boxed("Not in the list, since it is not known yet", material.missing, style.OF_VERDICT["missing"])
    rows = []
    for group, title in GROUPS.items():
        items = [line for line in material.items if line.group == group]
        if not items:
            continue
        rows.append(Row([GridCell(text=title), "", "", "", ""], band=True))
        for entry in items:
            quantity = "to be measured" if entry.quantity is None else f"{entry.quantity:g} {entry.unit}"
            each = "" if entry.each is None else f"{entry.each:.2f}"
            cost = "" if entry.cost is None else f"{entry.cost:.2f}"
            rows.append(Row([entry.what, quantity, entry.note, each, cost]))
    columns = [
        Column(head="What", share=3.6),
        Column(head="How much", share=1.1, align="right"),
        Column(head="", share=1.7, size_pt=style.SMALL_PT),
        Column(head="Each", share=0.7, align="right"),
        Column(head="Cost", share=0.8, align="right"),
    ]
    yield Heading("To buy")
    yield Grid(columns, rows)
    priced = (
        f"Lines with a price come to {material.cost:.2f}; {material.unpriced} lines have none."
        if material.cost
        else "Your price list names nothing of this yet: import one under Papers."
    )
    yield soft(f"{priced} Prices are your own list's. Cable: {ALLOWANCE_PCT} % to spare (common practice, no source).")
    yield Heading("To cut")
    cuts = []
    for entry in material.items:
        if entry.group == "cable" and entry.cuts:
            cuts.append(Row([GridCell(text=entry.what), ""], band=True))
            cuts += [Row([cut.label, f"{cut.length_m:g} m"]) for cut in entry.cuts]
    yield Grid([Column(head="Piece", share=4), Column(head="Length as laid", share=1, align="right")], cuts)
