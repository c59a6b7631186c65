"""Messages in tests: their ids and values are compared, not their wording."""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.messages import Joined, Message, Text
from vivid_lattice.core.messages.message import Param


def ids(text: Text) -> list[str]:
    """The ids of a message and of every message within it, the outermost first."""
    return list(_ids(text))


def _ids(value: Param) -> Iterator[str]:
    if isinstance(value, Message):
        yield value.id
        for param in value.params.values():
            yield from _ids(param)
    elif isinstance(value, Joined):
        for item in value.items:
            yield from _ids(item)


def keys(found: Finding) -> list[str]:
    """The keys of a check that its finding says, in its sentence and its needs, without the check's own prefix."""
    prefix = f"core.check.{found.check}."
    said = [*ids(found.sentence), *(id_ for need in found.needs for id_ in ids(need.what))]
    return [id_.removeprefix(prefix) for id_ in said]


def says(found: Finding, key_or_words: str) -> bool:
    """Whether a finding says a message (by its key), or has a name or value in its sentence or its needs."""
    told = str(found.sentence) + "".join(str(need.what) for need in found.needs)
    return key_or_words in keys(found) or key_or_words in told
