import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { useJob } from "./JobContext";

function Changes({ title, lines }: { title: string; lines: string[] }) {
  return (
    <section className="min-w-0">
      <h3 className="mb-1 text-[13px] font-semibold">{title}</h3>
      <ul className="list-disc pl-5 text-[13px]">
        {lines.length ? (
          lines.map((line) => <li key={line}>{line}</li>)
        ) : (
          <li>{t("web.conflict.no_changes")}</li>
        )}
      </ul>
    </section>
  );
}

/** Two people, or two tabs, changed the same revision: what each did, and what shall stand. Nothing is lost. */
export function ConflictDialog() {
  const { conflict, openSaved, saveMine, saveAsNew } = useJob();
  if (!conflict) return null;
  if (conflict.gone) {
    return (
      <Dialog open title={t("web.conflict.gone_title")} description={t("web.conflict.gone_text")}>
        <Button variant="strong" onClick={() => void saveAsNew()}>
          {t("web.conflict.gone_save")}
        </Button>
      </Dialog>
    );
  }
  return (
    <Dialog open title={t("web.conflict.title")} description={t("web.conflict.text", { n: conflict.head })}>
      <div className="mb-4 grid gap-4 sm:grid-cols-2">
        <Changes title={t("web.conflict.theirs")} lines={conflict.theirs} />
        <Changes title={t("web.conflict.mine")} lines={conflict.yours} />
      </div>
      <div className="flex flex-col gap-2">
        <Button variant="strong" onClick={() => void openSaved(true)}>
          {t("web.conflict.open_and_copy")}
        </Button>
        <Button onClick={() => saveMine()}>{t("web.conflict.save_mine")}</Button>
        <Button onClick={() => void openSaved(false)}>{t("web.conflict.open_discard")}</Button>
      </div>
    </Dialog>
  );
}
