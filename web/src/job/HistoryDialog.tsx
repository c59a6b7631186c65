import { useQuery } from "@tanstack/react-query";
import { historyQuery } from "../api/queries";
import { t } from "../messages/text";
import { Dialog } from "../ui/Dialog";
import { useJob } from "./JobContext";

/** What was changed and when, in words. */
export function HistoryDialog({
  open,
  onOpenChange,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const { jobId, revision } = useJob();
  const history = useQuery({ ...historyQuery(jobId, revision.number), enabled: open });
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title={t("web.history.title")}
      description={t("web.history.text")}
    >
      {history.isPending && <p className="text-soft">{t("web.history.loading")}</p>}
      {history.error && <p className="text-fail">{history.error.message}</p>}
      <ol className="flex flex-col">
        {history.data?.map((line) => (
          <li
            key={line.number}
            aria-current={line.head ? "true" : undefined}
            className="grid grid-cols-[3rem_1fr_auto] gap-3 border-t border-line py-1.5 aria-[current]:bg-wash"
          >
            <span className="figure text-right text-soft">{line.number}</span>
            <span>
              {line.text}
              {line.head && <em className="ml-2 text-accent not-italic">{t("web.history.current")}</em>}
            </span>
            <time className="text-[12px] text-soft" dateTime={line.saved_at}>
              {new Date(line.saved_at).toLocaleString()}
            </time>
          </li>
        ))}
      </ol>
    </Dialog>
  );
}
