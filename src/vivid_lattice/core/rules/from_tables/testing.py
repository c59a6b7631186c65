"""Testing, read from a standard's ``testing.toml`` and the tables every standard shares."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from functools import cached_property, lru_cache
from typing import Any

from vivid_lattice.core.errors import BadTable, NotTabulated
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.data_folder import data_root, homes
from vivid_lattice.core.rules.document_rules import SourcedText
from vivid_lattice.core.rules.rule_data import RuleData, Table, known_publications, source_of
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.rules.testing_rules import (
    Agreement,
    CataloguedObservation,
    IsolationStep,
    ObservationCode,
    ReadingLimit,
    RoutineRow,
    TestStep,
    Uncertainty,
)
from vivid_lattice.core.sources import Source

_FILE = "testing.toml"
_UNCERTAINTY, _AGREEMENT = "common.test.uncertainty", "common.test.agreement"


class TestingFromTables:
    """Testing of a standard. NotTabulated where it holds nothing of it."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data, self._id = data, str(standard["standard"]["id"])
        self._title = str(standard["standard"]["title"])
        self._folder = homes()[self._id][0]
        self._entries: Mapping[str, str] | None = standard.get("testing")

    @property
    def _names(self) -> Mapping[str, str]:
        """Which table is for what; NotTabulated where the standard holds nothing of testing."""
        if self._entries is None:
            raise self._nothing()
        return self._entries

    def _nothing(self) -> NotTabulated:
        return NotTabulated(
            message(None, "core.rules.testing.need.what", standard=self._title),
            path="job.rules",
            ask=message(None, "core.rules.need.ask"),
        )

    @cached_property
    def steps(self) -> tuple[TestStep, ...]:
        """The tests in the standard's order."""
        steps = _steps(self._folder)
        if not steps:
            raise self._nothing()
        return steps

    @cached_property
    def isolation(self) -> tuple[IsolationStep, ...]:
        """Safe isolation, step by step."""
        return tuple(IsolationStep(int(str(row[0])), str(row[1]), str(row[2])) for row in self._isolation.rows)

    @property
    def routine(self) -> tuple[RoutineRow, ...]:
        """Checks between inspections, and usual times to the next inspection."""
        table = self._data.table(self._names["routine"])
        return tuple(RoutineRow(str(text), int(months), of, table.source) for text, months, of in table.rows)  # type: ignore[arg-type]

    @cached_property
    def codes(self) -> tuple[ObservationCode, ...]:
        """The codes of observations, the most serious first."""
        rows: Iterable[tuple[Any, ...]] = self._data.table(self._names["codes"]).rows
        return tuple(
            ObservationCode(code, meaning, urgency, unsatisfactory, action)
            for code, meaning, urgency, unsatisfactory, action in rows
        )

    @cached_property
    def observations(self) -> tuple[CataloguedObservation, ...]:
        """What is found at inspections. BadTable where one has a code that is none, or two have one id."""
        table = self._data.table(self._names["observations"])
        found = tuple(
            CataloguedObservation(
                id=str(identity), title=str(title), code=str(code), also=str(also), reason=str(reason), clause=str(clause),
                readings=tuple(str(readings).split()), system=str(system), source=table.source,
            )
            for identity, title, code, also, reason, clause, readings, system in table.rows
        )  # fmt: skip
        if wrong := {each.code for each in found} - {each.code for each in self.codes}:
            raise BadTable(table.id, f"has codes that are none: {', '.join(sorted(wrong))}")
        if len({each.id for each in found}) != len(found):
            raise BadTable(table.id, "has two observations of one id")
        return found

    @property
    def outcome(self) -> SourcedText:
        """What the outcome of a report follows from."""
        rule = self._data.rule(self._names["outcome"])
        return SourcedText(rule.text, rule.source)

    @property
    def isolation_source(self) -> Source:
        """Where the steps of isolation are from."""
        return self._isolation.source

    @property
    def _isolation(self) -> Table:
        return self._data.table(self._names["isolation"])

    @cached_property
    def temperature(self) -> tuple[float, float, Source]:
        """Share that a conductor's resistance rises by a kelvin, the temperature it is counted from [°C], and the rule."""
        rule = self._data.rule("common.test.temperature")
        return float(rule.params["per_K"]), float(rule.params["reference_C"]), rule.source

    @cached_property
    def guard(self) -> SourcedValue:
        """Operating uncertainty of an instrument whose own data are not known, as a share."""
        rule = self._data.rule("common.test.guard")
        return SourcedValue(float(rule.params["u_default"]), rule.source)

    @property
    def no_trip_rule(self) -> Source:
        """Why a loop read without tripping the RCD reads high."""
        return self._data.rule("common.test.rcd-lift").source

    def rcd_least_ms(self, multiple: float, *, delayed: bool) -> SourcedValue | None:
        """The time before which an RCD may not trip at a multiple of its rated residual current [ms]; None: at once."""
        table = self._data.table("common.rcd.break-time")
        kind = "S" if delayed else "general"
        entries = (dict(zip(table.columns, row, strict=True)) for row in table.rows)
        for entry in entries:
            if (entry["kind"], entry["times_IdN"]) == (kind, multiple) and float(entry["non_actuating_s"]) > 0:
                return SourcedValue(1000 * float(entry["non_actuating_s"]), table.source)
        return None

    def uncertainty(self, reading: str, *, no_trip: bool = False) -> Uncertainty | None:
        """The usual uncertainty of a reading; of one that is not listed as taken without tripping the RCD, as of any other."""
        return (self._uncertainties.get(f"{reading} no trip") if no_trip else None) or self._uncertainties.get(reading)

    @cached_property
    def _uncertainties(self) -> Mapping[str, Uncertainty]:
        table = self._data.table(_UNCERTAINTY)
        entries = [dict(zip(table.columns, row, strict=True)) for row in table.rows]
        return {
            str(entry["reading"]): Uncertainty(
                pct=float(entry["usual_pct"]), absolute=float(entry["usual_abs"]), source=table.source
            )
            for entry in entries
        }

    def agreement(self, reading: str, against: str) -> Agreement | None:
        """The bands of a reading about what it is compared with; None where it is compared with nothing."""
        table = self._data.table(_AGREEMENT)
        for row in table.rows:
            entry = dict(zip(table.columns, row, strict=True))
            if (entry["reading"], entry["against"]) == (reading, against):
                names = [name for name in table.columns if name.startswith(("agree_", "disagree_"))]
                return Agreement(**{name: float(entry[name]) for name in names}, source=table.source)
        return None

    def periodic_insulation(self, *, wet: bool, loads_connected: bool) -> SourcedValue | None:
        """Least insulation of an installation in use [Ω per volt]; None: as that of new work."""
        name = self._names.get("periodic_insulation")
        if name is None:
            return None
        table = self._data.table(name)
        row = next(row for row in table.rows if row[0] == ("wet" if wet else "dry"))
        column = table.column("loads_connected" if loads_connected else "loads_disconnected")
        return SourcedValue(float(str(row[column])), table.source)

    def limits(self, reading: str) -> tuple[ReadingLimit, ...]:
        """Limits of a reading that no other table of the standard holds."""
        table = self._data.table(self._names["limits"])
        entries = (dict(zip(table.columns, row, strict=True)) for row in table.rows)
        return tuple(
            ReadingLimit(
                sense=str(entry["sense"]),  # type: ignore[arg-type]
                value=float(entry["limit"]),
                unit=str(entry["unit"]),
                standing=str(entry["standing"]),
                source=table.source,
            )
            for entry in entries
            if entry["reading"] == reading
        )


@lru_cache
def _steps(folder: str) -> tuple[TestStep, ...]:
    """The tests of a standard's file, in their order. BadTable where one lacks a part, or two have one id."""
    path = data_root() / folder / _FILE
    if not path.is_file():
        return ()
    entries = tomllib.loads(path.read_text("utf-8")).get("test", [])
    steps = tuple(sorted((_step(entry) for entry in entries), key=lambda step: step.order))
    if len({step.id for step in steps}) != len(steps):
        raise BadTable(_FILE, f"of {folder}: two tests have one id")
    return steps


def _step(entry: Mapping[str, Any]) -> TestStep:
    source = source_of(entry, known_publications())
    try:
        return TestStep(
            id=source.table,
            order=int(entry["order"]),
            state=entry["state"],
            title=entry["title"],
            readings=tuple(entry["readings"]),
            before=entry["before"],
            prepare=entry["prepare"],
            how=entry["how"],
            restore=entry["restore"],
            caution=entry["caution"],
            source=source,
        )
    except KeyError as lack:
        raise BadTable(source.table, f"has no {lack}") from None
