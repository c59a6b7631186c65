import type { CircuitRoute, PlannedCircuit } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Select } from "../ui/Select";
import { pinOf, withPin } from "./planModel";
import { metres, named, nameOf, WAYS } from "./planNames";

/** The sections of a circuit: how long each is, what it carries, and the way it takes, which can be pinned. */
export function Sections({
  circuit,
  route,
  onChange,
}: {
  circuit: PlannedCircuit;
  route: CircuitRoute | undefined;
  onChange: (more: Partial<CircuitRoute>) => void;
}) {
  const { document } = useJob();
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-accent">{t("web.routes.sections")}</summary>
      <ul>
        {circuit.sections.map((section) => {
          const pinned = pinOf(route, section.a, section.b);
          // The order that is shown is kept with it: else the section could be passed over.
          const pin = (more: Parameters<typeof withPin>[2]) =>
            onChange({ order: circuit.order, ...withPin(route, section, more) });
          const ends = t("web.routes.ends", {
            a: nameOf(section.a, document),
            b: nameOf(section.b, document),
          });
          return (
            <li
              key={`${section.a} ${section.b}`}
              data-section={`${section.a} ${section.b}`}
              className="py-0.5"
            >
              <span className="grid grid-cols-[minmax(0,1fr)_4.5rem_8rem] gap-x-3 max-sm:grid-cols-[minmax(0,1fr)_4.5rem_5.5rem]">
                <span>{ends}</span>
                <span className="figure text-right">{metres(section.piece_m)} m</span>
                <span className="figure">{section.carries.join(" ")}</span>
              </span>
              <ConduitLine circuit={circuit} a={section.a} b={section.b} />
              <span className="flex flex-wrap items-center gap-x-3 pl-3 text-soft">
                <span>
                  {section.cable?.name ?? t("web.routes.no_cable")}
                  {section.cores &&
                    `: ${[section.cores.cores, section.cores.marked].filter(Boolean).join("; ")}`}
                </span>
                <Select
                  className="px-1.5 py-0 text-[12px]"
                  aria-label={t("web.routes.pin_way", { section: ends })}
                  value={pinned?.way ?? ""}
                  options={[{ value: "", label: t("web.routes.pin_none") }, ...named(WAYS)]}
                  onCommit={(way) => pin({ way: (way || null) as CircuitRoute["way"] | null })}
                />
                <Select
                  className="px-1.5 py-0 text-[12px]"
                  aria-label={t("web.routes.pin_turn", { section: ends })}
                  value={pinned?.first ?? ""}
                  options={[
                    { value: "", label: t("web.routes.turn_none") },
                    { value: "x", label: t("web.routes.turn_x") },
                    { value: "y", label: t("web.routes.turn_y") },
                  ]}
                  onCommit={(first) => pin({ first: (first || null) as "x" | "y" | null })}
                />
              </span>
            </li>
          );
        })}
      </ul>
    </details>
  );
}

/** The conduit of a section of single wires, with what is counted. */
function ConduitLine({ circuit, a, b }: { circuit: PlannedCircuit; a: string; b: string }) {
  const found = circuit.conduits.find((each) => each.a === a && each.b === b);
  if (!found) return null;
  const text = found.lack
    ? t("web.routes.conduit_lack", { why: say(found.lack) })
    : t("web.routes.conduit", {
        conduit: found.conduit ?? "",
        parts: (found.parts ?? []).join(" + "),
        used: String(found.used),
        limit: String(found.limit),
        unit: found.unit ?? "",
      });
  return (
    <span data-conduit={found.conduit ?? ""} className="block pl-3">
      {text}
    </span>
  );
}
