import { Plus } from "lucide-react";
import { type ReactNode, useState } from "react";
import { answered, type Board, client } from "../api/client";
import { isTable } from "../import/takeInModel";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { Select } from "../ui/Select";
import { DesignButton } from "./DesignButton";
import { decided } from "./gridModel";

type Props = {
  boards: Board[];
  onAdded: (circuit: string) => void;
  /** A table that was pasted where one line is typed. */
  onTable: (text: string) => void;
  children: ReactNode;
};

/** One typed line becomes a circuit, designed at once; beneath it what came of it, beside what the page adds. A line that is not understood stays in the box, with the reason. */
export function QuickEntry({ boards, onAdded, onTable, children }: Props) {
  const { document, edit, notify } = useJob();
  const [text, setText] = useState("");
  const [board, setBoard] = useState(boards[0]?.id ?? "");
  const [note, setNote] = useState<{ isError: boolean; text: string }>();
  const [busy, setBusy] = useState(false);
  const chosen = boards.some((known) => known.id === board) ? board : (boards[0]?.id ?? "");

  const add = async () => {
    if (!text.trim() || busy) return;
    setBusy(true);
    try {
      const entered = await answered(
        client.POST("/api/parse/circuit", { body: { document, board: chosen, text } }),
      );
      edit(entered.document);
      notify("");
      setText("");
      const message = [
        t("web.circuits.entry.assumed", { entered: entered.assumed.map(say).join("; ") }),
        ...entered.decisions.map(decided),
      ].join(" ");
      setNote({ isError: false, text: message });
      onAdded(entered.circuit);
    } catch (error) {
      setNote({ isError: true, text: (error as Error).message });
    } finally {
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
            value={text}
            onChange={(event) => setText(event.target.value)}
            onPaste={(event) => {
              const pasted = event.clipboardData.getData("text/plain");
              if (!isTable(pasted)) return;
              event.preventDefault();
              onTable(pasted);
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
      <div className="flex flex-wrap items-start justify-between gap-x-4 pt-1">
        <p
          id="quick-entry-note"
          role={note?.isError ? "alert" : "status"}
          title={note?.text}
          className={cx(
            "min-w-0 text-[12px]",
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
