import type { Job } from "../api/client";
import { useJob } from "../job/JobContext";
import { Check } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";

type Settings = NonNullable<Job["settings"]>;
type Prices = NonNullable<Job["prices"]>;

/** What the standard leaves to the designer: the method of demand, the floor area it may go by, terminals, and prices. */
export function RuleChoices() {
  const { document, rules, edit } = useJob();
  const { settings, job } = document;
  const set = (part: Partial<Settings>) =>
    edit({ ...document, settings: { ...settings, ...part } as Settings });
  const { prices } = document;
  const price = (part: Partial<Prices>) => edit({ ...document, prices: { ...prices, ...part } as Prices });
  return (
    <div className="mb-3 grid gap-3 sm:grid-cols-3">
      {rules.demand_methods.length > 1 && (
        <Choice
          label="Maximum demand by"
          value={settings?.demand_method ?? ""}
          options={rules.demand_methods.map((method, at) => ({
            value: at ? method.id : "",
            label: method.title,
          }))}
          onCommit={(method) => set({ demand_method: method || null })}
        />
      )}
      {rules.by_floor_area && (
        <FigureField
          label="Floor area"
          unit="m²"
          value={job.floor_area_m2}
          hint="Outside dimensions, without porch and garage."
          onCommit={(floor_area_m2) => edit({ ...document, job: { ...job, floor_area_m2 } })}
        />
      )}
      {rules.usual_terminals && (
        <Choice
          label="Terminals marked"
          value={String(settings?.terminals_c ?? "")}
          options={[
            { value: "", label: rules.usual_terminals },
            { value: "75", label: "75 °C, all of them" },
          ]}
          onCommit={(degrees) => set({ terminals_c: degrees ? 75 : null })}
        />
      )}
      <Choice
        label="Design chooses"
        value={settings?.design_for ?? "size"}
        options={[
          { value: "size", label: "the smallest that passes" },
          { value: "price", label: "the cheapest that passes" },
        ]}
        onCommit={(wish) => set({ design_for: wish as Settings["design_for"] })}
      />
      <FigureField
        label="Larger cable by design above"
        unit="%"
        required
        value={settings?.design_drop_pct ?? 5}
        hint="Voltage drop, where the standard recommends its limit."
        onCommit={(design_drop_pct) => design_drop_pct && set({ design_drop_pct })}
      />
      <Check checked={settings?.design_usual ?? true} onChange={(design_usual) => set({ design_usual })}>
        Design takes no less than is usual
      </Check>
      <Check checked={settings?.design_spd ?? true} onChange={(design_spd) => set({ design_spd })}>
        Design adds a required SPD
      </Check>
      {settings?.design_for === "price" && (
        <>
          <FigureField
            label="Copper"
            unit="per kg"
            required
            value={prices?.copper_per_kg ?? 12}
            onCommit={(copper_per_kg) => copper_per_kg !== null && price({ copper_per_kg })}
          />
          <FigureField
            label="Cable beside its copper"
            unit="per m"
            required
            value={prices?.cable_per_m ?? 0.5}
            onCommit={(cable_per_m) => cable_per_m !== null && price({ cable_per_m })}
          />
        </>
      )}
    </div>
  );
}
