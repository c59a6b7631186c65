import { Trash2 } from "lucide-react";
import type { Circuit } from "../../api/client";
import { blankRcd } from "../../job/blank";
import { useJob } from "../../job/JobContext";
import { capital, type Key, t } from "../../messages/text";
import { Button } from "../../ui/Button";
import { fromYesNo, YES_NO, yesNo } from "../../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";
import { type Change, Part } from "./Part";
import { RcdReach } from "./RcdReach";

type Device = NonNullable<Circuit["local_devices"]>[number];

const KINDS: Record<Device["kind"], Key> = {
  rcd: "web.circuit.local.kind_rcd",
  "rcd-outlet": "web.circuit.local.kind_rcd_outlet",
  "rcd-fused-unit": "web.circuit.local.kind_rcd_fused_unit",
  "rcd-isolator": "web.circuit.local.kind_rcd_isolator",
  "fused-unit": "web.circuit.local.kind_fused_unit",
  "switch-fuse": "web.circuit.local.kind_switch_fuse",
  isolator: "web.circuit.local.kind_isolator",
  "cooker-unit": "web.circuit.local.kind_cooker_unit",
  "interlocked-outlet": "web.circuit.local.kind_interlocked",
};
const named = (kind: Device["kind"] = "isolator") => capital(t(KINDS[kind]));

/** Devices of a circuit that are not in its board: along the cable, at an outlet, beside the equipment. */
export function LocalDevicesPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const devices = circuit.local_devices ?? [];
  const traits = (kind: Device["kind"]) => rules.local_device_kinds.find((known) => known.id === kind);
  if (circuit.kind === "distribution") return null;
  const keep = (local_devices: Device[]) => change({ local_devices });
  const set = (at: number, part: Partial<Device>) =>
    keep(devices.map((device, index) => (index === at ? { ...device, ...part } : device)));
  const choose = (at: number, kind: Device["kind"]) =>
    set(at, {
      kind,
      // A name of one's own stays; that of the kind follows the kind.
      ...(devices[at]?.name === named(devices[at]?.kind) && { name: named(kind) }),
      rcd: traits(kind)?.has_rcd ? (devices[at]?.rcd ?? blankRcd(30)) : null,
      fuse_a: traits(kind)?.has_fuse ? (devices[at]?.fuse_a ?? null) : null,
    });
  return (
    <Part title={t("web.circuit.local.title")}>
      {devices.map((device, at) => (
        <div key={at} className="mb-2 grid items-start gap-2 sm:grid-cols-4">
          <Field label={t("web.circuit.local.name")}>
            {(id) => (
              <TextBox
                id={id}
                value={device.name}
                maxLength={120}
                onCommit={(name) => name.trim() && set(at, { name: name.trim() })}
              />
            )}
          </Field>
          <Choice
            label={t("web.circuit.local.kind")}
            value={device.kind}
            options={rules.local_device_kinds.map(({ id }) => ({ value: id, label: t(KINDS[id]) }))}
            onCommit={(kind) => choose(at, kind as Device["kind"])}
          />
          <FigureField
            label={t("web.circuit.local.at")}
            unit="m"
            value={device.at_m}
            empty={t("web.circuit.local.at_end")}
            onCommit={(at_m) => set(at, { at_m })}
          />
          <FigureField
            label={t("web.circuit.local.rating")}
            unit="A"
            value={device.rating_a}
            onCommit={(rating_a) => set(at, { rating_a })}
          />
          {traits(device.kind)?.has_fuse && (
            <FigureField
              label={t("web.circuit.local.fuse")}
              unit="A"
              value={device.fuse_a}
              onCommit={(fuse_a) => set(at, { fuse_a })}
            />
          )}
          {device.rcd && (
            <>
              <FigureField
                label="IΔn"
                unit="mA"
                required
                value={device.rcd.idn_ma}
                onCommit={(idn_ma) => idn_ma && device.rcd && set(at, { rcd: { ...device.rcd, idn_ma } })}
              />
              <Choice
                label={t("web.circuit.device.rcd_type")}
                value={device.rcd.type ?? "A"}
                options={["AC", "A", "F", "B"].map((type) => ({ value: type, label: type }))}
                onCommit={(type) => set(at, { rcd: { ...device.rcd, type } as Device["rcd"] })}
              />
            </>
          )}
          {device.kind.endsWith("isolator") && (
            <Choice
              label={t("web.circuit.local.lockable")}
              value={yesNo(device.lockable)}
              options={YES_NO}
              onCommit={(value) => set(at, { lockable: fromYesNo(value) })}
            />
          )}
          {(circuit.loads?.length ?? 0) > 1 && (
            <Choice
              label={t("web.circuit.local.serves")}
              value={device.serves?.[0] ?? ""}
              options={[
                { value: "", label: t("web.circuit.local.serves_all") },
                ...(circuit.loads ?? []).map((load) => ({ value: load.name, label: load.name })),
              ]}
              onCommit={(name) => set(at, { serves: name ? [name] : [] })}
            />
          )}
          <Button
            variant="quiet"
            className="mt-5 justify-self-start"
            aria-label={t("web.circuit.local.remove", { name: device.name })}
            onClick={() => keep(devices.filter((_, index) => index !== at))}
          >
            <Trash2 size={14} aria-hidden />
          </Button>
        </div>
      ))}
      <Button onClick={() => keep([...devices, { name: named("isolator"), kind: "isolator", serves: [] }])}>
        {t("web.circuit.local.add")}
      </Button>
      {devices.some((device) => device.rcd) && <RcdReach circuit={circuit.id} />}
    </Part>
  );
}
