"""What the residual-current devices of a circuit protect, and what each place leaves unprotected: cable, loads."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.document.feeds import loads_of, served_by
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.document.local_device import LocalDevice
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import shown_up


@dataclass(frozen=True, slots=True, kw_only=True)
class RcdReach:
    """What one device protects of a circuit. ``from_m``: the cable from there on, 0 the whole; None: no cable, only what is connected to
    it. ``length_m``: of the run; None: not known. ``text``: what it leaves unprotected, or that it protects all."""

    name: Text
    from_m: float | None
    length_m: float | None
    text: Text


def rcd_reach(job: Job, circuit_id: str) -> tuple[RcdReach, ...]:
    """Every residual-current device of a circuit, those in boards first, with what it leaves unprotected; none where there is no such
    circuit.

    Source  geometry: a device protects what is behind it
    """
    circuit, rules = job.find_circuit(circuit_id), rule_set(job.job.rules)
    if circuit is None:
        return ()
    rcds = Installation.of(job, rules).rcds
    lengths = [section.length_m for section in circuit.run]
    length_m = None if None in lengths else sum(filter(None, lengths))
    ahead = [
        RcdReach(
            name=message(rules.words, "core.rcd_reach.at", rcd=rules.bands.rcd_name(place.rcd), place=place.where),
            from_m=0.0,
            length_m=length_m,
            text=message(rules.words, "core.rcd_reach.whole"),
        )
        for place in rcds.ahead_of(circuit)
    ]
    local = [_local(rules, circuit, device, length_m) for device in circuit.local_devices if device.rcd is not None]
    return (*ahead, *local)


def _local(rules: RuleSet, circuit: Circuit, device: LocalDevice, length_m: float | None) -> RcdReach:
    midway = device.place == "midway" and device.at_m is not None
    behind = {load.name for load in served_by(circuit, device)}
    others = [load.name for load in loads_of(circuit) if load.name not in behind]
    bare_m = device.at_m if midway else length_m
    key = f"cable_{'part' if midway else 'whole'}"
    cable: Text = (
        message(rules.words, "core.rcd_reach.cable_unknown")
        if bare_m is None
        else message(rules.words, f"core.rcd_reach.{key}", m=shown_up(bare_m))
    )
    text = message(rules.words, "core.rcd_reach.others", cable=cable, loads=", ".join(others)) if others else cable
    return RcdReach(name=device.name, from_m=device.at_m if midway else None, length_m=length_m, text=text)
