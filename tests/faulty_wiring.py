"""Circuits as they may be found: conductors as a network of resistances that is solved node by node, with a defect put into it by hand, and
what a tester reads of it.

Nothing of the diagnosis is used here: it has formulas by symbol, this has copper, joints and breaks at their places. What a wiring does to an
RCD, and what the tester gets wrong, is common practice, no source.
"""

from __future__ import annotations

import random
from collections.abc import Iterable
from dataclasses import dataclass, field, replace

import numpy as np

Node = str
#: So many points on a circuit, counted from the board.
POINTS = 5
_OPEN_OHM = 1e7


@dataclass
class Net:
    """Resistances between nodes."""

    parts: list[tuple[Node, Node, float]] = field(default_factory=list)

    def add(self, a: Node, b: Node, ohm: float) -> None:
        self.parts.append((a, b, max(ohm, 1e-6)))

    def joined(self, *more: tuple[Node, Node, float]) -> Net:
        return Net([*self.parts, *more])

    def between(self, a: Node, b: Node) -> float | None:
        """What an ohmmeter reads between two nodes [Ω]; None: no connection."""
        names = sorted({name for one, other, _ in self.parts for name in (one, other)} | {a, b})
        index = {name: number for number, name in enumerate(names)}
        # A megohm from everything to the tester's second lead, so that loose ends do no harm.
        matrix = np.eye(len(names)) / _OPEN_OHM
        for one, other, ohm in self.parts:
            i, j, g = index[one], index[other], 1 / ohm
            matrix[i, i] += g
            matrix[j, j] += g
            matrix[i, j] -= g
            matrix[j, i] -= g
        keep = [number for name, number in index.items() if name != b]
        current = np.zeros(len(keep))
        current[keep.index(index[a])] = 1.0
        ohm = float(np.linalg.solve(matrix[np.ix_(keep, keep)], current)[keep.index(index[a])])
        return None if ohm > 1e4 else ohm


@dataclass
class Wiring:
    """A circuit as found: what its conductors are end to end when sound [Ω], and what is wrong with it."""

    ring: bool
    line_ohm: float
    neutral_ohm: float
    cpc_ohm: float
    ze_ohm: float
    zln0_ohm: float
    rcd_ma: tuple[float, float] | None
    rng: random.Random
    stretch: float = 1.0
    joints: dict[tuple[str, int], float] = field(default_factory=dict)
    breaks: set[tuple[str, int]] = field(default_factory=set)
    terminals: dict[str, float] = field(default_factory=dict)
    thin: tuple[int, float, float] | None = None
    cpc_times: float = 1.0
    parallel_ohm: float | None = None
    spur_ohm: float | None = None
    leaks_mohm: dict[str, float] = field(default_factory=dict)
    seen_wrong: set[str] = field(default_factory=set)
    rcd_state: str = "sound"
    button_works: bool = True
    lead_ohm: float = 0.0
    loop_adds_ohm: float = 0.0
    same_leg: bool = False
    near_point: int | None = None
    swapped: tuple[str, str] | None = None
    joined_at_outlet: bool = False
    earth_off: bool = False

    # ------------------------------------------------------------------------------------------ the copper

    def _net(self, board_earth: Node = "E0") -> Net:
        """The conductors from the board; of a ring both ends apart (0 and z)."""
        net = Net()
        legs = POINTS + 1 if self.ring else POINTS
        totals = {"L": self.line_ohm, "N": self.neutral_ohm, "E": self.cpc_ohm * self.cpc_times}
        for name, total in totals.items():
            for leg in range(1, legs + 1):
                ohm = total * self.stretch / legs
                if self.thin is not None and leg <= self.thin[0]:
                    ohm *= self.thin[2] if name == "E" else self.thin[1]
                ohm += self.joints.get((name, leg), 0.0)
                if (name, leg) in self.breaks:
                    continue
                far = f"{name}z" if self.ring and leg == legs else f"{name}{leg}"
                net.add(f"{name}{leg - 1}", far, ohm)
            if self.spur_ohm is not None:
                net.add(f"{name}3", f"{name}s", self.spur_ohm * totals[name] / self.line_ohm)
        if self.parallel_ohm is not None:
            net.add(f"E{POINTS}", board_earth, self.parallel_ohm)
        if self.joined_at_outlet:
            net.add(f"N{POINTS}", f"E{POINTS}", 0.01)
        return net

    def _at(self, terminal: str) -> str:
        """The conductor at a terminal of the outlet that is read at: another one where two are exchanged."""
        if self.swapped is None or terminal not in self.swapped:
            return terminal
        return self.swapped[1 - self.swapped.index(terminal)]

    def _points(self) -> list[str]:
        if not self.ring:
            return [str(self.near_point or POINTS)]
        return [str(number) for number in range(1, POINTS + 1)] + (["s"] if self.spur_ohm is not None else [])

    def _highest(self, net: Net, a: str, b: str) -> float | None:
        a, b = self._at(a), self._at(b)
        found = [net.between(f"{a}{point}", f"{b}{point}") for point in self._points()]
        return None if None in found else max(value for value in found if value is not None)

    def dead(self, kind: str) -> float | None:
        """A continuity reading [Ω]; None: open circuit."""
        net = self._net()
        if kind in ("r1_end", "rn_end", "r2_end"):
            name = {"r1_end": "L", "rn_end": "N", "r2_end": "E"}[kind]
            return net.between(f"{name}0", f"{name}z")
        if kind in ("x_ln", "x_le"):
            other = "N" if kind == "x_ln" else "E"
            crossed = [("L0", f"{other}z", 0.0), ("Lz", f"{other}0", 0.0)]
            if self.same_leg and kind == "x_ln":
                crossed = [("L0", f"{other}0", 0.0), ("Lz", f"{other}z", 0.0)]
            return self._highest(net.joined(*((a, b, 1e-6) for a, b, _ in crossed)), "L", other)
        if kind == "r2":
            return net.between("E0", f"{self._at('E')}{self._points()[0]}")
        other = "N" if kind == "r1rn" else "E"
        return self._highest(net.joined(("L0", f"{other}0", 1e-6)), "L", other)

    def loop(self, kind: str) -> float | None:
        """A loop reading [Ω]: Zs to earth, ZLN to neutral."""
        terminal = "E" if kind == "zs" else "N"
        # Line and neutral exchanged are one loop all the same. Without the line at either of its two terminals the tester does not begin; by
        # the conductor at the other one the current comes back.
        if kind == "zln" and self.swapped == ("L", "N"):
            return replace(self, swapped=None).loop(kind)
        if self._at("L") != "L":
            return None
        other = self._at(terminal)
        ahead = self.ze_ohm if other == "E" else self.zln0_ohm
        net = self._net("Et")
        if self.joined_at_outlet and kind == "zs":
            other, ahead = "N", self.zln0_ohm
        live = [("L0", "Lt", self.terminals.get("L", 1e-6)), (f"{other}t", f"{other}0", self.terminals.get(other, 1e-6)),
                ("Lt", f"{other}t", ahead)]  # fmt: skip
        if self.ring:
            live += [("Lz", "L0", 1e-6), (f"{other}z", f"{other}0", 1e-6)]
        a, b = [net.joined(*live), ("L", other)]
        between = [a.between(f"{b[0]}{point}", f"{b[1]}{point}") for point in self._points()]
        found = None if None in between else max(value for value in between if value is not None)
        return None if found is None else found + (self.loop_adds_ohm if kind == "zs" else 0.0)

    # ------------------------------------------------------------------------------------------ what is typed

    def reading(self, kind: str) -> str | None:
        """What would be typed; None where this tester has no such test."""
        if kind in ("zs", "zln"):
            return self._typed(self.loop(kind), 0.05, 0.03)
        if kind in ("r1r2", "r1rn", "r2", "r1_end", "rn_end", "r2_end", "x_ln", "x_le"):
            found = self.dead(kind)
            return self._typed(None if found is None else found + self.lead_ohm, 0.03, 0.02)
        if kind.startswith("ir_"):
            return self._insulation(kind)
        if kind.startswith("rcd_"):
            return self._rcd(kind)
        if kind in ("pol", "ident", "func", "tester", "insp"):
            # An outlet tester sees the line at another place; neutral and earth it does not tell apart.
            exchanged = self.swapped is not None and (kind == "pol" or (kind == "tester" and "L" in self.swapped))
            wrong = kind in self.seen_wrong or exchanged
            return "wrong" if wrong else "ok"
        if kind == "r_me":
            return "LIM" if self.earth_off else "0.02"
        return "230" if kind == "u_ln" else None

    def _typed(self, ohm: float | None, share: float, absolute: float) -> str:
        if ohm is None:
            return "LIM"
        read = ohm * (1 + self.rng.uniform(-share, share)) + self.rng.uniform(-absolute, absolute)
        return f"{max(0.0, read):.2f}"

    def _insulation(self, kind: str) -> str:
        mohm = self.leaks_mohm.get(kind[3:].upper())
        if mohm is None or mohm > 150:
            return ">200"
        return f"{mohm * (1 + self.rng.uniform(-0.1, 0.1)):.2f}"

    def _rcd(self, kind: str) -> str | None:
        """The device sees what does not come back by the neutral: with neutral and earth touching, only a part of the test current."""
        if self.rcd_ma is None:
            return None
        state, (least, most) = self.rcd_state, self.rcd_ma
        if kind == "rcd_button":
            return "ok" if self.button_works and state != "stuck" else "wrong"
        if kind == "rcd_half":
            return "trips" if state == "sensitive" else "holds"
        share = 1.0
        if self.leaks_mohm.get("NE") == 0.0:
            share = self.neutral_ohm / (self.neutral_ohm + self.cpc_ohm)
        trips_ma = (
            least * self.rng.uniform(0.4, 0.7)
            if state == "sensitive"
            else least + (most - least) * self.rng.uniform(0.2, 0.8)
        )
        multiple = {"rcd_5": 5.0, "rcd_ramp": 1.1}.get(kind, 1.0)
        # The test current has to leave by the earth: by the neutral the device sees nothing.
        unseen = self.joined_at_outlet or self._at("E") == "N"
        if state in ("stuck", "absent") or unseen or self.loop("zs") is None or most * multiple * share < trips_ma:
            return "did not trip"
        if kind == "rcd_ramp":
            return f"{trips_ma / share:.1f}"
        slow = state == "slow"
        if kind == "rcd_1":
            return f"{self.rng.uniform(340, 480) if slow else self.rng.uniform(15, 120):.0f}"
        return f"{self.rng.uniform(60, 140) if slow else self.rng.uniform(8, 30):.0f}"

    # ------------------------------------------------------------------------------------------ what can be noticed

    def differs_from(self, other: Wiring, kinds: Iterable[str]) -> bool:
        """Whether any of some readings is plainly another one than of another wiring, read without error."""
        mine, its = replace(self, rng=_Middle()), replace(other, rng=_Middle())
        return any(_plainly(mine.reading(kind), its.reading(kind), kind) for kind in kinds)


class _Middle(random.Random):
    """No chance: always the middle."""

    def uniform(self, a: float, b: float) -> float:
        return (a + b) / 2

    def random(self) -> float:
        return 0.5


def _plainly(one: str | None, other: str | None, kind: str) -> bool:
    """Whether two readings are further apart than a length that is estimated and a class of instrument may put them."""
    try:
        a, b = sorted((float(one or ""), float(other or "")))
    except ValueError:
        return one != other
    if kind.startswith("rcd_"):
        return b > 1.5 * a
    return b > 1.5 * a and b - a > (0.0 if kind.startswith("ir_") else 0.2)


# ---------------------------------------------------------------------------------------------- defects put in


def _leg(wiring: Wiring) -> int:
    return wiring.rng.randint(1, POINTS)


def _rj(wiring: Wiring) -> float:
    """A joint poor enough to be noticed: some tenths of an ohm to some ohms."""
    return 0.35 * 10 ** wiring.rng.uniform(0, 1)


def _joint(name: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.joints[name, _leg(wiring)] = _rj(wiring)

    return put


def _break(name: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.breaks.add((name, _leg(wiring)))

    return put


def _terminal(name: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.terminals[name] = 2 * _rj(wiring)

    return put


def _leak(*pairs: str, low: float = 0.02, high: float = 0.6):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        mohm = low * (high / low) ** wiring.rng.random()
        for pair in pairs:
            wiring.leaks_mohm[pair] = mohm * wiring.rng.uniform(0.75, 1.3)

    return put


def _state(state: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.rcd_state = state

    return put


def _longer(wiring: Wiring) -> None:
    wiring.stretch *= wiring.rng.uniform(1.6, 2.6)


def _shorter(wiring: Wiring) -> None:
    wiring.stretch *= wiring.rng.uniform(0.35, 0.55)


def _hidden_break(wiring: Wiring) -> None:
    wiring.breaks.add(("E", _leg(wiring)))
    wiring.parallel_ohm = wiring.rng.uniform(3, 12) * wiring.cpc_ohm


def _parallel(wiring: Wiring) -> None:
    wiring.parallel_ohm = wiring.rng.uniform(0.05, 0.35) * wiring.cpc_ohm


def _spur(wiring: Wiring) -> None:
    wiring.spur_ohm = wiring.rng.uniform(0.09, 0.2)


def _thin(wiring: Wiring) -> None:
    wiring.thin = (wiring.rng.randint(4, POINTS), 1.7, 1.7)


def _small_cpc(wiring: Wiring) -> None:
    # 1.0 mm² of 18.1 in place of 1.5 mm² of 12.1 mΩ/m: IEC 60228.
    wiring.cpc_times = 1.5


def _button(wiring: Wiring) -> None:
    wiring.button_works = False


def _same_leg(wiring: Wiring) -> None:
    wiring.same_leg = True


def _short(wiring: Wiring) -> None:
    wiring.leaks_mohm["LE"] = 0.0


def _neutral_to_earth(wiring: Wiring) -> None:
    wiring.leaks_mohm["NE"] = 0.0


def _exchanged(a: str, b: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.swapped = (a, b)

    return put


def _bootleg(wiring: Wiring) -> None:
    wiring.breaks.add(("E", _leg(wiring)))
    wiring.joined_at_outlet = True
    wiring.leaks_mohm["NE"] = 0.0


def _second_link(wiring: Wiring) -> None:
    wiring.leaks_mohm["NE"] = 0.0


def _leads(wiring: Wiring) -> None:
    wiring.lead_ohm = wiring.rng.uniform(0.25, 0.6)


def _lift(wiring: Wiring) -> None:
    wiring.loop_adds_ohm = wiring.rng.uniform(0.3, 0.6)


def _varistor(wiring: Wiring) -> None:
    # 430 V at the milliampere of the tester.
    for pair in ("LE", "LN"):
        wiring.leaks_mohm[pair] = 0.43 * wiring.rng.uniform(0.92, 1.08)


def _legs_mixed(wiring: Wiring) -> None:
    leg = _leg(wiring)
    for name in "LNE":
        wiring.breaks.add((name, leg))
    wiring.seen_wrong.add("ident")


def _two_ways(wiring: Wiring) -> None:
    wiring.breaks.add(("L", _leg(wiring)))
    wiring.seen_wrong.add("ident")


def _not_behind(wiring: Wiring) -> None:
    wiring.rcd_state = "absent"


def _ze_high(wiring: Wiring) -> None:
    wiring.ze_ohm += wiring.rng.uniform(0.6, 2.0)


def _main_neutral(wiring: Wiring) -> None:
    wiring.zln0_ohm += wiring.rng.uniform(0.6, 2.0)


def _earth_off(wiring: Wiring) -> None:
    # By pipes in the ground to the electrode of the source.
    wiring.ze_ohm = wiring.rng.uniform(9.0, 20.0)
    wiring.earth_off = True


#: What is put in, by the id of the defect. Radials and rings have their own.
RADIAL = {
    "joint-line": _joint("L"), "joint-neutral": _joint("N"), "joint-cpc": _joint("E"), "loose-line-terminal": _terminal("L"),
    "loose-cpc-terminal": _terminal("E"), "open-line": _break("L"), "open-neutral": _break("N"), "open-cpc": _break("E"),
    "open-cpc-parallel": _hidden_break, "parallel-path": _parallel,
    "ln-reversed-outlet": _exchanged("L", "N"), "npe-swapped-outlet": _exchanged("N", "E"), "lpe-swapped-outlet": _exchanged("L", "E"),
    "bootleg-ground": _bootleg,
}  # fmt: skip
RING = {
    "joint-ring-line": _joint("L"), "joint-ring-cpc": _joint("E"), "ring-open-line": _break("L"), "ring-open-neutral": _break("N"),
    "ring-open-cpc": _break("E"), "spur": _spur, "ring-linked-same-leg": _same_leg,
    "spur-on-spur": _spur, "ring-two-ways": _two_ways, "ring-legs-mixed": _legs_mixed,
}  # fmt: skip
ANY = {
    "longer-run": _longer, "shorter-run": _shorter, "undersized-section": _thin, "small-cpc-cable": _small_cpc,
    "ne-fault": _neutral_to_earth, "rcd-stuck": _state("stuck"), "rcd-slow": _state("slow"), "rcd-sensitive": _state("sensitive"),
    "circuit-not-behind-rcd": _state("absent"), "button-dead": _button, "ir-damp": _leak("LE", "NE", "LN"),
    "ir-damage-le": _leak("LE"), "ir-damage-ne": _leak("NE"), "ir-damage-ln": _leak("LN"), "temporary-short": _short,
    "element-leak": _leak("LE", "NE"), "electronics-left-in": _leak("LN"), "spd-left-in": _varistor, "second-link": _second_link,
    "leads-not-nulled": _leads, "rcd-lift": _lift, "rcd-delayed": _state("slow"), "leakage-standing": _state("sensitive"),
    "line-ahead": _not_behind,
    "ze-high": _ze_high, "main-neutral-loose": _main_neutral, "earthing-conductor-off": _earth_off,
}  # fmt: skip
#: Those of the installation: told of the supply.
OF_INSTALLATION = frozenset({"ze-high", "main-neutral-loose", "earthing-conductor-off"})
#: Defects that no reading of this tester tells apart, declared beforehand: each set counts as one.
CLASSES = (
    {"rcd-lift", "loose-cpc-terminal"},
    {"spur", "spur-on-spur"},
    {"ring-open-line", "ring-two-ways"},
    {"rcd-sensitive", "leakage-standing"},
    {"circuit-not-behind-rcd", "line-ahead"},
    {"rcd-slow", "rcd-delayed"},
    {"ir-damage-le", "element-leak"},
    {"ir-damage-ln", "electronics-left-in"},
    {"ne-fault", "second-link"},
    {"longer-run", "undersized-section"},
    {"joint-cpc", "open-cpc-parallel"},
)

#: Of these, two at once read like another one: a longer run with a part not reached, two leaks like an appliance, a device that is not ahead
#: of the circuit and whose button is dead like one that is stuck.
_LEAKS = {"ir-damage-le", "ir-damage-ne", "ir-damage-ln", "ir-damp", "ne-fault", "temporary-short", "element-leak", "electronics-left-in",
          "spd-left-in", "second-link", "bootleg-ground"}  # fmt: skip
LIKE_ANOTHER = (
    {"longer-run", "shorter-run"},
    _LEAKS,
    {"button-dead", "circuit-not-behind-rcd", "line-ahead"},
    {"ne-fault", "second-link", "bootleg-ground", "leakage-standing", "rcd-sensitive"},
)
#: Conductors exchanged at an outlet: what else is wrong with them reads like something wrong with another one.
EXCHANGED = frozenset({"ln-reversed-outlet", "npe-swapped-outlet", "lpe-swapped-outlet", "bootleg-ground"})


def reads_like_another(one: str, other: str) -> bool:
    """Whether two defects at once read like another one, or like two others; declared beforehand. One of the installation comes alone: it
    is told of the supply, and what is wrong in a circuit beside it of the circuit."""
    pair = {one, other}
    of_conductors = {
        *RADIAL,
        *RING,
        "longer-run",
        "shorter-run",
        "undersized-section",
        "small-cpc-cable",
        "leads-not-nulled",
    }
    return (
        bool(class_of(one) & class_of(other) or pair & OF_INSTALLATION)
        or any(pair <= each for each in LIKE_ANOTHER)
        or bool(pair & EXCHANGED and (pair - EXCHANGED) & (of_conductors | _LEAKS))
        or pair <= EXCHANGED
    )


def class_of(defect: str) -> frozenset[str]:
    """A defect and those that readings do not tell it from."""
    return frozenset({defect}).union(*(group for group in CLASSES if defect in group))
