"""Words of a typed line for the earth of a board or of a circuit's points, and for protection against a broken PEN conductor."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal

from vivid_lattice.core.rules.protocol import RuleSet

#: What a phrase states: an electrode of its own, the earth brought with the feeder, neutral and earth joined there, the same building, or
#: protection of a charging point against a broken PEN conductor.
EarthWord = Literal["electrode", "exported", "neutral-link", "same-building", "open-pen"]

_ELECTRODE = (
    "own rod", "own earth rod", "own ground rod", "own electrode", "own earth electrode", "own earth", "own earth stake", "earth rod",
    "ground rod", "earth electrode", "grounding electrode", "earth stake", "earth spike", "tt", "tt earth", "tt island", "rod",
    "eigener erder", "erder", "erdspieß", "eigener erdspieß", "piquet de terre",
)  # fmt: skip
_EXPORTED = (
    "exported earth", "exported pme", "pme earth", "pme exported", "house earth", "earth from house", "earth from the house",
    "earth with feeder", "earth with the feeder", "earth exported",
)  # fmt: skip
_LINK = ("men", "own men", "men link", "own men link", "separate men")
_SAME = ("same building", "in the house", "in house")
_OPEN_PEN = (
    "open-pen", "open pen", "open-pen protection", "open pen protection", "open-pen device", "open pen device", "pen protection",
    "pen fault protection", "pen-fault protection", "pen detection", "built-in pen protection", "with pen protection",
)  # fmt: skip
_MEANINGS: Mapping[EarthWord, Sequence[str]] = {
    "electrode": _ELECTRODE,
    "exported": _EXPORTED,
    "neutral-link": _LINK,
    "same-building": _SAME,
    "open-pen": _OPEN_PEN,
}
_PHRASES: Mapping[str, EarthWord] = {phrase: meaning for meaning, phrases in _MEANINGS.items() for phrase in phrases}
#: So many words has the longest phrase.
_LONGEST = max(len(phrase.split()) for phrase in _PHRASES)


def earth_word(words: Sequence[str], rules: RuleSet) -> tuple[int, EarthWord] | None:
    """The longest phrase that some words begin with: how many words it has, and what it states; None where they begin with none.

    A link is stated only where the standard has a MEN system; elsewhere the word means nothing here.
    """
    for count in range(min(_LONGEST, len(words)), 0, -1):
        meaning = _PHRASES.get(" ".join(word.casefold() for word in words[:count]))
        if meaning is not None and not (meaning == "neutral-link" and "MEN" not in rules.systems):
            return count, meaning
    return None
