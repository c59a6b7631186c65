"""A simulated multifunction tester: it reads the installation of a job as it is designed, with the errors of a good instrument.

It has what a real one has: modes and ranges, leads to be nulled, a battery, refusals. Its knobs (``SUPPLY``, ``BATTERY``, ``LEADS``, ``CUT``)
stand for what happens around it.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.test_plan import plan_of
from vivid_lattice.instruments.protocol import VERSION, BadLine, decode, encode
from vivid_lattice.instruments.ranges import Mode, modes

NAME, SERIAL, CALIBRATED = "Simulated-tester", "VL-0001", "2026-03-02"
#: Resistance of leads: as they come, and a long one [Ω].
_LEADS = {"short": 0.08, "long": 0.42}
#: What leads may have at most when they are nulled [Ω].
_NULL_MOST = 9.9
#: How much a loop reads high without tripping the RCD [Ω].
_NO_TRIP = (0.1, 0.4)
#: Readings that are not of the design: what a sound installation gives.
_SOUND = {"MΩ": 400.0, "ms": 19.0, "V": 230.0, "A": 600.0, "mA": 22.0, "Ω": 0.05}
#: How many readings its memory has.
_MEMORY = 200


@dataclass
class SimulatedTester:
    """The instrument, without the line it is connected by. ``handle`` takes a line and gives the reply.

    values      what each planned test reads when all is as it is, by its id
    seed        of the errors of the instrument
    cut_after   of the next reply only so many bytes get through, then the line drops; None: all
    """

    values: Mapping[str, float]
    seed: int = 0
    mode: str = "continuity"
    leads: str = "short"
    nulled_ohm: float | None = None
    supply: str = "auto"
    battery: str = "good"
    cut_after: int | None = None
    memory: dict[str, tuple[str, ...]] = field(default_factory=dict)

    def handle(self, line: bytes) -> bytes:
        """The reply to a line."""
        try:
            word, *rest = decode(line)
            handler: Callable[..., bytes] | None = self._requests.get(word)
            return encode("ERR", "not-understood") if handler is None else handler(*rest)
        except (BadLine, TypeError, ValueError):
            return encode("ERR", "not-understood")

    @property
    def _requests(self) -> Mapping[str, Callable[..., bytes]]:
        """What it understands: what every instrument does, and the knobs of the simulated one."""
        return {
            "HELLO": self._hello, "MODE": self._mode, "NULL": self._null, "READ": self._read, "STORED": self._stored,
            "RECALL": self._recall, "FORGET": self._forget,
            "SUPPLY": self._supply, "BATTERY": self._battery, "LEADS": self._leads, "CUT": self._cut,
        }  # fmt: skip

    def _hello(self, version: str) -> bytes:
        if version != VERSION:
            return encode("ERR", "not-understood")
        return encode("OK", NAME, SERIAL, CALIBRATED)

    def _mode(self, name: str) -> bytes:
        if all(mode.name != name for mode in modes()):
            return encode("ERR", "wrong-mode")
        self.mode = name
        return encode("OK", name)

    def _null(self) -> bytes:
        ohm = _LEADS.get(self.leads)
        if ohm is None or ohm > _NULL_MOST:
            return encode("ERR", "null-refused")
        self.nulled_ohm = ohm
        return encode("OK", f"{ohm:.2f}")

    def _read(self, identity: str, test: str, kind: str, subject: str) -> bytes:
        if identity in self.memory:
            return encode("READING", *self.memory[identity])
        refusal = self._refusal(test, f"{test}:{kind}:{subject}")
        if refusal is not None:
            return encode("ERR", refusal)
        mode = self._of(self.mode)
        text = mode.shown(self._value(mode, test, f"{test}:{kind}:{subject}", identity))
        while len(self.memory) >= _MEMORY:
            self.memory.pop(next(iter(self.memory)))
        self.memory[identity] = (identity, self.mode, test, kind, subject, text)
        return encode("READING", *self.memory[identity])

    def _stored(self, index: str) -> bytes:
        """The id of a reading in the memory by its number, and how many there are."""
        ids, at = list(self.memory), int(index)
        return encode("OK", ids[at] if 0 <= at < len(ids) else "-", str(len(ids)))

    def _recall(self, identity: str) -> bytes:
        found = self.memory.get(identity)
        return encode("ERR", "not-connected") if found is None else encode("READING", *found)

    def _forget(self, identity: str) -> bytes:
        self.memory.pop(identity, None)
        return encode("OK", identity)

    def _supply(self, state: str) -> bytes:
        return self._turn("supply", state, ("auto", "on", "off"))

    def _battery(self, state: str) -> bytes:
        return self._turn("battery", state, ("good", "low"))

    def _leads(self, state: str) -> bytes:
        """Other leads need to be nulled again."""
        self.nulled_ohm = None
        return self._turn("leads", state, (*_LEADS, "off"))

    def _cut(self, after: str) -> bytes:
        self.cut_after = min(max(int(after), 0), 10_000)
        return encode("OK", str(self.cut_after))

    def _turn(self, knob: str, state: str, known: tuple[str, ...]) -> bytes:
        if state not in known:
            return encode("ERR", "not-understood")
        setattr(self, knob, state)
        return encode("OK", state)

    def _of(self, name: str) -> Mode:
        return next(mode for mode in modes() if mode.name == name)

    def _refusal(self, test: str, planned: str) -> str | None:
        mode = self._of(self.mode)
        if self.battery == "low":
            return "battery-low"
        if test not in mode.readings:
            return "wrong-mode"
        if planned not in self.values or self.leads == "off":
            return "not-connected"
        if not mode.live and self.supply == "on":
            return "live-circuit"
        if mode.live and self.supply == "off":
            return "voltage-out-of-range"
        return "leads-not-nulled" if mode.name == "continuity" and self.nulled_ohm is None else None

    def _value(self, mode: Mode, test: str, planned: str, identity: str) -> float:
        """The true value with the error of a good instrument: a third of the usual uncertainty, the same for the same id."""
        true = self.values[planned]
        chance = random.Random(f"{self.seed} {identity}")
        uncertainty = rule_set("uk").testing.uncertainty(test)
        pct, absolute = (2.0, 0.0) if uncertainty is None else (uncertainty.pct, uncertainty.absolute)
        value = true * (1 + chance.gauss(0, pct / 300)) + chance.gauss(0, absolute / 3)
        if mode.name == "loop-no-trip":
            value += chance.uniform(*_NO_TRIP)
        if mode.name == "continuity":
            value += _LEADS[self.leads] - (self.nulled_ohm or 0.0)
        return max(0.0, value)


def simulated_tester(job: Job, seed: int = 0) -> SimulatedTester:
    """A tester with its leads on the installation of a job, built as it is designed."""
    network = Installation.of(job, rule_set(job.job.rules))
    plan = plan_of(network)
    values = {}
    for test in (*plan.tests, *plan.beyond):
        if test.unit:
            value = test.expected.value
            values[test.id] = _SOUND[test.unit] if value is None or test.unit == "MΩ" else value
    return SimulatedTester(values=values, seed=seed)
