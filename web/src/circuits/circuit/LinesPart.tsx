import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { LINES, onLines } from "../../job/jobModel";
import { t } from "../../messages/text";
import { Check } from "../../ui/Check";
import { Choice } from "../../ui/Field";
import { type Change, Part } from "./Part";

/** Which lines feed it, whether it takes a neutral, how its loads stand, and the use that the standard's demand goes by. */
export function LinesPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { document, rules } = useJob();
  const phases = document.supply.phases ?? 1;
  const available = LINES.slice(0, phases);
  const lines = circuit.lines ?? [];
  const choices = [
    ...available.map((line) => [line]),
    ...(phases === 2 ? [available] : []),
    ...(phases === 3 ? [["L1", "L2"], ["L2", "L3"], ["L1", "L3"], available] : []),
  ];
  const spreads = circuit.kind !== "distribution";
  if (phases === 1 && !rules.uses.length && !spreads) return null;
  return (
    <Part title={t("web.circuit.lines.title")}>
      <div className="grid gap-3 sm:grid-cols-4">
        {phases > 1 && (
          <Choice
            label={t("web.circuit.lines.lines")}
            value={lines.join("+")}
            options={[
              { value: "", label: t("web.circuit.lines.not_stated") },
              ...choices.map((choice) => ({ value: choice.join("+"), label: choice.join(" + ") })),
            ]}
            onCommit={(text) => change(onLines(circuit, text ? (text.split("+") as typeof lines) : []))}
          />
        )}
        {rules.uses.length > 0 && (
          <Choice
            label={t("web.circuit.lines.use")}
            value={circuit.use ?? ""}
            options={[
              { value: "", label: "general" },
              ...rules.uses.map((use) => ({ value: use.id, label: use.title })),
            ]}
            onCommit={(use) => change({ use: use || null })}
          />
        )}
        {lines.length > 1 && (
          <Check checked={circuit.neutral ?? true} onChange={(checked) => change({ neutral: checked })}>
            {t("web.circuit.lines.neutral")}
          </Check>
        )}
        {spreads && (
          <Check
            checked={circuit.distributed_load ?? false}
            onChange={(checked) => change({ distributed_load: checked })}
          >
            {t("web.circuit.lines.distributed")}
          </Check>
        )}
      </div>
    </Part>
  );
}
