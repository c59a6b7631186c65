"""Papers and tests, read from a standard's ``[papers]`` part."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Any

from vivid_lattice.core.document.work_details import Work
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.rules.document_rules import Insulation, Page, SourcedText
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.rules.sourced_value import SourcedValue

#: Where a standard names no rule of its own.
_POLARITY = "common.test.polarity"


class DocumentsFromTables:
    """Papers of a standard. NotTabulated where it holds nothing of them."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data, self._entries = data, standard.get("papers")
        self._title = str(standard["standard"]["title"])

    @property
    def _file(self) -> Mapping[str, Any]:
        if self._entries is None:
            raise NotTabulated(f"papers and tests in {self._title}", path="job.rules", ask="Take them from the rules.")
        entry: Mapping[str, Any] = self._entries
        return entry

    def _text_of(self, rule: str) -> SourcedText:
        entry = self._data.rule(rule)
        return SourcedText(entry.text, entry.source)

    def certificate(self, work: Work) -> SourcedText:
        """Which paper goes with a kind of work."""
        entry = self._file["certificates"]
        if "rule" in entry:
            return self._text_of(entry["rule"])
        table = self._data.table(entry["table"])
        row = next(row for row in table.rows if row[0] == entry["rows"][work])
        return SourcedText(str(row[1]), table.source)

    @cached_property
    def notices_to_give(self) -> tuple[SourcedText, ...]:
        """Who must be told of the work, as far as the standard's data say."""
        return tuple(self._text_of(rule) for rule in self._file["notify"])

    @cached_property
    def insulation(self) -> Insulation:
        """The test of insulation of a circuit at mains voltage."""
        entry = self._file["insulation"]
        if "rule" in entry:
            rule = self._data.rule(entry["rule"])
            return Insulation(float(rule.params["test_V"]), float(rule.params["least_Mohm"]), rule.text, rule.source)
        table = self._data.table(entry["table"])
        row = next(row for row in table.rows if row[0] == entry["row"])
        volts, least = (float(row[table.column(entry[name])]) for name in ("volts", "least"))
        return Insulation(volts, least, table.notes, table.source)

    @cached_property
    def cold_share(self) -> SourcedValue | None:
        """Share of a loop's limit that a reading on cold conductors may come to; None: the standard names none."""
        entry = self._file.get("cold_share")
        if entry is None:
            return None
        return SourcedValue(float(entry["share"]), self._data.rule(entry["rule"]).source)

    @cached_property
    def rcd_multiples(self) -> tuple[float, ...]:
        """Multiples of its rated residual current that an RCD is tested at; none where the button alone is pressed."""
        return tuple(float(many) for many in self._file.get("rcd_multiples", ()))

    @cached_property
    def page(self) -> Page:
        """The size of paper that is used where the standard is at home; A4 where it says nothing."""
        size: Page = (self._entries or {}).get("page", "a4")
        return size

    @cached_property
    def ring_test(self) -> SourcedText | None:
        """How the ends of a ring are tested; None where the standard knows no rings."""
        rule = self._file.get("ring_rule")
        return self._text_of(rule) if rule else None

    @cached_property
    def polarity(self) -> SourcedText:
        """What polarity is."""
        return self._text_of(self._file.get("polarity_rule", _POLARITY))
