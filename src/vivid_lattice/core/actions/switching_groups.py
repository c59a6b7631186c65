"""Switching groups of a board from words: contactors that switch everything off together but what must stay on, impulse relays."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass

from vivid_lattice.core.board.layout.device_kinds import GEAR, GEAR_RATINGS_A
from vivid_lattice.core.checks.control_gear import ID as CONTROL_GEAR
from vivid_lattice.core.checks.voltage_relay import ID as VOLTAGE_RELAY
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.feeds import must_stay_on
from vivid_lattice.core.document.job import Board, Circuit, Job, free_id, with_parts
from vivid_lattice.core.entry.switching_words import SwitchingWords, read_switching
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.network.upstream import upstream_of
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.choices import usual_relay
from vivid_lattice.core.text import Shown

#: What stays on unless it is named: it spoils, guards or heats the house. Common practice, no source.
_STAYS_ON = (
    "freez",
    "fridge",
    "refrigerator",
    "router",
    "alarm",
    "boiler",
    "heating",
    "sump",
    "gefrier",
    "kühl",
    "heizung",
    "rauchmelder",
)
#: Ratings that voltage relays are sold in [A]. Common practice, no source.
_RELAYS_A = (32.0, 40.0, 63.0, 80.0, 100.0)
#: A name holds 120 characters, with the number of a contactor.
_TITLE_LENGTH = 110
#: A fixed load from here on has an isolator of its own, and is not switched at the door [A]. Common practice, no source.
_OWN_SWITCH_A = 25.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Switched:
    """A job with its groups, the board they are in, and what they switch, in words."""

    job: Job
    board: str
    said: tuple[Text, ...]
    #: The check of the board that the preview shows.
    check: str = CONTROL_GEAR


def switch(job: Job, words: SwitchingWords, board_id: str, text: str) -> Switched:
    """A line of switching carried out on a board.

    Contactors that are worked together share one coil circuit and one switch. What is behind a shared RCD is switched with the whole
    group, or not at all.
    Raises  EntryNotUnderstood where a name fits no circuit, nothing is left to switch, or a group needs a contactor larger than any
    """
    board = job.find_board(board_id)
    if board is None or not board.ways:
        raise EntryNotUnderstood(text, message(None, "core.switching.no_circuits"))
    if words.kind == "impulse-relay":
        return _relays(job, board, words, text)
    if words.kind == "central-off":
        return _central_off(job, board, words, text)
    if words.kind == "voltage-relay":
        return _voltage_relay(job, board, words, text)
    return _Groups(job, board, text).made(words)


def _named(job: Job, board: Board, names: Iterable[str], text: str) -> set[str]:
    """The circuits of a board that some names mean: those whose own name, or that of a load, has the words."""
    found: set[str] = set()
    for name in names:
        fits = {circuit.id for circuit in _circuits(job, board) if _has(circuit, name)}
        if not fits:
            raise EntryNotUnderstood(text, message(None, "core.switching.unknown", name=name, board=board.name))
        found |= fits
    return found


def _has(circuit: Circuit, name: str) -> bool:
    wanted = name.casefold().removeprefix("the ").rstrip("s")
    return any(wanted in each.casefold() for each in (circuit.name, *(load.name for load in circuit.loads)))


def _circuits(job: Job, board: Board) -> list[Circuit]:
    return [job.circuit(way.circuit) for way in board.ways]


def _title(gear: ControlGear) -> str:
    """What a contactor of several is called, without its number."""
    return re.sub(r" \d+$", "", gear.name)


def _is_all_off(gear: ControlGear) -> bool:
    """Whether a contactor was made by words that switch everything off together: it is called by them."""
    words = read_switching(_title(gear))
    return words is not None and words.kind == "all-off"


def _list(names: Iterable[str]) -> str:
    return "; ".join(names)


def _relays(job: Job, board: Board, words: SwitchingWords, text: str) -> Switched:
    """An impulse relay behind the device of each circuit named that has none."""
    gear, added = _with_relays(job, board, _named(job, board, words.names, text))
    if not added:
        raise EntryNotUnderstood(text, message(None, "core.switching.has_relay"))
    said = message(None, "core.switching.relays", list=_list(circuit.name for circuit in added))
    return _result(job, board, gear, (said,))


def _with_relays(job: Job, board: Board, wanted: set[str]) -> tuple[list[ControlGear], list[Circuit]]:
    """The gear of a board with an impulse relay for each circuit wanted that has none, and the circuits that got one."""
    gear, traits = list(board.control_gear), GEAR["impulse-relay"]
    has = {each.switches[0] for each in gear if each.kind == "impulse-relay"}
    added = [circuit for circuit in _circuits(job, board) if circuit.id in wanted - has]
    for circuit in added:
        title = message(None, "core.switching.relay", circuit=circuit.name)
        taken = {each.id for each in gear}
        gear.append(
            ControlGear(id=free_id("k", taken), name=str(title)[:120], kind="impulse-relay", rating_a=traits.rating_a, switches=(circuit.id,))
        )  # fmt: skip
    return gear, added


def _central_off(job: Job, board: Board, words: SwitchingWords, text: str) -> Switched:
    """Impulse relays of the circuits named, or all there are, switched off together by one push-button; all their push-buttons are on one
    control circuit."""
    wanted = _named(job, board, words.names, text)
    gear, _ = _with_relays(job, board, wanted)
    wanted = wanted or {each.switches[0] for each in gear if each.kind == "impulse-relay"}
    if not wanted:
        raise EntryNotUnderstood(text, message(None, "core.switching.no_relay"))
    title = words.title[:1].upper() + words.title[1:_TITLE_LENGTH]
    grouped = [
        each.model_copy(update={"central_off": title})
        if each.kind == "impulse-relay" and each.switches[0] in wanted
        else each
        for each in gear
    ]
    lead = next(each for each in grouped if each.central_off == title)
    breaker_a = GEAR["contactor"].coil_breaker_a
    grouped = [each.model_copy(update={"coil_breaker_a": breaker_a}) if each is lead else each for each in grouped]
    names = [circuit.name for circuit in _circuits(job, board) if circuit.id in wanted]
    said = message(None, "core.switching.central", gear=title, list=_list(names))
    return _result(job, board, grouped, (said, message(None, "core.switching.control_circuit")))


#: Settings of a voltage relay in words: over 265, U> 265, under 190, 63 A.
_OVER = re.compile(r"(?:over|u>|>|über)\s*(\d+(?:\.\d+)?)\s*v?")
_UNDER = re.compile(r"(?:under|u<|<|unter)\s*(\d+(?:\.\d+)?)\s*v?")
_RATING = re.compile(r"(?<![\d.])(\d+(?:\.\d+)?)\s*a\b")


def _voltage_relay(job: Job, board: Board, words: SwitchingWords, text: str) -> Switched:
    """A voltage relay ahead of everything in the board: as typed, the rest as usual. It is ahead of the whole board, never of a part."""
    if words.names:
        raise EntryNotUnderstood(text, message(None, "core.switching.whole_board"))
    rules = rule_set(job.job.rules)
    relay = usual_relay(rules)
    upstream = upstream_of(job, Tree(job), board)
    if upstream is not None:
        relay = relay.model_copy(
            update={"rating_a": next((a for a in _RELAYS_A if a >= upstream.device.rating_a), _RELAYS_A[-1])}
        )
    rest = words.settings
    for field, pattern in (("over_v", _OVER), ("under_v", _UNDER), ("rating_a", _RATING)):
        if found := re.search(pattern, rest):
            relay = relay.model_copy(update={field: float(found.group(1))})
            rest = rest.replace(found.group(0), " ", 1)
    if unread := rest.strip(" ,"):
        raise EntryNotUnderstood(text, message(None, "core.switching.relay_setting", word=unread))
    changed = board.model_copy(update={"voltage_relay": relay})
    said = message(
        None,
        "core.switching.voltage_relay",
        a=Shown(f"{relay.rating_a:g}"),
        under=Shown(f"{relay.under_v:g}"),
        over=Shown(f"{relay.over_v:g}"),
    )
    return Switched(job=checked(with_parts(job, (), (changed,))), board=board.id, said=(said,), check=VOLTAGE_RELAY)


def _result(job: Job, board: Board, gear: Iterable[ControlGear], said: tuple[Text, ...]) -> Switched:
    changed = board.model_copy(update={"control_gear": tuple(gear)})
    return Switched(job=checked(with_parts(job, (), (changed,))), board=board.id, said=said)


class _Groups:
    """The contactors of a board that switch everything off together, for what is to be switched; other contactors stay as they are."""

    def __init__(self, job: Job, board: Board, text: str):
        self._job, self._board, self._text = job, board, text
        self._tree = Tree(job)
        self._words = rule_set(job.job.rules).words
        contactors = [gear for gear in board.control_gear if gear.kind == "contactor"]
        leads = {gear.id for gear in contactors if gear.coil_with is None and _is_all_off(gear)}
        self._present = [gear for gear in contactors if gear.id in leads or gear.coil_with in leads]
        self._others = [gear for gear in board.control_gear if gear not in self._present]
        self._rcds = {way.circuit: way.rcd for way in board.ways}
        self._names = {circuit.id: circuit.name for circuit in _circuits(job, board)} | {
            group.id: group.name for group in board.shared_rcds
        }

    def made(self, words: SwitchingWords) -> Switched:
        """The board with contactors for all that the words do not leave on."""
        elsewhere = {each for gear in self._others if gear.kind == "contactor" for each in self._behind(gear)}
        if words.kind == "keep-on":
            if not self._present:
                raise self._refused("none_yet")
            keep, own = _named(self._job, self._board, words.names, self._text), set[str]()
            wanted = {each for gear in self._present for each in self._behind(gear)} - keep
            title = _title(self._present[0])
        else:
            keep = _named(self._job, self._board, words.keep, self._text)
            named = _named(self._job, self._board, words.names, self._text)
            own = set() if named else self._with_own_switch() - keep
            wanted = (named or set(self._rcds) - self._staying() - own) - keep
            title = words.title[:1].upper() + words.title[1:_TITLE_LENGTH]
        return self._switched(wanted - elsewhere, own | (elsewhere & (wanted | own)), title)

    def _refused(self, why: str, **params: str | Shown) -> EntryNotUnderstood:
        return EntryNotUnderstood(
            self._text, message(self._words, f"core.switching.{why}", board=self._board.name, **params)
        )

    def _behind(self, gear: ControlGear) -> set[str]:
        return {circuit for circuit, rcd in self._rcds.items() if circuit in gear.switches or rcd in gear.switches}

    def _staying(self) -> set[str]:
        """What is never switched off together unless it is named: alarms, what must stay on, sources, feeders and control circuits."""
        return {
            circuit.id
            for circuit in _circuits(self._job, self._board)
            if must_stay_on(circuit)
            or circuit.source is not None
            or circuit.kind in ("distribution", "control")
            or any(part in circuit.name.casefold() for part in _STAYS_ON)
        }

    def _with_own_switch(self) -> set[str]:
        """Fixed loads so large that each has an isolator of its own."""
        return {
            circuit.id
            for circuit in _circuits(self._job, self._board)
            if circuit.kind == "fixed" and not is_auto(circuit.device) and circuit.device.rating_a >= _OWN_SWITCH_A
        } - self._staying()

    def _switched(self, wanted: set[str], own: set[str], title: str) -> Switched:
        on = [circuit for circuit in self._rcds if circuit not in wanted]
        items: dict[str, list[str]] = {}
        for circuit, rcd in self._rcds.items():
            if rcd is None and circuit in wanted:
                items[circuit] = [circuit]
            elif rcd is not None and not any(self._rcds[other] == rcd for other in on):
                items.setdefault(rcd, []).append(circuit)
        if not items:
            raise self._refused("nothing")
        off = {circuit for circuits in items.values() for circuit in circuits}
        with_group = wanted - off
        said: list[Text] = [message(None, "core.switching.off", gear=title, list=self._say(off))]
        stays = set(self._rcds) - off - own - with_group
        for part, circuits in (("on", stays), ("own", own), ("with_group", with_group)):
            if circuits:
                said.append(message(self._words, f"core.switching.{part}", list=self._say(circuits)))
        made = [*self._sized(items, title), *self._others]
        return _result(self._job, self._board, made, tuple(said))

    def _say(self, circuits: set[str]) -> str:
        return _list(self._names[circuit] for circuit in self._rcds if circuit in circuits)

    def _sized(self, items: dict[str, list[str]], title: str) -> list[ControlGear]:
        """As few contactors as can carry what is switched, by the ratings of its devices or of the device upstream of the board; the coils of
        all but the first are switched with that of the first. One that is there in the rating needed keeps its data."""
        weights = {name: self._may_carry_a(circuits) for name, circuits in items.items()}
        bins = self._bins(weights)
        order, taken = list(items), {gear.id for gear in self._others}
        present = list(self._present)
        made: list[ControlGear] = []
        for number, names in enumerate(bins, 1):
            need_a = min(sum(weights[name] for name in names), self._upstream_a())
            rating = next((each for each in GEAR_RATINGS_A if each >= need_a), None)
            if rating is None:
                largest = max(names, key=lambda name: weights[name])
                raise self._refused(
                    "too_large",
                    name=self._names[largest],
                    a=Shown(f"{need_a:g}"),
                    most=Shown(f"{GEAR_RATINGS_A[-1]:g}"),
                )
            lead = made[0] if made else None
            same = next((gear for gear in present if gear.rating_a == rating), None)
            if same is not None:
                present.remove(same)
            gear = ControlGear(
                id=free_id("k", taken),
                name=title if len(bins) == 1 else f"{title} {number}",
                kind="contactor",
                rating_a=rating,
                switches=tuple(sorted(names, key=order.index)),
                coil_breaker_a=GEAR["contactor"].coil_breaker_a if lead is None else None,
                coil_with=lead.id if lead else None,
                motor_rating_a=same.motor_rating_a if same else None,
                max_backup_a=same.max_backup_a if same else None,
                family=same.family if same else None,
            )
            taken.add(gear.id)
            made.append(gear)
        return made

    def _bins(self, weights: dict[str, float]) -> list[list[str]]:
        """What is switched, shared out as evenly as may be over the fewest contactors that can carry it."""
        largest_first = sorted(weights, key=lambda name: -weights[name])
        for count in range(1, len(weights) + 1):
            bins: list[list[str]] = [[] for _ in range(count)]
            for name in largest_first:
                min(bins, key=lambda each: sum(weights[other] for other in each)).append(name)
            if all(self._within(sum(weights[name] for name in each)) for each in bins):
                return bins
        return bins

    def _within(self, amps: float) -> bool:
        return min(amps, self._upstream_a()) <= GEAR_RATINGS_A[-1]

    def _upstream_a(self) -> float:
        upstream = upstream_of(self._job, self._tree, self._board)
        return upstream.device.rating_a if upstream else float("inf")

    def _may_carry_a(self, circuits: Iterable[str]) -> float:
        """The ratings of the devices on the most loaded phase together [A]."""
        by_line: dict[str, float] = {}
        for each in circuits:
            circuit = self._job.circuit(each)
            if is_auto(circuit.device):
                raise self._refused("open", name=circuit.name)
            for line in self._tree.supplied(circuit).lines:
                by_line[line] = by_line.get(line, 0.0) + circuit.device.rating_a
        return max(by_line.values(), default=0.0)
