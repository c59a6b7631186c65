"""A clean earth of a circuit's outlets: a protective conductor of their own, apart from the metal of boxes and of the building."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel


class CleanEarth(DocumentModel):
    """The insulated protective conductor of outlets for sensitive equipment. None: not known yet.

    area_mm2  its size
    ends_at   the earth bar of the circuit's board, or the main earth of the building, past the bars on its way
    marked    the outlets are marked as having it
    """

    area_mm2: Annotated[float | None, Field(gt=0, le=120)] = None
    ends_at: Literal["board", "main-earth"] | None = None
    marked: bool | None = None
