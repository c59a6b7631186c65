"""Tables and rules of the packaged data that no standard goes by, each with the reason."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import lru_cache
from types import MappingProxyType

from vivid_lattice.core.rules.data_folder import data_root


@lru_cache
def reference_only() -> Mapping[str, str]:
    """Id of each table and rule that is packaged for reference only, and why."""
    data = tomllib.loads((data_root() / "reference_only.toml").read_text("utf-8"))
    return MappingProxyType({name: str(entry["reason"]) for entry in data["reference_only"] for name in entry["ids"]})
