"""Enclosures and busbars that come with the program, in invented names."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from types import MappingProxyType

from vivid_lattice.core.document.board_build import BusbarStock, Enclosure
from vivid_lattice.core.document.supply import Supply


@dataclass(frozen=True, slots=True)
class CatalogueEnclosure:
    """An enclosure there is, by its id."""

    id: str
    enclosure: Enclosure


@lru_cache
def _data() -> Mapping[str, list[dict[str, object]]]:
    text = (files("vivid_lattice.core.board") / "data" / "enclosures.toml").read_text("utf-8")
    return MappingProxyType(tomllib.loads(text))


@lru_cache
def enclosures() -> tuple[CatalogueEnclosure, ...]:
    """Every packaged enclosure, the smallest of each form first."""
    return tuple(
        CatalogueEnclosure(
            str(entry["id"]), Enclosure.model_validate({k: v for k, v in entry.items() if k != "id"}, strict=False)
        )
        for entry in _data()["enclosure"]
    )


def usual_enclosure_form(supply: Supply) -> str:
    """The form of enclosure that is usual on a supply: a split phase comes in panels of spaces, everything else on rails. Common
    practice, no source."""
    return "panelboard" if supply.phases == 2 else "rail"


@lru_cache
def combs() -> tuple[BusbarStock, ...]:
    """Every packaged busbar, by lines and rating."""
    fields = BusbarStock.model_fields
    return tuple(
        BusbarStock.model_validate({k: v for k, v in entry.items() if k in fields}, strict=False)
        for entry in _data()["comb"]
    )


@lru_cache(maxsize=64)
def comb_for(lines: int, rating_a: float, teeth: int) -> BusbarStock | None:
    """The smallest packaged busbar of so many lines that carries a current and is long enough; else the longest that carries
    it; None where none does."""
    fitting = [comb for comb in combs() if comb.lines == lines and comb.rating_a >= rating_a]
    return next(
        (busbar_stock for busbar_stock in fitting if busbar_stock.pins >= teeth),
        max(fitting, key=lambda item: item.pins, default=None),
    )
