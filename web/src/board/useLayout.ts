import { useRef, useState } from "react";
import type { Job, LayoutLine } from "../api/client";
import { postForLines } from "../api/lines";
import { t } from "../messages/text";

type Progress = { cost: number; bound: number };

/** Lays a board out on the server: tells of each better layout as it is found, and can be stopped. */
export function useLayout(onDone: (document: Job) => void) {
  const [progress, setProgress] = useState<Progress>();
  const [running, setRunning] = useState(false);
  const [message, setMessage] = useState("");
  const abort = useRef<AbortController>(null);

  const run = async (document: Job, board: string) => {
    const control = new AbortController();
    abort.current = control;
    setRunning(true);
    setProgress(undefined);
    setMessage("");
    try {
      const done = await postForLines<LayoutLine>(
        "/api/boards/lay-out",
        { document, board },
        control.signal,
        ({ cost, bound }) => setProgress({ cost, bound }),
      );
      if (done?.document) {
        onDone(done.document);
        setMessage(
          done.proven
            ? t("web.board.build.done_proven", { s: done.seconds.toFixed(2) })
            : t("web.board.build.done_gap", { s: done.seconds.toFixed(1), percent: gap(done) }),
        );
      }
    } catch (reason) {
      if (!control.signal.aborted) setMessage(reason instanceof Error ? reason.message : String(reason));
      else setMessage(t("web.board.build.cancelled"));
    }
    setRunning(false);
  };
  const stop = () => abort.current?.abort();
  return { progress, running, message, run, stop };
}

function gap(line: LayoutLine): string {
  return ((100 * (line.cost - line.bound)) / Math.max(1, line.cost)).toFixed(0);
}
