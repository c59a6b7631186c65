"""A message: an id of the catalogue with its parameters. It is data, compared and sorted as such, and rendered where it is shown."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, Any, TypeAlias

from pydantic_core import core_schema

from vivid_lattice.core.messages import catalogue
from vivid_lattice.core.text import Shown

if TYPE_CHECKING:
    from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
    from pydantic.json_schema import JsonSchemaValue

    from vivid_lattice.core.messages.vocabulary import Vocabulary

#: What a place in a template takes: a count (whole number, for plurals), a text or value as it is shown, or messages in turn.
Param: TypeAlias = "str | int | Message | Joined"


@dataclass(frozen=True, slots=True)
class Joined:
    """Several texts in a row, each once, with a separator between them."""

    items: tuple[Param, ...]
    separator: str = "; "

    @classmethod
    def of(cls, items: Iterable[Param], separator: str = "; ") -> Joined:
        """The items in their order, without repeats."""
        return cls(tuple(dict.fromkeys(items)), separator)


# Not frozen: nine hundred are made at each key press, and a frozen one takes twice as long to make. Nothing writes to one.
@dataclass(slots=True)
class Message:
    """An id with its parameters, and the words of the standard it is said in (None: it uses none of them)."""

    id: str
    params: Mapping[str, Param]
    words: Vocabulary | None = None

    def __hash__(self) -> int:
        return hash((self.id, *self.params.values()))

    def __str__(self) -> str:
        return catalogue.rendered(
            self.id, {name: self._value(value) for name, value in self.params.items()}, self.words
        )

    def __format__(self, spec: str) -> str:
        return format(str(self), spec)

    @staticmethod
    def _value(value: Param) -> str | int:
        if isinstance(value, Joined):
            return value.separator.join(str(Message._value(item)) for item in value.items)
        if isinstance(value, Shown):
            return catalogue.localised(value)
        return value if isinstance(value, str | int) else str(value)

    def data(self) -> dict[str, Any]:
        """The message as JSON, for who renders it: ``id``, ``params`` and the ``standard`` whose words it takes."""
        params = {name: value if type(value) is str else _as_json(value) for name, value in self.params.items()}
        return {"id": self.id, "params": params, "standard": self.words.standard if self.words else ""}

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return core_schema.is_instance_schema(
            cls, serialization=core_schema.plain_serializer_function_ser_schema(_serialised)
        )

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: core_schema.CoreSchema, handler: GetJsonSchemaHandler
    ) -> JsonSchemaValue:
        return {
            "anyOf": [
                {"type": "string"},
                {
                    "type": "object",
                    "properties": {
                        "id": {"type": "string"},
                        "params": {"type": "object", "additionalProperties": True},
                        "standard": {"type": "string"},
                    },
                    "required": ["id", "params", "standard"],
                },
            ],
        }


class _TextSchema:
    """How a text is validated and serialised: by one function, as a union that tries its members costs more than the rest of a
    finding."""

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return core_schema.is_instance_schema(
            (str, Message), serialization=core_schema.plain_serializer_function_ser_schema(_serialised)
        )

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: core_schema.CoreSchema, handler: GetJsonSchemaHandler
    ) -> JsonSchemaValue:
        return Message.__get_pydantic_json_schema__(schema, handler)


#: A text for people: a message, or words that a user typed.
Text: TypeAlias = Annotated[str | Message, _TextSchema]


def message(words: Vocabulary | None, id_: str, **params: Param) -> Message:
    """A message in the words of a standard; its parameters by the names in its template."""
    return Message(id_, params, words)


def _serialised(value: str | Message) -> str | dict[str, Any]:
    if isinstance(value, str):
        return value
    return value.data() if catalogue.as_ids.get() else str(value)


def _as_json(value: Param) -> Any:
    if isinstance(value, Message):
        return value.data()
    if isinstance(value, Joined):
        return {"items": [_as_json(item) for item in value.items], "separator": value.separator}
    # A value as it is shown is told from other text: its decimal sign goes with the language.
    return {"shown": str(value)} if isinstance(value, Shown) else value
