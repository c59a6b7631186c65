"""Errors that only the API knows."""

from __future__ import annotations

from vivid_lattice.core.errors import MessageError
from vivid_lattice.core.messages import message


class Conflict(MessageError):
    """A save from a revision that is no longer open, with both sides' changes since that revision in words."""

    def __init__(self, base: int, head: int, head_uid: str, theirs: list[str], yours: list[str]):
        self.base, self.head, self.head_uid, self.theirs, self.yours = base, head, head_uid, theirs, yours
        super().__init__(message(None, "api.conflict", base=str(base), head=str(head)))


class NoSuchExport(MessageError):
    """An export that is not on the shelf, or no longer."""

    def __init__(self, name: str):
        self.name = name
        super().__init__(message(None, "api.no_such_export"))
