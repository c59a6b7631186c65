"""The chart and the notices of a board: in the user's words, by way and room, and only what the board as it is asks for."""

from __future__ import annotations

import unittest

from tests.builders import circuit, job, mcb, rcbo, two_boards
from tests.core.board.made import changed, models
from vivid_lattice.core.board.labels import chart_of, notices_of
from vivid_lattice.core.document.board_build import ControlGear, Labels, LabelText
from vivid_lattice.core.document.job import Job, Load, MainSwitch, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.document.surge_and_relay import Spd
from vivid_lattice.core.rules import rule_set


def kitchen_and_hall() -> Job:
    """Two ways behind one RCD: lights in two rooms, an oven in one of them."""
    lights = tuple(
        Load(name="Downlight", kind="lamp", power_w=5.0, count=count, room=room)
        for count, room in ((4, "hall"), (6, "kitchen"), (1, "hall"))
    )
    oven = (Load(name="Oven", kind="heater", power_w=3000.0, room="kitchen"),)
    of = job(
        circuit(id="c1", name="Lights", kind="lighting", loads=lights, device=mcb(6.0)),
        circuit(id="c2", name="Oven", loads=oven, device=mcb(16.0)),
        rooms=(Room(id="kitchen", name="Kitchen"), Room(id="hall", name="Hall")),
    )
    group = SharedRcd(id="r1", name="RCD left", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
    ways = tuple(way.model_copy(update={"rcd": "r1" if way.circuit == "c2" else None}) for way in of.boards[0].ways)
    return changed(of, shared_rcds=(group,), ways=ways)


def notices(of: Job, board: str = "main") -> str:
    """Everything that has to stand at a board."""
    boards = models(of)
    return "\n".join(one.text for one in notices_of(boards, boards[board]))


class Chart(unittest.TestCase):
    """By way."""

    def test_each_way_names_its_rooms_once_and_what_is_in_them(self) -> None:
        lights, oven = chart_of(models(kitchen_and_hall())["main"])
        self.assertEqual((lights.way, lights.text, lights.device), (1, "Lights", "B6"))
        self.assertEqual(lights.rooms, ("Hall", "Kitchen"))
        self.assertEqual(lights.feeds, ("4 × Downlight", "6 × Downlight", "Downlight"))
        self.assertEqual((lights.trips_with, oven.trips_with), ("", "RCD left"))

    def test_the_users_own_words_stand_before_the_name(self) -> None:
        of = kitchen_and_hall()
        labels = Labels(texts=(LabelText(circuit="c2", text="Big oven by the window"),))
        housing = of.boards[0].build.model_copy(update={"labels": labels})
        self.assertEqual(
            [one.text for one in chart_of(models(changed(of, build=housing))["main"])],
            ["Lights", "Big oven by the window"],
        )

    def test_a_feeder_is_said_to_feed_its_board_and_the_chart_goes_by_number(self) -> None:
        of = two_boards()
        [feeder] = chart_of(models(of)["main"])
        self.assertEqual(feeder.feeds, ("Sub-board",))
        back = kitchen_and_hall()
        ways = tuple(way.model_copy(update={"number": 9 - way.number}) for way in back.boards[0].ways)
        self.assertEqual([one.way for one in chart_of(models(changed(back, ways=ways))["main"])], [7, 8])

    def test_a_device_not_chosen_yet_is_left_blank_and_not_guessed(self) -> None:
        [line] = chart_of(models(job(circuit(device="auto")))["main"])
        self.assertEqual(line.device, "")


class Notices(unittest.TestCase):
    """What stands at the board."""

    def test_the_test_button_is_told_of_only_where_there_is_one(self) -> None:
        self.assertIn("test button", notices(job(circuit(device=rcbo(16.0)))))
        self.assertIn("test button", notices(kitchen_and_hall()))
        self.assertNotIn("test button", notices(job(circuit(device=mcb(16.0)))))

    def test_the_main_earth_is_told_of_at_the_origin_and_not_at_a_sub_board(self) -> None:
        of = two_boards()
        self.assertIn("Safety electrical connection", notices(of, "main"))
        self.assertNotIn("Safety electrical connection", notices(of, "sub"))

    def test_what_stays_live_is_warned_of_where_anything_does(self) -> None:
        warned = "stay live with the main switch off"
        of = changed(job(), spds=(Spd(id="s", name="Surge device", type="2", backup_a=32.0),))
        self.assertNotIn(warned, notices(of))
        self.assertIn(warned, notices(changed(of, main_switch=MainSwitch(rating_a=100.0, rcd=Rcd(idn_ma=100.0)))))

    def test_a_contactor_is_said_not_to_isolate_where_the_standard_asks_for_it(self) -> None:
        gear = ControlGear(id="k1", name="All off", kind="contactor", rating_a=25.0, switches=("c1",))
        of = job(circuit(device=mcb(16.0)))
        of = of.model_copy(update={"job": of.job.model_copy(update={"rules": "iec"})})
        self.assertNotIn("contactor", notices(of))
        self.assertIn("contactor", notices(changed(of, control_gear=(gear,))))

    def test_every_notice_of_every_standard_names_where_it_is_asked_for(self) -> None:
        for standard in ("uk", "iec", "anz", "na", "za"):
            for one in rule_set(standard).board.notices:
                with self.subTest(standard, notice=one.text):
                    self.assertTrue(one.source.publication)


if __name__ == "__main__":
    unittest.main()
