"""A file that is not imported, and why."""

from __future__ import annotations

from vivid_lattice.core.errors import MessageError


class ImportRefused(MessageError):
    """A file that cannot be used; the sentence says what is wrong with it and what to do instead. Nothing was changed."""
