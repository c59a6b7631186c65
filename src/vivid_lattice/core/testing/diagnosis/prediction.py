"""What a defect makes of the readings of a circuit, and how far what was read is from it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.readings import Reading, ReadingKind
from vivid_lattice.core.rules.testing_rules import Agreement, TestingRules, Uncertainty
from vivid_lattice.core.testing.diagnosis.circuit_symbols import CircuitModel
from vivid_lattice.core.testing.diagnosis.defects import Change, Defect, scoring
from vivid_lattice.core.testing.diagnosis.expressions import compiled
from vivid_lattice.core.testing.expected_value import Expected
from vivid_lattice.core.testing.reading_kinds import APART

#: Insulation is told by the order of its size: so much of a natural logarithm is one sigma. A sound one reads this or more [MΩ].
_INSULATION_SIGMA, SOUND_FROM_MOHM = 0.7, 20.0
_TOUCHING_MOHM, _LEAST_MOHM = 0.01, 1e-3
#: What it costs to say that something happens or does not.
_MAY = 2 * math.log(2)
#: Of a reading that the rules give no uncertainty.
_LEAST_SIGMA = 0.02
#: Changes that are seen as wrong where nothing is read.
WRONG: frozenset[Change] = frozenset({"wrong", "fails", "trips", "no trip", "open", "zero", "live", "dead", "unstable"})
_DIRECTION: Mapping[Change, int] = {"up": 1, "late": 1, "down": -1, "early": -1}


@dataclass(frozen=True, slots=True)
class Predicted:
    """A reading as a defect makes it: its value; or how it changes, where no value follows. ``times``: the value over that of a sound
    circuit."""

    value: float | None
    change: Change
    times: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """A reading of a circuit, with what was expected of it, its limits, its uncertainty, and its bands about the design."""

    reading: Reading
    expected: Expected
    uncertainty: Uncertainty | None
    bands: Agreement | None

    @classmethod
    def of(cls, reading: Reading, expected: Expected, testing: TestingRules, uncertainty: Uncertainty | None) -> Taken:
        """A reading with what its kind is given by the rules."""
        return cls(
            reading=reading,
            expected=expected,
            uncertainty=uncertainty,
            bands=testing.agreement(reading.test, "design"),
        )


def predicted(
    model: CircuitModel, defects: Sequence[Defect], parameters: Mapping[str, float], kind: ReadingKind
) -> Predicted:
    """A reading with some defects in the circuit. Of two, what each adds to the sound value is added; an open circuit stays open."""
    symbols = dict(model.symbols)
    formula = model.healthy.get(kind)
    scale = parameters.get("scale", 1.0)
    if model.scale_free:
        symbols |= {name: symbols[name] * scale for name in _SCALED if name in symbols}
    sound = compiled(formula)(symbols) if formula else None
    value: float | None = sound
    change: Change = "open" if kind in APART else "same"
    for defect in defects:
        effect = defect.effects.get(kind)
        if effect is None or effect.change == "same" or not defect.needs <= model.facts:
            continue
        if kind in APART:
            change = "same"
        if change not in WRONG:
            change = effect.change
        if effect.change == "open":
            return Predicted(None, "open")
        if effect.formula:
            own = {name: parameters[defect.unknown(name)] for name in defect.parameters}
            made = compiled(effect.formula)(symbols | own)
            value = made if value is None or sound is None else value + made - sound
        elif effect.change in ("zero", "dead"):
            value = 0.0
        elif effect.change != "unstable":
            value = None
    return Predicted(value, change, value / sound if value is not None and sound else 1.0)


_SCALED = ("R1", "Rn", "R2", "r1", "rn", "r2")


def penalty(taken: Taken, made: Predicted) -> float:
    """How far a reading is from what a defect makes of it: squared, in units of its uncertainty; or 9 or 25 where it contradicts."""
    reading, kind = taken.reading, taken.reading.test
    if reading.state in ("right", "wrong"):
        seen_wrong = reading.state == "wrong"
        if made.change == "may trip":
            return _MAY
        if seen_wrong == (made.change in WRONG):
            return 0.0
        return scoring().open_against_value if seen_wrong else scoring().contradiction
    if kind.startswith("ir_"):
        return _of_insulation(reading, made)
    if kind.startswith("rcd_"):
        return _of_rcd(taken, made)
    opened = reading.state == "above-range"
    if opened or made.change == "open":
        return 0.0 if opened == (made.change == "open") else scoring().open_against_value
    if reading.value is None:
        return 0.0
    if made.value is None:
        return _of_direction(taken, made)
    return ((reading.value - made.value) / _sigma(taken, made.value)) ** 2


def _sigma(taken: Taken, value: float) -> float:
    """The uncertainty of a reading, and of what is expected: half the band in which they agree."""
    own, bands = taken.uncertainty, taken.bands
    read = own.pct / 100 * (taken.reading.value or 0.0) + own.absolute if own is not None else _LEAST_SIGMA
    expected = max(bands.agree_plus_pct / 100 * value, bands.agree_abs) / 2 if bands is not None else 0.0
    return math.hypot(read, expected) or _LEAST_SIGMA


def _of_insulation(reading: Reading, made: Predicted) -> float:
    if made.change == "zero":
        value = reading.value if reading.value is not None else 1e3
        return 0.0 if value <= _TOUCHING_MOHM else _squared(value, _TOUCHING_MOHM)
    expected = SOUND_FROM_MOHM if made.change in ("same", "up") or made.value is None else made.value
    value = reading.value if reading.value is not None else 1e3
    if made.change in ("same", "up"):
        return 0.0 if value >= expected else _squared(value, expected)
    if made.value is None:  # lower, by an amount that is not known
        return 0.0 if reading.state != "above-range" and value < SOUND_FROM_MOHM else scoring().contradiction
    if reading.state == "above-range":
        return 0.0 if expected >= value else _squared(expected, value)
    return _squared(value, expected)


def _squared(value: float, expected: float) -> float:
    ratio = max(value, _LEAST_MOHM) / max(expected, _LEAST_MOHM)
    return (math.log(ratio) / _INSULATION_SIGMA) ** 2


def _of_rcd(taken: Taken, made: Predicted) -> float:
    """Times and currents of a residual-current device: inside its limits while it is sound; beyond them, or never, as the defect says."""
    reading, expected = taken.reading, taken.expected
    if made.change == "may trip":
        return _MAY
    stays_closed = reading.state == "above-range"
    if stays_closed or made.change == "no trip":
        # One that trips later, or at more, may be beyond what the tester tries.
        fits = made.change in ("no trip", "late", "up") if stays_closed else False
        return 0.0 if fits else scoring().open_against_value
    value = reading.value or 0.0
    least, most = expected.least, expected.most
    if reading.test == "rcd_ramp" and made.change in ("up", "down"):
        least, most = (None if limit is None else limit * made.times for limit in (least, most))
    is_ = 1 if most is not None and value > most else -1 if least is not None and value <= least else 0
    wanted = 0 if reading.test == "rcd_ramp" else _DIRECTION.get(made.change, 0)
    if made.change == "early":
        wanted = -1
    return 0.0 if is_ == wanted else scoring().contradiction


def _of_direction(taken: Taken, made: Predicted) -> float:
    """Where no value follows, a reading that is off in the direction of the defect."""
    value, expected = taken.reading.value or 0.0, taken.expected
    if expected.low is None or expected.high is None:
        return 0.0
    is_ = 1 if value > expected.high else -1 if value < expected.low else 0
    wanted = _DIRECTION.get(made.change)
    if wanted is None:
        return 0.0 if is_ else scoring().contradiction / 2
    return 0.0 if is_ == wanted else scoring().contradiction
