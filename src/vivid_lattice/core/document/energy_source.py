"""Sources beside the supply: those that feed a circuit in parallel with it, and those that supply a board while it is off."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Id, Name

SourceKind = Literal["solar", "battery", "hybrid", "generator", "vehicle"]
#: Sources that also draw from the supply, to charge.
CHARGING: frozenset[str] = frozenset({"battery", "hybrid", "vehicle"})
RatedOutput = Annotated[float | None, Field(gt=0, le=400, description="Rated output current, in each of its lines.")]


class EnergySource(DocumentModel):
    """A source at the end of a circuit, in parallel with the supply. None: not known yet."""

    kind: SourceKind
    rated_a: RatedOutput = None
    charging_at_peak: Annotated[
        Literal["always", "managed", "off"] | None,
        Field(
            description="Of a battery or vehicle: whether it charges while the rest of the job draws most; null: it may."
        ),
    ] = None
    dc_residual: Annotated[
        Literal["none", "pulsating", "smooth", "smooth-detected"] | None,
        Field(description="Direct current in its residual current, as its data state; null: smooth."),
    ] = None
    opposite_main: Annotated[
        bool | None, Field(description="Whether its breaker is at the end of the busbar away from the main breaker.")
    ] = None
    isolator: Annotated[bool | None, Field(description="Whether a lockable isolator is beside it.")] = None
    distributor: Annotated[
        Literal["applied", "accepted", "notified"] | None,
        Field(description="Where the connection is with the distributor; null: nothing done yet."),
    ] = None


class StandbySupply(DocumentModel):
    """What supplies a board, and all that it feeds, while the supply is off. None: not known yet.

    ``circuit``: the circuit that its inverter is on while the supply is there (a hybrid); none: it is connected at the changeover alone.
    """

    name: Name
    kind: Literal["generator", "inverter"]
    rated_a: RatedOutput = None
    circuit: Id | None = None
    changeover: Literal["automatic", "manual", "interlocked-inlet", "none"] | None = None
    switched_poles: Annotated[
        Literal["all", "lines"] | None, Field(description="Whether the changeover switches the neutral too.")
    ] = None
    neutral_earth_link: Annotated[
        Literal["fixed", "relay", "none"] | None,
        Field(
            description="What joins its neutral and earth while it supplies: fixed in the source, a relay, or nothing."
        ),
    ] = None
    electrode_ohm: Annotated[
        float | None, Field(gt=0, le=5000, description="Electrode that the earth has while it supplies.")
    ] = None
    fault_multiple: Annotated[
        float | None, Field(ge=0.5, le=20, description="Current into a short circuit, × rated, as its data state.")
    ] = None
    shutdown_s: Annotated[
        float | None, Field(gt=0, le=60, description="Time in which it stops in a short circuit, as its data state.")
    ] = None
    labelled: Annotated[bool | None, Field(description="Whether the board and the origin are labelled.")] = None
