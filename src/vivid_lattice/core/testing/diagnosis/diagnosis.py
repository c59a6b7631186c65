"""What readings usually mean: explanations with how likely each is, what to look for, and the test that tells the first two apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.job import Device
from vivid_lattice.core.formulas.cable.joint import current_through_joint_a, joint_heat_w
from vivid_lattice.core.formulas.load_currents import BETWEEN_LINES
from vivid_lattice.core.messages import Text
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.sources import Source
from vivid_lattice.core.testing.diagnosis.defects import Danger, scoring
from vivid_lattice.core.testing.diagnosis.explanations import UNEXPLAINED, is_sound, probability_in
from vivid_lattice.core.testing.diagnosis.fit import Fit
from vivid_lattice.core.testing.diagnosis.next_test import NextTest, next_test, separating
from vivid_lattice.core.testing.diagnosis.unit import Unit
from vivid_lattice.core.testing.expected_value import Expecting
from vivid_lattice.core.text import plain, shown_up

#: With this likelihood an explanation is told as certain.
_CERTAIN = 0.95
#: So many explanations are told, and none that is less likely than this.
_TOLD, _UNLIKELY = 4, 0.02
_WORST_FIRST: tuple[Danger, ...] = ("now", "soon", "hidden", "none")


@dataclass(frozen=True, slots=True, kw_only=True)
class PossibleDefect:
    """An explanation: one defect, or two at once.

    probability  if it is one of those told or left out as less likely
    danger       the worst of its defects
    seen         what is usually found on the spot;  repair: what puts it right
    heat         what a joint gives off while the circuit is loaded; None of a defect without one, or of a circuit whose device or lines are not known
    unknowns     of each defect's formulas, where it explains the readings best
    """

    ids: tuple[str, ...]
    names: tuple[str, ...]
    probability: float
    danger: Danger
    seen: tuple[str, ...]
    repair: tuple[str, ...]
    heat: Text | None
    unknowns: tuple[dict[str, float], ...]
    sources: tuple[Source, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Diagnosis:
    """What the readings of a circuit, or of the whole installation, usually mean. ``circuit``: its id; of a residual-current device
    that several share ``board/device``; '' of the installation.

    certain    it is almost certainly one of those told: no reading tells these apart;  apart: the first is clearly likelier than any that a
               reading tells from it
    explains   the first explains every reading
    next_test  what best tells the first from the next; None where nothing does
    """

    circuit: str
    name: Text
    possible: tuple[PossibleDefect, ...]
    certain: bool
    apart: bool
    explains: bool
    next_test: NextTest | None


def told(by_design: Expecting, circuit: str, name: Text, unit: Unit, fits: Sequence[Fit]) -> Diagnosis | None:
    """The likeliest explanations; None where it is likeliest that all is as designed."""
    if is_sound(fits[0]):
        return None
    probability = probability_in(fits)
    same, other = _not_told_apart(by_design, unit, fits)
    apart = other is None or other.score - fits[0].score >= scoring().not_told_apart
    explains = fits[0].misfit < UNEXPLAINED
    certain = apart and explains and sum(probability(fit) for fit in same) >= _CERTAIN
    # Of what no reading tells apart, something seen on the spot does.
    rival = (same[1] if len(same) > 1 else None) if certain else other
    likely = [fit for fit in (same if certain else fits[:_TOLD]) if not is_sound(fit) and probability(fit) >= _UNLIKELY]
    return Diagnosis(
        circuit=circuit,
        name=name,
        possible=tuple(_possible(by_design, circuit, fit, probability(fit)) for fit in likely),
        certain=certain,
        apart=apart,
        explains=explains,
        next_test=None if rival is None else next_test(by_design, unit, fits[0], rival),
    )


def _not_told_apart(by_design: Expecting, unit: Unit, fits: Sequence[Fit]) -> tuple[list[Fit], Fit | None]:
    """The first explanation with those close behind it that no reading tells from it; and the likeliest that one does."""
    same, others = [fits[0]], []
    for fit in fits[1:]:
        near = fit.score - fits[0].score < 2 * scoring().not_told_apart and not is_sound(fit)
        if near and separating(by_design, unit, fits[0], fit) is None:
            same.append(fit)
        else:
            others.append(fit)
    return same, others[0] if others else None


def _heat(by_design: Expecting, circuit_id: str, fit: Fit) -> Text | None:
    """What the joint of an explanation gives off at the rating of the circuit's device: what it may carry, whatever it carries today."""
    network = by_design.design
    circuit = network.tree.circuits.get(circuit_id)
    joints = [fit.parameters[each.unknown(each.heated)] for each in fit.defects if each.heated]
    if circuit is None or not isinstance(circuit.device, Device) or not joints:
        return None
    supplied = or_none(lambda: network.tree.supplied(circuit))
    if supplied is None:
        return None
    rating_a = circuit.device.rating_a
    load_v = supplied.nominal_v * (BETWEEN_LINES[supplied.phases] if len(supplied.lines) == 2 else 1.0)
    current_a = current_through_joint_a(joints[0], rating_a, load_v)
    heat_w, drop_v = joint_heat_w(joints[0], current_a), joints[0] * current_a
    return network.message(
        "core.testing.joint_heat", rating=plain(rating_a), heat=shown_up(heat_w, 2), drop=shown_up(drop_v, 2)
    )


def _possible(by_design: Expecting, circuit: str, fit: Fit, probability: float) -> PossibleDefect:
    return PossibleDefect(
        ids=tuple(each.id for each in fit.defects),
        names=tuple(each.name for each in fit.defects),
        probability=probability,
        danger=min((each.danger for each in fit.defects), key=_WORST_FIRST.index),
        seen=tuple(each.seen for each in fit.defects if each.seen),
        repair=tuple(each.repair for each in fit.defects if each.repair),
        heat=_heat(by_design, circuit, fit),
        unknowns=tuple({name: fit.parameters[each.unknown(name)] for name in each.parameters} for each in fit.defects),
        sources=tuple(each.source for each in fit.defects),
    )
