import type { Section } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { MethodPicture } from "./MethodPicture";

/** A run as a strip from the board to the far end: each section as long as it is, with a picture of how it lies. */
export function RunStrip({ run }: { run: Section[] }) {
  const { rules } = useJob();
  const lengths = run.map((section) => section.length_m ?? 0);
  const total = lengths.reduce((sum, length) => sum + length, 0);
  return (
    <ol aria-label={t("web.circuits.run.label")} className="mb-3 flex w-full gap-0.5" data-testid="run-strip">
      {run.map((section, at) => {
        const method = rules.methods.find((known) => known.id === section.method);
        const unusual = [
          section.ambient_c !== null && section.ambient_c !== undefined && `${section.ambient_c} °C`,
          (section.circuits_grouped ?? 1) > 1 &&
            t("web.circuits.run.grouped", { n: section.circuits_grouped }),
          section.in_insulation_mm && t("web.circuits.run.insulated", { mm: section.in_insulation_mm }),
          section.soil_k_m_per_w && `${section.soil_k_m_per_w} K·m/W`,
        ].filter(Boolean);
        return (
          <li
            key={at}
            className="min-w-[86px] overflow-hidden rounded-md border border-line bg-ground px-2 py-1"
            style={{ flexGrow: total ? Math.max(lengths[at] ?? 0, total / 12) : 1, flexBasis: 0 }}
            title={method?.text}
          >
            <span className="flex items-center gap-2">
              <MethodPicture name={method?.picture ?? ""} />
              <span className="min-w-0">
                <b className="figure block truncate text-[13px]">
                  {section.length_m ? `${section.length_m} m` : "? m"}
                </b>
                <span className="block truncate text-[11.5px] text-soft">
                  {method?.title ?? section.method}
                </span>
              </span>
            </span>
            {unusual.length > 0 && (
              <span className="figure block truncate text-[11px] text-soft">{unusual.join(" · ")}</span>
            )}
          </li>
        );
      })}
    </ol>
  );
}
