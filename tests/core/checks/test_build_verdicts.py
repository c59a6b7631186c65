"""Every check of a board's build has a case that passes, one that fails (or is advised against), and one starved of an input."""

from __future__ import annotations

import unittest
from dataclasses import dataclass

from tests.builders import circuit, cutout, feeder, job, mcb, rcbo, supply, two_boards
from tests.core.board.made import changed, housed, packed
from tests.core.survey.test_survey import tapped
from tests.texts import keys, says
from vivid_lattice.core.actions.move_device import lay_out
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import BOARD_CHECKS
from vivid_lattice.core.design.remedies import find
from vivid_lattice.core.document.board_build import (
    BusbarStock,
    ControlGear,
    DevicePosition,
    Enclosure,
    Labels,
    LabelText,
    Mounting,
    NeutralConnection,
)
from vivid_lattice.core.document.job import Circuit, Device, Job, JobInfo, Load, MainSwitch, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.document.surge_and_relay import Spd
from vivid_lattice.core.findings.finding import Finding, Subject
from vivid_lattice.demo import demo_job

LAMP = (Load(name="Lamp", kind="lamp", power_w=100.0, power_factor=1.0),)
KILN = (Load(name="Kiln", kind="kiln", power_w=7200.0),)
BOARD = MainSwitch(rating_a=100.0, family="moor-switch")


def with_housing(of: Job, **parts: object) -> Job:
    return changed(of, build=of.boards[0].build.model_copy(update=parts))


def with_enclosure(of: Job, **parts: object) -> Job:
    enclosure = of.boards[0].build.enclosure
    assert enclosure is not None
    return with_housing(of, enclosure=enclosure.model_copy(update=parts))


def tarn(rating_a: float = 16.0, **more: object) -> Device:
    return mcb(rating_a, family="tarn-b", **more)


def laid(*circuits: Circuit, rows: int = 1, modules: int = 18, **board: object) -> Job:
    """A board of one family, laid out."""
    held = circuits or (circuit(device=tarn()), circuit(id="c2", name="Lamps", loads=LAMP, device=tarn(6.0)))
    return lay_out(housed(changed(job(*held), main_switch=BOARD, **board), rows, modules), "main")[0]


def grouped(*neutrals: NeutralConnection, own: bool = False) -> Job:
    """Two circuits behind two RCDs, with neutrals put elsewhere."""
    device = rcbo(16.0) if own else mcb(16.0)
    of = job(circuit(id="c1", device=device), circuit(id="c2", name="Second", device=device))
    groups = tuple(SharedRcd(id=n, name=f"RCD {n}", rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for n in ("r1", "r2"))
    ways = tuple(way.model_copy(update={"rcd": f"r{way.number}"}) for way in of.boards[0].ways)
    return with_housing(changed(of, shared_rcds=groups, ways=ways), neutral_connections=neutrals)


def hung(of: Job | None = None, room: Room | None = None, **standing: object) -> Job:
    """A board that hangs somewhere."""
    made = of or laid()
    made = made.model_copy(update={"rooms": (*made.rooms, *((room,) if room else ()))})
    return with_housing(made, mounting=Mounting.model_validate(({"room": room.id} if room else {}) | standing))


def in_standard(name: str, **standing: object) -> Job:
    """The first board of a demo of a standard, hung so."""
    return hung(demo_job({"anz": "wool-loft", "na": "keepers-house", "za": "honey-house"}[name]), **standing)


def begun(of: Job) -> Job:
    """The job with an enclosure for every board that has none: somebody has begun to build them."""
    large = Enclosure(title="Large", rows=8, modules=24, bar_terminals=200)
    boards = tuple(
        board
        if board.build.enclosure
        else board.model_copy(update={"build": board.build.model_copy(update={"enclosure": large})})
        for board in of.boards
    )
    return of.model_copy(update={"boards": boards})


def unknown_lines() -> Job:
    """A sub-board whose feeder has not been given a line of three."""
    made = two_boards(feeder()).model_copy(update={"supply": supply(phases=3)})
    return made.model_copy(
        update={"boards": (made.boards[0], made.boards[1].model_copy(update={"main_switch": BOARD}))}
    )


BATH = Room(id="bath", name="Bath", kind="bath")
SMALL = Enclosure(title="Box", rows=1, modules=12, width_mm=250, height_mm=200, depth_mm=80)
WARM = (
    circuit(id="c1", loads=KILN, device=tarn(32.0)),
    circuit(id="c2", name="Second kiln", loads=KILN, device=tarn(32.0)),
)
MIXED = (circuit(device=tarn()), circuit(id="c2", name="Odd", loads=LAMP, device=mcb(6.0, family="odd")))


def mixed() -> Job:
    """Two families whose clamps lie at different heights, side by side on one comb."""
    odd = {"id": "odd", "title": "Odd breaker", "kind": "breaker", "ratings_a": [6, 16], "busbar_height_mm": 12}
    of = changed(job(*MIXED), main_switch=BOARD).model_copy(update={"families": ()})
    of = Job.model_validate(of.model_dump() | {"families": [odd]}, strict=False)
    return lay_out(housed(of, 1, 18), "main")[0]


@dataclass(frozen=True)
class Case:
    """A job, what a check says of its first (or the named) board, and the key of its message (or a name in it)."""

    check: str
    made: Job
    verdict: str
    said: str = "."
    board: str = "main"


CASES = (
    Case("ways", job(), "pass", "room"),
    Case("ways", changed(job(), way_count=1), "pass", "room"),
    Case("ways", laid(), "pass", "room"),
    Case("ways", with_enclosure(laid(), modules=3), "fail", "room_fix"),
    Case("ways", laid(modules=4), "advice", "spare"),
    Case("ways", with_housing(laid(), device_positions=(DevicePosition(device="main", row=1, offset_modules=4.0), DevicePosition(device="way:c1", row=1, offset_modules=5.0))), "fail", "overlap"),
    Case("ways", with_housing(laid(), device_positions=(DevicePosition(device="main", row=1, offset_modules=17.0),)), "fail", "outside"),
    Case("ways", with_housing(laid(), device_positions=(DevicePosition(device="main", row=2, offset_modules=0.0),)), "fail", "outside"),
    Case("ways", job(circuit(lines=()), supply=supply(phases=3)), "pass"),
    Case("ways", demo_job("keepers-house"), "pass", "room"),
    Case("ways", demo_job("keepers-house"), "advice", "balance", "tower"),
    Case("comb", job(), "not-applicable", "core.ending.no_layout"),
    Case("comb", laid(), "pass", "at one height"),
    Case("comb", laid(circuit(device=mcb(16.0)), circuit(id="c2", name="B", device=mcb(16.0))), "advice", "family"),
    Case("comb", mixed(), "fail", "heights"),
    Case("comb", with_housing(laid(), busbar_stock=BusbarStock(rating_a=10.0, pins=12)), "fail", "rating"),
    Case("comb", with_housing(laid(), busbar_stock=BusbarStock(rating_a=63.0, pins=2)), "fail", "pins"),
    Case("comb", with_housing(laid(), busbar_stock=BusbarStock(rating_a=63.0, pins=12, terminal_height_mm=10.0)), "fail", "heights"),
    Case("comb", with_housing(laid(), busbar_stock=BusbarStock(rating_a=63.0, pins=12, end_caps=False)), "fail", "ends"),
    Case("comb", with_housing(laid(), device_positions=()), "missing", "core.board.need.positions.what"),
    Case("comb", laid(circuit(device=tarn()), modules=4), "pass"),
    Case("comb", demo_job("keepers-house"), "pass", "phases_ok"),
    Case("comb", with_housing(demo_job("keepers-house"), device_positions=tuple(
        spot.model_copy(update={"offset_modules": 19.0 if spot.offset_modules % 2 == 0 else 18.0}) if spot.device == "way:c3" else spot
        for spot in demo_job("keepers-house").boards[0].build.device_positions)), "fail", "wrong_phase"),
    Case("terminals", grouped(), "pass", "its own of 3 neutral bars"),
    Case("terminals", grouped(NeutralConnection(circuit="c1", bar="N-r2")), "fail", "effect_both"),
    Case("terminals", grouped(NeutralConnection(circuit="c1", bar="N")), "fail", "effect_own"),
    Case("terminals", with_housing(changed(grouped(NeutralConnection(circuit="c1", bar="N-r2")), ways=tuple(
        way.model_copy(update={"rcd": None if way.number == 1 else "r2"}) for way in grouped().boards[0].ways))), "fail", "effect_moved"),
    Case("terminals", grouped(NeutralConnection(circuit="c1", bar="N-r1"), own=True), "fail", "neutral_device"),
    Case("terminals", with_enclosure(laid(), bar_terminals=3), "fail", "earth_terminals"),
    Case("terminals", job(circuit(kind="ring", device=rcbo(32.0))), "advice", "shared"),
    Case("terminals", job(circuit(kind="ring", device=rcbo(32.0, family="fell-rcbo-slim"))), "pass"),
    Case("terminals", job(circuit(cable="auto", device=tarn())), "missing", "a cable for Heater"),
    Case("terminals", job(circuit(device="auto")), "missing", "need.what"),
    Case("tap", tapped(), "pass", "device", "kept"),
    Case("tap", tapped(earth_mm2=2.5), "fail", "minimum 16 mm²", "kept"),
    Case("tap", tapped(labelled=None), "missing", "need.labels.what", "kept"),
    Case("tap", job(), "not-applicable", "none"),
    Case("terminals", changed(job(), ways=()).model_copy(update={"circuits": ()}), "not-applicable"),
    Case("terminals", unknown_lines(), "missing", "core.network.need.line.what", "sub"),
    Case("thermal", job(), "not-applicable", "core.ending.no_layout"),
    Case("thermal", laid(), "pass", "air"),
    Case("thermal", hung(ambient_c=38.0), "advice", "air"),
    Case("thermal", with_enclosure(laid(), heat_dissipation_w=1.0), "fail", "loss"),
    Case("thermal", hung(with_enclosure(laid(*WARM, modules=4), **SMALL.model_dump(include={"width_mm", "height_mm", "depth_mm"})), ambient_c=40.0), "fail", "breaker_fix"),
    Case("thermal", with_housing(laid(), device_positions=()), "missing"),
    Case("isolation", job(), "pass", "ok"),
    Case("isolation", changed(job(), main_switch=None), "not-applicable", "none"),
    Case("labelling", job(), "not-applicable", "core.ending.no_layout"),
    Case("terminals", job(), "not-applicable", "core.ending.no_layout"),
    Case("isolation", changed(laid(), main_switch=None), "fail", "no_main"),
    Case("isolation", changed(job(), main_switch=MainSwitch(rating_a=100.0, switched_poles="lines")), "fail", "neutral"),
    Case("isolation", changed(job(), main_switch=MainSwitch(rating_a=100.0, rcd=Rcd(idn_ma=100.0)), spds=(Spd(id="s", name="Surge", type="2"),)), "advice", "live"),
    Case("isolation", two_boards(), "advice", "sub", "sub"),
    Case("isolation", changed(job(), control_gear=(ControlGear(id="k", name="All off", kind="contactor", switches=("c1",)),)), "pass"),
    Case("isolation", unknown_lines(), "missing", "core.network.need.line.what", "sub"),
    Case("labelling", with_housing(job(), labels=Labels(main_earth_location="below the meter")), "pass", "ok"),
    Case("labelling", job(), "advice", "earth_missing"),
    Case("labelling", job(circuit(), circuit(id="c2")), "fail", "twice"),
    Case("labelling", with_housing(job(), labels=Labels(texts=(LabelText(circuit="c1", text="Power"),), main_earth_location="here")), "advice", "vague"),
    Case("position", job(), "not-applicable", "core.ending.no_layout"),
    Case("position", laid(), "missing", "need.what"),
    Case("position", hung(), "pass", "ok"),
    Case("position", hung(location="under-stairs"), "advice", "the only stair"),
    Case("position", hung(with_enclosure(laid(), material="moulded")), "fail", "material"),
    Case("position", hung(with_enclosure(laid(), openings_closed=False)), "fail", "openings"),
    Case("position", hung(room=BATH), "missing", "from the zones of Bath"),
    # With a bath in the house, a board whose room is not said is not taken to hang outside it.
    Case("position", with_housing(hung(room=BATH), mounting=Mounting(location="wall")), "missing", "need.room.what"),
    Case("position", hung(room=BATH, distance_m=0.6, bottom_edge_m=1.5), "fail", "zone"),
    Case("position", hung(room=BATH, distance_m=0.61, bottom_edge_m=1.5), "pass"),
    Case("position", in_standard("anz", highest_handle_m=2.0, bottom_edge_m=0.5), "pass", "ok"),
    Case("position", in_standard("anz", highest_handle_m=2.01), "fail", "maximum"),
    Case("position", in_standard("anz", highest_handle_m=1.8, door=False, bottom_edge_m=1.19), "fail", "minimum"),
    Case("position", in_standard("anz", highest_handle_m=1.8, location="hydrant-cupboard"), "fail", "hydrant"),
    Case("position", in_standard("za", highest_handle_m=2.21), "fail", "maximum"),
    Case("position", in_standard("na", highest_handle_m=1.9), "missing", "need.part.what"),
    Case("position", in_standard("na", highest_handle_m=1.9, clear_depth_m=0.9), "fail", "minimum"),
    Case("position", in_standard("na", highest_handle_m=1.9, clear_depth_m=1.0, location="clothes-closet"), "fail", "clothes closet"),
)  # fmt: skip


#: What is asked of a board only once somebody has begun to build it.
_ONCE_BEGUN = ("terminals", "isolation", "labelling")


def of_board(made: Job, check: str, board: str = "main") -> Finding:
    found = find(assess(made), check, Subject("board", board if board != "main" else made.boards[0].id))
    assert found is not None
    return found


class Verdicts(unittest.TestCase):
    """Each case as written."""

    def test_each_case_gets_its_verdict_and_says_why(self) -> None:
        for number, case in enumerate(CASES):
            with self.subTest(f"{number} {case.check} {case.verdict} {case.said}"):
                judged = case.check in _ONCE_BEGUN and case.verdict != "not-applicable"
                found = of_board(begun(case.made) if judged else case.made, case.check, case.board)
                self.assertEqual((found.verdict, says(found, case.said)), (case.verdict, True), str(found.sentence))
                if case.verdict not in ("missing", "not-applicable"):
                    self.assertTrue(found.rule and found.working)

    def test_there_is_a_case_of_each_kind_for_every_check_of_the_build(self) -> None:
        # Control gear: test_supply_and_gear.
        builds = {check.id for check in BOARD_CHECKS if check.category == "build"} - {"control-gear"}
        self.assertEqual({case.check for case in CASES if case.verdict == "pass"}, builds)
        self.assertEqual({case.check for case in CASES if case.verdict in ("fail", "advice")}, builds)
        # Ways count what is there and labels what is written: neither can lack an input.
        starved = {case.check for case in CASES if case.verdict == "missing"}
        self.assertEqual(starved, builds - {"ways", "labelling"})

    def test_surge_leads_come_from_the_drawing_where_nobody_has_measured_them(self) -> None:
        device = Spd.model_validate({
            "id": "s", "name": "Surge device", "type": "2", "up_kv": 1.4, "uc_v": 275.0, "discharge_ka": 20.0,
            "short_circuit_ka": 25.0, "max_backup_a": 125.0, "live_mm2": 6.0, "earth_mm2": 6.0,
        })  # fmt: skip
        plan = job().surge.model_copy(update={"declined": None, "furthest_m": 8.0})
        bare = changed(job(surge=plan), spds=(device,))
        first = find(assess(bare), "surge", Subject("supply", "supply"))
        assert first is not None
        self.assertEqual(first.verdict, "missing")
        drawn = lay_out(housed(bare, 1, 12), "main")[0]
        found = find(assess(drawn), "surge", Subject("supply", "supply"))
        assert found is not None
        self.assertNotEqual(found.verdict, "missing")
        self.assertIn("leads as laid out", " ".join(str(step.meaning) for step in found.working))

    def test_heat_and_neighbours_are_a_sum_anybody_can_follow(self) -> None:
        found = of_board(laid(*WARM, modules=18), "thermal")
        inside = next(step.result for step in found.working if step.symbol == "T")
        # Two kilns of 31.4 A side by side, a gap between them: each breaker alone, 32 A less 0.7 % a kelvin over 30 °C.
        carries = 32 * (1 - 0.007 * max(0.0, inside - 30))
        self.assertEqual(found.verdict, "fail" if carries < 7200 / 230 else "tight")

    def test_the_standard_says_how_a_main_switch_breaks(self) -> None:
        for name, words in (("wool-loft", "all_lines"), ("millrace", "all_live")):
            self.assertIn(words, keys(of_board(demo_job(name), "isolation")))

    def test_a_larger_board_never_asks_for_less_room(self) -> None:
        needed = [
            of_board(job(*(circuit(id=f"c{n}", name=f"C{n}") for n in range(1, count + 1)), supply=supply(cutout=cutout())), "ways").value
            for count in (1, 5, 20)
        ]  # fmt: skip
        self.assertEqual(needed, sorted(needed, key=lambda one: one or 0))

    def test_a_board_of_another_standard_is_judged_by_its_own_rules(self) -> None:
        moulded = with_enclosure(hung(packed(job())), material="moulded")
        self.assertEqual(of_board(moulded, "position").verdict, "fail")
        shed = moulded.model_copy(update={"job": JobInfo(title="Shed", premises="other")})
        self.assertEqual(of_board(shed, "position").verdict, "pass")


if __name__ == "__main__":
    unittest.main()
