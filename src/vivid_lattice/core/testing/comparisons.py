"""How a reading is to other readings: such ratios do not depend on an estimated length."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.readings import Reading
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.neighbours import beside_insulation, downstream_times
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.subjects import Subject
from vivid_lattice.core.text import shown
from vivid_lattice.core.units import SLACK


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingComparison:
    """A reading beside what other readings make of it. ``against``: which, in a word of the table of agreement."""

    against: str
    agreement: Literal["agrees", "look-again", "below", "above"]
    value: float
    text: Text


#: What a word of the table of agreement is called.
_AGAINST = {
    "ze+r1r2": "core.testing.against.ze_and_r1r2",
    "r1_end": "core.testing.against.r1_end",
    "r1rn": "core.testing.against.r1rn",
    "ends": "core.testing.against.ends",
    "ze": "core.testing.against.ze",
    "parallel": "core.testing.against.parallel",
    "similar": "core.testing.against.similar",
    "series": "core.testing.against.series",
}


def comparisons_of(
    network: Installation, measured: MeasuredValues, reading: Reading, subject: Subject
) -> Iterator[ReadingComparison]:
    """What a reading can be compared with: a loop with Ze and R1+R2, conductors of a radial and of a ring with each other, currents with loops."""
    if reading.state != "value" or reading.value is None:
        return
    for against, other in _others(network, measured, reading, subject):
        name = f"{reading.test} no trip" if reading.no_trip else reading.test
        bands = network.rules.testing.agreement(name, against)
        if bands is None or other <= 0:
            continue
        (low, high), (far_low, far_high) = bands.agrees_from(other), bands.disagrees_from(other)
        word: Literal["agrees", "look-again", "below", "above"] = "look-again"
        if low - SLACK <= reading.value <= high + SLACK:
            word = "agrees"
        elif reading.value < far_low - SLACK:
            word = "below"
        elif reading.value > far_high + SLACK:
            word = "above"
        text = network.message(
            f"core.testing.compared.{word}",
            against=network.message(_AGAINST[against]),
            value=f"{reading.value:g}",
            other=shown(other),
            unit=TRAITS[reading.test].unit,
        )
        yield ReadingComparison(against=against, agreement=word, value=other, text=text)


def _others(
    network: Installation, measured: MeasuredValues, reading: Reading, subject: Subject
) -> Iterator[tuple[str, float]]:
    """Other readings that make up the same, each with the word of the table of agreement."""
    own = subject.subject
    if reading.test == "zs":
        ahead = measured.ahead_ohm(subject)
        dead = measured.read("r1r2", own) or measured.read("x_le", own)
        if ahead is not None and dead is not None:
            yield "ze+r1r2", ahead + dead
    elif reading.test in ("r1r2", "r2"):
        both, ratio = measured.read("r1rn", own), _ratio(network, subject)
        if both is not None and ratio is not None:
            yield "r1rn", both / 2 * (ratio if reading.test == "r2" else 1 + ratio)
    elif reading.test in ("rn_end", "r2_end"):
        line = measured.read("r1_end", own)
        ratio = 1.0 if reading.test == "rn_end" else _ratio(network, subject)
        if line is not None and ratio is not None:
            yield "r1_end", line * ratio
    elif reading.test in ("x_ln", "x_le"):
        ends = [measured.read("r1_end", own), measured.read("rn_end" if reading.test == "x_ln" else "r2_end", own)]
        if None not in ends:
            yield "ends", sum(end for end in ends if end is not None) / 4
    elif reading.test in ("ir_ln", "ir_le"):
        yield from beside_insulation(network, reading, subject)
    elif reading.test == "rcd_1":
        yield from downstream_times(network, reading, subject)
    elif reading.test in ("pfc_le", "pfc_ln") and measured.ze_ohm and _says_ze(network, reading.test, subject):
        yield "ze", network.job.supply.nominal_v / measured.ze_ohm


def _says_ze(network: Installation, kind: str, subject: Subject) -> bool:
    """Whether Ze says something of a prospective current: at a board of the origin; by an electrode the earth says nothing of the neutral."""
    at_origin = network.tree.feeder(network.job.board(subject.board)) is None
    return at_origin and (kind == "pfc_le" or network.job.supply.system != "TT")


def _ratio(network: Installation, subject: Subject) -> float | None:
    """Resistance of the protective conductor over that of the line, of a circuit's cable; None while it is not known."""
    circuit = subject.circuit
    if circuit is None or is_auto(circuit.cable):
        return None
    cables = network.rules.cables
    cpc = cables.cpc_mohm_per_m(circuit.cable, network.tree.loaded(circuit)).value
    return cpc / cables.line_mohm_per_m(circuit.cable).value
