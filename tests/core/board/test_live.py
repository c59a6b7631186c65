"""What is live, against reachability in a general-purpose graph library (networkx), and cases anybody can follow by hand."""

from __future__ import annotations

import unittest

import networkx as nx
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.builders import circuit, feeder, job, mcb, rcbo, two_boards
from tests.core.board.made import boards, changed, models, packed
from tests.core.board.test_netlist import metal
from tests.texts import ids
from vivid_lattice.core.board.isolation.isolation_steps import isolation_for
from vivid_lattice.core.board.isolation.live_parts import live_nets, stays_live, switch_id
from vivid_lattice.core.document.job import Job, MainSwitch
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.surge_and_relay import Spd


def states(of: Job, *open_: str, board: str = "main") -> dict[str, str]:
    """How each net of a board stands with switches open, by net."""
    return {one.net: one.state for one in live_nets(models(of), open_) if one.board == board}


class AgainstReachability(unittest.TestCase):
    """The same by another way."""

    @settings(max_examples=30, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
    @given(boards(20), st.data())
    def test_what_is_at_a_lines_voltage_is_what_the_list_joins_to_it(self, of: Job, data: st.DataObject) -> None:
        all_models = models(of)
        model = all_models["main"]
        switches = sorted(model.scheme.contacts)
        open_ = set(data.draw(st.lists(st.sampled_from(switches), max_size=4)))
        graph = metal(model)
        graph.add_edges_from(model.scheme.unbroken)
        ends = [end for net in model.scheme.nets for end in net.terminals if end.kind == "switch" and end.side == "out"]
        graph.add_edges_from((end, f"{end.device}/{end.conductor}/back") for end in ends)
        for unit, contacts in model.scheme.contacts.items():
            if unit not in open_:
                graph.add_edges_from(contacts)
        told = {one.net: one for one in live_nets(all_models, [switch_id("main", unit) for unit in open_])}
        for net in model.scheme.nets:
            joined = [line for line in model.units.lines if nx.has_path(graph, net.terminals[0], f"supply/{line}")]
            self.assertEqual(told[net.id].state == "live", bool(joined), net.id)
            if joined:
                self.assertEqual(told[net.id].line, joined[0])
            if nx.has_path(graph, net.terminals[0], "supply/N"):
                self.assertEqual(told[net.id].state, "neutral")


class ByHand(unittest.TestCase):
    """Boards one can follow with a finger."""

    def test_with_the_main_switch_open_only_its_incoming_side_is_live(self) -> None:
        of = job(circuit(id="c1"), circuit(id="c2", name="Second", device=mcb(16.0)))
        live = [net for net, state in states(of, "main|main").items() if state == "live"]
        self.assertEqual(live, ["ahead.L1"])

    def test_what_is_tapped_ahead_of_a_residual_current_main_switch_stays_live(self) -> None:
        surge = (Spd(id="s", name="Surge device", type="2", backup_a=32.0),)
        of = changed(job(), spds=surge, main_switch=MainSwitch(rating_a=100.0, rcd=Rcd(idn_ma=100.0)))
        touched = {one for _, ends in stays_live(models(of), "main", ["main|main"]) for one in ends}
        self.assertIn("surge:s/L1/tap", touched)
        said = isolation_for(models(of), "main", "board")
        self.assertTrue(any("Surge device" in str(one) for one in said.stays_live))

    def test_a_single_pole_device_leaves_the_neutral_joined_and_a_double_pole_one_does_not(self) -> None:
        # An RCBO that is not known to open the neutral is taken not to.
        cases = (
            (mcb(16.0), "neutral"),
            (rcbo(16.0), "neutral"),
            (rcbo(16.0, switches_neutral=True), "dead"),
            (mcb(16.0, switches_neutral=True), "dead"),
            (rcbo(16.0, family="fell-rcbo-slim"), "dead"),
            (rcbo(16.0, family="fell-rcbo-slim", switches_neutral=False), "neutral"),
        )
        for device, state in cases:
            of = job(circuit(device=device))
            found = states(of, "main|way:c1")
            net = "c1.N" if "c1.N" in found else "N"
            self.assertEqual((found["c1.L1"], found[net]), ("dead", state))

    def test_a_neutral_that_alone_is_parted_is_live_through_what_is_connected(self) -> None:
        of = changed(job(circuit(id="c1", device=mcb(16.0))), main_switch=MainSwitch(rating_a=100.0))
        model = models(of)
        # The main switch's neutral contact alone has failed open.
        contacts = dict(model["main"].scheme.contacts)
        object.__setattr__(
            model["main"].scheme,
            "contacts",
            contacts | {"main": tuple(one for one in contacts["main"] if "/N/" not in one[0])},
        )
        found = {one.net: one for one in live_nets(model, ())}
        self.assertEqual((found["N"].state, found["N"].line), ("through-load", "L1"))

    def test_a_sub_board_is_dead_once_its_feeder_is_off_and_alive_beside_its_own_main_switch(self) -> None:
        of = two_boards(feeder(), circuit(id="c1"))
        self.assertEqual(states(of, "main|way:f1", board="sub")["bus.L1"], "dead")
        self.assertEqual(states(of, board="sub")["bus.L1"], "live")

    def test_a_feeder_is_no_load_that_leads_a_line_into_the_neutral(self) -> None:
        # The main switch has parted the neutral alone, and the only circuit of the far board is off: nothing leads the line into it.
        of = changed(two_boards(feeder(device=mcb(40.0)), circuit(id="c1")), main_switch=MainSwitch(rating_a=100.0))
        held = models(of)
        contacts = dict(held["main"].scheme.contacts)
        kept = tuple(one for one in contacts["main"] if "/N/" not in one[0])
        object.__setattr__(held["main"].scheme, "contacts", contacts | {"main": kept})
        for open_, state in (((), "through-load"), (("sub|way:c1",), "dead")):
            found = {one.net: one.state for one in live_nets(held, open_) if one.board == "main"}
            with self.subTest(open_):
                self.assertEqual(found["N"], state)

    def test_nothing_is_live_without_a_supply(self) -> None:
        found = {one.state for one in live_nets(models(packed(job())), (), supply_on=False)}
        self.assertLessEqual(found, {"dead", "neutral", "earth"})


class Isolating(unittest.TestCase):
    """The order of isolation."""

    def test_work_inside_goes_by_the_main_switch_and_at_it_by_what_is_ahead(self) -> None:
        of = models(two_boards(feeder(), circuit(id="c1")).model_copy())
        at_way = isolation_for(of, "sub", "way:c1")
        self.assertIn("way 1 of Main board", str(at_way.steps[2]))
        self.assertEqual(at_way.open, ("main|way:f1",))
        one = models(job())
        self.assertEqual(isolation_for(one, "main", "way:c1").open, ("main|main",))
        at_main = isolation_for(one, "main", "main")
        self.assertEqual(at_main.open, ())
        self.assertTrue(any("core.isolation.no_switch" in ids(step) for step in at_main.steps))

    def test_other_sources_are_looked_for_before_anything_is_switched_off(self) -> None:
        one = models(job())
        for work in ("board", "main", "way:c1", "circuit:c1"):
            steps = isolation_for(one, "main", work).steps
            asked = next(at for at, step in enumerate(steps) if "core.isolation.other_sources" in ids(step))
            acts = [
                at
                for at, step in enumerate(steps)
                if {"core.isolation.switch_off", "core.isolation.switch_off_way", "core.isolation.no_switch"}
                & set(ids(step))
            ]
            with self.subTest(work):
                for source in ("battery", "generator", "neighbour", "borrowed"):
                    self.assertIn(source, str(steps[asked]))
                self.assertLess(asked, min(acts))

    def test_out_at_a_circuit_a_single_pole_device_warns_of_the_neutral(self) -> None:
        for device, warned in ((mcb(16.0), True), (rcbo(16.0), True), (rcbo(16.0, switches_neutral=True), False)):
            steps = isolation_for(models(job(circuit(device=device))), "main", "circuit:c1").steps
            self.assertEqual(any("core.isolation.line_only" in ids(step) for step in steps), warned)
            self.assertLess(
                next(at for at, step in enumerate(steps) if "core.isolation.indicator" in ids(step)),
                next(at for at, step in enumerate(steps) if "core.isolation.test_dead" in ids(step)),
            )


if __name__ == "__main__":
    unittest.main()
