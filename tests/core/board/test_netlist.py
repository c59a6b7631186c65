"""The wiring list rebuilds exactly the designed network: on any board of any standard, laid out in any order.

What is designed is also checked from outside: by reachability in a general-purpose graph library (networkx).
"""

from __future__ import annotations

import unittest
from itertools import combinations, pairwise

import networkx as nx
from hypothesis import HealthCheck, given, settings

from tests.builders import circuit, feeder, mcb, rcbo, two_boards
from tests.core.board.made import boards, models, packed
from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.wiring.netlist import neutral_bar
from vivid_lattice.core.document.board_build import NeutralConnection
from vivid_lattice.core.document.job import Job, SharedRcd, Way
from vivid_lattice.core.document.rcd import Rcd

QUIET = {"deadline": None, "derandomize": True, "database": None, "suppress_health_check": list(HealthCheck)}


def metal(model: BoardModel) -> nx.Graph:
    """What the list joins: every conductor, every comb, every bar. Contacts of devices are left out."""
    graph = nx.Graph()
    for net in model.scheme.nets:
        graph.add_nodes_from(net.terminals)
    for one in model.wiring.conductors:
        if one.kind == "neutral-earth-link":
            continue
        ends = []
        for end in (one.start.terminal, one.end.terminal):
            screw = model.places.screw(end.removeprefix("bar>")) if end.startswith("bar>") else None
            # A screw is part of its bar; the places of a block are one piece.
            ends.append(screw.bar if screw else end.rsplit("/", 1)[0] if end.startswith("block") else end)
        graph.add_edge(*ends)
    for comb in model.wiring.combs:
        for line in comb.lines:
            held = comb.terminals(line)
            graph.add_edges_from(pairwise(held))
    return graph


def closed(model: BoardModel, without: tuple[str, str] = ("", "")) -> nx.Graph:
    """The same with all contacts closed but those of one unit on one conductor."""
    graph = metal(model)
    graph.add_edges_from(model.scheme.unbroken)
    for unit, contacts in model.scheme.contacts.items():
        for start, end in contacts:
            if (unit, start.split("/")[1]) != without:
                graph.add_edge(start, end)
    return graph


class ListAndDesign(unittest.TestCase):
    """The list against the design."""

    @settings(max_examples=60, **QUIET)
    @given(boards())
    def test_the_list_rebuilds_exactly_the_designed_network(self, job: Job) -> None:
        model = models(job)["main"]
        made = [set(part) for part in nx.connected_components(metal(model))]
        terminals = {one for net in model.scheme.nets for one in net.terminals}
        rebuilt = sorted(sorted(part & terminals) for part in made if part & terminals)
        self.assertEqual(rebuilt, sorted(sorted(net.terminals) for net in model.scheme.nets))
        # A list that is a tree joins nothing twice: one conductor fewer than there are places to join.
        self.assertFalse([part for part in made if not part & terminals])

    @settings(max_examples=25, **QUIET)
    @given(boards(20))
    def test_every_line_and_neutral_runs_through_its_own_devices_and_no_others(self, job: Job) -> None:
        model = models(job)["main"]
        board, whole = job.boards[0], closed(model)
        contactor = {
            name: f"gear:{gear.id}" for gear in board.control_gear if gear.kind == "contactor" for name in gear.switches
        }
        for way in board.ways[:4]:
            unit = model.units.by_id[f"way:{way.circuit}"]
            ring = "+a" if unit.circuit and unit.circuit.kind == "ring" else ""
            mine = {"main", unit.id, *({f"rcd:{way.rcd}"} if way.rcd else {contactor.get(way.circuit, "main")})}
            mine |= {"relay"} if board.voltage_relay else set()
            behind = {one.id for one in model.units.all if one.circuit is unit.circuit and one.poles}
            for conductor, starts, ends in (
                (unit.lines[0], f"supply/{unit.lines[0]}", f"cable:{way.circuit}{ring}/{unit.lines[0]}"),
                ("N", "supply/N", f"cable:{way.circuit}{ring}/N"),
            ):
                self.assertTrue(nx.has_path(whole, starts, ends), (way.circuit, conductor))
                breaking = {
                    one
                    for one in model.scheme.contacts
                    if not nx.has_path(closed(model, (one, conductor)), starts, ends)
                }
                breaks = {one for one in mine | behind if conductor in model.units.by_id[one].switched}
                self.assertEqual(breaking, breaks, (way.circuit, conductor))

    @settings(max_examples=30, **QUIET)
    @given(boards(12))
    def test_no_two_conductors_of_different_kind_ever_touch(self, job: Job) -> None:
        model = models(job)["main"]
        graph = closed(model)
        for a, b in combinations([*(f"supply/{line}" for line in model.units.lines), "supply/N", "supply/PE"], 2):
            self.assertFalse(nx.has_path(graph, a, b), (a, b))


class Bars(unittest.TestCase):
    """Numbered places on the bars."""

    def _grouped(self, **wrong: str) -> BoardModel:
        job = two_boards(feeder(), *(circuit(id=f"c{n}", name=f"C{n}", device=mcb(16.0)) for n in range(1, 5)))
        sub = job.boards[1].model_copy(
            update={
                "shared_rcds": tuple(
                    SharedRcd(id=f"r{n}", name=f"RCD {n}", rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for n in (1, 2)
                ),
                "ways": tuple(Way(number=n, circuit=f"c{n}", rcd="r1" if n < 3 else "r2") for n in range(1, 5)),
            }
        )
        made = packed(job.model_copy(update={"boards": (job.boards[0], sub)}))
        housing = made.boards[1].build
        neutrals = tuple(NeutralConnection(circuit=name, bar=bar) for name, bar in wrong.items())
        boards_ = (
            made.boards[0],
            made.boards[1].model_copy(update={"build": housing.model_copy(update={"neutral_connections": neutrals})}),
        )
        return models(made.model_copy(update={"boards": boards_}))["sub"]

    def test_each_circuit_has_a_screw_in_the_order_of_the_breakers_the_main_conductor_first(self) -> None:
        model = self._grouped()
        places = model.places.bar_places
        self.assertEqual([one.terminal for one in places["N-r2"]], ["rcd:r2/N/out", "cable:c3/N", "cable:c4/N"])
        self.assertEqual([one.number for one in places["N-r2"]], [1, 2, 3])
        earth = [one.terminal for one in places["PE"]]
        self.assertEqual(earth[:2], ["supply/PE", "case/PE"])
        self.assertEqual(earth[2:], [f"cable:c{n}/PE" for n in range(1, 5)])

    def test_a_neutral_put_on_another_bar_is_found_there_by_the_list(self) -> None:
        model = self._grouped(c1="N-r2")
        [line] = [one for one in model.wiring.conductors if one.start.terminal == "cable:c1/N"]
        self.assertIn("RCD 2", str(line.end.text))
        self.assertEqual(neutral_bar("rcd:r1"), "N-r1")

    def test_both_ends_of_a_ring_have_a_screw_each_and_share_their_clamp(self) -> None:
        job = packed(two_boards(feeder(), circuit(kind="ring", device=rcbo(32.0))))
        model = models(job)["sub"]
        self.assertEqual({model.places.screw(f"cable:c1+{leg}/PE").number for leg in "ab"}, {3, 4})  # type: ignore[union-attr]
        legs = [one for one in model.wiring.conductors if one.conductor == "L1" and one.kind == "cable"]
        self.assertEqual([(one.shares, one.shared) for one in legs], [(2, "unknown")] * 2)


if __name__ == "__main__":
    unittest.main()
