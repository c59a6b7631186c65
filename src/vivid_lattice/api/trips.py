"""The trip log of a job over HTTP."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path
from pydantic import BaseModel, Field

from vivid_lattice.api.dependencies import Connection
from vivid_lattice.api.jobs import JobId
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import CheckedRoute
from vivid_lattice.store import trips as store

router = APIRouter(prefix="/api/jobs/{job_id}/trips", tags=["trips"], route_class=CheckedRoute)

TripId = Annotated[int, Path(ge=1, le=2**63 - 1)]


class NewTrip(BaseModel):
    """A device that tripped: when by the clock on the wall, which, the circuits something ran on, and a note."""

    at: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$", examples=["2026-11-20T18:40"])]
    device: Annotated[str, Field(min_length=1, max_length=90, examples=["main:r1"])]
    ran: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=200)] = []
    note: Annotated[str, Field(max_length=1000)] = ""


@router.get("", responses=NOT_FOUND)
def list_trips(job_id: JobId, conn: Connection) -> list[store.TripRecord]:
    """The log, newest first."""
    return store.list_trips(conn, job_id)


@router.post("", status_code=201, responses=NOT_FOUND)
def add_trip(job_id: JobId, new: NewTrip, conn: Connection) -> store.TripRecord:
    """Write a line into the log."""
    return store.add_trip(conn, job_id, new.at, new.device, list(new.ran), new.note)


@router.delete("/{trip_id}", status_code=204, responses=NOT_FOUND)
def delete_trip(job_id: JobId, trip_id: TripId, conn: Connection) -> None:
    """Delete a line that was wrong."""
    store.delete_trip(conn, job_id, trip_id)
