"""To which bar does the neutral of a circuit go?"""

from __future__ import annotations

import random

from vivid_lattice.core.messages import Message, message
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.training.exercises.exercise import Exercise

_CIRCUITS = ("ring", "cooker", "lights", "shower", "heater", "pump")
_PLACES = ("first", "second", "own", "ahead")
#: Where the neutral of a circuit goes by where its line comes from: the bar of the same residual-current device; of an RCBO into the device.
_BAR = {"first": "bar_first", "second": "bar_second", "own": "into_device", "ahead": "bar_main"}


def bar_of(place: str) -> str:
    """The bar of a circuit's neutral by what its line is behind."""
    return _BAR[place]


def neutral_bar(rules: RuleSet, number: int) -> Exercise:
    """The exercise of a number: circuits behind two residual-current devices, on a device of their own, or ahead."""
    rng = random.Random(f"neutral {rules.id} {number}")
    names = rng.sample(_CIRCUITS, 4)
    places = [rng.choice(_PLACES) for _ in names]
    asked = rng.randrange(4)
    bars = [*_BAR.values(), "earth_bar"]
    wrong = rng.sample([bar for bar in bars if bar != bar_of(places[asked])], 3)
    options = sorted([bar_of(places[asked]), *wrong])

    def say(group: str, key: str, **params: str | Message) -> Message:
        return message(rules.words, f"core.training.{group}.{key}", **params)

    return Exercise(
        kind="neutral-bar", topic=places[asked], standard=rules.id, number=number,
        question=say("ask", "neutral", circuit=say("circuit", names[asked])),
        lines=tuple(
            say("line", place, circuit=say("circuit", name)) for name, place in zip(names, places, strict=True)
        ),
        options=tuple(say("option", bar) for bar in options),
        right=options.index(bar_of(places[asked])),
        answer=(say("answer", f"neutral_{places[asked]}"),),
        source=rules.protection.source("order"),
        facts={"place": places[asked]},
    )  # fmt: skip
