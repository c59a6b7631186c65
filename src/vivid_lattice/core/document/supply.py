"""What arrives at the origin: the distributor's fuse, tails, transformer and service cable, earthing and bonding."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Id, Name

System = Literal["TN-S", "TN-C-S", "MEN", "TT"]
Curve = Literal["B", "C", "D"]
Found = Literal["measured", "enquiry", "declared"]


class CutOut(DocumentModel):
    """The distributor's fuse at the origin; or a breaker, with its characteristic."""

    kind: str
    curve: Curve | None = None
    rating_a: Annotated[float, Field(gt=0, le=400)]


class Tails(DocumentModel):
    """Conductors from the meter to the first board. ``length_m``, ``material`` None: not known yet."""

    area_mm2: Annotated[float, Field(gt=0, le=120)]
    length_m: Annotated[float, Field(gt=0, le=50)] | None = None
    material: Literal["copper", "aluminium"] | None = None
    device: Annotated[
        CutOut | None, Field(description="Protection of their own beside the meter; none: the cut-out alone.")
    ] = None


class Transformer(DocumentModel):
    """The transformer a supply is calculated from."""

    rated_kva: Annotated[float, Field(gt=0, le=2500)]
    impedance_pct: Annotated[float, Field(gt=0, le=20)]
    resistance_pct: Annotated[float, Field(ge=0, le=20, description="From its load loss; none: all reactance.")] = 0.0
    at_board: Annotated[bool, Field(description="The first board is at it: there is no service cable.")] = False


class ServiceCable(DocumentModel):
    """The cable from the transformer to the origin. ``earth_mm2`` None: as large as the line (a PEN does both)."""

    material: Literal["copper", "aluminium"] = "aluminium"
    area_mm2: Annotated[float, Field(gt=0, le=400)]
    length_m: Annotated[float, Field(gt=0, le=2000)]
    earth_mm2: Annotated[float, Field(gt=0, le=400)] | None = None


class Electrode(DocumentModel):
    """Rods that a TT installation is earthed by, in soil of known resistivity."""

    soil_ohm_m: Annotated[float, Field(gt=0, le=20_000)]
    rod_length_m: Annotated[float, Field(gt=0, le=30)]
    rod_diameter_mm: Annotated[float, Field(gt=0, le=100)] = 14.2
    rods: Annotated[int, Field(ge=1, le=20, description="Driven in a line.")] = 1
    spacing_m: Annotated[
        float | None, Field(gt=0, le=100, description="Between neighbouring rods; null: a rod's length.")
    ] = None
    source_ohm: Annotated[
        float | None,
        Field(
            gt=0, le=500, description="The source's own electrode and line, as declared; null: not known, not added."
        ),
    ] = None


class Bond(DocumentModel):
    """Metalwork that main bonding joins to the main earth. ``area_mm2`` None: not known yet."""

    name: Name
    area_mm2: Annotated[float, Field(gt=0, le=400)] | None = None


class SupplementaryBond(DocumentModel):
    """A conductor that joins metalwork within a room. ``to``: another exposed part, or a pipe or other metalwork that is not
    part of the installation. ``protective_mm2``: the protective conductor of the exposed part, the smaller of two.
    None: not known yet."""

    name: Name
    area_mm2: Annotated[float, Field(gt=0, le=400)] | None = None
    protective_mm2: Annotated[float, Field(gt=0, le=400)] | None = None
    to: Literal["part", "pipe"] = "pipe"
    protected: Annotated[bool, Field(description="Against mechanical damage: sheathed, or in conduit.")] = True


class Earthing(DocumentModel):
    """Conductors at the main earth. None: not known yet."""

    conductor_mm2: Annotated[float, Field(gt=0, le=400)] | None = None
    pen_mm2: (
        Annotated[float, Field(gt=0, le=400, description="Combined conductor ahead of where it is split.")] | None
    ) = None
    link_mm2: Annotated[float, Field(gt=0, le=400, description="MEN link or main bonding jumper.")] | None = None
    electrode_only: Annotated[bool, Field(description="The conductor runs to an electrode alone.")] = False
    bonds: Annotated[tuple[Bond, ...], Field(strict=False, max_length=20)] = ()
    supplementary: Annotated[tuple[SupplementaryBond, ...], Field(strict=False, max_length=40)] = ()


class LoadManagement(DocumentModel):
    """A controller with a current transformer on the supply: it reduces the loads that are marked as managed."""

    limit_a: Annotated[
        float, Field(gt=0, le=400, description="Total that it does not let the supply exceed, in any line.")
    ]
    fallback_a: Annotated[
        float | None,
        Field(ge=0, le=400, description="What its loads draw together when the sensor is lost; null: not read yet."),
    ] = None


class KnownDemand(DocumentModel):
    """What is known of the demand beside the estimate. ``measured_a``: greatest in any line, measured over ``measured_days``.
    ``limited_a``: rating of the main breaker that limits it, agreed with the client. ``management``: what keeps it below a limit.
    None: nothing."""

    measured_a: Annotated[float, Field(gt=0, le=400)] | None = None
    measured_days: Annotated[int, Field(ge=1, le=3660)] | None = None
    limited_a: Annotated[float, Field(gt=0, le=400)] | None = None
    management: LoadManagement | None = None


class PrerequisiteStatus(DocumentModel):
    """A prerequisite of a larger service (by the id ``upgrade`` gives it): for when it is arranged, and whether it is done."""

    id: Id
    due_on: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$", examples=["2027-03-01"])] | None = None
    done: bool = False


class SupplyRequest(DocumentModel):
    """A larger supply that is requested of the distributor. ``phases`` None: as many as now."""

    rating_a: Annotated[float, Field(gt=0, le=400, description="Rating of the service that is requested.")]
    phases: Literal[1, 2, 3] | None = None
    wanted_by: Annotated[str | None, Field(pattern=r"^\d{4}-\d{2}-\d{2}$", examples=["2027-03-01"])] = None
    note: Annotated[str, Field(max_length=1000)] = ""


class Supply(DocumentModel):
    """What arrives at the origin. Ze and the fault currents are those at the first board's incoming terminals.

    ``phases`` 2 is the split-phase supply: two lines of opposite sign and a neutral. ``nominal_v`` is from line to neutral.
    With a transformer given, Ze and the fault currents are calculated and must not be stated as well.
    """

    system: System
    phases: Literal[1, 2, 3] = 1
    nominal_v: Annotated[float, Field(ge=100, le=480)] = 230.0
    ze_ohm: (
        Annotated[float, Field(gt=0, le=5000, description="External earth fault loop; TT: with the electrode.")] | None
    ) = None
    ze_source: Found | None = None
    fault_current_ka: (
        Annotated[float, Field(gt=0, le=100, description="Largest prospective current, line to neutral or earth.")]
        | None
    ) = None
    fault_current_source: Found | None = None
    fault_current_lines_ka: (
        Annotated[float, Field(gt=0, le=100, description="Largest between all lines; none: taken as twice the other.")]
        | None
    ) = None
    transformer: Transformer | None = None
    service_cable: ServiceCable | None = None
    electrode: Electrode | None = None
    earthing: Earthing | None = None
    prerequisites: Annotated[tuple[PrerequisiteStatus, ...], Field(strict=False, max_length=20)] = ()
    cutout: CutOut | None = None
    demand: KnownDemand | None = None
    looped: Annotated[
        bool | None, Field(description="Whether the service cable goes on to a neighbour; null: not looked at.")
    ] = None
    meter_a: Annotated[float | None, Field(gt=0, le=400, description="Greatest current marked on the meter.")] = None
    request: Annotated[SupplyRequest | None, Field(description="A larger supply that is requested; null: none.")] = None
    tails: Tails | None = None
