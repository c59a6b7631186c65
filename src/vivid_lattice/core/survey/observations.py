"""What is wrong in a board that was found: why it matters, how urgent it is, and by which clause. Nothing for its age alone."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from types import MappingProxyType
from typing import Literal

from vivid_lattice.core.document.existing_board import EMPTY, ExistingBoard, ExistingWay
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.sources import Source
from vivid_lattice.core.survey.rating_transfer import capacity_as_found
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import SLACK

Urgency = Literal["now", "soon", "better", "note"]
URGENCIES: tuple[Urgency, ...] = ("now", "soon", "better", "note")


@dataclass(frozen=True, slots=True, kw_only=True)
class ObservationKind:
    """A kind of thing that may be wrong: of a 'way' or of the 'board'."""

    id: str
    title: str
    reason: str
    urgency: Urgency
    act: str
    topic: str
    subject: Literal["way", "board"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ObservationResult:
    """Something wrong in a board. ``by``: 'seen' by the one who looked, or 'told' by what was written down."""

    kind: ObservationKind
    board: str
    way: int | None
    text: Text
    by: Literal["seen", "told"]
    source: Source | None


@lru_cache
def observation_kinds() -> Mapping[str, ObservationKind]:
    """Every kind there is, by id, the most urgent first."""
    text = (files("vivid_lattice.core.survey") / "data" / "observations.toml").read_text("utf-8")
    kinds = [ObservationKind(**entry) for entry in tomllib.loads(text)["observation"]]
    return MappingProxyType(
        {known.id: known for known in sorted(kinds, key=lambda kind: URGENCIES.index(kind.urgency))}
    )


def observation_results(job: Job, rules: RuleSet, board: ExistingBoard) -> tuple[ObservationResult, ...]:
    """Everything that is wrong in a board, the most urgent first: what was seen, and what follows from what was written down."""
    kinds, results = observation_kinds(), []
    for seen in board.observations:
        if seen.kind in kinds:
            results.append(
                ObservationResult(
                    kind=kinds[seen.kind],
                    board=board.id,
                    way=seen.way,
                    text=seen.note,
                    by="seen",
                    source=_source(rules, kinds[seen.kind]),
                )
            )
    known = {(item.kind.id, item.way) for item in results}
    for what, way, words in _of_board(job, rules, board):
        if (what, way) not in known:
            results.append(
                ObservationResult(
                    kind=kinds[what], board=board.id, way=way, text=words, by="told", source=_source(rules, kinds[what])
                )
            )
    return tuple(sorted(results, key=lambda item: (URGENCIES.index(item.kind.urgency), item.way or 0)))


def _source(rules: RuleSet, kind: ObservationKind) -> Source | None:
    """The clause a kind is held against; None where the rule set holds none."""
    try:
        if kind.topic == "main":
            return rules.board.main.source
        if kind.topic == "division":
            return rules.protection.division.rule
        if kind.topic == "additional":
            return rules.protection.additional_ma.source
        if kind.topic == "capacity":
            return rules.rule("capacity")
        return rules.board.source(kind.topic)
    except NeedsInput:
        return None


def _of_board(job: Job, rules: RuleSet, board: ExistingBoard) -> Iterator[tuple[str, int | None, Text]]:
    """What follows from the board as it was written down."""
    if board.main_device == "none":
        yield "no-isolator", None, ""
    if board.main_device == "rcd":
        yield "rcd-as-main", None, ""
    asked = rules.board.non_combustible
    if board.material in ("moulded", "wood") and asked is not None and job.job.premises in asked[0]:
        yield "combustible", None, f"{board.material}"
    devices = [way for way in board.ways if way.kind not in EMPTY]
    if devices:
        yield from _of_residual(rules, board, devices)
    if devices and not any(way.label for way in devices):
        yield "no-labels", None, ""
    for way in board.ways:
        yield from _of_way(job, rules, way)


def _of_residual(
    rules: RuleSet, board: ExistingBoard, devices: Sequence[ExistingWay]
) -> Iterator[tuple[str, int | None, Text]]:
    """What follows from the residual currents that the board trips at."""
    residual = [rcd.idn_ma for rcd in (board.main_rcd, *(way.rcd for way in devices)) if rcd is not None]
    if not residual:
        yield "no-rcd", None, ""
    elif min(residual) > rules.protection.additional_ma.value:
        yield "hundred-ma-only", None, f"{min(residual):g} mA"


def _over_fused(job: Job, rules: RuleSet, way: ExistingWay) -> Text:
    """How far a device is above what its conductor carries however it is laid; empty where it is not, or not known."""
    carries = capacity_as_found(job, rules, way)
    if carries is None or way.rating_a is None or way.rating_a <= carries.max_a * (1 + SLACK):
        return ""
    size = rules.cables.size_label(way.conductor_mm2 or 0)
    return message(
        None, "core.survey.observation.over", a=Shown(f"{way.rating_a:g}"), size=size, iz=Shown(f"{carries.max_a:g}")
    )


def _of_way(job: Job, rules: RuleSet, way: ExistingWay) -> Iterator[tuple[str, int | None, Text]]:
    if way.kind == "open":
        yield "missing-blank", way.number, ""
    if way.kind in EMPTY:
        return
    if _rewirable(rules, way):
        yield "rewirable-fuse", way.number, f"{way.rating_a:g} A" if way.rating_a else ""
    if over_fused := _over_fused(job, rules, way):
        yield "over-fused", way.number, over_fused
    if way.tested and _feeds_something_else(way):
        yield "wrong-label", way.number, f"{way.label}: it is {way.actually_feeds}"
    if not way.tested:
        yield "unproven", way.number, way.label


def _feeds_something_else(way: ExistingWay) -> bool:
    """Whether a way was seen to feed something else than its label says."""
    return bool(way.actually_feeds and way.label) and way.actually_feeds.casefold() != way.label.casefold()


def _rewirable(rules: RuleSet, way: ExistingWay) -> bool:
    """Whether a way holds a fuse that trips late under overload, as those with a wire do."""
    kind = rules.devices.kinds.get(way.kind)
    return way.kind == "rewirable" or (kind is not None and kind.rewirable)
