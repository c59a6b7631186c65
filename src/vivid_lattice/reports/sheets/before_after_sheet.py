"""Before and after: the old board beside the one that takes its place, for whoever pays for it."""

from __future__ import annotations

import io
from collections.abc import Iterator

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Image, KeepTogether

from vivid_lattice.core.bundle import BundledPhoto
from vivid_lattice.core.document.existing_board import ExistingBoard
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.survey.before_after import CircuitSummary, before_after
from vivid_lattice.core.survey.observations import ObservationResult, observation_results
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, bullets, paper, soft, turned
from vivid_lattice.reports.sheets.parts import cautions_of, head_of

TITLE = "Before and after"
_WIDE = 54 * mm


def make(dossier: ReportData) -> PdfDocument:
    """The sheet. BadDocument where nothing was surveyed."""
    boards = dossier.job.survey.boards
    if not boards:
        raise BadDocument([DocumentProblem("survey.boards", "no old board is written down; survey it first")])
    story = list(head_of(dossier, TITLE))
    for board in boards:
        story += _board(dossier, board)
    story.append(cautions_of(dossier))
    return paper(dossier, TITLE, story)


def _board(dossier: ReportData, board: ExistingBoard) -> Iterator[Flowable]:
    found = before_after(dossier.job, board.id)
    yield Heading(f"{board.name}")
    rows = [
        Row(
            [
                "Ways in use, of those there are",
                f"{found.before.ways_used} of {found.before.ways_total:g}",
                f"{found.after.ways_used} of {found.after.ways_total:g}",
            ]
        ),
        Row(["Circuits guarded by an RCD against touching", str(found.before.with_rcd), str(found.after.with_rcd)]),
        Row(["Most circuits that go dark at once", str(found.before.most_lost), str(found.after.most_lost)]),
        Row(["Circuits that fail a check", str(found.before.failing), str(found.after.failing)]),
        Row(["Circuits of which an input is missing", str(found.before.unknown), str(found.after.unknown)]),
    ]
    yield Grid(
        [Column(head="", share=3, bold=True), Column(head="Before", share=1), Column(head="After", share=1)], rows
    )
    if found.improvements:
        yield Boxed("What that means", found.improvements)
    yield Heading("Circuit by circuit", level=2)
    lines = [
        Row(
            [
                GridCell(text=one.name, bold=True),
                _way(one.old_way),
                *_side(one.before),
                _way(one.new_way),
                *_side(one.after),
            ]
        )
        for one in found.circuits
    ]
    columns = [
        Column(head="Circuit", share=1.8),
        Column(head="Way", share=0.5),
        Column(head="Before", share=1.5),
        Column(head="", share=1.2),
        Column(head="Way", share=0.5),
        Column(head="After", share=1.5),
        Column(head="", share=1.2),
    ]
    yield Grid(columns, lines)
    yield soft("Before: judged by the same checks as the new work, with what was seen.")
    seen = observation_results(dossier.job, dossier.network.rules, board)
    if seen:
        yield Heading("What was seen", level=2)
        yield from bullets(_things(seen), size_pt=style.SMALL_PT)
    pictures = [one for one in dossier.photos if one.board == board.id]
    if pictures:
        yield from turned(wide=False)
        yield Heading(f"Photos of {board.name}")
        for picture in pictures:
            yield _photo(picture)


def _things(found: tuple[ObservationResult, ...]) -> list[str]:
    """What was seen, each kind once, with the ways it was seen at."""
    held: dict[str, list[ObservationResult]] = {}
    for one in found:
        held.setdefault(one.kind.id, []).append(one)
    lines = []
    for things in held.values():
        ways = sorted({one.way for one in things if one.way is not None})
        where = f"way{'' if len(ways) == 1 else 's'} {', '.join(map(str, ways))}: " if ways else ""
        words = "; ".join(dict.fromkeys(one.text for one in things if one.text))
        kind = things[0].kind
        lines.append(f"{where}{kind.title}{f' ({words})' if words else ''}. {kind.reason} {kind.act}")
    return lines


def _way(number: int | None) -> str:
    return "–" if number is None else str(number)


def _side(side: CircuitSummary | None) -> tuple[str | GridCell, str | GridCell]:
    if side is None:
        return "not there", ""
    goes = f"; off with {len(side.trips_with)} more" if side.trips_with else ""
    return side.device + goes, GridCell(
        text=style.WORDS[side.verdict], colour=style.OF_VERDICT[side.verdict], mark=side.verdict
    )


def _photo(picture: BundledPhoto) -> Flowable:
    where = f"way {picture.way}" if picture.way is not None else "the board"
    image = Image(io.BytesIO(picture.image))
    image._restrictSize(120 * mm, 90 * mm)  # type: ignore[attr-defined]  # not in the stubs
    image.hAlign = "LEFT"
    return KeepTogether([image, soft(f"{where}: {picture.caption or 'no caption'} ({picture.at[:10]})", after=8)])
