"""What is checked between inspections, how often, and from when; and when the next inspection is due."""

from __future__ import annotations

from calendar import monthrange
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True, kw_only=True)
class RoutineCheck:
    """A check that comes again. ``every_months`` 0: once, the next inspection. ``of``: the kind of device it is of."""

    of: str
    text: str
    every_months: int
    first: date
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualInterval:
    """The longest usual time to the next inspection of a kind of premises."""

    premises: str
    months: int


def routine_checks(network: Installation, begin: date) -> tuple[RoutineCheck, ...]:
    """The checks of what a job has, in the order of the standard's table.

    begin  from when they are counted, where nothing was read yet; else from the last reading
    """
    start = last_read(network.entered) or begin
    return tuple(
        RoutineCheck(
            of=row.of, text=row.text, every_months=row.months, first=later(start, row.months), source=row.source
        )
        for row in network.rules.testing.routine
        if row.of in _PRESENT and _PRESENT[row.of](network)
    )


def usual_intervals(network: Installation) -> tuple[UsualInterval, ...]:
    """The longest usual times to the next inspection; none where the standard has no custom."""
    return tuple(
        UsualInterval(premises=row.text, months=row.months)
        for row in network.rules.testing.routine
        if row.of == "inspection"
    )


def last_read(job: Job) -> date | None:
    """The day of the last reading in force; None where none is dated."""
    days = (day_of(reading.at[:10]) for reading in job.testing.readings if reading.at is not None)
    return max((day for day in days if day is not None), default=None)


def day_of(text: str | None) -> date | None:
    """A day as it is written in a document; None where there is no such day."""
    try:
        return date.fromisoformat(text or "")
    except ValueError:
        return None


def later(day: date, months: int) -> date:
    """A day some months later: the same of the month, or the month's last.

    >>> later(date(2026, 8, 31), 6)
    datetime.date(2027, 2, 28)
    """
    years, month = divmod(day.month - 1 + months, 12)
    year = day.year + years
    return date(year, month + 1, min(day.day, monthrange(year, month + 1)[1]))


def _has_rcd(network: Installation) -> bool:
    return bool(network.rcds.all)


def _has_arc_detection(network: Installation) -> bool:
    return any(not is_auto(circuit.device) and circuit.device.arc_fault for circuit in network.job.circuits)


def _has_surge_device(network: Installation) -> bool:
    return any(board.spds for board in network.job.boards)


def _has_alarm(network: Installation) -> bool:
    return any(load.kind == "alarm" for circuit in network.job.circuits for load in circuit.loads)


def _has_board(network: Installation) -> bool:
    return bool(network.job.boards)


_PRESENT: Mapping[str, Callable[[Installation], bool]] = {
    "rcd": _has_rcd,
    "afdd": _has_arc_detection,
    "spd": _has_surge_device,
    "alarm": _has_alarm,
    "board": _has_board,
}
