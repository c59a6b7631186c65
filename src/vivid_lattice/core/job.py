"""The job document: what an electrician writes down. It is also the open file format ``vivid-lattice/1``.

Only what a person states stands here; whatever can be computed is in the Assessment. ``None`` means *not known
yet*: a check that needs it says so and does not pass. ``"auto"`` means *choose for me*: ``design`` fills it in.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

FORMAT = "vivid-lattice/1"

Id = Annotated[str, Field(pattern=r"^[a-z][a-z0-9-]{0,39}$", examples=["c1"])]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Text = Annotated[str, Field(max_length=4000)]
Auto = Literal["auto"]

CircuitKind = Literal["ring", "radial", "lighting", "fixed", "distribution"]
LoadKind = Literal[
    "socket",
    "lamp",
    "cooker",
    "shower",
    "water-heater",
    "heater",
    "kiln",
    "motor",
    "alarm",
    "appliance",
    "charger",
]
System = Literal["TN-S", "TN-C-S", "TT"]

#: Loads that are plain resistance: their power factor is 1 by physics, so it need not be asked for.
RESISTIVE_LOADS: frozenset[str] = frozenset({"cooker", "shower", "water-heater", "heater", "kiln"})


class Part(BaseModel):
    """Base of every part of the document: strict, closed and frozen, so that nothing slips in or changes in place."""

    model_config = ConfigDict(strict=True, extra="forbid", frozen=True, allow_inf_nan=False)


class JobInfo(Part):
    """Whose job it is, and by which rules."""

    title: Name
    client: Annotated[str, Field(max_length=120)] = ""
    site: Annotated[str, Field(max_length=240)] = ""
    notes: Text = ""
    rules: Annotated[str, Field(description="Id of the rule set, for instance 'uk'.")] = "uk"


class Settings(Part):
    """Choices of the designer that the rules leave open."""

    drop_at_operating_temperature: Annotated[
        bool,
        Field(description="Correct voltage drop for a conductor that runs cooler than its limit (factor Ct)."),
    ] = False
    lighting_drop_limit_pct: Annotated[float, Field(gt=0, le=20)] | None = None
    other_drop_limit_pct: Annotated[float, Field(gt=0, le=20)] | None = None


class Cutout(Part):
    """The distributor's fuse at the origin."""

    kind: str
    rating_a: Annotated[float, Field(gt=0, le=400)]


class Tails(Part):
    """Conductors from the meter to the first board."""

    area_mm2: Annotated[float, Field(gt=0, le=120)]
    length_m: Annotated[float, Field(gt=0, le=50)]


class Supply(Part):
    """What arrives at the origin. Ze and the fault current are those at the first board's incoming terminals."""

    system: System
    phases: Literal[1, 3] = 1
    nominal_v: Annotated[float, Field(ge=100, le=480)] = 230.0
    ze_ohm: (
        Annotated[float, Field(gt=0, le=5000, description="External earth fault loop; TT: with the electrode.")] | None
    ) = None
    ze_source: Literal["measured", "enquiry", "declared"] | None = None
    fault_current_ka: Annotated[float, Field(gt=0, le=100, description="Largest prospective fault current.")] | None = (
        None
    )
    fault_current_source: Literal["measured", "enquiry", "declared"] | None = None
    cutout: Cutout | None = None
    tails: Tails | None = None


class Room(Part):
    """A place that loads stand in."""

    id: Id
    name: Name
    floor: Annotated[str, Field(max_length=60)] = ""


class Rcd(Part):
    """Residual-current function of a device."""

    idn_ma: Annotated[float, Field(gt=0, le=1000)]
    type: Literal["AC", "A", "F", "B"] = "A"
    delayed: bool = False


class MainSwitch(Part):
    """What the board is switched off by; it may carry a residual-current function."""

    rating_a: Annotated[float, Field(gt=0, le=400)]
    rcd: Rcd | None = None


class GroupRcd(Part):
    """An RCD shared by several ways."""

    id: Id
    name: Name
    rating_a: Annotated[float, Field(gt=0, le=400)]
    rcd: Rcd


class Way(Part):
    """A numbered place in a board, with the circuit it feeds and the shared RCD it stands behind, if any."""

    number: Annotated[int, Field(ge=1, le=200)]
    circuit: Id
    rcd: Id | None = None


class FedByWay(Part):
    """A board fed from a way of another board."""

    board: Id
    way: Annotated[int, Field(ge=1, le=200)]


class Board(Part):
    """A consumer unit, switchboard or panel."""

    id: Id
    name: Name
    fed_by: Literal["origin"] | FedByWay
    ways_total: Annotated[int, Field(ge=1, le=200)]
    main_switch: MainSwitch | None = None
    assembly_ka: (
        Annotated[
            float,
            Field(gt=0, le=100, description="Conditional short-circuit rating declared by the board's maker."),
        ]
        | None
    ) = None
    rcds: Annotated[tuple[GroupRcd, ...], Field(strict=False)] = ()
    ways: Annotated[tuple[Way, ...], Field(strict=False)] = ()


class Load(Part):
    """Something that draws current, or several alike."""

    name: Name
    kind: LoadKind
    power_w: Annotated[float, Field(gt=0, le=100_000)] | None = None
    count: Annotated[int, Field(ge=1, le=500)] = 1
    power_factor: Annotated[float, Field(gt=0, le=1)] | None = None
    room: Id | None = None
    with_socket: Annotated[bool, Field(description="A cooker's control unit that holds a socket-outlet.")] = False


class Section(Part):
    """One stretch of a run: how long, laid how, in what company."""

    length_m: Annotated[float, Field(gt=0, le=5000)] | None = None
    method: str
    ambient_c: Annotated[float, Field(ge=-40, le=90, description="Air or ground; none: the table's own.")] | None = None
    circuits_grouped: Annotated[int, Field(ge=1, le=100)] = 1
    grouping: str | None = None
    in_insulation_mm: Annotated[float, Field(gt=0, le=100_000)] | None = None
    soil_k_m_per_w: Annotated[float, Field(gt=0, le=10)] | None = None


class Cable(Part):
    """A cable by kind and size. ``cpc_mm2`` None: the size the cable is made up with."""

    type: str
    area_mm2: Annotated[float, Field(gt=0, le=400)]
    cpc: Literal["included", "core", "armour", "separate"] = "included"
    cpc_mm2: Annotated[float, Field(gt=0, le=400)] | None = None


class Device(Part):
    """A protective device by kind, characteristic and rating. ``breaking_ka`` None: read it off the device."""

    kind: str
    curve: Literal["B", "C", "D"] | None = None
    rating_a: Annotated[float, Field(gt=0, le=400)]
    breaking_ka: Annotated[float, Field(gt=0, le=100)] | None = None
    rcd: Rcd | None = None


class Circuit(Part):
    """A circuit: what it is for, what it feeds, how it runs, and what protects it.

    A ring's sections add up to the whole loop, from the board round and back.
    """

    id: Id
    name: Name
    kind: CircuitKind
    loads: Annotated[tuple[Load, ...], Field(strict=False)] = ()
    design_current_a: Annotated[float, Field(gt=0, le=400)] | None = None
    run: Annotated[tuple[Section, ...], Field(strict=False, min_length=1, max_length=20)]
    cable: Cable | Auto = "auto"
    device: Device | Auto = "auto"
    notes: Text = ""


#: A small whole document, for the schema.
EXAMPLE: dict[str, Any] = {
    "format": FORMAT,
    "job": {"title": "Chapel on the hill"},
    "supply": {
        "system": "TN-C-S",
        "ze_ohm": 0.28,
        "ze_source": "measured",
        "fault_current_ka": 1.4,
        "cutout": {"kind": "fuse-bs88-3", "rating_a": 80},
        "tails": {"area_mm2": 25, "length_m": 2},
    },
    "rooms": [{"id": "vestry", "name": "Vestry"}],
    "boards": [
        {
            "id": "main",
            "name": "Main board",
            "fed_by": "origin",
            "ways_total": 8,
            "ways": [{"number": 1, "circuit": "c1"}],
        }
    ],
    "circuits": [
        {
            "id": "c1",
            "name": "Vestry heater",
            "kind": "fixed",
            "loads": [{"name": "Heater", "kind": "heater", "power_w": 3000, "room": "vestry"}],
            "run": [{"length_m": 18, "method": "C"}],
            "cable": {"type": "flat-twin-pvc", "area_mm2": 2.5},
            "device": "auto",
        }
    ],
}


class Job(Part):
    """The whole document."""

    model_config = ConfigDict(json_schema_extra={"examples": [EXAMPLE]})

    format: Literal["vivid-lattice/1"]
    job: JobInfo
    settings: Settings = Settings()
    supply: Supply
    rooms: Annotated[tuple[Room, ...], Field(strict=False, max_length=200)] = ()
    boards: Annotated[tuple[Board, ...], Field(strict=False, max_length=50)] = ()
    circuits: Annotated[tuple[Circuit, ...], Field(strict=False, max_length=1000)] = ()


def with_circuit(job: Job, circuit: Circuit) -> Job:
    """The job with one circuit (found by its id) replaced; the job given is left as it was."""
    return job.model_copy(update={"circuits": tuple(circuit if old.id == circuit.id else old for old in job.circuits)})
