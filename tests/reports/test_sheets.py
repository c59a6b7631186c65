"""Every sheet of every demo, read back and compared with the Assessment figure by figure."""

from __future__ import annotations

import unittest

from tests.builders import circuit, job, laid, mcb, supply, two_boards
from tests.core.board.made import packed
from tests.core.testing.test_judged_readings import with_rows
from tests.imports.test_bundle import pictured
from tests.reports.reading import pages, pictures, plain, report_data, sizes_mm, whole
from vivid_lattice.core.design.compare import compare
from vivid_lattice.core.document.job import JobInfo, Load, Way
from vivid_lattice.core.document.readings import Instrument, Testing
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.document.work_details import WORKS, WorkDetails
from vivid_lattice.core.errors import BadDocument, Stopped
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.testing.expected_readings import expected
from vivid_lattice.core.text import shown_up
from vivid_lattice.demo import DEMOS, demo_job
from vivid_lattice.reports.catalogue import KINDS, export

#: The plan is read in tests/reports/test_plan_drawing.py, quotes in tests/core/quote.
SHEETS = [kind.id for kind in KINDS if kind.group == "sheets" and kind.needs not in ("plan", "quote")]


class EverySheet(unittest.TestCase):
    """What stands on all of them."""

    def test_each_page_bears_job_revision_number_and_caution(self) -> None:
        for kind in SHEETS:
            made = export(report_data("bakehouse", against=demo_job("millrace"), against_title="Millrace"), kind)
            found = pages(made.content)
            self.assertEqual(len(found), made.pages)
            for number, page in enumerate(found, 1):
                with self.subTest(kind, page=number):
                    self.assertIn("Bakehouse: an old board surveyed and renewed", page)
                    self.assertIn("revision 7, saved 2026-02-02 09:15 UTC", page)
                    self.assertIn(f"page {number} of {made.pages}", page)
                    self.assertIn("Work dead: isolate, lock off, prove dead.", page)

    def test_every_sheet_of_every_demo_is_made_on_pages_of_the_size_used_there(self) -> None:
        for name in DEMOS:
            held = report_data(name, against=demo_job("millrace"), against_title="Millrace")
            for kind in SHEETS:
                with self.subTest(name, kind=kind):
                    if kind == "before-after" and not held.job.survey.boards:
                        self.assertRaises(BadDocument, export, held, kind)
                        continue
                    made = export(held, kind)
                    upright = (216, 279) if held.job.job.rules == "na" else (210, 297)
                    self.assertTrue(sizes_mm(made.content) <= {upright, upright[::-1]})

    def test_the_same_dossier_makes_the_same_bytes(self) -> None:
        for kind in ("report", "labels", "tests"):
            self.assertEqual(export(report_data(), kind).content, export(report_data(), kind).content)

    def test_names_that_no_face_holds_or_that_look_like_markup_do_no_harm(self) -> None:
        name = 'Hob <b>&amp; "é" \u202e 窯 \x07=1+1'
        made = job(
            circuit(name=name, loads=(Load(name=name, kind="heater", power_w=3000.0, room="r"),)),
            job=JobInfo(title=name, site="<script>alert(1)</script>", client="${x}"),
            rooms=(Room(id="r", name="x" * 120),),
        )
        for kind in SHEETS:
            if kind != "before-after":
                text = whole(export(report_data(made, against=job(), against_title="x"), kind).content)
                with self.subTest(kind):
                    self.assertIn(plain('Hob<b>&amp;"é"'), text)
                    self.assertIn("▯=1+1", text)

    def test_stopping_one_leaves_nothing(self) -> None:
        def stop(done: int, _all: int, _what: str) -> None:
            if done > 3:
                raise Stopped

        self.assertRaises(Stopped, export, report_data(progress=stop), "report")

    def test_a_job_with_nothing_in_it_has_its_papers_all_the_same(self) -> None:
        bare = job().model_copy(update={"circuits": (), "boards": ()})
        for kind in SHEETS:
            if kind not in ("before-after", "comparison", "labels", "chart", "wiring"):
                self.assertGreater(export(report_data(bare), kind).pages, 0)


class Extremes(unittest.TestCase):
    """Jobs larger, longer and stranger than usual."""

    def test_eighty_circuits_of_two_hundred_metres_on_a_weak_and_a_strong_supply(self) -> None:
        for fault_ka in (0.3, 3.0, 16.0):
            many = [
                circuit(id=f"c{n}", name=f"Far heater {n}", run=(laid(200.0),))
                for n in range(80 if fault_ka == 16 else 12)
            ]
            made = job(*many[:40], supply=supply(fault_current_ka=fault_ka))
            ways = tuple(Way(number=n + 1, circuit=one.id) for n, one in enumerate(many))
            board = made.boards[0].model_copy(update={"ways": ways, "way_count": 100})
            held = report_data(packed(made.model_copy(update={"boards": (board,), "circuits": tuple(many)})))
            text = whole(export(held, "report").content)
            self.assertEqual(held.assessment.counts["fail"] > len(many), True)
            for one in held.by_subject["c11"]:
                self.assertIn(plain(str(one.sentence)), text)
            for kind in ("chart", "labels", "wiring", "material", "tests", "hand-over"):
                self.assertIn(plain(f"Far heater {len(many) - 1}"), whole(export(held, kind).content), kind)
            if fault_ka == 16:
                self.assertIn(plain("Breaking capacity"), text)
                self.assertEqual(
                    {one.verdict for one in held.by_subject["c1"] if one.check == "breaking-capacity"}, {"fail"}
                )

    def test_a_job_of_which_nothing_is_known_is_told_so_over_as_many_pages_as_it_takes(self) -> None:
        many = [
            circuit(
                id=f"c{n}",
                name=f"Unknown {n} " + "and more " * 8,
                run=(laid(None),),
                cable="auto",
                device="auto",
                notes="word " * 700,
            )
            for n in range(90)
        ]
        made = job(*many[:40])
        ways = tuple(Way(number=n + 1, circuit=one.id) for n, one in enumerate(many))
        board = made.boards[0].model_copy(update={"ways": ways, "way_count": 100})
        bare = supply().model_copy(
            update={"ze_ohm": None, "fault_current_ka": None, "cutout": None, "tails": None, "earthing": None}
        )
        held = report_data(
            made.model_copy(update={"boards": (board,), "circuits": tuple(many), "supply": bare}),
            against=job(),
            against_title="x",
        )
        for kind in SHEETS:
            if kind != "before-after":
                text = whole(export(held, kind).content)
                if kind in ("report", "material", "tests"):
                    self.assertIn(plain("Unknown 89"), text)
        self.assertNotIn(
            "pass", {one.verdict for one in held.by_subject["c5"] if one.check in ("voltage-drop", "disconnection")}
        )

    def test_one_paper_for_any_work_stands_once(self) -> None:
        text = whole(export(report_data("keepers-house"), "report").content)
        self.assertEqual(text.count(plain("its approval is the paper that stays")), 2)
        self.assertIn(plain("any work"), text)


class Report(unittest.TestCase):
    """The design report against the Assessment."""

    def test_every_finding_stands_in_it_with_its_figures(self) -> None:
        for name in ("millrace", "honey-house", "ferry-landing"):
            held = report_data(name)
            text = whole(export(held, "report").content)
            for one in held.assessment.findings:
                with self.subTest(name, check=one.check, of=one.subject.id):
                    self.assertIn(plain(str(one.sentence)), text)
                    if one.value is not None:
                        self.assertIn(plain(f"{one.shown_value} / {one.shown_limit} {one.unit}"), text)
                    for need in one.needs:
                        self.assertIn(plain(str(need.what)), text)

    def test_every_sum_stands_in_the_annex_step_by_step_with_its_source(self) -> None:
        held = report_data("millrace")
        text = whole(export(held, "report").content)
        annex = text[text.index("Annex:calculations") :]
        steps = [step for one in held.assessment.findings for step in one.working]
        self.assertGreater(len(steps), 400)
        for step in steps:
            self.assertIn(plain(f"{step.shown} {step.unit}"), annex)
            self.assertIn(plain(str(step.figures)), annex)
            if step.source is not None:
                self.assertIn(plain(step.source.publication), annex)
        self.assertIn("memory,high", annex)

    def test_what_is_from_memory_says_so_on_the_first_page(self) -> None:
        made = report_data()
        first = pages(export(made, "report").content)[0]
        self.assertIn("written down from memory", first)
        counts = {verdict: count for verdict, count in made.assessment.counts.items() if verdict != "not-applicable"}
        self.assertGreater(len(counts), 2)
        for count in counts.values():
            self.assertIn(f" {count} ", f" {first} ")


class Certificates(unittest.TestCase):
    """Which paper the work needs, by the standard's own rules."""

    def test_every_standard_names_one_for_every_kind_of_work_and_says_whom_to_tell(self) -> None:
        for standard in standard_ids():
            papers = rule_set(standard).papers
            for work in WORKS:
                self.assertTrue(papers.certificate(work).text, (standard, work))
                self.assertTrue(papers.certificate(work).source.publication)
            self.assertTrue(papers.notices_to_give, standard)

    def test_published_names_of_certificates(self) -> None:
        # BS 7671:2018+A2, 644 and Appendix 6.
        papers = rule_set("uk").papers
        self.assertIn("Electrical Installation Certificate", papers.certificate("new-installation").text)
        self.assertIn("Minor Electrical Installation Works Certificate", papers.certificate("alteration").text)
        self.assertIn("Condition Report", papers.certificate("inspection").text)
        # Electrical Installation Regulations 2009 (ZA); NZ Electricity (Safety) Regulations 2010.
        self.assertIn("certificate of compliance", rule_set("za").papers.certificate("new-circuit").text)
        self.assertIn("CoC", rule_set("anz-nz").papers.certificate("new-circuit").text)

    def test_insulation_is_tested_at_500_v_with_a_megohm_at_least(self) -> None:
        # BS 7671 Table 64; IEC 60364-6 Table 6.1; AS/NZS 3000, 8.3.6.
        for standard in standard_ids():
            test = rule_set(standard).papers.insulation
            self.assertEqual((test.volts, test.least_mohm), (500.0, 1.0), standard)

    def test_the_sheet_says_which_one_this_work_needs_or_asks(self) -> None:
        made = job(paperwork=WorkDetails(kind="board-replaced"))
        text = whole(export(report_data(made), "report").content)
        self.assertIn(plain("Certificate with schedules for all circuits connected"), text)
        self.assertNotIn("MinorElectrical", text)
        unsaid = whole(export(report_data(job()), "report").content)
        self.assertIn(plain("Type of work not stated yet"), unsaid)
        self.assertIn("MinorElectrical", unsaid)


class TestSheets(unittest.TestCase):
    """What a meter should read, beside where it is written."""

    def test_expected_readings_are_those_of_the_assessment(self) -> None:
        for name in DEMOS:
            held = report_data(name)
            text = whole(export(held, "tests").content)
            for one in expected(held.network):
                row = held.figures[one.circuit]
                self.assertEqual((one.r1r2_ohm, one.zs_cold_ohm), (row.r1r2_ohm, row.zs_cold_ohm))
                self.assertIn(plain(f"{one.way} {one.name}"), text)
                self.assertIn(one.shown_r1r2(), text)
                self.assertIn(plain(one.shown_zs() + one.shown_most()), text)

    def test_three_lines_are_tested_for_their_sequence_and_an_electrode_for_its_resistance(self) -> None:
        for name, said, there in (
            ("organ-loft", "Phase sequence", True),
            ("millrace", "Phase sequence", False),
            ("ferry-landing", "Earth electrode", True),
            ("millrace", "Earth electrode", False),
        ):
            self.assertEqual(plain(said) in whole(export(report_data(name), "tests").content), there, (name, said))

    def test_each_board_has_the_largest_current_that_may_flow_at_it(self) -> None:
        held = report_data("millrace")
        text = whole(export(held, "tests").content)
        for board in held.assessment.boards:
            largest = max(one.fault_ka or 0.0 for one in held.expected if one.board == board.board)
            self.assertAlmostEqual(largest, max(board.fault_neutral_ka or 0.0, board.fault_lines_ka or 0.0), places=9)
            self.assertIn(
                plain(f"Maximum prospective fault current at this board: {shown_up(largest)} kA by design"), text
            )

    def test_readings_in_force_fill_the_sheets(self) -> None:
        rows = (
            "ze,supply,0.27",
            "r1r2,Oven,0.28",
            "ir_le,Oven,>200",
            "ir_le,Kiln,0.4",
            "rcd_1,Oven,28",
            "zs,Oven,0.9",
            "pol,Oven,ok",
        )
        made = with_rows(demo_job("millrace"), *rows)
        readings = tuple(
            each.model_copy(update={"by": "E. Weir", "at": "2026-11-30T09:10"}) for each in made.testing.readings
        )
        instrument = Instrument(id="t1", name="Heron tester", serial="1234", calibrated_on="2026-03-01")
        made = made.model_copy(update={"testing": Testing(readings=readings, instruments=(instrument,))})
        text = whole(export(report_data(made), "tests").content)
        for said in (
            "0.27 Ω",
            "> 200 MΩ",
            "28 ms",
            "Readings to look at",
            "0.4 MΩ (minimum 1 MΩ)",
            "Far above the design",
            "E. Weir",
            "Heron tester, no. 1234, calibrated 2026-03-01",
        ):
            self.assertIn(plain(said), text, said)
        # What is expected stays that of the design.
        self.assertEqual(
            [one.r1r2_ohm for one in report_data(made).expected],
            [one.r1r2_ohm for one in report_data("millrace").expected],
        )

    def test_a_missing_length_is_asked_for_and_never_a_figure(self) -> None:
        held = report_data(job(circuit(run=(laid(None),))))
        self.assertIn(plain("length of Heater"), whole(export(held, "tests").content))
        [one] = held.expected
        self.assertEqual((one.r1r2_ohm, one.zs_cold_ohm, one.shown_r1r2()), (None, None, "?"))


class OtherSheets(unittest.TestCase):
    """Chart, hand-over, surge, comparison."""

    def test_the_chart_lists_every_way_and_every_room_with_its_ways(self) -> None:
        held = report_data("millrace")
        text = whole(export(held, "chart", "mill").content)
        for line in held.chart("mill"):
            self.assertIn(plain(f"{line.way} {line.text} {line.device}"), text)
        # The feeder of the studio counts for the studio's rooms.
        self.assertIn(plain("Kiln room"), text)
        self.assertIn(plain("12 Studio board"), text)

    def test_the_client_reads_what_goes_dark_with_what_and_whom_to_call(self) -> None:
        text = whole(export(report_data("lamp-cottage"), "hand-over").content)
        for line in report_data("lamp-cottage").chart("main" if "main" in report_data("lamp-cottage").network.tree.boards else
                                                 report_data("lamp-cottage").job.boards[0].id):  # fmt: skip
            self.assertIn(plain(line.text), text)
        self.assertIn(plain("Press the test button"), text)
        self.assertIn("…………", text)
        known_ = whole(export(report_data("millrace"), "hand-over").content)
        self.assertIn(plain("Sample Electrics (invented) Telephone 01632 960 014"), known_)
        self.assertIn(plain("all 4 switches of Studio board lose power with it"), known_)

    def test_a_shared_rcd_names_everything_that_goes_dark_with_its_button(self) -> None:
        far = (circuit(id="a", name="Lamps", device=mcb(6.0)), circuit(id="b", name="Sockets", device=mcb(16.0)))
        made = two_boards(None, *far)
        sub = made.boards[1]
        group = {"id": "r1", "name": "RCD 1", "rating_a": 63.0, "rcd": {"idn_ma": 30.0}}
        ways = tuple(way.model_copy(update={"rcd": "r1"}) for way in sub.ways)
        changed = type(sub).model_validate(sub.model_dump() | {"shared_rcds": (group,), "ways": ways})
        made = made.model_copy(update={"boards": (made.boards[0], changed)})
        text = whole(export(report_data(made), "hand-over").content)
        self.assertIn(plain("Sub-board RCD 1 Lamps, Sockets"), text)
        self.assertIn(plain("trips together with everything behind RCD 1"), text)

    def test_surge_declined_is_written_down_with_who_when_why(self) -> None:
        text = whole(export(report_data(job()), "surge").content)
        self.assertIn(plain("Surge protection declined in writing The owner, 2026-09-12: loss would be borne"), text)

    def test_the_comparison_says_what_turned_and_what_differs(self) -> None:
        before, after = job(circuit(run=(laid(60.0),))), job(circuit(run=(laid(20.0),)))
        text = whole(export(report_data(after, against=before, against_title="revision 1"), "comparison").content)
        self.assertIn(plain("Heater: 60 → 20 m"), text)
        self.assertIn("better", text)
        same = whole(export(report_data(after, against=after, against_title="itself"), "comparison").content)
        self.assertIn(plain("No check result changes"), same)
        self.assertRaises(BadDocument, export, report_data(after), "comparison")
        # What is there in one of the two only is neither better nor worse.
        other = job(circuit(id="c7", name="Kiln"))
        turned = compare(after, other).changed
        self.assertEqual({one.better for one in turned if one.subject.id in ("c1", "c7")}, {None})
        text = whole(export(report_data(other, against=after, against_title="x"), "comparison").content)
        self.assertTrue("new" in text and "gone" in text and "worse" not in text)

    def test_before_and_after_gains_nothing_from_a_board_that_is_not_there(self) -> None:
        text = whole(export(report_data("bakehouse"), "before-after").content)
        self.assertIn(plain("Not transferred yet"), text)
        self.assertNotIn(plain("A fault takes 0 circuits"), text)

    def test_photos_of_the_old_board_stand_beside_what_was_seen(self) -> None:
        board = demo_job("bakehouse").survey.boards[0].id
        photos = tuple(
            pictured(shade, board=name, way=way, caption=caption)
            for shade, name, way, caption in (
                (10, board, 3, "burnt clamp"),
                (20, board, None, ""),
                (30, "elsewhere", 1, "not shown"),
            )
        )
        made = export(report_data("bakehouse", photos), "before-after").content
        text = whole(made)
        self.assertEqual(pictures(made), 2)
        self.assertIn(plain("way 3: burnt clamp"), text)
        self.assertIn(plain("board: no caption"), text)
        self.assertNotIn(plain("not shown"), text)

    def test_wiring_lists_every_conductor_once_with_its_ends(self) -> None:
        held = report_data("millrace")
        text = whole(export(held, "wiring", "studio").content)
        wiring = Installation.of(held.job, held.network.rules).boards["studio"].whole_wiring()
        for one in wiring.conductors:
            if one.kind != "plug":
                self.assertIn(plain(f"{one.start.text}{one.end.text}"), text)
        lacking = whole(export(report_data(job()), "wiring").content)
        self.assertIn(plain("No wiring list yet"), lacking)


if __name__ == "__main__":
    unittest.main()
