"""Where things stand: rooms, what they are used for, and how near an item is to water or heat."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Id, Name

RoomKind = Literal[
    "ordinary",
    "bedroom",
    "living",
    "kitchen",
    "laundry",
    "garage",
    "basement",
    "bath",
    "shower",
    "sauna",
    "pool",
    "outdoors",
    "damp",
    "agricultural",
    "childcare",
    "treatment",
]

#: Rooms with zones round water or heat, and all whose items have rules of their own.
ZONED_ROOMS: frozenset[str] = frozenset({"bath", "shower", "sauna", "pool"})
SPECIAL_ROOMS: frozenset[str] = ZONED_ROOMS | {"outdoors", "damp", "agricultural"}


class Room(DocumentModel):
    """A place that loads stand in. ``bath``: with a bath or a shower tray; ``shower``: a shower without a tray.

    ``water_outlet_height_m``: height of the highest fixed shower head or water outlet; None: no higher than the zones' usual top.
    ``rim_height_m``: height of the rim of the bath or tray; None: not measured.
    """

    id: Id
    name: Name
    floor: Annotated[str, Field(max_length=60)] = ""
    kind: RoomKind = "ordinary"
    water_outlet_height_m: Annotated[float, Field(gt=0, le=5)] | None = None
    rim_height_m: Annotated[float, Field(gt=0, le=2)] | None = None
    water_jets: Annotated[bool, Field(description="Water jets are used for cleaning.")] = False
    fire_risk: Annotated[bool, Field(description="Stored or building material catches fire easily.")] = False


class EquipmentPosition(DocumentModel):
    """How an item is in a room with zones.

    ``distance_m``: horizontally from the edge of the bath, tray or basin, or from the fixed water outlet of a shower without
    a tray, or from the sauna heater; 0 or less: over or inside it. ``height_m``: above the floor, of its lowest part.
    None: not measured yet.
    """

    distance_m: Annotated[float, Field(ge=-5, le=50)] | None = None
    height_m: Annotated[float, Field(ge=-5, le=20)] | None = None
    ip: Annotated[str, Field(pattern=r"^IP[0-6X][0-9X]$", examples=["IPX4"])] | None = None
    rated_ambient_c: (
        Annotated[float, Field(gt=0, le=400, description="Surroundings its manufacturer makes it for.")] | None
    ) = None
    cable_rated_c: (
        Annotated[float, Field(gt=0, le=400, description="Temperature its cable's insulation withstands.")] | None
    ) = None
    selv_v: Annotated[float, Field(gt=0, le=60, description="Extra-low voltage it runs on; none: mains.")] | None = None
    fixed: Annotated[bool, Field(description="Permanently connected, not plugged in.")] = True
    zone_permitted: (
        Annotated[bool, Field(description="Whether its manufacturer permits it in that zone; none: not looked up.")]
        | None
    ) = None
