"""Protective devices as they are typed: their kind by an everyday word, their curve, rating and residual current."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.supply import Curve
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.protocol import RuleSet

#: Words for a device that every standard's users type.
DEVICE_WORDS = ("fuse", "cartridge", "breaker", "mcb", "rcbo", "wire")
#: Words for a way without a device, and what they mean in a survey.
EMPTY_WORDS: Mapping[str, str] = {
    "blank": "blank", "spare": "blank", "empty": "blank", "open": "open", "unknown": "unknown", "?": "unknown",
}  # fmt: skip
#: Devices that are met on old boards and that a standard has no tables for, with the name each goes by.
OLD_DEVICES: Mapping[str, str] = {"rewirable": "rewirable fuse", "plug-fuse": "plug fuse"}


@dataclass(slots=True, kw_only=True)
class TypedDevice:
    """A device as typed. None or empty: nothing is said of it.

    kind          kind of device of the standard, or one of ``OLD_DEVICES``
    found_only    it is met on old boards and not fitted any more
    old_type      mark of an old breaker: 1 to 4 (BS 3871), L, H, G or U
    empty         a way without a device: 'blank', 'open' or 'unknown'
    usual_rcd_ma  residual current that the word for the device is for
    modules       its width, a half of a double breaker;  switches_neutral: it switches the neutral too
    """

    kind: str | None = None
    found_only: bool = False
    curve: Curve | None = None
    rating_a: float | None = None
    breaking_ka: float | None = None
    rcd_ma: float | None = None
    usual_rcd_ma: float | None = None
    rcd_type: str | None = None
    rcd_delayed: bool = False
    arc_fault: bool = False
    modules: float | None = None
    switches_neutral: bool | None = None
    old_type: str | None = None
    empty: str = ""
    typed: bool = False


def device_kind(rules: RuleSet, word: str) -> tuple[str | None, bool]:
    """The kind of device that a word means, and whether it is met on old boards alone; None where the standard has none.

    A bare 'fuse' is the rewirable one where the standard's old boards have any.
    """
    kinds = rules.devices.kinds
    if word in kinds:
        return word, not kinds[word].current
    if word in OLD_DEVICES:
        return word, True
    name = next(iter(_meant(rules, word)), None)
    return name, name is not None and (name in OLD_DEVICES or not kinds[name].current)


def _meant(rules: RuleSet, word: str) -> list[str]:
    """The kinds that a general word may mean, the likeliest first."""
    kinds = rules.devices.kinds.values()
    if word in ("breaker", "mcb"):
        return [kind.id for kind in kinds if kind.action == "breaker" and not kind.has_rcd and kind.current]
    if word == "rcbo":
        return [kind.id for kind in kinds if kind.has_rcd]
    return _meant_fuses(rules, word)


def _meant_fuses(rules: RuleSet, word: str) -> list[str]:
    old = _old_devices(rules)
    fuses = [kind for kind in rules.devices.kinds.values() if kind.action == "fuse"]
    cartridge = [kind.id for kind in fuses if not kind.rewirable]
    rewirable = [kind.id for kind in fuses if kind.rewirable]
    if word == "cartridge":
        return cartridge or [name for name in old if name == "plug-fuse"]
    return rewirable or old or cartridge


def _old_devices(rules: RuleSet) -> list[str]:
    """Devices of old boards that the standard's own words name."""
    return sorted({entry.sets.get("device", "") for entry in customary(rules.id).words.values()} & OLD_DEVICES.keys())
