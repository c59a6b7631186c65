import { useEffect, useState } from "react";
import type { Board, Spd, SurgeRisk } from "../api/client";
import { Answer } from "../circuits";
import { useJob } from "../job/JobContext";
import { freeId, withBoard } from "../job/jobModel";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { fromYesNo, YES_NO, yesNo } from "../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";
import { SurgeProposal } from "./SurgeProposal";

/** Whether surge protection is asked for, who decided, and each device with its leads. */
export function SurgeProtection() {
  const { document, assessment, focus, edit } = useJob();
  const plan = document.surge;
  const set = (part: Partial<SurgeRisk>) => edit({ ...document, surge: { ...plan, ...part } });
  useEffect(() => {
    focus({ check: "surge", circuit: "supply" });
    return () => focus(undefined);
  }, [focus]);
  const finding = assessment?.findings.find((finding) => finding.check === "surge");
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_380px]">
      <div className="flex flex-col gap-4">
        <SurgeProposal />
        <section aria-label={t("web.surge.basis")} className="rounded-xl border border-line bg-sheet p-4">
          <h2 className="mb-2 font-semibold">{t("web.surge.basis")}</h2>
          <div className="grid gap-3 sm:grid-cols-3">
            <Choice
              label={t("web.surge.lightning")}
              value={yesNo(plan.lightning_protection)}
              options={YES_NO}
              onCommit={(value) => set({ lightning_protection: fromYesNo(value) })}
            />
            <Choice
              label={t("web.surge.overhead")}
              value={yesNo(plan.overhead_line)}
              options={YES_NO}
              onCommit={(value) => set({ overhead_line: fromYesNo(value) })}
            />
            <Choice
              label={t("web.surge.consequence")}
              value={plan.consequence ?? ""}
              options={[
                { value: "", label: t("web.surge.consequence_unknown") },
                { value: "ordinary", label: t("web.surge.consequence_ordinary") },
                { value: "money-or-data", label: t("web.surge.consequence_value") },
                { value: "safety", label: t("web.surge.consequence_safety") },
              ]}
              onCommit={(value) => set({ consequence: (value || null) as SurgeRisk["consequence"] })}
            />
            <FigureField
              label={t("web.surge.furthest")}
              unit="m"
              value={plan.furthest_m}
              onCommit={(furthest_m) => set({ furthest_m })}
            />
            <FigureField
              label={t("web.surge.withstand")}
              unit="kV"
              value={plan.withstand_kv}
              empty={t("web.surge.withstand_empty")}
              onCommit={(withstand_kv) => set({ withstand_kv })}
            />
          </div>
        </section>
        {(document.boards ?? []).map((board) => (
          <BoardDevices key={board.id} board={board} />
        ))}
        <Declining plan={plan} onChange={(declined) => set({ declined })} />
      </div>
      <section aria-label={t("web.relay.finding")} className="rounded-xl border border-line bg-sheet p-4">
        <h2 className="mb-2 font-semibold">{t("web.surge.question")}</h2>
        {finding && <Answer finding={finding} />}
      </section>
    </div>
  );
}

const TYPES = ["1", "1+2", "2", "3"].map((type) => ({ value: type, label: type }));
const FIGURES = () =>
  [
    ["up_kv", t("web.surge.up"), "kV", t("web.surge.uc_hint")],
    ["uc_v", t("web.surge.uc"), "V", t("web.surge.uc_hint")],
    ["discharge_ka", t("web.surge.discharge"), "kA", t("web.surge.uc_hint")],
    ["short_circuit_ka", t("web.surge.short_circuit"), "kA", t("web.surge.short_circuit_hint")],
    ["leads_m", t("web.surge.leads"), "m", t("web.surge.leads_hint")],
    ["live_mm2", t("web.surge.live_lead"), "mm²", ""],
    ["earth_mm2", t("web.surge.earth_lead"), "mm²", ""],
    ["backup_a", t("web.surge.backup"), "A", t("web.surge.backup_empty")],
    ["max_backup_a", t("web.surge.backup_max"), "A", ""],
    ["years", t("web.surge.years"), t("web.surge.years_unit"), ""],
  ] as const;

function BoardDevices({ board }: { board: Board }) {
  const { document, edit } = useJob();
  const devices = board.spds ?? [];
  const keep = (surge: Spd[]) => edit(withBoard(document, { ...board, spds: surge }));
  const set = (id: string, part: Partial<Spd>) =>
    keep(devices.map((device) => (device.id === id ? { ...device, ...part } : device)));
  const add = (form: Spd["form"]) =>
    keep([
      ...devices,
      {
        id: freeId("s", devices),
        name: form === "plug-on" ? t("web.surge.default_plug_on") : t("web.surge.default_wired"),
        type: "2",
        form,
        spark_gap_to_earth: false,
        status: "unchecked",
      },
    ]);
  return (
    <section
      aria-label={t("web.surge.devices", { board: board.name })}
      className="rounded-xl border border-line bg-sheet p-4"
    >
      <h2 className="mb-2 font-semibold">{board.name}</h2>
      {devices.map((device) => (
        <div key={device.id} className="mb-4 grid items-start gap-2 sm:grid-cols-5">
          <Field label={t("web.surge.name")}>
            {(id) => (
              <TextBox
                id={id}
                value={device.name}
                maxLength={120}
                onCommit={(name) => name.trim() && set(device.id, { name: name.trim() })}
              />
            )}
          </Field>
          <Choice
            label={t("web.surge.type")}
            value={device.type}
            options={TYPES}
            onCommit={(type) => set(device.id, { type: type as Spd["type"] })}
          />
          <Choice
            label={t("web.surge.form")}
            value={device.form}
            options={[
              { value: "wired", label: t("web.surge.form_wired") },
              { value: "plug-on", label: t("web.surge.form_plug_on") },
            ]}
            onCommit={(form) => set(device.id, { form: form as Spd["form"] })}
          />
          <Choice
            label={t("web.surge.window")}
            value={device.status}
            options={[
              { value: "unchecked", label: t("web.surge.window_unseen") },
              { value: "green", label: "green" },
              { value: "red", label: t("web.surge.window_red") },
            ]}
            onCommit={(status) => set(device.id, { status: status as Spd["status"] })}
          />
          <Choice
            label={t("web.surge.neutral_earth")}
            value={device.spark_gap_to_earth ? "gap" : "direct"}
            options={[
              { value: "direct", label: t("web.surge.varistor") },
              { value: "gap", label: t("web.surge.spark_gap") },
            ]}
            onCommit={(form) => set(device.id, { spark_gap_to_earth: form === "gap" })}
          />
          {FIGURES().map(([name, label, unit, hint]) => (
            <FigureField
              key={name}
              label={label}
              unit={unit}
              hint={hint}
              empty={
                name === "leads_m" && board.build.device_positions.length
                  ? t("web.surge.leads_drawn")
                  : undefined
              }
              value={device[name]}
              onCommit={(value) =>
                set(device.id, { [name]: name === "years" && value ? Math.round(value) : value })
              }
            />
          ))}
          <Button
            variant="quiet"
            className="self-end justify-self-start"
            onClick={() => keep(devices.filter((other) => other.id !== device.id))}
          >
            {t("web.surge.remove")}
          </Button>
        </div>
      ))}
      <div className="flex gap-2">
        <Button onClick={() => add("wired")}>{t("web.surge.add_wired")}</Button>
        <Button onClick={() => add("plug-on")}>{t("web.surge.add_plug_on")}</Button>
      </div>
      {devices.length > 0 && <FormsCompared />}
    </section>
  );
}

/** What speaks for either form; common practice. */
function FormsCompared() {
  return (
    <details className="mt-3 text-[12.5px]">
      <summary className="cursor-pointer text-accent">{t("web.surge.compare")}</summary>
      <div className="mt-1 grid gap-3 text-soft sm:grid-cols-2">
        <p>
          <b className="text-ink">{t("web.surge.plug_on")}</b> {t("web.surge.plug_on_text")}
        </p>
        <p>
          <b className="text-ink">{t("web.surge.wired")}</b> {t("web.surge.wired_text")}
        </p>
      </div>
    </details>
  );
}

/** The owner's decision to do without: who, when, why. It is kept with the job. */
function Declining({
  plan,
  onChange,
}: {
  plan: SurgeRisk;
  onChange: (declined: SurgeRisk["declined"]) => void;
}) {
  const declined = plan.declined;
  const [by, setBy] = useState(declined?.name ?? "");
  const [on, setOn] = useState(declined?.date ?? "");
  const [why, setWhy] = useState(declined?.reason ?? "");
  const box = "w-full rounded-md border border-line bg-sheet px-2 py-1";
  return (
    <section
      aria-label={t("web.surge.declined_section")}
      className="rounded-xl border border-line bg-sheet p-4"
    >
      <h2 className="mb-2 font-semibold">{t("web.surge.declined_section")}</h2>
      {declined ? (
        <div className="flex items-start justify-between gap-3 text-[13px]">
          <p data-testid="declined">
            {declined.in_writing === true
              ? t("web.surge.declined_writing")
              : declined.in_writing === false
                ? t("web.surge.declined_spoken")
                : t("web.surge.declined_unknown")}{" "}
            {declined.name}, {declined.date}: {declined.reason}
          </p>
          <Choice
            label={t("web.surge.declined_signed")}
            value={yesNo(declined.in_writing)}
            options={YES_NO}
            onCommit={(value) => onChange({ ...declined, in_writing: fromYesNo(value) })}
          />
          <Button onClick={() => onChange(null)}>{t("web.surge.declined_undo")}</Button>
        </div>
      ) : (
        <form
          className="grid items-end gap-3 sm:grid-cols-[1fr_10rem_2fr_auto]"
          onSubmit={(event) => {
            event.preventDefault();
            onChange({ name: by.trim(), date: on, reason: why.trim(), in_writing: null });
          }}
        >
          <Field label={t("web.surge.declined_by")}>
            {(id) => (
              <input
                id={id}
                required
                maxLength={120}
                className={box}
                value={by}
                onChange={(e) => setBy(e.target.value)}
              />
            )}
          </Field>
          <Field label={t("web.surge.declined_on")}>
            {(id) => (
              <input
                id={id}
                required
                type="date"
                className={box}
                value={on}
                onChange={(e) => setOn(e.target.value)}
              />
            )}
          </Field>
          <Field label={t("web.surge.declined_why")}>
            {(id) => (
              <input
                id={id}
                required
                maxLength={1000}
                className={box}
                value={why}
                onChange={(e) => setWhy(e.target.value)}
              />
            )}
          </Field>
          <Button type="submit">{t("web.surge.declined_save")}</Button>
        </form>
      )}
    </section>
  );
}
