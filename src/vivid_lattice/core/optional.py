"""Figures that may be missing."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from vivid_lattice.core.errors import NeedsInput

Known = TypeVar("Known")


def or_none(figure: Callable[[], Known]) -> Known | None:
    """A figure, or None while one of its inputs is missing; the finding says which."""
    try:
        return figure()
    except NeedsInput:
        return None
