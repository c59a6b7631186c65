import type { PlannedCircuit } from "../api/client";
import { type Key, t } from "../messages/text";
import { metres } from "./planNames";

type Part = PlannedCircuit["run"][number]["section"];

const PLACES: Record<NonNullable<Part["concealed_in"]>, Key> = {
  no: "web.routes.place_surface",
  wall: "web.routes.place_wall",
  "metal-partition": "web.routes.place_metal",
  "floor-or-ceiling": "web.routes.place_void",
};

/** The run of a circuit as the plan gives it: how much lies where, by which method, and how many circuits together. */
export function RunParts({ circuit }: { circuit: PlannedCircuit }) {
  return (
    <div className="text-soft">
      <ul aria-label={t("web.routes.parts", { circuit: circuit.name })} className="flex flex-wrap gap-x-4">
        {circuit.run.map(({ section: part, branch }) => (
          <li key={JSON.stringify(part)} data-part={part.concealed_in ?? ""}>
            <span className="figure text-ink">
              {branch ? t("web.routes.part_branch") : `${metres(part.length_m ?? 0)} m`}
            </span>{" "}
            {placeOf(part)}
          </li>
        ))}
      </ul>
      {circuit.beside.length > 0 && <p>{t("web.routes.beside", { circuits: circuit.beside.join(", ") })}</p>}
    </div>
  );
}

function placeOf(part: Part): string {
  const place = t(part.concealed_in ? PLACES[part.concealed_in] : "web.routes.place_unknown");
  const method = t("web.routes.part_method", { method: part.method });
  const grouped =
    (part.circuits_grouped ?? 1) > 1 && t("web.routes.part_grouped", { n: String(part.circuits_grouped) });
  return [place, method, grouped].filter(Boolean).join(", ");
}
