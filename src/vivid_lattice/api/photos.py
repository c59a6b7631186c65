"""Photos of a job over HTTP: sent as the bytes of the file, kept re-encoded."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from fastapi import APIRouter, Body, Path, Query, Response

from vivid_lattice.api.dependencies import Connection
from vivid_lattice.api.jobs import JobId
from vivid_lattice.api.problems import NOT_FOUND, Problem
from vivid_lattice.photos import encoded_photo
from vivid_lattice.store import photos as store

router = APIRouter(prefix="/api/jobs/{job_id}/photos", tags=["photos"])

PhotoId = Annotated[str, Path(max_length=40)]
_FULL: dict[int | str, dict[str, Any]] = {409: {"model": Problem, "description": "No space for another photo"}}


class JpegResponse(Response):
    """A picture."""

    media_type = "image/jpeg"


@router.get("", responses=NOT_FOUND)
def list_photos(job_id: JobId, conn: Connection) -> list[store.Photo]:
    """What photos there are."""
    return store.list_photos(conn, job_id)


@router.post("", status_code=201, responses={**NOT_FOUND, **_FULL})
def add_photo(
    job_id: JobId,
    conn: Connection,
    raw: Annotated[bytes, Body(media_type="application/octet-stream")],
    board: Annotated[str, Query(max_length=40)],
    way: Annotated[int | None, Query(ge=1, le=200)] = None,
    caption: Annotated[str, Query(max_length=200)] = "",
    id: Annotated[str | None, Query(pattern=r"^[a-z0-9][a-z0-9-]{7,39}$", description="Sent twice it is one.")] = None,
) -> store.Photo:
    """Keep a photo of a board, or of one of its ways."""
    made = encoded_photo(raw)
    new = store.NewPhoto(
        id=id,
        board=board,
        way=way,
        caption=caption,
        width=made.width,
        height=made.height,
        image=made.image,
        small=made.small,
    )
    return store.add_photo(conn, job_id, new)


@router.get("/{photo_id}", responses=NOT_FOUND, response_class=JpegResponse)
def get_photo(
    job_id: JobId, photo_id: PhotoId, conn: Connection, size: Literal["image", "small"] = "image"
) -> JpegResponse:
    """The picture, or the small one beside it."""
    return JpegResponse(store.picture_of(conn, job_id, photo_id, size))


@router.delete("/{photo_id}", status_code=204, responses=NOT_FOUND)
def delete_photo(job_id: JobId, photo_id: PhotoId, conn: Connection) -> None:
    """Throw a photo away."""
    store.delete_photo(conn, job_id, photo_id)
