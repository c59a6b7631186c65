"""Is there room in the board for what is in it, and for what comes later?"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping
from functools import partial
from itertools import combinations

from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.layout.layout_problem import modules_needed, pairs_of_halves
from vivid_lattice.core.board.layout.rail_positions import PlacedDevice, RailPositions
from vivid_lattice.core.checks.support.requirements import (
    RequirementResult,
    finding_from_known_requirements,
    finding_from_requirements,
)
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.board_build import Enclosure, space_number
from vivid_lattice.core.document.job import Line
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK

ID = "ways"


def check(ctx: BoardContext) -> Finding:
    """Modules that the devices take against those of the enclosure (ways against ways until one is chosen), what is left for
    later, whether each device is where there is room for it, and how evenly its lines are loaded.

    Tandem breakers of a panel are only in spaces whose label permits them, and neither half feeds a multiwire circuit.

    Equation  Σ widths ≤ rows · modules;  free / all ≥ preference;  (Imax − Imin) / Imax ≤ the standard's figure
    Source    the rule set's rule on spare ways, or the owner's preference; widths by the device's data, else as usual of its kind
    """
    enclosure = ctx.board.build.enclosure
    results = [*_room(ctx, enclosure)]
    if enclosure is not None:
        places = ctx.model.places
        results += [*_overlaps(ctx, places), *_outside(ctx, places), *_balance(ctx), *_halves(ctx)]
        parts: tuple[Callable[[], Iterable[RequirementResult]], ...] = (
            lambda: results,
            partial(_tandems, ctx, enclosure, places),
        )
        return finding_from_known_requirements(ID, ctx, parts)
    return finding_from_requirements(ID, ctx, results)


def _room(ctx: BoardContext, enclosure: Enclosure | None) -> Iterator[RequirementResult]:
    spare = ctx.rules.board.spare
    wish = ctx.board.build.layout_preferences.spare_pct
    needed, there_is, what = _needed(ctx, enclosure)
    over = needed > there_is + SLACK
    unit = ctx.message(f"core.unit.{what}")
    words = ctx.message("core.check.ways.room", board=ctx.board.name, n=plain(needed), unit=unit, total=plain(there_is))
    if over and enclosure is not None:
        words = ctx.message("core.check.ways.room_fix", room=words)
    yield RequirementResult(
        verdict="fail" if over else "pass", text=words, value=needed, limit=there_is, source=spare.source, unit=what
    )
    if over or enclosure is None:
        return  # what is to stay free is asked once there is something to leave free in
    free = there_is - needed
    least = spare.to_leave(there_is, wish)
    enough = free + SLACK >= least
    basis = ctx.message(f"core.check.ways.{'spare_wish' if wish is not None else 'spare_usual'}")
    words = ctx.message(
        "core.check.ways.spare", free=plain(free), total=plain(there_is), unit=unit, min=shown_down(least), basis=basis
    )
    yield RequirementResult(
        verdict="pass" if enough else "advice", text=words, value=least, limit=free, source=spare.source, unit=what
    )


def _needed(ctx: BoardContext, enclosure: Enclosure | None) -> tuple[float, float, str]:
    """What the board needs, what there is, and of what: ways while no enclosure is chosen, else modules or spaces."""
    if enclosure is None:
        return float(len(ctx.board.ways)), float(ctx.board.way_count), "ways"
    # What is not chosen yet takes a module at least.
    needed = modules_needed(ctx.model.units) + len(ctx.model.units.open)
    what = "spaces" if enclosure.form == "panelboard" else "modules"
    return needed, float(enclosure.rows * enclosure.modules), what


def _apart_pct(amps: Collection[float]) -> float:
    """How far the lines' currents are apart, of the largest [%]."""
    high, low = max(amps), min(amps)
    return 100 * (high - low) / high if high > 0 else 0.0


def _balance(ctx: BoardContext) -> Iterator[RequirementResult]:
    """How far the lines of the board are apart, each with the currents of its circuits, where the rule set has a figure for it;
    nothing while one of them is not known."""
    most, lines = ctx.rules.board.balance_pct, ctx.model.units.lines
    if most is None or len(lines) < 2 or not ctx.board.ways:
        return
    circuits = [ctx.network.tree.circuits[way.circuit] for way in ctx.board.ways]
    loads_by_line = or_none(lambda: [ctx.network.drops.design_current(circuit).by_line for circuit in circuits])
    if loads_by_line is None:
        return
    sums = {line: sum(by_line.get(line, 0.0) for by_line in loads_by_line) for line in lines}
    apart = _apart_pct(sums.values())
    verdict: Verdict = "pass" if apart <= most.value + SLACK else "advice"
    words = ctx.message(
        "core.check.ways.balance", percent=shown_up(apart), max=plain(most.value), loads=_by_line_text(sums)
    )
    yield RequirementResult(verdict=verdict, text=words, value=apart, limit=most.value, source=most.source, unit="%")


def _overlaps(ctx: BoardContext, places: RailPositions) -> Iterator[RequirementResult]:
    placed_devices = [placed_device for placed_device in places.placed.values() if placed_device.row > 0]
    for a, b in combinations(placed_devices, 2):
        if a.row == b.row and a.offset_modules < b.end - SLACK and b.offset_modules < a.end - SLACK:
            yield _fault(ctx, ctx.message("core.check.ways.overlap", row=str(a.row), a=a.unit.name, b=b.unit.name))


def _outside(ctx: BoardContext, places: RailPositions) -> Iterator[RequirementResult]:
    for placed_device in places.placed.values():
        if placed_device.row > places.enclosure.rows or placed_device.end > places.enclosure.modules + SLACK:
            place = _end(ctx, places, placed_device)
            yield _fault(ctx, ctx.message("core.check.ways.outside", place=place, device=placed_device.unit.name))


def _end(ctx: BoardContext, places: RailPositions, placed_device: PlacedDevice) -> Message:
    if placed_device.row > places.enclosure.rows:
        return ctx.message("core.check.ways.end_last", rows=str(places.enclosure.rows))
    return ctx.message("core.check.ways.end_row", row=str(placed_device.row))


def _tandems(ctx: BoardContext, enclosure: Enclosure, places: RailPositions) -> Iterator[RequirementResult]:
    """Tandem breakers of a panel against its label, by the spaces they are in; by their number until they are laid out."""
    halves = [unit for unit in ctx.model.units.all if unit.is_half]
    if not halves or enclosure.form != "panelboard":
        return
    permitted, source = enclosure.tandem_space_numbers, ctx.rules.board.tandem
    if permitted is None:
        raise NeedsInput(
            ctx.need("core.check.ways.need.label", "boards.build.enclosure.tandem_spaces", board=ctx.board.name)
        )
    placed = [places.placed[unit.id] for unit in halves if unit.id in places.placed]
    for half in placed:
        number = space_number(half.row, half.offset_modules)
        if number not in permitted:
            words = ctx.message("core.check.ways.tandem_space", device=half.unit.name, n=number)
            yield RequirementResult(verdict="fail", text=words, value=1.0, limit=0.0, source=source)
    needed, room = float(len(pairs_of_halves(halves))), float(len(permitted))
    words = ctx.message("core.check.ways.tandems", n=plain(needed), total=plain(room))
    yield RequirementResult(
        verdict="pass" if needed <= room else "fail", text=words, value=needed, limit=room, source=source, unit="spaces"
    )


def _halves(ctx: BoardContext) -> Iterator[RequirementResult]:
    """A half has one pole: on a multiwire circuit the neutral would carry both currents added, and nothing disconnects both lines."""
    for unit in ctx.model.units.all:
        if unit.is_half and len(unit.lines) > 1:
            words = ctx.message("core.check.ways.tandem_lines", device=unit.name)
            yield RequirementResult(verdict="fail", text=words, value=1.0, limit=0.0, source=ctx.rules.board.tandem)
        elif unit.is_half and (unit.rcd is not None or _detects_arcs(unit)):
            words = ctx.message("core.check.ways.tandem_detects", device=unit.name)
            yield RequirementResult(verdict="advice", text=words, value=1.0, limit=0.0, source=None)


def _detects_arcs(unit: BoardDevice) -> bool:
    return unit.circuit is not None and not is_auto(unit.circuit.device) and unit.circuit.device.arc_fault


def _fault(ctx: BoardContext, words: Message) -> RequirementResult:
    return RequirementResult(verdict="fail", text=words, value=1.0, limit=0.0, source=ctx.rules.board.spare.source)


def _by_line_text(amps_by_line: Mapping[Line, float]) -> str:
    return ", ".join(f"{line} {shown_up(amps)} A" for line, amps in amps_by_line.items())
