"""One typed line into a way of a board that is written down: ``3 fuse 30 6mm cooker``, ``4 B32 2x2.5 sockets``, ``5 blank``."""

from __future__ import annotations

import re

from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.found import FoundBoard, FoundRcd, FoundWay
from vivid_lattice.core.rules.protocol import RuleSet

_BREAKER = re.compile(r"^([BCD])(\d+(?:\.\d+)?)$", re.I)
_RATING = re.compile(r"^(\d+(?:\.\d+)?)A?$", re.I)
_SIZE = re.compile(r"^(?:(\d)x)?(\d+(?:[.,]\d+)?)\s*mm(?:2|²)?$|^(\d)x(\d+(?:[.,]\d+)?)$", re.I)
_RESIDUAL = re.compile(r"^(\d+)mA$", re.I)
_EMPTY = {"blank": "blank", "spare": "blank", "open": "open", "unknown": "unknown", "?": "unknown"}
_KINDS = ("fuse", "cartridge", "breaker", "mcb", "rcbo", "wire")


def read_way(rules: RuleSet, board: FoundBoard, text: str) -> FoundWay:
    """A way from a typed line: its number (else the next free one), its device, rating, conductor and label, in any order but
    that the label comes last; ``proven`` at the end ticks it.

    Raises  EntryNotUnderstood with what was not understood and an example
    """
    words = text.split()
    if not words:
        raise EntryNotUnderstood(text, "The line is empty; write for instance: 3 fuse 30 6mm cooker")
    number = _next(board)
    if words[0].isdigit() and len(words) > 1:
        number = int(words.pop(0))
    if not 1 <= number <= 200:
        raise EntryNotUnderstood(text, f"Way {number} is not between 1 and 200.")
    parts: dict[str, object] = {"number": number}
    label: list[str] = []
    for word in words:
        if label or not _take(rules, parts, word):
            label.append(word)
    if label and label[-1].casefold() == "proven":
        label.pop()
        parts["proven"] = True
    if "kind" not in parts:
        raise EntryNotUnderstood(
            text,
            f"No device in “{text.strip()}”: say fuse, cartridge, rcbo, B16, blank, open or ?, as in: 3 fuse 30 6mm cooker",
        )
    if parts["kind"] not in ("blank", "open", "unknown") and "rating_a" not in parts:
        raise EntryNotUnderstood(text, "No rating: write it in amperes, as in: 3 fuse 30 6mm cooker")
    return FoundWay.model_validate(parts | {"label": " ".join(label)})


def _next(board: FoundBoard) -> int:
    return max((way.number for way in board.ways), default=0) + 1


def _take(rules: RuleSet, parts: dict[str, object], word: str) -> bool:
    """Whether a word says something of the device or its conductor."""
    low = word.casefold()
    if low in _EMPTY:
        parts["kind"] = _EMPTY[low]
        return True
    if low in _KINDS:
        parts["kind"] = _kind(rules, low)
        return True
    if found := _BREAKER.match(word):
        parts.setdefault("kind", _kind(rules, "rcbo" if "rcd" in parts else "breaker"))
        parts["curve"], parts["rating_a"] = found[1].upper(), float(found[2])
        return True
    if found := _RESIDUAL.match(word):
        parts["rcd"] = FoundRcd(idn_ma=float(found[1]))
        if parts.get("kind") == _kind(rules, "breaker"):
            parts["kind"] = _kind(rules, "rcbo")
        return True
    if found := _SIZE.match(word):
        parts["cables"] = int(found[1] or found[3] or 1)
        parts["conductor_mm2"] = float((found[2] or found[4]).replace(",", "."))
        return True
    if (found := _RATING.match(word)) and "kind" in parts and "rating_a" not in parts:
        parts["rating_a"] = float(found[1])
        return True
    return False


def _kind(rules: RuleSet, word: str) -> str:
    """The rule set's kind of device that a word means."""
    kinds = rules.devices.kinds
    if word in ("breaker", "mcb"):
        found = [one.id for one in kinds.values() if one.action == "breaker" and not one.has_rcd and one.current]
    elif word == "rcbo":
        found = [one.id for one in kinds.values() if one.has_rcd]
    elif word == "cartridge":
        found = [one.id for one in kinds.values() if one.action == "fuse" and one.overload_factor >= 0.9]
    else:  # a bare "fuse" is the rewirable one where the school has known any
        found = [one.id for one in kinds.values() if one.action == "fuse" and one.overload_factor < 0.9]
        found = found or [one.id for one in kinds.values() if one.action == "fuse"]
    if not found:
        raise EntryNotUnderstood(word, f"These rules know no device called {word}.")
    return found[0]
