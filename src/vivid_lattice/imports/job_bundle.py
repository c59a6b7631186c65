"""A job with its photos from a ZIP: read whole, each part checked, or refused."""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from vivid_lattice.core.bundle import (
    BUNDLE,
    DOCUMENT,
    MANIFEST,
    Bundle,
    BundledPhoto,
    BundledReading,
    BundledTick,
    BundledTrip,
    photo_names,
)
from vivid_lattice.core.document.readings import Reading
from vivid_lattice.core.job_file import problems_of, read_document
from vivid_lattice.core.messages import message
from vivid_lattice.imports.refusal import ImportRefused
from vivid_lattice.imports.unzip import opened, unpacked
from vivid_lattice.photos import MAX_BYTES as MAX_PHOTO_BYTES
from vivid_lattice.photos import MAX_OF_A_JOB, NotAPicture, Picture, encoded_photo, unchanged_photo

MAX_BYTES = 200 * 1024 * 1024
MAX_DOCUMENT_BYTES = 8 * 1024 * 1024
_Time = Annotated[str, Field(max_length=40)]


class _Closed(BaseModel):
    model_config = ConfigDict(extra="forbid")


class _Photo(_Closed):
    board: Annotated[str, Field(max_length=40)]
    way: Annotated[int, Field(ge=1, le=200)] | None
    caption: Annotated[str, Field(max_length=200)]
    at: _Time
    width: int
    height: int


class _Trip(_Closed):
    at: _Time
    device: Annotated[str, Field(max_length=120)]
    ran: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=400)]
    note: Annotated[str, Field(max_length=4000)]


class _Tick(_Closed):
    board: Annotated[str, Field(max_length=40)]
    wire: Annotated[str, Field(max_length=200)]
    as_made: Annotated[str, Field(max_length=400)]


class _Reading(_Closed):
    kept_at: _Time
    undecided: bool = False
    reading: Reading


class _Manifest(_Closed):
    format: Literal["vivid-lattice-bundle/1"]
    photos: Annotated[list[_Photo], Field(max_length=MAX_OF_A_JOB)]
    trips: Annotated[list[_Trip], Field(max_length=5000)]
    ticks: Annotated[list[_Tick], Field(max_length=20_000)]
    readings: Annotated[list[_Reading], Field(max_length=50_000)] = []


def read_bundle(raw: bytes) -> Bundle:
    """The job in a bundle's bytes.

    Raises  Refused where the ZIP cannot be used; BadDocument where the job in it cannot
    """
    if not raw:
        raise ImportRefused(message(None, "import.job.empty"))
    if not raw.startswith(b"PK"):
        raise ImportRefused(message(None, "import.job.no_zip"))
    if len(raw) > MAX_BYTES:
        raise ImportRefused(message(None, "import.job.large", n=str(MAX_BYTES // 1024 // 1024)))
    with opened(raw, most_bytes=MAX_BYTES, most_files=2 * MAX_OF_A_JOB + 10) as archive:
        names = set(archive.namelist())
        if DOCUMENT not in names:
            raise ImportRefused(message(None, "import.job.no_document", name=DOCUMENT))
        job = read_document(unpacked(archive, DOCUMENT, MAX_DOCUMENT_BYTES))
        manifest = _read_manifest(unpacked(archive, MANIFEST, MAX_DOCUMENT_BYTES))
        photos = []
        for number, photo in enumerate(manifest.photos, 1):
            image, small = (unpacked(archive, name, MAX_PHOTO_BYTES) for name in photo_names(number))
            picture = _picture(number, image, small)
            photos.append(
                BundledPhoto(
                    board=photo.board,
                    way=photo.way,
                    caption=photo.caption,
                    at=photo.at,
                    width=picture.width,
                    height=picture.height,
                    image=picture.image,
                    small=picture.small,
                )
            )
    trips = tuple(BundledTrip(trip.at, trip.device, tuple(trip.ran), trip.note) for trip in manifest.trips)
    ticks = tuple(BundledTick(tick.board, tick.wire, tick.as_made) for tick in manifest.ticks)
    readings = tuple(BundledReading(each.reading, each.kept_at, each.undecided) for each in manifest.readings)
    return Bundle(job, tuple(photos), trips, ticks, readings)


def _read_manifest(raw: bytes) -> _Manifest:
    try:
        data: Any = json.loads(raw.decode("utf-8"))
        if isinstance(data, dict) and data.get("format") != BUNDLE:
            raise ImportRefused(
                message(None, "import.job.format", name=MANIFEST, format=str(data.get("format"))[:40], known=BUNDLE)
            )
        return _Manifest.model_validate(data)
    except ValidationError as why:
        first = problems_of(why.errors())[0]
        raise ImportRefused(
            message(None, "import.job.damaged", name=MANIFEST, path=first.path, why=first.message)
        ) from None
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError):
        raise ImportRefused(message(None, "import.job.no_json", name=MANIFEST)) from None


def _picture(number: int, image: bytes, small: bytes) -> Picture:
    """A photo as it is there where it is as this program writes them; else encoded again."""
    try:
        return unchanged_photo(image, small) or encoded_photo(image)
    except NotAPicture as why:
        raise ImportRefused(message(None, "import.job.photo", n=str(number), why=str(why))) from None
