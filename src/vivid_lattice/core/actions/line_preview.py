"""What a typed line would become, told while it is typed: what was read, chosen and assumed, what is not used, and the verdict."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.actions.enter_line import enter_line
from vivid_lattice.core.actions.switching_groups import Switched, switch
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.assessment.assumed import to_confirm
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.max_lengths import longest_run
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.entry.parsed_line import ParsedLine
from vivid_lattice.core.entry.switching_words import read_switching
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict, worst
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown

#: 'read': the line states it; 'chosen': by the design; 'assumed': as usual, to confirm; 'unused': nothing uses it.
ChipState = Literal["read", "chosen", "assumed", "unused"]


@dataclass(frozen=True, slots=True)
class Chip:
    """A part of a circuit as it is understood; ``reason``: why a token is not used."""

    text: Text
    state: ChipState
    reason: Text = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LinePreview:
    """A line as it would be entered: its circuit in chips, the worst verdict it would get, and the sentence behind that."""

    chips: tuple[Chip, ...]
    verdict: Verdict
    sentence: Text


def preview(job: Job, text: str, board: str) -> LinePreview:
    """The preview of a line. The job given is left as it was.

    Raises  EntryNotUnderstood where the line states no circuit, or the board has no free way
    """
    rules = rule_set(job.job.rules)
    if words := read_switching(text):
        return _of_switching(switch(job, words, board, text))
    entry = enter_line(job, text, board, accept=True)
    made = design(entry.job, spd=False).job
    line, circuit = entry.line, made.circuit(entry.circuit)
    findings = [each for each in assess(made, explain=False).findings if each.subject.id == entry.circuit]
    verdict = worst([each.verdict for each in findings if each.verdict != "not-applicable"] or ["not-applicable"])
    first = min(findings, key=lambda each: VERDICT_ORDER.index(each.verdict), default=None)
    said = first.sentence if first is not None and verdict in ("fail", "missing", "advice") else ""
    unused = (Chip(token.text, "unused", token.reason) for token in entry.unused)
    return LinePreview(chips=(*unused, *_chips(made, circuit, line, rules)), verdict=verdict, sentence=said)


def _of_switching(switched: Switched) -> LinePreview:
    """What stays on and what is switched, with the verdict of the board's control gear."""
    findings = assess(switched.job, explain=False).findings
    gear = next(each for each in findings if each.check == switched.check and each.subject.id == switched.board)
    off, *stays = switched.said
    chips = tuple(Chip(text, "chosen") for text in (*stays, off))
    return LinePreview(chips=chips, verdict=gear.verdict, sentence=gear.sentence)


def _chips(job: Job, circuit: Circuit, line: ParsedLine, rules: RuleSet) -> Iterator[Chip]:
    assumed = {each.field.removeprefix(f"circuits.{circuit.id}."): each for each in to_confirm(job, rules)}
    yield Chip(circuit.name, "read")
    yield Chip(message(rules.words, f"core.preview.kind.{circuit.kind}"), "read")
    for number, load in enumerate(circuit.loads):
        if load.power_w is not None:
            state: ChipState = "assumed" if f"loads.{number}.power_w" in assumed else "read"
            watts = Shown(f"{load.power_w / 1000:g} kW" if load.power_w >= 1000 else f"{load.power_w:g} W")
            counted = load.count is not None and load.count > 1
            yield Chip(f"{load.count} × {watts}" if counted else watts, state)
    if circuit.design_current_a is not None:
        yield Chip(Shown(f"{circuit.design_current_a:g} A"), "assumed" if "design_current_a" in assumed else "read")
    if not is_auto(circuit.device):
        device, kind = circuit.device, rules.devices.kind(circuit.device.kind)
        rcd = f" {device.rcd.type} {device.rcd.idn_ma:g} mA" if device.rcd else ""
        stated = line.device.rating_a is not None
        yield Chip(f"{device.curve or ''}{device.rating_a:g} {kind.short}{rcd}", "read" if stated else "chosen")
    if not is_auto(circuit.cable):
        yield Chip(
            Shown(rules.cables.size_label(circuit.cable.area_mm2)), "read" if line.conductor is not None else "chosen"
        )
    for section in circuit.run:
        if section.length_m is not None and "run.0.length_m" in assumed:
            yield Chip(_usual_length(job, circuit, section.length_m, rules), "assumed")
        elif section.length_m is not None:
            yield Chip(Shown(f"{section.length_m:g} m"), "read")
        # The first words of a method say which it is: clipped direct, or …
        method = rules.factors.methods[section.method].title.partition(",")[0]
        yield Chip(method, "read" if line.method is not None else "chosen")
    rooms = {room.id: room.name for room in job.rooms}
    for room in dict.fromkeys(load.room for load in circuit.loads if load.room is not None):
        yield Chip(rooms[room], "read")


def _usual_length(job: Job, circuit: Circuit, length_m: float, rules: RuleSet) -> Text:
    """A length that is taken as usual, with the longest that passes beside it."""
    longest = longest_run(job, circuit.id)
    if longest is None or longest.length_m is None or longest.unlimited:
        return Shown(f"{length_m:g} m")
    return message(rules.words, "core.preview.length", m=Shown(f"{length_m:g}"), max=Shown(f"{longest.length_m:g}"))
