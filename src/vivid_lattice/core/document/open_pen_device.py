"""A device that disconnects a charging point when the PEN conductor of the supply breaks."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel


class OpenPenDevice(DocumentModel):
    """What the device detects, and how fast. None: not read yet."""

    detects: Annotated[
        Literal["touch-voltage", "supply-voltage"],
        Field(description="The voltage of the earth terminal to true earth, or the supply between line and neutral."),
    ]
    threshold_v: Annotated[float | None, Field(gt=0, le=230, description="Of a touch voltage.")] = None
    low_v: Annotated[
        float | None, Field(gt=0, le=400, description="Of the supply: below it the device disconnects.")
    ] = None
    high_v: Annotated[
        float | None, Field(gt=0, le=400, description="Of the supply: above it the device disconnects.")
    ] = None
    within_s: Annotated[float | None, Field(gt=0, le=60)] = None
    disconnects_earth: Annotated[
        bool | None, Field(description="Whether it disconnects the protective conductor too, with all live ones.")
    ] = None
