"""Rows of a price list: a device by its kind and rating, or a cable by its kind and size."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.importing.circuits import kind_in
from vivid_lattice.core.importing.columns import RowProblem, cell_of, number_in
from vivid_lattice.core.job import CablePrice, DevicePrice, Job, Prices
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet

_DEAREST = 10_000.0


@dataclass(frozen=True, slots=True)
class ReadPrice:
    """A row of a price list as it was read."""

    number: int
    name: str
    words: str
    problems: tuple[RowProblem, ...]


@dataclass(frozen=True, slots=True)
class ReadPrices:
    """A price list as it would be taken in, and the job with every good row in its list: a price of the same thing is replaced."""

    rows: tuple[ReadPrice, ...]
    job: Job
    added: int


def read_prices(job: Job, rows: Sequence[Sequence[str]], mapping: Mapping[str, int], first_row: int = 2) -> ReadPrices:
    """Every row tried. The job given is left as it was."""
    rules = rule_set(job.job.rules)
    devices = {(one.kind, one.rating_a): one for one in job.prices.devices}
    cables = {(one.type, one.area_mm2): one for one in job.prices.cables}
    read = []
    for number, row in enumerate(rows, first_row):
        if not any(cell.strip() for cell in row):
            continue
        what = cell_of(row, mapping, "what")
        made = _read(rules, row, mapping)
        if isinstance(made, DevicePrice):
            devices[made.kind, made.rating_a] = made
            rating = "any rating" if made.rating_a is None else f"{made.rating_a:g} A"
            read.append(
                ReadPrice(number, what, f"{rules.devices.kind(made.kind).title}, {rating}: {made.each:.2f} a pole", ())
            )
        elif isinstance(made, CablePrice):
            cables[made.type, made.area_mm2] = made
            words = f"{rules.cables.kind(made.type).title}, {rules.cables.size_label(made.area_mm2)}: {made.per_m:.2f} a metre"
            read.append(ReadPrice(number, what, words, ()))
        else:
            read.append(ReadPrice(number, what, "", made))
    prices = Prices.model_validate(
        job.prices.model_dump() | {"devices": tuple(devices.values()), "cables": tuple(cables.values())}
    )
    changed = job.model_copy(update={"prices": prices})
    return ReadPrices(tuple(read), changed, sum(not one.problems for one in read))


def _read(
    rules: RuleSet, row: Sequence[str], mapping: Mapping[str, int]
) -> DevicePrice | CablePrice | tuple[RowProblem, ...]:
    what, said = cell_of(row, mapping, "what").lower(), cell_of(row, mapping, "price")
    problems = []
    price = number_in(said.lstrip("£$€R \u00a0"))
    if not said:
        problems.append(RowProblem("Price", "is empty"))
    elif price is None:
        problems.append(RowProblem("Price", f"'{said[:40]}' is no figure"))
    elif not 0 <= price <= _DEAREST:
        problems.append(RowProblem("Price", f"{price:g} cannot be: it has to be 0 to {_DEAREST:g}"))
    rating, size = (_optional(row, mapping, name, problems) for name in ("rating_a", "size_mm2"))
    cable = next(
        (one for one in rules.cables.kinds.values() if what in (one.id, one.title.lower(), one.short.lower())), None
    )
    device = None if cable else kind_in(what, rules.devices.kinds)
    if not what:
        problems.append(RowProblem("What", "is empty; name a kind of device or of cable"))
    elif cable is None and device is None:
        known = ", ".join([*rules.devices.kinds, *rules.cables.kinds])
        problems.append(
            RowProblem("What", f"'{what[:40]}' is no kind of device or cable in these rules; known: {known}")
        )
    if cable is not None and size is None and not problems:
        problems.append(RowProblem("Size, mm²", "a cable has its price by its size; give it"))
    elif cable is not None and size is not None and size not in cable.sizes_mm2:
        problems.append(RowProblem("Size, mm²", f"{cable.title} is not made in {size:g} mm²"))
    if problems:
        return tuple(problems)
    assert price is not None
    if cable is not None:
        assert size is not None
        return CablePrice(type=cable.id, area_mm2=size, per_m=price)
    assert device is not None
    return DevicePrice(kind=device.id, rating_a=rating, each=price)


def _optional(row: Sequence[str], mapping: Mapping[str, int], name: str, problems: list[RowProblem]) -> float | None:
    text = cell_of(row, mapping, name)
    if not text:
        return None
    found = number_in(text)
    if found is None or not 0 < found <= 400:
        problems.append(RowProblem(name, f"'{text[:40]}' is no figure over 0 and at most 400"))
        return None
    return found
