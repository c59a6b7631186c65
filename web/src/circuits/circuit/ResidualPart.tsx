import type { Load } from "../../api/client";
import { t } from "../../messages/text";
import { Check, fromYesNo, YES_NO, yesNo } from "../../ui/Check";
import { Choice, FigureField } from "../../ui/Field";
import { OpenPenPart } from "./OpenPenPart";

const DC = [
  {
    value: "",
    get label() {
      return t("web.circuit.leakage.dc_usual");
    },
  },
  {
    value: "none",
    get label() {
      return t("web.circuit.leakage.dc_none");
    },
  },
  {
    value: "pulsating",
    get label() {
      return t("web.circuit.leakage.dc_pulsating");
    },
  },
  {
    value: "smooth",
    get label() {
      return t("web.circuit.leakage.dc_smooth");
    },
  },
  {
    value: "smooth-detected",
    get label() {
      return t("web.circuit.leakage.dc_detected");
    },
  },
];

/** What a load brings to the RCD ahead of it, and whether it must stay on: opened where something of it is stated. */
export function ResidualPart({ load, set }: { load: Load; set: (part: Partial<Load>) => void }) {
  const stated =
    load.leakage_ma ||
    load.dc_residual ||
    load.frequency_converter ||
    load.essential ||
    load.kind === "charger";
  return (
    <details className="mt-1 pl-1" open={Boolean(stated)}>
      <summary className="cursor-pointer text-[12px] text-accent">{t("web.circuit.leakage.title")}</summary>
      <div className="mt-1 grid items-start gap-2 sm:grid-cols-4">
        <FigureField
          label={t("web.circuit.leakage.leakage")}
          unit="mA"
          value={load.leakage_ma}
          empty={t("web.circuit.leakage.dc_usual")}
          onCommit={(leakage_ma) => set({ leakage_ma })}
        />
        <Choice
          label={t("web.circuit.leakage.dc")}
          value={load.dc_residual ?? ""}
          options={DC}
          onCommit={(residual) => set({ dc_residual: (residual || null) as Load["dc_residual"] })}
        />
        {load.kind === "charger" && <OpenPenPart load={load} set={set} />}
        {(load.kind === "heater" || load.kind === "cooker" || load.rcd_exempt != null) && (
          <Choice
            label={t("web.circuit.leakage.exempt")}
            value={yesNo(load.rcd_exempt)}
            options={YES_NO}
            onCommit={(value) => set({ rcd_exempt: fromYesNo(value) })}
          />
        )}
        <Check
          checked={load.frequency_converter}
          onChange={(inverter) => set({ frequency_converter: inverter })}
        >
          {t("web.circuit.leakage.inverter")}
        </Check>
        <Check checked={load.essential} onChange={(essential) => set({ essential })}>
          {t("web.circuit.leakage.essential")}
        </Check>
      </div>
    </details>
  );
}
