import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Board, RelayRun, VoltageRelay } from "../api/client";
import { relayQuery, tracesQuery } from "../api/queries";
import { Answer } from "../circuits";
import { useJob } from "../job/JobContext";
import { withBoard } from "../job/jobModel";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, FigureField } from "../ui/Field";
import { TracePlot } from "./TracePlot";

const SETTINGS = () =>
  [
    ["rating_a", t("web.relay.rating"), "A"],
    ["over_v", t("web.relay.over_v"), "V"],
    ["over_s", t("web.relay.over_s"), "s"],
    ["under_v", t("web.relay.under_v"), "V"],
    ["under_s", t("web.relay.under_s"), "s"],
    ["reclose_s", t("web.relay.reclose_s"), "s"],
    ["hysteresis_v", t("web.relay.hysteresis_v"), "V"],
    ["current_a", t("web.relay.current_a"), "A"],
    ["current_s", t("web.relay.current_s"), "s"],
  ] as const;

/** A board's voltage-watching relay: its settings, whether they agree with the supply, and what it does over a trace. */
export function RelaySimulation() {
  const { document, edit, rules, assessment, focus } = useJob();
  const boards = document.boards ?? [];
  const first = boards.find((board) => board.voltage_relay) ?? boards[0];
  const [chosen, setChosen] = useState(first?.id ?? "");
  const board = boards.find((board) => board.id === chosen);
  const id = board?.id;
  useEffect(() => {
    if (id) focus({ check: "voltage-relay", circuit: id });
    return () => focus(undefined);
  }, [focus, id]);
  if (!board) return <p className="text-soft">{t("web.relay.empty")}</p>;
  const keep = (voltage_relay: Board["voltage_relay"]) =>
    edit(withBoard(document, { ...board, voltage_relay }));
  const nominal = rules.nominal_v;
  const usual = rules.usual_relay;
  const finding = assessment?.findings.find(
    (finding) => finding.check === "voltage-relay" && finding.subject.id === board.id,
  );
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <div className="flex flex-col gap-3">
        <div className="flex items-end gap-3">
          <div className="w-56">
            <Choice
              label={t("web.rcd_plans.board")}
              value={board.id}
              options={boards.map((board) => ({ value: board.id, label: board.name }))}
              onCommit={setChosen}
            />
          </div>
          {board.voltage_relay ? (
            <Button variant="quiet" onClick={() => keep(null)}>
              {t("web.relay.remove")}
            </Button>
          ) : (
            <Button onClick={() => keep(usual)}>{t("web.relay.add")}</Button>
          )}
        </div>
        {board.voltage_relay && (
          <>
            <div className="grid gap-2 rounded-xl border border-line bg-sheet p-4 sm:grid-cols-5">
              {SETTINGS().map(([name, label, unit]) => (
                <FigureField
                  key={name}
                  label={label}
                  unit={unit}
                  required={name !== "current_a"}
                  empty={t("web.relay.none")}
                  value={board.voltage_relay?.[name]}
                  onCommit={(value) => board.voltage_relay && keep({ ...board.voltage_relay, [name]: value })}
                />
              ))}
            </div>
            <Traces relay={board.voltage_relay} nominal_v={nominal} />
          </>
        )}
      </div>
      {board.voltage_relay && finding && (
        <section aria-label={t("web.relay.finding")} className="rounded-xl border border-line bg-sheet p-4">
          <h2 className="mb-2 font-semibold">{t("web.relay.question")}</h2>
          <Answer finding={finding} />
        </section>
      )}
    </div>
  );
}

function Traces({ relay, nominal_v }: { relay: VoltageRelay; nominal_v: number }) {
  const traces = useQuery(tracesQuery);
  const [trace, setTrace] = useState("brown-out");
  const [csv, setCsv] = useState<string | null>(null);
  const run = useQuery(relayQuery(relay, nominal_v, trace, csv));
  return (
    <section aria-label={t("web.relay.trace_section")} className="rounded-xl border border-line bg-sheet p-4">
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <div className="w-64">
          <Choice
            label={t("web.relay.trace")}
            value={csv === null ? trace : "own"}
            options={[
              ...(traces.data ?? []).map((trace) => ({ value: trace.id, label: say(trace.title) })),
              ...(csv === null ? [] : [{ value: "own", label: t("web.relay.own_trace") }]),
            ]}
            onCommit={(id) => {
              if (id === "own") return;
              setCsv(null);
              setTrace(id);
            }}
          />
        </div>
        <label className="cursor-pointer rounded-md border border-line px-2.5 py-1 text-[13px] hover:border-accent has-focus-visible:outline-2 has-focus-visible:outline-accent">
          {t("web.relay.own_trace")}
          <input
            type="file"
            accept=".csv,text/csv,text/plain"
            className="sr-only"
            onChange={async (event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) setCsv(await file.text());
            }}
          />
        </label>
      </div>
      {run.error && (
        <p role="alert" className="text-[13px] text-fail">
          {run.error.message}
        </p>
      )}
      {run.data && !run.error && (
        <>
          <TracePlot run={run.data} relay={relay} />
          <Told run={run.data} />
        </>
      )}
    </section>
  );
}

function Told({ run }: { run: RelayRun }) {
  if (!run.switchings.length) return <p className="text-[13px]">{t("web.relay.closed")}</p>;
  return (
    <ol className="mt-1 flex flex-col text-[13px]" data-testid="switchings">
      {run.switchings.map((switching) => (
        <li key={switching.at_s} className="flex gap-3">
          <span className="figure w-16 text-right">{switching.at_s.toFixed(1)} s</span>
          <b className="w-24 font-semibold">
            {switching.opens ? t("web.relay.disconnects") : t("web.relay.reconnects")}
          </b>
          <span className="text-soft">{say(switching.reason)}</span>
        </li>
      ))}
      <li className="pt-1 text-soft">
        {t("web.relay.open_for", { s: run.open_s.toFixed(1), total: run.until_s.toFixed(0) })}
      </li>
    </ol>
  );
}
