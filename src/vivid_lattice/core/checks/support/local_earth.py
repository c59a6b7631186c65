"""What an earth of its own requires, of a board in another building or of the points of a circuit."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import partial

from vivid_lattice.core.checks.support.conductor_size import sold_mm2, supply_mm2
from vivid_lattice.core.checks.support.requirements import RequirementResult
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Circuit
from vivid_lattice.core.document.local_earthing import WITH_ELECTRODE, LocalEarthing
from vivid_lattice.core.document.supply import SupplementaryBond
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.network.tree import EarthInUse
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK

Part = Callable[[], Iterable[RequirementResult]]


@dataclass(frozen=True, slots=True)
class LocalEarth:
    """An earth of its own: what is stated of it, whose it is, and the circuit that feeds it."""

    ctx: BoardContext | CircuitContext
    own: LocalEarthing
    owner: Board | Circuit
    feeder: Circuit

    def parts(self) -> list[Part]:
        """What is required of it, part by part; each may raise NeedsInput."""
        parts: list[Part] = [self._permitted]
        if self.own.kind in WITH_ELECTRODE:
            parts += [self._electrode, self._conductor]
        if self.own.kind in ("electrode", "neutral-link"):
            parts.append(self._feeder_earth)
        if self.own.kind == "electrode":
            parts.append(self._separation)
        if self.own.kind == "neutral-link":
            parts += [self._link, self._rcd_upstream]
        if isinstance(self.owner, Board):
            parts.append(self._bonding)
        parts += [partial(self._supplementary, bond) for bond in self.own.supplementary]
        return parts

    # ------------------------------------------------------------------------------------------ words

    def _say(self, part: str, **params: Param) -> Message:
        return self.ctx.message(f"core.check.local-earthing.{part}", name=self.owner.name, **params)

    def _needs(self, part: str, field: str) -> NeedsInput:
        prefix = "boards.earthing" if isinstance(self.owner, Board) else "earthing"
        return NeedsInput(
            self.ctx.need(f"core.check.local-earthing.need.{part}", f"{prefix}.{field}", name=self.owner.name)
        )

    def _result(
        self,
        verdict: Verdict,
        text: Text,
        source: SourcedValue | None,
        value: float = 0.0,
        limit: float = 0.0,
        unit: str = "",
    ) -> RequirementResult:
        return RequirementResult(
            verdict=verdict, text=text, value=value, limit=limit, source=source.source if source else None, unit=unit
        )

    @property
    def _line_mm2(self) -> float:
        return chosen_cable(self.feeder).area_mm2

    # ------------------------------------------------------------------------------------------ parts

    def _permitted(self) -> Iterator[RequirementResult]:
        rule = self.ctx.rules.earthing.local_earthing(self.own.kind)
        kind = self.ctx.message(f"core.check.local-earthing.kind.{self.own.kind}")
        if rule is None:
            raise NotTabulated(self._say("unavailable", kind=kind, standard=self.ctx.rules.title), path="job.rules")
        if not rule.value:
            yield self._result("fail", self._say("not_permitted", kind=kind, rule=rule.basis), rule)
        else:
            yield self._result("pass", self._say("permitted", kind=kind), rule)

    def _electrode(self) -> Iterator[RequirementResult]:
        """Where the electrode alone is the earth its resistance decides, and must last; elsewhere it need only be there."""
        if self.own.kind != "electrode":
            return
        earth = EarthInUse(system="TT", own=self.own, owner=self.owner)
        ohm, stable = self.ctx.network.loops.local_electrode_ohm(earth), self.ctx.rules.limits.stable_electrode_ohm()
        within = ohm <= stable.value * (1 + SLACK)
        text = self._say("electrode" if within else "electrode_unstable", ohm=shown_up(ohm), limit=plain(stable.value))
        yield self._result("pass" if within else "advice", text, stable, ohm, stable.value, "Ω")

    def _conductor(self) -> Iterator[RequirementResult]:
        has = self.own.conductor_mm2
        if has is None:
            raise self._needs("conductor", "conductor_mm2")
        yield self._size("conductor", has, self.ctx.rules.earthing.earthing_mm2(self._line_mm2, True))

    def _size(self, part: str, has_mm2: float, least: SourcedValue, **params: Param) -> RequirementResult:
        size, enough = self.ctx.rules.cables.size_label, has_mm2 >= least.value - SLACK
        text = self._say(part, size=size(has_mm2), least=size(sold_mm2(self.ctx, least.value)), **params)
        return self._result("pass" if enough else "fail", text, least, least.value, has_mm2, "mm²")

    def _feeder_earth(self) -> Iterator[RequirementResult]:
        """Joined at this end, the two earths would be one: the electrode would carry what the other earth carries."""
        if self.own.feeder_earth_connected is None:
            raise self._needs("feeder_earth", "feeder_earth_connected")
        rule = self.ctx.rules.earthing.local_earthing(self.own.kind)
        joined = self.own.feeder_earth_connected
        yield self._result("fail" if joined else "pass", self._say("earth_joined" if joined else "earth_apart"), rule)

    def _separation(self) -> Iterator[RequirementResult]:
        least = self.ctx.rules.earthing.separation_m()
        if least is None:
            return
        has = self.own.separation_m
        if has is None:
            raise self._needs("separation", "separation_m")
        verdict: Verdict = "pass" if has >= least.value - SLACK else "fail"
        text = self._say("separation", m=shown_down(has), least=plain(least.value))
        yield self._result(verdict, text, least, least.value, has, "m")

    def _link(self) -> Iterator[RequirementResult]:
        system = self.ctx.job.supply.system
        least = self.ctx.rules.earthing.link_mm2(system, self._line_mm2)
        if least is None:
            return
        if self.own.link_mm2 is None:
            raise self._needs("link", "link_mm2")
        yield self._size("link", self.own.link_mm2, least)

    def _rcd_upstream(self) -> Iterator[RequirementResult]:
        """An RCD upstream of a link trips on ordinary load, and detects no fault behind it."""
        upstream = self.ctx.network.tree.rcds_ahead(self.feeder)
        if upstream:
            rule = self.ctx.rules.earthing.local_earthing(self.own.kind)
            text = self._say("rcd_upstream", idn=plain(upstream[0].rcd.idn_ma), where=upstream[0].where)
            yield self._result("fail", text, rule)

    def _bonding(self) -> Iterator[RequirementResult]:
        what = self.ctx.rules.earthing.what_to_bond()
        if self.own.has_metalwork is None and not self.own.bonds:
            raise self._needs("metalwork", "has_metalwork")
        if not self.own.bonds and self.own.has_metalwork:
            yield self._result("fail", self._say("no_bond"), what)
            return
        if not self.own.bonds:
            yield self._result("pass", self._say("no_metalwork"), what)
            return
        least = self._bonding_mm2()
        for bond in self.own.bonds:
            if bond.area_mm2 is None:
                raise self._needs("bond_size", "bonds")
            yield self._size("bond", bond.area_mm2, least, metalwork=bond.name)
        if self.own.kind == "exported" or self.own.kind == "exported-and-electrode":
            yield from self._as_bond(least)

    def _supplementary(self, bond: SupplementaryBond) -> Iterator[RequirementResult]:
        """Metalwork of a room there, joined by a conductor that goes by the protective conductor of the part it joins."""
        if bond.area_mm2 is None or bond.protective_mm2 is None:
            prefix = "boards.earthing" if isinstance(self.owner, Board) else "earthing"
            raise NeedsInput(
                self.ctx.need("core.check.bonding.need.room", f"{prefix}.supplementary", metalwork=bond.name)
            )
        least = self.ctx.rules.earthing.supplementary_mm2(
            bond.protective_mm2, to_pipe=bond.to == "pipe", protected=bond.protected
        )
        yield self._size("supplementary", bond.area_mm2, least, metalwork=bond.name)

    def _bonding_mm2(self) -> SourcedValue:
        system = "TT" if self.own.kind == "electrode" else self.ctx.network.tree.earth_of(self.feeder).system
        rules = self.ctx.rules.earthing
        if rules.bonded_by_neutral(system):
            return rules.bonding_mm2(system, supply_mm2(self.ctx))
        return rules.bonding_mm2(system, self._line_mm2)

    def _as_bond(self, least: SourcedValue) -> Iterator[RequirementResult]:
        """The feeder's protective conductor carries what the bonding there carries, where that goes by the supply's neutral."""
        system = self.ctx.network.tree.earth_of(self.feeder).system
        if is_auto(self.feeder.cable) or not self.ctx.rules.earthing.bonded_by_neutral(system):
            return
        cables, cable = self.ctx.rules.cables, chosen_cable(self.feeder)
        line_mohm = cables.line_mohm_per_m(cable).value
        cpc_mohm = cables.cpc_mohm_per_m(cable, self.ctx.network.tree.loaded(self.feeder)).value
        equal_mm2 = cable.area_mm2 * line_mohm / cpc_mohm
        enough = equal_mm2 >= least.value - SLACK
        size = self.ctx.rules.cables.size_label
        text = self._say(
            "feeder_as_bond",
            size=shown_down(equal_mm2),
            least=size(sold_mm2(self.ctx, least.value)),
        )
        yield self._result("pass" if enough else "fail", text, least, least.value, equal_mm2, "mm²")
