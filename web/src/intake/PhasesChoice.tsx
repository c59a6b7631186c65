import type { Supply } from "../api/client";
import { useJob } from "../job/JobProvider";
import { LINES } from "../job/jobModel";
import { Choice } from "../ui/Field";

const WORDS: Record<number, string> = { 1: "single-phase", 2: "split-phase", 3: "three-phase" };

/** How many lines arrive. Circuits that stand on a line that goes keep none. */
export function PhasesChoice() {
  const { document, rules, edit } = useJob();
  const { supply } = document;
  const volts = (phases: number) =>
    phases === 3
      ? `${supply.nominal_v}/${Math.round(((supply.nominal_v ?? 230) * Math.sqrt(3)) / 10) * 10} V`
      : phases === 2
        ? `${supply.nominal_v}/${2 * (supply.nominal_v ?? 120)} V`
        : `${supply.nominal_v} V`;
  return (
    <Choice
      label="Lines"
      value={String(supply.phases ?? 1)}
      options={rules.supplies.map((count) => ({
        value: String(count),
        label: `${WORDS[count]}, ${volts(count)}`,
      }))}
      onCommit={(count) => {
        const held = LINES.slice(0, Number(count));
        edit({
          ...document,
          supply: { ...supply, phases: Number(count) as Supply["phases"], fault_current_lines_ka: null },
          circuits: (document.circuits ?? []).map((circuit) => {
            const lines = (circuit.lines ?? []).filter((line) => held.includes(line) && held.length > 1);
            const loads = (circuit.loads ?? []).map((load) => ({
              ...load,
              lines: (load.lines ?? []).filter((line) => lines.includes(line)),
            }));
            return { ...circuit, lines, loads, neutral: lines.length > 1 ? circuit.neutral : true };
          }),
        });
      }}
    />
  );
}
