import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { ExistingBoard } from "../api/client";
import { surveyQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { freeId } from "../job/jobModel";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { TabList, TabPanel, TabView } from "../ui/Tabs";
import { BeforeAfterTable } from "./BeforeAfterTable";
import { ExistingWays } from "./ExistingWays";
import { Observations } from "./Observations";
import { RatingTransfers } from "./RatingTransfers";

const PARTS = [
  {
    id: "found",
    get title() {
      return t("web.survey.tab.ways");
    },
  },
  {
    id: "wrong",
    get title() {
      return t("web.survey.tab.observations");
    },
  },
  {
    id: "new",
    get title() {
      return t("web.survey.tab.ratings");
    },
  },
  {
    id: "compare",
    get title() {
      return t("web.survey.tab.compare");
    },
  },
] as const;
type Part = (typeof PARTS)[number]["id"];

/** The old board: written down way by way, judged, and taken over into the new one. */
export function SurveyPage() {
  const { document, version, rules, edit } = useJob();
  const [search, setSearch] = useSearchParams();
  const [part, setPart] = useState<Part>("found");
  const boards = document.survey?.boards ?? [];
  const board = boards.find((board) => board.id === search.get("board")) ?? boards[0];
  const read = useQuery(surveyQuery(document, version, board?.id ?? "", Boolean(board)));
  const put = (changed: ExistingBoard) =>
    edit({
      ...document,
      survey: { boards: boards.map((board) => (board.id === changed.id ? changed : board)) },
    });
  const add = () => {
    const id = freeId("old", boards);
    const blank: ExistingBoard = {
      id,
      name: t("web.survey.default_name", { n: boards.length + 1 }),
      main_device: "unknown",
      material: "unknown",
      ways: [],
      observations: [],
    };
    edit({ ...document, survey: { boards: [...boards, blank] } });
    setSearch({ board: id }, { replace: true });
  };
  if (!board)
    return (
      <main className="mx-auto max-w-xl p-8">
        <h1 className="mb-2 text-lg font-semibold">{t("web.survey.title")}</h1>
        <p className="mb-3 text-soft">{t("web.survey.text")}</p>
        <Button variant="strong" onClick={add}>
          {t("web.survey.add_first")}
        </Button>
      </main>
    );
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-auto px-4 py-2">
      <TabView value={part} onChange={setPart}>
        <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <Segments
            label={t("web.survey.boards")}
            options={boards.map((board) => ({ id: board.id, title: board.name }))}
            value={board.id}
            onChange={(id) => setSearch({ board: id }, { replace: true })}
          />
          <Button variant="quiet" onClick={add}>
            {t("web.survey.add")}
          </Button>
          <span aria-hidden className="h-5 border-l border-line" />
          <TabList label={t("web.survey.tabs")} tabs={PARTS} />
        </div>
        <TabPanel id={part}>
          {part === "found" && <ExistingWays board={board} words={read.data?.ways ?? []} onChange={put} />}
          {part === "wrong" && (
            <Observations board={board} things={read.data?.observations ?? []} onChange={put} />
          )}
          {part === "new" && (
            <RatingTransfers board={board} mapped={read.data?.rating_transfers ?? []} onChange={put} />
          )}
          {part === "compare" && <BeforeAfterTable board={board} />}
        </TabPanel>
      </TabView>
      <p className="mt-3 text-[11.5px] text-soft">{rules.cautions.slice(0, 2).join(" ")}</p>
      {read.error && <p className="text-fail">{read.error.message}</p>}
    </main>
  );
}
