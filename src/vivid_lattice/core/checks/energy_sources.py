"""Do the board and its devices suit the sources that feed it in parallel with the supply?"""

from __future__ import annotations

from collections.abc import Iterator
from math import prod

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_known_requirements
from vivid_lattice.core.checks.support.switch_load import upstream_a
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.energy_source import EnergySource
from vivid_lattice.core.document.job import Board, Circuit
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.network.source_output import rated_output_a
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK

ID = "energy-sources"


def check(ctx: BoardContext) -> Finding:
    """What a board with sources requires: the rating of its busbar, the main switch against what is fed back, devices that current runs
    through in both directions, sources on circuits with loads, isolators, and the notice to the distributor.

    Equation  In,upstream + k · ΣIg ≤ share · In,busbar;  ΣIg ≤ In,switch;  In + Ig ≤ Iz of a circuit that feeds loads too
    Source    the rule set's rules of sources in parallel with the supply
    Sources of boards behind count too: their current runs through the busbar.
    """
    sources = [circuit for circuit in ctx.network.tree.fed_by_board(ctx.board) if circuit.source is not None]
    if not sources:
        return not_applicable(ID, ctx, ctx.message("core.check.energy-sources.none"))
    board = _BoardSources(ctx, sources)
    parts = [board.busbar, board.main_switch, board.both_ways, board.shared_circuits]
    parts += [board.isolators, board.connection]
    return finding_from_known_requirements(ID, ctx, parts)


class _BoardSources:
    """The board, and the circuits of its sources and of those behind it."""

    def __init__(self, ctx: BoardContext, circuits: list[Circuit]):
        self._ctx, self._circuits = ctx, circuits
        direct = {way.circuit for way in ctx.board.ways}
        self._own = [circuit for circuit in circuits if circuit.id in direct]

    def _say(self, part: str, **params: Param) -> Message:
        return self._ctx.message(f"core.check.energy-sources.{part}", **params)

    def _needs(self, part: str, path: str, **params: Param) -> NeedsInput:
        return NeedsInput(self._ctx.need(f"core.check.energy-sources.need.{part}", path, **params))

    def _result(
        self, verdict: Verdict, text: Text, source: Source, value: float = 0.0, limit: float = 0.0, unit: str = ""
    ) -> RequirementResult:
        return RequirementResult(verdict=verdict, text=text, value=value, limit=limit, source=source, unit=unit)

    def _output_a(self) -> float:
        return max(self._ctx.network.drops.generated_a(self._ctx.board).values())

    def busbar(self) -> Iterator[RequirementResult]:
        """What may flow in the busbar against what it carries."""
        ctx, rule = self._ctx, self._ctx.rules.sources.busbar
        upstream = upstream_a(ctx, ctx.board)
        if ctx.rules.board.main.has_release and ctx.board.main_switch is not None:
            upstream = ctx.board.main_switch.rating_a, self._say("main_breaker")
        if upstream is None:
            raise self._needs("upstream", "supply.cutout", board=ctx.board.name)
        output_a = self._output_a()
        if ctx.board.busbar_a is None:
            raise self._needs("busbar", "boards.busbar_a", board=ctx.board.name)
        opposite = rule.opposite_share == 1.0 or self._at_opposite_end()
        share = rule.opposite_share if opposite else 1.0
        total, limit = upstream[0] + rule.output_factor * output_a, share * ctx.board.busbar_a
        text = self._say(
            "busbar" if share == 1.0 else "busbar_share",
            total=shown_up(total),
            limit=shown_down(limit),
            rating=plain(ctx.board.busbar_a),
            percent=plain(share * 100),
            upstream=plain(upstream[0]),
            output=shown_up(rule.output_factor * output_a),
        )
        yield self._result("pass" if total <= limit + SLACK else "fail", text, rule.source, total, limit, "A")

    def _at_opposite_end(self) -> bool:
        """Whether every source is at the end of the busbar away from the main breaker; one of a board behind is where its feeder is."""
        for circuit in self._own:
            assert circuit.source is not None
            if circuit.source.opposite_main is None:
                raise self._needs("opposite", "source.opposite_main", circuit=circuit.name)
        behind = len(self._own) < len(self._circuits)
        return not behind and all(circuit.source is not None and circuit.source.opposite_main for circuit in self._own)

    def main_switch(self) -> Iterator[RequirementResult]:
        """What is fed back runs through the main switch."""
        switch = self._ctx.board.main_switch
        if switch is None:
            return
        output_a = self._output_a()
        text = self._say("main_switch", a=shown_up(output_a), rating=plain(switch.rating_a))
        verdict: Verdict = "pass" if output_a <= switch.rating_a + SLACK else "fail"
        yield self._result(verdict, text, self._ctx.rules.sources.busbar.source, output_a, switch.rating_a, "A")

    def both_ways(self) -> Iterator[RequirementResult]:
        """Devices of this board that current runs through in both directions, and that not every manufacturer permits to be fed so."""
        rule = self._ctx.rules.sources.load_side
        lacks: NeedsInput | None = None
        for name, bidirectional, path in self._electronic():
            if bidirectional is None:
                lacks = lacks or self._needs("bidirectional", path, device=name)
                continue
            text = self._say("both_ways" if bidirectional else "one_way", device=name)
            yield self._result("pass" if bidirectional else "fail", text, rule)
        if lacks is not None:
            raise lacks

    def _electronic(self) -> Iterator[tuple[Text, bool | None, str]]:
        """Devices with a residual-current or arc-fault part that a source feeds from the load side."""
        board, tree = self._ctx.board, self._ctx.network.tree
        switch = board.main_switch
        if switch is not None and switch.rcd is not None:
            yield (
                self._say("of_main_switch", board=board.name),
                switch.bidirectional,
                "boards.main_switch.bidirectional",
            )
        feeding = [way for way in board.ways if self._feeds_back(tree.circuits[way.circuit])]
        for group in board.shared_rcds:
            if any(way.rcd == group.id for way in feeding):
                yield group.name, group.bidirectional, "boards.shared_rcds.bidirectional"
        for way in feeding:
            circuit = tree.circuits[way.circuit]
            device = circuit.device
            if not is_auto(device) and (device.rcd is not None or device.arc_fault):
                label = self._ctx.message("core.check.energy-sources.of_way", n=way.number, circuit=circuit.name)
                yield label, device.bidirectional, "device.bidirectional"

    def _feeds_back(self, circuit: Circuit) -> bool:
        fed = self._ctx.network.tree.fed_through(circuit)
        return any(each.source is not None for each in (circuit, *fed))

    def shared_circuits(self) -> Iterator[RequirementResult]:
        """A source on a circuit that feeds loads: between them the cable carries the device's rating and the source's output."""
        rule = self._ctx.rules.sources.final_circuit
        for circuit in self._own:
            if not circuit.loads and circuit.kind not in ("ring", "radial", "lighting"):
                continue
            if rule is None:
                yield self._result(
                    "advice",
                    self._say("shared_unavailable", circuit=circuit.name),
                    self._ctx.rules.sources.busbar.source,
                )
                continue
            yield self._shared(circuit, rule)

    def _shared(self, circuit: Circuit, rule: Source) -> RequirementResult:
        ctx = self._ctx
        if is_auto(circuit.device):
            raise NeedsInput(ctx.need("core.need.device", "device", circuit=circuit.name))
        assert circuit.source is not None
        total = circuit.device.rating_a + rated_output_a(circuit, circuit.source, ctx.rules)
        loaded, cable = ctx.network.tree.loaded(circuit), chosen_cable(circuit)
        carries = min(
            ctx.rules.cables.capacity_a(cable, section.method, loaded).value
            * prod(factor.value for factor in ctx.rules.factors.factors(section, cable, loaded))
            for section in circuit.run
        )
        text = self._say("shared", circuit=circuit.name, total=shown_up(total), iz=shown_down(carries))
        return self._result("pass" if total <= carries + SLACK else "fail", text, rule, total, carries, "A")

    def isolators(self) -> Iterator[RequirementResult]:
        """A lockable isolator beside each source."""
        rule = self._ctx.rules.sources.isolation
        for circuit in self._own:
            source = circuit.source
            assert source is not None
            if source.isolator is None:
                raise self._needs("isolator", "source.isolator", circuit=circuit.name)
            text = self._say("isolator" if source.isolator else "no_isolator", circuit=circuit.name)
            yield self._result("pass" if source.isolator else "fail", text, rule)

    def connection(self) -> Iterator[RequirementResult]:
        """What the distributor is told, and when: by all sources of the job together."""
        if self._ctx.board.id != _first_board(self._ctx).id:
            return
        rule = self._ctx.rules.sources.connection
        total_a = max(self._ctx.network.drops.output_a(self._ctx.job.circuits).values(), default=0.0)
        if all(_is_settled(source, total_a, rule.upto_a) for source in self._all_sources()):
            yield self._result("pass", self._say("connection_done"), rule.source)
        elif rule.upto_a is None:
            yield self._result(
                "advice", self._say("connection_unavailable", standard=self._ctx.rules.title), rule.source
            )
        elif total_a <= rule.upto_a + SLACK:
            text = self._say("connection_after", a=shown_up(total_a), limit=plain(rule.upto_a))
            yield self._result("advice", text, rule.source, total_a, rule.upto_a, "A")
        else:
            text = self._say("connection_before", a=shown_up(total_a), limit=plain(rule.upto_a))
            yield self._result("advice", text, rule.source, total_a, rule.upto_a, "A")

    def _all_sources(self) -> list[EnergySource]:
        return [circuit.source for circuit in self._ctx.job.circuits if circuit.source is not None]


def _is_settled(source: EnergySource, total_a: float, upto_a: float | None) -> bool:
    """Whether nothing is due: the distributor has accepted it, or has been notified of sources that are only notified."""
    if source.distributor == "accepted":
        return True
    return source.distributor == "notified" and (upto_a is None or total_a <= upto_a + SLACK)


def _first_board(ctx: BoardContext) -> Board:
    """The first board that a source feeds: the distributor is told once."""
    tree = ctx.network.tree
    with_source = (
        board for board in ctx.job.boards if any(circuit.source is not None for circuit in tree.fed_by_board(board))
    )
    return next(with_source)
