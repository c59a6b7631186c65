import { useState } from "react";
import { Button } from "../ui/Button";
import { Choice, Field } from "../ui/Field";

const OPENS = ["breaker", "fuse", "rcbo", "arc-fault"];
const RESIDUAL = ["rcd", "rcbo", "arc-fault"];
const SURGE = ["surge"];
/** Fields of the form: name, label, example, and the kinds that have it (none named: every kind). */
const WORDS: readonly (readonly [string, string, string, (readonly string[])?])[] = [
  ["id", "Short name", "own-b"],
  ["title", "Title", "Own breaker B"],
  ["poles", "Poles", "1"],
  ["modules", "Modules", "1"],
  ["ratings_a", "Ratings [A]", "6 10 16 20"],
  ["characteristic", "Characteristic", "B", ["breaker", "rcbo", "arc-fault"]],
  ["breaking_ka", "Breaks [kA]", "6", OPENS],
  ["energy_class", "Energy class", "3", OPENS],
  ["idn_ma", "IΔn [mA]", "30", RESIDUAL],
  ["rcd_type", "RCD type", "A", RESIDUAL],
  ["lower", "Quick edge, times In : s", "1.13:3600 3:0.1 3:0.01", OPENS],
  ["upper", "Slow edge, times In : s", "1.45:3600 5:10 5:0.1", OPENS],
  ["surge_type", "Surge type", "2", SURGE],
  ["up_kv", "Protection level Up [kV]", "1.4", SURGE],
  ["uc_v", "Continuous voltage Uc [V]", "275", SURGE],
  ["discharge_ka", "Discharge current [kA]", "20", SURGE],
  ["max_backup_a", "Largest device ahead [A]", "125", SURGE],
  ["terminal_from_mm2", "Terminals from [mm²]", "1"],
  ["terminal_to_mm2", "Terminals to [mm²]", "25"],
  ["torque_nm", "Torque [Nm]", "2"],
  ["busbar_height_mm", "Comb height [mm]", "8"],
  ["loss_w", "Loss a pole at each rating [W]", "1.4 1.8 2.4 3"],
  ["price", "Price", "7"],
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
  const fields = WORDS.filter(([, , , only]) => !only || only.includes(kind));
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
          label="Kind"
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
          Add this family
        </Button>
      </form>
      <details className="mt-2">
        <summary className="cursor-pointer text-[13px] text-accent">Many at once, as CSV or JSON</summary>
        <textarea
          aria-label="Families as CSV or JSON"
          className={`${BOX} mt-1 h-28`}
          value={text}
          placeholder={"id,title,kind,characteristic,ratings_a\nown-c,Own breaker C,breaker,C,6 10 16"}
          onChange={(event) => setText(event.target.value)}
        />
        <Button disabled={!text.trim()} onClick={async () => (await onRead(text)) && setText("")}>
          Read and add
        </Button>
      </details>
    </>
  );
}
