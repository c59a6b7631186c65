"""Readings of a tester: the values in force, each as it was read, with when, by whom and with which instrument."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import Day, DocumentModel, Minute, Name

#: What was read. Resistances are those of the conductors named: r1 line, rn neutral, r2 protective; ``_end``: of a ring, end to end;
#: ``x_``: of a ring with its ends cross-connected; ``ir_``: insulation; ``pfc_``: prospective currents; ``u_me``: to a true earth;
#: ``r_nn``, ``r_cc``: between the neutrals, and the lines, of two circuits; ``i_res``: of all live conductors together.
ReadingKind = Literal[
    "insp", "r_me", "r_bond", "r1r2", "r1rn", "r2", "r1_end", "rn_end", "r2_end", "x_ln", "x_le", "ir_ln", "ir_le", "ir_ne", "pol",
    "ident", "ra", "u_ln", "u_ll", "u_load", "ze", "pfc_ln", "pfc_le", "zs", "zln", "rcd_half", "rcd_1", "rcd_5", "rcd_ramp",
    "rcd_button", "afdd", "spd", "rot", "func", "tester", "u_le", "u_ne", "u_me", "r_nn", "r_cc", "ir_cc", "ir_selv", "i_res", "i_pe",
    "rcd_load", "rcd_other", "temp",
]  # fmt: skip
#: A figure was read; it was beyond the range of the instrument, upwards or downwards; or what was seen is right, or is not.
ReadingState = Literal["value", "above-range", "below-range", "right", "wrong", "left-out"]
SubjectKind = Literal["supply", "board", "circuit", "rcd", "bond", "electrode", "spd"]
ReadingId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,59}$")]


class ReadingSubject(DocumentModel):
    """What was tested. ``id``: of a circuit its id; of a board its id; of an RCD ``board/rcd`` or the circuit whose device it is in; of a
    bond its number at the board (``main/1``); of an electrode the board or circuit it belongs to, ``supply`` of the installation's."""

    kind: SubjectKind
    id: Annotated[str, Field(max_length=90)]


class Instrument(DocumentModel):
    """A test instrument. ``uncertainty_pct``: its own operating uncertainty of resistances and loops; None: the usual one."""

    id: Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]
    name: Name
    serial: Annotated[str, Field(max_length=60)] = ""
    calibrated_on: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")] | None = None
    uncertainty_pct: Annotated[float, Field(ge=0, le=100)] | None = None


class Reading(DocumentModel):
    """A reading in force. ``value`` in Ω, MΩ, V, A, ms or mA, as its kind has it; None where none was read.

    temperature_c  of the conductors as they were read; None: 20 °C is not assumed, the day's temperature of the plan counts
    no_trip        a loop read by a method that does not trip the RCD
    alone          a resistance read with nothing else joined to the conductors, so that no other path is in it; None: not known
    parts          the readings that it is the mean of, as of an electrode with the potential spike at three places
    reason         why a test was left out
    """

    id: ReadingId
    test: ReadingKind
    subject: ReadingSubject
    point: Annotated[str, Field(max_length=80)] = ""
    state: ReadingState = "value"
    value: Annotated[float, Field(ge=0, le=1e6)] | None = None
    parts: Annotated[tuple[Annotated[float, Field(ge=0, le=1e6)], ...], Field(strict=False, max_length=3)] = ()
    temperature_c: Annotated[float, Field(ge=-40, le=120)] | None = None
    no_trip: bool = False
    alone: bool | None = None
    at: Minute | None = None
    by: Annotated[str, Field(max_length=80)] = ""
    instrument: Annotated[str, Field(max_length=40)] = ""
    replaces: ReadingId | None = None
    reason: Annotated[str, Field(max_length=400)] = ""


class IsolationDone(DocumentModel):
    """A step of safe isolation that was done: its number, when, by whom, and what is recorded of it."""

    step: Annotated[int, Field(ge=1, le=40)]
    at: Minute
    by: Annotated[str, Field(max_length=80)] = ""
    record: Annotated[str, Field(max_length=200)] = ""


class Testing(DocumentModel):
    """The testing of a job: temperature of the conductors on the day [°C], the steps of isolation done, instruments, the readings in
    force, and when the next inspection is due."""

    isolation: Annotated[tuple[IsolationDone, ...], Field(strict=False, max_length=40)] = ()
    temperature_c: Annotated[float, Field(ge=-40, le=60)] = 20.0
    instruments: Annotated[tuple[Instrument, ...], Field(strict=False, max_length=20)] = ()
    readings: Annotated[tuple[Reading, ...], Field(strict=False, max_length=5000)] = ()
    next_inspection: Day | None = None
