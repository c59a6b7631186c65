"""Layouts against hand-made cases, and against an exhaustive search of every place on small ones."""

from __future__ import annotations

import unittest
from collections.abc import Mapping
from itertools import pairwise, product

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.builders import circuit, job, mcb, rcbo, supply
from tests.core.board.made import changed, housed, models
from vivid_lattice.core.actions.move_device import lay_out, move, numbered_as_placed
from vivid_lattice.core.board.layout.layout_problem import LayoutItem, LayoutProblem, cost_of, spots_of, starts_of
from vivid_lattice.core.board.layout.layout_solver import solve_layout
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import Circuit, FedByWay, Job, Load, SharedRcd, Way
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.surge_and_relay import Spd
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.demo import demo_job

HEATER = (Load(name="Heater", kind="heater", power_w=2000.0),)
LAMP = (Load(name="Lamp", kind="lamp", power_w=100.0),)


def standing(of: Job) -> dict[str, tuple[int, float]]:
    """Row and place of each device of the first board."""
    return {spot.device: (spot.row, spot.offset_modules) for spot in of.boards[0].build.device_positions}


def lamps(count: int, **more: object) -> tuple[Circuit, ...]:
    return tuple(
        circuit(id=f"c{n}", name=f"Lamp {n}", kind="lighting", loads=LAMP, device=mcb(6.0), **more)
        for n in range(1, count + 1)
    )


@st.composite
def tasks(draw: st.DrawFn) -> LayoutProblem:
    """Small tasks: up to four devices on one or two short rows."""
    lines = draw(st.sampled_from([1, 3]))
    strict = draw(st.booleans()) and lines > 1
    items = [LayoutItem(id="main", wide=2, feed="", heads="bus", turn=0, line=None)]
    for number in range(1, draw(st.integers(1, 3)) + 1):
        line = draw(st.sampled_from([None, 0, 1, 2])) if lines > 1 else None
        items.append(
            LayoutItem(
                id=f"way:w{number}",
                wide=draw(st.sampled_from([1, 2])),
                feed="bus",
                heads="",
                turn=number,
                line=line,
                hot=draw(st.booleans()),
            )
        )
    return LayoutProblem(
        items=tuple(items), rows=draw(st.sampled_from([1, 2])), row=draw(st.integers(5, 7)), first=("main",), at_end=draw(st.booleans()), mirrored=False, pitch=1, lines=lines,
        strict=strict, together=draw(st.booleans()),
    )  # fmt: skip


def best_by_trying(task: LayoutProblem) -> int | None:
    """The least cost over every place of every device."""
    reach = range(task.rows * task.row)
    found: list[int] = []
    for places in product(reach, repeat=len(task.items)):
        starts: Mapping[str, int] = {item.id: at for item, at in zip(task.items, places, strict=True)}
        if len(set(places)) == len(places):
            cost = cost_of(task, starts)
            found += [] if cost is None else [cost]
    return min(found, default=None)


class AgainstAll(unittest.TestCase):
    """The solver finds what trying everything finds."""

    @settings(max_examples=25, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
    @given(tasks())
    def test_the_layout_found_costs_no_more_than_the_best_of_all(self, task: LayoutProblem) -> None:
        found, best = solve_layout(task, seconds=5), best_by_trying(task)
        self.assertEqual(None if found is None else found.cost, best)
        if found is not None:
            self.assertTrue(found.proven and found.bound == found.cost)
            self.assertEqual(spots_of(task, starts_of(task, found.spots)), found.spots)


class ByHand(unittest.TestCase):
    """Layouts that anybody can check by looking."""

    def test_main_switch_at_the_right_has_way_one_beside_it_and_the_numbers_rise_away_from_it(self) -> None:
        made, found = lay_out(housed(job(*lamps(4))), "main")
        at = standing(made)
        self.assertTrue(found.proven)
        self.assertEqual(at["main"], (1, 10.0))
        self.assertEqual([at[f"way:c{n}"][1] for n in range(1, 5)], [9.0, 8.0, 7.0, 6.0])

    def test_wished_to_the_left_it_is_the_mirror_image(self) -> None:
        at = standing(lay_out(housed(job(*lamps(4)), main_switch_side="left"), "main")[0])
        self.assertEqual((at["main"], at["way:c1"], at["way:c4"]), ((1, 0.0), (1, 2.0), (1, 5.0)))

    def test_each_group_stands_with_its_rcd(self) -> None:
        of = job(*lamps(6))
        groups = tuple(SharedRcd(id=name, name=name, rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for name in ("r1", "r2"))
        ways = tuple(Way(number=n, circuit=f"c{n}", rcd="r1" if n % 2 else "r2") for n in range(1, 7))
        at = standing(lay_out(housed(changed(of, shared_rcds=groups, ways=ways), main_switch_side="left"), "main")[0])
        for group, members in (("r1", (1, 3, 5)), ("r2", (2, 4, 6))):
            start = at[f"rcd:{group}"][1]
            self.assertEqual([at[f"way:c{n}"][1] for n in members], [start + 2, start + 3, start + 4])

    def test_the_surge_device_stands_by_the_main_switch_with_its_backup_between(self) -> None:
        surge = (Spd(id="s", name="Surge", type="2", backup_a=32.0),)
        at = standing(lay_out(housed(changed(job(*lamps(3)), spds=surge), main_switch_side="left"), "main")[0])
        self.assertEqual((at["main"][1], at["backup:s"][1], at["surge:s"][1]), (0.0, 2.0, 3.0))

    def test_warm_devices_stand_apart_where_there_is_room_and_side_by_side_where_it_is_not_wished(self) -> None:
        two = (circuit(id="c1", loads=HEATER, device=mcb(16.0)), circuit(id="c2", loads=HEATER, device=mcb(16.0)))
        for apart, gap in ((True, 2.0), (False, 1.0)):
            at = standing(lay_out(housed(job(*two), main_switch_side="left", separate_warm_devices=apart), "main")[0])
            self.assertEqual(at["way:c2"][1] - at["way:c1"][1], gap)

    def test_lights_first_stand_before_what_has_a_lower_number(self) -> None:
        two = (circuit(id="c1", device=mcb(16.0)), circuit(id="c2", kind="lighting", loads=LAMP, device=mcb(6.0)))
        at = standing(
            lay_out(
                housed(job(*two), main_switch_side="left", lighting_position="first", separate_warm_devices=False),
                "main",
            )[0]
        )
        self.assertEqual((at["way:c2"][1], at["way:c1"][1]), (2.0, 3.0))

    def test_half_a_module_stays_free_beside_a_contactor(self) -> None:
        gear = (ControlGear(id="k1", name="All off", kind="contactor", switches=("c1",)),)
        at = standing(lay_out(housed(changed(job(*lamps(2)), control_gear=gear), main_switch_side="left"), "main")[0])
        self.assertGreaterEqual(at["way:c1"][1] - at["gear:k1"][1], 1.5)

    def test_single_pole_devices_of_three_lines_fall_on_the_teeth_of_one_comb(self) -> None:
        lines = ("L1", "L2", "L3", "L1", "L2", "L3")
        of = job(
            *(circuit(id=f"c{n}", lines=(line,), device=mcb(16.0), loads=LAMP) for n, line in enumerate(lines, 1)),
            supply=supply(phases=3),
        )
        made = lay_out(housed(of, main_switch_side="left"), "main")[0]
        [comb] = models(made)["main"].combs
        self.assertEqual(len([tooth for tooth in comb.teeth if tooth.terminal.startswith("way")]), 6)

    def test_a_panel_has_every_single_pole_breaker_on_its_own_line(self) -> None:
        made = lay_out(demo_job("keepers-house"), "main")[0]
        model = models(made)["main"]
        for placed in model.places.placed.values():
            if placed.row and len(placed.unit.lines) == 1:
                self.assertEqual(placed.unit.lines[0], ("L1", "L2")[int(placed.offset_modules) % 2])

    def test_cancelled_it_gives_the_first_layout_it_has(self) -> None:
        seen: list[int] = []
        of = housed(job(*lamps(9), *(circuit(id=f"h{n}", loads=HEATER, device=mcb(16.0)) for n in range(6))), 2, 18)
        made, _ = lay_out(of, "main", cancelled=lambda: True, better=lambda cost, _: seen.append(cost))
        self.assertEqual(len(seen), 1)
        self.assertEqual(len(standing(made)), 16)

    def test_what_does_not_fit_is_refused_with_how_many_modules_it_takes(self) -> None:
        for rows, modules, said in ((1, 8, "need 14 modules; Box has 8"), (2, 7, "no order of them fits")):
            wide = tuple(circuit(id=f"c{n}", device=rcbo(16.0, family="fell-rcbo")) for n in range(1, 7))
            with self.assertRaises(BadDocument) as refused:
                lay_out(housed(job(*wide), rows, modules), "main")
            self.assertIn(said, str(refused.exception))
        with self.assertRaises(BadDocument) as refused:
            lay_out(job(), "main")
        self.assertIn("an enclosure for Main board", str(refused.exception))

    def test_forty_devices_are_laid_out_within_the_time_there_is(self) -> None:
        made, found = lay_out(housed(job(*lamps(39)), 3, 18), "main", seconds=1.6)
        self.assertEqual(len({(row, at) for row, at in standing(made).values()}), 40)
        self.assertLessEqual(found.bound, found.cost)


class Moving(unittest.TestCase):
    """A device put elsewhere."""

    def setUp(self) -> None:
        self.made = lay_out(housed(job(*lamps(4)), 2, 8, main_switch_side="left"), "main")[0]

    def test_neighbours_make_room_to_their_own_side_and_nothing_overlaps(self) -> None:
        at = standing(move(self.made, "main", "way:c4", 1, 2.0))
        self.assertEqual((at["main"], at["way:c4"], at["way:c1"]), ((1, 0.0), (1, 2.0), (1, 3.0)))
        for row, place in ((1, 99.0), (1, 0.0), (2, 3.0)):
            spots = sorted(standing(move(self.made, "main", "main", row, place)).items(), key=lambda one: one[1])
            for (a, (row_a, at_a)), (_, (row_b, at_b)) in pairwise(spots):
                if row_a == row_b:
                    self.assertGreaterEqual(at_b, at_a + (2 if a == "main" else 1))
                self.assertLessEqual(at_b, 7)

    def test_a_full_row_refuses_and_nothing_is_changed(self) -> None:
        full = lay_out(housed(job(*lamps(7)), 2, 8, main_switch_side="left"), "main")[0]
        with self.assertRaises(BadDocument) as refused:
            move(full, "main", "way:c7", 1, 3.0)
        self.assertIn("Row 1 has no room for Lamp 7", str(refused.exception))
        for unit, row, said in (("way:x", 1, "No device"), ("way:c1", 5, "No row 5")):
            with self.assertRaises(BadDocument) as refused:
                move(full, "main", unit, row, 0.0)
            self.assertIn(said, str(refused.exception))

    def test_ways_are_numbered_as_they_stand_and_what_they_feed_follows(self) -> None:
        of = demo_job("millrace")
        moved = numbered_as_placed(move(of, "mill", "way:c12", 1, 20.0), "mill")
        number = {way.circuit: way.number for way in moved.boards[0].ways}
        self.assertEqual(number["c12"], 1)
        self.assertEqual(number["c1"], 2)
        self.assertEqual(moved.boards[1].fed_by, FedByWay(board="mill", way=1))

    def test_the_ways_of_a_panel_are_numbered_by_space_odd_at_the_left_and_even_at_the_right(self) -> None:
        """Common practice, no source."""
        made = numbered_as_placed(demo_job("keepers-house"), "main")
        numbers = {way.circuit: way.number for way in made.boards[0].ways}
        for unit, (column, at) in standing(made).items():
            if unit.startswith("way:"):
                with self.subTest(unit):
                    self.assertEqual(numbers[unit.removeprefix("way:")], 2 * at + (1 if column == 1 else 2))
        problem_free = read_document(to_text(made).encode())
        self.assertEqual(problem_free.boards[1].fed_by, FedByWay(board="main", way=numbers["c11"]))

    def test_a_panel_said_to_have_fewer_ways_than_spaces_has_as_many_as_its_numbers_ask(self) -> None:
        small = demo_job("keepers-house")
        small = changed(small, way_count=11)
        made = numbered_as_placed(small, "main").boards[0]
        self.assertEqual(made.way_count, max(way.number for way in made.ways))
        self.assertGreater(made.way_count, 11)


if __name__ == "__main__":
    unittest.main()
