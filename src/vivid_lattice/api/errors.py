"""Errors that only the API knows."""

from __future__ import annotations


class Conflict(Exception):
    """A save from a revision that is no longer open, with both sides' changes since that revision in words."""

    def __init__(self, base: int, head: int, head_uid: str, theirs: list[str], yours: list[str]):
        self.base, self.head, self.head_uid, self.theirs, self.yours = base, head, head_uid, theirs, yours
        super().__init__(
            f"This change was made from revision {base}, but revision {head} is current. Nothing was overwritten."
        )


class NoSuchExport(Exception):
    """An export that is not on the shelf, or no longer."""

    def __init__(self, name: str):
        self.name = name
        super().__init__("This document has expired. Create it again.")
