import type { PlannedCircuit } from "../api/client";
import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { BoxDrawing } from "./BoxDrawing";
import { nameOf } from "./planNames";

type Filling = NonNullable<PlannedCircuit["boxes"][number]["fill"]>;
type Made = PlannedCircuit["boxes"][number]["joints"][number];

const FILLS: Record<NonNullable<Filling["counted"]>, Key> = {
  cables: "web.routes.fill_cables",
  conductors: "web.routes.fill_conductors",
  volume: "web.routes.fill_volume",
};

/** The boxes of a circuit: what joins in each, drawn and told, and how full it is. */
export function Boxes({ circuit }: { circuit: PlannedCircuit }) {
  const { document } = useJob();
  return (
    <details>
      <summary className="cursor-pointer text-accent">{t("web.routes.boxes")}</summary>
      <ul className="grid gap-y-2">
        {circuit.boxes.map((box) => (
          <li key={box.box} data-box={box.box}>
            <p className="font-semibold">{nameOf(box.box, document)}</p>
            <BoxDrawing circuit={circuit} box={box} />
            {joinedHow(box.joints).map(([how, joints]) => (
              <p key={how}>
                <span className="figure">
                  {joints.map(({ joint }) => `${joint.net} ${joint.cables + joint.devices}`).join(", ")}
                </span>{" "}
                {how}
              </p>
            ))}
            {box.fill && <p className="text-soft">{fillText(box.fill)}</p>}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The joints of a box by how they are made; what is on one terminal alone is none. */
function joinedHow(made: Made[]): [string, Made[]][] {
  const found = new Map<string, Made[]>();
  for (const each of made)
    if (each.terminals_of || each.connectors)
      found.set(howOf(each), [...(found.get(howOf(each)) ?? []), each]);
  return [...found];
}

function howOf({ terminals_of, connectors }: Made): string {
  if (terminals_of) return t("web.routes.in_terminals", { device: terminals_of });
  if (!connectors) return "";
  const ports = String(connectors.ports);
  return connectors.count > 1
    ? t("web.routes.in_connectors", { count: String(connectors.count), ports })
    : t("web.routes.in_connector", { ports });
}

/** The smallest box that takes what is in it, with what is counted. */
function fillText(fill: Filling): string {
  if (!fill.counted) return t("web.routes.fill_unknown");
  const used = String(Number(fill.used.toFixed(2)));
  const counted = fill.parts.length > 1 ? `${used} (${fill.parts.join(", ")})` : used;
  if (!fill.smallest_box || fill.takes === null) return t("web.routes.fill_none", { counted });
  return t(FILLS[fill.counted], { box: fill.smallest_box, counted, takes: String(fill.takes) });
}
