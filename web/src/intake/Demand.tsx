import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { upgradeQuery } from "../api/queries";
import { useJob } from "../job/JobProvider";
import { Answer } from "../lattice";
import { Card } from "./Card";

/** Whether the supply is enough for everything together, with the sum, and what a larger one would ask for. */
export function Demand() {
  const { assessment, rules, focus } = useJob();
  const check = rules.supply_checks[0];
  useEffect(() => focus({ check: check?.id ?? "", circuit: "supply" }), [focus, check]);
  const finding = assessment?.findings.find(
    (found) => found.subject.kind === "supply" && found.check === check?.id,
  );
  return (
    <Card title={check?.question ?? ""}>
      {finding ? (
        <Answer finding={finding}>{finding.verdict === "fail" && <Prerequisites />}</Answer>
      ) : (
        <p className="text-soft">Working it out …</p>
      )}
    </Card>
  );
}

/** What has to stand before the distributor grants a larger service, each with a date once it is arranged. */
function Prerequisites() {
  const { document, version, settled, edit } = useJob();
  const upgrade = useQuery(upgradeQuery(document, version, settled)).data;
  if (!upgrade) return null;
  const dates = new Map(document.supply.prerequisites?.map((one) => [one.id, one]));
  const put = (id: string, part: { on?: string | null; done?: boolean }) => {
    const kept = (document.supply.prerequisites ?? []).filter((one) => one.id !== id);
    const was = dates.get(id) ?? { id, done: false };
    edit({ ...document, supply: { ...document.supply, prerequisites: [...kept, { ...was, ...part }] } });
  };
  return (
    <section aria-label="Before a larger service" data-testid="upgrade">
      <h3 className="mb-1 text-[12px] font-semibold text-soft">
        Before {upgrade.wanted_a.toFixed(0)} A is granted
      </h3>
      <ol className="flex flex-col">
        {upgrade.prerequisites.map((one) => {
          const dated = dates.get(one.id);
          const done = one.met || dated?.done || false;
          return (
            <li key={one.id} className="grid grid-cols-[1.3rem_1fr_8.2rem] gap-2 border-t border-line py-1.5">
              <input
                type="checkbox"
                className="mt-1"
                aria-label={`${one.what}: done`}
                checked={done}
                disabled={one.met}
                onChange={(event) => put(one.id, { done: event.target.checked })}
              />
              <span className="text-[13px]">
                {one.what}
                <span className="block text-[12px] text-soft">
                  {one.why} <i className="not-italic">By: {one.who}.</i>
                </span>
              </span>
              <input
                type="date"
                aria-label={`${one.what}: by when`}
                className="figure h-7 rounded-md border border-line bg-sheet px-1 text-[12px]"
                value={dated?.on ?? ""}
                onChange={(event) => put(one.id, { on: event.target.value || null })}
              />
            </li>
          );
        })}
      </ol>
    </section>
  );
}
