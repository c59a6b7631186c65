"""How often the cause of readings that disagree is told: 1,000 boards in five standards with defects put in; and what a diagnosis costs.

Usage: make bench, or python bench/diagnosis.py [boards] [seed]. Without a seed the boards are other ones each time.
"""

from __future__ import annotations

import secrets
import sys
import time
from collections import defaultdict
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.builders import rcbo
from tests.core.testing.test_judged_readings import house, radial, with_rows
from tests.diagnosis_trials import FURTHER, Trial, trials
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.test_plan import plan_of

BUDGET_S = 0.3


def rates(done: list[Trial]) -> None:
    sound = [trial for trial in done if not trial.true]
    faulty = [trial for trial in done if trial.true]
    first = [trial for trial in faulty if trial.told and trial.is_true(trial.told[0])]
    second = [trial for trial in faulty if any(trial.is_true(told) for told in trial.told[:2])]
    certain = [trial for trial in faulty if trial.certain]
    right = [trial for trial in certain if trial.is_right]
    alarms = [trial for trial in sound if trial.told]
    print(f"{len(done)} boards, {len(sound)} sound, {sum(len(trial.true) > 1 for trial in done)} with two defects")
    for title, part, whole, wanted in (
        ("true cause first", first, faulty, ">= 80 %"),
        ("first or second", second, faulty, ">= 92 %"),
        (f"told as certain within {FURTHER} further tests", certain, faulty, ">= 90 %"),
        ("and then right", right, certain, ">= 99 %"),
        ("told of a sound board", alarms, sound, "<= 2 %"),
    ):
        print(f"  {title:42} {100 * len(part) / max(1, len(whole)):5.1f} %   (wanted {wanted})")
    by_defect: dict[str, list[Trial]] = defaultdict(list)
    for trial in faulty:
        by_defect[" + ".join(sorted(trial.true)) if len(trial.true) == 1 else "two at once"].append(trial)
    print(f"  {'defect':28}{'boards':>7}{'first':>8}{'second':>8}{'certain':>9}{'wrong':>7}")
    for name, of in sorted(by_defect.items()):
        hit = sum(bool(trial.told) and trial.is_true(trial.told[0]) for trial in of)
        near = sum(any(trial.is_true(told) for told in trial.told[:2]) for trial in of)
        sure = [trial for trial in of if trial.certain]
        wrong = sum(not trial.is_right for trial in sure)
        print(f"  {name:28}{len(of):7}{hit / len(of):8.0%}{near / len(of):8.0%}{len(sure) / len(of):9.0%}{wrong:7}")


def cost() -> None:
    """A board of 40 circuits that is read, four of them with something wrong."""
    lines = [
        radial(10.0 + number, 2.5, rcbo(16.0), id=f"c{number}", name=f"Circuit {number}") for number in range(1, 41)
    ]
    rules = rule_set("uk")
    rows = ["ze,supply,0.22"]
    for test in plan_of(Installation.of(house(*lines), rules)).tests:
        circuit, value = test.subject.id, test.expected.value
        if test.test in ("r1r2", "zs") and value is not None:
            rows.append(f"{test.test},{circuit},{value + (0.6 if circuit in ('c5', 'c20', 'c33') else 0):.2f}")
        elif test.test in ("ir_le", "ir_ln"):
            rows.append(f"{test.test},{circuit},{'0.3' if circuit == 'c9' else '>200'}")
        elif test.test == "rcd_1":
            rows.append(f"{test.test},{circuit},22")
    network = Installation.of(with_rows(house(*lines), *rows), rules)
    results = judged(network)
    taken = []
    for _ in range(5):
        begin = time.perf_counter()
        found = diagnosed(network, results)
        taken.append(time.perf_counter() - begin)
    print(
        f"diagnosis of 40 circuits, {len(found)} with a cause: {min(taken):.2f} s, {min(taken) / BUDGET_S:.2f} of {BUDGET_S} s"
    )


if __name__ == "__main__":
    boards = int(sys.argv[1]) if len(sys.argv) > 1 else 1000
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else secrets.randbits(32)
    print(f"seed {seed}")
    cost()
    rates(list(trials(boards, seed)))
