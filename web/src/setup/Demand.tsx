import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Upgrade } from "../api/client";
import { upgradeQuery } from "../api/queries";
import { Answer } from "../circuits";
import { useJob } from "../job/JobContext";
import { CheckBox } from "../ui/CheckBox";
import { FigureField } from "../ui/Field";
import { Card } from "./Card";

/** Whether the supply is enough for everything together, with the sum, and what a larger one would ask for. */
export function Demand() {
  const { assessment, rules, focus } = useJob();
  const check = rules.supply_checks[0];
  useEffect(() => focus({ check: check?.id ?? "", circuit: "supply" }), [focus, check]);
  const finding = assessment?.findings.find(
    (finding) => finding.subject.kind === "supply" && finding.check === check?.id,
  );
  return (
    <Card title={check?.question ?? ""}>
      {finding ? (
        <Answer finding={finding} otherWays>
          <Known />
          {["fail", "advice"].includes(finding.verdict) && <WaysOut />}
        </Answer>
      ) : (
        <p className="text-soft">Working it out …</p>
      )}
    </Card>
  );
}

/** What takes the place of the estimate: a measured demand, or the main breaker that limits it. */
function Known() {
  const { document, rules, edit } = useJob();
  const demand = document.supply.demand;
  const put = (part: Partial<NonNullable<typeof demand>>) =>
    edit({ ...document, supply: { ...document.supply, demand: { ...demand, ...part } } });
  return (
    <div className="mt-2 grid gap-2 sm:grid-cols-3">
      <FigureField
        label="Measured demand"
        unit="A"
        value={demand?.measured_a}
        empty="none"
        hint="Greatest in any line."
        onCommit={(measured_a) => put({ measured_a })}
      />
      <FigureField
        label="Measured over"
        unit="days"
        value={demand?.measured_days}
        empty="—"
        onCommit={(measured_days) => put({ measured_days })}
      />
      {rules.demand_may_be_limited && (
        <FigureField
          label="Limited by the main breaker"
          unit="A"
          value={demand?.limited_a}
          empty="none"
          hint="Agreed with the client, who knows that it trips."
          onCommit={(limited_a) => put({ limited_a })}
        />
      )}
    </div>
  );
}

/** The ways out of a demand over the supply, in order; and what a larger service requires. */
function WaysOut() {
  const { document, version, settled } = useJob();
  const upgrade = useQuery(upgradeQuery(document, version, settled)).data;
  if (!upgrade) return null;
  return (
    <>
      <section aria-label="Ways out" data-testid="ways-out" className="mt-2">
        <h3 className="mb-1 text-[12px] font-semibold text-soft">Ways out, in order</h3>
        <ol className="flex list-decimal flex-col gap-1 pl-5 text-[13px]">
          {upgrade.ways.map((way) => (
            <li key={way.way}>
              <b className="font-semibold">{way.way}.</b> {way.how}
              <span className="block text-[12px] text-soft">
                {way.requires !== "nothing" && `Requires: ${way.requires}. `}
                {ENTERED[way.enters]}
              </span>
            </li>
          ))}
        </ol>
      </section>
      <Prerequisites upgrade={upgrade} />
    </>
  );
}

/** Where each way out is entered. */
const ENTERED: Record<string, string> = {
  loads: "Enter it: power of the loads.",
  method: "Enter it: maximum demand by, above.",
  measured: "Enter it: measured demand, here.",
  limited: "Enter it: limited by the main breaker, here.",
  "at-peak": "Enter it: the load, at peak demand.",
  lines: "Enter it: lines of the circuits.",
  feeder: "Enter it: the device of the feeder.",
  cutout: "Enter it: rating of the supply's device, once it is changed.",
  phases: "Enter it: phases of the supply.",
};

/** What has to stand before the distributor grants a larger service, each with a date once it is arranged. */
function Prerequisites({ upgrade }: { upgrade: Upgrade }) {
  const { document, edit } = useJob();
  const dates = new Map(
    document.supply.prerequisites?.map((prerequisite) => [prerequisite.id, prerequisite]),
  );
  const put = (id: string, part: { on?: string | null; done?: boolean }) => {
    const kept = (document.supply.prerequisites ?? []).filter((prerequisite) => prerequisite.id !== id);
    const was = dates.get(id) ?? { id, done: false };
    edit({ ...document, supply: { ...document.supply, prerequisites: [...kept, { ...was, ...part }] } });
  };
  return (
    <section aria-label="Before a larger service" data-testid="upgrade">
      <h3 className="mb-1 text-[12px] font-semibold text-soft">
        Before {upgrade.wanted_a.toFixed(0)} A is granted
      </h3>
      <ol className="flex flex-col">
        {upgrade.prerequisites.map((prerequisite) => {
          const dated = dates.get(prerequisite.id);
          const done = prerequisite.met || dated?.done || false;
          return (
            <li
              key={prerequisite.id}
              className="grid grid-cols-[1.3rem_1fr_8.2rem] gap-2 border-t border-line py-1.5"
            >
              <CheckBox
                className="mt-1"
                aria-label={`${prerequisite.what}: done`}
                checked={done}
                disabled={prerequisite.met}
                onChange={(checked) => put(prerequisite.id, { done: checked })}
              />
              <span className="text-[13px]">
                {prerequisite.what}
                <span className="block text-[12px] text-soft">
                  {prerequisite.reason} <i className="not-italic">By: {prerequisite.who}.</i>
                </span>
              </span>
              <input
                type="date"
                aria-label={`${prerequisite.what}: by when`}
                className="figure h-7 rounded-md border border-line bg-sheet px-1 text-[12px]"
                value={dated?.due_on ?? ""}
                onChange={(event) => put(prerequisite.id, { on: event.target.value || null })}
              />
            </li>
          );
        })}
      </ol>
    </section>
  );
}
