import { useState } from "react";
import type { Supply } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, FigureField } from "../ui/Field";
import { Card } from "./Card";
import { useDraft } from "./useDraft";

type Transformer = NonNullable<Supply["transformer"]>;
type Service = NonNullable<Supply["service_cable"]>;
type Electrode = NonNullable<Supply["electrode"]>;
type Set = (part: Partial<Supply>) => void;

/** The supply worked out instead of measured: from a transformer and its cable, or for TT from rods in soil. */
export function CalculatedSupply() {
  const { document, edit } = useJob();
  const { supply } = document;
  const set: Set = (part) => edit({ ...document, supply: { ...supply, ...part } });
  const [asked, setAsked] = useState({ transformer: false, electrode: false });
  const transformer = Boolean(supply.transformer) || asked.transformer;
  const electrode = Boolean(supply.electrode) || asked.electrode;
  const offers = (
    <div className="flex flex-wrap gap-2">
      {!transformer && (
        <Button onClick={() => setAsked({ ...asked, transformer: true })}>
          {t("web.setup.calculated.from_transformer")}
        </Button>
      )}
      {!electrode && supply.system === "TT" && (
        <Button onClick={() => setAsked({ ...asked, electrode: true })}>
          {t("web.setup.calculated.electrode")}
        </Button>
      )}
    </div>
  );
  if (!transformer && !electrode) return offers;
  return (
    <Card title={t("web.setup.calculated.title")}>
      {transformer && (
        <TransformerFields
          supply={supply}
          set={set}
          onLeave={() => setAsked({ ...asked, transformer: false })}
        />
      )}
      {electrode && (
        <ElectrodeFields supply={supply} set={set} onLeave={() => setAsked({ ...asked, electrode: false })} />
      )}
      {offers}
      <p className="mt-2 text-[12.5px] text-soft">{t("web.setup.calculated.note")}</p>
    </Card>
  );
}

type Fields = { supply: Supply; set: Set; onLeave: () => void };

function TransformerFields({ supply, set, onLeave }: Fields) {
  const {
    shown,
    set: put,
    waits,
  } = useDraft<Transformer>(supply.transformer, ["rated_kva", "impedance_pct"], (transformer) =>
    // What was measured or told gives way once there is something to calculate with.
    set({
      transformer,
      ...(waits && {
        ze_ohm: supply.system === "TT" ? supply.ze_ohm : null,
        fault_current_ka: null,
        fault_current_lines_ka: null,
      }),
    }),
  );
  return (
    <>
      <div className="mb-3 grid gap-3 sm:grid-cols-4">
        <FigureField
          label={t("web.setup.calculated.transformer")}
          unit="kVA"
          required={!waits}
          value={shown.rated_kva}
          onCommit={(rated_kva) => put({ rated_kva })}
        />
        <FigureField
          label={t("web.setup.calculated.impedance")}
          unit="%"
          required={!waits}
          value={shown.impedance_pct}
          onCommit={(impedance_pct) => put({ impedance_pct })}
        />
        <FigureField
          label={t("web.setup.calculated.resistance")}
          unit="%"
          empty="0"
          value={shown.resistance_pct}
          onCommit={(resistance_pct) => put({ resistance_pct: resistance_pct ?? 0 })}
          hint={t("web.setup.calculated.resistance_hint")}
        />
        <Button
          className="mt-5 self-start"
          onClick={() => {
            set({ transformer: null, service_cable: null });
            onLeave();
          }}
        >
          {t("web.setup.calculated.measure")}
        </Button>
      </div>
      {waits ? (
        <p className="mb-3 text-[12.5px] text-soft">{t("web.setup.calculated.transformer_hint")}</p>
      ) : (
        <ServiceFields supply={supply} set={set} />
      )}
    </>
  );
}

function ServiceFields({ supply, set }: Omit<Fields, "onLeave">) {
  const { transformer, service_cable } = supply;
  const { shown, set: put } = useDraft<Service>(
    service_cable,
    ["material", "area_mm2", "length_m"],
    (whole) => set({ service_cable: whole, transformer: transformer && { ...transformer, at_board: false } }),
  );
  const choose = (choice: string) => {
    const material = choice === "copper" || choice === "aluminium" ? choice : null;
    put({ material });
    const at_board = choice === "none";
    if (transformer && (service_cable || transformer.at_board !== at_board) && !material)
      set({ service_cable: null, transformer: { ...transformer, at_board } });
  };
  return (
    <div className="mb-3 grid gap-3 sm:grid-cols-4">
      <Choice
        label={t("web.setup.calculated.service")}
        value={shown.material ?? (transformer?.at_board ? "none" : "")}
        options={[
          { value: "", label: t("web.setup.calculated.service_unknown") },
          { value: "none", label: t("web.setup.calculated.service_none") },
          { value: "aluminium", label: "aluminium" },
          { value: "copper", label: "copper" },
        ]}
        onCommit={choose}
      />
      {shown.material && (
        <>
          <FigureField
            label={t("web.setup.calculated.size")}
            unit="mm²"
            required={Boolean(supply.service_cable)}
            value={shown.area_mm2}
            onCommit={(area_mm2) => put({ area_mm2 })}
          />
          <FigureField
            label={t("web.setup.calculated.length")}
            unit="m"
            required={Boolean(supply.service_cable)}
            value={shown.length_m}
            onCommit={(length_m) => put({ length_m })}
          />
          <FigureField
            label={t("web.setup.calculated.earth")}
            unit="mm²"
            value={shown.earth_mm2}
            empty={t("web.setup.calculated.earth_same")}
            onCommit={(earth_mm2) => put({ earth_mm2 })}
          />
        </>
      )}
    </div>
  );
}

function ElectrodeFields({ supply, set, onLeave }: Fields) {
  const {
    shown,
    set: put,
    waits,
  } = useDraft<Electrode>(
    supply.electrode,
    ["soil_ohm_m", "rod_length_m", "rod_diameter_mm", "rods"],
    (electrode) => set({ electrode, ...(waits && { ze_ohm: null }) }),
  );
  return (
    <div className="grid gap-3 sm:grid-cols-4">
      <FigureField
        label={t("web.setup.calculated.soil")}
        unit="Ω·m"
        required={!waits}
        value={shown.soil_ohm_m}
        onCommit={(soil_ohm_m) => put({ soil_ohm_m })}
      />
      <FigureField
        label={t("web.setup.calculated.rod_length")}
        unit="m"
        required={!waits}
        value={shown.rod_length_m}
        onCommit={(rod_length_m) => put({ rod_length_m })}
      />
      <FigureField
        label={t("web.setup.calculated.rod_diameter")}
        unit="mm"
        required={!waits}
        value={shown.rod_diameter_mm}
        onCommit={(rod_diameter_mm) => put({ rod_diameter_mm })}
      />
      <FigureField
        label={t("web.setup.calculated.rods")}
        unit=""
        required={!waits}
        value={shown.rods}
        onCommit={(rods) => put({ rods: rods && Math.round(rods) })}
      />
      <FigureField
        label={t("web.setup.calculated.rod_spacing")}
        unit="m"
        value={shown.spacing_m}
        empty={t("web.setup.calculated.rod_spacing_empty")}
        onCommit={(spacing_m) => put({ spacing_m })}
      />
      <FigureField
        label={t("web.setup.calculated.source_electrode")}
        unit="Ω"
        value={shown.source_ohm}
        hint={t("web.setup.calculated.source_electrode_hint")}
        onCommit={(source_ohm) => put({ source_ohm })}
      />
      <Button
        className="mt-5 self-start"
        onClick={() => {
          set({ electrode: null });
          onLeave();
        }}
      >
        {t("web.setup.calculated.measure")}
      </Button>
    </div>
  );
}
