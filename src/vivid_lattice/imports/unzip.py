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
        raise ImportRefused("The ZIP file is damaged or cut off; copy it again from where it came.") from None
    with archive:
        held = archive.infolist()
        if len(held) > most_files:
            raise ImportRefused(f"The ZIP holds {len(held)} files; {most_files} are the most that are read.")
        names = [one.filename for one in held]
        if len(set(names)) < len(names):
            raise ImportRefused("The ZIP holds two files of the same name, so that it cannot be told which is meant.")
        for one in held:
            if (
                one.filename.startswith(("/", "\\"))
                or ".." in one.filename.replace("\\", "/").split("/")
                or ":" in one.filename
            ):
                raise ImportRefused("The ZIP holds a file whose name leads out of it; it was not made by this program.")
            if one.flag_bits & 0x1:
                raise ImportRefused("The ZIP is locked with a password; unlock it first.")
        if sum(one.file_size for one in held) > most_bytes:
            raise ImportRefused(f"Unpacked, the ZIP would come to more than {most_bytes // 1024 // 1024} MB.")
        yield archive


def unpacked(archive: zipfile.ZipFile, name: str, most_bytes: int) -> bytes:
    """A file of the archive, no larger than allowed whatever the archive says of its size. Raises Refused."""
    found = bytearray()
    try:
        with archive.open(name) as file:
            while chunk := file.read(_CHUNK):
                found += chunk
                if len(found) > most_bytes:
                    raise ImportRefused(f"'{name}' in the ZIP is larger than the ZIP says, or than is read.")
    except KeyError:
        raise ImportRefused(f"The ZIP has no '{name}'.") from None
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError, OSError):
        raise ImportRefused(f"'{name}' in the ZIP is damaged; copy the file again from where it came.") from None
    return bytes(found)
