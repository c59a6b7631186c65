import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import type { ExportKind } from "../api/client";
import { exportKindsQuery } from "../api/queries";
import { against, useOtherVersions } from "../compare/useOtherVersions";
import { TakeInCard } from "../import/TakeInCard";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { useMedia } from "../ui/useMedia";
import { ExportList } from "./ExportList";
import { Preview } from "./Preview";
import { useExport } from "./useExport";
import { WorkDetailsCard } from "./WorkDetailsCard";

/** What leaves the application and what comes in: each paper to look at and to save, tables, drawings, the whole job. */
export function Documents() {
  const { document, saveStatus, saveProblem } = useJob();
  const kinds = useQuery(exportKindsQuery);
  const others = useOtherVersions();
  const [board, setBoard] = useState("");
  const [chosen, setChosen] = useState<string>();
  const exporting = useExport();
  useFirstPages(exporting, kinds.data);
  const preview = useRef<HTMLDivElement>(null);
  const madeId = exporting.made?.id;
  // On a phone the pages are below the list, which may still grow when they arrive.
  const showPages = useCallback(() => {
    const { current } = preview;
    const page = current?.parentElement;
    if (madeId && current && page) page.scrollTo({ top: current.offsetTop - page.offsetTop });
  }, [madeId]);
  useEffect(showPages, [showPages]);
  const boards = document.boards ?? [];
  const other = chosen ?? others[0]?.value ?? "";
  const unsaved = saveStatus !== "saved" && saveStatus !== "saving";
  return (
    <main className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
      <div className="flex min-w-0 flex-col gap-3 px-4 py-3 max-lg:shrink-0 lg:w-[520px] lg:shrink-0 lg:overflow-auto">
        {unsaved && (
          <p role="alert" className="rounded-lg border border-line bg-sheet p-3 text-[13px] text-fail">
            {t("web.documents.unsaved", { reason: saveProblem || saveStatus })}
          </p>
        )}
        <section
          aria-label={t("web.documents.section")}
          className="rounded-xl border border-line bg-sheet p-4"
        >
          <h2 className="font-semibold">{t("web.documents.section")}</h2>
          <div className="mt-2 grid gap-3 sm:grid-cols-2">
            {boards.length > 1 && (
              <Choice
                label={t("web.documents.board")}
                value={board}
                options={[
                  { value: "", label: t("web.documents.board_all") },
                  ...boards.map(({ id, name }) => ({ value: id, label: name })),
                ]}
                onCommit={setBoard}
              />
            )}
            <Choice
              label={t("web.documents.against")}
              value={other}
              options={others.length ? others : [{ value: "", label: t("web.documents.against_none") }]}
              onCommit={setChosen}
            />
          </div>
          {kinds.error && <p className="mt-2 text-fail">{kinds.error.message}</p>}
          <ExportList
            kinds={kinds.data ?? []}
            boards={boards}
            board={board}
            against={other ? against(other) : undefined}
            surveyed={(document.survey?.boards?.length ?? 0) > 0}
            planned={(document.plan?.rooms?.length ?? 0) > 0}
            quoted={(document.quotes?.length ?? 0) > 0}
            busy={exporting.progress?.wanted.unasked ? undefined : exporting.progress?.wanted}
            made={exporting.made?.wanted}
            onLook={(wanted) => void exporting.make(wanted)}
            onSave={(wanted) => void exporting.save(wanted)}
          />
        </section>
        <WorkDetailsCard />
        <TakeInCard />
      </div>
      <div
        ref={preview}
        className="flex min-w-0 flex-1 flex-col border-l border-line bg-ground max-lg:flex-none max-lg:border-l-0 max-lg:border-t lg:min-h-0"
      >
        <Running exporting={exporting} />
        <Preview onShown={showPages} made={exporting.made} />
      </div>
    </main>
  );
}

/** The circuit chart is shown as soon as it can be, beside the list where there is space for it; unless another document is wanted first. */
function useFirstPages(exporting: ReturnType<typeof useExport>, kinds: ExportKind[] | undefined) {
  const { document, settled } = useJob();
  const wide = useMedia("(min-width: 1024px)");
  const begun = useRef(false);
  const chart = kinds?.find((kind) => kind.id === FIRST);
  const possible = wide && settled && chart && (document.circuits?.length ?? 0) > 0;
  const { make, untouched } = exporting;
  useEffect(() => {
    if (!possible || begun.current) return;
    begun.current = true;
    if (untouched()) void make({ kind: chart.id, title: say(chart.title), unasked: true });
  }, [possible, untouched, chart, make]);
}

const FIRST = "chart";

function Running({ exporting }: { exporting: ReturnType<typeof useExport> }) {
  const { progress, wrong, stop } = exporting;
  if (wrong.length)
    return (
      <ul role="alert" className="border-b border-line bg-sheet px-4 py-2 text-[13px] text-fail">
        {wrong.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    );
  if (!progress || progress.wanted.unasked) return null;
  const { done, all, what, wanted } = progress;
  return (
    <div
      role="status"
      className="flex items-center gap-3 border-b border-line bg-sheet px-4 py-2 text-[13px]"
    >
      <span className="min-w-0 flex-1 truncate">
        {t("web.documents.progress", { document: wanted.title.toLowerCase() })}{" "}
        {done > 0 &&
          (all ? t("web.documents.progress_of", { done, total: all, unit: what }) : `${done} ${what}`)}
      </span>
      <progress
        className="h-1.5 w-40 accent-accent"
        value={all ? done : undefined}
        max={all || undefined}
        aria-label={t("web.documents.progress_label")}
      />
      <Button onClick={stop}>{t("web.documents.cancel")}</Button>
    </div>
  );
}
