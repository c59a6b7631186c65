"""Boards with defects put in, read by a tester, and diagnosed: how often the true cause is told, and how often one is told that is none."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Mapping
from copy import deepcopy
from dataclasses import dataclass
from functools import lru_cache

from tests.faulty_wiring import ANY, RADIAL, RING, Wiring, class_of, reads_like_another
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject, Testing
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.defects import defects as defects_of
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.diagnosis.unit import unit_of
from vivid_lattice.core.testing.expected_value import expecting
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.reading_table import read_readings
from vivid_lattice.core.testing.subjects import subject_of
from vivid_lattice.core.testing.test_plan import plan_of

#: A board of each kind of installation, as it is typed.
BOARDS: Mapping[str, tuple[str, ...]] = {
    "uk": ("kitchen ring 44m", "cooker 32A 14m", "lights 34m", "study sockets radial 22m"),
    "iec": ("kitchen sockets 18m", "cooker 32A 12m", "lights 28m"),
    "anz": ("kitchen sockets 22m", "hotplate 32A 14m", "lights 30m"),
    "za": ("kitchen sockets 20m", "stove 32A 12m", "lights 30m"),
    "na": ("kitchen receptacles 18m", "dryer 10m", "lights 25m"),
}
_SYSTEM: Mapping[str, str] = {"uk": "TN-C-S", "iec": "TN-S", "anz": "MEN", "za": "TN-C-S", "na": "TN-C-S"}
#: What the tester reads beside the standard's sequence, with the leads already there: the neutral by itself.
ALSO_READ: tuple[ReadingKind, ...] = ("ir_ne", "zln")
#: So many tests are done beyond the usual ones before it counts as not told.
FURTHER = 5


@dataclass(frozen=True, slots=True)
class Trial:
    """A board that was read. ``true``: the defects put in, none on a sound one; ``told``: explanations after the usual readings, the likeliest
    first; ``certain``: what was told as certain in the end; ``further``: tests done until then, None if it never was; ``rows``: what was typed."""

    standard: str
    true: frozenset[str]
    told: tuple[frozenset[str], ...]
    certain: tuple[frozenset[str], ...]
    further: int | None
    rows: tuple[str, ...]

    @property
    def is_right(self) -> bool:
        """Whether what is told as certain is, or holds, the true cause."""
        return any(self.is_true(told) for told in self.certain)

    def is_true(self, told: frozenset[str]) -> bool:
        """Whether an explanation is the true one, but for what readings do not tell apart."""
        return len(told) == len(self.true) and all(any(one in class_of(defect) for one in told) for defect in self.true)


def trials(count: int, seed: int) -> Iterator[Trial]:
    """Random boards: a fifth sound, three in twenty with two defects, the others with one, spread evenly over the list."""
    rng = random.Random(seed)
    for number in range(count):
        standard = rng.choice(list(BOARDS))
        wanted = 0 if number % 20 < 4 else 2 if number % 20 < 7 else 1
        yield _trial(standard, wanted, rng)


@lru_cache
def _board(standard: str) -> Job:
    rules = rule_set(standard)
    job = begin("Trial", rules, _SYSTEM[standard])
    job = job.model_copy(update={"supply": job.supply.model_copy(update={"ze_ohm": job.supply.ze_ohm or 0.3})})
    for line in BOARDS[standard]:
        job = enter_and_design(job, line, "main").job
    return job


def _trial(standard: str, wanted: int, rng: random.Random) -> Trial:
    job = _board(standard)
    network = Installation.of(job, rule_set(job.job.rules))
    circuit = rng.choice([each for each in job.circuits if each.loads])
    wiring = _wiring(network, circuit, rng)
    defects = {**ANY, **(RING if wiring.ring else RADIAL)}
    open_to = [name for name in defects if _may_have(name, standard, wiring)]
    usual = [test.test for test in plan_of(network).tests if test.subject.id == circuit.id and not test.optional]
    kinds = tuple(dict.fromkeys([*usual, *ALSO_READ]))
    wiring, true = _put_in(wiring, {name: defects[name] for name in open_to}, wanted, kinds)
    rows = _of_supply(job, wiring)
    for kind in kinds:
        if text := wiring.reading(kind):
            rows.append(f"{kind},{circuit.id},{text}")
    found = _diagnosed(job, rows, circuit.id)
    told = tuple(_names(ids) for ids in (each.ids for each in found.possible)) if found else ()
    further, certain = 0, ()
    while found is not None:
        if found.certain:
            certain = tuple(_names(each.ids) for each in found.possible)
            break
        reading = found.next_test.reading if found.next_test is not None else None
        text = wiring.reading(reading.test) if reading is not None and further < FURTHER else None
        if reading is None or text is None:
            break
        further += 1
        rows.append(f"{reading.test},{reading.subject.kind}:{reading.subject.id},{text}")
        found = _diagnosed(job, rows, circuit.id)
    return Trial(standard, frozenset(true), told, certain, further if certain else None, tuple(rows))


def _of_supply(job: Job, wiring: Wiring) -> list[str]:
    """What is read of the supply, and of another circuit, which is sound but for what the supply does to it."""
    rows = [
        f"ze,supply,{'LIM' if wiring.earth_off else f'{wiring.ze_ohm:.2f}'}",
        f"pfc_ln,main,{job.supply.nominal_v / wiring.zln0_ohm:.0f}",
    ]
    return [*rows, "r_me,supply,LIM"] if wiring.earth_off else rows


def _names(ids: tuple[str, ...]) -> frozenset[str]:
    return frozenset(each.removeprefix("common.defect.") for each in ids)


def _wiring(network: Installation, circuit: Circuit, rng: random.Random) -> Wiring:
    """The circuit as drawn, a little longer or shorter, with joints as good joints are."""
    by_design = expecting(network, 20.0)
    unit = unit_of(network, by_design, MeasuredValues(network, {}), circuit.id)
    assert unit is not None
    symbols, ring = unit.model.symbols, unit.model.ring
    a, b, c = (symbols[name] for name in (("r1", "rn", "r2") if ring else ("R1", "Rn", "R2")))
    return Wiring(
        ring=ring, line_ohm=a, neutral_ohm=b, cpc_ohm=c, ze_ohm=round(symbols["Ze"] * rng.uniform(0.6, 1.0), 2),
        zln0_ohm=symbols["Ze"] * rng.uniform(0.5, 0.9), rcd_ma=_rcd_ma(network, circuit), rng=rng, stretch=rng.uniform(0.92, 1.08),
    )  # fmt: skip


def _rcd_ma(network: Installation, circuit: Circuit) -> tuple[float, float] | None:
    """Between what the circuit's own residual-current device trips at, rising; None: it has none."""
    subject = subject_of(network, "rcd_ramp", ReadingSubject(kind="rcd", id=circuit.id))
    if subject is None or subject.rcd is None:
        return None
    expected = expecting(network, 20.0).of("rcd_ramp", subject)
    return expected.least or subject.rcd.idn_ma / 2, expected.most or subject.rcd.idn_ma


def _put_in(
    sound: Wiring, defects: Mapping[str, Callable[[Wiring], None]], wanted: int, kinds: tuple[ReadingKind, ...]
) -> tuple[Wiring, list[str]]:
    """So many defects in a wiring, each of which changes a reading that is taken, beside the other too: what no reading shows cannot be told."""
    while True:
        names = sound.rng.sample(list(defects), wanted)
        if len(names) == 2 and reads_like_another(*names):
            continue
        made = deepcopy(sound)
        without = [deepcopy(sound) for _ in names]
        for name in names:
            state = sound.rng.getstate()
            for other, wiring in zip([*names, ""], [*without, made], strict=True):
                wiring.rng.setstate(state)
                if other != name:
                    defects[name](wiring)
        if all(made.differs_from(wiring, kinds) for wiring in without):
            return made, names


def _may_have(name: str, standard: str, wiring: Wiring) -> bool:
    """Whether a defect is met in such an installation, and this circuit has what it is in."""
    if not any(each.id.endswith(f".{name}") for each in defects_of(standard)):
        return False
    return wiring.rcd_ma is not None or not name.startswith(("rcd-", "button-", "circuit-not"))


def _diagnosed(job: Job, rows: list[str], circuit: str) -> Diagnosis | None:
    rules = rule_set(job.job.rules)
    read = read_readings(Installation.of(job, rules), "test,subject,value\n" + "\n".join(rows))
    assert not read.problems, read.problems
    made = job.model_copy(update={"testing": Testing(temperature_c=20.0, readings=read.readings)})
    network = Installation.of(made, rules)
    found = diagnosed(network, judged(network))
    return next((each for each in found if each.circuit in (circuit, "")), None)
