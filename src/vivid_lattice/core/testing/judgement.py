"""Readings judged: each against its limit, against the design, and against the other readings."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.document.readings import Reading, ReadingKind, ReadingSubject
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.reading_uncertainty import uncertainty_of
from vivid_lattice.core.rules.testing_rules import Uncertainty
from vivid_lattice.core.sources import Source
from vivid_lattice.core.testing.comparisons import ReadingComparison, comparisons_of
from vivid_lattice.core.testing.expected_value import Expected, Expecting, expecting
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.reading_text import shown_reading
from vivid_lattice.core.testing.subjects import Subject, subject_of
from vivid_lattice.core.testing.test_plan import planned_id, reading_title
from vivid_lattice.core.text import plain, shown_down, shown_up
from vivid_lattice.core.units import SLACK

#: How a reading is to the design: it agrees; it is a little off; it is far below or far above; there is nothing to compare it with.
AgreementWord = Literal["agrees", "look-again", "below", "above", "none"]


@dataclass(frozen=True, slots=True, kw_only=True)
class JudgedReading:
    """A reading with its verdict, its agreement with the design, and how it is to other readings. ``test``: the planned test it is of;
    ``off``: it needs an explanation: it fails, or is far from the design or from what other readings make of it."""

    reading: str
    test: str
    kind: ReadingKind
    title: Text
    subject: ReadingSubject
    name: Text
    shown: str
    verdict: Verdict
    sentence: Text
    limit_source: Source | None
    agreement: AgreementWord
    agreement_text: Text
    comparisons: tuple[ReadingComparison, ...]
    expected: Expected
    alone: bool | None
    no_trip: bool
    off: bool


def judged(network: Installation, temperature_c: float | None = None) -> tuple[JudgedReading, ...]:
    """Every reading in force of a job; those of what the job has no more are left out.

    temperature_c  of the conductors where a reading does not state its own; None: as stated in the job
    """
    day_c = network.job.testing.temperature_c if temperature_c is None else temperature_c
    measured = MeasuredValues.of(network, day_c)
    made = _Judge(network, measured)
    return tuple(each for reading in network.job.testing.readings if (each := made.judge(reading, day_c)) is not None)


def worst_of(readings: tuple[JudgedReading, ...]) -> Verdict:
    """The worst verdict of some readings; of none, 'not-applicable'."""
    return min((each.verdict for each in readings), key=VERDICT_ORDER.index, default="not-applicable")


class _Judge:
    def __init__(self, network: Installation, measured: MeasuredValues):
        self._network, self._measured = network, measured
        self._by_design = expecting(network, 20.0)
        self._expecting: dict[float, Expecting] = {}

    def judge(self, reading: Reading, day_c: float) -> JudgedReading | None:
        subject = subject_of(self._network, reading.test, reading.subject)
        if subject is None:
            return None
        temperature_c = day_c if reading.temperature_c is None else reading.temperature_c
        if temperature_c not in self._expecting:
            self._expecting[temperature_c] = replace(self._by_design, temperature_c=temperature_c)
        expected = self._expecting[temperature_c].of(reading.test, subject)
        verdict, sentence = self._verdict(reading, expected, subject)
        if reading.parts:
            parts = ", ".join(f"{part:g}" for part in reading.parts)
            sentence = self._say("mean", reason=sentence, parts=parts, unit=TRAITS[reading.test].unit)
        agreement, text = self._agreement(reading, expected)
        comparisons = self._compared(reading, subject)
        far = {agreement, *(comparison.agreement for comparison in comparisons)} & {"below", "above"}
        return JudgedReading(
            reading=reading.id,
            test=planned_id(reading.test, reading.subject),
            kind=reading.test,
            title=reading_title(self._network, reading.test),
            subject=reading.subject,
            name=subject.name,
            shown=shown_reading(reading.state, reading.value, TRAITS[reading.test].unit),
            verdict=verdict,
            sentence=sentence,
            limit_source=expected.limit_source,
            agreement=agreement,
            agreement_text=text,
            comparisons=comparisons,
            expected=expected,
            alone=reading.alone,
            no_trip=reading.no_trip,
            off=verdict == "fail" or bool(far),
        )

    def _compared(self, reading: Reading, subject: Subject) -> tuple[ReadingComparison, ...]:
        return tuple(comparisons_of(self._network, self._measured, reading, subject))

    # ------------------------------------------------------------------------------------------ against the limit

    def _say(self, part: str, **params: Param) -> Message:
        return self._network.message(f"core.testing.judged.{part}", **params)

    def _verdict(self, reading: Reading, expected: Expected, subject: Subject) -> tuple[Verdict, Text]:
        if reading.state == "left-out":
            if reading.reason:
                return "not-applicable", self._say("left_out", reason=reading.reason)
            return "missing", self._say("no_reason")
        if reading.state in ("right", "wrong"):
            return ("pass", self._say("right")) if reading.state == "right" else ("fail", self._say("wrong"))
        if reading.state == "above-range" and (reading.test in _OPEN or reading.test in _NO_TRIP):
            return "fail", self._say("open" if reading.test in _OPEN else "no_trip")
        unit = TRAITS[reading.test].unit
        results = [*self._most(reading, expected, unit, subject), *self._least(reading, expected, unit)]
        if in_use := self._insulation_in_use(reading, subject, results):
            return in_use
        if not results:
            return "not-applicable", self._say("no_limit")
        return min(results, key=lambda result: VERDICT_ORDER.index(result[0]))

    def _insulation_in_use(
        self, reading: Reading, subject: Subject, results: list[tuple[Verdict, Text]]
    ) -> tuple[Verdict, Text] | None:
        """Insulation of an existing installation that is below what new work has to have, and enough at a periodic test with its loads
        connected."""
        in_use = (
            bool(self._network.job.survey.boards) and reading.test.startswith("ir_") and subject.circuit is not None
        )
        if not in_use or reading.value is None or all(verdict != "fail" for verdict, _ in results):
            return None
        assert subject.circuit is not None
        least = self._network.rules.testing.periodic_insulation(wet=self._is_wet(subject.circuit), loads_connected=True)
        if least is None:
            return None
        least_mohm = least.value * self._network.job.supply.nominal_v / 1e6
        if reading.value < least_mohm - SLACK:
            return None
        said = next(sentence for verdict, sentence in results if verdict == "fail")
        return "advice", self._say("in_use", reason=said, limit=plain(least_mohm))

    def _is_wet(self, circuit: Circuit) -> bool:
        """Whether it is outdoors, or where walls and floors are sprayed."""
        rooms = [self._network.tree.rooms[load.room] for load in circuit.loads if load.room is not None]
        return any(room.kind == "outdoors" or room.water_jets for room in rooms)

    def _uncertainty(self, reading: Reading) -> Uncertainty | None:
        return uncertainty_of(self._network.job.testing, self._network.rules.testing, reading)

    def _most(
        self, reading: Reading, expected: Expected, unit: str, subject: Subject
    ) -> Iterator[tuple[Verdict, Text]]:
        most, value = expected.most, reading.value
        if most is None:
            return
        shown = {"limit": shown_down(most), "unit": unit}
        if value is None:
            if reading.state == "below-range":
                yield "missing", self._say("range")
            else:
                yield "fail", self._say("above", value="range", **shown)
            return
        if reading.state == "below-range":
            within = value <= most + SLACK
            yield (
                ("pass", self._say("most", value=f"< {value:g}", **shown))
                if within
                else ("missing", self._say("range"))
            )
        elif reading.state == "above-range":
            yield "fail", self._say("above", value=f"> {value:g}", **shown)
        elif value <= most + SLACK:
            uncertainty = self._uncertainty(reading)
            near = uncertainty is not None and uncertainty.above(value) > most + SLACK
            if expected.by_rcd:
                yield "advice", self._say("by_rcd", value=shown_up(value), **shown)
            else:
                yield "tight" if near else "pass", self._say("near" if near else "most", value=shown_up(value), **shown)
        else:
            yield self._above(reading, expected, unit, subject)

    def _above(self, reading: Reading, expected: Expected, unit: str, subject: Subject) -> tuple[Verdict, Text]:
        """A loop above what is accepted at once: Ze and the warm R1+R2 as read dead decide, where both are known and the loop agrees with them.
        One that is above the limit itself, or that they do not explain, fails: something in it was not in the dead test."""
        assert reading.value is not None and expected.most is not None
        above = self._say("above", value=shown_up(reading.value), limit=shown_down(expected.most), unit=unit)
        limit = expected.by_calculation
        warm = self._measured.warm_loop_ohm(subject) if reading.test == "zs" else None
        if limit is None or reading.test != "zs":
            return "fail", above
        if warm is None:
            return "fail", self._say("above_ask", reason=above)
        explained = all(one.agreement in ("agrees", "look-again") for one in self._compared(reading, subject))
        if reading.value > limit + SLACK or not explained:
            return "fail", above
        figures = {"value": shown_up(warm), "limit": shown_down(limit)}
        if warm <= limit + SLACK:
            return "pass", self._say("by_calculation", **figures)
        return "fail", self._say("calculation_fails", **figures)

    def _least(self, reading: Reading, expected: Expected, unit: str) -> Iterator[tuple[Verdict, Text]]:
        least, value = expected.least, reading.value
        if least is None:
            return
        shown = {"limit": plain(least), "unit": unit}
        if value is None:
            yield ("pass", self._say("beyond")) if reading.state == "above-range" else ("missing", self._say("range"))
            return
        if reading.state == "below-range":
            fails = value <= least + SLACK
            yield (
                ("fail", self._say("below", value=f"< {value:g}", **shown))
                if fails
                else ("missing", self._say("range"))
            )
            return
        enough = value > least + SLACK if expected.over else value >= least - SLACK
        sign = "> " if reading.state == "above-range" else ""
        if not enough:
            if reading.state == "above-range":
                yield "missing", self._say("range_short", value=f"> {value:g}", **shown)
            else:
                yield "fail", self._say("below", value=shown_down(value), **shown)
            return
        uncertainty = self._uncertainty(reading)
        near = not sign and uncertainty is not None and uncertainty.below(value) < least - SLACK
        yield (
            "tight" if near else "pass",
            self._say("near_least" if near else "least", value=f"{sign}{value:g}", **shown),
        )

    # ------------------------------------------------------------------------------------------ against the design

    def _agreement(self, reading: Reading, expected: Expected) -> tuple[AgreementWord, Text]:
        if reading.state != "value" or reading.value is None or expected.value is None or expected.low is None:
            return "none", ""
        word = agreement_word(reading.value, expected)
        return word, self._say(
            f"design_{word}",
            value=f"{reading.value:g}",
            expected=shown_up(expected.value),
            unit=TRAITS[reading.test].unit,
        )


#: Kinds of which a reading beyond the range is an open circuit, and those of which it is a device that did not trip.
_OPEN: frozenset[ReadingKind] = frozenset(
    {"r_me", "r_bond", "r1r2", "r1rn", "r2", "r1_end", "rn_end", "r2_end", "x_ln", "x_le", "ze", "zs", "zln", "ra"}
)
_NO_TRIP: frozenset[ReadingKind] = frozenset({"rcd_1", "rcd_5", "rcd_ramp"})


def agreement_word(value: float, expected: Expected) -> AgreementWord:
    """How a value is to what was expected, by the bands of it."""
    low, high, far_low, far_high = expected.low, expected.high, expected.far_low, expected.far_high
    if low is None or high is None or far_low is None or far_high is None:
        return "none"
    if low - SLACK <= value <= high + SLACK:
        return "agrees"
    if value < far_low - SLACK:
        return "below"
    return "above" if value > far_high + SLACK else "look-again"
