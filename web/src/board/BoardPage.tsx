import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Board, Job } from "../api/client";
import { boardQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Segments } from "../ui/Segments";
import { TabList, TabPanel, TabView } from "../ui/Tabs";
import { AddCircuit } from "./AddCircuit";
import { BoardDrawing, FIT } from "./BoardDrawing";
import { BuildFindings } from "./BuildFindings";
import { BuildForm } from "./BuildForm";
import { LabelsPanel } from "./LabelsPanel";
import { LiveParts } from "./LiveParts";
import { ProposedLayout } from "./ProposedLayout";
import { SelectedDevice } from "./SelectedDevice";
import { SwapDevice } from "./SwapDevice";
import { useMoving } from "./useMoving";
import { WireCaption } from "./WireCaption";
import { WiringList } from "./WiringList";

const PARTS = [
  {
    id: "layout",
    get title() {
      return t("web.board.tab.layout");
    },
  },
  {
    id: "wiring",
    get title() {
      return t("web.board.tab.wiring");
    },
  },
  {
    id: "live",
    get title() {
      return t("web.board.tab.live");
    },
  },
  {
    id: "labels",
    get title() {
      return t("web.board.tab.labels");
    },
  },
  {
    id: "more",
    get title() {
      return t("web.board.tab.add_circuit");
    },
  },
  {
    id: "swap",
    get title() {
      return t("web.board.tab.swap");
    },
  },
] as const;
type Part = (typeof PARTS)[number]["id"];

/** The board as it will stand: laid out, wired, followed from the supply, named. */
export function BoardPage() {
  const { document, rules } = useJob();
  const [search, setSearch] = useSearchParams();
  const boards = document.boards ?? [];
  const board = boards.find((board) => board.id === search.get("board")) ?? boards[0];
  const part = PARTS.find((known) => known.id === search.get("part"))?.id ?? "layout";
  const go = (next: { board?: string; part?: Part }) =>
    setSearch({ board: next.board ?? board?.id ?? "", part: next.part ?? part }, { replace: true });
  if (!board) return <main className="p-6 text-soft">{t("web.board.empty")}</main>;
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-auto px-4 py-2">
      <h1 className="hidden text-[15px] font-semibold print:block">
        {document.job.title}: {board.name}
      </h1>
      <TabView value={part} onChange={(id) => go({ part: id })}>
        <div className="no-print mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <Segments
            label={t("web.board.boards")}
            options={boards.map((board) => ({ id: board.id, title: board.name }))}
            value={board.id}
            onChange={(id) => go({ board: id })}
          />
          <span aria-hidden className="h-5 border-l border-line" />
          <TabList label={t("web.board.tabs")} tabs={PARTS} />
        </div>
        <TabPanel id={part}>
          <OneBoard key={board.id} board={board} part={part} />
        </TabPanel>
      </TabView>
      <p className="mt-3 text-[11.5px] text-soft">{rules.cautions.slice(0, 2).join(" ")}</p>
    </main>
  );
}

function OneBoard({ board, part }: { board: Board; part: Part }) {
  const { document, version, edit, notify } = useJob();
  const [open, setOpen] = useState<string[]>([]);
  const [chosen, setChosen] = useState<string>();
  const [wire, setWire] = useState<string>();
  const [cover, setCover] = useState(false);
  const [zoom, setZoom] = useState(1);
  const live = part === "live";
  const openNow = live ? open : [];
  const asked = useQuery(boardQuery(document, version, board.id, openNow, true));
  const { dragged, move } = useMoving(document, board.id, edit, notify);
  const view = dragged?.view ?? asked.data?.view;
  const findings = dragged?.findings ?? asked.data?.findings ?? [];
  if (asked.error) return <p className="text-fail">{asked.error.message}</p>;
  if (!view) return <p className="text-soft">{t("web.board.drawing")}</p>;
  const prefix = `${board.id}|`;
  const openUnits = new Set(
    openNow.filter((key) => key.startsWith(prefix)).map((key) => key.slice(prefix.length)),
  );
  const toggle = (unit: string) => {
    const name = prefix + unit;
    setOpen((was) => (was.includes(name) ? was.filter((other) => other !== name) : [...was, name]));
  };
  const take = (next: Job) => edit(next);
  const drawn = view.width_mm > 0;
  return (
    <div className="grid shrink-0 grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_380px] print:block">
      <section
        className="flex min-h-0 min-w-0 flex-col gap-2 self-start lg:sticky lg:top-0 print:static"
        aria-label={board.name}
      >
        {drawn ? (
          <>
            <div className="min-h-0 overflow-auto max-h-[72vh]">
              <BoardDrawing
                view={view}
                zoom={zoom}
                cover={cover}
                live={live}
                open={openUnits}
                chosen={chosen}
                litWire={wire}
                onLightWire={dragged ? undefined : setWire}
                board={board}
                onChoose={setChosen}
                onToggle={live ? toggle : undefined}
                onMove={part === "layout" ? move : undefined}
              />
            </div>
            <WireCaption conductor={view.conductors.find((conductor) => conductor.id === wire)} />
            <div className="no-print flex flex-wrap items-center gap-x-4 text-[12.5px] text-soft">
              <Check className="flex items-center gap-2" checked={cover} onChange={setCover}>
                {t("web.board.cover_on")}
              </Check>
              <span className="flex gap-1">
                <Button
                  variant="quiet"
                  aria-label={t("web.board.zoom_out")}
                  disabled={zoom === FIT}
                  onClick={() => setZoom(zoom <= 1 ? FIT : zoom / 1.4)}
                >
                  −
                </Button>
                <Button
                  variant="quiet"
                  aria-label={t("web.board.zoom_in")}
                  disabled={zoom > 2.7}
                  onClick={() => setZoom(zoom === FIT ? 1 : zoom * 1.4)}
                >
                  +
                </Button>
              </span>
              <span className="figure">
                {view.form === "panelboard"
                  ? t("web.board.spaces_used", { n: view.modules_needed, total: view.modules_available })
                  : t("web.board.modules_used", { n: view.modules_needed, total: view.modules_available })}
              </span>
              {view.heat && (
                <span className="figure">
                  {t("web.board.heat", { w: view.heat.total_w.toFixed(1), c: Math.ceil(view.heat.inside_c) })}
                </span>
              )}
              {part === "layout" && <span>{t("web.board.hint_layout")}</span>}
              {live && <span>{t("web.board.hint_live")}</span>}
            </div>
          </>
        ) : (
          <ProposedLayout board={board} onUse={take} />
        )}
        {drawn && <SelectedDevice board={board} view={view} chosen={chosen} />}
        {view.not_placed.length > 0 && drawn && (
          <p className="text-[13px] text-missing" data-testid="loose">
            ?{" "}
            {t("web.board.not_placed", {
              list: view.not_placed.map((device) => say(device.name)).join(", "),
            })}
          </p>
        )}
        {view.not_chosen.length > 0 && (
          <p className="text-[13px] text-missing">
            ? {t("web.board.not_chosen", { list: view.not_chosen.join(", ") })}
          </p>
        )}
      </section>
      <aside className="flex min-w-0 flex-col gap-3 print:mt-3">
        {part === "layout" && (
          <>
            <BuildForm board={board} view={view} onTake={take} />
            <BuildFindings board={board} findings={findings} moving={Boolean(dragged)} />
          </>
        )}
        {part === "wiring" && <WiringList board={board} view={view} lit={wire} onLight={setWire} />}
        {part === "live" && (
          <LiveParts board={board} view={view} chosen={chosen} open={openUnits} onOpen={setOpen} />
        )}
        {part === "labels" && <LabelsPanel board={board} view={view} />}
        {part === "more" && <AddCircuit board={board} />}
        {part === "swap" && <SwapDevice view={view} chosen={chosen} />}
      </aside>
    </div>
  );
}
