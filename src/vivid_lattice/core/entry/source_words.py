"""Words of a typed line for a source in parallel with the supply: solar panels, a battery, both, a vehicle; or a generator."""

from __future__ import annotations

from collections.abc import Iterable

from vivid_lattice.core.document.energy_source import SourceKind

_GENERATOR = frozenset({"generator", "genset", "generator-set", "transfer", "notstromaggregat"})
_VEHICLE = frozenset({"v2h", "v2g", "vehicle-to-home", "vehicle-to-grid"})
_HYBRID = frozenset({"hybrid"})
_BATTERY = frozenset({"battery", "batteries", "storage", "speicher", "batterie", "batteriespeicher"})
_SOLAR = frozenset(
    {"solar", "pv", "photovoltaik", "photovoltaic", "photovoltaics", "balkonkraftwerk", "inverter", "wechselrichter", "onduleur", "panels"}
)  # fmt: skip


def source_kind(words: Iterable[str]) -> SourceKind | None:
    """The kind of source that some words mean together: solar with a battery is a hybrid. None where they mean none.

    >>> source_kind(["hybrid", "inverter"]), source_kind(["PV"]), source_kind(["solar", "and", "battery"]), source_kind(["shower"])
    ('hybrid', 'solar', 'hybrid', None)
    """
    tokens = {word.casefold().strip(".,") for word in words}
    if tokens & _GENERATOR:
        return "generator"
    if tokens & _VEHICLE or {"vehicle", "home"} <= tokens:
        return "vehicle"
    battery = bool(tokens & _BATTERY)
    panels = bool(tokens & (_SOLAR - {"inverter", "wechselrichter", "onduleur"}))
    if tokens & _HYBRID or (battery and panels):
        return "hybrid"
    if battery:
        return "battery"
    return "solar" if tokens & _SOLAR else None
