import { useState } from "react";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, Field } from "../ui/Field";

const OPENS = ["breaker", "fuse", "rcbo", "arc-fault"];
const RESIDUAL = ["rcd", "rcbo", "arc-fault"];
const SURGE = ["surge"];
/** Fields of the form: name, label, example, and the kinds that have it (none named: every kind). */
const WORDS = (): readonly (readonly [string, string, string, (readonly string[])?])[] => [
  ["id", t("web.library.form.id"), "own-b"],
  ["title", t("web.library.form.title"), t("web.library.form.title_example")],
  ["poles", t("web.library.form.poles"), "1"],
  ["modules", t("web.library.form.modules"), "1"],
  ["ratings_a", t("web.library.form.ratings"), "6 10 16 20"],
  ["characteristic", t("web.library.form.curve"), "B", ["breaker", "rcbo", "arc-fault"]],
  ["breaking_ka", t("web.library.form.breaking"), "6", OPENS],
  ["energy_class", t("web.library.form.class"), "3", OPENS],
  ["idn_ma", t("web.library.form.idn"), "30", RESIDUAL],
  ["rcd_type", t("web.library.form.rcd_type"), "A", RESIDUAL],
  ["lower", t("web.library.form.lower"), "1.13:3600 3:0.1 3:0.01", OPENS],
  ["upper", t("web.library.form.upper"), "1.45:3600 5:10 5:0.1", OPENS],
  ["surge_type", t("web.library.form.surge_type"), "2", SURGE],
  ["up_kv", t("web.library.form.up"), "1.4", SURGE],
  ["uc_v", t("web.library.form.uc"), "275", SURGE],
  ["discharge_ka", t("web.library.form.discharge"), "20", SURGE],
  ["max_backup_a", t("web.library.form.backup"), "125", SURGE],
  ["terminal_from_mm2", t("web.library.form.terminal_from"), "1"],
  ["terminal_to_mm2", t("web.library.form.terminal_to"), "25"],
  ["torque_nm", t("web.library.form.torque"), "2"],
  ["busbar_height_mm", t("web.library.form.busbar"), "8"],
  ["loss_w", t("web.library.form.loss"), "1.4 1.8 2.4 3"],
  ["price", t("web.library.form.price"), "7"],
];
const BOX =
  "figure w-full rounded-md border border-line bg-sheet px-2 py-1 text-[13px] placeholder:text-soft/60";

/** A family by form, or many pasted or read as CSV or JSON. Both go through the same reading and are refused alike. */
export function FamilyForm({
  kinds,
  onRead,
}: {
  kinds: readonly string[];
  onRead: (text: string) => Promise<boolean>;
}) {
  const [kind, setKind] = useState("breaker");
  const [words, setWords] = useState<Record<string, string>>({});
  const [text, setText] = useState("");
  const fields = WORDS().filter(([, , , only]) => !only || only.includes(kind));
  const add = async () => {
    const filled = fields
      .map(([name]) => [name, (words[name] ?? "").trim()] as const)
      .filter(([, word]) => word);
    const cells = [["kind", kind] as const, ...filled];
    const row = (parts: string[]) => parts.map((part) => `"${part.replaceAll('"', '""')}"`).join(",");
    const csv = `${cells.map(([name]) => name).join(",")}\n${row(cells.map(([, word]) => word))}\n`;
    if (await onRead(csv)) setWords({});
  };
  return (
    <>
      <form
        className="grid items-end gap-2 sm:grid-cols-4 lg:grid-cols-6"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <Choice
          label={t("web.library.form.kind")}
          value={kind}
          options={kinds.map((kind) => ({ value: kind, label: kind }))}
          onCommit={setKind}
        />
        {fields.map(([name, label, example]) => (
          <Field key={name} label={label}>
            {(id) => (
              <input
                id={id}
                className={BOX}
                placeholder={example}
                value={words[name] ?? ""}
                onChange={(event) => setWords({ ...words, [name]: event.target.value })}
              />
            )}
          </Field>
        ))}
        <Button type="submit" className="justify-self-start">
          {t("web.library.form.add")}
        </Button>
      </form>
      <details className="mt-2">
        <summary className="cursor-pointer text-[13px] text-accent">{t("web.library.form.bulk")}</summary>
        <textarea
          aria-label={t("web.library.form.bulk_label")}
          className={`${BOX} mt-1 h-28`}
          value={text}
          placeholder={t("web.library.form.bulk_placeholder")}
          onChange={(event) => setText(event.target.value)}
        />
        <Button disabled={!text.trim()} onClick={async () => (await onRead(text)) && setText("")}>
          {t("web.library.form.bulk_add")}
        </Button>
      </details>
    </>
  );
}
