"""Words that a typed line is completed with: what a circuit feeds, and where."""

from __future__ import annotations

from vivid_lattice.core.entry.rooms import room_words
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.protocol import RuleSet

#: The variant whose customary words are German ones too.
_GERMAN = "iec-de"


def line_words(rules: RuleSet) -> tuple[str, ...]:
    """Everyday words of a standard for what a circuit feeds, then those for rooms; each once.

    Source  the standard's customary words: common practice, no source
    """
    named = (word.text for word in customary(rules.id).words.values() if word.load or word.circuit)
    german = room_words(german=True) if rules.id == _GERMAN else ()
    return tuple(dict.fromkeys((*named, *room_words(german=False), *german)))
