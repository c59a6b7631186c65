import type { CircuitRoute, OtherRoute, PlannedCircuit, PlanView } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { Select } from "../ui/Select";
import { Boxes } from "./Boxes";
import { CheckCells } from "./CheckCells";
import { OtherRoutes } from "./OtherRoutes";
import { FEEDS, metres, named, nameOf, SHAPES, WAYS } from "./planNames";
import { RunParts } from "./RunParts";
import { Sections } from "./Sections";

type Changes = {
  onChange: (circuit: string, more: Partial<CircuitRoute>) => void;
  onTake: (circuit: string, route: OtherRoute) => void;
};

/** The circuits on the plan: how each runs, its sections with conductors, and the joints of its boxes. */
export function CircuitRoutes({
  view,
  shown,
  onShow,
  ...changes
}: {
  view: PlanView;
  shown: string;
  onShow: (circuit: string) => void;
} & Changes) {
  return (
    <section aria-label={t("web.routes.circuits")}>
      <h2 className="text-[14px] font-semibold">{t("web.routes.circuits")}</h2>
      {view.circuits.length === 0 && <p className="text-[12.5px] text-soft">{t("web.routes.none")}</p>}
      <ul>
        {view.circuits.map((circuit) => (
          <li
            key={circuit.id}
            data-planned={circuit.id}
            data-shown={shown === circuit.id}
            className={cx(
              "border-b border-line/60 border-l-2 py-1.5 pl-2 text-[12.5px]",
              shown === circuit.id ? "border-l-accent" : "border-l-transparent",
            )}
            onPointerEnter={() => onShow(circuit.id)}
            onPointerLeave={() => onShow("")}
            onFocus={() => onShow(circuit.id)}
          >
            <OneCircuit circuit={circuit} {...changes} />
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
      {names.length > 0 && view.circuits.length > 0 && <p>{t("web.routes.grouping_of_planned")}</p>}
    </div>
  );
}

function OneCircuit({ circuit, onChange, onTake }: { circuit: PlannedCircuit } & Changes) {
  const { document, assessment } = useJob();
  const fails = assessment?.findings.some(
    ({ subject, verdict }) => subject.id === circuit.id && verdict === "fail",
  );
  const route = document.plan?.routes?.find((each) => each.circuit === circuit.id);
  const lights = circuit.boxes.some(({ devices }) => devices.some(({ name }) => name.includes("switch")));
  const change = (more: Partial<CircuitRoute>) => onChange(circuit.id, more);
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
      <RunParts circuit={circuit} />
      <CheckCells circuit={circuit.id} />
      <div className="mt-1 flex flex-wrap gap-2">
        <Select
          aria-label={t("web.routes.shape", { circuit: circuit.name })}
          value={circuit.shape}
          options={named(SHAPES)}
          onCommit={(shape) => change({ shape: shape as CircuitRoute["shape"], order: [] })}
        />
        <Select
          aria-label={t("web.routes.way", { circuit: circuit.name })}
          value={route?.way ?? "ceiling"}
          options={named(WAYS)}
          onCommit={(way) => change({ way: way as CircuitRoute["way"] })}
        />
        {lights && (
          <Select
            aria-label={t("web.routes.feed", { circuit: circuit.name })}
            value={circuit.feed_at}
            options={named(FEEDS)}
            onCommit={(feed_at) => change({ feed_at: feed_at as CircuitRoute["feed_at"] })}
          />
        )}
        {fails && <OtherRoutes circuit={circuit} onTake={(other) => onTake(circuit.id, other)} />}
      </div>
      <Sections circuit={circuit} route={route} onChange={change} />
      <Boxes circuit={circuit} />
    </>
  );
}
