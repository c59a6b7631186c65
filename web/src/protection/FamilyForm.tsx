import { useState } from "react";
import { Button } from "../ui/Button";
import { Choice, Field } from "../ui/Field";

const WORDS = [
  ["id", "Short name", "own-b"],
  ["title", "Title", "Own breaker B"],
  ["ratings_a", "Ratings [A]", "6 10 16 20"],
  ["modules", "Modules", "1"],
  ["breaking_ka", "Breaks [kA]", "6"],
  ["idn_ma", "IΔn [mA]", "30"],
  ["rcd_type", "RCD type", "A"],
  ["lower", "Quick edge, times In : s", "1.13:3600 3:0.1 3:0.01"],
  ["upper", "Slow edge, times In : s", "1.45:3600 5:10 5:0.1"],
  ["price", "Price", "7"],
] as const;
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
  const add = async () => {
    const held = WORDS.map(([name]) => [name, (words[name] ?? "").trim()] as const).filter(
      ([, word]) => word,
    );
    const cells = [["kind", kind] as const, ...held];
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
          options={kinds.map((one) => ({ value: one, label: one }))}
          onCommit={setKind}
        />
        {WORDS.map(([name, label, example]) => (
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
