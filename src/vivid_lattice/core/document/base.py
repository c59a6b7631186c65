"""What every part of the document is made of: a strict, closed, frozen model, and the kinds of text that stand in it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field
from typing_extensions import TypeIs

Id = Annotated[str, Field(pattern=r"^[a-z][a-z0-9-]{0,39}$", examples=["c1"])]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Text = Annotated[str, Field(max_length=4000)]
Auto = Literal["auto"]
Origin = Literal["origin"]
#: A day as it is written in a document.
Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$", examples=["2027-03-01"])]

#: A time of day by the clock on the wall.
Minute = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2})?$")]


class DocumentModel(BaseModel):
    """Base of every part of the document: strict, closed and frozen, so that nothing slips in or changes in place."""

    model_config = ConfigDict(strict=True, extra="forbid", frozen=True, allow_inf_nan=False)


def is_auto(choice: object) -> TypeIs[Auto]:
    """Whether a device or cable is left to the design.

    >>> is_auto("auto"), is_auto(None)
    (True, False)
    """
    return isinstance(choice, str) and choice == "auto"  # a model compares its fields first, which is slow


def is_origin(feed: object) -> TypeIs[Origin]:
    """Whether a board is fed from the origin, not from a way of another board.

    >>> is_origin("origin"), is_origin(None)
    (True, False)
    """
    return isinstance(feed, str) and feed == "origin"
