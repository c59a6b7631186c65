import { useQuery } from "@tanstack/react-query";
import type { Circuit } from "../api/client";
import { lengthsQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { cableText, sizeLabel } from "./gridModel";

/** How far each size of the circuit's cable goes before a check ends it. */
export function MaxLengths({ circuit }: { circuit: Circuit }) {
  const { document, version, settled, rules } = useJob();
  const lengths = useQuery(lengthsQuery(document, version, circuit.id, settled));
  const titles = new Map(rules.checks.map((check) => [check.id, check.title.toLowerCase()]));
  const type = circuit.cable && typeof circuit.cable !== "string" ? circuit.cable.type : "";
  const sizeOf = (area_mm2: number) => sizeLabel(rules, type, area_mm2);
  if (lengths.data?.length === 0) return null;
  const without = [...new Set(lengths.data?.flatMap((run) => run.without ?? []))];
  return (
    <section aria-label={t("web.circuits.max_length.section")} data-testid="lengths">
      <h3 className="mb-1 text-[12px] font-semibold text-soft">{t("web.circuits.max_length.section")}</h3>
      <ul className="figure flex flex-col text-[12px]">
        {lengths.isPending && <li className="font-sans text-soft">{t("web.circuits.counts.calculating")}</li>}
        {lengths.data?.map((run) => (
          <li
            key={run.area_mm2}
            className={cx(
              "grid grid-cols-[4.5rem_5rem_1fr] border-t border-line py-0.5",
              sizeOf(run.area_mm2) === cableText(circuit, rules) && "bg-wash font-semibold",
            )}
          >
            <span>
              {sizeOf(run.area_mm2)} {rules.size_unit}
            </span>
            <span className="pr-2 text-right">
              {run.length_m === null
                ? "–"
                : run.unlimited
                  ? t("web.circuits.max_length.over", { length: run.length_m })
                  : `${run.length_m} m`}
            </span>
            <span className="font-sans text-soft">
              {run.length_m === null ? `${t("web.circuits.max_length.none")} ` : ""}
              {titles.get(run.decided_by)}
            </span>
          </li>
        ))}
      </ul>
      {without.length > 0 && (
        <p className="mt-1 text-[12px] text-missing">
          {t("web.circuits.max_length.without", {
            list: without.map((check) => titles.get(check)).join(", "),
          })}
        </p>
      )}
    </section>
  );
}
