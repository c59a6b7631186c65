import { client, type Supply } from "../api/client";
import { useJob } from "../job/JobContext";
import { LINES, onLines } from "../job/jobModel";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { t } from "../messages/text";
import { Choice } from "../ui/Field";

/** How many lines arrive. Circuits that stand on a line that goes keep none; what was assumed for so many is assumed again. */
export function PhasesChoice() {
  const { document, rules } = useJob();
  const answeredEdit = useAnsweredEdit();
  const { supply } = document;
  return (
    <Choice
      label={t("web.setup.supply.phases")}
      value={String(supply.phases ?? 1)}
      options={rules.supplies.map((supply) => ({ value: String(supply.phases), label: supply.title }))}
      onCommit={(count) => {
        const available = LINES.slice(0, Number(count));
        const changed = {
          ...document,
          supply: { ...supply, phases: Number(count) as Supply["phases"], fault_current_lines_ka: null },
          circuits: (document.circuits ?? []).map((circuit) => {
            const lines = (circuit.lines ?? []).filter(
              (line) => available.includes(line) && available.length > 1,
            );
            return onLines(circuit, lines);
          }),
        };
        void answeredEdit(client.POST("/api/assumptions/supply", { body: { document: changed } }));
      }}
    />
  );
}
