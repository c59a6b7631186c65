"""What a board is housed in, where it is mounted, what is in it beside protection, and how it is to be laid out and wired."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Id, Name

TopOrBottom = Literal["top", "bottom"]
Entry = Literal["top", "bottom", "left", "right", "back"]
GearKind = Literal["contactor", "impulse-relay", "time-switch", "socket", "isolator"]
Millimetres = Annotated[float, Field(gt=0, le=3000)]

#: A half of a module is the finest step on a rail.
STEPS_A_MODULE = 2


class Enclosure(DocumentModel):
    """What a board is housed in. ``form`` 'rail': rows of 18 mm modules; 'stab': two columns of spaces that breakers are
    plugged on, ``rows`` counting the columns. ``heat_dissipation_w``: heat its manufacturer says it gets rid of; None: by its surface.
    """

    title: Name
    form: Literal["rail", "panelboard"] = "rail"
    rows: Annotated[int, Field(ge=1, le=8)]
    modules: Annotated[int, Field(ge=2, le=48, description="Of a row; spaces of a column.")]
    material: Literal["metal", "moulded", "wood"] = "metal"
    ip: Annotated[str, Field(pattern=r"^IP[0-6X][0-9X]$")] | None = None
    width_mm: Millimetres | None = None
    height_mm: Millimetres | None = None
    depth_mm: Millimetres | None = None
    heat_dissipation_w: Annotated[float, Field(gt=0, le=5000)] | None = None
    tandem_spaces: (
        Annotated[
            str,
            Field(
                pattern=r"^(none|all|\d{1,2}(-\d{1,2})?( ?, ?\d{1,2}(-\d{1,2})?)*)$",
                max_length=120,
                description="Spaces of a panel whose label permits tandem breakers: 25-40; all; none. Null: label not read.",
                examples=["25-40"],
            ),
        ]
        | None
    ) = None
    bar_position: Annotated[
        Literal["top", "bottom", "split"], Field(description="Split: neutral at the top, earth below.")
    ] = "split"
    bar_terminals: Annotated[
        int, Field(ge=2, le=200, description="Terminals of each kind of bar, all bars together.")
    ] = 24
    cable_entries: Annotated[tuple[Entry, ...], Field(strict=False, max_length=5)] = ("top", "bottom")
    openings_closed: Annotated[bool, Field(description="Every unused opening is closed by a blank.")] = True

    @property
    def tandem_space_numbers(self) -> frozenset[int] | None:
        """Numbers of the spaces that take tandem breakers; None: the panel's label is not read yet."""
        if self.tandem_spaces is None:
            return None
        count = self.rows * self.modules
        if self.tandem_spaces in ("none", "all"):
            return frozenset(range(1, count + 1) if self.tandem_spaces == "all" else ())
        numbers: set[int] = set()
        for part in self.tandem_spaces.split(","):
            first, _, last = part.strip().partition("-")
            numbers.update(range(int(first), int(last or first) + 1))
        return frozenset(numbers)


def space_number(column: int, offset_modules: float) -> int:
    """Number of a space of a panel: odd ones down the left column, even ones down the right. Common practice, no source.

    >>> space_number(1, 0.0), space_number(2, 3.5)
    (1, 8)
    """
    return 2 * int(offset_modules) + column


class Mounting(DocumentModel):
    """Where a board is mounted. ``highest_handle_m``: of its highest handle above the floor; ``bottom_edge_m``: of its lower edge;
    ``distance_m``: from the bath, basin or heater of a room with zones; None: not measured yet."""

    room: Id | None = None
    highest_handle_m: Annotated[float, Field(ge=0, le=10)] | None = None
    bottom_edge_m: Annotated[float, Field(ge=0, le=10)] | None = None
    distance_m: Annotated[float, Field(ge=0, le=50)] | None = None
    location: Literal[
        "wall",
        "cupboard",
        "clothes-closet",
        "under-stairs",
        "over-stairs",
        "escape-route",
        "hydrant-cupboard",
        "over-water",
    ] = "wall"
    clear_depth_m: Annotated[float, Field(ge=0, le=20, description="Free depth in front of it.")] | None = None
    door: Annotated[bool, Field(description="A door or cover keeps hands off.")] = True
    ambient_c: Annotated[float, Field(ge=-40, le=70)] | None = None


class LayoutPreferences(DocumentModel):
    """How the owner of the board wants it laid out. None: as the standard is used to."""

    main_switch_side: Literal["left", "right", "top"] | None = None
    supply_entry: TopOrBottom = "top"
    spare_pct: Annotated[float, Field(ge=0, le=80)] | None = None
    surge_beside_main: bool = True
    groups_together: bool = True
    separate_warm_devices: bool = True
    lighting_position: Annotated[
        Literal["anywhere", "first", "last"], Field(description="Lights and alarms along the rail.")
    ] = "anywhere"


class DevicePosition(DocumentModel):
    """Where a device is: its row (or column), and how many modules its left (upper) edge is from the row's beginning."""

    device: Annotated[str, Field(pattern=r"^[a-z-]+(:[a-z][a-z0-9-]{0,39})?$", max_length=60, examples=["way:c1"])]
    row: Annotated[int, Field(ge=1, le=8)]
    offset_modules: Annotated[float, Field(ge=0, le=48, multiple_of=0.5)]


class ControlGear(DocumentModel):
    """Control gear. A contactor is ahead of what it switches: circuits, or groups of shared RCDs. The others stand behind
    the device of the one circuit that they switch, or that feeds them (a socket on the rail). An isolator is beside the equipment
    and takes no place in the board. Impulse relays with a central off have their push-buttons on a control circuit of their own, whose breaker
    the first of them states (``coil_breaker_a``). ``motor_rating_a``: for motors (AC-7b, of an isolator AC-23); ``max_backup_a``: largest device
    upstream that the manufacturer permits; None: not looked up yet."""

    id: Id
    name: Name
    kind: GearKind
    rating_a: Annotated[float, Field(gt=0, le=125)] = 25.0
    switches: Annotated[tuple[Id, ...], Field(strict=False, min_length=1, max_length=60)]
    coil_breaker_a: (
        Annotated[
            float,
            Field(
                gt=0,
                le=63,
                description="Of a contactor's coil, or of the push-buttons of a central off; none: it has none.",
            ),
        ]
        | None
    ) = None
    coil_with: Annotated[Id, Field(description="The contactor whose coil it is switched with.")] | None = None
    central_off: Annotated[
        Name | None,
        Field(description="Of an impulse relay: what switches it off together with all others of the same name here."),
    ] = None
    motor_rating_a: Annotated[float, Field(gt=0, le=125)] | None = None
    max_backup_a: Annotated[float, Field(gt=0, le=400)] | None = None
    family: Annotated[str, Field(max_length=60)] | None = None


class BusbarStock(DocumentModel):
    """The comb busbar at hand. ``lines``: pins in turn on so many lines; ``terminal_height_mm``: where its pins meet a terminal."""

    rating_a: Annotated[float, Field(gt=0, le=400)]
    pins: Annotated[int, Field(ge=2, le=60)]
    lines: Literal[1, 2, 3] = 1
    terminal_height_mm: Annotated[float, Field(gt=0, le=100)] | None = None
    end_caps: bool = True


class WiringDefaults(DocumentModel):
    """How the board is wired. ``min_link_mm2``: least size of links; None: the standard's custom."""

    min_link_mm2: Annotated[float, Field(gt=0, le=120)] | None = None
    link_conductor: Annotated[
        Literal["flexible", "stranded", "solid"], Field(description="Of the links; flexible ends get ferrules.")
    ] = "flexible"
    rcds_ring_fed: Annotated[bool, Field(description="Shared RCDs are fed from both ends of a ring of links.")] = False
    extra_length_mm: Annotated[float, Field(ge=0, le=500)] = 60.0
    use_busbars: Annotated[bool, Field(description="Comb busbars where they fit, else links.")] = True


class NeutralConnection(DocumentModel):
    """A circuit whose neutral is, or is to be, on another bar than the one that belongs to its device: as it was found."""

    circuit: Id
    bar: Annotated[str, Field(pattern=r"^N(-[a-z][a-z0-9-]{0,39})?$", examples=["N-r2"])]


class LabelText(DocumentModel):
    """What a way is called on the chart, in the user's words."""

    circuit: Id
    text: Name


class Labels(DocumentModel):
    """Words on the board."""

    texts: Annotated[tuple[LabelText, ...], Field(strict=False, max_length=200)] = ()
    main_earth_location: Annotated[str, Field(max_length=200, description="Where the main earth is.")] = ""


class BoardBuild(DocumentModel):
    """All of a board that is not electrical: what it is in, where, and how it is laid out, wired and named."""

    enclosure: Enclosure | None = None
    mounting: Mounting | None = None
    layout_preferences: LayoutPreferences = LayoutPreferences()
    device_positions: Annotated[tuple[DevicePosition, ...], Field(strict=False, max_length=300)] = ()
    busbar_stock: BusbarStock | None = None
    wiring_defaults: WiringDefaults = WiringDefaults()
    labels: Labels = Labels()
    neutral_connections: Annotated[tuple[NeutralConnection, ...], Field(strict=False, max_length=200)] = ()
