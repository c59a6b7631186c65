"""Opening a ZIP from elsewhere: counted and weighed before anything of it is unpacked, and while it is."""

from __future__ import annotations

import io
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager

from vivid_lattice.imports.refusal import ImportRefused

_CHUNK = 64 * 1024


@contextmanager
def opened(raw: bytes, *, most_bytes: int, most_files: int) -> Iterator[zipfile.ZipFile]:
    """The archive, once its list of files is in order. Raises Refused."""
    try:
        archive = zipfile.ZipFile(io.BytesIO(raw))
    except (zipfile.BadZipFile, ValueError, OSError):
        raise ImportRefused("The ZIP file is damaged or incomplete. Copy it again.") from None
    with archive:
        entries = archive.infolist()
        if len(entries) > most_files:
            raise ImportRefused(f"The ZIP has {len(entries)} files; the maximum is {most_files}.")
        names = [entry.filename for entry in entries]
        if len(set(names)) < len(names):
            raise ImportRefused("The ZIP has two files with the same name. Remove one of them.")
        for packed in entries:
            if (
                packed.filename.startswith(("/", "\\"))
                or ".." in packed.filename.replace("\\", "/").split("/")
                or ":" in packed.filename
            ):
                raise ImportRefused("The ZIP has a file with an unsafe path. It was not made by this program.")
            if packed.flag_bits & 0x1:
                raise ImportRefused("The ZIP is password-protected. Unlock it first.")
        if sum(entry.file_size for entry in entries) > most_bytes:
            raise ImportRefused(f"The ZIP would unpack to more than {most_bytes // 1024 // 1024} MB.")
        yield archive


def unpacked(archive: zipfile.ZipFile, name: str, most_bytes: int) -> bytes:
    """A file of the archive, no larger than allowed whatever the archive says of its size. Raises Refused."""
    content = bytearray()
    try:
        with archive.open(name) as file:
            while chunk := file.read(_CHUNK):
                content += chunk
                if len(content) > most_bytes:
                    raise ImportRefused(f"“{name}” in the ZIP is larger than stated, or too large.")
    except KeyError:
        raise ImportRefused(f"The ZIP has no “{name}”.") from None
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError, OSError):
        raise ImportRefused(f"“{name}” in the ZIP is damaged. Copy the file again.") from None
    return bytes(content)
