import type { Board } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { fromYesNo, YES_NO, yesNo } from "../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";

type Standby = NonNullable<Board["standby"]>;

/** What supplies a board while the supply is off: a generator, or an inverter with a battery. */
export function StandbyFields({
  board,
  onChange,
}: {
  board: Board;
  onChange: (standby: Standby | null) => void;
}) {
  const { document } = useJob();
  const standby = board.standby;
  if (!standby)
    return (
      <Button onClick={() => onChange({ name: t("web.setup.standby.default_name"), kind: "inverter" })}>
        {t("web.setup.standby.add")}
      </Button>
    );
  const set = (part: Partial<Standby>) => onChange({ ...standby, ...part });
  const circuits = (document.circuits ?? []).filter((circuit) => circuit.source);
  return (
    <fieldset className="rounded-lg border border-line p-3">
      <legend className="px-1 text-[12px] font-semibold text-soft">{t("web.setup.standby.title")}</legend>
      <div className="grid items-start gap-3 sm:grid-cols-4">
        <Field label={t("web.setup.standby.name")}>
          {(id) => (
            <TextBox
              id={id}
              value={standby.name}
              maxLength={120}
              onCommit={(name) => name.trim() && set({ name: name.trim() })}
            />
          )}
        </Field>
        <Choice
          label={t("web.setup.standby.kind")}
          value={standby.kind}
          options={[
            { value: "inverter", label: t("web.setup.standby.inverter") },
            { value: "generator", label: t("web.setup.standby.generator") },
          ]}
          onCommit={(kind) => set({ kind: kind as Standby["kind"] })}
        />
        <FigureField
          label={t("web.circuit.source.rated")}
          unit="A"
          value={standby.rated_a}
          onCommit={(rated_a) => set({ rated_a })}
        />
        <FigureField
          label={t("web.setup.standby.multiple")}
          unit="× In"
          value={standby.fault_multiple}
          hint={t("web.setup.standby.multiple_hint")}
          onCommit={(fault_multiple) => set({ fault_multiple })}
        />
        <Choice
          label={t("web.setup.standby.changeover")}
          value={standby.changeover ?? ""}
          options={[
            { value: "", label: t("web.common.not_known") },
            { value: "automatic", label: t("web.setup.standby.automatic") },
            { value: "manual", label: t("web.setup.standby.manual") },
            { value: "interlocked-inlet", label: t("web.setup.standby.inlet") },
            { value: "none", label: t("web.setup.standby.no_changeover") },
          ]}
          onCommit={(changeover) => set({ changeover: (changeover || null) as Standby["changeover"] })}
        />
        <Choice
          label={t("web.setup.standby.poles")}
          value={standby.switched_poles ?? ""}
          options={[
            { value: "", label: t("web.common.not_known") },
            { value: "all", label: t("web.setup.standby.poles_all") },
            { value: "lines", label: t("web.setup.standby.poles_lines") },
          ]}
          onCommit={(poles) => set({ switched_poles: (poles || null) as Standby["switched_poles"] })}
        />
        <Choice
          label={t("web.setup.standby.link")}
          value={standby.neutral_earth_link ?? ""}
          options={[
            { value: "", label: t("web.common.not_known") },
            { value: "relay", label: t("web.setup.standby.link_relay") },
            { value: "fixed", label: t("web.setup.standby.link_fixed") },
            { value: "none", label: t("web.setup.standby.link_none") },
          ]}
          onCommit={(link) => set({ neutral_earth_link: (link || null) as Standby["neutral_earth_link"] })}
        />
        <FigureField
          label={t("web.setup.standby.electrode")}
          unit="Ω"
          value={standby.electrode_ohm}
          onCommit={(electrode_ohm) => set({ electrode_ohm })}
        />
        <FigureField
          label={t("web.setup.standby.shutdown")}
          unit="s"
          value={standby.shutdown_s}
          hint={t("web.setup.standby.shutdown_hint")}
          onCommit={(shutdown_s) => set({ shutdown_s })}
        />
        <Choice
          label={t("web.setup.standby.labelled")}
          value={yesNo(standby.labelled)}
          options={YES_NO}
          onCommit={(value) => set({ labelled: fromYesNo(value) })}
        />
        {circuits.length > 0 && (
          <Choice
            label={t("web.setup.standby.circuit")}
            value={standby.circuit ?? ""}
            options={[
              { value: "", label: t("web.setup.standby.no_circuit") },
              ...circuits.map((circuit) => ({ value: circuit.id, label: circuit.name })),
            ]}
            onCommit={(circuit) => set({ circuit: circuit || null })}
          />
        )}
        <Button variant="quiet" className="mt-5 self-start" onClick={() => onChange(null)}>
          {t("web.setup.standby.remove")}
        </Button>
      </div>
    </fieldset>
  );
}
