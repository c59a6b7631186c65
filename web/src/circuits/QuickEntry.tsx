import { Plus } from "lucide-react";
import { type ReactNode, useState } from "react";
import { answered, type Board, client, type Job } from "../api/client";
import { isTable } from "../import/takeInModel";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { Select } from "../ui/Select";
import { completions } from "./completion";
import { DesignButton } from "./DesignButton";
import { decided } from "./gridModel";
import { LinePreview, usePreview } from "./LinePreview";

type Props = {
  boards: Board[];
  onAdded: (circuit: string) => void;
  /** A table that was pasted where one line is typed. */
  onTable: (text: string) => void;
  children: ReactNode;
};

/** Lines that were entered last, offered while one is typed. */
const RECENT = "vivid-lattice.lines";
const MAX_RECENT = 24;
const recentLines = (): string[] => JSON.parse(localStorage.getItem(RECENT) ?? "[]");
const remember = (text: string) =>
  localStorage.setItem(
    RECENT,
    JSON.stringify([text, ...recentLines().filter((line) => line !== text)].slice(0, MAX_RECENT)),
  );

/**
 * One typed line becomes a circuit, designed at once. While it is typed, chips beneath it show what it becomes; after it, what came
 * of it. A line that is not understood stays in the box, with the reason. Several lines that are pasted are entered one after the other.
 */
export function QuickEntry({ boards, onAdded, onTable, children }: Props) {
  const { document, version, rules, edit } = useJob();
  const [text, setText] = useState("");
  const [board, setBoard] = useState(boards[0]?.id ?? "");
  const [note, setNote] = useState<{ isError: boolean; text: string }>();
  const [busy, setBusy] = useState(false);
  const chosen = boards.some((known) => known.id === board) ? board : (boards[0]?.id ?? "");
  const preview = usePreview(document, version, chosen, text);

  const enter = (into: Job, line: string) =>
    answered(client.POST("/api/parse/circuit", { body: { document: into, board: chosen, text: line } }));

  const add = async () => {
    if (!text.trim() || busy) return;
    setBusy(true);
    try {
      const entered = await enter(document, text);
      if (!edit(entered.document, document)) return;
      remember(text.trim());
      // What is typed meanwhile stays.
      setText((now) => (now === text ? "" : now));
      const assumed = t("web.circuits.entry.assumed", { entered: entered.assumed.map(say).join("; ") });
      const message = entered.said.length
        ? entered.said.map(say)
        : [assumed, ...entered.decisions.map(decided)];
      setNote({ isError: false, text: message.join(" ") });
      if (entered.circuit) onAdded(entered.circuit);
    } catch (error) {
      setNote({ isError: true, text: (error as Error).message });
    } finally {
      setBusy(false);
    }
  };

  const addSeveral = async (lines: string[]) => {
    setBusy(true);
    let into = document;
    let added = "";
    let count = 0;
    try {
      for (const line of lines) {
        const entered = await enter(into, line);
        into = entered.document;
        added = entered.circuit ?? added;
        count += 1;
      }
      setNote({ isError: false, text: t("web.circuits.entry.several", { n: count }) });
    } catch (error) {
      // What was entered stays; the line that was not is put into the box.
      const line = lines[count] ?? "";
      const why = (error as Error).message;
      setText(line);
      setNote({
        isError: true,
        text: t("web.circuits.entry.stopped", { n: count, total: lines.length, line, why }),
      });
    } finally {
      if (count && edit(into, document) && added) onAdded(added);
      setBusy(false);
    }
  };

  return (
    <form
      className="no-print"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <div className="flex items-center gap-2">
        <div className="flex min-w-0 flex-1 items-center rounded-lg border border-line bg-sheet focus-within:border-accent">
          <Plus size={15} className="ml-2 shrink-0 text-soft" aria-hidden />
          <input
            id="quick-entry"
            aria-label={t("web.circuits.entry.label")}
            aria-describedby="quick-entry-note"
            className="figure min-w-0 flex-1 bg-transparent px-2 py-1.5 text-[13px] outline-none placeholder:text-soft"
            placeholder={t("web.circuits.entry.placeholder")}
            // A job without circuits begins here.
            // biome-ignore lint/a11y/noAutofocus: nothing else can be done on the page yet
            autoFocus={!document.circuits?.length}
            list="line-completions"
            autoComplete="off"
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              setNote(undefined);
            }}
            onPaste={(event) => {
              const pasted = event.clipboardData.getData("text/plain");
              const lines = pasted.split(/\r?\n/).filter((line) => line.trim());
              if (!isTable(pasted)) return;
              event.preventDefault();
              // Columns make a table; without any, each line is typed as it is.
              if (/[\t;]/.test(pasted)) onTable(pasted);
              else void addSeveral(lines);
            }}
          />
        </div>
        {boards.length > 1 && (
          <Select
            aria-label={t("web.circuits.entry.board")}
            className="py-1.5 text-[13px]"
            value={chosen}
            options={boards.map((known) => ({ value: known.id, label: known.name }))}
            onCommit={setBoard}
          />
        )}
        <Button type="submit" variant="strong" disabled={busy || !text.trim()}>
          {t("web.circuits.entry.add")}
        </Button>
        <DesignButton onSaid={(text) => setNote({ isError: false, text })} />
      </div>
      <div className="flex flex-wrap items-start justify-between gap-x-4 pt-1 md:h-[31px] md:flex-nowrap">
        {text.trim() && !note && <LinePreview preview={preview} />}
        <datalist id="line-completions">
          {completions(
            text,
            [...(document.rooms ?? []).map((room) => room.name), ...rules.line_words],
            recentLines(),
          ).map((line) => (
            <option key={line} value={line} />
          ))}
        </datalist>
        <p
          id="quick-entry-note"
          role={note?.isError ? "alert" : "status"}
          title={note?.text}
          className={cx(
            "min-w-0 text-[11.5px] leading-[13.5px]",
            note && "flex-1 basis-72",
            note?.isError ? "text-fail" : "line-clamp-2 text-soft",
          )}
        >
          {note?.text}
        </p>
        {children}
      </div>
    </form>
  );
}
