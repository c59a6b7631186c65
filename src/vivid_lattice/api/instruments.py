"""Test instruments over HTTP: a tester on a port of this machine reads what the page requests."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from vivid_lattice.api.problems import Problem
from vivid_lattice.api.routes import CheckedRoute
from vivid_lattice.core.document.readings import ReadingId, ReadingKind, ReadingSubject
from vivid_lattice.instruments.adapter import InstrumentIdentity, InstrumentReading
from vivid_lattice.instruments.line_tester import LineTester

_REFUSED: dict[int | str, dict[str, Any]] = {409: {"model": Problem, "description": "The instrument gives no reading"}}
router = APIRouter(prefix="/api/instrument", tags=["testing"], route_class=CheckedRoute, responses=_REFUSED)

#: A port of the machine that the server runs on; no other host is reached from here.
Port = Annotated[int, Field(ge=1024, le=65535, examples=[8767])]


class InstrumentRequest(BaseModel):
    """The instrument at a port."""

    port: Port


class TakeReading(InstrumentRequest):
    """A reading to take. ``id``: chosen by the one who asks: asked again with it, the instrument gives the same reading; ``saved``: ids of
    readings that the instrument may forget."""

    id: ReadingId
    test: ReadingKind
    subject: ReadingSubject
    no_trip: bool = False
    saved: Annotated[list[ReadingId], Field(max_length=200)] = []


class NulledLeads(BaseModel):
    """What the leads have, and what is subtracted from now on [Ω]."""

    ohm: float


@router.post("")
def identify_instrument(request: InstrumentRequest) -> InstrumentIdentity:
    """Which instrument is connected."""
    return LineTester(request.port).identify()


@router.post("/null")
def null_leads(request: InstrumentRequest) -> NulledLeads:
    """Nulls the leads, whose tips are held together."""
    return NulledLeads(ohm=LineTester(request.port).null_leads())


@router.post("/read")
def take_reading(request: TakeReading) -> InstrumentReading:
    """A reading as the instrument shows it; it is entered like one that is typed."""
    tester = LineTester(request.port)
    reading = tester.read(request.id, request.test, request.subject, no_trip=request.no_trip)
    if request.saved:
        tester.acknowledge(tuple(request.saved))
    return reading


@router.post("/stored")
def list_stored(request: InstrumentRequest) -> list[InstrumentReading]:
    """Readings in the memory of the instrument that were not saved yet."""
    return list(LineTester(request.port).stored())
