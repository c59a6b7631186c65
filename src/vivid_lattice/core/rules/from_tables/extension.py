"""One more point, read from a standard's ``extension.toml``."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Any

from vivid_lattice.core.rules.extension_rules import FoundRow, SpurLimits
from vivid_lattice.core.rules.rule_data import RuleData


class ExtensionFromTables:
    """One more point under a standard."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data = data
        self._entries: Mapping[str, Any] = standard.get("extension", {})

    @cached_property
    def found(self) -> tuple[FoundRow, ...]:
        """What can be found in this standard, in the order of the table; nothing where its data do not say."""
        if "found" not in self._entries:
            return ()
        table = self._data.table(self._entries["found"])
        return tuple(FoundRow(found, int(str(cables)), way, table.source) for found, cables, way in table.rows)  # type: ignore[arg-type]

    @cached_property
    def limits(self) -> SpurLimits | None:
        """Limits of fused spurs; None: the standard has no rings."""
        if "limits" not in self._entries:
            return None
        table = self._data.table(self._entries["limits"])
        [(fuse, size, steady)] = ((float(str(cell)) for cell in row) for row in table.rows)
        return SpurLimits(fuse, size, steady, table.source)
