"""Bodies that several endpoints take or give."""

from __future__ import annotations

from pydantic import BaseModel

from vivid_lattice.core.document.job import Job


class DocumentRequest(BaseModel):
    """A document."""

    document: Job


class DocumentAnswer(BaseModel):
    """The document, changed."""

    document: Job
