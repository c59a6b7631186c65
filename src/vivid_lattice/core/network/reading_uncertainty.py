"""How far a reading is to be believed: by what its instrument states of itself, else as is usual for its kind."""

from __future__ import annotations

from vivid_lattice.core.document.readings import Reading, Testing
from vivid_lattice.core.rules.testing_rules import TestingRules, Uncertainty


def uncertainty_of(testing: Testing, rules: TestingRules, reading: Reading) -> Uncertainty | None:
    """The uncertainty of a reading; None of what has no value.

    What an instrument states of itself takes the place of the usual share of the reading; the usual amount beside it, for contacts and the last
    digit, stays, but for an instrument that is stated to be exact.
    """
    usual = rules.uncertainty(reading.test, no_trip=reading.no_trip)
    own = next((each.uncertainty_pct for each in testing.instruments if each.id == reading.instrument), None)
    if usual is None or own is None:
        return usual
    return Uncertainty(pct=own, absolute=usual.absolute if own else 0.0, source=usual.source)
