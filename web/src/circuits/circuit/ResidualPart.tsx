import type { Load } from "../../api/client";
import { Check, fromYesNo, YES_NO, yesNo } from "../../ui/Check";
import { Choice, FigureField } from "../../ui/Field";

const DC = [
  { value: "", label: "usual of its kind" },
  { value: "none", label: "none" },
  { value: "pulsating", label: "pulsating" },
  { value: "smooth", label: "smooth" },
  { value: "smooth-detected", label: "smooth, opens at 6 mA itself" },
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
      <summary className="cursor-pointer text-[12px] text-accent">
        Leakage, direct current, must stay on
      </summary>
      <div className="mt-1 grid items-start gap-2 sm:grid-cols-4">
        <FigureField
          label="Leaks, each"
          unit="mA"
          value={load.leakage_ma}
          empty="usual of its kind"
          onCommit={(leakage_ma) => set({ leakage_ma })}
        />
        <Choice
          label="Direct current in it"
          value={load.dc_residual ?? ""}
          options={DC}
          onCommit={(residual) => set({ dc_residual: (residual || null) as Load["dc_residual"] })}
        />
        {load.kind === "charger" && (
          <Choice
            label="Opens when the PEN is lost"
            value={yesNo(load.open_pen_protection)}
            options={YES_NO}
            onCommit={(value) => set({ open_pen_protection: fromYesNo(value) })}
          />
        )}
        {(load.kind === "heater" || load.kind === "cooker" || load.rcd_exempt != null) && (
          <Choice
            label="Exempt from RCD, by its maker"
            value={yesNo(load.rcd_exempt)}
            options={YES_NO}
            onCommit={(value) => set({ rcd_exempt: fromYesNo(value) })}
          />
        )}
        <Check
          checked={load.frequency_converter}
          onChange={(inverter) => set({ frequency_converter: inverter })}
        >
          driven by a converter
        </Check>
        <Check checked={load.essential} onChange={(essential) => set({ essential })}>
          must stay on
        </Check>
      </div>
    </details>
  );
}
