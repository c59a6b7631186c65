"""The device library: families of devices, in invented generic names, and those a user adds, each checked on entry."""

from __future__ import annotations

import csv
import io
import json
import tomllib
from collections.abc import Iterator, Sequence
from functools import lru_cache
from importlib.resources import files
from itertools import pairwise
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from vivid_lattice.core.curves import Edge, crossing_a
from vivid_lattice.core.document.base import DocumentModel, Id, Name
from vivid_lattice.core.document.field_names import FAMILY, renamed
from vivid_lattice.core.errors import BadDocument, DocumentProblem, OutOfRange
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.text import Shown

FamilyKind = Literal[
    "breaker",
    "fuse",
    "rcd",
    "rcbo",
    "arc-fault",
    "surge",
    "switch",
    "voltage-relay",
    "contactor",
    "impulse-relay",
    "time-switch",
    "socket",
]
Positive = Annotated[float, Field(gt=0, le=1e6)]


class EdgePoint(DocumentModel):
    """A point of an edge: so many times the rating, and the time there."""

    times_in: Annotated[float, Field(gt=0, le=10_000)]
    time_s: Annotated[float, Field(gt=0, le=36_000)]


class DeviceFamily(DocumentModel):
    """A family of devices. What its kind has none of, or is not known, is None or empty.

    ``lower`` and ``upper``: a characteristic of its own; empty: that of its product standard. ``loss_w``: power loss of a
    pole at each rating. ``busbar_height_mm``: height of the bar its terminals meet; only equal ones share a busbar.
    """

    id: Id
    title: Name
    kind: FamilyKind
    standard: Annotated[str, Field(max_length=80)] = ""
    poles: Annotated[int, Field(ge=1, le=4)] = 1
    modules: Annotated[float, Field(gt=0, le=12)] = 1.0
    characteristic: Literal["B", "C", "D"] | None = None
    ratings_a: Annotated[tuple[Positive, ...], Field(strict=False, max_length=40)] = ()
    breaking_ka: Annotated[float, Field(gt=0, le=200)] | None = None
    energy_class: Annotated[int, Field(ge=1, le=3)] | None = None
    lower: Annotated[tuple[EdgePoint, ...], Field(strict=False, max_length=60)] = ()
    upper: Annotated[tuple[EdgePoint, ...], Field(strict=False, max_length=60)] = ()
    idn_ma: Annotated[tuple[Positive, ...], Field(strict=False, max_length=12)] = ()
    rcd_type: Literal["AC", "A", "F", "B"] | None = None
    terminal_from_mm2: Positive | None = None
    terminal_to_mm2: Positive | None = None
    torque_nm: Annotated[float, Field(gt=0, le=50)] | None = None
    busbar_height_mm: Annotated[float, Field(gt=0, le=100)] | None = None
    two_conductors: Annotated[
        bool | None, Field(description="Two equal conductors may go in one terminal; none: not known.")
    ] = None
    loss_w: Annotated[tuple[Positive, ...], Field(strict=False, max_length=40)] = ()
    surge_type: Literal["1", "1+2", "2", "3"] | None = None
    up_kv: Annotated[float, Field(gt=0, le=10)] | None = None
    uc_v: Annotated[float, Field(gt=0, le=1000)] | None = None
    discharge_ka: Annotated[float, Field(gt=0, le=200)] | None = None
    max_backup_a: Annotated[float, Field(gt=0, le=400)] | None = None
    price: Annotated[float, Field(ge=0, le=100_000)] | None = None


_PROTECTS = ("breaker", "rcbo", "fuse", "arc-fault")


def family_problems(family: DeviceFamily) -> list[Text]:
    """What contradicts itself or nature in a family, in words with how to fix it; empty where it holds."""
    return list(_problems(family))


def _problems(family: DeviceFamily) -> Iterator[Text]:
    if family.kind in _PROTECTS and not family.ratings_a:
        yield message(None, "core.family.ratings")
    yield from _order_problems("ratings", family.ratings_a)
    yield from _order_problems("residual currents", family.idn_ma)
    if family.loss_w:
        yield from _loss_problems(family.loss_w, len(family.ratings_a))
    least, most = family.terminal_from_mm2, family.terminal_to_mm2
    if least is not None and most is not None and least > most:
        yield message(None, "core.family.terminal", min=Shown(f"{least:g}"), max=Shown(f"{most:g}"))
    if family.kind in ("rcd", "rcbo") and not (family.idn_ma and family.rcd_type):
        yield message(None, "core.family.rcd")
    if family.kind == "surge" and (family.surge_type is None or family.up_kv is None):
        yield message(None, "core.family.surge")
    yield from _edge_problems(family)


def _order_problems(name: str, row: Sequence[float]) -> Iterator[Text]:
    for before, after in pairwise(row):
        if after <= before:
            yield message(None, "core.family.order", list=name, after=Shown(f"{after:g}"), before=Shown(f"{before:g}"))
            return


def _loss_problems(losses_w: Sequence[float], ratings: int) -> Iterator[Text]:
    if len(losses_w) != ratings:
        yield message(None, "core.family.losses", n=len(losses_w), m=int(ratings))
    elif any(after < before for before, after in pairwise(losses_w)):
        yield message(None, "core.family.loss_falls")


def _edge_problems(family: DeviceFamily) -> Iterator[Text]:
    if not family.lower and not family.upper:
        return
    if not (family.lower and family.upper):
        yield message(None, "core.family.edge")
        return
    edges = []
    for name, points in (("lower", family.lower), ("upper", family.upper)):
        try:
            edges.append(Edge(tuple((point.times_in, point.time_s) for point in points)))
        except OutOfRange as why:
            yield message(None, "core.family.edge_order", edge=name, reason=str(why))
    if len(edges) == 2 and (crossing := crossing_a(edges[0], edges[1])) is not None:
        yield (message(None, "core.family.edges_cross", n=Shown(f"{crossing:g}")))


@lru_cache
def packaged() -> tuple[DeviceFamily, ...]:
    """The families that come with the program: invented names, figures usual in the trade (common practice)."""
    text = (files("vivid_lattice.core.document") / "data" / "families.toml").read_text("utf-8")
    return tuple(DeviceFamily.model_validate(entry, strict=False) for entry in tomllib.loads(text)["family"])


_LISTS = ("ratings_a", "idn_ma", "loss_w", "lower", "upper")


def read_families(text: str, taken: Sequence[str] = ()) -> tuple[DeviceFamily, ...]:
    """Families from a user's CSV (a row a family, a head of field names) or JSON (a list of objects).

    In CSV a list is in one cell with spaces, ``6 10 16``; a point of an edge is ``times:seconds``, ``1.13:3600``.
    taken    ids that are used already
    Raises   BadDocument with a line for each thing wrong, and its row; nothing is transferred then
    """
    rows = _json_rows(text) if text.lstrip()[:1] in ("[", "{") else _csv_rows(text)
    problems: list[DocumentProblem] = []
    families: list[DeviceFamily] = []
    ids = set(taken) | {family.id for family in packaged()}
    for number, row in enumerate(rows, 1):
        where = f"families[{number}]"
        try:
            family = DeviceFamily.model_validate(renamed(row, FAMILY), strict=False)
        except ValidationError as why:
            problems += [DocumentProblem(f"{where}.{error['loc'][0]}", str(error["msg"])) for error in why.errors()[:5]]
            continue
        problems += [DocumentProblem(where, text) for text in family_problems(family)]
        if family.id in ids:
            problems.append(DocumentProblem(f"{where}.id", message(None, "core.family.id_used", id=family.id)))
        ids.add(family.id)
        families.append(family)
    if problems:
        raise BadDocument(problems)
    if not families:
        raise BadDocument([DocumentProblem("", message(None, "core.family.empty"))])
    return tuple(families)


def _json_rows(text: str) -> list[Any]:
    try:
        data = json.loads(text)
    except json.JSONDecodeError as why:
        raise BadDocument(
            [DocumentProblem("", message(None, "core.family.json", reason=why.msg, n=why.lineno))]
        ) from None
    return data if isinstance(data, list) else [data]


def _csv_rows(text: str) -> list[Any]:
    table = csv.DictReader(io.StringIO(text), skipinitialspace=True)
    _must_be_columns(table.fieldnames or ())
    return [{name: _cell(name, cell) for name, cell in row.items() if name and cell} for row in table]


def _cell(name: str, cell: str) -> Any:
    if name in ("lower", "upper"):
        parts = [point.partition(":") for point in cell.split()]
        return [{"times_in": times, "time_s": time} for times, _, time in parts]
    return cell.split() if name in _LISTS else cell


def _must_be_columns(names: Sequence[str]) -> None:
    """BadDocument where a table's first line has a name that is no field of a family, or no names."""
    unknown = [name for name in names if FAMILY.fields.get(name, name) not in DeviceFamily.model_fields]
    if unknown or not names:
        known = ", ".join(DeviceFamily.model_fields)
        reason = f"no column '{unknown[0]}'" if unknown else message(None, "core.family.head")
        raise BadDocument([DocumentProblem("", message(None, "core.family.known", reason=reason, list=known))])
