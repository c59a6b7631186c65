"""A voltage-watching relay run against a voltage trace: every opening, every closing, and why."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import isfinite

from vivid_lattice.core.document.surge_and_relay import VoltageRelay
from vivid_lattice.core.errors import BadDocument, DocumentProblem, OutOfRange
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.text import Shown


@dataclass(frozen=True, slots=True)
class Sample:
    """Voltage from a time on, until the next sample [s, V]; and the current that would flow, where it is known [A]."""

    at_s: float
    volts: float
    amps: float | None = None


#: A relay that switches more often than this over a trace has the wrong settings.
MAX_SWITCHINGS = 10_000


@dataclass(frozen=True, slots=True)
class Switching:
    """An opening or closing of the relay."""

    at_s: float
    opens: bool
    reason: Text


def run_relay(relay: VoltageRelay, trace: Sequence[Sample], until_s: float) -> tuple[Switching, ...]:
    """What a relay does over a trace whose voltage holds from each sample to the next.

    It trips when the voltage has been past a threshold for the whole delay, or the current past its threshold, and closes when
    the voltage has been inside both by the hysteresis for the whole re-close time since it tripped. A relay that is open carries no current.
    Raises  OutOfRange where the samples' times do not rise, where the relay would trip and close again in no time,
            or more than MAX_SWITCHINGS times
    """
    _must_rise(trace)
    switchings: list[Switching] = []
    closed, since = True, {"over": -1.0, "under": -1.0, "current": -1.0, "inside": -1.0}
    for number, sample in enumerate(trace):
        end = trace[number + 1].at_s if number + 1 < len(trace) else until_s
        _note(relay, sample, since)
        while True:
            following = _next(relay, closed, since)
            # The very end belongs to the next sample, whose voltage is already another.
            if following is None or following.at_s >= end - 1e-12:
                break
            switchings.append(following)
            _must_come_to_rest(switchings)
            closed = not following.opens
            if following.opens and since["inside"] >= 0:
                since["inside"] = following.at_s
            since["current"] = -1.0 if following.opens else _from(sample.amps, relay.current_a, following.at_s)
    return tuple(switchings)


def _must_come_to_rest(switchings: Sequence[Switching]) -> None:
    """OutOfRange where the last cycle takes no time, so that it would go on for ever, or there are more than anyone reads."""
    if len(switchings) > 2 and switchings[-1].at_s <= switchings[-3].at_s:
        raise OutOfRange(
            f"cycle of the relay at {switchings[-1].at_s:g} s [s]",
            switchings[-1].at_s - switchings[-3].at_s,
            "over 0: enter a reconnection delay or a trip delay",
        )
    if len(switchings) > MAX_SWITCHINGS:
        raise OutOfRange(
            "number of switchings",
            len(switchings),
            f"{MAX_SWITCHINGS} or fewer: enter a longer reconnection delay, or a shorter trace",
        )


def _note(relay: VoltageRelay, sample: Sample, since: dict[str, float]) -> None:
    """Since when each condition has held; −1 while it does not."""
    inside = relay.under_v + relay.hysteresis_v <= sample.volts <= relay.over_v - relay.hysteresis_v
    past_current = relay.current_a is not None and (sample.amps or 0.0) > relay.current_a
    for name, holds in (
        ("over", sample.volts > relay.over_v),
        ("under", sample.volts < relay.under_v),
        ("current", past_current),
        ("inside", inside),
    ):
        if not holds:
            since[name] = -1.0
        elif since[name] < 0:
            since[name] = sample.at_s


def _from(amps: float | None, threshold_a: float | None, at_s: float) -> float:
    return at_s if threshold_a is not None and (amps or 0.0) > threshold_a else -1.0


def _next(relay: VoltageRelay, closed: bool, since: dict[str, float]) -> Switching | None:
    if not closed:
        if since["inside"] < 0:
            return None
        return Switching(since["inside"] + relay.reclose_s, False, message(None, "core.relay.reclose"))
    due = [
        Switching(since[name] + delay, True, why)
        for name, delay, why in (
            ("over", relay.over_s, message(None, "core.relay.over", v=Shown(f"{relay.over_v:g}"))),
            ("under", relay.under_s, message(None, "core.relay.under", v=Shown(f"{relay.under_v:g}"))),
            ("current", relay.current_s, message(None, "core.relay.current", a=Shown(f"{relay.current_a or 0:g}"))),
        )
        if since[name] >= 0
    ]
    return min(due, key=lambda item: item.at_s, default=None)


def built_in_traces(nominal_v: float) -> dict[str, tuple[Message, tuple[Sample, ...], float]]:
    """Traces that come with the program, by id: title, samples, end [s]. Invented shapes of what supplies do."""

    def at(*pairs: tuple[float, float]) -> tuple[Sample, ...]:
        return tuple(Sample(time, round(share * nominal_v, 1)) for time, share in pairs)

    return {
        "quiet": (message(None, "core.relay.trace.quiet"), at((0, 1.0), (60, 0.98), (120, 1.02), (240, 1.0)), 300.0),
        "lost-neutral": (
            message(None, "core.relay.trace.lost-neutral"),
            at((0, 1.0), (20, 1.5), (80, 0.6), (110, 1.0)),
            300.0,
        ),
        "brown-out": (
            message(None, "core.relay.trace.brown-out"),
            at((0, 1.0), (10, 0.72), (40, 0.86), (70, 0.95), (150, 1.0)),
            300.0,
        ),
        "flicker": (
            message(None, "core.relay.trace.flicker"),
            at((0, 1.0), (10, 0.8), (10.4, 1.0), (30, 0.8), (30.4, 1.0), (50, 0.8), (52, 1.0)),
            240.0,
        ),
        "solar-noon": (
            message(None, "core.relay.trace.solar-noon"),
            at((0, 1.05), (40, 1.09), (80, 1.12), (130, 1.08), (200, 1.04)),
            320.0,
        ),
    }


def read_trace(text: str) -> tuple[tuple[Sample, ...], float]:
    """A user's trace from CSV: seconds, volts and, if there is a third column, amperes; a head line may stand first.

    Returns  the samples, and the end of the last one's second
    Raises   BadDocument naming the line and what is wrong with it
    """
    samples: list[Sample] = []
    for number, line in enumerate(text.splitlines(), 1):
        cells = [cell.strip() for cell in line.replace(";", ",").replace("\t", ",").split(",")]
        if not any(cells):
            continue
        try:
            figures = [float(cell) for cell in cells if cell]
        except ValueError:
            if number == 1:
                continue
            raise _wrong(number, message(None, "core.relay.trace_line", line=line.strip()[:60])) from None
        if len(figures) not in (2, 3) or not all(isfinite(figure) for figure in figures):
            raise _wrong(number, message(None, "core.relay.trace_figures", n=len(figures)))
        if samples and figures[0] <= samples[-1].at_s:
            raise _wrong(
                number,
                message(None, "core.relay.trace_order", a=Shown(f"{figures[0]:g}"), b=Shown(f"{samples[-1].at_s:g}")),
            )
        samples.append(Sample(figures[0], figures[1], figures[2] if len(figures) == 3 else None))
    if not samples:
        raise BadDocument([DocumentProblem("trace", message(None, "core.relay.trace_empty"))])
    return tuple(samples), samples[-1].at_s + 1.0


def _wrong(number: int, what: Text) -> BadDocument:
    return BadDocument([DocumentProblem(f"trace, line {number}", what)])


def _must_rise(trace: Sequence[Sample]) -> None:
    for before, after in pairwise(trace):
        if after.at_s <= before.at_s:
            raise OutOfRange("time of the trace", after.at_s, f"over {before.at_s:g} s: samples must be in time order")
