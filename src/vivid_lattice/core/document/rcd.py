"""The residual-current function of a device."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel

RcdType = Literal["AC", "A", "F", "B"]
#: In the order of what they see: each sees all that those before it do.
RCD_TYPES: tuple[RcdType, ...] = ("AC", "A", "F", "B")


class Rcd(DocumentModel):
    """Residual-current function of a device."""

    idn_ma: Annotated[float, Field(gt=0, le=1000)]
    type: RcdType = "A"
    time_delayed: Annotated[bool, Field(description="Time-delayed, type S.")] = False
    short_time_delayed: Annotated[bool, Field(description="Stays closed for 10 ms at least; type F always does.")] = (
        False
    )


#: Whether a device with electronics may be fed from either side, as its manufacturer states it.
Bidirectional = Annotated[
    bool | None,
    Field(description="Whether its manufacturer permits it to be fed from either side; null: not read."),
]
