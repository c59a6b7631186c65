import { useQuery } from "@tanstack/react-query";
import type { Circuit, Device } from "../../api/client";
import { familiesQuery } from "../../api/queries";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
import { FedFromEitherSide } from "../../setup/FedFromEitherSide";
import { Check } from "../../ui/Check";
import { Choice, FigureField } from "../../ui/Field";
import { type Change, Part } from "./Part";

/** Widths that devices are made in. */
const WIDTHS = ["1", "1.5", "2", "3", "4", "5", "6"];

/** The protective device, by kind, rating and what is marked on it. */
export function DevicePart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const device = circuit.device && typeof circuit.device !== "string" ? circuit.device : undefined;
  const kind = rules.devices.find((known) => known.id === device?.kind);
  const set = (part: Partial<Device>) => device && change({ device: { ...device, ...part } });
  const choose = (id: string) => {
    const next = rules.devices.find((known) => known.id === id);
    if (!next) return change({ device: "auto" });
    const rating =
      next.ratings_a.find((rating_a) => rating_a >= (device?.rating_a ?? 0)) ?? next.ratings_a.at(-1) ?? 0;
    change({
      device: {
        kind: id,
        rating_a: rating,
        curve: next.curves.length ? (device?.curve ?? next.usual_curve) : null,
        breaking_ka:
          next.breaking_choices_ka.length === 1 || next.action === "breaker"
            ? next.breaking_choices_ka[0]
            : null,
        arc_fault: device?.arc_fault ?? false,
        rcd: next.has_rcd ? (device?.rcd ?? next.usual_rcd) : null,
      },
    });
  };
  return (
    <Part title={t("web.circuit.device.title")}>
      <div className="grid gap-3 sm:grid-cols-4">
        <Choice
          label={t("web.circuit.device.kind")}
          value={device?.kind ?? "auto"}
          options={[
            { value: "auto", label: t("web.circuit.device.auto") },
            ...rules.devices.map((known) => ({
              value: known.id,
              label: `${known.short}: ${known.title}${known.current ? "" : " (old)"}`,
            })),
          ]}
          onCommit={choose}
        />
        {device && kind && (
          <>
            <Choice
              label={t("web.circuit.device.rating")}
              value={String(device.rating_a)}
              options={kind.ratings_a.map((rating) => ({ value: String(rating), label: String(rating) }))}
              onCommit={(rating) => set({ rating_a: Number(rating) })}
            />
            {kind.curves.length > 0 && (
              <Choice
                label={t("web.circuit.device.curve")}
                value={device.curve ?? ""}
                options={kind.curves.map((curve) => ({ value: curve, label: curve }))}
                onCommit={(curve) => set({ curve: curve as Device["curve"] })}
              />
            )}
            <FigureField
              label={t("web.circuit.device.breaking")}
              unit="kA"
              value={device.breaking_ka}
              hint={t("web.circuit.device.breaking_hint")}
              onCommit={(breaking_ka) => set({ breaking_ka })}
            />
            <FigureField
              label={t("web.circuit.device.let_through")}
              unit="A²s"
              value={device.let_through_a2s}
              empty={t("web.circuit.device.let_through_empty")}
              hint={t("web.circuit.device.let_through_hint")}
              onCommit={(let_through_a2s) => set({ let_through_a2s })}
            />
            {device.let_through_a2s && (
              <FigureField
                label={t("web.circuit.device.let_through_at")}
                unit="kA"
                value={device.let_through_at_ka}
                hint={t("web.circuit.device.let_through_at_hint")}
                onCommit={(let_through_at_ka) => set({ let_through_at_ka })}
              />
            )}
            <FamilyChoice device={device} set={set} />
            <Choice
              label={t("web.circuit.device.neutral")}
              value={device.switches_neutral == null ? "" : device.switches_neutral ? "yes" : "no"}
              options={[
                { value: "", label: t("web.circuit.device.neutral_unknown") },
                { value: "yes", label: t("web.circuit.device.neutral_opened") },
                { value: "no", label: t("web.circuit.device.neutral_through") },
              ]}
              onCommit={(answer) => set({ switches_neutral: answer === "" ? null : answer === "yes" })}
            />
            <Choice
              label={t("web.circuit.device.width")}
              value={device.modules == null ? "" : String(device.modules)}
              options={[
                { value: "", label: t("web.circuit.device.width_usual") },
                { value: "0.5", label: t("web.circuit.device.width_half") },
                ...WIDTHS.map((width) => ({ value: width, label: width })),
              ]}
              onCommit={(width) => set({ modules: width === "" ? null : Number(width) })}
            />
            <Check checked={device.arc_fault} onChange={(arc_fault) => set({ arc_fault })}>
              {t("web.circuit.device.arc_fault")}
            </Check>
            {(device.rcd || device.arc_fault) && (circuit.source || circuit.kind === "distribution") && (
              <FedFromEitherSide
                value={device.bidirectional}
                onCommit={(bidirectional) => set({ bidirectional })}
              />
            )}
            {device.rcd && (
              <>
                <Check
                  checked={device.rcd.time_delayed}
                  onChange={(time_delayed) => set({ rcd: { ...device.rcd, time_delayed } as Device["rcd"] })}
                >
                  {t("web.circuit.device.delayed")}
                </Check>
                <FigureField
                  label="IΔn"
                  unit="mA"
                  required
                  value={device.rcd.idn_ma}
                  onCommit={(idn_ma) => idn_ma && set({ rcd: { ...device.rcd, idn_ma } as Device["rcd"] })}
                />
                <Choice
                  label={t("web.circuit.device.rcd_type")}
                  value={device.rcd.type ?? "A"}
                  options={["AC", "A", "F", "B"].map((type) => ({ value: type, label: type }))}
                  onCommit={(type) => set({ rcd: { ...device.rcd, type } as Device["rcd"] })}
                />
              </>
            )}
          </>
        )}
      </div>
    </Part>
  );
}

/** A family of the library whose own characteristic and terminals count. */
function FamilyChoice({ device, set }: { device: Device; set: (part: Partial<Device>) => void }) {
  const { document } = useJob();
  const packaged = useQuery(familiesQuery);
  const wanted = device.rcd ? "rcbo" : "breaker";
  const fits = [...(packaged.data ?? []), ...(document.families ?? [])].filter(
    (family) =>
      (family.kind === wanted || family.kind === "fuse" || family.kind === "arc-fault") &&
      (family.ratings_a ?? []).includes(device.rating_a),
  );
  return (
    <Choice
      label={t("web.circuit.device.family")}
      value={device.family ?? ""}
      options={[
        { value: "", label: t("web.circuit.device.family_standard") },
        ...fits.map((family) => ({ value: family.id, label: family.title })),
      ]}
      onCommit={(family) => set({ family: family || null })}
    />
  );
}
