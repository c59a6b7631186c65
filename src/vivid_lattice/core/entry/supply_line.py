"""A typed line as the supply of a job: ``TN-C-S 100A Ze 0.35 16kA tails 25mm2 3m``."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Any

from vivid_lattice.core.document.assumptions import open_assumptions, stated
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.supply import Supply
from vivid_lattice.core.entry import spelling
from vivid_lattice.core.entry.conductors import conductor
from vivid_lattice.core.entry.devices import device_kind
from vivid_lattice.core.entry.parsed_line import Unused, unused_text
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.customary import tokens as customary_tokens
from vivid_lattice.core.rules.protocol import RuleSet

#: What the earthing systems are called, without blanks and hyphens. PME is the TN-C-S of the British distributors.
_SYSTEMS = {"tns": "TN-S", "tncs": "TN-C-S", "pme": "TN-C-S", "tnc-s": "TN-C-S", "tt": "TT", "men": "MEN"}
_SOURCES = {"measured": "measured", "enquiry": "enquiry", "declared": "declared", "asked": "enquiry"}
_OHMS = re.compile(r"^(\d+(?:\.\d+)?)\s?(?:ohms?|Ω|ω)?$", re.IGNORECASE)
_CURVE = re.compile(r"^([bcd])(\d{1,3})a?$", re.IGNORECASE)
_PHASES = re.compile(r"^(?:([123])-?(?:ph|p|phase|~)|(single|split|two|three)-phase)$", re.IGNORECASE)
#: A rating on each of three lines, and the voltages of a three-phase supply.
_THREE_TIMES = re.compile(r"^3[x×](\d+(?:\.\d+)?)a?$", re.IGNORECASE)
_THREE_PHASE_VOLTS = re.compile(r"^(?:2[234]0/)?4(?:00|15)v$", re.IGNORECASE)
_PHASE_WORDS = {"single": 1, "split": 2, "two": 2, "three": 3}
_SECTIONS = {
    "tails": "tails",
    "mains": "tails",
    "tail": "tails",
    "earth": "earth",
    "earthing": "earth",
    "bond": "bond",
    "bonding": "bond",
    "link": "link",
    "jumper": "link",
}
_METALS = {"copper": "copper", "cu": "copper", "aluminium": "aluminium", "aluminum": "aluminium", "al": "aluminium"}
_FILLERS = frozenset(
    {"supply", "cut-out", "cutout", "fuse", "service", "main", "at", "is", "=", "and", "conductor", "phase", "with"}
)


@dataclass(frozen=True, slots=True)
class SupplyEntry:
    """A job with the typed supply, what the line stated, what was assumed, and what was not used."""

    job: Job
    understood: tuple[Text, ...]
    assumed: tuple[Text, ...]
    unused: tuple[Unused, ...]


def set_supply(job: Job, text: str, *, accept: bool = False) -> SupplyEntry:
    """The job with its supply changed as a line states; what the line does not state stays as it is.

    Understood  earthing system, rating and kind of the cut-out, ``Ze 0.35``, ``16kA`` with where each is from (measured, enquiry,
                declared), phases, ``tails 25mm2 3m``, ``earth 16mm2``, ``link 16mm2``, ``bond 10mm2 water``
    accept      a token that nothing uses is put into the notes of the job; without it the line is refused
    Raises      EntryNotUnderstood, with what is not used or contradicts the standard
    """
    if not text.strip():
        raise EntryNotUnderstood(text, message(None, "core.entry.supply.empty"))
    rules = rule_set(job.job.rules)
    bond_assumed = any(assumed.field.startswith("supply.earthing.bonds") for assumed in open_assumptions(job))
    reader = _SupplyReader(rules=rules, supply=job.supply, bond_assumed=bond_assumed)
    reader.read(text)
    if reader.unused and not accept:
        raise EntryNotUnderstood(text, unused_text(reader.unused))
    info = job.job
    if reader.unused:
        words = " ".join(token.text for token in reader.unused)
        info = info.model_copy(update={"notes": "\n".join(filter(None, [info.notes, f"Supply: {words}"]))})
    try:
        supply = Supply.model_validate(job.supply.model_dump() | reader.changed)
        made = checked(stated(job.model_copy(update={"supply": supply, "job": info}), reader.stated_fields()))
    except (BadDocument, ValueError) as why:
        raise EntryNotUnderstood(text, str(why)) from None
    return SupplyEntry(made, tuple(reader.understood), tuple(reader.assumed), tuple(reader.unused))


@dataclass(slots=True, kw_only=True)
class _SupplyReader:
    rules: RuleSet
    supply: Supply
    bond_assumed: bool = False
    stated: list[str] = field(default_factory=list)
    changed: dict[str, Any] = field(default_factory=dict)
    understood: list[str] = field(default_factory=list)
    assumed: list[Text] = field(default_factory=list)
    unused: list[Unused] = field(default_factory=list)
    section: str = ""
    last: str = ""
    tails: dict[str, Any] = field(default_factory=dict)
    cutout: dict[str, Any] = field(default_factory=dict)

    def read(self, text: str) -> None:
        """Token after token; what belongs together is put together at the end."""
        line = re.sub(r"\bBS\s*(?:EN\s*)?(?=\d)", "BS", spelling.plain(text), flags=re.IGNORECASE)
        tokens = re.split(r"[\s,;]+", line)
        at = 0
        while at < len(tokens):
            token, low = tokens[at], tokens[at].casefold()
            following = tokens[at + 1].casefold() if at + 1 < len(tokens) else ""
            if low in ("ze", "zs", "ra") and _OHMS.match(following):
                at += self._impedance(low, following)
            elif low in _PHASE_WORDS and following in ("phase", "pole"):
                at += self._phase(_PHASE_WORDS[low], 2)
            elif token:
                self._read_token(token, low)
            at += 1
        self._finish()

    def stated_fields(self) -> list[str]:
        """The fields of the document that the line states, so that nothing is assumed there any more."""
        whole = [f"supply.{name}" for name in self.changed if name not in ("tails", "earthing")]
        return [*whole, *(f"supply.tails.{part}" for part in self.tails), *self.stated]

    def _impedance(self, name: str, text: str) -> int:
        match = _OHMS.match(text)
        assert match is not None
        self.changed["ze_ohm"] = float(match.group(1))
        self.understood.append(f"{name.capitalize()} {match.group(1)} Ω")
        self.last = "ze_source"
        return 1

    def _phase(self, count: int, used: int) -> int:
        self.changed["phases"] = count
        self.understood.append({1: "single-phase", 2: "split-phase", 3: "three-phase"}[count])
        return used - 1

    def _known_word(self, low: str) -> bool:
        """An earthing system, where a value comes from, which part is meant, or a metal; whether the word is one of these."""
        compact = low.replace("-", "")
        if compact in _SYSTEMS:
            self.changed["system"] = _SYSTEMS[compact]
            self.understood.append(f"earthing system {_SYSTEMS[compact]}")
        elif low in _SOURCES and self.last:
            self.changed[self.last] = _SOURCES[low]
            self.understood.append(low)
        elif low in _SECTIONS:
            self.section = _SECTIONS[low]
        elif low in _METALS and self.section == "tails":
            self.tails["material"] = _METALS[low]
        else:
            return False
        return True

    def _phases(self, token: str, low: str) -> bool:
        """``3-phase``, ``3x63A`` or ``230/400V``; whether the token is one of these."""
        if match := _PHASES.match(low):
            self._phase(int(match.group(1)) if match.group(1) else _PHASE_WORDS[match.group(2).casefold()], 1)
        elif match := _THREE_TIMES.match(token):
            self._phase(3, 1)
            self.cutout["rating_a"] = float(match.group(1))
        elif _THREE_PHASE_VOLTS.match(token):
            self._phase(3, 1)
        else:
            return False
        return True

    def _read_token(self, token: str, low: str) -> None:
        if self._known_word(low) or self._phases(token, low):
            return
        if match := _CURVE.match(token):
            self.cutout |= {"kind": device_kind(self.rules, "breaker")[0], "curve": match.group(1).upper()}
            self.cutout["rating_a"] = float(match.group(2))
        elif (amps := spelling.amps(token)) is not None:
            self.cutout["rating_a"] = amps
        elif (kiloamps := spelling.kiloamps(token)) is not None:
            self.changed["fault_current_ka"], self.last = kiloamps, "fault_current_source"
            self.understood.append(f"fault current {kiloamps:g} kA")
        elif token.casefold().endswith(("ohm", "ohms", "ω")) and _OHMS.match(token):
            self._impedance("Ze", token)
        elif (kind := self._device(low)) is not None:
            self.cutout["kind"] = kind
        elif not self._size(token) and not self._words(token, low):
            self.unused.append(Unused(token, message(None, "core.entry.supply.not_understood")))

    def _device(self, low: str) -> str | None:
        """The kind of device that a token names, by its id, by the standard it is made to, or by an everyday word."""
        compact = low.replace("-", "").replace("/", "")
        for kind in self.rules.devices.kinds:
            if compact in (kind.replace("-", ""), kind.removeprefix("fuse-").replace("-", "")):
                return kind
        word = customary(self.rules.id).words.get(customary_tokens(low.replace("bs", "bs ")))
        sets = word.sets.get("device", "") if word else low
        return (
            device_kind(self.rules, sets)[0]
            if sets in (*self.rules.devices.kinds, "breaker", "mcb", "cartridge")
            else None
        )

    def _size(self, token: str) -> bool:
        metres = spelling.length_m(token)
        if metres is not None and self.section == "tails":
            self.tails["length_m"] = metres
            return True
        size = conductor(token, self.rules, {})
        if size is None or not self.section:
            return False
        if self.section == "tails":
            self.tails["area_mm2"] = size.area_mm2
            return True
        earthing = self._earthing()
        if self.section == "earth":
            earthing["conductor_mm2"] = size.area_mm2
            self.stated.append("supply.earthing.conductor_mm2")
            self.understood.append(f"earthing conductor {size.area_mm2:g} mm²")
        elif self.section == "link":
            earthing["link_mm2"] = size.area_mm2
            self.stated.append("supply.earthing.link_mm2")
            self.understood.append(f"neutral-earth link {size.area_mm2:g} mm²")
        else:
            # What is typed takes the place of a bond that was assumed.
            there = (
                [] if self.bond_assumed and "supply.earthing.bonds" not in self.stated else earthing.get("bonds", [])
            )
            self.stated.append("supply.earthing.bonds")
            earthing["bonds"] = [*there, {"name": "main bonding", "area_mm2": size.area_mm2}]
            self.understood.append(f"main bonding {size.area_mm2:g} mm²")
        return True

    def _words(self, token: str, low: str) -> bool:
        """The name of what is bonded, and words that carry nothing."""
        if self.section == "bond" and re.fullmatch(r"[^\W\d]+", token):
            earthing = self._earthing()
            bonds = earthing.get("bonds", [])
            if bonds and bonds[-1]["name"] == "main bonding":
                bonds[-1] = {**bonds[-1], "name": token}
                return True
        return low in _FILLERS

    def _earthing(self) -> dict[str, Any]:
        there = self.supply.earthing.model_dump() if self.supply.earthing else {}
        if "earthing" not in self.changed:
            self.changed["earthing"] = there
        earthing: dict[str, Any] = self.changed["earthing"]
        return earthing

    def _finish_cutout(self) -> None:
        kind, curve = self.rules.usual_cutout
        if "kind" not in self.cutout:
            self.cutout |= {"kind": kind, "curve": curve}
            self.assumed.append(
                message(None, "core.entry.supply.cutout", device=self.rules.devices.kinds[kind].title.lower())
            )
        if "rating_a" in self.cutout:
            self.changed["cutout"] = self.cutout
            self.understood.append(f"cut-out {self.cutout['rating_a']:g} A")
        else:
            self.unused.append(Unused(str(self.cutout["kind"]), message(None, "core.entry.supply.cutout_rating")))

    def _finish_tails(self) -> None:
        there = self.supply.tails.model_dump() if self.supply.tails else {}
        tails = there | self.tails
        if "area_mm2" not in tails:
            self.unused.append(Unused("tails", message(None, "core.entry.supply.tails_size")))
            return
        self.changed["tails"] = tails
        length = f", {tails['length_m']:g} m" if tails.get("length_m") else ""
        self.understood.append(f"tails {tails['area_mm2']:g} mm²{length}")

    def _finish(self) -> None:
        if self.cutout:
            self._finish_cutout()
        if self.tails:
            self._finish_tails()
        phases = self.changed.get("phases", self.supply.phases)
        if phases == 3 and "fault_current_ka" in self.changed and self.rules.fault_stated_between_lines:
            self.changed["fault_current_lines_ka"] = self.changed["fault_current_ka"]
            amps = f"{self.changed['fault_current_ka']:g} kA"
            self.assumed.append(message(None, "core.entry.supply.between_lines", ka=amps))
        for name, source in (("ze_ohm", "ze_source"), ("fault_current_ka", "fault_current_source")):
            if name in self.changed and source not in self.changed:
                self.changed[source] = None
