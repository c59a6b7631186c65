"""What of a job is assumed and must be confirmed: each value in words, and which results rest on it."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from vivid_lattice.core.document.assumptions import SYSTEM, AssumedValue, open_assumptions, value_at
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.findings.assessment import OpenAssumption
from vivid_lattice.core.findings.finding import Assumption, Finding, SubjectKind
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown, plain

#: Unit of a value by the last part of its field.
_UNITS: Mapping[str, str] = {
    "ze_ohm": "Ω", "fault_current_ka": "kA", "fault_current_lines_ka": "kA", "rating_a": "A", "area_mm2": "mm²", "length_m": "m", "conductor_mm2": "mm²",
    "link_mm2": "mm²", "assembly_ka": "kA", "power_w": "W", "design_current_a": "A",
}  # fmt: skip

#: Checks whose results change with a value of the supply or of the first board.
_ON_SUPPLY: Mapping[str, frozenset[str]] = {
    "supply.ze_ohm": frozenset({"disconnection", "protective-conductor", "short-circuit-withstand"}),
    "supply.fault_current_ka": frozenset(
        {"breaking-capacity", "selectivity-short-circuit", "short-circuit-withstand", "protective-conductor", "surge", "tails",
         "earthing"}
    ),
    "supply.fault_current_lines_ka": frozenset({"breaking-capacity", "selectivity-short-circuit", "short-circuit-withstand", "surge", "tails"}),
    "supply.cutout.rating_a": frozenset(
        {"breaking-capacity", "demand", "main-switch", "rcd-loading", "selectivity-overload", "selectivity-short-circuit", "surge",
         "tails", "voltage-drop", "comb", "earthing"}
    ),
    "supply.tails.area_mm2": frozenset({"bonding", "earthing", "tails", "voltage-drop", "comb"}),
    "supply.tails.length_m": frozenset({"tails", "voltage-drop"}),
    "supply.earthing.conductor_mm2": frozenset({"earthing"}),
    "supply.earthing.link_mm2": frozenset({"earthing"}),
    "supply.earthing.bonds": frozenset({"bonding"}),
}  # fmt: skip
#: What a circuit draws, and the checks that count it on other circuits and boards: by the demand, the drop in what they share, the
#: heat in the board.
_OF_LOAD = frozenset({"power_w", "design_current_a"})
_THROUGH_LOAD = frozenset({"demand", "voltage-drop", "thermal", "rcd-loading"})
_ON_BOARD: Mapping[str, frozenset[str]] = {
    "main_switch.rating_a": frozenset({"demand", "main-switch", "isolation"}),
    "assembly_ka": frozenset({"breaking-capacity"}),
}


def to_confirm(job: Job, rules: RuleSet) -> tuple[OpenAssumption, ...]:
    """Every open assumption of a job, in the order in which they were made."""
    return tuple(_opened(job, rules, assumed) for assumed in open_assumptions(job))


def marked(findings: Sequence[Finding], network: Installation) -> list[Finding]:
    """The findings, each with the open assumptions that it rests on; nothing else of them changes."""
    opened = open_assumptions(network.job)
    if not opened:
        return list(findings)
    rests = [(assumed, _Reach.of(assumed, network)) for assumed in opened]
    return [
        _marked(finding, [assumed for assumed, reach in rests if reach.has(finding)], network.rules)
        for finding in findings
    ]


def _marked(finding: Finding, assumed: Sequence[AssumedValue], rules: RuleSet) -> Finding:
    if not assumed or finding.verdict == "not-applicable":
        return finding
    marks = tuple(Assumption(each.field, _written(each, rules), each.source, to_confirm=True) for each in assumed)
    return replace(finding, assumptions=(*finding.assumptions, *marks))


@dataclass(frozen=True, slots=True)
class _Reach:
    """Which findings rest on a value: those of some checks (None: of all), of some subjects (None: of any); and those of further
    checks on any subject."""

    checks: frozenset[str] | None
    subjects: frozenset[str] | None
    anywhere: frozenset[str] = frozenset()

    @classmethod
    def of(cls, assumed: AssumedValue, network: Installation) -> _Reach:
        """The reach of an assumed value."""
        part = assumed.field.split(".")
        if part[0] == "circuits":
            return cls(None, _behind(network, part[1]), _THROUGH_LOAD if part[-1] in _OF_LOAD else frozenset())
        if part[0] == "boards":
            checks = _ON_BOARD.get(".".join(part[2:]), frozenset())
            circuits = {way.circuit for board in network.job.boards if board.id == part[1] for way in board.ways}
            return cls(checks, frozenset({part[1], "supply", *circuits}))
        if assumed.field == SYSTEM:
            return cls(None, None)
        key = next((key for key in _ON_SUPPLY if assumed.field.startswith(key)), "")
        return cls(_ON_SUPPLY.get(key, frozenset()), None)

    def has(self, finding: Finding) -> bool:
        """Whether a finding is one of them."""
        if finding.check in self.anywhere:
            return True
        in_checks = self.checks is None or finding.check in self.checks
        return in_checks and (self.subjects is None or finding.subject.id in self.subjects)


def _behind(network: Installation, circuit_id: str) -> frozenset[str]:
    circuit = network.job.find_circuit(circuit_id)
    below: Collection[Circuit] = network.tree.fed_through(circuit) if circuit is not None else ()
    return frozenset({circuit_id, *(each.id for each in below)})


def _opened(job: Job, rules: RuleSet, assumed: AssumedValue) -> OpenAssumption:
    part = assumed.field.split(".")
    shown, unit = _shown(assumed, rules)
    kind: SubjectKind = "circuit" if part[0] == "circuits" else "board" if part[0] == "boards" else "supply"
    return OpenAssumption(
        field=assumed.field,
        label=_label(job, rules, part),
        value=assumed.value,
        shown=shown,
        unit=unit,
        other="" if assumed.other is None else plain(assumed.other),
        confirm=assumed.confirm,
        source=assumed.source,
        kind=kind,
        subject=part[1] if kind != "supply" else "supply",
    )


def _label(job: Job, rules: RuleSet, part: Sequence[str]) -> Text:
    """What a field is, in the words of the standard."""
    key = "_".join(
        each for each in part if not each.isdigit() and each not in ("circuits", "boards") and each != _id(part)
    )
    params = {}
    if part[0] in ("circuits", "boards"):
        params["name"] = str(value_at(job, ".".join((*part[:2], "name"))) or part[1])
    if "bonds" in part:
        params["name"] = str(value_at(job, ".".join((*part[:4], "name"))) or "")
    return message(rules.words, f"core.assumed.{key}", **params)


def _id(part: Sequence[str]) -> str:
    return part[1] if part[0] in ("circuits", "boards") else ""


def _shown(assumed: AssumedValue, rules: RuleSet) -> tuple[str, str]:
    """A value as it is written, and its unit; a conductor by the name that the standard gives its size (4 AWG)."""
    unit = _UNITS.get(assumed.field.rsplit(".", 1)[-1], "")
    if isinstance(assumed.value, str):
        return assumed.value, ""
    if unit != "mm²":
        return plain(assumed.value), unit
    size, _, name = rules.cables.size_label(assumed.value).rpartition(" ")
    return (size, name) if size else (plain(assumed.value), unit)


def _written(assumed: AssumedValue, rules: RuleSet) -> str:
    return Shown(" ".join(filter(None, _shown(assumed, rules))))
