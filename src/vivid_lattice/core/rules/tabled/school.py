"""A rule set made from a school's tables, with the questions a document can already get wrong."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from types import MappingProxyType

from vivid_lattice.core.findings import Source
from vivid_lattice.core.job import Circuit, Job
from vivid_lattice.core.rules.protocol import CableRules, DemandRules, DeviceRules, FactorRules, LimitRules
from vivid_lattice.core.rules.tabled.cables import TabledCables
from vivid_lattice.core.rules.tabled.demand import TabledDemand
from vivid_lattice.core.rules.tabled.devices import TabledDevices
from vivid_lattice.core.rules.tabled.factors import TabledFactors
from vivid_lattice.core.rules.tabled.limits import TabledLimits
from vivid_lattice.core.rules.tables import load, school_file


class TabledSchool:
    """All parts of a school, read from its packaged data."""

    def __init__(self, school_id: str):
        school, self.data = school_file(school_id), load(school_id)
        head = school["school"]
        self.id, self.title, self.edition = str(head["id"]), str(head["title"]), str(head["edition"])
        self.words: Mapping[str, str] = MappingProxyType(dict(school["words"]))
        self.systems: tuple[str, ...] = tuple(head["systems"])
        self.nominal_v = float(head["nominal_v"])
        self.default_method = str(head["default_method"])
        self.default_cable = str(head["default_cable"])
        self.default_buried_cable = str(head["default_buried_cable"])
        self.tails_cable = str(head["tails_cable"])
        self.names: Mapping[str, str] = MappingProxyType(dict(school["tables"]))
        declared = self.data.table(self.names["declared_ze"])
        self.declared_ze_ohm: Mapping[str, float] = MappingProxyType(
            {str(row[0]): float(row[1]) for row in declared.rows}
        )
        cables = TabledCables(self.data, school)
        devices = TabledDevices(self.data, school)
        self.cables: CableRules = cables
        self.devices: DeviceRules = devices
        self.factors: FactorRules = TabledFactors(self.data, school, cables, devices)
        self.limits: LimitRules = TabledLimits(self.data, school)
        self.demand: DemandRules = TabledDemand(self.data, school)

    def rule(self, topic: str) -> Source:
        """Where the rule behind a topic ('overload', 'capacity', 'drop', 'adiabatic', …) stands."""
        return self.data.rule(self.names[f"{topic}_rule"]).source

    def check_job(self, job: Job) -> Sequence[tuple[str, str]]:
        """What in a document this school does not know: pairs of path and message."""
        return list(self._problems(job))

    def _problems(self, job: Job) -> Iterator[tuple[str, str]]:
        if job.supply.system not in self.systems:
            yield (
                "supply.system",
                f"{self.title} has no system {job.supply.system}; it has {', '.join(self.systems)}",
            )
        if job.supply.phases != 1:
            yield (
                "supply.phases",
                "only single-phase supplies are computed in this version; nothing is guessed for three",
            )
        if job.supply.nominal_v != self.nominal_v:
            yield "supply.nominal_v", f"the tables of {self.title} are made for {self.nominal_v:g} V"
        if job.supply.cutout and job.supply.cutout.kind not in self.devices.kinds:
            yield "supply.cutout.kind", _unknown("device", job.supply.cutout.kind, self.devices.kinds)
        for index, circuit in enumerate(job.circuits):
            for path, message in self._circuit_problems(circuit):
                yield f"circuits[{index}].{path}", message

    def _circuit_problems(self, circuit: Circuit) -> Iterator[tuple[str, str]]:
        if not isinstance(circuit.cable, str) and circuit.cable.type not in self.cables.kinds:
            yield "cable.type", _unknown("cable", circuit.cable.type, self.cables.kinds)
        if not isinstance(circuit.device, str):
            kind = self.devices.kinds.get(circuit.device.kind)
            if kind is None:
                yield "device.kind", _unknown("device", circuit.device.kind, self.devices.kinds)
            elif kind.has_rcd and circuit.device.rcd is None:
                yield "device.rcd", f"the {kind.short} needs its residual-current part: idn_ma and type"
            elif not kind.has_rcd and circuit.device.rcd is not None:
                yield (
                    "device.rcd",
                    f"the {kind.short} has no residual-current part; choose another kind or leave it out",
                )
            elif kind.action == "fuse" and circuit.device.curve is not None:
                yield "device.curve", f"the {kind.title.lower()} has no characteristic letter; leave it out"
        for number, section in enumerate(circuit.run):
            if section.method not in self.factors.methods:
                yield f"run[{number}].method", _unknown("method", section.method, self.factors.methods)
            if section.grouping is not None and section.grouping not in self.factors.groupings:
                yield (
                    f"run[{number}].grouping",
                    _unknown("grouping", section.grouping, self.factors.groupings),
                )


def _unknown(what: str, given: str, known: Mapping[str, object]) -> str:
    return f"no {what} '{given}' in these rules; known: {', '.join(known)}"
