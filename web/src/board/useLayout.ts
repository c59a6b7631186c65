import { useRef, useState } from "react";
import { type Job, type LayoutLine, Refused } from "../api/client";

type Progress = { cost: number; bound: number };

/** Lays a board out on the server: tells of each better layout as it is found, and can be stopped. */
export function useLayout(onDone: (document: Job) => void) {
  const [progress, setProgress] = useState<Progress>();
  const [running, setRunning] = useState(false);
  const [said, setSaid] = useState("");
  const abort = useRef<AbortController>(null);

  const run = async (document: Job, board: string) => {
    const control = new AbortController();
    abort.current = control;
    setRunning(true);
    setProgress(undefined);
    setSaid("");
    try {
      const response = await fetch("/api/boards/layout", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ document, board }),
        signal: control.signal,
      });
      if (!response.ok || !response.body) throw new Refused(response.status, await response.json());
      const done = await lastLine(response.body, setProgress);
      if (done?.document) {
        onDone(done.document);
        setSaid(
          done.proven
            ? `Laid out in ${done.seconds.toFixed(2)} s; no order is tidier.`
            : `Laid out in the ${done.seconds.toFixed(1)} s there were; at most ${gap(done)} % tidier may exist.`,
        );
      }
    } catch (reason) {
      if (!control.signal.aborted) setSaid(reason instanceof Error ? reason.message : String(reason));
      else setSaid("Stopped; the board is as it was.");
    }
    setRunning(false);
  };
  const stop = () => abort.current?.abort();
  return { progress, running, said, run, stop };
}

function gap(line: LayoutLine): string {
  return ((100 * (line.cost - line.bound)) / Math.max(1, line.cost)).toFixed(0);
}

async function lastLine(
  body: ReadableStream<Uint8Array>,
  tell: (progress: Progress) => void,
): Promise<LayoutLine | undefined> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let rest = "";
  let last: LayoutLine | undefined;
  for (;;) {
    const { value, done } = await reader.read();
    if (done) return last;
    const lines = (rest + decoder.decode(value, { stream: true })).split("\n");
    rest = lines.pop() ?? "";
    for (const text of lines) {
      last = JSON.parse(text) as LayoutLine;
      tell({ cost: last.cost, bound: last.bound });
    }
  }
}
