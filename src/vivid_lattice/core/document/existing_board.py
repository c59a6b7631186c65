"""A board as it was found: way by way, with what was wrong in it. What is to become of it is in the rest of the document."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Id, Name

#: A way without a device: closed by a blank, left open, or not looked at yet.
EMPTY: frozenset[str] = frozenset({"blank", "open", "unknown"})


class ExistingRcd(DocumentModel):
    """A residual-current function as it was found."""

    idn_ma: Annotated[float, Field(gt=0, le=1000)]
    type: Literal["AC", "A", "F", "B"] = "AC"
    time_delayed: bool = False


class ExistingWay(DocumentModel):
    """A way as it was found. ``kind``: a kind of device of the rule set, or 'blank', 'open', 'unknown'. ``cable_count``: how many are
    under its terminal. ``label``: what was written on it; ``actually_feeds``: what it feeds, once it was switched off and tested.
    ``old_type``: mark of an old breaker, 1 to 4 (BS 3871), L, H, G or U. ``line``: the way as it was typed, for what has no field
    of its own here. ``circuit``: the circuit that takes it over; None: not settled yet."""

    number: Annotated[int, Field(ge=1, le=200)]
    kind: Annotated[str, Field(min_length=1, max_length=40)]
    curve: Literal["B", "C", "D"] | None = None
    old_type: Literal["1", "2", "3", "4", "L", "H", "G", "U"] | None = None
    rating_a: Annotated[float, Field(gt=0, le=400)] | None = None
    rcd: ExistingRcd | None = None
    conductor_mm2: Annotated[float, Field(gt=0, le=400)] | None = None
    cable_count: Annotated[int, Field(ge=0, le=9)] = 1
    label: Annotated[str, Field(max_length=120)] = ""
    tested: bool = False
    actually_feeds: Annotated[str, Field(max_length=120)] = ""
    line: Annotated[str, Field(max_length=300)] = ""
    circuit: Id | None = None


class Observation(DocumentModel):
    """Something wrong that was seen: of a way, or of the board as a whole."""

    kind: Annotated[str, Field(pattern=r"^[a-z][a-z-]{0,39}$", examples=["burnt-terminal"])]
    way: Annotated[int, Field(ge=1, le=200)] | None = None
    note: Annotated[str, Field(max_length=500)] = ""


class ExistingBoard(DocumentModel):
    """A board as it was found. ``main_device``: what it is switched off by; ``replaced_by``: the board that takes its place."""

    id: Id
    name: Name
    main_device: Literal["switch", "rcd", "none", "unknown"] = "unknown"
    main_rating_a: Annotated[float, Field(gt=0, le=400)] | None = None
    main_rcd: ExistingRcd | None = None
    main_switched_poles: Literal["all", "lines"] | None = None
    material: Literal["metal", "moulded", "wood", "unknown"] = "unknown"
    replaced_by: Id | None = None
    ways: Annotated[tuple[ExistingWay, ...], Field(strict=False, max_length=200)] = ()
    observations: Annotated[tuple[Observation, ...], Field(strict=False, max_length=200)] = ()


class Survey(DocumentModel):
    """What was found on the first visit."""

    boards: Annotated[tuple[ExistingBoard, ...], Field(strict=False, max_length=20)] = ()
