"""A tester on a line: what it refuses, what it reads; a line that is cut, changed or mad never gives a wrong reading, and none is lost or doubled.

Ranges and refusals: EN 61557 (from memory) and practice, as the reference data have them.
"""

from __future__ import annotations

import contextlib
import random
import re
import socketserver
import subprocess
import sys
import tempfile
import unittest
from collections.abc import Iterator
from pathlib import Path

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.builders import mcb, rcbo
from tests.core.testing.test_judged_readings import house, radial
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.job_file import to_text
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.reading_text import reading_text
from vivid_lattice.instruments.adapter import REFUSALS, InstrumentRefused
from vivid_lattice.instruments.line_tester import LineTester
from vivid_lattice.instruments.protocol import MAX_BYTES, BadLine, decode, encode
from vivid_lattice.instruments.ranges import mode_for, modes
from vivid_lattice.instruments.server import instrument_on, serving
from vivid_lattice.instruments.simulated import SimulatedTester, simulated_tester

COOKER = ReadingSubject(kind="circuit", id="c1")
FIELD = st.text(
    st.characters(min_codepoint=33, max_codepoint=0x2FF, exclude_characters="*\x7f\x85\xa0\xad"),
    min_size=1,
    max_size=12,
)
LAWS = settings(
    max_examples=150, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck)
)


def tester() -> SimulatedTester:
    return simulated_tester(
        house(radial(20.0, 2.5, mcb(20.0)), radial(30.0, 1.5, rcbo(6.0), id="c2", name="Lights"), ze_ohm=0.3)
    )


class Lines(unittest.TestCase):
    @LAWS
    @given(st.lists(FIELD, min_size=1, max_size=6))
    def test_a_line_comes_back_as_it_was_and_no_part_of_it_is_taken_for_one(self, fields: list[str]) -> None:
        line = encode(*fields)
        self.assertEqual(decode(line), tuple(fields))
        for cut in range(len(line)):
            with self.assertRaises(BadLine):
                decode(line[:cut])
            with self.assertRaises(BadLine):
                decode(line[:cut] + b"\n") if cut < len(line) - 1 else decode(line[:-1])

    @LAWS
    @given(st.lists(FIELD, min_size=1, max_size=6), st.integers(0, 400), st.integers(1, 255))
    def test_a_byte_that_is_changed_on_the_way_is_noticed(self, fields: list[str], at: int, change: int) -> None:
        line = bytearray(encode(*fields))
        line[at % len(line)] ^= change
        with self.assertRaises(BadLine):
            decode(bytes(line))

    def test_what_cannot_be_a_line_is_refused(self) -> None:
        for fields in ((), ("",), ("a b",), ("a*b",), ("x" * MAX_BYTES,)):
            with self.assertRaises(BadLine):
                encode(*fields)

    def test_the_example_of_the_published_format_is_a_line(self) -> None:
        text = (Path(__file__).parents[2] / "docs" / "format" / "instrument.md").read_text("utf-8")
        [example] = re.findall(r"Example: `([^`]+)`", text)
        self.assertEqual(decode(f"{example}\n".encode()), ("NULL",))


class Refusing(unittest.TestCase):
    def ask(self, of: SimulatedTester, *fields: str) -> tuple[str, ...]:
        return decode(of.handle(encode(*fields)))

    def read(self, of: SimulatedTester, identity: str = "a1", test: str = "r1r2") -> tuple[str, ...]:
        return self.ask(of, "READ", identity, test, "circuit", "c1")

    def test_each_refusal_has_its_cause_and_a_text_that_says_what_to_do(self) -> None:
        causes = (
            ("leads-not-nulled", [], "r1r2"),
            ("battery-low", [("NULL",), ("BATTERY", "low")], "r1r2"),
            ("live-circuit", [("NULL",), ("SUPPLY", "on")], "r1r2"),
            ("voltage-out-of-range", [("MODE", "loop"), ("SUPPLY", "off")], "zs"),
            ("wrong-mode", [("NULL",)], "zs"),
            ("not-connected", [("NULL",), ("LEADS", "off"), ("NULL",)], "r1r2"),
        )  # fmt: skip
        for reason, before, test in causes:
            of = tester()
            for fields in before:
                self.ask(of, *fields)
            self.assertEqual(self.read(of, test=test), ("ERR", reason), reason)
            self.assertEqual(of.memory, {})
        for reason in REFUSALS:
            self.assertGreater(len(str(InstrumentRefused(reason).text)), 20)
        self.assertEqual(self.ask(tester(), "LEADS", "off"), ("OK", "off"))

    def test_leads_add_the_same_to_every_reading_until_they_are_nulled_again(self) -> None:
        of = tester()
        self.assertEqual(self.ask(of, "NULL"), ("OK", "0.08"))
        short = float(self.read(of)[-1])
        self.ask(of, "LEADS", "long")
        self.assertEqual(self.read(of, "a2"), ("ERR", "leads-not-nulled"))
        self.assertEqual(self.ask(of, "NULL"), ("OK", "0.42"))
        self.assertAlmostEqual(float(self.read(of, "a2")[-1]), short, delta=0.05)

    def test_it_reads_what_is_built_within_the_uncertainty_of_a_good_instrument(self) -> None:
        of = tester()
        self.ask(of, "NULL")
        for test, mode in (("r1r2", "continuity"), ("zs", "loop"), ("ir_le", "insulation-500")):
            self.ask(of, "MODE", mode)
            true = of.values[f"{test}:circuit:c1"]
            values = [float(self.read(of, f"{test}{number}".replace("_", ""), test)[-1]) for number in range(30)]
            self.assertAlmostEqual(sum(values) / 30, true, delta=0.03 * true + 0.01, msg=test)
            self.assertGreater(len(set(values)), 1)

    def test_beyond_its_range_it_shows_a_sign_and_a_loop_without_tripping_reads_high(self) -> None:
        of = tester()
        of.values = {**of.values, "ir_le:circuit:c1": 5000.0}
        self.ask(of, "MODE", "insulation-250")
        self.assertEqual(self.read(of, test="ir_le")[-1], ">299")
        self.ask(of, "MODE", "loop")
        plain = float(self.read(of, "b1", "zs")[-1])
        self.ask(of, "MODE", "loop-no-trip")
        self.assertGreater(float(self.read(of, "b2", "zs")[-1]), plain + 0.05)

    def test_the_same_id_gives_the_same_reading_whatever_happened_since(self) -> None:
        of = tester()
        self.ask(of, "NULL")
        first = self.read(of)
        self.ask(of, "BATTERY", "low")
        self.ask(of, "MODE", "loop")
        self.assertEqual(self.read(of), first)
        self.assertEqual(self.ask(of, "FORGET", "a1"), ("OK", "a1"))
        self.assertEqual(self.read(of), ("ERR", "battery-low"))

    def test_every_reading_with_a_value_has_a_mode_and_what_it_shows_is_understood(self) -> None:
        for kind, traits in TRAITS.items():
            name = mode_for(kind)
            self.assertEqual(name is not None, traits.is_figure, kind)
            if name is None:
                continue
            mode = next(each for each in modes() if each.name == name)
            self.assertEqual((mode.unit, mode.live), (traits.unit, traits.live), kind)
            for value in (0.0, mode.resolution, 0.997, mode.most, mode.most * 2):
                self.assertIn(reading_text(mode.shown(value), kind).state, ("value", "above-range"))

    @LAWS
    @given(st.lists(st.binary(max_size=60), max_size=12), st.randoms(use_true_random=False))
    def test_no_line_whatever_upsets_it(self, lines: list[bytes], chance: random.Random) -> None:
        of = tester()
        words = [
            "HELLO",
            "MODE",
            "NULL",
            "READ",
            "STORED",
            "RECALL",
            "FORGET",
            "SUPPLY",
            "BATTERY",
            "LEADS",
            "CUT",
            "OF",
            "TURN",
            "a1",
            "-9",
            "1e9",
            "loop",
            "zs",
        ]
        for line in lines:
            made = encode(*chance.choices(words, k=chance.randint(1, 5))) if chance.random() < 0.7 else line
            word, *_ = decode(of.handle(made))
            self.assertIn(word, ("OK", "ERR", "READING"))
        of.cut_after = None
        of.battery, of.supply, of.leads = "good", "auto", "short"
        self.ask(of, "MODE", "loop")
        self.assertEqual(self.read(of, "last", "zs")[0], "READING")


class Cut(unittest.TestCase):
    """A session over a line that drops once."""

    SESSION: tuple[tuple[str, ReadingKind], ...] = (("a1", "r1r2"), ("a2", "zs"), ("a3", "ir_le"))

    def cut_at_every(self, step: int) -> None:
        """The line drops after every so many bytes, once a session."""
        whole = self.session(None)
        self.assertEqual([identity for identity, _ in whole[0]], ["a1", "a2", "a3"])
        length = whole[1]
        self.assertGreater(length, 200)
        for cut in range(length):
            readings, _ = self.session(cut)
            self.assertEqual(readings, whole[0], f"cut after byte {cut}")

    def session(self, cut: int | None) -> tuple[list[tuple[str, str]], int]:
        """Three readings over a line that drops once after so many bytes of all that goes either way; what the instrument has in the end."""
        of = tester()
        of.nulled_ohm = 0.08
        with _dropping(of, cut) as proxy:
            line = LineTester(proxy.port)
            got = {}
            for identity, test in self.SESSION:
                for _ in range(2):
                    with contextlib.suppress(InstrumentRefused):
                        got[identity] = line.read(identity, test, COOKER).text
                        break
            self.assertEqual(len(got), 3)
            stored = [(identity, fields[-1]) for identity, fields in of.memory.items()]
            self.assertEqual(dict(stored), got)
            return stored, proxy.passed


class OnALine(Cut):
    def test_it_says_who_it_is_nulls_reads_and_forgets(self) -> None:
        with instrument_on(tester()) as port:
            line = LineTester(port)
            self.assertEqual((line.identify().serial, line.null_leads()), ("VL-0001", 0.08))
            for identity, test in self.SESSION:
                self.assertEqual(line.read(identity, test, COOKER).test, test)
            self.assertTrue(line.read("a4", "zs", COOKER, no_trip=True).no_trip)
            self.assertEqual([each.id for each in line.stored()], ["a1", "a2", "a3", "a4"])
            line.acknowledge(("a1", "a3"))
            self.assertEqual([each.id for each in line.stored()], ["a2", "a4"])

    def test_what_is_refused_is_told_and_what_is_seen_is_not_read(self) -> None:
        with instrument_on(tester()) as port:
            for test, reason in (("r1r2", "leads-not-nulled"), ("pol", "wrong-mode")):
                with self.assertRaises(InstrumentRefused) as refused:
                    LineTester(port).read("a1", test, COOKER)  # type: ignore[arg-type]
                self.assertEqual(refused.exception.reason, reason)
            with self.assertRaises(InstrumentRefused) as refused:
                LineTester(port).read("a1", "zs", ReadingSubject(kind="circuit", id="gone"))
            self.assertEqual(refused.exception.reason, "not-connected")

    def test_no_instrument_at_the_port(self) -> None:
        with instrument_on(tester()) as port:
            pass
        with self.assertRaises(InstrumentRefused) as refused:
            LineTester(port).identify()
        self.assertEqual(refused.exception.reason, "connection-lost")

    def test_a_line_that_drops_loses_and_doubles_nothing(self) -> None:
        self.cut_at_every(5)

    def test_a_server_that_is_no_instrument_never_gives_a_reading(self) -> None:
        answers = (
            b"", b"\n", b"HTTP/1.1 200 OK\r\n\r\n", b"x" * 5000, b"\xff\xfe\n", encode("OK", "loop"), encode("READING", "a1"),
            encode("OK", "loop") + encode("READING", "other", "loop", "zs", "circuit", "c1", "0.4"),
            encode("OK", "loop") + encode("READING", "a1", "loop", "zs", "circuit", "c2", "0.4"),
            encode("OK", "loop") + encode("READING", "a1", "loop", "zs", "circuit", "c1", "lots"),
            encode("OK", "loop") + encode("READING", "a1", "loop", "zs", "circuit", "c1", "0.4")[:-1],
            encode("ERR", "fire"),
        )  # fmt: skip
        for answer in answers:
            with _answering(answer) as port, self.assertRaises(InstrumentRefused):
                LineTester(port).read("a1", "zs", COOKER)

    def test_from_the_shell(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "job.json"
            file.write_text(to_text(house(radial(20.0, 2.5, mcb(20.0)), ze_ohm=0.3)), encoding="utf-8")
            with instrument_on(tester()) as taken:
                command = [sys.executable, "-m", "vivid_lattice.cli.main", "instrument", str(file), "--port"]
                done = subprocess.run([*command, str(taken)], capture_output=True, text=True, check=False)
                self.assertEqual(done.returncode, 2)
                self.assertIn("in use", done.stderr)
            with subprocess.Popen([*command, "0"], stdout=subprocess.PIPE, text=True) as process:
                try:
                    assert process.stdout is not None
                    said = process.stdout.readline()
                    port = int(said.split(" port ")[1].split()[0])
                    self.assertEqual(LineTester(port).read("a1", "zs", COOKER).test, "zs")
                finally:
                    process.terminate()


class _Proxy:
    """Passes bytes on between a client and an instrument, and drops the line once after so many."""

    def __init__(self, cut: int | None):
        self.cut, self.passed, self.port = cut, 0, 0

    def through(self, data: bytes) -> tuple[bytes, bool]:
        """What gets through of some bytes, and whether the line drops with it."""
        if self.cut is None or self.passed + len(data) <= self.cut:
            self.passed += len(data)
            return data, False
        part, self.cut = data[: self.cut - self.passed], None
        self.passed += len(part)
        return part, True


@contextlib.contextmanager
def _dropping(of: SimulatedTester, cut: int | None) -> Iterator[_Proxy]:
    proxy = _Proxy(cut)

    class Handler(socketserver.StreamRequestHandler):
        def handle(self) -> None:
            while line := self.rfile.readline():
                line, dropped = proxy.through(line)
                if dropped:
                    # Half a request reaches the instrument too: it must not take it for one.
                    of.handle(line)
                    return
                reply, dropped = proxy.through(of.handle(line))
                self.wfile.write(reply)
                if dropped:
                    return

    with _answering_by(Handler) as proxy.port:
        yield proxy


@contextlib.contextmanager
def _answering(answer: bytes) -> Iterator[int]:
    class Handler(socketserver.StreamRequestHandler):
        def handle(self) -> None:
            with contextlib.suppress(OSError):
                self.wfile.write(answer)

    with _answering_by(Handler) as port:
        yield port


def _answering_by(handler: type[socketserver.BaseRequestHandler]) -> contextlib.AbstractContextManager[int]:
    listening = socketserver.ThreadingTCPServer(("127.0.0.1", 0), handler)
    listening.daemon_threads = True
    return serving(listening)


if __name__ == "__main__":
    unittest.main()
