"""The rated output of a source at the end of a circuit."""

from __future__ import annotations

from vivid_lattice.core.document.energy_source import EnergySource
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.protocol import RuleSet


def rated_output_a(circuit: Circuit, source: EnergySource, rules: RuleSet) -> float:
    """Rated output current of a source in each of its lines [A]. NeedsInput while it is not known."""
    if source.rated_a is None:
        raise NeedsInput(
            Need(
                message(rules.words, "core.network.need.source.what", circuit=circuit.name),
                "source.rated_a",
                message(rules.words, "core.network.need.source.ask"),
            )
        )
    return source.rated_a
