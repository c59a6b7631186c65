"""Conductor sizes as they are typed: square millimetres, wire gauges, inch sizes of old wiring."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.rules.protocol import RuleSet

_NUMBER = r"(\d+(?:\.\d+)?)"
_MM2 = re.compile(rf"^(?:(\d)x)?{_NUMBER}(?:/{_NUMBER})?(?:mm2?|sqmm)$", re.IGNORECASE)
_PAIR = re.compile(rf"^{_NUMBER}/{_NUMBER}$")
_CORES = re.compile(rf"^(\d)([xg]){_NUMBER}(?:mm2?|sqmm)?$", re.IGNORECASE)
_INCH = re.compile(r"^(\d{1,2})/0?\.?(0\d\d)$")
_GAUGE_WIRES = re.compile(r"^(\d{1,2})[/-]([2-4])$")
_GAUGE = re.compile(r"^#?(\d{1,3}(?:/0)?)(?:awg|ga|gauge|kcmil|mcm)?$", re.IGNORECASE)


@dataclass(frozen=True, slots=True, kw_only=True)
class ConductorSize:
    """A conductor size as typed.

    area_mm2  line conductor
    cpc_mm2   protective conductor, where typed beside it (``6/2.5mm``)
    cables    cables of this size at one device: two are the ends of a ring
    cores     cores of the cable, protective conductor included; None: not typed
    wires     insulated conductors of a cable by gauge (``12/3``: 3); None: not typed
    """

    area_mm2: float
    cpc_mm2: float | None = None
    cables: int = 1
    cores: int | None = None
    wires: int | None = None


def _by_gauge(text: str, gauges: Mapping[str, float]) -> ConductorSize | None:
    """A gauge by its name, with its wires where they are given: ``12/2``."""
    if (match := _GAUGE_WIRES.match(text)) and match.group(1) in gauges:
        return ConductorSize(area_mm2=gauges[match.group(1)], wires=int(match.group(2)))
    if (match := _GAUGE.match(text)) and match.group(1) in gauges and not text.isdigit():
        return ConductorSize(area_mm2=gauges[match.group(1)])
    return None


def conductor(text: str, rules: RuleSet, inch_mm2: Mapping[str, float]) -> ConductorSize | None:
    """The size that a token states; None where it states none.

    Source  inch sizes: the customary table of the standard; ``2x2.5`` as two ends of a ring: common practice, no source
    """
    if (match := _INCH.match(text)) and (area := inch_mm2.get(f"{match.group(1)}/.{match.group(2)}")):
        return ConductorSize(area_mm2=area)
    if (gauge := _by_gauge(text, _gauges(rules))) is not None:
        return gauge
    if match := _CORES.match(text):
        count, sign, area_mm2 = int(match.group(1)), match.group(2).lower(), float(match.group(3))
        if sign == "x" and count == 2 and rules.limits.knows_rings:
            return ConductorSize(area_mm2=area_mm2, cables=2)
        return ConductorSize(area_mm2=area_mm2, cores=count)
    if match := _MM2.match(text):
        cables = int(match.group(1) or 1)
        cpc = float(match.group(3)) if match.group(3) else None
        return ConductorSize(area_mm2=float(match.group(2)), cpc_mm2=cpc, cables=cables)
    return _pair(text, rules)


def _pair(text: str, rules: RuleSet) -> ConductorSize | None:
    """``2.5/1.5`` without a unit: two sizes of this standard's cables, the protective conductor the smaller or as large."""
    match = _PAIR.match(text)
    if match is None or _gauges(rules):
        return None
    area_mm2, cpc_mm2 = float(match.group(1)), float(match.group(2))
    sizes = {size.area_mm2 for kind in rules.cables.kinds.values() for size in kind.sizes}
    if cpc_mm2 > area_mm2 or not {area_mm2, cpc_mm2} <= sizes:
        return None
    return ConductorSize(area_mm2=area_mm2, cpc_mm2=cpc_mm2)


def _gauges(rules: RuleSet) -> Mapping[str, float]:
    """Wire gauges of a standard by name, with their areas [mm²]; empty where its sizes go by area."""
    return {
        size.label: size.area_mm2
        for kind in rules.cables.kinds.values()
        for size in kind.sizes
        if size.label != f"{size.area_mm2:g}"
    }
