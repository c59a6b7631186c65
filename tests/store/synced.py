"""What of the database's files is on the disk, as far as SQLite has asked the system to put it there.

A killed process loses nothing that it has written, whether or not it was synced; a machine whose power fails does. So a VFS is
laid over SQLite's own for the time of a test: at each sync of a file its contents are copied aside. What was copied last is what
would be left after a power cut.
"""

from __future__ import annotations

import _sqlite3
import ctypes as c
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

_OK = 0
#: The name is a bare pointer: SQLite keeps it for as long as the file is open, so it has to be its own and not a copy.
_OPEN = c.CFUNCTYPE(c.c_int, c.c_void_p, c.c_void_p, c.c_void_p, c.c_int, c.POINTER(c.c_int))
_SYNC = c.CFUNCTYPE(c.c_int, c.c_void_p, c.c_int)


class _Vfs(c.Structure):
    """sqlite3_vfs, version 3: what it begins with, and the rest as it is."""

    _fields_ = (
        ("version", c.c_int),
        ("file_size", c.c_int),
        ("longest_path", c.c_int),
        ("following", c.c_void_p),
        ("name", c.c_char_p),
        ("data", c.c_void_p),
        ("open", c.c_void_p),
        ("rest", c.c_void_p * 14),
    )


class _Methods(c.Structure):
    """sqlite3_io_methods, version 3."""

    _fields_ = (
        ("version", c.c_int),
        ("close", c.c_void_p),
        ("read", c.c_void_p),
        ("write", c.c_void_p),
        ("truncate", c.c_void_p),
        ("sync", c.c_void_p),
        ("rest", c.c_void_p * 13),
    )


class Disk:
    """The files as they were last synced, by path."""

    def __init__(self) -> None:
        self.synced: dict[str, bytes] = {}

    def after_power_cut(self, database: Path, into: Path) -> Path:
        """The database with what goes with it, as a power cut now would leave it, in another folder."""
        into.mkdir(parents=True)
        for suffix in ("", "-wal", "-journal"):
            content = self.synced.get(f"{database}{suffix}")
            # A journal that was removed by now is not put back: SQLite syncs the folder when it removes one.
            if content is not None and Path(f"{database}{suffix}").exists():
                (into / f"{database.name}{suffix}").write_bytes(content)
        return into / database.name


@contextmanager
def recorded() -> Iterator[Disk]:
    """Every file that SQLite opens meanwhile is watched. Files opened before are not."""
    sqlite = c.CDLL(_sqlite3.__file__)
    sqlite.sqlite3_vfs_find.restype = c.POINTER(_Vfs)
    disk, kept = Disk(), []
    usual = sqlite.sqlite3_vfs_find(None)
    watching = _Vfs.from_buffer_copy(usual.contents)
    watching.name = b"watching"
    real_open = _OPEN(usual.contents.open)
    methods: dict[tuple[int, str], _Methods] = {}

    def watched(own: int, path: str) -> _Methods:
        """The methods of a file, with a sync that copies it aside."""
        if (own, path) not in methods:
            made = _Methods.from_buffer_copy(_Methods.from_address(own))
            real_sync = _SYNC(made.sync)

            def sync(file: int, flags: int) -> int:
                code = int(real_sync(file, flags))
                if code == _OK:
                    disk.synced[path] = Path(path).read_bytes()
                return code

            held = _SYNC(sync)
            kept.append(held)
            made.sync = c.cast(held, c.c_void_p).value
            methods[own, path] = made
        return methods[own, path]

    def open_file(vfs: int, name: int | None, file: int, flags: int, out: object) -> int:
        code = int(real_open(vfs, name, file, flags, out))
        pointer = c.c_void_p.from_address(file)
        if code == _OK and name is not None and pointer.value:
            pointer.value = c.addressof(watched(pointer.value, c.string_at(name).decode()))
        return code

    own_open = _OPEN(open_file)
    watching.open = c.cast(own_open, c.c_void_p).value
    sqlite.sqlite3_vfs_register(c.byref(watching), 1)
    try:
        yield disk
    finally:
        sqlite.sqlite3_vfs_register(usual, 1)
        sqlite.sqlite3_vfs_unregister(c.byref(watching))
