"""What a job holds as plain tables: circuits, findings, wiring, material. Each format writes the same ones."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from vivid_lattice.core.board.wiring.wiring_list import step_title
from vivid_lattice.core.checks import CHECKS
from vivid_lattice.core.document.job import Cable, Circuit, Device
from vivid_lattice.core.entry.tables import local_devices
from vivid_lattice.core.entry.tables.columns import FIELDS
from vivid_lattice.core.material.buying import millimetres
from vivid_lattice.core.material.line import CutList, group_title
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.optional import or_none
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.safe_text import escape_formula, without_controls

Cell = str | float | int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ReportTable:
    """A table: its id and title, the heads of its columns, its rows. ``total``: the column totalled at the end."""

    id: str
    title: str
    heads: tuple[str, ...]
    rows: tuple[tuple[Cell, ...], ...]
    total: int | None = None

    @property
    def sum(self) -> float:
        """The total of the column that has one."""
        assert self.total is not None
        return sum(float(row[self.total] or 0) for row in self.rows)


TABLE_TITLES: dict[str, str] = {
    "circuits": "Circuits",
    "findings": "Findings",
    "wiring": "Wiring",
    "material": "Material",
    "cuts": "Cut list",
}


#: Fields of the import that are written: power in one unit only.
_WRITTEN = tuple(field for field in FIELDS if field.id != "power_kw")


def table(data: ReportData, name: str) -> ReportTable:
    """One of the tables by its id."""
    makers = {"circuits": circuits, "findings": findings, "wiring": wiring, "material": material, "cuts": cuts}
    return makers[name](data)


def circuits(data: ReportData) -> ReportTable:
    """Circuits with what was entered, in columns that are read back by the import, then what was found."""
    entered = [field.title for field in _WRITTEN]
    figures = ("Design current [A]", "R1+R2 at 20 °C, Ω", "Zs at 20 °C, Ω", "Zs warm [Ω]")
    heads = (*entered, *figures, *(str(check.title(data.network.rules.words)) for check in CHECKS))
    return ReportTable(id="circuits", title=TABLE_TITLES["circuits"], heads=heads, rows=tuple(_circuit_rows(data)))


def _circuit_rows(data: ReportData) -> Iterator[tuple[Cell, ...]]:
    for circuit in data.circuits:
        row = data.figures[circuit.id]
        by_check = {finding.check: finding for finding in data.by_subject[circuit.id]}
        yield (
            *entered_cells(data, circuit),
            row.design_current_a,
            row.r1r2_ohm,
            row.zs_cold_ohm,
            row.zs_warm_ohm,
            *(by_check[check.id].verdict for check in CHECKS),
        )


def entered_cells(data: ReportData, circuit: Circuit) -> tuple[Cell, ...]:
    """What was entered of a circuit, in the order of the import's fields."""
    place = data.network.tree.place(circuit)
    cable = circuit.cable if isinstance(circuit.cable, Cable) else None
    device = circuit.device if isinstance(circuit.device, Device) else None
    load = circuit.loads[0] if len(circuit.loads) == 1 else None
    section = circuit.run[0]
    room = data.network.tree.rooms[load.room].name if load is not None and load.room else ""
    cells: dict[str, Cell] = {
        "board": place.board.name,
        "way": place.way.number,
        "name": circuit.name,
        "kind": circuit.kind,
        "load": load.kind if load else "",
        "count": load.count if load else None,
        "power_w": load.power_w if load else None,
        "power_factor": load.power_factor if load else None,
        "current_a": circuit.design_current_a,
        "source": circuit.source.kind if circuit.source else "",
        "source_a": circuit.source.rated_a if circuit.source else None,
        "room": room,
        "lines": "+".join(circuit.lines),
        "length_m": or_none(lambda: run_length_m(circuit)),
        "method": section.method,
        "cable": cable.type if cable else "auto",
        "size_mm2": cable.area_mm2 if cable else None,
        "device": device.kind if device else "auto",
        "curve": device.curve if device else "",
        "rating_a": device.rating_a if device else None,
        "breaking_ka": device.breaking_ka if device else None,
        "rcd_ma": device.rcd.idn_ma if device and device.rcd else None,
        "rcd_type": device.rcd.type if device and device.rcd else "",
        "modules": device.modules if device else None,
        "switches_neutral": _yes_no(device.switches_neutral if device else None),
        "local_devices": local_devices.written(circuit.local_devices),
        "earth": circuit.earthing.kind if circuit.earthing else "",
        "electrode_ohm": circuit.earthing.electrode_ohm if circuit.earthing else None,
        "notes": circuit.notes,
    }
    return tuple(cells[field.id] for field in _WRITTEN)


def _yes_no(known: bool | None) -> str:
    return "" if known is None else "yes" if known else "no"


def findings(data: ReportData) -> ReportTable:
    """Every finding."""
    heads = (
        "Of",
        "Name",
        "Check",
        "Verdict",
        "Value",
        "Limit",
        "Unit",
        "Margin",
        "In words",
        "Missing",
        "Rule",
        "Source",
    )
    rows = tuple(
        (
            finding.subject.kind,
            data.names[finding.subject.id],
            data.title_of(finding),
            finding.verdict,
            finding.value,
            finding.limit,
            finding.unit,
            finding.margin,
            str(finding.sentence),
            "; ".join(str(need.what) for need in finding.needs),
            finding.rule.publication if finding.rule else "",
            finding.rule.provenance if finding.rule else "",
        )
        for finding in data.assessment.findings
    )
    return ReportTable(id="findings", title=TABLE_TITLES["findings"], heads=heads, rows=rows)


WIRING_HEADS = (
    "Board",
    "Step",
    "From",
    "To",
    "Conductor",
    "Colour",
    "Size",
    "Length [mm]",
    "End",
    "Strip [mm]",
    "Torque min. [N·m]",
    "Torque max. [N·m]",
)


def wiring(data: ReportData, board_id: str | None = None) -> ReportTable:
    """The wiring lists of all boards that are laid out, or of one."""
    rows = []
    for board in data.job.boards:
        if board_id not in (None, board.id):
            continue
        listed = or_none(data.network.boards[board.id].whole_wiring)
        for conductor in listed.conductors if listed else ():
            if conductor.kind == "plug":
                continue
            rows.append(
                (
                    board.name,
                    str(step_title(conductor.step, data.network.rules.words)),
                    str(conductor.start.text),
                    str(conductor.end.text),
                    conductor.conductor,
                    conductor.colour,
                    str(conductor.size),
                    conductor.length_mm,
                    str(conductor.start.finish),
                    conductor.start.strip_mm,
                    str(conductor.start.torque),
                    str(conductor.end.torque),
                )
            )
    return ReportTable(id="wiring", title=TABLE_TITLES["wiring"], heads=WIRING_HEADS, rows=tuple(rows))


def material(data: ReportData) -> ReportTable:
    """What to buy, with the total of what has a price. The article is what a price list calls it."""
    rows = tuple(
        (
            str(group_title(line.group, data.network.rules.words)),
            str(line.what),
            line.article,
            line.quantity,
            line.unit,
            line.pack,
            line.packs,
            line.each,
            line.cost,
            "; ".join(f"{_room(data, room)} {many:g}" for room, many in line.rooms.items() if room),
            str(line.note) or ("" if line.quantity is not None else "to be measured"),
        )
        for line in data.material.items
    )
    heads = ("Group", "What", "Article", "Quantity", "Unit", "Pack", "Packs", "Each", "Cost", "Rooms", "Note")
    return ReportTable(id="material", title=TABLE_TITLES["material"], heads=heads, rows=rows, total=8)


def price_list(data: ReportData) -> ReportTable:
    """Every article of the job with the price that is known, to be filled in and imported again."""
    lines = {line.article: line for line in data.material.items}
    rows = tuple((line.article, line.pack, line.each, line.unit, str(line.what)) for line in lines.values())
    return ReportTable(
        id="price-list", title="Price list", heads=("Article", "Pack", "Price", "Unit", "Text"), rows=rows
    )


def cuts(data: ReportData) -> ReportTable:
    """How each article is cut: which pieces from which length."""
    rows: list[tuple[Cell, ...]] = []
    for cut_list in data.material.cuts:
        labels = cut_labels(cut_list)
        if cut_list.plan is None:
            rows += [(str(cut_list.what), None, str(piece.label), piece.length_m, None) for piece in cut_list.pieces]
            continue
        for number, cut in enumerate(cut_list.plan.cuts, 1):
            for at, piece_mm in enumerate(cut.pieces_mm):
                rest = cut.rest_mm / 1000 if at == len(cut.pieces_mm) - 1 else None
                named = f"{number}: {cut.stock.length_mm / 1000:g} m"
                rows.append((str(cut_list.what), named, labels[piece_mm].pop(0), piece_mm / 1000, rest))
    heads = ("What", "From", "Piece", "Length [m]", "Rest [m]")
    return ReportTable(id="cuts", title=TABLE_TITLES["cuts"], heads=heads, rows=tuple(rows))


def cut_labels(cut_list: CutList) -> dict[int, list[str]]:
    """What pieces of each length are for [mm], in the order of the list."""
    labels: dict[int, list[str]] = {}
    for piece in cut_list.pieces:
        labels.setdefault(millimetres(piece.length_m), []).append(str(piece.label))
    return labels


def _room(data: ReportData, room: str) -> str:
    found = data.network.tree.rooms.get(room)
    return found.name if found is not None else room


def as_csv(made: ReportTable) -> bytes:
    """A table as CSV: UTF-8 with its mark, so that a spreadsheet reads its signs; no cell is a formula."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(made.heads)
    writer.writerows([_csv_cell(cell) for cell in row] for row in made.rows)
    if made.total is not None:
        writer.writerow(_total_row(made))
    return out.getvalue().encode("utf-8-sig")


def _csv_cell(cell: Cell) -> Cell:
    return escape_formula(without_controls(cell)) if isinstance(cell, str) else cell


def _total_row(made: ReportTable) -> list[Cell]:
    assert made.total is not None
    row: list[Cell] = [None] * len(made.heads)
    row[0], row[made.total] = "Total of priced lines", round(made.sum, 2)
    return row


def as_xlsx(made: Sequence[ReportTable], title: str) -> bytes:
    """Tables as sheets of one workbook: figures as figures, text as text and never as a formula."""
    from openpyxl import Workbook
    from openpyxl.cell import WriteOnlyCell
    from openpyxl.styles import Font
    from openpyxl.utils import get_column_letter

    book = Workbook(write_only=True)
    book.properties.title = without_controls(title)
    book.properties.creator = "Vivid Lattice"
    bold = Font(bold=True)
    for report_table in made:
        sheet = book.create_sheet(report_table.title)
        for number, head in enumerate(report_table.heads, 1):
            widest = max([len(head), *(len(str(row[number - 1] or "")) for row in report_table.rows[:200])])
            sheet.column_dimensions[get_column_letter(number)].width = min(60, max(8, widest + 2))
        sheet.freeze_panes = "A2"

        def cell(value: Cell, font: Font | None = None, sheet: object = sheet) -> object:
            text = without_controls(value)[:32_000] if isinstance(value, str) else value
            marked = isinstance(text, str) and escape_formula(text) != text
            if not marked and font is None:
                return text
            position = WriteOnlyCell(sheet, value=text)
            if marked:
                position.data_type, position.quotePrefix = "s", True
            if font is not None:
                position.font = font
            return position

        sheet.append([cell(head, bold) for head in report_table.heads])
        for row in report_table.rows:
            sheet.append([cell(value) for value in row])
        if report_table.total is not None:
            sheet.append([cell(value, bold) for value in _total_row(report_table)])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()
