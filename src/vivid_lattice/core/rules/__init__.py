"""Rule sets: one a school. Everything about a school stands in its packaged data; ``rule_set`` hands it out."""

from __future__ import annotations

from functools import lru_cache

from vivid_lattice.core.errors import UnknownRuleSet
from vivid_lattice.core.rules.from_tables.standard import TabledSchool
from vivid_lattice.core.rules.rule_data import schools


@lru_cache
def known() -> tuple[str, ...]:
    """Ids of the rule sets there are."""
    return schools()


@lru_cache
def rule_set(rules: str) -> TabledSchool:
    """The rule set of a school, loaded and validated once a process.

    Raises UnknownRuleSet, naming those there are.
    """
    if rules not in known():
        raise UnknownRuleSet(rules, known())
    return TabledSchool(rules)
