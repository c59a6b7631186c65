import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answered, client, type RcdPlan } from "../api/client";
import defaults from "../api/defaults.json";
import { architecturesQuery } from "../api/queries";
import { FirstCircuit } from "../circuits";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { largest, weightAt } from "./planModel";
import { RcdPlanCard } from "./RcdPlanCard";
import { type Levels, WeightSliders } from "./WeightSliders";

const USUAL: Levels = { worst_loss: 2, devices: 2, cost: 2 };
/** So that a slider that is dragged is not followed at each step. */
const WAIT_MS = 400;

/** The same circuits in several architectures, calculated one after the other and drawn side by side. */
export function RcdPlans() {
  const { document, edit, notify } = useJob();
  const boards = (document.boards ?? []).filter((board) => (board.ways?.length ?? 0) > 0);
  const [boardId, setBoard] = useState(boards[0]?.id ?? "");
  const [levels, setLevels] = useState(USUAL);
  const { plans, progress, error, stop, again } = usePlanning(boardId, levels);
  const board = boards.find((known) => known.id === boardId);
  const take = (plan: RcdPlan) => {
    if (!plan.job) return;
    edit(plan.job);
    notify(t("web.rcd_plans.applied", { plan: say(plan.title) }));
  };
  if (!board) return <FirstCircuit />;
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
        {boards.length > 1 && (
          <div className="w-56">
            <Choice
              label={t("web.rcd_plans.board")}
              value={boardId}
              options={boards.map((known) => ({ value: known.id, label: known.name }))}
              onCommit={setBoard}
            />
          </div>
        )}
        <WeightSliders levels={levels} onChange={setLevels} />
        <div className="flex min-h-8 items-center gap-3">
          {progress ? (
            <>
              <Button onClick={stop}>{t("web.rcd_plans.cancel")}</Button>
              <span role="status" className="whitespace-nowrap text-[13px] text-soft">
                {t("web.rcd_plans.progress", {
                  n: progress.done,
                  total: progress.all,
                  title: progress.title,
                })}
              </span>
            </>
          ) : (
            <Button onClick={again}>{t("web.rcd_plans.start")}</Button>
          )}
        </div>
      </div>
      {error && (
        <p role="alert" className="text-fail">
          {error}
        </p>
      )}
      <div className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
        {plans.map((plan) => (
          <RcdPlanCard
            key={plan.architecture}
            plan={plan}
            board={board}
            most={largest(plans)}
            onTake={() => take(plan)}
          />
        ))}
      </div>
      <p className="max-w-3xl text-[12.5px] text-soft">{t("web.rcd_plans.explained")}</p>
    </div>
  );
}

/**
 * Calculates the architectures one after the other, on opening and after a change of board or weights; stopping keeps those that
 * are done. A change of the job itself waits for the user: the plans that are shown would be gone while they are compared.
 */
function usePlanning(board: string, levels: Levels) {
  const { document } = useJob();
  const architectures = useQuery(architecturesQuery(document.job.rules)).data;
  const [plans, setPlans] = useState<RcdPlan[]>([]);
  const [progress, setProgress] = useState<{ done: number; all: number; title: string }>();
  const [error, setError] = useState("");
  const abort = useRef<AbortController>(null);
  const run = async () => {
    abort.current?.abort();
    const control = new AbortController();
    abort.current = control;
    const usual = defaults.WeightsGiven;
    const weights = {
      worst_loss: weightAt(levels.worst_loss, usual.worst_loss),
      devices: weightAt(levels.devices, usual.devices),
      cost: weightAt(levels.cost, usual.cost),
    };
    const all = architectures ?? [];
    const done: RcdPlan[] = [];
    setError("");
    try {
      for (const [at, architecture] of all.entries()) {
        setProgress({ done: at, all: all.length, title: say(architecture.title) });
        const body = { document, board, architecture: architecture.id, weights };
        const plan = await answered(client.POST("/api/rcds/plan", { body, signal: control.signal }));
        done.push(plan);
        setPlans([...done]);
      }
    } catch (reason) {
      if (control.signal.aborted) return;
      setError(reason instanceof Error ? reason.message : String(reason));
    }
    setProgress(undefined);
  };
  const latest = useRef(run);
  latest.current = run;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the board and the weights are what it is calculated again for
  useEffect(() => {
    if (!board || !architectures) return;
    const timer = setTimeout(() => void latest.current(), WAIT_MS);
    return () => clearTimeout(timer);
  }, [board, levels, architectures]);
  // No one waits for a plan once the view is left.
  useEffect(() => () => abort.current?.abort(), []);
  const stop = () => {
    abort.current?.abort();
    setProgress(undefined);
  };
  return { plans, progress, error, stop, again: () => void run() };
}
