"""Where the earth of a board in another building, or of the points of a circuit outdoors, comes from."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel
from vivid_lattice.core.document.supply import Bond, Electrode, SupplementaryBond

#: ``same-building``: the earth of the board that feeds it, in the same building, so that nothing else applies. ``exported``: the
#: protective conductor of its feeder, taken to another building. ``electrode``: its own electrode alone; the feeder's protective
#: conductor ends unconnected. ``exported-and-electrode``: both. ``neutral-link``: its own electrode, and neutral and earth joined there.
LocalEarthingKind = Literal["same-building", "exported", "electrode", "exported-and-electrode", "neutral-link"]
#: Kinds that have an electrode of their own.
WITH_ELECTRODE: frozenset[str] = frozenset({"electrode", "exported-and-electrode", "neutral-link"})
#: Kinds that the points of a circuit may have; a link is a board's.
OF_POINTS: frozenset[str] = frozenset({"electrode", "exported-and-electrode"})


class LocalEarthing(DocumentModel):
    """How a board that another board feeds is earthed, or the points of a circuit. None: not known yet."""

    kind: LocalEarthingKind
    electrode_ohm: Annotated[
        float | None, Field(gt=0, le=5000, description="Resistance of its own electrode, measured.")
    ] = None
    electrode: Annotated[
        Electrode | None, Field(description="Its own electrode, calculated where it is not measured.")
    ] = None
    conductor_mm2: Annotated[
        float | None, Field(gt=0, le=400, description="Earthing conductor to its own electrode.")
    ] = None
    link_mm2: Annotated[float | None, Field(gt=0, le=400, description="Its own neutral–earth link.")] = None
    separation_m: Annotated[
        float | None,
        Field(ge=0, le=1000, description="From metal on its own electrode to the nearest metal on the other earth."),
    ] = None
    feeder_earth_connected: Annotated[
        bool | None,
        Field(description="Whether the feeder's protective conductor or armour is connected at this end."),
    ] = None
    has_metalwork: Annotated[
        bool | None, Field(description="Whether pipes, frames or other metalwork there must be bonded.")
    ] = None
    bonds: Annotated[tuple[Bond, ...], Field(strict=False, max_length=20)] = ()
    supplementary: Annotated[tuple[SupplementaryBond, ...], Field(strict=False, max_length=40)] = ()


def own_electrode_alone(earthing: LocalEarthing | None) -> bool:
    """Whether the earth is an electrode alone, apart from the earth of what feeds it."""
    return earthing is not None and earthing.kind == "electrode"


def links_neutral(earthing: LocalEarthing | None) -> bool:
    """Whether neutral and earth are joined there."""
    return earthing is not None and earthing.kind == "neutral-link"
