"""Boards with hidden defects: every defect in every standard, by its effects as the catalogue states them.

That the formulas of the catalogue are what a network of resistances gives is tested in tests/core/testing/test_bench_examples.py.
"""

from __future__ import annotations

import unittest
from collections.abc import Iterator

from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.rules.data_folder import homes
from vivid_lattice.core.testing.diagnosis.defects import Change, Defect
from vivid_lattice.core.testing.diagnosis.expressions import compiled
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.training.answers import answer
from vivid_lattice.core.training.boards import HiddenDefect, TrainingBoard, all_at_once, tells_of
from vivid_lattice.core.training.draw_board import board_with, training_board
from vivid_lattice.core.training.session import BoardSpec, board_of
from vivid_lattice.core.training.shown import middle_of, shown_by
from vivid_lattice.core.training.sound_boards import possible_places, sound_board
from vivid_lattice.core.training.training_rules import board_lines, levels, pieces

STANDARDS = ("uk", "iec", "anz", "za", "na")
_SEEN_WRONG = {"wrong", "fails", "trips", "no trip", "open", "zero", "live", "dead", "unstable"}
#: A display rounds to so much [Ω], and a repeat differs by so much of the uncertainty.
_STEP_OHM, _REPEATS = 0.0051, 0.151

#: Not on the boards: readings taken badly; bonds that read the same; aluminium, mixed earths, rods, arc-fault devices where the standard does
#: not require them, surge devices where none are usual, coils where every circuit has its own device.
NOT_ON_BOARDS = {
    "leads-not-nulled", "conductor-warm", "ze-with-parallel-paths", "ring-linked-same-leg", "parallel-path", "bond-false", "bond-missing",
    "not-extraneous", "aluminium-joint", "tt-tn-mixed", "tt-rod-dry", "men-missing", "afdd-dead", "spd-failed", "coil-neutral-wrong-group",
}  # fmt: skip


def sound(standard: str, which: int) -> TrainingBoard:
    return sound_board(standard, which)


def with_defect(board: TrainingBoard, defect: Defect, circuit: str) -> TrainingBoard:
    hidden = HiddenDefect(defect.id, circuit, middle_of(defect))
    return board.with_hidden(hidden, level=1)


def subjects(board: TrainingBoard, defect: Defect, circuit: str) -> Iterator[tuple[ReadingKind, ReadingSubject]]:
    for test in board.tests:
        if tells_of(board, test.subject, defect, circuit) and not all_at_once(test.test, test.subject):
            yield test.test, test.subject


class AllAtOnce(unittest.TestCase):
    """Insulation of all circuits in parallel: 1/R is the sum of 1/R of each."""

    def test_it_is_the_parallel_of_what_each_reads(self) -> None:
        for standard in STANDARDS:
            plain = sound(standard, 0)
            board = with_defect(plain, plain.known["common.defect.ir-damage-le"], plain.job.circuits[1].id)
            whole = float(answer(board, "ir_le", ReadingSubject(kind="board", id="main")).text)
            each = [float(answer(board, "ir_le", ReadingSubject(kind="circuit", id=c.id)).text.lstrip(">")) for c in board.job.circuits]  # fmt: skip
            self.assertAlmostEqual(1 / whole, sum(1 / one for one in each), delta=0.05 / whole)
            text = answer(plain, "ir_le", ReadingSubject(kind="board", id="main")).text
            self.assertTrue(text.startswith(">"), "sound circuits are over the range, and so are all of them")


class EveryReading(unittest.TestCase):
    """Whatever is read, whatever is hidden."""

    def test_every_reading_of_every_defect_can_be_typed_as_it_is_shown(self) -> None:
        for standard in STANDARDS:
            seen: set[str] = set()
            for which in range(len(board_lines(standard))):
                plain = sound(standard, which)
                for id_, places in possible_places(plain).items():
                    if id_ in seen:
                        continue
                    seen.add(id_)
                    board = with_defect(plain, plain.known[id_], places[0])
                    for test in board.tests:
                        text = answer(board, test.test, test.subject).text
                        self.assertRegex(text, r"^(OL|>?\d+(\.\d+)?|ok|wrong|did not trip)$", (standard, id_, test.id))


class EveryDefect(unittest.TestCase):
    """In every standard where it applies, on one board of it at least."""

    def test_nearly_all_of_the_catalogue_is_met_in_every_standard(self) -> None:
        """All but what is the learner's own, what no reading tells apart, and what its boards do not have (docs/method/training.md)."""
        for standard in STANDARDS:
            boards = [sound(standard, which) for which in range(len(board_lines(standard)))]
            found = {id_ for board in boards for id_ in possible_places(board)}
            missing = {id_.removeprefix("common.defect.") for id_ in boards[0].known.keys() - found}
            self.assertLessEqual(missing, NOT_ON_BOARDS, standard)
            self.assertGreaterEqual(len(found), 40, standard)

    def test_the_readings_are_those_of_the_formulas_with_the_defect_in_and_differ_as_the_catalogue_says(self) -> None:
        for standard in STANDARDS:
            seen: set[str] = set()
            for which in range(len(board_lines(standard))):
                board = sound(standard, which)
                for id_, places in possible_places(board).items():
                    if id_ in seen:
                        continue
                    seen.add(id_)
                    with self.subTest(standard, defect=id_):
                        self.one(board, board.known[id_], places[0])
            self.assertGreaterEqual(len(seen), 40)

    def one(self, board: TrainingBoard, defect: Defect, place: str) -> None:
        faulty = with_defect(board, defect, place)
        circuit = next(
            each.id
            for each in board.job.circuits
            if place in ("", each.id) and shown_by(board, defect, each.id, middle_of(defect))
        )
        shown = 0
        for kind, subject in subjects(board, defect, circuit):
            effect = defect.effects.get(kind)
            before, now = answer(board, kind, subject).text, answer(faulty, kind, subject).text
            if effect is None or effect.change == "same" or not defect.needs <= board.models[circuit].facts:
                self.assertEqual(now, before, kind)
                continue
            shown += now != before
            if effect.formula and TRAITS[kind].unit == "Ω":
                symbols = {**board.models[circuit].symbols, **middle_of(defect)}
                self.close(board, kind, now, compiled(effect.formula)(symbols))
            self.changed(kind, effect.change, before, now)
        self.assertGreater(shown, 0)

    def close(self, board: TrainingBoard, kind: ReadingKind, text: str, ohm: float) -> None:
        own = board.network.rules.testing.uncertainty(kind)
        most = _REPEATS * (own.pct / 100 * abs(ohm) + own.absolute) if own is not None else 0.0
        self.assertAlmostEqual(float(text), max(ohm, 0.0), delta=most + _STEP_OHM, msg=kind)

    def changed(self, kind: ReadingKind, change: Change, before: str, now: str) -> None:
        if not TRAITS[kind].is_figure:
            self.assertEqual(now, "wrong" if change in _SEEN_WRONG else "ok", kind)
        elif change == "open":
            self.assertIn(now, ("OL", "did not trip"), kind)
        elif change in ("no trip", "fails"):
            self.assertEqual(now, "did not trip", kind)
        elif change in ("zero", "dead"):
            self.assertEqual(float(now), 0.0, kind)
        elif change in ("up", "late") and before != "OL":
            # a whole step of the display: where little is added the reading of an uncertain instrument is the same
            self.assertTrue(now == "OL" or number(now) >= number(before) * 0.97 - 0.02, (kind, before, now))
        elif change in ("down", "early"):
            self.assertTrue(number(now) <= number(before) * 1.03 + 0.02, (kind, before, now))

    def test_a_sound_board_reads_as_designed(self) -> None:
        """Entered as a report, no reading of a sound board disagrees with its design."""
        from vivid_lattice.core.installation.installation import Installation
        from vivid_lattice.core.testing.enter_reading import ReadingEntry, enter_readings

        for standard in STANDARDS:
            for which in range(len(board_lines(standard))):
                board = sound(standard, which)
                entries = [
                    ReadingEntry(
                        id=f"t{n}",
                        test=test.test,
                        subject=test.subject,
                        text=answer(board, test.test, test.subject).text,
                    )
                    for n, test in enumerate(each for each in board.plan.tests if not each.optional)
                ]
                job = enter_readings(board.job, entries)
                off = [each.test for each in judged(Installation.of(job, board.network.rules)) if each.off]
                self.assertEqual(off, [], (standard, which, entries))


def number(text: str) -> float:
    return 1e9 if text in ("OL", "did not trip") else float(text.lstrip(">"))


class Drawn(unittest.TestCase):
    """By level and number."""

    def test_the_same_number_is_the_same_board_and_others_differ(self) -> None:
        for standard in STANDARDS:
            first, again = training_board(standard, 2, 77), training_board(standard, 2, 77)
            self.assertEqual((first.job, first.hidden), (again.job, again.hidden))
            self.assertGreater(len({str(training_board(standard, 2, n).hidden) for n in range(12)}), 6)

    def test_a_level_has_as_many_defects_as_it_says_each_in_a_circuit_of_its_own_and_shown(self) -> None:
        for standard in STANDARDS:
            for level in levels():
                for n in range(6):
                    board = training_board(standard, level.level, n)
                    self.assertTrue(
                        level.defects_low <= len(board.hidden) <= level.defects_high, (standard, level.level, n)
                    )
                    self.assertEqual(len({each.circuit for each in board.hidden}), len(board.hidden))
                    self.assertTrue(all(each.id in possible_places(sound_of(board)) for each in board.hidden))

    def test_defects_of_a_list_are_all_there(self) -> None:
        for standard in STANDARDS:
            names = sorted(possible_places(sound(standard, 0)))
            chosen = [name for name in names if sound(standard, 0).known[name].scope == "circuit"][:2]
            self.assertEqual([each.id for each in board_with(standard, chosen).hidden], chosen)

    def test_each_chosen_board_is_there_in_each_of_its_standards_with_its_defects(self) -> None:
        self.assertGreaterEqual(len(pieces()), 18)
        for piece in pieces().values():
            for standard in piece.standards:
                board = board_of(BoardSpec(standard=standard, piece=piece.id, number=2))
                self.assertEqual(([each.id for each in board.hidden], board.level), ([*piece.defects], piece.level))
        self.assertRaises(NotPossible, board_of, BoardSpec(piece="none-such"))

    def test_what_there_is_not_is_told(self) -> None:
        self.assertRaises(NotPossible, board_with, "uk", ["no-such-defect"])
        self.assertRaises(NotPossible, training_board, "uk", 9, 1)

    def test_every_family_of_standards_has_boards(self) -> None:
        self.assertEqual({family[0] for family in homes().values()} & set(STANDARDS), set(STANDARDS))
        for standard in STANDARDS:
            self.assertGreaterEqual(len(board_lines(standard)), 2)


def sound_of(board: TrainingBoard) -> TrainingBoard:
    return board.with_hidden(number=0)


if __name__ == "__main__":
    unittest.main()
