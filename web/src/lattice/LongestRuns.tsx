import { useQuery } from "@tanstack/react-query";
import type { Circuit } from "../api/client";
import { lengthsQuery } from "../api/queries";
import { useJob } from "../job/JobProvider";
import { cx } from "../ui/cx";
import { cableText } from "./latticeModel";

/** How far each size of the circuit's cable goes before a check ends it. */
export function LongestRuns({ circuit }: { circuit: Circuit }) {
  const { document, version, settled, rules } = useJob();
  const found = useQuery(lengthsQuery(document, version, circuit.id, settled));
  const titles = new Map(rules.checks.map((check) => [check.id, check.title.toLowerCase()]));
  if (found.data?.length === 0) return null;
  return (
    <section aria-label="How far each size goes" data-testid="lengths">
      <h3 className="mb-1 text-[12px] font-semibold text-soft">How far each size goes</h3>
      <ul className="figure flex flex-col text-[12px]">
        {found.isPending && <li className="font-sans text-soft">Working it out …</li>}
        {found.data?.map((run) => (
          <li
            key={run.area_mm2}
            className={cx(
              "grid grid-cols-[4.5rem_5rem_1fr] border-t border-line py-0.5",
              String(run.area_mm2) === cableText(circuit) && "bg-wash font-semibold",
            )}
          >
            <span>{run.area_mm2} mm²</span>
            <span className="pr-2 text-right">
              {run.length_m === null ? "–" : `${run.unlimited ? "over " : ""}${run.length_m} m`}
            </span>
            <span className="font-sans text-soft">
              {run.length_m === null ? "not at any length: " : ""}
              {titles.get(run.decided_by)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
