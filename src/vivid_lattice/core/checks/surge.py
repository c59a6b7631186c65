"""Is surge protection there where it is required, and does it do?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.checks.support.finding_builder import missing, not_applicable, step
from vivid_lattice.core.document.assumptions import is_new_design
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.document.surge_and_relay import Spd, SurgeDecline, SurgeRisk
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Assumption, Finding, Step
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.formulas.device.surge import surge_lead_kv
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.network.upstream import upstream_of
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.protection_rules import SurgeRules
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK, ka_from_a

ID = "surge"


@dataclass(frozen=True, slots=True, kw_only=True)
class _DeviceResult:
    """One thing asked of a device: what state it is in. ``value`` and ``limit`` where it is a figure."""

    verdict: Verdict
    text: Text
    source: Source
    value: float | None = None
    limit: float | None = None
    unit: str = ""
    needs: tuple[Need, ...] = ()
    steps: tuple[Step, ...] = ()


def check(ctx: SupplyContext) -> Finding:
    """Whether surge protection is required, who decided, and then each device: type by place, level with its leads against
    what the equipment withstands, continuous voltage, discharge current, short-circuit rating, backup, conductors, distance,
    years in service.

    Equation  Up + Σ leads · 1 kV/m ≤ Uw;  Uc ≥ 1.1 · Uo;  rating ≥ Ik
    Source    the rule set's surge rules; IEC 60364-5-53, 534; IEC 61643-11
    Roof, pole and the length of wiring are assumed as in most homes until someone looks.
    """
    rules, plan = ctx.rules.protection.surge, ctx.job.surge
    devices = [(board, device) for board in ctx.job.boards for device in board.spds]
    if not devices:
        if is_new_design(ctx.job) and not ctx.job.circuits:
            # A job just begun lacks circuits, and that is said once; its surge protection comes with the first of them.
            raise NeedsInput(ctx.need("core.check.demand.need.circuit", "circuits"))
        return _without(ctx, rules, plan)
    devices = [(board, _as_drawn(ctx, board, device)) for board, device in devices]
    results = [result for board, device in devices for result in _device(ctx, rules, plan, board, device)]
    results += _distance(ctx, rules, plan, devices)
    worst = min(results, key=lambda item: (VERDICT_ORDER.index(item.verdict), item.value is None))
    if worst.verdict == "missing":
        return missing(ID, ctx, tuple(need for result in results for need in result.needs))
    steps = tuple(line for result in results for line in (result.steps or (_line(ctx, result),))) if ctx.explain else ()
    summed = next((result for result in results if result.steps and result.value is not None), worst)
    shown = worst if worst.value is not None else summed
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=worst.verdict,
        sentence=ctx.message("core.ending.fact", fact=worst.text),
        value=shown.value,
        limit=shown.limit,
        unit=shown.unit,
        shown_value=shown_up(shown.value) if shown.value is not None else "",
        shown_limit=shown_down(shown.limit) if shown.limit is not None else "",
        margin=None,
        rule=worst.source,
        working=steps,
        assumptions=_assumed(ctx, rules, plan),
    )


def _assumed(ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk) -> tuple[Assumption, ...]:
    """What no one has looked at: roof and pole, and how far the wiring goes."""
    assumptions = []
    if plan.lightning_protection is None or plan.overhead_line is None:
        value = ctx.message("core.check.surge.assumed_origin")
        assumptions.append(Assumption("surge.lightning_protection", value, rules.type_rule.publication))
    if plan.furthest_m is None:
        value = ctx.message("core.check.surge.assumed_distance", m=plain(rules.distance_m.value))
        assumptions.append(Assumption("surge.furthest_m", value, rules.distance_m.source.publication))
    return tuple(assumptions)


def _as_drawn(ctx: SupplyContext, board: Board, device: Spd) -> Spd:
    """A device whose leads are not measured, with the length they have as its board is laid out, where it is."""
    if device.leads_m is not None:
        return device
    leads = or_none(lambda: ctx.network.boards[board.id].surge_leads_m(device.id))
    if leads is None:
        return device
    name = str(ctx.message("core.check.surge.drawn", spd=device.name))
    return device.model_copy(update={"leads_m": leads, "name": name})


def _line(ctx: SupplyContext, device_result: _DeviceResult) -> Step:
    return Step(
        symbol="",
        meaning=device_result.text,
        formula=ctx.message("core.ending.compare"),
        figures="",
        result=device_result.value or 0.0,
        unit="",
        shown=ctx.message(f"core.check.surge.word.{device_result.verdict}"),
        source=device_result.source,
    )


def _without(ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk) -> Finding:
    """No device: demanded, the owner's choice, or advice only."""
    if plan.consequence is not None and _required_by_consequence(rules, plan):
        text = ctx.message(
            "core.check.surge.required", consequence=ctx.message(f"core.check.surge.consequence.{plan.consequence}")
        )
        return _answer(ctx, "fail", text, rules.required)
    if plan.lightning_protection:
        return _answer(ctx, "fail", ctx.message("core.check.surge.lightning"), rules.type_rule)
    if rules.when == "always":
        return _answer(ctx, "fail", ctx.message("core.check.surge.always"), rules.required)
    if plan.declined is not None and rules.when == "unless-declined":
        return _declined(ctx, rules, plan, plan.declined)
    if rules.when == "recommended":
        return not_applicable(ID, ctx, ctx.message("core.check.surge.recommended"), rules.otherwise)
    if rules.when == "by-risk":
        return _without_risk_assessment(ctx, rules, plan)
    return _answer(ctx, "fail", ctx.message("core.check.surge.not_declined"), rules.required)


def _declined(ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk, declined: SurgeDecline) -> Finding:
    """No device, and the owner has declined one: in writing, and where neither life nor much money is at stake."""
    if plan.consequence is None:
        return missing(ID, ctx, (ctx.need("core.check.surge.need.consequence", "surge.consequence"),))
    if declined.in_writing is None:
        return missing(ID, ctx, (ctx.need("core.check.surge.need.in_writing", "surge.declined.in_writing"),))
    if not declined.in_writing:
        return _answer(ctx, "fail", ctx.message("core.check.surge.spoken"), rules.required)
    text = ctx.message("core.check.surge.declined", name=declined.name, date=str(declined.date), reason=declined.reason)
    return Finding(check=ID, subject=ctx.subject, verdict="not-applicable", sentence=text, rule=rules.otherwise)


def _answer(ctx: SupplyContext, verdict: Verdict, text: Text, source: Source) -> Finding:
    return Finding(check=ID, subject=ctx.subject, verdict=verdict, sentence=text, rule=source)


def _device(
    ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk, board: Board, device: Spd
) -> Iterator[_DeviceResult]:
    name = ctx.message("core.label.spd", spd=device.name, board=board.name)
    yield _type(ctx, plan, board, device, name)
    yield _level(ctx, plan, device, name)
    yield from _leads(ctx, device, name)
    least_v = rules.uc_factor.value * ctx.job.supply.nominal_v
    yield _least(ctx, name, "uc_v", device.uc_v, least_v, "V", rules.uc_factor.source)
    discharge = rules.impulse_ka if device.type.startswith("1") else rules.discharge_ka
    if device.type != "3":
        yield _least(ctx, name, "discharge_ka", device.discharge_ka, discharge.value, "kA", discharge.source)
    fault = ka_from_a(ctx.network.loops.board_fault_a(board))
    yield _least(ctx, name, "short_circuit_ka", device.short_circuit_ka, fault, "kA", rules.short_rule)
    yield from _backup(ctx, rules, board, device, name)
    yield from _conductors(ctx, device, name)
    yield from _tt(ctx, rules, board, device, name)
    yield _state(ctx, rules, device, name)


def _type(ctx: SupplyContext, plan: SurgeRisk, board: Board, device: Spd, name: Message) -> _DeviceResult:
    rules = ctx.rules.protection.surge
    origin = is_origin(board.fed_by)
    strikes = plan.lightning_protection or plan.overhead_line
    if origin and device.type == "3":
        return _DeviceResult(
            verdict="fail",
            text=ctx.message("core.check.surge.type_3", spd=name),
            source=rules.type_rule,
        )
    if origin and strikes and device.type == "2":
        reason = ctx.message(f"core.check.surge.{'why_lightning' if plan.lightning_protection else 'why_overhead'}")
        verdict: Verdict = "fail" if plan.lightning_protection else "advice"
        text = ctx.message("core.check.surge.type", spd=name, type=device.type, reason=reason)
        return _DeviceResult(verdict=verdict, text=text, source=rules.type_rule)
    text = ctx.message("core.check.surge.type_ok", spd=name, type=device.type)
    return _DeviceResult(verdict="pass", text=text, source=rules.type_rule)


def _level(ctx: SupplyContext, plan: SurgeRisk, device: Spd, name: Message) -> _DeviceResult:
    """Protection level with what the leads add, against the impulse withstand voltage of the equipment."""
    rules = ctx.rules.protection.surge
    limit = min(rules.up_max_kv.value, plan.withstand_kv or rules.up_max_kv.value)
    plugged = device.form == "plug-on"
    leads = 0.0 if plugged and device.leads_m is None else device.leads_m
    needs = []
    if device.up_kv is None:
        needs.append(ctx.need("core.check.surge.need.up", "boards.spds.up_kv", spd=device.name))
    if leads is None:
        needs.append(ctx.need("core.check.surge.need.leads", "boards.spds.leads_m", spd=device.name))
    if device.up_kv is None or leads is None:
        return _DeviceResult(verdict="missing", text="", source=rules.up_max_kv.source, needs=tuple(needs))
    added = surge_lead_kv(leads)
    total = device.up_kv + added
    verdict: Verdict = "pass" if total <= limit + SLACK else "fail"
    steps = (
        step(
            "Up",
            ctx.message("core.check.surge.up", spd=name),
            ctx.message("core.check.surge.as_marked"),
            "",
            device.up_kv,
            "kV",
        ),
        step(
            "UL",
            ctx.message("core.check.surge.leads_add"),
            ctx.message("core.check.surge.leads_rule"),
            f"{leads:g} m",
            added,
            "kV",
            rules.leads_max_m.source,
        ),
        step("U", ctx.message("core.check.surge.arrives"), "Up + UL", f"{device.up_kv:g} + {added:g}", total, "kV"),
        step(
            "Uw",
            ctx.message("core.check.surge.withstand"),
            ctx.message("core.check.surge.withstand_basis"),
            "",
            limit,
            "kV",
            rules.up_max_kv.source,
        ),
    )
    words = ctx.message("core.check.surge.level", spd=name, kv=shown_up(total), m=plain(leads), limit=shown_down(limit))
    return _DeviceResult(
        verdict=verdict, text=words, source=rules.up_max_kv.source, value=total, limit=limit, unit="kV", steps=steps
    )


def _leads(ctx: SupplyContext, device: Spd, name: Message) -> Iterator[_DeviceResult]:
    rules = ctx.rules.protection.surge
    if device.leads_m is None:
        return
    most, prefer = rules.leads_max_m, rules.leads_prefer_m
    verdict, limit, key = _leads_verdict(device.leads_m, most, prefer)
    yield _DeviceResult(
        verdict=verdict,
        text=ctx.message(f"core.check.surge.{key}", spd=name, m=plain(device.leads_m), max=plain(limit.value)),
        source=limit.source,
        value=device.leads_m,
        limit=limit.value,
        unit="m",
    )


def _leads_verdict(leads_m: float, most: SourcedValue, prefer: SourcedValue) -> tuple[Verdict, SourcedValue, str]:
    if leads_m > most.value + SLACK:
        return "fail", most, "leads_max"
    if leads_m > prefer.value + SLACK:
        return "advice", prefer, "leads_aim"
    return "pass", prefer, "leads_aim"


def _least(
    ctx: SupplyContext, name: Message, field: str, has: float | None, least: float, unit: str, source: Source
) -> _DeviceResult:
    what = ctx.message(f"core.check.surge.property.{field}")
    if has is None:
        need = ctx.need("core.check.surge.need.value", f"boards.spds.{field}", property=what, spd=name)
        return _DeviceResult(verdict="missing", text="", source=source, needs=(need,))
    verdict: Verdict = "pass" if has >= least - SLACK else "fail"
    return _DeviceResult(
        verdict=verdict,
        text=ctx.message(
            "core.check.surge.value", spd=name, property=what, value=shown_down(has), unit=unit, min=shown_up(least)
        ),
        source=source,
        value=least,
        limit=has,
        unit=unit,
    )


def _backup(ctx: SupplyContext, rules: SurgeRules, board: Board, device: Spd, name: Message) -> Iterator[_DeviceResult]:
    """The device upstream must be no larger than the manufacturer permits: its own breaker, or the next one upstream."""
    upstream = upstream_of(ctx.job, ctx.network.tree, board)
    ahead = device.backup_a if device.backup_a is not None else upstream.device.rating_a if upstream else None
    if device.max_backup_a is None or ahead is None:
        key = "backup_max" if device.max_backup_a is None else "backup_upstream"
        need = ctx.need(f"core.check.surge.need.{key}", "boards.spds.max_backup_a", spd=device.name)
        yield _DeviceResult(verdict="missing", text="", source=rules.backup_rule, needs=(need,))
        return
    verdict: Verdict = "pass" if ahead <= device.max_backup_a else "fail"
    protecting = ctx.message(f"core.check.surge.{'backup_own' if device.backup_a is not None else 'backup_upstream'}")
    yield _DeviceResult(
        verdict=verdict,
        text=ctx.message(
            "core.check.surge.backup", spd=name, device=protecting, a=plain(ahead), max=plain(device.max_backup_a)
        ),
        source=rules.backup_rule,
        value=ahead,
        limit=device.max_backup_a,
        unit="A",
    )


#: Live leads of a surge device by its backup breaker: the conductors follow that breaker. Common practice, no source.
_BY_BACKUP: tuple[tuple[float, float], ...] = (
    (20.0, 2.5), (32.0, 4.0), (63.0, 6.0), (125.0, 16.0), (160.0, 25.0), (250.0, 35.0), (400.0, 70.0),
)  # fmt: skip


def _conductors(ctx: SupplyContext, device: Spd, name: Message) -> Iterator[_DeviceResult]:
    """Leads of a wired device: the minimum by its type, and by its backup breaker."""
    rules = ctx.rules.protection.surge
    if device.form == "plug-on" or rules.conductors is None or device.type == "3":
        return
    kind = "1" if device.type.startswith("1") else "2"
    by_backup = (
        next((area for upto, area in _BY_BACKUP if (device.backup_a or 0.0) <= upto), 0.0) if device.backup_a else 0.0
    )
    for has, least, field in (
        (device.live_mm2, max(rules.live_mm2[kind], by_backup), "live_mm2"),
        (device.earth_mm2, rules.earth_mm2[kind], "earth_mm2"),
    ):
        yield _least(ctx, name, field, has, least, "mm²", rules.conductors)


def _tt(ctx: SupplyContext, rules: SurgeRules, board: Board, device: Spd, name: Message) -> Iterator[_DeviceResult]:
    if ctx.network.tree.earth_of_board(board).system == "TT" and device.type != "3" and not device.spark_gap_to_earth:
        yield _DeviceResult(
            verdict="fail",
            text=ctx.message("core.check.surge.tt", spd=name),
            source=rules.tt_rule,
        )


def _state(ctx: SupplyContext, rules: SurgeRules, device: Spd, name: Message) -> _DeviceResult:
    life = ctx.rules.protection.figure("common.spd.life", "years")
    if device.status == "red":
        return _DeviceResult(
            verdict="fail",
            text=ctx.message("core.check.surge.red", spd=name),
            source=rules.status_rule,
        )
    if device.years is not None and device.years >= life.value:
        return _DeviceResult(
            verdict="advice",
            text=ctx.message("core.check.surge.age", spd=name, years=str(device.years), limit=plain(life.value)),
            source=life.source,
            value=float(device.years),
            limit=life.value,
            unit="years",
        )
    return _DeviceResult(
        verdict="pass", text=ctx.message("core.check.surge.inspect", spd=name), source=rules.status_rule
    )


def _distance(
    ctx: SupplyContext, rules: SurgeRules, plan: SurgeRisk, devices: list[tuple[Board, Spd]]
) -> Iterator[_DeviceResult]:
    far = rules.distance_m
    if plan.furthest_m is None:
        return
    if plan.furthest_m <= far.value:
        yield _DeviceResult(
            verdict="pass",
            text=ctx.message("core.check.surge.near", m=plain(plan.furthest_m), limit=plain(far.value)),
            source=far.source,
        )
        return
    second = len({board.id for board, _ in devices}) > 1 or any(device.type == "3" for _, device in devices)
    second = second or any(load.surge_type_3 for circuit in ctx.job.circuits for load in circuit.loads)
    if second:
        yield _DeviceResult(
            verdict="pass",
            text=ctx.message("core.check.surge.second", m=plain(plan.furthest_m)),
            source=far.source,
        )
    else:
        yield _DeviceResult(
            verdict="advice",
            text=ctx.message("core.check.surge.far", m=plain(plan.furthest_m), limit=plain(far.value)),
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
        return _answer(ctx, "advice", ctx.message("core.check.surge.waived"), rules.required)
    return _answer(ctx, "fail", ctx.message("core.check.surge.by_risk"), rules.required)
