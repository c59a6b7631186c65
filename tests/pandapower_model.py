"""A job as a pandapower network, for checking the engine against somebody else's solver.

pandapower solves balanced three-phase networks by their one-line equivalent. A single-phase circuit of 230 V with a
line and a neutral conductor is the same one-line equivalent with 230 V to star point and line and neutral in
series: nominal voltage √3 · 230 V, r = r_line + r_return, and three times the power.
"""

from __future__ import annotations

from math import cos, radians, sqrt

import pandapower as pp
import pandapower.shortcircuit as sc

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set

#: So stiff that the source itself takes no part: the external loop is a line of its own.
_STIFF_MVA = 1e6
_THREE = 3.0


class Model:
    """The buses of a job in pandapower; a test lays the lines between them. What is laid is handed over all at once when
    something is asked for: one by one takes longer than the solution."""

    def __init__(self, job: Job):
        self.job, self.ours = job, Installation.of(job, rule_set(job.job.rules))
        self.volts = job.supply.nominal_v
        self.net = pp.create_empty_network(f_hz=50)
        names = ["source", *(board.id for board in job.boards), *(circuit.id for circuit in job.circuits)]
        made = pp.create_buses(self.net, len(names), vn_kv=sqrt(3) * self.volts / 1000, name=names)
        self.buses = {name: int(bus) for name, bus in zip(names, made, strict=True)}
        pp.create_ext_grid(
            self.net,
            self.buses["source"],
            s_sc_max_mva=_STIFF_MVA,
            s_sc_min_mva=_STIFF_MVA,
            rx_max=0.1,
            rx_min=0.1,
        )
        self._lines: list[tuple[int, int, complex]] = []
        self._joined: list[tuple[int, int]] = []

    def line(self, start: str, end: str, ohm: complex) -> None:
        """A branch of one-line impedance [Ω]."""
        self._lines.append((self.buses[start], self.buses[end], complex(ohm)))

    def joined(self, start: str, end: str) -> None:
        """Two names of one place."""
        self._joined.append((self.buses[start], self.buses[end]))

    def _lay(self) -> None:
        if self._lines:
            starts, ends, ohms = zip(*self._lines, strict=True)
            pp.create_lines_from_parameters(
                self.net,
                list(starts),
                list(ends),
                length_km=1.0,
                r_ohm_per_km=[ohm.real for ohm in ohms],
                x_ohm_per_km=[ohm.imag for ohm in ohms],
                c_nf_per_km=0.0,
                max_i_ka=1.0,
                endtemp_degree=20.0,
            )
        if self._joined:
            starts, ends = zip(*self._joined, strict=True)
            pp.create_switches(self.net, list(starts), list(ends), et="b")
        self._lines, self._joined = [], []

    def load(self, *currents: tuple[str, float]) -> None:
        """Constant currents at some places [A], as cable tables reckon, in the place of all there were."""
        self._lay()
        self.net.load.drop(self.net.load.index, inplace=True)
        megawatts = [_THREE * self.volts * current / 1e6 for _, current in currents]
        pp.create_loads(
            self.net, [self.buses[name] for name, _ in currents], p_mw=megawatts, q_mvar=0.0,
            const_i_p_percent=100.0, const_i_q_percent=100.0,
        )  # fmt: skip

    def drop_percent(self, at: str) -> float:
        """Voltage lost on the way to a place, by load flow."""
        self._lay()
        pp.runpp(self.net, voltage_depend_loads=True, tolerance_mva=1e-9, init="flat", numba=False)
        return float(100 * (1 - self.net.res_bus.vm_pu[self.buses[at]]))

    def fault_a(self, at: str) -> float:
        """Fault current at a place by short-circuit calculation, its voltage factor c taken back out."""
        self._lay()
        if "res_bus_sc" not in self.net or self.net.res_bus_sc.empty:
            sc.calc_sc(self.net, case="max", lv_tol_percent=10, fault="3ph")
        c_max = 1.1
        return float(1000 * self.net.res_bus_sc.ikss_ka[self.buses[at]] / c_max)


def supply_line(job: Job, loop: complex, known_angle: bool) -> complex:
    """What stands ahead of the first board, as the engine takes it for the largest currents: reactance where only its
    magnitude is known."""
    return loop if known_angle else complex(0.0, abs(loop))


class Unbalanced:
    """A three-phase job in pandapower with lines, neutral and loads phase by phase, solved by sequence components.

    A line conductor z and a neutral of the same z are Z1 = z and Z0 = 4z. Loads are constant power in the solver; their
    powers are set again after each solution until each draws the current it should at the voltage it has.
    """

    ROUNDS = 5

    def __init__(self, volts: float):
        self.volts, self.net = volts, pp.create_empty_network(f_hz=50)
        self.buses: dict[str, int] = {}
        self.currents: dict[int, tuple[complex, ...]] = {}
        self.bus("source")
        stiff = {"s_sc_max_mva": 1e5, "rx_max": 0.1, "r0x0_max": 0.1, "x0x_max": 1.0}
        pp.create_ext_grid(self.net, self.buses["source"], **stiff)

    def bus(self, name: str) -> None:
        self.buses[name] = pp.create_bus(self.net, vn_kv=sqrt(3) * self.volts / 1000, name=name)

    def line(self, start: str, end: str, z: complex) -> None:
        """A branch of line impedance z [Ω]; the solver starts from a flow that knows reactance alone, so there is a little."""
        reactance = z.imag or 1e-6
        pp.create_line_from_parameters(
            self.net,
            self.buses[start],
            self.buses[end],
            length_km=1.0,
            r_ohm_per_km=z.real,
            x_ohm_per_km=reactance,
            r0_ohm_per_km=4 * z.real,
            x0_ohm_per_km=4 * reactance,
            c_nf_per_km=0.0,
            c0_nf_per_km=0.0,
            max_i_ka=1.0,
        )

    def load(self, at: str, amperes: tuple[float, float, float], power_factor: float) -> None:
        """Currents of the three lines to neutral at a place."""
        index = pp.create_asymmetric_load(self.net, self.buses[at])
        lag = complex(power_factor, sqrt(1 - power_factor**2))
        self.currents[index] = tuple(current * lag for current in amperes)

    def solve(self) -> None:
        seen = dict.fromkeys(self.currents, (1.0, 1.0, 1.0))
        for _ in range(self.ROUNDS):
            for index, currents in self.currents.items():
                for phase, current, held in zip("abc", currents, seen[index], strict=True):
                    power = self.volts * held * current / 1e6
                    self.net.asymmetric_load.loc[index, f"p_{phase}_mw"] = power.real
                    self.net.asymmetric_load.loc[index, f"q_{phase}_mvar"] = power.imag
            pp.runpp_3ph(self.net, numba=False)
            for index in self.currents:
                row = self.net.res_bus_3ph.loc[self.net.asymmetric_load.bus[index]]
                seen[index] = tuple(float(row[f"vm_{phase}_pu"]) for phase in "abc")  # type: ignore[assignment]

    def drop_percent(self, at: str) -> tuple[tuple[float, float], ...]:
        """Voltage lost on the way to a place, line by line [%]: along the line's own voltage, and of its magnitude."""
        row = self.net.res_bus_3ph.loc[self.buses[at]]
        found = []
        for phase, angle in zip("abc", (0.0, -120.0, 120.0), strict=True):
            size, turned = float(row[f"vm_{phase}_pu"]), float(row[f"va_{phase}_degree"]) - angle
            found.append((100 * (1 - size * cos(radians(turned))), 100 * (1 - size)))
        return tuple(found)
