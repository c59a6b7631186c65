import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type CircuitRoute, client, type OtherRoute, type PlanPoint, type PlanView } from "../api/client";
import { planQuery } from "../api/queries";
import { OnePoint } from "../extension";
import { useJob } from "../job/JobContext";
import { type Plan, withoutPoints } from "../job/planWithout";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Photos } from "../survey/Photos";
import { Segments } from "../ui/Segments";
import { Select } from "../ui/Select";
import { CircuitRoutes } from "./CircuitRoutes";
import { DrawingImport } from "./DrawingImport";
import { Fixing } from "./Fixing";
import { FloorNote } from "./FloorNote";
import { PlanDrawing } from "./PlanDrawing";
import { PlanEntry } from "./PlanEntry";
import { PointPanel } from "./PointPanel";
import { Proposals } from "./Proposals";
import { levelName, moved, type Place, withPoint, withRoute } from "./planModel";
import { DROPPED, KINDS } from "./planNames";
import { RoomForm } from "./RoomForm";
import { Tracing } from "./Tracing";
import { Undecided } from "./Undecided";
import { useEnterLines } from "./useEnterLines";

/** The plan of the house: rooms and points typed, cables routed by it, and what every section has to carry. */
export function RoutesPage() {
  const { document, version } = useJob();
  const view = useQuery(planQuery(document, version));
  const entering = useEnterLines();
  const [level, setLevel] = useState(0);
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-auto px-4 py-2 max-sm:px-2">
      <PlanEntry entering={entering} />
      <div className="flex flex-wrap items-start gap-x-6">
        <RoomForm onEnter={(lines) => void entering.enter(lines)} />
        <Tracing level={level} onEnter={(lines) => void entering.enter(lines)} />
        <DrawingImport />
      </div>
      {view.error && <p role="alert">{view.error.message}</p>}
      {!view.data && !view.error && <p className="text-soft">{t("web.routes.loading")}</p>}
      {view.data && view.data.drawing.rooms.length === 0 && (
        <p className="py-4 text-soft">{t("web.routes.empty")}</p>
      )}
      {view.data && view.data.drawing.rooms.length > 0 && (
        <Planned
          view={view.data}
          level={level}
          onLevel={setLevel}
          onEnter={(lines) => void entering.enter(lines)}
        />
      )}
      {view.data && view.data.drawing.points.length > 0 && <Fixing />}
      {(document.circuits?.length ?? 0) > 0 && <OnePoint />}
    </main>
  );
}

function Planned({
  view,
  level,
  onLevel,
  onEnter,
}: {
  view: PlanView;
  level: number;
  onLevel: (level: number) => void;
  onEnter: (lines: readonly string[]) => void;
}) {
  const { document, cell } = useJob();
  const answeredEdit = useAnsweredEdit();
  const [pointed, setPointed] = useState("");
  // Until a route is pointed at, that of the cell that was chosen in the grid.
  const circuit = pointed || cell?.circuit || "";
  const [selected, setSelected] = useState("");
  const [kind, setKind] = useState("");
  const { levels } = view.drawing;
  const shown = levels.includes(level) ? level : (levels[0] ?? 0);
  const plan = (document.plan ?? {}) as Plan;
  /** A change of the plan, with the lengths that follow from it. */
  const change = (next: Plan) =>
    void answeredEdit(client.POST("/api/plan/lengths", { body: { document: { ...document, plan: next } } }));
  const take = (id: string, { way, shape, apart }: OtherRoute) => {
    const next = withRoute(plan, id, { way, shape, order: [], pinned: [] });
    change(apart ? { ...next, apart: true } : next);
  };
  const drop = (what: { point: string } | { kind: PlanPoint["kind"] }, [x_m, y_m]: Place) =>
    void answeredEdit(
      client.POST("/api/plan/drop", {
        body: { document, level: shown, x_m, y_m, kind: "socket", ...what },
      }),
    );
  const point = plan.points?.find((each) => each.id === selected);
  const onKey = (key: string) => {
    if (!point) return false;
    if (key === "Delete") {
      setSelected("");
      change(withoutPoints(plan, new Set([point.id])));
      return true;
    }
    const next = moved(point, key);
    if (next) change(withPoint(plan, next));
    return Boolean(next);
  };
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <div className="lg:sticky lg:top-0 lg:self-start">
        {levels.length > 1 && (
          <div className="mb-2">
            <Segments
              label={t("web.routes.level")}
              options={levels.map((each) => ({ id: String(each), title: levelName(view.drawing, each) }))}
              value={String(shown)}
              onChange={(id) => onLevel(Number(id))}
            />
          </div>
        )}
        <PlanDrawing
          drawing={view.drawing}
          level={shown}
          circuit={circuit}
          selected={selected}
          onSelect={setSelected}
          onShow={setPointed}
          onKey={onKey}
          onDrop={(id, at) => drop({ point: id }, at)}
          onPlace={
            kind
              ? (at) => {
                  drop({ kind: kind as PlanPoint["kind"] }, at);
                  setKind("");
                }
              : undefined
          }
        />
        <p className="mt-1 flex flex-wrap items-center gap-2 text-[12.5px]">
          {t("web.routes.drop")}
          <Select
            aria-label={t("web.routes.drop")}
            value={kind}
            options={[
              { value: "", label: t("web.routes.drop_none") },
              ...DROPPED.map((each) => ({ value: each, label: t(KINDS[each]) })),
            ]}
            onCommit={setKind}
          />
          {kind && <span className="text-soft">{t("web.routes.drop_hint")}</span>}
        </p>
        <FloorNote level={shown} />
        {view.remarks.map((remark) => (
          <p key={say(remark)} data-remark className="mt-1 text-[12.5px] text-fail">
            {say(remark)}
          </p>
        ))}
        {view.questions.map((question) => (
          <p key={say(question)} data-question className="mt-1 text-[12.5px] text-advice">
            {say(question)}
          </p>
        ))}
        <Undecided
          undecided={view.undecided}
          onAdd={(id) =>
            void answeredEdit(client.POST("/api/plan/circuit", { body: { document, point: id } }))
          }
        />
        {view.circuits.length > 0 && (
          <p className="mt-2 flex flex-wrap items-center gap-2 text-[12.5px]">
            {t("web.routes.apart")}
            <Select
              aria-label={t("web.routes.apart")}
              value={plan.apart == null ? "" : String(plan.apart)}
              options={[
                { value: "", label: t("web.routes.apart_assumed") },
                { value: "false", label: t("web.routes.apart_no") },
                { value: "true", label: t("web.routes.apart_yes") },
              ]}
              onCommit={(apart) => change({ ...plan, apart: apart ? apart === "true" : null })}
            />
          </p>
        )}
        <Proposals proposals={view.proposals} onEnter={onEnter} />
        <div className="mt-2 max-w-sm">
          <Photos
            board={`floor:${shown}`}
            way={null}
            title={t("web.routes.photos", { level: levelName(view.drawing, shown) })}
          />
        </div>
        {point && (
          <PointPanel
            point={point}
            onCircuit={(id) => change(withPoint(plan, { ...point, circuit: id || null }))}
            onRemove={() => onKey("Delete")}
          />
        )}
      </div>
      <CircuitRoutes
        view={view}
        shown={circuit}
        onShow={setPointed}
        onTake={take}
        onChange={(id, more: Partial<CircuitRoute>) => change(withRoute(plan, id, more))}
      />
    </div>
  );
}
