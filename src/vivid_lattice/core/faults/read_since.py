"""What readings taken since a device tripped say of each suspect."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.readings import Reading, ReadingKind
from vivid_lattice.core.faults.event import FaultEvent, FaultKind
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Text
from vivid_lattice.core.testing.diagnosis.defects import defects
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.reading_text import shown_reading

#: The insulation that a fault would show in. Leakage is not here: an appliance is disconnected when insulation is read.
_SHOWS_IN: Mapping[FaultKind, ReadingKind] = {
    "line-earth": "ir_le",
    "nail": "ir_le",
    "line-neutral": "ir_ln",
    "neutral-earth": "ir_ne",
}
#: Insulation from here on is sound [MΩ]. Common practice, no source.
_SOUND_MOHM = 20.0
#: So much likelier is what the readings are explained by with certainty, and a fault on sound insulation. Common practice, no source.
_POINTED_AT, _SOUND = 10.0, 0.2


@dataclass(frozen=True, slots=True)
class ReadSince:
    """Readings since a trip: how likely each fault of a circuit explains them, with the causes by name; and what insulation was sound."""

    network: Installation
    pointed: Mapping[tuple[str, str], tuple[float, tuple[str, ...]]]
    sound: Mapping[tuple[str, ReadingKind], str]

    @classmethod
    def of(cls, network: Installation, since: str = "") -> ReadSince:
        """What the readings of a job say. ``since``: those before it are left out; '': all count."""
        testing = network.entered.testing
        readings = tuple(one for one in testing.readings if not since or (one.at is not None and one.at >= since))
        if not readings:
            return cls(network, {}, {})
        job = network.entered.model_copy(update={"testing": testing.model_copy(update={"readings": readings})})
        read = Installation.of(job, network.rules)
        events = {defect.id: defect.events for defect in defects(network.rules.id)}
        pointed: dict[tuple[str, str], tuple[float, tuple[str, ...]]] = defaultdict(lambda: (0.0, ()))
        for diagnosis in diagnosed(read, judged(read)):
            for possible in diagnosis.possible:
                for event in {event for defect in possible.ids for event in events[defect]}:
                    share, names = pointed[diagnosis.circuit, event]
                    pointed[diagnosis.circuit, event] = (share + possible.probability, (*names, *possible.names))
        return cls(
            network, dict(pointed), {(one.subject.id, one.test): _shown(one) for one in readings if _is_sound(one)}
        )

    def weigh(self, event: FaultEvent, reason: Text) -> tuple[float, Text]:
        """How much likelier a fault is by the readings, and the reason with what they say."""
        share, names = self.pointed.get((event.circuit or "", event.kind), (0.0, ()))
        if share > 0:
            causes = Joined.of(names, ", ")
            said = self.network.message("core.fault.cause.read", reason=reason, causes=causes)
            return 1.0 + (_POINTED_AT - 1.0) * share, said
        kind = _SHOWS_IN.get(event.kind)
        shown = self.sound.get((event.circuit or "", kind)) if kind is not None else None
        if shown is None:
            return 1.0, reason
        return _SOUND, self.network.message("core.fault.cause.sound", reason=reason, shown=shown)


def _is_sound(reading: Reading) -> bool:
    in_pairs = reading.test in _SHOWS_IN.values() and reading.state in ("value", "above-range")
    # Beyond a range that is not stated is beyond any.
    return in_pairs and (reading.value is None or reading.value >= _SOUND_MOHM)


def _shown(reading: Reading) -> str:
    return shown_reading(reading.state, reading.value, TRAITS[reading.test].unit)
