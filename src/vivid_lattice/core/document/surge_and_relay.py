"""What is in a board beside the circuits' own devices: surge protection, its decision, and the voltage-watching relay."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import Day, DocumentModel, Id, Name

Metres = Annotated[float, Field(ge=0, le=50)]


class Spd(DocumentModel):
    """A surge protective device. ``up_kv``: its protection level; ``leads_m``: line and earth side together, from where the
    line leaves its bar to where the earth arrives; None: not known yet.

    ``plug-on`` is on the bars beside the main switch; ``wired`` has leads and a backup device of its own.
    """

    id: Id
    name: Name
    type: Literal["1", "1+2", "2", "3"]
    form: Literal["plug-on", "wired"] = "wired"
    up_kv: Annotated[float, Field(gt=0, le=10)] | None = None
    uc_v: Annotated[float, Field(gt=0, le=1000)] | None = None
    discharge_ka: Annotated[float, Field(gt=0, le=200, description="In (8/20), of type 1 Iimp (10/350).")] | None = None
    leads_m: Metres | None = None
    short_circuit_ka: Annotated[float, Field(gt=0, le=200, description="Rating with its backup device.")] | None = None
    backup_a: (
        Annotated[float, Field(gt=0, le=400, description="Its own breaker or fuse; none: it has none.")] | None
    ) = None
    max_backup_a: (
        Annotated[float, Field(gt=0, le=400, description="Largest that its manufacturer permits upstream.")] | None
    ) = None
    live_mm2: Annotated[float, Field(gt=0, le=50)] | None = None
    earth_mm2: Annotated[float, Field(gt=0, le=50)] | None = None
    spark_gap_to_earth: Annotated[bool, Field(description="Neutral to earth by a spark gap: the form for TT.")] = False
    status: Literal["green", "red", "unchecked"] = "unchecked"
    years: Annotated[int, Field(ge=0, le=60, description="In service.")] | None = None


class SurgeDecline(DocumentModel):
    """The owner's decision to have no surge protection: who, when, why. It is kept with the job."""

    name: Name
    date: Day
    reason: Annotated[str, Field(min_length=1, max_length=1000)]
    in_writing: Annotated[bool | None, Field(description="Signed by the owner; none: not known.")] = None

    def how(self) -> str:
        """How it was declined, as it is said of it.

        >>> SurgeDecline(name="A", date="2026-09-12", reason="none", in_writing=True).how()
        'declined in writing'
        """
        if self.in_writing is None:
            return "declined; whether in writing is not known"
        return "declined in writing" if self.in_writing else "declined in speech only"


class SurgeRisk(DocumentModel):
    """What the need for surge protection goes by. None: not asked yet."""

    lightning_protection: bool | None = None
    overhead_line: bool | None = None
    consequence: (
        Annotated[
            Literal["ordinary", "safety", "money-or-data"],
            Field(description="What an overvoltage could cost at the worst: safety, great loss, or neither."),
        ]
        | None
    ) = None
    furthest_m: (
        Annotated[float, Field(gt=0, le=1000, description="Wiring from the device to the equipment furthest.")] | None
    ) = None
    withstand_kv: Annotated[float, Field(gt=0, le=12, description="Of the most delicate equipment.")] | None = None
    declined: SurgeDecline | None = None


class VoltageRelay(DocumentModel):
    """A relay that trips where the supply wanders, and closes again. Voltages are from line to neutral."""

    rating_a: Annotated[float, Field(gt=0, le=200)]
    over_v: Annotated[float, Field(gt=0, le=600)]
    under_v: Annotated[float, Field(gt=0, le=600)]
    over_s: Annotated[float, Field(ge=0, le=600, description="Delay before it trips on too much.")] = 0.1
    under_s: Annotated[float, Field(ge=0, le=600)] = 1.0
    reclose_s: Annotated[float, Field(ge=0, le=3600)] = 60.0
    hysteresis_v: Annotated[
        float, Field(ge=0, le=50, description="Inside the thresholds by so much before it closes.")
    ] = 3.0
    current_a: (
        Annotated[float, Field(gt=0, le=200, description="Over-current threshold; none: it has none.")] | None
    ) = None
    current_s: Annotated[float, Field(ge=0, le=3600)] = 10.0
