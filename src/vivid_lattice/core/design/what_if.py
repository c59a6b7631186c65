"""What if: one quantity of a circuit moved along its range, and the point at which each check fails."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.assessment.assess import findings_of
from vivid_lattice.core.checks import SIZING
from vivid_lattice.core.checks.support.finding_builder import percent_down
from vivid_lattice.core.design.candidate_changes import scaled
from vivid_lattice.core.document.job import Circuit, Job, with_circuit
from vivid_lattice.core.errors import CoreError, OutOfRange
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet

Quantity = Literal["length", "load", "ambient", "grouping", "ze"]
#: Points along the range at which the checks are asked, and halvings of the interval in which one fails.
_POINTS, _HALVINGS = 25, 12
_BAD = ("fail", "missing", "advice")


@dataclass(frozen=True, slots=True, kw_only=True)
class WhatIfRange:
    """A quantity that may be moved: what it is now, how far it may go, and its unit. ``steps`` in whole numbers."""

    quantity: Quantity
    title: Message
    unit: str
    now: float
    low: float
    high: float
    whole: bool


@dataclass(frozen=True, slots=True)
class WhatIfPoint:
    """What a check says at a value: its verdict, and what is left (None where it does not say) with how it is written,
    rounded down."""

    verdict: Verdict
    margin: float | None
    shown: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckCurve:
    """A check along the range, point by point, and where it fails.

    ``breaks_at``: the last value that passes, coming from the present one, rounded to the safe side; None: nowhere in the
    range, or already failing. ``verdict``: as it is now.
    """

    check: str
    title: Message
    verdict: Verdict
    points: tuple[WhatIfPoint, ...]
    breaks_at: float | None


@dataclass(frozen=True, slots=True)
class WhatIf:
    """A quantity, the values it was tried at, and every check along them."""

    range: WhatIfRange
    values: tuple[float, ...]
    curves: tuple[CheckCurve, ...]
    first: Text


def ranges(job: Job, circuit: Circuit) -> tuple[WhatIfRange, ...]:
    """What of a circuit may be moved. A quantity that is not known yet cannot be."""
    candidates = (
        _length(circuit),
        _load(circuit),
        _ambient(circuit, rule_set(job.job.rules)),
        _grouping(circuit),
        _ze(job),
    )
    return tuple(candidate for candidate in candidates if candidate is not None)


def _length(circuit: Circuit) -> WhatIfRange | None:
    lengths = [section.length_m for section in circuit.run if section.length_m is not None]
    if len(lengths) < len(circuit.run):
        return None
    metres = sum(lengths)
    return WhatIfRange(
        quantity="length",
        title=message(None, "core.what_if.length"),
        unit="m",
        now=metres,
        low=1.0,
        high=max(100.0, 4 * metres),
        whole=False,
    )


def _load(circuit: Circuit) -> WhatIfRange | None:
    watts = sum((load.power_w or 0.0) * load.items for load in circuit.loads)
    if not watts or circuit.design_current_a is not None or circuit.kind in ("ring", "radial", "distribution"):
        return None
    return WhatIfRange(
        quantity="load",
        title=message(None, "core.what_if.load"),
        unit="W",
        now=watts,
        low=0.1 * watts,
        high=3 * watts,
        whole=False,
    )


def _ambient(circuit: Circuit, rules: RuleSet) -> WhatIfRange | None:
    if circuit.run[0].method not in rules.factors.methods:
        return None
    base = rules.factors.base_ambient_c(circuit.run[0])
    now = max((section.ambient_c or base) for section in circuit.run)
    return WhatIfRange(
        quantity="ambient",
        title=message(None, "core.what_if.ambient"),
        unit="°C",
        now=now,
        low=min(base, now),
        high=max(65.0, now),
        whole=False,
    )


def _grouping(circuit: Circuit) -> WhatIfRange:
    grouped = max(section.circuits_grouped for section in circuit.run)
    return WhatIfRange(
        quantity="grouping",
        title=message(None, "core.what_if.grouped"),
        unit="",
        now=float(grouped),
        low=1.0,
        high=float(max(12, grouped)),
        whole=True,
    )


def _ze(job: Job) -> WhatIfRange | None:
    ze = job.supply.ze_ohm
    if ze is None:
        return None
    return WhatIfRange(
        quantity="ze",
        title=message(None, "core.what_if.ze"),
        unit="Ω",
        now=ze,
        low=0.05 * ze,
        high=max(4 * ze, 2.0),
        whole=False,
    )


def what_if(job: Job, circuit_id: str, quantity: Quantity) -> WhatIf | None:
    """A quantity of a circuit along its range, with every check of that circuit; None where it cannot be moved."""
    circuit = job.find_circuit(circuit_id)
    if circuit is None:
        return None
    what_if_range = next((known for known in ranges(job, circuit) if known.quantity == quantity), None)
    if what_if_range is None:
        return None
    rules = rule_set(job.job.rules)
    values = _points(what_if_range)
    asked = [_checked_at(job, circuit, what_if_range, value, rules) for value in values]
    now = _checked_at(job, circuit, what_if_range, what_if_range.now, rules)
    curves = []
    for check in SIZING:
        points = tuple(answer[check.id] for answer in asked)
        verdict = now[check.id].verdict
        curves.append(
            CheckCurve(
                check=check.id,
                title=check.title(rules.words),
                verdict=verdict,
                points=points,
                breaks_at=_breaks(job, circuit, what_if_range, check.id, values, asked, now, rules),
            )
        )
    return WhatIf(what_if_range, values, tuple(curves), _breaks_first(curves, what_if_range.now))


def _points(what_if_range: WhatIfRange) -> tuple[float, ...]:
    if what_if_range.whole:
        return tuple(float(value) for value in range(int(what_if_range.low), int(what_if_range.high) + 1))
    step = (what_if_range.high - what_if_range.low) / (_POINTS - 1)
    values = {round(what_if_range.low + at * step, 4) for at in range(_POINTS)} | {round(what_if_range.now, 4)}
    return tuple(sorted(values))


_Answers = dict[str, WhatIfPoint]
_LACKING = WhatIfPoint("missing", None, "–")


def _checked_at(job: Job, circuit: Circuit, what_if_range: WhatIfRange, value: float, rules: RuleSet) -> _Answers:
    """Verdict and margin of every check with the quantity at a value."""
    changed, moved = moved_to(job, circuit, what_if_range, value)
    try:
        return {finding.check: _point(finding) for finding in findings_of(changed, moved, rules)}
    except CoreError:
        return dict.fromkeys((check.id for check in SIZING), _LACKING)


def _point(finding: Finding) -> WhatIfPoint:
    shown = "–" if finding.margin is None else f"{percent_down(finding.margin)} %"
    return WhatIfPoint(finding.verdict, finding.margin, shown)


def applied(job: Job, circuit_id: str, quantity: Quantity, value: float) -> Job:
    """The job with a quantity of a circuit at a value, as it is entered; the job as it was where it cannot be moved.

    Raises OutOfRange for a value outside the range.
    """
    circuit = job.find_circuit(circuit_id)
    what_if_range = (
        next((known for known in ranges(job, circuit) if known.quantity == quantity), None) if circuit else None
    )
    if circuit is None or what_if_range is None:
        return job
    if not what_if_range.low <= value <= what_if_range.high:
        raise OutOfRange(
            quantity, value, f"{what_if_range.low:g} to {what_if_range.high:g} {what_if_range.unit}".strip()
        )
    return moved_to(job, circuit, what_if_range, value)[0]


def moved_to(job: Job, circuit: Circuit, what_if_range: WhatIfRange, value: float) -> tuple[Job, Circuit]:
    """The job with a quantity of a circuit at a value, and the circuit in it."""
    if what_if_range.quantity == "ze":
        return job.model_copy(update={"supply": job.supply.model_copy(update={"ze_ohm": value})}), circuit
    if what_if_range.quantity == "length":
        moved = scaled(circuit, value / what_if_range.now)
    elif what_if_range.quantity == "load":
        share = value / what_if_range.now
        loads = tuple(
            load if load.power_w is None else load.model_copy(update={"power_w": round(load.power_w * share, 1)})
            for load in circuit.loads
        )
        moved = circuit.model_copy(update={"loads": loads})
    else:
        update: dict[str, object] = (
            {"ambient_c": value} if what_if_range.quantity == "ambient" else {"circuits_grouped": int(value)}
        )
        moved = circuit.model_copy(update={"run": tuple(section.model_copy(update=update) for section in circuit.run)})
    return with_circuit(job, moved), moved


def _breaks(
    job: Job,
    circuit: Circuit,
    what_if_range: WhatIfRange,
    check: str,
    values: tuple[float, ...],
    asked: list[_Answers],
    now: _Answers,
    rules: RuleSet,
) -> float | None:
    """Where a check that holds now first fails, going up from the present value; None where it does not in the range."""

    def bad(answers: _Answers) -> bool:
        return answers[check].verdict in _BAD

    if bad(now):
        return None
    good = what_if_range.now
    for value, answers in zip(values, asked, strict=True):
        if value <= what_if_range.now:
            continue
        if not bad(answers):
            good = value
            continue
        if what_if_range.whole:
            return good
        return _halved(lambda middle: bad(_checked_at(job, circuit, what_if_range, middle, rules)), good, value)
    return None


def _halved(bad: Callable[[float], bool], good: float, first_bad: float) -> float:
    """The last good value between two, rounded towards the good one."""
    low, high = good, first_bad
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (low, middle) if bad(middle) else (middle, high)
    scale = 1000.0 if low < 10 else 10.0
    return int(low * scale) / scale


def _breaks_first(curves: Sequence[CheckCurve], now: float) -> Text:
    """Title of the check whose verdict changes nearest to the present value; empty where none does."""
    breaking = [(abs(curve.breaks_at - now), at) for at, curve in enumerate(curves) if curve.breaks_at is not None]
    return curves[min(breaking)[1]].title if breaking else ""
