"""Every message with sample parameters as the server renders it, as JSON: the web's tests render the same and compare."""

from __future__ import annotations

import json
import re
import sys

from vivid_lattice.core.messages import Joined, Message, speaking
from vivid_lattice.core.messages.catalogue import BASE, languages, templates
from vivid_lattice.core.messages.icu import arguments
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.text import Shown

#: Names as people may type them, a value, messages within one another, a list.
_VALUES: tuple[Param, ...] = (
    "{t_board} it's 'quoted' {0}",
    Shown("3.35"),
    Message("core.ending.missing", {"list": Joined.of(["a", Shown("2.5"), "a"])}),
    "\u202eright to left\u202c # <b>",
)


def sample(text: str) -> dict[str, Param]:
    """Parameters for a template: counts of 1, 2 and 1200 in turn, the first choice where it selects, else one of the values."""
    chosen: dict[str, str] = dict(re.findall(r"\{(\w+), select, (\w+) ", text))
    counted = set(re.findall(r"\{(\w+), plural,", text))
    names = [name for name in sorted(arguments(text)) if not name.startswith("t_")]
    return {
        name: (1, 2, 1200)[at % 3] if name in counted else chosen.get(name, _VALUES[(at + len(text)) % len(_VALUES)])
        for at, name in enumerate(names)
    }


def samples() -> list[dict[str, object]]:
    """One line for each message, standard and language: the message as it is sent, and its sentence."""
    lines: list[dict[str, object]] = []
    for language in [name for name in languages() if "-" not in name]:
        with speaking(language):
            for standard in standard_ids():
                for id_, text in templates(BASE).items():
                    message = Message(id_, sample(text), rule_set(standard).words)
                    lines.append({"language": language, "message": message.data(), "text": str(message)})
    return lines


if __name__ == "__main__":
    json.dump(samples(), sys.stdout)
