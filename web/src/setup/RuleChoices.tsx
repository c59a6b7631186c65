import type { Job } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
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
          label={t("web.setup.options.demand_method")}
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
          label={t("web.setup.options.floor_area")}
          unit="m²"
          value={job.floor_area_m2}
          hint={t("web.setup.options.floor_area_hint")}
          onCommit={(floor_area_m2) => edit({ ...document, job: { ...job, floor_area_m2 } })}
        />
      )}
      {rules.usual_terminals && (
        <Choice
          label={t("web.setup.options.terminals")}
          value={String(settings?.terminals_c ?? "")}
          options={[
            { value: "", label: rules.usual_terminals },
            { value: "75", label: t("web.setup.options.terminals_75") },
          ]}
          onCommit={(degrees) => set({ terminals_c: degrees ? 75 : null })}
        />
      )}
      <Choice
        label={t("web.setup.options.design_for")}
        value={settings?.design_for ?? "size"}
        options={[
          { value: "size", label: t("web.setup.options.smallest") },
          { value: "price", label: t("web.setup.options.cheapest") },
        ]}
        onCommit={(wish) => set({ design_for: wish as Settings["design_for"] })}
      />
      <FigureField
        label={t("web.setup.options.design_drop")}
        unit="%"
        required
        value={settings?.design_drop_pct ?? 5}
        hint={t("web.setup.options.design_drop_hint")}
        onCommit={(design_drop_pct) => design_drop_pct && set({ design_drop_pct })}
      />
      <Check checked={settings?.design_usual ?? true} onChange={(design_usual) => set({ design_usual })}>
        {t("web.setup.options.design_usual")}
      </Check>
      <Check checked={settings?.design_spd ?? true} onChange={(design_spd) => set({ design_spd })}>
        {t("web.setup.options.design_spd")}
      </Check>
      {settings?.design_for === "price" && (
        <>
          <FigureField
            label={t("web.setup.options.copper")}
            unit="per kg"
            required
            value={prices?.copper_per_kg ?? 12}
            onCommit={(copper_per_kg) => copper_per_kg !== null && price({ copper_per_kg })}
          />
          <FigureField
            label={t("web.setup.options.cable")}
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
