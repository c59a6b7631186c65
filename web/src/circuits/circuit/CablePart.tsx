import type { Cable, Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { Choice, FigureField } from "../../ui/Field";
import { type Change, Part } from "./Part";

const CPC: Record<string, string> = {
  included: "made into the cable",
  core: "a core of the cable",
  armour: "the armour",
  separate: "run separately",
  metal: "conduit or other metal",
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
    <Part title="Cable">
      <div className="grid gap-3 sm:grid-cols-4">
        <Choice
          label="Kind"
          value={cable?.type ?? "auto"}
          options={[
            { value: "auto", label: "Choose for me" },
            ...rules.cables.map((known) => ({ value: known.id, label: known.title })),
          ]}
          onCommit={choose}
        />
        {cable && kind && (
          <>
            <Choice
              label={`Size [${rules.size_unit}]`}
              value={String(cable.area_mm2)}
              options={kind.sizes.map((size) => ({ value: String(size.area_mm2), label: size.label }))}
              onCommit={(size) => set({ area_mm2: Number(size), cpc_mm2: null })}
            />
            <Choice
              label={`The ${rules.vocabulary.protective_conductor} is`}
              value={cable.cpc ?? "included"}
              options={kind.cpc_choices.map((choice) => ({ value: choice, label: CPC[choice] ?? choice }))}
              onCommit={(cpc) => set({ cpc: cpc as Cable["cpc"], cpc_mm2: null })}
            />
            <FigureField
              label={`${rules.vocabulary.protective_conductor} size`}
              unit="mm²"
              value={cable.cpc_mm2}
              empty="as made up"
              onCommit={(cpc_mm2) => set({ cpc_mm2 })}
            />
            {(cable.cpc === "metal" || cable.cpc === "armour") && (
              <FigureField
                label="Its resistance at 20 °C"
                unit="mΩ/m"
                value={cable.cpc_mohm_per_m}
                empty={cable.cpc === "armour" ? "by table" : "not known"}
                hint="Measured, or its maker's."
                onCommit={(cpc_mohm_per_m) => set({ cpc_mohm_per_m })}
              />
            )}
            <FigureField
              label="A copper one beside it"
              unit="mm²"
              value={cable.parallel_cpc_mm2}
              empty="none"
              onCommit={(parallel_cpc_mm2) => set({ parallel_cpc_mm2 })}
            />
          </>
        )}
      </div>
    </Part>
  );
}
