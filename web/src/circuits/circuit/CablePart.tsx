import type { Cable, Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
import { Choice, FigureField } from "../../ui/Field";
import { type Change, Part } from "./Part";

const CPC: Record<string, string> = {
  get included() {
    return t("web.circuit.cable.cpc_included");
  },
  get core() {
    return t("web.circuit.cable.cpc_core");
  },
  get armour() {
    return t("web.circuit.cable.cpc_armour");
  },
  get separate() {
    return t("web.circuit.cable.cpc_separate");
  },
  get metal() {
    return t("web.circuit.cable.cpc_metal");
  },
};

/** The cable, by kind and size, and what its protective conductor is. */
export function CablePart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const cable = circuit.cable && typeof circuit.cable !== "string" ? circuit.cable : undefined;
  const kind = rules.cables.find((known) => known.id === cable?.type);
  const set = (part: Partial<Cable>) => cable && change({ cable: { ...cable, ...part } });
  const choose = (id: string) => {
    const next = rules.cables.find((known) => known.id === id);
    if (!next) return change({ cable: "auto" });
    const area =
      next.sizes_mm2.find((size) => size >= (cable?.area_mm2 ?? 2.5)) ?? next.sizes_mm2.at(-1) ?? 0;
    change({ cable: { type: id, area_mm2: area, cpc: next.cpc_choices[0] as Cable["cpc"], cpc_mm2: null } });
  };
  return (
    <Part title={t("web.circuit.cable.title")}>
      <div className="grid gap-3 sm:grid-cols-4">
        <Choice
          label={t("web.circuit.cable.kind")}
          value={cable?.type ?? "auto"}
          options={[
            { value: "auto", label: t("web.circuit.cable.auto") },
            ...rules.cables.map((known) => ({ value: known.id, label: known.title })),
          ]}
          onCommit={choose}
        />
        {cable && kind && (
          <>
            <Choice
              label={t("web.circuit.cable.size", { size_unit: rules.size_unit })}
              value={String(cable.area_mm2)}
              options={kind.sizes.map((size) => ({ value: String(size.area_mm2), label: size.label }))}
              onCommit={(size) => set({ area_mm2: Number(size), cpc_mm2: null })}
            />
            <Choice
              label={t("web.circuit.cable.cpc")}
              value={cable.cpc ?? "included"}
              options={kind.cpc_choices.map((choice) => ({ value: choice, label: CPC[choice] ?? choice }))}
              onCommit={(cpc) => set({ cpc: cpc as Cable["cpc"], cpc_mm2: null })}
            />
            <FigureField
              label={t("web.circuit.cable.cpc_size")}
              unit="mm²"
              value={cable.cpc_mm2}
              empty={t("web.circuit.cable.cpc_size_empty")}
              onCommit={(cpc_mm2) => set({ cpc_mm2 })}
            />
            {(cable.cpc === "metal" || cable.cpc === "armour") && (
              <FigureField
                label={t("web.circuit.cable.cpc_resistance")}
                unit="mΩ/m"
                value={cable.cpc_mohm_per_m}
                empty={
                  cable.cpc === "armour"
                    ? t("web.circuit.cable.cpc_resistance_table")
                    : t("web.circuit.cable.cpc_resistance_unknown")
                }
                hint={t("web.circuit.cable.cpc_resistance_hint")}
                onCommit={(cpc_mohm_per_m) => set({ cpc_mohm_per_m })}
              />
            )}
            <FigureField
              label={t("web.circuit.cable.cpc_parallel")}
              unit="mm²"
              value={cable.parallel_cpc_mm2}
              empty={t("web.circuit.cable.cpc_parallel_none")}
              onCommit={(parallel_cpc_mm2) => set({ parallel_cpc_mm2 })}
            />
          </>
        )}
      </div>
    </Part>
  );
}
