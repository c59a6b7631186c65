"""What leaves the application, over HTTP: made line by line with progress, looked at, saved."""

from __future__ import annotations

import asyncio
from contextlib import closing
from datetime import UTC, datetime
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, HTTPException, Path, Request, Response
from pydantic import BaseModel, Field

from vivid_lattice.api.dependencies import Connection
from vivid_lattice.api.export_cache import ExportCache
from vivid_lattice.api.jobs import JobId
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import CheckedRoute
from vivid_lattice.api.streaming import Cancelled, LinesResponse, Put, in_lines
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import Stopped
from vivid_lattice.core.messages import Text
from vivid_lattice.reports.catalogue import KINDS, Group, Needs, export
from vivid_lattice.reports.page_preview import page_picture
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.store.database import connect
from vivid_lattice.store.job_bundle import bundle_of
from vivid_lattice.store.jobs import get_revision

router = APIRouter(tags=["exports"], route_class=CheckedRoute)

ExportId = Annotated[str, Path(max_length=40)]
_Revision = Annotated[int, Field(ge=1, le=2**63 - 1)]


class KindLine(BaseModel):
    """Something that can be exported."""

    id: str
    title: Text
    text: Text
    group: Group
    suffix: str
    needs: Needs


class ExportRequest(BaseModel):
    """What to make of a job. ``board`` None: of all boards. ``revision`` None: as it is. ``against_job`` None: this one."""

    kind: Annotated[str, Field(max_length=40, examples=["report"])]
    board: Annotated[str, Field(max_length=40)] | None = None
    revision: _Revision | None = None
    against_job: Annotated[str, Field(max_length=40)] | None = None
    against_revision: _Revision | None = None


class ExportLine(BaseModel):
    """A line of the answer while an export is made: how far it is, or that it is ready."""

    kind: Literal["progress", "done"]
    done: int = 0
    all: int = 0
    what: str = ""
    export: str = ""
    name: str = ""
    pages: int = 0
    bytes: int = 0


class FileResponse(Response):
    """A file to save."""

    media_type = "application/octet-stream"


class PngResponse(Response):
    """A page as a picture."""

    media_type = "image/png"


@router.get("/api/exports/kinds")
def list_kinds() -> list[KindLine]:
    """Everything that can be exported, in the order of the work."""
    return [
        KindLine(id=kind.id, title=kind.title, text=kind.text, group=kind.group, suffix=kind.suffix, needs=kind.needs)
        for kind in KINDS
    ]


@router.post(
    "/api/jobs/{job_id}/exports",
    response_class=LinesResponse,
    responses={**NOT_FOUND, 200: {"model": ExportLine}},
)
async def make_export(job_id: JobId, wanted: ExportRequest, request: Request) -> LinesResponse:
    """Make an export of a kept revision, line by line. Hanging up stops it; nothing is left behind then."""
    database, shelf = request.app.state.database, request.app.state.shelf
    made_at = datetime.now(UTC).isoformat(timespec="seconds")

    def work(put: Put, cancelled: Cancelled) -> None:
        def progress(done: int, all_: int, what: str) -> None:
            if cancelled():
                raise Stopped
            put(ExportLine(kind="progress", done=done, all=all_, what=what))

        with closing(connect(database)) as conn:
            revision, bundle = bundle_of(conn, job_id, wanted.revision)
            against, text = _against(conn, job_id, wanted)
        data = ReportData(
            job=bundle.job,
            made_at=made_at,
            revision=revision.number,
            saved_at=revision.saved_at,
            photos=bundle.photos,
            trips=bundle.trips,
            ticks=bundle.ticks,
            history=bundle.readings,
            against=against,
            against_title=text,
            progress=progress,
        )
        made = export(data, wanted.kind, wanted.board)
        put(ExportLine(kind="done", export=shelf.put(made), name=made.name, pages=made.pages, bytes=len(made.content)))

    return await in_lines(request, work)


def _against(conn: Connection, job_id: str, wanted: ExportRequest) -> tuple[Job | None, str]:
    if wanted.against_job is None and wanted.against_revision is None:
        return None, ""
    other = get_revision(conn, wanted.against_job or job_id, wanted.against_revision)
    return other.job, f"{other.job.job.title}, revision {other.number}"


@router.get("/api/exports/{export_id}", responses=NOT_FOUND, response_class=FileResponse)
def get_export(export_id: ExportId, request: Request) -> Response:
    """The file of an export that is ready, always to be saved: no page that was exported ever runs at this address."""
    shelf: ExportCache = request.app.state.shelf
    made = shelf.get(export_id)
    plain = made.name.encode("ascii", "ignore").decode() or "file"
    named = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(made.name)}"
    return FileResponse(made.content, headers={"content-disposition": named})


@router.get("/api/exports/{export_id}/pages/{number}", responses=NOT_FOUND, response_class=PngResponse)
async def get_page(export_id: ExportId, number: Annotated[int, Path(ge=1, le=5000)], request: Request) -> PngResponse:
    """A page of a sheet as a picture."""
    shelf: ExportCache = request.app.state.shelf
    made = shelf.get(export_id)
    if number > made.pages:
        raise HTTPException(404, f"'{made.name}' has {made.pages} pages.")
    return PngResponse(await asyncio.to_thread(page_picture, made.content, number))
