"""Before and after: the old board beside the one that takes its place, for the one who pays for it."""

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

_WIDE = 54 * mm


def make(data: ReportData) -> PdfDocument:
    """The sheet. BadDocument where nothing was surveyed."""
    boards = data.job.survey.boards
    if not boards:
        raise BadDocument(
            [DocumentProblem("survey.boards", "No existing board recorded. Record one under Survey first.")]
        )
    story = list(head_of(data, data.say("documents.kind.before-after.title")))
    for board in boards:
        story += _board(data, board)
    story.append(cautions_of(data))
    return paper(data, data.say("documents.kind.before-after.title"), story)


def _board(data: ReportData, board: ExistingBoard) -> Iterator[Flowable]:
    compared = before_after(data.job, board.id)
    yield Heading(f"{board.name}")
    rows = [
        Row(
            [
                data.say("documents.before_after.ways"),
                f"{compared.before.ways_used} of {compared.before.ways_total:g}",
                f"{compared.after.ways_used} of {compared.after.ways_total:g}",
            ]
        ),
        Row(
            [
                data.say("documents.before_after.guarded"),
                str(compared.before.with_rcd),
                str(compared.after.with_rcd),
            ]
        ),
        Row(
            [
                "Most circuits lost at once",
                str(compared.before.most_lost),
                str(compared.after.most_lost),
            ]
        ),
        Row(["Circuits failing a check", str(compared.before.failing), str(compared.after.failing)]),
        Row(
            [
                "Circuits needing input",
                str(compared.before.unknown),
                str(compared.after.unknown),
            ]
        ),
    ]
    yield Grid(
        [Column(head="", share=3, bold=True), Column(head="Before", share=1), Column(head="After", share=1)], rows
    )
    if compared.improvements:
        yield Boxed("Improvements", [str(line) for line in compared.improvements])
    yield Heading("Circuit by circuit", level=2)
    lines = [
        Row(
            [
                GridCell(text=circuit.name, bold=True),
                _way(circuit.old_way),
                *_side(circuit.before),
                _way(circuit.new_way),
                *_side(circuit.after),
            ]
        )
        for circuit in compared.circuits
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
    yield soft("Before: existing board, judged by the same checks as the new work, including the observations.")
    seen = observation_results(data.job, data.network.rules, board)
    if seen:
        yield Heading("Observations", level=2)
        yield from bullets(_observations(seen), size_pt=style.SMALL_PT)
    pictures = [photo for photo in data.photos if photo.board == board.id]
    if pictures:
        yield from turned(wide=False)
        yield Heading(f"Photos of {board.name}")
        for picture in pictures:
            yield _photo(picture)


def _observations(observations: tuple[ObservationResult, ...]) -> list[str]:
    """What was seen, each kind once, with the ways it was seen at."""
    by_kind: dict[str, list[ObservationResult]] = {}
    for observation in observations:
        by_kind.setdefault(observation.kind.id, []).append(observation)
    lines = []
    for same in by_kind.values():
        ways = sorted({thing.way for thing in same if thing.way is not None})
        where = f"way{'' if len(ways) == 1 else 's'} {', '.join(map(str, ways))}: " if ways else ""
        words = "; ".join(dict.fromkeys(str(thing.text) for thing in same if thing.text))
        kind = same[0].kind
        lines.append(f"{where}{kind.title}{f' ({words})' if words else ''}. {kind.reason} {kind.act}")
    return lines


def _way(number: int | None) -> str:
    return "–" if number is None else str(number)


def _side(side: CircuitSummary | None) -> tuple[str | GridCell, str | GridCell]:
    if side is None:
        return "none", ""
    goes = f"; off with {len(side.trips_with)} more" if side.trips_with else ""
    return f"{side.device}{goes}", GridCell(
        text=style.verdict_word(side.verdict), colour=style.OF_VERDICT[side.verdict], mark=side.verdict
    )


def _photo(picture: BundledPhoto) -> Flowable:
    where = f"way {picture.way}" if picture.way is not None else "board"
    image = Image(io.BytesIO(picture.image))
    image._restrictSize(120 * mm, 90 * mm)  # type: ignore[attr-defined]  # not in the stubs
    image.hAlign = "LEFT"
    return KeepTogether([image, soft(f"{where}: {picture.caption or 'no caption'} ({picture.at[:10]})", after=8)])
