"""Rows of a price list: a device by its kind and rating, a cable by its kind and size, or anything by its article."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from vivid_lattice.core.document.job import CablePrice, DevicePrice, Job
from vivid_lattice.core.document.price_list import is_article, with_price
from vivid_lattice.core.entry.tables.circuits import kind_in
from vivid_lattice.core.entry.tables.columns import cell_of, number_in
from vivid_lattice.core.entry.tables.rows import MAX_ROWS, ReadRow, ReadRows, RowProblem, filled, read_rows
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import CableKind, RuleSet
from vivid_lattice.core.text import Shown

#: No device or metre of cable of a dwelling costs more; a larger figure has lost its decimal point.
_DEAREST = 10_000.0
#: The longest name of an article.
_LONGEST = 120
_Price = DevicePrice | CablePrice


def read_prices(job: Job, rows: Sequence[Sequence[str]], mapping: Mapping[str, int], first_row: int = 2) -> ReadRows:
    """Every row tried: a price of the same thing is replaced. The job given is left as it was."""
    rules = rule_set(job.job.rules)
    cable_prices: dict[tuple[str, float | None], _Price] = {
        (device.kind, device.rating_a): device for device in job.prices.devices
    }
    cable_prices |= {(cable.type, cable.area_mm2): cable for cable in job.prices.cables}
    read = []
    for number, row in filled(rows, first_row):
        what = cell_of(row, mapping, "what")
        if is_article(what):
            job, line = _article(job, number, row, mapping)
            read.append(line)
            continue
        made = _read(rules, row, mapping)
        if isinstance(made, tuple):
            read.append(ReadRow(number=number, name=what, text="", problems=made))
            continue
        key = (made.kind, made.rating_a) if isinstance(made, DevicePrice) else (made.type, made.area_mm2)
        if key not in cable_prices and sum(isinstance(item, type(made)) for item in cable_prices.values()) >= MAX_ROWS:
            full = RowProblem("What", message(None, "core.import.price.full", max=MAX_ROWS))
            read.append(ReadRow(number=number, name=what, text="", problems=(full,)))
            continue
        cable_prices[key] = made
        read.append(ReadRow(number=number, name=what, text=_words(rules, made)))
    lists = {
        "devices": tuple(
            device_price for device_price in cable_prices.values() if isinstance(device_price, DevicePrice)
        ),
        "cables": tuple(cable_price for cable_price in cable_prices.values() if isinstance(cable_price, CablePrice)),
    }
    return read_rows(read, job.model_copy(update={"prices": job.prices.model_copy(update=lists)}))


def _article(job: Job, number: int, row: Sequence[str], mapping: Mapping[str, int]) -> tuple[Job, ReadRow]:
    """The job with the price of an article, of a pack where the row says so; a row without a price is left out with the reason."""
    what, problems = cell_of(row, mapping, "what"), list[RowProblem]()
    price = _price(cell_of(row, mapping, "price"), problems)
    pack = number_in(cell_of(row, mapping, "pack") or "1")
    if pack is None or pack != int(pack) or not 1 <= pack <= _DEAREST:
        problems.append(RowProblem("Pack", message(None, "core.import.price.pack")))
    if len(what) > _LONGEST:
        problems.append(RowProblem("What", message(None, "core.import.price.long", max=_LONGEST)))
    if problems or price is None or pack is None:
        return job, ReadRow(number=number, name=what, text="", problems=tuple(problems))
    words = f"{what}: {price:.2f}" + (f" / {int(pack)}" if pack > 1 else "")
    return with_price(job, what, price, int(pack)), ReadRow(number=number, name=what, text=words)


def _words(rules: RuleSet, made: _Price) -> str:
    if isinstance(made, CablePrice):
        size = rules.cables.size_label(made.area_mm2)
        return f"{rules.cables.kind(made.type).title}, {size}: {made.per_m:.2f} a metre"
    rating = message(None, "core.import.price.any") if made.rating_a is None else f"{made.rating_a:g} A"
    return f"{rules.devices.kind(made.kind).title}, {rating}: {made.each:.2f} a pole"


def _not_known(rules: RuleSet, what: str) -> RowProblem:
    if not what:
        return RowProblem("What", message(None, "core.import.price.what_empty"))
    known = ", ".join([*rules.devices.kinds, *rules.cables.kinds])
    return RowProblem("What", message(None, "core.import.price.unknown", text=what[:40], list=known))


def _read(rules: RuleSet, row: Sequence[str], mapping: Mapping[str, int]) -> _Price | tuple[RowProblem, ...]:
    what = cell_of(row, mapping, "what").lower()
    problems: list[RowProblem] = []
    price = _price(cell_of(row, mapping, "price"), problems)
    rating, size = (_optional(row, mapping, name, problems) for name in ("rating_a", "size_mm2"))
    kinds = rules.cables.kinds.values()
    cable = next((kind for kind in kinds if what in (kind.id, kind.title.lower(), kind.short.lower())), None)
    device = None if cable else kind_in(what, rules.devices.kinds)
    if cable is None and device is None:
        problems.append(_not_known(rules, what))
    if cable is not None:
        problems += _size_problems(cable, size, whole=not problems)
    if problems or price is None:
        return tuple(problems)
    if cable is not None and size is not None:
        return CablePrice(type=cable.id, area_mm2=size, per_m=price)
    assert device is not None  # else there is a problem
    return DevicePrice(kind=device.id, rating_a=rating, each=price)


def _price(text: str, problems: list[RowProblem]) -> float | None:
    price = number_in(text.lstrip("£$€R \u00a0"))
    if not text:
        problems.append(RowProblem("Price", "is empty"))
    elif price is None:
        problems.append(RowProblem("Price", message(None, "core.import.not_number", value=text[:40])))
    elif not 0 <= price <= _DEAREST:
        problems.append(
            RowProblem(
                "Price", message(None, "core.import.price.range", value=Shown(f"{price:g}"), max=Shown(f"{_DEAREST:g}"))
            )
        )
    return price


def _size_problems(cable: CableKind, size: float | None, *, whole: bool) -> list[RowProblem]:
    """What is wrong with a cable's size; that it is missing is told where nothing else is."""
    if size is None:
        return [RowProblem("Size, mm²", message(None, "core.import.price.size_needed"))] if whole else []
    if size in cable.sizes_mm2:
        return []
    return [RowProblem("Size, mm²", message(None, "core.import.size", cable=cable.title, size=Shown(f"{size:g}")))]


def _optional(row: Sequence[str], mapping: Mapping[str, int], name: str, problems: list[RowProblem]) -> float | None:
    text = cell_of(row, mapping, name)
    if not text:
        return None
    price = number_in(text)
    if price is None or not 0 < price <= 400:
        problems.append(RowProblem(name, message(None, "core.import.price.optional", text=text[:40])))
        return None
    return price
