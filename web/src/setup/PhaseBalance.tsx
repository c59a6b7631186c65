import { useState } from "react";
import { answered, client } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Card } from "./Card";

/** What each line of each board carries, and a proposal that spreads it more evenly. */
export function PhaseBalance() {
  const { document, assessment, edit, notify } = useJob();
  const [busy, setBusy] = useState(false);
  const names = new Map(document.boards?.map((board) => [board.id, board.name]));
  const boards = (assessment?.boards ?? []).filter((board) => (board.lines?.length ?? 0) > 1);
  if ((document.supply.phases ?? 1) === 1 || !boards.length) return null;
  const most = Math.max(...boards.flatMap((board) => board.lines.map((line) => line.current_a)), 1);
  const propose = async () => {
    setBusy(true);
    try {
      const { document: spread } = await answered(client.POST("/api/balance-phases", { body: { document } }));
      edit(spread);
      notify(t("web.setup.phases.balanced"));
    } catch (reason) {
      notify((reason as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Card title={t("web.setup.phases.title")}>
      {boards.map((board) => (
        <div key={board.board} className="mb-3" data-testid={`lines-${board.board}`}>
          <h3 className="mb-1 text-[12px] font-semibold text-soft">{names.get(board.board)}</h3>
          {board.lines.map((line) => (
            <div
              key={line.line}
              className="figure grid grid-cols-[2rem_1fr_4rem] items-center gap-2 text-[13px]"
            >
              <span>{line.line}</span>
              <span className="h-2.5 rounded-sm bg-ground">
                <span
                  className="block h-full rounded-sm bg-accent"
                  style={{ width: `${(100 * line.current_a) / most}%` }}
                />
              </span>
              <span className="text-right">{line.shown} A</span>
            </div>
          ))}
        </div>
      ))}
      <Button disabled={busy} onClick={() => void propose()}>
        {t("web.setup.phases.balance")}
      </Button>
    </Card>
  );
}
