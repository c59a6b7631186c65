import type { CircuitRoute, PlannedCircuit, PlanView } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { Select } from "../ui/Select";

const SHAPES: Record<string, Key> = {
  radial: "web.routes.shape_radial",
  branch: "web.routes.shape_branch",
  ring: "web.routes.shape_ring",
};
const WAYS: Record<string, Key> = {
  ceiling: "web.routes.way_ceiling",
  floor: "web.routes.way_floor",
  loft: "web.routes.way_loft",
  surface: "web.routes.way_surface",
};
const FEEDS: Record<string, Key> = {
  light: "web.routes.feed_light",
  switch: "web.routes.feed_switch",
  "junction-box": "web.routes.feed_junction-box",
};
const FILLS: Record<NonNullable<Filling["counted"]>, Key> = {
  cables: "web.routes.fill_cables",
  conductors: "web.routes.fill_conductors",
  volume: "web.routes.fill_volume",
};
const named = (texts: Record<string, Key>) =>
  Object.entries(texts).map(([value, text]) => ({ value, label: t(text) }));

type Change = (circuit: string, more: Partial<CircuitRoute>) => void;

/** The circuits on the plan: how each runs, its sections with conductors, and the joints of its boxes. */
export function CircuitRoutes({
  view,
  onShow,
  onChange,
}: {
  view: PlanView;
  onShow: (circuit: string) => void;
  onChange: Change;
}) {
  return (
    <section aria-label={t("web.routes.circuits")}>
      <h2 className="text-[14px] font-semibold">{t("web.routes.circuits")}</h2>
      {view.circuits.length === 0 && <p className="text-[12.5px] text-soft">{t("web.routes.none")}</p>}
      <ul>
        {view.circuits.map((circuit) => (
          <li
            key={circuit.id}
            data-planned={circuit.id}
            className="border-b border-line/60 py-1.5 text-[12.5px]"
            onPointerEnter={() => onShow(circuit.id)}
            onPointerLeave={() => onShow("")}
            onFocus={() => onShow(circuit.id)}
          >
            <OneCircuit circuit={circuit} onChange={onChange} />
          </li>
        ))}
      </ul>
      <Lacks view={view} />
    </section>
  );
}

/** Circuits that are not on the plan: those without points in one line, each other lack by itself. */
function Lacks({ view }: { view: PlanView }) {
  const { document } = useJob();
  const isWithoutPoints = (what: PlanView["lacks"][string]) =>
    typeof what !== "string" && what.id === "core.plan.need.points.what";
  const lacks = Object.entries(view.lacks);
  const names = lacks
    .filter(([, what]) => isWithoutPoints(what))
    .map(([id]) => document.circuits?.find((circuit) => circuit.id === id)?.name ?? id);
  return (
    <div className="text-[12.5px] text-soft">
      {lacks
        .filter(([, what]) => !isWithoutPoints(what))
        .map(([id, what]) => (
          <p key={id}>{t("web.routes.lacks", { what: say(what) })}</p>
        ))}
      {names.length > 0 && <p>{t("web.routes.without_points", { circuits: names.join(", ") })}</p>}
    </div>
  );
}

function OneCircuit({ circuit, onChange }: { circuit: PlannedCircuit; onChange: Change }) {
  const { document } = useJob();
  const route = document.plan?.routes?.find((each) => each.circuit === circuit.id);
  const lights = circuit.boxes.some(({ devices }) => devices.some((device) => device.includes("switch")));
  const metres = (value: number) => value.toFixed(2);
  const length =
    circuit.shape === "ring"
      ? t("web.routes.ring_length", { length: metres(circuit.length_m) })
      : t("web.routes.length", {
          length: metres(circuit.length_m),
          furthest: nameOf(circuit.furthest, document),
        });
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <strong className="text-[13px] font-semibold">{circuit.name}</strong>
        <span className="figure">{length}</span>
        <span className="text-soft">{t("web.routes.cable", { cable: metres(circuit.cable_m) })}</span>
        {circuit.gap > 0.005 && (
          <span className="text-soft">
            {t("web.routes.gap", { gap: String(Math.ceil(circuit.gap * 100)) })}
          </span>
        )}
      </p>
      {!circuit.proved && (
        <p role="alert" className="font-semibold text-fail">
          {t("web.routes.not_proved")}
        </p>
      )}
      <div className="mt-1 flex flex-wrap gap-2">
        <Select
          aria-label={t("web.routes.shape", { circuit: circuit.name })}
          value={circuit.shape}
          options={named(SHAPES)}
          onCommit={(shape) => onChange(circuit.id, { shape: shape as CircuitRoute["shape"], order: [] })}
        />
        <Select
          aria-label={t("web.routes.way", { circuit: circuit.name })}
          value={route?.way ?? "ceiling"}
          options={named(WAYS)}
          onCommit={(way) => onChange(circuit.id, { way: way as CircuitRoute["way"] })}
        />
        {lights && (
          <Select
            aria-label={t("web.routes.feed", { circuit: circuit.name })}
            value={circuit.feed_at}
            options={named(FEEDS)}
            onCommit={(feed_at) => onChange(circuit.id, { feed_at: feed_at as CircuitRoute["feed_at"] })}
          />
        )}
      </div>
      <Sections circuit={circuit} />
      <Boxes circuit={circuit} />
    </>
  );
}

function Sections({ circuit }: { circuit: PlannedCircuit }) {
  const { document } = useJob();
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-accent">{t("web.routes.sections")}</summary>
      <ul>
        {circuit.sections.map((section) => (
          <li key={`${section.a} ${section.b}`} data-section={`${section.a} ${section.b}`} className="py-0.5">
            <span className="grid grid-cols-[minmax(0,1fr)_4.5rem_8rem] gap-x-3 max-sm:grid-cols-[minmax(0,1fr)_4.5rem_5.5rem]">
              <span>
                {nameOf(section.a, document)} – {nameOf(section.b, document)}
              </span>
              <span className="figure text-right">{section.piece_m.toFixed(2)} m</span>
              <span className="figure">{section.carries.join(" ")}</span>
            </span>
            <span className="block pl-3 text-soft">
              {section.cable?.name ?? t("web.routes.no_cable")}
              {section.cores && `: ${[section.cores.cores, section.cores.marked].filter(Boolean).join("; ")}`}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

function Boxes({ circuit }: { circuit: PlannedCircuit }) {
  const { document } = useJob();
  const boxes = circuit.boxes
    .map(({ box, joints, fill }) => ({
      box,
      fill,
      made: joints.filter((joint) => joint.terminals_of || joint.connectors),
    }))
    .filter(({ made, fill }) => made.length > 0 || fill);
  if (boxes.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer text-accent">{t("web.routes.boxes")}</summary>
      <dl className="grid grid-cols-[max-content_1fr] gap-x-3">
        {boxes.map(({ box, made, fill }) => (
          <div key={box} data-box={box} className="contents">
            <dt className="text-soft">{nameOf(box, document)}</dt>
            <dd>
              {joinedHow(made).map(([how, joints]) => (
                <span key={how} className="block">
                  <span className="figure">
                    {joints.map(({ joint }) => `${joint.net} ${joint.cables + joint.devices}`).join(", ")}
                  </span>{" "}
                  {how}
                </span>
              ))}
              {fill && <span className="block text-soft">{fillText(fill)}</span>}
            </dd>
          </div>
        ))}
      </dl>
    </details>
  );
}

type Made = PlannedCircuit["boxes"][number]["joints"][number];

/** The joints of a box by how they are made. */
function joinedHow(made: Made[]): [string, Made[]][] {
  const found = new Map<string, Made[]>();
  for (const each of made) found.set(howOf(each), [...(found.get(howOf(each)) ?? []), each]);
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

type Filling = NonNullable<PlannedCircuit["boxes"][number]["fill"]>;

/** The smallest box that takes what is in it, with what is counted. */
function fillText(fill: Filling): string {
  if (!fill.counted) return t("web.routes.fill_unknown");
  const used = String(Number(fill.used.toFixed(2)));
  const counted = fill.parts.length > 1 ? `${used} (${fill.parts.join(", ")})` : used;
  if (!fill.smallest_box || fill.takes === null) return t("web.routes.fill_none", { counted });
  return t(FILLS[fill.counted], { box: fill.smallest_box, counted, takes: String(fill.takes) });
}

/** What a box of a circuit is called. */
export function nameOf(id: string, document: ReturnType<typeof useJob>["document"]): string {
  if (id === "feed") return t("web.routes.board");
  return document.plan?.points?.find((point) => point.id === id)?.name ?? id;
}
