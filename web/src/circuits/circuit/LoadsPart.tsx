import { Trash2 } from "lucide-react";
import type { Circuit, Load } from "../../api/client";
import { blankLoad } from "../../job/blank";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";
import { type Change, Part } from "./Part";
import { PositionPart } from "./PositionPart";
import { ResidualPart } from "./ResidualPart";

/** What the circuit feeds. */
export function LoadsPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { document, rules } = useJob();
  const loads = circuit.loads ?? [];
  const rooms = document.rooms ?? [];
  const set = (at: number, part: Partial<Load>) =>
    change({ loads: loads.map((load, index) => (index === at ? { ...load, ...part } : load)) });
  return (
    <Part title={t("web.circuit.loads.title")}>
      {loads.map((load, at) => (
        <div key={at} className="mb-3">
          <div className="grid items-start gap-2 sm:grid-cols-[1fr_7rem_4rem_6rem_5rem_8rem_2rem]">
            <Field label={t("web.circuit.loads.name")}>
              {(field) => (
                <TextBox
                  id={field}
                  value={load.name}
                  maxLength={120}
                  onCommit={(name) => name.trim() && set(at, { name: name.trim() })}
                />
              )}
            </Field>
            <Choice
              label={t("web.circuit.loads.kind")}
              value={load.kind}
              options={rules.loads.map(({ kind }) => ({ value: kind, label: kind }))}
              onCommit={(kind) => set(at, { kind: kind as Load["kind"] })}
            />
            <FigureField
              label={t("web.circuit.loads.count")}
              unit=""
              empty={t("web.circuit.loads.not_counted")}
              value={load.count}
              onCommit={(count) => set(at, { count: count ? Math.round(count) : null })}
            />
            <FigureField
              label={t("web.circuit.loads.power")}
              unit="W"
              value={load.power_w}
              onCommit={(power_w) => set(at, { power_w })}
            />
            <FigureField
              label={t("web.circuit.loads.power_factor")}
              empty={rules.loads.find((known) => known.kind === load.kind)?.resistive ? "1" : "?"}
              unit=""
              value={load.power_factor}
              onCommit={(power_factor) => set(at, { power_factor })}
            />
            <Choice
              label={t("web.circuit.loads.room")}
              value={load.room ?? ""}
              options={[
                { value: "", label: "–" },
                ...rooms.map((room) => ({ value: room.id, label: room.name })),
              ]}
              onCommit={(room) => set(at, { room: room || null })}
            />
            <Button
              variant="quiet"
              className="mt-5"
              aria-label={t("web.circuit.loads.remove", { load: load.name })}
              onClick={() => change({ loads: loads.filter((_, index) => index !== at) })}
            >
              <Trash2 size={14} aria-hidden />
            </Button>
          </div>
          <Unusual circuit={circuit} load={load} set={(part) => set(at, part)} />
          <ResidualPart load={load} set={(part) => set(at, part)} />
          <PositionPart item={load} set={(part) => set(at, part)} />
        </div>
      ))}
      <Button
        onClick={() =>
          change({
            loads: [...loads, blankLoad(t("web.circuit.loads.default_name"))],
          })
        }
      >
        {t("web.circuit.loads.add")}
      </Button>
    </Part>
  );
}

/** What few loads have: opened where one of it is stated, and otherwise only when it is asked for. */
function Unusual({
  circuit,
  load,
  set,
}: {
  circuit: Circuit;
  load: Load;
  set: (part: Partial<Load>) => void;
}) {
  const { rules } = useJob();
  const assumed = rules.loads.find((known) => known.kind === load.kind)?.starts_at;
  const several = (circuit.lines?.length ?? 0) > 1;
  const stated =
    load.continuous ||
    load.duty_pct ||
    load.starting_multiple ||
    load.at_peak ||
    load.third_harmonic_pct ||
    load.along_m != null ||
    load.surge_type_3 ||
    (load.lines?.length ?? 0) > 0;
  return (
    <details className="mt-1 pl-1" open={Boolean(stated)}>
      <summary className="cursor-pointer text-[12px] text-accent">{t("web.circuit.loads.more")}</summary>
      <div className="mt-1 grid items-start gap-2 sm:grid-cols-5">
        {several && (
          <Choice
            label={t("web.circuit.loads.line")}
            value={load.lines?.[0] ?? ""}
            options={[
              { value: "", label: t("web.circuit.loads.line_all") },
              ...(circuit.lines ?? []).map((line) => ({ value: line, label: line })),
            ]}
            onCommit={(line) => set({ lines: line ? [line as "L1"] : [] })}
          />
        )}
        <FigureField
          label={t("web.circuit.loads.start")}
          unit="× I"
          value={load.starting_multiple}
          empty={assumed ? t("web.circuit.loads.start_assumed", { multiple: assumed }) : "1"}
          onCommit={(starting_multiple) => set({ starting_multiple })}
        />
        <FigureField
          label={t("web.circuit.loads.duty")}
          unit="%"
          value={load.duty_pct}
          empty="100"
          onCommit={(duty_pct) => set({ duty_pct })}
        />
        <Choice
          label={t("web.circuit.loads.at_peak")}
          value={load.at_peak ?? ""}
          options={[
            { value: "", label: t("web.circuit.loads.peak_diversity") },
            { value: "always", label: t("web.circuit.loads.peak_always") },
            { value: "managed", label: t("web.circuit.loads.peak_managed") },
            { value: "off", label: t("web.circuit.loads.peak_off") },
          ]}
          onCommit={(at_peak) => set({ at_peak: (at_peak || null) as Load["at_peak"] })}
        />
        <FigureField
          label={t("web.circuit.loads.along")}
          unit="m"
          value={load.along_m}
          empty={t("web.circuit.loads.along_end")}
          onCommit={(along_m) => set({ along_m })}
        />
        <FigureField
          label={t("web.circuit.loads.third")}
          unit="%"
          value={load.third_harmonic_pct}
          empty={t("web.circuit.loads.third_none")}
          onCommit={(third_harmonic_pct) => set({ third_harmonic_pct })}
        />
        <Check checked={load.continuous ?? false} onChange={(checked) => set({ continuous: checked })}>
          {t("web.circuit.loads.continuous")}
        </Check>
        <Check checked={load.surge_type_3 ?? false} onChange={(surge_type_3) => set({ surge_type_3 })}>
          {t("web.circuit.loads.spd")}
        </Check>
        {load.kind === "cooker" && (
          <Check checked={load.with_socket ?? false} onChange={(checked) => set({ with_socket: checked })}>
            {t("web.circuit.loads.with_socket")}
          </Check>
        )}
      </div>
    </details>
  );
}
