"""Is a board that is tapped off ahead of the main switch protected, fed and earthed for its own conductors?"""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.checks.support.conductor_size import sold_mm2
from vivid_lattice.core.checks.support.fault_energy import min_by_energy_mm2
from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Cable, Tap
from vivid_lattice.core.document.supply import CutOut
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.network.upstream import as_device
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK

ID = "tap"
#: Conductors without a device of their own may run no further than this: practice, as in IEC 60364-4-43, 433.2.
_BARE_M = 3.0


def check(ctx: BoardContext) -> Finding:
    """Of a further board at the origin: its own overcurrent device and what its lines carry, its neutral and its earth against
    its own lines, and labels at both ends.

    Equation  In ≤ Iz;  neutral ≥ line;  earth ≥ the rule set's least for its own lines
    Source    the rule set's tables of single cores and of protective conductors; IEC 60364-4-43, 433.2 for how far it may run bare
    """
    board = ctx.board
    first = next((board for board in ctx.job.boards if is_origin(board.fed_by)), None)
    if not is_origin(board.fed_by) or first is None or first.id == board.id:
        return not_applicable(ID, ctx, ctx.message("core.check.tap.none"))
    if board.tap is None:
        raise NeedsInput(ctx.need("core.check.tap.need", "boards.tap", board=board.name))
    tap = board.tap
    return finding_from_requirements(
        ID, ctx, [*_device(ctx, tap), *_neutral(ctx, tap), *_earth(ctx, tap), _labels(ctx, tap)]
    )


def _stated(ctx: BoardContext, value: float | None, field: str) -> float:
    if value is None:
        part = ctx.message(f"core.check.tap.part.{field}")
        raise NeedsInput(ctx.need("core.check.tap.need.part", f"boards.tap.{field}", part=part, board=ctx.board.name))
    return value


def _device(ctx: BoardContext, tap: Tap) -> Iterator[RequirementResult]:
    line = _stated(ctx, tap.line_mm2, "line_mm2")
    rules, rule = ctx.rules, ctx.rules.rule("overload")
    carries = rules.cables.capacity_a(
        Cable(type=rules.tails_cable, area_mm2=line), rules.tails_method, 3 if ctx.job.supply.phases == 3 else 2
    )
    cutout = ctx.job.supply.cutout
    if tap.device is None:
        length = _stated(ctx, tap.length_m, "length_m")
        if cutout is None:
            raise NeedsInput(ctx.need("core.check.tap.need.upstream", "supply.cutout", board=ctx.board.name))
        ahead = cutout.rating_a
        if ahead <= carries.value:
            words = ctx.message(
                "core.check.tap.upstream_ok",
                a=plain(ahead),
                size=rules.cables.size_label(line),
                iz=shown_down(carries.value),
            )
            yield RequirementResult(
                verdict="pass", text=words, value=ahead, limit=carries.value, source=carries.source, unit="A"
            )
            return
        verdict: Verdict = "advice" if length <= _BARE_M else "fail"
        words = ctx.message(
            "core.check.tap.unprotected",
            board=ctx.board.name,
            m=plain(length),
            max=plain(_BARE_M),
            size=rules.cables.size_label(line),
        )
        yield RequirementResult(verdict=verdict, text=words, value=length, limit=_BARE_M, source=rule, unit="m")
        return
    rating = tap.device.rating_a
    words = ctx.message(
        "core.check.tap.device", a=plain(rating), size=rules.cables.size_label(line), iz=shown_down(carries.value)
    )
    yield RequirementResult(
        verdict="pass" if rating <= carries.value else "fail",
        text=words,
        value=rating,
        limit=carries.value,
        source=carries.source,
        unit="A",
    )
    marked = _stated(ctx, tap.breaking_ka, "breaking_ka")
    device = as_device(tap.device).model_copy(update={"breaking_ka": marked})
    breaks, fault = rules.devices.breaking_ka(device), ctx.network.loops.board_fault_a(ctx.board) / 1000
    words = ctx.message("core.check.tap.breaking", icn=plain(breaks.value), ipf=shown_up(fault))
    verdict = "pass" if breaks.value >= fault else "fail"
    yield RequirementResult(
        verdict=verdict, text=words, value=fault, limit=breaks.value, source=breaks.source, unit="kA"
    )


def _neutral(ctx: BoardContext, tap: Tap) -> Iterator[RequirementResult]:
    line = _stated(ctx, tap.line_mm2, "line_mm2")
    neutral = _stated(ctx, tap.neutral_mm2, "neutral_mm2")
    size = ctx.rules.cables.size_label
    verdict: Verdict = "pass" if neutral >= line - SLACK else "fail"
    words = ctx.message("core.check.tap.neutral", size=size(neutral), line=size(line))
    yield RequirementResult(
        verdict=verdict, text=words, value=line, limit=neutral, source=ctx.rules.rule("overload"), unit="mm²"
    )


def _earth(ctx: BoardContext, tap: Tap) -> Iterator[RequirementResult]:
    """The mistake that is made: an earth sized for the circuits behind, and not for the lines that feed them."""
    line = _stated(ctx, tap.line_mm2, "line_mm2")
    earth = _stated(ctx, tap.earth_mm2, "earth_mm2")
    device = tap.device or ctx.job.supply.cutout
    least = ctx.rules.earthing.protective_mm2(line)
    if least is None:
        rating = _stated(ctx, device.rating_a if device else None, "device")
        least = ctx.rules.earthing.protective_by_device_mm2(rating, "copper")
    assert least is not None, "a rule set goes by the line or by the device"
    if earth < least.value:
        least = _least_by_energy(ctx, device, earth) or least
    size = ctx.rules.cables.size_label
    verdict: Verdict = "pass" if earth >= least.value - SLACK else "fail"
    words = ctx.message(
        f"core.check.tap.{'earth_basis' if least.basis else 'earth'}",
        size=size(earth),
        line=size(line),
        min=size(sold_mm2(ctx, least.value)),
        basis=least.basis,
    )
    yield RequirementResult(
        verdict=verdict, text=words, value=least.value, limit=earth, source=least.source, unit="mm²"
    )


def _labels(ctx: BoardContext, tap: Tap) -> RequirementResult:
    rule = ctx.rules.board.source("chart")
    if tap.labelled is None:
        raise NeedsInput(ctx.need("core.check.tap.need.labels", "boards.tap.labelled"))
    if tap.labelled:
        return RequirementResult(
            verdict="pass", text=ctx.message("core.check.tap.labels_ok"), value=0.0, limit=0.0, source=rule
        )
    words = ctx.message("core.check.tap.labels", board=ctx.board.name)
    return RequirementResult(verdict="fail", text=words, value=1.0, limit=0.0, source=rule)


def _least_by_energy(ctx: BoardContext, device: CutOut | None, earth_mm2: float) -> SourcedValue | None:
    """Least earth by the energy that the device lets through [mm²], where it allows the size that is there."""
    loop = or_none(lambda: ctx.network.loops.board_ohm(ctx.board))
    least = min_by_energy_mm2(ctx, device, loop) if loop is not None else None
    return least if least is not None and least.value <= earth_mm2 else None
