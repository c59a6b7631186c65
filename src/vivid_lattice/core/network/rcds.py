"""Residual-current devices of a job: where each is, what is behind it, and what leaks there."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.feeds import loads_of
from vivid_lattice.core.document.job import Board, Circuit, Job
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protection_rules import RcdRequirement
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True, kw_only=True)
class RcdPlace:
    """A residual-current function: in a main switch, shared by ways, or of one circuit's own device.

    ``own_device``: the circuit whose device it is part of. ``rating_a``: of the switch it is in; a breaker's own for an RCBO.
    ``behind``: every circuit whose earth faults it detects, feeders and what they feed included.
    """

    id: str
    name: Text
    where: str
    rcd: Rcd
    rating_a: float
    board: Board
    own_device: Circuit | None
    behind: tuple[Circuit, ...]


class Rcds:
    """All residual-current functions of a job."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree):
        self._job, self._rules, self._tree = job, rules, tree
        self._leaks: dict[str, float] = {}
        self._sums: dict[str, float] = {}
        self._usual: dict[str, float] = {}

    @cached_property
    def all(self) -> tuple[RcdPlace, ...]:
        """Every one, board by board, those nearest the origin of a board first."""
        return tuple(place for board in self._job.boards for place in self._of_board(board))

    def _of_board(self, board: Board) -> Iterator[RcdPlace]:
        ways = sorted(board.ways, key=lambda way: way.number)
        fed = [(way, self._tree.circuits[way.circuit]) for way in ways]
        switch = board.main_switch
        if switch is not None and switch.rcd is not None:
            yield self._place(
                board,
                "main",
                message(self._rules.words, "core.network.main_switch"),
                switch.rcd,
                switch.rating_a,
                [c for _, c in fed],
            )
        for group in board.shared_rcds:
            members = [circuit for way, circuit in fed if way.rcd == group.id]
            yield self._place(board, group.id, group.name, group.rcd, group.rating_a, members)
        for way, circuit in fed:
            device = circuit.device
            if not is_auto(device) and device.rcd is not None:
                name = f"way {way.number}, {circuit.name}"
                yield self._place(board, circuit.id, name, device.rcd, device.rating_a, [circuit], own_circuit=circuit)

    def _place(
        self,
        board: Board,
        part: str,
        name: Text,
        rcd: Rcd,
        rating_a: float,
        members: Sequence[Circuit],
        own_circuit: Circuit | None = None,
    ) -> RcdPlace:
        behind = tuple(below for member in members for below in (member, *self._tree.detected_through(member)))
        return RcdPlace(
            id=f"{board.id}:{part}",
            name=name,
            where=board.name,
            rcd=rcd,
            rating_a=rating_a,
            board=board,
            own_device=own_circuit,
            behind=behind,
        )

    @cached_property
    def duties(self) -> tuple[RcdRequirement, ...]:
        """The rule set's duties that anything in this job could give rise to."""
        kinds = {room.kind for room in self._job.rooms}
        loads = {load.kind for circuit in self._job.circuits for load in loads_of(circuit)}
        could = {
            "tt": any(earth.system == "TT" for earth in self._tree.earths()),
            "outdoors": "outdoors" in kinds,
            "fire": any(room.fire_risk for room in self._job.rooms),
            "charger": "charger" in loads,
        }
        return tuple(
            duty
            for duty in self._rules.protection.duties
            if could.get(duty.when, True)
            and (not duty.rooms or duty.only_sockets or not kinds.isdisjoint(duty.rooms))
            and (not duty.premises or self._job.job.premises in duty.premises)
        )

    @cached_property
    def _of(self) -> dict[str, tuple[RcdPlace, ...]]:
        rcd_places: dict[str, list[RcdPlace]] = {circuit.id: [] for circuit in self._job.circuits}
        for place in self.all:
            for circuit in place.behind:
                rcd_places[circuit.id].append(place)
        # The fewer circuits are behind one, the nearer it is; a circuit's own device is the nearest.
        return {
            name: tuple(sorted(places, key=lambda item: (item.own_device is None, len(item.behind))))
            for name, places in rcd_places.items()
        }

    def ahead_of(self, circuit: Circuit) -> tuple[RcdPlace, ...]:
        """Those whose current runs on to a circuit, nearest first."""
        return self._of.get(circuit.id, ())

    def leakage_ma(self, circuit: Circuit) -> float:
        """Standing leakage of a circuit [mA]: as measured; else its loads as stated, the usual of their kinds up to what is usual of
        such a circuit, and its cable.

        NeedsInput while the length of its run is not known.
        """
        leakage_ma = self._leaks.get(circuit.id)
        if leakage_ma is None and circuit.leakage_ma is not None:
            leakage_ma = self._leaks[circuit.id] = circuit.leakage_ma
        if leakage_ma is None:
            loads = self.stated_ma(circuit) + self.usual_ma(circuit)
            cable = self._rules.protection.cable_leakage_ma(run_length_m(circuit), self._job.supply.nominal_v).value
            leakage_ma = self._leaks[circuit.id] = loads + cable
        return leakage_ma

    def stated_ma(self, circuit: Circuit) -> float:
        """What of a circuit's leakage is measured or stated [mA]; an estimate is no part of it."""
        if circuit.leakage_ma is not None:
            return circuit.leakage_ma
        leaks = [self._rules.protection.residual(load) for load in loads_of(circuit)]
        return sum(leak.leakage_ma for leak in leaks if leak.stated)

    def usual_ma(self, circuit: Circuit) -> float:
        """The usual leakage of a circuit's loads that no one has stated [mA], up to what is usual of such a circuit."""
        if circuit.leakage_ma is not None:
            return 0.0
        usual_ma = self._usual.get(circuit.id)
        if usual_ma is None:
            leaks = [self._rules.protection.residual(load) for load in loads_of(circuit)]
            total = sum(leak.leakage_ma for leak in leaks if not leak.stated)
            usual_ma = min(total, self._rules.protection.max_usual_ma(self._feeds(circuit)).value)
            self._usual[circuit.id] = usual_ma
        return usual_ma

    def _feeds(self, circuit: Circuit) -> str:
        """What a circuit feeds, in the words of ``common.leakage.caps``."""
        kinds = {load.kind for load in circuit.loads}
        rooms = {room.kind for load in circuit.loads if (room := self._tree.rooms.get(load.room or ""))}
        if circuit.kind in ("ring", "radial"):
            return "kitchen sockets" if rooms & {"kitchen", "laundry"} else "sockets"
        if kinds & {"air-conditioner", "charger", "welder"} or any(load.frequency_converter for load in circuit.loads):
            return "inverter or charger"
        if "cooker" in kinds:
            return "cooking"
        return "lighting" if kinds and kinds <= {"lamp", "alarm"} else "other"

    def leakage_behind_ma(self, place: RcdPlace) -> float:
        """Standing leakage of all circuits behind one, added as if in phase [mA]. NeedsInput as ``leakage_ma``."""
        leakage_ma = self._sums.get(place.id)
        if leakage_ma is None:
            leakage_ma = self._sums[place.id] = sum(self.leakage_ma(circuit) for circuit in place.behind)
        return leakage_ma

    def final_behind(self, place: RcdPlace) -> tuple[Circuit, ...]:
        """The circuits behind one that feed loads themselves."""
        return tuple(circuit for circuit in place.behind if circuit.kind != "distribution")
