"""Whether a point may be joined at a box: by what was found there, then by what the circuit's checks say with the point on it."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.extension.extended import extended_job
from vivid_lattice.core.extension.order import steps_of, tests_of
from vivid_lattice.core.extension.wanted import Host, WantedPoint
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.extension_rules import FoundRow
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.sources import Source

#: Checks of a circuit that a point changes, in the order in which they are told.
_CHECKS = (
    "overload", "capacity", "voltage-drop", "disconnection", "protective-conductor", "rcd-duty", "leakage", "arc-fault",
    "special-location",
)  # fmt: skip
_OUTLETS = ("socket", "double-socket")
#: Kinds of load that have a circuit of their own.
_ALONE = frozenset({"cooker", "shower", "water-heater", "charger", "kiln"})
#: A circuit of one load, or of an alarm, takes no further point.
_NO_HOST = frozenset({"alarm"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """A check of the circuit before and with the point."""

    check: str
    before: Verdict
    now: Verdict
    value_before: float | None
    value_now: float | None
    limit: float | None
    unit: str
    sentence: Text


@dataclass(frozen=True, slots=True, kw_only=True)
class ExtensionDecision:
    """Whether and how. ``allowed`` None: something is not known, so it is not allowed yet; ``reasons``: why not; ``instead``: what could be
    done; ``job``: with the point on it, None where the box takes none; ``steps``, ``tests``: in their order."""

    allowed: bool | None
    way: str
    reasons: tuple[Text, ...]
    instead: tuple[Text, ...]
    effects: tuple[Effect, ...]
    steps: tuple[Text, ...]
    tests: tuple[Text, ...]
    source: Source
    job: Job | None


def decide(job: Job, host: Host, wanted: WantedPoint) -> ExtensionDecision:
    """The decision for a point at a box of a circuit.

    Raises  NotPossible where the circuit is not in the job, or the standard has no such box
    Source  the standard's table of what is found; the checks of the circuit
    """
    rules = rule_set(job.job.rules)
    circuit = job.find_circuit(host.circuit)
    if circuit is None:
        known = ", ".join(each.name for each in job.circuits)
        raise NotPossible(message(None, "core.extension.no_circuit", circuit=host.circuit, known=known))
    row = next((each for each in rules.extension.found if each.found == host.found), None)
    if row is None:
        raise NotPossible(message(None, "core.extension.not_in_standard", found=host.found, standard=rules.title))
    refused, instead = _by_box(circuit, host, wanted, row, rules)
    unknown = _unknown(circuit, host, wanted, row)
    if refused:
        return _no(row, refused, instead, circuit, rules)
    made = extended_job(job, circuit, host, wanted, rules)
    effects, failing, missing = _effects(job, made, circuit)
    reasons = [*unknown, *(each.sentence for each in failing)]
    if any(each.check == "rcd-duty" for each in failing):
        instead = (*instead, *_rcd(rules))
    allowed: bool | None = False if failing else None if unknown or missing else True
    return ExtensionDecision(
        allowed=allowed,
        way="fused-spur" if wanted.fused and row.way == "unfused-spur" else row.way,
        reasons=(*reasons, *(need for need in missing)),
        instead=instead,
        effects=effects,
        steps=steps_of(row, circuit, rules),
        tests=tests_of(row, circuit, rules),
        source=row.source,
        job=made,
    )


def _no(
    row: FoundRow, reasons: tuple[Text, ...], instead: tuple[Text, ...], circuit: Circuit, rules: RuleSet
) -> ExtensionDecision:
    proving = steps_of(row, circuit, rules) if row.way == "prove" else ()
    return ExtensionDecision(
        allowed=False, way=row.way, reasons=reasons, instead=instead, effects=(), steps=proving, tests=(),
        source=row.source, job=None,
    )  # fmt: skip


def _why(key: str, **params: str | int) -> Text:
    return message(None, f"core.extension.why.{key}", **params)


def _instead(key: str) -> Text:
    return message(None, f"core.extension.instead.{key}")


def _open(key: str, **params: str) -> Text:
    return message(None, f"core.extension.unknown.{key}", **params)


def _by_box(
    circuit: Circuit, host: Host, wanted: WantedPoint, row: FoundRow, rules: RuleSet
) -> tuple[tuple[Text, ...], tuple[Text, ...]]:
    """Why the box takes no such point, and what could be done instead."""
    if row.way == "prove":
        return (_why("prove"),), (_instead("prove"),)
    if row.way == "terminals":
        return (_why("terminals"),), (_instead("joint_box"), _instead("other_outlet"))
    if row.way == "fault":
        return (_why("fault"),), (_instead("report"), _instead("unit_at_start"))
    if row.way == "one-point" and not wanted.fused:
        return (_why("one_point"),), (_instead("unit_at_start"), _instead("into_ring"))
    on_ring = row.found in ("ring", "ring-with-spur", "spur-end", "spur-middle")
    if on_ring != (circuit.kind == "ring") and row.found != "fused-load":
        return (_why("other_kind", circuit=circuit.name),), (_instead("prove"),)
    wrong = _by_load(circuit, wanted, on_ring, rules)
    if wrong:
        return wrong, (_instead("own_circuit"),)
    if row.way == "unfused-spur":
        return _unfused(circuit, host, wanted, rules)
    return _thin(circuit, wanted)


def _by_load(circuit: Circuit, wanted: WantedPoint, on_ring: bool, rules: RuleSet) -> tuple[Text, ...]:
    """A heavy or steady load, and a circuit that is for one load alone."""
    kinds = {load.kind for load in circuit.loads}
    if circuit.kind == "distribution" or kinds & _NO_HOST or (kinds & _ALONE and wanted.kind != "fixed"):
        return (_why("one_load", circuit=circuit.name),)
    limits = rules.extension.limits
    steady = wanted.kind == "fixed" and wanted.power_w is not None
    if limits is not None and on_ring and steady and (wanted.power_w or 0.0) > limits.steady_w:
        return (_why("steady", power=f"{wanted.power_w:g}", most=f"{limits.steady_w:g}"),)
    return ()


def _unfused(
    circuit: Circuit, host: Host, wanted: WantedPoint, rules: RuleSet
) -> tuple[tuple[Text, ...], tuple[Text, ...]]:
    """A spur from a ring: one outlet or one fixed appliance, no more spurs than outlets, of the ring's size; or through a fused unit."""
    limits = rules.extension.limits
    if wanted.fused:
        least = limits.sockets_mm2 if limits is not None and wanted.kind in _OUTLETS else 0.0
        if wanted.area_mm2 is not None and wanted.area_mm2 < least:
            return (_why("thin", size=f"{wanted.area_mm2:g}", least=f"{least:g}"),), ()
        return (), ()
    if wanted.outlets > 1:
        return (_why("one_point"),), (_instead("unit_at_start"), _instead("into_ring"))
    outlets, spurs = outlets_on_ring(circuit, host), spurs_of(circuit, host)
    if outlets is not None and spurs + 1 > outlets:
        return (_why("many_spurs", n=spurs + 1, most=outlets),), (_instead("fused"), _instead("into_ring"))
    return _thin(circuit, wanted)


def _thin(circuit: Circuit, wanted: WantedPoint) -> tuple[tuple[Text, ...], tuple[Text, ...]]:
    """The new cable has the size of the circuit's."""
    cable = circuit.cable
    if isinstance(cable, str) or wanted.area_mm2 is None or wanted.area_mm2 >= cable.area_mm2:
        return (), ()
    return (_why("thin", size=f"{wanted.area_mm2:g}", least=f"{cable.area_mm2:g}"),), (_instead("same_size"),)


def outlets_on_ring(circuit: Circuit, host: Host) -> int | None:
    """Outlets on a ring: as counted on site, else those of the job; None: not counted."""
    if host.outlets_on_ring is not None:
        return host.outlets_on_ring
    counts = [load.count for load in circuit.loads if load.kind == "socket"]
    return None if not counts or None in counts else sum(count or 0 for count in counts)


def spurs_of(circuit: Circuit, host: Host) -> int:
    """Unfused spurs of a ring: as counted on site, else those of the job."""
    return host.spurs if host.spurs is not None else sum(spur.fuse_a is None for spur in circuit.spurs)


def _unknown(circuit: Circuit, host: Host, wanted: WantedPoint, row: FoundRow) -> list[Text]:
    """What must be known first, and is not."""
    found = []
    if row.way == "unfused-spur" and not wanted.fused and outlets_on_ring(circuit, host) is None:
        found.append(_open("outlets"))
    if row.way == "unfused-spur" and not wanted.fused and host.spurs is None and not circuit.spurs:
        found.append(_open("spurs"))
    if wanted.kind in ("fixed", "light") and wanted.power_w is None:
        found.append(_open("power"))
    if wanted.concealed_in is None:
        found.append(_open("concealed"))
    if row.way == "load-side":
        found.append(_open("behind_unit"))
    if isinstance(circuit.cable, str) or isinstance(circuit.device, str):
        found.append(_open("circuit", circuit=circuit.name))
    return found


def _effects(job: Job, made: Job, circuit: Circuit) -> tuple[tuple[Effect, ...], list[Finding], list[Text]]:
    """The checks of the circuit before and with the point; those that fail with it; and what they lack."""
    before = {each.check: each for each in assess(job).findings if each.subject.id == circuit.id}
    effects, failing, lacks = [], [], []
    for now in assess(made).findings:
        if now.subject.id != circuit.id or now.check not in _CHECKS:
            continue
        old = before.get(now.check)
        if old is None or now.verdict == "not-applicable":
            continue
        effects.append(
            Effect(
                check=now.check, before=old.verdict, now=now.verdict, value_before=old.value, value_now=now.value,
                limit=now.limit, unit=now.unit, sentence=now.sentence,
            )
        )  # fmt: skip
        if now.verdict == "fail":
            failing.append(now)
        lacks += [need.what for need in now.needs]
    effects.sort(key=lambda each: _CHECKS.index(each.check))
    return tuple(effects), failing, [_open("input", what=str(each)) for each in dict.fromkeys(lacks)]


def _rcd(rules: RuleSet) -> tuple[Text, ...]:
    """How the new part gets the protection that it needs."""
    return tuple(message(rules.words, f"core.extension.instead.{way}") for way in ("rcbo", "rcd_ahead"))
