"""Validating data from outside at a cost that is bounded, however wrong the data is.

One call of the validator holds the interpreter until it returns. A list of half a million wrong entries keeps it for
twenty seconds, and nothing else in the process runs. So a list ends at its first wrong entry; only then a part of the
data that is small enough is validated in full, so that a person still gets a line for each mistake in it.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache
from typing import Any, TypeVar

from pydantic import BaseModel, TypeAdapter, ValidationError
from pydantic_core import SchemaValidator

from vivid_lattice.core.errors import BadDocument, DocumentProblem

Model = TypeVar("Model", bound=BaseModel)

#: More fields than any object of a document or request has.
MAX_FIELDS = 500
#: More values than any job has: a thousand circuits have about fifty thousand.
MAX_VALUES = 200_000
#: Values that are validated in full where something is wrong; a house of forty circuits has about two thousand.
_FULL_VALUES = 4000
#: Elements of a long list that are kept where it is cut down.
_LEFT_OF_A_LIST = 2


def validated(model: type[Model], data: Any) -> Model:
    """The model in data already read from JSON. What is a model already is taken as it is.

    Raises  ValidationError with the mistakes; of data with many, those of its first _FULL_VALUES values
            BadDocument where an object has more than MAX_FIELDS fields, or the data more than MAX_VALUES values
    """
    _must_be_bounded(data)
    try:
        document: Model = _first_mistake_only(model).validate_python(data)
    except ValidationError:
        # Raises with every mistake of the part. Where there is none in it, the first one of the whole is raised as it is.
        model.model_validate(_shortened(data))
        raise
    return document


@cache
def _first_mistake_only(model: type[BaseModel]) -> SchemaValidator:
    """The model's validator, with every list ending at its first wrong entry."""
    # Without `_use_prebuilt=False` the parts of a model would be validated as they were built, to the last mistake.
    return SchemaValidator(_failing_fast(TypeAdapter(model).core_schema), _use_prebuilt=False)


def _failing_fast(schema: Any) -> Any:
    if isinstance(schema, dict):
        copy = {key: _failing_fast(part) for key, part in schema.items()}
        if schema.get("type") in ("list", "tuple", "set", "frozenset"):
            copy["fail_fast"] = True
        return copy
    if isinstance(schema, list):
        return [_failing_fast(part) for part in schema]
    return schema


def _must_be_bounded(data: Any) -> None:
    open_, values = [data], 0
    while open_:
        part = open_.pop()
        if isinstance(part, dict):
            if len(part) > MAX_FIELDS:
                raise _too_large(f"an object has {len(part)} fields; no document has more than {MAX_FIELDS}")
            values += len(part)
            open_.extend(part.values())
        elif isinstance(part, list):
            values += len(part)
            # Looked at before its entries are: a list may have millions.
            if values > MAX_VALUES:
                raise _too_large(f"it has more than {MAX_VALUES} values; no document is that large")
            open_.extend(part)


def _too_large(message: str) -> BadDocument:
    return BadDocument([DocumentProblem("", message)])


def _shortened(data: Any) -> Any:
    """The data with its lists ending where its first _FULL_VALUES values end."""
    left = _FULL_VALUES

    def copied(part: Any) -> Any:
        nonlocal left
        left -= 1
        if isinstance(part, dict):
            return {key: copied(value) for key, value in part.items()}
        if isinstance(part, list):
            return list(entries(part))
        return part

    def entries(part: list[Any]) -> Iterator[Any]:
        for number, value in enumerate(part):
            # No list is cut down to nothing: it would be called too short.
            if left <= 0 and number >= _LEFT_OF_A_LIST:
                return
            yield copied(value)

    return copied(data)
