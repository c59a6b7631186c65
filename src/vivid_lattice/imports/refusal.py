"""A file that is not taken in, and why."""

from __future__ import annotations


class ImportRefused(Exception):
    """A file that cannot be used; the sentence says what is wrong with it and what to do instead. Nothing was changed."""
