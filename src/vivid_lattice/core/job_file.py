"""Reading a job document: from bytes to a Job that holds together, or one clear line for each thing wrong."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from pydantic import BaseModel, ValidationError

from vivid_lattice.core.document.consistency import contradictions
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.validation import validated
from vivid_lattice.core.document.versions import FORMAT, VERSION, version_of
from vivid_lattice.core.errors import BadDocument, DocumentProblem, UnknownRuleSet
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set

#: More lines than this help no one; the rest is counted.
_MAX_PROBLEMS = 40


def read_document(raw: bytes | str) -> Job:
    """The job in a document's text.

    Raises BadDocument with one line for each problem and its path: not text, not JSON, another format or version,
    a field missing, unknown or out of range, a reference that leads nowhere, a loop in the tree, an id used twice.
    """
    return read_data(_json(raw))


def read_data(data: Any) -> Job:
    """The job in data already read from JSON. Raises BadDocument as ``read_document`` does."""
    if not isinstance(data, dict):
        raise _bad("", message(None, "core.file.no_object", format=FORMAT, kind=_json_kind(data)))
    _check_format(data)
    try:
        job = validated(Job, data)
    except ValidationError as why:
        raise BadDocument(problems_of(why.errors())) from None
    return checked(job)


def checked(job: Job) -> Job:
    """The job itself where it holds together; BadDocument where it contradicts itself or its rule set."""
    problems = [DocumentProblem(path, message) for path, message in contradictions(job)]
    if not problems:
        try:
            rules = rule_set(job.job.rules)
        except UnknownRuleSet as why:
            raise _bad("job.rules", str(why)) from None
        problems = [DocumentProblem(path, message) for path, message in rules.check_job(job)]
    if problems:
        raise BadDocument(problems[:_MAX_PROBLEMS])
    return job


def to_text(job: Job) -> str:
    """The document of a job, as it is kept and handed on: stable order, two-space indent, nothing that is not known."""
    data = _without_unknown(job.model_dump(mode="json"), job)
    return json.dumps(data, indent=2, ensure_ascii=False) + "\n"


def _without_unknown(data: Any, part: Any) -> Any:
    """A part's data without the fields that are not known, so far as they are read as not known again: one whose default is a
    value (a load that is not counted) is written as null."""
    if isinstance(part, BaseModel):
        fields = type(part).model_fields
        return {
            name: _without_unknown(value, getattr(part, name))
            for name, value in data.items()
            if value is not None or fields[name].default is not None
        }
    if isinstance(part, tuple):
        return [_without_unknown(value, item) for value, item in zip(data, part, strict=True)]
    return data


def problems_of(errors: Iterable[Any], root: str = "") -> list[DocumentProblem]:
    """Validation errors as problems with a path a person can follow, the first forty of them."""
    problems: dict[tuple[str, Text], DocumentProblem] = {}
    short: list[str] = []
    for error in errors:
        problem = DocumentProblem(_path(error["loc"], root), _plain(error))
        problems.setdefault((problem.path, problem.message), problem)
        if error["type"] == "too_short":
            short.append(problem.path)
    # A list whose only entry is wrong is called empty as well; the entry's own line is the one that helps.
    spurious = {path for path in short if any(other.path.startswith(f"{path}[") for other in problems.values())}
    return [problem for problem in problems.values() if problem.path not in spurious][:_MAX_PROBLEMS]


def _json(raw: bytes | str) -> Any:
    try:
        text = raw.decode("utf-8-sig") if isinstance(raw, bytes) else raw
    except UnicodeDecodeError as why:
        raise _bad("", message(None, "core.file.not_text", byte=str(why.start))) from None
    try:
        return json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as why:
        raise _bad(
            "", message(None, "core.file.no_json", why=why.msg, line=str(why.lineno), column=str(why.colno))
        ) from None
    except RecursionError:
        raise _bad("", message(None, "core.file.deep")) from None


def _no_constant(name: str) -> float:
    raise _bad("", message(None, "core.file.no_number", name=name))


def _check_format(data: dict[str, Any]) -> None:
    given = data.get("format")
    if given is None:
        raise _bad("format", message(None, "core.file.no_format", format=FORMAT))
    version = version_of(given)
    if version is not None and 1 <= version <= VERSION:
        return
    if version is not None:
        raise _bad(
            "format",
            message(None, "core.file.version", n=str(version), max=str(VERSION)),
        )
    raise _bad("format", message(None, "core.file.other_format", given=str(given), format=FORMAT))


def _bad(path: str, text: Text) -> BadDocument:
    return BadDocument([DocumentProblem(path, text)])


def _json_kind(data: Any) -> str:
    return {list: "list", str: "text", bool: "true or false", type(None): "null"}.get(type(data), "number")


def _path(loc: Sequence[int | str], root: str) -> str:
    path = root
    for part in loc:
        if isinstance(part, int):
            path += f"[{part}]"
        elif part not in ("FedByWay", "literal['origin']", "Cable", "Device", "literal['auto']", "body"):
            path += f".{part}" if path else part
    return path


#: What is wrong with a value, by pydantic's name of it: the message, and the bound that it names.
_WRONG: Mapping[str, tuple[str, str]] = {
    "missing": ("missing", ""),
    "extra_forbidden": ("unknown_field", ""),
    "greater_than": ("over", "gt"),
    "greater_than_equal": ("at_least", "ge"),
    "less_than_equal": ("at_most", "le"),
    "finite_number": ("finite", ""),
    "string_too_short": ("empty", ""),
    "string_too_long": ("too_long", "max_length"),
    "string_pattern_mismatch": ("id", ""),
    "literal_error": ("choice", "expected"),
    "too_short": ("min_entries", "min_length"),
    "too_long": ("max_entries", "max_length"),
    "float_type": ("number", ""),
    "int_type": ("integer", ""),
    "string_type": ("text", ""),
    "bool_type": ("bool", ""),
    "model_type": ("object", ""),
    "model_attributes_type": ("object", ""),
    "tuple_type": ("list", ""),
}


def _limit_text(limit: object) -> str:
    return f"{limit:g}" if isinstance(limit, float) else str(limit)


def _plain(error: Any) -> Text:
    key, bound = _WRONG.get(error["type"], ("", ""))
    if not key:
        return str(error["msg"])
    limit = {"limit": _limit_text(error.get("ctx", {}).get(bound))} if bound else {}
    wrong = message(None, f"core.file.{key}", **limit)
    given = error.get("input")
    if key in _SAYS_VALUE and isinstance(given, int | float | str) and not isinstance(given, bool):
        return message(None, "core.file.given", wrong=wrong, value=repr(given))
    return wrong


#: Of these the value that was given is said.
_SAYS_VALUE = frozenset({"over", "at_least", "at_most", "id", "choice", "number", "integer"})
