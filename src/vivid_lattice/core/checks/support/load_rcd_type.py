"""The RCD type that a load requires, by the direct current in its residual current."""

from __future__ import annotations

from collections.abc import Mapping

from vivid_lattice.core.document.job import Circuit, Load
from vivid_lattice.core.document.rcd import RCD_TYPES
from vivid_lattice.core.formulas.load_currents import lines_of_load
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.rules.protection_rules import ProtectionRules

#: Least type by the direct current in a load's leakage.
TYPE_BY_DC: Mapping[str, str] = {"none": "AC", "pulsating": "A", "smooth": "B", "smooth-detected": "A"}


def type_of_load(ctx: CircuitContext, circuit: Circuit, load: Load) -> str:
    """The type that a load of a circuit requires."""
    phases = len(lines_of_load(load, ctx.network.tree.supplied(circuit))) if load.frequency_converter else 1
    return least_type_by_load(ctx.rules.protection, load, phases=phases)


def least_type_by_load(rules: ProtectionRules, load: Load, *, phases: int) -> str:
    """The type that a load requires on so many lines: F for a single-phase converter; B for a three-phase one, whose direct current is smooth."""
    by_dc = TYPE_BY_DC[rules.residual(load).dc]
    if not load.frequency_converter or load.dc_residual == "smooth-detected":
        return by_dc
    return "B" if phases == 3 else max("F", by_dc, key=RCD_TYPES.index)
