"""A device of a circuit that is not in its board: along the cable, at an outlet, beside the equipment."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Name
from vivid_lattice.core.document.rcd import Rcd

LocalDeviceKind = Literal[
    "rcd",
    "rcd-outlet",
    "rcd-fused-unit",
    "rcd-isolator",
    "fused-unit",
    "switch-fuse",
    "isolator",
    "cooker-unit",
    "interlocked-outlet",
]
#: Kinds that have a residual-current part, that have a fuse, and that are along the cable rather than at an outlet.
WITH_RCD: frozenset[str] = frozenset({"rcd", "rcd-outlet", "rcd-fused-unit", "rcd-isolator"})
WITH_FUSE: frozenset[str] = frozenset({"rcd-fused-unit", "fused-unit", "switch-fuse"})
_ALONG: frozenset[str] = frozenset({"rcd", "rcd-isolator", "switch-fuse"})


class LocalDevice(DocumentModel):
    """A device on the way to the loads of a circuit, or at them. ``rcd``: of the kinds that have one; None of any value: not known yet.

    at_m    its position along the run, from the board; None: at the end
    serves  names of the loads behind it; none: all of them
    """

    name: Name
    kind: LocalDeviceKind
    at_m: Annotated[float | None, Field(ge=0, le=5000)] = None
    serves: Annotated[tuple[Name, ...], Field(strict=False, max_length=60)] = ()
    rating_a: Annotated[float | None, Field(gt=0, le=125)] = None
    fuse_a: Annotated[float | None, Field(gt=0, le=125)] = None
    rcd: Rcd | None = None
    lockable: Annotated[bool | None, Field(description="Of an isolator: whether it can be locked off.")] = None

    @property
    def place(self) -> Literal["midway", "outlet"]:
        """Where it is, in the words of the standard's RCD rules: along the cable, so that it protects what follows; or at an outlet."""
        return "midway" if self.kind in _ALONG and self.at_m is not None else "outlet"
