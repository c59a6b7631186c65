"""A standard's own description, ``standard.toml``: its words, and which table answers which question.

What it may state is in ``data/standard.schema.json``; it is validated when it is loaded, and what is wrong is told with file and line.
"""

from __future__ import annotations

import json
import re
import tomllib
from collections.abc import Mapping, Sequence
from functools import lru_cache
from importlib.resources.abc import Traversable
from types import MappingProxyType
from typing import Any

import jsonschema_rs

from vivid_lattice.core.errors import BadTable
from vivid_lattice.core.rules.data_folder import data_root, homes

NAME = "standard.toml"
_Path = tuple[str | int, ...]
_HEADER = re.compile(r"^\s*(\[\[?)\s*([\w.\"-]+)\s*\]\]?")
_KEY = re.compile(r"^\s*(\"[^\"]+\"|[\w-]+(?:\.[\w-]+)*)\s*=")


@lru_cache
def standard_file(standard: str) -> Mapping[str, Any]:
    """The description of a standard; a variant's laid over its base.

    Lists of entries with an ``id`` are laid over each other by it: an entry of the variant changes the base's entry of
    the same id or is added; every other list or value of the variant takes the base's place.

    Raises BadTable with file and line for what the schema does not permit.
    """
    folder, variant = homes()[standard]
    files = [data_root() / folder / NAME, *([variant] if variant else [])]
    parsed = [_parsed(file) for file in files]
    merged = laid_over(parsed[0], parsed[1]) if variant else parsed[0]
    for error in _validator().iter_errors(merged):
        path = [part for part in error.instance_path if isinstance(part, str | int)]
        # A value that the variant states is wrong there; any other is its base's.
        stated = (
            each for each, data in reversed(list(zip(files, parsed, strict=True))) if _at(data, path) == error.instance
        )
        file = next(stated, files[0])
        raise BadTable(f"{file.name} of {standard}, line {line_of(file.read_text('utf-8'), path)}", error.message)
    return MappingProxyType(merged)


@lru_cache
def _validator() -> jsonschema_rs.Draft202012Validator:
    text = (data_root() / "standard.schema.json").read_text("utf-8")
    return jsonschema_rs.Draft202012Validator(json.loads(text))


def _parsed(file: Traversable) -> dict[str, Any]:
    try:
        return tomllib.loads(file.read_text("utf-8"))
    except tomllib.TOMLDecodeError as why:
        raise BadTable(file.name, str(why)) from None


def laid_over(base: dict[str, Any], over: Mapping[str, Any]) -> dict[str, Any]:
    """A description with another's values in place of its own: see ``standard_file``."""
    merged = dict(base)
    for key, value in over.items():
        before = merged.get(key)
        if isinstance(value, dict) and isinstance(before, dict):
            merged[key] = laid_over(before, value)
        elif isinstance(before, list) and _entries(value) and _entries(before):
            changed = {entry["id"]: entry for entry in value}
            present = [laid_over(entry, changed.pop(entry["id"], {})) for entry in before]
            merged[key] = [*present, *changed.values()]
        else:
            merged[key] = value
    return merged


def _entries(value: Any) -> bool:
    return isinstance(value, list) and bool(value) and all(isinstance(entry, dict) and "id" in entry for entry in value)


def _at(data: Any, path: Sequence[str | int]) -> Any:
    """The value at a path; None where it leads nowhere."""
    for part in path:
        if isinstance(part, int):
            data = data[part] if isinstance(data, list) and part < len(data) else None
        else:
            data = data.get(part) if isinstance(data, dict) else None
    return data


def line_of(text: str, path: Sequence[str | int]) -> int:
    """The line of a TOML text in which a path is, or the innermost part of it that has a line of its own.

    >>> line_of('[a]\\nb = 1\\n[[c]]\\nd = 2\\n[[c]]\\nd = 3', ["c", 1, "d"]), line_of('[a]\\nb = {c = 1}', ["a", "b", "c"])
    (6, 2)
    """
    lines, wanted = _lines(text), tuple(path)
    while wanted and wanted not in lines:
        wanted = wanted[:-1]
    return lines.get(wanted, 1)


@lru_cache(maxsize=8)
def _lines(text: str) -> Mapping[_Path, int]:
    """The line of each table, entry of a list of tables, and key."""
    lines: dict[_Path, int] = {}
    counts: dict[_Path, int] = {}
    table: _Path = ()
    for number, line in enumerate(text.splitlines(), 1):
        if header := _HEADER.match(line):
            table = _table(header, counts)
            lines.setdefault(table, number)
        elif key := _KEY.match(line):
            lines.setdefault((*table, *(part.strip('"') for part in key[1].split("."))), number)
    return lines


def _table(header: re.Match[str], counts: dict[_Path, int]) -> _Path:
    """The path of a table by its header; an entry of a list has its number, which is counted up."""
    path: _Path = ()
    *parts, last = (part.strip('"') for part in header[2].split("."))
    for part in parts:
        path = (*path, part)
        if path in counts:
            path = (*path, counts[path])
    path = (*path, last)
    if header[1] == "[[":
        counts[path] = counts.get(path, -1) + 1
        path = (*path, counts[path])
    return path
