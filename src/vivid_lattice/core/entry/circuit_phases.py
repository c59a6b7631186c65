"""The lines that a typed circuit is on, and its neutral: as typed, by its cores or voltage, or as is usual for what it feeds."""

from __future__ import annotations

from vivid_lattice.core.document.job import LINES, CircuitKind, Job, Line
from vivid_lattice.core.entry.parsed_line import ParsedLine
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.protocol import RuleSet

#: Above this a source of a three-phase house feeds all phases, where the standard names no limit [W]: common practice, no source.
_SOURCE_THREE_PHASE_ABOVE_W = 4600.0
#: A charging point on one phase ends at 32 A [W]: IEC 61851-1 (from memory).
_CHARGER_THREE_PHASE_ABOVE_W = 7400.0
#: Above this a hob of a three-phase house is usually connected to all phases [W]: common practice, no source.
_THREE_PHASE_ABOVE_W = 7200.0


class CircuitPhases:
    """The phases of a line as read; what is taken as usual is added to ``assumed``."""

    def __init__(self, line: ParsedLine, job: Job, rules: RuleSet, assumed: list[Text]):
        self._line, self._job, self._rules, self._assumed = line, job, rules, assumed

    def of(self, kind: CircuitKind) -> tuple[tuple[Line, ...], bool]:
        """The lines of a circuit of a kind, and whether it has a neutral. EntryNotUnderstood where the supply has not got them."""
        line, supplied = self._line, LINES[: self._job.supply.phases]
        lines, neutral = line.lines, line.neutral if line.neutral is not None else True
        if lines and not set(lines) <= set(supplied):
            missing = " and ".join(lines)
            raise EntryNotUnderstood(
                line.text, message(None, "core.entry.circuit.no_line", phases=missing, list=", ".join(supplied))
            )
        rule = line.phases_rule
        if line.source is not None and not lines and not rule.startswith("volts-"):
            return self._lines_of_source(line.source_w or 0.0, neutral)
        if rule.startswith("volts-"):
            return self._by_voltage(rule, lines, supplied)
        if not lines and (three := self._on_three_lines(kind, rule)):
            self._assumed.append(three)
            return LINES, neutral
        if self._job.supply.phases == 2 and kind != "distribution":
            return self._between_lines(lines, neutral)
        return lines, neutral

    def _on_three_lines(self, kind: CircuitKind, rule: str) -> Text:
        """Why a circuit that names no lines is on all three of the supply; empty where it is not."""
        if self._job.supply.phases != 3:
            return ""
        return self._three_phase(rule) or (self._usual_three_phase() if kind == "distribution" else "")

    def _lines_of_source(self, watts: float, neutral: bool) -> tuple[tuple[Line, ...], bool]:
        """On a split phase a source feeds between both phases; on three phases a large one feeds all of them."""
        phases = self._job.supply.phases
        if phases == 2:
            self._assumed.append(message(None, "core.entry.circuit.between_phases"))
            return LINES[:2], False
        limit = self._rules.board.single_phase_max_w
        if phases == 3 and watts > (limit.value if limit is not None else _SOURCE_THREE_PHASE_ABOVE_W):
            self._assumed.append(message(None, "core.entry.circuit.three_phase"))
            return LINES, neutral
        return (), neutral

    def _usual_three_phase(self) -> Text:
        """Why a feeder with no phase typed is taken as three-phase; empty where feeders of one line are usual too."""
        phases = {row.phases for row in customary(self._rules.id).circuits if row.circuit == "distribution"}
        return message(None, "core.entry.circuit.three_phase_feeder") if phases == {3} else ""

    def _three_phase(self, rule: str) -> Text:
        """Why a circuit with no phase typed is taken as three-phase; empty where it is not."""
        cores = self._line.cores
        if cores is not None and cores >= 4:
            return message(None, "core.entry.circuit.cores", n=str(cores))
        watts = sum(load.power_w or 0.0 for load in self._line.loads)
        limit = self._rules.board.single_phase_max_w
        charging = any(load.load == "charger" for load in self._line.loads)
        if (charging and watts > _CHARGER_THREE_PHASE_ABOVE_W) or (limit is not None and watts > limit.value):
            return message(None, "core.entry.circuit.three_phase")
        if rule == "where-three" or (rule == "over-7.2-kW" and watts > _THREE_PHASE_ABOVE_W):
            return message(None, "core.entry.circuit.three_phase")
        return ""

    def _by_voltage(
        self, rule: str, lines: tuple[Line, ...], supplied: tuple[Line, ...]
    ) -> tuple[tuple[Line, ...], bool]:
        """Phases by a typed or customary voltage between the conductors of a load."""
        volts, nominal = float(rule.removeprefix("volts-")), self._job.supply.nominal_v
        neutral = self._line.neutral
        conductor = self._line.conductor
        if conductor is not None and conductor.wires is not None:
            neutral = conductor.wires >= 3
        if abs(volts - nominal) <= 0.1 * nominal:
            return lines, True
        if self._job.supply.phases == 2 and abs(volts - 2 * nominal) <= 0.1 * 2 * nominal:
            if len(lines) == 1:
                return lines, True
            habit = {load.load: self._rules.between_lines.get(load.load or "") for load in self._line.loads}
            known = neutral if neutral is not None else any(value for value in habit.values())
            if not lines:
                self._assumed.append(message(None, "core.entry.circuit.between_phases"))
            return LINES[:2], bool(known)
        if self._job.supply.phases == 3 and abs(volts - 3**0.5 * nominal) <= 0.1 * 3**0.5 * nominal:
            return LINES, True
        if not self._line.volts_typed:
            return lines, True
        raise EntryNotUnderstood(
            self._line.text, message(None, "core.entry.circuit.no_voltage", a=f"{volts:g}", b=f"{nominal:g}")
        )

    def _between_lines(self, lines: tuple[Line, ...], neutral: bool) -> tuple[tuple[Line, ...], bool]:
        """On a split phase, loads that are made for both phases are put between them."""
        main = self._line.loads[0].load if self._line.loads else None
        habit = self._rules.between_lines.get(main) if main else None
        if habit is None or (lines and len(lines) != 2):
            return lines, neutral
        if not lines:
            self._assumed.append(message(None, "core.entry.circuit.between_phases"))
        return LINES[:2], self._line.neutral if self._line.neutral is not None else habit
