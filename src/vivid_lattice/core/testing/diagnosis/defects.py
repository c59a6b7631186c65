"""The defects that readings can tell of, with what each does to every reading."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.errors import BadTable
from vivid_lattice.core.rules.data_folder import data_root, homes
from vivid_lattice.core.rules.rule_data import known_publications, source_of
from vivid_lattice.core.sources import Source
from vivid_lattice.core.testing.diagnosis.expressions import compiled
from vivid_lattice.core.testing.diagnosis.facts import FACTS
from vivid_lattice.core.testing.reading_kinds import TRAITS

#: How a reading changes: higher, lower, over the range, none, as designed, trips, does not, late, early, live, dead, not as drawn, fails.
Change = Literal[
    "up", "down", "open", "zero", "same", "trips", "no trip", "may trip", "early", "late", "live", "dead", "wrong", "unstable", "fails",
]  # fmt: skip
#: When a defect hurts: at once, before long, hidden behind what works, never.
Danger = Literal["now", "soon", "hidden", "none"]
NONE = "common.defect.none"


@dataclass(frozen=True, slots=True)
class Effect:
    """What a defect does to a reading: how it changes, and its value by the symbols of the circuit; '' where none follows."""

    reading: ReadingKind
    change: Change
    formula: str


@dataclass(frozen=True, slots=True)
class Separation:
    """A test that tells two defects apart: what it gives here and there. ``other`` '-': no defect."""

    other: str
    test: str
    here: str
    there: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Defect:
    """Something wrong. ``scope``: what has it; of an RCD, all its circuits show it; of readings, all circuits, and one alone too; ``needs``: what a circuit has to have for it, of ``facts``; ``parameters``: unknowns of its formulas, each with the range they are searched in; ``weight``: how often it is met;
    ``events``: faults that it gives when it is live; ``heated``: the one of its unknowns that the load's current flows through, or ''."""

    id: str
    name: str
    circuits: Literal["ring", "radial", "any"]
    scope: Literal["circuit", "rcd", "installation", "readings", "bond", "spd"]
    weight: float
    danger: Danger
    events: tuple[str, ...]
    parameters: Mapping[str, tuple[float, float]]
    effects: Mapping[ReadingKind, Effect]
    seen: str
    repair: str
    separations: tuple[Separation, ...]
    source: Source
    heated: str = ""
    needs: frozenset[str] = frozenset()

    def unknown(self, name: str) -> str:
        """The name of one of its unknowns among those of other defects."""
        return f"{self.id}.{name}"

    @property
    def unknowns(self) -> Mapping[str, tuple[float, float]]:
        """Its unknowns by their names among those of other defects, each with its range."""
        return {self.unknown(name): limits for name, limits in self.parameters.items()}

    @property
    def changed(self) -> frozenset[ReadingKind]:
        """The readings that it changes: the others stay as they are, some against what one expects."""
        return frozenset(kind for kind, effect in self.effects.items() if effect.change != "same")

    @property
    def penalty(self) -> float:
        """What it costs in a comparison before any reading is looked at: its unknowns, less how often it is met."""
        return scoring().per_parameter * len(self.parameters) - 2.0 * math.log(self.weight)


def _files() -> Iterator[dict[str, Any]]:
    folder = data_root() / "common" / "defects"
    for file in sorted(folder.iterdir(), key=lambda each: each.name):
        yield tomllib.loads(file.read_text("utf-8"))


def _entry(of: str, id_: str) -> Mapping[str, Any]:
    return next(entry for file in _files() for entry in file.get(of, ()) if entry["id"] == id_)


@lru_cache
def weights() -> Mapping[int, float]:
    """How often a defect of each rank is met; rank 0: none."""
    table = _entry("table", "common.defect.weight")
    return {int(rank): float(weight) for rank, weight in table["rows"]}


@dataclass(frozen=True, slots=True)
class Scoring:
    """What an explanation costs, in the square of sigmas: a reading that contradicts it, an open circuit against a value, an unknown; and the
    cost by which two must differ to be told apart."""

    contradiction: float
    open_against_value: float
    per_parameter: float
    not_told_apart: float


@lru_cache
def scoring() -> Scoring:
    """How explanations are compared."""
    rule = _entry("rule", "common.defect.score")
    return Scoring(**{name: float(value) for name, value in rule["params"].items()})


@lru_cache
def no_defect() -> Defect:
    """That all is as designed."""
    return Defect(
        id=NONE, name="", circuits="any", scope="circuit", weight=weights()[0], danger="none", events=(), parameters={},
        effects={}, seen="", repair="", separations=(), source=Source("practice", "common.defect.weight", "practice", "medium"),
    )  # fmt: skip


@lru_cache
def defects(standard: str) -> tuple[Defect, ...]:
    """The defects that are met in a standard's installations. BadTable where the files are not in order."""
    folder = homes()[standard][0]
    return tuple(defect for defect, standards in _all() if folder in standards)


@lru_cache
def _all() -> tuple[tuple[Defect, frozenset[str]], ...]:
    """Every defect, with the folders of the standards that it is met in."""
    entries = [entry for file in _files() for entry in file.get("defect", ())]
    ids = {entry["id"] for entry in entries}
    for entry in entries:
        for row in entry["separate"]:
            if row[0] not in ids:
                raise BadTable(entry["id"], f"is told from one that there is not: {row[0]}")
    return tuple((_defect(entry), frozenset(entry["standards"])) for entry in entries)


def _defect(entry: Mapping[str, Any]) -> Defect:
    source = source_of(entry, known_publications())
    effects = {row[0]: Effect(*row) for row in entry["effects"]}
    for effect in effects.values():
        if effect.reading not in TRAITS:
            raise BadTable(source.table, f"names a reading that is none: {effect.reading}")
        if effect.formula:
            compiled(effect.formula)
    if not FACTS.keys() >= set(entry.get("needs", ())):
        raise BadTable(source.table, f"needs what is not known of circuits: {', '.join(entry['needs'])}")
    if entry.get("heated", "") not in ("", *entry["parameters"]):
        raise BadTable(source.table, f"is heated by an unknown that it does not have: {entry['heated']}")
    return Defect(
        id=source.table,
        name=entry["name"],
        circuits=entry["circuits"],
        scope=entry["scope"],
        weight=weights()[entry["rank"]],
        danger=entry["danger"],
        events=tuple(entry.get("events", ())),
        parameters={name: (float(low), float(high)) for name, (low, high) in entry["parameters"].items()},
        effects=effects,
        seen=entry["seen"],
        repair=entry["repair"],
        separations=tuple(Separation(*row) for row in entry["separate"]),
        source=source,
        heated=entry.get("heated", ""),
        needs=frozenset(entry.get("needs", ())),
    )
