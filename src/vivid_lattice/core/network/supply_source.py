"""What is ahead of the first board: as measured or stated, or calculated from a transformer, its cable and electrodes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from math import sqrt

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.supply import ServiceCable, Transformer
from vivid_lattice.core.errors import Need, NeedsInput, OutOfRange
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.formulas.device.loop import fault_current_a
from vivid_lattice.core.formulas.load_currents import BETWEEN_LINES
from vivid_lattice.core.messages import message
from vivid_lattice.core.network.electrode import electrode_ohm, electrode_steps, ohm_step
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown, shown
from vivid_lattice.core.units import a_from_ka, ohm_from_mohm

#: Resistivity at 20 °C [Ω·mm²/m] and reactance [mΩ/m] of service cables: IEC 60228 limits lie up to 8 % above; for the
#: largest current the lower figure is the safe one, for the smallest it is raised to working temperature.
_RESISTIVITY = {"copper": 0.017241, "aluminium": 0.028264}
_WARM = {"copper": 1.25, "aluminium": 1.25}
_REACTANCE_MOHM_PER_M = 0.08


@dataclass(frozen=True, slots=True, kw_only=True)
class Origin:
    """Impedances ahead of the first board [Ω]. Cold ones make the largest currents, warm ones the smallest.

    ``angle_known`` False: only magnitudes are known, so that no phase angle may be leant on.
    """

    volts_max: float
    volts_min: float
    line_cold: complex
    return_cold: complex
    earth_warm: complex
    line_warm: complex
    return_warm: complex
    angle_known: bool


def transformer_ohm(transformer: Transformer, line_v: float) -> complex:
    """Impedance of a transformer, seen from its low-voltage side.

    Equation  Z = uk/100 · U² / S,  R = ur/100 · U² / S,  X = √(Z² − R²)

    line_v   U, voltage between lines [V]
    Returns  R + jX [Ω]
    Raises   OutOfRange where the resistance exceeds the impedance
    Source   IEC 60909-0:2016 (from memory)

    >>> abs(transformer_ohm(Transformer(rated_kva=400.0, impedance_pct=4.0), 400.0))
    0.016
    """
    base = line_v**2 / (transformer.rated_kva * 1000)
    z, r = transformer.impedance_pct / 100 * base, transformer.resistance_pct / 100 * base
    if r > z:
        raise OutOfRange("resistance_pct", transformer.resistance_pct, f"at most {transformer.impedance_pct:g}")
    return complex(r, sqrt(z**2 - r**2))


class SupplySource:
    """The supply of a job as impedances and voltages, however it is given."""

    def __init__(self, job: Job, rules: RuleSet):
        self._supply, self._rules = job.supply, rules

    @property
    def calculated(self) -> bool:
        """Whether the supply is calculated from a transformer."""
        return self._supply.transformer is not None

    @cached_property
    def ze(self) -> complex:
        """External earth fault loop [Ω]; a magnitude on the real axis where it was measured or stated.

        NeedsInput while it is not known.
        """
        supply = self._supply
        if supply.ze_ohm is not None:
            return complex(supply.ze_ohm)
        if supply.system == "TT" and supply.electrode is not None:
            return complex(electrode_ohm(supply.electrode) + (supply.electrode.source_ohm or 0.0))
        if supply.transformer is not None and supply.system != "TT":
            if supply.service_cable is None and not supply.transformer.at_board:
                raise NeedsInput(
                    Need(
                        message(None, "core.network.need.service.what"),
                        "supply.service_cable",
                        message(None, "core.network.need.service.ask"),
                    )
                )
            return self._calculated().earth_warm
        declared = self._rules.declared_ze_ohm.get(supply.system)
        words = self._rules.words
        ask = (
            message(words, "core.network.need.ze.declared", ohm=Shown(f"{declared:g}"), system=supply.system)
            if declared
            else message(words, "core.network.need.ze.ask")
        )
        raise NeedsInput(Need(message(words, "core.network.need.ze.what"), "supply.ze_ohm", ask))

    @cached_property
    def origin(self) -> Origin:
        """The impedances ahead of the first board. NeedsInput while the largest current is not known."""
        if self.calculated:
            return self._calculated()
        volts = self._supply.nominal_v
        loop, between = volts / self.fault_a, self._line_ohm()
        return Origin(
            volts_max=volts,
            volts_min=volts,
            line_cold=complex(between),
            return_cold=complex(loop - between),
            earth_warm=self.ze_or_nothing,
            line_warm=complex(between),
            return_warm=complex(loop - between),
            angle_known=False,
        )

    @property
    def ze_or_nothing(self) -> complex:
        """Ze [Ω], or 0 while it is not known: for figures that do not use it."""
        try:
            return self.ze
        except NeedsInput:
            return 0j

    @cached_property
    def fault_a(self) -> float:
        """Largest prospective current at the origin from line to neutral or earth [A]: as stated, and never less than Ze
        itself would let flow; or calculated."""
        supply = self._supply
        if self.calculated:
            origin = self._calculated()
            return origin.volts_max / abs(origin.line_cold + origin.return_cold)
        if supply.fault_current_ka is None:
            raise NeedsInput(
                Need(
                    message(self._rules.words, "core.network.need.fault.what"),
                    "supply.fault_current_ka",
                    message(self._rules.words, "core.network.need.fault.ask"),
                )
            )
        by_ze = fault_current_a(supply.nominal_v, supply.ze_ohm) if supply.ze_ohm is not None else 0.0
        return max(a_from_ka(supply.fault_current_ka), by_ze)

    @cached_property
    def fault_lines_a(self) -> float:
        """Largest prospective current between all lines at the origin [A]: as stated, or twice the other, which is its most
        where line and neutral are equal; on a single-phase supply the same as ``fault_a``."""
        supply = self._supply
        if supply.phases == 1:
            return self.fault_a
        if self.calculated:
            origin = self._calculated()
            if supply.phases == 3:
                return origin.volts_max / abs(origin.line_cold)
            return 2 * origin.volts_max / abs(2 * origin.line_cold)
        if supply.fault_current_lines_ka is not None:
            return max(a_from_ka(supply.fault_current_lines_ka), self.fault_a)
        return self.fault_a * (2 if supply.phases == 3 else 1)

    def _line_ohm(self) -> float:
        """Impedance of one line ahead of the origin [Ω], from the current between lines."""
        volts, phases = self._supply.nominal_v, self._supply.phases
        if phases == 1:
            return volts / self.fault_a / 2
        # Between the two lines of a split-phase supply lie twice the voltage and both lines.
        return volts / self.fault_lines_a

    def _calculated(self) -> Origin:
        supply, service, calculated_ohm = self._supply, self._supply.service_cable, self._transformer_ohm()
        cold = _service_ohm(service, warm=False)
        warm = _service_ohm(service, warm=True)
        back = _service_ohm(service, warm=True, earth=True)
        c_max, c_min, _ = self._rules.calculated_source_factors()
        volts = supply.nominal_v
        return Origin(
            volts_max=c_max * volts,
            volts_min=c_min * volts,
            line_cold=calculated_ohm + cold,
            return_cold=cold,
            earth_warm=calculated_ohm + warm + back,
            line_warm=calculated_ohm + warm,
            return_warm=warm,
            angle_known=True,
        )

    def _transformer_ohm(self) -> complex:
        """Impedance of the transformer ahead of each line [Ω]."""
        supply = self._supply
        assert supply.transformer is not None
        own_transformer_ohm = transformer_ohm(supply.transformer, supply.nominal_v * BETWEEN_LINES[supply.phases])
        return (
            own_transformer_ohm / 2 if supply.phases == 2 else own_transformer_ohm
        )  # half the winding is ahead of each of two lines

    def steps(self) -> list[Step]:
        """How the external loop was found, for a working."""
        supply = self._supply
        if supply.ze_ohm is not None:
            source = f"core.network.loop.{supply.ze_source}" if supply.ze_source else "core.network.loop.external"
            return [ohm_step("Ze", message(None, source), message(None, "core.network.loop.given"), "", supply.ze_ohm)]
        if supply.system == "TT" and supply.electrode is not None:
            own_ohm, source_ohm = electrode_ohm(supply.electrode), supply.electrode.source_ohm
            meaning = message(None, "core.network.loop.electrode")
            steps = electrode_steps(supply.electrode)
            if source_ohm is None:
                return [*steps, ohm_step("Ze", meaning, "RA", "", own_ohm)]
            figures = f"{shown(own_ohm)} + {source_ohm:g}"
            return [*steps, ohm_step("Ze", meaning, "RA + RB", figures, own_ohm + source_ohm)]
        origin, transformer = self._calculated(), supply.transformer
        assert transformer is not None
        figures = f"{transformer.rated_kva:g} kVA, {transformer.impedance_pct:g} %"
        steps = [
            ohm_step(
                "Zt",
                message(None, "core.network.loop.transformer"),
                "uk/100 · U² / S",
                figures,
                abs(self._transformer_ohm()),
            )
        ]
        if supply.service_cable is not None:
            service = supply.service_cable
            text = message(
                None,
                f"core.network.loop.service_{service.material}",
                m=Shown(f"{service.length_m:g}"),
                size=Shown(f"{service.area_mm2:g}"),
            )
            out = _service_ohm(service, warm=True) + _service_ohm(service, warm=True, earth=True)
            steps.append(ohm_step("Zc", text, "2 · (ρ/S + jx) · l", "", abs(out)))
        return [
            *steps,
            ohm_step(
                "Ze",
                message(None, "core.network.loop.calculated"),
                "|Zt + Zc|",
                "",
                abs(origin.earth_warm),
            ),
        ]


def _service_ohm(service: ServiceCable | None, *, warm: bool, earth: bool = False) -> complex:
    if service is None:
        return 0j
    area = (service.earth_mm2 or service.area_mm2) if earth else service.area_mm2
    rho = _RESISTIVITY[service.material] * (_WARM[service.material] if warm else 1.0)
    return complex(rho / area * service.length_m, ohm_from_mohm(_REACTANCE_MOHM_PER_M * service.length_m))
