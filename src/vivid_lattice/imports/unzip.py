"""Opening a ZIP from elsewhere: counted and weighed before anything of it is unpacked, and while it is."""

from __future__ import annotations

import io
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager

from vivid_lattice.core.messages import message
from vivid_lattice.imports.refusal import ImportRefused

_CHUNK = 64 * 1024


@contextmanager
def opened(raw: bytes, *, most_bytes: int, most_files: int) -> Iterator[zipfile.ZipFile]:
    """The archive, once its list of files is in order. Raises Refused."""
    try:
        archive = zipfile.ZipFile(io.BytesIO(raw))
    except (zipfile.BadZipFile, ValueError, OSError):
        raise ImportRefused(message(None, "import.zip.damaged")) from None
    with archive:
        entries = archive.infolist()
        if len(entries) > most_files:
            raise ImportRefused(message(None, "import.zip.files", n=str(len(entries)), max=str(most_files)))
        names = [entry.filename for entry in entries]
        if len(set(names)) < len(names):
            raise ImportRefused(message(None, "import.zip.same_name"))
        for packed in entries:
            if (
                packed.filename.startswith(("/", "\\"))
                or ".." in packed.filename.replace("\\", "/").split("/")
                or ":" in packed.filename
            ):
                raise ImportRefused(message(None, "import.zip.path"))
            if packed.flag_bits & 0x1:
                raise ImportRefused(message(None, "import.zip.password"))
        if sum(entry.file_size for entry in entries) > most_bytes:
            raise ImportRefused(message(None, "import.zip.large", n=str(most_bytes // 1024 // 1024)))
        yield archive


def unpacked(archive: zipfile.ZipFile, name: str, most_bytes: int) -> bytes:
    """A file of the archive, no larger than allowed whatever the archive says of its size. Raises Refused."""
    content = bytearray()
    try:
        with archive.open(name) as file:
            while chunk := file.read(_CHUNK):
                content += chunk
                if len(content) > most_bytes:
                    raise ImportRefused(message(None, "import.zip.file_large", name=name))
    except KeyError:
        raise ImportRefused(message(None, "import.zip.no_file", name=name)) from None
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError, OSError):
        raise ImportRefused(message(None, "import.zip.file_damaged", name=name)) from None
    return bytes(content)
