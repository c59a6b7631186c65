"""Combs against layouts put down by hand: where one begins and ends, what it is cut to, which of its teeth are covered."""

from __future__ import annotations

import unittest

from tests.builders import circuit, job, mcb, rcbo, supply
from tests.core.board.made import changed, models
from vivid_lattice.core.board.wiring.busbars import Busbar
from vivid_lattice.core.document.board_build import (
    BoardBuild,
    BusbarStock,
    ControlGear,
    DevicePosition,
    Enclosure,
    WiringDefaults,
)
from vivid_lattice.core.document.job import Job, SharedRcd, Way
from vivid_lattice.core.document.rcd import Rcd


def placed(of: Job, row: str, modules: int = 24, **more: object) -> Job:
    """The job with devices at places by hand, written ``unit@module`` in one row; of another row with ``/row`` after it."""
    spots = []
    for one in row.split():
        unit, at = one.split("@")
        place, _, number = at.partition("/")
        spots.append(DevicePosition(device=unit, row=int(number or 1), offset_modules=float(place)))
    enclosure = Enclosure(title="Box", rows=2, modules=modules, bar_terminals=60)
    return changed(of, build=BoardBuild(enclosure=enclosure, device_positions=tuple(spots), **more))


def breakers(count: int, **more: object) -> Job:
    """So many breakers of one module, on one line unless the supply has more."""
    phases = getattr(more.get("supply"), "phases", 1)
    lines = [() if phases == 1 else (("L1", "L2", "L3")[n % 3],) for n in range(count)]
    return job(
        *(circuit(id=f"c{n + 1}", name=f"C{n + 1}", lines=lines[n], device=mcb(16.0)) for n in range(count)), **more
    )


def in_turn(count: int, begin: int = 0) -> str:
    """That many ways side by side."""
    return " ".join(f"way:c{n + 1}@{begin + n}" for n in range(count))


def combs(of: Job) -> tuple[Busbar, ...]:
    return models(of)["main"].combs


class OneLine(unittest.TestCase):
    """A main switch of two modules, line first, and breakers of one."""

    def test_from_the_main_switch_to_the_last_breaker_a_tooth_a_module(self) -> None:
        # Six breakers on modules 0 to 5 and the main switch's line above module 6: seven teeth of 18 mm.
        [comb] = combs(placed(breakers(6), in_turn(6) + " main@6"))
        self.assertEqual((len(comb.teeth), comb.cut_mm, comb.source, comb.feed), (7, 126.0, "main", "bus"))
        self.assertEqual([tooth.terminal for tooth in comb.teeth][-2:], ["way:c6/L1/in", "main/L1/out"])

    def test_a_free_module_under_it_is_a_tooth_to_cover(self) -> None:
        [comb] = combs(placed(breakers(3), "way:c1@0 way:c2@1 way:c3@4 main@5"))
        self.assertEqual([bool(tooth.terminal) for tooth in comb.teeth], [True, True, False, False, True, True])

    def test_it_is_cut_where_more_than_three_modules_are_free(self) -> None:
        near = combs(placed(breakers(4), "way:c1@0 way:c2@1 way:c3@5 way:c4@6 main@7"))
        self.assertEqual([one.members for one in near], [("way:c1", "way:c2", "way:c3", "way:c4", "main")])
        far = combs(placed(breakers(4), "way:c1@0 way:c2@1 way:c3@6 way:c4@7 main@8"))
        self.assertEqual([one.members for one in far], [("way:c1", "way:c2"), ("way:c3", "way:c4", "main")])
        self.assertEqual([one.source for one in far], ["", "main"])

    def test_half_a_module_off_no_tooth_meets_the_clamp(self) -> None:
        found = combs(placed(breakers(3), "way:c1@0 way:c2@1 way:c3@2.5 main@4"))
        self.assertEqual([one.members for one in found], [("way:c1", "way:c2")])

    def test_one_device_alone_needs_none_and_none_is_made_where_none_is_wished(self) -> None:
        self.assertEqual(combs(placed(breakers(1), "way:c1@0 main@6")), ())
        loose = placed(breakers(6), in_turn(6) + " main@6", wiring_defaults=WiringDefaults(use_busbars=False))
        self.assertEqual(combs(loose), ())

    def test_each_row_has_one_of_its_own(self) -> None:
        found = combs(placed(breakers(4), "way:c1@0 way:c2@1 main@2 way:c3@0/2 way:c4@1/2"))
        self.assertEqual([(one.row, one.source) for one in found], [(1, "main"), (2, "")])

    def test_behind_each_shared_rcd_is_one_that_does_not_touch_the_other(self) -> None:
        of = breakers(4)
        groups = tuple(SharedRcd(id=name, name=name, rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for name in ("r1", "r2"))
        ways = tuple(Way(number=n, circuit=f"c{n}", rcd="r1" if n < 3 else "r2") for n in range(1, 5))
        row = "way:c1@0 way:c2@1 rcd:r1@2 way:c3@4 way:c4@5 rcd:r2@6 main@8"
        found = combs(placed(changed(of, shared_rcds=groups, ways=ways), row))
        self.assertEqual(
            [(one.source, len(one.teeth)) for one in found if one.feed != "bus"], [("rcd:r1", 3), ("rcd:r2", 3)]
        )
        met = [tooth.terminal for one in found for tooth in one.teeth if tooth.terminal]
        self.assertEqual(len(met), len(set(met)))

    def test_no_piece_is_longer_than_combs_come(self) -> None:
        # The longest that comes with the program has 24 teeth; thirty breakers and the main switch need 31.
        found = combs(placed(breakers(30), in_turn(30) + " main@30", modules=36))
        self.assertEqual([len(one.teeth) for one in found], [24, 7])
        self.assertEqual([one.source for one in found], ["", "main"])

    def test_the_piece_at_hand_is_taken_as_it_is(self) -> None:
        stock = BusbarStock(lines=1, pins=4, rating_a=63.0)
        [comb] = combs(placed(breakers(6), in_turn(6) + " main@6", busbar_stock=stock))
        self.assertEqual((comb.stock, len(comb.teeth)), (stock, 7))


class ThreeLines(unittest.TestCase):
    """Teeth in turn on L1, L2 and L3."""

    def test_breakers_in_turn_sit_on_their_lines_and_one_out_of_turn_ends_it(self) -> None:
        of = breakers(6, supply=supply(phases=3))
        [comb] = [one for one in combs(placed(of, in_turn(6) + " main@8")) if "way:c1" in one.members]
        self.assertEqual([tooth.line for tooth in comb.teeth][:6], ["L1", "L2", "L3", "L1", "L2", "L3"])
        turned = placed(of, "way:c1@0 way:c2@1 way:c4@2 way:c3@3 way:c5@4 way:c6@5 main@8")
        self.assertNotIn(("way:c1", "way:c2", "way:c4"), [one.members[:3] for one in combs(turned)])

    def test_all_on_one_line_a_comb_of_one_line_does(self) -> None:
        of = job(
            *(circuit(id=f"c{n}", name=f"C{n}", lines=("L2",), device=rcbo(16.0)) for n in (1, 2, 3)),
            supply=supply(phases=3),
        )
        wide = models(placed(of, ""))["main"].units.by_id["way:c1"].wide
        row = " ".join(f"way:c{n}@{(n - 1) * wide}" for n in (1, 2, 3))
        [comb] = combs(placed(of, row + " main@12"))
        self.assertEqual(comb.lines, ("L2",))


class Gears(unittest.TestCase):
    """Behind a contactor."""

    def test_what_it_switches_is_not_joined_to_what_it_does_not(self) -> None:
        of = breakers(4)
        gear = ControlGear(id="k1", name="All off", kind="contactor", rating_a=63.0, switches=("c1", "c2"))
        of = changed(of, control_gear=(gear,))
        found = combs(placed(of, "way:c1@0 way:c2@1 gear:k1@2 way:c3@5 way:c4@6 main@7"))
        for one in found:
            self.assertFalse({"way:c1", "way:c2"} & set(one.members) and {"way:c3", "way:c4"} & set(one.members), one)


if __name__ == "__main__":
    unittest.main()
