import { answered, client } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { EntryLine } from "../ui/EntryLine";
import type { useEnterLines } from "./useEnterLines";

/** The line that rooms and points are typed in; lists are pasted. */
export function PlanEntry({ entering }: { entering: ReturnType<typeof useEnterLines> }) {
  const { document, edit } = useJob();
  const enter = async (text: string) => {
    const answer = await answered(client.POST("/api/plan/enter", { body: { document, text } }));
    return edit(answer.document, document);
  };
  const { progress } = entering;
  return (
    <div className="mb-2">
      <EntryLine
        id="plan-entry"
        label={t("web.routes.entry")}
        placeholder={t("web.routes.entry_placeholder")}
        onEnter={enter}
        onLines={(lines) => void entering.enter(lines)}
      />
      {progress && (
        <p className="mt-1 flex items-center gap-3 text-[12.5px]" role="status">
          <progress className="h-2 w-48 accent-accent" max={progress.of} value={progress.done} />
          {t("web.routes.progress", { done: String(progress.done), of: String(progress.of) })}
          <Button onClick={entering.cancel}>{t("web.routes.cancel")}</Button>
        </p>
      )}
    </div>
  );
}
