import { Trash2 } from "lucide-react";
import type { Circuit, Section } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Choice, FigureField } from "../../ui/Field";
import { RunStrip } from "../RunStrip";
import { type Change, Part } from "./Part";

/** What belongs to one way of laying alone, and does not go over to another. */
const LEFT_BEHIND = { grouping: null, in_insulation_mm: null, soil_k_m_per_w: null };

/** The run, section by section: how long, laid how, in what company. */
export function RunPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const set = (at: number, part: Partial<Section>) =>
    change({ run: circuit.run.map((section, index) => (index === at ? { ...section, ...part } : section)) });
  const last = circuit.run.at(-1);
  return (
    <Part title={circuit.kind === "ring" ? t("web.circuit.run.title_ring") : t("web.circuit.run.title")}>
      <RunStrip run={circuit.run} />
      {circuit.run.map((section, at) => {
        const medium = rules.methods.find((method) => method.id === section.method)?.medium ?? "air";
        const groupings = rules.groupings.filter((grouping) => grouping.medium === medium);
        return (
          <div
            key={at}
            className="mb-3 grid items-start gap-2 sm:grid-cols-[6rem_1fr_6rem_5rem_1fr_6rem_2rem]"
          >
            <FigureField
              label={t("web.circuit.run.length")}
              unit="m"
              value={section.length_m}
              onCommit={(length_m) => set(at, { length_m })}
            />
            <Choice
              label={t("web.circuit.run.method")}
              value={section.method}
              options={rules.methods.map((method) => ({
                value: method.id,
                label: `${method.id}: ${method.title}`,
              }))}
              onCommit={(method) => set(at, { method, ...LEFT_BEHIND })}
            />
            <FigureField
              label={medium === "ground" ? t("web.circuit.run.ground") : t("web.circuit.run.air")}
              empty={String(rules.ambients_c[medium] ?? "")}
              unit="°C"
              value={section.ambient_c}
              onCommit={(ambient_c) => set(at, { ambient_c })}
            />
            <FigureField
              label={t("web.circuit.run.grouped")}
              unit=""
              required
              value={section.circuits_grouped ?? 1}
              onCommit={(count) => count && set(at, { circuits_grouped: Math.round(count) })}
            />
            <Choice
              label={t("web.circuit.run.grouping")}
              value={section.grouping ?? ""}
              options={[
                { value: "", label: t("web.circuit.run.grouping_usual") },
                ...groupings.map((grouping) => ({ value: grouping.id, label: grouping.title })),
              ]}
              onCommit={(grouping) => set(at, { grouping: grouping || null })}
            />
            {medium === "ground" ? (
              <FigureField
                label={t("web.circuit.run.soil")}
                unit="K·m/W"
                empty={t("web.circuit.run.soil_empty")}
                value={section.soil_k_m_per_w}
                onCommit={(soil_k_m_per_w) => set(at, { soil_k_m_per_w })}
              />
            ) : (
              <FigureField
                label={t("web.circuit.run.insulation")}
                empty={t("web.circuit.run.insulation_none")}
                unit="mm"
                value={section.in_insulation_mm}
                onCommit={(in_insulation_mm) => set(at, { in_insulation_mm })}
              />
            )}
            <Hidden section={section} set={(part) => set(at, part)} />
            {circuit.run.length > 1 && (
              <Button
                variant="quiet"
                className="mt-5"
                aria-label={t("web.circuit.run.remove", { n: at + 1 })}
                onClick={() => change({ run: circuit.run.filter((_, index) => index !== at) })}
              >
                <Trash2 size={14} aria-hidden />
              </Button>
            )}
          </div>
        );
      })}
      {last && (
        <Button onClick={() => change({ run: [...circuit.run, { ...last, length_m: null }] })}>
          {t("web.circuit.run.add")}
        </Button>
      )}
    </Part>
  );
}

const HIDDEN = [
  {
    value: "",
    get label() {
      return t("web.circuit.run.hidden_unknown");
    },
  },
  {
    value: "no",
    get label() {
      return t("web.circuit.run.hidden_no");
    },
  },
  {
    value: "wall",
    get label() {
      return t("web.circuit.run.hidden_wall");
    },
  },
  {
    value: "metal-partition",
    get label() {
      return t("web.circuit.run.hidden_metal");
    },
  },
  {
    value: "floor-or-ceiling",
    get label() {
      return t("web.circuit.run.hidden_floor");
    },
  },
];

/** What a section is concealed in, how deep, and whether metal covers it: whether an RCD is demanded hangs on it. */
function Hidden({ section, set }: { section: Section; set: (part: Partial<Section>) => void }) {
  return (
    <div className="col-span-full -mt-1 grid items-end gap-2 sm:grid-cols-[6rem_1fr_8rem_12rem]">
      <span />
      <Choice
        label={t("web.circuit.run.hidden")}
        value={section.concealed_in ?? ""}
        options={HIDDEN}
        onCommit={(place) => set({ concealed_in: (place || null) as Section["concealed_in"] })}
      />
      {section.concealed_in === "wall" ? (
        <FigureField
          label={t("web.circuit.run.depth")}
          unit="mm"
          value={section.depth_mm}
          onCommit={(depth_mm) => set({ depth_mm })}
        />
      ) : (
        <span />
      )}
      <Check
        checked={section.earthed_metal_covering}
        onChange={(earthed_metal_covering) => set({ earthed_metal_covering })}
      >
        {t("web.circuit.run.metal_cover")}
      </Check>
    </div>
  );
}
