"""Is surge protection there where it is asked for, and does it do?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.checks.support.finding_builder import missing, not_applicable, step
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.document.surge_and_relay import Spd, SurgeDecline, SurgeRisk
from vivid_lattice.core.errors import Need
from vivid_lattice.core.findings.finding import Assumption, Finding, Step
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.formulas.device.surge import surge_lead_kv
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.network.upstream import upstream_of
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.protection_rules import SurgeRules
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import shown_down, shown_up
from vivid_lattice.core.units import SLACK, ka_from_a

ID = "surge"


@dataclass(frozen=True, slots=True, kw_only=True)
class _DeviceResult:
    """One thing asked of a device: how it stands. ``value`` and ``limit`` where it is a figure."""

    verdict: Verdict
    text: str
    source: Source
    value: float | None = None
    limit: float | None = None
    unit: str = ""
    needs: tuple[Need, ...] = ()
    steps: tuple[Step, ...] = ()


def check(ctx: SupplyContext) -> Finding:
    """Whether surge protection is asked for, who decided, and then each device: type by place, level with its leads against
    what the equipment stands, continuous voltage, discharge current, short-circuit rating, backup, conductors, distance,
    years in service.

    Equation  Up + Σ leads · 1 kV/m ≤ Uw;  Uc ≥ 1.1 · Uo;  rating ≥ Ik
    Source    the rule set's surge rules; IEC 60364-5-53, 534; IEC 61643-11
    Roof, pole and the length of wiring are assumed as in most homes until somebody looks.
    """
    rules, plan = ctx.rules.protection.surge, ctx.job.surge
    devices = [(board, device) for board in ctx.job.boards for device in board.spds]
    if not devices:
        return _without(ctx, rules, plan)
    devices = [(board, _as_drawn(ctx, board, device)) for board, device in devices]
    results = [result for board, device in devices for result in _device(ctx, rules, plan, board, device)]
    results += _distance(ctx, rules, plan, devices)
    worst = min(results, key=lambda item: (VERDICT_ORDER.index(item.verdict), item.value is None))
    if worst.verdict == "missing":
        return missing(ID, ctx, tuple(need for result in results for need in result.needs))
    steps = tuple(line for result in results for line in (result.steps or (_line(result),))) if ctx.explain else ()
    summed = next((result for result in results if result.steps and result.value is not None), worst)
    shown = worst if worst.value is not None else summed
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=worst.verdict,
        sentence=f"{worst.text[0].upper()}{worst.text[1:]}.",
        value=shown.value,
        limit=shown.limit,
        unit=shown.unit,
        shown_value=shown_up(shown.value) if shown.value is not None else "",
        shown_limit=shown_down(shown.limit) if shown.limit is not None else "",
        margin=None,
        rule=worst.source,
        working=steps,
        assumptions=_assumed(rules, plan),
    )


def _assumed(rules: SurgeRules, plan: SurgeRisk) -> tuple[Assumption, ...]:
    """What nobody has looked at: roof and pole, and how far the wiring goes."""
    assumptions = []
    if plan.lightning_protection is None or plan.overhead_line is None:
        value = "no lightning protection system, no overhead line"
        assumptions.append(Assumption("surge.lightning_protection", value, rules.type_rule.publication))
    if plan.furthest_m is None:
        value = f"no delicate equipment further than {rules.distance_m.value:g} m of wiring"
        assumptions.append(Assumption("surge.furthest_m", value, rules.distance_m.source.publication))
    return tuple(assumptions)


def _as_drawn(ctx: SupplyContext, board: Board, device: Spd) -> Spd:
    """A device whose leads nobody has measured, with the length they have as its board is laid out, where it is."""
    if device.leads_m is not None:
        return device
    leads = or_none(lambda: ctx.network.boards[board.id].surge_leads_m(device.id))
    return (
        device if leads is None else device.model_copy(update={"leads_m": leads, "name": f"{device.name} (as drawn)"})
    )


def _line(device_result: _DeviceResult) -> Step:
    word = {"pass": "in order", "fail": "not enough", "advice": "worth a thought"}.get(
        device_result.verdict, device_result.verdict
    )
    return Step(
        symbol="",
        meaning=device_result.text,
        formula="compare",
        figures="",
        result=device_result.value or 0.0,
        unit="",
        shown=word,
        source=device_result.source,
    )


def _without(ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk) -> Finding:
    """No device: demanded, the owner's choice, or advice only."""
    if plan.consequence is not None and _required_by_consequence(rules, plan):
        text = f"Surge protection is demanded: an overvoltage could cost {plan.consequence.replace('-or-', ' or ')}, and there is none."
        return _answer(ctx, "fail", text, rules.required)
    if plan.lightning_protection:
        return _answer(
            ctx,
            "fail",
            "The building has a lightning protection system, and no surge device stands at the origin.",
            rules.type_rule,
        )
    if rules.when == "always":
        return _answer(ctx, "fail", "Surge protection is demanded here, and there is none.", rules.required)
    if plan.declined is not None and rules.when == "unless-declined":
        return _declined(ctx, rules, plan, plan.declined)
    if rules.when == "recommended":
        return not_applicable(
            ID, ctx, "Surge protection is recommended here, not demanded; there is none.", rules.otherwise
        )
    if rules.when == "by-risk":
        return _without_risk_assessment(ctx, rules, plan)
    text = "Surge protection required. None fitted, and no refusal in writing is recorded."
    return _answer(ctx, "fail", text, rules.required)


def _declined(ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk, declined: SurgeDecline) -> Finding:
    """No device, and the owner has declined one: in writing, and where neither life nor much money is at stake."""
    if plan.consequence is None:
        ask = "Where life, or much money, is at stake the owner cannot decline."
        return missing(ID, ctx, (Need("what an overvoltage could cost at the worst", "surge.consequence", ask),))
    if declined.in_writing is None:
        ask = "A spoken refusal is not enough: have it signed."
        return missing(ID, ctx, (Need("whether the owner's refusal is in writing", "surge.declined.in_writing", ask),))
    if not declined.in_writing:
        return _answer(
            ctx,
            "fail",
            "Surge protection declined in speech only. The owner's refusal must be in writing.",
            rules.required,
        )
    text = f"Surge protection declined in writing: {declined.name}, {declined.date}: {declined.reason}"
    return Finding(check=ID, subject=ctx.subject, verdict="not-applicable", sentence=text, rule=rules.otherwise)


def _answer(ctx: SupplyContext, verdict: Verdict, text: str, source: Source) -> Finding:
    return Finding(check=ID, subject=ctx.subject, verdict=verdict, sentence=text, rule=source)


def _device(
    ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk, board: Board, device: Spd
) -> Iterator[_DeviceResult]:
    name = f"{device.name} ({board.name})"
    yield _type(rules, plan, board, device, name)
    yield _level(rules, plan, device, name)
    yield from _leads(rules, device, name)
    least_v = rules.uc_factor.value * ctx.job.supply.nominal_v
    yield _least(name, "continuous voltage Uc", device.uc_v, least_v, "V", rules.uc_factor.source, "uc_v")
    discharge = rules.impulse_ka if device.type.startswith("1") else rules.discharge_ka
    if device.type != "3":
        yield _least(
            name, "discharge current", device.discharge_ka, discharge.value, "kA", discharge.source, "discharge_ka"
        )
    fault = ka_from_a(ctx.network.loops.board_fault_a(board))
    yield _least(
        name, "short-circuit rating", device.short_circuit_ka, fault, "kA", rules.short_rule, "short_circuit_ka"
    )
    yield from _backup(ctx, rules, board, device, name)
    yield from _conductors(rules, device, name)
    yield from _tt(ctx, rules, device, name)
    yield _state(ctx, rules, device, name)


def _type(rules: SurgeRules, plan: SurgeRisk, board: Board, device: Spd, name: str) -> _DeviceResult:
    origin = is_origin(board.fed_by)
    strikes = plan.lightning_protection or plan.overhead_line
    if origin and device.type == "3":
        return _DeviceResult(
            verdict="fail",
            text=f"{name}: type 3 stands near equipment, never alone at the origin",
            source=rules.type_rule,
        )
    if origin and strikes and device.type == "2":
        why = "lightning protection" if plan.lightning_protection else "an overhead line"
        verdict: Verdict = "fail" if plan.lightning_protection else "advice"
        return _DeviceResult(
            verdict=verdict, text=f"{name}: with {why} the origin asks for type 1 or 1+2", source=rules.type_rule
        )
    return _DeviceResult(verdict="pass", text=f"{name}: type {device.type} belongs there", source=rules.type_rule)


def _level(rules: SurgeRules, plan: SurgeRisk, device: Spd, name: str) -> _DeviceResult:
    """Protection level with what the leads add, against what the equipment stands."""
    limit = min(rules.up_max_kv.value, plan.withstand_kv or rules.up_max_kv.value)
    plugged = device.form == "plug-on"
    leads = 0.0 if plugged and device.leads_m is None else device.leads_m
    needs = []
    if device.up_kv is None:
        needs.append(
            Need(f"the protection level Up of {device.name}", "boards.spds.up_kv", "It is printed on it, in kV.")
        )
    if leads is None:
        needs.append(
            Need(
                f"the length of the leads of {device.name}",
                "boards.spds.leads_m",
                "Line side and earth side together.",
            )
        )
    if device.up_kv is None or leads is None:
        return _DeviceResult(verdict="missing", text="", source=rules.up_max_kv.source, needs=tuple(needs))
    added = surge_lead_kv(leads)
    total = device.up_kv + added
    verdict: Verdict = "pass" if total <= limit + SLACK else "fail"
    steps = (
        step("Up", f"{name}: protection level", "as marked", "", device.up_kv, "kV"),
        step(
            "UL",
            "its leads add",
            "about 1 kV a metre at 1 kA/µs",
            f"{leads:g} m",
            added,
            "kV",
            rules.leads_max_m.source,
        ),
        step("U", "arrives at the equipment", "Up + UL", f"{device.up_kv:g} + {added:g}", total, "kV"),
        step("Uw", "what it stands", "as stated, else category II", "", limit, "kV", rules.up_max_kv.source),
    )
    words = f"{name}: {shown_up(total)} kV arrive with its leads of {leads:g} m, and {shown_down(limit)} kV are stood"
    return _DeviceResult(
        verdict=verdict, text=words, source=rules.up_max_kv.source, value=total, limit=limit, unit="kV", steps=steps
    )


def _leads(rules: SurgeRules, device: Spd, name: str) -> Iterator[_DeviceResult]:
    if device.leads_m is None:
        return
    most, prefer = rules.leads_max_m, rules.leads_prefer_m
    verdict, limit, judged = _leads_verdict(device.leads_m, most, prefer)
    yield _DeviceResult(
        verdict=verdict,
        text=f"{name}: leads of {device.leads_m:g} m{judged}",
        source=limit.source,
        value=device.leads_m,
        limit=limit.value,
        unit="m",
    )


def _leads_verdict(leads_m: float, most: SourcedValue, prefer: SourcedValue) -> tuple[Verdict, SourcedValue, str]:
    if leads_m > most.value + SLACK:
        return "fail", most, f"; {most.value:g} m is the most"
    if leads_m > prefer.value + SLACK:
        return "advice", prefer, f"; {prefer.value:g} m is the aim"
    return "pass", prefer, " are short enough"


def _least(
    name: str, what: str, has: float | None, least: float, unit: str, source: Source, field: str
) -> _DeviceResult:
    if has is None:
        need = Need(f"the {what} of {name}", f"boards.spds.{field}", "It stands on the device or in its data.")
        return _DeviceResult(verdict="missing", text="", source=source, needs=(need,))
    verdict: Verdict = "pass" if has >= least - SLACK else "fail"
    return _DeviceResult(
        verdict=verdict,
        text=f"{name}: {what} {shown_down(has)} {unit}, and {shown_up(least)} {unit} are the least",
        source=source,
        value=least,
        limit=has,
        unit=unit,
    )


def _backup(ctx: SupplyContext, rules: SurgeRules, board: Board, device: Spd, name: str) -> Iterator[_DeviceResult]:
    """What stands ahead of the device must be no larger than its maker allows: its own breaker, or the next one upstream."""
    upstream = upstream_of(ctx.job, ctx.network.tree, board)
    ahead = device.backup_a if device.backup_a is not None else upstream.device.rating_a if upstream else None
    if device.max_backup_a is None or ahead is None:
        what = "the largest device its maker allows ahead of" if device.max_backup_a is None else "what stands ahead of"
        need = Need(f"{what} {device.name}", "boards.spds.max_backup_a", "It stands in its data.")
        yield _DeviceResult(verdict="missing", text="", source=rules.backup_rule, needs=(need,))
        return
    verdict: Verdict = "pass" if ahead <= device.max_backup_a else "fail"
    protecting = "its own backup device" if device.backup_a is not None else "the device ahead"
    yield _DeviceResult(
        verdict=verdict,
        text=f"{name}: {protecting} of {ahead:g} A, and its maker allows {device.max_backup_a:g} A",
        source=rules.backup_rule,
        value=ahead,
        limit=device.max_backup_a,
        unit="A",
    )


#: Live leads of a surge device by its backup breaker: the conductors follow that breaker. Common practice, no source.
_BY_BACKUP: tuple[tuple[float, float], ...] = (
    (20.0, 2.5), (32.0, 4.0), (63.0, 6.0), (125.0, 16.0), (160.0, 25.0), (250.0, 35.0), (400.0, 70.0),
)  # fmt: skip


def _conductors(rules: SurgeRules, device: Spd, name: str) -> Iterator[_DeviceResult]:
    """Leads of a wired device: at least the rule's by type, and what its backup breaker asks for."""
    if device.form == "plug-on" or rules.conductors is None or device.type == "3":
        return
    kind = "1" if device.type.startswith("1") else "2"
    by_backup = (
        next((area for upto, area in _BY_BACKUP if (device.backup_a or 0.0) <= upto), 0.0) if device.backup_a else 0.0
    )
    for has, least, side, field in (
        (device.live_mm2, max(rules.live_mm2[kind], by_backup), "live", "live_mm2"),
        (device.earth_mm2, rules.earth_mm2[kind], "earth", "earth_mm2"),
    ):
        yield _least(name, f"{side} lead", has, least, "mm²", rules.conductors, field)


def _tt(ctx: SupplyContext, rules: SurgeRules, device: Spd, name: str) -> Iterator[_DeviceResult]:
    if ctx.job.supply.system == "TT" and device.type != "3" and not device.spark_gap_to_earth:
        yield _DeviceResult(
            verdict="fail",
            text=f"{name}: ahead of the RCD in TT it joins neutral to earth by a spark gap",
            source=rules.tt_rule,
        )


def _state(ctx: SupplyContext, rules: SurgeRules, device: Spd, name: str) -> _DeviceResult:
    life = ctx.rules.protection.figure("common.spd.life", "years")
    if device.status == "red":
        return _DeviceResult(
            verdict="fail",
            text=f"{name}: its window is red, so it is spent: replace its modules",
            source=rules.status_rule,
        )
    if device.years is not None and device.years >= life.value:
        return _DeviceResult(
            verdict="advice",
            text=f"{name}: {device.years} years in service; new modules are worth a thought from {life.value:g} on",
            source=life.source,
            value=float(device.years),
            limit=life.value,
            unit="years",
        )
    return _DeviceResult(verdict="pass", text=f"{name}: look at its window once a year", source=rules.status_rule)


def _distance(
    ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk, devices: list[tuple[Board, Spd]]
) -> Iterator[_DeviceResult]:
    far = rules.distance_m
    if plan.furthest_m is None:
        return
    if plan.furthest_m <= far.value:
        yield _DeviceResult(
            verdict="pass",
            text=f"{plan.furthest_m:g} m to the furthest equipment need no second device",
            source=far.source,
        )
        return
    second = len({board.id for board, _ in devices}) > 1 or any(device.type == "3" for _, device in devices)
    second = second or any(load.surge_type_3 for circuit in ctx.job.circuits for load in circuit.loads)
    if second:
        yield _DeviceResult(
            verdict="pass",
            text=f"{plan.furthest_m:g} m to the furthest equipment, and a second device stands nearer to it",
            source=far.source,
        )
    else:
        yield _DeviceResult(
            verdict="advice",
            text=f"{plan.furthest_m:g} m of wiring to the furthest equipment: past {far.value:g} m a second device near it is advised",
            source=far.source,
            value=plan.furthest_m,
            limit=far.value,
            unit="m",
        )


def _required_by_consequence(rules: SurgeRules, plan: SurgeRisk) -> bool:
    """Whether what an overvoltage could cost makes a device a requirement: safety always, money where more than advised."""
    return plan.consequence == "safety" or (plan.consequence == "money-or-data" and rules.when != "recommended")


def _without_risk_assessment(ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk) -> Finding:
    """No device, where only a risk assessment makes one unnecessary."""
    if plan.declined is not None:
        text = "There is none; without a risk assessment it is provided, and the owner alone cannot waive it."
        return _answer(ctx, "advice", text, rules.required)
    text = "Surge protection required while no risk assessment says otherwise. None fitted."
    return _answer(ctx, "fail", text, rules.required)
