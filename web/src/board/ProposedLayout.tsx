import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answered, type Board, client, type Job } from "../api/client";
import { boardQuery, computed } from "../api/queries";
import { FirstCircuit } from "../circuits";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { BoardDrawing } from "./BoardDrawing";

/** A board that has no layout yet, laid out in the smallest enclosure that fits: shown at once, used at a press. */
export function ProposedLayout({ board, onUse }: { board: Board; onUse: (document: Job) => void }) {
  const { document, version } = useJob();
  const empty = !(board.ways ?? []).length;
  const proposal = useQuery({
    queryKey: ["proposal", version, board.id],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/boards/propose", { body: { document, board: board.id }, signal })),
    enabled: !empty,
    retry: false,
    ...computed,
  });
  if (empty) return <FirstCircuit board={board} />;
  if (proposal.error) return <Told>{proposal.error.message}</Told>;
  if (!proposal.data) return <Told>{t("web.board.proposal.searching")}</Told>;
  return <Drawn board={board} proposal={proposal.data} onUse={onUse} />;
}

type Proposal = { document: Job; enclosure: string; free_modules: number };

function Drawn({
  board,
  proposal,
  onUse,
}: {
  board: Board;
  proposal: Proposal;
  onUse: (document: Job) => void;
}) {
  const { version } = useJob();
  const use = useRef<HTMLButtonElement>(null);
  const { data } = useQuery({
    ...boardQuery(proposal.document, version, board.id, [], true),
    queryKey: ["proposal-view", version, board.id],
  });
  // The one thing to do here: Enter takes it.
  const shown = Boolean(data);
  useEffect(() => {
    if (shown && window.document.activeElement === window.document.body) use.current?.focus();
  }, [shown]);
  if (!data) return <Told>{t("web.board.proposal.searching")}</Told>;
  return (
    <div className="rounded-xl border border-dashed border-soft p-2" data-testid="proposal">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <p className="text-[13px]">
          {t("web.board.proposal.text", {
            enclosure: proposal.enclosure,
            n: data.view.modules_needed,
            free: proposal.free_modules,
          })}
        </p>
        <Button ref={use} variant="strong" onClick={() => onUse(proposal.document)}>
          {t("web.board.proposal.use")}
        </Button>
      </div>
      <div className="max-h-[66vh] overflow-auto">
        <BoardDrawing
          view={data.view}
          zoom={1}
          cover={false}
          live={false}
          open={new Set()}
          chosen={undefined}
          litWire={undefined}
          onChoose={() => undefined}
        />
      </div>
    </div>
  );
}

function Told({ children }: { children: string }) {
  return (
    <p className="rounded-xl border border-dashed border-missing bg-sheet p-6 text-[13.5px]">{children}</p>
  );
}
