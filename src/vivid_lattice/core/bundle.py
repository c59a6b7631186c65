"""A job with its photos, its trip log, its ticks and its readings as one ZIP, that is read back identical. The same job makes the same bytes."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Sequence
from dataclasses import asdict, dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Reading
from vivid_lattice.core.job_file import to_text

BUNDLE = "vivid-lattice-bundle/1"
MANIFEST, DOCUMENT = "bundle.json", "job.json"
_README = """A job of Vivid Lattice.

job.json     the job document; 'vivid-lattice schema' prints its form
bundle.json  what the photos show, the log of trips, the conductors ticked off, every reading
photos/      the photos, with a small one beside each
"""


@dataclass(frozen=True, slots=True, kw_only=True)
class BundledPhoto:
    """A photo as it is in a bundle."""

    board: str
    way: int | None
    caption: str
    at: str
    width: int
    height: int
    image: bytes
    small: bytes


@dataclass(frozen=True, slots=True)
class BundledTrip:
    """A line of the trip log."""

    at: str
    device: str
    ran: tuple[str, ...]
    note: str


@dataclass(frozen=True, slots=True)
class BundledReading:
    """A reading that the job ever had, when it was first saved, and whether it waits for a decision; those in force are in the document too."""

    reading: Reading
    kept_at: str
    undecided: bool = False


@dataclass(frozen=True, slots=True)
class BundledTick:
    """A conductor that is in."""

    board: str
    wire: str
    as_made: str


@dataclass(frozen=True, slots=True)
class Bundle:
    """A job with all that is kept beside its document."""

    job: Job
    photos: tuple[BundledPhoto, ...] = ()
    trips: tuple[BundledTrip, ...] = ()
    ticks: tuple[BundledTick, ...] = ()
    readings: tuple[BundledReading, ...] = ()


def as_zip(bundle: Bundle) -> bytes:
    """The bundle's file."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        _put(archive, "README.txt", _README.encode())
        _put(archive, DOCUMENT, to_text(bundle.job).encode("utf-8"))
        _put(archive, MANIFEST, _manifest(bundle).encode("utf-8"))
        for number, photo in enumerate(bundle.photos, 1):
            for name, content in zip(photo_names(number), (photo.image, photo.small), strict=True):
                _put(archive, name, content, packed=False)
    return out.getvalue()


def photo_names(number: int) -> tuple[str, str]:
    """Names of a photo and of the small one beside it."""
    return f"photos/{number:04}.jpg", f"photos/{number:04}-small.jpg"


def _manifest(bundle: Bundle) -> str:
    photos = [_photo_record(photo) for photo in bundle.photos]
    readings = [
        {"kept_at": each.kept_at, "undecided": each.undecided, "reading": each.reading.model_dump(mode="json")}
        for each in bundle.readings
    ]
    logs = {"trips": _all(bundle.trips), "ticks": _all(bundle.ticks), "readings": readings}
    return json.dumps({"format": BUNDLE, "photos": photos, **logs}, indent=2, ensure_ascii=False) + "\n"


def _photo_record(photo: BundledPhoto) -> dict[str, object]:
    return {key: value for key, value in asdict(photo).items() if key not in ("image", "small")}


def _all(lines: Sequence[BundledTrip | BundledTick]) -> list[dict[str, object]]:
    return [asdict(line) for line in lines]


def _put(archive: zipfile.ZipFile, name: str, content: bytes, *, packed: bool = True) -> None:
    """A file with a date that does not change, so that the same job makes the same bytes."""
    info = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
    info.compress_type = zipfile.ZIP_DEFLATED if packed else zipfile.ZIP_STORED
    info.external_attr = 0o644 << 16
    archive.writestr(info, content)
