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


def make(dossier: ReportData) -> PdfDocument:
    """The list."""
    return paper(dossier, TITLE, list(_story(dossier)))


def _story(dossier: ReportData) -> Iterator[Flowable]:
    yield from head_of(dossier, TITLE)
    held = dossier.material
    if held.missing:
        yield Boxed("Not in the list, since it is not known yet", held.missing, style.OF_VERDICT["missing"])
    rows = []
    for group, title in GROUPS.items():
        items = [item for item in held.items if item.group == group]
        if not items:
            continue
        rows.append(Row([GridCell(text=title), "", "", "", ""], band=True))
        for item in items:
            quantity = "to be measured" if item.quantity is None else f"{item.quantity:g} {item.unit}"
            each = "" if item.each is None else f"{item.each:.2f}"
            cost = "" if item.cost is None else f"{item.cost:.2f}"
            rows.append(Row([item.what, quantity, item.note, each, cost]))
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
        f"Lines with a price come to {held.cost:.2f}; {held.unpriced} lines have none."
        if held.cost
        else "Your price list names nothing of this yet: import one under Papers."
    )
    yield soft(f"{priced} Prices are your own list's. Cable: {ALLOWANCE_PCT} % to spare (common practice, no source).")
    yield Heading("To cut")
    cuts = []
    for item in held.items:
        if item.group == "cable" and item.cuts:
            cuts.append(Row([GridCell(text=item.what), ""], band=True))
            cuts += [Row([cut.label, f"{cut.length_m:g} m"]) for cut in item.cuts]
    yield Grid([Column(head="Piece", share=4), Column(head="Length as laid", share=1, align="right")], cuts)
