"""Values that no one has stated: what is usual or declared, taken when a job or a circuit is made, until someone confirms it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import BaseModel, Field

from vivid_lattice.core.document.base import DocumentModel

if TYPE_CHECKING:
    from vivid_lattice.core.document.job import Job

Confirmation = Literal["measured", "enquiry", "read"]


class AssumedValue(DocumentModel):
    """A value of the document that is assumed. It is open while the document has that very value and no one has confirmed it:
    another value that is typed over it is stated, and needs no confirmation.

    field      where it is: ``supply.ze_ohm``, ``boards.main.assembly_ka``, ``circuits.c3.run.0.length_m``
    other      the other end of what is usual, which a check uses where it is the worse one; None: there is none
    confirmed  how it was confirmed; None: not yet
    """

    field: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_.-]{0,159}$", examples=["supply.ze_ohm"])]
    value: float | Annotated[str, Field(max_length=40)]
    other: float | None = None
    source: Annotated[str, Field(max_length=200, description="The table or rule that it is taken from.")]
    confirm: Annotated[str, Field(max_length=200, description="How it is confirmed on site.")] = ""
    confirmed: Confirmation | None = None


#: The earthing system, which is asked and not assumed: while a job has one that no one has stated, it lacks an input.
SYSTEM = "supply.system"
#: Values whose source the supply itself states: once it does, they are confirmed.
_SOURCES = {"supply.ze_ohm": "ze_source", "supply.fault_current_ka": "fault_current_source"}


def value_at(job: Job, field: str) -> Any:
    """The value at a field; None where the path leads nowhere (a circuit that was removed)."""
    return _at(job, field.split("."))


def with_value(job: Job, field: str, value: float | str | None) -> Job:
    """The job with another value at a field. KeyError where the path leads nowhere."""
    changed = _with(job, field.split("."), value)
    assert isinstance(changed, type(job))
    return changed


def supply_assumed(job: Job) -> bool:
    """Whether a job was begun with its supply assumed, however much of it has been stated since."""
    return any(assumed.field.startswith(("supply.", "boards.")) for assumed in job.assumptions)


def is_new_design(job: Job) -> bool:
    """Whether a job was begun with its supply assumed, and no board is there yet: its board is a choice of the designer. A job that
    was read from a file has assumptions of its circuits at most, those that were typed into it."""
    return supply_assumed(job) and not job.survey.boards


def open_assumptions(job: Job) -> tuple[AssumedValue, ...]:
    """What of a job must still be confirmed, in the order in which it was assumed."""
    return tuple(assumed for assumed in job.assumptions if is_open(job, assumed))


def is_open(job: Job, assumed: AssumedValue) -> bool:
    """Whether a value is still assumed: the document has it, and no one has confirmed it."""
    if assumed.confirmed is not None or value_at(job, assumed.field) != assumed.value:
        return False
    source = _SOURCES.get(assumed.field)
    return source is None or getattr(job.supply, source) is None


def confirmed(job: Job, field: str, how: Confirmation) -> Job:
    """The job with an assumed value confirmed. KeyError where nothing at that field is assumed and open."""
    if not any(assumed.field == field for assumed in open_assumptions(job)):
        raise KeyError(field)
    marked = tuple(
        assumed.model_copy(update={"confirmed": how}) if assumed.field == field else assumed
        for assumed in job.assumptions
    )
    job = job.model_copy(update={"assumptions": marked})
    source = _SOURCES.get(field)
    # 'Read off' is no source of an impedance or current: the supply keeps what it says of it.
    if source is None or how == "read":
        return job
    return job.model_copy(update={"supply": job.supply.model_copy(update={source: how})})


def assumed_with(job: Job, values: Sequence[AssumedValue]) -> Job:
    """The job with assumptions added; a former one of the same field gives place to the new one."""
    fields = {value.field for value in values}
    rest = tuple(assumed for assumed in job.assumptions if assumed.field not in fields)
    return job.model_copy(update={"assumptions": (*rest, *values)})


def stated(job: Job, fields: Sequence[str]) -> Job:
    """The job with the values at some fields stated by the user: nothing is assumed there any more, even at the same value."""
    rest = tuple(
        assumed
        for assumed in job.assumptions
        if not any(assumed.field == field or assumed.field.startswith(f"{field}.") for field in fields)
    )
    return job if len(rest) == len(job.assumptions) else job.model_copy(update={"assumptions": rest})


def _at(value: Any, path: Sequence[str]) -> Any:
    for part in path:
        if isinstance(value, tuple):
            value = _item(value, part)
        elif isinstance(value, BaseModel) and part in type(value).model_fields:
            value = getattr(value, part)
        else:
            return None
    return value


def _item(items: tuple[Any, ...], part: str) -> Any:
    """An element of a list: by its number, else by its id."""
    if part.isdigit():
        return items[int(part)] if int(part) < len(items) else None
    return next((item for item in items if getattr(item, "id", None) == part), None)


def _with(value: Any, path: Sequence[str], new: Any) -> Any:
    if not path:
        return new
    part = path[0]
    if isinstance(value, tuple):
        item = _item(value, part)
        if item is None:
            raise KeyError(part)
        return tuple(_with(each, path[1:], new) if each is item else each for each in value)
    if not isinstance(value, BaseModel) or part not in type(value).model_fields:
        raise KeyError(part)
    return value.model_copy(update={part: _with(getattr(value, part), path[1:], new)})
