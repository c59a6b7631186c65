"""What of a wiring list is done, over HTTP."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from vivid_lattice.api.dependencies import Connection
from vivid_lattice.api.jobs import JobId
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import CheckedRoute
from vivid_lattice.store import wiring_progress as store

router = APIRouter(prefix="/api/jobs/{job_id}/wiring-progress", tags=["wired"], route_class=CheckedRoute)


class TickGiven(BaseModel):
    """A conductor of a board's list, what it is now, and whether it is in."""

    board: Annotated[str, Field(min_length=1, max_length=40)]
    wire: Annotated[str, Field(min_length=1, max_length=200)]
    as_made: Annotated[str, Field(max_length=400)]
    done: bool


@router.get("", responses=NOT_FOUND)
def list_ticks(job_id: JobId, conn: Connection) -> list[store.WiringTick]:
    """Every conductor that is in."""
    return store.list_ticks(conn, job_id)


@router.post("", status_code=204, responses=NOT_FOUND)
def set_tick(job_id: JobId, given: TickGiven, conn: Connection) -> None:
    """Tick a conductor, or take its tick back."""
    store.set_tick(conn, job_id, store.WiringTick(given.board, given.wire, given.as_made), given.done)
