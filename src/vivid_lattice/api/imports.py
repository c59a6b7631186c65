"""Tables and databases that come in, over HTTP. A table is looked at first; nothing of it is in the job until that is saved."""

from __future__ import annotations

import asyncio
import tempfile
from pathlib import Path
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Depends, Query, Request
from pydantic import BaseModel, Field

from vivid_lattice.api.dependencies import Connection
from vivid_lattice.api.exports import FileResponse
from vivid_lattice.api.jobs import JobId, raw_body
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import CheckedRoute
from vivid_lattice.core.entry.tables.circuits import read_circuits
from vivid_lattice.core.entry.tables.columns import FIELDS, PRICE_FIELDS, matched
from vivid_lattice.core.entry.tables.prices import read_prices
from vivid_lattice.core.entry.tables.rows import MAX_ROWS, ReadRows
from vivid_lattice.imports.table import MAX_CELL, MAX_COLUMNS, ReadTable, read_pasted, read_table
from vivid_lattice.store import backup
from vivid_lattice.store.jobs import get_revision

router = APIRouter(tags=["import"], route_class=CheckedRoute)

Of = Literal["circuits", "prices"]
_Cell = Annotated[str, Field(max_length=MAX_CELL)]
_FILE: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "description": "The bytes of the file.",
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


class FieldLine(BaseModel):
    """Something a column can be."""

    id: str
    title: str
    needed: bool


class TableAnswer(BaseModel):
    """A table as it was read, with what each column seems to be."""

    table: ReadTable
    fields: list[FieldLine]
    mapping: dict[str, int]


class RowsRequest(BaseModel):
    """Rows to try, which column is which field, the revision they are tried on, and the number of the first row."""

    base: Annotated[int, Field(ge=1, le=2**63 - 1)]
    rows: Annotated[list[Annotated[list[_Cell], Field(max_length=MAX_COLUMNS)]], Field(max_length=MAX_ROWS)]
    mapping: Annotated[dict[str, Annotated[int, Field(ge=0, lt=MAX_COLUMNS)]], Field(max_length=MAX_COLUMNS)]
    first_row: Annotated[int, Field(ge=1, le=10_000)] = 2


@router.post("/api/imports/table", openapi_extra=_FILE)
def read_file(
    raw: Annotated[bytes, Depends(raw_body)], of: Annotated[Of, Query()] = "circuits", pasted: bool = False
) -> TableAnswer:
    """A CSV or XLSX file, or what was pasted, as rows of text. Refused with the reason where it is none."""
    table = read_pasted(raw.decode("utf-8", "replace")) if pasted else read_table(raw)
    fields = FIELDS if of == "circuits" else PRICE_FIELDS
    lines = [FieldLine(id=field.id, title=field.title, needed=field.needed) for field in fields]
    return TableAnswer(table=table, fields=lines, mapping=matched(table.heads, fields))


@router.post("/api/jobs/{job_id}/imports/circuits", responses=NOT_FOUND)
def try_circuits(job_id: JobId, request: RowsRequest, conn: Connection) -> ReadRows:
    """What the rows would make of a revision. Nothing is kept: the document that comes back is saved like any other change."""
    return read_circuits(get_revision(conn, job_id, request.base).job, request.rows, request.mapping, request.first_row)


@router.post("/api/jobs/{job_id}/imports/prices", responses=NOT_FOUND)
def try_prices(job_id: JobId, request: RowsRequest, conn: Connection) -> ReadRows:
    """The same for a price list."""
    return read_prices(get_revision(conn, job_id, request.base).job, request.rows, request.mapping, request.first_row)


@router.get("/api/backup", response_class=FileResponse)
def get_backup(request: Request) -> FileResponse:
    """The whole database as one file, consistent while it is in use."""
    with tempfile.TemporaryDirectory() as folder:
        copy = backup.write_backup(request.app.state.database, Path(folder) / "copy.sqlite3")
        named = 'attachment; filename="vivid-lattice-backup.sqlite3"'
        return FileResponse(copy.read_bytes(), headers={"content-disposition": named})


@router.post("/api/backup/inspect", openapi_extra=_FILE)
async def inspect_backup(request: Request) -> backup.BackupContent:
    """What a backup holds, before it is put in the place of everything."""
    with tempfile.TemporaryDirectory() as folder:
        return await asyncio.to_thread(backup.read_backup, await _received(request, folder))


@router.post("/api/backup/restore", openapi_extra=_FILE)
async def restore_backup(request: Request) -> backup.Restored:
    """A backup put in the place of everything; what was there is kept beside it as a backup of its own."""
    with tempfile.TemporaryDirectory() as folder:
        file = await _received(request, folder)
        return await asyncio.to_thread(backup.restore, request.app.state.database, file)


async def _received(request: Request, folder: str) -> Path:
    file = Path(folder) / "sent.sqlite3"
    with file.open("wb") as out:
        async for chunk in request.stream():
            out.write(chunk)
    return file
