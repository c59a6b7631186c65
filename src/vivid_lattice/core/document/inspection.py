"""What the certificate or report of a job states beside its readings: extent, limitations, departures, observations, signatures."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Id, Minute

_Line = Annotated[str, Field(max_length=120)]
_Sentence = Annotated[str, Field(max_length=1000)]


class InspectionObservation(DocumentModel):
    """Something found at an inspection. ``kind``: of the standard's catalogue; '' one of the user's own, whose text says it all.

    subject  id of the board or circuit it is of; '' the installation
    code     in the standard's words; '' as the catalogue codes it
    done     what was done about it at once
    Its photos are those of the job that are of ``observation:`` and its id.
    """

    id: Id
    kind: Annotated[str, Field(max_length=60)] = ""
    text: _Sentence = ""
    subject: Annotated[str, Field(max_length=40)] = ""
    code: Annotated[str, Field(max_length=40)] = ""
    done: _Sentence = ""
    at: Minute | None = None
    by: Annotated[str, Field(max_length=80)] = ""


class Limitation(DocumentModel):
    """What was not inspected or tested, and why. ``agreed_with`` '': it was met on the day."""

    text: _Sentence
    reason: _Sentence = ""
    agreed_with: _Line = ""


class Departure(DocumentModel):
    """Where the work departs from the standard on purpose, and why it is as safe."""

    clause: _Line
    text: _Sentence
    reason: _Sentence = ""


SignedFor = Literal["design", "construction", "inspection"]


class Signature(DocumentModel):
    """A declaration. ``digest``: of the job as it was signed, so that a later change shows."""

    role: SignedFor
    by: Annotated[str, Field(min_length=1, max_length=80)]
    position: _Line = ""
    at: Minute
    digest: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class Inspection(DocumentModel):
    """The inspection of a job. ``sample_pct``: share of the accessories that was opened and inspected [%]; None: not stated."""

    reason: _Line = ""
    extent: _Sentence = ""
    sample_pct: Annotated[float, Field(ge=0, le=100)] | None = None
    sample: _Sentence = ""
    comments: _Sentence = ""
    limitations: Annotated[tuple[Limitation, ...], Field(strict=False, max_length=100)] = ()
    departures: Annotated[tuple[Departure, ...], Field(strict=False, max_length=100)] = ()
    observations: Annotated[tuple[InspectionObservation, ...], Field(strict=False, max_length=400)] = ()
    signatures: Annotated[tuple[Signature, ...], Field(strict=False, max_length=9)] = ()
