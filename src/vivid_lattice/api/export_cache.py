"""Exports that are ready, kept for a while so that they can be looked at page by page and then saved."""

from __future__ import annotations

import secrets
import threading
from collections import OrderedDict

from vivid_lattice.api.errors import NoSuchExport
from vivid_lattice.reports.catalogue import ExportedFile

_MOST, _MAX_BYTES = 24, 400 * 1024 * 1024


class ExportCache:
    """The newest exports, as many as there is room for; the oldest go first."""

    def __init__(self) -> None:
        self._files: OrderedDict[str, ExportedFile] = OrderedDict()
        self._lock = threading.Lock()

    def put(self, made: ExportedFile) -> str:
        """Keep an export; returns the id it is found by."""
        name = secrets.token_hex(12)
        with self._lock:
            self._files[name] = made
            while len(self._files) > 1 and (len(self._files) > _MOST or self._bytes() > _MAX_BYTES):
                self._files.popitem(last=False)
        return name

    def get(self, name: str) -> ExportedFile:
        """An export by its id. Raises NoSuchExport where it has gone."""
        with self._lock:
            exported_file = self._files.get(name)
        if exported_file is None:
            raise NoSuchExport(name)
        return exported_file

    def _bytes(self) -> int:
        return sum(len(made.content) for made in self._files.values())
