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
    material = dossier.material
    if material.missing:
        yield Boxed("Not in the list, since it is not known yet", material.missing, style.OF_VERDICT["missing"])
    rows = []
    for group, title in GROUPS.items():
        items = [line for line in material.items if line.group == group]
        if not items:
            continue
        rows.append(Row([GridCell(text=title), "", "", "", ""], band=True))
        for other_line in items:
            quantity = "to be measured" if other_line.quantity is None else f"{other_line.quantity:g} {other_line.unit}"
            each = "" if other_line.each is None else f"{other_line.each:.2f}"
            cost = "" if other_line.cost is None else f"{other_line.cost:.2f}"
            rows.append(Row([other_line.what, quantity, other_line.note, each, cost]))
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
    for other_line in material.items:
        if other_line.group == "cable" and other_line.cuts:
            cuts.append(Row([GridCell(text=other_line.what), ""], band=True))
            cuts += [Row([cut.label, f"{cut.length_m:g} m"]) for cut in other_line.cuts]
    yield Grid([Column(head="Piece", share=4), Column(head="Length as laid", share=1, align="right")], cuts)
