import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answered, client, type RcdPlan } from "../api/client";
import defaults from "../api/defaults.json";
import { architecturesQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, FigureField } from "../ui/Field";
import { RcdPlanCard } from "./RcdPlanCard";

type Weights = { worst_loss: number; devices: number; cost: number };

/** The same circuits in several architectures, worked out one after the other and set side by side. */
export function RcdPlans() {
  const { document, edit, notify } = useJob();
  const boards = (document.boards ?? []).filter((board) => (board.ways?.length ?? 0) > 0);
  const [board, setBoard] = useState(boards[0]?.id ?? "");
  const [weights, setWeights] = useState<Weights>(defaults.WeightsGiven);
  const { plans, progress, error, ready, run, stop } = usePlanning(board, weights);
  // Calculated on opening, once; after a change of board or weights the user says when.
  const begun = useRef(false);
  const begin = useRef(run);
  begin.current = run;
  const possible = ready && boards.length > 0;
  useEffect(() => {
    if (!possible || begun.current) return;
    begun.current = true;
    void begin.current();
  }, [possible]);
  const take = (plan: RcdPlan) => {
    if (!plan.job) return;
    edit(plan.job);
    notify(t("web.rcd_plans.applied", { plan: say(plan.title) }));
  };
  if (!boards.length) return <p className="text-soft">{t("web.rcd_plans.empty")}</p>;
  return (
    <div className="flex flex-col gap-3">
      <div className="grid max-w-4xl items-end gap-3 sm:grid-cols-[14rem_repeat(3,8rem)_auto]">
        <Choice
          label={t("web.rcd_plans.board")}
          value={board}
          options={boards.map((board) => ({ value: board.id, label: board.name }))}
          onCommit={setBoard}
        />
        {(
          [
            ["worst_loss", t("web.rcd_plans.weight_loss")],
            ["devices", t("web.rcd_plans.weight_devices")],
            ["cost", t("web.rcd_plans.weight_cost")],
          ] as const
        ).map(([name, label]) => (
          <FigureField
            key={name}
            label={label}
            unit=""
            required
            value={weights[name]}
            onCommit={(value) => value !== null && setWeights({ ...weights, [name]: value })}
          />
        ))}
        <div className="flex items-center gap-3">
          {progress ? (
            <Button onClick={stop}>{t("web.rcd_plans.cancel")}</Button>
          ) : (
            <Button variant="strong" onClick={() => void run()}>
              {t("web.rcd_plans.start")}
            </Button>
          )}
          {progress && (
            <span role="status" className="whitespace-nowrap text-[13px] text-soft">
              {t("web.rcd_plans.progress", { n: progress.done, total: progress.all, title: progress.title })}
            </span>
          )}
        </div>
      </div>
      <p className="max-w-3xl text-[12.5px] text-soft">{t("web.rcd_plans.explained")}</p>
      {error && (
        <p role="alert" className="text-fail">
          {error}
        </p>
      )}
      <div className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
        {plans.map((plan) => (
          <RcdPlanCard key={plan.architecture} plan={plan} onTake={() => take(plan)} />
        ))}
      </div>
    </div>
  );
}

/** Works the architectures out one after the other; stopping keeps those that are done. */
function usePlanning(board: string, weights: Weights) {
  const { document } = useJob();
  const architectures = useQuery(architecturesQuery(document.job.rules));
  const [plans, setPlans] = useState<RcdPlan[]>([]);
  const [progress, setProgress] = useState<{ done: number; all: number; title: string }>();
  const [error, setError] = useState("");
  const abort = useRef<AbortController>(null);
  const run = async () => {
    const all = architectures.data ?? [];
    const control = new AbortController();
    abort.current = control;
    setPlans([]);
    setError("");
    try {
      for (const [done, one] of all.entries()) {
        setProgress({ done, all: all.length, title: say(one.title) });
        const plan = await answered(
          client.POST("/api/rcds/plan", {
            body: { document, board, architecture: one.id, weights },
            signal: control.signal,
          }),
        );
        setPlans((before) => [...before, plan]);
      }
    } catch (reason) {
      if (!control.signal.aborted) setError(reason instanceof Error ? reason.message : String(reason));
    }
    setProgress(undefined);
  };
  const stop = () => {
    abort.current?.abort();
    setProgress(undefined);
  };
  // No one waits for a plan once the view is left.
  useEffect(() => () => abort.current?.abort(), []);
  return { plans, progress, error, ready: Boolean(architectures.data), run, stop };
}
