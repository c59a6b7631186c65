"""What the fault view shows: stages in time, openings, touch voltage, energy, loss of supply, what stays live, what to do."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.faults.event import FaultEvent, FaultKind
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.selectivity.plot import BandPoints
from vivid_lattice.core.text import Shown


@dataclass(frozen=True, slots=True, kw_only=True)
class Trip:
    """A device that trips, or may. Infinite times are None: it may stay closed for ever.

    ``part``: 'overcurrent', 'residual' or 'voltage'; ``current_a``: the largest current that it sees, the residual one for that
    part; of a voltage-watching relay the voltage [V].
    """

    device: str
    name: Text
    where: Text
    part: str
    current_a: float
    earliest_s: float | None
    latest_s: float | None
    certain: bool
    shown: Text


@dataclass(frozen=True, slots=True, kw_only=True)
class FaultStage:
    """From one opening to the next: what flows during that time, and which devices may end it."""

    text: Text
    from_s: float
    until_s: float | None
    fault_a_most: float
    fault_a_least: float
    openings: tuple[Trip, ...]


@dataclass(frozen=True, slots=True)
class PathFlow:
    """A place on the path, with the currents on the stretch that leads to it: line, neutral, protective conductor [A]."""

    label: Text
    line_a: float
    neutral_a: float
    earth_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RoomLost:
    """A room, what it loses for certain and possibly, and whether its lights go out."""

    room: str
    name: str
    floor: str
    lights_out: str
    certainly: tuple[str, ...]
    perhaps: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Touch:
    """The voltage that a person may touch during that time [V], between what, and for how long [s] (None: it stays)."""

    volts: float
    between: Text
    seconds: float | None
    dangerous: bool


@dataclass(frozen=True, slots=True)
class ConductorHeating:
    """What is let through against what the smallest conductor on the way is [A²s]."""

    let_through_a2s: float
    stands_a2s: float
    enough: bool
    text: Text


@dataclass(frozen=True, slots=True, kw_only=True)
class FaultResult:
    """What an event leads to."""

    kind: FaultKind
    title: Text
    event: FaultEvent
    stages: tuple[FaultStage, ...]
    outcome: Text
    circuits_lost: tuple[str, ...]
    circuits_maybe_lost: tuple[str, ...]
    rooms: tuple[RoomLost, ...]
    touch: Touch | None
    heat: ConductorHeating | None
    path: tuple[PathFlow, ...]
    bands: tuple[BandPoints, ...]
    fault_a_least: float
    fault_a_most: float
    still_live: tuple[Text, ...]
    next_steps: tuple[Text, ...]
    notes: tuple[Text, ...]


def shown_time(seconds: float) -> Text:
    """A time as people say it.

    >>> [str(shown_time(value)) for value in (0.0, 0.0051, 0.04, 2.04, 95.0, 4000.0)]
    ['no delay', '5 ms', '40 ms', '2 s', '95 s', '67 min']
    """
    if seconds < 0.001:
        return message(None, "core.fault.no_delay")
    if seconds < 1:
        return Shown(f"{seconds * 1000:.0f} ms")
    return Shown(
        f"{seconds:.2g} s" if seconds < 10 else f"{seconds:.0f} s" if seconds < 600 else f"{seconds / 60:.0f} min"
    )
