"""The survey: typed lines, what is wrong, the cable as the limit, the old board by the same checks, before and after."""

from __future__ import annotations

import unittest

from tests.builders import circuit, feeder, flat, job, laid, mcb, rcbo, supply, two_boards
from tests.core.board.made import housed
from tests.texts import ids
from vivid_lattice.core.actions.add_circuit import AddCircuitOption, add_circuit_options
from vivid_lattice.core.actions.move_device import lay_out
from vivid_lattice.core.actions.swap_device import swap
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.remedies import find
from vivid_lattice.core.document.existing_board import ExistingBoard, ExistingRcd, ExistingWay, Observation, Survey
from vivid_lattice.core.document.job import Board, Circuit, Job, JobInfo, Load, MainSwitch, Tap
from vivid_lattice.core.document.supply import CutOut, PrerequisiteStatus
from vivid_lattice.core.entry.devices import OLD_DEVICES
from vivid_lattice.core.entry.way_line import read_way
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.findings.finding import Finding, Subject
from vivid_lattice.core.job_file import checked, read_document, to_text
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.data_folder import standard_ids
from vivid_lattice.core.survey.before_after import as_found, before_after
from vivid_lattice.core.survey.board_replacement import replaced_board
from vivid_lattice.core.survey.observations import observation_kinds, observation_results
from vivid_lattice.core.survey.rating_transfer import rating_transfers
from vivid_lattice.demo import demo_job

UK = rule_set("uk")
EMPTY = ExistingBoard(id="old", name="Old board")


def typed(*lines: str, **parts: object) -> ExistingBoard:
    """An old board from typed lines."""
    board = EMPTY.model_copy(update=parts)
    for line in lines:
        board = board.model_copy(update={"ways": (*board.ways, read_way(UK, board, line))})
    return board


def surveyed(board: ExistingBoard, of: Job | None = None) -> Job:
    """A job with a surveyed board; without another, one that holds nothing else."""
    bare = of or job().model_copy(update={"boards": (), "circuits": ()})
    return checked(bare.model_copy(update={"survey": Survey(boards=(board,))}))


class Typed(unittest.TestCase):
    """One line, one way."""

    def test_a_line_says_number_device_rating_conductor_and_label(self) -> None:
        for line, wanted in (
            ("3 fuse 30 6mm cooker", {"number": 3, "kind": "fuse-bs3036", "rating_a": 30.0, "conductor_mm2": 6.0, "label": "cooker"}),
            ("fuse 30 2x2.5mm down sockets", {"number": 1, "cable_count": 2, "conductor_mm2": 2.5, "label": "down sockets"}),
            ("B32 2,5mm² ring", {"kind": "mcb", "curve": "B", "rating_a": 32.0, "conductor_mm2": 2.5}),
            ("B16 30mA 1.5mm lights proven", {"kind": "rcbo", "rcd": ExistingRcd(idn_ma=30.0), "tested": True, "label": "lights"}),
            ("rcbo C20 30mA", {"kind": "rcbo", "curve": "C", "label": ""}),
            ("7 blank", {"number": 7, "kind": "blank"}),
            ("open", {"kind": "open"}),
        ):  # fmt: skip
            found = read_way(UK, EMPTY, line)
            self.assertEqual({name: getattr(found, name) for name in wanted}, wanted, line)

    def test_the_next_free_way_follows_the_last(self) -> None:
        self.assertEqual([way.number for way in typed("4 blank", "fuse 5 lights", "blank").ways], [4, 5, 6])

    def test_what_is_not_understood_is_said_with_an_example(self) -> None:
        for line, said in (
            ("", "empty"),
            ("cooker", "No device"),
            ("fuse cooker", "No rating"),
            ("0 blank", "outside 1 to 200"),
        ):
            with self.assertRaises(EntryNotUnderstood) as refused:
                read_way(UK, EMPTY, line)
            self.assertIn(said, str(refused.exception))

    def test_every_standard_reads_its_own_breakers_and_fuses_old_ones_too(self) -> None:
        for name in standard_ids():
            rules = rule_set(name)
            self.assertIn(read_way(rules, EMPTY, "breaker 20 pump").kind, rules.devices.kinds, name)
            fuse = read_way(rules, EMPTY, "fuse 20 cooker").kind
            action = "old" if fuse in OLD_DEVICES else rules.devices.kind(fuse).action
            self.assertEqual(action, "fuse" if name in ("uk", "iec", "iec-de") else "old", name)


class Wrong(unittest.TestCase):
    """What follows from what is written down, and what is seen."""

    def _found(self, board: ExistingBoard, **info: object) -> set[tuple[str, int | None]]:
        of = surveyed(board)
        if info:
            of = of.model_copy(update={"job": JobInfo.model_validate({"title": "T"} | info)})
        return {(one.kind.id, one.way) for one in observation_results(of, rule_set(of.job.rules), board)}

    def test_each_thing_that_can_be_told_is_told_and_not_told_without_cause(self) -> None:
        healthy = typed("1 rcbo B16 30mA 2.5mm sockets proven", main_device="switch", material="metal")
        self.assertEqual(self._found(healthy), set())
        for what, way, board in (
            ("no-isolator", None, healthy.model_copy(update={"main_device": "none"})),
            ("rcd-as-main", None, healthy.model_copy(update={"main_device": "rcd"})),
            ("combustible", None, healthy.model_copy(update={"material": "wood"})),
            (
                "hundred-ma-only",
                None,
                typed("B16 2.5mm x proven", main_device="rcd", main_rcd=ExistingRcd(idn_ma=100.0)),
            ),
            ("no-rcd", None, typed("B16 2.5mm sockets proven")),
            ("no-labels", None, typed("B16 30mA 2.5mm proven")),
            ("missing-blank", 1, typed("open")),
            ("rewirable-fuse", 1, typed("fuse 5 1mm lights")),
            ("over-fused", 1, typed("fuse 30 1mm lights")),
            ("unproven", 1, typed("B16 30mA 2.5mm sockets")),
        ):
            self.assertIn((what, way), self._found(board), what)
        lies = healthy.ways[0].model_copy(update={"actually_feeds": "Cellar lights"})
        self.assertIn(("wrong-label", 1), self._found(healthy.model_copy(update={"ways": (lies,)})))

    def test_what_is_seen_comes_with_why_how_urgent_and_by_which_clause(self) -> None:
        board = typed(
            "1 rcbo B16 30mA 2.5mm sockets proven",
            main_device="switch",
            observations=tuple(Observation(kind=name) for name in observation_kinds()),
        )
        found = observation_results(surveyed(board), UK, board)
        self.assertEqual({one.kind.id for one in found}, set(observation_kinds()))
        order = ["now", "soon", "better", "note"]
        self.assertEqual(
            [one.kind.urgency for one in found], sorted((one.kind.urgency for one in found), key=order.index)
        )
        for one in found:
            self.assertTrue(one.kind.reason and one.kind.act and one.source and one.source.publication, one.kind.id)

    def test_nothing_is_condemned_for_its_age_alone(self) -> None:
        # An old fuse on a conductor that carries it is worth doing with the next work, and never more urgent for what it is.
        board = typed(
            "1 fuse 15 2.5mm immersion proven",
            main_device="switch",
            main_rcd=ExistingRcd(idn_ma=30.0),
            material="metal",
        )
        self.assertEqual({(one.kind.id, one.kind.urgency) for one in observation_results(surveyed(board), UK, board)}, {("rewirable-fuse", "better")})  # fmt: skip

    def test_a_standard_that_does_not_ask_for_metal_does_not_mind_moulded_material(self) -> None:
        board = typed("1 rcbo B16 30mA 2.5mm sockets proven", main_device="switch", material="moulded")
        self.assertIn(("combustible", None), self._found(board))
        self.assertEqual(self._found(board, premises="other"), set())


class OldToNew(unittest.TestCase):
    """The cable as the limit."""

    def test_an_old_rating_becomes_the_near_modern_one_only_where_the_cable_carries_it(self) -> None:
        # Common practice, no source: a 30 A cooker way becomes 32 A only when the cable is 6 mm², else 25 A. Nobody knows how it
        # is laid, so as in an insulated wall, method A: 6 mm² 32 A, 4 mm² 26 A, 2.5 mm² 20 A, 1.5 mm² 14.5 A, 1 mm² 11.5 A
        # (BS 7671:2018, Table 4D5, from memory).
        for line, near, cable, new in (
            ("fuse 30 6mm cooker", 32.0, 32.0, 32.0),
            ("fuse 30 4mm cooker", 32.0, 26.0, 25.0),
            ("fuse 30 2x2.5mm ring", 32.0, 32.0, 32.0),
            ("fuse 15 2.5mm immersion", 16.0, 20.0, 16.0),
            ("fuse 20 1.5mm heater", 20.0, 14.5, 13.0),
            ("fuse 5 1mm lights", 6.0, 11.5, 6.0),
            ("fuse 30 cooker", 32.0, None, None),
        ):
            [found] = rating_transfers(surveyed(typed(line)), UK, typed(line))
            self.assertEqual((found.nearest_rating_a, found.cable_a, found.new_a), (near, cable, new), line)

    def test_where_its_run_is_known_it_counts_as_it_is_laid(self) -> None:
        held = job(circuit(id="c1", run=(laid(10.0, "C"),)))
        way = typed("fuse 30 4mm cooker").ways[0].model_copy(update={"circuit": "c1"})
        board = EMPTY.model_copy(update={"ways": (way,)})
        [found] = rating_transfers(surveyed(board, held), UK, board)
        self.assertEqual((found.new_a, found.name), (32.0, "Heater"))  # 4 mm² clipped: 37 A

    def test_the_new_board_has_each_way_with_its_cable_and_what_is_not_known_is_left(self) -> None:
        board = typed("1 fuse 30 4mm cooker", "2 fuse 30 2x2.5mm sockets", "3 fuse 15 immersion", "4 blank")
        made = checked(replaced_board(surveyed(board), "old"))
        found = {one.name: one for one in made.circuits}
        self.assertEqual(set(found), {"Cooker", "Sockets"})
        self.assertEqual((found["Cooker"].device.rating_a, found["Cooker"].cable.area_mm2), (25.0, 4.0))  # type: ignore[union-attr]
        self.assertEqual((found["Sockets"].kind, found["Sockets"].loads[0].kind), ("ring", "socket"))
        self.assertEqual(made.survey.boards[0].replaced_by, made.boards[0].id)
        self.assertIsNone(found["Cooker"].run[0].length_m)
        again = replaced_board(made, "old")
        self.assertEqual(again.circuits, made.circuits)

    def test_nothing_to_take_over_is_refused_with_what_is_lacking(self) -> None:
        with self.assertRaises(BadDocument) as refused:
            replaced_board(surveyed(typed("fuse 15 immersion")), "old")
        self.assertIn("conductor size not recorded yet", str(refused.exception))


class BeforeAndAfter(unittest.TestCase):
    """The same engine on both."""

    def _pair(self) -> Job:
        of = job(circuit(id="c1"), circuit(id="c2", name="Second", device=rcbo(16.0)))
        ways = (
            ExistingWay(number=1, kind="fuse-bs3036", rating_a=30.0, conductor_mm2=2.5, circuit="c1", label="heater"),
            ExistingWay(number=2, kind="fuse-bs3036", rating_a=15.0, conductor_mm2=2.5, circuit="c2"),
            ExistingWay(number=3, kind="fuse-bs3036", rating_a=5.0, conductor_mm2=1.0, label="lamp"),
        )
        board = EMPTY.model_copy(
            update={"ways": ways, "main_device": "rcd", "main_rcd": ExistingRcd(idn_ma=100.0), "replaced_by": "main"}
        )
        return surveyed(board, of)

    def test_the_old_board_is_judged_by_the_same_checks_with_what_was_found(self) -> None:
        old = checked(as_found(self._pair(), "old"))
        found = find(assess(old), "capacity", Subject("circuit", "c1"))
        assert found is not None
        # A 30 A rewirable fuse on 2.5 mm², which carries 27 A clipped, times 0.725.
        self.assertEqual(found.verdict, "fail")
        lamp = next(one for one in old.circuits if one.name == "lamp")
        starved = find(assess(old), "voltage-drop", Subject("circuit", lamp.id))
        assert starved is not None
        self.assertEqual(starved.verdict, "missing")

    def test_side_by_side_says_what_goes_dark_what_is_guarded_and_what_is_left(self) -> None:
        both = before_after(self._pair(), "old")
        self.assertEqual((both.before.with_rcd, both.after.with_rcd), (0, 2))
        self.assertEqual((both.before.most_lost, both.after.most_lost), (3, 1))
        names = {one.name: one for one in both.circuits}
        self.assertEqual(names["Heater"].before.trips_with, ("Second", "lamp"))  # type: ignore[union-attr]
        self.assertIsNone(names["lamp"].after)
        self.assertTrue(any("lamp" in str(said) for said in both.improvements))

    def test_a_sub_board_that_stays_is_judged_behind_the_old_feeder(self) -> None:
        of = demo_job("millrace")
        way = ExistingWay(number=4, kind="mcb", curve="C", rating_a=40.0, conductor_mm2=16.0, circuit="c12")
        board = EMPTY.model_copy(update={"ways": (way,), "replaced_by": "mill", "main_device": "switch"})
        old = checked(as_found(surveyed(board, of), "old"))
        self.assertEqual([one.id for one in old.boards], ["mill", "studio"])
        self.assertIn("c13", {one.id for one in old.circuits})

    def test_the_document_keeps_the_survey_and_refuses_what_leads_nowhere(self) -> None:
        of = self._pair()
        self.assertEqual(read_document(to_text(of)), of)
        for ways, said in (
            ((ExistingWay(number=1, kind="blank"), ExistingWay(number=1, kind="blank")), "recorded twice"),
            ((ExistingWay(number=1, kind="blank", circuit="nobody"),), "no circuit 'nobody'"),
        ):
            with self.assertRaises(BadDocument) as refused:
                surveyed(EMPTY.model_copy(update={"ways": ways}))
            self.assertIn(said, str(refused.exception))


NEW = Circuit(
    id="new", name="Shed", kind="radial", loads=(Load(name="Sockets", kind="socket"),), run=(laid(18.0),)
)  # fmt: skip


class OneMore(unittest.TestCase):
    """A full board and a further circuit."""

    def _ways(self, of: Job, board: str = "main") -> dict[str, AddCircuitOption]:
        return {one.id: one for one in add_circuit_options(of, board, NEW)}

    def _full(self) -> Job:
        """Six two-module devices and a main switch in fourteen modules."""
        held = (circuit(id=f"c{n}", name=f"C{n}", device=rcbo(16.0, family="fell-rcbo")) for n in range(1, 7))
        return lay_out(housed(job(*held), 1, 14), "main")[0]

    def test_a_full_board_has_no_spare_way_but_others(self) -> None:
        found = self._ways(self._full())
        self.assertIn("only 0 modules free", str(found["spare"].not_possible))
        self.assertIsNone(found["spare"].job)
        self.assertTrue(found["split"].job and found["sub"].job)

    def test_slim_devices_gain_the_room_they_say(self) -> None:
        wide = {"id": "wide", "title": "Wide", "kind": "rcbo", "modules": 2, "ratings_a": [16], "idn_ma": [30], "rcd_type": "A"}  # fmt: skip
        of = job(*(circuit(id=f"c{n}", name=f"C{n}", device=rcbo(16.0, family="wide")) for n in range(1, 4)))
        of = Job.model_validate(of.model_dump() | {"families": [wide]}, strict=False)
        full = lay_out(housed(of, 1, 8), "main")[0]
        slim = self._ways(full)["slim"]
        self.assertEqual((slim.not_possible, slim.modules_left), ("", 2.0))
        assert slim.job is not None
        self.assertEqual(checked(slim.job).circuits[0].device.family, "fell-rcbo-slim")  # type: ignore[union-attr]

    def test_a_shared_device_given_up_gives_its_modules(self) -> None:
        found = self._ways(demo_job("lamp-cottage"))["rcbo"]
        assert found.job is not None
        self.assertEqual([group.id for group in found.job.boards[0].shared_rcds], ["r2"])
        self.assertEqual([said for said in found.new_problems if "core.check.surge.title" not in ids(said)], [])

    def test_a_split_needs_the_distributor_and_says_what_stays_live(self) -> None:
        found = self._ways(self._full())["split"]
        self.assertTrue(found.calls and found.stays_live)
        assert found.job is not None
        self.assertEqual([one.fed_by for one in checked(found.job).boards], ["origin", "origin"])
        self.assertIn("not at the origin", str(self._ways(two_boards(), "sub")["split"].not_possible))

    def test_who_makes_the_tails_dead_is_told_for_each_way(self) -> None:
        of = self._full()
        found = self._ways(of)
        self.assertIn("core.add_circuit.split_without.call", ids(found["split_without"].calls[0]))
        self.assertEqual((found["spare"].calls, found["slim"].calls, found["sub"].calls), ((), (), ()))
        there = of.supply.model_copy(update={"prerequisites": (PrerequisiteStatus(id="isolator", done=True),)})
        isolated = self._ways(of.model_copy(update={"supply": there}))
        self.assertEqual((isolated["split"].calls, isolated["split_without"].job), ((), None))
        self.assertEqual(len(found["split"].steps), len(isolated["split"].steps) + 1)
        larger = self._ways(lay_out(housed(job(*(circuit(id=f"c{n}", name=f"C{n}", device=rcbo(16.0)) for n in range(1, 5))), 1, 12), "main")[0])["larger"]  # fmt: skip
        self.assertIn("core.add_circuit.larger.call", ids(larger.calls[0]))

    def test_what_leaks_behind_a_shared_device_is_told_before_it_is_given_up(self) -> None:
        found = self._ways(demo_job("lamp-cottage"))["rcbo"]
        self.assertTrue(any("core.add_circuit.rcbo.leakage" in ids(step) for step in found.steps))

    def test_a_sub_board_takes_the_smallest_circuit_with_it_and_keeps_it_guarded(self) -> None:
        found = self._ways(demo_job("lamp-cottage"))["sub"]
        assert found.job is not None
        sub = found.job.boards[-1]
        moved = next(one for one in found.job.circuits if one.id == sub.ways[0].circuit)
        self.assertTrue(moved.device.rcd)  # type: ignore[union-attr]
        self.assertEqual({way.circuit for way in sub.ways}, {moved.id, "new"})

    def test_what_it_makes_worse_is_told(self) -> None:
        weak = job(circuit(), supply=supply(cutout=CutOut(kind="fuse-bs88-3", rating_a=20.0)))
        big = NEW.model_copy(update={"kind": "fixed", "loads": (Load(name="Shower", kind="shower", power_w=9000.0),)})
        spare = next(one for one in add_circuit_options(weak, "main", big) if one.id == "spare")
        self.assertTrue(any("core.check.demand.title" in ids(one) for one in spare.new_problems), spare.new_problems)
        self.assertEqual(spare.verdict, "fail")

    def test_a_circuit_that_is_there_already_is_refused(self) -> None:
        with self.assertRaises(BadDocument):
            add_circuit_options(job(), "main", circuit())


class Swapped(unittest.TestCase):
    """A device changed in its place."""

    def test_a_breaker_to_an_rcbo_moves_the_neutral_off_its_screw(self) -> None:
        found = swap(demo_job("lamp-cottage"), "c3", rcbo(32.0))
        facts = {ids(one.topic)[0]: one for one in found.facts}
        self.assertEqual(facts["core.swap.topic_width"].verdict, "pass")
        self.assertIn("neutral bar of RCD left, terminal 5", str(facts["core.swap.topic_neutral"].text))
        self.assertTrue(
            found.stays_live and any("core.check.selectivity-residual.title" in ids(one) for one in found.changes)
        )

    def test_a_wider_device_needs_room_beside_it_or_in_its_row(self) -> None:
        for modules, main, verdict in ((12, "left", "pass"), (5, "left", "fail"), (6, "left", "advice")):
            of = lay_out(
                housed(
                    job(*(circuit(id=f"c{n}", name=f"C{n}") for n in range(1, 4))), 1, modules, main_switch_side=main
                ),
                "main",
            )[0]
            which = "c3" if verdict == "pass" else "c1"
            facts = {ids(one.topic)[0]: one for one in swap(of, which, rcbo(16.0, family="fell-rcbo")).facts}
            self.assertEqual(facts["core.swap.topic_width"].verdict, verdict, modules)

    def test_its_clamp_and_its_comb_are_asked_anew(self) -> None:
        of = lay_out(housed(job(circuit(cable=flat(10.0)), circuit(id="c2", name="B")), 1, 12), "main")[0]
        small = {
            "id": "small",
            "title": "Small",
            "kind": "breaker",
            "ratings_a": [16],
            "terminal_to_mm2": 4,
            "busbar_height_mm": 5,
        }
        of = Job.model_validate(of.model_dump() | {"families": [small]}, strict=False)
        facts = {ids(one.topic)[0]: one.verdict for one in swap(of, "c1", mcb(16.0, family="small")).facts}
        self.assertEqual(facts["core.check.terminals.title"], "fail")


def tapped(**parts: object) -> Job:
    """A second board at the origin, tapped off ahead of the first one's main switch."""
    of = job(circuit(id="c1"))
    tap = {"device": CutOut(kind="fuse-bs88-3", rating_a=63.0), "breaking_ka": 33.0, "line_mm2": 16.0, "neutral_mm2": 16.0, "earth_mm2": 16.0, "length_m": 1.0, "labelled": True}  # fmt: skip
    second = Board(
        id="kept",
        name="Kept on",
        fed_by="origin",
        way_count=4,
        main_switch=MainSwitch(rating_a=63.0),
        tap=Tap.model_validate(tap | parts),
    )
    return checked(of.model_copy(update={"boards": (*of.boards, second)}))


class TappedOff(unittest.TestCase):
    """A feed that stays on."""

    def _said(self, of: Job, board: str = "kept") -> Finding:
        found = find(assess(of), "tap", Subject("board", board))
        assert found is not None
        return found

    def test_the_mistakes_that_are_made_are_found(self) -> None:
        for parts, verdict, said in (
            ({}, "pass", "Feed device 63 A (conductors of 16 mm²"),
            # The mistake made in practice: an earth for the circuits behind it, beside lines of 16 mm².
            ({"earth_mm2": 2.5}, "fail", "CPC 2.5 mm² (minimum 16 mm² for line conductors of 16 mm²"),
            ({"neutral_mm2": 10.0}, "fail", "Neutral 10 mm² (minimum 16 mm²"),
            ({"line_mm2": 6.0, "neutral_mm2": 6.0}, "fail", "Feed device 63 A (conductors of 6 mm²"),
            (
                {"device": None, "line_mm2": 6.0, "length_m": 3.0, "neutral_mm2": 6.0},
                "advice",
                "no own device over 3 m",
            ),
            (
                {"device": None, "line_mm2": 6.0, "length_m": 3.1, "neutral_mm2": 6.0},
                "fail",
                "no own device over 3.1 m",
            ),
            # The healthy supply brings 1 kA to the origin.
            ({"breaking_ka": 0.99}, "fail", "0.99 kA (prospective fault current 1 kA"),
            ({"breaking_ka": 1.0}, "pass", "Feed device 63 A (conductors of 16 mm²"),
            ({"breaking_ka": None}, "missing", "the breaking capacity of the device"),
            ({"labelled": False}, "fail", "Label both boards"),
            ({"labelled": None}, "missing", "whether both boards are labelled"),
            ({"earth_mm2": None}, "missing", "the protective conductor size"),
        ):
            found = self._said(tapped(**parts))
            told = str(found.sentence).casefold()
            self.assertEqual((found.verdict, said.casefold() in told), (verdict, True), told)

    def test_without_a_device_what_is_ahead_has_to_be_known(self) -> None:
        of = tapped(device=None)
        blind = of.model_copy(update={"supply": of.supply.model_copy(update={"cutout": None})})
        found = self._said(blind)
        self.assertEqual(found.verdict, "missing")
        self.assertIn("the device upstream of the feed", str(found.sentence))

    def test_it_concerns_the_further_board_alone(self) -> None:
        self.assertEqual(self._said(tapped(), "main").verdict, "not-applicable")
        bare = tapped()
        second = bare.boards[1].model_copy(update={"tap": None})
        self.assertEqual(self._said(bare.model_copy(update={"boards": (bare.boards[0], second)})).verdict, "missing")
        self.assertEqual(
            self._said(two_boards(feeder(), circuit(device=mcb(6.0), id="c9")), "sub").verdict, "not-applicable"
        )


if __name__ == "__main__":
    unittest.main()
