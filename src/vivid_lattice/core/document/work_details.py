"""What the papers of a job need to know beside its design: what kind of work it is, who does it, whom to call."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel
from vivid_lattice.core.messages import Message, message

Work = Literal["new-installation", "board-replaced", "new-circuit", "alteration", "inspection"]

#: The kinds of work in the order of their size, with the words they go by.
WORKS: tuple[Work, ...] = get_args(Work)


def work_title(work: Work) -> Message:
    """What a kind of work is called."""
    return message(None, f"core.work.{work}")


_Line = Annotated[str, Field(max_length=120)]


class WorkDetails(DocumentModel):
    """Who is behind the work. ``kind`` None: not said yet; empty text: left to be written in by hand."""

    kind: Work | None = None
    contractor: _Line = ""
    contractor_phone: _Line = ""
    distributor: _Line = ""
    distributor_phone: _Line = ""
