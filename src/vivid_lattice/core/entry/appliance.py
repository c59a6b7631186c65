"""Which appliance a load is, where a rule goes by more than its kind."""

from __future__ import annotations

from functools import lru_cache

from vivid_lattice.core.document.job import Load
from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet


def appliance_of(load: Load, rules: RuleSet) -> str:
    """Key of the customary circuits: as stated, else as the words of the load's name say; empty where neither does.

    >>> from vivid_lattice.core.rules import rule_set
    >>> appliance_of(Load(name="Dishwasher", kind="appliance"), rule_set("na"))
    'dishwasher'
    """
    return load.appliance or _named(rules.id, load.name)


@lru_cache(maxsize=4096)
def _named(rules_id: str, name: str) -> str:
    loads = parse_line(name, rule_set(rules_id), kind="name").loads
    return loads[0].kind if loads else ""
