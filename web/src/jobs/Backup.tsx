import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answered, type BackupContent, client } from "../api/client";
import { reasons } from "../api/lines";
import { saveFrom } from "../documents/saveFrom";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";

const sent = (file: File) => ({
  body: file as unknown as string,
  bodySerializer: (body: string) => body,
  headers: { "content-type": "application/octet-stream" },
});

/** All jobs at once: copied into a file, and put back from one after a look at what it holds. */
export function Backup() {
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState<{ file: File; content: BackupContent }>();
  const [messages, setMessages] = useState<string[]>([]);
  const [wrong, setWrong] = useState(false);
  const [busy, setBusy] = useState(false);

  const tell = (lines: string[], bad: boolean) => {
    setMessages(lines);
    setWrong(bad);
  };
  const look = async (file: File) => {
    tell([], false);
    try {
      const content = await answered(client.POST("/api/backup/inspect", sent(file)));
      setChosen({ file, content });
    } catch (error) {
      tell(reasons(error), true);
    }
  };
  const restore = async (file: File) => {
    setBusy(true);
    try {
      const done = await answered(client.POST("/api/backup/restore", sent(file)));
      await queries.invalidateQueries();
      tell([t("web.backup.restored", { n: done.content.jobs, file: done.kept_before })], false);
    } catch (error) {
      tell(reasons(error), true);
    }
    setBusy(false);
    setChosen(undefined);
  };

  return (
    <section aria-label={t("web.backup.section")} className="relative">
      <h2 className="mb-2 font-semibold">{t("web.backup.section")}</h2>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => saveFrom("/api/backup", "vivid-lattice-backup.sqlite3")}>
          {t("web.backup.download")}
        </Button>
        <Button onClick={() => input.current?.click()}>{t("web.backup.restore")}</Button>
      </div>
      <input
        ref={input}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label={t("web.backup.file")}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void look(file);
          event.target.value = "";
        }}
      />
      {messages.length > 0 && (
        <ul
          role={wrong ? "alert" : "status"}
          className={`mt-2 text-[13px] ${wrong ? "text-fail" : "text-soft"}`}
        >
          {messages.map((line) => (
            <li key={line} className="break-words">
              {line}
            </li>
          ))}
        </ul>
      )}
      {chosen && (
        <Dialog
          open
          onOpenChange={() => setChosen(undefined)}
          title={t("web.backup.confirm.title")}
          description={t("web.backup.confirm.text")}
        >
          <p className="mb-2">
            {t("web.backup.content", {
              jobs: chosen.content.jobs,
              revisions: chosen.content.revisions,
              photos: chosen.content.photos,
              when: new Date(chosen.content.saved_at).toLocaleString(),
            })}
          </p>
          <ul className="mb-4 list-disc pl-5 text-[13px] text-soft">
            {chosen.content.titles.map((title) => (
              <li key={title}>{title}</li>
            ))}
          </ul>
          <div className="flex justify-end gap-2">
            <Button onClick={() => setChosen(undefined)}>{t("web.backup.confirm.cancel")}</Button>
            <Button variant="strong" disabled={busy} onClick={() => void restore(chosen.file)}>
              {t("web.backup.confirm.replace")}
            </Button>
          </div>
        </Dialog>
      )}
    </section>
  );
}
