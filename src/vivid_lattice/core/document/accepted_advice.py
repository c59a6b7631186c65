"""Advice that someone has read and accepted: which, by whom, and why. It is saved and printed with the job."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import Day, DocumentModel

#: Longest advice that is told apart by its whole text.
ADVICE_MAX = 400


class AcceptedAdvice(DocumentModel):
    """Advice that is accepted as it was then. It is not raised again while it says the same and is no worse.

    check, kind, subject  what the advice is due to: a check, and the circuit, board, supply, RCD or room that it lies in
    advice                what was said: the ids of its sentences, with their values where it has no margin
    margin                the smallest margin of them, 0 at the limit; None: they have none
    """

    check: Annotated[str, Field(pattern=r"^[a-z][a-z0-9-]{0,59}$", examples=["surge"])]
    kind: Literal["circuit", "board", "supply", "rcd", "room"]
    subject: Annotated[str, Field(min_length=1, max_length=160, examples=["supply"])]
    advice: Annotated[
        tuple[Annotated[str, Field(max_length=ADVICE_MAX)], ...], Field(strict=False, min_length=1, max_length=40)
    ]
    margin: float | None = None
    reason: Annotated[str, Field(min_length=1, max_length=400, examples=["Agreed with the client."])]
    name: Annotated[str, Field(max_length=120, description="Who accepted it.")] = ""
    date: Annotated[Day | None, Field(description="When it was accepted.")] = None
