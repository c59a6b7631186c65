"""The bench: what is stopped in every state, what each act does, the score, and an attempt replayed.

What is stopped is stated here again from the safety law's order of work: off, locked, indicator proved, tested, indicator proved again.
"""

from __future__ import annotations

import random
import unittest
from typing import get_args

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.training.test_boards import STANDARDS, sound, with_defect
from vivid_lattice.core.document.readings import ReadingSubject
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.training.acts import (
    Act,
    Connect,
    Detector,
    DisconnectNeutral,
    EarthingConductor,
    Finish,
    Hint,
    Link,
    LinkAtBoard,
    Lock,
    Look,
    Measure,
    Name,
    NullLeads,
    Open,
    ProveDead,
    ProveIndicator,
    Shortcut,
    ShortcutKind,
    Switch,
    TakeOff,
    Tell,
)
from vivid_lattice.core.training.bench import TOUCH_V, Bench
from vivid_lattice.core.training.boards import HiddenDefect, TrainingBoard, circuits_of
from vivid_lattice.core.training.draw_board import board_with, training_board
from vivid_lattice.core.training.leads import DEAD, Function, Point, connection_of, link_of, tests_made
from vivid_lattice.core.training.policies import MOST_TESTS, tests_at_random, tests_by_expert
from vivid_lattice.core.training.replay import replay, revealed
from vivid_lattice.core.training.score import score_of
from vivid_lattice.core.training.screening import all_tests
from vivid_lattice.core.training.session import Attempt, BoardSpec, board_of, play
from vivid_lattice.core.training.shown import middle_of, places_accepted
from vivid_lattice.core.training.sound_boards import possible_places, sound_board
from vivid_lattice.core.training.training_rules import ENDS_AT, PASS_SAFETY, board_lines, stays_live, stopped

D = "common.defect."
FUNCTIONS, POINTS = get_args(Function), get_args(Point)
INSULATION = ("ir_ln", "ir_le", "ir_ne", "ir_cc", "ir_selv")


def of(circuit: str) -> ReadingSubject:
    return ReadingSubject(kind="circuit", id=circuit)


def make_dead(circuit: str, device: str | None = None) -> list[Act]:
    at = circuit if device is None else device
    return [Switch(device=at, on=False), Lock(device=at), ProveIndicator(), ProveDead(circuit=circuit), ProveIndicator()]  # fmt: skip


def back(circuit: str) -> list[Act]:
    return [
        TakeOff(circuit=circuit, off=False), Open(circuit=circuit, opened=False), Lock(device=circuit, locked=False),
        Switch(device=circuit, on=True),
    ]  # fmt: skip


class Truth:
    """What is really so at a board, kept beside the bench: from the acts alone."""

    def __init__(self, bench: Bench):
        self.bench = bench
        self.all = [each.id for each in bench.board.job.circuits]
        board = bench.board
        hidden = {(each.id.removeprefix(D), each.circuit) for each in board.hidden}
        #: By the nature of the defect: its line comes from another breaker too; or from before the shared device.
        self.fed_elsewhere = {
            c for id_, c in hidden if id_ in ("circuit-other-breaker", "two-feeds", "ring-two-ways", "ring-legs-mixed")
        }
        self.not_behind = {c for id_, c in hidden if id_ in ("line-ahead", "circuit-not-behind-rcd")}
        self.off: set[str] = set()
        self.locked: set[str] = set()
        #: Circuits that were tested dead between two proofs of the indicator, and have had no supply since.
        self.proved: set[str] = set()
        self.apart: set[str] = set()
        self.told = False
        #: The shared device before each circuit, from the job.
        self.shared = {way.circuit: f"main:{way.rcd}" for way in board.job.boards[0].ways if way.rcd is not None}

    def before(self, circuit: str) -> set[str]:
        return {"", circuit} | ({self.shared[circuit]} if circuit in self.shared else set())

    def dead(self, circuit: str) -> bool:
        if circuit in self.fed_elsewhere:
            return "" in self.off
        before = {"", circuit} if circuit in self.not_behind else self.before(circuit)
        return bool(before & (self.off | self.bench.tripped))

    def locked_off(self, circuit: str) -> bool:
        return bool(self.before(circuit) & self.off & self.locked)

    def after(self, act: Act) -> None:
        if isinstance(act, Switch) and act.device not in self.locked:
            (self.off.discard if act.on else self.off.add)(act.device)
        if isinstance(act, Lock):
            if not act.locked:
                self.locked.discard(act.device)
            elif act.device in self.off:
                self.locked.add(act.device)
        self.told = self.told or isinstance(act, Tell)
        if isinstance(act, TakeOff):
            (self.apart.add if act.off else self.apart.discard)(act.circuit)
        self.proved &= {each for each in self.all if self.dead(each)}


@st.composite
def attempts(draw: st.DrawFn) -> tuple[str, int, int, list[Act]]:
    """A board and up to 60 acts on it, in any order."""
    standard = draw(st.sampled_from(STANDARDS))
    level, number = draw(st.integers(1, 4)), draw(st.integers(0, 40))
    board = training_board(standard, level, number)
    circuits = [each.id for each in board.job.circuits]
    rng = random.Random(draw(st.integers(0, 10**6)))
    acts: list[Act] = []
    for _ in range(draw(st.integers(1, 60))):
        circuit, device = rng.choice(circuits), rng.choice(["", *circuits, *board.groups])
        test = rng.choice(board.plan.tests)
        acts += rng.choice(
            [
                [Switch(device=device, on=rng.random() < 0.5)], [Lock(device=device, locked=rng.random() < 0.7)],
                [ProveIndicator()], [ProveDead(circuit=circuit)], [Open(circuit=circuit, opened=rng.random() < 0.6)],
                [TakeOff(circuit=circuit, off=rng.random() < 0.6)], [Measure(test=test.test, subject=test.subject)],
                [Connect(function=rng.choice(FUNCTIONS), first=rng.choice(POINTS), second=rng.choice(POINTS), at=circuit)],
                make_dead(circuit), make_dead(circuit, ""), back(circuit), [Look(circuit=circuit)],
                [NullLeads()], [Hint()], [Tell()], [LinkAtBoard(circuit=circuit, link=rng.choice(get_args(Link)))],
                [DisconnectNeutral(circuit=circuit, off=rng.random() < 0.6)], [EarthingConductor(off=rng.random() < 0.6)],
                [ProveDead(circuit=circuit, by=rng.choice(get_args(Detector)))],
                [Shortcut(what=rng.choice(get_args(ShortcutKind)))],
            ]
        )  # fmt: skip
    return standard, level, number, acts


class Stopped(unittest.TestCase):
    """On every board, in every state."""

    @settings(max_examples=250, deadline=None)
    @given(attempts())
    def test_unsafe_acts_are_stopped_in_every_state(self, made: tuple[str, int, int, list[Act]]) -> None:
        standard, level, number, acts = made
        bench = Bench(board=training_board(standard, level, number))
        truth = Truth(bench)
        before_proof: set[str] = set()
        for act in acts:
            metal_live = bench.metal_live
            refused = bench.do(act).refused
            if metal_live and isinstance(act, Measure | Open | ProveDead | DisconnectNeutral | EarthingConductor):
                self.assertTrue(
                    refused == "pen-open" or not (getattr(act, "off", True) and getattr(act, "opened", True))
                )
                continue
            self.of_the_board(truth, act, refused)
            if isinstance(act, Measure) and not TRAITS[act.test].live and act.test != "insp":
                circuits = [act.subject.id] if act.subject.kind == "circuit" else []
                for circuit in circuits:
                    if not (truth.dead(circuit) and circuit in truth.proved and truth.locked_off(circuit)):
                        self.assertIn(refused, ("dead-test-live", "no-lock"), act)
                    elif act.test in INSULATION and circuit not in truth.apart:
                        self.assertEqual(refused, "insulation-electronics")
                    elif act.test in INSULATION and not truth.told:
                        self.assertEqual(refused, "insulation-person")
                if act.subject.kind in ("supply", "board", "electrode") and not {""} <= truth.off & truth.locked:
                    self.assertEqual(refused, "dead-test-live")
            if isinstance(act, Measure) and act.test.startswith("rcd_") and act.test in TRAITS and not truth.told:
                self.assertIn(refused, ("rcd-test-consequence", "loop-no-earth"))
            at = act.at if isinstance(act, Connect) and act.function in DEAD else ""
            if at and not (truth.dead(at) and at in truth.proved and truth.locked_off(at)):
                self.assertIn(refused, ("dead-test-live", "no-lock"), act)
            if (
                isinstance(act, Open)
                and act.opened
                and not (act.circuit in truth.proved and truth.locked_off(act.circuit))
            ):
                self.assertIn(refused, ("no-proof", "no-lock"))
            if isinstance(act, TakeOff) and act.off and act.circuit not in truth.proved:
                self.assertIn(refused, ("no-proof", "no-lock"))
            if refused:
                self.assertIn(refused, stopped())
                continue
            if isinstance(act, ProveIndicator):
                truth.proved |= before_proof
                before_proof = set()
            if isinstance(act, ProveDead) and truth.dead(act.circuit):
                before_proof.add(act.circuit)
            truth.after(act)
            before_proof &= {each for each in truth.all if truth.dead(each)}
            if isinstance(act, Switch) and act.on:
                on = [each for each in truth.all if not truth.dead(each)]
                self.assertEqual([each for each in on if each in bench.links or bench.is_apart(each)], [])
                self.assertFalse(on and bench.earth_off)
            # what has supply is never taken for dead
            self.assertEqual([each for each in bench.proved if bench.is_on(each)], [])

    def of_the_board(self, truth: Truth, act: Act, refused: str) -> None:
        """What is done behind the cover of the board, and what is never right."""
        if isinstance(act, Shortcut):
            self.assertEqual(refused, act.what)
        if isinstance(act, ProveDead) and act.by != "two-pole":
            self.assertEqual(refused, "one-pole-indicator")
        others = {each.id for each in truth.bench.board.job.circuits if each.source is not None}
        other_on = not others <= truth.off & truth.locked
        if isinstance(act, DisconnectNeutral) and act.off:
            if not (truth.before(act.circuit) - {act.circuit}) & truth.off:
                self.assertEqual(refused, "neutral-lift-live")
            elif other_on:
                self.assertEqual(refused, "other-supply")
        whole = {""} <= truth.off & truth.locked
        if isinstance(act, EarthingConductor) and act.off and (other_on or not whole):
            self.assertIn(refused, ("other-supply", "earth-off-live", "step-potential"))
        if isinstance(act, LinkAtBoard) and act.link != "none":
            if other_on:
                self.assertEqual(refused, "other-supply")
            elif act.circuit not in truth.proved or not truth.locked_off(act.circuit):
                self.assertIn(refused, ("no-lock", "no-proof"))

    def refused(self, bench: Bench, *acts: Act) -> list[str]:
        return [bench.do(act).refused for act in acts]

    def test_a_dead_test_in_the_right_order_is_done_in_every_standard(self) -> None:
        for standard in STANDARDS:
            bench = Bench(board=sound(standard, 0))
            circuit = bench.board.job.circuits[0].id
            acts = [
                *make_dead(circuit),
                Open(circuit=circuit),
                TakeOff(circuit=circuit),
                Tell(),
                Measure(test="ir_le", subject=of(circuit)),
            ]
            self.assertEqual(set(self.refused(bench, *acts)), {""}, standard)
            self.assertEqual(bench.stopped, [])

    def test_each_step_that_is_left_out_is_stopped(self) -> None:
        test = Measure(test="r2", subject=of("c1"))
        for left_out, why in (
            (0, "dead-test-live"),
            (1, "no-lock"),
            (2, "indicator-not-proved"),
            (3, "dead-test-live"),
            (4, "dead-test-live"),
        ):
            acts = make_dead("c1")
            del acts[left_out]
            bench = Bench(board=sound("uk", 0))
            self.assertIn(why, self.refused(bench, *acts, test), left_out)
            self.assertEqual(bench.done, [])

    def test_supply_that_comes_back_takes_the_proof_away(self) -> None:
        bench = Bench(board=sound("iec", 0))
        self.refused(bench, *make_dead("c1"), Lock(device="c1", locked=False), Switch(device="c1", on=True), Switch(device="c1", on=False), Lock(device="c1"))  # fmt: skip
        self.assertEqual(self.refused(bench, Measure(test="ir_le", subject=of("c1"))), ["dead-test-live"])

    def test_a_chart_that_names_another_breaker_is_found_by_the_indicator(self) -> None:
        board = board_with("anz", [D + "circuit-other-breaker"], 3)
        circuit = board.hidden[0].circuit
        bench = Bench(board=board)
        said = [str(bench.do(act).said) for act in make_dead(circuit)]
        self.assertIn("The indicator lights: still live.", said)
        self.assertEqual(self.refused(bench, Open(circuit=circuit)), ["no-proof"])
        self.assertEqual(set(self.refused(bench, Switch(on=False), Lock(), ProveIndicator(), ProveDead(circuit=circuit), ProveIndicator(), Open(circuit=circuit))), {""})  # fmt: skip
        bench.do(Lock(locked=False))
        self.assertEqual(self.refused(bench, Switch(on=True)), ["not-put-back"], "open, and fed by another breaker")
        # with the main switch on again it has supply, whatever its own breaker says
        self.refused(bench, Open(circuit=circuit, opened=False), Lock(locked=False), Switch(on=True))
        self.assertNotIn(circuit, bench.proved)

    def test_a_short_is_not_switched_on_a_second_time(self) -> None:
        board = board_with("uk", [D + "temporary-short"], 1)
        circuit = board.hidden[0].circuit
        bench = Bench(board=board)
        bench.do(Switch(device=circuit, on=False))
        self.assertEqual(bench.do(Switch(device=circuit, on=True)).tripped, (circuit,))
        self.assertFalse(bench.is_on(circuit))
        self.assertEqual(bench.do(Switch(device=circuit, on=True)).refused, "reset-again")

    def test_nothing_is_energised_open_or_before_its_dead_tests_pass(self) -> None:
        bench = Bench(board=sound("uk", 0))
        self.refused(bench, *make_dead("c3"), Open(circuit="c3"), Lock(device="c3", locked=False))
        self.assertEqual(bench.do(Switch(device="c3", on=True)).refused, "not-put-back")
        bench.do(Open(circuit="c3", opened=False))
        bench.do(Lock(device="c3"))
        bench.do(Measure(test="r1r2", subject=of("c3")))
        bench.do(Lock(device="c3", locked=False))
        self.assertEqual(bench.do(Switch(device="c3", on=True)).refused, "live-before-dead")

    def test_with_its_dead_tests_passed_it_is_energised_in_every_standard(self) -> None:
        for standard in STANDARDS:
            board = sound(standard, 0)
            circuit = board.job.circuits[0].id
            bench = Bench(board=board)
            dead = [each for each in board.plan.tests if each.subject == of(circuit) and not each.live]
            acts = [
                *make_dead(circuit), Open(circuit=circuit), TakeOff(circuit=circuit), Tell(),
                *(Measure(test=each.test, subject=each.subject) for each in dead), *back(circuit),
            ]  # fmt: skip
            self.assertEqual(set(self.refused(bench, *acts)), {""}, standard)
            self.assertTrue(bench.is_on(circuit))

    def test_low_insulation_is_not_energised(self) -> None:
        board = with_defect(sound("uk", 0), sound("uk", 0).known[D + "ir-damage-le"], "c2")
        bench = Bench(board=board)
        dead = [
            Measure(test=each.test, subject=each.subject)
            for each in board.plan.tests
            if each.subject == of("c2") and not each.live
        ]
        said = self.refused(bench, *make_dead("c2"), TakeOff(circuit="c2"), Tell(), *dead, *back("c2"))
        self.assertEqual(said[-1], "live-before-dead")

    def test_a_device_whose_test_opens_it_takes_the_supply_away_until_it_is_closed(self) -> None:
        for standard in STANDARDS:
            board = sound(standard, 0)
            test = next(each for each in board.plan.tests if each.test in ("rcd_1", "rcd_ramp"))
            circuit = circuits_of(board, test.subject)[0]
            bench = Bench(board=board)
            bench.do(Tell())
            done = bench.do(Measure(test=test.test, subject=test.subject))
            self.assertEqual((done.tripped, bench.is_on(circuit)), ((circuit,), False), standard)
            self.assertEqual(bench.do(Measure(test=test.test, subject=test.subject)).reading, "")
            bench.do(Switch(device=circuit, on=True))
            self.assertTrue(bench.is_on(circuit))
        stuck = with_defect(sound("uk", 0), sound("uk", 0).known[D + "rcd-stuck"], "c2")
        bench = Bench(board=stuck)
        bench.do(Tell())
        done = bench.do(Measure(test="rcd_1", subject=ReadingSubject(kind="rcd", id="c2")))
        self.assertEqual((done.reading, bench.is_on("c2")), ("did not trip", True))

    def test_a_board_with_a_short_is_found_with_that_device_open(self) -> None:
        board = board_with("uk", [D + "temporary-short"], 1)
        bench = Bench(board=board)
        self.assertEqual(bench.tripped, {board.hidden[0].circuit})
        self.assertEqual(Bench(board=sound("uk", 0)).tripped, set())

    def test_no_loop_test_after_no_earth(self) -> None:
        board = with_defect(sound("uk", 0), sound("uk", 0).known[D + "open-cpc"], "c2")
        bench = Bench(board=board)
        self.refused(bench, *make_dead("c2"), Measure(test="r2", subject=of("c2")))
        self.assertEqual(bench.do(Measure(test="zs", subject=of("c2"))).refused, "loop-no-earth")

    def test_a_danger_of_the_whole_installation_is_not_left_live(self) -> None:
        board = sound("uk", 0)
        danger = next(each for each in board.known.values() if each.danger == "now" and each.scope == "installation")
        bench = Bench(board=board)
        self.assertEqual(self.refused(bench, Name(defect=danger.id), Finish()), ["", "leave-dangerous"])
        self.assertEqual(self.refused(bench, Switch(on=False), Finish()), ["", ""])

    def test_a_circuit_that_is_not_there_is_told(self) -> None:
        bench = Bench(board=sound("uk", 0))
        for act in (Switch(device="zz", on=True), ProveDead(circuit="zz"), Measure(test="zs", subject=of("zz"))):
            with self.assertRaises(NotPossible):
                bench.do(act)

    def test_three_that_can_kill_end_it(self) -> None:
        acts: list[Act] = [Measure(test="r2", subject=of("c1"))] * (ENDS_AT + 2)
        played = play(Attempt(board=BoardSpec(), acts=tuple(acts)))
        self.assertEqual((len(played.outcomes), played.ended), (ENDS_AT, True))
        assert played.score is not None
        self.assertTrue(played.score.safety == 0 and not played.score.passed)

    def test_each_test_of_a_plan_is_made_by_its_function_and_its_points_and_by_no_other(self) -> None:
        for standard in STANDARDS:
            for which in range(2):
                board, made = sound(standard, which), 0
                for test in board.plan.tests:
                    leads = connection_of(test.test)
                    if leads is None:
                        self.assertFalse(test.test.startswith(("ir_", "zs", "r1", "rcd_1")), test.test)
                        continue
                    at = "" if test.subject.kind == "supply" else circuits_of(board, test.subject)[0]
                    found = [
                        each
                        for each in tests_made(board, leads[0], *leads[1], at)
                        if link_of(each.test) == link_of(test.test)
                    ]
                    self.assertEqual([each.id for each in found], [test.id], standard)
                    made += 1
                self.assertGreater(made, 8)

    def test_leads_read_what_the_test_reads_and_are_stopped_where_it_is(self) -> None:
        by_leads, by_test = Bench(board=sound("iec", 0)), Bench(board=sound("iec", 0))
        leads = Connect(function="insulation", first="earth", second="line", at="c1")
        test = Measure(test="ir_le", subject=of("c1"))
        self.assertEqual((by_leads.do(leads).refused, by_test.do(test).refused), ("dead-test-live", "dead-test-live"))
        for act in (*make_dead("c1"), TakeOff(circuit="c1"), Tell()):
            by_leads.do(act)
            by_test.do(act)
        self.assertEqual(by_leads.do(leads).reading, by_test.do(test).reading)
        self.assertEqual(by_leads.done, by_test.done)

    def test_points_that_tell_nothing_count_no_test_and_are_stopped_on_a_live_circuit_too(self) -> None:
        bench = Bench(board=sound("uk", 0))
        odd = Connect(function="continuity", first="line", second="main-earth", at="c2")
        self.assertEqual(bench.do(odd).refused, "dead-test-live")
        for act in make_dead("c2"):
            bench.do(act)
        self.assertIn("tell nothing here", str(bench.do(odd).said))
        self.assertEqual(bench.done, [])

    def test_leads_that_are_not_nulled_add_their_own(self) -> None:
        def reading(*first: Act) -> float:
            bench = Bench(board=sound("uk", 0))
            for act in (*make_dead("c2"), *first):
                bench.do(act)
            return float(bench.do(Measure(test="r2", subject=of("c2"))).reading)

        self.assertAlmostEqual(reading() - reading(NullLeads()), 0.14, delta=0.011)


def shared_board(standard: str, *hidden: tuple[str, str], level: int = 2) -> TrainingBoard:
    """A board with shared residual-current devices, with defects by their short names and circuits."""
    which = next(n for n, each in enumerate(board_lines(standard)) if each.rcds)
    board = sound_board(standard, which).with_hidden(level=level, number=1)
    made = tuple(HiddenDefect(D + id_, circuit, middle_of(board.known[D + id_])) for id_, circuit in hidden)
    return board.with_hidden(*made)


class Shared(unittest.TestCase):
    """Boards with a residual-current device for several circuits."""

    def test_they_are_there_in_every_standard_that_has_them_with_breakers_behind(self) -> None:
        for standard in ("uk", "iec", "anz", "za"):
            board = shared_board(standard)
            self.assertEqual(len(board.groups), 2)
            self.assertEqual(
                sorted(each for group in board.groups.values() for each in group),
                sorted(each.id for each in board.job.circuits),
            )
            for each in board.job.circuits:
                self.assertIsNone(getattr(each.device, "rcd", None), (standard, each.name))

    def test_a_fault_to_earth_takes_the_whole_group_and_a_short_its_own_breaker(self) -> None:
        for standard in ("uk", "iec", "anz", "za"):
            board = shared_board(standard, ("ne-fault", "c1"))
            name = next(each for each, group in board.groups.items() if "c1" in group)
            bench = Bench(board=board)
            self.assertEqual(bench.tripped, {name})
            self.assertEqual({each for each in bench.circuits if not bench.is_on(each)}, set(board.groups[name]))

    def test_insulation_trips_by_what_flows_through_it(self) -> None:
        """230 V over 20 kΩ is 11.5 mA, over 5 kΩ 46 mA; a sound 30 mA device opens from 15 mA to 30 mA: Ohm's law, IEC 61008-1."""
        for mohm, trips in ((0.02, set()), (0.005, {"main:r2"})):
            hidden = HiddenDefect(D + "ir-damage-le", "c2", {"Rf": mohm})
            self.assertEqual(Bench(board=shared_board("uk").with_hidden(hidden)).tripped, trips)
        between = HiddenDefect(D + "ir-damage-ln", "c2", {"Rf": 0.0005})
        self.assertEqual(Bench(board=shared_board("uk").with_hidden(between)).tripped, set())

    def test_it_trips_though_that_breaker_is_off_until_the_neutral_is_lifted(self) -> None:
        """A fault between neutral and earth is not switched by a one-pole breaker: common practice, no source."""
        board = shared_board("uk", ("ne-fault", "c1"))
        name = next(each for each, group in board.groups.items() if "c1" in group)
        bench = Bench(board=board)
        for act in (Switch(device="c1", on=False), Switch(device=name, on=True)):
            last = bench.do(act)
        self.assertEqual((last.refused, last.tripped), ("", (name,)))

    def test_a_group_is_tested_as_one_and_its_test_takes_all_of_it(self) -> None:
        board = shared_board("iec")
        test = next(each for each in board.plan.tests if each.test == "rcd_1")
        group = circuits_of(board, test.subject)
        self.assertEqual(len(group), 2)
        bench = Bench(board=board)
        bench.do(Tell())
        bench.do(Measure(test="rcd_1", subject=test.subject))
        self.assertEqual({each for each in bench.circuits if not bench.is_on(each)}, set(group))

    def test_what_only_the_shared_device_tells_may_be_named_at_any_of_its_circuits(self) -> None:
        board = shared_board("uk", ("rcd-stuck", "c1"))
        self.assertEqual(places_accepted(board, board.hidden[0]), {"c1", "c4"})
        own = shared_board("uk", ("ir-damage-le", "c1"))
        self.assertEqual(places_accepted(own, own.hidden[0]), {"c1"})

    def test_insulation_of_a_neutral_on_its_bar_reads_all_that_are_on_it(self) -> None:
        board = shared_board("uk", ("ir-damage-ne", "c4"))
        name = next(each for each, group in board.groups.items() if "c1" in group)
        bench = Bench(board=board)
        test = Measure(test="ir_ne", subject=of("c1"))
        first = [Switch(device="c1", on=False), Tell(), *make_dead("c1", name), TakeOff(circuit="c1")]
        self.assertEqual({bench.do(act).refused for act in first}, {""})
        with_others = float(bench.do(test).reading)
        self.assertEqual(bench.do(DisconnectNeutral(circuit="c1")).refused, "")
        alone = bench.do(test).reading
        self.assertLess(with_others, 20)
        self.assertGreater(float(alone.lstrip(">")), 100)


class AtTheBoard(unittest.TestCase):
    """Links, neutrals, the earthing conductor, other supplies: what each does, and what is stopped."""

    def done(self, bench: Bench, *acts: Act) -> list[str]:
        return [bench.do(act).refused for act in acts]

    def test_continuity_reads_open_until_its_link_is_in_and_insulation_a_short_while_it_is(self) -> None:
        bench = Bench(board=sound("uk", 0).with_hidden(level=2))
        leads = Connect(function="continuity", first="line", second="earth", at="c2")
        self.assertEqual(set(self.done(bench, NullLeads(), Tell(), *make_dead("c2"), TakeOff(circuit="c2"))), {""})
        self.assertEqual(bench.do(leads).reading, "OL")
        self.assertEqual(bench.do(LinkAtBoard(circuit="c2", link="line-earth")).refused, "")
        expected = next(each for each in bench.board.plan.tests if each.test == "r1r2" and each.subject.id == "c2")
        assert expected.expected.value is not None
        self.assertAlmostEqual(float(bench.do(leads).reading), expected.expected.value, delta=0.05)
        insulation = Connect(function="insulation", first="line", second="earth", at="c2")
        self.assertEqual(bench.do(insulation).reading, "0.00")
        bench.do(LinkAtBoard(circuit="c2"))
        self.assertGreater(float(bench.do(insulation).reading.lstrip(">")), 100)

    def test_a_reading_without_its_link_passes_nothing_and_is_no_evidence(self) -> None:
        board = shared_board("iec", ("joint-cpc", "c2"))
        circuit = of("c2")
        dead = [each for each in board.plan.tests if each.subject == circuit and not each.live]
        read = [Measure(test=each.test, subject=each.subject) for each in dead]
        first = [NullLeads(), Tell(), *make_dead("c2"), TakeOff(circuit="c2")]
        bench = Bench(board=board)
        self.assertEqual(set(self.done(bench, *first, *read)), {""})
        self.assertEqual(self.done(bench, *back("c2"))[-1], "live-before-dead")
        self.assertEqual(score_of(bench).evidence, 0)
        self.done(bench, Lock(device="c2"), TakeOff(circuit="c2"))
        for link in ("line-earth", "line-neutral", "none"):
            self.assertEqual(set(self.done(bench, LinkAtBoard(circuit="c2", link=link), *read)), {""})
        self.assertEqual(self.done(bench, *back("c2"))[-1], "", "read with their links, they pass")
        bench.do(Name(defect=D + "joint-cpc", circuit="c2"))
        self.assertGreater(score_of(bench).evidence, 0)

    def test_a_ring_is_read_crossed_as_its_link_is(self) -> None:
        bench = Bench(board=sound("uk", 0).with_hidden(level=2))
        self.done(bench, NullLeads(), *make_dead("c1"))
        for link, second, test in (("crossed-neutral", "neutral", "x_ln"), ("crossed-earth", "earth", "x_le")):
            bench.do(LinkAtBoard(circuit="c1", link=link))
            bench.do(Connect(function="continuity", first="line", second=second, at="c1"))
            self.assertEqual(bench.done[-1].test, test)

    def test_nothing_is_energised_with_a_link_a_lifted_neutral_or_the_earth_off(self) -> None:
        for left, put_back, why in (
            (LinkAtBoard(circuit="c2", link="line-earth"), LinkAtBoard(circuit="c2"), "link-left"),
            (DisconnectNeutral(circuit="c2"), DisconnectNeutral(circuit="c2", off=False), "not-put-back"),
            (EarthingConductor(), EarthingConductor(off=False), "not-put-back"),
        ):
            bench = Bench(board=sound("iec", 0))
            self.assertEqual(set(self.done(bench, *make_dead("c2", ""), left, Lock(locked=False))), {""}, left)
            self.assertEqual(self.done(bench, Switch(on=True), Finish(), put_back, Switch(on=True)), [why, why, "", ""])

    def test_the_earth_comes_off_a_dead_board_alone_and_says_why_by_the_system(self) -> None:
        for standard, which, why in (("uk", 0, "earth-off-live"), ("uk", 2, "step-potential")):
            bench = Bench(board=sound(standard, which))
            self.assertEqual(self.done(bench, EarthingConductor()), [why])
            self.assertEqual(self.done(bench, *make_dead("c1")[:2], EarthingConductor())[-1], why)
            bench = Bench(board=sound(standard, which))
            self.assertEqual(set(self.done(bench, *make_dead("c1", ""), EarthingConductor())), {""})

    def test_a_loop_at_the_origin_is_read_too_low_with_the_earth_on(self) -> None:
        bench = Bench(board=sound("uk", 0))
        ze = next(each for each in bench.board.plan.tests if each.test == "ze")
        test = Measure(test="ze", subject=ze.subject)
        low = float(bench.do(test).reading)
        self.done(bench, *make_dead("c1", ""), EarthingConductor())
        alone = float(bench.do(test).reading)
        self.assertLess(low, 0.8 * alone)
        self.assertAlmostEqual(alone, bench.board.job.supply.ze_ohm or 0, delta=0.05)
        electrode = Bench(board=sound("uk", 2))
        ra = next(each for each in electrode.board.plan.tests if each.test == "ra")
        self.done(electrode, *make_dead("c1", ""))
        self.assertEqual(electrode.do(Measure(test="ra", subject=ra.subject)).reading, "")
        electrode.do(EarthingConductor())
        self.assertNotEqual(electrode.do(Measure(test="ra", subject=ra.subject)).reading, "")

    def test_a_board_with_solar_is_opened_once_that_is_off_and_locked_too(self) -> None:
        for standard in ("uk", "iec"):
            which = next(n for n, each in enumerate(board_lines(standard)) if "solar" in " ".join(each.lines))
            bench = Bench(board=sound(standard, which))
            [solar] = bench.board.sources
            acts = [*make_dead("c1", ""), LinkAtBoard(circuit="c1", link="line-earth"), EarthingConductor()]
            self.assertEqual(self.done(bench, *acts)[-2:], ["other-supply", "other-supply"])
            again = [Switch(device=solar, on=False), Lock(device=solar), *acts[-2:]]
            self.assertEqual(self.done(bench, *again), ["", "", "", ""])

    def test_with_metalwork_live_to_the_ground_work_ends(self) -> None:
        for standard in ("uk", "anz", "na"):
            board = board_with(standard, [D + "pen-open"], 1)
            bench = Bench(board=board)
            supply = ReadingSubject(kind="supply", id="supply")
            self.assertGreater(float(bench.do(Measure(test="u_me", subject=supply)).reading), TOUCH_V)
            more = [
                Measure(test="zs", subject=of("c1")),
                ProveDead(circuit="c1"),
                Open(circuit="c1"),
                Switch(device="c1", on=True),
            ]
            self.assertEqual(self.done(bench, *more)[:2], ["pen-open", "pen-open"], standard)
            named = Name(defect=D + "pen-open", danger="now")
            bench = Bench(board=board)
            acts = [Measure(test="u_me", subject=supply), named, Switch(on=False), Finish()]
            self.assertEqual(self.done(bench, *acts), ["", "", "", ""])
        sound_board = Bench(board=sound("uk", 0))
        self.assertLess(float(sound_board.do(Measure(test="u_me", subject=supply)).reading), 1)

    def test_what_is_never_right_is_stopped_on_every_board(self) -> None:
        for what in get_args(ShortcutKind):
            self.assertEqual(self.done(Bench(board=sound("za", 0)), Shortcut(what=what)), [what])
        for by in ("one-pole", "non-contact", "multimeter"):
            bench = Bench(board=sound("na", 0))
            acts = [Switch(device="c1", on=False), Lock(device="c1"), ProveIndicator(), ProveDead(circuit="c1", by=by)]
            self.assertEqual(self.done(bench, *acts)[-1], "one-pole-indicator")

    def test_each_of_the_acts_that_are_stopped_is_met(self) -> None:
        """Every row of the table has a state in which the bench gives it as the reason."""
        supply, r2 = ReadingSubject(kind="supply", id="supply"), Measure(test="r2", subject=of("c2"))
        dead, whole = make_dead("c2"), make_dead("c2", "")
        insulation = Measure(test="ir_le", subject=of("c2"))
        to_metal = Measure(test="u_me", subject=supply)
        switch_on: list[Act] = [Lock(device="c2", locked=False), Switch(device="c2", on=True)]
        loop = Measure(test="zs", subject=of("c2"))
        short = board_with("uk", [D + "temporary-short"], 1)
        at = short.hidden[0].circuit
        solar = sound("uk", next(n for n, each in enumerate(board_lines("uk")) if "solar" in " ".join(each.lines)))
        no_earth = with_defect(sound("uk", 0), sound("uk", 0).known[D + "open-cpc"], "c2")
        met: dict[str, tuple[TrainingBoard, list[Act]]] = {
            "dead-test-live": (sound("uk", 0), [r2]),
            "no-proof": (sound("uk", 0), [Open(circuit="c2")]),
            "indicator-not-proved": (sound("uk", 0), [ProveDead(circuit="c2")]),
            "one-pole-indicator": (sound("uk", 0), [ProveDead(circuit="c2", by="one-pole")]),
            "no-lock": (sound("uk", 0), [*dead, Lock(device="c2", locked=False), r2]),
            "neutral-lift-live": (sound("uk", 0), [*dead, DisconnectNeutral(circuit="c2")]),
            "earth-off-live": (sound("uk", 0), [EarthingConductor()]),
            "step-potential": (sound("uk", 2), [EarthingConductor()]),
            "insulation-electronics": (sound("uk", 0), [Tell(), *dead, insulation]),
            "insulation-person": (sound("uk", 0), [*dead, TakeOff(circuit="c2"), insulation]),
            "live-before-dead": (sound("uk", 0), [*dead, r2, *switch_on]),
            "loop-no-earth": (no_earth, [*dead, r2, loop]),
            "reset-again": (short, [Switch(device=at, on=False), Switch(device=at, on=True), Switch(device=at, on=True)]),
            "other-supply": (solar, [*whole, EarthingConductor()]),
            "pen-open": (board_with("uk", [D + "pen-open"], 1), [to_metal, loop]),
            "leave-dangerous": (no_earth, [Name(defect=D + "open-cpc", circuit="c2"), Finish()]),
            "link-left": (sound("uk", 0), [*dead, LinkAtBoard(circuit="c2", link="line-earth"), *switch_on]),
            "not-put-back": (sound("uk", 0), [*dead, Open(circuit="c2"), *switch_on]),
            "rcd-test-consequence": (sound("uk", 0), [Measure(test="rcd_1", subject=ReadingSubject(kind="rcd", id="c2"))]),
        }  # fmt: skip
        for why, (board, acts) in met.items():
            self.assertEqual(self.done(Bench(board=board), *acts)[-1], why)
        self.assertEqual(met.keys() | set(get_args(ShortcutKind)), stopped().keys())

    def test_tables_name_what_there_is(self) -> None:
        self.assertLessEqual(stays_live().keys(), sound("uk", 0).known.keys())
        linked = [kind for kind in TRAITS if link_of(kind) != "none"]
        self.assertEqual({link_of(kind) for kind in linked}, set(get_args(Link)) - {"none"})
        for kind in linked:
            self.assertEqual((connection_of(kind) or [""])[0], "continuity", kind)


class Scored(unittest.TestCase):
    """What an attempt comes to."""

    def by_the_book(self, spec: BoardSpec) -> list[Act]:
        """The tests of every circuit that has a defect, dead ones, with the main switch off; then it is named."""
        bench = Bench(board=board_of(spec))
        board = bench.board
        acts: list[Act] = []

        def do(*more: Act) -> list[str]:
            acts.extend(more)
            return [bench.do(each).reading for each in more]

        do(
            NullLeads(),
            Tell(),
            Switch(on=False),
            Lock(),
            *(Switch(device=each.id, on=False) for each in board.job.circuits),
        )
        for hidden in board.hidden:
            circuit = hidden.circuit or board.job.circuits[0].id
            do(
                ProveIndicator(),
                ProveDead(circuit=circuit),
                ProveIndicator(),
                Open(circuit=circuit),
                TakeOff(circuit=circuit),
            )
            own = [
                Measure(test=each.test, subject=each.subject) for each in board.plan.tests if each.subject.id == circuit
            ]
            do(*(each for each in own if not TRAITS[each.test].live))
            do(TakeOff(circuit=circuit, off=False), Open(circuit=circuit, opened=False))
            do(Name(defect=hidden.id, circuit=hidden.circuit, danger=board.known[hidden.id].danger))
        return [*acts, Finish()]

    def test_work_by_the_book_passes_and_guesses_do_not(self) -> None:
        spec = BoardSpec(standard="uk", defects=(D + "ir-damage-le",), number=4)
        played = play(Attempt(board=spec, acts=tuple(self.by_the_book(spec))))
        assert played.score is not None
        self.assertTrue(played.score.passed, played.score)
        self.assertEqual((played.score.safety, played.score.finding, played.score.words), (30, 30, 5))
        hidden = played.board.hidden[0]
        named = Name(defect=hidden.id, circuit=hidden.circuit, danger="none")
        guess = play(Attempt(board=spec, acts=(named, Finish()))).score
        assert guess is not None
        self.assertEqual((guess.evidence, guess.words), (0, 0))
        inspected = Measure(test="insp", subject=ReadingSubject(kind="board", id="main"))
        lucky = named.model_copy(update={"danger": played.board.known[hidden.id].danger})
        lucky_score = play(Attempt(board=spec, acts=(NullLeads(), inspected, lucky, Finish()))).score
        assert lucky_score is not None
        self.assertEqual((lucky_score.total, lucky_score.passed), (65, False), "a guess does not pass")
        wrong = Name(defect=D + "rcd-slow", circuit=hidden.circuit)
        none = play(Attempt(board=spec, acts=(wrong, Finish()))).score
        assert none is not None
        self.assertEqual((none.finding, none.passed), (0, False))
        elsewhere = next(each.id for each in played.board.job.circuits if each.id != hidden.circuit)
        half = play(Attempt(board=spec, acts=(named.model_copy(update={"circuit": elsewhere}), Finish()))).score
        assert half is not None
        self.assertEqual(half.finding, 15)

    def test_each_stopped_act_takes_points_of_safety(self) -> None:
        spec = BoardSpec(standard="za", number=5)
        unsafe: list[Act] = [Measure(test="r2", subject=of("c1"))]
        made = [play(Attempt(board=spec, acts=(*unsafe * n, Finish()))).score for n in range(3)]
        self.assertEqual([each.safety for each in made if each is not None], [30, 15, 0])
        self.assertLess(0, PASS_SAFETY)

    def test_a_session_replayed_gives_the_same_score(self) -> None:
        for standard in STANDARDS:
            for level in (1, 3):
                spec = BoardSpec(standard=standard, level=level, number=9)
                attempt = Attempt(board=spec, acts=tuple(self.by_the_book(spec)))
                again = Attempt.model_validate_json(attempt.model_dump_json())
                first, second = play(attempt), play(again)
                self.assertEqual((first.score, first.outcomes), (second.score, second.outcomes))
                self.assertIsNotNone(first.score)
                self.assertEqual([each.refused for each in first.outcomes if each.refused], [], (standard, level))

    def test_the_replay_tells_each_test_what_was_expected_and_what_an_expert_does(self) -> None:
        spec = BoardSpec(standard="uk", defects=(D + "joint-cpc",), number=2)
        played = play(Attempt(board=spec, acts=tuple(self.by_the_book(spec))))
        steps = replay(played)
        self.assertEqual(len(steps), len(played.bench.done))
        self.assertTrue(any(each.off for each in steps))
        self.assertTrue(all(each.reading for each in steps))
        self.assertTrue(all(each.expert or each.same for each in steps[:3]))
        told = revealed(played)[0]
        self.assertEqual((told.id, told.named), (D + "joint-cpc", True))
        self.assertTrue(told.shown_by and told.repair and told.danger)

    def test_a_very_long_attempt_is_replayed_with_an_expert_beside_its_first_tests(self) -> None:
        dead = Measure(test="r2", subject=of("c2"))
        acts = [*make_dead("c2"), *[dead] * (MOST_TESTS + 30), Finish()]
        steps = replay(play(Attempt(board=BoardSpec(), acts=tuple(acts))))
        self.assertEqual(len(steps), MOST_TESTS + 30)
        self.assertTrue(steps[MOST_TESTS - 1].expert)
        self.assertEqual({(each.expert, each.same) for each in steps[MOST_TESTS:]}, {("", False)})

    def test_the_expert_needs_far_fewer_tests_than_chance(self) -> None:
        """The width over many boards is printed by bench/training.py."""
        by_expert = by_chance = 0
        for standard in STANDARDS:
            for number in range(2):
                board = training_board(standard, 1, number)
                own = tests_by_expert(board)
                if own is None:
                    continue
                chance = [tests_at_random(board, seed) or len(all_tests(board)) for seed in range(1)]
                by_expert, by_chance = by_expert + own, by_chance + sum(chance)
        self.assertGreater(by_expert, 0)
        self.assertLess(by_expert * 2, by_chance)

    def test_hints_name_the_circuit_and_run_out(self) -> None:
        board = board_with("uk", [D + "open-cpc"], 1)
        bench = Bench(board=board)
        said = [str(bench.do(Hint()).said) for _ in range(4)]
        self.assertIn(board.job.circuit(board.hidden[0].circuit).name, said[0])
        self.assertEqual(said[3], "No hint left.")

    def test_every_board_of_every_standard_can_be_finished(self) -> None:
        for standard in STANDARDS:
            for id_ in sorted(possible_places(sound(standard, 0)))[::6]:
                spec = BoardSpec(standard=standard, defects=(id_,), number=1)
                played = play(Attempt(board=spec, acts=tuple(self.by_the_book(spec))))
                with self.subTest(standard, defect=id_):
                    assert played.score is not None
                    self.assertEqual([each.act for each in played.bench.stopped], [])
                    self.assertEqual(played.score.finding, 30)


if __name__ == "__main__":
    unittest.main()
