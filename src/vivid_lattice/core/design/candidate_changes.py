"""Changes to a circuit that an electrician would think of, each as a changed circuit. None is judged here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Cable, Circuit, Device, Section
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.supply import Supply
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.rules.protection_rules import ArcFaultRequirement
from vivid_lattice.core.rules.protocol import DeviceKind, RuleSet
from vivid_lattice.core.text import Shown


@dataclass(frozen=True, slots=True, kw_only=True)
class CandidateChange:
    """A change, what it is called, and what kind it is of (only the first that fixes is shown of a kind).

    ``others``, ``boards``, ``supply``: what changes with the circuit, or without one.
    """

    kind: str
    label: Text
    circuit: Circuit | None
    boards: tuple[Board, ...] = ()
    supply: Supply | None = None
    others: tuple[Circuit, ...] = ()

    @property
    def circuits(self) -> tuple[Circuit, ...]:
        """The changed circuits."""
        return self.others if self.circuit is None else (self.circuit, *self.others)


def with_cable(circuit: Circuit, cable: Cable) -> Circuit:
    """The circuit on another cable."""
    return circuit.model_copy(update={"cable": cable})


def with_device(circuit: Circuit, device: Device) -> Circuit:
    """The circuit behind another device."""
    return circuit.model_copy(update={"device": device})


def scaled(circuit: Circuit, share: float) -> Circuit:
    """The circuit with every section's known length taken by a share."""
    run = tuple(
        section
        if section.length_m is None
        else section.model_copy(update={"length_m": round(section.length_m * share, 3)})
        for section in circuit.run
    )
    return circuit.model_copy(update={"run": run})


def larger_cables(circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """The same cable in each larger size, smallest first."""
    cable = circuit.cable
    if is_auto(cable) or cable.type not in rules.cables.kinds:
        return
    for area in rules.cables.kinds[cable.type].sizes_mm2:
        if area > cable.area_mm2:
            # A protective conductor stated for the old size is not carried over: the new cable has its own.
            update = {"area_mm2": area} if cable.cpc == "separate" else {"area_mm2": area, "cpc_mm2": None}
            yield CandidateChange(
                kind="larger-cable",
                label=message(
                    rules.words,
                    "core.fix.instead",
                    new=rules.cables.size_label(area),
                    old=rules.cables.size_label(cable.area_mm2),
                ),
                circuit=with_cable(circuit, cable.model_copy(update=update)),
            )


def _higher_breaking(circuit: Circuit, device: Device, kind: DeviceKind) -> Iterator[CandidateChange]:
    for breaking in kind.breaking_choices_ka:
        if device.breaking_ka is not None and breaking > device.breaking_ka:
            stronger = device.model_copy(update={"breaking_ka": breaking})
            yield CandidateChange(
                kind="breaking",
                label=message(
                    None, "core.fix.breaking", new=Shown(f"{breaking:g}"), old=Shown(f"{device.breaking_ka:g}")
                ),
                circuit=with_device(circuit, stronger),
            )


def other_devices(circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """A smaller rating, a quicker characteristic, a residual-current part, a higher breaking capacity, a breaker for a fuse."""
    device = circuit.device
    if is_auto(device) or device.kind not in rules.devices.kinds:
        return
    kind = rules.devices.kinds[device.kind]
    for rating in reversed([rating for rating in kind.common_ratings_a if rating < device.rating_a]):
        smaller = device.model_copy(update={"rating_a": rating})
        yield _instead("smaller-device", circuit, device, smaller)
    for curve in kind.curves:
        if device.curve and curve < device.curve:
            yield _instead("other-curve", circuit, device, device.model_copy(update={"curve": curve}))
    yield from _higher_breaking(circuit, device, kind)
    if not kind.has_rcd:
        yield from _other_kind(circuit, device, kind, rules)


def _instead(kind: str, circuit: Circuit, old: Device, new: Device) -> CandidateChange:
    return CandidateChange(
        kind=kind,
        label=message(None, "core.fix.instead", new=new.label, old=old.label),
        circuit=with_device(circuit, new),
    )


def _other_kind(circuit: Circuit, device: Device, kind: DeviceKind, rules: RuleSet) -> Iterator[CandidateChange]:
    """The standard's usual device for fixed loads in each rating up to the one there is, largest first."""
    proposed = rules.devices.default_device(circuit.model_copy(update={"kind": "fixed"}), device.rating_a)
    target = rules.devices.kinds[proposed.kind]
    breaking = device.breaking_ka or proposed.breaking_ka
    for rating in reversed([rating for rating in target.common_ratings_a if rating <= device.rating_a]):
        swapped = proposed.model_copy(update={"rating_a": rating, "breaking_ka": breaking})
        yield CandidateChange(
            kind="other-kind",
            label=message(
                rules.words,
                "core.fix.kind",
                kind=target.short,
                device=swapped.label,
                old_kind=kind.short,
                old=device.label,
            ),
            circuit=with_device(circuit, swapped),
        )


def protecting_devices(device: Device, rules: RuleSet) -> Iterator[Device]:
    """The same rating and curve in each other form the standard has: with a residual-current part in each type, with arc-fault
    detection, with both; the plainest first."""
    if device.kind not in rules.devices.kinds:
        return
    kinds = [kind for kind in rules.devices.kinds.values() if kind.action == "breaker" and kind.current]
    # Where arc-fault breakers are kinds of their own, no other kind is had with that function.
    own_kinds = any("afci" in kind.id for kind in kinds)
    required = not own_kinds and any(duty.level == "demanded" for duty in _arcs(rules))
    for arc in (False, True) if required else (device.arc_fault,):
        for kind in kinds:
            if device.rating_a not in kind.ratings_a or (device.curve is not None and device.curve not in kind.curves):
                continue
            for rcd in _forms(kind, device, rules):
                made = device.model_copy(update={"kind": kind.id, "rcd": rcd, "arc_fault": arc or device.arc_fault})
                if made != device:
                    yield made


def delayed_devices(device: Device, rules: RuleSet) -> Iterator[Device]:
    """A feeder's device with a time-delayed RCD of 100 mA, or 300 mA: it stays closed where one of the board that it feeds trips.

    Source  common practice, no source; the ratio and the delay are those that selectivity requires
    """
    for idn_ma in (100.0, 300.0):
        for kind in rules.devices.kinds.values():
            fits = kind.has_rcd and kind.current and device.rating_a in kind.ratings_a and kind.usual_rcd is not None
            if fits and (device.curve is None or device.curve in kind.curves):
                rcd = Rcd(idn_ma=idn_ma, type=kind.usual_rcd.type if kind.usual_rcd else "A", time_delayed=True)
                yield device.model_copy(update={"kind": kind.id, "rcd": rcd})


def _forms(kind: DeviceKind, device: Device, rules: RuleSet) -> Iterator[Rcd | None]:
    """Residual-current parts that a kind of device is had with: as it is, the usual one, and that in each further type."""
    if not kind.has_rcd:
        yield None
        return
    usual = device.rcd or kind.usual_rcd or Rcd(idn_ma=30.0)
    yield usual
    try:
        typed = rules.protection.alternating_only[0] != "yes"
    except NeedsInput:
        typed = False
    for type_ in ("A", "F", "B") if typed else ():
        if type_ != usual.type:
            yield usual.model_copy(update={"type": type_})


def _arcs(rules: RuleSet) -> tuple[ArcFaultRequirement, ...]:
    try:
        return rules.protection.arcs
    except NeedsInput:
        return ()


def protected(circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """The circuit's device in each other form: with a residual-current part, with arc-fault detection, with both."""
    device = circuit.device
    if is_auto(device):
        return
    for made in protecting_devices(device, rules):
        kind = rules.devices.kinds[made.kind]
        with_arc = made.arc_fault and not device.arc_fault
        parts: dict[str, Param] = {"kind": kind.short, "device": made.label}
        if made.rcd and made.rcd != kind.usual_rcd:
            parts |= {"ma": Shown(f"{made.rcd.idn_ma:g}"), "type": made.rcd.type}
            label = message(rules.words, "core.fix.form_rcd_arc" if with_arc else "core.fix.form_rcd", **parts)
        else:
            label = message(rules.words, "core.fix.form_arc" if with_arc else "core.fix.form", **parts)
        yield CandidateChange(kind="form", label=label, circuit=with_device(circuit, made))


def larger_device(circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """The same device in each larger common rating."""
    device = circuit.device
    if is_auto(device) or device.kind not in rules.devices.kinds:
        return
    for rating in rules.devices.kinds[device.kind].common_ratings_a:
        if rating > device.rating_a:
            larger = device.model_copy(update={"rating_a": rating})
            yield CandidateChange(
                kind="larger-device",
                label=message(rules.words, "core.fix.instead", new=larger.label, old=device.label),
                circuit=with_device(circuit, larger),
            )


def other_methods(circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """Every other way of laying all sections, in air or in the ground as they are, on its own, at the table's ambient."""

    def changed(update: dict[str, object]) -> Circuit:
        return circuit.model_copy(update={"run": tuple(section.model_copy(update=update) for section in circuit.run)})

    if any(section.circuits_grouped > 1 for section in circuit.run):
        yield CandidateChange(
            kind="apart",
            label=message(rules.words, "core.fix.apart"),
            circuit=changed({"circuits_grouped": 1, "grouping": None}),
        )
    if any(_warm(section, rules) for section in circuit.run):
        yield CandidateChange(
            kind="cooler", label=message(rules.words, "core.fix.cooler"), circuit=changed({"ambient_c": None})
        )
    if any(section.in_insulation_mm is not None for section in circuit.run):
        yield CandidateChange(
            kind="clear", label=message(rules.words, "core.fix.clear"), circuit=changed({"in_insulation_mm": None})
        )
    if not is_auto(circuit.cable):
        yield from _other_methods(circuit, circuit.cable, rules, changed)


def _other_methods(
    circuit: Circuit, cable: Cable, rules: RuleSet, changed: Callable[[dict[str, object]], Circuit]
) -> Iterator[CandidateChange]:
    media = {rules.factors.methods[section.method].medium for section in circuit.run}
    for method in rules.cables.kind(cable.type).methods:
        if media == {rules.factors.methods[method].medium} and any(section.method != method for section in circuit.run):
            title = rules.factors.methods[method].title
            yield CandidateChange(
                kind=f"method-{method}",
                label=message(rules.words, "core.fix.method", method=method, title=title),
                circuit=changed({"method": method}),
            )


def _warm(section: Section, rules: RuleSet) -> bool:
    return section.ambient_c is not None and section.ambient_c > rules.factors.base_ambient_c(section)
