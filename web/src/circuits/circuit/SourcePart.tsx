import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
import { fromYesNo, YES_NO, yesNo } from "../../ui/Check";
import { Choice, FigureField } from "../../ui/Field";
import { type Change, Part } from "./Part";

type Source = NonNullable<Circuit["source"]>;

/** A source at the end of a circuit, in parallel with the supply: what it gives, and what its connection requires. */
export function SourcePart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const source = circuit.source;
  if (circuit.kind === "distribution" || circuit.kind === "control") return null;
  const set = (part: Partial<Source>) => source && change({ source: { ...source, ...part } });
  const charges = source && ["battery", "hybrid", "vehicle"].includes(source.kind);
  return (
    <Part title={t("web.circuit.source.title")}>
      <div className="grid items-start gap-3 sm:grid-cols-4">
        <Choice
          label={t("web.circuit.source.kind")}
          value={source?.kind ?? ""}
          options={[
            { value: "", label: t("web.circuit.source.none") },
            { value: "solar", label: t("web.circuit.source.solar") },
            { value: "battery", label: t("web.circuit.source.battery") },
            { value: "hybrid", label: t("web.circuit.source.hybrid") },
            { value: "vehicle", label: t("web.circuit.source.vehicle") },
          ]}
          onCommit={(kind) => change({ source: kind ? { ...source, kind: kind as Source["kind"] } : null })}
        />
        {source && (
          <>
            <FigureField
              label={t("web.circuit.source.rated")}
              unit="A"
              value={source.rated_a}
              hint={t("web.circuit.source.rated_hint")}
              onCommit={(rated_a) => set({ rated_a })}
            />
            <Choice
              label={t("web.circuit.source.dc")}
              value={source.dc_residual ?? ""}
              options={[
                { value: "", label: t("web.common.not_known") },
                { value: "none", label: t("web.circuit.leakage.dc_none") },
                { value: "pulsating", label: t("web.circuit.leakage.dc_pulsating") },
                { value: "smooth", label: t("web.circuit.leakage.dc_smooth") },
                { value: "smooth-detected", label: t("web.circuit.leakage.dc_detected") },
              ]}
              onCommit={(dc) => set({ dc_residual: (dc || null) as Source["dc_residual"] })}
            />
            <Choice
              label={t("web.circuit.source.isolator")}
              value={yesNo(source.isolator)}
              options={YES_NO}
              onCommit={(value) => set({ isolator: fromYesNo(value) })}
            />
            <Choice
              label={t("web.circuit.source.distributor")}
              value={source.distributor ?? ""}
              options={[
                { value: "", label: t("web.circuit.source.nothing_yet") },
                { value: "applied", label: t("web.circuit.source.applied") },
                { value: "accepted", label: t("web.circuit.source.accepted") },
                { value: "notified", label: t("web.circuit.source.notified") },
              ]}
              onCommit={(state) => set({ distributor: (state || null) as Source["distributor"] })}
            />
            {rules.source_position_counts && (
              <Choice
                label={t("web.circuit.source.opposite")}
                value={yesNo(source.opposite_main)}
                options={YES_NO}
                onCommit={(value) => set({ opposite_main: fromYesNo(value) })}
              />
            )}
            {charges && (
              <Choice
                label={t("web.circuit.source.charging")}
                value={source.charging_at_peak ?? ""}
                options={[
                  { value: "", label: t("web.circuit.source.charging_may") },
                  { value: "always", label: t("web.circuit.source.charging_always") },
                  { value: "managed", label: t("web.circuit.source.charging_managed") },
                  { value: "off", label: t("web.circuit.source.charging_off") },
                ]}
                onCommit={(at) => set({ charging_at_peak: (at || null) as Source["charging_at_peak"] })}
              />
            )}
          </>
        )}
      </div>
    </Part>
  );
}
