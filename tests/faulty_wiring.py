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
_LIVE_OR_SEEN = frozenset(
    {
        "r_nn",
        "r_cc",
        "ir_cc",
        "ir_selv",
        "i_res",
        "i_pe",
        "temp",
        "rcd_load",
        "rcd_other",
        "u_ln",
        "u_ll",
        "u_le",
        "u_ne",
        "u_me",
    }
)
_OPEN_OHM = 1e7
_ENERGISED = frozenset(
    {"zs", "zln", "rcd_half", "rcd_1", "rcd_5", "rcd_ramp", "rcd_button", "rcd_load", "rcd_other", "i_res", "temp", "u_ln", "u_le", "u_ne",
     "u_ll", "ident", "func", "tester", "rot"}
)  # fmt: skip


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
    nominal_v: float = 230.0
    between_v: float = 400.0
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
    #: What is read of an electrode [Ω]; in place of Ze, where something else is read; of bonds and surge devices.
    electrode_ohm: float | None = None
    ze_text: str | None = None
    bond_ohm: float | None = 0.02
    lines: int = 1
    load_a: float = 4.0
    #: What of the load's current does not come home through the circuit's own residual-current device, and whether loads of others trip it.
    unbalance: float = 0.0
    others_trip: bool = False
    neutrals_joined_ohm: float | None = None
    lines_joined_ohm: float | None = None
    line_missing_between: bool = False
    neutral_elsewhere: bool = False
    #: Combined neutral and earth of the network broken: what the load drives home through the ground [A].
    pen_broken_a: float = 0.0
    reversed_at_board: bool = False
    bridge: tuple[int, int, float] | None = None
    crossed_leg: int | None = None
    #: Its ends are in two ways: apart while it is dead, joined by the board while both are on.
    in_two_ways: bool = False
    #: Line and earth joined: whoever read that does not switch it on.
    short: bool = False
    blinded_times: float = 1.0

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
                if leg == self.crossed_leg and name in "LN":
                    far = ("N" if name == "L" else "L") + far[1:]
                net.add(f"{name}{leg - 1}", far, ohm)
            if self.spur_ohm is not None:
                net.add(f"{name}3", f"{name}s", self.spur_ohm * totals[name] / self.line_ohm)
        if self.bridge is not None:
            low, high, ohm = self.bridge
            for name, total in totals.items():
                net.add(f"{name}{low}", f"{name}{high}", ohm * total / self.line_ohm)
        if self.parallel_ohm is not None:
            net.add(f"E{POINTS}", board_earth, self.parallel_ohm)
        if self.joined_at_outlet:
            net.add(f"{self._at('N')}{POINTS}", f"E{POINTS}", 0.01)
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
        if kind == "r1rn" and self.neutral_elsewhere:
            return None
        if kind == "r2":
            return net.between("E0", f"{self._at('E')}{self._points()[0]}")
        other = "N" if kind == "r1rn" else "E"
        return self._highest(net.joined(("L0", f"{other}0", 1e-6)), "L", other)

    def loop(self, kind: str) -> float | None:
        """A loop reading [Ω]: Zs to earth, ZLN to neutral."""
        if self.in_two_ways:
            return replace(self, in_two_ways=False, breaks=set()).loop(kind)
        terminal = "E" if kind == "zs" else "N"
        # Line and neutral exchanged are one loop all the same. Without the line at either of its two terminals the tester does not begin; by
        # the conductor at the other one the current comes back.
        if kind == "zln" and self.swapped == ("L", "N"):
            return replace(self, swapped=None).loop(kind)
        if self.joined_at_outlet and self.swapped is not None and kind == "zs":
            return replace(self, swapped=None, joined_at_outlet=False).loop("zln")
        if self._at("L") != "L" or (self.reversed_at_board and kind == "zs"):
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
        if (self.crossed_leg is not None or self.short) and kind in _ENERGISED:
            return None
        if kind in _LIVE_OR_SEEN:
            return self._in_doubt(kind)
        if kind in ("zs", "zln"):
            return self._typed(self.loop(kind), 0.05, 0.03)
        if kind in ("r1r2", "r1rn", "r2", "r1_end", "rn_end", "r2_end", "x_ln", "x_le"):
            found = self.dead(kind)
            return self._typed(None if found is None else found + self.lead_ohm, 0.03, 0.02)
        if kind.startswith("ir_"):
            return self._insulation(kind)
        if kind.startswith("rcd_"):
            return self._rcd(kind)
        if kind in ("pol", "ident", "func", "tester", "insp", "rot", "spd", "afdd"):
            # An outlet tester sees the line at another place; neutral and earth it does not tell apart.
            exchanged = self.swapped is not None and (kind == "pol" or (kind == "tester" and "L" in self.swapped))
            if self.joined_at_outlet and kind == "tester":
                exchanged = False
            wrong = kind in self.seen_wrong or exchanged
            return "wrong" if wrong else "ok"
        if kind == "r_me":
            return "LIM" if self.earth_off else "0.02"
        if kind == "r_bond":
            return "LIM" if self.bond_ohm is None else f"{self.bond_ohm:.2f}"
        if kind == "ra":
            return None if self.electrode_ohm is None else f"{self.electrode_ohm:.1f}"
        if kind == "pfc_ln":
            return f"{self.nominal_v / self.zln0_ohm:.0f}"
        if kind == "ze":
            return self.ze_text or ("LIM" if self.earth_off else f"{self.ze_ohm:.2f}")
        return None

    def _in_doubt(self, kind: str) -> str | None:
        """What is read where there is a doubt: loads on, by clamp and voltmeter; between circuits, dead."""
        if kind in ("r_nn", "r_cc"):
            return self._typed(self.neutrals_joined_ohm if kind == "r_nn" else self.lines_joined_ohm, 0.03, 0.02)
        if kind in ("ir_cc", "ir_selv"):
            joined = self.lines_joined_ohm is not None if kind == "ir_cc" else "SELV" in self.leaks_mohm
            return "0.00" if joined else ">200"
        if kind == "i_res":
            return f"{self._residual_a():.3f}"
        if kind == "i_pe":
            return f"{self.pen_broken_a:.2f}"
        if kind == "temp":
            return "wrong" if self._heat_w() > 5.0 else "ok"
        if kind in ("rcd_load", "rcd_other"):
            return self._with_loads(kind)
        return f"{self._voltage(kind):.0f}"

    def _residual_a(self) -> float:
        """What does not come home by the neutral of the circuit: of its load, and what leaks [A]."""
        leaks = sum(
            self.nominal_v / (mohm * 1e6) for pair, mohm in self.leaks_mohm.items() if pair == "LE" and mohm > 0
        )
        back_by_earth = 1.0 if self._at("N") == "E" and self.swapped == ("N", "E") else 0.0
        if self.leaks_mohm.get("NE") == 0.0 and not self.joined_at_outlet:
            back_by_earth = self.neutral_ohm / (self.neutral_ohm + self.cpc_ohm)
        return self.load_a * max(self.unbalance, back_by_earth) + leaks

    def _with_loads(self, kind: str) -> str | None:
        """Whether the device holds while the loads of this circuit, or those of its others, run."""
        if self.rcd_ma is None:
            return None
        if kind == "rcd_other":
            return "trips" if self.others_trip else "holds"
        if self.rcd_state == "stuck":
            return "holds"
        least, most = self.rcd_ma
        trips_ma = (least * 0.5) if self.rcd_state == "sensitive" else (least + most) / 2
        return "trips" if 1000 * self._residual_a() > trips_ma else "holds"

    def _heat_w(self) -> float:
        """The most that a joint of line or neutral gives off with the load on [W]."""
        ohms = [ohm for (name, _), ohm in self.joints.items() if name in "LN"]
        ohms += [ohm for name, ohm in self.terminals.items() if name in "LN"]
        return max((self.load_a**2 * ohm for ohm in ohms), default=0.0)

    def _voltage(self, kind: str) -> float:
        """A voltage at the last point with the load on [V]."""
        full = self.nominal_v
        open_line, open_neutral = (self._opened(name) for name in "LN")
        if kind == "u_ll":
            return 0.0 if self.line_missing_between else self.between_v
        if kind == "u_me":
            away = self.pen_broken_a * 20.0
            return full if self.joined_at_outlet and self.swapped == ("L", "N") else away
        line, neutral = (0.0 if open_line else full), 0.0
        if self.reversed_at_board:
            line, neutral = 0.0, full
        elif open_neutral:
            neutral = line
        else:
            joints = sum(ohm for (name, _), ohm in self.joints.items() if name == "N")
            neutral = self.load_a * (self.neutral_ohm * (0.25 if self.ring else 1.0) + joints)
        volts = {"L": line, "N": neutral, "E": 0.0}
        if kind == "u_ln" and self.lines > 1 and open_neutral:
            # The smaller of the two loads takes the more of what is between the lines.
            return 0.7 * self.between_v
        if self.joined_at_outlet:
            volts["E"] = volts[self._at("N")]
        a, b = {"u_ln": ("L", "N"), "u_le": ("L", "E"), "u_ne": ("N", "E")}[kind]
        return abs(volts[self._at(a)] - volts[self._at(b)])

    def _opened(self, name: str) -> bool:
        """Whether a conductor is broken on the way to the last point: of a ring on neither of two ways."""
        return not self.ring and any(broken == name for broken, _ in self.breaks)

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
        if kind == "rcd_ramp" and self.blinded_times > 1.0 and state == "sound":
            return f"{trips_ma * self.blinded_times:.1f}"
        multiple = {"rcd_5": 5.0, "rcd_ramp": 1.1}.get(kind, 1.0)
        # The test current has to leave by the earth: by the neutral the device sees nothing.
        unseen = self.joined_at_outlet or self._at("E") == "N" or self.reversed_at_board
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
