"""The job with one more point on a circuit: a spur of a ring, or the end of a radial circuit further away."""

from __future__ import annotations

from vivid_lattice.core.document.job import Cable, Circuit, Job, Load, LoadKind, Section, Spur, with_parts
from vivid_lattice.core.extension.wanted import Host, WantedPoint
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules.protocol import RuleSet

#: Power factor of a load that states none: the worst that is usual. Common practice, no source; it makes the current larger.
_WORST_FACTOR: dict[LoadKind, float] = {"lamp": 0.5, "appliance": 0.8, "socket": 1.0}
_LOADS: dict[str, LoadKind] = {"socket": "socket", "double-socket": "socket", "light": "lamp", "fixed": "appliance"}


def extended_job(job: Job, circuit: Circuit, host: Host, wanted: WantedPoint, rules: RuleSet) -> Job:
    """The job with the point. Where on a radial circuit it branches off is not stated: it is taken as behind the end, which is the worst."""
    if circuit.kind == "ring" or wanted.fused:
        return checked(with_parts(job, (_with_spur(circuit, wanted, rules),)))
    return checked(with_parts(job, (_longer(circuit, wanted),)))


def _with_spur(circuit: Circuit, wanted: WantedPoint, rules: RuleSet) -> Circuit:
    limits = rules.extension.limits
    fuse = limits.fuse_a if wanted.fused and limits is not None else None
    area = wanted.area_mm2 or (circuit.cable.area_mm2 if isinstance(circuit.cable, Cable) else 2.5)
    spur = Spur(name=wanted.name, length_m=wanted.length_m, area_mm2=area, fuse_a=fuse)
    return _loaded(circuit.model_copy(update={"spurs": (*circuit.spurs, spur)}), wanted, concealed=True)


def _longer(circuit: Circuit, wanted: WantedPoint) -> Circuit:
    last = circuit.run[-1]
    part = last.model_copy(
        update={"length_m": wanted.length_m, "concealed_in": wanted.concealed_in, "depth_mm": wanted.depth_mm}
    )
    return _loaded(circuit.model_copy(update={"run": (*circuit.run, part)}), wanted, concealed=False)


def _loaded(circuit: Circuit, wanted: WantedPoint, *, concealed: bool) -> Circuit:
    """The circuit with the load of the point; a spur's concealment as a part of the run of no length that matters."""
    kind = _LOADS[wanted.kind]
    loads = list(circuit.loads)
    number = next((at for at, load in enumerate(loads) if load.kind == kind and kind in ("socket", "lamp")), None)
    if number is not None and wanted.power_w in (None, loads[number].power_w):
        before = loads[number]
        count = None if before.count is None else before.count + wanted.outlets
        loads[number] = before.model_copy(update={"count": count})
    else:
        factor = _WORST_FACTOR[kind] if wanted.power_w is not None else None
        load = Load(
            name=wanted.name, kind=kind, power_w=wanted.power_w, count=wanted.outlets, power_factor=factor
        )  # fmt: skip
        loads.append(load)
    run: tuple[Section, ...] = circuit.run
    if concealed and wanted.concealed_in is not None and run:
        part = run[-1].model_copy(
            update={"length_m": _TELLS_M, "concealed_in": wanted.concealed_in, "depth_mm": wanted.depth_mm}
        )
        run = (*run, part)
    return circuit.model_copy(update={"loads": tuple(loads), "run": run})


#: A part of the run that tells how a spur is concealed [m].
_TELLS_M = 0.01
