"""Does protection work while a board is on its own source, with the supply off?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_known_requirements
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.energy_source import StandbySupply
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings.finding import Assumption, Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.island import Island, IslandFault
from vivid_lattice.core.rules.source_rules import StandbyRules
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK, a_from_ma

ID = "standby-supply"


def check(ctx: BoardContext) -> Finding:
    """What a standby supply requires: a changeover that cannot put two sources in parallel; where its neutral is joined to earth; its
    electrode; the disconnection of every circuit in an earth fault with the current that the source gives; its load; labels.

    Equation  I = min(k · In,source, U0 / Zs of the circuit from the board);  a breaker disconnects with Ia ≤ I, an RCD in the time of I / IΔn,
              otherwise the source itself when its voltage breaks down
    Source    the rule set's rules of standby supplies; what an inverter gives: its data, else common practice
    """
    standby = ctx.board.standby
    if standby is None:
        return not_applicable(ID, ctx, ctx.message("core.check.standby-supply.none"))
    rules = ctx.rules.sources.standby
    if rules is None:
        what = ctx.message("core.check.standby-supply.unavailable", standard=ctx.rules.title)
        raise NotTabulated(what, path="job.rules")
    board = _Standby(ctx, standby, rules)
    parts = [board.changeover, board.neutral, board.electrode, board.disconnection, board.load, board.labels]
    return finding_from_known_requirements(ID, ctx, parts, board.assumptions())


@dataclass(frozen=True, slots=True)
class _Disconnection:
    """How an earth fault in a circuit is disconnected: by its device, an RCD, the source, or not in time."""

    by: str
    fault: IslandFault
    time_s: float
    text: Text
    source: Source


class _Standby:
    def __init__(self, ctx: BoardContext, standby: StandbySupply, rules: StandbyRules):
        self._ctx, self._standby, self._rules = ctx, standby, rules
        network = ctx.network
        self._island = Island(ctx.job, network.tree, network.loops, ctx.board)

    def _say(self, part: str, **params: Param) -> Message:
        return self._ctx.message(f"core.check.standby-supply.{part}", **params)

    def _needs(self, part: str) -> NeedsInput:
        need = self._ctx.need(
            f"core.check.standby-supply.need.{part}", f"boards.standby.{part}", name=self._standby.name
        )
        return NeedsInput(need)

    def _result(
        self, verdict: Verdict, text: Text, source: Source, value: float = 0.0, limit: float = 0.0, unit: str = ""
    ) -> RequirementResult:
        return RequirementResult(verdict=verdict, text=text, value=value, limit=limit, source=source, unit=unit)

    def assumptions(self) -> tuple[Assumption, ...]:
        """What is taken of the source where its data are not entered."""
        if self._standby.fault_multiple is not None:
            return ()
        least, _, source = self._ctx.rules.sources.inverter_multiple()
        return (Assumption("boards.standby.fault_multiple", plain(least), source.publication),)

    def changeover(self) -> Iterator[RequirementResult]:
        """Supply and source are never in parallel through the changeover."""
        kind = self._standby.changeover
        if kind is None:
            raise self._needs("changeover")
        text = self._say(f"changeover_{kind}", name=self._standby.name)
        yield self._result("fail" if kind == "none" else "pass", text, self._rules.changeover)

    def neutral(self) -> Iterator[RequirementResult]:
        """While it supplies, neutral and earth are joined at one point: at the source where the neutral is switched, else nowhere new."""
        poles, link = self._standby.switched_poles, self._standby.neutral_earth_link
        if poles is None:
            raise self._needs("switched_poles")
        if link is None:
            raise self._needs("neutral_earth_link")
        if poles == "lines" and self._rules.neutral == "switched":
            yield self._result(
                "fail", self._say("neutral_not_switched", rule=self._rules.earth_text), self._rules.earth
            )
            return
        joined = link != "none"
        wanted = poles == "all"
        key = f"link_{'all' if wanted else 'lines'}_{link if joined else 'none'}"
        yield self._result("pass" if joined == wanted else "fail", self._say(key), self._rules.earth)

    def electrode(self) -> Iterator[RequirementResult]:
        """An earth that does not rely on the network."""
        if not self._rules.needs_electrode:
            return
        if self._standby.electrode_ohm is None:
            raise self._needs("electrode_ohm")
        ohm, stable = self._standby.electrode_ohm, self._ctx.rules.limits.stable_electrode_ohm()
        within = ohm <= stable.value * (1 + SLACK)
        text = self._say("electrode" if within else "electrode_unstable", ohm=shown_up(ohm), limit=plain(stable.value))
        yield self._result("pass" if within else "advice", text, self._rules.earth, ohm, stable.value, "Ω")

    def load(self) -> Iterator[RequirementResult]:
        """What the board draws against what the source gives; it stops where that is more, which harms no one."""
        demand = self._ctx.network.drops.standby_demand(self._ctx.board)
        rated_a = self._rated_a()
        within = demand.current_a <= rated_a + SLACK
        text = self._say("load" if within else "overload", a=shown_up(demand.current_a), rating=plain(rated_a))
        verdict: Verdict = "pass" if within else "advice"
        yield self._result(verdict, text, self._rules.changeover, demand.current_a, rated_a, "A")

    def _rated_a(self) -> float:
        if self._standby.rated_a is None:
            raise self._needs("rated_a")
        return self._standby.rated_a

    def labels(self) -> Iterator[RequirementResult]:
        """A label at the board and at the origin."""
        if self._standby.labelled is None:
            raise self._needs("labelled")
        text = self._say("labelled" if self._standby.labelled else "not_labelled")
        yield self._result("pass" if self._standby.labelled else "fail", text, self._ctx.rules.sources.isolation)

    # ------------------------------------------------------------------------------------------ disconnection

    def disconnection(self) -> Iterator[RequirementResult]:
        """Every circuit that it supplies: the worst way of disconnecting first, one line for each way."""
        limits = self._ctx.rules.limits
        if limits.no_disconnection is not None:
            return
        least, _, _ = self._ctx.rules.sources.inverter_multiple()
        source_a = (self._standby.fault_multiple or least) * self._rated_a()
        if self._standby.neutral_earth_link is None and self._standby.switched_poles != "lines":
            raise self._needs("neutral_earth_link")
        joined = self._standby.neutral_earth_link in ("fixed", "relay") or self._standby.switched_poles == "lines"
        lacks: list[NeedsInput] = []
        by_way: dict[str, list[tuple[Circuit, _Disconnection]]] = {}
        for circuit in self._island.circuits():
            if circuit.kind == "distribution":
                continue
            try:
                found = self._of(circuit, source_a, joined)
            except NeedsInput as lack:
                lacks.append(lack)
                continue
            by_way.setdefault(found.by, []).append((circuit, found))
        for way, items in by_way.items():
            yield self._of_way(way, items, source_a)
        if lacks:
            raise NeedsInput(*(need for lack in lacks for need in lack.needs))

    def _of_way(self, way: str, items: list[tuple[Circuit, _Disconnection]], source_a: float) -> RequirementResult:
        verdicts: dict[str, Verdict] = {"device": "pass", "rcd": "pass", "source": "advice", "none": "fail"}
        circuit, worst = max(items, key=lambda item: item[1].time_s)
        text = self._say(
            f"disconnection_{way}",
            circuit=circuit.name,
            more=len(items) - 1,
            how=worst.text,
            a=shown_down(worst.fault.current_a),
            source=shown_down(source_a),
        )
        return self._result(verdicts[way], text, worst.source, worst.fault.current_a, 0.0, "A")

    def _of(self, circuit: Circuit, source_a: float, joined: bool) -> _Disconnection:
        """How an earth fault at the end of a circuit is disconnected while the source supplies."""
        ctx, network = self._ctx, self._ctx.network
        if is_auto(circuit.device):
            raise NeedsInput(ctx.need("core.need.device", "device", circuit=circuit.name))
        system = network.tree.earth_of(circuit).system
        within = ctx.rules.limits.disconnection_s(circuit, circuit.device.rating_a, system)
        fault = self._island.earth_fault(circuit, source_a)
        if not joined:
            # No way back to the neutral of the source: nothing detects the first fault.
            return _Disconnection("none", fault, within.value, self._say("how_no_link"), self._rules.earth)
        try:
            limit = ctx.rules.devices.loop_limit(circuit.device, within.value)
            if limit.ia_a <= fault.current_a:
                label = self._say("how_device", device=circuit.device.label, a=shown_up(limit.ia_a))
                return _Disconnection("device", fault, within.value, label, limit.source)
        except NotTabulated:
            pass
        return self._by_rcd(circuit, fault, within) or self._by_source(fault, within)

    def _by_rcd(self, circuit: Circuit, fault: IslandFault, within: SourcedValue) -> _Disconnection | None:
        for ahead in self._island.rcds(circuit):
            try:
                multiple = fault.current_a / a_from_ma(ahead.rcd.idn_ma)
                opens = self._ctx.rules.devices.rcd_time_s(ahead.rcd, multiple)
            except NotTabulated:
                continue
            if opens.value <= within.value:
                text = self._say(
                    "how_rcd", idn=plain(ahead.rcd.idn_ma), s=shown_up(opens.value), limit=plain(within.value)
                )
                return _Disconnection("rcd", fault, opens.value, text, opens.source)
        return None

    def _by_source(self, fault: IslandFault, within: SourcedValue) -> _Disconnection:
        """The source itself, whose voltage breaks down in a short circuit that it cannot feed."""
        stops = self._standby.shutdown_s
        if stops is None:
            raise self._needs("shutdown_s")
        if stops <= within.value:
            text = self._say("how_source", s=shown_up(stops), limit=plain(within.value))
            return _Disconnection("source", fault, stops, text, within.source)
        text = self._say("how_slow", s=shown_up(stops), limit=plain(within.value))
        return _Disconnection("none", fault, stops, text, within.source)
