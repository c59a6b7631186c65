"""The job document: what an electrician writes down. It is also the open file format (``versions``).

Only what a person states is here; whatever can be computed is in the Assessment. ``None`` means *not known
yet*: a check that needs it says so and does not pass. ``"auto"`` means *choose for me*: ``design`` fills it in.
"""

from __future__ import annotations

from collections.abc import Collection
from typing import Annotated, Any, Literal

from pydantic import ConfigDict, Field, ModelWrapValidatorHandler, ValidationError, model_validator

from vivid_lattice.core.document.accepted_advice import AcceptedAdvice
from vivid_lattice.core.document.assumptions import AssumedValue
from vivid_lattice.core.document.base import Auto, DocumentModel, Id, Name, Origin, Text
from vivid_lattice.core.document.board_build import BoardBuild, ControlGear
from vivid_lattice.core.document.clean_earth import CleanEarth
from vivid_lattice.core.document.device_family import DeviceFamily
from vivid_lattice.core.document.energy_source import EnergySource, StandbySupply
from vivid_lattice.core.document.existing_board import Survey
from vivid_lattice.core.document.inspection import Inspection
from vivid_lattice.core.document.local_device import LocalDevice
from vivid_lattice.core.document.local_earthing import LocalEarthing
from vivid_lattice.core.document.open_pen_device import OpenPenDevice
from vivid_lattice.core.document.plan import Plan
from vivid_lattice.core.document.purchase import ArticlePrice, Purchase
from vivid_lattice.core.document.quote import QuoteTerms, SavedQuote
from vivid_lattice.core.document.rcd import Bidirectional, Rcd
from vivid_lattice.core.document.readings import Testing
from vivid_lattice.core.document.rooms import EquipmentPosition, Room
from vivid_lattice.core.document.supply import Curve, CutOut, Supply
from vivid_lattice.core.document.surge_and_relay import Spd, SurgeRisk, VoltageRelay
from vivid_lattice.core.document.versions import FORMAT, upgraded
from vivid_lattice.core.document.work_details import WorkDetails

Premises = Literal["dwelling", "shared-house", "high-rise", "student-rooms", "care-home", "other"]
CircuitKind = Literal["ring", "radial", "lighting", "fixed", "distribution", "control"]
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
    "dryer",
    "air-conditioner",
    "welder",
]
Line = Literal["L1", "L2", "L3"]
#: Lines in the order in which they are named.
LINES: tuple[Line, ...] = ("L1", "L2", "L3")

#: Loads that are plain resistance: their power factor is 1 by physics, so it need not be requested.
RESISTIVE_LOADS: frozenset[str] = frozenset({"cooker", "shower", "water-heater", "heater", "kiln"})


class JobInfo(DocumentModel):
    """Whose job it is, and by which rules."""

    title: Name
    client: Annotated[str, Field(max_length=120)] = ""
    site: Annotated[str, Field(max_length=240)] = ""
    notes: Text = ""
    rules: Annotated[str, Field(description="Id of the rule set, for instance 'uk'.")] = "uk"
    floor_area_m2: (
        Annotated[float, Field(gt=0, le=5000, description="Living area, where demand goes by it.")] | None
    ) = None
    premises: Premises = "dwelling"


class DevicePrice(DocumentModel):
    """What a kind of device costs, each pole. ``rating_a`` None: any rating that has no price of its own."""

    kind: Annotated[str, Field(max_length=60)]
    rating_a: Annotated[float, Field(gt=0, le=400)] | None = None
    each: Annotated[float, Field(ge=0, le=10_000)]


class CablePrice(DocumentModel):
    """What a metre of a cable costs."""

    type: Annotated[str, Field(max_length=60)]
    area_mm2: Annotated[float, Field(gt=0, le=400)]
    per_m: Annotated[float, Field(ge=0, le=10_000)]


class Prices(DocumentModel):
    """The user's own price list. A cable that it does not name is calculated by its copper and its length."""

    copper_per_kg: Annotated[float, Field(ge=0, le=1000)] = 12.0
    cable_per_m: Annotated[float, Field(ge=0, le=1000, description="What a metre costs beside its copper.")] = 0.5
    devices: Annotated[tuple[DevicePrice, ...], Field(strict=False, max_length=400)] = ()
    cables: Annotated[tuple[CablePrice, ...], Field(strict=False, max_length=400)] = ()
    articles: Annotated[tuple[ArticlePrice, ...], Field(strict=False, max_length=2000)] = ()


class Settings(DocumentModel):
    """Choices of the designer that the rules leave open."""

    drop_at_operating_temperature: Annotated[
        bool,
        Field(description="Correct voltage drop for a conductor that runs cooler than its limit (factor Ct)."),
    ] = False
    lighting_drop_limit_pct: Annotated[float, Field(gt=0, le=20)] | None = None
    other_drop_limit_pct: Annotated[float, Field(gt=0, le=20)] | None = None
    demand_method: (
        Annotated[str, Field(max_length=40, description="One of the standard's methods; none: its usual.")] | None
    ) = None
    terminals_c: Annotated[Literal[60, 75, 90], Field(description="Marked temperature of all terminals.")] | None = None
    design_spd: Annotated[
        bool, Field(description="Design adds the usual surge protective device where one is required.")
    ] = True
    design_usual: Annotated[
        bool, Field(description="Design takes no smaller device and cable than are usual for the kind of circuit.")
    ] = True
    design_for: Literal["size", "price"] = "size"
    language: Annotated[Literal["en", "de"], Field(description="Language of the job's documents.")] = "en"
    design_drop_pct: Annotated[
        float,
        Field(gt=0, le=20, description="Where a limit is recommended only, design enlarges a cable above this drop."),
    ] = 5.0


class MainSwitch(DocumentModel):
    """What the board is switched off by; it may carry a residual-current function. ``switched_poles``: all live conductors, or the
    lines alone; None: as the standard has it."""

    rating_a: Annotated[float, Field(gt=0, le=400)]
    rcd: Rcd | None = None
    switched_poles: Literal["all", "lines"] | None = None
    family: Annotated[str, Field(max_length=60)] | None = None
    bidirectional: Bidirectional = None


class SharedRcd(DocumentModel):
    """An RCD shared by several ways."""

    id: Id
    name: Name
    rating_a: Annotated[float, Field(gt=0, le=400)]
    rcd: Rcd
    family: Annotated[str, Field(max_length=60)] | None = None
    bidirectional: Bidirectional = None


class Way(DocumentModel):
    """A numbered place in a board, with the circuit it feeds and the shared RCD it is behind, if any."""

    number: Annotated[int, Field(ge=1, le=200)]
    circuit: Id
    rcd: Id | None = None


class FedByWay(DocumentModel):
    """A board fed from a way of another board."""

    board: Id
    way: Annotated[int, Field(ge=1, le=200)]


class Tap(DocumentModel):
    """How a further board at the origin is tapped off ahead of the first one's main switch, so that it stays on. None: not known
    yet. ``labelled``: at both boards."""

    device: CutOut | None = None
    breaking_ka: Annotated[float, Field(gt=0, le=150, description="As marked on its device.")] | None = None
    line_mm2: Annotated[float, Field(gt=0, le=120)] | None = None
    neutral_mm2: Annotated[float, Field(gt=0, le=120)] | None = None
    earth_mm2: Annotated[float, Field(gt=0, le=120)] | None = None
    length_m: Annotated[float, Field(gt=0, le=50)] | None = None
    labelled: bool | None = None


class Board(DocumentModel):
    """A consumer unit, switchboard or panel. ``tap``: of a further board at the origin, how it is tapped off."""

    id: Id
    name: Name
    fed_by: Origin | FedByWay
    way_count: Annotated[int, Field(ge=1, le=200)]
    main_switch: MainSwitch | None = None
    assembly_ka: (
        Annotated[
            float,
            Field(gt=0, le=100, description="Conditional short-circuit rating declared by the board's manufacturer."),
        ]
        | None
    ) = None
    busbar_a: Annotated[
        float | None, Field(gt=0, le=400, description="Rated current of the busbar, as its manufacturer states it.")
    ] = None
    standby: Annotated[
        StandbySupply | None, Field(description="What supplies it while the supply is off; null: nothing.")
    ] = None
    shared_rcds: Annotated[tuple[SharedRcd, ...], Field(strict=False, max_length=60)] = ()
    spds: Annotated[tuple[Spd, ...], Field(strict=False, max_length=10)] = ()
    voltage_relay: VoltageRelay | None = None
    ways: Annotated[tuple[Way, ...], Field(strict=False, max_length=200)] = ()
    control_gear: Annotated[tuple[ControlGear, ...], Field(strict=False, max_length=40)] = ()
    tap: Tap | None = None
    earthing: Annotated[
        LocalEarthing | None,
        Field(description="Of a board that a way feeds, where its earth comes from; null: not known."),
    ] = None
    build: BoardBuild = BoardBuild()


class Load(DocumentModel):
    """Something that draws current, or several equal ones."""

    name: Name
    kind: LoadKind
    appliance: (
        Annotated[
            str, Field(pattern=r"^[a-z][a-z0-9-]{0,39}$", description="What it is, where its kind is not enough.")
        ]
        | None
    ) = None
    power_w: Annotated[float, Field(gt=0, le=100_000)] | None = None
    count: Annotated[int, Field(ge=1, le=500, description="None: not counted yet.")] | None = 1
    power_factor: Annotated[float, Field(gt=0, le=1)] | None = None
    room: Id | None = None
    with_socket: Annotated[bool, Field(description="A cooker's control unit that holds a socket-outlet.")] = False
    lines: Annotated[
        tuple[Line, ...], Field(strict=False, max_length=3, description="None: evenly over all lines of its circuit.")
    ] = ()
    continuous: Annotated[bool, Field(description="Runs for three hours or more.")] = False
    duty_pct: Annotated[float, Field(gt=0, le=100, description="Share of the time it draws its current.")] | None = None
    starting_multiple: (
        Annotated[float, Field(ge=1, le=100, description="Starting or inrush current over the running one.")] | None
    ) = None
    third_harmonic_pct: Annotated[float, Field(ge=0, le=100, description="Of the line current.")] | None = None
    leakage_ma: (
        Annotated[float, Field(ge=0, le=100, description="Standing leakage of one; none: the usual of its kind.")]
        | None
    ) = None
    dc_residual: (
        Annotated[
            Literal["none", "pulsating", "smooth", "smooth-detected"],
            Field(
                description="Direct current in its leakage; none stated: by its kind. Detected: it trips at 6 mA itself."
            ),
        ]
        | None
    ) = None
    frequency_converter: Annotated[bool, Field(description="A frequency converter drives it.")] = False
    open_pen_protection: (
        Annotated[
            bool,
            Field(description="A charging point disconnects all conductors, earth too, when the supply's PEN is lost."),
        ]
        | None
    ) = None
    open_pen_device: Annotated[
        OpenPenDevice | None, Field(description="The device of its own that does so, as its data state it.")
    ] = None
    along_m: (
        Annotated[
            float, Field(ge=0, le=5000, description="Its position along the run, from the board; none: at the end.")
        ]
        | None
    ) = None
    at_peak: (
        Annotated[
            Literal["always", "managed", "off"],
            Field(
                description="While the rest of the job draws most: it certainly runs; load management reduces it; a time or "
                "priority switch keeps it off. None: by the diversity of the standard."
            ),
        ]
        | None
    ) = None
    surge_type_3: Annotated[bool, Field(description="A surge protective device type 3 is at it.")] = False
    rcd_exempt: (
        Annotated[bool, Field(description="Its manufacturer states that it may be without RCD protection.")] | None
    ) = None
    essential: Annotated[bool, Field(description="It must stay on when something else trips.")] = False
    position: EquipmentPosition | None = None

    @property
    def items(self) -> int:
        """How many there are; one while they are not counted."""
        return self.count or 1


class Section(DocumentModel):
    """One stretch of a run: how long, laid how, in what company."""

    length_m: Annotated[float, Field(gt=0, le=5000)] | None = None
    method: str
    ambient_c: Annotated[float, Field(ge=-40, le=90, description="Air or ground; none: the table's own.")] | None = None
    circuits_grouped: Annotated[int, Field(ge=1, le=100)] = 1
    grouping: str | None = None
    in_insulation_mm: Annotated[float, Field(gt=0, le=100_000)] | None = None
    soil_k_m_per_w: Annotated[float, Field(gt=0, le=10)] | None = None
    concealed_in: (
        Annotated[
            Literal["no", "wall", "metal-partition", "floor-or-ceiling"],
            Field(description="What it is concealed in; none stated: not known."),
        ]
        | None
    ) = None
    depth_mm: Annotated[float, Field(ge=0, le=2000, description="Least depth below the surface.")] | None = None
    earthed_metal_covering: Annotated[bool, Field(description="In earthed metal conduit or trunking.")] = False


class Cable(DocumentModel):
    """A cable by kind and size. ``cpc_mm2`` None: the size the cable is made up with."""

    type: str
    area_mm2: Annotated[float, Field(gt=0, le=400)]
    cpc: Literal["included", "core", "armour", "separate", "metal"] = "included"
    cpc_mm2: Annotated[float, Field(gt=0, le=2000)] | None = None
    cpc_mohm_per_m: (
        Annotated[
            float,
            Field(gt=0, le=1000, description="Of conduit or other metal that serves; measured, or its manufacturer's."),
        ]
        | None
    ) = None
    parallel_cpc_mm2: (
        Annotated[
            float, Field(gt=0, le=400, description="A copper conductor laid beside, in parallel with the cable's own.")
        ]
        | None
    ) = None


SwitchesNeutral = (
    Annotated[bool, Field(description="It switches the neutral too, as a two-pole device does; none: not looked up.")]
    | None
)
DeviceModules = (
    Annotated[
        float,
        Field(
            ge=0.5,
            le=12,
            multiple_of=0.5,
            description="Its width. A half: one of the two breakers of a tandem or double breaker; none: as usual.",
        ),
    ]
    | None
)


class Device(DocumentModel):
    """A protective device by kind, characteristic and rating. ``breaking_ka`` None: read it off the device."""

    kind: str
    curve: Curve | None = None
    rating_a: Annotated[float, Field(gt=0, le=400)]
    breaking_ka: Annotated[float, Field(gt=0, le=100)] | None = None
    let_through_a2s: (
        Annotated[float, Field(gt=0, le=1e9, description="As the manufacturer states it, for the current beside it.")]
        | None
    ) = None
    let_through_at_ka: (
        Annotated[
            float, Field(gt=0, le=150, description="Prospective current that the let-through energy is stated for.")
        ]
        | None
    ) = None
    rcd: Rcd | None = None
    arc_fault: Annotated[bool, Field(description="With, or beside, an arc-fault detection device.")] = False
    family: Annotated[str, Field(max_length=60, description="Family of the device library it is of.")] | None = None
    bidirectional: Bidirectional = None
    switches_neutral: SwitchesNeutral = None
    modules: DeviceModules = None

    @property
    def is_half(self) -> bool:
        """Whether it is one of two breakers that share the place of one."""
        return self.modules == 0.5

    @property
    def detects_arcs(self) -> bool:
        """Whether it detects arc faults, of its kind or with a part beside it."""
        return self.arc_fault or "afci" in self.kind or "dual" in self.kind

    @property
    def label(self) -> str:
        """Curve and rating, as on its front: B32; 30 A of what has no curve."""
        return f"{self.curve}{self.rating_a:g}" if self.curve else f"{self.rating_a:g} A"

    @property
    def label_with_rcd(self) -> str:
        """The same with its residual current: B32 30 mA."""
        return self.label + (f" {self.rcd.idn_ma:g} mA" if self.rcd is not None else "")


class Spur(DocumentModel):
    """A branch off a circuit. ``fuse_a`` None: unfused. ``length_m`` None: not known yet."""

    name: Name
    length_m: Annotated[float, Field(gt=0, le=500)] | None = None
    area_mm2: Annotated[float, Field(gt=0, le=400)]
    fuse_a: Annotated[float, Field(gt=0, le=63)] | None = None


class Preferred(DocumentModel):
    """What ``design`` takes where a circuit's device or cable is left open: the kind of cable; the kind, curve, residual-current
    part, arc-fault function, poles and width of the device. None: the usual of the standard."""

    cable: Annotated[str, Field(max_length=60)] | None = None
    device: Annotated[str, Field(max_length=60)] | None = None
    curve: Curve | None = None
    rcd: Rcd | None = None
    arc_fault: bool = False
    switches_neutral: SwitchesNeutral = None
    modules: DeviceModules = None


class Accessory(DocumentModel):
    """Something on a circuit that draws no current: a wall switch, a pull-cord switch, a junction box; where it is."""

    name: Name
    kind: Literal["switch", "pull-cord", "junction-box"]
    room: Id | None = None
    position: EquipmentPosition | None = None


class Circuit(DocumentModel):
    """A circuit: what it is for, what it feeds, how it runs, and what protects it.

    A ring's sections add up to the whole loop, from the board round and back. ``lines`` empty: one line, not yet said
    which (on a single-phase board there is but one). Two lines without a neutral feed a load between them; with one they
    are a multiwire circuit.
    """

    id: Id
    name: Name
    kind: CircuitKind
    loads: Annotated[tuple[Load, ...], Field(strict=False, max_length=500)] = ()
    accessories: Annotated[tuple[Accessory, ...], Field(strict=False, max_length=100)] = ()
    lines: Annotated[tuple[Line, ...], Field(strict=False, max_length=3)] = ()
    neutral: Annotated[bool, Field(description="False: the lines feed loads between them only.")] = True
    design_current_a: Annotated[float, Field(gt=0, le=400)] | None = None
    distributed_load: Annotated[
        bool, Field(description="Loads without a position are at equal distances along it, the last at its end.")
    ] = False
    use: Annotated[str, Field(max_length=40, description="A use the standard's demand goes by.")] | None = None
    leakage_ma: (
        Annotated[float, Field(ge=0, le=300, description="Standing leakage, measured with all its loads on.")] | None
    ) = None
    earthing: Annotated[
        LocalEarthing | None,
        Field(
            description="Where the earth of its points comes from; null: from its board, with its protective conductor."
        ),
    ] = None
    clean_earth: Annotated[
        CleanEarth | None, Field(description="A protective conductor of its outlets alone; null: they have none.")
    ] = None
    local_devices: Annotated[
        tuple[LocalDevice, ...],
        Field(
            strict=False,
            max_length=60,
            description="Its devices outside the board: at outlets, along the cable, beside equipment.",
        ),
    ] = ()
    source: Annotated[
        EnergySource | None,
        Field(description="A source at its end, in parallel with the supply; null: it feeds loads."),
    ] = None
    spurs: Annotated[tuple[Spur, ...], Field(strict=False, max_length=20)] = ()
    run: Annotated[tuple[Section, ...], Field(strict=False, min_length=1, max_length=20)]
    cable: Cable | Auto = "auto"
    device: Device | Auto = "auto"
    preferred: Preferred | None = None
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
        "earthing": {"conductor_mm2": 16, "bonds": [{"name": "water pipe", "area_mm2": 10}]},
    },
    "rooms": [{"id": "vestry", "name": "Vestry"}],
    "boards": [
        {
            "id": "main",
            "name": "Main board",
            "fed_by": "origin",
            "way_count": 8,
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


class Job(DocumentModel):
    """The whole document."""

    model_config = ConfigDict(json_schema_extra={"examples": [EXAMPLE]})

    format: Literal["vivid-lattice/3"]
    job: JobInfo
    settings: Settings = Settings()
    prices: Prices = Prices()
    purchase: Purchase = Purchase()
    work_details: WorkDetails = WorkDetails()
    supply: Supply
    surge: SurgeRisk = SurgeRisk()
    families: Annotated[
        tuple[DeviceFamily, ...], Field(strict=False, max_length=200, description="Device families of the user's own.")
    ] = ()
    rooms: Annotated[tuple[Room, ...], Field(strict=False, max_length=200)] = ()
    boards: Annotated[tuple[Board, ...], Field(strict=False, max_length=50)] = ()
    circuits: Annotated[tuple[Circuit, ...], Field(strict=False, max_length=1000)] = ()
    plan: Plan = Plan()
    survey: Survey = Survey()
    testing: Testing = Testing()
    inspection: Inspection = Inspection()
    quote: QuoteTerms = QuoteTerms()
    quotes: Annotated[tuple[SavedQuote, ...], Field(strict=False, max_length=200)] = ()
    assumptions: Annotated[
        tuple[AssumedValue, ...], Field(strict=False, max_length=4000, description="Values that no one has stated yet.")
    ] = ()
    accepted_advice: Annotated[
        tuple[AcceptedAdvice, ...],
        Field(strict=False, max_length=400, description="Advice that was read and accepted, with the reason."),
    ] = ()

    @model_validator(mode="wrap")
    @classmethod
    def _as_of_now(cls, data: Any, handler: ModelWrapValidatorHandler[Job]) -> Job:
        """A document of an older version, wherever it comes from, is read as one of this.

        Only one that is not in order as it is can be older: no former name or value is valid today.
        """
        try:
            return handler(data)
        except ValidationError:
            newer = upgraded(data) if isinstance(data, dict) else data
            if newer == data:
                raise
            return handler(newer)

    def find_circuit(self, circuit_id: str | None) -> Circuit | None:
        """A circuit by its id; None where there is none."""
        return next((circuit for circuit in self.circuits if circuit.id == circuit_id), None)

    def circuit(self, circuit_id: str) -> Circuit:
        """A circuit that is known to be there, by its id. KeyError where it is not."""
        circuit = self.find_circuit(circuit_id)
        if circuit is None:
            raise KeyError(circuit_id)
        return circuit

    def find_board(self, board_id: str | None) -> Board | None:
        """A board by its id; None where there is none."""
        return next((board for board in self.boards if board.id == board_id), None)

    def find_board_of(self, circuit_id: str) -> Board | None:
        """The board that a circuit has a way in; None where it is in none."""
        return next((board for board in self.boards if any(way.circuit == circuit_id for way in board.ways)), None)

    def board(self, board_id: str) -> Board:
        """A board that is known to be there, by its id. KeyError where it is not."""
        board = self.find_board(board_id)
        if board is None:
            raise KeyError(board_id)
        return board


def with_circuit(job: Job, circuit: Circuit) -> Job:
    """The job with one circuit (found by its id) replaced; the job given is left as it was."""
    return job.model_copy(update={"circuits": tuple(circuit if old.id == circuit.id else old for old in job.circuits)})


def with_parts(
    job: Job, circuits: tuple[Circuit, ...], boards: tuple[Board, ...] = (), supply: Supply | None = None
) -> Job:
    """The job with some circuits and boards (found by their ids) and its supply replaced; the job given is left as it was."""
    new_circuits, new_boards = {circuit.id: circuit for circuit in circuits}, {board.id: board for board in boards}
    return job.model_copy(
        update={
            "supply": supply or job.supply,
            "circuits": tuple(new_circuits.get(old.id, old) for old in job.circuits),
            "boards": tuple(new_boards.get(old.id, old) for old in job.boards),
        }
    )


def free_id(wish: str, taken: Collection[str]) -> str:
    """An id that nothing has yet: the one wished for, else with a number behind it.

    >>> free_id("sub", {"main"}), free_id("sub", {"sub", "sub-2"})
    ('sub', 'sub-3')
    """
    name, number = wish, 2
    while name in taken:
        name, number = f"{wish}-{number}", number + 1
    return name


def names_of(job: Job) -> dict[str, str]:
    """What the subjects of findings are called, by id."""
    names = {"supply": "Supply"} | {board.id: board.name for board in job.boards}
    return names | {circuit.id: circuit.name for circuit in job.circuits}
