"""Errors that only the API knows."""

from __future__ import annotations


class Conflict(Exception):
    """A save from a revision that is no longer open, with both sides' changes since that revision in words."""

    def __init__(self, base: int, head: int, head_uid: str, theirs: list[str], yours: list[str]):
        self.base, self.head, self.head_uid, self.theirs, self.yours = base, head, head_uid, theirs, yours
        super().__init__(
            f"The change was made from revision {base}, and revision {head} is open now. Nothing was overwritten."
        )


class NoSuchExport(Exception):
    """An export that is not on the shelf, or no longer."""

    def __init__(self, name: str):
        self.name = name
        super().__init__("That export is no longer held; make it again.")
