"""The names of the arguments in an ICU message template."""

from __future__ import annotations

import re

_ARGUMENT = re.compile(r"\s*(\w+)\s*(?:,\s*(plural|select|selectordinal)\s*,)?")


def arguments(template: str) -> frozenset[str]:
    """Names that a template takes, those within the branches of plurals and selections among them.

    Raises  ValueError where a brace is not closed, or an argument has no name

    >>> sorted(arguments("{n, plural, one {# circuit} other {# circuits}} of {board}: {kind, select, a {{x}} other {}}"))
    ['board', 'kind', 'n', 'x']
    """
    names: set[str] = set()
    end = _text(template, 0, names)
    if end != len(template):
        raise ValueError(f"a brace too many at {end}: {template}")
    return frozenset(names)


def _text(template: str, at: int, names: set[str]) -> int:
    """Past the text that begins at a place: to the brace that ends it, or the end."""
    while at < len(template) and template[at] != "}":
        if template[at] == "'" and template[at + 1 : at + 2] in ("{", "}"):
            at = template.index("'", at + 1)
        elif template[at] == "{":
            at = _argument(template, at + 1, names)
        at += 1
    return at


def _argument(template: str, at: int, names: set[str]) -> int:
    """To the brace that closes the argument whose name begins at a place."""
    match = _ARGUMENT.match(template, at)
    if match is None:
        raise ValueError(f"no argument at {at}: {template}")
    names.add(match.group(1))
    at = match.end()
    while match.group(2) and at < len(template) and template[at] != "}":
        if template[at] == "{":
            at = _text(template, at + 1, names)
        at += 1
    if at >= len(template) or template[at] != "}":
        raise ValueError(f"the argument {match.group(1)} is not closed: {template}")
    return at
