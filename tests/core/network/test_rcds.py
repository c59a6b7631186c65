"""Where residual-current devices stand, what is behind each, and what leaks there."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import circuit, feeder, job, laid, mcb, rcbo, supply, two_boards
from vivid_lattice.core.document.job import Job, Load, MainSwitch, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.rcds import Rcds
from vivid_lattice.core.rules import rule_set


def rcds(of: Job) -> Rcds:
    return Installation.of(of, rule_set(of.job.rules)).rcds


def nested() -> Job:
    """A delayed switch ahead of everything, a shared device on the second board for one circuit, an own one for another."""
    made = two_boards(feeder(), circuit(id="c1", device=mcb(16.0)), circuit(id="c2", name="Own", device=rcbo(16.0)))
    main, sub = made.boards
    main = main.model_copy(update={"main_switch": MainSwitch(rating_a=100.0, rcd=Rcd(idn_ma=300.0, time_delayed=True))})
    group = SharedRcd(id="g", name="Group", rating_a=40.0, rcd=Rcd(idn_ma=30.0))
    ways = (sub.ways[0].model_copy(update={"rcd": "g"}), *sub.ways[1:])
    return made.model_copy(update={"boards": (main, sub.model_copy(update={"shared_rcds": (group,), "ways": ways}))})


class Where(unittest.TestCase):
    """The way from a load back to the origin."""

    def test_nearest_first_across_boards(self) -> None:
        found, made = rcds(nested()), nested()
        by_id = {held.id: held for held in made.circuits}
        for name, expected in (
            ("c1", ["sub:g", "main:main"]),
            ("c2", ["sub:c2", "main:main"]),
            ("f1", ["main:main"]),
        ):
            self.assertEqual([place.id for place in found.ahead_of(by_id[name])], expected, name)

    def test_what_is_behind_goes_through_feeders(self) -> None:
        found = {place.id: place for place in rcds(nested()).all}
        self.assertEqual({held.id for held in found["main:main"].behind}, {"f1", "c1", "c2"})
        self.assertEqual([held.id for held in rcds(nested()).final_behind(found["main:main"])], ["c1", "c2"])
        self.assertEqual([held.id for held in found["sub:g"].behind], ["c1"])


class Leaks(unittest.TestCase):
    """Standing leakage is a sum, of loads and of cable."""

    def test_stated_figures_and_length_of_cable_add(self) -> None:
        def leaks(milliamps: float, metres: float) -> float:
            load = Load(name="Filter", kind="appliance", leakage_ma=milliamps)
            made = job(circuit(loads=(load,), run=(laid(metres),)))
            return rcds(made).leakage_ma(made.circuits[0])

        base = leaks(0.0, 20.0)
        self.assertGreater(base, 0.0)
        self.assertAlmostEqual(leaks(3.5, 20.0) - base, 3.5)
        self.assertAlmostEqual(leaks(0.0, 200.0), 10 * base)

    def test_a_length_that_is_not_known_is_asked_for_and_not_left_out(self) -> None:
        made = job(circuit(), circuit(id="c2", name="Unmeasured", run=(laid(None),)))
        place = next(one for one in rcds(made).all if one.id == "main:c2")
        with self.assertRaises(NeedsInput):
            rcds(made).leakage_behind_ma(place)

    @given(st.lists(st.floats(0.0, 20.0), min_size=1, max_size=6))
    @settings(max_examples=25, deadline=None)
    def test_behind_a_shared_device_is_the_sum_of_its_circuits(self, held: list[float]) -> None:
        made = job(
            *(
                circuit(
                    id=f"c{n}",
                    name=f"C{n}",
                    device=mcb(16.0),
                    loads=(Load(name="Filter", kind="appliance", leakage_ma=milliamps),),
                )
                for n, milliamps in enumerate(held)
            )
        )
        group = SharedRcd(id="g", name="Group", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        ways = tuple(way.model_copy(update={"rcd": "g"}) for way in made.boards[0].ways)
        made = made.model_copy(
            update={"boards": (made.boards[0].model_copy(update={"shared_rcds": (group,), "ways": ways}),)}
        )
        found = rcds(made)
        self.assertAlmostEqual(
            found.leakage_behind_ma(found.all[0]), sum(found.leakage_ma(held_) for held_ in made.circuits)
        )


class Duties(unittest.TestCase):
    """Only what the job could give rise to is asked."""

    def test_tt_asks_of_every_circuit_and_tn_does_not(self) -> None:
        for system, ze, expected in (("TT", 80.0, True), ("TN-S", 0.5, False)):
            made = job(supply=supply(system=system, ze_ohm=ze))
            self.assertEqual(any(duty.when == "tt" for duty in rcds(made).duties), expected, system)


if __name__ == "__main__":
    unittest.main()
