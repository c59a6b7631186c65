import type { Supply } from "../api/client";
import { useJob } from "../job/JobContext";
import { Choice, FigureField } from "../ui/Field";
import { Card } from "./Card";
import { CutOutFields } from "./CutOutFields";
import { PhasesChoice } from "./PhasesChoice";

const SOURCES = [
  { value: "", label: "not said" },
  { value: "measured", label: "measured" },
  { value: "enquiry", label: "by enquiry" },
  { value: "declared", label: "declared figure" },
];

/** What arrives: earthing arrangement, Ze, fault currents, cut-out. Each missing value says who can supply it. */
export function SupplyCard() {
  const { document, rules, edit } = useJob();
  const { supply } = document;
  const set = (part: Partial<Supply>) => edit({ ...document, supply: { ...supply, ...part } });
  const declared = rules.declared_ze_ohm[supply.system];
  return (
    <Card title="Supply">
      <div className="grid gap-3 sm:grid-cols-3">
        <Choice
          label="Earthing arrangement"
          value={supply.system}
          options={rules.systems.map((system) => ({ value: system.id, label: system.title }))}
          onCommit={(system) => set({ system: system as Supply["system"] })}
          hint="Seen at the origin; ask the distributor if in doubt."
        />
        <FigureField
          label="Ze, external earth loop"
          unit="Ω"
          value={supply.ze_ohm}
          onCommit={(ze_ohm) => set({ ze_ohm })}
          hint={
            declared
              ? `At the first board's incoming terminals: measure it, or ask. ${declared} Ω is usually declared for ${supply.system}.`
              : "At the first board's incoming terminals: measure it, or ask."
          }
        />
        <Choice
          label="Ze is"
          value={supply.ze_source ?? ""}
          options={SOURCES}
          onCommit={(source) => set({ ze_source: (source || null) as Supply["ze_source"] })}
        />
        <PhasesChoice />
        <FigureField
          label="Prospective fault current"
          unit="kA"
          value={supply.fault_current_ka}
          onCommit={(fault_current_ka) => set({ fault_current_ka })}
          hint="The larger of line to neutral and line to earth, at the incoming terminals."
        />
        <Choice
          label="It is"
          value={supply.fault_current_source ?? ""}
          options={SOURCES}
          onCommit={(source) =>
            set({ fault_current_source: (source || null) as Supply["fault_current_source"] })
          }
        />
        {(supply.phases ?? 1) > 1 && (
          <FigureField
            label="Fault current between lines"
            unit="kA"
            value={supply.fault_current_lines_ka}
            empty={supply.phases === 3 ? "twice the other" : "as the other"}
            hint="All lines shorted at the incoming terminals."
            onCommit={(fault_current_lines_ka) => set({ fault_current_lines_ka })}
          />
        )}
        <CutOutFields supply={supply} set={set} />
      </div>
    </Card>
  );
}
