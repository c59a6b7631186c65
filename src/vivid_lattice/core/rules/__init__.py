"""Rule sets: one a standard. Everything about a standard is in its packaged data; ``rule_set`` hands it out."""

from __future__ import annotations

from functools import lru_cache

from vivid_lattice.core.errors import UnknownRuleSet
from vivid_lattice.core.rules.data_folder import standard_ids
from vivid_lattice.core.rules.from_tables.standard import StandardFromTables

__all__ = ["rule_set", "standard_ids"]


@lru_cache
def rule_set(rules: str) -> StandardFromTables:
    """The rule set of a standard, loaded and validated once a process.

    Raises UnknownRuleSet, naming those there are.
    """
    if rules not in standard_ids():
        raise UnknownRuleSet(rules, standard_ids())
    return StandardFromTables(rules)
