"""Where a figure comes from."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Source:
    """Where a figure or rule comes from, and how far it can be trusted."""

    publication: str
    table: str = ""
    provenance: str = "memory"
    confidence: str = "high"
